"""Entry lists of reference pages: a headed, identified entry for each term, and a bar of letters or a row above.

A later list updates what is there: new terms come in where they belong, labels follow, what was written under an
entry stays.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from html import escape

from signpost.core.contents import ContentsOptions, Form, plan_contents
from signpost.core.entries.collation import initial, sort_key
from signpost.core.entries.terms import Term, without_doubles
from signpost.core.identifiers.naming import IdentifierRule, name_from
from signpost.core.identifiers.sections import find_objection
from signpost.core.page import Made, Page
from signpost.core.page.edges import section_close
from signpost.core.page.habits import read_habits
from signpost.core.page.outline import Section, read_outline
from signpost.core.page.placing import block_after, block_end, block_start, whole_block
from signpost.core.page.plans import plan_in_turn, refuse_unseen
from signpost.core.page.shown import word_edits_between
from signpost.core.text.edits import Edit, EditSet, edit_set, edits_between
from signpost.core.text.errors import GoneError, RequestError
from signpost.core.text.positions import Span, end_before, indent_before, line_indent

LOWEST = 6


class Bar(StrEnum):
    """What is above entries."""

    LETTERS = "letters"  # a letter for each that entries begin with
    ROW = "row"  # a jump row of all entries
    NONE = "none"


@dataclass(frozen=True, slots=True)
class EntriesOptions:
    """Where entries go, and what is above them."""

    home: int | None = None  # index of the section that contains them; None for the page
    bar: Bar = Bar.LETTERS
    sort: bool = True  # new entries where they belong in the language's order; else at the end


@dataclass(frozen=True, slots=True)
class EntriesPlan:
    """The edits, and what came of the terms."""

    edits: EditSet
    new: int
    known: int  # that were there
    doubles: int  # that were dropped

    @property
    def note(self) -> str:
        """What came of the terms, in plain words."""
        doubles = f", {self.doubles} given twice" if self.doubles else ""
        return f"{self.new} new {'entry' if self.new == 1 else 'entries'}, {self.known} there already{doubles}."


def plan_entries(
    page: Page, terms: Sequence[Term], options: EntriesOptions, rule: IdentifierRule | None = None
) -> EntriesPlan:
    """Return the plan that gives each term an entry, and renews the bar above them.

    Raises RequestError for a section that is not there, and for an invalid identifier.
    """
    single = without_doubles(terms)
    flat = read_outline(page).flat()
    if options.home is not None and not 0 <= options.home < len(flat):
        raise GoneError("The section")
    work = _Entries(page, flat, options, rule)
    own = work.plan(single)
    planners = [lambda _: own]
    if options.bar is Bar.LETTERS:
        planners.append(lambda now: plan_letters(now, options.home))
    elif options.bar is Bar.ROW:
        planners.append(lambda now: _plan_row(now, options.home, rule))
    edits = plan_in_turn(page, *planners, reason="entries")
    return EntriesPlan(edits, work.new, len(single) - work.new, len(terms) - len(single))


def _plan_row(page: Page, home: int | None, rule: IdentifierRule | None) -> EditSet:
    flat = read_outline(page).flat()
    level = _entry_level(flat, home)
    return plan_contents(page, ContentsOptions([level], Form.ROW, home=home, separator=" · "), rule)


def _entry_level(flat: Sequence[Section], home: int | None) -> int:
    level = 2 if home is None else flat[home].level + 1
    if level > LOWEST:
        raise RequestError("This section is at the lowest level, so entries cannot go below it. Raise it first.")
    return level


def find_entries(flat: Sequence[Section], home: int | None, language: str | None = None) -> list[Section]:
    """Return the entries that are in a section, or right on the page, in source order.

    Where most of its sections are in the language's order, one after another, those around are not entries.
    """
    return _longest_in_order(_sections_of_home(flat, home), language)


def _sections_of_home(flat: Sequence[Section], home: int | None) -> list[Section]:
    """Return the sections among which entries are: those within a section, or those of their level on the page."""
    if home is not None:
        return list(flat[home].sections)
    level = _entry_level(flat, home)
    return [section for section in flat if section.level == level]


def _longest_in_order(sections: Sequence[Section], language: str | None) -> list[Section]:
    best: list[Section] = []
    run: list[Section] = []
    for section in sections:
        if run and sort_key(section.text, language) < sort_key(run[-1].text, language):
            run = []
        run.append(section)
        best = run if len(run) > len(best) else best
    return list(best) if 2 * len(best) > len(sections) and len(best) >= _RUN else list(sections)


_RUN = 3  # entries that have to be in order before others count as none


class _Entries:
    """The entries of one list."""

    def __init__(
        self, page: Page, flat: Sequence[Section], options: EntriesOptions, rule: IdentifierRule | None
    ) -> None:
        self.page = page
        self.flat = flat
        self.options = options
        self.rule = rule
        self.habits = read_habits(page)
        self.taken = {target.name for target in page.targets}
        self.there = find_entries(flat, options.home, page.language)
        self.level = _entry_level(flat, options.home)
        self.new = 0

    def plan(self, terms: Sequence[Term]) -> EditSet:
        edits: list[Edit] = []
        # those out of order count too: what was put behind them is an entry, and must not come a second time
        alike = [*_sections_of_home(self.flat, self.options.home), *reversed(self.there)]
        by_words = {section.text.casefold(): section for section in alike}
        by_name = {section.identifier: section for section in alike if section.identifier}
        fresh: list[Term] = []
        for term in terms:
            known = by_name.get(term.identifier) if term.identifier else None
            known = known or by_words.get(term.heading.casefold()) or by_words.get(term.term.casefold())
            if known is None:
                fresh.append(term)
            elif term.label and term.label != known.text:
                edits += self._relabelled(known, term.label)
        self.new = len(fresh)
        language = self.page.language
        if self.options.sort:
            fresh.sort(key=lambda term: sort_key(term.term, language))
        before = set(self.taken)
        for rank, term in enumerate(fresh):
            edits.append(self._insert(term, rank))
        return refuse_unseen(self.page, edit_set(self.page.source, edits), self.taken - before)

    def _relabelled(self, section: Section, label: str) -> list[Edit]:
        element = section.heading.element
        if element.close is None:
            return []
        inner = Span(element.open.end, element.close.start)
        return (
            word_edits_between(self.page.text, inner, section.text, label, f"“{section.text}” is “{label}” now") or []
        )

    def _insert(self, term: Term, rank: int) -> Edit:
        slot = block_start(self.page.text, self._place(term))
        name = self._name(term)
        tag = f"h{self.level}"
        words = escape(term.heading, quote=False)
        lines = [self.habits.start(tag, id=name) + words + self.habits.end(tag)]
        paragraphs = [piece for piece in term.text.replace("\r\n", "\n").split("\n\n") if piece.strip()]
        for piece in paragraphs:
            inner = escape(" ".join(piece.split()), quote=False)
            lines.append(self.habits.start("p") + inner + self.habits.end("p"))
        reason = f"entry “{term.heading}”"
        if not slot.own_line:
            return Edit(slot.at, slot.at, "".join(lines), rank=rank, reason=reason)
        indent = self._indent(slot.at)
        text = "".join(indent + line + self.habits.newline for line in lines)
        return Edit(slot.at, slot.at, text, rank=rank, reason=reason)

    def _indent(self, at: int) -> str:
        """Return the indent of an entry's lines: that of those there, of their section, or of what is above."""
        alike = self.there[:1] or ([] if self.options.home is None else [self.flat[self.options.home]])
        indent = indent_before(self.page.text, alike[0].start) if alike else None
        return line_indent(self.page.text, end_before(self.page.text, at)) if indent is None else indent

    def _place(self, term: Term) -> int:
        """Return the offset that an entry goes to: before the first that belongs behind it, or at the end."""
        if self.options.sort:
            key = sort_key(term.term, self.page.language)
            after = next((one for one in self.there if sort_key(one.text, self.page.language) > key), None)
            if after is not None:
                return after.heading.begin
        if self.options.home is None:
            return self.page.content.end
        return section_close(self.page, self.flat, self.flat[self.options.home])

    def _name(self, term: Term) -> str:
        if not term.identifier:
            name = name_from(term.heading, self.taken, self.rule, self.page.language)
        else:
            name = term.identifier
            objection = find_objection(name, self.taken)
            if objection:
                raise RequestError(f"“{term.term}”: {objection}")
        self.taken.add(name)
        return name


