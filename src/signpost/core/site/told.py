"""What a page tells of itself that others of its site ask for: rows that can be kept, and looked up by their key.

A row is of a kind, under a key, with a value. It depends on the page alone and on the site's own address, never on
other pages or files, so that it stays right whatever happens to those.
"""

from __future__ import annotations

import json
import re
from collections import Counter
from collections.abc import Callable, Iterable, Iterator
from enum import StrEnum
from html import unescape
from typing import NamedTuple
from urllib.parse import unquote

from signpost.core.addresses.fragments import DIRECTIVE
from signpost.core.addresses.links import LinkKind
from signpost.core.page import Element, Link, Page
from signpost.core.page.kept import kept_with_page
from signpost.core.page.markup import tokens_of
from signpost.core.text.tags import SPACE, Attribute, scan_attributes


class Kind(StrEnum):
    """What a row tells."""

    LINK = "link"  # key: the path that links lead to, as the address has it; value: a fragment and how many
    OUTSIDE = "outside"  # key: the address of a link to another site
    NAME = "name"  # key: an identifier; value: a word of NameUse
    HASH = "hash"  # key: what stands behind a "#" anywhere; "" for what may be any, by references or escapes
    TITLE = "title"  # key: the title and the language; value: the hash of the bytes
    LANGUAGE = "language"  # key: the page's language
    SHEET = "sheet"  # key: the path of a style sheet that it loads, as the address has it
    CLASS = "class"  # key: a class of one of its elements
    SCRIPT = "script"  # key: ""; that it has a script
    WAY = "way"  # key: its own path; value: where its links of rel=next and rel=prev lead
    SERIES = "series"  # key: the name of the series that it is a part of; value: the number
    BLOCK = "block"  # key: what a block of links is called; value: its links
    OUTER = "outer"  # key: its own path; value: digests of what it begins and ends with
    FILE_NAME = "file name"  # key: what may be the name of a page in an address
    HAS = "has"  # key: a kind of block that we made, with "beside" where it is at the side; or a word of `_HAS`


class NameUse(StrEnum):
    """How an identifier stands on its page."""

    ID = "id"
    NAME = "name"  # of an old anchor
    MOVED = "moved"  # only leads on to another part


class Told(NamedTuple):
    """A row that a page tells."""

    kind: Kind
    key: str
    value: str


#: How many links a block has at least to be compared with those of other pages.
FEWEST_LINKS = 3
#: What leads to the next page, and what leads back (HTML 4.6.7.11 and 4.6.7.12).
WAYS = {"next": "next", "prev": "prev", "previous": "prev"}
_AT_ONCE = re.compile(r"\s*0*(?:\.0*)?\s*[;,]\s*\S")
_CLASS = re.compile(r"class\s*=\s*(?:\"([^\"]*)\"|'([^']*)'|([^\s\"'<>]+))")  # in lower case; where it is quick
_SCRIPTED = re.compile(r"<script\b", re.IGNORECASE)
_HASH = re.compile(r"#([\w-]*)([^\s\"'<>&%#]*)([&%]?)")
#: What a page may have that a reading style has rules for, by what its text contains then, in lower case.
_HAS = {"buttons": "jump-button", "samples": "<pre"}
_NAME_END = re.compile(r"\.(?:x?html?|shtml)\b", re.IGNORECASE)
_NAME_BACKWARDS = re.compile(r"[^\s\"'<>/?#&=;()\\]*")
_LONGEST_NAME = 400  # characters, as paths have at most
#: A value of an attribute, in which names may be written with escapes and character references.
_VALUE = re.compile(rf"=[{SPACE}]*(?:\"([^\"]*)\"|'([^']*)'|([^{SPACE}>\"']+))")
_ESCAPED = re.compile(r"%[0-9A-Fa-f]{2}|&[#A-Za-z]")
#: A "#" that is written as a character reference (HTML 13.5).
_HIDDEN_HASH = re.compile(r"&(?:num;|#0*35(?!\d)|#x0*23(?![0-9a-f]))", re.IGNORECASE)


#: A key and a value.
_Row = tuple[str, str]


def tell(page: Page, base: str | None) -> frozenset[Told]:
    """Return what a page tells; `base` is the site's own address."""
    return frozenset(Told(kind, *row) for kind in _TELLERS for row in tell_kind(kind, page, base))


def tell_kind(kind: Kind, page: Page, base: str | None) -> frozenset[tuple[str, str]]:
    """Return the keys and values of the rows of one kind that a page tells."""
    return frozenset(_TELLERS[kind](page, base))


