"""Addresses that do not say what was meant: a scheme or a "#" left out, backslashes, the author's own disk."""

from __future__ import annotations

import posixpath
import re
from collections.abc import Iterator
from urllib.parse import unquote

from signpost.core.addresses.links import LinkKind, read_address
from signpost.core.findings.catalogue import Choice, Finding
from signpost.core.findings.page_check import Check
from signpost.core.page import Link, Resource
from signpost.core.site.site import Elsewhere, NoFile, Resolved
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Span
from signpost.core.text.tags import piece_edit

_HOST = re.compile(r"www\.[a-z0-9-]+(?:\.[a-z0-9-]+)+(?=[/?#]|$)", re.IGNORECASE)
#: A host by its form: with an ending that no file has, and more than a name before it or behind it.
_DOMAIN = re.compile(
    r"(?![^/?#]*\.(?:[sx]?html?|php|xml|txt|css|js|pdf|gz|tar|zip|jpe?g|png|gif|md)\.)(?:[a-z0-9-]+\.){1,4}(?:com|org|net|edu|gov|eu|uk|de|fr|es|it|nl|be|ch|dk|se|fi|cz|ca|au|nz|jp|br)(?=[/?#]|$)",
    re.IGNORECASE,
)
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
#: A beginning that is written twice, or has a space or a comma in it that no host has.
_TWICE = re.compile(r"(?P<first>https?:?/{1,2}\s*)(?=https?:?//?[a-z0-9])", re.IGNORECASE)
_SPACED = re.compile(r"https?://(?P<space>\s+)(?=[a-z0-9])", re.IGNORECASE)
_COMMA = re.compile(r"https?://www(?P<comma>,\.?)(?=[a-z0-9])", re.IGNORECASE)
_ONE_MAIL = re.compile(r"[^\s@,<>]+@[^\s@,<>.]+(?:\.[^\s@,<>.]+)*")
_AT = re.compile(r"\s*(?:\(at\)|\[at\]|\bat\b|\{at\})\s*", re.IGNORECASE)
_FEWEST_DIGITS = 5  # of a telephone number
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
    for resource in check.page.resources:
        yield from _judge_loaded(check, resource)


def is_explained(check: Check, link: Link) -> bool:
    """Return whether a link that leads nowhere is told by a rule of its own, so that it is not told twice."""
    href = (link.href or "").strip()
    turned = "\\" in href and isinstance(check.site.follow(check.page.path, href.replace("\\", "/")), Resolved)
    known = _is_host(href) or _MAIL.match(href) or _DISK.match(href) or _meant_scheme(href)
    return bool(known) or turned or _lacks_hash(check, link, href)


def is_explained_of(check: Check, resource: Resource) -> bool:
    """Return whether something that is not there is told by a rule of its own, so that it is not told twice."""
    return any(True for _ in _judge_loaded(check, resource))


def _is_host(href: str) -> bool:
    """Return whether an address begins with what is a host by its form, and not the name of a file."""
    found = _DOMAIN.match(href)
    return _HOST.match(href) is not None or (
        found is not None and (found[0].count(".") > 1 or found.end() < len(href))
    )


def _meant_scheme(href: str) -> tuple[int, str] | None:
    """Return how much of an address's beginning is misspelt, and what it means; None for one that is right."""
    twice = _TWICE.match(href)
    if twice:
        rest = _meant_scheme(href[twice.end() :]) or (0, "")
        return twice.end() + rest[0], rest[1]
    spaced = _SPACED.match(href) or _COMMA.match(href)
    if spaced:
        return spaced.end(), href[: spaced.start(1)] + ("." if "," in spaced[1] else "")
    web = _WEB.match(href)
    if web and not _WEB_RIGHT.match(href):
        return web.start("host"), "https://" if "s" in web["scheme"].lower() else "http://"
    mail = _MAIL_BEGIN.match(href)
    if mail and not _MAIL_RIGHT.match(href):
        return mail.end(), "mailto:"
    return None


def is_torn(check: Check, outcome: object) -> bool:
    """Return whether an address leads to no file because of white space within it: without, it does to one."""
    bare = "".join(outcome.path.split()) if isinstance(outcome, NoFile) else ""
    return isinstance(outcome, NoFile) and bare != outcome.path and bare in check.site.files


