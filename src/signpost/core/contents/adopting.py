"""A list made by hand as the page's contents: dead links led to their sections, what is missing added, all else kept.

The author's entries, their words, order and markup stay. What was added is remembered, so that the list can be made
its author's own again.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from enum import StrEnum
from itertools import groupby
from urllib.parse import unquote

from signpost.core.contents.blocks import ContentsBlock, State, entry_words, judge_words, wanted_sections
from signpost.core.contents.completing import Filed, NewEntry, add_entries, remove_entry
from signpost.core.contents.framing import frame_edits, unframe_edits
from signpost.core.contents.handmade import Handmade, find_handmade
from signpost.core.contents.listing import Form, ListEntry, Listing, read_listing
from signpost.core.contents.options import ContentsOptions
from signpost.core.contents.refreshing import entry_markup, relabelled
from signpost.core.contents.remark import Adopted, Remark, identifier_digest, read_remark, word_digest
from signpost.core.identifiers.naming import IdentifierRule
from signpost.core.identifiers.sections import propose_identifiers, put_identifier
from signpost.core.page import Page, read_edited
from signpost.core.page.habits import Habits, read_habits
from signpost.core.page.outline import Section, read_outline
from signpost.core.page.placing import whole_span
from signpost.core.text.edits import Edit, EditSet, edit_set, edits_between, splice
from signpost.core.text.errors import GoneError, OverlapError, RequestError
from signpost.core.text.positions import Span
from signpost.core.text.tags import scan_attributes, value_edit

_BOX = re.compile(r"(<(?:p|div)\b[^>]*>\s*)(.*?)(\s*</(?:p|div)\s*>)", re.IGNORECASE | re.DOTALL)


class Unplaced(StrEnum):
    """What becomes of an entry for which the author chooses no section."""

    KEEP = "keep"  # it stays as it is
    DROP = "drop"  # it goes


#: What the author says of entries, by their positions: the index of a section, or what becomes of it.
Choices = Mapping[int, int | Unplaced]


def plan_adoption(
    page: Page,
    start: int,
    options: ContentsOptions,
    choices: Choices | None = None,
    rule: IdentifierRule | None = None,
) -> EditSet:
    """Return the edits that make the list at `start` (see Handmade.start) the page's contents.

    Where `choices` says nothing of an entry, one whose link leads somewhere stays, one that surely means a section is
    led there, any other stays as it is. Sections of the list's own levels get the entries that are missing. Raises
    RequestError for a list that is not there, or one whose markup cannot be kept.
    """
    handmade = next((one for one in find_handmade(page) if one.start == start), None)
    if handmade is None:
        raise GoneError("The list")
    return _Adoption(page, handmade, options, choices or {}, rule).plan()


def plan_refreshed(
    page: Page, block: ContentsBlock, options: ContentsOptions, rule: IdentifierRule | None = None
) -> EditSet:
    """Return the edits that bring an adopted list up to date.

    Entries follow their headings where they said the same, links follow identifiers, what is missing is added. What
    its author wrote stays otherwise; its form is the author's own. Levels count where they are asked of this block.
    """
    return _Refreshing(page, block, options, rule).plan()


def release_edits(page: Page, block: ContentsBlock) -> list[Edit]:
    """Return the edits that make an adopted list its author's own again: what was added goes, fixed links stay."""
    filed, text = _file(block), block.listing.text
    kept = list(range(len(text)))  # offsets of the characters that stay
    found = read_remark(text)
    remark = Span(0, 0) if found is None else whole_span(text, found[1])
    for position in reversed(range(len(filed.sections))):
        without = None
        if _is_added(filed.listing.entries[position], block):
            without = remove_entry(filed, position)
        if without is not None:
            filed, gone = without
            del kept[gone.start : gone.end]
    stays = set(kept) - set(range(remark.start, remark.end))
    gone_spans = (list(run) for is_kept, run in groupby(range(len(text)), stays.__contains__) if not is_kept)
    edits = [
        Edit(block.span.start + run[0], block.span.start + run[-1] + 1, "", reason="what was added to the list")
        for run in gone_spans
    ]
    return [*edits, *unframe_edits(page, block)]


