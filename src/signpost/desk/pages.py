"""A site and its pages, as the screens ask for them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from uuid import UUID

from signpost.core.addresses.links import is_page_path
from signpost.core.site.addresses import SectionAddresses, section_addresses
from signpost.core.text.edits import shown_text
from signpost.core.text.errors import RequestError
from signpost.desk.deeds import note_deed
from signpost.desk.drafts import read_draft
from signpost.desk.errors import NotThereError
from signpost.desk.loading import load_record, load_settings, load_site, read_pages
from signpost.desk.views import (
    FindingView,
    PageIndex,
    PageView,
    SiteView,
    index_site,
    view_findings,
    view_page,
    view_site,
)
from signpost.store import repositories as store
from signpost.store.database import Database
from signpost.store.records import SiteRecord


@dataclass(frozen=True, slots=True)
class ReadingProgress:
    """How far the reading of a site has come."""

    done: int
    total: int
    path: str  # read last; "" before the first


def list_sites(database: Database) -> list[SiteRecord]:
    """Return all sites, the newest first."""
    with database.transaction() as session:
        return store.load_sites(session)


def open_site(database: Database, site_id: UUID) -> SiteView:
    """Return a site as its desk shows it."""
    with database.transaction() as session:
        return view_site(load_site(session, site_id))


def name_site(database: Database, site_id: UUID, name: str, base: str | None) -> SiteRecord:
    """Return a site with its new name and its own address."""
    with database.transaction() as session:
        load_record(session, site_id, lock=True)
        store.save_site(session, site_id, name, base)
        note_deed(session, site_id, "changed the site's name or address")
        return load_record(session, site_id)


def delete_site(database: Database, site_id: UUID) -> None:
    """Delete a site with all that belongs to it."""
    with database.transaction() as session:
        load_record(session, site_id, lock=True)
        store.delete_site(session, site_id)


def read_site(database: Database, site_id: UUID) -> Iterator[ReadingProgress]:
    """Yield how far the reading of a site's pages has come; what is read stays read."""
    with database.transaction() as session:
        settings = load_settings(session, load_record(session, site_id))
        files = {file.path: file for file in store.load_files(session, site_id) if file.sha256 is not None}
        total = sum(map(is_page_path, files))
        yield ReadingProgress(0, total, "")
        for done, (path, _) in enumerate(read_pages(session, site_id, files, settings), start=1):
            yield ReadingProgress(min(done, total), total, path)


def open_page(database: Database, site_id: UUID, path: str) -> PageView:
    """Return a page as its desk shows it."""
    with database.transaction() as session:
        loaded = load_site(session, site_id)
        return view_page(loaded.site, loaded.page(path), loaded.settings)


def open_source(database: Database, site_id: UUID, path: str) -> tuple[str, str]:
    """Return a page's text with a line feed at every line end, and its revision."""
    with database.transaction() as session:
        source = load_site(session, site_id).page(path).source
        return shown_text(source), source.sha256


def view_draft(database: Database, site_id: UUID, path: str, text: str) -> PageView:
    """Return a page as its desk would show it with the text its author is typing; nothing is kept."""
    loaded, draft = read_draft(database, site_id, path, text)
    return view_page(loaded.site.replaced({path: draft}), draft, loaded.settings)


def give_addresses(database: Database, site_id: UUID, path: str, section: int) -> SectionAddresses:
    """Return a section's address in all its forms. Raises NotThereError for a section without an identifier."""
    with database.transaction() as session:
        loaded = load_site(session, site_id)
        try:
            return section_addresses(loaded.page(path), section, loaded.record.base)
        except RequestError as error:
            raise NotThereError(str(error)) from error


def index_of_site(database: Database, site_id: UUID, page: str) -> list[PageIndex]:
    """Return all paths of a site, with their addresses from `page` and the identifiers of its pages."""
    with database.transaction() as session:
        return index_site(load_site(session, site_id), page)


def findings_of_site(database: Database, site_id: UUID) -> list[FindingView]:
    """Return what is wrong on any page of a site."""
    with database.transaction() as session:
        return view_findings(load_site(session, site_id))
