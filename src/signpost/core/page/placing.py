"""Where a block goes so that it is as its author would have put it, and comes out without a trace."""

from __future__ import annotations

from dataclasses import dataclass

from signpost.core.page import Element, Nodes
from signpost.core.text.positions import Span, after_line_end, end_before, indent_before, line_indent, line_start

#: Elements that contain nothing but certain others (HTML 4.4, 4.9): a block goes into the last of those.
_FRAMES = frozenset("table thead tbody tfoot tr ul ol menu dir dl colgroup select optgroup datalist ruby".split())


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


def slot_behind(text: str, offset: int, least: int) -> Slot:
    """Return the slot for a block at the end of what is before `offset`: white space before that stays behind it.

    It is never before `least`.
    """
    end = max(least, end_before(text, offset))
    below = after_line_end(text, end)
    if below is None or below > offset:
        return block_start(text, offset)
    return Slot(below, line_indent(text, _last_block_start(text, end)), own_line=True)


def _last_block_start(text: str, end: int) -> int:
    """Return the place of the first character of the line that ends at `end`."""
    start = line_start(text, end)
    return start + len(text[start:end]) - len(text[start:end].lstrip(" \t"))


def flow_place(nodes: Nodes, offset: int) -> int | None:
    """Return where a block may go that is meant to go to `offset`; None for nowhere.

    Where it would be between the rows of a table or the items of a list, it goes into the last cell or item.
    """
    holder = nodes.around(offset)
    while holder is not None and holder.tag in _FRAMES:
        before = [child for child in nodes.children(holder) if child.start < offset]
        holder = before[-1] if before else None
        if holder is None:
            return None
        offset = min(offset, nodes.inner(holder).end)
    return offset


def block_end(element: Element) -> int:
    """Return where an element's markup ends."""
    return element.close.end if element.close else element.end


def follows_empty_line(text: str, at: int) -> bool:
    """Return whether an empty line is right above the line that begins at `at`."""
    above = text[:at].removesuffix("\n").removesuffix("\r")
    return len(above) < at and bool(above) and not above[line_start(above, len(above)) :].strip()


def whole_block(text: str, element: Element) -> Span:
    """Return what to remove for an element: its lines where it fills them, else itself alone."""
    return whole_span(text, Span(element.open.start, block_end(element)))


def whole_span(text: str, span: Span) -> Span:
    """Return a stretch with the lines that it fills, or itself alone where it shares one."""
    after = after_line_end(text, span.end)
    if indent_before(text, span.start) is not None and after is not None:
        return Span(line_start(text, span.start), after)
    return span
