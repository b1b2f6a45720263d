"""A page as its reader sees it, served so that it can do nothing but be looked at."""

from __future__ import annotations

import mimetypes
import re
from dataclasses import dataclass
from uuid import UUID

from signpost.core.addresses.links import is_page_path
from signpost.core.identifiers.places import worthy_nodes
from signpost.core.page import Page, read_nodes
from signpost.core.text.edits import Edit, apply_to_text, edit_set
from signpost.core.text.tags import Attribute
from signpost.desk.drafts import read_draft
from signpost.desk.errors import NotThereError
from signpost.desk.loading import load_revision
from signpost.store import repositories as store
from signpost.store.database import Database

_TAG = re.compile(r"<(a(?:rea)?)(?=[\s/>])", re.IGNORECASE)
#: What may come before a document type without making it one of the page's body (HTML 13.2.6.4.1), and the type.
_HEAD = re.compile(r"\ufeff?(?:(?>\s|<!--.*?-->|<\?[^>]*>)*+<!doctype[^>]*>)?", re.IGNORECASE | re.DOTALL)
_ACTIVE = re.compile(r"<(meta|link|i?frame|object|embed)(?=[\s/])", re.IGNORECASE)
#: What a page may not say for its preview, which has a policy of its own: HTML 4.2.5.3.
_SILENCED = frozenset(["refresh", "content-security-policy", "x-ua-compatible"])
#: Links that have a browser connect to other servers, which no policy forbids (HTML 4.6.7).
_HINTS = frozenset("preconnect dns-prefetch prefetch preload modulepreload prerender".split())
#: What is never shown in the preview; browsers connect to a frame's server before they heed that.
_EMBEDDED = frozenset(["src", "srcdoc", "data"])
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

    A page begins with `additions`, elements of ours, and is sent as UTF-8, whatever it is kept in. Its elements have
    attributes that begin with `data-`, `mark` and a hyphen: `section` on a heading with the index of its section,
    `place` on what can be pointed to with the offset of its start tag, `measure` on what is measured ("link" for a
    link), `content` on what contains the content. Its refreshes and policies are switched off.
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
        return Preview(data, "text/html", is_page=True) if page is None else _page_preview(page, additions, mark)
    guessed = mimetypes.guess_type(path)[0] or "application/octet-stream"
    return Preview(data, "text/plain" if guessed in _PLAIN else guessed, is_page=False)


def load_draft_preview(database: Database, site_id: UUID, path: str, additions: str, mark: str, text: str) -> Preview:
    """Return a page with the text its author is typing, as `load_preview` returns a page. Raises NotThereError."""
    return _page_preview(read_draft(database, site_id, path, text)[1], additions, mark)


def _page_preview(page: Page, additions: str, mark: str) -> Preview:
    prepared = apply_to_text(page.source, edit_set(page.source, _prepare(page, additions, f" data-{mark}-")))
    return Preview(prepared.encode("utf-8", "replace"), "text/html; charset=utf-8", is_page=True)


def _prepare(page: Page, additions: str, prefix: str) -> list[Edit]:
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
        marks = f'{prefix}section="{sections[start]}"' if start in sections else ""
        if start in measured:
            marks += f'{prefix}measure="{"link" if start in links else ""}"'
        if start == holder:
            marks += f"{prefix}content"
        at = start + 1 + len(tag)
        edits.append(Edit(at, at, f'{marks}{prefix}place="{start}"'))
    edits += [
        Edit(attribute.span.start, attribute.span.end, "", rank=1)
        for found in _ACTIVE.finditer(page.text)
        for attribute in page.attributes_at(found.start())
        if _acts(found[1].lower(), attribute)
    ]
    head = _HEAD.match(page.text)
    at = head.end() if head else 0
    return [*edits, Edit(at, at, additions)]


def _acts(tag: str, attribute: Attribute) -> bool:
    """Return whether an attribute would make a browser leave the preview, or connect to another server for it."""
    if tag == "meta":
        return attribute.name == "http-equiv" and attribute.value.strip().lower() in _SILENCED
    if tag == "link":
        return attribute.name == "rel" and not _HINTS.isdisjoint(attribute.value.lower().split())
    return attribute.name in _EMBEDDED


def _measured_tags(page: Page) -> dict[int, str]:
    """Return the elements whose places count, by where their start tags begin: headings, targets, links, bars."""
    tags = {heading.element.open.start: heading.element.tag for heading in page.headings}
    tags |= {part.open.start: part.tag for part in page.furniture if part.open.end > part.open.start}
    tags |= {target.start: target.element for target in page.targets}
    tags |= {link.start: found[1] for link in page.links if (found := _TAG.match(page.text, link.start))}
    return tags
