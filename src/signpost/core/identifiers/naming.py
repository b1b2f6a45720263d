"""An identifier from a heading's words: what a careful person would choose.

Fewest leading words that stay unique and clear: they end where a reader would draw breath, and tell at least two
things. Numbers that only count headings are dropped; the rule's settings are the author's.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass
from enum import StrEnum

from slugify import slugify

#: HTML 7.4.6.4 gives this fragment a meaning of its own.
RESERVED = frozenset(["top"])


class Digits(StrEnum):
    """What happens to words that would begin an identifier with a digit, which selectors cannot write plainly."""

    SPELL = "spell"  # small numbers in letters, years behind, else as LEAD
    LEAD = "lead"  # the rule's lead word takes precedence over
    KEEP = "keep"


@dataclass(frozen=True, slots=True)
class IdentifierRule:
    """How identifiers are made; the settings of a site."""

    longest: int = 40  # characters
    least_words: int = 2  # telling words that are kept where a heading has as many
    joiner: str = "-"  # between words: "-", "_", "." or nothing
    transliterate: bool = True  # letters of all scripts to those of ASCII
    levels: tuple[int, ...] = (2, 3, 4, 5, 6)
    prefix: str = ""  # before every identifier
    digits: Digits = Digits.SPELL
    lead: str = "section"  # the word before a digit, and where a heading has no letters at all


@dataclass(frozen=True, slots=True)
class Named:
    """A heading that needs an identifier, or has one."""

    text: str
    identifier: str | None
    parent: int | None  # position of the heading it is under, in the same sequence


_ARTICLES = frozenset(
    "a an the this that these those our your my their its his her der die das le la les el los".split()
)
#: Words before which a reader draws breath.
_JOINTS = frozenset(
    """
    about after against as at because before behind below between beyond but by during for from if in into like on
    onto over since so than through to towards under unless until upon via when where which while who whose with
    within without mit für im am en con
    """.split()
)
#: Words that tell nothing of what a section is about.
WEAK_WORDS = (
    _ARTICLES
    | _JOINTS
    | frozenset(
        """
    am and are be been can could de des did do does du et had has have he here how i is it just may me might must no
    not of or ou oder shall she should there they us und very von was we were what why will would y you
    """.split()
    )
)
_NUMBERING = re.compile(
    r"""^\s*(?:[(\[]?(?:\d{1,3}(?:\.\d{1,3})*|[ivxlcIVXLC]{1,6}|[a-zA-Z])[.)\]]|\d{1,3}(?:\.\d{1,3})+|§\s*\d+[.)]?)\s+(?=\S)"""
)
_BREAK = re.compile(r"[,;:!?()\[\]{}|/–—…“”\"«»]|(?:^|\s)[-–—](?:\s|$)|\.(?=\s)")
_THOUSANDS = re.compile(r"(?<=\d)[,'\u2009\u202f\u00a0](?=\d{3}(?!\d))")
_SIGNS = (
    (re.compile(r"['’ʼ‘\u00ad\u200b\u200c\u200d\ufe0f]"), ""),
    (re.compile(r"(?<![A-Za-z])([A-Za-z])\+\+"), r"\1-plus-plus"),
    (re.compile(r"(?<![A-Za-z])([A-Za-z])#"), r"\1-sharp"),
    (re.compile(r"&"), " and "),
    (re.compile(r"[£€$¥](?=\s*\d)"), ""),
    (re.compile(r"(?<=\d)\s*%"), " percent"),
    (re.compile(r"(?<=\d)\s*°\s*([CF])\b"), r" degrees \1"),
    (re.compile(r"°"), " degrees "),
    (re.compile(r"№|\bNo\.(?=\s*\d)"), "no "),
    (re.compile(r"(?<=\w)@(?=\w)"), " at "),
)
_SPELLED = "zero one two three four five six seven eight nine ten eleven twelve".split()
_ORDINALS = {
    "1st": "first",
    "2nd": "second",
    "3rd": "third",
    **{
        f"{n}th": w
        for n, w in enumerate("fourth fifth sixth seventh eighth ninth tenth eleventh twelfth".split(), start=4)
    },
}
_MONTHS = frozenset("january february march april may june july august september october november december".split())
_YEAR = re.compile(r"1[0-9]{3}|20[0-9]{2}|[12][0-9]{3}s")
#: Letters that some languages write otherwise without their marks, by the beginning of the page's `lang`.
_LETTERS = {
    "de": (("ä", "ae"), ("ö", "oe"), ("ü", "ue"), ("Ä", "Ae"), ("Ö", "Oe"), ("Ü", "Ue")),
    "da": (("å", "aa"), ("ø", "oe"), ("Å", "Aa"), ("Ø", "Oe")),
    "no": (("å", "aa"), ("ø", "oe"), ("Å", "Aa"), ("Ø", "Oe")),
    "nb": (("å", "aa"), ("ø", "oe"), ("Å", "Aa"), ("Ø", "Oe")),
}  # fmt: skip
_SHORT = 0.6  # of the longest: up to here a heading is kept whole
_FEW_WORDS = 4  # kept whole as well, where they fit


@dataclass(frozen=True, slots=True)
class _Words:
    """A heading's words as an identifier may use them."""

    words: tuple[str, ...]
    joints: frozenset[int]  # positions before which a reader draws breath


