"""Lists over the whole site: all pages with their sections, and everything from A to Z."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from html import escape

from signpost.core.entries.collation import initial, sort_key
from signpost.core.identifiers.naming import name_from
from signpost.core.navigation.made import put, refuse_written_into, renewed, taken_out
from signpost.core.navigation.order import page_name
from signpost.core.navigation.phrases import navigation_words
from signpost.core.page import Page
from signpost.core.page.edges import content_end
from signpost.core.page.habits import Habits, read_habits
from signpost.core.page.outline import Section, read_outline
from signpost.core.site.index import fetched
from signpost.core.site.plans import SitePlan, plan_for
from signpost.core.site.site import Site
from signpost.core.text.edits import EditSet
from signpost.core.text.errors import GoneError

CONTENTS, INDEX = "site-contents", "site-index"
#: The words beside the links of a list from A to Z: the page in brackets, and the next letter.
_BESIDE = re.compile(r"(?:\(.*\))?\s*.{0,3}")


_NAMED = 3  # pages that a note names


@dataclass(frozen=True, slots=True)
class _Place:
    """A section that a list leads to, or a page as a whole."""

    page: Page
    words: str
    fragment: str | None
    inner: Sequence[_Place] = ()


def plan_site_contents(site: Site, home: str, order: Sequence[str], depth: int = 1) -> SitePlan:
    """Return the plan that lists pages in an order on the page `home`, with their sections, or renews that list.

    `depth` says how many levels of sections there are below each page. Sections without an identifier cannot be led
    to; the notes say how many there are. Raises RequestError where the list was written into.
    """
    goal = _page(site, home)
    habits, missing = read_habits(goal), list[str]()
    places = [
        _Place(page, page_name(page), None, [*_sections(page, _below_title(page), depth, missing)])
        for page in fetched(site.pages, [path for path in order if path != home])
    ]
    lines = [*_lines(site, goal, habits, places)]
    edits = _made(goal, CONTENTS, lines, navigation_words(goal.language).contents, "nav")
    return plan_for(goal, edits, _notes(missing))


def plan_site_index(site: Site, home: str, order: Sequence[str]) -> SitePlan:
    """Return the plan that lists the headings of pages from A to Z on the page `home`, or renews that list.

    Each letter has an identifier, so that it can be led to. Raises RequestError where the list was written into.
    """
    goal = _page(site, home)
    habits, missing, language = read_habits(goal), list[str](), goal.language
    places: list[_Place] = []
    for page in fetched(site.pages, [path for path in order if path != home]):
        places.append(_Place(page, page_name(page), None))
        places += _all(_sections(page, _below_title(page), 6, missing))
    places.sort(key=lambda place: (sort_key(place.words, language), place.page.path, place.fragment or ""))
    letters: dict[str, list[_Place]] = {}
    for place in places:
        letters.setdefault(initial(place.words, language), []).append(place)
    made = [one.element for one in goal.made_blocks(INDEX)]
    taken = {
        target.name
        for target in goal.targets
        if not any(element.open.start < target.start < element.end for element in made)
    }
    named = []
    for letter, inner in letters.items():
        name = name_from(f"letter {letter}" if letter.isalnum() else "other signs", taken, None, language)
        taken.add(name)
        named.append((letter, name, inner))
    lines = [*_letter_lines(site, goal, habits, named)]
    edits = _made(goal, INDEX, lines, navigation_words(goal.language).index, "div")
    return plan_for(goal, edits, _notes(missing))


def plan_no_overview(site: Site, home: str, kind: str) -> SitePlan:
    """Return the plan that takes a list over the site out of a page again."""
    goal = _page(site, home)
    refuse_written_into(goal, kind, _known(kind))
    return plan_for(goal, taken_out(goal, kind, "taken out"))


def _known(kind: str) -> Callable[[str], bool]:
    """Return what tells whether words beside the links of a list are what we write there."""
    return lambda piece: kind == INDEX and _BESIDE.fullmatch(piece) is not None


def _page(site: Site, path: str) -> Page:
    if path not in site.pages:
        raise GoneError("The page that the list is for")
    return site.pages[path]


def _below_title(page: Page) -> Sequence[Section]:
    """Return a page's sections, those of its title in the place of the title itself."""
    sections = read_outline(page).sections
    return sections[0].sections if len(sections) == 1 and sections[0].level == 1 else sections


def _sections(page: Page, sections: Sequence[Section], depth: int, missing: list[str]) -> Iterator[_Place]:
    if not depth:
        return
    for section in sections:
        inner = [*_sections(page, section.sections, depth - 1, missing)]
        if section.identifier and section.text:
            yield _Place(page, section.text, section.identifier, inner)
        else:
            missing.append(page.path)
            yield from inner


def _all(places: Iterator[_Place] | Sequence[_Place]) -> Iterator[_Place]:
    for place in places:
        yield _Place(place.page, place.words, place.fragment)
        yield from _all(place.inner)


def _notes(missing: Sequence[str]) -> list[str]:
    if not missing:
        return []
    pages = list(dict.fromkeys(missing))
    more = f" and {len(pages) - _NAMED} more pages" if len(pages) > _NAMED else ""
    sections = "1 section has" if len(missing) == 1 else f"{len(missing)} sections have"
    return [f"{sections} no identifier, and so no entry: {', '.join(pages[:_NAMED])}{more}. Add identifiers first."]


def _link(site: Site, goal: Page, habits: Habits, place: _Place) -> str:
    address = goal.address_of(place.page.path, place.fragment, site.base)
    return habits.start("a", href=address) + escape(place.words, quote=False) + habits.end("a")


def _lines(site: Site, goal: Page, habits: Habits, places: Sequence[_Place], indent: str = "") -> Iterator[str]:
    yield indent + habits.start("ul")
    step = indent + habits.indent
    for place in places:
        link = habits.start("li") + _link(site, goal, habits, place)
        if place.inner:
            yield step + link
            yield from _lines(site, goal, habits, place.inner, step + habits.indent)
            yield step + habits.end("li")
        else:
            yield step + link + habits.end("li")
    yield indent + habits.end("ul")


def _letter_lines(
    site: Site, goal: Page, habits: Habits, named: Sequence[tuple[str, str, Sequence[_Place]]]
) -> Iterator[str]:
    links = [
        habits.start("a", href=f"#{name}") + escape(letter, quote=False) + habits.end("a")
        for letter, name, _ in named
    ]
    yield habits.start("p") + " ".join(links) + habits.end("p")
    yield habits.start("dl")
    for letter, name, places in named:
        yield f"{habits.indent}{habits.start('dt', id=name)}{escape(letter, quote=False)}{habits.end('dt')}"
        for place in places:
            of = "" if place.fragment is None else f" ({escape(page_name(place.page), quote=False)})"
            yield f"{habits.indent}{habits.start('dd')}{_link(site, goal, habits, place)}{of}{habits.end('dd')}"
    yield habits.end("dl")


def _made(goal: Page, kind: str, lines: Sequence[str], label: str, tag: str) -> EditSet:
    there = goal.made_blocks(kind)
    refuse_written_into(goal, kind, _known(kind))
    if there:
        return renewed(goal, there[0], lines, f"{label} renewed")
    habits = read_habits(goal)
    tag = tag if goal.html5 else "div"
    start = habits.start(tag, class_=kind, aria_label=label if tag == "nav" else None)
    return put(goal, content_end(goal), start, lines, habits.end(tag), label)
