"""Operations on a page's identifiers."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from annotated_types import MinLen

from signpost.core.identifiers.anchors import plan_anchors, plan_apart
from signpost.core.identifiers.places import plan_bottom, plan_place, plan_top
from signpost.core.identifiers.sections import plan_given, plan_identifiers
from signpost.core.jumps.planning import plan_relink
from signpost.core.operations.operation import (
    Identifier,
    Level,
    Operation,
    Planned,
    Situation,
    Takes,
    declared,
)
from signpost.core.references.renames import plan_rename
from signpost.core.text.words import count_of


@declared
class Identify(Operation):
    """Identifiers for the sections that have none; without levels, for those that the site's settings say."""

    does: ClassVar[str] = "identify"

    levels: tuple[Level, ...] = ()

    def plan(self, here: Situation) -> Planned:
        rule = here.preferences.identifiers
        edits = plan_identifiers(here.page, self.levels or rule.levels, rule)
        return self.on_page(f"Identifiers for {count_of(len(edits), 'section')}", here, edits)


@declared
class SetIdentifiers(Operation):
    """Identifiers chosen by the author, by section index."""

    does: ClassVar[str] = "set-identifiers"

    identifiers: Annotated[dict[int, Identifier], MinLen(1)]

    def plan(self, here: Situation) -> Planned:
        names, count = ", ".join(self.identifiers.values()), len(self.identifiers)
        title = f"Identifier “{names}”" if count == 1 else f"Identifiers for {count} sections"
        return self.on_page(title, here, plan_given(here.page, self.identifiers))


@declared
class Rename(Operation):
    """Another name for an identifier; the old one may stay beside it."""

    does: ClassVar[str] = "rename"
    takes: ClassVar[Takes] = Takes.REFERENCES

    old: Identifier
    new: Identifier
    keep_old: bool = False

    def plan(self, here: Situation) -> Planned:
        plan = plan_rename(here.site, here.path, self.old, self.new, keep_old=self.keep_old)
        return Planned(f"Identifier “{self.old}” renamed to “{self.new}”", plan)


@declared
class MarkPlace(Operation):
    """An identifier for the element whose start tag begins at an offset, or for the top or bottom of the content."""

    does: ClassVar[str] = "place"

    start: int | Literal["top", "bottom"]
    identifier: Identifier

    def plan(self, here: Situation) -> Planned:
        if self.start == "top":
            edits = plan_top(here.page, self.identifier)
        elif self.start == "bottom":
            edits = plan_bottom(here.page, self.identifier)
        else:
            edits = plan_place(here.page, self.start, self.identifier)
        return self.on_page(f"Identifier “{self.identifier}”", here, edits)


@declared
class Anchors(Operation):
    """Old anchors' names moved to identifiers."""

    does: ClassVar[str] = "anchors"
    takes: ClassVar[Takes] = Takes.ANCHORS

    keep: bool = False

    def plan(self, here: Situation) -> Planned:
        return self.on_page("Old anchors made identifiers", here, plan_anchors(here.page, keep=self.keep))


@declared
class Apart(Operation):
    """New identifiers for the elements that links do not reach, where one is used twice."""

    does: ClassVar[str] = "apart"
    takes: ClassVar[Takes] = Takes.REFERENCES

    name: Identifier

    def plan(self, here: Situation) -> Planned:
        edits = plan_apart(here.page, self.name, here.preferences.identifiers)
        return self.on_page(f"“{self.name}” used once", here, edits)


@declared
class Relink(Operation):
    """A broken link led to another identifier of the page that it leads to."""

    does: ClassVar[str] = "relink"
    takes: ClassVar[Takes] = Takes.ADDRESSES

    start: int
    identifier: Identifier

    def plan(self, here: Situation) -> Planned:
        words, edits = plan_relink(here.page, self.start, self.identifier)
        return self.on_page(f"“{words}” led to “{self.identifier}”", here, edits)
