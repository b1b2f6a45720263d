"""The tags and comments of a text as the standard's tokenizer takes them (HTML 13.2.5), where its author wrote them.

What is markup is asked here and nowhere else: a ">" within an attribute, a "<" in one, comments, the raw text of
scripts, CDATA in drawings and names in upper case are as browsers have them.
"""

from __future__ import annotations

import re
from bisect import bisect_left, bisect_right
from collections.abc import Collection, Iterator, Sequence
from functools import cached_property
from itertools import chain, islice, takewhile
from typing import NamedTuple

from turbohtml import Token, TokenType, tokenize

from signpost.core.text.positions import Lines, Span

#: Elements whose content is no markup (HTML 13.2.5.1: script, raw text and escapable raw text).
RAW_TEXT = frozenset("script style textarea title xmp iframe noembed noframes".split())
#: What the tokenizer takes for such: it reads as if scripts ran, the parser as if they did not.
_RAW = RAW_TEXT | {"noscript"}
_DRAWINGS = frozenset(["svg", "math"])  # within which what is raw text elsewhere is markup, and CDATA is text
#: Start tags that no drawing contains, and so end it (HTML 13.2.6.5).
_NEVER_DRAWN = frozenset(
    "b big blockquote body br center code dd div dl dt em embed h1 h2 h3 h4 h5 h6 head hr i img li listing menu meta "
    "nobr ol p pre ruby s small span strong strike sub sup table tt u ul var".split()
)
#: Elements of drawings whose content is HTML again (HTML 13.2.6, HTML integration points).
_HTML_AGAIN = frozenset(["title", "desc", "foreignobject"])
_CDATA, _CDATA_END = "<![CDATA[", "]]>"
#: How often at most a text is taken up again where the tokenizer takes markup for raw text, or CDATA for markup.
_MOST_RESUMED = 200

_START, _END, _COMMENT = TokenType.START_TAG, TokenType.END_TAG, TokenType.COMMENT
_TEXT = TokenType.TEXT


class Tag(NamedTuple):
    """A start tag or an end tag as written; a tuple, since there are many."""

    name: str  # in lower case
    start: int
    end: int
    is_end: bool


