"""A table of contents: a list of jump links to sections, made, refreshed, moved, removed again."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace
from html import escape

from signpost.core.addresses.fragments import find_indicated
from signpost.core.contents.adopting import plan_adoption, plan_refreshed, release_edits
from signpost.core.contents.blocks import (
    BESIDE,
    USUAL_LEVELS,
    ContentsBlock,
    Listed,
    State,
    entry_words,
    find_blocks,
    wanted_sections,
)
from signpost.core.contents.handmade import find_main_handmade
from signpost.core.contents.options import NEW, ContentsOptions, Spot, find_slot
from signpost.core.contents.refreshing import Work, entry_markup, relabelled
from signpost.core.contents.remark import Remark, word_digest
from signpost.core.identifiers.naming import IdentifierRule
from signpost.core.identifiers.sections import propose_identifiers, put_identifier
from signpost.core.page import Page, Target, read_edited
from signpost.core.page.habits import read_habits
from signpost.core.page.outline import Section, read_outline, section_marked
from signpost.core.page.placing import follows_empty_line, whole_block
from signpost.core.text.edits import Edit, EditSet, edit_set, edits_between, splice
from signpost.core.text.errors import GoneError, RequestError
from signpost.core.text.positions import Span, after_line_end, line_start
from signpost.core.text.tags import scan_attributes, value_edit


def plan_contents(page: Page, options: ContentsOptions, rule: IdentifierRule | None = None) -> EditSet:
    """Return the edits that make contents, or bring those made earlier up to date.

    Sections of the chosen levels get identifiers where they have none. Without such sections nothing is planned.
    Raises RequestError for a section or a block that is not there.
    """
    flat = read_outline(page).flat()
    if options.home is not None and not 0 <= options.home < len(flat):
        raise GoneError("The section")
    blocks = find_blocks(page)
    block = _choose_block(blocks, options)
    if block is None and options.block is None and options.home is None:
        handmade = find_main_handmade(page)
        if handmade is not None:
            return plan_adoption(page, handmade.start, options, rule=rule)
    return _plan_block(page, flat, block, options, rule)


def _plan_block(
    page: Page,
    flat: Sequence[Section],
    block: ContentsBlock | None,
    options: ContentsOptions,
    rule: IdentifierRule | None,
) -> EditSet:
    if block is not None and block.remark.adopted:
        return plan_refreshed(page, block, options, rule)
    here = options.home is not None
    remark = _settle(block.remark if block else Remark(_usual_levels(flat, options.home), here=here), options)
    home = block.home if block else options.home
    proposed = propose_identifiers(page, remark.levels, rule)
    every = wanted_sections(page, flat, remark.levels, (), home, block.made.element if block else None)
    names = {section.index: section.identifier or proposed[section.index] for section in every}
    sections = [section for section in every if names[section.index] not in remark.left_out]
    if not sections:
        return edit_set(page.source, ())
    habits = read_habits(page)
    edits = [
        put_identifier(page, habits, section.heading.element.open.start, proposed[section.index])
        for section in every
        if section.index in proposed
    ]
    work = Work(page, habits, names, remark, options)
    if block is not None:
        new = work.refresh(block, sections)
        edits += edits_between(block.listing.text, new, block.span.start, "contents brought up to date")
    else:
        edits.append(work.make(flat, sections))
    return edit_set(page.source, edits)


def plan_no_contents(page: Page, block: int | None = None) -> EditSet:
    """Return the edits that take contents out, all of them where no block is chosen.

    A list that its author made becomes the author's own again. Identifiers stay, since links may use them. Raises
    RequestError for a block that is not there.
    """
    blocks = find_blocks(page)
    chosen = blocks if block is None else [_block_at(blocks, block)]
    spans = [_with_empty_line(page, one) for one in chosen if not one.remark.adopted]
    outer = [
        span for span in spans if not any(o.start <= span.start and span.end <= o.end for o in spans if o != span)
    ]
    edits = [Edit(span.start, span.end, "", reason="contents taken out") for span in outer]
    for one in chosen:
        if one.remark.adopted and not any(span.start <= one.span.start < span.end for span in outer):
            edits += release_edits(page, one)
    return edit_set(page.source, edits)


def _with_empty_line(page: Page, block: ContentsBlock) -> Span:
    """Return what goes with a block: its lines, and an empty one behind where one is before them as well."""
    span = whole_block(page.text, block.made.element)
    behind = after_line_end(page.text, span.end)
    parted = behind is not None and line_start(page.text, span.start) == span.start
    if parted and behind is not None and follows_empty_line(page.text, span.start):
        return Span(span.start, behind)
    return span


def plan_moved_contents(page: Page, block: int, spot: Spot, before: int | None = None) -> EditSet:
    """Return the edits that move contents to another spot, or before the block that starts at `before`.

    They are not made again: only their indent changes, and the class that says whether they are at the side.
    """
    chosen = _block_at(find_blocks(page), block)
    flat = read_outline(page).flat()
    home = chosen.home
    sections = wanted_sections(page, flat, chosen.remark.levels, chosen.remark.left_out, home, chosen.made.element)
    slot = find_slot(page, flat, sections, spot, before, home)
    span = _with_empty_line(page, chosen)
    if span.start <= slot.at <= span.end:
        return _turned(page, chosen, spot)
    markup = _with_side(page, chosen, spot)
    old = chosen.listing.text[: len(chosen.listing.text) - len(chosen.listing.text.lstrip(" \t"))]
    newline = read_habits(page).newline
    lines = [line.removeprefix(old) for line in re.split(r"\r\n|\r|\n", markup)]
    if slot.own_line:
        text = "".join(slot.indent + line + newline if line else newline for line in lines)
        text += newline if follows_empty_line(page.text, slot.at) else ""
    else:
        text = newline.join(lines)
    return edit_set(
        page.source,
        [
            Edit(span.start, span.end, "", reason="contents moved away"),
            Edit(slot.at, slot.at, text, rank=1, reason="contents moved here"),
        ],
    )


def plan_entry_words(page: Page, block: int, section: int, words: str) -> EditSet:
    """Return the edits that give a section's entry other words; without words, it equals its heading again.

    Raises RequestError where the contents have no entry for the section.
    """
    chosen = _block_at(find_blocks(page), block)
    found = next((one for one in chosen.listed if one.section == section), None)
    if found is None:
        raise RequestError("The contents have no entry for this section. Refresh them first.")
    heading = read_outline(page).flat()[section]
    label = chosen.listing.text[found.entry.label.start : found.entry.label.end]
    habits = read_habits(page)
    wanted = " ".join(words.split())
    inner = escape(wanted, quote=False) if wanted else entry_markup(habits, heading)
    edits = edits_between(
        label, relabelled(label, inner), chosen.span.start + found.entry.label.start, "entry's words"
    )
    title = entry_words(heading)
    if wanted and not chosen.remark.knows(title) and chosen.remarked is not None:
        edits.append(_sealed_too(chosen, title))
    return edit_set(page.source, edits)


def _sealed_too(block: ContentsBlock, title: str) -> Edit:
    """Return the edit that remembers how a heading reads now, so that its entry's own words stay."""
    end = block.span.start + (block.remarked.end if block.remarked else 0) - len(" -->")
    return Edit(end, end, word_digest(title), reason="the heading as it reads now")


