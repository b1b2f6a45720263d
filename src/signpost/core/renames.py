"""Another name for an identifier, carried along to what refers to it."""

from __future__ import annotations

import re

from signpost.core.edits import Edit, edit_set
from signpost.core.errors import RequestError
from signpost.core.fragments import find_indicated
from signpost.core.identifiers import find_objection
from signpost.core.links import relative_address
from signpost.core.page import Page, Target
from signpost.core.site import Landing, Site, SitePlan
from signpost.core.tags import value_edit

_SCRIPTED = re.compile(r"<(style|script)\b.*?</\1", re.IGNORECASE | re.DOTALL)


def plan_rename(site: Site, path: str, old: str, new: str) -> SitePlan:
    """Return the plan that renames an identifier of the page at `path`, with all references in HTML to it.

    Style sheets and scripts that mention it are named in the notes. Raises RequestError where the page has no such
    identifier, or the new one cannot be.
    """
    page = site.pages[path]
    target = find_indicated(old, page.index_targets())
    if not isinstance(target, Target):
        raise RequestError(f"Nothing on {path} has the identifier “{old}”.")
    objection = find_objection(new, {found.name for found in page.targets if found.name != old})
    if objection:
        raise RequestError(objection)
    edits = {other.path: _link_edits(site, other, path, target, new) for other in site.pages.values()}
    edits[path] += _own_edits(page, target, new)
    sets = {name: edit_set(site.pages[name].source, found) for name, found in edits.items()}
    mention = re.compile(rf"#{re.escape(old)}(?![\w-])|['\"]{re.escape(old)}['\"]")
    notes = tuple(
        f"{other.path} mentions “{old}” in a style or script; look at it, for those are not edited."
        for other in site.pages.values()
        if any(mention.search(block[0]) for block in _SCRIPTED.finditer(other.text))
    )
    return SitePlan({name: found for name, found in sets.items() if found}, notes=notes)


def _own_edits(page: Page, target: Target, new: str) -> list[Edit]:
    edits = []
    same = [found for found in page.targets if found.name == target.name and found.start == target.start]
    for found in same:
        written = page.attribute_at(found.start, found.attribute)
        if written is not None:
            edits.append(value_edit(page.text, written, new, f"renamed to “{new}”"))
    for reference in page.references:
        written = page.attribute_at(reference.start, reference.attribute)
        if target.name in reference.names and written is not None:
            renamed = " ".join(new if name == target.name else name for name in reference.names)
            edits.append(value_edit(page.text, written, renamed, "refers to it"))
    return edits


def _link_edits(site: Site, other: Page, path: str, target: Target, new: str) -> list[Edit]:
    edits = []
    for link in other.links:
        if link.href is None or "#" not in link.href:
            continue
        outcome = site.follow(other.path, link.href)
        if isinstance(outcome, Landing) and outcome.path == path and outcome.target == target:
            written = other.attribute_at(link.start, "href")
            if written is not None:
                address = link.href.partition("#")[0] + relative_address(path, path, new)
                edits.append(value_edit(other.text, written, address, f"leads to “{new}” now"))
    return edits
