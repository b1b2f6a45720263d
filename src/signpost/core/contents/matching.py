"""Which section an entry means: by its address, or by how like its words are to a heading's."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from rapidfuzz import fuzz
from slugify import slugify

from signpost.core.addresses.fragments import TOP, find_indicated
from signpost.core.addresses.links import LinkKind, classify_link
from signpost.core.contents.listing import Entry
from signpost.core.page import Page, Target
from signpost.core.page.outline import Section, section_marked

#: Likeness, of 100, from which words mean a section without a question, and from which they may mean it.
SURE = 86
DOUBTFUL = 60
_SAME = 100
_PART = 88  # of words that a title contains in their order, less 2 for each that it has beside them
_BEGINS = 4  # more where the title begins with them
_FAR = 8  # words beside, beyond which it makes no difference
_OTHERS = 3  # that are worth offering
_OTHER_NUMBERS = 55  # at most, where numbers differ


@dataclass(frozen=True, slots=True)
class Meaning:
    """Where an entry leads, or what it may mean."""

    section: int | None  # index of the section; None where it leads elsewhere, or nothing is like it
    leads: bool  # whether its own address leads to something, on the page or elsewhere
    sure: bool = True  # whether the author need not be asked
    others: tuple[int, ...] = ()  # sections that it may mean as well, the likeliest first


class Matcher:
    """Finds the sections of one page that entries mean."""

    def __init__(self, page: Page, sections: Sequence[Section]) -> None:
        self._page = page
        self._sections = sections
        self._targets = page.index_targets()
        self._keys = [_key(section.text) for section in sections]

    def by_address(self, href: str | None) -> Meaning:
        """Return where an address on the page leads."""
        if href is None or classify_link(href) in (LinkKind.PLACEHOLDER, LinkKind.NONE):
            return Meaning(None, leads=False, sure=False)
        if (meant := self._mistyped(href.strip())) is not None:
            return Meaning(section_marked(self._page, meant.start), leads=False)
        found = self._page.resolve(href)
        if found is None or found[0] != self._page.path:
            return Meaning(None, leads=True)
        target = find_indicated(found[1] or "", self._targets)
        if target is TOP or target is None:
            return Meaning(None, leads=target is not None, sure=target is not None)
        return Meaning(section_marked(self._page, target.start), leads=True)

    def _mistyped(self, href: str) -> Target | None:
        """Return what an address means that has no "#", or one too many, before an identifier of the page."""
        name = href.removeprefix("##")
        if name == href and (href[:1] == "#" or "/" in href or "." in href):
            return None
        if not name or find_indicated("#" + name, self._targets) is not None:
            return None
        target = find_indicated(name, self._targets)
        return target if isinstance(target, Target) else None

    def by_words(self, words: str) -> list[tuple[int, int]]:
        """Return the sections that words may mean, each with its likeness; the likeliest first."""
        mine = _key(words)
        found = [
            (likeness, index)
            for index, key in enumerate(self._keys)
            if (likeness := _likeness(mine, key)) >= DOUBTFUL
        ]
        found.sort(key=lambda pair: (-pair[0], pair[1]))
        return [(index, likeness) for likeness, index in found]

    def meaning(self, entry: Entry) -> Meaning:
        """Return what an entry means, by its address or else by its words."""
        by_address = self.by_address(entry.href)
        if by_address.leads or by_address.section is not None:
            return by_address
        likely = self.by_words(entry.name)
        if not likely:
            return by_address
        (section, likeness), *rest = likely
        if entry.href is not None and entry.href.strip() == "#" and likeness == _SAME and self._opens(section):
            return Meaning(section, leads=True)  # the top is where the page's first heading is
        sure = likeness >= SURE and not (rest and rest[0][1] == likeness)
        return Meaning(section, leads=False, sure=sure, others=tuple(index for index, _ in rest[:_OTHERS]))

    def _opens(self, section: int) -> bool:
        return section == 0 and self._sections[0].heading.words_before == 0


def is_shortening(words: str, title: str) -> bool:
    """Return whether words are fewer of a title's, in their order: as an author shortens them."""
    mine, whole = _key(words).split(), _key(title).split()
    rest = iter(whole)
    return 0 < len(mine) < len(whole) and all(word in rest for word in mine)


def _key(words: str) -> str:
    """Return words as they are compared: letters and digits in lower case, transliterated."""
    return str(slugify(words, separator=" ")) or words.casefold()


def _likeness(mine: str, key: str) -> int:
    if not mine or not key:
        return 0
    if mine == key:
        return _SAME
    alike = max(fuzz.ratio(mine, key), fuzz.token_sort_ratio(mine, key) - 1)
    words, title = mine.split(), key.split()
    fewer, more = (words, title) if len(words) < len(title) else (title, words)
    rest = iter(more)
    if len("".join(fewer)) >= _TELLING and all(word in rest for word in fewer):
        begins = _BEGINS if more[: len(fewer)] == fewer else 0
        alike = max(alike, _PART + begins - 2 * min(len(more) - len(fewer), _FAR))
    if re.findall(r"\d+", mine) != re.findall(r"\d+", key):
        alike = min(alike, _OTHER_NUMBERS)
    return round(alike)


_TELLING = 4  # letters that fewer words must have to stand for more
