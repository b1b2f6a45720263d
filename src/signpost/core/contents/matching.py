"""Which section an entry means: by its address, or by how like its words are to a heading's."""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field

from rapidfuzz import fuzz, process
from slugify import slugify

from signpost.core.addresses.fragments import TOP, find_indicated
from signpost.core.addresses.links import LinkKind, classify_link
from signpost.core.contents.listing import ListEntry
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
_NUMBERS = re.compile(r"\d+")


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
        self._keys = [_Key.of(section.text) for section in sections]
        self._groups = _Group.by_numbers(self._keys)
        self._known: dict[str, list[tuple[int, int]]] = {}  # what words mean that were asked for

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
        known = self._known.get(words)
        if known is not None:
            return known
        mine = _Key.of(words)
        found = [
            (likeness, index)
            for index in self._candidates(mine)
            if (likeness := _likeness(mine, self._keys[index])) >= DOUBTFUL
        ]
        found.sort(key=lambda pair: (-pair[0], pair[1]))
        self._known[words] = [(index, likeness) for likeness, index in found]
        return self._known[words]

    def _candidates(self, mine: _Key) -> Iterable[int]:
        group = self._groups.get(mine.numbers)
        return () if group is None or not mine.text else group.like(mine)

    def meaning(self, entry: ListEntry) -> Meaning:
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


@dataclass(frozen=True, slots=True)
class _Key:
    """Words as they are compared, with what is asked of them again and again."""

    text: str
    words: tuple[str, ...]
    in_order: str  # the words, sorted
    numbers: tuple[str, ...]

    @classmethod
    def of(cls, words: str) -> _Key:
        """Return the key of words."""
        text = _key(words)
        split = text.split()
        return cls(text, tuple(split), " ".join(sorted(split)), tuple(_NUMBERS.findall(text)))


@dataclass(slots=True)
class _Group:
    """The keys that have the same numbers, so that one may be like another."""

    indices: list[int] = field(default_factory=list)
    texts: list[str] = field(default_factory=list)
    orders: list[str] = field(default_factory=list)
    with_word: defaultdict[str, list[int]] = field(default_factory=lambda: defaultdict(list))
    begun_by: defaultdict[str, list[int]] = field(default_factory=lambda: defaultdict(list))

    @classmethod
    def by_numbers(cls, keys: Sequence[_Key]) -> dict[tuple[str, ...], _Group]:
        """Return keys in groups; those without words are in none."""
        groups: defaultdict[tuple[str, ...], _Group] = defaultdict(cls)
        for index, key in enumerate(keys):
            if not key.words:
                continue
            group = groups[key.numbers]
            group.indices.append(index)
            group.texts.append(key.text)
            group.orders.append(key.in_order)
            for word in key.words:
                group.with_word[word].append(index)
            group.begun_by[key.words[0]].append(index)
        return dict(groups)

    def like(self, mine: _Key) -> set[int]:
        """Return all that `_likeness` may find to be like a key, and few others; the comparing is done in C."""
        least = DOUBTFUL - 0.5  # likeness is rounded
        alike = process.extract(mine.text, self.texts, scorer=fuzz.ratio, score_cutoff=least, limit=None)
        moved = process.extract(mine.in_order, self.orders, scorer=fuzz.ratio, score_cutoff=least + 1, limit=None)
        found = {self.indices[at] for _, _, at in (*alike, *moved)}
        found.update(*(self.begun_by[word] for word in mine.words if word in self.begun_by))  # fewer words than mine
        rarest = min(mine.words, key=lambda word: len(self.with_word.get(word, ())))
        found.update(self.with_word.get(rarest, ()))  # more
        return found


def _likeness(mine: _Key, other: _Key) -> int:
    """Return how like each other words are, of 100; 0 where their numbers differ, which mean different things."""
    if not mine.text or not other.text or mine.numbers != other.numbers:
        return 0
    if mine.text == other.text:
        return _SAME
    alike = max(fuzz.ratio(mine.text, other.text), fuzz.ratio(mine.in_order, other.in_order) - 1)
    fewer, more = sorted((mine.words, other.words), key=len)
    rest = iter(more)
    if len("".join(fewer)) >= _TELLING and all(word in rest for word in fewer):
        begins = _BEGINS if more[: len(fewer)] == fewer else 0
        alike = max(alike, _PART + begins - 2 * min(len(more) - len(fewer), _FAR))
    return round(alike)


_TELLING = 4  # letters that fewer words must have to stand for more
