"""The steps of a recipe that are told otherwise than the operations at the desk, since recipes are kept that say so.

Where they have nothing more to do they change nothing, so that they may come again.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Annotated, ClassVar

from annotated_types import Ge, Le, MaxLen, MinLen

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
from signpost.core.operations.operation import HeadingLevel, Operation, PagePath, Planned, RuleCode, Situation, Takes
from signpost.core.page.plans import Planner, plan_in_turn
from signpost.core.references.shared import plan_alike
from signpost.core.site.plans import SitePlan


@dataclass(frozen=True, kw_only=True)
class OverPages(ABC):
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
class _Fix(OverPages):
    """Findings fixed that take no choice: all, or those of some rules."""

    does: ClassVar[str] = "fix"

    select: tuple[RuleCode, ...] | None = None

    def plan_over(self, here: Situation, paths: Sequence[str]) -> SitePlan:
        def told() -> Iterator[str]:
            for done, path in enumerate(paths, start=1):
                here.tell(self.does, done, len(paths))
                yield path

        return plan_fixes(here.site, told(), self.select, options=here.preferences.checks)


@dataclass(frozen=True, kw_only=True)
class _Shared(OverPages):
    """Copies of a block, or of all, made alike."""

    does: ClassVar[str] = "shared"

    block: str | None = None
    from_: str | None = None  # the page whose copy counts

    def plan_over(self, here: Situation, paths: Sequence[str]) -> SitePlan:
        plan = plan_alike(here.site, self.block, self.from_)
        return plan.without(plan.edits.keys() - {*paths})


@dataclass(frozen=True, kw_only=True)
class _Navigation(OverPages):
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
class _Titles(OverPages):
    """Titles that follow a pattern."""

    does: ClassVar[str] = "titles"

    pattern: Annotated[str, MinLen(1)]

    def plan_over(self, here: Situation, paths: Sequence[str]) -> SitePlan:
        return plan_heads(here.site, titles_by_pattern(here.site, paths, self.pattern))


#: Steps that are told otherwise than the operations at the desk, by name.
STEPS: dict[str, type[Operation | OverPages]] = {
    one.does: one for one in (_Headings, _Contents, _Returns, _Fix, _Shared, _Navigation, _Titles)
}
