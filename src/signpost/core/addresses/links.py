"""Addresses in links: what kind they are, where they lead within a site, and how to write them.

URL living standard; RFC 3986 for relative references. A site's paths are relative to its folder, with "/" between
names, as they are on disk (not percent-encoded).
"""

from __future__ import annotations

import posixpath
import re
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache
from urllib.parse import quote, unquote, urlsplit

_SCHEME = re.compile(r"([A-Za-z][A-Za-z0-9+.\-]*):")
_PAGE_SUFFIXES = (".html", ".htm", ".xhtml", ".shtml")
#: Characters that the URL standard allows bare in a path and a fragment.
PATH_SAFE = "/!$&'()*+,;=:@-._~"
_FRAGMENT_SAFE = "/?!$&'()*+,;=:@-._~"


class LinkKind(StrEnum):
    """What a link's address asks for."""

    FRAGMENT = "fragment"  # a place on the same page
    PAGE = "page"  # a page of the site, with or without a fragment
    FILE = "file"  # another file of the site
    OUTSIDE = "outside"  # another site
    MAIL = "mail"
    PHONE = "phone"
    PLACEHOLDER = "placeholder"  # "#" or nothing, left to be filled in
    NONE = "none"  # an `a` without `href`
    OTHER = "other"  # any other scheme


@dataclass(frozen=True, slots=True)
class Address:
    """A link's address, in its pieces. None means the piece is absent, "" that it is there and empty."""

    path: str | None  # percent-decoded; None for an address with a scheme or a host
    query: str | None  # as written
    fragment: str | None  # as written, without "#"
    raw_path: str = ""  # as written


def classify_link(href: str | None) -> LinkKind:
    """Return the kind of an address as it is in the source; None means there is no `href`."""
    if href is None:
        return LinkKind.NONE
    href = href.strip(" \t\n\f\r")
    if href in ("", "#"):
        return LinkKind.PLACEHOLDER
    if href[0] == "#":
        return LinkKind.FRAGMENT
    scheme = _SCHEME.match(href)
    if scheme:
        return {
            "http": LinkKind.OUTSIDE,
            "https": LinkKind.OUTSIDE,
            "mailto": LinkKind.MAIL,
            "tel": LinkKind.PHONE,
        }.get(scheme[1].lower(), LinkKind.OTHER)
    if href.startswith(("//", "\\\\")):
        return LinkKind.OUTSIDE
    path = href.partition("#")[0].partition("?")[0].lower()
    name = path.rpartition("/")[2]
    return LinkKind.PAGE if not name or "." not in name or name.endswith(_PAGE_SUFFIXES) else LinkKind.FILE


def is_page_path(path: str) -> bool:
    """Return whether a file of this name is an HTML page."""
    return path.lower().endswith(_PAGE_SUFFIXES)


def is_text_path(path: str) -> bool:
    """Return whether a file of this name is a text that pages load: a style sheet or a script."""
    return path.lower().endswith((".css", ".js", ".mjs"))


def read_address(href: str) -> Address:
    """Return the pieces of an address without scheme or host (RFC 3986, 4.2)."""
    href = href.strip(" \t\n\f\r")
    head, mark, fragment = href.partition("#")
    path, ask, query = head.partition("?")
    return Address(unquote(path), query if ask else None, fragment if mark else None, path)


def path_of(address: str) -> str:
    """Return the path of an address as it is written, with scheme and host where it has them."""
    return address.partition("#")[0].partition("?")[0]


def is_absolute(address: str) -> bool:
    """Return whether an address does not start from its page's folder (RFC 3986, 4.2)."""
    head = address.partition("/")[0]
    return address.startswith(("/", "\\")) or ":" in path_of(head)


