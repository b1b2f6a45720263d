"""The index of a site: who tells what, so that no question about a page has to read all the others."""

from __future__ import annotations

import unicodedata
from collections import defaultdict
from collections.abc import Collection, Iterable, Iterator, Mapping, Set
from contextlib import AbstractContextManager, nullcontext
from enum import StrEnum
from typing import Any, Protocol, runtime_checkable

from signpost.core.page import Page
from signpost.core.site.told import ASKED_TOGETHER, Kind, tell_kind

#: The values of rows, by the page that tells them.
Answers = Mapping[str, tuple[str, ...]]
#: What an answer depends on: a kind of row and a key, or a word of `Matter` and what it is about.
Need = tuple[str, str]
#: Stands for all keys of a kind.
EVERY = "*"


class Matter(StrEnum):
    """What answers depend on beside rows."""

    FILE = "file"  # whether there is a file; key: see `file_key`
    PAGE = "page"  # all that a page is; key: its path
    NAMES = "names"  # which identifiers a page has, in whatever order; key: its path
    TEXT = "text"  # what a style sheet or a script contains; key: its path
    ANSWER = "answer"  # what was found out about the site as a whole; key: what that is


def file_key(path: str) -> str:
    """Return the key under which it is noted that an answer depends on a path: the same in any case and spelling."""
    return unicodedata.normalize("NFC", path).casefold().rstrip("/")


def file_keys(path: str) -> list[str]:
    """Return the keys of all answers that change where a file comes or goes: its own, its folders', and any's."""
    keys = [EVERY, file_key(path)]
    while path := path.rpartition("/")[0]:
        keys.append(file_key(path))
    return [*keys, ""]


class Index(Protocol):
    """Answers who tells what, and can note what was asked."""

    def ask(self, kind: Kind, key: str) -> Answers:
        """Return the values of the rows of a kind under a key, by page, in the order of their paths."""

    def ask_among(self, kind: Kind, key: str, pages: Collection[str]) -> set[str]:
        """Return which of some pages have rows of a kind under a key. Nothing is noted."""

    def ask_all(self, kind: Kind) -> Mapping[str, Answers]:
        """Return all rows of a kind, by key."""

    def note(self, needs: Iterable[Need]) -> None:
        """Note that what is being found out depends on these as well."""

    def noting(self) -> AbstractContextManager[Set[Need]]:
        """Give what is noted until the block is left; for what was being found out before, it is not."""

    def recall(self, name: str) -> tuple[Any] | None:
        """Return what was found out about the whole site and is still so; None where it is not known."""

    def answer(self, name: str, value: object, needs: Iterable[Need] | None) -> None:
        """Note that an answer about the whole site was asked: its value, and what that depends on.

        Without needs, it was recalled.
        """


_NOTHING: AbstractContextManager[Set[Need]] = nullcontext(frozenset())


class PagesIndex:
    """The index of pages at hand; what they tell is made for each kind when it is first asked."""

    def __init__(self, pages: Mapping[str, Page], base: str | None) -> None:
        self._pages = pages
        self._base = base
        self._rows: dict[Kind, Mapping[str, Answers]] = {}

    def _rows_of(self, kind: Kind) -> Mapping[str, Answers]:
        if kind not in self._rows:
            found: dict[Kind, dict[str, dict[str, tuple[str, ...]]]] = {
                one: {} for one in (ASKED_TOGETHER if kind in ASKED_TOGETHER else [kind])
            }
            for path in sorted(self._pages):
                for one, rows in found.items():
                    for key, value in sorted(tell_kind(one, self._pages[path], self._base)):
                        answers = rows.setdefault(key, {})
                        answers[path] = (*answers.get(path, ()), value)
            self._rows |= found
        return self._rows[kind]

    def ask(self, kind: Kind, key: str) -> Answers:
        """Return the values of the rows of a kind under a key, by page, in the order of their paths."""
        return self._rows_of(kind).get(key, {})

    def ask_among(self, kind: Kind, key: str, pages: Collection[str]) -> set[str]:
        """Return which of some pages have rows of a kind under a key."""
        return {*pages} & self.ask(kind, key).keys()

    def ask_all(self, kind: Kind) -> Mapping[str, Answers]:
        """Return all rows of a kind, by key."""
        return self._rows_of(kind)

    def note(self, needs: Iterable[Need]) -> None:
        """Do nothing: pages at hand do not change."""

    def noting(self) -> AbstractContextManager[Set[Need]]:
        """Give nothing: pages at hand do not change."""
        return _NOTHING

    def recall(self, name: str) -> None:
        """Return that nothing is known."""

    def answer(self, name: str, value: object, needs: Iterable[Need] | None) -> None:
        """Do nothing: pages at hand do not change."""