def _judge(check: Check, link: Link, href: str) -> Iterator[Finding]:
    outcome = check.site.follow(check.page.path, link.href)
    if _DISK.match(href):
        yield check.find(
            "own-disk-address",
            link.start,
            f"“{href}” is a place on your own computer, where nobody else gets. Put the file into the site, and link "
            "to it there.",
        )
    elif link.kind in (LinkKind.MAIL, LinkKind.PHONE):
        yield from _malformed(check, link, href)
    elif (misspelt := _meant_scheme(href)) is not None:
        length, meant = misspelt
        edits = _put(check, link, meant, "the address begins as it is meant", length)
        message = f"“{href}” begins with “{href[:length]}”, which no browser understands as “{meant}”."
        if not meant:
            message = f"“{href}” begins with “{href[:length]}”, and then again."
        yield check.find("scheme-misspelt", link.start, message, edits)
    elif _is_host(href) and isinstance(outcome, NoFile):
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
    elif (
        " " in href
        and link.kind in _FILES
        and not check.lacks_quote(link.start, "href")
        and not is_torn(check, outcome)
    ):
        edits = _each(check, link, " ", "%20", "a space, as addresses write it", whole=True)
        message = f"“{href}” has a space in it, at which other programs end it. In addresses it is written %20."
        yield check.find("address-space", link.start, message, edits)
    if ".." in href and link.kind in _FILES and _is_beyond(check, href, outcome):
        yield check.find(
            "address-beyond-site",
            link.start,
            f"“{href}” leads above the site's folder, where this site has nothing.",
        )


def _malformed(check: Check, link: Link, href: str) -> Iterator[Finding]:
    """Yield a mail address or a telephone number that is none (RFC 6068, section 2; RFC 3966, section 3)."""
    scheme, _, said = href.partition(":")
    said, mark, _ = said.partition("?" if link.kind is LinkKind.MAIL else ";")
    words = unquote(said).strip()
    if link.kind is LinkKind.MAIL:
        wrong = [one.strip() for one in words.split(",") if not _ONE_MAIL.fullmatch(one.strip())]
        if not wrong or (not words and mark):  # an address may be left to the reader
            return
        meant = _AT.sub("@", words, count=1)
        message = f"“{wrong[0]}” is no mail address." if words else "This link names no mail address."
        meant = meant if _ONE_MAIL.fullmatch(meant) else ""
    else:
        if words and not re.search(r"[^\W\d_]", words) and re.search(r"\d", words):
            return
        meant = re.sub(r"[^\d+]", "", words)
        message = f"“{words}” is no telephone number: it has digits, “+” and what parts them, and no words."
        meant = meant if len(meant) >= _FEWEST_DIGITS else ""
    choices = []
    if meant:
        edits = _put(check, link, meant, f"the {scheme} address", len(said), at=len(scheme) + 1)
        choices = [Choice(f"Write “{meant}”", tuple(edits))]
    yield check.find("address-malformed", link.start, message, choices=choices)


def _judge_loaded(check: Check, resource: Resource) -> Iterator[Finding]:
    """Yield why something that a page names does not come: backslashes, a mail address without its scheme."""
    url = resource.url.strip()
    if not url or ("\\" not in url and "@" not in url):
        return
    outcome = check.site.follow(check.page.path, url)
    written = check.page.attribute_at(resource.start, resource.attribute)
    if not isinstance(outcome, NoFile) or written is None or written.value_span is None:
        return
    if _MAIL.match(url) and resource.element == "link":
        message = f"Without “mailto:” in front, “{url}” means a file of this site."
        edit = piece_edit(check.page.text, written, Span(0, 0), "mailto:", "the mail address gets its scheme")
        yield check.find("mail-scheme-missing", resource.start, message, [edit] if edit else [])
    elif isinstance(check.site.follow(check.page.path, url.replace("\\", "/")), Resolved):
        message = f"“{url}” is written with backslashes. Browsers take them for slashes, other programs do not."
        places = [at for at, char in enumerate(written.value) if char == "\\"]
        edits = (piece_edit(check.page.text, written, Span(at, at + 1), "/", "a slash") for at in places)
        yield check.find("backslash-in-address", resource.start, message, [edit for edit in edits if edit])


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


def _put(check: Check, link: Link, words: str, reason: str, length: int = 0, *, at: int = 0) -> list[Edit]:
    """Return the edit that puts something into a link's address, in the place of some characters from `at` on."""
    written = check.page.attribute_at(link.start, "href")
    if written is None or written.value_span is None:
        return []
    at += len(written.value) - len(written.value.lstrip())
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
