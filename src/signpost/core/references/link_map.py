"""The pages of a site and the links between them, as a picture draws them; written as GraphML too."""

from __future__ import annotations

import json
import posixpath
from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from xml.sax.saxutils import escape, quoteattr

from signpost.core.addresses.links import is_page_path
from signpost.core.site.index import Answers
from signpost.core.site.site import Site
from signpost.core.site.told import Kind, asked_names

#: From how many pages on that lead to it a page is called a hub, at least, and what share of all pages they are.
_HUB_PAGES, _HUB_SHARE = 4, 0.5


@dataclass(frozen=True, slots=True)
class MapPage:
    """A page of the map, or one that is missing."""

    path: str
    folder: str  # "" for the site's own
    there: bool  # whether the site has it
    pages_in: int  # other pages that lead to it
    links_in: int  # from those
    links_out: int  # to other pages
    broken: int  # links on it that lead nowhere on the site
    is_orphan: bool  # whether no other page leads to it
    is_hub: bool  # whether many others do


@dataclass(frozen=True, slots=True)
class MapLinks:
    """All links from one page to another."""

    source: str
    goal: str
    links: int
    jumps: int  # of them, that lead to a place on the page
    broken: int  # of them, that lead nowhere


@dataclass(frozen=True, slots=True)
class SiteMap:
    """Pages, and the links between them."""

    pages: tuple[MapPage, ...]
    links: tuple[MapLinks, ...]


def map_site(site: Site, focus: str = "") -> SiteMap:
    """Return the pages of a site and the links between them.

    With `focus`, only that page, the pages that it leads to and those that lead to it. Links of a page to itself
    count where they are broken.
    """
    names = site.index.ask_all(Kind.NAME)
    counts: dict[tuple[str, str], list[int]] = {}
    broken: Counter[str] = Counter()
    for key, told in site.index.ask_all(Kind.LINK).items():
        goal = site.file_at(key)
        there = goal in site.files
        is_page = goal in site.pages
        if there and not is_page:
            continue
        for page, values in told.items():
            for value in values:
                fragment, count = json.loads(value)
                wrong = not there or (fragment and not _is_there(names, goal, fragment))
                broken[page] += count if wrong else 0
                if page != goal and (is_page or is_page_path(goal)):
                    known = counts.setdefault((page, goal), [0, 0, 0])
                    known[0] += count
                    known[1] += count if fragment else 0
                    known[2] += count if wrong else 0
    links = [MapLinks(*pair, *known) for pair, known in sorted(counts.items())]
    pages = _pages(site, links, broken)
    if focus:
        near = {focus} | {one.goal for one in links if one.source == focus}
        near |= {one.source for one in links if one.goal == focus}
        pages = [page for page in pages if page.path in near]
        links = [one for one in links if focus in (one.source, one.goal)]
    return SiteMap(tuple(pages), tuple(links))


def _is_there(names: Mapping[str, Answers], page: str, fragment: str) -> bool:
    if fragment.lower() == "top":
        return True
    asked = asked_names(fragment)
    return asked[0] == "" or any(page in names.get(name, {}) for name in asked)


def _pages(site: Site, links: Sequence[MapLinks], broken: Counter[str]) -> list[MapPage]:
    pages_in: Counter[str] = Counter(one.goal for one in links)
    links_in: Counter[str] = Counter()
    links_out: Counter[str] = Counter()
    for one in links:
        links_in[one.goal] += one.links
        links_out[one.source] += one.links
    many = max(_HUB_PAGES, _HUB_SHARE * (len(site.pages) - 1))
    return [
        MapPage(
            path,
            posixpath.dirname(path),
            path in site.pages,
            pages_in[path],
            links_in[path],
            links_out[path],
            broken[path],
            is_orphan=path in site.pages and not pages_in[path],
            is_hub=pages_in[path] >= many,
        )
        for path in sorted({*site.pages, *pages_in})
    ]


# ---------------------------------------------------------------- GraphML

_PAGE_KEYS = (("there", "boolean"), ("links_in", "int"), ("links_out", "int"), ("broken", "int"))
_LINK_KEYS = (("links", "int"), ("jumps", "int"), ("broken", "int"))


def graphml(found: SiteMap) -> str:
    """Return a map as GraphML 1.0: a node for each page, an edge for the links from one to another."""
    lines = ['<?xml version="1.0" encoding="UTF-8"?>', '<graphml xmlns="http://graphml.graphdrawing.org/xmlns">']
    for kind, keys in (("node", _PAGE_KEYS), ("edge", _LINK_KEYS)):
        for name, of in keys:
            lines.append(f'  <key id="{kind}-{name}" for="{kind}" attr.name="{name}" attr.type="{of}"/>')
    lines.append('  <graph edgedefault="directed">')
    lines += [f"    <node id={quoteattr(page.path)}>{_data('node', page, _PAGE_KEYS)}</node>" for page in found.pages]
    for one in found.links:
        ends = f"source={quoteattr(one.source)} target={quoteattr(one.goal)}"
        lines.append(f"    <edge {ends}>{_data('edge', one, _LINK_KEYS)}</edge>")
    return "\n".join([*lines, "  </graph>", "</graphml>", ""])


def _data(kind: str, of: MapPage | MapLinks, keys: Iterable[tuple[str, str]]) -> str:
    said = ((name, getattr(of, name)) for name, _ in keys)
    return "".join(
        f'<data key="{kind}-{name}">{escape(str(value).lower() if isinstance(value, bool) else str(value))}</data>'
        for name, value in said
    )
