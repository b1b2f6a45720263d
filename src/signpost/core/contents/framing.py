"""A list made by hand marked as contents, and made its author's own again."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from signpost.core.contents.blocks import ContentsBlock
from signpost.core.contents.handmade import Handmade
from signpost.core.contents.listing import LISTS
from signpost.core.contents.phrases import contents_label, heads_contents
from signpost.core.contents.remark import Adopted
from signpost.core.page import Element, Page, read_nodes
from signpost.core.page.habits import Habits
from signpost.core.page.placing import block_end
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Span, after_line_end, end_before, indent_before, line_indent, line_start
from signpost.core.text.tags import SPACE, Attribute

#: The class of contents.
CLASS = "contents"
#: What heads a list, in an element of its own.
_LINES = frozenset("p div center b strong font".split())


def frame_edits(page: Page, habits: Habits, handmade: Handmade, remark: Callable[[Adopted], str]) -> list[Edit]:
    """Return the edits that mark a list made by hand as contents, and put a remark at its end.

    An element that holds the list and nothing else gets the class, where that needs no other change; else an element
    is put around the list. `remark` gives the remark for what was done.
    """
    element = handmade.element
    label = contents_label(page.language) if page.html5 else None
    holder = None if element is None else _holder(page, element)
    if holder is not None and holder.close is not None:
        marked = [] if CLASS in _classes(page, holder) else _marking(page, habits, holder, label)
        if marked is not None:
            adopted = (Adopted.FOUND, Adopted.MARKED, Adopted.LABELLED)[len(marked)]
            return [*marked, _before_end(page, habits, holder, holder.close, remark(adopted))]
    element = holder or element
    tag = "nav" if page.html5 and (holder is None or holder.tag != "nav") else "div"
    start, end = habits.start(tag, class_=CLASS, aria_label=label if tag == "nav" else None), habits.end(tag)
    return _around(page, habits, _framed(page, handmade, element), (start, remark(Adopted.FRAMED), end))


def _before_end(page: Page, habits: Habits, holder: Element, close: Span, remark: str) -> Edit:
    """Return the edit that puts a remark before an element's end tag, on a line of its own where that has one."""
    text = page.text
    indent = indent_before(text, close.start)
    if indent is None or line_start(text, close.start) <= holder.open.start:
        return Edit(close.start, close.start, remark, rank=9, reason="contents")
    at = line_start(text, close.start)
    inside = line_indent(text, end_before(text, at))
    return Edit(at, at, (inside or indent) + remark + habits.newline, rank=9, reason="contents")


def _framed(page: Page, handmade: Handmade, element: Element | None) -> Span:
    """Return what an element is put around: a list with the line that heads it, or what a cell contains."""
    if element is None or element.tag in ("td", "th"):
        return handmade.span
    return Span(_title_before(page, element), block_end(element))


def _around(page: Page, habits: Habits, span: Span, frame: tuple[str, str, str]) -> list[Edit]:
    text, (start, remark, end) = page.text, frame
    indent, below = indent_before(text, span.start), after_line_end(text, span.end)
    if indent is None or below is None:
        return [
            Edit(span.start, span.start, start, rank=-9, reason="contents"),
            Edit(span.end, span.end, remark + end, rank=9, reason="contents"),
        ]
    above = line_start(text, span.start)
    return [
        Edit(above, above, indent + start + habits.newline, rank=-9, reason="contents"),
        Edit(
            below, below, indent + remark + habits.newline + indent + end + habits.newline, rank=9, reason="contents"
        ),
    ]


def _title_before(page: Page, element: Element) -> int:
    """Return where a list begins with the line that only heads it, such as “On this page”."""
    nodes = read_nodes(page)
    node = nodes.of(element)
    around = next(nodes.above(node), None) if node is not None else None
    before = [one for one in nodes.children(around) if one.start < element.open.start] if around else []
    if before and before[-1].tag in _LINES and heads_contents(before[-1].text):
        gap = page.text[before[-1].element.end : element.open.start]
        if not gap.strip():
            return before[-1].start
    return element.open.start


def _holder(page: Page, element: Element) -> Element | None:
    """Return the element that is marked in the place of a new one: a `nav` around the list, or one with the class."""
    if element.tag in ("nav", "div") or CLASS in _classes(page, element):
        return element if element.tag == "nav" or CLASS in _classes(page, element) else None
    nodes = read_nodes(page)
    node = nodes.of(element)
    around = next(nodes.above(node), None) if node is not None else None
    if around is None or (around.tag != "nav" and CLASS not in around.classes):
        return None
    if sum(below.tag in LISTS for below in nodes.children(around)) > 1:
        return None
    made = any(block.kind == CLASS and block.element.open == around.element.open for block in page.made)
    return around.element if around.tag == "nav" or made else None


def _classes(page: Page, element: Element) -> list[str]:
    written = page.attribute_at(element.open.start, "class")
    return [] if written is None else written.value.lower().split()


def _marking(page: Page, habits: Habits, holder: Element, label: str | None) -> list[Edit] | None:
    """Return the edits that give an element the class, and a name where it needs one; None where that requotes."""
    start = holder.open.start
    at = start + 1 + len(holder.tag)
    written = page.attribute_at(start, "class")
    named = page.attribute_at(start, "aria-label") or page.attribute_at(start, "aria-labelledby")
    if written is None:
        edits = [Edit(at, at, " " + habits.attribute("class", CLASS), reason="contents")]
    elif written.quote and written.value_span is not None:
        end = written.value_span.end
        edits = [Edit(end, end, f" {CLASS}" if written.value.strip() else CLASS, reason="contents")]
    else:
        return None
    if label is not None and not named:
        edits.append(Edit(at, at, " " + habits.attribute("aria-label", label), rank=1, reason="contents"))
    return edits


def unframe_edits(page: Page, block: ContentsBlock) -> Iterator[Edit]:
    """Yield the edits that remove what was put around an adopted list, or written into the element around it."""
    element, adopted = block.made.element, block.remark.adopted
    if adopted is Adopted.FRAMED:
        yield from _without_tags(page.text, element)
    elif adopted in (Adopted.MARKED, Adopted.LABELLED):
        for attribute in page.attributes_at(element.open.start):
            if attribute.name == "class":
                yield _without_class(page.text, attribute)
            elif attribute.name == "aria-label" and adopted is Adopted.LABELLED:
                yield _without_attribute(page.text, attribute)


def _without_tags(text: str, element: Element) -> Iterator[Edit]:
    for tag in (element.open, element.close):
        if tag is None:
            continue
        start, end = tag.start, tag.end
        below = after_line_end(text, end)
        if indent_before(text, start) is not None and below is not None:
            start, end = line_start(text, start), below
        yield Edit(start, end, "", reason="the list is its author's again")


def _without_class(text: str, attribute: Attribute) -> Edit:
    written = attribute.value_span
    if written is None or written.of(text).strip() == CLASS:
        return _without_attribute(text, attribute)
    end = written.start + len(written.of(text).rstrip(SPACE))
    start = end - len(CLASS)
    if text[start:end] != CLASS:  # its author has moved it
        start = text.find(CLASS, written.start, written.end)
        end = start + len(CLASS)
    if start > written.start and text[start - 1] in SPACE:
        start -= 1
    return Edit(start, end, "", reason="the list is its author's again")


def _without_attribute(text: str, attribute: Attribute) -> Edit:
    start = attribute.span.start
    while text[start - 1] in SPACE:
        start -= 1
    return Edit(start, attribute.span.end, "", reason="the list is its author's again")
