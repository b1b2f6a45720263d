"""Recipes: operations with their settings, read from a file, and planned over a site as one change."""

from __future__ import annotations

import tomllib
from abc import ABC, abstractmethod
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from fnmatch import fnmatchcase
from functools import partial
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le, MaxLen, MinLen

from signpost.core.addresses.links import is_page_path
from signpost.core.back_to_top.destinations import Destination
from signpost.core.contents import find_blocks
from signpost.core.findings.fixing import plan_fixes
from signpost.core.headings.heads import plan_heads, titles_by_pattern
from signpost.core.headings.levels import plan_closed_gaps
from signpost.core.headings.promotions import plan_sure
from signpost.core.navigation.menus import MenuOptions
from signpost.core.navigation.order import reading_order
from signpost.core.navigation.planning import NavigationKind, NavigationOptions, plan_navigation
from signpost.core.operations.contents import BackToTop, Contents
from signpost.core.operations.identifiers import Identify
from signpost.core.operations.operation import (
    OPERATIONS,
    Habits,
    HeadingLevel,
    ManyPages,
    Operation,
    PagePath,
    Planned,
    RuleCode,
    Situation,
    Takes,
    Tell,
    declared,
)
from signpost.core.operations.reading import read_said
from signpost.core.page import Page, read_edited, read_page
from signpost.core.page.plans import Planner, plan_in_turn
from signpost.core.references.shared import plan_alike
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import Site
from signpost.core.text.edits import EditSet, apply_edits, edit_set, edits_between
from signpost.core.text.errors import InputError, RequestError, SignpostError
from signpost.core.text.source import Source, read_source

#: Tells how many pages of how many are done.
TellPages = Callable[[int, int], None]
_MOST_NOTES = 40
#: How often all steps are gone through at most, where a later one leaves something to do for an earlier one.
_TURNS = 5


@dataclass(frozen=True, slots=True)
class Step:
    """One operation of a recipe."""

    operation: Operation | _OverPages
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
    site: Site, recipe: Recipe, tell: Tell = lambda _what, _done, _total: None, habits: Habits | None = None
) -> SitePlan:
    """Return the plan that carries out a recipe, each step on what the one before it left, until none has more to do.

    A step that a page refuses is left out there, and said in the notes. `tell` is called as pages are gone through.
    """
    work, notes = _Work(site, habits or Habits()), list[str]()
    for turn in range(_TURNS):
        before = work.site
        for number, step in enumerate(recipe.steps, start=1):
            if turn and not isinstance(step.operation, _UNTIL_DONE):
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

    def __init__(self, site: Site, habits: Habits) -> None:
        self.first = site
        self.site = site
        self._habits = habits
        self._gone: set[str] = set()
        self._moves: dict[str, str] = {}  # where files are now, by where they were
        self._notes: list[str] = []

    def carry_out(self, operation: Operation | _OverPages, paths: Sequence[str], tell: TellPages) -> list[str]:
        """Carry out an operation over the site, or on each of some pages; return what is to be said of it."""
        self._notes = []
        tell(0, len(paths))
        if isinstance(operation, _OverPages) or operation.is_over_site:
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
            return operation.plan(Situation(self.site, self.site.pages[path], self._habits)).plan
        except SignpostError as error:
            return SitePlan(notes=(str(error),))

    def _over_site(self, operation: Operation | _OverPages, paths: Sequence[str], tell: TellPages) -> None:
        first = self.site.pages[paths[0]]
        here = Situation(self.site, first, self._habits, tell=lambda _, done, total: tell(done, total))
        try:
            if isinstance(operation, _OverPages):
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
        damaged = []
        for path in plan.edits:
            try:
                self.site.source(path).encode("")
            except SignpostError as error:
                self._notes.append(f"{path}: {error}")
                damaged.append(path)
        if damaged:
            plan = replace(plan, edits={path: edits for path, edits in plan.edits.items() if path not in damaged})
        if plan:
            origins = {now: first for first, now in self._moves.items()}
            self._moves |= {origins.get(old, old): new for old, new in plan.moves.items()}
            self._gone |= {*plan.gone}
            self.site = _after(self.site, plan)

    def plan(self, notes: Sequence[str]) -> SitePlan:
        """Return all that was carried out as one plan of the site as it was at first."""
        moves = {old: new for old, new in self._moves.items() if old in self.first.files and old != new}
        edits = {}
        for path in (*self.first.pages, *self.first.texts):
            now = moves.get(path, path)
            if now in self.site.pages or now in self.site.texts:
                before, after = self.first.source(path), self.site.source(now)
                if before is not after and before.data != after.data:
                    edits[path] = edit_set(
                        before, edits_between(before.text, after.text, reason="as the recipe says")
                    )
        known = {*self.first.files, *moves.values()}
        new = {
            path: self.site.source(path).data for path in (*self.site.pages, *self.site.texts) if path not in known
        }
        gone = tuple(sorted((self._gone & self.first.files) - self.site.files))
        return SitePlan({path: one for path, one in edits.items() if one}, new, gone, tuple(notes), None, moves)


def _after(site: Site, plan: SitePlan) -> Site:
    """Return the site with a plan carried out."""
    pages, texts = dict[str, Page](), dict[str, Source]()
    made = {path: read_source(data) for path, data in plan.new_files.items()}
    for path, edits in plan.edits.items():
        if path in plan.moves:
            continue
        if path in site.pages:
            pages[path] = read_edited(site.pages[path], edits)
        else:
            texts[path] = site.texts[path].again(apply_edits(site.texts[path], edits))
    for old, new in plan.moves.items():
        if old in site.pages or old in site.texts:
            source = site.source(old)
            made[new] = source.again(apply_edits(source, plan.edits[old])) if old in plan.edits else source
    pages |= {path: read_page(path, source) for path, source in made.items() if is_page_path(path)}
    texts |= {path: source for path, source in made.items() if not is_page_path(path)}
    went = {*plan.gone, *plan.moves} - {*plan.moves.values()}
    after = site.replaced(pages, went)
    if not texts and not plan.moves and not went & site.texts.keys():
        return after
    kept = {path: text for path, text in site.texts.items() if path not in went}
    return replace(after, files=(after.files | made.keys() | {*plan.moves.values()}) - went, texts={**kept, **texts})


