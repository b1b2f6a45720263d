"""Look-alike headings made real: the words and their inner markup stay, what only made them look like one goes."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from signpost.core.headings.levels import LOWEST
from signpost.core.headings.lookalike_lines import WRAPPERS, Run
from signpost.core.headings.lookalike_scores import anchors_of
from signpost.core.headings.lookalikes import Lookalike, find_lookalikes
from signpost.core.page import Node, Nodes, Page, read_nodes
from signpost.core.page.habits import Habits, read_habits
from signpost.core.page.marks import holds
from signpost.core.page.placing import whole_block
from signpost.core.text.edits import Edit, EditSet, edit_set
from signpost.core.text.errors import GoneError, RequestError
from signpost.core.text.positions import Span, after_line_end, end_before, indent_before, line_start


def plan_sure(page: Page) -> EditSet:
    """Return the edits that make the look-alikes real that are scored as sure, each at the level it was offered."""
    found = find_lookalikes(page)
    return _plan(page, found, {index: one.level for index, one in enumerate(found) if one.sure})


def plan_promotions(page: Page, levels: Mapping[int, int], refused: tuple[str, ...] = ()) -> EditSet:
    """Return the edits that make look-alikes real; keys are their indexes in `find_lookalikes`, values their levels.

    An old anchor that marked the line becomes the heading's identifier, under the same name. Raises RequestError for
    one that is not there, or a level out of range.
    """
    return _plan(page, find_lookalikes(page, refused), levels)


def _plan(page: Page, found: Sequence[Lookalike], levels: Mapping[int, int]) -> EditSet:
    nodes, habits = read_nodes(page), read_habits(page)
    edits: list[Edit] = []
    for index, level in levels.items():
        if not 0 <= index < len(found):
            raise GoneError("The look-alike heading")
        if not 1 <= level <= LOWEST:
            raise RequestError(f"Headings have levels 1 to 6, not {level}.")
        edits += _Promotion(nodes, habits, found[index], level).edits()
    return edit_set(page.source, edits)


class _Promotion:
    """One line made a heading."""

    def __init__(self, nodes: Nodes, habits: Habits, found: Lookalike, level: int) -> None:
        self.nodes = nodes
        self.text = nodes.page.text
        self.habits = habits
        self.run: Run = found.run
        self.block = found.run.block
        self.tag = f"h{level}"
        self.reason = f"“{found.text}” made a heading of level {level}"
        self.moved = self._moved_anchors()
        self.resized: list[Node] = []  # fonts that go on giving their words a colour or a face
        self.dropped = self._dropped_wrappers()

    def edits(self) -> list[Edit]:
        """Return the edits."""
        if self.run.whole and self.block.tag in ("p", "div") and not self._has_other_words():
            outer = self._instead_of_block()
        elif self.block.tag == "p":
            outer = self._out_of_paragraph()
        else:
            outer = self._within_block()
        return [*outer, *self._drops()]

    def _edit(self, start: int, end: int, text: str, rank: int = 0) -> Edit:
        return Edit(start, end, text, rank, self.reason)

    # ------------------------------------------------------------------ the heading's tags

    def _instead_of_block(self) -> list[Edit]:
        """The block's own tags become the heading's; its attributes stay."""
        element = self.block.element
        name = Span(element.open.start + 1, element.open.start + 1 + len(element.tag))
        edits = [self._edit(name.start, name.end, self.habits.tag(self.tag) + self._identifier(self.block))]
        if element.close is not None:
            close = element.close.start + 2
            edits.append(self._edit(close, close + len(element.tag), self.habits.tag(self.tag)))
        else:
            edits.append(self._edit(self.run.span.end, self.run.span.end, self._end, rank=9))
        return edits

    def _out_of_paragraph(self) -> list[Edit]:
        """A line of a paragraph becomes a heading of its own; what follows its break is a paragraph again."""
        run, text = self.run, self.text
        inner = self.nodes.inner(self.block)
        opened = self.block.element.open
        first = not text[inner.start : run.span.start].strip()
        start = opened.start if first else run.span.start
        before = "" if first else self.habits.end("p") + self.habits.newline
        edits = [self._edit(start, run.span.start, before + self._start_tag())]
        after = run.break_after.element.open.end if run.break_after else run.span.end
        rest = text[after : inner.end]
        line_end = after_line_end(text, after)
        if holds(rest):
            again = opened.of(text) if first else self.habits.start("p")
            gap = text[after:line_end] if line_end else self.habits.newline
            edits.append(self._edit(run.span.end, line_end or after, self._end + gap + again, rank=9))
        else:
            end = self.block.element.close.end if self.block.element.close else after
            edits.append(self._edit(run.span.end, end, self._end, rank=9))
        return edits

    def _within_block(self) -> list[Edit]:
        """A line that is in a larger block, or in the body itself, gets tags; a break behind it is not needed."""
        run = self.run
        end = run.break_after.element.open.end if run.break_after else run.span.end
        return [
            self._edit(run.span.start, run.span.start, self._start_tag(), rank=-9),
            self._edit(run.span.end, end, self._end, rank=9),
        ]

    def _start_tag(self) -> str:
        return self.habits.start(self.tag, id=self._moved_name())

    @property
    def _end(self) -> str:
        return self.habits.end(self.tag)

    def _has_other_words(self) -> bool:
        """Return whether blocks without words, such as a picture, stand in the block beside the line."""
        inner = self.nodes.inner(self.block)
        around = (self.text[inner.start : self.run.span.start], self.text[self.run.span.end : inner.end])
        return any(map(holds, around))

    # ------------------------------------------------------------------ identifiers

    def _identifier(self, block: Node) -> str:
        """Return the attribute that moves an anchor's name to a block; "" where it has its own, or none is moved."""
        name = self._moved_name()
        return "" if name is None or block.attributes.get("id") else " " + self.habits.attribute("id", name)

    def _moved_name(self) -> str | None:
        if not self.moved:
            return None
        anchor = self.moved[0]
        return anchor.attributes.get("id") or anchor.attributes.get("name")

    def _moved_anchors(self) -> list[Node]:
        """Return the anchor whose name the heading takes over; [] where the block has an identifier already."""
        if self.run.whole and self.block.tag in ("p", "div", "table") and self.block.attributes.get("id"):
            return []
        for anchor in anchors_of(self.nodes, self.run):
            name, identifier = anchor.attributes.get("name"), anchor.attributes.get("id")
            known = name if name and not identifier else identifier
            both = bool(name and identifier and name != identifier)
            first = next((target for target in self.nodes.page.targets if target.name == known), None)
            if "href" not in anchor.attributes and not both and first and first.start == anchor.start:
                return [anchor]
        return []

    # ------------------------------------------------------------------ what goes

    def _dropped_wrappers(self) -> list[Node]:
        """Return the wrappers of the line, outermost first: bold and large fonts around all of its words."""
        dropped = []
        current = [piece for piece in self.run.elements if piece.text]
        while len(current) == 1 and current[0].text == self.run.text:
            node = current[0]
            if node.tag in WRAPPERS and not set(node.attributes) - {"size"}:
                dropped.append(node)
            elif node.tag == "font" and "size" in node.attributes:
                self.resized.append(node)
            current = [child for child in self.nodes.children(node) if child.text] if not node.bare else []
        return dropped

    def _drops(self) -> list[Edit]:
        edits = []
        for node in self.dropped:
            edits += self._without_tags(node)
        for node in self.resized:
            edits += self._without_size(node)
        for anchor in self.moved:
            opened = anchor.element.open
            line_end = after_line_end(self.text, opened.end)
            if not anchor.element.close and line_end and indent_before(self.text, opened.start) is not None:
                edits.append(self._edit(line_start(self.text, opened.start), line_end, ""))
            elif anchor.text or self.run.span.start <= anchor.start < self.run.span.end or not anchor.element.close:
                edits += self._without_tags(anchor)
            else:
                span = whole_block(self.text, self._lone_paragraph(anchor).element)
                edits.append(self._edit(span.start, min(span.end, self._limit(span)), ""))
        return edits

    def _limit(self, span: Span) -> int:
        """Return how far an anchor before the line may be removed: not into the line's own block."""
        start = self.block.start if self.block.tag in ("p", "div", "table") else self.run.span.start
        return start if span.start <= start else span.end

    def _lone_paragraph(self, anchor: Node) -> Node:
        """Return the paragraph that contains nothing but an anchor, or the anchor itself."""
        parent = next(self.nodes.above(anchor), None)
        if parent is not None and parent.tag == "p" and parent.start != self.block.start and not parent.text:
            return parent
        return anchor

    def _without_size(self, node: Node) -> list[Edit]:
        size = self.nodes.page.attribute_at(node.start, "size")
        if size is None:
            return []
        start = end_before(self.text, size.span.start)
        return [self._edit(start, size.span.end, "", rank=1)]

    def _without_tags(self, node: Node) -> list[Edit]:
        edits = [self._edit(node.element.open.start, node.element.open.end, "", rank=1)]
        if node.element.close is not None:
            edits.append(self._edit(node.element.close.start, node.element.close.end, "", rank=1))
        return edits
