"""What is around the content of parts, their heads, headers and footers, where several become one.

All of them come from one page. What an author added to one of them since is kept in the one that stays; where one
says something else in the place of what another says, the author is asked.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from signpost.core.site.plans import Question
from signpost.core.text.edits import Edit, edits_between, splice
from signpost.core.text.positions import Span, line_start

#: How much of a text is shown in a note or question, in characters.
_SHOWN = 80


@dataclass(frozen=True, slots=True)
class Frame:
    """What is around the content of a part, as the whole page would have it."""

    path: str  # of the part's file
    head: str  # what is before the content
    tail: str  # what is behind it

    @property
    def sides(self) -> tuple[str, str]:
        """Return what is before and behind the content."""
        return self.head, self.tail


@dataclass(frozen=True, slots=True)
class Merged:
    """A frame with what was added to others."""

    frame: Frame
    notes: tuple[str, ...]  # what was taken over, and from where
    question: Question | None  # whose frame stays, where they say different things


def merge_frames(frames: Sequence[Frame], kept: str | None = None) -> Merged:
    """Return the frame that stays of several, with what was added to the others at the same places.

    The one that stays is that of the file `kept`, or the first. Where another differs otherwise than by additions,
    and no file is said, the outcome has a question.
    """
    frame = next((one for one in frames if one.path == kept), frames[0])
    others = [one for one in frames if one is not frame]
    notes: list[str] = []
    clashes: list[tuple[str, str]] = []
    sides = []
    for side in (0, 1):
        found = [(one.path, _differences(frame.sides[side], one.sides[side])) for one in others]
        clashes += [(path, edit.text) for path, edits in found for edit in edits if not _is_added(edit, frame, side)]
        sides.append(_with_added(frame, side, found, notes))
    merged = Frame(frame.path, *sides)
    return Merged(merged, tuple(notes), _question(frame.path, clashes) if clashes and kept is None else None)


def _differences(frame: str, other: str) -> list[Edit]:
    """Return the edits that add to a frame or change it as another has it; what is only removed there is left out."""
    edits = edits_between(frame, other)
    return [_at_its_tags(frame, edit) for edit in edits if edit.text.strip()]


def _at_its_tags(frame: str, edit: Edit) -> Edit:
    """Return an insertion where its text begins with a tag, of all the places at which it says the same."""
    start, text = edit.start, edit.text
    if not edit.inserts or _is_line(frame, edit):
        return edit
    for _ in text:
        if _is_markup(text):
            return Edit(start, start, text)
        if start == 0 or frame[start - 1] != text[-1]:
            break
        start, text = start - 1, text[-1] + text[:-1]
    return edit


def _is_line(frame: str, edit: Edit) -> bool:
    return line_start(frame, edit.start) == edit.start and edit.text.endswith(("\n", "\r"))


def _is_added(edit: Edit, frame: Frame, side: int) -> bool:
    """Return whether an edit adds whole lines or elements; words within a line may stand for others there."""
    return edit.inserts and (_is_markup(edit.text) or _is_line(frame.sides[side], edit))


def _is_markup(text: str) -> bool:
    return text.startswith("<") and text.rstrip().endswith(">")


def _with_added(frame: Frame, side: int, found: Iterable[tuple[str, list[Edit]]], notes: list[str]) -> str:
    added: dict[int, list[str]] = {}
    for path, edits in found:
        for edit in edits:
            if not _is_added(edit, frame, side):
                continue
            there = added.setdefault(edit.start, [])
            if edit.text not in there:
                there.append(edit.text)
                notes.append(f"Kept from {path}: “{_shown(edit.text)}”.")
    text = frame.sides[side]
    return splice(text, Span(0, len(text)), [Edit(at, at, "".join(texts)) for at, texts in added.items()])


def _question(frame: str, clashes: Sequence[tuple[str, str]]) -> Question:
    path, text = clashes[0]
    return Question(
        "frame",
        f"{path} has another head, header or footer than {frame} (“{_shown(text)}”). Which one stays?",
        (frame, *dict.fromkeys(path for path, _ in clashes)),
    )


def _shown(text: str) -> str:
    words = " ".join(text.split())
    return words if len(words) <= _SHOWN else words[: _SHOWN - 1] + "…"
