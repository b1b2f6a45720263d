"""Operations on a page in parts, and on the reading style."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, ClassVar

from annotated_types import Ge, MaxLen, MinLen

from signpost.core.operations.operation import Operation, PagePath, Planned, Said, Situation, Takes, declared
from signpost.core.parts.options import Forwarding, LinkPiece, PartContents, PartOptions
from signpost.core.parts.planning import plan_join, plan_parts, plan_refreshed_parts, plan_reordered
from signpost.core.parts.whole import ChosenCut, read_whole
from signpost.core.reading_style.style import PartLook, ReadingStyle, StylePart, plan_no_style, plan_style


@dataclass(frozen=True, kw_only=True)
class CutSaid(Said):
    """A place where a page is cut, with what its author says of the part that begins there."""

    at: Annotated[int, Ge(0)]
    title: Annotated[str, MaxLen(400)] = ""
    path: Annotated[str, MaxLen(400)] = ""

    def cut(self) -> ChosenCut:
        """Return it as pages are cut by it."""
        return ChosenCut(self.at, self.title, self.path)


@dataclass(frozen=True, kw_only=True)
class _WithOptions(Operation):
    """How a page is cut; what is not said is as it was, or as usual."""

    takes: ClassVar[Takes] = Takes.REFERENCES

    links: tuple[LinkPiece, ...] | None = None
    contents: PartContents | None = None
    forward: tuple[Forwarding, ...] | None = None
    pattern: Annotated[str, MaxLen(200)] = ""
    raise_levels: bool | None = None

    def options(self, here: Situation) -> PartOptions:
        """Return the options that were asked for; what was not said is as it was, or as the site's settings say."""
        whole = read_whole(here.site, here.path)
        options = whole.options
        if whole.series is None:
            options = replace(options, pattern=here.preferences.part_names or options.pattern)
        if self.links is not None:
            options = replace(options, links=frozenset(self.links))
        if self.contents is not None:
            options = replace(options, contents=self.contents)
        if self.forward is not None:
            options = replace(options, forward=frozenset(self.forward))
        if self.pattern:
            options = replace(options, pattern=self.pattern)
        if self.raise_levels is not None:
            options = replace(options, raise_levels=self.raise_levels)
        return options


@declared
class Parts(_WithOptions):
    """A page cut, or its parts cut anew: before sections, by index, or at places of the whole page, by offset."""

    does: ClassVar[str] = "parts"

    sections: Annotated[tuple[int, ...], MaxLen(500)] = ()
    cuts: Annotated[tuple[CutSaid, ...], MaxLen(500)] = ()
    frame: PagePath | None = None  # whose head, header and footer stay, where a part goes that has others

    def plan(self, here: Situation) -> Planned:
        cuts: list[int | ChosenCut] = [*self.sections, *(cut.cut() for cut in self.cuts)]
        plan = plan_parts(here.site, here.path, cuts, self.options(here), frame=self.frame)
        in_parts = here.page.part_marks is not None
        if in_parts and not cuts:
            return Planned("Parts joined to one page", plan)
        count = len(cuts) + 1
        return Planned(f"Cut anew into {count} parts" if in_parts else f"Cut into {count} parts", plan)


@declared
class RefreshParts(_WithOptions):
    """The parts of a page brought up to date."""

    does: ClassVar[str] = "refresh-parts"

    def plan(self, here: Situation) -> Planned:
        return Planned("Parts brought up to date", plan_refreshed_parts(here.site, here.path, self.options(here)))


@declared
class ReorderParts(Operation):
    """The parts of a page in another order, by their numbers now."""

    does: ClassVar[str] = "reorder-parts"
    takes: ClassVar[Takes] = Takes.REFERENCES

    order: Annotated[tuple[int, ...], MinLen(2), MaxLen(500)]

    def plan(self, here: Situation) -> Planned:
        return Planned("Parts put into another order", plan_reordered(here.site, here.path, self.order))


@declared
class JoinParts(Operation):
    """The parts of a page joined to one page."""

    does: ClassVar[str] = "join"
    takes: ClassVar[Takes] = Takes.REFERENCES

    frame: PagePath | None = None  # whose head, header and footer stay, where the parts' differ

    def plan(self, here: Situation) -> Planned:
        return Planned("Parts joined to one page", plan_join(here.site, here.path, self.frame))


@declared
class Style(Operation):
    """The reading style put into the site's style sheet, or renewed there."""

    does: ClassVar[str] = "style"
    is_over_site: ClassVar[bool] = True

    parts: tuple[StylePart, ...]
    accent: Annotated[str, MaxLen(20)] = "#1d5c4a"
    wash: Annotated[str, MaxLen(20)] = "#fff3c4"
    bar: float = 4.0
    side: float = 16.0
    narrow: float = 60.0
    below: float = 50.0
    look: PartLook = PartLook.LINE

    def plan(self, here: Situation) -> Planned:
        lengths = (self.bar, self.side, self.narrow, self.below)
        style = ReadingStyle(self.parts, self.accent, self.wash, *lengths, look=self.look)
        return Planned("Reading style", plan_style(here.site, style))


@declared
class NoStyle(Operation):
    """The reading style taken out."""

    does: ClassVar[str] = "no-style"
    takes: ClassVar[Takes] = Takes.OURS
    is_over_site: ClassVar[bool] = True

    def plan(self, here: Situation) -> Planned:
        return Planned("Reading style taken out", plan_no_style(here.site))
