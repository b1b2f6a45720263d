"""What is wrong of a page's contents: entries and sections that do not match."""

from __future__ import annotations

import re
from bisect import bisect_left
from collections.abc import Collection, Iterator, Sequence
from functools import partial
from html import escape
from itertools import pairwise

from signpost.core.addresses.links import LinkKind
from signpost.core.contents import ContentsBlock, ContentsOptions, Listed, State, plan_adoption
from signpost.core.contents.blocks import entry_words
from signpost.core.contents.handmade import Handmade
from signpost.core.contents.own import has_row
from signpost.core.findings.catalogue import Choice, Finding
from signpost.core.findings.page_check import Check
from signpost.core.page import Page
from signpost.core.page.markup import tokens_of
from signpost.core.page.outline import Section, read_outline
from signpost.core.site.plans import SitePlan, plan_for
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Span

_MOST = 5  # sections that a message names
_FEWEST_HEADINGS = 3  # on a page whose list is looked at
_FEWEST_ENTRIES = 2
_SHARE_MISSING = 0.5  # of a short list's entries that sections without one are at most, for it to list the page
_PER_MOVED = 4  # entries for each that is in another place, where the order is that of the page
_STEM = 4  # letters that tell a word
_MANY = 4  # long words of a title
_WORD = re.compile(r"[^\W_]+")
_TAGS = re.compile(r"<[^<>]*>")
_ITEM = re.compile(r"<li\b[^<>]*>((?:(?!</?li\b).){1,400}?)(?=</?(?:li|ul|ol)\b)", re.DOTALL)
_PIECE = re.compile(r"(?<![^>])[^<>]+(?![^<])")
_ROW = 2000  # characters in which the links of a row are looked for
_MARK = r"(?:[|·•/–—]|&(?:middot|bull|ndash|mdash|#183);|(?<=\s)-)"
#: A separator between a link's end and its block's.
#: Or before the bracket that closes the row, or before a break with no link behind it.
_LAST = re.compile(
    rf"</a>(\s*{_MARK})(?=\s*</(?:p|div|nav|center|td|dd|li)\s*>)"
    rf"|</a>(\s+{_MARK})(?=\s*[\])])"
    rf"|</a>(\s*{_MARK})(?=\s*<br\b[^<>]*>\s*(?:[^\s<]|</?(?:p|div|h[1-6]|hr)\b))",
    re.IGNORECASE,
)


def find_faulty_contents(check: Check) -> Iterator[Finding]:
    """Yield what is wrong with the contents of a page, those made by hand too."""
    page = check.page
    is_long = len(page.headings) >= check.options.limits.sections
    if page.made_blocks("contents"):
        for code, start, message in _faulty_entries(page, check.contents.blocks):
            yield check.find(code, start, message)
    elif len(page.headings) < _FEWEST_HEADINGS or not has_row(page, _FEWEST_ENTRIES):
        return
    found = check.contents.handmade
    if found is not None:
        if is_long or len(found.missing) <= _SHARE_MISSING * len(found.listing.entries):
            yield from _faulty_handmade(check, found)
        yield from _unordered(check, found)


def _faulty_handmade(check: Check, found: Handmade) -> Iterator[Finding]:
    page = check.page
    flat = read_outline(page).flat()
    listed = tuple({link.text for link in page.links if link.kind is LinkKind.FRAGMENT and link.text})
    ahead = _led_to_ahead(page, flat)
    missing = [
        one
        for one in found.missing
        if (one or flat[one].level > 1)
        and not _is_listed(flat[one].text, listed)
        and flat[one].identifier not in ahead
        and not _is_named_in_list(page, flat[one].text)
    ]
    yield from _other_words(check, found, flat)
    if not missing:
        return
    plan = partial(_adopted, page, found.start)
    choice = Choice("Adopt the list and complete it", plan=plan)
    message = _names(flat, missing, "your list of contents")
    start = found.element.open.start if found.element else found.start
    yield check.find("contents-incomplete", start, message, choices=[choice])


