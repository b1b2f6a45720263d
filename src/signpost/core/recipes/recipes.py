"""Recipes: operations with their settings, read from a file, and planned over a site as one change."""

from __future__ import annotations

import tomllib
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from fnmatch import fnmatchcase
from functools import partial
from typing import Any

from signpost.core.addresses.links import is_page_path
from signpost.core.back_to_top.destinations import Destination
from signpost.core.back_to_top.planning import BackLinkOptions, plan_back_links
from signpost.core.contents import ContentsOptions, find_blocks, plan_contents
from signpost.core.findings import RULES
from signpost.core.findings.fixing import plan_fixes
from signpost.core.headings.heads import plan_heads, titles_by_pattern
from signpost.core.headings.levels import plan_closed_gaps
from signpost.core.headings.promotions import plan_sure
from signpost.core.identifiers.sections import plan_identifiers
from signpost.core.navigation.menus import MenuOptions
from signpost.core.navigation.order import reading_order
from signpost.core.navigation.planning import NavigationKind, NavigationOptions, plan_navigation
from signpost.core.page import Page, read_edited, read_page
from signpost.core.page.plans import Planner, plan_in_turn
from signpost.core.references.shared import plan_alike
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import Site
from signpost.core.text.edits import EditSet, apply_edits, edit_set, edits_between
from signpost.core.text.errors import InputError, RequestError, SignpostError
from signpost.core.text.source import read_source

#: Tells how far work has come: what is done, how many pages of it, of how many.
Tell = Callable[[str, int, int], None]
_MOST_NOTES = 40
#: How often all steps are gone through at most, where a later one leaves something to do for an earlier one.
_TURNS = 5


def _tell_nobody(what: str, done: int, total: int) -> None:
    """Tell nobody."""


@dataclass(frozen=True, slots=True)
class Step:
    """One operation of a recipe."""

    does: str  # a name in STEPS
    settings: Mapping[str, Any] = field(default_factory=dict)
    pages: tuple[str, ...] = ("*",)  # patterns of paths, "*" for any characters; one that begins with "!" takes out


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
    if does not in STEPS:
        raise InputError(f"Step {number}: do is one of {', '.join(STEPS)}.")
    pages = [pages] if isinstance(pages, str) else pages
    if not isinstance(pages, list) or not pages or not all(isinstance(one, str) for one in pages):
        raise InputError(f"Step {number}: pages is a list of paths in quotation marks, such as “guides/*.html”.")
    known = STEPS[does].settings
    for name, value in said.items():
        if name not in known:
            can = f"only {', '.join(known)}" if known else "nothing"
            raise InputError(f"Step {number}: “{does}” can be told {can} beside its pages, not “{name}”.")
        if not known[name](value):
            raise InputError(f"Step {number}: {value!r} cannot be the {name} of “{does}”.")
    return Step(does, said, tuple(pages))


def plan_recipe(site: Site, recipe: Recipe, tell: Tell = _tell_nobody) -> SitePlan:
    """Return the plan that carries out a recipe, each step on what the one before it left, until none has more to do.

    A step that a page refuses is left out there, and said in the notes. `tell` is called as pages are gone through.
    """
    now, notes = site, list[str]()
    gone: set[str] = set()
    for turn in range(_TURNS):
        before = now
        for number, step in enumerate(recipe.steps, start=1):
            paths = [path for path in sorted(now.pages) if _is_meant(path, step.pages)]
            asked = _Asked(now, paths, step.settings, partial(tell, _words_of(number, step, turn)))
            asked.tell(0, len(paths))
            plan, said = STEPS[step.does].plan(asked)
            kept, damaged = _without_damaged(now, plan)
            if turn == 0:
                notes += [f"Step {number}, {step.does}: {words}" for words in (*said, *damaged, *plan.notes)]
            plan = kept
            if plan:
                gone |= set(plan.gone)
                now = _after(now, plan)
        if now is before:
            break
    more = len(notes) - _MOST_NOTES
    shown = [*notes[:_MOST_NOTES], f"and {more} more."] if more > 0 else notes
    new = {path: now.source(path).data for path in (*now.pages, *now.texts) if path not in site.files}
    return SitePlan(_edits(site, now), new, tuple(sorted(gone)), tuple(shown))


