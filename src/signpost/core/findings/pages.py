"""Pages as files of a site: their names, and whether anything leads to them."""

from __future__ import annotations

from collections.abc import Iterator

from signpost.core.addresses.paths import find_path_advice
from signpost.core.findings.catalogue import Finding
from signpost.core.findings.page_check import Check
from signpost.core.site.answers import has_more_pages
from signpost.core.site.site import INDEX_NAMES, Site
from signpost.core.text.positions import Span


def find_lost_pages(check: Check) -> Iterator[Finding]:
    """Yield what is wrong with a page as a file of its site."""
    page, site = check.page, check.site
    advice = find_path_advice(page.path)
    if advice is not None:
        yield check.find_at("file-name-awkward", Span(0, 0), f"About the name “{page.path}”: {advice}")
    is_index = page.path.rpartition("/")[2].lower() in INDEX_NAMES
    if not is_index and has_more_pages(site) and not _is_led_to(site, page.path):
        yield check.find_at(
            "page-unlinked", Span(0, 0), "No other page of the site links to this one, so readers do not find it."
        )


def _is_led_to(site: Site, path: str) -> bool:
    return any(page != path for page in site.pages_linking_to(path))
