"""Two people's edits of one text brought together, where they touch other lines."""

from __future__ import annotations

import re

from signpost.core.text.lines import Opcode, line_opcodes

_LINE = re.compile(rb"[^\r\n]*(?:\r\n|\n|\r|$)")


def merge(base: bytes, ours: bytes, theirs: bytes) -> bytes | None:
    """Return a text with the edits of both, who began from `base`; None where they touch the same lines.

    Lines side by side count as the same. What both did alike counts once.
    """
    if theirs in (ours, base):
        return ours
    if ours == base:
        return theirs
    lines, mine, other = (_lines(text) for text in (base, ours, theirs))
    one = [code for code in line_opcodes(lines, mine) if code[0] != "equal"]
    two = [code for code in line_opcodes(lines, other) if code[0] != "equal"]
    edits = [(code[1], code[2], mine[code[3] : code[4]]) for code in one]
    for code in two:
        edit = (code[1], code[2], other[code[3] : code[4]])
        if edit in edits:
            continue
        if any(_touch(code, known) for known in one):
            return None
        edits.append(edit)
    merged, at = [], 0
    for start, end, new in sorted(edits, key=lambda edit: edit[:2]):
        merged += [*lines[at:start], *new]
        at = end
    return b"".join([*merged, *lines[at:]])


def _lines(text: bytes) -> list[bytes]:
    return [line for line in _LINE.findall(text) if line]


def _touch(one: Opcode, other: Opcode) -> bool:
    """Return whether two edits are of the same lines, or of lines side by side."""
    return one[1] <= other[2] and other[1] <= one[2]
