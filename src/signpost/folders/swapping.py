"""Names of a folder swapped in one step, so that what is displaced is at hand and never gone.

Linux swaps two names at once (renameat2, RENAME_EXCHANGE), and gives a name only where it is free (RENAME_NOREPLACE).
Where a file system or a system cannot, the same is done in two steps, in which no file is ever without a name: one is
given a name aside first. In between, the place is empty for a moment.
"""

from __future__ import annotations

import contextlib
import ctypes
import errno
import os
from collections.abc import Callable
from functools import cache

_NOREPLACE, _EXCHANGE = 1, 2  # linux/fs.h
_MISSING = frozenset([errno.ENOSYS, errno.EINVAL, errno.ENOTSUP])


@cache
def _renameat2() -> Callable[..., int] | None:
    try:
        call: Callable[..., int] = ctypes.CDLL(None, use_errno=True).renameat2
    except (OSError, AttributeError):
        return None
    return call


def _rename(handle: int, old: str, new: str, how: int) -> bool:
    """Rename within a folder; False where the system cannot do it this way. Raises OSError for what it refuses."""
    call = _renameat2()
    if call is None:
        return False
    if call(handle, os.fsencode(old), handle, os.fsencode(new), how) == 0:
        return True
    number = ctypes.get_errno()
    if number in _MISSING:
        return False
    raise OSError(number, os.strerror(number), new)


def swap(handle: int, one: str, other: str) -> None:
    """Let two names of a folder stand for each other's files. Raises FileNotFoundError where one is not there."""
    if _rename(handle, one, other, _EXCHANGE):
        return
    give(handle, other, _aside(one))
    try:
        give(handle, one, other)
    finally:
        mend(handle, one, other)


def mend(handle: int, one: str, other: str) -> None:
    """Finish a swap in two steps, whoever was stopped in it: what was given a name aside gets one of the two.

    Somebody may have saved under `other` in between; that stays, and so does what is under `one`.
    """
    aside = _aside(one)
    if not _is_there(handle, aside):
        return
    for name in (other, one, f"{other}.orig"):
        with contextlib.suppress(FileExistsError):
            give(handle, aside, name)
            return


def _aside(name: str) -> str:
    return f"{name}.aside"


def give(handle: int, old: str, new: str) -> None:
    """Give a file of a folder another name there. Raises FileExistsError where that is taken, and changes nothing."""
    if _rename(handle, old, new, _NOREPLACE):
        return
    try:
        os.link(old, new, src_dir_fd=handle, dst_dir_fd=handle, follow_symlinks=False)
    except FileExistsError:
        raise
    except OSError:  # a file system without links: looked at first, which is the best there is
        if _is_there(handle, new):
            raise FileExistsError(errno.EEXIST, os.strerror(errno.EEXIST), new) from None
        os.rename(old, new, src_dir_fd=handle, dst_dir_fd=handle)
        return
    os.unlink(old, dir_fd=handle)


def _is_there(handle: int, name: str) -> bool:
    try:
        os.stat(name, dir_fd=handle, follow_symlinks=False)
    except FileNotFoundError:
        return False
    return True