def choose_identifiers(
    headings: Sequence[Named],
    wanted: Iterable[int],
    taken: Collection[str],
    rule: IdentifierRule,
    language: str | None,
) -> dict[int, str]:
    """Return an identifier for each of the headings at the positions `wanted`, by position.

    `taken` holds what else the page uses, in any letter case. All headings are looked at, so that each identifier is
    unlike the beginning of any other heading.
    """
    words = [_read_words(heading.text, rule, language) for heading in headings]
    beginnings = Counter(
        found.words[:count]
        for found in {found.words: found for found in words}.values()
        for count in range(1, len(found.words) + 1)
    )
    repeats = Counter(found.words for found in words)
    used = {name.lower() for name in taken} | RESERVED
    chosen: dict[int, str] = {}
    for position in wanted:
        short = _shorten(words[position], beginnings, rule)
        options = [short, _fit(words[position].words, rule)]
        told = [*_parent_words(headings, chosen, position, rule, language), *short]
        if len(told) > len(short) > 0 and len(_joined(told, rule)) <= rule.longest:
            options.insert(0 if repeats[words[position].words] > 1 else len(options), told)
        name = _first_free([_named(option, rule) for option in options], used, rule)
        chosen[position] = name
        used.add(name.lower())
    return chosen


def name_from(
    text: str, taken: Collection[str], rule: IdentifierRule | None = None, language: str | None = None
) -> str:
    """Return an identifier for a piece of text that is alone, such as a caption."""
    heading = Named(text, None, None)
    return choose_identifiers([heading], [0], taken, rule or IdentifierRule(), language)[0]


def _parent_words(
    headings: Sequence[Named], chosen: dict[int, str], position: int, rule: IdentifierRule, language: str | None
) -> list[str]:
    """Return the words of the heading above, as its identifier has them; [] where none is above."""
    parent = headings[position].parent
    if parent is None or _stands_alone(headings, parent):
        return []
    name = headings[parent].identifier or chosen.get(parent)
    if name is None:
        name = _joined(_fit(_read_words(headings[parent].text, rule, language).words, rule), rule)
    name = name.removeprefix(rule.prefix)
    return name.split(rule.joiner) if rule.joiner else [name]


def _stands_alone(headings: Sequence[Named], position: int) -> bool:
    """Return whether a heading is the page's own, above all others, so that its words tell nothing apart."""
    return sum(heading.parent is None for heading in headings) == 1 and headings[position].parent is None


