"""Tags that their author wrote to be read, as in “the <h2> tag”: browsers obey them and show nothing."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping

from signpost.core.findings.catalogue import Choice, Finding
from signpost.core.findings.page_check import Check
from signpost.core.findings.unclosed_words import MARKING
from signpost.core.page import Page
from signpost.core.page.kept import kept_with_page
from signpost.core.page.markup import ELEMENTS, tokens_of
from signpost.core.page.tokens import Tag
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Span

#: A tag that is spoken of: a word that belongs to a name stands before it, and what it is called behind it.
_CALLED = re.compile(
    r"\b(?:the|an?|each|every|this|that|with|using|use|le|la|les|une?|das|ein|jedes|de[mrsn])\s+"
    r"(<[a-z][a-z0-9]*>)"
    r"(?:\s(?:start[- ]|end[- ]|opening )?(?:tags?|elements?|balises?|éléments?)|[ -](?:Tags?|Elemente?s?))\b",
    re.IGNORECASE,
)
#: What shows code and contains one tag and nothing else.
_ALONE_IN_CODE = re.compile(
    r"<(code|kbd|samp|tt|var)(?:\s[^<>]*)?>(</?[a-z][a-z0-9]*(?:\s[^<>]*)?>)</\1>", re.IGNORECASE
)
#: What may stand alone in code for its own sake.
_MEANT_IN_CODE = frozenset("a br button img input script span wbr".split())
#: Elements that a page has once, or around its blocks: in a sample they are there to be read.
_OF_PAGES = frozenset("article aside body footer frameset head header html link main meta nav section title".split())
_WORDS_BEFORE = re.compile(r"[\w,;:(][ \t]*$")
_WORDS_BEHIND = re.compile(r"[ \t]*\w")
_REACH = 200  # characters before a tag in which words are looked for


@kept_with_page
def find_spoken(page: Page) -> Mapping[int, Tag]:
    """Return the tags that are surely meant to be read, by where they start; those in samples are not among them."""
    tokens = tokens_of(page)
    found: dict[int, Tag] = {}
    for one in _CALLED.finditer(tokens.masked):
        index = tokens.at(one.start(1))
        ends = tokens.names[index + 1 : index + 2] == [f"/{tokens.names[index]}"]
        if index >= 0 and tokens.names[index] in ELEMENTS and not ends:
            found[one.start(1)] = tokens.tag(index)
    for one in _ALONE_IN_CODE.finditer(tokens.masked):
        tag = tokens.tag_at(one.start(2))
        if tag is not None and tag.name in ELEMENTS - _MEANT_IN_CODE:
            found[tag.start] = tag
    return found


def find_spoken_tags(check: Check) -> Iterator[Finding]:
    """Yield the tags of a page that are meant to be read."""
    text = check.page.text
    for tag in find_spoken(check.page).values():
        message = f"{text[tag.start : tag.end]} is meant to be read, but browsers take it for a tag and show nothing."
        yield check.find_at("tag-unescaped", Span(tag.start, tag.end), message, _as_words([tag]))
    for sample, tags in _samples(check.page):
        shown = text[tags[0].start : tags[0].end]
        message = f"This sample has tags in it, such as {shown}: browsers obey them, and show what is between them."
        choices = [Choice(f"Show all {len(tags)} tags in it", tuple(_as_words(tags)))]
        yield check.find_at("sample-obeyed", Span(sample.start, sample.end), message, choices=choices)


def reading_choice(check: Check, tag: Tag) -> Choice | None:
    """Return the choice to show a tag whose end tag is missing as words; None where it is certainly a tag.

    It has no attributes, it would begin a block, and words stand before and behind it on its line.
    """
    text = check.page.text
    if tag.name in MARKING or tag.end - tag.start != len(tag.name) + 2:
        return None
    before = text[max(0, tag.start - _REACH) : tag.start]
    if not _WORDS_BEFORE.search(before) or not _WORDS_BEHIND.match(text, tag.end):
        return None
    return Choice(f"Show {text[tag.start : tag.end]} as words", tuple(_as_words([tag])))


def _samples(page: Page) -> Iterator[tuple[Tag, list[Tag]]]:
    """Yield the samples in which a page's own elements stand, each with the tags in it."""
    tokens = tokens_of(page)
    if not tokens.count("pre") or not tokens.count("body"):
        return
    body = next(tokens.named("body")).start
    for tag in tokens.named("pre"):
        at = tokens.at(tag.start) + 1
        end = next((one for one in range(at, len(tokens)) if tokens.names[one] in ("/pre", "pre")), at)
        if tag.start < body or end == len(tokens) or tokens.names[end] == "pre":
            continue
        if tokens.names[at] in ("code", "samp") and tokens.names[end - 1] == f"/{tokens.names[at]}":
            at, end = at + 1, end - 1
        inside = [tokens.tag(one) for one in range(at, end)]
        if any(one.name in _OF_PAGES for one in inside):
            yield tag, inside


def _as_words(tags: Iterable[Tag]) -> list[Edit]:
    """Return the edits by which tags are shown as they are written."""
    return [
        edit
        for tag in tags
        for edit in (
            Edit(tag.start, tag.start + 1, "&lt;", reason=f"<{tag.name}> is shown"),
            Edit(tag.end - 1, tag.end, "&gt;", reason=f"<{tag.name}> is shown"),
        )
    ]
