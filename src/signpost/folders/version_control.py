"""A folder that is a work tree of git: which files differ from the last commit, what commits have, and new ones.

Looking runs nothing that a repository's own settings name: hooks, filters, monitors, signing programs are off. Only
committing runs them, which an author is told before.
"""

from __future__ import annotations

import contextlib
import os
import re
import subprocess
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from signpost.core.text.errors import InputError

_PATIENCE = 20  # seconds
_STATE = 3  # characters before a path that tell how it is
_MOST = 50  # commits that are listed


@dataclass(frozen=True, slots=True)
class Commit:
    """A commit."""

    name: str  # its hash
    date: str  # ISO 8601
    subject: str


#: Settings that name a program which git would run while it only looks (git-config(1)), and what they are instead.
_OFF = {
    "core.fsmonitor": "false",
    "core.hooksPath": os.devnull,
    "core.pager": "cat",
    "core.sshCommand": "false",
    "core.gitProxy": "false",
    "core.askPass": "false",
    "core.editor": "false",
    "core.alternateRefsCommand": "true",
    "diff.external": "",
    "log.showSignature": "false",
    "gpg.program": "false",
    "credential.helper": "",
    "protocol.allow": "never",
}
_FILTER = re.compile(r"(filter\..+)\.(clean|smudge|process)")


def _git(root: Path, *arguments: str, given: bytes | None = None) -> bytes:
    """Return what git prints while it only looks; see `_run`."""
    settings = dict(_OFF)
    for name in _filters(root):
        settings |= {f"{name}.{what}": "" for what in ("clean", "smudge", "process")} | {f"{name}.required": "false"}
    return _run(
        root,
        *(part for name, value in settings.items() for part in ("-c", f"{name}={value}")),
        *arguments,
        given=given,
    )


def _filters(root: Path) -> list[str]:
    """Return the filters that a repository or its author has set up, as "filter.lfs"; reading that runs nothing."""
    try:
        said = _run(root, "config", "--name-only", "-z", "--get-regexp", r"^filter\.")
    except InputError:
        return []
    found = (_FILTER.fullmatch(name.decode("utf-8", "surrogateescape")) for name in said.split(b"\0"))
    return sorted({one[1] for one in found if one is not None})


def programs_run(root: Path) -> list[str]:
    """Return what of its own a repository runs when something is committed: hooks and filters, by their names."""
    try:
        folder = root / _run(root, "rev-parse", "--git-path", "hooks").decode().rstrip("\n")
        hooks = [name for name in _HOOKS if os.access(folder / name, os.X_OK) and (folder / name).is_file()]
    except (InputError, OSError, UnicodeDecodeError):
        hooks = []
    monitor = []
    with contextlib.suppress(InputError):
        said = _run(root, "config", "--get", "core.fsmonitor").decode("utf-8", "replace").strip()
        monitor = [] if said.lower() in ("", "true", "false", "yes", "no", "1", "0") else ["core.fsmonitor"]
    return [*hooks, *_filters(root), *monitor]


#: The hooks that committing runs (githooks(5)).
_HOOKS = (
    "pre-commit",
    "prepare-commit-msg",
    "commit-msg",
    "post-commit",
    "post-index-change",
    "reference-transaction",
)


def _run(root: Path, *arguments: str, given: bytes | None = None) -> bytes:
    """Return what git prints. Raises InputError with its own words where it refuses, or is not there."""
    settings = {"GIT_TERMINAL_PROMPT": "0", "GIT_OPTIONAL_LOCKS": "0", "LC_ALL": "C"}
    try:
        done = subprocess.run(  # noqa: S603 - no shell; paths are told apart from options
            ["git", "-C", str(root), *arguments],  # noqa: S607 - the one that the author uses
            input=given,
            capture_output=True,
            timeout=_PATIENCE,
            check=False,
            env={**os.environ, **settings},
        )
    except (OSError, subprocess.TimeoutExpired) as error:
        raise InputError(f"git cannot be asked: {error}.") from error
    if done.returncode:
        said = done.stderr.decode("utf-8", "replace").strip().splitlines()
        raise InputError(f"git refuses: {said[-1] if said else done.returncode}")
    return done.stdout


def is_work_tree(root: Path) -> bool:
    """Return whether a folder is in a work tree of git."""
    try:
        return _git(root, "rev-parse", "--is-inside-work-tree").strip() == b"true"
    except InputError:
        return False


def differing(root: Path) -> list[str]:
    """Return the files of a folder that are not as in the last commit, new ones too, by their paths within it."""
    prefix = _git(root, "rev-parse", "--show-prefix").decode().strip()
    said = _git(
        root,
        "status",
        "--porcelain=v1",
        "-z",
        "--untracked-files=all",
        "--no-renames",
        "--ignore-submodules",
        "--",
        ".",
    )
    found = [entry[_STATE:].decode("utf-8", "surrogateescape") for entry in said.split(b"\0") if entry[_STATE:]]
    return sorted(path.removeprefix(prefix) for path in found)


def commit(root: Path, paths: Sequence[str], message: str) -> bool:
    """Commit these files as they are, and nothing else; return whether there was something to commit.

    Whatever its author has put into the index stays there. The repository's own hooks and filters run.
    """
    from_input = ("--pathspec-from-file=-", "--pathspec-file-nul")
    known = set(_git(root, "ls-files", "-z").decode("utf-8", "surrogateescape").split("\0"))
    there = [path for path in paths if path in known or (root / path).exists()]
    if not there:
        return False
    listed = "".join(f"{path}\0" for path in there).encode("utf-8", "surrogateescape")
    new = _existing(root, there)
    if new:
        _run(root, "--literal-pathspecs", "add", "--intent-to-add", *from_input, given=new)
    if not _run(root, "--literal-pathspecs", "status", "--porcelain", "-z", "--", *there).strip(b"\0"):
        return False
    _run(root, "--literal-pathspecs", "commit", "--quiet", "--only", "-m", message, *from_input, given=listed)
    return True


def _existing(root: Path, paths: Sequence[str]) -> bytes:
    return "".join(f"{path}\0" for path in paths if (root / path).exists()).encode("utf-8", "surrogateescape")


def commits_of(root: Path, path: str) -> list[Commit]:
    """Return the last commits that changed a file, the newest first."""
    form = "--format=%H%x1f%cI%x1f%s%x1e"
    said = _git(root, "--literal-pathspecs", "log", f"-{_MOST}", form, "--", path).decode("utf-8", "replace")
    entries = (entry.strip("\n").split("\x1f") for entry in said.split("\x1e") if entry.strip())
    return [Commit(*entry) for entry in entries]


def read_committed(root: Path, name: str, path: str) -> bytes | None:
    """Return a file as a commit has it; None where that does not have it. `name` is a hash, or HEAD."""
    if name != "HEAD" and not all(letter in "0123456789abcdef" for letter in name):
        raise InputError(f"“{name}” names no commit.")
    try:
        return _git(root, "show", f"{name}:./{path}")
    except InputError:
        return None
