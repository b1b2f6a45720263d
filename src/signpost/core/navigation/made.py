"""Blocks of navigation that are made: written, renewed, left alone where they have an author's words, taken out."""

from __future__ import annotations

import re
from collections.abc import Callable, Collection

from signpost.core.page import Made, Page, read_nodes
from signpost.core.page.habits import read_habits
from signpost.core.page.placing import Slot, whole_block
from signpost.core.text.edits import Edit, EditSet, edit_set, edits_between
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import Span, line_indent

_WORD = re.compile(r"[^\W_]+(?:['’\-][^\W_]+)*")
#: What stands between links, and behind the words that introduce them.
_BETWEEN = " \t\r:|·›»/>→←"
#: What a block that we made consists of.
_OURS = frozenset("p a span strong ul ol li dl dt dd b nav div".split())
_OUR_ATTRIBUTES = frozenset(["href", "rel", "aria-current", "id"])


def written_by_us(page: Page, made: Made, known: Callable[[str], bool]) -> bool:
    """Return whether a block has nothing of an author's: only links, and words beside them that are `known`.

    A comment, an attribute that we do not write, or another element is an author's.
    """
    nodes = read_nodes(page)
    block = nodes.of(made.element)
    if block is None or "<!--" in page.text[made.element.open.end : made.element.end]:
        return False
    if any(node.tag not in _OURS or node.attributes.keys() - _OUR_ATTRIBUTES for node in nodes.below(block)):
        return False
    outside = block.text
    for node in nodes.below(block):
        if node.tag == "a":
            outside = outside.replace(node.text, "\n", 1)
    pieces = (piece.strip(_BETWEEN) for piece in outside.split("\n"))
    return all(known(piece) for piece in pieces if _WORD.search(piece))


def renewed(page: Page, made: Made, lines: Collection[str], reason: str) -> EditSet:
    """Return the edits that give a block other lines between its tags, which stay as they are."""
    habits, text, element = read_habits(page), page.text, made.element
    indent = line_indent(text, element.open.start)
    inner = Span(element.open.end, element.close.start if element.close else element.end)
    if "\n" in inner.of(text) or "\r" in inner.of(text):
        new = "".join(f"{habits.newline}{indent}{habits.indent}{line}" for line in lines) + habits.newline + indent
    else:
        new = "".join(line.strip() for line in lines)
    return edit_set(page.source, edits_between(inner.of(text), new, inner.start, reason))


def put(page: Page, slot: Slot, start: str, lines: Collection[str], end: str, reason: str) -> EditSet:
    """Return the edit that puts a block with its lines into a page."""
    habits = read_habits(page)
    whole = [start, *(habits.indent + line for line in lines), end]
    if slot.own_line:
        text = "".join(slot.indent + line + habits.newline for line in whole)
    else:
        text = "".join(line.strip() for line in whole)
    return edit_set(page.source, [Edit(slot.at, slot.at, text, rank=2, reason=reason)])


def refuse_written_into(page: Page, kind: str, known: Callable[[str], bool]) -> None:
    """Raise RequestError where a block of a kind has something of its author's, which would be lost with it."""
    for made in page.made_blocks(kind):
        if not written_by_us(page, made, known):
            line = page.source.lines.line(made.element.open.start)
            raise RequestError(
                f"The block of class {kind} in line {line} has words or markup of your own, and stays. Give it "
                "another class to have one made beside it."
            )


def taken_out(page: Page, kind: str, reason: str) -> EditSet:
    """Return the edits that take the blocks of a kind out."""
    spans = [whole_block(page.text, made.element) for made in page.made_blocks(kind)]
    return edit_set(page.source, [Edit(span.start, span.end, "", reason=reason) for span in spans])