class _Names:
    """Identifiers of sections, existing ones and those that sections get because an entry needs one."""

    def __init__(self, page: Page, flat: Sequence[Section], rule: IdentifierRule | None) -> None:
        self._page = page
        self._flat = flat
        self._rule = rule
        self._proposed: dict[int, str] | None = None

    def of(self, section: int) -> str:
        """Return a section's identifier."""
        identifier = self._flat[section].identifier
        if identifier is not None:
            return identifier
        if self._proposed is None:
            self._proposed = propose_identifiers(self._page, range(1, 10), self._rule)
        return self._proposed[section]

    def edits(self, habits: Habits, sections: Iterable[int]) -> list[Edit]:
        """Return the edits that give these sections their identifiers, where they have none."""
        without = [self._flat[index] for index in sorted(set(sections)) if self._flat[index].identifier is None]
        return [
            put_identifier(self._page, habits, one.heading.element.open.start, self.of(one.index)) for one in without
        ]


class _Adoption:
    """One list adopted."""

    def __init__(
        self, page: Page, handmade: Handmade, options: ContentsOptions, choices: Choices, rule: IdentifierRule | None
    ) -> None:
        self.page = page
        self.handmade = handmade
        self.habits = read_habits(page)
        self.flat = read_outline(page).flat()
        self.names = _Names(page, self.flat, rule)
        elsewhere = tuple(self.names.of(section) for section in handmade.elsewhere)
        self.left_out = tuple(dict.fromkeys((*(options.left_out or ()), *elsewhere)))
        self.fates = [
            choices.get(position, guess.section if guess.sure and guess.section is not None else Unplaced.KEEP)
            for position, guess in enumerate(handmade.guesses)
        ]

    def plan(self) -> EditSet:
        filed, drops = self._mended()
        for position in reversed(drops):
            without = remove_entry(filed, position)
            if without is None:
                words = filed.listing.entries[position].words
                raise RequestError(
                    f"The entry “{words}” cannot be removed without removing others too. Edit the source."
                )
            filed = without[0]
        there = _indexes(filed.sections)
        missing = (self.flat[index] for index in self.handmade.missing)
        new = [one for one in missing if one.index not in there and one.identifier not in self.left_out]
        filed = _add(self.page, self.habits, self.flat, filed, new, self.names)
        return self._edits(filed, there)

    def _mended(self) -> tuple[Filed, list[int]]:
        """Return the list with its dead links and plain words led to their sections, and which entries should go."""
        handmade, listing = self.handmade, self.handmade.listing
        edits: list[Edit] = []
        for entry, guess, fate in zip(listing.entries, handmade.guesses, self.fates, strict=True):
            if not isinstance(fate, Unplaced) and not (guess.leads and guess.section == fate):
                edits += _led(listing, entry, _address(self.page, self.names.of(fate)), self.habits)
        after = read_listing(splice(listing.text, Span(0, len(listing.text)), edits))
        read_again = [
            fate
            for entry, fate in zip(listing.entries, self.fates, strict=True)
            if listing.form is Form.LIST or entry.linked or not isinstance(fate, Unplaced)
        ]
        if len(after.entries) != len(read_again):
            raise RequestError("Where the list begins and ends is unclear. Put it in an element of its own first.")
        drops = [position for position, fate in enumerate(read_again) if fate is Unplaced.DROP]
        return Filed(after, tuple(None if isinstance(fate, Unplaced) else fate for fate in read_again)), drops

    def _edits(self, filed: Filed, there: set[int]) -> EditSet:
        page, handmade = self.page, self.handmade
        sections = _indexes(filed.sections)
        words = {index: entry_words(self.flat[index]) for index in sections}

        def remark(adopted: Adopted) -> str:
            return Remark(
                handmade.levels,
                left_out=self.left_out,
                here=handmade.home is not None,
                adopted=adopted,
                added=tuple(identifier_digest(self.names.of(index)) for index in sorted(sections - there)),
            ).write(word_digest(words[index]) for index in sorted(sections))

        own = edits_between(handmade.listing.text, filed.text, handmade.span.start, "entries of the contents")
        edits = [*frame_edits(page, self.habits, handmade, remark), *own, *self.names.edits(self.habits, sections)]
        return _kept_whole(page, edits)