@lru_cache(maxsize=8192)
def resolve_path(
    page: str, href: str, base: str | None = None, document_base: str | None = None
) -> tuple[str, str | None] | None:
    """Return the site path and the fragment that `href` on `page` leads to.

    `base` is the site's own address where known: addresses that begin with it count as the site's. `document_base` is
    the page's own `base` element, from which its relative addresses start, fragments too (HTML 4.2.3). The path may
    name nothing that exists, or a folder ("" for the site's own, else ending in "/"). None for an address outside
    the site.
    """
    if document_base is not None:
        start = resolve_path(page, document_base, base)
        if start is not None:
            page = start[0]
        elif classify_link(href) is not LinkKind.OUTSIDE:
            return None
    if href[:1] == "#" and len(href) > 1:  # most links of a long page
        return page, href[1:].strip(" \t\n\f\r")
    kind = classify_link(href)
    if kind is LinkKind.OUTSIDE:
        within = None if base is None else _within_base(href.strip(" \t\n\f\r"), base)
        return None if within is None else _joined("", within)
    if kind not in (LinkKind.FRAGMENT, LinkKind.PAGE, LinkKind.FILE, LinkKind.PLACEHOLDER):
        return None
    address = read_address(href)
    if address.path and address.path.startswith("/") and base is not None:
        within = _within_base(_origin(base) + href.strip(" \t\n\f\r"), base)
        return None if within is None else _joined("", within)
    return _joined(page, href)


def _joined(page: str, href: str) -> tuple[str, str | None] | None:
    """Return where a relative address on a page of the site leads; None for a path that leaves the site."""
    address = read_address(href)
    if not address.path:
        return page, address.fragment
    folder = "" if address.path.startswith("/") else posixpath.dirname(page)
    joined = posixpath.normpath(posixpath.join(folder, address.path.lstrip("/")))
    if joined.startswith(".."):
        return None
    if joined == ".":
        joined = ""
    if joined and (address.path.endswith(("/", "/.", "/..")) or address.path in (".", "..")):
        joined += "/"
    return joined, address.fragment


def _origin(base: str) -> str:
    """Return the scheme and the host of an address."""
    parts = urlsplit(base)
    return f"{parts.scheme}://{parts.netloc}"


def _within_base(href: str, base: str) -> str | None:
    """Return what a full address has behind that of the site's folder; None for one that does not begin with it."""
    try:
        own, other = urlsplit(base_folder(base)), urlsplit(href)
    except ValueError:
        return None
    if other.netloc.lower() != own.netloc.lower() or (other.scheme and other.scheme.lower() != own.scheme.lower()):
        return None
    path = other.path or "/"
    if path + "/" == own.path:
        path = own.path
    if not path.startswith(own.path):
        return None
    query = f"?{other.query}" if other.query else ""
    fragment = "#" + href.partition("#")[2] if "#" in href else ""
    return path.removeprefix(own.path) + query + fragment or "./"


def base_folder(base: str) -> str:
    """Return the address of a site's folder, which ends in "/"; a page named in it is left out."""
    parts = urlsplit(base)
    path = parts.path if parts.path.endswith("/") else parts.path + "/"
    head, _, name = parts.path.rpartition("/")
    if name.lower().endswith(_PAGE_SUFFIXES):
        path = head + "/"
    return f"{parts.scheme}://{parts.netloc}{path}"


def relative_address(page: str, target: str, fragment: str | None = None) -> str:
    """Return the shortest relative address from `page` to `target`, percent-encoded where the standard asks.

    Both are site paths. On one page the address is the fragment alone.
    """
    mark = "" if fragment is None else "#" + quote(fragment, safe=_FRAGMENT_SAFE)
    if page == target and mark:
        return mark
    path = posixpath.relpath(target or ".", posixpath.dirname(page) or ".")
    encoded = quote(path, safe=PATH_SAFE)
    if _SCHEME.match(encoded):
        encoded = "./" + encoded
    return encoded + mark


def full_address(base: str, path: str, fragment: str | None = None) -> str:
    """Return the address of a place with the site's base address before it."""
    mark = "" if fragment is None else "#" + quote(fragment, safe=_FRAGMENT_SAFE)
    return base_folder(base) + quote(path, safe=PATH_SAFE) + mark
