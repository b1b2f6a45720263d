"""Addresses of every kind put together from what an author types: judged, and written as the standards ask."""

from __future__ import annotations

import re
from dataclasses import dataclass
from urllib.parse import quote, unquote

import idna

from signpost.core.text.errors import RequestError

_SCHEME = re.compile(r"([A-Za-z][A-Za-z0-9+.\-]*):")
_CONTROL = re.compile(r"[\x00-\x1f\x7f]")
#: What a full address consists of (URL, 4.3), roughly: scheme, user and password, host, port, and what is behind.
_FULL = re.compile(r"(https?)://(?:([^/?#@]*)@)?(\[[0-9A-Fa-f:.]+\]|[^/?#:@]*)(?::(\d*))?([/?#].*)?", re.IGNORECASE)
#: A valid e-mail address (HTML 4.10.5.1.5).
_MAILBOX = re.compile(
    r"[A-Za-z0-9.!#$%&'*+/=?^_`{|}~-]+@[A-Za-z0-9](?:[A-Za-z0-9-]{0,61}[A-Za-z0-9])?"
    r"(?:\.[A-Za-z0-9](?:[A-Za-z0-9-]{0,61}[A-Za-z0-9])?)*"
)
_EXTENSION = re.compile(r"\s*(?:;ext=|ext\.?|extension|x|#|Durchwahl)\s*(\d{1,6})\s*$", re.IGNORECASE)
_FEWEST_DIGITS, _MOST_DIGITS = 6, 15  # of an international number (E.164)
_UNSAFE = {" ": "%20", '"': "%22", "<": "%3C", ">": "%3E", "`": "%60", "{": "%7B", "}": "%7D", "^": "%5E", "|": "%7C"}


@dataclass(frozen=True, slots=True)
class Composed:
    """An address as it is written, and what the author should know of it."""

    address: str
    notes: tuple[str, ...] = ()


def compose_outside(typed: str) -> Composed:
    """Return the address of another site from what was typed (URL 4.4).

    A scheme that is missing is added, backslashes are turned, and what an address may not contain is encoded. Raises
    RequestError for what can be no such address, saying what to do.
    """
    text = _CONTROL.sub("", typed).strip()
    notes = []
    if not text:
        raise RequestError("Type the address, such as https://example.org/page.html.")
    head, mark, rest = text.partition("#")
    if "\\" in head:
        head = head.replace("\\", "/")
        notes.append("Backslashes are slashes now.")
    text = head + mark + rest
    text = re.sub(r"^(https?):/*", lambda found: f"{found[1].lower()}://", text, flags=re.IGNORECASE)
    scheme = _SCHEME.match(text)
    is_port = scheme is not None and re.match(r"\d+(?:[/?#]|$)", text[scheme.end() :]) is not None
    if scheme is None or is_port:
        text = "https://" + text.lstrip("/")
        notes.append("https:// is added in front; without it, the address means a file of this site.")
    elif scheme[1].lower() not in ("http", "https"):
        raise RequestError(f"An address of another site begins with https://, not with {scheme[0]}")
    found = _FULL.fullmatch(text)
    if found is None or not found[3]:
        raise RequestError("The name of the site is missing, such as example.org.")
    name, user, host, port, behind = found.groups()
    notes += _judge_host(host)
    if user is not None:
        notes.append("It contains a user's name, and perhaps a password, that every reader can see.")
    if name.lower() == "http":
        notes.append("http:// is not encrypted; most sites answer to https:// too.")
    encoded = "".join(_UNSAFE.get(char, char) for char in behind or "")
    if encoded != (behind or ""):
        notes.append("Spaces and marks that an address may not contain are encoded.")
    user = "" if user is None else f"{user}@"
    port = f":{port}" if port else ""
    return Composed(f"{name}://{user}{host}{port}{encoded}", tuple(notes))


def _judge_host(host: str) -> list[str]:
    """Return what is to be known of a host. Raises RequestError for one that cannot be (URL 3.3)."""
    if host.startswith("["):
        return []
    if re.search(r"[\s\"<>`{}|^%]", host):
        raise RequestError(f"“{host}” cannot be the name of a site: it contains a space or a mark. Correct it.")
    try:
        ascii_host = idna.encode(host, uts46=True).decode()
    except idna.IDNAError as error:
        if not re.fullmatch(r"[A-Za-z0-9_.-]+", host):
            raise RequestError(f"“{host}” cannot be the name of a site: {error}.") from error
        ascii_host = host
    if not host.isascii():
        return [f"Browsers ask for {ascii_host}."]
    if "xn--" in host.lower():
        return [f"Readers see {idna.decode(host)}."]
    if "." not in host and host.lower() != "localhost":
        return [f"“{host}” has no dot; is it the whole name of the site?"]
    return []


