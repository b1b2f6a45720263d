"""Recipes: operations with their settings, read from a file, and planned over a site as one change."""

from __future__ import annotations

import tomllib
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from fnmatch import fnmatchcase
from functools import partial
from typing import Annotated, Any, ClassVar

from annotated_types import MaxLen

from signpost.core.operations.identifiers import Identify
from signpost.core.operations.operation import (
    OPERATIONS,
    ManyPages,
    Operation,
    Planned,
    Preferences,
    Situation,
    Takes,
    Tell,
    declared,
)
from signpost.core.operations.reading import read_said
from signpost.core.operations.recipe_steps import STEPS, OverPages
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import Site
from signpost.core.site.worked import WorkedSite
from signpost.core.text.edits import EditSet
from signpost.core.text.errors import InputError, RequestError, SignpostError

#: Tells how many pages of how many are done.
TellPages = Callable[[int, int], None]
_MOST_NOTES = 40
#: How often all steps are gone through at most, where a later one leaves something to do for an earlier one.
_TURNS = 5


@dataclass(frozen=True, slots=True)
class Step:
    """One operation of a recipe."""

    operation: Operation | OverPages
    pages: tuple[str, ...] = ("*",)  # patterns of paths, "*" for any characters; one that begins with "!" takes out

    @property
    def does(self) -> str:
        """The name of the operation."""
        return self.operation.does


@dataclass(frozen=True, slots=True)
class Recipe:
    """Operations in their order."""

    name: str
    steps: tuple[Step, ...]


def read_recipe(text: str) -> Recipe:
    """Return the recipe that a text says. Raises InputError for one that cannot be read, saying what to correct."""
    try:
        said = tomllib.loads(text.removeprefix("\ufeff"))
    except tomllib.TOMLDecodeError as error:
        raise InputError(f"The recipe cannot be read: {error}. Correct it.") from error
    steps = said.pop("step", [])
    name = said.pop("name", "")
    if said:
        raise InputError(f"A recipe has a name and steps, each written [[step]]; “{next(iter(said))}” is neither.")
    if not isinstance(name, str) or not isinstance(steps, list) or not all(isinstance(one, dict) for one in steps):
        raise InputError("A recipe has a name in quotation marks, and steps, each written [[step]].")
    if not steps:
        raise InputError("The recipe has no step. Write one as [[step]] with do = “identify”.")
    return Recipe(name, tuple(_read_step(number, one) for number, one in enumerate(steps, start=1)))


def _read_step(number: int, said: dict[str, Any]) -> Step:
    does, pages = said.pop("do", None), said.pop("pages", ["*"])
    steps = {**{name: kind for name, kind in OPERATIONS.items() if kind is not CarryOut}, **STEPS}
    if does not in steps:
        raise InputError(f"Step {number}: do is one of {', '.join(sorted(steps))}.")
    pages = [pages] if isinstance(pages, str) else pages
    if not isinstance(pages, list) or not pages or not all(isinstance(one, str) for one in pages):
        raise InputError(f"Step {number}: pages is a list of paths in quotation marks, such as “guides/*.html”.")
    try:
        operation = read_said(steps[does], does, said)
    except InputError as error:
        raise InputError(f"Step {number}: {error}") from error
    return Step(operation, tuple(pages))


def plan_recipe(
    site: Site, recipe: Recipe, tell: Tell = lambda _what, _done, _total: None, preferences: Preferences | None = None
) -> SitePlan:
    """Return the plan that carries out a recipe, each step on what the one before it left, until none has more to do.

    A step that a page refuses is left out there, and said in the notes. `tell` is called as pages are gone through.
    """
    work, notes = _Work(site, preferences or Preferences()), list[str]()
    for turn in range(_TURNS):
        before = work.site
        for number, step in enumerate(recipe.steps, start=1):
            if turn and not isinstance(step.operation, (*STEPS.values(), Identify)):
                continue
            paths = [path for path in sorted(work.site.pages) if _is_meant(path, step.pages)]
            said = work.carry_out(step.operation, paths, partial(tell, _words_of(number, step, turn)))
            if turn == 0:
                notes += [f"Step {number}, {step.does}: {words}" for words in said]
        if work.site is before:
            break
    more = len(notes) - _MOST_NOTES
    shown = [*notes[:_MOST_NOTES], f"and {more} more."] if more > 0 else notes
    return work.plan(shown)


