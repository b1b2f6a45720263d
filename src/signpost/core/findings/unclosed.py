"""End tags that are missing: whose they are, and where their author would have typed them.

Browsers close such an element late, often at the page's end. Its author meant it to end where its content does: a
list behind its last item, a heading with its line, words in bold with their word, their sentence or their block.
Where the source tells which of these it is, one press writes it; where several are possible, they are choices, the
likeliest first; where nothing tells, it is said and left.
"""

from __future__ import annotations

import re
from bisect import bisect_left
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import islice
from typing import NamedTuple

from signpost.core.findings.catalogue import Choice, Finding
from signpost.core.findings.page_check import Check
from signpost.core.page import Page
from signpost.core.page.habits import read_habits
from signpost.core.page.kept import kept_with_page
from signpost.core.page.marks import HEADINGS
from signpost.core.page.markup import FORMATTING, OPTIONAL_END, VOID, tokens_of
from signpost.core.page.slips import Unclosed
from signpost.core.page.tokens import Tag, Tokens
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Span, after_line_end, indent_before, line_start

#: Elements at whose tags a run of words ends.
WITHIN_LINES = FORMATTING | frozenset(
    "abbr acronym bdo bdi br cite data del dfn img ins kbd label mark q samp span sub sup time var wbr".split()
)
#: Elements that mark words, and so end in a line.
_MARKING = WITHIN_LINES - VOID
#: Elements that contain items or cells, and those, at whose tags whatever is open within them ends.
_HOLDERS = frozenset("table ul ol menu dl select".split())
_PIECES = OPTIONAL_END - frozenset("html head body p rt rp".split())
#: What stands right in a holder.
_ITEMS = {
    "ul": frozenset(["li"]),
    "ol": frozenset(["li"]),
    "menu": frozenset(["li"]),
    "dl": frozenset(["dt", "dd"]),
    "select": frozenset(["option", "optgroup"]),
    "table": frozenset("caption colgroup col thead tbody tfoot tr td th".split()),
}
#: What may stand between them.
_ANYWHERE = frozenset(["script", "template"])
#: Of those of a table, what contains none of the others.
_CELLS = frozenset(["caption", "td", "th"])
#: Elements that contain words and what marks them, and no blocks.
_OF_WORDS = frozenset([*HEADINGS, "pre", "legend", "summary"])
SHOWN = 60  # characters of the source that a message shows
_LOOKED_AT = 2000  # characters in which as many are looked for
_BODY_END = re.compile(r"</(?:body|html)\s*>", re.IGNORECASE)
_STOP = re.compile(r"[.!?:](?=\s)")
#: A stop that ends no sentence: of a number, of an initial, of a word that is cut short.
_NO_STOP = re.compile(
    r"(?:^|[\s(])(?:\d+(?:\.\d+)*|\w|approx|e\.?g|i\.?e|cf|vs|no|nr|dr|mr|mrs|ms|st|vol|fig|pp?|etc)\.$",
    re.IGNORECASE,
)
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
#: How many times the indentation of tags has to fit before it tells something.
_FITTING = 2


@dataclass(slots=True)
class Patience:
    """How many tags are looked at for all missing end tags of a page together; without it, more is only said."""

    left: int = 200_000

    def covers(self, tags: int) -> bool:
        """Return whether there is patience for so many tags, and use it up."""
        self.left -= tags
        return self.left >= 0


def find_unclosed(check: Check, slip: Unclosed, patience: Patience) -> Finding:
    """Return that an end tag is missing, with where it belongs as far as the source tells."""
    tag, by = slip.tag, _ended_by(check, slip)
    text = check.page.text
    where = "the page's end"
    if by is not None:
        where = f"{text[by.start : by.end][:SHOWN]} on line {check.lines.line(by.start)}"
    if tag.name == "a" and check.page.attribute_at(tag.start, "href") is None and not _wraps_words(check.page):
        message = f"{written(check, tag)} has no </a>. It only marks a place, so it can end at once."
        return _found(check, tag, message, [Ending("", tag.end)])
    if tag.name in _MARKING:
        message = f"{written(check, tag)} has no </{tag.name}>, so it goes on to {where}, and often beyond."
        return _found(check, tag, message, _ends_of_words(check, tag, by))
    if tag.name in _OF_WORDS:
        return _found(check, tag, _closed_late(check, tag, where), _ends_of_heading(check, tag, by))
    tokens = tokens_of(check.page)
    if not patience.covers(len(tokens) - tokens.at(tag.start)):
        return _found(check, tag, _closed_late(check, tag, where), [])
    if tag.name in _HOLDERS:
        told = _Holders(check, tag).find()
        ends = [] if told is None else [Ending("behind its last item", told.at)]
        tag = tag if told is None else told.tag
        return _found(check, tag, _closed_late(check, tag, where), ends)
    return _unclosed_box(check, tag, by, where)


