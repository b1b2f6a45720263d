"""Addresses that do not say what was meant: a scheme or a "#" left out, backslashes, the author's own disk."""

from __future__ import annotations

import re
from collections.abc import Iterator

from signpost.core.addresses.links import LinkKind
from signpost.core.findings.catalogue import Finding
from signpost.core.findings.checks import Check
from signpost.core.page import Link
from signpost.core.site.site import NoFile, Resolved
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Span
from signpost.core.text.tags import Attribute, piece_edit

_HOST = re.compile(r"www\.[a-z0-9-]+(?:\.[a-z0-9-]+)+(?=[/?#]|$)", re.IGNORECASE)
_MAIL = re.compile(r"[\w.+-]+@[\w-]+(?:\.[\w-]+)+(?:\?.*)?$")
_DISK = re.compile(r"(?:file:|[a-z]:[\\/])", re.IGNORECASE)
_TAG_LENGTH = 1000  # characters in which a link's start tag ends, but for the oddest
#: Where a link opens that is no frame of the page's own (HTML 7.3.2.2).
_NEW_WINDOW = frozenset(["_blank", "_new", "blank", "new"])


def find_unclear_addresses(check: Check) -> Iterator[Finding]:
    """Yield what is wrong with how a page's links are written."""
    for link in check.page.links:
        href = (link.href or "").strip()
        if href:
            yield from _judge(check, link, href)


def is_explained(check: Check, link: Link) -> bool:
    """Return whether a link that leads nowhere is told by a rule of its own, so that it is not told twice."""
    href = (link.href or "").strip()
    turned = "\\" in href and isinstance(check.site.follow(check.page.path, href.replace("\\", "/")), Resolved)
    known = _HOST.match(href) or _MAIL.match(href) or _DISK.match(href)
    return bool(known) or turned or _lacks_hash(check, link, href)


def _judge(check: Check, link: Link, href: str) -> Iterator[Finding]:
    outcome = check.site.follow(check.page.path, link.href)
    if _DISK.match(href):
        yield check.find(
            "own-disk-address",
            link.start,
            f"“{href}” is a place on your own computer, where nobody else gets. Put the file into the site, and link "
            "to it there.",
        )
    elif _HOST.match(href) and isinstance(outcome, NoFile):
        edits = _put(check, link, "https://", "the address gets its scheme")
        message = f"Without “https://” in front, “{href}” means a file of this site."
        yield check.find("scheme-missing", link.start, message, edits=edits)
    elif _MAIL.match(href) and isinstance(outcome, NoFile):
        edits = _put(check, link, "mailto:", "the mail address gets its scheme")
        message = f"Without “mailto:” in front, “{href}” means a file of this site."
        yield check.find("mail-scheme-missing", link.start, message, edits=edits)
    elif _lacks_hash(check, link, href):
        edits = _put(check, link, "#", "the jump link gets its #")
        message = f"“{href}” is an identifier on this page; without “#” in front it means a file of that name."
        yield check.find("hash-missing", link.start, message, edits=edits)
    elif "\\" in href.partition("#")[0].partition("?")[0] and link.kind in (LinkKind.PAGE, LinkKind.FILE):
        yield check.find(
            "backslash-in-address",
            link.start,
            f"“{href}” is written with backslashes. Browsers take them for slashes, other programs do not.",
            edits=_slashes(check, link),
        )
    yield from _new_window(check, link)


def _lacks_hash(check: Check, link: Link, href: str) -> bool:
    if link.kind not in (LinkKind.PAGE, LinkKind.FILE) or any(mark in href for mark in "#/?.\\"):
        return False
    names = {target.name for target in check.page.targets}
    return href in names and isinstance(check.site.follow(check.page.path, link.href), NoFile)


def _new_window(check: Check, link: Link) -> Iterator[Finding]:
    tag = check.page.text[link.start : link.start + _TAG_LENGTH].partition(">")[0].lower()
    jumps = link.kind is LinkKind.FRAGMENT and "target" in tag
    target = check.page.attribute_at(link.start, "target") if jumps else None
    if target is not None and target.value.strip().lower() in _NEW_WINDOW:
        words = f"“{link.text}”" if link.text else "A jump link"
        yield check.find(
            "jump-in-new-window",
            link.start,
            f"{words} leads to a place on this page and opens it in a new window, where “Back” does not lead back.",
            edits=[_removed(check, target)],
        )


def _removed(check: Check, attribute: Attribute) -> Edit:
    text, start = check.page.text, attribute.span.start
    while text[start - 1] in " \t\r\n":
        start -= 1
    return Edit(start, attribute.span.end, "", reason="the link opens in the same window")


def _put(check: Check, link: Link, words: str, reason: str) -> list[Edit]:
    """Return the edit that puts something at the beginning of a link's address."""
    written = check.page.attribute_at(link.start, "href")
    if written is None or written.value_span is None:
        return []
    at = len(written.value) - len(written.value.lstrip())
    edit = piece_edit(check.page.text, written, Span(at, at), words, reason)
    return [] if edit is None else [edit]


def _slashes(check: Check, link: Link) -> list[Edit]:
    written = check.page.attribute_at(link.start, "href")
    if written is None or written.value_span is None:
        return []
    end = min(
        (at for at in (written.value.find("?"), written.value.find("#")) if at >= 0), default=len(written.value)
    )
    places = [at for at, char in enumerate(written.value[:end]) if char == "\\"]
    edits = (piece_edit(check.page.text, written, Span(at, at + 1), "/", "a slash") for at in places)
    return [edit for edit in edits if edit is not None]
