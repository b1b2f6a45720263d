"""Where a block goes so that it stands as its author would have put it, and comes out without a trace."""

from __future__ import annotations

from dataclasses import dataclass

from signpost.core.page import Element
from signpost.core.positions import Span, after_line_end, indent_before, line_indent, line_start


@dataclass(frozen=True, slots=True)
class Slot:
    """A place for a block."""

    at: int  # offset of the insertion
    indent: str  # of the line that follows
    own_line: bool  # whether the block gets lines of its own


def block_start(text: str, offset: int) -> Slot:
    """Return the slot for a block before what begins at `offset`: above its line, where it begins one."""
    indent = indent_before(text, offset)
    if indent is None:
        return Slot(offset, "", own_line=False)
    return Slot(line_start(text, offset), indent, own_line=True)


def block_after(text: str, element: Element) -> Slot:
    """Return the slot for a block right after an element: on the line below its own, where it ends its line."""
    end = block_end(element)
    below = after_line_end(text, end)
    if below is None:
        return Slot(end, "", own_line=False)
    return Slot(below, line_indent(text, element.open.start), own_line=True)


def block_end(element: Element) -> int:
    """Return where an element's markup ends."""
    return element.close.end if element.close else element.end


def whole_block(text: str, element: Element) -> Span:
    """Return what to take out for an element: its lines where it fills them, else itself alone."""
    return whole_span(text, Span(element.open.start, block_end(element)))


def whole_span(text: str, span: Span) -> Span:
    """Return a stretch with the lines that it fills, or itself alone where it shares one."""
    after = after_line_end(text, span.end)
    if indent_before(text, span.start) is not None and after is not None:
        return Span(line_start(text, span.start), after)
    return span
