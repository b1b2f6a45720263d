"""The sections of pages as trees: for what is written of them in one form or another."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from signpost.core.addresses.links import full_address, relative_address
from signpost.core.navigation.order import page_name, reading_order
from signpost.core.page import Page
from signpost.core.page.outline import Section, read_outline
from signpost.core.site.index import fetched
from signpost.core.site.site import Site
from signpost.core.text.errors import RequestError


@dataclass(frozen=True, slots=True)
class OutlineEntry:
    """A page, or a section of one."""

    words: str
    address: str  # relative to the site's folder, or in full
    level: int  # of the heading; 0 for a page
    inner: tuple[OutlineEntry, ...] = ()


def chosen_pages(site: Site, pages: Sequence[str]) -> list[Page]:
    """Return some pages of a site, or all in the order in which they are read.

    Raises RequestError for one that is not there.
    """
    strange = next((path for path in pages if path not in site.pages), None)
    if strange is not None:
        raise RequestError(f"{strange} is not a page of the site.")
    return fetched(site.pages, list(pages) or reading_order(site))


def read_entries(site: Site, pages: Sequence[str] = (), *, full: bool = False) -> list[OutlineEntry]:
    """Return pages with their sections, in the order in which they are read.

    A heading that says what the page is called is the page. Addresses are in full with `full`, if the site's own is
    known. A section without an identifier has the address of the page.
    """
    return [_entry(site, page, full=full) for page in chosen_pages(site, pages)]


def _entry(site: Site, page: Page, *, full: bool) -> OutlineEntry:
    name = page_name(page)
    sections: Sequence[Section] = read_outline(page).sections
    if len(sections) == 1 and sections[0].level == 1 and sections[0].text == name:
        sections = sections[0].sections
    return OutlineEntry(
        name, _address(site, page, None, full=full), 0, tuple(_below(site, page, sections, full=full))
    )


def _below(site: Site, page: Page, sections: Sequence[Section], *, full: bool) -> Iterator[OutlineEntry]:
    for section in sections:
        inner = tuple(_below(site, page, section.sections, full=full))
        address = _address(site, page, section.identifier, full=full)
        yield OutlineEntry(section.text, address, section.level, inner)


def _address(site: Site, page: Page, name: str | None, *, full: bool) -> str:
    if full and site.base:
        return full_address(site.base, page.path, name)
    return relative_address("", page.path, name)
