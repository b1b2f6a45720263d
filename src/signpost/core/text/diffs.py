"""Unified diffs of bytes, such as `patch -p1` applies."""

from __future__ import annotations

import difflib
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from signpost.core.text.lines import Opcode, line_opcodes

#: Bytes of a name that would end its line or its quotes, as `patch` and git write them within quotes.
_QUOTED = {byte: b"\\%03o" % byte for byte in (*range(0x20), 0x7F)} | {0x22: b'\\"', 0x5C: b"\\\\"}
_NO_NEWLINE = b"\\ No newline at end of file\n"
#: Lines of context around each change.
_CONTEXT = 3


@dataclass(frozen=True, slots=True)
class FileDiff:
    """How one file changes; None stands for a file that is not there."""

    path: str
    before: bytes | None
    after: bytes | None
    moved_from: str | None = None  # its path before, where it has another one


def unified_diff(files: Iterable[FileDiff]) -> bytes:
    """Return one unified diff of all files, in their own encodings and with their own line ends."""
    return b"".join(_file_diff(file) for file in files)


def _file_diff(file: FileDiff) -> bytes:
    if file.before == file.after and file.moved_from is None:
        return b""
    old, new = _lines(file.before), _lines(file.after)
    head = b"--- %s\n+++ %s\n" % (
        _name("a/", file.moved_from or file.path, file.before),
        _name("b/", file.path, file.after),
    )
    if file.moved_from is not None:  # as git and `patch` write it
        names = [_name(*one, b"").rstrip(b"\t") for one in (("a/", file.moved_from), ("b/", file.path))]
        plain = [_name("", one, b"").rstrip(b"\t") for one in (file.moved_from, file.path)]
        moved = b"diff --git %s %s\nrename from %s\nrename to %s\n" % (*names, *plain)
        head = moved + (b"" if file.before == file.after else head)
    body = [line if line.endswith(b"\n") else line + b"\n" + _NO_NEWLINE for line in _hunks(old, new)]
    return head + b"".join(body)


def _name(prefix: str, path: str, data: bytes | None) -> bytes:
    if data is None:
        return b"/dev/null"
    name = (prefix + path).encode(errors="surrogateescape")
    if any(byte in _QUOTED for byte in name):
        return b'"' + b"".join(_QUOTED.get(byte, bytes([byte])) for byte in name) + b'"'
    return name + b"\t" if b" " in name else name  # a tab ends a name that contains spaces


def _lines(data: bytes | None) -> list[bytes]:
    """Return lines as `patch` counts them: ended by LF alone."""
    if not data:
        return []
    lines = data.split(b"\n")
    return [line + b"\n" for line in lines[:-1]] + ([lines[-1]] if lines[-1] else [])


class _Grouping(difflib.SequenceMatcher[str]):
    """Opcodes that are known, for the library to group."""

    def __init__(self, codes: list[Opcode]) -> None:
        super().__init__()
        self._codes = codes

    def get_opcodes(self) -> list[Any]:
        """Return the opcodes."""
        return self._codes


def _hunks(old: list[bytes], new: list[bytes]) -> Iterable[bytes]:
    """Yield hunk heads and lines."""
    matcher = _Grouping(line_opcodes(old, new))
    for group in matcher.get_grouped_opcodes(_CONTEXT):
        first, last = group[0], group[-1]
        yield b"@@ -%s +%s @@\n" % (_range(first[1], last[2]), _range(first[3], last[4]))
        for kind, a1, a2, b1, b2 in group:
            if kind == "equal":
                yield from (b" " + line for line in old[a1:a2])
                continue
            yield from (b"-" + line for line in old[a1:a2])
            yield from (b"+" + line for line in new[b1:b2])


def _range(start: int, stop: int) -> bytes:
    length = stop - start
    begin = start + (1 if length else 0)
    return b"%d" % begin if length == 1 else b"%d,%d" % (begin, length)
