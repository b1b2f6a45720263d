"""What contents are asked to be, and where they go."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Final, Literal

from signpost.core.contents.listing import Form
from signpost.core.page import Page
from signpost.core.page.blocks import read_blocks
from signpost.core.page.outline import Section
from signpost.core.page.placing import Slot, block_after, block_start
from signpost.core.text.errors import GoneError, RequestError


class Spot(StrEnum):
    """Where contents are on their page."""

    LEAD = "lead"  # after the lead, before the first section that they list
    TOP = "top"  # right after the page's main heading, before its lead
    SIDE = "side"  # as at the top, and by the reading style at the page's side
    SECTION = "section"  # right after the heading of the section that they list


#: Asks for another block beside those that are there.
NEW: Final = "new"


@dataclass(frozen=True, slots=True)
class ContentsOptions:
    """What a contents block contains. None means as it is, or as is usual where there is none yet."""

    levels: Collection[int] | None = None
    form: Form | None = None
    left_out: Collection[str] | None = None  # identifiers of sections that get no entry
    ordered: bool | None = None  # whether the lists are `ol`, whose numbers the browser writes
    numbered: bool | None = None  # whether numbers like 2.3 are written before the entries
    label: str | None = None  # of a new block
    separator: str | None = None  # between the entries of a row
    prefix: str | None = None  # words before each entry of a list
    suffix: str | None = None  # words behind each entry
    spot: Spot = Spot.LEAD  # of a new block
    before: int | None = None  # start of the block that a new one is before; takes precedence over `spot`
    home: int | None = None  # index of the section whose sections alone are listed
    block: int | Literal["new"] | None = None  # index of the block to refresh; None: the one that lists `home`
    kept: Collection[int] = ()  # sections whose shortened entries are right though their headings changed


def find_slot(
    page: Page, flat: Sequence[Section], sections: Sequence[Section], spot: Spot, before: int | None, home: int | None
) -> Slot:
    """Return where a block goes. Raises GoneError for no such block, RequestError where nothing says it."""
    if before is not None:
        if before not in {block.start for block in read_blocks(page)}:
            raise GoneError("The block")
        return block_start(page.text, before)
    if home is not None and spot in (Spot.LEAD, Spot.SECTION):
        return block_after(page.text, flat[home].heading.element)
    if not sections:
        raise RequestError("These contents list no section any more. Choose the block that they go before.")
    if spot in (Spot.TOP, Spot.SIDE):
        main = next((section for section in flat if section.level == 1), None)
        if main is not None and main.start <= sections[0].start and main.index != sections[0].index:
            return block_after(page.text, main.heading.element)
    return block_start(page.text, sections[0].heading.begin)
