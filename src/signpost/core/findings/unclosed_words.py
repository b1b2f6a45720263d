"""Where marked words and headings end whose end tag is missing: with their word, sentence, line or block."""

from __future__ import annotations

import re
from bisect import bisect_left
from collections import Counter
from collections.abc import Sequence
from typing import NamedTuple

from signpost.core.page import Page
from signpost.core.page.kept import kept_with_page
from signpost.core.page.marks import HEADINGS
from signpost.core.page.markup import FORMATTING, VOID, tokens_of
from signpost.core.page.tokens import Tag, Tokens

#: Elements at whose tags a run of words ends.
WITHIN_LINES = FORMATTING | frozenset(
    "abbr acronym bdo bdi br cite data del dfn img ins kbd label mark q samp span sub sup time var wbr".split()
)
#: Elements that mark words, and so end in a line.
MARKING = WITHIN_LINES - VOID
#: Elements that contain words and what marks them, and no blocks.
OF_WORDS = frozenset([*HEADINGS, "pre", "legend", "summary"])
SHOWN = 60  # characters of the source that a message shows
_LOOKED_AT = 2000  # characters in which as many are looked for
_STOP = re.compile(r"[.!?:](?=\s)")
#: A stop that ends no sentence: of a number, of an initial, of a word that is cut short.
_NO_STOP = re.compile(
    r"(?:^|[\s(])(?:\d+(?:\.\d+)*|\w|approx|e\.?g|i\.?e|cf|vs|no|nr|dr|mr|mrs|ms|st|vol|fig|pp?|etc)\.$",
    re.IGNORECASE,
)
#: Words up to a mark that begins another thought.
_PHRASE = re.compile(r"[^<,;:(–—]*[^<,;:(–—\s](?=\s*[,;:(–—]\s)|[^<(]*[^<(\s](?=\s*\()")
_WORD = re.compile(r"\s*[^\s<>]+")
_CLOSING = {")": "(", "]": "[", "}": "{"}
_BLANK = re.compile(r"\s*")
#: What stands between links, and is in none of them.
_BETWEEN_LINKS = re.compile(
    r"(?:\s|[|·•»›/–—-]|&(?:nbsp|raquo|rsaquo|middot|bull|gt|ndash|mdash|#1[68][037]|#8226);)+$"
)
_TRAILING = ".,;:!?’”\"'"
#: How many characters a heading has at most that certainly is one.
_LONGEST_HEADING = 120


class Ending(NamedTuple):
    """Where an element may end."""

    words: str  # says where
    at: int


def ends_of_heading(page: Page, tag: Tag, by: Tag | None) -> list[Ending]:
    """Return where a heading may end: before the next block; where that is far, with its line, too."""
    words = _line_of(page, tag, by)
    if not words:
        return []
    behind = Ending(f"behind “{last_words(words)}”", tag.end + len(words))
    line = re.match(r"\s*[^\r\n]*", words)
    first = words if line is None else line[0].rstrip()
    is_long = tag.name in HEADINGS and len(_plain(words)) > _LONGEST_HEADING
    if not is_long or len(first) == len(words) or not _plain(first):
        return [behind]
    return [Ending(f"behind “{last_words(first)}”", tag.end + len(first)), behind]


def ends_of_words(page: Page, tag: Tag, by: Tag | None) -> list[Ending]:
    """Return where words that are marked may end, the likeliest first: with their block, sentence or word."""
    words = _line_of(page, tag, by)
    if not words:
        return [Ending("at once", tag.end)] if _is_end_behind(page, tag) else []
    lengths = _lengths_of_words(words)
    if tag.name == "a":
        phrase = _PHRASE.match(words)
        lengths |= {"phrase": phrase.end()} if phrase is not None else {}
        lengths |= {kind: _without_separators(words, length) for kind, length in lengths.items()}
    ends = {kind: tag.end + length for kind, length in lengths.items() if length}
    if not ends:
        return [Ending("at once", tag.end)]
    if (
        tag.name == "a"
        and _is_all_of_its_block(page, tag)
        and not {"sentence", "phrase", "run", "child"} & ends.keys()
    ):
        return [Ending("with its block", max(ends.values()))]
    habit = _habits_of_ends(page).get(tag.name, Counter())
    order = sorted(ends, key=lambda kind: (kind != "child", -habit[kind], _USUAL.index(kind)))
    text = page.text
    found = {ends[kind]: f"behind “{last_words(text[tag.end : ends[kind]])}”" for kind in order}
    return [Ending(said, at) for at, said in found.items()]


#: What marked words may end with, the likeliest first where the page does not tell.
_USUAL = ("child", "sentence", "block", "phrase", "run", "word")


def _lengths_of_words(words: str) -> dict[str, int]:
    """Return with how many characters of a run of words and tags what is marked may end, by what ends there."""
    found = {"block": len(words)}
    plain = words[: words.find("<")] if "<" in words else words
    stops = (one.end() for one in _STOP.finditer(words[: len(plain) + 1]))
    stop = next((end for end in stops if end <= len(plain) and not _NO_STOP.search(words[:end])), None)
    if stop is not None:
        found["sentence"] = stop
    word = _WORD.match(plain)
    if word is not None:
        only = _without_mark_behind(word[0])
        if only.strip():
            found["word"] = len(only)
    if plain != words and plain.strip():
        found["run"] = len(plain.rstrip())
    elif plain != words:
        child = _first_element(words[:_LOOKED_AT])
        if child is not None:
            found["child"] = child
    return found


