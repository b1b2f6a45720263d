"""Tags that were mistyped so that browsers know them no more: a name with a wrong letter, a slash that is missing.

What their author meant is asked here, so that the tags of a page are matched as they were meant.
"""

from __future__ import annotations

import re
from bisect import bisect_left
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum

from rapidfuzz.distance import DamerauLevenshtein

from signpost.core.page.facts import Page
from signpost.core.page.kept import kept_with_page
from signpost.core.page.markup import ELEMENTS, OPTIONAL_END, VOID, tokens_of
from signpost.core.page.phrasing import PHRASING
from signpost.core.page.tokens import Tag
from signpost.core.text.positions import Span

_DRAWINGS = frozenset(["svg", "math"])
_NAME = re.compile(r"/?[a-z][a-z0-9]*")
_SHORTEST = 2  # letters of a name that is known with one of them wrong
#: A name that an attribute has grown together with.
_GROWN = re.compile(
    r"([a-z][a-z0-9]*?)(?:href|src|class|id|name|style|alt|title|target|rel|lang|align|width|height|border)=[\"']"
)
#: What is no end tag, and was meant to be one.
_NO_END = re.compile(
    r"<\\([a-z][a-z0-9]*)\s*>|</[ \t]+([a-z][a-z0-9]*)\s*>|<[ \t]+/[ \t]*([a-z][a-z0-9]*)\s*>|<//([a-z][a-z0-9]*)\s*>"
)
_MAY_BE_NO_END = ("<\\", "</ ", "</\t", "< /", "<\t/", "<//")
#: Elements that have no attributes where their end tag has lost its slash, and words before it.
_SLASHED = (PHRASING | frozenset("a h1 h2 h3 h4 h5 h6".split())) & ELEMENTS - VOID
_INSIDE = PHRASING | {"img", "br", "wbr"}


class MistypedKind(StrEnum):
    """What is wrong with a tag."""

    NAME = "name"
    SPACE = "space"  # between its name and an attribute
    SLASH = "slash"
    END = "end"  # an end tag that is none


@dataclass(frozen=True, slots=True)
class Mistyped:
    """A tag that was mistyped."""

    kind: MistypedKind
    tag: Tag  # as it was meant, where it stands
    span: Span  # what is wrong of it
    text: str  # that belongs there


@kept_with_page
def find_mistyped(page: Page) -> Sequence[Mistyped]:
    """Return the tags of a page that surely were mistyped, in the order of the source."""
    found = [*_names(page), *_no_ends(page)]
    return sorted(found, key=lambda one: one.tag.start)


def meant_tags(page: Page) -> Sequence[Tag]:
    """Return the tags of a page as they were meant, in the order of the source."""
    tags = list(tokens_of(page).tags())
    for one in find_mistyped(page):
        at = bisect_left(tags, one.tag.start, key=lambda tag: tag.start)
        tags[at : at + (one.kind is not MistypedKind.END)] = [one.tag]
    return tags


def _names(page: Page) -> Iterator[Mistyped]:
    tokens = tokens_of(page)
    unknown = {name for name in tokens.distinct if name.removeprefix("/") not in ELEMENTS}
    meant = {name: _meant(page, name) for name in unknown if _NAME.fullmatch(name)}
    grown = {name: found[1] for name in unknown if (found := _GROWN.match(name)) and found[1] in ELEMENTS}
    drawn = 0
    for at, name in enumerate(tokens.names if grown or any(meant.values()) else ()):
        drawn = max(0, drawn + (name in _DRAWINGS) - (name[1:] in _DRAWINGS))
        if drawn or name not in unknown:
            continue
        tag = tokens.tag(at)
        if right := meant.get(name):
            begin = tag.start + 1 + tag.is_end
            bare = right.removeprefix("/")
            yield Mistyped(MistypedKind.NAME, tag._replace(name=bare), Span(begin, begin + len(tag.name)), bare)
        elif name in grown:
            begin = tag.start + 1 + len(grown[name])
            yield Mistyped(MistypedKind.SPACE, tag._replace(name=grown[name]), Span(begin, begin), " ")
    yield from _without_slash(page)


def _meant(page: Page, name: str) -> str | None:
    """Return the name that one letter makes of another, where the page has a tag of it without a partner."""
    count, slash = tokens_of(page).count, "/" if name[0] == "/" else ""
    bare = name.removeprefix("/")
    if len(bare) < _SHORTEST or count(bare if slash else f"/{bare}"):
        return None  # or it has a partner that is written so as well
    near = [
        one
        for one in ELEMENTS - VOID - (OPTIONAL_END if slash else frozenset())
        if DamerauLevenshtein.distance(bare, one, score_cutoff=1) == 1
        and (count(one) > count(f"/{one}") if slash else count(f"/{one}") > count(one))
    ]
    return slash + near[0] if len(near) == 1 and (len(bare) > _SHORTEST or len(near[0]) > 1) else None


def _without_slash(page: Page) -> Iterator[Mistyped]:
    """Yield the end tags that have lost their slash: words are between the same tag and it, and none ends either."""
    tokens = tokens_of(page)
    for name in sorted(_SLASHED):
        if tokens.count(name) <= tokens.count(f"/{name}") + 1:
            continue
        same = list(tokens.named(name, f"/{name}"))
        for at in range(1, len(same)):
            before, tag, after = same[at - 1], same[at], same[at + 1] if at + 1 < len(same) else None
            if before.is_end or tag.is_end or tag.end - tag.start != len(name) + 2 or (after and after.is_end):
                continue
            first, behind = tokens.at(before.start) + 1, tokens.at(tag.start)
            inside = tokens.names[first:behind]
            words = tokens.masked[before.end : tag.start]
            if all(one.removeprefix("/") in _INSIDE for one in inside) and words.strip() and "\n\n" not in words:
                yield Mistyped(MistypedKind.SLASH, tag._replace(is_end=True), Span(tag.start + 1, tag.start + 1), "/")


def _no_ends(page: Page) -> Iterator[Mistyped]:
    tokens = tokens_of(page)
    if not any(mark in tokens.masked for mark in _MAY_BE_NO_END):
        return
    for found in _NO_END.finditer(tokens.lowered):
        name = next(group for group in found.groups() if group)
        if name in ELEMENTS - VOID and tokens.count(name) > tokens.count(f"/{name}"):
            tag = Tag(name, found.start(), found.end(), is_end=True)
            written = page.text[found.start() : found.end()]
            at = written.lower().rfind(name)
            meant = f"</{written[at : at + len(name)]}>"
            yield Mistyped(MistypedKind.END, tag, Span(found.start(), found.end()), meant)
