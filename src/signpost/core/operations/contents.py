"""Operations on contents, on lists of entries, and on back-to-top links."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import Annotated, ClassVar, Literal

from annotated_types import Ge, Le, MaxLen, MinLen

from signpost.core.back_to_top.destinations import Destination
from signpost.core.back_to_top.planning import BackLinkOptions, Corner, plan_back_links, plan_no_back_links
from signpost.core.contents import (
    NEW,
    ContentsOptions,
    Form,
    Spot,
    Unplaced,
    note_contents,
    plan_adoption,
    plan_contents,
    plan_entry_words,
    plan_moved_contents,
    plan_no_contents,
)
from signpost.core.entries.planning import Bar, EntriesOptions, plan_entries, plan_no_letters
from signpost.core.entries.terms import MOST_TERMS, Term
from signpost.core.landings.geometry import Window
from signpost.core.operations.operation import (
    Identifier,
    Level,
    Line,
    Operation,
    Planned,
    Said,
    Situation,
    Takes,
    declared,
)
from signpost.core.page import Page
from signpost.core.site.plans import SitePlan
from signpost.core.text.edits import EditSet
from signpost.core.text.errors import RequestError
from signpost.core.text.words import count_of

_Levels = Annotated[tuple[Level, ...], MinLen(1)]
_Spot = Literal["lead", "top", "side", "section"]


@declared
class Contents(Operation):
    """Contents made or refreshed; what is not said stays as it is."""

    does: ClassVar[str] = "contents"
    takes: ClassVar[Takes] = Takes.ADDRESSES

    levels: _Levels | None = None
    form: Literal["list", "row"] | None = None
    left_out: tuple[Identifier, ...] | None = None
    ordered: bool | None = None
    numbered: bool | None = None
    label: Annotated[str, MaxLen(100)] = ""
    separator: Annotated[str, MaxLen(20)] = ""
    prefix: Annotated[str, MaxLen(40)] | None = None
    suffix: Annotated[str, MaxLen(40)] | None = None
    spot: _Spot = "lead"
    before: int | None = None
    home: int | None = None
    block: Annotated[int, Ge(0)] | Literal["new"] | None = None
    kept: tuple[int, ...] = ()

    def plan(self, here: Situation) -> Planned:
        options = ContentsOptions(
            levels=self.levels,
            form=Form(self.form) if self.form else None,
            left_out=self.left_out,
            ordered=self.ordered,
            numbered=self.numbered,
            label=self.label or None,
            separator=self.separator or None,
            prefix=self.prefix,
            suffix=self.suffix,
            spot=Spot(self.spot),
            before=self.before,
            home=self.home,
            block=self.block,
            kept=self.kept,
        )
        edits = plan_contents(here.page, options, here.preferences.identifiers)
        is_new = self.block == NEW or not here.page.made_blocks("contents")
        title = "Contents" if is_new else "Contents refreshed"
        return self.on_page(title, here, edits, note_contents(here.page, edits))


@declared
class Adopt(Operation):
    """A list made by hand made the page's contents; `sections` says what its entries mean, by their positions."""

    does: ClassVar[str] = "adopt"
    takes: ClassVar[Takes] = Takes.ADDRESSES

    start: int
    levels: _Levels | None = None
    sections: dict[int, Annotated[int, Ge(0)] | Unplaced] = field(default_factory=dict)

    def plan(self, here: Situation) -> Planned:
        options = ContentsOptions(self.levels)
        edits = plan_adoption(here.page, self.start, options, self.sections, here.preferences.identifiers)
        return self.on_page("List made by hand adopted", here, edits, note_contents(here.page, edits))


@declared
class MoveContents(Operation):
    """Contents moved to another place."""

    does: ClassVar[str] = "move-contents"

    block: int = 0
    spot: _Spot = "lead"
    before: int | None = None

    def plan(self, here: Situation) -> Planned:
        edits = plan_moved_contents(here.page, self.block, Spot(self.spot), self.before)
        return self.on_page("Contents moved", here, edits)


@declared
class Entry(Operation):
    """Words of an entry; without any, those of its heading."""

    does: ClassVar[str] = "entry"
    takes: ClassVar[Takes] = Takes.LINK_WORDS

    block: int = 0
    section: int
    words: Annotated[str, MaxLen(400)] = ""

    def plan(self, here: Situation) -> Planned:
        edits = plan_entry_words(here.page, self.block, self.section, self.words)
        return self.on_page("Entry shortened" if self.words.strip() else "Entry as its heading", here, edits)


