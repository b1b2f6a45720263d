"""Findings that come of another one: what a tag without its bracket or quotation mark has swallowed."""

from __future__ import annotations

import re
from bisect import bisect_left
from collections.abc import Iterator, Sequence

from signpost.core.findings.catalogue import Finding
from signpost.core.findings.tokens import end_of_glued_name
from signpost.core.page import Page
from signpost.core.page.markup import tokens_of
from signpost.core.page.tokens import Tag

#: Rules of tags that are no tags, or longer than they should be, until they are mended.
BREAKING = frozenset(
    "bracket-missing quote-missing equals-missing element-misspelt tag-space-missing end-tag-mistyped".split()
)
_WITHIN = frozenset(["attribute-repeated", "attribute-invented"])  # what is found in the tag itself
_MATCHLESS = frozenset(["end-tag-missing", "end-tag-stray"])
#: What is found of where elements are, which nobody knows while tags do not match.
_OF_THE_TREE = frozenset(
    "list-in-list section-closed-early region-empty content-behind-end section-in-footer".split()
)
_NEAR = 400  # characters behind a heading in which a broken tag is what hides its section
_TAG = re.compile(r"<(/?)([a-zA-Z][\w:-]*)")


def without_swallowed(page: Page, findings: Sequence[Finding]) -> list[Finding]:
    """Return the findings of a page's tags without those that go once the tags that swallow others are right."""
    causes = [
        tag
        for one in findings
        if one.rule.code in BREAKING
        for tag in [tokens_of(page).around(one.span.start)]
        if tag
    ]
    gone: set[int] = set()
    unmatched = _read_unmatched(page, findings) if causes else {}
    within = sorted((one.span.start, index) for index, one in enumerate(findings) if one.rule.code in _WITHIN)
    for tag in dict.fromkeys(causes):
        first, behind = bisect_left(within, (tag.start + 1, -1)), bisect_left(within, (tag.end, -1))
        gone |= {index for _, index in within[first:behind]}
        gone.update(_partners(page, tag, unmatched))
    broken = [one.span.start for one in findings if one.rule.code in BREAKING]
    gone |= {
        index
        for index, one in enumerate(findings)
        if one.rule.code == "section-empty" and any(0 <= at - one.span.start < _NEAR for at in broken)
    }
    if any(one.rule.code in _MATCHLESS or one.rule.code in BREAKING for one in findings):
        gone |= {index for index, one in enumerate(findings) if one.rule.code in _OF_THE_TREE}
    closed = {one.span.start for one in findings if one.rule.code == "element-self-closed"}
    gone |= {
        index for index, one in enumerate(findings) if one.rule.code == "end-tag-missing" and one.span.start in closed
    }
    return [one for index, one in enumerate(findings) if index not in gone]


#: Findings of tags that match no other, by their code and the tags' name: where each tag is, and its index.
_Unmatched = dict[tuple[str, str], list[tuple[int, int]]]


def _read_unmatched(page: Page, findings: Sequence[Finding]) -> _Unmatched:
    found: _Unmatched = {}
    for index, one in enumerate(findings):
        tag = _TAG.match(page.text, one.span.start) if one.rule.code in _MATCHLESS else None
        if tag is not None:
            found.setdefault((one.rule.code, tag[2].lower()), []).append((one.span.start, index))
    for places in found.values():
        places.sort()
    return found


def _swallowed(page: Page, tag: Tag) -> list[tuple[int, str, bool]]:
    """Return the tags that one has swallowed: where each begins, its name, and whether it is an end tag.

    One whose name has grown together with what is behind it is one of them: it is no tag of its name any more, and
    that of its partner, where it has swallowed that as well.
    """
    found = [(one.start(), one[2].lower(), one[1] == "/") for one in _TAG.finditer(page.text, tag.start + 1, tag.end)]
    glued = end_of_glued_name(page.text, tag.start, tag.end)
    if glued is None:
        return found
    name = page.text[tag.start : glued].strip("</").lower()
    partner = next((one for one in found if not tag.is_end and one[1:] == (name, True)), None)
    if partner is None:
        return [(tag.start, name, tag.is_end), *found]
    return [one for one in found if one is not partner]


def _partners(page: Page, tag: Tag, unmatched: _Unmatched) -> Iterator[int]:
    """Yield the end tags whose start tags were swallowed, and the start tags whose end tags were, by index.

    Each is the nearest that was not taken yet, and is taken out of `unmatched`.
    """
    for start, name, ends in _swallowed(page, tag):
        places = unmatched.get(("end-tag-missing" if ends else "end-tag-stray", name), [])
        at = bisect_left(places, (start, -1))
        if ends and at > 0:
            yield places.pop(at - 1)[1]
        elif not ends and at < len(places):
            yield places.pop(at)[1]
