"""What the parser had to put up with: its own errors, and tags that do not match.

The tree shows what browsers make of slips; the tags, in the order of the source, show what their author wrote.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from signpost.core.page.facts import Page
from signpost.core.page.marks import HEADINGS
from signpost.core.page.markup import FORMATTING, OPTIONAL_END, VOID, markup_of, tokens_of
from signpost.core.page.mistyped import find_mistyped, meant_tags
from signpost.core.page.tokens import Tag

#: Elements before which a paragraph ends (HTML 13.2.6.4.7), but for tables: they end it only outside of quirks mode.
_ENDS_PARAGRAPH = frozenset(
    """
    address article aside blockquote center details dialog dir div dl fieldset figcaption figure footer form header
    hgroup hr main menu nav ol p pre section search ul h1 h2 h3 h4 h5 h6 listing xmp
    """.split()
)
_LISTS = frozenset("ul ol menu dir".split())
#: Elements of old that nobody ends, though browsers take them for open.
_NEVER_ENDED = VOID | frozenset(["isindex", "nextid", "spacer"])
_FOREIGN = frozenset(["svg", "math", "/svg", "/math"])  # what is in them follows XML's rules
_ITEMS = frozenset(["li", "dt", "dd"])
_SELF_NESTING = frozenset(["a", "nobr", "button", "option"])  # a second one ends the first

#: Formatting elements and the like, which neither end a paragraph nor count as anything else, however they nest.
_PHRASES = (
    FORMATTING | frozenset("abbr cite code data dfn kbd mark q samp span sub sup var".split())
) - _SELF_NESTING
_PHRASE_ENDS = frozenset(f"/{name}" for name in [*_PHRASES, "a"])


@dataclass(frozen=True, slots=True)
class ParseError:
    """A parse error of the tokenizer."""

    code: str  # the standard's (HTML 13.2.2)
    start: int  # offset of the character at which it was noticed


@dataclass(frozen=True, slots=True)
class Unclosed:
    """An element whose end tag is missing, though it may not be left out."""

    tag: Tag
    ended_by: Tag | None = None  # at which browsers end it, or cut it off; None for the page's end


@dataclass(frozen=True, slots=True)
class Stray:
    """An end tag without a start tag."""

    tag: Tag


@dataclass(frozen=True, slots=True)
class Nested:
    """An element within one of its kind, which a browser ends there: a link within a link."""

    outer: Tag  # start tags
    inner: Tag
    end: Tag  # the end tag that is left over


@dataclass(frozen=True, slots=True)
class Crossed:
    """Two elements of which the inner one ends behind the outer one."""

    outer: Tag  # start tags
    inner: Tag
    outer_end: Tag
    inner_end: Tag


@dataclass(frozen=True, slots=True)
class Homeless:
    """An item that is in no list."""

    tag: Tag


Slip = Unclosed | Stray | Nested | Crossed | Homeless


def read_parse_errors(page: Page) -> Sequence[ParseError]:
    """Return the parse errors of a page's tokens, in the order of the source (HTML 13.2.2)."""
    where = markup_of(page)
    return sorted(
        (ParseError(error.code, where.offset(error.line, error.col)) for error in where.tree.errors),
        key=lambda error: error.start,
    )


def find_attributed(page: Page, names: frozenset[str]) -> list[tuple[int, str, frozenset[str]]]:
    """Return the elements of a page that have attributes of some names: their starts, their tags, and which of them.

    In the order of the source; `names` are not to be empty.
    """
    where = markup_of(page)
    found = where.tree.select(",".join(f"[{name}]" for name in sorted(names)))
    by_start = {where.start(one): (one.tag, names.intersection(one.attrs)) for one in found}  # some are cloned
    return [(start, *by_start[start]) for start in sorted(by_start) if start >= 0]


def find_unmatched(page: Page) -> list[Slip]:
    """Return where the tags of a page, those that were mistyped as they were meant, do not match, in source order."""
    tokens = tokens_of(page)
    if not find_mistyped(page):
        matcher = _Matcher(tokens.names)
        matcher.match()
        return sorted((kind(*map(tokens.tag, places)) for kind, *places in matcher.slips), key=_place)
    tags = meant_tags(page)
    matcher = _Matcher([f"/{tag.name}" if tag.is_end else tag.name for tag in tags])
    matcher.match()
    return sorted((kind(*map(tags.__getitem__, places)) for kind, *places in matcher.slips), key=_place)


