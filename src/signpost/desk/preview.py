"""A page as its reader sees it, served so that it can do nothing but be looked at."""

from __future__ import annotations

import mimetypes
import re
from dataclasses import dataclass
from uuid import UUID

from signpost.core.edits import Edit, apply_edits, edit_set
from signpost.core.errors import SignpostError
from signpost.core.links import is_page_path
from signpost.core.page import Page, read_nodes
from signpost.core.places import worthy_nodes
from signpost.desk.errors import NotThereError
from signpost.desk.reading import load_revision
from signpost.store import repositories as store
from signpost.store.database import Database

#: Marks a heading in the preview with the index of its section.
SECTION_MARK = "data-signpost-section"
#: Marks an element that can be pointed to with the offset of its start tag.
PLACE_MARK = "data-signpost-place"
#: Marks an element that is measured, as a link or as something else.
MEASURE_MARK = "data-signpost-measure"
#: Marks the element that holds the page's content.
CONTENT_MARK = "data-signpost-content"

_TAG = re.compile(r"<(a(?:rea)?)(?=[\s/>])", re.IGNORECASE)
_META = re.compile(r"<meta(?=[\s/])", re.IGNORECASE)
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
    database: Database, site_id: UUID, path: str, additions: str, revision: str | None = None
) -> Preview:
    """Return a file of a site for the preview, as it is, or a page as it was in `revision`. Raises NotThereError.

    A page gets `additions`, elements of ours for its head, and marks on its headings; its refreshes are switched off.
    """
    with database.transaction() as session:
        page = load_revision(session, site_id, path, revision) if is_page_path(path) else None
        if revision is not None and page is None:
            raise NotThereError(f"This revision of {path} is not there any more.")
        file = store.load_file(session, site_id, path)
        if file is None or file.sha256 is None:
            raise NotThereError(f"The site has no file “{path}”.")
        data = store.load_blobs(session, site_id, {file.sha256})[file.sha256]
    if is_page_path(path):
        return Preview(data, "text/html", is_page=True) if page is None else _page_preview(page, additions)
    guessed = mimetypes.guess_type(path)[0] or "application/octet-stream"
    return Preview(data, "text/plain" if guessed in _PLAIN else guessed, is_page=False)


def _page_preview(page: Page, additions: str) -> Preview:
    try:
        prepared = apply_edits(page.source, edit_set(page.source, _prepare(page, additions)))
    except SignpostError:  # what cannot be written back is shown as it is, without its jumps followed
        return Preview(page.source.data, "text/html", is_page=True)
    return Preview(prepared, f"text/html; charset={page.source.encoding}", is_page=True)


def _prepare(page: Page, additions: str) -> list[Edit]:
    nodes = read_nodes(page)
    sections = {heading.element.open.start: index for index, heading in enumerate(page.headings)}
    begin = page.content.start
    holders = (node for node in nodes.all if node.tag == page.content_tag and node.element.open.end == begin)
    holder = next((node.start for node in holders if node.start < begin), None)
    tags = _measured_tags(page)
    links = {link.start for link in page.links} - {target.start for target in page.targets}
    measured = set(tags)
    tags |= {node.start: node.tag for node in worthy_nodes(nodes)}
    if holder is not None:
        tags[holder] = page.content_tag
    edits = []
    for start, tag in tags.items():
        marks = f' {SECTION_MARK}="{sections[start]}"' if start in sections else ""
        if start in measured:
            marks += f' {MEASURE_MARK}="{"link" if start in links else ""}"'
        if start == holder:
            marks += f" {CONTENT_MARK}"
        at = start + 1 + len(tag)
        edits.append(Edit(at, at, f'{marks} {PLACE_MARK}="{start}"'))
    refreshes = (
        attribute
        for found in _META.finditer(page.text)
        for attribute in page.attributes_at(found.start())
        if attribute.name == "http-equiv" and attribute.value.strip().lower() == "refresh"
    )
    edits += [Edit(attribute.span.start, attribute.span.end, "", rank=1) for attribute in refreshes]
    at = len(page.text) if page.head_end is None else page.head_end
    return [*edits, Edit(at, at, additions, rank=2)]


def _measured_tags(page: Page) -> dict[int, str]:
    """Return the elements whose places count, by where their start tags begin: headings, targets, links, chrome."""
    tags = {heading.element.open.start: heading.element.tag for heading in page.headings}
    tags |= {part.open.start: part.tag for part in page.chrome if part.open.end > part.open.start}
    tags |= {target.start: target.element for target in page.targets}
    tags |= {link.start: found[1] for link in page.links if (found := _TAG.match(page.text, link.start))}
    return tags