def _json(value: object) -> str:
    return json.dumps(value, ensure_ascii=False)


def title_key(page: Page) -> str:
    """Return the key of a page's title: a translation may have the title of what it translates."""
    return _json([page.title, page.language])


def _links(page: Page, base: str | None) -> Iterator[_Row]:
    """Yield where the links of a page lead: for each path and fragment, how many there are."""
    counts: Counter[tuple[str, str]] = Counter()
    for link in page.links:
        found = None if link.href is None else page.resolve(link.href, base)
        if found is not None:
            counts[found[0], found[1] or ""] += 1
    for (path, fragment), count in counts.items():
        yield path, _json([fragment, count])


def _outside(page: Page, base: str | None) -> set[str]:
    return {
        (link.href or "").strip(SPACE)
        for link in page.links
        if link.kind is LinkKind.OUTSIDE and page.resolve(link.href or "", base) is None
    }


def _sheets(page: Page, base: str | None) -> Iterator[_Row]:
    for resource in page.resources:
        found = page.resolve(resource.url, base) if resource.element == "link" and resource.url else None
        if found is not None:
            yield found[0], ""


def file_name_key(path: str) -> str:
    """Return the key under which pages tell that they may name the page at a path.

    Addresses may have spaces and other marks in them as they are, so it is the name's end, from the last of these on.
    """
    return next(reversed([*_names_in(path)]), "")


def _names_in(text: str) -> Iterator[str]:
    """Yield what may be names of pages in a text."""
    for found in _NAME_END.finditer(text):
        before = text[max(0, found.start() - _LONGEST_NAME) : found.start()][::-1]
        name = _NAME_BACKWARDS.match(before)
        yield (name[0][::-1] if name else "") + found[0]


def _has(page: Page) -> Iterator[str]:
    for made in page.made:
        yield f"{made.kind} beside" if "beside" in made.classes else made.kind
    lowered = page.text.lower()
    yield from (key for key, needle in _HAS.items() if needle in lowered)


def _file_names(page: Page) -> Iterator[str]:
    yield from _names_in(page.text)
    for found in _VALUE.finditer(page.text):
        value = found[1] or found[2] or found[3] or ""
        if _ESCAPED.search(value):
            yield from _names_in(unquote(unescape(value)))


@kept_with_page
def leads_on(page: Page) -> bool:
    """Return whether a page takes its readers to another one at once, so that nobody reads it (HTML 4.2.5.3)."""
    if "refresh" not in page.text.lower():
        return False
    for tag in tokens_of(page).named("meta", having="refresh"):
        said = {one.name: one for one in scan_attributes(page.text, tag.start)}
        if _value(said, "http-equiv").strip().lower() == "refresh" and _AT_ONCE.match(_value(said, "content")):
            return True
    return False


def _title(page: Page) -> Iterator[_Row]:
    if page.title and page.part_marks is None and not leads_on(page):
        yield title_key(page), page.source.sha256


def _series(page: Page) -> Iterator[_Row]:
    if page.part_marks is not None:
        yield page.part_marks.series, str(page.part_marks.number)


def _ways(page: Page, base: str | None) -> Iterator[_Row]:
    ways = {way: path for _, way, path in read_ways(page, base)}
    if ways:
        yield page.path, _json(ways)


def _blocks(page: Page, base: str | None) -> Iterator[_Row]:
    return ((name, _json(block.links)) for name, block in read_shared_blocks(page, base).items())


@kept_with_page
def names_of(page: Page) -> dict[str, NameUse]:
    """Return the identifiers of a page in tree order, with how each stands there first."""
    moved = [made.element for made in page.made_blocks("moved-sections")]
    found: dict[str, NameUse] = {}
    for target in page.targets:
        if any(element.open.start < target.start < element.end for element in moved):
            use = NameUse.MOVED
        else:
            use = NameUse.ID if target.attribute == "id" else NameUse.NAME
        if target.name not in found or (found[target.name] is not NameUse.ID and use is NameUse.ID):
            found[target.name] = use
    return found


def _hashes(page: Page) -> set[str]:
    found = {""} if _HIDDEN_HASH.search(page.text) else set()
    for one in _HASH.finditer(page.text):
        word, rest, more = one.groups()
        if more:
            found.add("")
        if word:
            found.add(word)
        if rest:
            found.add(word + rest)
    return found