class _Refreshing:
    """One adopted list brought up to date."""

    def __init__(
        self, page: Page, block: ContentsBlock, options: ContentsOptions, rule: IdentifierRule | None
    ) -> None:
        self.page = page
        self.block = block
        self.options = options
        self.habits = read_habits(page)
        self.flat = read_outline(page).flat()
        self.names = _Names(page, self.flat, rule)
        self.left_out = block.remark.left_out if options.left_out is None else tuple(options.left_out)
        chosen = options.levels if options.block is not None else None  # else nobody chose them for this list
        self.levels = block.remark.levels if chosen is None else tuple(sorted(set(chosen)))

    def plan(self) -> EditSet:
        block = self.block
        ours = {
            one.section for one in block.listed if one.section is not None and _is_added(one.entry, block)
        }  # sections whose entries we added
        filed = Filed(read_listing(self._mended()), _file(block).sections)
        for position in reversed(self._gone()):
            without = remove_entry(filed, position)
            filed = filed if without is None else without[0]
        there = _indexes(filed.sections)
        wanted = wanted_sections(self.page, self.flat, self.levels, (), block.home, block.made.element)
        new = [one for one in wanted if one.index not in there and self.names.of(one.index) not in self.left_out]
        filed = _add(self.page, self.habits, self.flat, filed, new, self.names)
        sections = _indexes(filed.sections)
        added = (ours & sections) | (sections - there)
        text = self._remarked(filed, added)
        edits = edits_between(block.listing.text, text, block.span.start, "contents brought up to date")
        return _kept_whole(self.page, [*edits, *self.names.edits(self.habits, sections)])

    def _mended(self) -> str:
        """Return the list with the words of its headings where they said the same, and links that lead there."""
        listing = self.block.listing
        edits: list[Edit] = []
        for one in self.block.listed:
            if one.section is None:
                continue
            label = one.entry.label.of(listing.text)
            title = entry_words(self.flat[one.section])
            if judge_words(one.entry.words, title, self.block.remark) is State.STALE and one.entry.linked:
                new = relabelled(label, entry_markup(self.habits, self.flat[one.section]))
                edits += edits_between(label, new, one.entry.label.start)
            if not one.leads:
                edits += _led(listing, one.entry, _address(self.page, self.names.of(one.section)), self.habits)
        return splice(listing.text, Span(0, len(listing.text)), edits)

    def _gone(self) -> list[int]:
        """Return the positions of entries that go: those left out now, and those we added that list nothing now."""
        newly = set(self.left_out) - set(self.block.remark.left_out)  # its author ticked each of them
        gone = []
        for one in self.block.listed:
            name = None if one.section is None else self.names.of(one.section)
            unwanted = one.section is None or self.flat[one.section].level not in self.levels or name in self.left_out
            if name in newly or (unwanted and _is_added(one.entry, self.block)):
                gone.append(one.position)
        return gone

    def _remarked(self, filed: Filed, added: set[int]) -> str:
        """Return the list's markup with its remark true to what it lists now."""
        text, old = filed.text, self.block.remark
        found = read_remark(text)
        if found is None:
            return text
        sections = sorted(_indexes(filed.sections))
        words = {index: entry_words(self.flat[index]) for index in sections}
        doubted = {one.section for one in self.block.listed if one.state is State.DOUBTED} - set(self.options.kept)
        remark = replace(
            old,
            levels=self.levels,
            left_out=self.left_out,
            added=tuple(
                dict.fromkeys(
                    [
                        *(identifier_digest(self.names.of(index)) for index in sections if index in added),
                        *(self._added_elsewhere() if self.page.part_marks else ()),
                    ]
                )
            ),
        )
        own = [word_digest(words[index]) for index in sections if index not in doubted]
        new = remark.write([*own, *self._of_other_parts()])
        again = read_remark(new)
        same = again is not None and again[0].digests <= old.digests and replace(again[0], digests=old.digests) == old
        return text if same else text[: found[1].start] + new + text[found[1].end :]

    def _of_other_parts(self) -> list[str]:
        """Return the digests of entries whose sections went to other parts of the page."""
        if self.page.part_marks is None:
            return []
        extra = (one.entry.words for one in self.block.listed if one.state is State.EXTRA)
        return [word_digest(words) for words in extra if self.block.remark.knows(words)]

    def _added_elsewhere(self) -> list[str]:
        """Return the digests of identifiers whose entries were added and lead to other parts of the page."""
        hrefs = (one.entry.href or "" for one in self.block.listed if one.state is State.EXTRA)
        found = (identifier_digest(unquote(href.partition("#")[2])) for href in hrefs)
        return [digest for digest in found if digest in self.block.remark.added]


