"""The sections of a page and the links that lead to them and away, within the page and from other pages."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass

from signpost.core.addresses.fragments import TOP
from signpost.core.page import Page, Target
from signpost.core.page.outline import section_of_place
from signpost.core.references.link_list import LinkRow, list_link
from signpost.core.site.site import Resolved, Site


@dataclass(frozen=True, slots=True)
class MapSection:
    """A section that links lead to or away from."""

    index: int  # among the page's sections; -1 for the lead and the page's top
    level: int  # 0 for the lead
    text: str
    links_in: int
    links_out: int


@dataclass(frozen=True, slots=True)
class SectionLink:
    """A link between a section of the page and another one, or another page."""

    source: str  # the path of another page, or "#" and the index of a section of the page itself
    goal: str
    row: LinkRow


@dataclass(frozen=True, slots=True)
class SectionMap:
    """The neighbourhood of one page's sections."""

    path: str
    title: str
    sections: tuple[MapSection, ...]  # in source order, without those that no link concerns
    links: tuple[SectionLink, ...]


def map_sections(site: Site, path: str) -> SectionMap:
    """Return the sections of a page with the links between them, from them to other pages, and to them.

    Links in the page's furniture, those back to its own top, and those within one section, are left out.
    """
    page = site.pages[path]
    links = [*_from_page(site, page), *_from_others(site, page)]
    links_in = Counter(one.goal for one in links)
    links_out = Counter(one.source for one in links)
    named = {"#-1": (0, "Lead and top of the page")}
    named |= {f"#{index}": (heading.level, heading.text) for index, heading in enumerate(page.headings)}
    sections = tuple(
        MapSection(int(key[1:]), level, text, links_in[key], links_out[key])
        for key, (level, text) in named.items()
        if links_in[key] or links_out[key]
    )
    return SectionMap(path, page.title or path, sections, tuple(links))


def _from_page(site: Site, page: Page) -> Iterator[SectionLink]:
    for link in page.links:
        if link.in_furniture or link.href is None:
            continue
        source = f"#{section_of_place(page, link.start)}"
        row = list_link(site, page, link)
        found = site.resolve(page.path, link.href)
        goal = None if found is None else site.file_at(found[0])
        if goal == page.path:
            outcome = site.follow(page.path, link.href)
            goal = _section(page, outcome) if isinstance(outcome, Resolved) and outcome.target is not TOP else None
        if goal is not None and goal != source and (goal.startswith("#") or goal in site.pages):
            yield SectionLink(source, goal, row)


def _from_others(site: Site, page: Page) -> Iterator[SectionLink]:
    for other, link, landing in site.links_to(page.path):
        if other.path != page.path:
            yield SectionLink(other.path, _section(page, landing), list_link(site, other, link))


def _section(page: Page, landing: Resolved) -> str:
    target = landing.target
    return f"#{section_of_place(page, target.start) if isinstance(target, Target) else -1}"
