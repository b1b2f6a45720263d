"""What an author is typing: shown as a page, and brought together with what came meanwhile; nothing of it is kept."""

from __future__ import annotations

from dataclasses import dataclass, replace
from uuid import UUID

from signpost.core.operations.pages import Type
from signpost.core.page import Page, read_edited
from signpost.core.text.edits import edits_for_typed_text, shown_text
from signpost.core.text.errors import SignpostError
from signpost.core.text.merging import merge, merge_pieces, pieces_without_base
from signpost.core.text.source import read_source
from signpost.desk.errors import ConflictError, TooMuchError
from signpost.desk.intake import PAGE_BYTES
from signpost.desk.loading import LoadedSite
from signpost.desk.opening import opened
from signpost.store import repositories as store
from signpost.store.database import Database


@dataclass(frozen=True, slots=True)
class MergedPiece:
    """Consecutive lines of a page, as they were and as two hands left them."""

    base: str
    ours: str
    theirs: str
    merged: str | None  # None where both edited them, each in another way


@dataclass(frozen=True, slots=True)
class MergedDraft:
    """What is typed, brought together with the page as it is now."""

    revision: str  # of the page as it is now, from which the text goes on
    text: str | None  # None where both edited the same lines
    pieces: tuple[MergedPiece, ...]  # the whole text in order; none where `text` is known
    knows_base: bool  # whether it is still known what the draft began from


def read_draft(loaded: LoadedSite, path: str, text: str) -> Page:
    """Return a page of a site as it would be with another text.

    `text` has a line feed at every line end, as editors hold it. Raises TooMuchError for a text that is too long,
    NotThereError where the page is not there.
    """
    if len(text) > PAGE_BYTES:
        raise TooMuchError(f"A page may have {PAGE_BYTES // 2**20} MB.")
    page = loaded.page(path)
    return read_edited(page, edits_for_typed_text(page.source, text))


def merge_draft(
    database: Database, site_id: UUID, path: str, text: str, base: str, base_text: str | None = None
) -> MergedDraft:
    """Return a draft brought together with the page as it is now; nothing is kept.

    `base` is the revision that the draft was typed on, or `base_text` what was in the editor then. Where it is not
    known any more, each difference is one to decide.
    """
    if len(text) > PAGE_BYTES:
        raise TooMuchError(f"A page may have {PAGE_BYTES // 2**20} MB.")
    with opened(database, site_id) as loaded:
        page = loaded.page(path)
        now = shown_text(page.source)
        before = base_text if base_text is not None else _text_of(loaded, path, base)
    if before is None:
        pieces = pieces_without_base(text, now)
    else:
        merged = merge(before, text, now)
        if merged is not None:
            return MergedDraft(page.source.sha256, merged, (), knows_base=True)
        pieces = merge_pieces(before, text, now)
    shown = tuple(MergedPiece(one.base, one.ours, one.theirs, one.merged) for one in pieces)
    return MergedDraft(page.source.sha256, None, shown, knows_base=before is not None)


def brought_up(loaded: LoadedSite, path: str, typed: Type) -> Type:
    """Return what was typed, brought together with what changed since its base.

    Raises ConflictError where both edited the same lines, or where the base is not known any more.
    """
    page = loaded.page(path)
    if typed.base is None or typed.base == page.source.sha256:
        return typed
    before = _text_of(loaded, path, typed.base)
    merged = None if before is None else merge(before, typed.text, shown_text(page.source))
    if merged is None:
        raise ConflictError(
            f"{path} was changed elsewhere, in lines that you edited too. Nothing was written: decide which count."
        )
    return replace(typed, text=merged)


def _text_of(loaded: LoadedSite, path: str, sha256: str) -> str | None:
    """Return a page's text as it was at a revision; None where that is not kept."""
    blobs = store.load_blobs(loaded.session, loaded.record.site_id, [sha256])
    try:
        return shown_text(read_source(blobs[sha256], loaded.settings.read_options(path).encoding))
    except (KeyError, SignpostError):
        return None
