"""A file that goes, and where what leads to it leads then."""

from __future__ import annotations

from collections.abc import Iterator
from enum import StrEnum

from signpost.core.addresses.fragments import find_indicated
from signpost.core.addresses.links import path_of
from signpost.core.jumps.planning import unlink_edits
from signpost.core.page import Page
from signpost.core.references.moves import Respeller, may_lead_to, pages_concerned
from signpost.core.references.written import WrittenAddress, read_sheet_addresses, read_written
from signpost.core.site.index import fetched
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import Site
from signpost.core.text.edits import Edit, edit_set
from signpost.core.text.errors import RequestError

_MANY_NOTES = 20


class Leading(StrEnum):
    """What becomes of links to a file that goes."""

    ON = "on"  # they lead to another file
    UNLINK = "unlink"  # their words stay, and lead nowhere
    LEAVE = "leave"  # they stay as they are, and are broken


def plan_deletion(site: Site, path: str, leading: Leading, goal: str = "") -> SitePlan:
    """Return the plan that takes a file out of its site.

    Links to it lead to the file `goal` then, with their fragments where that page has them; or are links no more; or
    stay, broken. What else leads there, as pictures and style sheets do, is named in the notes. Raises RequestError
    for a file that is not there.
    """
    if path not in site.files:
        raise RequestError(f"{path} is not a file of the site.")
    if leading is Leading.ON and (goal not in site.files or goal == path):
        raise RequestError(f"{goal or 'Nothing'} is not another file of the site. Choose where the links shall lead.")
    edits, notes = {}, []
    respeller = Respeller(site, {path: goal})
    for page in fetched(site.pages, pages_concerned(site, [path])):
        if page.path == path or not may_lead_to(site, page, [path]):
            continue
        made: list[Edit] = []
        for address in read_written(page):
            if not _leads_to(site, page, address, path):
                continue
            found = [*_edits(respeller, page, address, leading)]
            made += found
            if not found:
                line = page.source.lines.line(address.node.start)
                notes.append(f"{page.path}, line {line}: {address.node.tag} still leads to {path}.")
        if made:
            edits[page.path] = edit_set(page.source, made)
    notes += dict.fromkeys(_sheet_notes(site, path))
    more = len(notes) - _MANY_NOTES
    shown = [*notes[:_MANY_NOTES], f"and {more} more."] if more > 0 else notes
    return SitePlan(edits, gone=(path,), notes=tuple(shown))


def _sheet_notes(site: Site, path: str) -> Iterator[str]:
    """Yield in words which style sheets lead to a file."""
    for other, source in site.texts.items():
        if other != path and other.lower().endswith(".css"):
            for _, value in read_sheet_addresses(source.text):
                found = site.resolve(other, path_of(value))
                if found is not None and site.file_at(found[0]) == path:
                    yield f"{other} still leads to {path}."


def _leads_to(site: Site, page: Page, address: WrittenAddress, path: str) -> bool:
    if not path_of(address.value) and page.base is None:
        return False
    found = site.resolve(page.path, address.value, ignore_base=address.node.tag == "base")
    return found is not None and site.file_at(found[0]) == path


def _edits(respeller: Respeller, page: Page, address: WrittenAddress, leading: Leading) -> Iterator[Edit]:
    """Yield the edits of an address that leads to the file; none where it stays."""
    ((path, goal),) = respeller.moves.items()
    is_link = address.node.tag == "a" and address.name == "href"
    if leading is Leading.UNLINK and is_link:
        yield from unlink_edits(page, address.node.start, f"{path} is gone")
    elif leading is Leading.ON:
        respelled = respeller.on_page(page, address)
        if respelled is None:
            return
        fragment = address.value.partition("#")[2]
        there = respeller.site.pages.get(goal)
        lost = bool(fragment) and (there is None or find_indicated(fragment, there.index_targets()) is None)
        if lost:
            yield address.value_edit(page.text, respelled, f"leads to {goal} now, which has no “{fragment}”")
        else:
            edit = address.path_edit(page.text, respelled, None, f"leads to {goal} now")
            if edit is not None:
                yield edit