def _words_of(number: int, step: Step, turn: int) -> str:
    return f"Step {number}, {step.does}" + (", once more" if turn else "")


def _is_meant(path: str, patterns: Sequence[str]) -> bool:
    """Return whether a page is one of those that a step is for; what is said later counts."""
    meant = patterns[0].startswith("!")
    for pattern in patterns:
        if fnmatchcase(path, pattern.removeprefix("!")):
            meant = not pattern.startswith("!")
    return meant


class _Work:
    """A site while a recipe is carried out on it."""

    def __init__(self, site: Site, preferences: Preferences) -> None:
        self._worked = WorkedSite(site)
        self._preferences = preferences
        self._notes: list[str] = []

    @property
    def site(self) -> Site:
        """The site as the steps before have left it."""
        return self._worked.site

    def carry_out(self, operation: Operation | OverPages, paths: Sequence[str], tell: TellPages) -> list[str]:
        """Carry out an operation over the site, or on each of some pages; return what is to be said of it."""
        self._notes = []
        tell(0, len(paths))
        if isinstance(operation, OverPages) or operation.is_over_site:
            if paths:
                self._over_site(operation, paths, tell)
        else:
            self._on_each(operation, paths, tell)
        return self._notes

    def _on_each(self, operation: Operation, paths: Sequence[str], tell: TellPages) -> None:
        waiting: dict[str, EditSet] = {}  # of pages that no other plan touches, put in together
        for done, path in enumerate(paths, start=1):
            tell(done, len(paths))
            plan = self._planned(operation, path)
            if plan.edits.keys() <= {path} and not (plan.new_files or plan.gone or plan.moves):
                waiting |= plan.edits
            else:
                self._put_in(SitePlan(waiting))
                plan = self._planned(operation, path) if waiting else plan
                waiting = {}
                self._put_in(plan)
            self._notes += [f"{path}: {note}" for note in plan.notes]
        self._put_in(SitePlan(waiting))

    def _planned(self, operation: Operation, path: str) -> SitePlan:
        """Return what an operation would do on a page; of one that refuses it, and of one that is gone, only why."""
        if path not in self.site.pages:
            return SitePlan()
        try:
            return operation.plan(Situation(self.site, self.site.pages[path], self._preferences)).plan
        except SignpostError as error:
            return SitePlan(notes=(str(error),))

    def _over_site(self, operation: Operation | OverPages, paths: Sequence[str], tell: TellPages) -> None:
        first = self.site.pages[paths[0]]
        here = Situation(self.site, first, self._preferences, tell=lambda _, done, total: tell(done, total))
        try:
            if isinstance(operation, OverPages):
                plan = operation.plan_over(here, paths)
            else:
                plan = operation.plan(here).plan
                if isinstance(operation, ManyPages):
                    plan = plan.without(plan.edits.keys() - {*paths})
        except (RequestError, InputError) as error:
            self._notes.append(str(error))
            return
        self._put_in(plan)
        self._notes += plan.notes

    def _put_in(self, plan: SitePlan) -> None:
        """Carry out a plan, but on pages whose bytes would not survive being written back."""
        if plan.question is not None:
            self._notes.append(f"{plan.question.words} Do it at the desk, where that can be answered.")
            return
        self._notes += self._worked.put_in(plan)

    def plan(self, notes: Sequence[str]) -> SitePlan:
        """Return all that was carried out as one plan of the site as it was at first."""
        return self._worked.plan(notes, reason="as the recipe says")


@declared
class CarryOut(ManyPages):
    """A recipe carried out over the site: operations with their settings, in TOML."""

    does: ClassVar[str] = "recipe"
    takes: ClassVar[Takes] = Takes.WRITTEN

    text: Annotated[str, MaxLen(100_000)]

    def plan_all(self, here: Situation) -> Planned:
        recipe = read_recipe(self.text)
        title = f"Recipe “{recipe.name}”" if recipe.name else "Recipe"
        return Planned(title, plan_recipe(here.site, recipe, here.tell, here.preferences))
