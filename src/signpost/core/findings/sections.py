"""Sections that are not what they seem: titles that are no headings, headings without content."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterator, Sequence
from functools import partial

from signpost.core.findings.catalogue import Choice, Finding
from signpost.core.findings.page_check import Check
from signpost.core.headings.lookalike_scores import class_styles, makes_title
from signpost.core.headings.lookalikes import Lookalike, find_lookalikes
from signpost.core.headings.promotions import plan_promotions
from signpost.core.page import Page
from signpost.core.page.kept import kept_with_page
from signpost.core.page.marks import HEADINGS, holds
from signpost.core.page.markup import tokens_of
from signpost.core.page.tokens import Tag
from signpost.core.site.plans import SitePlan, plan_for
from signpost.core.text.positions import Span

LOOKALIKE = "heading-lookalike"
LONG_WORDS = 25  # of a heading
MANY_WORDS = 1000  # of a page that wants headings
_MOST_GAP = 400  # characters between two headings that are looked at for content
#: What a page with look-alikes has: words marked as bold or large that begin and fill a block or a line…
_BOLD = re.compile(r"<(?:b|strong|font|big)\b[^<>]*>", re.IGNORECASE)
_BOLD_TAGS = ("<b", "<strong", "<font")
_BEGINS = re.compile(
    r"(?:<(?:p|div|td|th|center|br|body|li|dd)\b[^<>]*>|</(?:p|div|table|ul|ol|h[1-6])>|<hr\b[^<>]*>)\s*"
    r"(?:<(?:a|center|span|u|i|em)\b[^<>]*>\s*(?:</a>\s*)?)*\Z",
    re.IGNORECASE,
)
_FILLS = re.compile(
    r"(?:(?!</?(?:p|div|td|table|ul|ol|h[1-6])\b).){1,300}?</(?:b|strong|font|big)\s*>"
    r"(?:[\s:.]|&nbsp;|</(?:a|u|i|em|span|center|font|big|b|strong)\s*>|<a\b[^<>]*>)*"
    r"(?=</(?:p|div|t[dhr]|center|li|d[dt]|table|body|main|section|article|[uod]l|blockquote)\b"
    r"|<(?:p|div|br|hr|t[dr]|table|[uod]l|h[1-6]|li|d[dt]|pre|blockquote|center|img|section|article)\b|\Z)",
    re.IGNORECASE | re.DOTALL,
)
_REACH = 400  # characters in which what a bold line begins with is looked for
#: … or a class that titles have.
_TITLE_CLASS = re.compile(
    r"(?<![\w-])class\s*=\s*[\"']?(?:[^\"'<>]*[\s_-])?(?:sub)?(?:title|head(?:ing|line|er)?|h[1-6])\d?(?=[\s\"'>])",
    re.IGNORECASE,
)
_REGIONS = "main header nav footer aside dialog".split()
_WATCHED = frozenset([*HEADINGS, *_REGIONS, *(f"/{name}" for name in _REGIONS), "body", "/body"])
_LABELLED = re.compile(r"\baria-label(?:ledby)?\s*=", re.IGNORECASE)


def find_weak_sections(check: Check) -> Iterator[Finding]:
    """Yield what is wrong with how a page is divided."""
    page = check.page
    if not page.headings and page.words >= MANY_WORDS:
        yield check.find_at(
            "headings-missing",
            Span(page.content.start, page.content.start),
            f"The page has {page.words:,} words and no heading, so there is nothing to jump to.",
        )
    for heading in page.headings:
        count = len(heading.text.split())
        if count > LONG_WORDS:
            yield check.find(
                "heading-long",
                heading.element.open.start,
                f"This heading has {count} words. If it was made one for its looks, a bold paragraph does the same.",
            )
    yield from _empty(check)
    if "<section" in page.text or "<SECTION" in page.text:
        yield from _nameless(check)
    if page.content_tag == "main":
        yield from _outside(check)


_OUTSIDE = "This heading stands outside <main> and every other region, where who skips to the content misses it."


def find_unmade_headings(check: Check) -> Iterator[Finding]:
    """Yield what looks like a heading and is none, but for what its author refused to make one."""
    page = check.page
    refused = check.options.refused.get(page.path, frozenset())
    for index, one in enumerate(find_lookalikes(page, refused) if refused else _all_lookalikes(page)):
        if not one.sure:
            continue
        plan = partial(_promoted, page, index, one.level, tuple(sorted(refused)))
        yield check.find(
            LOOKALIKE,
            one.start,
            f"“{one.text}” looks like a heading and is none: {'; '.join(one.reasons)}.",
            choices=[Choice(f"Make it a heading of level {one.level}", plan=plan)],
        )


def plan_unmade(page: Page, refused: Collection[str]) -> SitePlan:
    """Return the plan that makes all look-alikes headings that are sure, but for what its author refused."""
    found = find_lookalikes(page, refused)
    levels = {index: one.level for index, one in enumerate(found) if one.sure}
    return plan_for(page, plan_promotions(page, levels, tuple(sorted(refused))))


@kept_with_page
def _all_lookalikes(page: Page) -> Sequence[Lookalike]:
    """Return the look-alikes of a page; most pages have nothing that could be one, and are not looked through."""
    return find_lookalikes(page) if may_have_lookalikes(page) else ()


def may_have_lookalikes(page: Page) -> bool:
    """Return whether a page has anything that could make a line look like a heading."""
    text, end, lowered = tokens_of(page).masked, page.content.end, tokens_of(page).lowered
    if any(_TITLE_CLASS.match(text, at, end) for at in _places(lowered, "class", page)):
        return True
    if any(makes_title(text[at : text.find(">", at)]) for at in _places(lowered, "style=", page)):
        return True
    if any(found in lowered for found in class_styles(page)):
        return True
    bold = (_BOLD.match(text, at, end) for word in _BOLD_TAGS for at in _places(lowered, word, page))
    return any(
        _FILLS.match(text, found.end(), end) and _BEGINS.search(text[max(0, found.start() - _REACH) : found.start()])
        for found in bold
        if found is not None
    )


def _places(lowered: str, word: str, page: Page) -> Iterator[int]:
    """Yield where a word is in a page's content."""
    at = lowered.find(word, page.content.start, page.content.end)
    while at >= 0:
        yield at
        at = lowered.find(word, at + 1, page.content.end)