class Tokens:
    """A text's tags, in order, and what is no markup in it; a tag is known by its index."""

    def __init__(self, text: str) -> None:
        self.text = text
        self.names: list[str] = []  # of tags, in lower case; of end tags behind a slash
        self.starts: list[int] = []  # of tags, rising
        self.ends: list[int] = []
        #: Comments (`<!-- -->`), CDATA in drawings and raw text, in order: where no tag is, however much like one.
        self.silent: list[Span] = []
        self._around: list[str] = []  # drawings around the place that was read to, and what in them is HTML again
        self._drawn = False  # whether that place is right in a drawing
        at, self._resumed = 0, 0
        while at >= 0:
            at = self._read(at)

    def _read(self, begin: int) -> int:
        """Read on from outside of any raw text; return where to take the text up again, or -1 at its end."""
        text = self.text[begin:]
        lines, plain = Lines(text).starts, "\r" not in text
        names, starts, ends = self.names, self.starts, self.ends
        is_raw = False  # whether what the last tag opened contains raw text
        for token in tokenize(text, capture_source=True, capture_attributes=False):
            kind = token.type
            if kind is _TEXT:
                continue
            start = begin + lines[token.line - 1] + token.col
            if is_raw:
                self.silent.append(Span(ends[-1], start))
            is_raw = False
            if kind is _START or kind is _END:
                name: str = token.tag  # type: ignore[assignment]
                names.append(name if kind is _START else "/" + name)
                starts.append(start)
                ends.append(start + len(token.source) if plain else self._end(begin, lines, token))  # type: ignore[arg-type]
                is_raw = kind is _START and name in _RAW
                is_markup = is_raw and (name not in RAW_TEXT or self._drawn)
                if self._around or name in _DRAWINGS:
                    self._draw(name, is_end=kind is _END, is_empty=token.self_closing)
                if is_markup and self._may_resume():
                    return ends[-1]
            elif kind is _COMMENT:
                end = self._end(begin, lines, token)
                if self._note_comment(start, end) > end:
                    return self.silent[-1].end
        if is_raw:
            self.silent.append(Span(ends[-1], len(self.text)))
        return -1

    def _may_resume(self) -> bool:
        """Return whether the text is taken up once more where the tokenizer is wrong: all the rest is read then."""
        self._resumed += 1
        return self._resumed <= _MOST_RESUMED

    def _note_comment(self, start: int, end: int) -> int:
        """Note a comment, or CDATA in a drawing; return where it ends, which of CDATA is not where its token does."""
        if self.text.startswith("<!--", start):
            self.silent.append(Span(start, end))
        elif self._drawn and self.text.startswith(_CDATA, start):
            found = self.text.find(_CDATA_END, start)
            behind = len(self.text) if found < 0 else found + len(_CDATA_END)
            end = behind if behind > end and self._may_resume() else end
            self.silent.append(Span(start, end))
        return end

    def _draw(self, name: str, *, is_end: bool, is_empty: bool) -> None:
        """Note what a tag begins or ends of drawings."""
        around = self._around
        if is_end and name in around:
            del around[len(around) - 1 - around[::-1].index(name) :]
        elif self._drawn and name in _NEVER_DRAWN and (not is_end or name in ("br", "p")):
            while around and around[-1] in _DRAWINGS:
                around.pop()
        elif not is_end and not is_empty and (name in _DRAWINGS or (name in _HTML_AGAIN and self._is_in_svg())):
            around.append(name)
        self._drawn = bool(around) and around[-1] in _DRAWINGS

    def _is_in_svg(self) -> bool:
        """Return whether the place is right in a drawing whose outermost element is `svg`."""
        outermost = list(takewhile(_DRAWINGS.__contains__, reversed(self._around)))[-1:]
        return outermost == ["svg"]

    @staticmethod
    def _end(begin: int, lines: Sequence[int], token: Token) -> int:
        """Return the offset behind a token, whose source has LF alone at the ends of its lines."""
        written = token.source or ""
        below = written.count("\n")
        column = len(written) - written.rfind("\n") - 1 if below else token.col + len(written)
        return begin + lines[token.line - 1 + below] + column

    def __len__(self) -> int:
        return len(self.names)

    def tag(self, index: int) -> Tag:
        """Return a tag by its index."""
        name = self.names[index]
        is_end = name[0] == "/"
        return Tag(name[1:] if is_end else name, self.starts[index], self.ends[index], is_end)

    def tags(self, first: int = 0) -> Iterator[Tag]:
        """Yield the tags from one on, in order."""
        for name, start, end in islice(zip(self.names, self.starts, self.ends, strict=True), first, None):
            is_end = name[0] == "/"
            yield Tag(name[1:] if is_end else name, start, end, is_end)

    def at(self, start: int) -> int:
        """Return the index of the tag that begins at an offset; -1 where none does."""
        return self._at.get(start, -1)

    @cached_property
    def _at(self) -> dict[int, int]:
        return dict(zip(self.starts, range(len(self.starts)), strict=True))

    def tag_at(self, start: int) -> Tag | None:
        """Return the tag that begins at an offset; None where none does."""
        index = self.at(start)
        return None if index < 0 else self.tag(index)

    def next(self, offset: int) -> int:
        """Return the index of the first tag that begins at an offset or behind it; the number of tags for none."""
        return bisect_left(self.starts, offset)

    def around(self, offset: int) -> Tag | None:
        """Return the tag that contains an offset; None where none does."""
        index = bisect_right(self.starts, offset) - 1
        return self.tag(index) if index >= 0 and offset < self.ends[index] else None

    @cached_property
    def _by_name(self) -> dict[str, list[int]]:
        found: dict[str, list[int]] = {}
        for index, name in enumerate(self.names):
            if name in found:
                found[name].append(index)
            else:
                found[name] = [index]
        return found

    @property
    def distinct(self) -> Collection[str]:
        """The names that tags have, each once."""
        return self._by_name.keys()

    def count(self, name: str) -> int:
        """Return how many tags have a name, in lower case; that of an end tag is behind a slash."""
        return len(self._by_name.get(name, ()))

    def named(self, *names: str, having: str = "") -> Iterator[Tag]:
        """Yield the tags that have one of some names, in order; of those, if asked, that hold a word in any case.

        The names are as in `names`, the word is in lower case, wherever in the tag it stands.
        """
        listed = [self._by_name[name] for name in names if name in self._by_name]
        for index in sorted(chain.from_iterable(listed)) if len(listed) > 1 else chain.from_iterable(listed):
            if not having or having in self.text[self.starts[index] : self.ends[index]].lower():
                yield self.tag(index)

    @cached_property
    def masked(self) -> str:
        """The text with what is no markup blanked out; every other character is where it was."""
        pieces, at = [], 0
        for span in self.silent:
            pieces += [self.text[at : span.start], " " * (span.end - span.start)]
            at = span.end
        return "".join([*pieces, self.text[at:]])

    @cached_property
    def lowered(self) -> str:
        """What is `masked`, its letters A to Z in lower case, and most others."""
        lowered = self.masked.lower()
        if len(lowered) == len(self.masked):
            return lowered
        return re.sub("[A-Z]+", lambda found: found[0].lower(), self.masked)
