"""What the parser had to put up with: its own errors, and tags that do not match.

The tree shows what browsers make of slips; the tags, in the order of the source, show what their author wrote.
"""

from __future__ import annotations

import re
from bisect import bisect_right
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from typing import NamedTuple

from signpost.core.page.facts import Page
from signpost.core.page.kept import kept_for_last_pages
from signpost.core.page.locator import VOID, Locator
from signpost.core.page.marks import HEADINGS
from signpost.core.page.masking import read_markup_only

_PAGES_KEPT = 4
#: A tag as the tokenizer takes it (HTML 13.2.5.6 to 13.2.5.40): quotation marks count only behind "=".
_TAG = re.compile(r"""<(/?)([a-zA-Z][^\s/>]*)((?>[^>"'=]++|=\s*(?>"[^"]*"|'[^']*'|[^\s>"'][^\s>]*|)|["'])*+)>""")
#: Elements whose end tags may be left out (HTML 13.1.2.4).
OPTIONAL_END = frozenset(
    "html head body p li dt dd rt rp optgroup option thead tbody tfoot tr td th colgroup caption".split()
)
#: Elements that a browser opens again behind a block that cut them off (HTML 13.2.4.3), the links among them.
FORMATTING = frozenset("a b big code em font i nobr s small strike strong tt u".split())
#: Elements before which a paragraph ends (HTML 13.2.6.4.7), but for tables: they end it only outside of quirks mode.
_ENDS_PARAGRAPH = frozenset(
    """
    address article aside blockquote center details dialog dir div dl fieldset figcaption figure footer form header
    hgroup hr main menu nav ol p pre section search ul h1 h2 h3 h4 h5 h6 listing xmp
    """.split()
)
_LISTS = frozenset("ul ol menu dir".split())
_FOREIGN = frozenset(["svg", "math"])  # their tags follow XML's rules
_SELF_NESTING = frozenset(["a", "nobr", "button", "option"])  # a second one ends the first


@dataclass(frozen=True, slots=True)
class ParseError:
    """A parse error of the tokenizer."""

    code: str  # the standard's (HTML 13.2.2)
    start: int  # offset of the character at which it was noticed


class Tag(NamedTuple):
    """A start tag or an end tag as written; a tuple, since there are many."""

    name: str  # in lower case
    start: int
    end: int
    is_end: bool


@dataclass(frozen=True, slots=True)
class Unclosed:
    """An element whose end tag is missing, though it may not be left out."""

    tag: Tag
    ended_by: Tag | None  # at which browsers end it, or cut it off; None for the page's end


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


@kept_for_last_pages(_PAGES_KEPT)
def read_parse_errors(page: Page) -> Sequence[ParseError]:
    """Return the parse errors of a page's tokens, in the order of the source (HTML 13.2.2)."""
    where = Locator(page.text)
    return sorted(
        (ParseError(error.code, where.offset(error.line, error.col)) for error in where.tree.errors),
        key=lambda error: error.start,
    )


@kept_for_last_pages(_PAGES_KEPT)
def read_tags(page: Page) -> Sequence[Tag]:
    """Return the tags of a page as written, in order; those in comments, scripts and the like are none."""
    return [
        Tag(found[2].lower(), found.start(), found.end(), bool(found[1]))
        for found in _TAG.finditer(read_markup_only(page))
    ]


def tag_around(page: Page, offset: int) -> Tag | None:
    """Return the tag that contains an offset; None where none does."""
    tags = read_tags(page)
    index = bisect_right(tags, offset, key=lambda tag: tag.start) - 1
    return tags[index] if index >= 0 and offset < tags[index].end else None


def find_unmatched(page: Page) -> list[Slip]:
    """Return where the tags of a page do not match, in the order of the source."""
    return sorted(_Matcher().match(read_tags(page)), key=_place)


def _place(slip: Slip) -> int:
    return slip.inner.start if isinstance(slip, Crossed | Nested) else slip.tag.start


