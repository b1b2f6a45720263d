"""The address of a section, in all forms that an author may want to paste."""

from __future__ import annotations

import posixpath
from dataclasses import dataclass
from html import escape

from signpost.core.addresses.links import full_address, relative_address
from signpost.core.page import Page
from signpost.core.text.errors import RequestError


@dataclass(frozen=True, slots=True)
class SectionAddresses:
    """A section's address in all its forms."""

    fragment: str
    relative: str  # from a page in the same folder
    full: str | None  # None where the site's own address is not known
    link: str  # a whole link, with the heading's words


def section_addresses(page: Page, index: int, base: str | None) -> SectionAddresses:
    """Return the addresses of the section with this index; `base` is the site's own address.

    Raises RequestError for a section without an identifier, or that is not there.
    """
    heading = page.headings[index] if 0 <= index < len(page.headings) else None
    if heading is None or heading.identifier is None:
        raise RequestError("This section has no identifier yet, so nothing can link to it. Give it one first.")
    relative = relative_address(posixpath.join(posixpath.dirname(page.path), ""), page.path, heading.identifier)
    return SectionAddresses(
        fragment=relative_address(page.path, page.path, heading.identifier),
        relative=relative,
        full=full_address(base, page.path, heading.identifier) if base else None,
        link=f'<a href="{escape(relative)}">{heading.entry}</a>',
    )
