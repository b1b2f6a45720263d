"""What an author asks while a link is put together: its address, what it says now, what others lead to."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from urllib.parse import unquote
from uuid import UUID

from signpost.core.addresses.composing import (
    Composed,
    compose_mail,
    compose_outside,
    compose_phone,
    compose_text,
    read_pieces,
)
from signpost.core.addresses.fragments import DIRECTIVE
from signpost.core.addresses.links import LinkKind, classify_link, is_page_path
from signpost.core.jumps.linking import file_words
from signpost.core.page import Page
from signpost.core.site.told import Kind
from signpost.core.text.errors import RequestError
from signpost.desk.loading import LoadedSite
from signpost.desk.opening import opened
from signpost.store import queries
from signpost.store.database import Database


@dataclass(frozen=True, slots=True)
class AddressView:
    """An address put together from what was typed."""

    address: str
    notes: tuple[str, ...]
    words: str  # for the link, where what is linked says nothing
    own: str | None  # the address of the same place as one of the site's own is written; None for another site


@dataclass(frozen=True, slots=True)
class LinkState:
    """What a link says now."""

    kind: str  # "site", "outside", "mail", "phone" or "file"
    main: str  # the address as it is typed for its kind, or the file's path
    subject: str = ""
    words: str = ""
    title: str = ""
    new_window: bool = False
    rel: str = ""
    language: str = ""
    download: bool = False


def compose_address(
    database: Database, site_id: UUID, path: str, kind: str, main: str, subject: str, words: str
) -> AddressView:
    """Return an address put together for a link on a page. Raises RequestError for what can be none."""
    with opened(database, site_id) as loaded:
        if kind == "file":
            return _file_address(loaded, loaded.page(path), main)
        composers: dict[str, Callable[[], Composed]] = {
            "outside": lambda: _at_words(compose_outside(main), words),
            "mail": lambda: compose_mail(main, subject, words),
            "phone": lambda: compose_phone(main),
        }
        made = composers[kind]()
        own = _own_address(loaded, loaded.page(path), made.address) if kind == "outside" else None
        return AddressView(made.address, made.notes, "", own)


def _at_words(made: Composed, words: str) -> Composed:
    """Return an address of another site that opens at words of its page, if any are given."""
    if not words.strip():
        return made
    opened_at = compose_text(made.address, words)
    return Composed(opened_at.address, (*made.notes, *opened_at.notes))


def _file_address(loaded: LoadedSite, page: Page, main: str) -> AddressView:
    file = loaded.files.get(main)
    if file is None or file.sha256 is None:
        raise RequestError(f"The site has no file {main}." if main else "Choose a file of the site.")
    size = queries.load_sizes(loaded.session, loaded.record.site_id, [file.sha256]).get(file.sha256, 0)
    return AddressView(page.address_of(main, None, loaded.site.base), (), file_words(main, size), None)


def _own_address(loaded: LoadedSite, page: Page, address: str) -> str | None:
    found = page.resolve(address, loaded.site.base)
    if found is None:
        return None
    path = loaded.site.file_at(found[0])
    return page.address_of(path, found[1], loaded.site.base) if path in loaded.files else None


def read_link(loaded: LoadedSite, page: Page, start: int) -> LinkState:
    """Return what the link at a start tag says now."""
    said = {one.name: one.value for one in page.attributes_at(start)}
    href = said.get("href", "")
    pieces = read_pieces(href)
    found = page.resolve(href, loaded.site.base) if href else None
    if found is not None and classify_link(href) is LinkKind.FILE:
        kind, main = "file", loaded.site.file_at(found[0])
    else:
        kind, main = (pieces.kind, pieces.main) if pieces else ("site", href)
    at_words = unquote(href.partition(DIRECTIVE + "text=")[2])
    return LinkState(
        kind,
        main,
        pieces.subject if pieces else "",
        pieces.words if pieces else at_words,
        said.get("title", ""),
        said.get("target", "").lower() == "_blank",
        said.get("rel", ""),
        said.get("hreflang", ""),
        "download" in said,
    )


def find_outside(database: Database, site_id: UUID, query: str, limit: int) -> list[str]:
    """Return addresses of other sites that links of this one lead to, and that contain some words."""
    with opened(database, site_id) as loaded:
        return queries.find_keys(loaded.session, site_id, Kind.OUTSIDE, query.strip(), limit)


@dataclass(frozen=True, slots=True)
class LinkedFile:
    """A file that a link may lead to."""

    path: str
    size: int  # bytes


def find_files(database: Database, site_id: UUID, query: str, limit: int) -> list[LinkedFile]:
    """Return files of the site that are not pages, found by words of their paths."""
    words = query.lower().split()
    with opened(database, site_id) as loaded:
        found = sorted(
            path for path in loaded.files if not is_page_path(path) and all(word in path.lower() for word in words)
        )[:limit]
        hashes = {path: loaded.files[path].sha256 or "" for path in found}
        sizes = queries.load_sizes(loaded.session, site_id, list(hashes.values()))
        return [LinkedFile(path, sizes.get(hashes[path], 0)) for path in found]