@declared
class NoContents(Operation):
    """Contents removed; all of them where no block is chosen."""

    does: ClassVar[str] = "no-contents"
    takes: ClassVar[Takes] = Takes.OURS

    block: int | None = None

    def plan(self, here: Situation) -> Planned:
        return self.on_page("Contents taken out", here, plan_no_contents(here.page, self.block))


@dataclass(frozen=True, kw_only=True)
class TermRow(Said):
    """A term of an entry list."""

    term: Line
    label: Annotated[str, MaxLen(400)] = ""
    identifier: Identifier = ""
    text: Annotated[str, MaxLen(50_000)] = ""


@declared
class Entries(Operation):
    """An entry for each term, in a section or right on the page; those that are there are brought up to date."""

    does: ClassVar[str] = "entries"

    terms: Annotated[tuple[TermRow, ...], MinLen(1), MaxLen(MOST_TERMS)]
    home: int | None = None
    bar: Bar = Bar.LETTERS
    sort: bool = True

    def plan(self, here: Situation) -> Planned:
        terms = [Term(row.term, row.label, row.identifier, row.text) for row in self.terms]
        options = EntriesOptions(self.home, self.bar, self.sort)
        plan = plan_entries(here.page, terms, options, here.preferences.identifiers)
        return self.on_page(f"Entries for {count_of(len(terms), 'term')}", here, plan.edits, [plan.note])


@declared
class NoLetters(Operation):
    """The letters of an entry list taken out."""

    does: ClassVar[str] = "no-letters"
    takes: ClassVar[Takes] = Takes.OURS

    def plan(self, here: Situation) -> Planned:
        return self.on_page("Letters taken out", here, plan_no_letters(here.page))


@dataclass(frozen=True, kw_only=True)
class ReaderWindow(Said):
    """The window of a reader, in CSS pixels, and the text size in percent of the usual one."""

    width: Annotated[int, Ge(200), Le(8000)]
    height: Annotated[int, Ge(200), Le(8000)]
    text_size: Annotated[int, Ge(50), Le(300)] = 100

    def window(self) -> Window:
        """Return it as pages are measured in it."""
        return Window(self.width, self.height, self.text_size)


@declared
class BackToTop(Operation):
    """Back-to-top links made, refreshed and made alike; with `everywhere`, on all pages of the site."""

    does: ClassVar[str] = "back-to-top"

    levels: _Levels = (2,)
    to: Destination = Destination.TOP
    least_words: Annotated[int, Ge(0)] = 0
    least_windows: Annotated[float, Ge(0), Le(1000)] = 0.0
    words: Annotated[str, MaxLen(100)] = ""
    corner: Corner = Corner.END
    alike: bool = False
    everywhere: bool = False
    window: ReaderWindow | None = None  # that heights were measured in

    def plan(self, here: Situation) -> Planned:
        options = BackLinkOptions(
            levels=self.levels,
            to=self.to,
            least_words=self.least_words,
            least_windows=self.least_windows,
            words=self.words,
            corner=self.corner,
            alike=self.alike,
        )

        lengths = here.measured(self.window.window()) if self.window else None

        def plan(page: Page) -> EditSet:
            return plan_back_links(page, replace(options, windows=lengths(page.path)) if lengths else options)

        if not self.everywhere:
            return self.on_page("Back-to-top links", here, plan(here.page))
        notes, edits = [], {}
        for path, page in here.site.pages.items():
            if page.source.damage is None:
                try:
                    edits[path] = plan(page)
                except RequestError as error:
                    notes.append(f"{path}: {error}")
        found = SitePlan({path: one for path, one in edits.items() if one}, notes=tuple(notes))
        return Planned("Back-to-top links on all pages", found)


@declared
class NoBackToTop(Operation):
    """Back-to-top links removed."""

    does: ClassVar[str] = "no-back-to-top"
    takes: ClassVar[Takes] = Takes.OURS

    def plan(self, here: Situation) -> Planned:
        return self.on_page("Back-to-top links removed", here, plan_no_back_links(here.page))
