"""Paths to a page that an author wrote by hand: known from their form, and completed where they are."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from html import escape
from itertools import pairwise

from signpost.core.addresses.links import path_of
from signpost.core.page import Node, Page, read_nodes
from signpost.core.page.phrasing import collapse, words_of
from signpost.core.site.site import Site
from signpost.core.text.edits import Edit, EditSet, edit_set, splice
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import Span
from signpost.core.text.tags import value_edit

#: Names of blocks that say where a page is, as a class, an identifier or a label.
_NAMED = re.compile(r"bread-?crumbs?|\bcrumbs?\b|^(?:path|trail)$|you[ -]are[ -]here", re.IGNORECASE)
#: What stands between the pages of a path, and in no menu.
_ARROW = re.compile(r"[›»>→/\\]|::")
#: What may stand between two of its links, as it is written: white space, signs, tags of list items.
_GAP = re.compile(r"(?:\s|&\w+;|&#\w+;|[^\w<]|</?(?:li|span|b|font)\b[^>]*>)*", re.IGNORECASE)
_BLOCKS = frozenset("div li nav ol p span td ul center font small".split())
_LONGEST = 3000  # of such a block's markup, in characters


@dataclass(frozen=True, slots=True)
class Trail:
    """A path that was written by hand."""

    node: Node
    items: tuple[Node, ...]  # each the link, or the list's item that it is in
    links: tuple[Node, ...]
    pages: tuple[str | None, ...]  # that the links lead to, the page itself left out; None for another site's


def find_trail(site: Site, page: Page, above: Sequence[str]) -> Trail | None:
    """Return the path that a page has before its first heading; None where it has none.

    A block named as one is taken as it is. One without such a name is a path where arrows or strokes stand between
    links that all lead to pages above, and the page's own words close it.
    """
    nodes = read_nodes(page)
    until = page.headings[0].begin if page.headings else len(page.text)
    found: Trail | None = None
    for node in nodes.all:
        if node.start >= until:
            break
        if node.tag not in _BLOCKS or len(Span(node.start, node.element.end).of(page.text)) > _LONGEST:
            continue
        trail = _read(site, page, node, set(above))
        if trail is not None:
            found = trail  # the innermost of those that begin together
        elif found is not None and node.start > found.node.element.end:
            break
    return found


def _read(site: Site, page: Page, node: Node, above: set[str]) -> Trail | None:
    nodes = read_nodes(page)
    links = [one for one in nodes.below(node) if one.tag == "a" and "href" in one.attributes]
    led = [_leads(site, page, link) for link in links]
    if led and led[-1] == page.path:
        links, led = links[:-1], led[:-1]
    if not links:
        return None
    around = (node, *nodes.above(node))
    named = any(_NAMED.search(name) for one in around[:2] for name in (*one.classes, *_labels(one)))
    gaps = [page.text[one.element.end : other.start] for one, other in pairwise(links)]
    last = page.text[links[-1].element.end : node.element.end]
    if not named:
        first = words_of(page.text[node.element.open.end : links[0].start])
        ours = not set(led) - above and (not first or first.endswith(":"))
        arrows = all(_ARROW.search(words_of(gap)) for gap in (*gaps, last))
        if not ours or not arrows or not _names(page, words_of(last).strip("›»>→/\\: ")):
            return None
    if not all(_GAP.fullmatch(gap) for gap in gaps):
        return None
    items = [_item(nodes.above(link), node) or link for link in links]
    return Trail(node, tuple(items), tuple(links), tuple(led))


def _names(page: Page, words: str) -> bool:
    """Return whether words name a page: they are its title, or begin it, or are its first heading."""
    title = collapse(page.title or "").casefold()
    heading = page.headings[0].text.casefold() if page.headings else ""
    return bool(words) and (title.startswith(words.casefold()) or words.casefold() == heading)


def _labels(node: Node) -> Iterator[str]:
    return (node.attributes[name] for name in ("id", "aria-label", "title") if name in node.attributes)


def _item(above: Iterator[Node], within: Node) -> Node | None:
    return next((node for node in above if node.tag == "li" and node.start >= within.start), None)


def _leads(site: Site, page: Page, link: Node) -> str | None:
    href = link.attributes.get("href") or ""
    found = site.resolve(page.path, href) if path_of(href) else None
    path = None if found is None else site.file_at(found[0])
    return path if path in site.pages else None


def completed(site: Site, page: Page, trail: Trail, above: Sequence[str], words: Callable[[str], str]) -> EditSet:
    """Return the edits that put the pages that a path lacks into it, each written as the link beside it.

    Raises RequestError for a path that goes another way than the site's folders, which stays as it is.
    """
    known = iter(above)
    if not all(path in known for path in trail.pages if path is not None):
        line = page.source.lines.line(trail.node.start)
        raise RequestError(f"has a path of its own in line {line}, which goes another way and stays as it is.")
    edits = []
    for at, path in enumerate(above):
        if path in trail.pages:
            continue
        behind = [trail.pages.index(one) for one in above[at:] if one in trail.pages]
        beside = trail.items[behind[0] if behind else -1]
        item, gap = _like(site, page, trail, beside, path, words(path)), _gap(page, trail)
        place, text = (beside.start, item + gap) if behind else (_end(page, beside), gap + item)
        edits.append(Edit(place, place, text, rank=at, reason="path completed"))
    return edit_set(page.source, edits)


def _like(site: Site, page: Page, trail: Trail, item: Node, path: str, words: str) -> str:
    """Return an item of a path for another page, written as one that is there."""
    link = trail.links[trail.items.index(item)]
    href, close = page.attribute_at(link.start, "href"), link.element.close
    if href is None or close is None:
        raise RequestError("has a path of its own with a link that is not closed. Close it first.")
    edits = [
        value_edit(page.text, href, page.address_of(path, None, site.base), ""),
        Edit(link.element.open.end, close.start, escape(words, quote=False)),
    ]
    return splice(page.text, Span(item.start, _end(page, item)), edits)


def _end(page: Page, item: Node) -> int:
    """Return where an item ends, white space left out where its end tag is."""
    if item.element.close is not None:
        return item.element.close.end
    return item.start + len(page.text[item.start : item.element.end].rstrip())


def _gap(page: Page, trail: Trail) -> str:
    """Return what stands between two pages of a path."""
    if len(trail.items) > 1:
        return page.text[_end(page, trail.items[0]) : trail.items[1].start]
    found = _GAP.match(page.text, _end(page, trail.items[0]), trail.node.element.end)
    written = found[0] if found else ""
    return (
        re.sub(r"<[^>]*>[^<]*$", "", written)
        if trail.items[0].tag == "a"
        else re.sub(r"<.*", "", written, flags=re.DOTALL)
    )