def _place(slip: Slip) -> int:
    return slip.inner.start if isinstance(slip, Crossed | Nested) else slip.tag.start


class _Matcher:
    """Goes through the names of tags as the parser does, with the elements that are open; a place is an index."""

    def __init__(self, names: Sequence[str]) -> None:
        self.names = names
        self.slips: list[tuple[Callable[..., Slip], *tuple[int, ...]]] = []
        self.open: list[str] = []
        self.places: list[int] = []  # of the start tags of what is open
        self.cut: list[tuple[int, int, int]] = []  # cut off: the element, by which one, at which tag
        self.ended: list[tuple[int, int]] = []  # by one of their kind: the element, and that one
        self.paragraph: int | None = None  # how many elements were open where the paragraph began; None for none
        self.unsure = False  # whether a table may have ended the paragraph
        self.lists = self.definitions = self.foreign = 0
        self.homeless = False  # whether the last item was in no list, so that those beside it are the same slip

    def match(self) -> None:
        """Fill `slips`."""
        open_, places = self.open, self.places
        for at, name in enumerate(self.names):
            if name in _FOREIGN:
                self.foreign = max(0, self.foreign + (-1 if name[0] == "/" else 1))
            elif self.foreign:
                continue
            elif name in _PHRASES or (name == "a" and "a" not in open_):  # as most are
                open_.append(name)
                places.append(at)
            elif name == "p":
                self.paragraph, self.unsure = len(open_), False
                self.homeless = self.homeless and self.lists > 0
            elif name == "/p":
                if self.paragraph is None and not self.unsure:
                    self.slips.append((Stray, at))
                self.paragraph, self.unsure = None, False
            elif name[0] != "/":
                self._begin(name, at)
            elif name in _PHRASE_ENDS and open_ and open_[-1] == name[1:] and (self.paragraph or 0) < len(open_):
                open_.pop()
                places.pop()
            else:
                self._end(name[1:], at)
        self.slips += [(Unclosed, element, by) for element, _, by in self.cut]
        self.slips += [(Unclosed, element, other) for element, other in self.ended]
        self.slips += [(Unclosed, element) for element in places]

    def _begin(self, name: str, at: int) -> None:
        if name in _ENDS_PARAGRAPH:
            self.paragraph, self.unsure = None, False
        elif name == "table" and self.paragraph is not None:
            self.unsure = True
        if name in _ITEMS:
            if not (self.lists if name == "li" else self.definitions):
                if not self.homeless:
                    self.slips.append((Homeless, at))
                self.homeless = True
        elif name in _ENDS_PARAGRAPH and not self.lists:
            self.homeless = False
        if name in _NEVER_ENDED or name in OPTIONAL_END:
            return
        if name in _SELF_NESTING and name in self.open:
            index = len(self.open) - 1 - self.open[::-1].index(name)
            self.ended.append((self.places.pop(index), at))
            del self.open[index]
        self._count(name, 1)
        self.open.append(name)
        self.places.append(at)

    def _count(self, name: str, by: int) -> None:
        if name in _LISTS:
            self.lists += by
        elif name == "dl":
            self.definitions += by

    def _end(self, name: str, at: int) -> None:
        if name in OPTIONAL_END:
            return
        fits = HEADINGS if name in HEADINGS else (name,)  # an end tag of a heading ends any (HTML 13.2.6.4.7)
        index = next((at for at in range(len(self.open) - 1, -1, -1) if self.open[at] in fits), None)
        if index is None:
            self.slips.append(self._left_over(name, at))
            return
        ended = self.places[index]
        for element, place in zip(self.open[index + 1 :], self.places[index + 1 :], strict=True):
            self.cut.append((place, ended, at))
            self._count(element, -1)
        self._count(self.open[index], -1)
        if self.paragraph is not None and self.paragraph > index and self.open[index] not in FORMATTING:
            self.paragraph, self.unsure = None, False
        del self.open[index:], self.places[index:]

    def _left_over(self, name: str, at: int) -> tuple[Callable[..., Slip], *tuple[int, ...]]:
        """Return what an end tag is that ends nothing: of an element that was cut off before, or of none."""
        nested = next((one for one in reversed(self.ended) if self.names[one[0]] == name), None)
        if nested is not None:
            self.ended.remove(nested)
            return Nested, *nested, at
        crossed = next((one for one in reversed(self.cut) if self.names[one[0]] == name), None)
        if crossed is not None:
            self.cut.remove(crossed)
            return Crossed, crossed[1], crossed[0], crossed[2], at
        return Stray, at
