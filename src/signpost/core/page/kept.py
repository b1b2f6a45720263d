"""What is found out about a page once and asked for again: it belongs to the page, and is freed with it."""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps
from threading import Lock
from typing import TypeVar

from signpost.core.page.facts import Page

T = TypeVar("T")

#: Under which names a page has what is known of it: in itself, so that both go together, whatever holds the other.
_KEPT, _AT_HAND = "_kept", "_at_hand"
#: Of how many pages, those worked on last, that is kept which takes much room: tokens, the tree and its elements;
#: and how long all of them may be, in characters, unless one alone is longer.
_MOST_PAGES, _MOST_CHARACTERS = 4, 2_000_000


def kept_with_page(read: Callable[[Page], T]) -> Callable[[Page], T]:
    """Return a function that remembers what another returns for a page, for as long as the page itself is there.

    It is kept in the page, which may be held by what is kept: the two are freed together.
    """

    @wraps(read)
    def read_once(page: Page) -> T:
        kept: dict[Callable[[Page], T], T] = vars(page).setdefault(_KEPT, {})
        if read not in kept:
            kept[read] = read(page)
        return kept[read]

    return read_once


class _LastPages:
    """The pages worked on last; what takes much room is kept with them until others take their places."""

    def __init__(self) -> None:
        self._pages: list[Page] = []  # the last one used last
        self._lock = Lock()

    def kept(self, page: Page) -> dict[Callable[[Page], object], object]:
        """Return what is kept with a page while it is among the last ones."""
        last = self._pages[-1:]
        if not last or last[0] is not page:
            with self._lock:
                others = [one for one in self._pages if one is not page]
                room = _MOST_CHARACTERS - len(page.text)
                while others and (len(others) >= _MOST_PAGES or sum(len(one.text) for one in others) > room):
                    vars(others.pop(0)).pop(_AT_HAND, None)
                self._pages = [*others, page]
        kept: dict[Callable[[Page], object], object] = vars(page).setdefault(_AT_HAND, {})
        return kept

    def forget(self, page: Page) -> None:
        """Forget what is kept with a page."""
        with self._lock:
            vars(page).pop(_AT_HAND, None)
            self._pages = [one for one in self._pages if one is not page]


_last_pages = _LastPages()


def kept_at_hand(read: Callable[[Page], T]) -> Callable[[Page], T]:
    """Return a function that remembers what another returns for a page while that is among those worked on last."""

    @wraps(read)
    def read_once(page: Page) -> T:
        kept: dict[Callable[[Page], T], T] = _last_pages.kept(page)  # type: ignore[assignment]
        found = kept.get(read)
        if found is None:
            found = kept[read] = read(page)
        return found

    return read_once


def keep_at_hand(read: Callable[[Page], T], page: Page, found: T) -> None:
    """Note what a function that is `kept_at_hand` returns for a page, where it is known already."""
    _last_pages.kept(page)[read.__wrapped__] = found  # type: ignore[attr-defined]


def forget_kept(page: Page) -> None:
    """Forget what was found out about a page; it is found again when asked for."""
    vars(page).pop(_KEPT, None)
    _last_pages.forget(page)
