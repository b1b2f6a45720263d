"""What is read of a page more than once, and kept for the few pages that are worked on."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable
from functools import wraps
from threading import Lock
from typing import TypeVar

from signpost.core.page.facts import Page

T = TypeVar("T")


def kept_for_last_pages(most: int) -> Callable[[Callable[[Page], T]], Callable[[Page], T]]:
    """Return a decorator that keeps what a function returns for the last few pages that it was asked about.

    A page never changes, so what is kept is never out of date. Pages are told apart as objects, which costs nothing.
    """

    def decorate(read: Callable[[Page], T]) -> Callable[[Page], T]:
        kept: OrderedDict[int, tuple[Page, T]] = OrderedDict()
        lock = Lock()

        @wraps(read)
        def read_once(page: Page) -> T:
            with lock:
                found = kept.get(id(page))
                if found is not None:
                    kept.move_to_end(id(page))
                    return found[1]
            result = read(page)
            with lock:
                kept[id(page)] = page, result  # holding the page keeps its identity from being used again
                while len(kept) > most:
                    kept.popitem(last=False)
            return result

        return read_once

    return decorate


#: Under which name a page has what was read of it: in itself, so that both go together, whatever holds the other.
_KEPT = "_kept"


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


def forget_kept(page: Page) -> None:
    """Forget what was read of a page; it is read again when it is asked for."""
    vars(page).pop(_KEPT, None)