def compose_mail(to: str, subject: str = "", words: str = "") -> Composed:
    """Return the address that opens a letter (RFC 6068). Raises RequestError for an address that is none."""
    boxes = [one.strip() for one in re.split(r"[,;]", to.strip().removeprefix("mailto:")) if one.strip()]
    if not boxes:
        raise RequestError("Type the e-mail address, such as office@example.org.")
    for box in boxes:
        if not _MAILBOX.fullmatch(box):
            raise RequestError(f"“{box}” is no e-mail address. It is a name, an @, and the name of a site.")
    notes = [f"“{box}” has no dot behind the @; is it whole?" for box in boxes if "." not in box.rpartition("@")[2]]
    fields = []
    if subject.strip():
        fields.append("subject=" + quote(" ".join(subject.split()), safe="!$'()*,;:@/"))
    if words.strip():
        lines = "\r\n".join(words.strip().splitlines())
        fields.append("body=" + quote(lines, safe="!$'()*,;:@/"))
    address = "mailto:" + ",".join(quote(box, safe="@!$'*+-/=^_`{|}~.") for box in boxes)
    return Composed(address + ("?" + "&".join(fields) if fields else ""), tuple(notes))


def compose_phone(typed: str) -> Composed:
    """Return the address that calls a number (RFC 3966). Raises RequestError for what is no number."""
    text = typed.strip().removeprefix("tel:").strip()
    extension = _EXTENSION.search(text)
    number = text[: extension.start()] if extension else text
    number = number.replace("(0)", "")  # written for those who call from within the country
    bare = re.sub(r"[\s().\-\u2010-\u2015/\u00a0]", "", number)
    if bare.startswith("00"):
        bare = "+" + bare[2:]
    digits = bare.removeprefix("+")
    if not digits:
        raise RequestError("Type the number, such as +44 1632 960123.")
    if not digits.isascii() or not digits.isdigit():
        raise RequestError(f"“{typed.strip()}” is no telephone number: it has more than digits, spaces and hyphens.")
    if len(digits) > _MOST_DIGITS:
        raise RequestError(f"A telephone number has {_MOST_DIGITS} digits at most; this one has {len(digits)}.")
    notes = []
    if not bare.startswith("+"):
        notes.append("It works only within its country. Begin with + and the country's code, as in +44 1632 960123.")
    elif len(digits) < _FEWEST_DIGITS:
        notes.append("It is short for a number with a country's code; is it whole?")
    return Composed(f"tel:{bare}" + (f";ext={extension[1]}" if extension else ""), tuple(notes))


def compose_text(address: str, words: str) -> Composed:
    """Return an address with a directive that shows words of its page (URL Fragment Text Directives, 3.2)."""
    wanted = " ".join(words.split())
    if not wanted:
        raise RequestError("Type the words that the page shall open at, as they stand there.")
    head, _, fragment = address.partition("#")
    fragment = fragment.partition(":~:")[0]
    written = quote(wanted, safe="!$'()*;:@/?.~_").replace("-", "%2D")
    note = "Browsers that do not know this show the page's top, or the identifier's place."
    return Composed(f"{head}#{fragment}:~:text={written}", (note,))


@dataclass(frozen=True, slots=True)
class Pieces:
    """What an address was put together from, as far as it can be told."""

    kind: str  # "mail", "phone" or "outside"
    main: str  # the address or the number as it is typed
    subject: str = ""
    words: str = ""


def read_pieces(address: str) -> Pieces | None:
    """Return what an address of another site, a letter or a call consists of; None for any other address."""
    scheme = _SCHEME.match(address.strip())
    kind = scheme[1].lower() if scheme else ""
    rest = address.strip()[scheme.end() :] if scheme else ""
    if kind == "mailto":
        to, _, query = rest.partition("?")
        fields = dict(piece.partition("=")[::2] for piece in query.split("&") if piece)
        said = {name.lower(): unquote(value).replace("\r\n", "\n") for name, value in fields.items()}
        return Pieces("mail", unquote(to), said.get("subject", ""), said.get("body", ""))
    if kind == "tel":
        return Pieces("phone", rest.replace(";ext=", " ext "))
    if kind in ("http", "https") or address.startswith("//"):
        main, _, words = address.strip().partition(":~:text=")
        return Pieces("outside", main.removesuffix("#"), words=unquote(words)) if words else Pieces("outside", main)
    return None
