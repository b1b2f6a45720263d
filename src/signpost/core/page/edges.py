"""Where a page's content begins and ends, and what is right around it: places for blocks that go there."""

from __future__ import annotations

from collections.abc import Sequence

from signpost.core.page import Heading, Node, Page, read_nodes
from signpost.core.page.outline import Section
from signpost.core.page.placing import Slot, block_after, block_start, slot_behind


def content_start(page: Page) -> Slot:
    """Return the place for a block at the beginning of a page's content: before its first element."""
    nodes = read_nodes(page)
    made = {one.element.open.start for one in page.made}
    first = next(
        (
            node.start
            for node in sorted(nodes.all, key=lambda node: node.start)
            if page.content.start <= node.start < page.content.end
            and (page.in_content(node.start) or node.start in made)
        ),
        page.content.start,
    )
    slot = block_start(page.text, first)
    return slot if slot.at >= page.content.start else Slot(first, "", own_line=False)


def content_end(page: Page) -> Slot:
    """Return the place for a block at the end of a page's content."""
    return slot_behind(page.text, page.content.end, page.content.start)


def content_holder(page: Page) -> Node | None:
    """Return the element that contains a page's content; None where that is the body."""
    return next(
        (
            node
            for node in read_nodes(page).all
            if node.tag == page.content_tag != "body"
            and node.element.open.end == page.content.start
            and page.content.end <= node.element.end
        ),
        None,
    )


def before_content(page: Page) -> Slot:
    """Return the place for a block before a page's content."""
    holder = content_holder(page)
    return content_start(page) if holder is None else block_start(page.text, holder.start)


def after_content(page: Page) -> Slot:
    """Return the place for a block behind a page's content."""
    holder = content_holder(page)
    return content_end(page) if holder is None else block_after(page.text, holder.element)


def body_start(page: Page) -> Slot | None:
    """Return the place for a block before all that a page shows; None where no body is written."""
    if page.body_start is None:
        return None
    shown = (node.start for node in read_nodes(page).all if node.start > page.body_start and node.tag != "body")
    return block_start(page.text, min(shown, default=page.content.start))


def section_close(page: Page, sections: Sequence[Section], section: Section) -> int:
    """Return the offset at which something goes that ends a section.

    A section that is in an element of its own ends before that element's end tag; any other one before what the
    next section begins with, or where the content ends.
    """
    after = next((other for other in sections[section.index + 1 :] if other.level <= section.level), None)
    heading = section.heading
    shared = _shared_ancestors(heading, after.heading if after else None)
    wrapper = next((element for element in heading.ancestors[shared:] if element.close is not None), None)
    if wrapper is not None and wrapper.close is not None and (after is None or wrapper.end <= after.heading.begin):
        return wrapper.close.start
    return page.content.end if after is None else after.heading.begin


def _shared_ancestors(one: Heading, other: Heading | None) -> int:
    """Return how many of the outermost ancestors two headings share; none are shared with no heading."""
    shared = 0
    for mine, theirs in zip(one.ancestors, other.ancestors if other else (), strict=False):
        if mine.open != theirs.open:
            break
        shared += 1
    return shared