def _is_added(entry: ListEntry, block: ContentsBlock) -> bool:
    """Return whether an entry is one that we added to a list made by hand."""
    return bool(block.remark.added) and identifier_digest((entry.href or "").removeprefix("#")) in block.remark.added


def _file(block: ContentsBlock) -> Filed:
    return Filed(block.listing, tuple(one.section for one in block.listed))


def _indexes(sections: Iterable[int | None]) -> set[int]:
    return {section for section in sections if section is not None}


def _address(page: Page, name: str) -> str:
    return page.address_of(page.path, name)


def _add(
    page: Page, habits: Habits, flat: Sequence[Section], filed: Filed, sections: Iterable[Section], names: _Names
) -> Filed:
    """Return the list with entries for sections."""
    new = []
    for section in sections:
        parents: list[int] = []
        above = section.parent
        while above is not None:
            parents.insert(0, above)
            above = flat[above].parent
        address = _address(page, names.of(section.index))
        new.append(NewEntry(section.index, section.level, tuple(parents), address, entry_markup(habits, section)))
    return add_entries(filed, new, [one.level for one in flat], habits)


def _led(listing: Listing, entry: ListEntry, address: str, habits: Habits) -> list[Edit]:
    """Return the edits that make an entry's label a link to an address, or lead its link there."""
    text, label = listing.text, entry.label
    if entry.linked:
        written = next((found for found in scan_attributes(text, label.start) if found.name == "href"), None)
        if written is None:
            at = label.start + 2
            return [Edit(at, at, " " + habits.attribute("href", address), reason="link")]
        return [value_edit(text, written, address, "link")]
    box = _BOX.fullmatch(label.of(text))
    inner = Span(label.start + box.start(2), label.start + box.end(2)) if box else label
    return [
        Edit(inner.start, inner.start, habits.start("a", href=address), reason="link"),
        Edit(inner.end, inner.end, habits.end("a"), rank=-1, reason="link"),
    ]


def _kept_whole(page: Page, edits: Iterable[Edit]) -> EditSet:
    """Return edits of a list whose page has the same headings afterwards; raises RequestError for any others."""
    try:
        planned = edit_set(page.source, edits)
    except OverlapError:
        raise RequestError("The list cannot be kept unchanged. Put it in an element of its own first.") from None
    after = read_edited(page, planned)
    if [(one.level, one.text) for one in after.headings] != [(one.level, one.text) for one in page.headings]:
        raise RequestError("The markup around the list is broken. Correct its end tags first.")
    return planned
