"""What the remarks of contents say of headings, kept true when a heading's identifier or words change."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator

from signpost.core.contents.remark import (
    Remark,
    identifier_digest,
    read_remark,
    split_digests,
    word_digest,
    write_name,
)
from signpost.core.page import Page
from signpost.core.page.placing import block_end
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Span

_NAME = re.compile(r"[^\s;]+")
_LEFT_OUT = re.compile(r"(?<=;)\s*without\s+([^;>]*)")
_SEALS = re.compile(r"(?<=;)\s*as\s+headed\s+([0-9a-z]+)")
_ADDED = re.compile(r"(?<=;)\s*added\s+([0-9a-z]+)")


def renamed_edits(page: Page, old: str, new: str) -> list[Edit]:
    """Return the edits by which contents go on knowing a section whose identifier is renamed."""

    def change(remark: Remark, text: str) -> str:
        if old in remark.left_out:
            text = _LEFT_OUT.sub(lambda found: _in_group(found, _renamed(found[1], old, new)), text)
        if identifier_digest(old) in remark.added:
            digests = (identifier_digest(new) if one == identifier_digest(old) else one for one in remark.added)
            text = _ADDED.sub(lambda found: _in_group(found, "".join(digests)), text)
        return text

    return list(_changed(page, change))


def entry_word_edits(page: Page, old: str, new: str) -> list[Edit]:
    """Return the edits by which contents know a heading by its new words."""

    def change(remark: Remark, text: str) -> str:
        def resealed(found: re.Match[str]) -> str:
            digests = (word_digest(new) if one == word_digest(old) else one for one in split_digests(found[1]))
            return _in_group(found, "".join(digests))

        return _SEALS.sub(resealed, text) if remark.knows(old) else text

    return list(_changed(page, change))


def _renamed(names: str, old: str, new: str) -> str:
    return _NAME.sub(lambda name: write_name(new) if name[0] == write_name(old) else name[0], names)


def _in_group(found: re.Match[str], text: str) -> str:
    """Return what was found with another text in the place of its first group, which ends it."""
    return found[0][: found.start(1) - found.start()] + text + found[0][found.end(1) - found.start() :]


def _changed(page: Page, change: Callable[[Remark, str], str]) -> Iterator[Edit]:
    for made in page.made_blocks("contents"):
        inner = Span(made.element.open.end, block_end(made.element))
        found = read_remark(inner.of(page.text))
        if found is not None:
            remark, span = found
            at = Span(inner.start + span.start, inner.start + span.end)
            text = change(remark, at.of(page.text))
            if text != at.of(page.text):
                yield Edit(at.start, at.end, text, reason="what the contents remember")