def _words_of(number: int, step: Step, turn: int) -> str:
    return f"Step {number}, {step.does}" + (", once more" if turn else "")


def _without_damaged(site: Site, plan: SitePlan) -> tuple[SitePlan, list[str]]:
    """Return a plan without the pages whose bytes would not survive being written back, and why, page by page."""
    said = []
    for path in plan.edits:
        try:
            site.source(path).encode("")
        except SignpostError as error:
            said.append(f"{path}: {error}")
    if not said:
        return plan, said
    whole = {path: edits for path, edits in plan.edits.items() if site.source(path).damage is None}
    return replace(plan, edits=whole), said


def _is_meant(path: str, patterns: Sequence[str]) -> bool:
    """Return whether a page is one of those that a step is for; what is said later counts."""
    meant = patterns[0].startswith("!")
    for pattern in patterns:
        if fnmatchcase(path, pattern.removeprefix("!")):
            meant = not pattern.startswith("!")
    return meant


def _after(site: Site, plan: SitePlan) -> Site:
    """Return the site with a plan carried out."""
    pages = {path: read_edited(site.pages[path], edits) for path, edits in plan.edits.items() if path in site.pages}
    texts = {
        path: site.texts[path].again(apply_edits(site.texts[path], edits))
        for path, edits in plan.edits.items()
        if path not in site.pages
    }
    made = {path: read_source(data) for path, data in plan.new_files.items()}
    pages |= {path: read_page(path, source) for path, source in made.items() if is_page_path(path)}
    texts |= {path: source for path, source in made.items() if not is_page_path(path)}
    after = site.replaced(pages, plan.gone)
    return replace(after, files=after.files | made.keys(), texts={**site.texts, **texts}) if texts else after


def _edits(site: Site, now: Site) -> dict[str, EditSet]:
    found = {}
    for path in (*site.pages, *site.texts):
        if path not in now.pages and path not in now.texts:
            continue
        before, after = site.source(path), now.source(path)
        if before is not after and before.data != after.data:
            found[path] = edit_set(before, edits_between(before.text, after.text, reason="as the recipe says"))
    return {path: edits for path, edits in found.items() if edits}


# ---------------------------------------------------------------- steps

_Planned = tuple[SitePlan, list[str]]


@dataclass(frozen=True, slots=True)
class _Asked:
    """What a step is planned for."""

    site: Site
    paths: Sequence[str]
    settings: Mapping[str, Any]
    tell: Callable[[int, int], None]  # how many pages of how many are done

    def told_paths(self) -> Iterator[str]:
        """Yield the paths, telling with each how far that has come."""
        for done, path in enumerate(self.paths, start=1):
            self.tell(done, len(self.paths))
            yield path


@dataclass(frozen=True, slots=True)
class _Kind:
    """A kind of step: how it is planned, and what it can be told."""

    plan: Callable[[_Asked], _Planned]
    settings: Mapping[str, Callable[[Any], bool]] = field(default_factory=dict)


def _on_each(planner: Callable[[Page], EditSet], asked: _Asked) -> _Planned:
    """Return the plan of edits on each page, and in words which pages refuse it."""
    edits, refused = {}, []
    for path in asked.told_paths():
        try:
            found = planner(asked.site.pages[path])
        except SignpostError as error:
            refused.append(f"{path}: {error}")
            continue
        if found:
            edits[path] = found
    return SitePlan(edits), refused


def _headings(asked: _Asked) -> _Planned:
    planners: list[Planner] = []
    planners += [plan_sure] if asked.settings.get("lookalikes", True) else []
    planners += [plan_closed_gaps] if asked.settings.get("close-gaps", True) else []
    return _on_each(lambda page: plan_in_turn(page, *planners, reason="headings"), asked)