def _other_words(check: Check, found: Handmade, flat: Sequence[Section]) -> Iterator[Finding]:
    """Yield the entries that have hardly a word in common with the heading that they lead to."""
    for entry, meaning in zip(found.listing.entries, found.guesses, strict=True):
        if meaning.section is None or not meaning.leads or entry.href is None:
            continue
        title = flat[meaning.section].text
        mine, its = _stems(entry.name), _stems(title)
        if mine and its and _share_little(entry.name, title, mine & its) and not mine & _stems(entry.href):
            label = Span(found.span.start + entry.label.start, found.span.start + entry.label.end)
            edit = _worded(check.page.text, label, entry_words(flat[meaning.section]))
            own = edit is not None and entry.words == entry.name  # a number of the author's own stays
            choices = [Choice(f"Write “{title}”", (edit,))] if edit is not None and own else []
            message = f"The entry “{entry.words}” leads to a heading that says “{title}”."
            yield check.find_at("entry-words-differ", label, message, choices=choices)


def _unordered(check: Check, found: Handmade) -> Iterator[Finding]:
    """Yield where a list has a few entries in another order than their sections; one by the alphabet is meant so."""
    entries = found.listing.entries
    order = [one.section if one.leads else None for one in found.guesses]
    sections = [one for one in order if one is not None]
    if len(sections) != len(entries) or len(set(sections)) != len(sections) or len(sections) < _FEWEST_HEADINGS:
        return
    moved = len(sections) - _longest_rise(sections)
    names = [entry.name.casefold() for entry in entries]
    if not 0 < moved <= max(1, len(sections) // _PER_MOVED) or names == sorted(names):
        return
    first = next(at for at in range(1, len(sections)) if sections[at] < sections[at - 1])
    text, base = found.listing.text, found.span.start
    flat = all(entry.depth == 0 for entry in entries)
    should = sorted(range(len(sections)), key=sections.__getitem__)
    edits = [
        Edit(base + entries[at].own.start, base + entries[at].own.end, entries[one].own.of(text), reason="in order")
        for at, one in enumerate(should)
        if flat and one != at
    ]
    choices = [Choice("Put the entries in the order of the page", tuple(edits))] if edits else []
    label = Span(base + entries[first].label.start, base + entries[first].label.end)
    message = f"The entry “{entries[first].words}” stands behind one whose section comes later on the page."
    yield check.find_at("contents-unordered", label, message, choices=choices)


def _longest_rise(numbers: Sequence[int]) -> int:
    """Return how many of some different numbers rise at most, the others left out."""
    ends: list[int] = []
    for number in numbers:
        at = bisect_left(ends, number)
        ends[at : at + 1] = [number]
    return len(ends)


def _share_little(entry: str, title: str, same: frozenset[str]) -> bool:
    """Return whether two titles have nothing in common, or of many words one that any title may have."""
    fewest = min(len(_long_stems(entry)), len(_long_stems(title)))
    return not same or (fewest >= _MANY and len(same & _long_stems(title)) * _MANY <= fewest)


def _long_stems(words: str) -> frozenset[str]:
    return frozenset(word[:_STEM] for word in _WORD.findall(words.casefold()) if len(word) >= _STEM)


def _stems(words: str) -> frozenset[str]:
    """Return what the words begin with, so that “boilers” and “boiler” are alike; those of one letter left out."""
    return frozenset(word[:_STEM] for word in _WORD.findall(words.casefold()) if len(word) > 1)


def _worded(text: str, label: Span, words: str) -> Edit | None:
    """Return the edit that gives a label other words; None where they are in several pieces."""
    pieces = [found for found in _PIECE.finditer(label.of(text)) if found[0].strip()]
    if len(pieces) != 1:
        return None
    inner = pieces[0][0]
    start = label.start + pieces[0].start() + len(inner) - len(inner.lstrip())
    return Edit(start, start + len(inner.strip()), escape(words, quote=False), reason=f"the words of “{words}”")


def _is_listed(title: str, listed: Collection[str]) -> bool:
    """Return whether a jump link has a title's words, or those it begins with: in a list of one entry, perhaps."""
    return any(title == words or title.startswith(words + " ") for words in listed)


def _led_to_ahead(page: Page, flat: Sequence[Section]) -> set[str]:
    """Return the identifiers that jump links before the first of the page's main sections lead to: of other lists."""
    main = [section.start for section in flat if section.identifier and section.level > 1]
    begin = min(main, default=0)
    jumps = (link for link in page.links if link.kind is LinkKind.FRAGMENT and link.start < begin)
    return {(link.href or "").partition("#")[2] for link in jumps}


def _is_named_in_list(page: Page, title: str) -> bool:
    """Return whether an item of a list is a title's plain words: an entry that its author never linked."""
    text, words = tokens_of(page).lowered, title.casefold()
    return any(
        words == " ".join(_TAGS.sub(" ", found[1]).split()) for found in _ITEM.finditer(text) if words in found[1]
    )


def _adopted(page: Page, start: int) -> SitePlan:
    return plan_for(page, plan_adoption(page, start, ContentsOptions()))


def find_last_separators(check: Check) -> Iterator[Finding]:
    """Yield separators behind the last of several links in a row."""
    text = tokens_of(check.page).masked
    for found in _LAST.finditer(text):
        group = next(index for index in (1, 2, 3) if found[index] is not None)
        span = Span(found.start(group), found.end(group))
        before = text[max(0, found.start() - _ROW) : span.start]
        mark = found[group].strip()
        if not re.search(
            rf"</a>\s*{re.escape(mark)}\s*<a\b[^<>]*>(?:(?!</?(?:p|div|li|td)\b).)*$",
            before,
            re.IGNORECASE | re.DOTALL,
        ):
            continue
        edit = Edit(span.start, span.end, "", reason="a separator behind the last link")
        message = (
            f"“{found[group].strip()}” stands behind the last link, where nothing follows that it would separate."
        )
        yield check.find_at("separator-last", span, message, [edit])


def _faulty_entries(page: Page, blocks: Sequence[ContentsBlock]) -> Iterator[tuple[str, int, str]]:
    flat = read_outline(page).flat() if blocks else []
    for block in blocks:
        for one in block.listed:
            yield from _judge(flat, block, one)
        order = [one.section for one in block.listed if one.section is not None]
        start = block.made.element.open.start
        if any(after < before for before, after in pairwise(order)):
            yield "contents-out-of-date", start, "The entries are not in the order of their sections."
        if block.missing:
            yield "section-without-entry", start, _names(flat, block.missing, "these contents")


def _judge(flat: list[Section], block: ContentsBlock, one: Listed) -> Iterator[tuple[str, int, str]]:
    at = block.span.start + one.entry.label.start
    words = f"The entry “{one.entry.words}”"
    title = entry_words(flat[one.section]) if one.section is not None else ""
    if one.state is State.STALE:
        change = f"its heading says “{title}”" if one.entry.words != title else "its address leads nowhere"
        yield "contents-out-of-date", at, f"{words} is out of date: {change}."
    elif one.state is State.DOUBTED:
        yield "entry-doubted", at, f"{words} was shortened by hand, and its heading has since changed: “{title}”."
    elif one.state in (State.GONE, State.OPEN):
        yield "entry-without-section", at, f"{words} does not lead to a section that these contents cover."


def _names(flat: list[Section], missing: Sequence[int], where: str) -> str:
    names = [f"“{flat[index].text}”" for index in missing[:_MOST]]
    more = len(missing) - len(names)
    verb = "has" if len(missing) == 1 else "have"
    return f"{', '.join(names)}{f' and {more} more' if more else ''} {verb} no entry in {where}."
