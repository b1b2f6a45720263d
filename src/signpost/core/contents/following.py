"""What the remarks of contents say of headings, kept true when a heading is renamed or reworded."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator

from signpost.core.contents.remark import Remark, read_remark, seal, split_seals, write_name
from signpost.core.edits import Edit
from signpost.core.page import Page
from signpost.core.placing import block_end
from signpost.core.positions import Span

_NAME = re.compile(r"[^\s;]+")
_LEFT_OUT = re.compile(r"(?<=;)\s*without\s+([^;>]*)")
_SEALS = re.compile(r"(?<=;)\s*(?:as\s+headed|added)\s+([0-9a-z]+)")


def renamed_edits(page: Page, old: str, new: str) -> list[Edit]:
    """Return the edits by which contents go on leaving out a section whose identifier is renamed."""

    def change(remark: Remark, text: str) -> str:
        found = _LEFT_OUT.search(text) if old in remark.left_out else None
        if found is None:
            return text
        names = _NAME.sub(lambda name: write_name(new) if name[0] == write_name(old) else name[0], found[1])
        return text[: found.start(1)] + names + text[found.end(1) :]

    return list(_changed(page, change))


def reworded_edits(page: Page, old: str, new: str) -> list[Edit]:
    """Return the edits by which contents know a heading by its new words."""

    def change(remark: Remark, text: str) -> str:
        def resealed(found: re.Match[str]) -> str:
            seals = (seal(new) if one == seal(old) else one for one in split_seals(found[1]))
            return found[0][: -len(found[1])] + "".join(seals)

        known = remark.knows(old) or seal(old) in remark.added
        return _SEALS.sub(resealed, text) if known else text

    return list(_changed(page, change))


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
