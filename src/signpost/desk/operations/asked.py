"""What an operation is given, and what it gives."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from signpost.core.page import Page
from signpost.core.site.plans import SitePlan, plan_for
from signpost.core.site.site import Site
from signpost.core.text.edits import EditSet
from signpost.desk.settings import Settings

#: The pages on which something is wrong by a rule, or by any; by the rule's code.
Faulty = Callable[[str | None], Sequence[str]]
#: The heights of a page's sections in windows, by index, where they were measured; by the page's path.
Lengths = Callable[[str], Mapping[int, float]]


@dataclass(frozen=True, slots=True)
class Asked:
    """An operation that was asked for."""

    site: Site
    page: Page
    settings: Settings
    parameters: Mapping[str, Any]
    lengths: Lengths
    faulty: Faulty

    def __getitem__(self, name: str) -> Any:
        """Return a parameter."""
        return self.parameters[name]

    def indexed(self, name: str) -> dict[int, Any]:
        """Return a parameter whose keys are indexes, as numbers."""
        return {int(index): value for index, value in self.parameters[name].items()}


@dataclass(frozen=True, slots=True)
class Planned:
    """An operation's plan, and what its change will be called."""

    title: str
    plan: SitePlan


Planner = Callable[[Asked], Planned]


def on_page(title: str, asked: Asked, edits: EditSet, notes: Iterable[str] = ()) -> Planned:
    """Return a plan of edits on the page that was asked for."""
    return Planned(title, plan_for(asked.page, edits, notes))


def count_of(number: int, noun: str) -> str:
    """Return a number with its noun."""
    return f"{number:,} {noun}" if number == 1 else f"{number:,} {noun}s"