def _identify(asked: _Asked) -> _Planned:
    levels = asked.settings.get("levels", [2, 3, 4, 5, 6])
    return _on_each(lambda page: plan_identifiers(page, levels), asked)


def _contents(asked: _Asked) -> _Planned:
    options = ContentsOptions(levels=asked.settings.get("levels"), numbered=asked.settings.get("numbered"))
    wanted = [
        path for path in asked.paths if asked.settings.get("make", False) or find_blocks(asked.site.pages[path])
    ]
    return _on_each(lambda page: plan_contents(page, options), replace(asked, paths=wanted))


def _returns(asked: _Asked) -> _Planned:
    options = BackLinkOptions(
        asked.settings.get("levels", [2]),
        Destination(asked.settings.get("to", "top")),
        least_words=asked.settings.get("min-words", 0),
        words=asked.settings.get("words", ""),
        alike=asked.settings.get("alike", False),
    )
    return _on_each(lambda page: plan_back_links(page, options), asked)


def _fix(asked: _Asked) -> _Planned:
    return plan_fixes(asked.site, asked.told_paths(), asked.settings.get("select")), []


def _shared(asked: _Asked) -> _Planned:
    try:
        plan = plan_alike(asked.site, asked.settings.get("block"), asked.settings.get("from"))
    except RequestError as error:
        return SitePlan(), [str(error)]
    return replace(plan, edits={path: edits for path, edits in plan.edits.items() if path in set(asked.paths)}), []


def _navigation(asked: _Asked) -> _Planned:
    kind = NavigationKind(asked.settings.get("kind", "steps"))
    known = dict.fromkeys(asked.settings.get("order", reading_order(asked.site)))
    options = NavigationOptions(
        kind,
        tuple(path for path in known if path in set(asked.paths)),
        asked.settings.get("home", ""),
        asked.settings.get("block"),
        MenuOptions(sections=asked.settings.get("sections", False)),
        depth=asked.settings.get("depth", 1),
    )
    try:
        return plan_navigation(asked.site, options), []
    except RequestError as error:
        return SitePlan(), [str(error)]


def _titles(asked: _Asked) -> _Planned:
    pattern = asked.settings.get("pattern", "")
    return plan_heads(asked.site, titles_by_pattern(asked.site, asked.paths, pattern)), []


def _is_levels(value: Any) -> bool:
    return isinstance(value, list) and bool(value) and all(type(one) is int and one in range(1, 7) for one in value)


def _is_words(value: Any) -> bool:
    return isinstance(value, str)


def _is_switch(value: Any) -> bool:
    return isinstance(value, bool)


def _are_codes(value: Any) -> bool:
    return isinstance(value, list) and all(isinstance(one, str) and one in RULES for one in value)


STEPS: dict[str, _Kind] = {
    "headings": _Kind(_headings, {"lookalikes": _is_switch, "close-gaps": _is_switch}),
    "identify": _Kind(_identify, {"levels": _is_levels}),
    "contents": _Kind(_contents, {"levels": _is_levels, "numbered": _is_switch, "make": _is_switch}),
    "returns": _Kind(
        _returns,
        {
            "levels": _is_levels,
            "to": lambda value: value in set(Destination),
            "min-words": lambda value: type(value) is int and value >= 0,
            "words": _is_words,
            "alike": _is_switch,
        },
    ),
    "fix": _Kind(_fix, {"select": _are_codes}),
    "shared": _Kind(_shared, {"block": _is_words, "from": _is_words}),
    "navigation": _Kind(
        _navigation,
        {
            "kind": lambda value: value in set(NavigationKind),
            "order": lambda value: isinstance(value, list) and all(isinstance(one, str) for one in value),
            "home": _is_words,
            "block": _is_words,
            "sections": _is_switch,
            "depth": lambda value: type(value) is int and value in range(7),
        },
    ),
    "titles": _Kind(_titles, {"pattern": lambda value: _is_words(value) and value.strip() != ""}),
}
