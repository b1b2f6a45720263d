"""Operations on a page's headings and sections."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from annotated_types import Ge, Le, MaxLen, MinLen

from signpost.core.headings.end_comments import plan_end_notes, plan_no_end_notes, plan_no_separators, plan_separators
from signpost.core.headings.levels import plan_levels, plan_repair, shift_levels, with_subsections
from signpost.core.headings.missing import plan_heading
from signpost.core.headings.moves import Direction, Where, plan_drop, plan_move
from signpost.core.headings.promotions import plan_promotions
from signpost.core.headings.samples import plan_escaped, plan_sample
from signpost.core.headings.skeleton import plan_skeleton, read_titles
from signpost.core.headings.whole_sections import plan_duplicated_section, plan_removed_section
from signpost.core.headings.wording import plan_words
from signpost.core.headings.wrapping import plan_unwrapping, plan_wrapping
from signpost.core.operations.operation import (
    HeadingLevel,
    Identifier,
    Level,
    Line,
    Operation,
    Planned,
    Situation,
    Takes,
    declared,
)
from signpost.core.text.words import count_of

_Levels = Annotated[tuple[Level, ...], MinLen(1)]


@declared
class Promote(Operation):
    """Look-alike headings made real: their levels by index."""

    does: ClassVar[str] = "promote"
    takes: ClassVar[Takes] = Takes.MARKUP

    levels: Annotated[dict[int, HeadingLevel], MinLen(1)]

    def plan(self, here: Situation) -> Planned:
        edits = plan_promotions(here.page, self.levels, here.preferences.refused.get(here.path, ()))
        return self.on_page(f"{count_of(len(self.levels), 'heading')} made", here, edits)


@declared
class Levels(Operation):
    """Headings brought to levels, by section index."""

    does: ClassVar[str] = "levels"
    takes: ClassVar[Takes] = Takes.LEVELS

    levels: Annotated[dict[int, HeadingLevel], MinLen(1)]
    with_subsections: bool = False

    def plan(self, here: Situation) -> Planned:
        levels = with_subsections(here.page, self.levels) if self.with_subsections else self.levels
        title = f"{count_of(len(levels), 'heading')} at other levels"
        return self.on_page(title, here, plan_levels(here.page, levels))


@declared
class Shift(Operation):
    """Headings lowered, or raised where `by` is negative."""

    does: ClassVar[str] = "shift"
    takes: ClassVar[Takes] = Takes.LEVELS

    sections: Annotated[tuple[int, ...], MinLen(1)]
    by: Annotated[int, Ge(-5), Le(5)]
    with_subsections: bool = True

    def plan(self, here: Situation) -> Planned:
        levels = shift_levels(here.page, self.sections, self.by, whole=self.with_subsections)
        title = f"{count_of(len(levels), 'heading')} {'lowered' if self.by > 0 else 'raised'}"
        return self.on_page(title, here, plan_levels(here.page, levels))


@declared
class Repair(Operation):
    """A repair of the levels that was proposed."""

    does: ClassVar[str] = "repair"
    takes: ClassVar[Takes] = Takes.LEVELS

    code: Literal["gaps", "several-h1", "chapters", "no-h1"]

    def plan(self, here: Situation) -> Planned:
        return self.on_page("Levels repaired", here, plan_repair(here.page, self.code))


@declared
class Words(Operation):
    """Other words for a heading."""

    does: ClassVar[str] = "words"
    takes: ClassVar[Takes] = Takes.HEADING

    section: int
    words: Line

    def plan(self, here: Situation) -> Planned:
        plan = plan_words(here.site, here.path, self.section, self.words)
        return Planned(f"Heading “{self.words.strip()}”", plan)


@declared
class InsertHeading(Operation):
    """A new heading before a block."""

    does: ClassVar[str] = "insert-heading"

    before: int
    level: HeadingLevel
    words: Line
    identifier: Identifier = ""

    def plan(self, here: Situation) -> Planned:
        edits = plan_heading(here.page, self.before, self.level, self.words, self.identifier or None)
        return self.on_page(f"Heading “{self.words.strip()}” put in", here, edits)


@declared
class Wrap(Operation):
    """Sections put into elements of their own."""

    does: ClassVar[str] = "wrap"

    levels: _Levels = (2, 3, 4, 5, 6)

    def plan(self, here: Situation) -> Planned:
        wrapping = plan_wrapping(here.page, self.levels)
        left = [
            f"“{words}” shares an element with what stands around it and is left as it is." for words in wrapping.left
        ]
        return self.on_page("Section elements", here, wrapping.edits, left)


@declared
class Unwrap(Operation):
    """Section elements removed."""

    does: ClassVar[str] = "unwrap"
    takes: ClassVar[Takes] = Takes.SECTION_ELEMENTS

    levels: _Levels = (1, 2, 3, 4, 5, 6)

    def plan(self, here: Situation) -> Planned:
        wrapping = plan_unwrapping(here.page, self.levels)
        left = [
            f"The section element of “{words}” has attributes of its own, so it stays." for words in wrapping.left
        ]
        return self.on_page("Section elements removed", here, wrapping.edits, left)


@declared
class EndNotes(Operation):
    """Comments behind end tags that are far from their start tags."""

    does: ClassVar[str] = "end-notes"

    def plan(self, here: Situation) -> Planned:
        return self.on_page("Comments behind far end tags", here, plan_end_notes(here.page))


@declared
class NoEndNotes(Operation):
    """Those comments taken away."""

    does: ClassVar[str] = "no-end-notes"
    takes: ClassVar[Takes] = Takes.OURS

    def plan(self, here: Situation) -> Planned:
        return self.on_page("Comments behind end tags taken away", here, plan_no_end_notes(here.page))


@declared
class Separators(Operation):
    """Separators before sections."""

    does: ClassVar[str] = "separators"

    levels: _Levels = (2,)

    def plan(self, here: Situation) -> Planned:
        return self.on_page("Separators before sections", here, plan_separators(here.page, self.levels))


@declared
class NoSeparators(Operation):
    """Separators removed."""

    does: ClassVar[str] = "no-separators"
    takes: ClassVar[Takes] = Takes.OURS

    levels: _Levels = (1, 2, 3, 4, 5, 6)

    def plan(self, here: Situation) -> Planned:
        return self.on_page("Separators taken out", here, plan_no_separators(here.page, self.levels))


@declared
class Move(Operation):
    """A section moved one step, with its subsections."""

    does: ClassVar[str] = "move"
    takes: ClassVar[Takes] = Takes.LEVELS

    section: int
    direction: Literal["up", "down", "in", "out"]

    def plan(self, here: Situation) -> Planned:
        edits = plan_move(here.page, self.section, Direction(self.direction))
        return self.on_page(f"“{here.page.headings[self.section].text}” moved {self.direction}", here, edits)


@declared
class Drop(Operation):
    """A section moved before, after or into another one."""

    does: ClassVar[str] = "drop"
    takes: ClassVar[Takes] = Takes.LEVELS

    section: int
    target: int
    where: Literal["before", "after", "into"]

    def plan(self, here: Situation) -> Planned:
        edits = plan_drop(here.page, self.section, self.target, Where(self.where))
        moved, onto = here.page.headings[self.section].text, here.page.headings[self.target].text
        return self.on_page(f"“{moved}” moved {self.where} “{onto}”", here, edits)


@declared
class Duplicate(Operation):
    """A section duplicated, with its subsections."""

    does: ClassVar[str] = "duplicate"

    section: int

    def plan(self, here: Situation) -> Planned:
        edits = plan_duplicated_section(here.page, self.section)
        return self.on_page(f"“{here.page.headings[self.section].text}” duplicated", here, edits)


@declared
class RemoveSection(Operation):
    """A section removed, with its subsections."""

    does: ClassVar[str] = "remove-section"
    takes: ClassVar[Takes] = Takes.SECTION

    section: int

    def plan(self, here: Situation) -> Planned:
        plan = plan_removed_section(here.site, here.path, self.section)
        return Planned(f"“{here.page.headings[self.section].text}” removed", plan)


@declared
class Skeleton(Operation):
    """Titles made into headings with identifiers, and contents; before a block or at the end."""

    does: ClassVar[str] = "skeleton"

    titles: Annotated[str, MaxLen(20_000)]
    highest: HeadingLevel = 2
    before: int | None = None
    contents: bool = True

    def plan(self, here: Situation) -> Planned:
        titles = read_titles(self.titles, self.highest)
        edits = plan_skeleton(
            here.page, titles, self.before, contents=self.contents, rule=here.preferences.identifiers
        )
        return self.on_page(f"{count_of(len(titles), 'section')} begun", here, edits)


@declared
class Sample(Operation):
    """A sample of code put before a block, escaped."""

    does: ClassVar[str] = "sample"

    before: int
    code: Annotated[str, MaxLen(200_000)]

    def plan(self, here: Situation) -> Planned:
        return self.on_page("Sample of code", here, plan_sample(here.page, self.before, self.code))


@declared
class EscapeSamples(Operation):
    """Raw samples of code escaped."""

    does: ClassVar[str] = "escape-samples"
    takes: ClassVar[Takes] = Takes.MARKUP

    def plan(self, here: Situation) -> Planned:
        return self.on_page("Raw samples escaped", here, plan_escaped(here.page))
