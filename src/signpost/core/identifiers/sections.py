"""Identifiers for sections: made from the heading's words, unique, stable."""

from __future__ import annotations

import re
from collections.abc import Collection, Mapping
from dataclasses import dataclass
from enum import StrEnum

from signpost.core.identifiers.naming import RESERVED, IdentifierRule, Named, choose_identifiers, name_from
from signpost.core.page import Page
from signpost.core.page.habits import Habits, read_habits
from signpost.core.page.outline import read_outline
from signpost.core.text.edits import Edit, EditSet, edit_set
from signpost.core.text.errors import RequestError

_SPACE = re.compile(r"[ \t\n\f\r]")


class Fitness(StrEnum):
    """What becomes of an identifier that was typed."""

    GOOD = "good"
    ADVICE = "advice"  # it works, and could be better
    REFUSED = "refused"


@dataclass(frozen=True, slots=True)
class Judgement:
    """What there is to say of an identifier."""

    verdict: Fitness
    message: str  # why, and what to do; "" where there is nothing to say
    suggestion: str | None  # a better one


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
        return f"“{name}” contains white space; join the words with hyphens."
    if "#" in name:
        return f"“{name}” contains “#”, which only begins a fragment; leave it out."
    if name.lower() in RESERVED:
        return f"“{name}” always means the top of the page; choose another word."
    if name in taken:
        return f"“{name}” is taken on this page; add a word that tells the two apart."
    return None


def judge_existing(page: Page, rule: IdentifierRule | None = None) -> dict[int, Judgement]:
    """Return what could be better about the identifiers that sections have, with a better one; by section index.

    Good ones are left out. Whether a better one is taken is its author's choice, for links from outside use the old.
    """
    rule = rule or IdentifierRule()
    sections = read_outline(page).flat()
    poor = {
        section.index: reason
        for section in sections
        if section.identifier and (reason := _find_weakness(section.identifier, section.text, rule))
    }
    headings = [
        Named(section.text, None if section.index in poor else section.identifier, section.parent)
        for section in sections
    ]
    own = {sections[index].identifier for index in poor}
    taken = {target.name for target in page.targets} - own
    better = choose_identifiers(headings, sorted(poor), taken, rule, page.language)
    return {
        index: Judgement(Fitness.ADVICE, reason, better[index])
        for index, reason in poor.items()
        if better[index] != sections[index].identifier
    }


def _find_weakness(name: str, words: str, rule: IdentifierRule) -> str | None:
    """Return what makes an identifier that is there hard to use, in words; None where nothing does."""
    if _SPACE.search(name):
        return "It contains white space, so links to it have to be percent-encoded."
    if "#" in name:
        return "It contains “#”, which links to it have to write as %23."
    if len(name) > max(rule.longest, _LONG_NAME):
        return f"It is {len(name)} characters long, which is hard to type and to read out."
    if _SAYS_NOTHING.fullmatch(name) and not _SAYS_NOTHING.fullmatch(words.strip()):
        return "It says nothing about its section."
    return _find_advice(name, ())


#: Identifiers that count instead of naming.
_SAYS_NOTHING = re.compile(
    r"(?:section|sect?|heading|head|hd|h|chapter|chap|ch|part|anchor|a|id|toc|_toc|_ref|ref|item|div|p|para|title|link|"
    r"mark|bookmark|pos|x|n|s|t|node|block|abschnitt|kapitel)[-_.:]?[\d.\-_]*|\d+|[0-9a-f]{8,}",
    re.IGNORECASE,
)
_LONG_NAME = 60  # characters


def says_nothing(name: str) -> bool:
    """Return whether an identifier counts instead of naming, as “section7” does."""
    return _SAYS_NOTHING.fullmatch(name) is not None


def propose_identifiers(page: Page, levels: Collection[int], rule: IdentifierRule | None = None) -> dict[int, str]:
    """Return an identifier for each section of these levels that has none; keys are section indexes."""
    sections = read_outline(page).flat()
    headings = [Named(section.text, section.identifier, section.parent) for section in sections]
    wanted = [section.index for section in sections if section.level in levels and section.identifier is None]
    taken = {target.name for target in page.targets}
    return choose_identifiers(headings, wanted, taken, rule or IdentifierRule(), page.language)


def judge_identifier(
    page: Page, name: str, *, own: str | None = None, words: str = "", rule: IdentifierRule | None = None
) -> Judgement:
    """Return what there is to say of an identifier that its author types.

    `own` is the one that the element has now, which it may keep; `words` are those that a suggestion is made of.
    """
    rule = rule or IdentifierRule()
    taken = {target.name for target in page.targets if target.name != own}
    objection = find_objection(name, taken)
    if objection:
        tidy = name_from(name.replace("#", " ") or words, taken, rule, page.language)
        if name in taken or not name.strip():
            tidy = name_from(words or name, taken, rule, page.language)
        return Judgement(Fitness.REFUSED, objection, tidy)
    advice = _find_advice(name, taken)
    if advice:
        return Judgement(Fitness.ADVICE, advice, name_from(name, taken, rule, page.language))
    return Judgement(Fitness.GOOD, "", None)


def _find_advice(name: str, taken: Collection[str]) -> str | None:
    folded = {other.casefold(): other for other in taken}
    if name.casefold() in folded:
        return f"It differs from “{folded[name.casefold()]}” in capitals alone, which readers and authors mix up."
    if name[0].isdigit():
        return "It begins with a digit, which style sheets cannot write plainly."
    if any(char.isupper() for char in name):
        return "It has capitals, which are easily typed wrong in links."
    if not re.fullmatch(r"[\w.~-]+", name):
        return "It contains characters that have to be escaped in links or style sheets."
    if not name.isascii():
        return "It contains letters that some programs percent-encode in links."
    return None
