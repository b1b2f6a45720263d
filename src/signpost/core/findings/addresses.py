"""Addresses that do not say what was meant: a scheme or a "#" left out, backslashes, the author's own disk."""

from __future__ import annotations

import posixpath
import re
from collections.abc import Iterator
from urllib.parse import unquote

from signpost.core.addresses.links import LinkKind, read_address
from signpost.core.findings.catalogue import Finding
from signpost.core.findings.page_check import Check
from signpost.core.page import Link
from signpost.core.site.site import Elsewhere, NoFile, Resolved
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Span
from signpost.core.text.tags import piece_edit

_HOST = re.compile(r"www\.[a-z0-9-]+(?:\.[a-z0-9-]+)+(?=[/?#]|$)", re.IGNORECASE)
_MAIL = re.compile(r"[\w.+-]+@[\w-]+(?:\.[\w-]+)+(?:\?.*)?$")
_FILES = (LinkKind.PAGE, LinkKind.FILE)
_DISK = re.compile(r"(?:file:|[a-z]:[\\/])", re.IGNORECASE)
#: How an address begins that means http or https: letters missing, doubled or swapped; colon or slashes left out.
_WEB = re.compile(
    r"(?P<scheme>h{1,2}t{1,3}p{0,2}s{0,2}|ttps?|hpp?tt?s?|hptps?|htt?sp|https?p?)(?P<mark>[:;]?/{1,4}|[:;]\\{1,2}|::?/{0,3})"
    r"(?P<host>[a-z0-9-]+(?:\.[a-z0-9-]+)+)",
    re.IGNORECASE,
)
_WEB_RIGHT = re.compile(r"https?://[^/]", re.IGNORECASE)
_MAIL_BEGIN = re.compile(
    r"(?:mailto|mail|malto|maito|mailo|mailt|mialto|maillto)(?:[:;]?/{0,2})(?=[\w.+-]+@)", re.IGNORECASE
)
_MAIL_RIGHT = re.compile(r"mailto:[^/]", re.IGNORECASE)


def find_unclear_addresses(check: Check) -> Iterator[Finding]:
    """Yield what is wrong with how a page's links are written."""
    for link in check.page.links:
        href = (link.href or "").strip()
        if href and link.kind is not LinkKind.FRAGMENT:
            yield from _judge(check, link, href)


def is_explained(check: Check, link: Link) -> bool:
    """Return whether a link that leads nowhere is told by a rule of its own, so that it is not told twice."""
    href = (link.href or "").strip()
    turned = "\\" in href and isinstance(check.site.follow(check.page.path, href.replace("\\", "/")), Resolved)
    known = _HOST.match(href) or _MAIL.match(href) or _DISK.match(href) or _meant_scheme(href)
    return bool(known) or turned or _lacks_hash(check, link, href)


def _meant_scheme(href: str) -> tuple[int, str] | None:
    """Return how much of an address's beginning is misspelt, and what it means; None for one that is right."""
    web = _WEB.match(href)
    if web and not _WEB_RIGHT.match(href):
        return web.start("host"), "https://" if "s" in web["scheme"].lower() else "http://"
    mail = _MAIL_BEGIN.match(href)
    if mail and not _MAIL_RIGHT.match(href):
        return mail.end(), "mailto:"
    return None


def _judge(check: Check, link: Link, href: str) -> Iterator[Finding]:
    outcome = check.site.follow(check.page.path, link.href)
    if _DISK.match(href):
        yield check.find(
            "own-disk-address",
            link.start,
            f"“{href}” is a place on your own computer, where nobody else gets. Put the file into the site, and link "
            "to it there.",
        )
    elif (misspelt := _meant_scheme(href)) is not None:
        length, meant = misspelt
        edits = _put(check, link, meant, "the address begins as it is meant", length)
        message = f"“{href}” begins with “{href[:length]}”, which no browser understands as {meant}"
        yield check.find("scheme-misspelt", link.start, message + ".", edits)
    elif _HOST.match(href) and isinstance(outcome, NoFile):
        edits = _put(check, link, "https://", "the address gets its scheme")
        message = f"Without “https://” in front, “{href}” means a file of this site."
        yield check.find("scheme-missing", link.start, message, edits)
    elif _MAIL.match(href) and isinstance(outcome, NoFile):
        edits = _put(check, link, "mailto:", "the mail address gets its scheme")
        message = f"Without “mailto:” in front, “{href}” means a file of this site."
        yield check.find("mail-scheme-missing", link.start, message, edits)
    elif _lacks_hash(check, link, href):
        edits = _put(check, link, "#", "the jump link gets its #")
        message = f"“{href}” is an identifier on this page; without “#” in front it means a file of that name."
        yield check.find("hash-missing", link.start, message, edits)
    elif "\\" in href.partition("#")[0].partition("?")[0] and link.kind in _FILES:
        yield check.find(
            "backslash-in-address",
            link.start,
            f"“{href}” is written with backslashes. Browsers take them for slashes, other programs do not.",
            edits=_each(check, link, "\\", "/", "a slash"),
        )
    elif " " in href and link.kind in _FILES and not check.lacks_quote(link.start, "href"):
        edits = _each(check, link, " ", "%20", "a space, as addresses write it", whole=True)
        message = f"“{href}” has a space in it, at which other programs end it. In addresses it is written %20."
        yield check.find("address-space", link.start, message, edits)
    if ".." in href and link.kind in _FILES and _is_beyond(check, href, outcome):
        yield check.find(
            "address-beyond-site",
            link.start,
            f"“{href}” leads above the site's folder, where this site has nothing.",
        )


def _lacks_hash(check: Check, link: Link, href: str) -> bool:
    if link.kind not in _FILES or any(mark in href for mark in "#/?\\"):
        return False
    return unquote(href) in check.names and isinstance(check.site.follow(check.page.path, link.href), NoFile)


def _is_beyond(check: Check, href: str, outcome: object) -> bool:
    """Return whether an address leads above the site, by its path alone."""
    if not isinstance(outcome, Elsewhere) or check.page.base is not None or check.site.base is not None:
        return False
    path = posixpath.join(posixpath.dirname(check.page.path), read_address(href).path or "")
    return posixpath.normpath(path).startswith("..")


def _put(check: Check, link: Link, words: str, reason: str, length: int = 0) -> list[Edit]:
    """Return the edit that puts something at the beginning of a link's address, in the place of some characters."""
    written = check.page.attribute_at(link.start, "href")
    if written is None or written.value_span is None:
        return []
    at = len(written.value) - len(written.value.lstrip())
    edit = piece_edit(check.page.text, written, Span(at, at + length), words, reason)
    return [] if edit is None else [edit]


def _each(check: Check, link: Link, char: str, new: str, reason: str, *, whole: bool = False) -> list[Edit]:
    """Return the edits that replace a character in the path of a link's address, or in all of it."""
    written = check.page.attribute_at(link.start, "href")
    if written is None or written.value_span is None:
        return []
    value = written.value
    start = len(value) - len(value.lstrip())
    end = len(value.rstrip())
    if not whole:
        end = min((at for at in (value.find("?"), value.find("#")) if at >= 0), default=end)
    places = [at for at in range(start, end) if value[at] == char]
    edits = (piece_edit(check.page.text, written, Span(at, at + 1), new, reason) for at in places)
    return [edit for edit in edits if edit is not None]
