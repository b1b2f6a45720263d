"""A page's headings as the user of a screen reader hears them, going from one to the next."""

from __future__ import annotations

from dataclasses import dataclass

from signpost.core.page import Nodes, Page, read_nodes
from signpost.core.page.marks import heading_level


@dataclass(frozen=True, slots=True)
class SpokenHeading:
    """A heading as a screen reader says it."""

    level: int
    text: str  # its name; "" where it has none
    section: int | None  # index of the section it begins; None for a heading of the furniture
    line: int  # 1-based
    skipped: int  # how many levels it leaves out below the heading before it


def read_spoken_headings(page: Page, nodes: Nodes | None = None) -> list[SpokenHeading]:
    """Return all headings of a page that are not hidden, in the order in which they are read.

    Those in the page's furniture are included. A name given by `aria-label` is said instead of the words
    (WAI-ARIA 1.2, 5.2.8.4).
    """
    nodes = nodes or read_nodes(page)
    lines = page.source.lines
    sections = {heading.element.open.start: index for index, heading in enumerate(page.headings)}
    spoken: list[SpokenHeading] = []
    for node in nodes.all:
        level = heading_level(node.tag, node.attributes)
        if level is None or any(_is_hidden(around.attributes) for around in (node, *nodes.above(node))):
            continue
        name = " ".join((node.attributes.get("aria-label") or node.text).split())
        skipped = max(level - (spoken[-1].level if spoken else 0) - 1, 0)
        spoken.append(SpokenHeading(level, name, sections.get(node.start), lines.line(node.start), skipped))
    return spoken


def _is_hidden(attributes: object) -> bool:
    found = attributes if isinstance(attributes, dict) else {}
    return "hidden" in found or found.get("aria-hidden", "").lower() == "true"
