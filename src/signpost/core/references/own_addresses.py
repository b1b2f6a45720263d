"""Full addresses of the site's own pages and files made relative, or relative ones full."""

from __future__ import annotations

from collections.abc import Sequence

from signpost.core.addresses.links import full_address, is_absolute
from signpost.core.page import Page
from signpost.core.references.written import WrittenAddress, read_written
from signpost.core.site.plans import SitePlan, plan_edits
from signpost.core.site.site import Site
from signpost.core.text.edits import Edit
from signpost.core.text.errors import RequestError

#: What a `link` says to machines that keep addresses, which have to be full (RFC 6596).
_KEPT_FULL = frozenset(["canonical", "alternate", "shortlink"])


def plan_own_addresses(site: Site, paths: Sequence[str], *, full: bool = False) -> SitePlan:
    """Return the plan that writes the addresses of some pages within the site relative, or with `full` in full.

    What machines need in full stays: canonical addresses, and what is told to those who show a link to the page.
    Raises RequestError where the site's own address is not known.
    """
    if site.base is None:
        raise RequestError("The site's own address is not known. Set it under “Name and address” first.")
    return plan_edits(site, {path: _edits(site, site.pages[path], full=full) for path in paths})


def _edits(site: Site, page: Page, *, full: bool) -> list[Edit]:
    edits = []
    for address in read_written(page):
        if is_absolute(address.value) == full or not address.value or _stays(address):
            continue
        found = site.resolve(page.path, address.value)
        if found is None or (full and address.value.startswith("#")):
            continue
        query = address.value.partition("#")[0].partition("?")[2]
        if full:
            written = full_address(site.base or "", found[0], found[1])
        else:
            written = page.address_of(found[0], found[1], site.base)
        path, mark, fragment = written.partition("#")
        if path and address.value.partition("#")[0].partition("?")[0].endswith("/") and not path.endswith("/"):
            path += "/"
        written = path + (f"?{query}" if query else "") + mark + fragment
        reason = "address in full" if full else "address within the site"
        edits.append(address.value_edit(page.text, written, reason))
    return edits


def _stays(address: WrittenAddress) -> bool:
    node = address.node
    if node.tag in ("meta", "base"):
        return True
    return node.tag == "link" and not _KEPT_FULL.isdisjoint(node.attributes.get("rel", "").lower().split())
