"""Lines that an author broke in the source and no browser shows so: addresses, verse."""

from __future__ import annotations

import re
from collections.abc import Iterator
from itertools import pairwise

from signpost.core.findings.catalogue import Choice, Finding
from signpost.core.findings.page_check import Check
from signpost.core.page.habits import read_habits
from signpost.core.page.markup import tokens_of
from signpost.core.page.phrasing import PHRASING
from signpost.core.text.edits import Edit

_FEWEST, _MOST = 3, 40  # lines of a paragraph that are looked at
_LONGEST = 46  # characters of a line that is broken on purpose
_ROOM = 12  # characters by which a line is shorter than it could be, its next word included
_FILLED = 60  # characters of a line that is full, where a page has none to compare with
_BEGINS = re.compile(r"[\W_]*(?:[A-ZÀ-ÖØ-Þ\d])")
_FEW_WORDS = 5  # of a line of an address
_FEWEST_OF_VERSE = 4
_DIGIT = re.compile(r"\d")
#: A sentence that ends within its line, or letters of which a line has few.
_FLOWS = re.compile(r"[.!?] +\S|[\u1100-\uffff]")
_SENTENCE = re.compile(r"[.!?:;]\W*\Z")
_TAG = re.compile(r"<[^<>]*>|&nbsp;")
#: Tags that a line may have in it; links are lists of their own.
_IN_LINE = {name for tag in PHRASING - {"a", "br"} for name in (tag, f"/{tag}")}
_LINE = re.compile(r"[^\r\n]+")


def find_lost_breaks(check: Check) -> Iterator[Finding]:
    """Yield the paragraphs whose lines are broken in the source as if that were seen."""
    page, tokens = check.page, tokens_of(check.page)
    if "white-space" in page.text:
        return  # browsers may show the lines as they are
    for tag in tokens.named("p"):
        at = tokens.at(tag.start) + 1
        while at < len(tokens) and tokens.names[at] in _IN_LINE:
            at += 1
        end = tokens.starts[at] if at < len(tokens) else tag.end
        if tokens.names[at : at + 1] in (["br"], ["a"]) or end - tag.end > _LONGEST * _MOST:
            continue
        bare = _TAG.sub(lambda found: " " * len(found[0]), tokens.masked[tag.end : end])
        lines = [found for found in _LINE.finditer(bare) if found[0].strip()]
        if not _FEWEST <= len(lines) <= _MOST or not _is_broken([" ".join(found[0].split()) for found in lines]):
            continue
        mark = read_habits(page).start("br")
        places = [tag.end + found.start() + len(found[0].rstrip()) for found in lines[:-1]]
        edits = [Edit(place, place, mark, reason="the line ends here") for place in places]
        message = f"The {len(lines)} lines of this paragraph are one in browsers, which take line ends for spaces."
        choices = [Choice("End each line with a break", tuple(edits))]
        yield check.find("line-breaks-lost", tag.start, message, choices=choices)


def _is_address(lines: list[str]) -> bool:
    """Return whether lines are such as those of an address: of few words, or with a number, and no sentences."""
    ends = any(line.endswith((".", ":", ";", "!", "?")) for line in lines)
    goes_on = 2 * sum(line.endswith(",") for line in lines) > len(lines)
    return not ends and not goes_on and all(len(line.split()) <= _FEW_WORDS or _DIGIT.search(line) for line in lines)


def _is_verse(lines: list[str]) -> bool:
    """Return whether lines are such as those of a verse: several, about as long, and most of them end with a mark."""
    lengths = [len(line) for line in lines]
    marked = sum(line.endswith((",", ".", ";", ":", "!", "?")) for line in lines)
    return len(lines) >= _FEWEST_OF_VERSE and max(lengths) <= 2 * min(lengths) and 2 * marked >= len(lines)


def _is_broken(lines: list[str]) -> bool:
    """Return whether lines end where none has to: each is short, begins as a line does, and has room for more."""
    if max(map(len, lines)) > _LONGEST or not all(map(_BEGINS.match, lines)):
        return False
    if all(map(_SENTENCE.search, lines)):
        return False  # a sentence on each line, as some write all their text
    if any(_FLOWS.search(line) for line in lines) or not (_is_address(lines) or _is_verse(lines)):
        return False
    return all(len(line) + len(after.split()[0]) + _ROOM <= _FILLED for line, after in pairwise(lines))