class ReplacedIndex:
    """An index with some pages other than they are there, or gone."""

    def __init__(self, index: Index, pages: Mapping[str, Page], gone: Collection[str], base: str | None) -> None:
        self._index = index
        self._own = PagesIndex(pages, base)
        self._hidden = frozenset([*pages, *gone])

    def _merged(self, old: Answers, new: Answers) -> Answers:
        kept = {path: values for path, values in old.items() if path not in self._hidden}
        return dict(sorted([*kept.items(), *new.items()])) if new else kept

    def ask(self, kind: Kind, key: str) -> Answers:
        """Return the values of the rows of a kind under a key, by page, in the order of their paths."""
        return self._merged(self._index.ask(kind, key), self._own.ask(kind, key))

    def ask_among(self, kind: Kind, key: str, pages: Collection[str]) -> set[str]:
        """Return which of some pages have rows of a kind under a key. Nothing is noted."""
        kept = self._index.ask_among(kind, key, {*pages} - self._hidden)
        return kept | self._own.ask_among(kind, key, pages)

    def ask_all(self, kind: Kind) -> Mapping[str, Answers]:
        """Return all rows of a kind, by key."""
        old, new = self._index.ask_all(kind), self._own.ask_all(kind)
        merged: defaultdict[str, Answers] = defaultdict(dict)
        for key in [*old, *(key for key in new if key not in old)]:
            found = self._merged(old.get(key, {}), new.get(key, {}))
            if found:
                merged[key] = found
        return merged

    def note(self, needs: Iterable[Need]) -> None:
        """Note that what is being found out depends on these as well."""
        self._index.note(needs)

    def noting(self) -> AbstractContextManager[Set[Need]]:
        """Give what is noted until the block is left."""
        return self._index.noting()

    def recall(self, name: str) -> None:
        """Return that nothing is known of the site as it is here."""

    def answer(self, name: str, value: object, needs: Iterable[Need] | None) -> None:
        """Note that an answer about the whole site was asked."""
        self._index.answer(name, value, needs)


@runtime_checkable
class Fetching(Protocol):
    """Pages that are read when they are asked for, and faster several at once."""

    def fetch(self, paths: Iterable[str]) -> None:
        """Read several pages at once, those that are there."""


def fetched(pages: Mapping[str, Page], paths: Iterable[str]) -> list[Page]:
    """Return pages of a site that are there, read at once where they have to be."""
    wanted = list(paths)
    if isinstance(pages, Fetching):
        pages.fetch(wanted)
    return [pages[path] for path in wanted]


class ReplacedPages(Mapping[str, Page]):
    """Pages of a site with some other than they are there, or gone; none is read before it is asked for."""

    def __init__(self, pages: Mapping[str, Page], new: Mapping[str, Page], gone: Collection[str]) -> None:
        self._pages = pages
        self._new = new
        self._gone = frozenset(gone) - new.keys()

    def __getitem__(self, path: str) -> Page:
        if path in self._new:
            return self._new[path]
        if path in self._gone:
            raise KeyError(path)
        return self._pages[path]

    def __contains__(self, path: object) -> bool:
        return path in self._new or (path in self._pages and path not in self._gone)

    def fetch(self, paths: Iterable[str]) -> None:
        """Read several pages at once, those that are there."""
        if isinstance(self._pages, Fetching):
            self._pages.fetch(path for path in paths if path not in self._new and path not in self._gone)

    def __iter__(self) -> Iterator[str]:
        yield from (path for path in self._pages if path not in self._gone)
        yield from (path for path in self._new if path not in self._pages)

    def __len__(self) -> int:
        return sum(1 for _ in self)
