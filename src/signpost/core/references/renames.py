"""Another name for an identifier, carried along to what refers to it."""

from __future__ import annotations

from collections.abc import Iterator

from signpost.core.addresses.fragments import find_indicated
from signpost.core.contents.following import renamed_edits
from signpost.core.identifiers.sections import find_objection
from signpost.core.page import Page, Target
from signpost.core.page.habits import read_habits
from signpost.core.references.mentions import far_edits, map_edits, plan_mentions, script_notes, style_edits
from signpost.core.site.plans import SitePlan, plan_edits
from signpost.core.site.site import Site
from signpost.core.text.edits import Edit
from signpost.core.text.errors import RequestError
from signpost.core.text.tags import fragment_edit, start_tag_end, value_edit

#: Elements that cannot hold words, or nothing but certain elements: an alias goes before them, not into them.
_CLOSED = frozenset(
    """
    area audio br canvas col colgroup dl embed hr iframe img input link map meter object ol picture progress script
    select source style svg table tbody textarea tfoot thead tr track ul video wbr menu
    """.split()
)
_WITHIN_TABLE = frozenset("tr tbody thead tfoot col colgroup".split())


def plan_rename(site: Site, path: str, old: str, new: str, *, keep_old: bool = False) -> SitePlan:
    """Return the plan that renames an identifier of the page at `path`, with all references to it in the site.

    Links on all pages in any form, attributes that hold identifiers, image maps, selectors and references of drawings
    follow. Scripts that mention it are named in the notes. With `keep_old`, the old one stays beside the new one.
    Raises RequestError where the page has no such identifier, or the new one is not valid.
    """
    page = site.pages[path]
    target = find_indicated(old, page.index_targets())
    if target is None and (found := map_edits(page, old, new)):
        return plan_edits(site, {path: found})
    if not isinstance(target, Target):
        raise RequestError(f"Nothing on {path} has the identifier “{old}”.")
    objection = find_objection(new, {found.name for found in page.targets if found.name != target.name})
    if objection:
        raise RequestError(objection)
    if target.name == new:
        return SitePlan()
    edits: dict[str, list[Edit]] = {path: _own_edits(page, target, new, keep_old=keep_old)}
    for other, found in reference_edits(site, path, target, new):
        edits.setdefault(other, []).extend(found)
    if _marked_by_id(page, target):
        edits |= style_edits(site, page, target.name, new)
    return plan_edits(site, edits, dict.fromkeys(script_notes(site, page, target.name)))


def _own_edits(page: Page, target: Target, new: str, *, keep_old: bool) -> list[Edit]:
    old = target.name
    edits = []
    for found in page.targets:
        written = page.attribute_at(found.start, found.attribute) if found.start == target.start else None
        if written is not None and found.name == old:
            edits.append(value_edit(page.text, written, new, f"renamed to “{new}”"))
    if target.element == "map":
        edits += map_edits(page, old, new)
    edits += renamed_edits(page, old, new)
    if _marked_by_id(page, target):
        edits += plan_mentions(page, old, new)
    if keep_old:
        edits.append(_alias(page, target))
    return edits


def _marked_by_id(page: Page, target: Target) -> bool:
    """Return whether a target has its name as an `id`, which alone attributes and selectors refer to."""
    same = (found for found in page.targets if found.start == target.start and found.name == target.name)
    return any(found.attribute == "id" for found in same)


def _alias(page: Page, target: Target) -> Edit:
    """Return the edit that leaves the old identifier beside the new one, on an empty element that shows nothing."""
    if target.element in _WITHIN_TABLE:
        raise RequestError(
            f"A {target.element} element cannot carry a second identifier. Rename it without keeping the old one, "
            "or give the old one to a cell."
        )
    habits = read_habits(page)
    alias = habits.start("span", id=target.name) + habits.end("span")
    inside = target.element not in _CLOSED
    at = start_tag_end(page.text, target.start) if inside else target.start
    return Edit(at, at, alias, reason=f"“{target.name}” goes on working")


def reference_edits(site: Site, path: str, target: Target, new: str) -> Iterator[tuple[str, list[Edit]]]:
    """Yield the edits that lead what leads to a target to its new name, page by page."""
    for other in (site.pages[path], *site.pages_that_name(path, target.name)):
        edits = []
        for start, attribute, address in _addresses(other):
            if "#" not in address or (target.name not in address and "%" not in address and "&" not in address):
                continue
            outcome = site.follow_to(path, other.path, address)
            if outcome is not None and outcome.target == target:
                written = other.attribute_at(start, attribute)
                edit = fragment_edit(other.text, written, new, f"leads to “{new}” now") if written else None
                if edit is not None:
                    edits.append(edit)
        if other.path != path:
            edits += far_edits(site, other, path, target, new)
        if edits:
            yield other.path, edits


def _addresses(page: Page) -> Iterator[tuple[int, str, str]]:
    """Yield where a page has addresses that can lead to a place: start tag, attribute, address."""
    for link in page.links:
        if link.href is not None:
            yield link.start, "href", link.href
    for resource in page.resources:
        if "#" in resource.url and resource.url[0] != "#":
            yield resource.start, resource.attribute, resource.url
