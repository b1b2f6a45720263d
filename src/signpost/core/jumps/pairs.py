"""Places that point to one another: a line “See also” at the end of each section."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from html import escape

from signpost.core.identifiers.naming import IdentifierRule
from signpost.core.jumps.planning import Goal, mark_goal
from signpost.core.page import Element, Page, Target, read_nodes
from signpost.core.page.edges import section_close
from signpost.core.page.habits import read_habits
from signpost.core.page.outline import read_outline
from signpost.core.page.placing import slot_behind
from signpost.core.site.plans import SitePlan, plan_edits
from signpost.core.site.site import Resolved, Site
from signpost.core.text.edits import Edit
from signpost.core.text.errors import GoneError, RequestError
from signpost.core.text.positions import end_before, line_indent

_CLASS = "see-also"
#: What introduces the links, by language.
_WORDS = {
    "cs": "Viz též", "da": "Se også", "de": "Siehe auch", "es": "Véase también", "fi": "Katso myös",
    "fr": "Voir aussi", "it": "Vedi anche", "nb": "Se også", "nl": "Zie ook", "no": "Se også", "pl": "Zobacz też",
    "pt": "Ver também",
    "sv": "Se även",
}  # fmt: skip
_END = re.compile(r"[\s.]*$")


@dataclass(frozen=True, slots=True)
class Spot:
    """A section, or a page as a whole."""

    path: str
    section: int = -1  # by index; -1 for the page


def plan_pair(
    site: Site, one: Spot, other: Spot, *, both: bool = True, rule: IdentifierRule | None = None
) -> SitePlan:
    """Return the plan that lets a section point to another at its end, and with `both` that one to this.

    A line that is there already gets the link as well; where one leads there already, nothing is added. Sections get
    identifiers where they need them. Raises RequestError for a section that is not there, that points to itself, or
    that ends where the other one does.
    """
    if one == other:
        raise RequestError("A section cannot point to itself. Choose another one.")
    edits: dict[str, list[Edit]] = {}
    for here, there in [(one, other), (other, one)][: 2 if both else 1]:
        for path, edit in _pointing(site, here, there, rule):
            known = edits.setdefault(path, [])
            if edit in known:
                continue
            if any((edit.start, edit.rank) == (one.start, one.rank) for one in known):
                raise RequestError("Both lines would stand at the same place, where the two end. Let only one point.")
            known.append(edit)
    return plan_edits(site, edits)


def _pointing(site: Site, here: Spot, there: Spot, rule: IdentifierRule | None) -> Iterator[tuple[str, Edit]]:
    page, goal = _page(site, here), _page(site, there)
    name, marking = None, list[Edit]()
    if there.section >= 0:
        name, marking = mark_goal(site, Goal(there.path, there.section, None), rule)
    close = _close(page, here.section)
    start = page.headings[here.section].element.open.end if here.section >= 0 else page.content.start
    if _points(site, page, start, close, there.path, name):
        return
    for edit in marking:
        yield there.path, edit
    habits = read_habits(page)
    words = goal.headings[there.section].text if there.section >= 0 else goal.title or goal.path
    address = page.address_of(there.path, name, site.base)
    link = habits.start("a", href=address) + escape(words, quote=False) + habits.end("a")
    reason = f"see also “{words}”"
    line = _line(page, start, close)
    if line is not None and line.close is not None:
        inner = page.text[line.open.end : line.close.start]
        at = line.open.end + len(_END.sub("", inner))
        yield here.path, Edit(at, at, f", {link}", reason=reason)
        return
    slot = slot_behind(page.text, _before_back_links(page, close), start)
    label = _WORDS.get((page.language or "").lower().partition("-")[0], "See also")
    block = f"{habits.start('p', class_=_CLASS)}{label}: {link}{habits.end('p')}"
    indent = slot.indent or line_indent(page.text, end_before(page.text, slot.at))
    text = f"{indent}{block}{habits.newline}" if slot.own_line else block
    yield here.path, Edit(slot.at, slot.at, text, rank=-1, reason=reason)


def _page(site: Site, spot: Spot) -> Page:
    page = site.pages.get(spot.path)
    if page is None:
        raise RequestError(f"{spot.path} is not a page of the site.")
    if not -1 <= spot.section < len(page.headings):
        raise GoneError("The section")
    return page


def _close(page: Page, section: int) -> int:
    """Return where what is right in a section ends: before its first subsection, else where the section ends."""
    flat = read_outline(page).flat()
    if section < 0:
        return page.content.end
    found = flat[section]
    return found.sections[0].heading.begin if found.sections else section_close(page, flat, found)


def _points(site: Site, page: Page, start: int, end: int, path: str, name: str | None) -> bool:
    """Return whether a line “See also” of a section leads to a place already."""
    line = _line(page, start, end)
    if line is None:
        return False
    links = (link for link in page.links if line.open.end <= link.start < line.end)
    led = (site.follow(page.path, link.href) for link in links)
    return any(
        isinstance(one, Resolved)
        and one.path == path
        and (one.target.name if isinstance(one.target, Target) else None) == name
        for one in led
    )


def _line(page: Page, start: int, end: int) -> Element | None:
    """Return the line “See also” between two offsets, the last of several."""
    found = [node.element for node in read_nodes(page).all if start <= node.start < end and _CLASS in node.classes]
    return found[-1] if found else None


def _before_back_links(page: Page, end: int) -> int:
    """Return the offset before the back-to-top link that ends what is before `end`; `end` where there is none."""
    for made in page.made_blocks("back-to-top"):
        if made.element.end <= end and not page.text[made.element.end : end].strip():
            return made.element.open.start
    return end