def find_outdated(page: Page, blocks: Sequence[ContentsBlock] | None = None) -> list[tuple[ContentsBlock, EditSet]]:
    """Return the contents of a page that are out of date, each with the edits that fix it.

    `blocks` are those of the page, where they are known already.
    """
    flat = read_outline(page).flat()
    outdated = []
    for block in find_blocks(page) if blocks is None else blocks:
        edits = _plan_block(page, flat, block, ContentsOptions(block=block.index), None)
        if edits:
            outdated.append((block, edits))
    return outdated


def note_contents(page: Page, edits: EditSet) -> list[str]:
    """Return what the author should know of the contents that a plan makes, in plain words."""
    after = read_edited(page, edits) if edits else page
    flat = read_outline(after).flat()
    notes = []
    for block in find_blocks(after):
        for one in block.listed:
            if one.state is State.DOUBTED and one.section is not None:
                title = entry_words(flat[one.section])
                notes.append(f"The entry “{one.entry.words}” was shortened; its heading says “{title}” now.")
            elif one.state in (State.OPEN, State.GONE):
                notes.append(f"The entry “{one.entry.words}” leads nowhere; no section is surely meant.")
            elif one.section is not None and not _reaches(after, one):
                notes.append(
                    f"The entry “{one.entry.words}” leads to another place, since its section's identifier is used "
                    "twice. Give the section another one."
                )
    return notes


def _reaches(page: Page, one: Listed) -> bool:
    """Return whether an entry's link lands on the section that it lists."""
    found = page.resolve(one.entry.href or "")
    if found is None or found[0] != page.path or not found[1]:
        return True
    target = find_indicated(found[1], page.index_targets())
    return not isinstance(target, Target) or section_marked(page, target.start) == one.section


def _block_at(blocks: Sequence[ContentsBlock], index: int) -> ContentsBlock:
    found = next((block for block in blocks if block.index == index), None)
    if found is None:
        raise GoneError("The table of contents")
    return found


def _choose_block(blocks: Sequence[ContentsBlock], options: ContentsOptions) -> ContentsBlock | None:
    if options.block is not None:
        return None if options.block == NEW else _block_at(blocks, options.block)
    alike = [block for block in blocks if block.home == options.home]
    return next(iter(alike), blocks[0] if blocks and options.home is None else None)


def _usual_levels(flat: Sequence[Section], home: int | None) -> tuple[int, ...]:
    return USUAL_LEVELS if home is None else (flat[home].level + 1,)


def _settle(remark: Remark, options: ContentsOptions) -> Remark:
    """Return the remark with what was asked for."""
    if options.levels is not None:
        remark = replace(remark, levels=tuple(sorted(set(options.levels))))
    if options.left_out is not None:
        remark = replace(remark, left_out=tuple(dict.fromkeys(options.left_out)))
    if options.numbered is not None:
        remark = replace(remark, numbered=options.numbered)
    return remark


def _turned(page: Page, block: ContentsBlock, spot: Spot) -> EditSet:
    """Return the edits that only change whether contents are at the side."""
    text = _with_side(page, block, spot)
    was = block.listing.text.lstrip(" \t")
    start = block.made.element.open.start
    return edit_set(page.source, edits_between(was, text, start, "contents at the side or not"))


def _with_side(page: Page, block: ContentsBlock, spot: Spot) -> str:
    """Return the block's markup with its class saying whether it is at the side."""
    start = block.made.element.open.start
    markup = page.text[start : block.span.end]
    written = next((found for found in scan_attributes(markup, 0) if found.name == "class"), None)
    if written is None:
        return markup
    classes = [name for name in written.value.split() if name != BESIDE]
    value = " ".join([*classes, BESIDE] if spot is Spot.SIDE else classes)
    if value == " ".join(written.value.split()):
        return markup
    return splice(markup, Span(0, len(markup)), [value_edit(markup, written, value, "side")])
