"""Exporting files: the whole site, what changed, or one diff."""

from __future__ import annotations

import zipfile
from io import BytesIO
from uuid import UUID

from signpost.core.forms.writing import FORMS
from signpost.core.references.link_list import links_csv, list_links
from signpost.core.references.link_map import graphml, map_site
from signpost.core.text.diffs import FileDiff, unified_diff
from signpost.desk.loading import load_record
from signpost.desk.opening import opened
from signpost.store import repositories as store
from signpost.store.database import Database


def take_out_site(database: Database, site_id: UUID, *, changed_only: bool = False) -> bytes:
    """Return a ZIP archive of the site's files as they are, or of those that differ from what was brought in."""
    with database.transaction() as session:
        load_record(session, site_id)
        files = [
            (file.path, file.sha256)
            for file in store.load_files(session, site_id)
            if file.sha256 is not None and (file.changed or not changed_only)
        ]
        blobs = store.load_blobs(session, site_id, {sha256 for _, sha256 in files})
    packed = BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        for path, sha256 in files:
            archive.writestr(path, blobs[sha256])
    return packed.getvalue()


def take_out_links(database: Database, site_id: UUID) -> bytes:
    """Return all links of the site as a table, CSV in UTF-8; filled in, it can be read again to change addresses."""
    with opened(database, site_id) as loaded:
        return links_csv(list_links(loaded.site)).encode()


def take_out_map(database: Database, site_id: UUID) -> bytes:
    """Return the pages of the site and the links between them as GraphML."""
    with opened(database, site_id) as loaded:
        return graphml(map_site(loaded.site)).encode()


def take_out_form(database: Database, site_id: UUID, form: str) -> bytes:
    """Return a site's outline, contents, lengths or site map in an open form, by the name of its file."""
    with opened(database, site_id) as loaded:
        return FORMS[form][0](loaded.site, ()).encode()


def take_out_diff(database: Database, site_id: UUID) -> bytes:
    """Return one unified diff from what was brought in to what is there; `patch -p1` applies it to the folder."""
    with database.transaction() as session:
        load_record(session, site_id)
        changed = [file for file in store.load_files(session, site_id) if file.changed]
        wanted = {sha256 for file in changed for sha256 in (file.sha256, file.brought_sha256) if sha256}
        blobs = store.load_blobs(session, site_id, wanted)
    return unified_diff(
        FileDiff(
            file.path,
            blobs[file.brought_sha256] if file.brought_sha256 else None,
            blobs[file.sha256] if file.sha256 else None,
        )
        for file in changed
    )
