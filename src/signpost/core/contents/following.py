"""What the remarks of contents say of headings, kept true when a heading is renamed or reworded."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from signpost.core.contents.remark import SEAL_LETTERS, Remark, read_remark, seal, write_name
from signpost.core.edits import Edit
from signpost.core.page import Page
from signpost.core.placing import block_end
from signpost.core.positions import Span


def renamed_edits(page: Page, old: str, new: str) -> list[Edit]:
    """Return the edits by which contents go on leaving out a section whose identifier is renamed."""

    def change(remark: Remark, text: str) -> str:
        if old not in remark.left_out:
            return text
        names = " ".join(write_name(name) for name in remark.left_out)
        changed = " ".join(write_name(new if name == old else name) for name in remark.left_out)
        return text.replace(f"without {names}", f"without {changed}")

    return list(_changed(page, change))


def reworded_edits(page: Page, old: str, new: str) -> list[Edit]:
    """Return the edits by which contents know a heading by its new words."""

    def change(remark: Remark, text: str) -> str:
        if not remark.knows(old):
            return text
        head, mark, seals = text.partition("as headed ")
        letters = seals.partition(" ")[0]
        pieces = [letters[at : at + SEAL_LETTERS] for at in range(0, len(letters), SEAL_LETTERS)]
        new_letters = "".join(seal(new) if piece == seal(old) else piece for piece in pieces)
        return head + mark + new_letters + seals[len(letters) :]

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
