"""Whole sections, with their subsections: duplicated, and removed with their entries in the contents."""

from __future__ import annotations

from signpost.core.contents import find_outdated
from signpost.core.headings.moves import find_section, is_within, section_span
from signpost.core.page import Page, read_edited, read_nodes
from signpost.core.page.marks import MARK_HOLDERS
from signpost.core.page.outline import Section, read_outline
from signpost.core.page.plans import Planner, plan_in_turn
from signpost.core.site.plans import SitePlan, plan_for
from signpost.core.site.site import Site
from signpost.core.text.edits import Edit, EditSet, edit_set, splice
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import Span, end_before

#: How many links that lead to what is removed are named one by one.
_NAMED = 5


def plan_removed_section(site: Site, path: str, index: int) -> SitePlan:
    """Return the plan that removes a section with its subsections, and its entries from the page's contents.

    Links that lead to it stay; the notes say where they are. Raises RequestError where its markup would be torn, or
    it is not there.
    """
    page = site.pages[path]
    flat = read_outline(page).flat()
    section = find_section(flat, index)
    span = section_span(page, flat, section)

    def remove(page: Page) -> EditSet:
        return edit_set(page.source, [Edit(span.start, span.end, "", reason=f"“{section.text}” removed")])

    _expect(read_edited(page, remove(page)), [one for one in flat if not _is_of(flat, one, section)], section)
    before = {block.index for block, _ in find_outdated(page)}  # out of date already, and left so
    after = [block.index for block, _ in find_outdated(read_edited(page, remove(page))) if block.index not in before]
    edits = plan_in_turn(page, remove, *map(_refresh, after), reason=f"“{section.text}” removed")
    return plan_for(page, edits, _note_links(site, page, span))


def _refresh(index: int) -> Planner:
    """Return what brings one of a page's contents up to date."""

    def refresh(page: Page) -> EditSet:
        found = (edits for block, edits in find_outdated(page) if block.index == index)
        return next(found, edit_set(page.source, ()))

    return refresh


def _note_links(site: Site, page: Page, span: Span) -> list[str]:
    """Return where links from outside a stretch lead into it, in words."""
    made = {link.start for block in page.made for link in block.links}
    found = []
    for other, link, landing in site.links_to(page.path):
        target = landing.target
        start = getattr(target, "start", None)
        inside = other.path == page.path and span.start <= link.start < span.end
        if start is None or not span.start <= start < span.end or inside:
            continue
        if other.path != page.path or link.start not in made:
            found.append(f"{other.path}, line {other.source.lines.line(link.start)}")
    if not found:
        return []
    more = f" and {len(found) - _NAMED} more" if len(found) > _NAMED else ""
    lead = "A link leads" if len(found) == 1 else f"{len(found)} links lead"
    return [
        f"{lead} to what is removed: {'; '.join(found[:_NAMED])}{more}. Give them another target, or remove them."
    ]


def plan_duplicated_section(page: Page, index: int) -> EditSet:
    """Return the edits that put a copy of a section, with its subsections, right behind it.

    The copy has no identifiers, since each may be used once, and no names of anchors. Raises RequestError where its
    markup would be torn, or it is not there.
    """
    flat = read_outline(page).flat()
    section = find_section(flat, index)
    span = section_span(page, flat, section)
    copy = splice(page.text, span, _without_identifiers(page, span))
    newline = page.source.newline
    gap = newline if not page.text[: span.end].endswith(("\n", "\r")) else ""
    edits = edit_set(page.source, [Edit(span.end, span.end, gap + copy, reason=f"“{section.text}” duplicated")])
    own = [one for one in flat if _is_of(flat, one, section)]
    last = own[-1].index + 1
    _expect(read_edited(page, edits), [*flat[:last], *own, *flat[last:]], section)
    return edits


def _without_identifiers(page: Page, span: Span) -> list[Edit]:
    edits = []
    for node in read_nodes(page).all:
        if not span.start <= node.start < span.end or not {"id", "name"} & node.attributes.keys():
            continue
        close = node.element.close
        if (
            node.tag in MARK_HOLDERS
            and node.attributes.keys() <= {"id", "name"}
            and close == Span(node.element.open.end, node.element.end)
        ):
            edits.append(Edit(node.start, node.element.end, ""))  # an empty mark is nothing without its name
            continue
        for name in ("id", "name") if node.tag == "a" else ("id",):
            attribute = page.attribute_at(node.start, name)
            if attribute is not None:
                begin = end_before(page.text, attribute.span.start)
                edits.append(Edit(begin, attribute.span.end, ""))
    return edits


def _is_of(flat: list[Section], one: Section, section: Section) -> bool:
    return one.index == section.index or is_within(flat, one, section)


def _expect(after: Page, sections: list[Section], section: Section) -> None:
    """Raise RequestError where a page has other headings than are meant, as broken markup may bring about."""
    if [(one.level, one.text) for one in after.headings] != [(one.level, one.text) for one in sections]:
        raise RequestError(
            f"The markup around “{section.text}” is broken, so more than this section would change. "
            "Correct its end tags first."
        )
