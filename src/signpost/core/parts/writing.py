"""The files of a page's parts: each is the whole page with its own slice of the content in place of all of it."""

from __future__ import annotations

import posixpath
import re
from collections.abc import Iterable, Iterator, Sequence
from functools import cached_property

from signpost.core.addresses.fragments import find_indicated
from signpost.core.addresses.links import relative_address
from signpost.core.contents.blocks import USUAL_LEVELS, find_blocks
from signpost.core.contents.phrases import contents_label
from signpost.core.contents.remark import without_remark
from signpost.core.contents.writing import Item, new_list_style, write_list
from signpost.core.headings.levels import level_edits
from signpost.core.page import Element, Heading, Node, Page, Target, read_nodes
from signpost.core.page.habits import read_habits
from signpost.core.page.part_marks import begin_mark, end_mark, head_mark
from signpost.core.page.placing import block_start, whole_block
from signpost.core.parts.addressing import Goal, Rewriter
from signpost.core.parts.naming import Part, frame_head_end, frame_tail_start
from signpost.core.parts.options import PartContents, PartOptions
from signpost.core.parts.part_links import LinkWriter, Moved, find_moved
from signpost.core.parts.phrases import suffix
from signpost.core.parts.whole import (
    Whole,
    foreign_addresses,
    head_link,
    own_address_value,
    own_addresses,
    write_raised,
)
from signpost.core.references.written import WrittenAddress
from signpost.core.text.edits import Edit, edit_set, splice
from signpost.core.text.positions import Span, after_line_end, indent_before, line_start
from signpost.core.text.tags import scan_attributes, value_edit

#: Elements around the page's heading that are repeated with it.
_WRAPPERS = frozenset("center div header".split())


