"""What stayed from the block that another was copied from: its number, caption, comment, picture or link."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

from signpost.core.findings.catalogue import Finding
from signpost.core.findings.page_check import Check
from signpost.core.page import Page
from signpost.core.page.markup import tokens_of
from signpost.core.page.outline import Section, read_outline
from signpost.core.page.phrasing import PHRASING
from signpost.core.page.tokens import Tag
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Span

#: A number before a heading's words, and the one before its last dot: "3.2 Boilers", "Chapter 4: Boilers".
_NUMBER = re.compile(
    r"(?:(?:chapter|part|section|step|lesson|unit|day)\s+)?((?:\d+\.)*\d+)(?=[.):\s])", re.IGNORECASE
)
_CAPTION = re.compile(
    r"<(?:figcaption|caption)\b[^<>]*>\s*(?:<(?:b|strong|em|i|span)\b[^<>]*>\s*)?"
    r"((?:figure|fig\.|table|picture|plate|map|sample|listing|example)\s+(\d+))\b",
    re.IGNORECASE,
)
_FEWEST_NUMBERED = 3  # headings side by side that have numbers, for one of them to be wrong
_SHARE = 0.7  # of the headings that have to have numbers
_WORDS = re.compile(r"[^\W\d_]{4,}")
_MOST_MODELS = 5  # sections with the same link or picture that are compared
_MOST_TAGS = 60  # of a section that is looked at for being a copy
_REACH = 400  # characters before a heading in which its comment is looked for
#: A comment as long as a section's name, and what may come between it and its heading.
_COMMENT = re.compile(r"<!--((?:(?!-->).){1,120})-->\s*(?:<(?:div|section|article|header|a)\b[^<>]*>\s*)*$")


@dataclass(frozen=True, slots=True)
class _Piece:
    """A link or a picture of a section."""

    tag: str
    start: int
    words: str
    where: str  # its address
    before: tuple[str, ...]  # the tags from the heading to it


class _Copied:
    """What may be a copy of a section, or be copied."""

    def __init__(self, page: Page, section: Section) -> None:
        self.section = section
        self.named = frozenset(_WORDS.findall(section.text.casefold()))
        self.page = page

    @cached_property
    def pieces(self) -> list[_Piece]:
        """Its links and pictures, up to the first section within."""
        tokens, section = tokens_of(self.page), self.section
        end = section.sections[0].start if section.sections else section.end
        first, behind = tokens.next(section.heading.element.end), tokens.next(end)
        links = {one.start: one for one in self.page.links if section.start <= one.start < end}
        found: list[_Piece] = []
        for at in range(first, min(behind, first + _MOST_TAGS)):
            tag = tokens.tag(at)
            if tag.name not in ("a", "img") or tag.is_end:
                continue
            words, where = "", ""
            if tag.name == "img":
                said = {one.name: one.value for one in self.page.attributes_at(tag.start)}
                words, where = said.get("alt", ""), said.get("src", "")
            elif tag.start in links and self._fills_line(tag):
                words, where = links[tag.start].text, links[tag.start].href or ""
            if words:
                found.append(_Piece(tag.name, tag.start, words, where, tuple(tokens.names[first:at])))
        return found

    def _fills_line(self, tag: Tag) -> bool:
        """Return whether a link is all that is in its block, or its line; in a sentence, it may belong to any."""
        tokens, text = tokens_of(self.page), self.page.text
        at = tokens.at(tag.start)
        end = next((one for one in range(at + 1, len(tokens)) if tokens.names[one] == "/a"), len(tokens))
        around = at > 0 and end + 1 < len(tokens)
        before = text[tokens.ends[at - 1] : tag.start] if around else "?"
        behind = text[tokens.ends[end] : tokens.starts[end + 1]] if around else "?"
        in_block = tokens.names[at - 1] not in PHRASING and tokens.names[end + 1 : end + 2] != ["a"]
        return in_block and not before.strip() and not behind.strip(" .\t\r\n")


def find_copied(check: Check) -> Iterator[Finding]:
    """Yield what stayed from a block that was copied."""
    roots = read_outline(check.page).sections
    yield from _numbers(check, roots)
    yield from _captions(check)
    yield from _comments(check)
    yield from _stale(check, roots)


def _stale(check: Check, sections: Sequence[Section]) -> Iterator[Finding]:
    """Yield the links and pictures that stayed from the section beside which another was copied from.

    The two have the same elements up to there, and the words are of the one's heading alone.
    """
    seen: dict[tuple[str, str, str], list[tuple[_Copied, int]]] = {}
    for section in sections if len(sections) > 1 else ():
        copy = _Copied(check.page, section)
        for at, piece in enumerate(copy.pieces):
            models = seen.setdefault((piece.tag, piece.words, piece.where), [])
            model = next((one for one, index in models if _is_copied(one, index, copy, at)), None)
            if model is not None:
                name = "picture" if piece.tag == "img" else "link"
                message = (
                    f"This {name}, “{piece.words}”, is the one under “{model.section.text}”. It may have stayed when "
                    f"“{section.text}” was copied from there."
                )
                yield check.find("copy-stale", piece.start, message)
            elif len(models) < _MOST_MODELS:
                models.append((copy, at))
    for section in sections:
        yield from _stale(check, section.sections)


def _is_copied(model: _Copied, index: int, copy: _Copied, at: int) -> bool:
    """Return whether a piece stayed from the same one of another section."""
    said = frozenset(_WORDS.findall(copy.pieces[at].words.casefold()))
    same = model.pieces[index].before == copy.pieces[at].before
    return same and bool(said & model.named) and bool(copy.named) and not said & copy.named


def _numbers(check: Check, sections: Sequence[Section]) -> Iterator[Finding]:
    """Yield the headings that have the number of the one before them, where the numbers count up else."""
    numbered = [(one, found[1]) for one in sections if (found := _NUMBER.match(one.text))]
    if len(numbered) >= max(_FEWEST_NUMBERED, _SHARE * len(sections)):
        last = [int(number.rpartition(".")[2]) for _, number in numbered]
        for at in range(1, len(last)):
            one, number = numbered[at]
            following = last[at + 1 : at + 2]
            if last[at] == last[at - 1] and following in ([], [last[at] + 1], [last[at] + 2]):
                message = f"“{one.text}” has the number of the heading before it, {number}."
                yield check.find("number-repeated", one.start, message)
    for one in sections:
        yield from _numbers(check, one.sections)


def _captions(check: Check) -> Iterator[Finding]:
    seen: Counter[str] = Counter()
    for found in _CAPTION.finditer(check.page.text):
        name = " ".join(found[1].casefold().split())
        seen[name] += 1
        if seen[name] > 1:
            span = Span(found.start(1), found.end(1))
            yield check.find_at("number-repeated", span, f"There is a “{found[1]}” above this one already.")


def _comments(check: Check) -> Iterator[Finding]:
    """Yield comments that name a section, and stand before another one besides."""
    named: dict[str, str] = {}
    text = check.page.text
    for heading in check.page.headings:
        start = heading.element.open.start
        base = max(0, start - _REACH)
        found = _COMMENT.search(text[base:start])
        words = found[1].strip() if found else ""
        said = frozenset(_WORDS.findall(words.casefold()))
        if found is None or not said:
            continue
        own = said <= frozenset(_WORDS.findall(heading.text.casefold()))
        if own:
            named.setdefault(words, heading.text)
        elif words in named and named[words] != heading.text:
            message = f"This comment stayed from “{named[words]}”, which has the same; here “{heading.text}” begins."
            span = Span(base + found.start(), base + found.end(1) + 3)
            at = base + found.start(1) + len(found[1]) - len(found[1].lstrip())
            edit = Edit(at, at + len(words), heading.text, reason="the comment names its section")
            yield check.find_at("comment-copied", span, message, [edit] if "--" not in heading.text else [])
