"""A page as its reader sees it, served so that it can do nothing but be looked at."""

from __future__ import annotations

import mimetypes
from dataclasses import dataclass
from uuid import UUID

from signpost.core.addresses.links import is_page_path
from signpost.core.landings.prepared import prepare_page
from signpost.core.page import Page
from signpost.desk.drafts import read_draft
from signpost.desk.errors import NotThereError
from signpost.desk.loading import load_revision
from signpost.desk.opening import opened
from signpost.store import repositories as store
from signpost.store.database import Database

#: Types a browser would run or sniff; they are served as plain text.
_PLAIN = frozenset(
    ["text/javascript", "application/javascript", "application/xhtml+xml", "text/xml", "application/xml"]
)


@dataclass(frozen=True, slots=True)
class Preview:
    """A file for the preview."""

    data: bytes
    media_type: str
    is_page: bool


def load_preview(
    database: Database, site_id: UUID, path: str, additions: str, mark: str, revision: str | None = None
) -> Preview:
    """Return a file of a site for the preview, as it is, or a page as it was in `revision`. Raises NotThereError.

    A page is prepared as `prepare_page` says.
    """
    if is_page_path(path):
        with opened(database, site_id, at_once=path) as loaded:
            page = load_revision(loaded, path, revision)
        if page is not None:
            return _page_preview(page, additions, mark)
        if revision is not None:
            raise NotThereError(f"This revision of {path} is not there any more.")
    with database.transaction() as session:
        file = store.load_file(session, site_id, path)
        if file is None or file.sha256 is None:
            raise NotThereError(f"The site has no file “{path}”.")
        data = store.load_blobs(session, site_id, {file.sha256})[file.sha256]
    if is_page_path(path):
        return Preview(data, "text/html", is_page=True)
    guessed = mimetypes.guess_type(path)[0] or "application/octet-stream"
    return Preview(data, "text/plain" if guessed in _PLAIN else guessed, is_page=False)


def load_draft_preview(database: Database, site_id: UUID, path: str, additions: str, mark: str, text: str) -> Preview:
    """Return a page with the text its author is typing, as `load_preview` returns a page. Raises NotThereError."""
    with opened(database, site_id, at_once=path) as loaded:
        return _page_preview(read_draft(loaded, path, text), additions, mark)


def _page_preview(page: Page, additions: str, mark: str) -> Preview:
    return Preview(prepare_page(page, additions, mark), "text/html; charset=utf-8", is_page=True)
