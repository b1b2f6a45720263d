"""Addresses of hosts, judged in one place: whoever asks a host for anything asks what this returns."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from urllib.parse import quote, urljoin, urlsplit

from signpost.core.text.errors import RequestError

#: The port of each scheme where none is named.
WEB = {"http": 80, "https": 443}
SFTP = {"sftp": 22}
_HOST = re.compile(r"[a-z0-9](?:[a-z0-9._-]{0,251}[a-z0-9])?\.?|[0-9a-f:.]*:[0-9a-f:.]*")
_SPACES = re.compile(r"[\x00-\x20\x7f]")
_MOST_CHARACTERS = 2000


@dataclass(frozen=True, slots=True)
class HostAddress:
    """An address of a host: whom it is of, and what follows."""

    scheme: str
    host: str  # in lower case and ASCII; of IPv6 without brackets
    port: int
    path: str  # begins with a slash; what may not stand there is percent-encoded
    query: str  # "" for none

    @property
    def origin(self) -> tuple[str, str, int]:
        """Return what is one origin (RFC 6454, 4)."""
        return self.scheme, self.host, self.port

    @property
    def netloc(self) -> str:
        """Return the host as it is written in an address, with its port where that is not the usual one."""
        host = f"[{self.host}]" if ":" in self.host else self.host
        return host if {**WEB, **SFTP}.get(self.scheme) == self.port else f"{host}:{self.port}"


def read_address(address: str, ports: Mapping[str, int] = WEB) -> HostAddress:
    """Return an address of one of the schemes in `ports`. Raises RequestError, which says what is wrong with it.

    A name or password in it is refused: those are given apart, and kept apart.
    """
    shown = address[:100].encode("utf-8", "replace").decode()
    begins = " or ".join(f"{scheme}://" for scheme in ports)
    if len(address) > _MOST_CHARACTERS or _SPACES.search(address):
        raise RequestError(f"{shown} is no address: it is too long, or has white space in it.")
    try:
        parts = urlsplit(address)
        port = parts.port
        host = parts.hostname or ""
        host = host if host.isascii() else host.encode("idna").decode()
        path = quote(parts.path or "/", safe="%/:@!$&'()*+,;=~-._")
        query = quote(parts.query, safe="%/:@!$&'()*+,;=~-._?")
    except ValueError as error:
        raise RequestError(f"{shown} is no address: {error}.".replace("..", ".")) from error
    if "@" in parts.netloc:
        raise RequestError("Give the user's name and password apart from the address.")
    if parts.scheme not in ports or not host:
        raise RequestError(f"{shown} is no address of a host. It begins with {begins} and names the host.")
    if not _HOST.fullmatch(host) or ".." in host:
        raise RequestError(f"{shown} is no address: “{host}” is no name of a host.")
    return HostAddress(parts.scheme, host, port or ports[parts.scheme], path, query)


def led_on(address: HostAddress, goal: str) -> HostAddress:
    """Return where a redirect leads. Raises RequestError where that is no address."""
    query = f"?{address.query}" if address.query else ""
    try:
        joined = urljoin(f"{address.scheme}://{address.netloc}{address.path}{query}", goal)
    except ValueError as error:
        raise RequestError(f"The host leads on to {goal[:100]!r}, which is no address: {error}.") from error
    return read_address(joined)


def is_same_host(address: HostAddress, goal: HostAddress) -> bool:
    """Return whether an address is of the same origin as another one, or its `https` (RFC 6454, 5)."""
    if address.origin == goal.origin:
        return True
    return address.host == goal.host and (address.origin[::2], goal.origin[::2]) == (("http", 80), ("https", 443))