def _without_separators(words: str, length: int) -> int:
    """Return how many of the first characters of a run of words are there without what separates links behind it."""
    last = words[max(0, length - SHOWN) : length]
    return length - len(last) + len(_BETWEEN_LINKS.sub("", last))


def _without_mark_behind(word: str) -> str:
    """Return a word without the marks of the sentence that follow it; what ends a character reference stays."""
    only = word.rstrip(_TRAILING)
    while only and only[-1] in _CLOSING and only.count(_CLOSING[only[-1]]) < only.count(only[-1]):
        only = only[:-1].rstrip(_TRAILING)
    reference = re.search(r"&#?\w+$", only)
    return only + ";" if reference is not None and word[len(only) :].startswith(";") else only


def _first_element(markup: str) -> int | None:
    """Return where the element ends with which a piece of markup begins; None where it does not end in it."""
    tokens, depth = Tokens(markup), 0
    for name, end in zip(tokens.names, tokens.ends, strict=True):
        if name in VOID:
            continue
        depth += -1 if name[0] == "/" else 1
        if depth <= 0:
            return end
    return None


@kept_with_page
def _habits_of_ends(page: Page) -> dict[str, Counter[str]]:
    """Return where the author ends elements that mark words: how often with what, by their tags' names."""
    found: dict[str, Counter[str]] = {}
    tokens, text = tokens_of(page), page.text
    blocks = set(_block_starts(page))
    for at in range(len(tokens) - 1):
        name = tokens.names[at]
        if name not in MARKING or tokens.names[at + 1] != f"/{name}":
            continue  # what contains others tells less
        content = text[tokens.ends[at] : tokens.starts[at + 1]].strip()
        behind = _BLANK.match(text, tokens.ends[at + 1])
        ends_block = behind is not None and behind.end() in blocks
        is_word = not re.search(r"\s", content)
        if ends_block == is_word:  # a word that is all of its block tells nothing, nor do some words within one
            kind = "sentence" if not ends_block and content and content[-1] in ".!?:" else ""
        else:
            kind = "word" if is_word else "block"
        if kind and content:
            found.setdefault(name, Counter())[kind] += 1
    return found


@kept_with_page
def wraps_words(page: Page) -> bool:
    """Return whether the author's marks of places contain words, more often than nothing."""
    tokens = tokens_of(page)
    marks = [
        bool(page.text[tag.end : tokens.starts[tokens.at(tag.start) + 1]].strip())
        for tag in tokens.named("a")
        if tokens.at(tag.start) + 1 < len(tokens)
        and page.attribute_at(tag.start, "href") is None
        and tokens.names[tokens.at(tag.start) + 1] == "/a"
    ]
    return 2 * sum(marks) > len(marks)


def _is_end_behind(page: Page, tag: Tag) -> bool:
    """Return whether the next tag ends something, so that nothing at all is in an element."""
    tokens = tokens_of(page)
    index = tokens.at(tag.start) + 1
    return index >= len(tokens) or tokens.names[index][0] == "/"


def _is_all_of_its_block(page: Page, tag: Tag) -> bool:
    """Return whether nothing stands before a tag in its block."""
    tokens = tokens_of(page)
    index = tokens.at(tag.start)
    if index < 1:
        return False
    before = tokens.tag(index - 1)
    return before.name not in WITHIN_LINES and not page.text[before.end : tag.start].strip()


def _line_of(page: Page, tag: Tag, by: Tag | None) -> str:
    """Return what stands between a start tag and the next block, or what cuts the element off."""
    block = _next_block(page, tag.end)
    if by is not None and by.start >= tag.end:
        block = min(block, by.start)
    return page.text[tag.end : block].rstrip()


def _plain(markup: str) -> str:
    return " ".join(re.sub("<[^<>]*>", " ", markup).split())


def last_words(text: str) -> str:
    """Return the last words of a piece of source, without its tags."""
    last = text[-_LOOKED_AT:]
    if len(last) < len(text) and -1 < last.find(">") < last.find("<") % len(text):
        last = last[last.index(">") + 1 :]  # of a tag that begins before it
    return " ".join(re.sub("<[^<>]*>", "", last).split())[-SHOWN:]


def _next_block(page: Page, offset: int) -> int:
    """Return where the next tag begins, from an offset on, at which a run of words ends."""
    starts = _block_starts(page)
    at = bisect_left(starts, offset)
    return starts[at] if at < len(starts) else len(page.text)


@kept_with_page
def _block_starts(page: Page) -> Sequence[int]:
    tokens = tokens_of(page)
    named = zip(tokens.names, tokens.starts, strict=True)
    return [start for name, start in named if name.lstrip("/") not in WITHIN_LINES]