def _closed_late(check: Check, tag: Tag, where: str) -> str:
    return f"{written(check, tag)} has no </{tag.name}>; browsers close it at {where}."


def _unclosed_box(check: Check, tag: Tag, by: Tag | None, where: str) -> Finding:
    indented = _end_by_indent(check, tag)
    if indented is not None:
        tag, at = indented
        edit = _on_its_line(check, at, tag)
        message = _closed_late(check, tag, where)
        return check.find_at("end-tag-missing", Span(tag.start, tag.end), message, [edit])
    edits: list[Edit] = []
    choices: list[Choice] = []
    if by is not None:
        first = _end_of_first_block(check, tag, by)
        if first is None:
            edits = [_closing(check, tag, by)]
        else:
            last = _last_words(check.page.text[tag.end : first])
            choices = [
                Choice(f"End it behind “{last}”" if last else "End it at once", (insertion(check, first, tag),)),
                Choice(f"End it at {where}", (_closing(check, tag, by),)),
            ]
    message = _closed_late(check, tag, where)
    return check.find_at("end-tag-missing", Span(tag.start, tag.end), message, edits, choices)


class Ending(NamedTuple):
    """Where an element may end."""

    words: str  # says where
    at: int


def _found(check: Check, tag: Tag, message: str, ends: Sequence[Ending]) -> Finding:
    """Return a finding with the places where an element may end: one is written by a press, several are choices."""
    edits: list[Edit] = []
    choices: list[Choice] = []
    if len(ends) == 1:
        edits = [_behind(check, ends[0].at, tag)]
    else:
        choices = [Choice(f"End it {one.words}", (insertion(check, one.at, tag),)) for one in ends]
    return check.find_at("end-tag-missing", Span(tag.start, tag.end), message, edits, choices)


def written(check: Check, tag: Tag) -> str:
    """Return a start tag as a message shows it."""
    found = " ".join(check.page.text[tag.start : tag.end].split())
    return found if len(found) <= SHOWN else found[: SHOWN - 1] + "…"


def insertion(check: Check, at: int, tag: Tag) -> Edit:
    """Return the edit that puts the end tag of an element at an offset."""
    return Edit(at, at, read_habits(check.page).end(tag.name), reason=f"the end tag of {tag.name}")


def _behind(check: Check, at: int, tag: Tag) -> Edit:
    """Return the edit that puts an end tag behind what ends there, on a line of its own as the start tag is."""
    text, habits = check.page.text, read_habits(check.page)
    indent = indent_before(text, tag.start)
    if tag.name not in _HOLDERS or indent is None or after_line_end(text, tag.end) is None:
        return insertion(check, at, tag)
    if after_line_end(text, at) is None and text[at:].strip():
        return insertion(check, at, tag)
    return Edit(at, at, habits.newline + indent + habits.end(tag.name), reason=f"the end tag of {tag.name}")


# ---------------------------------------------------------------- lists and tables


@dataclass(slots=True)
class _Open:
    """A holder that is open, while its tags are gone through."""

    index: int  # of its start tag
    name: str
    item: str = ""  # which of its items is open; "" for none
    boxes: int = 0  # how many boxes around items are open in it, as a dl may have them
    end: int = 0  # behind the last end tag of an item; 0 for none yet


class _Told(NamedTuple):
    """Which element the source tells to have no end tag, and behind what it ends."""

    tag: Tag
    at: int