# -------------------------------------------------------------------- the bar of letters


def plan_letters(page: Page, home: int | None) -> EditSet:
    """Return the edits that make the bar of letters above the entries of a section, or renew it.

    Each letter leads to the first entry under it. Without entries that have identifiers nothing is planned.
    """
    flat = read_outline(page).flat()
    habits = read_habits(page)
    firsts: dict[str, str] = {}
    for section in find_entries(flat, home, page.language):
        if section.identifier and section.text:
            firsts.setdefault(initial(section.text, page.language), section.identifier)
    if not firsts:
        return edit_set(page.source, ())
    links = [
        habits.start("a", href=page.address_of(page.path, name)) + escape(letter, quote=False) + habits.end("a")
        for letter, name in sorted(firsts.items(), key=lambda pair: sort_key(pair[0], page.language))
    ]
    made = find_letters(page, flat, home)
    if made is not None:
        inner = Span(made.element.open.end, made.element.close.start if made.element.close else made.element.end)
        new = _row(page, made, links)
        return edit_set(page.source, edits_between(inner.of(page.text), new, inner.start, "letters renewed"))
    first = find_entries(flat, home, page.language)[0]
    above = block_start(page.text, first.heading.begin)
    slot = above if home is None else block_after(page.text, flat[home].heading.element)
    tag = "nav" if page.html5 else "div"
    start = habits.start(tag, class_="letters", aria_label="A–Z" if page.html5 else None)
    block = f"{start}{' '.join(links)}{habits.end(tag)}"
    gap = habits.newline if slot.own_line else ""
    return edit_set(page.source, [Edit(slot.at, slot.at, slot.indent + block + gap, rank=1, reason="letters")])


def plan_no_letters(page: Page) -> EditSet:
    """Return the edits that take the bars of letters out; entries stay."""
    spans = [whole_block(page.text, made.element) for made in page.made_blocks("letters")]
    return edit_set(page.source, [Edit(span.start, span.end, "", reason="letters taken out") for span in spans])


def find_letters(page: Page, flat: Sequence[Section], home: int | None) -> Made | None:
    """Return the bar of letters that is above the entries of a section; None where there is none."""
    for made in page.made_blocks("letters"):
        start = made.element.open.start
        if home is None or flat[home].start < start < flat[home].end:
            return made
    return None


def _row(page: Page, made: Made, links: Sequence[str]) -> str:
    """Return what is between a bar's tags, with the white space that its author put there."""
    inner = page.text[made.element.open.end : block_end(made.element)]
    before = inner[: len(inner) - len(inner.lstrip())]
    close = made.element.close
    body = page.text[made.element.open.end : close.start if close else made.element.end]
    after = body[len(body.rstrip()) :] if body.strip() else ""
    return before + " ".join(links) + after