@dataclass
class _Matcher:
    """Goes through tags as the parser does, with the elements that are open."""

    open: list[Tag] = field(default_factory=list)
    cut: list[tuple[Tag, Tag, Tag]] = field(default_factory=list)  # cut off: the element, by which one, at which tag
    ended: list[tuple[Tag, Tag]] = field(default_factory=list)  # by one of their kind: the element, and that one
    paragraph: int | None = None  # how many elements were open where the paragraph began; None for none
    unsure: bool = False  # whether a table may have ended the paragraph
    lists: int = 0
    definitions: int = 0
    foreign: int = 0
    homeless: bool = False  # whether the last item was in no list, so that those beside it are the same slip

    def match(self, tags: Sequence[Tag]) -> Iterator[Slip]:
        for tag in tags:
            if tag.name in _FOREIGN:
                self.foreign = max(0, self.foreign + (-1 if tag.is_end else 1))
            elif self.foreign:
                continue
            elif tag.is_end:
                yield from self._end(tag)
            else:
                yield from self._begin(tag)
        for element, _, at in self.cut:
            yield Unclosed(element, at)
        for element, by in self.ended:
            yield Unclosed(element, by)
        for element in self.open:
            yield Unclosed(element, None)

    def _begin(self, tag: Tag) -> Iterator[Slip]:
        name = tag.name
        if name in _ENDS_PARAGRAPH:
            self.paragraph = len(self.open) if name == "p" else None
            self.unsure = False
        elif name == "table" and self.paragraph is not None:
            self.unsure = True
        if name == "li" or name in ("dt", "dd"):
            if not (self.lists if name == "li" else self.definitions):
                if not self.homeless:
                    yield Homeless(tag)
                self.homeless = True
        elif name in _ENDS_PARAGRAPH and not self.lists:
            self.homeless = False
        if name in VOID or name in OPTIONAL_END:
            return
        if name in _SELF_NESTING and any(one.name == name for one in self.open):
            index = max(at for at, one in enumerate(self.open) if one.name == name)
            self.ended.append((self.open.pop(index), tag))
        self._count(name, 1)
        self.open.append(tag)

    def _count(self, name: str, by: int) -> None:
        if name in _LISTS:
            self.lists += by
        elif name == "dl":
            self.definitions += by

    def _end(self, tag: Tag) -> Iterator[Slip]:
        name = tag.name
        if name == "p":
            if self.paragraph is None and not self.unsure:
                yield Stray(tag)
            self.paragraph, self.unsure = None, False
            return
        if name in OPTIONAL_END:
            return
        index = next((at for at in range(len(self.open) - 1, -1, -1) if self._fits(self.open[at].name, name)), None)
        if index is None:
            yield self._left_over(tag)
            return
        ended = self.open[index]
        for element in self.open[index + 1 :]:
            self.cut.append((element, ended, tag))
            self._count(element.name, -1)
        del self.open[index:]
        self._count(ended.name, -1)
        if self.paragraph is not None and self.paragraph > index and ended.name not in FORMATTING:
            self.paragraph, self.unsure = None, False

    def _left_over(self, tag: Tag) -> Slip:
        """Return what an end tag is that ends nothing: of an element that was cut off before, or of none."""
        nested = next((one for one in reversed(self.ended) if one[0].name == tag.name), None)
        if nested is not None:
            self.ended.remove(nested)
            return Nested(*nested, tag)
        crossed = next((one for one in reversed(self.cut) if one[0].name == tag.name), None)
        if crossed is not None:
            self.cut.remove(crossed)
            return Crossed(crossed[1], crossed[0], crossed[2], tag)
        return Stray(tag)

    @staticmethod
    def _fits(opened: str, ended: str) -> bool:
        """Return whether an end tag ends an element; one of a heading ends any heading (HTML 13.2.6.4.7)."""
        return opened == ended or (opened in HEADINGS and ended in HEADINGS)
