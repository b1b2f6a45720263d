"""The blocks of a page's content, which a heading, contents or a sample can be put before."""

from __future__ import annotations

from dataclasses import dataclass

from signpost.core.page import Node, Nodes, Page, read_nodes
from signpost.core.page.phrasing import shorten

_BLOCKS = frozenset(
    """
    p ul ol dl table pre blockquote figure div section article aside form fieldset details address center hr menu
    """.split()
)
_HOLDERS = frozenset("div section article center main form".split())
_HEADS = frozenset(["h1", "h2", "h3", "h4", "h5", "h6"])
_SHOWN = 60  # characters of a block's words that stand for it


@dataclass(frozen=True, slots=True)
class Block:
    """A block of the content that a heading can be put before."""

    start: int  # of its start tag
    tag: str
    text: str  # its first words
    words: int
    section: int  # index of the section it is in; -1 for the lead


def read_blocks(page: Page, nodes: Nodes | None = None) -> list[Block]:
    """Return the blocks of a page's content in source order; of boxes that contain blocks, what they contain."""
    nodes = nodes or read_nodes(page)
    blocks = []
    for node in nodes.all:
        if node.tag not in _BLOCKS or not page.in_content(node.start):
            continue
        if _holds_blocks(nodes, node) or any(_closes(page, above) for above in nodes.above(node)):
            continue
        section = page.section_at(node.start)
        blocks.append(Block(node.start, node.tag, shorten(node.text, _SHOWN), len(node.text.split()), section))
    return blocks


def _holds_blocks(nodes: Nodes, node: Node) -> bool:
    return node.tag in _HOLDERS and any(below.tag in _BLOCKS | _HEADS for below in nodes.below(node))


def _closes(page: Page, above: Node) -> bool:
    """Return whether an element around shuts its blocks in: those of a list, a table, a quotation, a made block."""
    inside = above.tag in _BLOCKS - _HOLDERS and above.start >= page.content.start
    return inside or any(made.element.open.start == above.start for made in page.made)
