"""Words of a page that resemble a section's title, and so may want to be jump links to it."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

from signpost.core.addresses.links import LinkKind
from signpost.core.back_to_top.links import find_back_links
from signpost.core.contents.blocks import entry_words
from signpost.core.contents.matching import SURE, Matcher
from signpost.core.identifiers.naming import WEAK_WORDS
from signpost.core.page import Node, Nodes, Page, Target, read_nodes
from signpost.core.page.outline import Section, read_outline
from signpost.core.page.shown import Shown, shown_characters
from signpost.core.site.site import Resolved, Site
from signpost.core.text.positions import Span
from signpost.core.text.tags import start_tag_end


class OfferKind(StrEnum):
    """What kind of words they are."""

    PLACEHOLDER = "placeholder"  # a link without a destination
    MENTION = "mention"  # plain words that name a section
    UNTELLING = "untelling"  # the words of a jump link that say nothing alone (WCAG 2.2, 2.4.4)


@dataclass(frozen=True, slots=True)
class Offer:
    """Words that may be linked, or better words for a link."""

    kind: OfferKind
    span: Span  # of the words, or of the link's start tag
    words: str
    path: str  # of the page that the section is on
    section: int  # its index
    sure: bool


@dataclass(frozen=True, slots=True)
class _Title:
    section: int
    words: str  # in lower case, where it is long
    is_long: bool  # whether it is telling enough to be found by itself


#: Words that tell nothing of where a link leads.
UNTELLING = frozenset(
    """
    click here|here|this|this link|this page|this section|link|more|read more|see more|more info|learn more|details|
    go|go there|jump|there|above|below|see above|see below|see here|continue|hier|mehr|ici|lire la suite|aquí|meer
    """.replace("\n    ", "")
    .strip()
    .split("|")
)
_LEADS_IN = r"(?:see(?:\s+also)?|under|read|section|chapter|part|heading|headed)"
_LED = re.compile(rf"(?<!\w){_LEADS_IN}\s+[“\"'‘]?$", re.IGNORECASE)
_POINTED = re.compile(r"[”\"'’]?\s+(?:above|below)\b")
_NUMBER_WORDS = "one two three four five six seven eight nine ten eleven twelve".split()
_ORDINAL = re.compile(rf"\b(?:part|section|chapter)\s+(\d{{1,2}}|{'|'.join(_NUMBER_WORDS)})\b", re.IGNORECASE)
#: Elements whose words are offered, if they are right in them.
_PROSE = frozenset("p li dd dt td th blockquote figcaption caption div".split())
_SKIPPED = frozenset("a code pre kbd samp h1 h2 h3 h4 h5 h6 nav script style button label title".split())
_LIKELY = 70  # likeness, of 100, from which a placeholder's words are worth offering
_WORD = re.compile(r"\w+")
_IN_WORD = re.compile(r"\w")
_AHEAD = 20  # characters that lead words in
_LONG = 8  # letters that a title of several words has to be found by them alone


def find_offers(site: Site, path: str, nodes: Nodes | None = None) -> list[Offer]:
    """Return the words of a page that may want to be jump links, in source order; each mention once a section."""
    page = site.pages[path]
    flat = read_outline(page).flat()
    matcher = Matcher(page, flat)
    offers = [*_placeholders(page, matcher), *_untelling(site, page)]
    if flat:
        offers += _mentions(page, flat, nodes or read_nodes(page))
    return sorted(offers, key=lambda offer: offer.span.start)


def _placeholders(page: Page, matcher: Matcher) -> Iterator[Offer]:
    listed = {link.start for made in page.made for link in made.links}
    listed |= {link.start for link in find_back_links(page)}
    for link in page.links:
        if link.kind not in (LinkKind.PLACEHOLDER, LinkKind.NONE) or link.start in listed or not link.text:
            continue
        section, likeness = next(iter(matcher.by_words(link.text)), (-1, 0))
        if likeness >= _LIKELY:
            end = start_tag_end(page.text, link.start)
            span = Span(link.start, end)
            yield Offer(OfferKind.PLACEHOLDER, span, link.text, page.path, section, likeness >= SURE)


def _untelling(site: Site, page: Page) -> Iterator[Offer]:
    for link in page.links:
        if link.text.casefold().strip(" .!…»>") not in UNTELLING:
            continue
        outcome = site.follow(page.path, link.href)
        if isinstance(outcome, Resolved) and isinstance(outcome.target, Target):
            other = site.pages[outcome.path]
            before = [index for index, heading in enumerate(other.headings) if heading.begin <= outcome.target.start]
            if before and other.headings[before[-1]].text:
                span = Span(link.start, start_tag_end(page.text, link.start))
                yield Offer(OfferKind.UNTELLING, span, link.text, outcome.path, before[-1], sure=True)


def _mentions(page: Page, flat: Sequence[Section], nodes: Nodes) -> Iterator[Offer]:
    titles = _index_titles(flat)
    highest = min((section.level for section in flat if section.level > 1), default=1)
    numbered = [section for section in flat if section.level == highest]
    seen: set[tuple[int, int]] = set()  # where a mention is and what it means
    made = [Span(block.element.open.start, block.element.end) for block in page.made]
    for node in nodes.all:
        if not _is_prose(page, nodes, node) or any(span.start <= node.start < span.end for span in made):
            continue
        if next(_found_in(node.text, titles, numbered), None) is None:
            continue  # nothing is named, as in most paragraphs
        home = sum(section.start <= node.start for section in flat) - 1
        for run in _runs(page, nodes, node):
            for at, section, sure in _found_in("".join(char.char for char in run), titles, numbered):
                if not _is_within(flat, home, section) and (home, section) not in seen:
                    seen.add((home, section))
                    yield _offer(page, run, at, section, sure=sure)


def _found_in(
    shown: str, titles: Mapping[str, Sequence[_Title]], numbered: Sequence[Section]
) -> Iterator[tuple[tuple[int, int], int, bool]]:
    """Yield where words mean a section, which one, and whether surely."""
    for word in _WORD.finditer(shown):
        for title in titles.get(word[0].casefold(), ()):
            end = word.start() + len(title.words)
            written = shown[word.start() : end]
            same = (written.lower() if title.is_long else written) == title.words
            if not same or (end < len(shown) and _IN_WORD.match(shown, end)):
                continue
            before = shown[max(word.start() - _AHEAD, 0) : word.start()]
            led = _LED.search(before) is not None or _POINTED.match(shown, end) is not None
            capital = word[0][0].isupper() and before.rstrip()[-1:] not in ("", ".", "!", "?", ":")
            telling = word[0].casefold() not in WEAK_WORDS
            if led or (title.is_long and (capital or telling)):
                yield (word.start(), end), title.section, led or capital
    for found in _ORDINAL.finditer(shown):
        called = _by_number(numbered, found[0], found[1])
        if called is not None:
            yield found.span(), called, False


def _offer(page: Page, run: Sequence[Shown], at: tuple[int, int], section: int, *, sure: bool) -> Offer:
    span = Span(run[at[0]].span.start, run[at[1] - 1].span.end)
    words = "".join(char.char for char in run[at[0] : at[1]])
    return Offer(OfferKind.MENTION, span, words, page.path, section, sure)


def _index_titles(flat: Sequence[Section]) -> dict[str, list[_Title]]:
    """Return what finds a mention of each section, by the first word of its title; titles used twice mean nothing.

    A title of one word has to be written as it is.
    """
    counts = Counter(entry_words(section).casefold() for section in flat)
    titles: dict[str, list[_Title]] = {}
    for section in flat:
        title = entry_words(section)
        first = _WORD.search(title)
        if section.level == 1 or first is None or first.start() or counts[title.casefold()] > 1:
            continue
        is_long = len(title.split()) > 1 and len(title) >= _LONG
        words = title.lower() if is_long else title
        titles.setdefault(first[0].casefold(), []).append(_Title(section.index, words, is_long))
    return titles


def _by_number(numbered: Sequence[Section], words: str, number: str) -> int | None:
    """Return the section that "part three" means: the one that is called so, or the third."""
    called = next((one for one in numbered if one.text.casefold().startswith(words.casefold())), None)
    if called is not None:
        return called.index
    value = int(number) if number.isdigit() else _NUMBER_WORDS.index(number.lower()) + 1
    return numbered[value - 1].index if 0 < value <= len(numbered) else None


def _is_prose(page: Page, nodes: Nodes, node: Node) -> bool:
    if node.tag not in _PROSE or not node.bare or not page.in_content(node.start):
        return False
    return not any(above.tag in _SKIPPED for above in nodes.above(node))


def _is_within(flat: Sequence[Section], home: int, section: int) -> bool:
    """Return whether a place is in a section, or the section in its own."""
    if home < 0:
        return False
    mine, other = flat[home], flat[section]
    return other.start <= mine.start < other.end


def _runs(page: Page, nodes: Nodes, node: Node) -> Iterator[list[Shown]]:
    """Yield the characters of an element between the elements in it that are no prose."""
    inner = nodes.inner(node)
    at = inner.start
    for child in nodes.children(node):
        if child.tag in _SKIPPED or child.tag in _PROSE or child.tag in ("ul", "ol", "dl", "table"):
            yield shown_characters(page.text, Span(at, max(at, child.start)))
            at = max(at, child.element.end)
    yield shown_characters(page.text, Span(at, max(at, inner.end)))
