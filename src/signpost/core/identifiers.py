"""Identifiers for sections: made from the heading's words, unique, stable."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Collection, Mapping
from dataclasses import dataclass

from slugify import slugify

from signpost.core.edits import Edit, EditSet, edit_set
from signpost.core.errors import RequestError
from signpost.core.habits import Habits, read_habits
from signpost.core.outline import Section, read_outline
from signpost.core.page import Page

#: Words that an identifier does not end with when it is cut short.
_WEAK_ENDS = frozenset(
    """
    a an and are as at by for from how in is it of on or our that the this to what when with
    """.split()
)
_RESERVED = frozenset(["top"])  # HTML 7.4.6.4 gives it a meaning of its own
_SPACE = re.compile(r"[ \t\n\f\r]")


@dataclass(frozen=True, slots=True)
class IdentifierRule:
    """How identifiers are made."""

    longest: int = 40  # characters
    least_words: int = 3  # where a heading has as many
    prefix: str = "section-"  # before one that would not start with a letter


def plan_identifiers(
    page: Page, levels: Collection[int] = range(2, 7), rule: IdentifierRule | None = None
) -> EditSet:
    """Return the edits that give each section of these levels an identifier where it has none."""
    proposed = propose_identifiers(page, levels, rule)
    return plan_given(page, proposed)


def plan_given(page: Page, identifiers: Mapping[int, str]) -> EditSet:
    """Return the edits that put identifiers on headings; keys are section indexes.

    Raises RequestError for an identifier that the HTML standard (3.2.6) or another element forbids, and for a
    section that is not there or has one already.
    """
    sections = read_outline(page).flat()
    habits = read_habits(page)
    taken = {target.name for target in page.targets}
    edits = []
    for index, name in identifiers.items():
        if not 0 <= index < len(sections):
            raise RequestError(f"The page has no section number {index + 1}. Reload it and try again.")
        if sections[index].identifier is not None:
            raise RequestError(f"“{sections[index].text}” has the identifier “{sections[index].identifier}” already.")
        objection = find_objection(name, taken)
        if objection:
            raise RequestError(objection)
        taken.add(name)
        edits.append(put_identifier(page, habits, sections[index].heading.element.open.start, name))
    return edit_set(page.source, edits)


def put_identifier(page: Page, habits: Habits, start: int, name: str) -> Edit:
    """Return the edit that writes `id` into the start tag that begins at `start`; an empty one is filled."""
    empty = page.attribute_at(start, "id")
    reason = f"identifier “{name}”"
    if empty is not None:
        return Edit(empty.span.start, empty.span.end, habits.attribute("id", name), reason=reason)
    tag = re.compile(r"<[^\s/>]*").match(page.text, start)
    at = tag.end() if tag else start
    return Edit(at, at, " " + habits.attribute("id", name), reason=reason)


def find_objection(name: str, taken: Collection[str]) -> str | None:
    """Return why `name` cannot be an identifier, in words that say what to do; None where it can."""
    if not name:
        return "An identifier needs at least one character."
    if _SPACE.search(name):
        return f"“{name}” holds white space; join the words with hyphens."
    if "#" in name:
        return f"“{name}” holds “#”, which only begins a fragment; leave it out."
    if name.lower() in _RESERVED:
        return f"“{name}” always means the top of the page; choose another word."
    if name in taken:
        return f"“{name}” is taken on this page; add a word that tells the two apart."
    return None


def propose_identifiers(page: Page, levels: Collection[int], rule: IdentifierRule | None = None) -> dict[int, str]:
    """Return an identifier for each section of these levels that has none; keys are section indexes."""
    rule = rule or IdentifierRule()
    taken = {target.name.lower() for target in page.targets} | _RESERVED
    sections = read_outline(page).flat()
    slugs = {section.index: _words(section.text) for section in sections}
    beginnings = Counter(tuple(words[:count]) for words in slugs.values() for count in range(1, len(words) + 1))
    proposed = {}
    for section in sections:
        if section.level in levels and section.identifier is None:
            name = _choose(section, sections, slugs[section.index], beginnings, taken, rule)
            taken.add(name)
            proposed[section.index] = name
    return proposed


def _words(text: str) -> list[str]:
    slug = str(slugify(text.replace("'", "").replace("’", "")))
    return [word for word in slug.split("-") if word]


def _choose(
    section: Section,
    sections: list[Section],
    words: list[str],
    beginnings: Counter[tuple[str, ...]],
    taken: Collection[str],
    rule: IdentifierRule,
) -> str:
    """Return the fewest leading words that tell and are unlike any other section's; else more words, or a number."""
    short = _shorten(words, beginnings, rule)
    candidates = [short, _fit(words, rule.longest)]
    if section.parent is not None:  # "Overview", six times: the parent's words tell them apart
        parent = sections[section.parent]
        candidates.append(_fit(_words(parent.identifier or parent.text), rule.longest) + "-" + short)
    for candidate in candidates:
        name = _lead(candidate, rule)
        if candidate and name not in taken:
            return name
    stem = _lead(short, rule)
    if stem in _RESERVED:
        stem = rule.prefix + stem
    if stem not in taken:
        return stem
    number = 2
    while f"{stem}-{number}" in taken:
        number += 1
    return f"{stem}-{number}"


def _lead(slug: str, rule: IdentifierRule) -> str:
    if not slug:
        return rule.prefix.rstrip("-")
    return slug if slug[0].isalpha() else rule.prefix + slug


def _shorten(words: list[str], beginnings: Counter[tuple[str, ...]], rule: IdentifierRule) -> str:
    whole = "-".join(words)
    if len(whole) <= rule.longest // 2 or len(words) <= rule.least_words:
        return _fit(words, rule.longest)
    for count in range(rule.least_words, len(words) - 1):  # a single word more is no burden
        head = words[:count]
        if len("-".join(head)) > rule.longest:
            break
        if head[-1] not in _WEAK_ENDS and beginnings[tuple(head)] == 1:
            return "-".join(head)
    return _fit(words, rule.longest)


def _fit(words: list[str], longest: int) -> str:
    """Return as many leading words as fit, the last of them a telling one; of a single long word, its beginning."""
    kept = list(words)
    while len(kept) > 1 and (len("-".join(kept)) > longest or (len(kept) < len(words) and kept[-1] in _WEAK_ENDS)):
        kept.pop()
    return "-".join(kept)[:longest].rstrip("-")
