"""A page with the text its author is typing, of which nothing is kept."""

from __future__ import annotations

from signpost.core.page import Page, read_edited
from signpost.core.text.edits import edits_for_typed_text
from signpost.desk.errors import TooMuchError
from signpost.desk.intake import PAGE_BYTES
from signpost.desk.loading import LoadedSite


def read_draft(loaded: LoadedSite, path: str, text: str) -> Page:
    """Return a page of a site as it would be with another text.

    `text` has a line feed at every line end, as editors hold it. Raises TooMuchError for a text that is too long,
    NotThereError where the page is not there.
    """
    if len(text) > PAGE_BYTES:
        raise TooMuchError(f"A page may have {PAGE_BYTES // 2**20} MB.")
    page = loaded.page(path)
    return read_edited(page, edits_for_typed_text(page.source, text))