class _Holders:
    """Goes through the tags from a list or table on, until one shows that it has ended, or one within it has.

    Whoever writes the end tags of items shows with them where a list ends: what comes behind one of them and is no
    item is not in the list any more.
    """

    def __init__(self, check: Check, tag: Tag) -> None:
        self.tokens = tokens_of(check.page)
        self.first = self.tokens.at(tag.start)
        self.open = [_Open(self.first, tag.name)]

    def find(self) -> _Told | None:
        """Return what has no end tag; None where nothing tells."""
        tokens = self.tokens
        for at in range(self.first + 1, len(tokens)):
            top = self.open[-1]
            name = tokens.names[at]
            if self._ends(top, name[1:], at) if name[0] == "/" else self._begins(top, name, at):
                return _Told(tokens.tag(top.index), top.end) if top.end else None
            if not self.open:
                return None
        return None

    def _begins(self, top: _Open, name: str, at: int) -> bool:
        """Return whether a holder ended before a start tag; else take note of the tag."""
        if name in _ITEMS[top.name]:
            top.item = name
        elif not top.item and name == "div" and top.name == "dl":
            top.boxes += 1
        elif not top.item and name != top.name:
            return name not in _ANYWHERE
        elif name in _HOLDERS:
            self.open.append(_Open(at, name))
        return False

    def _ends(self, top: _Open, name: str, at: int) -> bool:
        """Return whether a holder ended before an end tag; else take note of the tag."""
        if name == top.name:
            self.open.pop()
        elif name in _ITEMS[top.name]:
            if top.item == name or (top.name == "table" and (top.item or name not in _CELLS)):
                top.item, top.end = "", self.tokens.ends[at]
            elif not top.item:
                return len(self.open) > 1 and name in _ITEMS[self.open[-2].name]
        elif name == "div" and top.boxes:
            top.boxes, top.end = top.boxes - 1, self.tokens.ends[at]
        elif name not in _ANYWHERE:
            return not top.item and bool(top.end)
        return False


# ---------------------------------------------------------------- headings, and words that are marked


def _ends_of_heading(check: Check, tag: Tag, by: Tag | None) -> list[Ending]:
    """Return where a heading may end: before the next block; where that is far, with its line, too."""
    words = _line_of(check, tag, by)
    if not words:
        return []
    behind = Ending(f"behind “{_last_words(words)}”", tag.end + len(words))
    line = re.match(r"\s*[^\r\n]*", words)
    first = words if line is None else line[0].rstrip()
    is_long = tag.name in HEADINGS and len(_plain(words)) > _LONGEST_HEADING
    if not is_long or len(first) == len(words) or not _plain(first):
        return [behind]
    return [Ending(f"behind “{_last_words(first)}”", tag.end + len(first)), behind]


def _ends_of_words(check: Check, tag: Tag, by: Tag | None) -> list[Ending]:
    """Return where words that are marked may end, the likeliest first: with their block, sentence or word."""
    words = _line_of(check, tag, by)
    if not words:
        return [Ending("at once", tag.end)] if _is_end_behind(check, tag) else []
    lengths = _lengths_of_words(words)
    if tag.name == "a":
        lengths |= {kind: _without_separators(words, length) for kind, length in lengths.items()}
    ends = {kind: tag.end + length for kind, length in lengths.items() if length}
    if not ends:
        return [Ending("at once", tag.end)]
    if tag.name == "a" and _is_all_of_its_block(check, tag) and not {"sentence", "run", "child"} & ends.keys():
        return [Ending("with its block", max(ends.values()))]
    habit = _habits_of_ends(check.page).get(tag.name, Counter())
    order = sorted(ends, key=lambda kind: (kind != "child", -habit[kind], _USUAL.index(kind)))
    text = check.page.text
    found = {ends[kind]: f"behind “{_last_words(text[tag.end : ends[kind]])}”" for kind in order}
    return [Ending(said, at) for at, said in found.items()]


#: What marked words may end with, the likeliest first where the page does not tell.
_USUAL = ("child", "sentence", "block", "run", "word")


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
        if name not in _MARKING or tokens.names[at + 1] != f"/{name}":
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
def _wraps_words(page: Page) -> bool:
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


def _is_end_behind(check: Check, tag: Tag) -> bool:
    """Return whether the next tag ends something, so that nothing at all is in an element."""
    tokens = tokens_of(check.page)
    index = tokens.at(tag.start) + 1
    return index >= len(tokens) or tokens.names[index][0] == "/"


def _is_all_of_its_block(check: Check, tag: Tag) -> bool:
    """Return whether nothing stands before a tag in its block."""
    tokens = tokens_of(check.page)
    index = tokens.at(tag.start)
    if index < 1:
        return False
    before = tokens.tag(index - 1)
    return before.name not in WITHIN_LINES and not check.page.text[before.end : tag.start].strip()


