"""The encoding that a page's first bytes declare: HTML 13.2.3.2, the prescan of a byte stream.

The parser implements the standard's prescan, which knows tags, attributes and comments apart, so that words in a
description declare nothing.
"""

from __future__ import annotations

from turbohtml import parse

#: How far the standard looks for a declaration, in bytes (HTML 4.2.5.4).
PRESCAN_BYTES = 1024

_CERTAIN = "certain"
#: The Encoding standard's name for encodings that browsers refuse, since attackers used them.
_REFUSED = "replacement"


def declared_encoding(data: bytes) -> str | None:
    """Return the Encoding standard's name, in lower case, of the encoding that a page's `meta` declares.

    A byte-order mark must be left out. None where the first bytes declare none.
    """
    head = parse(data[:PRESCAN_BYTES])
    return str(head.encoding).lower() if head.encoding_confidence == _CERTAIN else None


def declares_refused(data: bytes) -> bool:
    """Return whether a page declares an encoding that browsers refuse to read, such as hz-gb-2312 or iso-2022-kr.

    They show an empty page (Encoding standard, 14.1).
    """
    return str(parse(data[:PRESCAN_BYTES]).encoding).lower() == _REFUSED