def _promoted(page: Page, index: int, level: int, refused: tuple[str, ...]) -> SitePlan:
    return plan_for(page, plan_promotions(page, {index: level}, refused))


def _empty(check: Check) -> Iterator[Finding]:
    page = check.page
    headings = page.headings
    for index, heading in enumerate(headings):
        following = headings[index + 1] if index + 1 < len(headings) else None
        if heading.level == 1 or (following is not None and following.level > heading.level):
            continue  # what is below it is its content
        if following is not None and len(following.ancestors) > len(heading.ancestors):
            continue  # it is within a box that is the content
        end = following.begin if following else page.content.end
        gap = page.text[heading.element.end : end]
        if len(gap) < _MOST_GAP and not holds(re.sub(r"</[^<>]*>", "", gap)) and heading.text:
            yield check.find(
                "section-empty",
                heading.element.open.start,
                f"Nothing stands under “{heading.text}” before {'the next heading' if following else 'the end'}.",
            )


def _nameless(check: Check) -> Iterator[Finding]:
    if not tokens_of(check.page).count("section"):
        return
    text = check.page.text
    open_: list[tuple[Tag, bool]] = []
    for tag in tokens_of(check.page).tags():
        if tag.name == "section" and not tag.is_end:
            open_.append((tag, _LABELLED.search(text, tag.start, tag.end) is not None))
        elif tag.name in HEADINGS and open_:
            open_ = [(one, True) for one, _ in open_]
        elif tag.name == "section" and open_:
            opened, named = open_.pop()
            if not named:
                yield check.find(
                    "section-without-heading", opened.start, "This section element has no heading and no label."
                )


def _outside(check: Check) -> Iterator[Finding]:
    """Yield the first heading that stands in no region of the page (WAI-ARIA landmarks)."""
    depth = 0
    body = False
    watched = ((index, name) for index, name in enumerate(tokens_of(check.page).names) if name in _WATCHED)
    for index, name in watched:
        if name in HEADINGS:
            if depth == 0 and body:
                yield check.find("content-outside-main", tokens_of(check.page).starts[index], _OUTSIDE)
                return
        elif name in ("body", "/body"):
            body = True
        else:
            depth = max(0, depth + (-1 if name[0] == "/" else 1))