@kept_with_page
def classes_of(page: Page) -> frozenset[str]:
    """Return the classes of a page's elements."""
    text, lowered = tokens_of(page).masked, tokens_of(page).lowered
    values = (
        text[slice(*found.span(found.lastindex or 0))]
        for found in _CLASS.finditer(lowered)
        if lowered[found.start() - 1] in SPACE
    )
    return frozenset(word for value in set(values) for word in value.split())


def read_ways(page: Page, base: str | None) -> Iterator[tuple[int, str, str]]:
    """Yield the start tags of a page that lead on within the site, with their relation and the path they lead to."""
    for tag in tokens_of(page).named("a", "link", having="rel"):
        said = {one.name: one for one in scan_attributes(page.text, tag.start)}
        href = _value(said, "href")
        there = page.resolve(href, base) if href else None
        if there is None:
            continue
        for word in _value(said, "rel").lower().split():
            if word in WAYS:
                yield tag.start, WAYS[word], there[0]


def _value(said: dict[str, Attribute], name: str) -> str:
    return said[name].value if name in said else ""


class SharedBlock(NamedTuple):
    """A block of links that other pages may have as well."""

    element: Element
    links: tuple[tuple[str, str], ...]  # where each leads ("path", "path#fragment", or its address), and its words


def read_shared_blocks(page: Page, base: str | None) -> dict[str, SharedBlock]:
    """Return the blocks of links in a page's furniture, by what they are called."""
    found: dict[str, SharedBlock] = {}
    if page.part_marks is not None:
        return found  # parts have links of their own
    made = {one.element.open.start for one in page.made}
    for element in page.furniture:
        if element.open.start in made:
            continue
        links = links_in(page.links, element)
        if len(links) >= FEWEST_LINKS:
            led = tuple((led_to(page, base, link), link.text) for link in links)
            found.setdefault(_block_name(page, element), SharedBlock(element, led))
    return found


def links_in(links: Iterable[Link], element: Element) -> list[Link]:
    """Return those of a page's links that are in an element."""
    return [link for link in links if element.open.end <= link.start < element.end]


def led_to(page: Page, base: str | None, link: Link) -> str:
    """Return where a link leads, the same for all pages that lead there; for one out of the site, its address."""
    found = None if link.href is None else page.resolve(link.href, base)
    if found is None:
        return f" {link.href or ''}"  # no path of a site begins with a space
    return found[0] + (f"#{found[1]}" if found[1] else "")


def _block_name(page: Page, element: Element) -> str:
    attributes = {one.name: one.value for one in scan_attributes(page.text, element.open.start)}
    return " ".join([element.tag, attributes.get("id", ""), attributes.get("class", "")]).strip()


def asked_names(fragment: str) -> list[str]:
    """Return the identifiers that a fragment may indicate: as it is written, and with its escapes resolved."""
    fragment = fragment.partition(DIRECTIVE)[0]
    return list(dict.fromkeys([fragment, unquote(fragment, errors="replace")]))


def _bare(keys: Iterable[str]) -> Iterator[_Row]:
    return ((key, "") for key in keys)


#: Kinds that ask a page for its tags, so that it pays to ask for all of them while these are at hand.
ASKED_TOGETHER = frozenset([Kind.CLASS, Kind.WAY])
#: What tells the rows of each kind.
_TELLERS: dict[Kind, Callable[[Page, str | None], Iterable[_Row]]] = {
    Kind.LINK: _links,
    Kind.OUTSIDE: lambda page, base: _bare(_outside(page, base)),
    Kind.NAME: lambda page, _: names_of(page).items(),
    Kind.HASH: lambda page, _: _bare(_hashes(page)),
    Kind.TITLE: lambda page, _: _title(page),
    Kind.LANGUAGE: lambda page, _: _bare([page.language] if page.language else []),
    Kind.SHEET: _sheets,
    Kind.CLASS: lambda page, _: _bare(classes_of(page)),
    Kind.SCRIPT: lambda page, _: _bare([""] if _SCRIPTED.search(page.text) else []),
    Kind.WAY: _ways,
    Kind.SERIES: lambda page, _: _series(page),
    Kind.BLOCK: _blocks,
    Kind.OUTER: lambda page, _: [(page.path, _json(page.outer))] if page.outer else [],
    Kind.FILE_NAME: lambda page, _: _bare(_file_names(page)),
    Kind.HAS: lambda page, _: _bare(_has(page)),
}
