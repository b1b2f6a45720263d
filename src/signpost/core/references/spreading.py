"""A block of one page put on others that lack it, where it belongs there."""

from __future__ import annotations

from collections.abc import Sequence

from signpost.core.page import Element, Node, Page, read_nodes
from signpost.core.page.edges import after_content, before_content, body_start, content_holder
from signpost.core.page.placing import Slot, block_start, whole_block
from signpost.core.references.shared import Copy, Shared, at_home, copied_text, find_block, find_shared
from signpost.core.references.shared_marks import Linked, read_linked, read_mark
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import Site
from signpost.core.text.edits import Edit, EditSet, edit_set
from signpost.core.text.errors import RequestError, SignpostError
from signpost.core.text.positions import line_start


def plan_spread(site: Site, model: str, name: str, pages: Sequence[str]) -> SitePlan:
    """Return the plan that puts a block of the page `model` on pages that lack it, with their own paths and mark.

    `name` is what the block is called, or its class. It goes where it is on that page: into the block around it, else
    before or behind the content. Raises RequestError where that page has no such block.
    """
    page = site.pages.get(model)
    element = None if page is None else find_block(site, page, name)
    if page is None or element is None:
        raise RequestError(f"{model} has no block “{name}”.")
    known = next(iter(find_shared(site, only=name)), None)
    own = read_nodes(page).of(element)
    source, linked = _source(site, page, element, known)
    mark = known.mark if known is not None and known.mark else source.mark
    edits: dict[str, EditSet] = {}
    notes = []
    for path in pages:
        goal = site.pages.get(path)
        if goal is None:
            raise RequestError(f"{path} is not a page of the site.")
        if path == model or _has(site, goal, name, own):
            continue
        try:
            text = copied_text(site, source, goal, mark, linked)
            slot = _slot(page, element, goal)
        except SignpostError as error:
            notes.append(f"{path}: {error}")
            continue
        text = at_home(text, page, element.open.start, goal, slot.indent)
        gap = goal.source.newline if slot.own_line else ""
        lead = slot.indent if slot.own_line else ""
        edits[path] = edit_set(goal.source, [Edit(slot.at, slot.at, lead + text + gap, reason=f"as on {model}")])
    return SitePlan(edits, notes=tuple(notes))


def _has(site: Site, page: Page, name: str, own: Node | None) -> bool:
    """Return whether a page has a block already: one that is called so, or looks like it, as those of parts do."""
    if find_block(site, page, name) is not None:
        return True
    return own is not None and any(_same(node, own) for node in read_nodes(page).all)


def plan_taken_off(site: Site, name: str, pages: Sequence[str]) -> SitePlan:
    """Return the plan that takes a block off pages, by what it is called or its class.

    Raises RequestError where none of the pages has it.
    """
    edits = {}
    for path in pages:
        page = site.pages[path]
        element = find_block(site, page, name) if name else None
        if element is not None:
            span = whole_block(page.text, element)
            edits[path] = edit_set(page.source, [Edit(span.start, span.end, "", reason=f"“{name}” taken off")])
    if not edits:
        raise RequestError(f"None of these pages has a block “{name}”.")
    return SitePlan(edits)


def _source(site: Site, page: Page, element: Element, known: Shared | None) -> tuple[Copy, Linked]:
    places = [(page, element)] if known is None else [(one.page, one.element) for one in known.copies]
    linked = read_linked(site, places)
    mark, _ = read_mark(site, page, element, linked)
    return Copy(page, element, mark, ""), linked


def _slot(page: Page, element: Element, goal: Page) -> Slot:
    """Return where a block goes on a page that lacks it."""
    nodes = read_nodes(page)
    block = nodes.of(element)
    around = [] if block is None else [above for above in nodes.above(block) if above.tag not in ("body", "html")]
    for above in around:
        same = next((one for one in read_nodes(goal).all if _same(one, above)), None)
        if same is not None and same.element.close is not None:
            at = same.element.close.start
            slot = block_start(goal.text, at)
            first = next((child.start for child in read_nodes(goal).children(same)), None)
            indent = slot.indent if first is None else goal.text[line_start(goal.text, first) : first]
            return Slot(slot.at, indent if not indent.strip() else slot.indent, own_line=slot.own_line)
    holder = content_holder(page)
    begin = page.content.start if holder is None else holder.start
    if element.open.start >= begin:
        return after_content(goal)
    written = (node.start for node in nodes.all if page.body_start is not None and node.start > page.body_start)
    at_top = body_start(goal) if element.open.start == min(written, default=-1) else None
    return before_content(goal) if at_top is None else at_top


def _same(one: Node, other: Node) -> bool:
    """Return whether two elements of different pages are the same block: by tag, identifier and classes."""
    return (
        one.tag == other.tag
        and one.classes == other.classes
        and one.attributes.get("id") == other.attributes.get("id")
    )
