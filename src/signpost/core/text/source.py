"""A page's bytes and its text, with the encoding that a browser would decide on.

HTML 13.2.3.2 (determining the character encoding): a byte-order mark, else what the first 1024 bytes declare,
else what the bytes look like: UTF-8 where they are valid UTF-8, or windows-1252.
"""

from __future__ import annotations

import hashlib
import re
from collections import Counter
from dataclasses import dataclass, field
from functools import cached_property

import webencodings

from signpost.core.text.errors import EncodingError, NotTextError, RequestError
from signpost.core.text.positions import Lines
from signpost.core.text.prescan import PRESCAN_BYTES, declared_encoding

#: Where more than one byte in so many is NUL, a file is not a text.
NUL_SHARE = 200

_MARKS = ((b"\xef\xbb\xbf", "utf-8"), (b"\xfe\xff", "utf-16be"), (b"\xff\xfe", "utf-16le"))
_LINE_END = re.compile(r"\r\n|\n|\r")
_DEFAULT = "windows-1252"
_UTF_16 = {"utf-16le": "utf-16-le", "utf-16be": "utf-16-be"}


def _windows_1252() -> dict[int, int]:
    """Return the 32 code points in which windows-1252 differs from Latin-1.

    The Encoding standard gives the five bytes that Python's codec refuses their C1 control characters.
    """
    table = {}
    for byte in range(0x80, 0xA0):
        char = bytes([byte]).decode("cp1252", "ignore")
        if char:
            table[byte] = ord(char)
    return table


_TO_1252 = _windows_1252()
_FROM_1252 = {char: chr(byte) for byte, char in _TO_1252.items()}


@dataclass(frozen=True)
class Source:
    """A page as its author saved it."""

    data: bytes = field(repr=False)
    text: str  # decoded, line ends and byte-order mark kept
    encoding: str  # the Encoding standard's name, in lower case
    newline: str  # the line end used most: "\n", "\r\n" or "\r"; "\n" where there is none
    damage: int | None  # offset of the first byte that would not survive being written back; None: all would
    named: bool = False  # whether the author named the encoding, whatever the page declares

    @cached_property
    def sha256(self) -> str:
        """The SHA-256 of the bytes, hexadecimal."""
        return hashlib.sha256(self.data).hexdigest()

    @property
    def lines(self) -> Lines:
        """The text's lines."""
        return Lines(self.text)

    def again(self, data: bytes) -> Source:
        """Return other bytes of this page, read in the encoding that its author named, if one was named."""
        return read_source(data, self.encoding if self.named else None)

    def encode(self, text: str) -> bytes:
        """Return `text` in this source's encoding; characters it lacks become numeric character references.

        Raises EncodingError where the source itself does not survive being written back.
        """
        if self.damage is not None:
            raise EncodingError(self.encoding, self.damage)
        return _encode(text, self.encoding)


def read_source(data: bytes, named: str | None = None) -> Source:
    """Return the text of a page's bytes, in the encoding of this label where one is named.

    Raises NotTextError for bytes that are not text: with NULs, and either many of them or no markup before the first.
    Bytes that do not fit the encoding are read as a browser would read them, with U+FFFD, and noted as `damage`.
    """
    encoding = find_encoding(data) if named is None else encoding_of_label(named)
    if encoding not in _UTF_16 and (nul := data.find(b"\0")) >= 0:
        many = data.count(b"\0") * NUL_SHARE > len(data)
        if many or b"<" not in data[:nul]:  # a stray one in a page is an oddity that browsers read over
            raise NotTextError(nul)
    text, damage = _decode(data, encoding)
    return Source(data, text, encoding, find_newline(text), damage, named is not None)


def encoding_of_label(label: str) -> str:
    """Return the Encoding standard's name, in lower case, of an encoding by one of its labels (section 4.2).

    Raises RequestError for one that the standard does not know, or that browsers refuse to read pages in.
    """
    found = webencodings.lookup(label)
    name = "" if found is None else str(found.name).lower()
    if name in ("", "x-user-defined", "replacement"):
        raise RequestError(
            f"“{label}” is not an encoding that browsers read. Choose one such as utf-8, windows-1252 or iso-8859-2."
        )
    return name


def find_encoding(data: bytes) -> str:
    """Return the Encoding standard's name of the encoding that a browser would read `data` in."""
    for mark, name in _MARKS:
        if data.startswith(mark):
            return name
    declared = declared_encoding(data)
    if declared is not None:
        return declared
    try:
        data.decode("utf-8")
    except UnicodeDecodeError:
        return _DEFAULT
    return "utf-8"


def find_conflict(source: Source) -> str | None:
    """Return the encoding that a page's `meta` declares where its byte-order mark says another; else None."""
    mark = next((mark for mark, _ in _MARKS if source.data.startswith(mark)), None)
    if mark is None:
        return None
    text = source.text.removeprefix("\ufeff")[:PRESCAN_BYTES]  # a page in UTF-16 declares itself in UTF-16 too
    declared = declared_encoding(text.encode("ascii", "replace"))
    matches = declared is None or declared == source.encoding
    return None if matches or (declared == "utf-8" and source.encoding in _UTF_16) else declared


def find_newline(text: str) -> str:
    """Return the line end that `text` uses most; a line feed where it has none."""
    if "\r" not in text:
        return "\n"
    counts = Counter(_LINE_END.findall(text))
    return str(counts.most_common(1)[0][0])


def _codec(encoding: str) -> str:
    found = webencodings.lookup(encoding)
    return encoding if found is None else str(found.codec_info.name)


def _decode(data: bytes, encoding: str) -> tuple[str, int | None]:
    """Return the text, and the offset of the first byte that would not survive being written back, or None."""
    if encoding == _DEFAULT:
        return data.decode("latin-1").translate(_TO_1252), None  # every byte has its own character
    if encoding == "utf-8":
        try:
            return data.decode("utf-8"), None  # what is strictly UTF-8 is written in one way only
        except UnicodeDecodeError as error:
            return data.decode("utf-8", "replace"), error.start
    codec = _UTF_16.get(encoding) or _codec(encoding)
    text = data.decode(codec, "replace")
    return text, _find_damage(data, text, encoding)


def _encode(text: str, encoding: str) -> bytes:
    if encoding == _DEFAULT:
        return text.translate(_FROM_1252).encode("latin-1", "xmlcharrefreplace")
    if encoding in _UTF_16:
        return text.encode(_UTF_16[encoding])
    return text.encode(_codec(encoding), "xmlcharrefreplace")


def _find_damage(data: bytes, text: str, encoding: str) -> int | None:
    try:
        again = _encode(text, encoding)
    except UnicodeEncodeError:  # a lone surrogate of UTF-16
        again = b""
    if again == data:
        return None
    same = next((i for i, (a, b) in enumerate(zip(data, again, strict=False)) if a != b), None)
    return min(len(data), len(again)) if same is None else same