class PartWriter:
    """Writes the parts of one page."""

    def __init__(self, whole: Whole, parts: Sequence[Part], options: PartOptions, series: str) -> None:
        self.whole = whole
        self.page = whole.page
        self.parts = parts
        self.options = options
        self.series = series
        self.habits = read_habits(self.page)
        self.targets = self.page.index_targets()
        self.rewriter = Rewriter(whole.site, self.page.path, frozenset(whole.paths), self.goal)
        self.headline = self._find_headline()
        self.links = LinkWriter(self.page, self.habits, parts, options, self._indent())
        self._found: dict[int, list[WrittenAddress]] = {}
        self._open: dict[int, list[Element]] = {}

    def bytes_of(self, part: Part) -> bytes:
        """Return the bytes of a part's file. Raises EncodingError for words that the page's encoding has not."""
        frame = self._frame(part)
        head = Span(0, frame_head_end(frame))
        tail = Span(frame_tail_start(frame), len(frame.text))
        edits = [
            *self._head_edits(frame, part),
            *self._rewritten(frame, part, head),
            *self._rewritten(frame, part, tail),
        ]
        before = self._within(frame, head, edits)
        behind = self._within(frame, tail, edits)
        text = before + self._made_before(part) + self._slice(part) + self._made_behind(part) + behind
        return self.page.source.encode(text)

    @cached_property
    def moved(self) -> list[Moved]:
        """The places that fragments lead to and that left the first part."""
        return find_moved(self.page, self.parts)

    def goal(self, path: str, target: Target | str | None) -> Goal | None:
        """Return where an address leads that led into the page, or to one of the files that had its content."""
        if isinstance(target, Target) and self.whole.series is not None:  # it is one of the parts' own
            found = find_indicated(target.name, self.targets)
            target = found if isinstance(found, Target) else None
        if isinstance(target, Target):
            if not self.parts[0].start <= target.start < self.parts[-1].end:
                return None  # all parts have it
            part = self._part_at(target.start)
            return Goal(part.path, where=f"its section is in part {part.number}")
        if path == self.page.path:
            return None  # the page's address stays the first part's
        begins = self.whole.begins(path)
        part = self._part_at(begins)
        heading = next((one for one in self.page.headings if one.element.open.start >= begins), None)
        name = heading.identifier if heading is not None and begins != part.start else None
        fragment = relative_address(part.path, part.path, name)[1:] if name else None
        return Goal(part.path, fragment, f"its section is in part {part.number}")

    def _part_at(self, offset: int) -> Part:
        return next((part for part in reversed(self.parts) if part.start <= offset), self.parts[0])

    def part_number(self, offset: int) -> int:
        """Return the number of the part that a place of the whole page goes to; 0 for all parts."""
        inside = self.parts[0].start <= offset < self.parts[-1].end
        return self._part_at(offset).number if inside else 0

    # ---------------------------------------------------------------- pieces of the page

    def _frame(self, part: Part) -> Page:
        """Return the page whose head, header and footer a part has: of a part that was there, its own."""
        return self.whole.frames[self.whole.frame_index(part.start)]

    def _addresses(self, page: Page) -> list[WrittenAddress]:
        if id(page) not in self._found:
            self._found[id(page)] = list(foreign_addresses(page))
        return self._found[id(page)]

    def _rewritten(self, page: Page, part: Part, span: Span) -> list[Edit]:
        """Return the edits of the addresses in a stretch of a page that goes to a part."""
        found = (one for one in self._addresses(page) if span.start <= one.node.start < span.end)
        return self.rewriter.edits(page, part.path, found)

    @staticmethod
    def _within(page: Page, span: Span, edits: Iterable[Edit]) -> str:
        """Return a stretch of a page with the edits that lie in it."""
        chosen = [edit for edit in edits if span.start <= edit.start and edit.end <= span.end]
        return splice(page.text, span, edit_set(page.source, chosen).edits)

    def _slice(self, part: Part) -> str:
        span = Span(part.start, part.end)
        raised = self._raised(part)
        edits = self._rewritten(self.page, part, span)
        for heading, amount in raised:
            edits += level_edits(self.page, heading, heading.level - amount)
        if part.number == 1:
            at = self._top_of_first()
            block = self.links.block(part, self._address_from(part), last=False)
            if line_start(self.page.text, at) != at:
                block = block.removeprefix(self.links.indent)
            edits.append(Edit(at, at, block, rank=-1))
        return self._within(self.page, span, edits)

    def _top_of_first(self) -> int:
        """Return where the links at the top of the first part go: below the page's heading."""
        part = self.parts[0]
        if self.headline is None:
            return part.start
        end = self.headline.element.end
        below = after_line_end(self.page.text, end)
        return min(end if below is None else below, part.end)  # a heading that is never closed reaches beyond the cut

    def _find_headline(self) -> Heading | None:
        """Return the page's only first-level heading where part 1 alone would have it; else None."""
        highest = [heading for heading in self.page.headings if heading.level == 1]
        if len(highest) != 1 or highest[0].element.open.start >= self.parts[0].end:
            return None
        return highest[0]

    def _indent(self) -> str:
        second = self.parts[1].start
        first_line = second + len(self.page.text[second:]) - len(self.page.text[second:].lstrip())
        return indent_before(self.page.text, first_line) or ""

    def _raised(self, part: Part) -> list[tuple[Heading, int]]:
        """Return by how many levels a part's first headings are raised, until one is as high as the second."""
        own = self._headings(part)
        if not self.options.raise_levels or part.number == 1:
            return []
        top = 2 if self.headline else min((heading.level for heading in self.page.headings), default=1)
        raised, lowest = [], 9
        for heading in own:
            lowest = min(lowest, heading.level)
            if lowest <= top:
                break
            raised.append((heading, lowest - top))
        return raised

    def _headings(self, part: Part) -> list[Heading]:
        return [heading for heading in self.page.headings if part.start <= heading.element.open.start < part.end]

    # ---------------------------------------------------------------- what is made

    def _made_before(self, part: Part) -> str:
        """Return what is between a part's frame and its slice."""
        newline = self.habits.newline
        mark = head_mark(part.number, len(self.parts), self.series)
        at = frame_head_end(self.page)
        own_line = line_start(self.page.text, at) == at
        if part.number == 1:
            return f"{self._indent_at(at)}{mark}{newline}" if own_line else mark
        outer, inner = self._reopened(part)
        pieces = [
            f"{self._indent_at(at) if own_line else ''}{mark}{newline}",
            *outer,
            self._headline(part),
            self.links.block(part, self._address_from(part), last=False),
            self._contents(part),
            *inner,
            f"{self.links.indent}{begin_mark(part.number)}{newline}",
        ]
        return "".join(pieces)

    def _indent_at(self, at: int) -> str:
        """Return the indent of the line that begins at an offset, where something is on it."""
        text = self.page.text
        first = at + len(text[at : at + 200]) - len(text[at : at + 200].lstrip())
        return indent_before(text, first) or ""

    def _made_behind(self, part: Part) -> str:
        """Return what is between a part's slice and the rest of its frame."""
        newline, address_of = self.habits.newline, self._address_from(part)
        closed = self._open_at(part.end) if part is not self.parts[-1] else []
        closed = [element for element in closed if element.close is not None]
        settings = {} if part.number > 1 else self.options.settings()
        raised = self._raised(part)
        if closed:
            settings["in"] = " ".join(element.tag for element in reversed(closed))
        if raised:
            settings["raised"] = f"{write_raised(amount for _, amount in raised)} of {len(self._headings(part))}"
        if part.titled:
            settings["titled"] = part.titled
        own_line = line_start(self.page.text, part.end) == part.end
        mark = end_mark(part.number, len(self.parts), self.series, settings)
        pieces = [
            (self.links.indent if own_line else "") + mark + newline,
            *(self._tag_indent(element) + self.habits.end(element.tag) + newline for element in reversed(closed)),
            self.links.block(part, address_of, last=True),
            self.links.forward_list(self.moved, address_of) if part.number == 1 else "",
        ]
        return "".join(pieces)

    def _reopened(self, part: Part) -> tuple[list[str], list[str]]:
        """Return the start tags of the elements that are open where a part begins, as lines.

        Those around the page's heading come first, so that it is repeated within them.
        """
        around = {element.open for element in self._around_headline()}
        lines: tuple[list[str], list[str]] = ([], [])
        for element in self._open_at(part.start):
            line = self._tag_indent(element) + self._without_identifier(element) + self.habits.newline
            lines[0 if element.open in around else 1].append(line)
        return lines

    def _tag_indent(self, element: Element) -> str:
        return indent_before(self.page.text, element.open.start) or ""

    def _without_identifier(self, element: Element) -> str:
        return _without_attributes(self.page.text, element, ("id", "name"))

    def _around_headline(self) -> list[Element]:
        """Return the elements between the content and the page's heading, outermost first."""
        if self.headline is None:
            return []
        start = self.headline.element.open.start
        nodes = read_nodes(self.page)
        node = next((one for one in nodes.all if one.start == start), None)
        above = [] if node is None else [one.element for one in nodes.above(node)]
        return [
            one for one in reversed(above) if one.open.start >= self.parts[0].start and one.open.end > one.open.start
        ]

    def _suffix(self, part: Part) -> str:
        return suffix(self.page.language, part.number, len(self.parts))

    def _headline(self, part: Part) -> str:
        """Return the page's heading again, saying which part this is; "" where all parts have one."""
        if self.headline is None:
            return ""
        text, element, newline = self.page.text, self.headline.element, self.habits.newline
        open_here = {one.open for one in self._open_at(part.start)}
        around = [one for one in self._around_headline() if one.open not in open_here]
        wrappers = [
            one for one in around if one.tag in _WRAPPERS and one.close and one.close.end <= self.parts[0].end
        ]
        if len(wrappers) < len(around):
            wrappers = []  # a piece of a table or a list, which is nothing without the rest
        wrappers = [one for one in wrappers if one.tag != "div" or " " in self._without_identifier(one)]
        indent = indent_before(text, element.open.start) or ""
        words = self.headline.entry + self._suffix(part)
        tag = element.tag if element.tag != "a" else "h1"
        line = f"{indent}{self._without_identifier(element)}{words}{self.habits.end(tag)}{newline}"
        opened = "".join(self._tag_indent(one) + self._without_identifier(one) + newline for one in wrappers)
        closed = "".join(self._tag_indent(one) + self.habits.end(one.tag) + newline for one in reversed(wrappers))
        return opened + line + closed

    def _contents(self, part: Part) -> str:
        """Return the contents of a later part: its own sections, or a copy of the page's with all of them."""
        if self.options.contents is PartContents.FIRST:
            return ""
        blocks = find_blocks(self.page)
        if self.options.contents is PartContents.ALL and blocks:
            return self._contents_copy(part, blocks[0].made.element)
        levels = blocks[0].remark.levels if blocks else USUAL_LEVELS
        left_out = blocks[0].remark.left_out if blocks else ()
        items = []
        for index, heading in enumerate(self.page.headings):
            inside = part.start <= heading.element.open.start < part.end
            if self.options.contents is PartContents.OWN and not inside:
                continue
            if heading.level in levels and heading.identifier and heading.identifier not in left_out:
                address = self._address_from(part)(
                    self._part_at(self.page.section_starts[index]).path, heading.identifier
                )
                link = self.habits.start("a", href=address) + heading.entry + self.habits.end("a")
                items.append(Item(link, heading.level))
        if not items:
            return ""
        habits = self.habits
        tag = "nav" if self.page.html5 else "div"
        label = contents_label(self.page.language) if tag == "nav" else None
        style = new_list_style(habits, self.links.indent + habits.indent, "ul", " | ")
        start = habits.start(tag, class_="contents part-contents", aria_label=label)
        listed = self.links.indent + habits.indent + write_list(items, style)
        return self.links.lines([start]) + listed + habits.newline + self.links.lines([habits.end(tag)])

    def _contents_copy(self, part: Part, element: Element) -> str:
        span = whole_block(self.page.text, element)
        edits = self._rewritten(self.page, part, span)
        markup = without_remark(self._within(self.page, span, edits)).rstrip()
        lead = len(markup) - len(markup.lstrip())
        for attribute in reversed(scan_attributes(markup, lead)):
            if attribute.name == "class":
                edit = value_edit(markup, attribute, f"{attribute.value} part-contents", "")
                markup = splice(markup, Span(0, len(markup)), [edit])
        markup = re.sub(r"(<[^<>]*?)\s+id\s*=\s*(?:\"[^\"]*\"|'[^']*'|[^\s>]+)", r"\1", markup, flags=re.IGNORECASE)
        markup = re.sub(r"[ \t]*(?:\r\n|\r|\n)(?=[ \t]*(?:\r\n|\r|\n))", "", markup)
        return markup + self.habits.newline

    def _open_at(self, at: int) -> list[Element]:
        """Return the elements within the content that are open at a cut, outermost first."""
        if at not in self._open:
            nodes = read_nodes(self.page)
            first = next((node for node in nodes.all if node.start >= at), None)
            above = [] if first is None else [node.element for node in nodes.above(first)]
            start = self.parts[0].start
            self._open[at] = [one for one in reversed(above) if start <= one.open.start < one.open.end <= at]
        return self._open[at]

    # ---------------------------------------------------------------- heads

    def _address_from(self, part: Part) -> _Addresses:
        return _Addresses(self.page, part.path, self.whole.site.base)

    def _head_edits(self, frame: Page, part: Part) -> Iterator[Edit]:
        """Yield the edits by which a head says which part this is, where it is, and which are beside it."""
        if frame.title_span is not None:
            at = frame.title_span.start + len(frame.title_span.of(frame.text).rstrip())
            yield Edit(at, at, self._suffix(part), reason="title says which part it is")
        for name, node in own_addresses(frame):
            written = frame.attribute_at(node.start, own_address_value(name))
            value = None if written is None else self._own_address(written.value, part)
            if written is not None and value is not None:
                yield value_edit(frame.text, written, value, "the part's own address")
        elements = []
        address_of = self._address_from(part)
        for rel, number in (("prev", part.number - 1), ("next", part.number + 1)):
            own = head_link(frame, rel)
            inside = 1 <= number <= len(self.parts)
            if own is not None:
                yield from self._neighbour_edits(frame, own, part, self.parts[number - 1] if inside else None)
            elif inside:
                href = address_of(self.parts[number - 1].path, None)
                elements.append([self.habits.void("link", rel=rel, href=href)])
        if part.number == 1:
            elements += self.links.forward_head(self.moved, address_of)
        if frame.head_end is not None and elements:
            yield self._in_head(frame, elements)

    def _neighbour_edits(self, frame: Page, node: Node, part: Part, neighbour: Part | None) -> Iterator[Edit]:
        written = frame.attribute_at(node.start, "href")
        if written is None:
            return
        if neighbour is not None:
            value = self._address_from(part)(neighbour.path, None)
        else:  # the author's own, of the first part's or the last one's other side
            value = _from_folder(self.page.path, part.path, written.value)
        yield value_edit(frame.text, written, value, "neighbouring part")

    def _in_head(self, frame: Page, elements: Sequence[Sequence[str]]) -> Edit:
        slot = block_start(frame.text, frame.head_end or 0)
        newline = self.habits.newline
        if not slot.own_line:
            text = "".join(newline.join(lines) for lines in elements)
        else:
            inner = slot.indent + self._head_step(frame)
            text = "".join(inner + line + newline for lines in elements for line in lines)
        return Edit(slot.at, slot.at, text, rank=1, reason="neighbouring parts")

    @staticmethod
    def _head_step(frame: Page) -> str:
        """Return the step by which the head's children are indented: the author's, or none."""
        found = re.search(
            r"^([ \t]+)<(?:title|meta|link)\b", frame.text[: frame.head_end], re.IGNORECASE | re.MULTILINE
        )
        return found[1] if found else ""

    def _own_address(self, value: str, part: Part) -> str | None:
        """Return the address by which a part names itself, from the whole page's; None where it stays."""
        if part.number == 1:
            return None
        own, new = (relative_address(self.page.path, path) for path in (self.page.path, part.path))
        path, mark, rest = value.partition("?")
        path, sharp, fragment = path.partition("#")
        tail = sharp + fragment + mark + rest
        if path.endswith(own):
            return path[: len(path) - len(own)] + new + tail
        stem = posixpath.splitext(own)[0]
        if path.endswith("/") or not path:
            return path + new + tail
        return path[: len(path) - len(stem)] + posixpath.splitext(new)[0] + tail if path.endswith(stem) else None


class _Addresses:
    """Addresses as a part has them, of places in other parts and in its own."""

    def __init__(self, page: Page, from_path: str, site_base: str | None) -> None:
        self._page = page
        self._from = from_path
        self._site_base = site_base

    def __call__(self, path: str, name: str | None) -> str:
        if self._page.base is not None:
            return self._page.address_of(path, name, self._site_base)
        return relative_address(self._from, path, name)


def _from_folder(home: str, part: str, address: str) -> str:
    """Return a relative address of the whole page as a part in a folder below has it."""
    depth = posixpath.relpath(posixpath.dirname(home) or ".", posixpath.dirname(part) or ".")
    if depth == "." or re.match(r"[a-z][a-z0-9+.-]*:|/|#|$", address, re.IGNORECASE):
        return address
    return f"{depth}/{address}"


def _without_attributes(text: str, element: Element, names: Sequence[str]) -> str:
    """Return an element's start tag without some attributes."""
    start, end = element.open.start, element.open.end
    pieces = []
    for attribute in scan_attributes(text, start):
        if attribute.name in names:
            pieces.append(text[start : attribute.span.start].rstrip())
            start = attribute.span.end
    return "".join([*pieces, text[start:end]])
