"""How far long work has come: told by use cases, to whoever waits for them."""

from __future__ import annotations

from collections.abc import Callable
from contextvars import ContextVar
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Told:
    """How far work has come."""

    what: str  # is done, in a few words
    done: int
    total: int


#: What is called while work goes on.
Teller = Callable[[Told], None]


def _nobody(_: Told) -> None:
    """Tell nobody."""


#: Whoever is told. Work that tells how far it has come may take longer than other work, since it can be stopped.
TELLER: ContextVar[Teller] = ContextVar("teller", default=_nobody)


def tell(what: str, done: int, total: int) -> None:
    """Tell how far work has come."""
    TELLER.get()(Told(what, done, total))
