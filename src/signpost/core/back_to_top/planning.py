"""Back-to-top links: one after each section of chosen levels, at its end and before the next heading.

Those that an author made by hand are recognised and stay as they are, unless all are asked to be alike; where
several of them are alike, new ones say what they say. None comes after a section that is too short or only heads the
contents, and where subsections end together one serves for all.
"""

from __future__ import annotations

from bisect import bisect_left
from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from html import escape
from itertools import islice, takewhile
from urllib.parse import unquote

from signpost.core.back_to_top.destinations import Destination, find_destination
from signpost.core.back_to_top.links import (
    BackLink,
    read_back_links,
    says_nothing,
)
from signpost.core.contents.phrases import back_words, heads_contents
from signpost.core.page import Link, Page, read_edited, read_nodes
from signpost.core.page.edges import section_close
from signpost.core.page.habits import read_habits
from signpost.core.page.lengths import count_blocks, estimate_height, windows
from signpost.core.page.outline import Section, read_outline
from signpost.core.page.phrasing import count_words
from signpost.core.page.placing import block_after, flow_place, slot_behind, whole_block
from signpost.core.text.edits import Edit, EditSet, edit_set, edits_between, splice
from signpost.core.text.positions import Span, after_line_end, indent_before, line_start
from signpost.core.text.tags import scan_attributes, start_tag_end, value_edit


class Corner(StrEnum):
    """Where in its section a back-to-top link is."""

    END = "end"
    HEADING = "heading"  # right after the heading


@dataclass(frozen=True, slots=True)
class BackLinkOptions:
    """Which sections get a back-to-top link, and what it says."""

    levels: Collection[int] = (2,)
    to: Destination = Destination.TOP
    least_words: int = 0  # sections with fewer get none
    least_windows: float = 0.0  # sections that are lower get none
    words: str = ""  # "" for the usual ones in the page's language
    corner: Corner = Corner.END
    alike: bool = False  # whether those made by hand become like the others
    windows: Mapping[int, float] = field(default_factory=dict)  # heights as measured; others are estimated


def plan_back_links(page: Page, options: BackLinkOptions) -> EditSet:
    """Return the edits that put a back-to-top link into each section of the levels.

    One that could not be where it should, because the markup does not let it, is left out. Raises RequestError
    where they are to lead to contents that the page does not have.
    """
    planned, closed = _Returns(page, options).plan()
    while planned:
        swallowed = _swallowed(page, planned)
        if not swallowed:
            break
        closed |= swallowed
        planned, _ = _Returns(page, options, frozenset(closed)).plan()
    return planned


def plan_no_back_links(page: Page) -> EditSet:
    """Return the edits that remove the back-to-top links made earlier; those made by hand stay."""
    spans = [whole_block(page.text, made.element) for made in page.made_blocks("back-to-top")]
    return edit_set(
        page.source, [Edit(span.start, span.end, "", reason="back-to-top link removed") for span in spans]
    )


def has_back_link(section: Section, back_links: Sequence[Link]) -> bool:
    """Return whether one of the back-to-top links `back_links`, in source order, is within a section."""
    at = bisect_left(back_links, section.start, key=lambda back_link: back_link.start)
    return at < len(back_links) and back_links[at].start < section.end


def long_enough(
    page: Page, section: Section, headings: int, back_links: Sequence[BackLink], options: BackLinkOptions
) -> bool:
    """Return whether a section is as long as the options ask, in words and in windows, measured or else estimated.

    `headings` counts its own and those of the sections within; the words of `back_links`, made by hand, do not count.
    """
    words = section.words - sum(
        count_words(back_link.link.text)
        for back_link in back_links
        if section.start <= back_link.link.start < section.end
    )
    if words < options.least_words:
        return False
    if not options.least_windows:
        return True
    height = options.windows.get(section.index)
    if height is None:
        blocks = count_blocks(page, section.start, section.end)
        height = windows(estimate_height(words, headings, blocks))
    return height >= options.least_windows