@dataclass(frozen=True, kw_only=True)
class _OverPages(ABC):
    """A step that looks at all its pages together."""

    does: ClassVar[str]
    is_over_site: ClassVar[bool] = True

    @abstractmethod
    def plan_over(self, here: Situation, paths: Sequence[str]) -> SitePlan:
        """Return what it would do on pages. Raises RequestError."""


@dataclass(frozen=True, kw_only=True)
class _Headings(Operation):
    """Look-alike headings that are sure made real, and gaps between levels closed."""

    does: ClassVar[str] = "headings"
    takes: ClassVar[Takes] = Takes.MARKUP

    lookalikes: bool = True
    close_gaps: bool = True

    def plan(self, here: Situation) -> Planned:
        planners: list[Planner] = [plan_sure] if self.lookalikes else []
        planners += [plan_closed_gaps] if self.close_gaps else []
        return self.on_page("Headings", here, plan_in_turn(here.page, *planners, reason="headings"))


@dataclass(frozen=True, kw_only=True)
class _Contents(Contents):
    """Contents refreshed; new ones where that is said."""

    make: bool = False

    def plan(self, here: Situation) -> Planned:
        if not self.make and not find_blocks(here.page):
            return Planned("Contents", SitePlan())
        planned = super().plan(here)
        return replace(planned, plan=replace(planned.plan, notes=()))


@dataclass(frozen=True, kw_only=True)
class _Returns(Operation):
    """Back-to-top links."""

    does: ClassVar[str] = "returns"

    levels: Annotated[tuple[HeadingLevel, ...], MinLen(1)] = (2,)
    to: Destination = Destination.TOP
    min_words: Annotated[int, Ge(0)] = 0
    words: Annotated[str, MaxLen(100)] = ""
    alike: bool = False

    def plan(self, here: Situation) -> Planned:
        return BackToTop(
            levels=self.levels, to=self.to, least_words=self.min_words, words=self.words, alike=self.alike
        ).plan(here)


@dataclass(frozen=True, kw_only=True)
class _Fix(_OverPages):
    """Findings fixed that take no choice: all, or those of some rules."""

    does: ClassVar[str] = "fix"

    select: tuple[RuleCode, ...] | None = None

    def plan_over(self, here: Situation, paths: Sequence[str]) -> SitePlan:
        def told() -> Iterator[str]:
            for done, path in enumerate(paths, start=1):
                here.tell(self.does, done, len(paths))
                yield path

        return plan_fixes(here.site, told(), self.select, options=here.habits.checks)


@dataclass(frozen=True, kw_only=True)
class _Shared(_OverPages):
    """Copies of a block, or of all, made alike."""

    does: ClassVar[str] = "shared"

    block: str | None = None
    from_: str | None = None  # the page whose copy counts

    def plan_over(self, here: Situation, paths: Sequence[str]) -> SitePlan:
        plan = plan_alike(here.site, self.block, self.from_)
        return plan.without(plan.edits.keys() - {*paths})


@dataclass(frozen=True, kw_only=True)
class _Navigation(_OverPages):
    """Navigation across pages; without an order, in the one in which they are read."""

    does: ClassVar[str] = "navigation"

    kind: NavigationKind = NavigationKind.STEPS
    order: tuple[PagePath, ...] | None = None
    home: str = ""
    block: str | None = None
    sections: bool = False
    depth: Annotated[int, Ge(0), Le(6)] = 1

    def plan_over(self, here: Situation, paths: Sequence[str]) -> SitePlan:
        known = dict.fromkeys(reading_order(here.site) if self.order is None else self.order)
        meant = tuple(path for path in known if path in {*paths})
        options = MenuOptions(sections=self.sections)
        return plan_navigation(
            here.site, NavigationOptions(self.kind, meant, self.home, self.block, options, depth=self.depth)
        )


@dataclass(frozen=True, kw_only=True)
class _Titles(_OverPages):
    """Titles that follow a pattern."""

    does: ClassVar[str] = "titles"

    pattern: Annotated[str, MinLen(1)]

    def plan_over(self, here: Situation, paths: Sequence[str]) -> SitePlan:
        return plan_heads(here.site, titles_by_pattern(here.site, paths, self.pattern))


#: Steps that change nothing where they have nothing more to do, so that they may come again.
_UNTIL_DONE = (_Headings, Identify, _Contents, _Returns, _Fix, _Shared, _Navigation, _Titles)

#: Steps that are told otherwise than the operations at the desk, by name.
STEPS: dict[str, type[Operation | _OverPages]] = {
    one.does: one for one in (_Headings, _Contents, _Returns, _Fix, _Shared, _Navigation, _Titles)
}


@declared
class CarryOut(ManyPages):
    """A recipe carried out over the site: operations with their settings, in TOML."""

    does: ClassVar[str] = "recipe"
    takes: ClassVar[Takes] = Takes.WRITTEN

    text: Annotated[str, MaxLen(100_000)]

    def plan_all(self, here: Situation) -> Planned:
        recipe = read_recipe(self.text)
        title = f"Recipe “{recipe.name}”" if recipe.name else "Recipe"
        return Planned(title, plan_recipe(here.site, recipe, here.tell, here.habits))
