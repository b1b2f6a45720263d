"""What an author asks while choosing: how good an identifier is, what is at a place, how a page sounds."""

from __future__ import annotations

from dataclasses import dataclass, replace
from uuid import UUID

from signpost.core.headings.spoken import SpokenHeading, read_spoken_headings
from signpost.core.identifiers.places import Place, find_places
from signpost.core.identifiers.sections import Judgement, judge_identifier
from signpost.core.page.blocks import read_blocks
from signpost.core.page.regions import Region, read_regions
from signpost.core.text.positions import offset_near
from signpost.core.text.source import encoding_of_label
from signpost.desk.deeds import change_settings
from signpost.desk.loading import load_record
from signpost.desk.opening import opened
from signpost.desk.settings import WHOLE_SITE, Regions, Settings, read_settings
from signpost.store.database import Database


@dataclass(frozen=True, slots=True)
class BlockView:
    """A block that a heading or a sample can be put before."""

    start: int
    tag: str
    text: str
    words: int
    section: int
    line: int


@dataclass(frozen=True, slots=True)
class RegionsView:
    """The regions of a page, and what was decided about them."""

    regions: tuple[Region, ...]
    page: Regions
    site: Regions


def judge(
    database: Database, site_id: UUID, path: str, name: str, *, own: str | None = None, words: str = ""
) -> Judgement:
    """Return what there is to say of an identifier that is being typed."""
    with opened(database, site_id) as loaded:
        return judge_identifier(
            loaded.page(path), name, own=own or None, words=words, rule=loaded.settings.identifiers
        )


def places_at(
    database: Database, site_id: UUID, path: str, *, start: int | None = None, line: int = 1, column: int = 1
) -> list[Place]:
    """Return the elements at a place that can be pointed to, innermost first.

    The place is the offset of a start tag, or a line and a column of the text as editors hold it, both 1-based.
    """
    with opened(database, site_id) as loaded:
        page = loaded.page(path)
    offset = offset_near(page.text, line, column) if start is None else start
    return find_places(page, offset, loaded.settings.identifiers)


def blocks_of(database: Database, site_id: UUID, path: str) -> list[BlockView]:
    """Return the blocks of a page's content."""
    with opened(database, site_id) as loaded:
        page = loaded.page(path)
    lines = page.source.lines
    return [
        BlockView(block.start, block.tag, block.text, block.words, block.section, lines.line(block.start))
        for block in read_blocks(page)
    ]


def spoken_headings(database: Database, site_id: UUID, path: str) -> list[SpokenHeading]:
    """Return a page's headings as the user of a screen reader hears them."""
    with opened(database, site_id) as loaded:
        return read_spoken_headings(loaded.page(path))


def regions_of(database: Database, site_id: UUID, path: str) -> RegionsView:
    """Return the regions of a page, for an author to say what is content."""
    with opened(database, site_id) as loaded:
        page, said = loaded.page(path), loaded.settings.regions
    return RegionsView(tuple(read_regions(page)), said.get(path, Regions()), said.get(WHOLE_SITE, Regions()))


def settings_of(database: Database, site_id: UUID) -> Settings:
    """Return a site's settings."""
    with database.transaction() as session:
        return read_settings(load_record(session, site_id).settings)


def save_settings(database: Database, site_id: UUID, settings: Settings) -> Settings:
    """Keep a site's settings but for what was decided about single pages, and return them."""

    def merge(kept: Settings) -> Settings:
        return replace(kept, identifiers=settings.identifiers, longest_run=settings.longest_run)

    return change_settings(database, site_id, merge, "changed the site's settings")


def refuse_lookalike(database: Database, site_id: UUID, path: str, key: str, *, refused: bool) -> None:
    """Remember that a line of a page is not a heading, or that it may be one after all."""

    def refuse(kept: Settings) -> Settings:
        return kept.refuse(path, key.casefold(), refused=refused)

    change_settings(database, site_id, refuse, f"decided on a look-alike of {path}")


def set_regions(database: Database, site_id: UUID, path: str, regions: Regions) -> None:
    """Remember what an author decided about a page's regions, or of all pages' where `path` is ""."""

    def say(kept: Settings) -> Settings:
        return kept.set_regions(path, regions)

    change_settings(database, site_id, say, f"chose the regions of {path or 'all pages'}", path)


def name_encoding(database: Database, site_id: UUID, path: str, encoding: str | None) -> None:
    """Remember the encoding that a page is read in, by one of its labels; None for the one that it declares.

    Raises RequestError for a label that no browser knows.
    """
    name = None if encoding is None else encoding_of_label(encoding)

    def name_it(kept: Settings) -> Settings:
        return kept.name_encoding(path, name)

    change_settings(database, site_id, name_it, f"had {path} read as {name or 'it declares'}", path)