def _line_of(check: Check, tag: Tag, by: Tag | None) -> str:
    """Return what stands between a start tag and the next block, or what cuts the element off."""
    block = _next_block(check.page, tag.end)
    if by is not None and by.start >= tag.end:
        block = min(block, by.start)
    return check.page.text[tag.end : block].rstrip()


def _plain(markup: str) -> str:
    return " ".join(re.sub("<[^<>]*>", " ", markup).split())


def _last_words(text: str) -> str:
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


# ---------------------------------------------------------------- boxes


def _ended_by(check: Check, slip: Unclosed) -> Tag | None:
    """Return the tag at which browsers end an element: that of the cell or the item it is in, or what cut it off."""
    if slip.tag.name in _HOLDERS:
        return slip.ended_by  # its own items do not end it
    depth = 0
    tags = _holding_tags(check.page)
    for tag in islice(tags, bisect_left(tags, slip.tag.end, key=lambda tag: tag.start), None):
        if slip.ended_by is not None and tag.start >= slip.ended_by.start:
            break
        if tag.name in _HOLDERS:
            depth += -1 if tag.is_end else 1
        elif tag.name in _PIECES and depth <= 0:
            return tag
    return slip.ended_by


@kept_with_page
def _holding_tags(page: Page) -> Sequence[Tag]:
    """Return the tags of cells and items, and of what contains them."""
    return [tag for tag in tokens_of(page).tags() if tag.name in _HOLDERS or tag.name in _PIECES]


def _end_of_first_block(check: Check, tag: Tag, by: Tag) -> int | None:
    """Return where the first block or run of words ends in an element that contains more; None for one alone."""
    tokens = tokens_of(check.page)
    depth = 0
    begins: list[int] = []  # where blocks and runs of words begin, right in the element
    between, in_paragraph = tag.end, False  # where the last block ends
    for index in range(tokens.at(tag.start) + 1, tokens.at(by.start) + 1):
        name, start = tokens.names[index], tokens.starts[index]
        if start < by.start and (name.lstrip("/") in WITHIN_LINES or name in VOID):
            continue
        if depth == 0:
            if not in_paragraph and tokens.masked[between:start].strip():
                begins.append(between)
            if start < by.start and name[0] != "/":
                begins.append(start)
            in_paragraph = name == "p"
        if name.lstrip("/") not in OPTIONAL_END:
            depth = max(0, depth + (-1 if name[0] == "/" else 1))
        between = tokens.ends[index]
    if len(begins) <= 1:
        return None
    return tag.end + len(check.page.text[tag.end : begins[1]].rstrip())


def _end_by_indent(check: Check, tag: Tag) -> tuple[Tag, int] | None:
    """Return which element has no end tag, and the end tag before whose line it belongs, as the indentation tells.

    Where tags on lines of their own are indented as their partners are, one that is not shows which one is missing.
    """
    tokens, text = tokens_of(check.page), check.page.text
    stack: list[tuple[int, str | None]] = []
    fitting = 0
    for index in range(tokens.at(tag.start), len(tokens.names)):
        name = tokens.names[index]
        if name.lstrip("/") != tag.name:
            continue
        indent = indent_before(text, tokens.starts[index])
        if name[0] != "/":
            stack.append((index, indent))
            continue
        if not stack:
            return None
        if stack[-1][1] == indent:
            stack.pop()
            fitting += indent is not None
        elif len(stack) > 1 and stack[-2][1] == indent and fitting >= _FITTING:
            return tokens.tag(stack[-1][0]), tokens.starts[index]
        else:
            return None
    return None


def _on_its_line(check: Check, at: int, tag: Tag) -> Edit:
    """Return the edit that puts an end tag on a line of its own, before the line that an offset is on."""
    text, habits = check.page.text, read_habits(check.page)
    indent = indent_before(text, tag.start) or ""
    start = line_start(text, at)
    return Edit(start, start, indent + habits.end(tag.name) + habits.newline, reason=f"the end tag of {tag.name}")


def _closing(check: Check, tag: Tag, by: Tag) -> Edit:
    """Return the edit that ends an element where browsers end it, laid out as its start tag is."""
    text = check.page.text
    indent = indent_before(text, tag.start)
    if indent is not None and after_line_end(text, tag.end) is not None and indent_before(text, by.start) is not None:
        return _on_its_line(check, by.start, tag)
    return insertion(check, by.start, tag)
