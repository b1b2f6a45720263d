"""What stayed from the block that another was copied from: its number, its caption's number, its comment."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator, Sequence

from signpost.core.findings.catalogue import Finding
from signpost.core.findings.page_check import Check
from signpost.core.page.outline import Section, read_outline
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
_REACH = 400  # characters before a heading in which its comment is looked for
#: A comment as long as a section's name, and what may come between it and its heading.
_COMMENT = re.compile(r"<!--((?:(?!-->).){1,120})-->\s*(?:<(?:div|section|article|header|a)\b[^<>]*>\s*)*$")


def find_copied(check: Check) -> Iterator[Finding]:
    """Yield what stayed from a block that was copied."""
    roots = read_outline(check.page).sections
    yield from _numbers(check, roots)
    yield from _captions(check)
    yield from _comments(check)


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
