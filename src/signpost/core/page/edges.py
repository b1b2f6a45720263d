"""Where a page's content begins and ends, and what is right around it: places for blocks that go there."""

from __future__ import annotations

from signpost.core.page import Node, Page, read_nodes
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
