"""How a page is cut into parts: what the author chooses beside the places."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Self

#: The pattern of file names where the author sets no other.
USUAL_PATTERN = "{page}-{number}"
#: Pieces of a pattern: the page's name without its ending, the part's number, its title in words joined by hyphens.
PATTERN_PIECES = ("{page}", "{number}", "{title}")


class LinkPiece(StrEnum):
    """What the links between parts consist of, and where they are."""

    NUMBERS = "numbers"
    TITLES = "titles"  # numbers with titles
    NEIGHBOURS = "neighbours"  # previous and next by title
    TOP = "top"
    BOTTOM = "bottom"


class PartContents(StrEnum):
    """Which parts have contents, beside those of the page, which stay in its first part and list all parts."""

    FIRST = "first"  # none but the first
    OWN = "own"  # each its own sections
    ALL = "all"  # each all sections of all parts


class Forwarding(StrEnum):
    """How links to the first part lead on where their section went to another one."""

    SCRIPT = "script"  # a few lines of script that go there at once
    NOTE = "note"  # a line that the fragment makes visible: "This section has moved to …"
    LIST = "list"  # the same lines, always visible


@dataclass(frozen=True, slots=True)
class PartOptions:
    """What the author chooses for all parts of a page."""

    links: frozenset[LinkPiece] = frozenset(
        [LinkPiece.NUMBERS, LinkPiece.NEIGHBOURS, LinkPiece.TOP, LinkPiece.BOTTOM]
    )
    contents: PartContents = PartContents.FIRST
    forward: frozenset[Forwarding] = frozenset([Forwarding.SCRIPT, Forwarding.NOTE])
    pattern: str = USUAL_PATTERN
    raise_levels: bool = False  # whether a part that starts with a lower heading starts with one of the second level

    def settings(self) -> dict[str, str]:
        """Return what differs from what is usual, as the first part's remark keeps it."""
        usual = PartOptions()
        said = {
            "links": _join(LinkPiece, self.links),
            "contents": self.contents.value,
            "forward": _join(Forwarding, self.forward) or "no",
            "names": self.pattern,
            "levels": "raised" if self.raise_levels else "kept",
        }
        return {word: said[word] for word in said if getattr(self, _FIELDS[word]) != getattr(usual, _FIELDS[word])}

    @classmethod
    def of(cls, settings: Mapping[str, str]) -> Self:
        """Return the options that a remark keeps; what it does not say, or not in words known here, is as usual."""
        options = cls()
        if "links" in settings:
            options = replace(
                options, links=frozenset(LinkPiece(w) for w in settings["links"].split() if w in set(LinkPiece))
            )
        if settings.get("contents") in set(PartContents):
            options = replace(options, contents=PartContents(settings["contents"]))
        if "forward" in settings:
            words = settings["forward"].split()
            options = replace(options, forward=frozenset(Forwarding(w) for w in words if w in set(Forwarding)))
        if "names" in settings:
            options = replace(options, pattern=settings["names"])
        return replace(options, raise_levels=settings.get("levels") == "raised")


_FIELDS = {
    "links": "links", "contents": "contents", "forward": "forward", "names": "pattern", "levels": "raise_levels"
}  # fmt: skip


def _join(kind: type[StrEnum], chosen: frozenset[StrEnum]) -> str:
    return " ".join(one.value for one in kind if one in chosen)