def _first_free(names: Sequence[str], used: Collection[str], rule: IdentifierRule) -> str:
    for name in names:
        if name and name.lower() not in used:
            return name
    stem = names[0] if names else _named([], rule)
    if stem.lower() in RESERVED:
        stem = rule.prefix + _joined([rule.lead, *stem.removeprefix(rule.prefix).split(rule.joiner or "\0")], rule)
        if stem.lower() not in used:
            return stem
    if stem.lower() not in used:
        return stem
    number = 2
    while f"{stem}{rule.joiner or '-'}{number}".lower() in used:
        number += 1
    return f"{stem}{rule.joiner or '-'}{number}"


def _read_words(text: str, rule: IdentifierRule, language: str | None) -> _Words:
    """Return the words of a heading, and where a reader draws breath between them."""
    text = _NUMBERING.sub("", text, count=1)
    for letters, instead in _LETTERS.get((language or "").lower()[:2], ()) if rule.transliterate else ():
        text = text.replace(letters, instead)
    text = _THOUSANDS.sub("", text)
    for sign, instead in _SIGNS:
        text = sign.sub(instead, text)
    words: list[str] = []
    joints: set[int] = set()
    for piece in _BREAK.split(text):
        joints.add(len(words))
        slug = str(slugify(piece, allow_unicode=not rule.transliterate))
        words += [word for word in re.split(r"[-_]", slug) if word]
    joints.update(at for at, word in enumerate(words) if word in _JOINTS)
    ordered = _begin_with_letter(words) if rule.digits is Digits.SPELL else words
    if ordered != words:
        joints = {at for at, word in enumerate(ordered) if word in _JOINTS}
    return _Words(tuple(ordered), frozenset(joints - {0}))


def _begin_with_letter(words: list[str]) -> list[str]:
    """Return words whose first begins with a letter, where a careful person would find a way to it."""
    if not words or not words[0][0].isdigit():
        return words
    first, rest = words[0], words[1:]
    if first in _ORDINALS:
        return [_ORDINALS[first], *rest]
    if rest and rest[0] in _MONTHS:
        return [rest[0], first, *rest[1:]]
    if _YEAR.fullmatch(first) and rest and rest[0][0].isalpha():
        return [*rest, first] if len(rest) <= _FEW_WORDS - 1 else words
    if first.isdigit() and int(first) < len(_SPELLED) and rest and rest[0][0].isalpha():
        return [_SPELLED[int(first)], *rest]
    return words


def _shorten(found: _Words, beginnings: Counter[tuple[str, ...]], rule: IdentifierRule) -> list[str]:
    """Return the fewest leading words that tell enough, end where a reader draws breath, and begin no other one."""
    words = found.words
    whole = _joined(words, rule)
    if len(whole) <= rule.longest * _SHORT or (len(words) <= _FEW_WORDS and len(whole) <= rule.longest):
        return list(words)
    for count in range(1, len(words)):
        head = words[:count]
        if len(_joined(head, rule)) > rule.longest:
            break
        telling = sum(word not in WEAK_WORDS and word not in _SPELLED and not word.isdigit() for word in head)
        ends_well = count in found.joints and head[-1] not in WEAK_WORDS
        if ends_well and telling >= rule.least_words and beginnings[head] == 1:
            return list(head)
    return _fit(words, rule)


def _fit(words: Sequence[str], rule: IdentifierRule) -> list[str]:
    """Return as many leading words as fit, the last of them a telling one; of a single long word, its beginning."""
    kept = list(words)
    room = rule.longest - len(rule.prefix)
    while len(kept) > 1 and (len(_joined(kept, rule)) > room or (len(kept) < len(words) and kept[-1] in WEAK_WORDS)):
        kept.pop()
    return [kept[0][: max(room, 1)], *kept[1:]] if kept else []


def _named(words: Sequence[str], rule: IdentifierRule) -> str:
    """Return an identifier of these words: with the prefix, and a letter first unless the rule lets digits be."""
    if not words:
        words = [rule.lead]
    starts_well = rule.prefix[:1].isalpha() or words[0][:1].isalpha() or rule.digits is Digits.KEEP
    return rule.prefix + _joined(words if starts_well else _fit([rule.lead, *words], rule), rule)


def _joined(words: Sequence[str], rule: IdentifierRule) -> str:
    return rule.joiner.join(words)
