"""A site and its pages, as the screens ask for them."""

from __future__ import annotations

from dataclasses import replace
from uuid import UUID

from signpost.core.findings.check import check_alone, check_page
from signpost.core.page import Page
from signpost.core.site.addresses import SectionAddresses, section_addresses
from signpost.core.text.edits import shown_text
from signpost.core.text.errors import RequestError
from signpost.desk.deeds import note_deed
from signpost.desk.drafts import read_draft
from signpost.desk.errors import NotThereError
from signpost.desk.finding_views import view_finding
from signpost.desk.findings import (
    By,
    CausesView,
    FindingsView,
    FoundView,
    find_causes,
    find_of_rule,
    findings_on,
    group_findings,
    linked_pages,
)
from signpost.desk.loading import LoadedSite, load_record
from signpost.desk.opening import EVERY_PAGE, opened
from signpost.desk.site_views import (
    FilesView,
    LinksView,
    PageOrder,
    PagesView,
    SiteView,
    view_files,
    view_links,
    view_pages,
    view_site,
)
from signpost.desk.syncing import let_go
from signpost.desk.views import PageView, view_page
from signpost.store import repositories as store
from signpost.store.database import Database
from signpost.store.records import SiteRecord


def list_sites(database: Database) -> list[SiteRecord]:
    """Return all sites, the newest first."""
    with database.transaction() as session:
        return store.load_sites(session)


def open_site(database: Database, site_id: UUID) -> SiteView:
    """Return a site as its desk shows it."""
    with opened(database, site_id) as loaded:
        return view_site(loaded)


def pages_of_site(
    database: Database, site_id: UUID, query: str, order: PageOrder, *, down: bool, start: int, limit: int
) -> PagesView:
    """Return pages of a site whose path or title contains some words, in an order, a stretch of them."""
    with opened(database, site_id, checked=EVERY_PAGE) as loaded:
        return view_pages(loaded, query, order, down=down, start=start, limit=limit)


def files_of_site(database: Database, site_id: UUID, after: str, limit: int) -> FilesView:
    """Return files of a site that are not pages, from the one behind a path on."""
    with opened(database, site_id) as loaded:
        return view_files(loaded, after, limit)


def links_of_site(database: Database, site_id: UUID, after: str, limit: int) -> LinksView:
    """Return links between pages of a site, from those of the page behind a path on."""
    with opened(database, site_id) as loaded:
        return view_links(loaded, after, limit)


def name_site(database: Database, site_id: UUID, name: str, base: str | None) -> SiteRecord:
    """Return a site with its new name and its own address."""
    with database.transaction() as session:
        load_record(session, site_id, lock="alone")
        store.save_site(session, site_id, name, base)
        note_deed(session, site_id, "changed the site's name or address")
        return load_record(session, site_id)


def delete_site(database: Database, site_id: UUID) -> None:
    """Delete a site with all that belongs to it; a folder that it is linked to stays as it is."""
    let_go(database, site_id)
    with database.transaction() as session:
        load_record(session, site_id, lock="alone")
        store.delete_site(session, site_id)


def open_page(database: Database, site_id: UUID, path: str) -> PageView:
    """Return a page as its desk shows it."""
    with opened(database, site_id, checked=[path], at_once=path) as loaded:
        page = loaded.page(path)
        if loaded.is_arriving:
            return _view_alone(loaded, page)
        loaded.pages.fetch(linked_pages(loaded, [path]))
        return view_page(loaded.site, page, loaded.settings, findings_on(loaded, path))


def open_source(database: Database, site_id: UUID, path: str) -> tuple[str, str]:
    """Return a page's text with a line feed at every line end, and its revision."""
    with opened(database, site_id, at_once=path) as loaded:
        source = loaded.page(path).source
    return shown_text(source), source.sha256


def view_draft(database: Database, site_id: UUID, path: str, text: str) -> PageView:
    """Return a page as its desk would show it with the text its author is typing; nothing is kept."""
    with opened(database, site_id, at_once=path) as loaded:
        draft = read_draft(loaded, path, text)
        if loaded.is_arriving:
            return _view_alone(loaded, draft)
        site = loaded.site.replaced({path: draft})
        found = check_page(site, path, loaded.settings.check_options)
        return view_page(site, draft, loaded.settings, tuple(view_finding(one, draft) for one in found))


def _view_alone(loaded: LoadedSite, page: Page) -> PageView:
    """Return a page whose site is not read yet: what is wrong is what it alone tells, and it waits for edits."""
    site = loaded.site.replaced({page.path: page})
    found = check_alone(page, loaded.settings.check_options)
    findings = tuple(view_finding(one, page) for one in found)
    view = view_page(site, page, loaded.settings, findings, is_arriving=True)
    return replace(view, locked=view.locked or _ARRIVING)


_ARRIVING = "Pages can be edited when the site is read."


def give_addresses(database: Database, site_id: UUID, path: str, section: int) -> SectionAddresses:
    """Return a section's address in all its forms. Raises NotThereError for a section without an identifier."""
    with opened(database, site_id) as loaded:
        try:
            return section_addresses(loaded.page(path), section, loaded.record.base)
        except RequestError as error:
            raise NotThereError(str(error)) from error


def findings_of_site(database: Database, site_id: UUID, query: str = "") -> FindingsView:
    """Return what is wrong on the pages of a site by rule, without the single findings."""
    with opened(database, site_id, checked=EVERY_PAGE) as loaded:
        return group_findings(loaded, query)


def findings_of_rule(
    database: Database,
    site_id: UUID,
    rule: str,
    query: str,
    after: tuple[str, int] | None,
    limit: int,
    of: tuple[By, str] | None = None,
) -> FoundView:
    """Return single findings of a rule on any page of a site, those behind a page and a number on it.

    With `of`, only those of a cause, or in a block.
    """
    with opened(database, site_id, checked=EVERY_PAGE) as loaded:
        return find_of_rule(loaded, rule, query, after, limit, of)


def causes_of_rule(database: Database, site_id: UUID, rule: str, query: str, by: By, limit: int) -> CausesView:
    """Return the findings of a rule on all pages of a site by what they have in common."""
    with opened(database, site_id, checked=EVERY_PAGE) as loaded:
        return find_causes(loaded, rule, query, by, limit)
