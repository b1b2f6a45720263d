"""The regions of a page, for an author who says which of them are the content and which are furniture."""

from __future__ import annotations

import re
from dataclasses import dataclass

from signpost.core.page import Node, Nodes, Page, read_nodes
from signpost.core.page.phrasing import shorten

_BOXES = frozenset("div table tbody tr td th main article section header footer nav aside center form".split())
_OPENED = frozenset("div table tbody tr td center main article section form".split())
_PLAIN_NAME = re.compile(r"[A-Za-z_][\w-]*")
_SHOWN = 70  # characters of a region's words that stand for it
_MOST_OF = 0.6  # of the words in the body: a box that contains so many is opened
_DEEPEST = 6


@dataclass(frozen=True, slots=True)
class Region:
    """A part of a page that may be content or furniture."""

    selector: str  # by which it is found again, on this page or on others made like it
    tag: str
    text: str  # its first words
    words: int
    furniture: bool  # whether it counts as furniture now
    content: bool  # whether it is the element that contains the content now
    depth: int  # 0 for those right in the body


def read_regions(page: Page) -> list[Region]:
    """Return the regions of a page in source order; a box that contains most of the words is followed by its own."""
    nodes = read_nodes(page)
    body = next((node for node in nodes.all if node.tag == "body"), None)
    if body is None:
        return []
    total = len(body.text.split())
    regions: list[Region] = []
    _add(nodes, body, total, 0, regions)
    return regions


def _add(nodes: Nodes, box: Node, total: int, depth: int, regions: list[Region]) -> None:
    furniture = {part.open.start for part in nodes.page.furniture}
    for node in nodes.children(box):
        words = len(node.text.split())
        listed = node.tag in _BOXES or node.start in furniture or _is_row_of_links(nodes, node)
        if not words or not listed:
            continue
        regions.append(_region(nodes, node, words, depth))
        if node.tag in _OPENED and words > total * _MOST_OF and depth < _DEEPEST:
            _add(nodes, node, total, depth + 1, regions)


def _is_row_of_links(nodes: Nodes, node: Node) -> bool:
    """Return whether an element says nothing but what its links say, as old navigation does."""
    links = [below for below in nodes.below(node) if below.tag == "a" and "href" in below.attributes]
    return len(links) > 1 and sum(len(link.text) for link in links) * 2 > len(node.text)


def _region(nodes: Nodes, node: Node, words: int, depth: int) -> Region:
    page = nodes.page
    text = shorten(node.text, _SHOWN)
    furniture = any(part.open.start <= node.start < part.end for part in page.furniture)
    content = node.element.open.end <= page.content.start and page.content.end <= node.element.end
    content = content and node.tag == page.content_tag
    return Region(selector_of(nodes, node), node.tag, text, words, furniture, content, depth)


def selector_of(nodes: Nodes, node: Node) -> str:
    """Return a selector that finds an element: by `id`, else by classes that no other has, else by its place."""
    identifier = node.attributes.get("id", "")
    if _PLAIN_NAME.fullmatch(identifier):
        return f"#{identifier}"
    classes = node.attributes.get("class", "").split()
    if classes and all(map(_PLAIN_NAME.fullmatch, classes)):
        selector = f"{node.tag}.{'.'.join(classes)}"
        same = [other for other in nodes.all if other.tag == node.tag and node.classes <= other.classes]
        if len(same) == 1:
            return selector
    if node.tag in ("main", "body", "html"):
        return node.tag
    parent = next(nodes.above(node), None)
    siblings = [child for child in nodes.children(parent) if child.tag == node.tag] if parent else [node]
    number = next(row for row, child in enumerate(siblings, start=1) if child.index == node.index)
    step = f"{node.tag}:nth-of-type({number})"
    if parent is None or parent.tag == "body":
        return f"body > {step}"
    if parent.tag == "table" and node.tag == "tr":  # the parser puts a tbody between
        return f"{selector_of(nodes, parent)} > tbody > {step}"
    return f"{selector_of(nodes, parent)} > {step}"
