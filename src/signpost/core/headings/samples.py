"""Samples of code: pasted as text and escaped, and raw ones that were left in a page fixed."""

from __future__ import annotations

import re
from dataclasses import dataclass
from html import escape

from signpost.core.page import Nodes, Page, read_nodes
from signpost.core.page.blocks import read_blocks
from signpost.core.page.habits import read_habits
from signpost.core.page.phrasing import PHRASING
from signpost.core.page.placing import block_start
from signpost.core.text.edits import Edit, EditSet, edit_set
from signpost.core.text.errors import GoneError, RequestError
from signpost.core.text.positions import Span

_SAMPLES = frozenset(["pre", "xmp", "listing"])
#: What a sample may contain and be a sample still: emphasis, links, line numbers.
_MEANT = PHRASING | {"br", "img", "wbr"}
_RAW_AMPERSAND = re.compile(r"&(?![A-Za-z0-9#]+;)")
_CODE = re.compile(r"(\s*<code\b[^>]*>)(.*)(</code\s*>\s*)", re.IGNORECASE | re.DOTALL)


@dataclass(frozen=True, slots=True)
class RawSample:
    """A sample whose markup was left as markup."""

    start: int  # of its element's start tag
    inner: Span  # that should be escaped
    elements: tuple[str, ...]  # tags in it that a browser takes for elements, in order, each once


def find_raw_samples(page: Page, nodes: Nodes | None = None) -> list[RawSample]:
    """Return the samples of a page that contain elements which no sample is meant to contain, such as headings."""
    nodes = nodes or read_nodes(page)
    found = []
    for node in nodes.all:
        if node.tag not in _SAMPLES or node.element.close is None:
            continue
        tags = tuple(dict.fromkeys(below.tag for below in nodes.below(node) if below.tag not in _MEANT))
        if tags:
            found.append(RawSample(node.start, _inner(page.text, nodes.inner(node)), tags))
    return found


def plan_escaped(page: Page, starts: frozenset[int] | None = None) -> EditSet:
    """Return the edits that escape raw samples: those whose elements begin at `starts`, or all of them."""
    edits: list[Edit] = []
    for sample in find_raw_samples(page):
        if starts is None or sample.start in starts:
            edits += _escapes(page.text, sample.inner)
    return edit_set(page.source, edits)


def plan_sample(page: Page, before: int, code: str) -> EditSet:
    """Return the edits that put a sample of code before the block whose start tag begins at `before`.

    The code arrives escaped in `pre` and `code`, its lines as they are. Raises RequestError where the block is not
    there, or there is no code.
    """
    lines = code.replace("\r\n", "\n").replace("\r", "\n").strip("\n").split("\n")
    if not any(line.strip() for line in lines):
        raise RequestError("There is no code to insert. Paste the sample first.")
    if before not in {block.start for block in read_blocks(page)}:
        raise GoneError("The block")
    habits = read_habits(page)
    escaped = habits.newline.join(escape(line, quote=False) for line in lines)
    slot = block_start(page.text, before)
    markup = f"{habits.start('pre')}{habits.start('code')}{escaped}{habits.end('code')}{habits.end('pre')}"
    gap = habits.newline if slot.own_line else ""
    return edit_set(page.source, [Edit(slot.at, slot.at, slot.indent + markup + gap, reason="sample of code")])


def _inner(text: str, inner: Span) -> Span:
    """Return what is to be escaped: without the `code` element around it, where its author wrote one."""
    found = _CODE.fullmatch(text, inner.start, inner.end)
    return Span(found.start(2), found.end(2)) if found else inner


def _escapes(text: str, inner: Span) -> list[Edit]:
    edits = []
    for found in re.finditer(r"[<>&]", text[inner.start : inner.end]):
        at = inner.start + found.start()
        if found[0] == "&" and not _RAW_AMPERSAND.match(text, at):
            continue
        written = {"<": "&lt;", ">": "&gt;", "&": "&amp;"}[found[0]]
        edits.append(Edit(at, at + 1, written, reason="sample escaped"))
    return edits
