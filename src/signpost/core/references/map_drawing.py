"""What of a site's map is drawn at once: few enough nodes that all can be read; folders stand for what is in them."""

from __future__ import annotations

import posixpath
from collections import Counter
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from enum import StrEnum

from signpost.core.references.link_map import MapLinks, MapPage, SiteMap

#: How many nodes are drawn at most.
MOST_DRAWN = 60
#: What stands for pages that there is no room for, and for those outside of the folder that is looked at; no path is.
MORE, ELSEWHERE = "\nmore", "\nelsewhere"


class NodeKind(StrEnum):
    """What a node stands for."""

    PAGE = "page"
    MISSING = "missing"  # a page that is linked to and not there
    FOLDER = "folder"  # all pages in a folder and below it
    MORE = "more"  # pages and folders that there is no room for
    ELSEWHERE = "elsewhere"  # pages outside of the folder that is looked at


@dataclass(frozen=True, slots=True)
class MapNode:
    """What is drawn as one."""

    name: str  # a page's path, a folder's with a slash behind it, MORE or ELSEWHERE
    kind: NodeKind
    folder: str  # that a page is in; "" for the site's own, and for whatever is no page
    pages: int  # that it stands for
    pages_in: int  # other nodes that lead to it
    is_orphan: bool  # whether it is a page that no other one leads to
    is_hub: bool


@dataclass(frozen=True, slots=True)
class MapDrawing:
    """Nodes, and the links between them."""

    at: str  # the folder that is looked at; "" for the whole site
    nodes: tuple[MapNode, ...]
    lines: tuple[MapLinks, ...]


def draw_map(found: SiteMap, at: str = "", focus: str = "") -> MapDrawing:
    """Return what is drawn of a map: all its pages, or where they are too many, what is right in a folder.

    A folder that contains nothing but another one is passed through. With `focus`, whose neighbourhood the map is,
    its pages are drawn, those with most links first.
    """
    if len(found.pages) <= MOST_DRAWN:
        named = {page.path: page.path for page in found.pages}
        return _drawn(found, "", named)
    if focus:
        ranked = sorted(found.pages, key=lambda page: (page.path != focus, *_rank(page)))
        shown = {page.path for page in ranked[: MOST_DRAWN - 1]}
        return _drawn(found, "", {page.path: page.path if page.path in shown else MORE for page in found.pages})
    folder = _first_fork(found.pages, at.strip("/"))
    return _drawn(found, folder, _named(found.pages, folder))


def _rank(page: MapPage) -> tuple[int, str]:
    return -(page.links_in + page.links_out), page.path


def _child(path: str, folder: str) -> str | None:
    """Return what right in a folder a path is: itself, or a folder with a slash behind it; None for one elsewhere."""
    prefix = f"{folder}/" if folder else ""
    if not path.startswith(prefix):
        return None
    name, slash, _ = path[len(prefix) :].partition("/")
    return prefix + name + slash


def _first_fork(pages: Iterable[MapPage], folder: str) -> str:
    """Return the first folder, from one on downwards, that contains more than one other folder."""
    inside = [page.path for page in pages if _child(page.path, folder) is not None]
    while True:
        children = {_child(path, folder) for path in inside}
        only = children.pop() if len(children) == 1 else None
        if only is None or not only.endswith("/"):
            return folder
        folder = only.rstrip("/")


def _named(pages: Sequence[MapPage], folder: str) -> dict[str, str]:
    """Return the node that each page is part of, as many as there is room for."""
    children = {page.path: _child(page.path, folder) for page in pages}
    sizes = Counter(child for child in children.values() if child is not None)
    rank = {page.path: _rank(page) for page in pages}
    ordered = sorted(sizes, key=lambda name: (not name.endswith("/"), *rank.get(name, (-sizes[name], name))))
    room = MOST_DRAWN - (1 if None in children.values() else 0)
    shown = set(ordered if len(ordered) <= room else ordered[: room - 1])
    return {
        path: ELSEWHERE if child is None else child if child in shown else MORE for path, child in children.items()
    }


def _drawn(found: SiteMap, at: str, named: dict[str, str]) -> MapDrawing:
    lines = _lines(found.links, named.__getitem__)
    sizes = Counter(named.values())
    leading = Counter(line.goal for line in lines)
    pages = {page.path: page for page in found.pages}
    nodes = [_node(name, pages.get(name), sizes[name], leading[name]) for name in sorted(sizes)]
    return MapDrawing(at, tuple(nodes), tuple(lines))


def _lines(links: Iterable[MapLinks], node_of: Callable[[str], str]) -> list[MapLinks]:
    counts: dict[tuple[str, str], list[int]] = {}
    for one in links:
        source, goal = node_of(one.source), node_of(one.goal)
        if source != goal:
            known = counts.setdefault((source, goal), [0, 0, 0])
            for index, number in enumerate((one.links, one.jumps, one.broken)):
                known[index] += number
    return [MapLinks(*pair, *known) for pair, known in sorted(counts.items())]


def _node(name: str, page: MapPage | None, pages: int, leading: int) -> MapNode:
    if page is not None:
        kind = NodeKind.PAGE if page.there else NodeKind.MISSING
        return MapNode(name, kind, posixpath.dirname(name), 1, page.pages_in, page.is_orphan, page.is_hub)
    kind = {MORE: NodeKind.MORE, ELSEWHERE: NodeKind.ELSEWHERE}.get(name, NodeKind.FOLDER)
    return MapNode(name, kind, "", pages, leading, is_orphan=False, is_hub=False)
