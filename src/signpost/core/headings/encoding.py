"""A page written in UTF-8 from now on: its bytes, and what it declares."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator

from signpost.core.page import Page
from signpost.core.page.habits import read_habits
from signpost.core.page.markup import head_tags, tokens_of
from signpost.core.page.placing import block_start
from signpost.core.text.edits import Edit, apply_to_text, edit_set
from signpost.core.text.errors import EncodingError, RequestError
from signpost.core.text.positions import Span
from signpost.core.text.source import find_encoding, read_source
from signpost.core.text.tags import piece_edit, scan_attributes, value_edit

_CHARSET = re.compile(r"charset\s*=\s*[\"']?([^\s;\"']+)", re.IGNORECASE)
_XML = re.compile(r"\s*<\?xml\b[^>]*?\bencoding\s*=\s*[\"']([^\"'>]*)[\"']", re.IGNORECASE)
_REASON = "the page's encoding"


def in_utf8(page: Page, edits: Iterable[Edit] = ()) -> bytes:
    """Return the bytes of a page in UTF-8, with other edits of its head made; it declares that encoding.

    Every character stays the one it was. Raises EncodingError for a page whose bytes do not fit its encoding, and
    RequestError where the encoding was chosen by hand, or the page cannot be made to declare another.
    """
    source = page.source
    if source.damage is not None:
        raise EncodingError(source.encoding, source.damage)
    if source.named:
        raise RequestError(
            f"{page.path} is read in {source.encoding} because you chose that. Choose “as the page declares” first."
        )
    text = apply_to_text(source, edit_set(source, [*edits, *_declared(page)]))
    data = text.encode("utf-8")
    if find_encoding(data) != "utf-8" or read_source(data).text != text:
        raise RequestError(
            f"{page.path} declares its encoding where it cannot be changed. Declare utf-8 by hand first."
        )
    return data


def _declared(page: Page) -> Iterator[Edit]:
    """Yield the edits that let a page declare UTF-8, where it does so now or at its head's top (HTML 4.2.5.4)."""
    found = False
    xml = _XML.match(page.text.removeprefix("\ufeff"))
    if xml is not None:
        offset = len(page.text) - len(page.text.removeprefix("\ufeff"))
        yield Edit(xml.start(1) + offset, xml.end(1) + offset, "utf-8", reason=_REASON)
    for meta in head_tags(page, "meta"):
        said = {one.name: one for one in scan_attributes(page.text, meta.start)}
        if "charset" in said:
            found = True
            yield value_edit(page.text, said["charset"], "utf-8", _REASON)
        elif (
            "content" in said and "http-equiv" in said and said["http-equiv"].value.strip().lower() == "content-type"
        ):
            charset = _CHARSET.search(said["content"].value)
            edit = charset and piece_edit(page.text, said["content"], Span(*charset.span(1)), "utf-8", _REASON)
            if edit:
                found = True
                yield edit
    if not found and not page.text.startswith("\ufeff"):
        yield _new_declaration(page)


def _new_declaration(page: Page) -> Edit:
    """Return the edit that declares the encoding first in the head, where the standard wants it."""
    tokens = tokens_of(page)
    meta, head = read_habits(page).void("meta", charset="utf-8"), next(tokens.named("head"), None)
    if head is not None:
        return Edit(head.end, head.end, page.source.newline + meta, rank=-1, reason=_REASON)
    if page.head_end is None:
        raise RequestError(f"{page.path} has no head to declare its encoding in. Add <head> and </head> first.")
    first = next(tokens.named("title", "meta", "link", "style", "script", "base"), None)
    slot = block_start(page.text, page.head_end if first is None else first.start)
    gap = page.source.newline if slot.own_line else ""
    return Edit(slot.at, slot.at, meta + gap, rank=-1, reason=_REASON)
