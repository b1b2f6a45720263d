"""Comments behind far-away end tags that name the element they close, and separators before sections: on and off."""

from __future__ import annotations

import re
from collections.abc import Collection

from signpost.core.page import Node, Page, read_nodes
from signpost.core.page.habits import read_habits
from signpost.core.page.outline import read_outline
from signpost.core.page.placing import block_start, whole_block
from signpost.core.text.edits import Edit, EditSet, edit_set

#: How many lines an element spans, at least, for its end tag to count as far away.
FAR = 20

_BOXES = frozenset(
    "div section article main aside header footer nav table tbody ul ol dl form fieldset details".split()
)
_NOTE = re.compile(r" ?<!-- end of ([^\s<>]+(?: “[^”<>]*”)?) -->")


def plan_end_notes(page: Page, far: int = FAR) -> EditSet:
    """Return the edits that put a comment behind each end tag that is `far` lines or more from its start tag.

    It names the element as a selector does, by tag and `id` or first class. Notes that are there are brought up to
    date.
    """
    lines = page.source.lines
    edits = []
    for node in read_nodes(page).all:
        close = node.element.close
        if close is None or node.tag not in _BOXES:
            continue
        note = _NOTE.match(page.text, close.end)
        distance = lines.line(close.start) - lines.line(node.start)
        if distance < far and note is None:
            continue
        written = f" <!-- end of {_name(node)} -->"
        end = note.end() if note else close.end
        edits.append(Edit(close.end, end, written, reason=f"the end of {_name(node)} named"))
    return edit_set(page.source, edits)


def plan_no_end_notes(page: Page) -> EditSet:
    """Return the edits that remove the comments behind end tags again; other comments stay."""
    notes = []
    for node in read_nodes(page).all:
        close = node.element.close
        note = _NOTE.match(page.text, close.end) if close is not None else None
        if note is not None:
            notes.append(Edit(note.start(), note.end(), "", reason="comment taken away"))
    return edit_set(page.source, notes)


def _name(node: Node) -> str:
    identifier = node.attributes.get("id", "")
    if re.fullmatch(r"[\w.:]+(?:-[\w.:]+)*", identifier):
        return f"{node.tag}#{identifier}"
    classes = [name for name in node.attributes.get("class", "").split() if re.fullmatch(r"\w+(?:-\w+)*", name)]
    return f"{node.tag}.{classes[0]}" if classes else node.tag


def plan_separators(page: Page, levels: Collection[int]) -> EditSet:
    """Return the edits that put an `hr` before each section of these levels that has none and is not the first."""
    habits = read_habits(page)
    rules = _separators(page)
    edits = []
    for section in read_outline(page).flat():
        heading = section.heading
        before = page.text[page.content.start : heading.begin]
        if section.level not in levels or section.index in rules or not before.strip():
            continue
        slot = block_start(page.text, heading.begin)
        rule = habits.void("hr")
        text = f"{slot.indent}{rule}{habits.newline}" if slot.own_line else rule
        edits.append(Edit(slot.at, slot.at, text, reason=f"separator before “{section.text}”"))
    return edit_set(page.source, edits)


def plan_no_separators(page: Page, levels: Collection[int]) -> EditSet:
    """Return the edits that remove each `hr` that is right before a section of these levels."""
    rules = _separators(page)
    edits = []
    for section in read_outline(page).flat():
        node = rules.get(section.index)
        if node is not None and section.level in levels:
            span = whole_block(page.text, node.element)
            edits.append(Edit(span.start, span.end, "", reason=f"separator before “{section.text}” taken out"))
    return edit_set(page.source, edits)


def _separators(page: Page) -> dict[int, Node]:
    """Return the rules that are right before sections, by section index."""
    rules = [node for node in read_nodes(page).all if node.tag == "hr"]
    found = {}
    for index, heading in enumerate(page.headings):
        rule = next((node for node in rules if node.element.end <= heading.begin), None)
        for node in rules:
            if node.element.end > heading.begin:
                break
            rule = node
        if rule is not None and not page.text[rule.element.end : heading.begin].strip():
            found[index] = rule
    return found