class _Returns:
    """The back-to-top links of one page."""

    def __init__(self, page: Page, options: BackLinkOptions, closed: frozenset[int] = frozenset()) -> None:
        self.page = page
        self.closed = closed  # offsets at which nothing can be put
        self.options = options
        self.habits = read_habits(page)
        self.flat = read_outline(page).flat()
        self.nodes = read_nodes(page)
        self.made = page.made_blocks("back-to-top")
        self.closes = [section_close(page, self.flat, section) for section in self.flat]
        self.back_links = read_back_links(page)
        self.edits: list[Edit] = []
        self.fragment, self.marking = find_destination(page, self.habits, options.to)
        words = " ".join(options.words.split())
        usual = self._usual_by_hand() if options.to is Destination.TOP else None
        if usual is not None:
            self.fragment, self.marking, words = usual[0], [], words or usual[1]
        self.address = page.address_of(page.path, self.fragment)
        words = words or back_words(page.language, to_contents=options.to is Destination.CONTENTS)
        link = self.habits.start("a", href=self.address) + escape(words, quote=False) + self.habits.end("a")
        self.block = self.habits.start("p", class_="back-to-top") + link + self.habits.end("p")

    def _usual_by_hand(self) -> tuple[str, str] | None:
        """Return the fragment and the words that several back-to-top links made by hand share; None where none do."""
        if self.options.alike:
            return None
        said = Counter(
            (unquote(link.href.strip()[1:]), link.text)
            for link in (back_link.link for back_link in self.back_links if back_link.alone and not back_link.made)
            if link.href and link.href.strip()[:1] == "#" and any(map(str.isalpha, link.text))
        )
        usual = next(iter(said.most_common(1)), None)
        return usual[0] if usual is not None and usual[1] > 1 else None

    def plan(self) -> tuple[EditSet, set[int]]:
        """Return the edits, and the offsets at which nothing could be put."""
        back_links = self.back_links
        wanted = self._wanted(back_links)
        homes: dict[int, list[BackLink]] = {}
        for back_link in back_links:
            home = self._home(back_link, back_links)
            if home is not None and home in wanted:
                homes.setdefault(home, []).append(back_link)
            elif back_link.made or (self.options.alike and home is not None and self._is_of_levels(home)):
                self.edits.append(self._taken_out(back_link, "back-to-top link after a section that needs none"))
        claimed = {back_link.link.start for own in homes.values() for back_link in own}
        loose = [back_link for back_link in back_links if not back_link.made and back_link.link.start not in claimed]
        for index in sorted(wanted):
            self._settle(self.flat[index], homes.get(index, []), loose)
        if any(self.address in edit.text for edit in self.edits):
            self.edits += self.marking
        return edit_set(self.page.source, self.edits), set(self.closed)

    def _wanted(self, back_links: Sequence[BackLink]) -> set[int]:
        """Return the sections that get a back-to-top link; of those that end together the outermost alone."""
        options = self.options
        by_hand = [back_link for back_link in back_links if back_link.alone and not back_link.made]
        chosen = [
            one
            for one in self.flat
            if one.level in options.levels
            and not self._heads_contents(one)
            and long_enough(self.page, one, self._headings_in(one), by_hand, options)
        ]
        if options.corner is Corner.HEADING:
            return {section.index for section in chosen}
        kept: set[int] = set()
        around: list[Section] = []  # kept sections that contain the one looked at
        for section in chosen:
            while around and around[-1].end <= section.start:
                around.pop()
            if not any(self._ends_with(section, one) for one in around):
                kept.add(section.index)
                around.append(section)
        return kept

    def _heads_contents(self, section: Section) -> bool:
        """Return whether a section contains the contents and no more: nobody is led back there from below them."""
        if section.sections:
            return False
        made = [one.element for one in self.page.made_blocks("contents")]
        holds_them = any(section.start <= one.open.start < section.end for one in made)
        return holds_them or heads_contents(section.text)

    def _headings_in(self, section: Section) -> int:
        after = (one.index for one in self.flat[section.index + 1 :] if one.level <= section.level)
        return next(after, len(self.flat)) - section.index

    def _ends_with(self, inner: Section, outer: Section) -> bool:
        first, last = sorted((self.closes[inner.index], self.closes[outer.index]))
        return says_nothing(self._without_back_links(first, last))

    def _without_back_links(self, start: int, end: int) -> str:
        """Return a stretch without the back-to-top links that we made in it."""
        spans = [
            Edit(made.element.open.start, made.element.end, "")
            for made in self.made
            if start <= made.element.open.start and made.element.end <= end
        ]
        return splice(self.page.text, Span(start, end), spans)

    def _is_of_levels(self, index: int) -> bool:
        return self.flat[index].level in self.options.levels

    def _home(self, back_link: BackLink, back_links: Sequence[BackLink]) -> int | None:
        """Return the section that a back-to-top link ends, the outermost of the levels; None within one."""
        if not back_link.alone:
            return None
        holding = [one for one in self.flat if one.heading.begin <= back_link.span.start < one.end]
        if not holding:
            return None
        inner = holding[-1]
        headed = inner.heading.element.end
        follows = headed <= back_link.span.start < self.closes[inner.index]
        if follows and says_nothing(self.page.text[headed : back_link.span.start]):
            if self.options.corner is Corner.HEADING:
                return inner.index
            if back_link.made and not self._closes_here(inner, back_link, back_links):
                return None
        ending = [one for one in holding if self._closes_here(one, back_link, back_links)]
        chosen = [one for one in ending if self._is_of_levels(one.index)]
        return next((one.index for one in (*chosen, *reversed(ending))), None)

    def _closes_here(self, section: Section, back_link: BackLink, back_links: Sequence[BackLink]) -> bool:
        """Return whether nothing but other back-to-top links is between one and its section's end."""
        close = self.closes[section.index]
        if close < back_link.span.end:  # behind the end tag of the section's own element
            return back_link.span.start < section.end and says_nothing(
                self._without_back_links(close, back_link.span.start)
            )
        following = islice(
            back_links, bisect_left(back_links, back_link.span.end, key=lambda other: other.span.start), None
        )
        after = [
            Edit(other.span.start, other.span.end, "")
            for other in takewhile(lambda other: other.span.end <= close, following)
            if other.alone
        ]
        return says_nothing(splice(self.page.text, Span(back_link.span.end, close), after))

    def _settle(self, section: Section, own: Sequence[BackLink], loose: Sequence[BackLink]) -> None:
        """Give a section its one back-to-top link; a loose one in its last stretch, within words, serves as well."""
        in_place = [back_link for back_link in own if self._stands_right(section, back_link)]
        kept = next((back_link for back_link in in_place if back_link.made), in_place[0] if in_place else None)
        if kept is not None and not kept.made and not self.options.alike:
            return
        for back_link in own:
            if back_link is not kept and (back_link.made or self.options.alike):
                self.edits.append(self._taken_out(back_link, "one back-to-top link too many"))
        if kept is not None:
            self.edits += self._made_alike(kept)
            return
        if not any(self._stands_within(section, back_link) for back_link in loose):
            self.edits += self._insert(section)

    def _stands_right(self, section: Section, back_link: BackLink) -> bool:
        if self.options.corner is Corner.END:
            return True
        return says_nothing(self.page.text[section.heading.element.end : back_link.span.start])

    def _stands_within(self, section: Section, back_link: BackLink) -> bool:
        """Return whether a back-to-top link that we leave alone is in a section's last stretch of its own."""
        last = max(
            (one.start for one in self.flat if section.start <= one.start < section.end), default=section.start
        )
        return last <= back_link.link.start < section.end

    def _taken_out(self, back_link: BackLink, reason: str) -> Edit:
        text = self.page.text
        start, end = back_link.span.start, back_link.span.end
        after = after_line_end(text, end)
        if indent_before(text, start) is not None and after is not None:
            start, end = line_start(text, start), after
        return Edit(start, end, "", reason=reason)

    def _made_alike(self, back_link: BackLink) -> list[Edit]:
        """Return the edits that lead, word and mark a back-to-top link like the others; additions by hand stay."""
        old = back_link.span.of(self.page.text)
        if not back_link.made:
            return edits_between(old, self.block, back_link.span.start, "back-to-top link made like the others")
        at = back_link.link.start - back_link.span.start
        written = next((one for one in scan_attributes(old, at) if one.name == "href"), None)
        edits = []
        if written is not None and written.value != self.address:
            edits.append(value_edit(old, written, self.address, "back-to-top link"))
        words = " ".join(self.options.words.split())
        if words and back_link.link.text != words:
            begin = start_tag_end(old, at)
            close = old.lower().find("</a", begin)
            if close > 0:
                edits.append(Edit(begin, close, escape(words, quote=False), reason="back-to-top link reworded"))
        shift = back_link.span.start
        return [Edit(edit.start + shift, edit.end + shift, edit.text, reason=edit.reason) for edit in edits]

    def _insert(self, section: Section) -> list[Edit]:
        """Return the edit that puts a back-to-top link into a section; none where nothing can be there."""
        page, reason = self.page, f"back-to-top link for “{section.text}”"
        indent = indent_before(page.text, section.heading.element.open.start)
        if self.options.corner is Corner.HEADING:
            slot = block_after(page.text, section.heading.element)
        else:
            place = flow_place(self.nodes, self.closes[section.index])
            if place is None or place < section.heading.element.end:
                return []
            if place != self.closes[section.index]:
                indent = None
            slot = slot_behind(page.text, place, section.heading.element.end)
        if slot.at in self.closed:
            return []
        if not slot.own_line:
            return [Edit(slot.at, slot.at, self.block, rank=-section.index, reason=reason)]
        text = (slot.indent if indent is None else indent) + self.block + self.habits.newline
        return [Edit(slot.at, slot.at, text, rank=-section.index, reason=reason)]


def _swallowed(page: Page, planned: EditSet) -> set[int]:
    """Return the offsets of insertions that the parser makes no element of, or that change the page's headings."""
    after = read_edited(page, planned)
    replaced = [edit for edit in planned.edits if not edit.inserts]
    stay = [
        one
        for one in page.headings
        if not any(edit.start < one.element.end and one.element.open.start < edit.end for edit in replaced)
    ]
    same = [(one.level, one.text) for one in after.headings] == [(one.level, one.text) for one in stay]
    starts = {made.element.open.start for made in after.made_blocks("back-to-top")}
    lost, shift = set(), 0
    for edit in planned.edits:
        at = edit.start + shift + edit.text.find("<")
        shift += len(edit.text) - (edit.end - edit.start)
        if edit.inserts and "<" in edit.text and (at not in starts or not same):
            lost.add(edit.start)
    return lost
