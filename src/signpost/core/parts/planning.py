"""A long page in numbered parts: where to cut it, and the pages that come of it.

Part 1 keeps the page's address. Each part is the page itself, with its slice of the content in the place of the
whole: head, header, navigation and footer are the author's own bytes. The slices, put together, are the content.
"""

from __future__ import annotations

import posixpath
import re
from collections.abc import Sequence
from dataclasses import dataclass
from html import escape

from signpost.core.addresses.links import LinkKind, full_address, read_address, relative_address
from signpost.core.addresses.paths import PathIndex, find_path_objection
from signpost.core.page import Element, Heading, Link, Page, Target
from signpost.core.page.habits import read_habits
from signpost.core.page.placing import block_start
from signpost.core.parts.cuts import Cut, find_cuts
from signpost.core.references.mentions import read_addresses, torn_references
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import Resolved, Site
from signpost.core.text.edits import Edit, EditSet, apply_edits, edit_set
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import after_line_end, indent_before
from signpost.core.text.tags import Attribute, path_edit, scan_attributes


@dataclass(frozen=True, slots=True)
class Part:
    """One of the pages that a long page becomes."""

    number: int  # 1-based
    path: str
    title: str  # the words of the heading it begins with; of part 1, the page's title
    start: int  # of its slice of the content, offset into the page
    end: int


def plan_parts(site: Site, path: str, cut_sections: Sequence[int]) -> SitePlan:
    """Return the plan that cuts the page at `path` before the sections with these indexes.

    Links on all pages of the site follow the sections that moved. A page that is a part already is left alone, with
    a note. Raises RequestError for a section that the page cannot be cut at.
    """
    page = site.pages[path]
    if page.made_blocks("part-links"):
        return SitePlan(notes=(f"{path} is one of several parts already; undo that change to cut it another way.",))
    cuts = _chosen(page, cut_sections)
    if not cuts:
        return SitePlan(notes=("No cut is chosen, so the page stays whole.",))
    parts = _name_parts(site, page, cuts)
    writer = _Writer(site, page, parts)
    edits = {path: writer.first_part()}
    new_files = {part.path: writer.later_part(part) for part in parts[1:]}
    for other in site.pages.values():
        if other.path != path:
            moved = edit_set(other.source, writer.moved_links(other, None))
            if moved:
                edits[other.path] = moved
    return SitePlan(edits, new_files, notes=writer.torn())


def _chosen(page: Page, indexes: Sequence[int]) -> list[Cut]:
    possible = {cut.section: cut for cut in find_cuts(page)}
    for index in indexes:
        if index not in possible:
            words = f"“{page.headings[index].text}”" if 0 <= index < len(page.headings) else f"number {index + 1}"
            raise RequestError(
                f"The page cannot be cut before section {words}: it is where the content starts, or inside a list, a "
                "table, a sample or a figure. Choose another section."
            )
    return sorted((possible[index] for index in set(indexes)), key=lambda cut: cut.at)


def _name_parts(site: Site, page: Page, cuts: Sequence[Cut]) -> list[Part]:
    stem, suffix = posixpath.splitext(page.path)
    taken = PathIndex(site.files)
    starts = [page.content.start, *(cut.at for cut in cuts)]
    ends = [*starts[1:], page.content.end]
    first = page.title or (page.headings[0].text if page.headings else page.path)
    parts = [Part(1, page.path, first, starts[0], ends[0])]
    for number, cut in enumerate(cuts, start=2):
        name = f"{stem}-{number}{suffix}"
        while taken.find_clash(name) is not None:
            name = posixpath.splitext(name)[0] + f"-part{suffix}"
        objection = find_path_objection(name)
        if objection is not None:
            raise RequestError(f"Part {number} would be called “{name}”, which is not possible. {objection}")
        taken.add(name)
        title = page.headings[cut.section].text
        parts.append(Part(number, name, title, starts[number - 1], ends[number - 1]))
    return parts


class _Writer:
    """Writes the parts of one page."""

    def __init__(self, site: Site, page: Page, parts: Sequence[Part]) -> None:
        self.site = site
        self.page = page
        self.parts = parts
        self.habits = read_habits(page)
        self.headline = self._find_headline()
        first_cut = next(heading for heading in page.headings if heading.begin >= parts[1].start)
        self.indent = indent_before(page.text, first_cut.begin) or ""

    def _find_headline(self) -> Heading | None:
        """Return the page's only first-level heading where part 1 alone would have it; else None."""
        highest = [heading for heading in self.page.headings if heading.level == 1]
        if len(highest) != 1 or highest[0].element.open.start >= self.parts[0].end:
            return None
        return highest[0]

    # ---------------------------------------------------------------- whole parts

    def first_part(self) -> EditSet:
        """Return the edits that leave part 1 in the place of the whole page."""
        page, part = self.page, self.parts[0]
        start = page.content.start if self.headline is None else self.headline.element.end
        top = min(self._behind_line_end(start), part.end)  # a heading that is never closed reaches beyond the cut
        rest = self._closing(part.end) + self._links_block(part, last=True) + self._end_gap()
        return edit_set(
            page.source,
            [
                *self._frame_edits(part),
                *(edit for edit in self.moved_links(page, part) if self._keeps(part, edit)),
                Edit(top, top, self._links_block(part, last=False), reason="links to the parts"),
                Edit(part.end, page.content.end, rest, reason="the other parts"),
            ],
        )

    def later_part(self, part: Part) -> bytes:
        """Return the bytes of a part that becomes a page of its own."""
        page, at_end = self.page, self.page.content.end
        before = Edit(page.content.start, part.start, self._opening(part), reason="the parts before")
        block = self._links_block(part, last=True)
        if part is not self.parts[-1]:
            rest = self._closing(part.end) + block + self._end_gap()
            after = Edit(part.end, at_end, rest, reason="the parts behind")
        else:
            slot = block_start(page.text, at_end)
            text = block if slot.own_line else self.habits.newline + block
            after = Edit(slot.at, slot.at, text, reason="links to the parts")
        moved = (edit for edit in self.moved_links(page, part) if self._keeps(part, edit))
        return apply_edits(page.source, edit_set(page.source, [*self._frame_edits(part), *moved, before, after]))

    def _keeps(self, part: Part, edit: Edit) -> bool:
        """Return whether an edit of the whole page falls on what this part keeps."""
        content = self.page.content
        return part.start <= edit.start < part.end or not content.start <= edit.start < content.end

    def _opening(self, part: Part) -> str:
        """Return what is in a later part between the start of the content's element and the part's slice."""
        page = self.page
        open_ = _open_at(page, part.start)
        around = {element.open for element in self.headline.ancestors} if self.headline else set()
        outer = [element for element in open_ if element.open in around]
        inner = [element for element in open_ if element.open not in around]
        gap = page.text[page.content.start : self._behind_line_end(page.content.start)]
        reopened = ["".join(self._reopened(element) for element in group) for group in (outer, inner)]
        return gap + reopened[0] + self._headline(part) + self._links_block(part, last=False) + reopened[1]

    def _behind_line_end(self, offset: int) -> int:
        after = after_line_end(self.page.text, offset)
        return offset if after is None else after

    def _end_gap(self) -> str:
        return indent_before(self.page.text, self.page.content.end) or ""

    # ---------------------------------------------------------------- pieces

    def _frame_edits(self, part: Part) -> list[Edit]:
        """Return the edits of the head: the title says which part it is, links name the neighbours."""
        page, habits = self.page, self.habits
        edits = []
        if page.title_span is not None:
            at = page.title_span.start + len(page.title_span.of(page.text).rstrip())
            edits.append(Edit(at, at, self._suffix(part), reason="title says which part it is"))
        if page.head_end is not None:
            links = [
                habits.void("link", rel=rel, href=self._href(neighbour))
                for rel, neighbour in (("prev", self._before(part)), ("next", self._after(part)))
                if neighbour is not None
            ]
            slot = block_start(page.text, page.head_end)
            inner = slot.indent if not slot.own_line else slot.indent + self._head_step()
            text = "".join(inner + link + (habits.newline if slot.own_line else "") for link in links)
            edits.append(Edit(slot.at, slot.at, text, rank=1, reason="neighbouring parts"))
        return edits

    def _head_step(self) -> str:
        """Return the step by which the head's children are indented: the author's, or none."""
        found = re.search(
            r"^([ \t]+)<(?:title|meta|link)\b", self.page.text[: self.page.head_end], re.IGNORECASE | re.MULTILINE
        )
        return found[1] if found else ""

    def _suffix(self, part: Part) -> str:
        return f" (part {part.number} of {len(self.parts)})"

    def _before(self, part: Part) -> Part | None:
        return self.parts[part.number - 2] if part.number > 1 else None

    def _after(self, part: Part) -> Part | None:
        return self.parts[part.number] if part.number < len(self.parts) else None

    def _href(self, part: Part) -> str:
        if self.page.base is not None:
            return self.page.address_of(part.path, site_base=self.site.base)
        here = self.page.path  # all parts stand in one folder
        return relative_address(here + "-", part.path)

    def _headline(self, part: Part) -> str:
        """Return the page's first-level heading again, saying which part this is; "" where all parts have one."""
        if self.headline is None:
            return ""
        element = self.headline.element
        indent = indent_before(self.page.text, element.open.start) or ""
        start = _without_identifier(self.page.text, element)
        words = self.headline.entry + self._suffix(part)
        return f"{indent}{start}{words}{self.habits.end(element.tag)}{self.habits.newline}"

    def _links_block(self, part: Part, *, last: bool) -> str:
        """Return the links to the parts: their numbers, and at the page's end the neighbours by title."""
        habits, tag = self.habits, "nav" if self.page.html5 else "div"
        label = "Previous and next part" if last else "Parts of this page"
        numbers = " ".join(self._number(other, part) for other in self.parts)
        step = habits.indent
        lines = [
            habits.start(tag, class_="part-links", aria_label=label if tag == "nav" else None),
            f"{step}{habits.start('p')}Part {numbers}{habits.end('p')}",
        ]
        if last:
            for word, rel, other in (("Previous", "prev", self._before(part)), ("Next", "next", self._after(part))):
                if other is not None:
                    link = habits.start("a", href=self._href(other), rel=rel) + escape(other.title, quote=False)
                    lines.append(f"{step}{habits.start('p')}{word}: {link}{habits.end('a')}{habits.end('p')}")
        return "".join(self.indent + line + habits.newline for line in [*lines, habits.end(tag)])

    def _number(self, other: Part, part: Part) -> str:
        habits = self.habits
        if other is part:
            current = "page" if self.page.html5 else None
            return f"{habits.start('strong', aria_current=current)}{other.number}{habits.end('strong')}"
        return f"{habits.start('a', href=self._href(other))}{other.number}{habits.end('a')}"

    def _closing(self, at: int) -> str:
        """Return the end tags of the elements that are open at a cut, innermost first."""
        open_ = [element for element in _open_at(self.page, at) if element.close is not None]
        return "".join(self.habits.end(element.tag) + self.habits.newline for element in reversed(open_))

    def _reopened(self, element: Element) -> str:
        """Return an element's start tag for another part; with its identifier, which style sheets may hang on."""
        return element.open.of(self.page.text) + self.habits.newline

    # ---------------------------------------------------------------- links

    def moved_links(self, other: Page, here: Part | None) -> list[Edit]:
        """Return the edits that lead the links of a page to where their targets went.

        `here` is the part that the links will stand in, where `other` is the page that is cut; else None.
        """
        edits = [self._moved(other, link, here) for link in other.links]
        if "#" in other.text:
            edits += [
                self._relocated(other, attribute, address, here) for _, attribute, address in read_addresses(other)
            ]
        return [edit for edit in edits if edit is not None]

    def _relocated(self, other: Page, written: Attribute, address: str, here: Part | None) -> Edit | None:
        """Return the edit of an address that is not a link, where its target went to another part."""
        outcome = self.site.follow(other.path, address)
        if not isinstance(outcome, Resolved) or outcome.path != self.page.path or address != written.value:
            return None
        goal = self._part_of(outcome.target) if isinstance(outcome.target, Target) else None
        from_path = here.path if here else other.path
        leads_to = self.page.path if read_address(address).path else from_path
        if goal is None or leads_to == goal.path:
            return None
        path = "" if goal.path == from_path else self._address(other, from_path, goal.path)
        return path_edit(other.text, written, path, f"its target is in part {goal.number}")

    def torn(self) -> tuple[str, ...]:
        """Return in words what names an identifier that went to another part."""
        content = self.page.content

        def part_of(offset: int) -> int:
            return self._part_at(offset).number if content.start <= offset < content.end else 0

        return tuple(torn_references(self.page, part_of))

    def _moved(self, other: Page, link: Link, here: Part | None) -> Edit | None:
        if link.href is None or link.kind not in (LinkKind.FRAGMENT, LinkKind.PAGE, LinkKind.OUTSIDE):
            return None
        outcome = self.site.follow(other.path, link.href)
        if not isinstance(outcome, Resolved) or outcome.path != self.page.path:
            return None
        goal = self._part_of(outcome.target) if isinstance(outcome.target, Target) else None
        if goal is None:
            return None
        address = read_address(link.href)
        from_path = here.path if here else other.path
        leads_to = self.page.path if address.path else from_path
        written = other.attribute_at(link.start, "href")
        if leads_to == goal.path or written is None:
            return None
        if link.kind is LinkKind.OUTSIDE:  # it spells out the site's own address, and so should it after
            path = full_address(self.site.base or "", goal.path)
        else:
            own = goal.path == from_path and other.base is None
            path = "" if own else self._address(other, from_path, goal.path)
        return path_edit(other.text, written, path, f"its section is in part {goal.number}")

    def _address(self, other: Page, from_path: str, path: str) -> str:
        if other.base is not None:
            return other.address_of(path, site_base=self.site.base)
        return relative_address(from_path, path)

    def _part_of(self, target: Target) -> Part | None:
        """Return the part that a target went to; None for one that all parts keep."""
        content = self.page.content
        if not content.start <= target.start < content.end:
            return None
        return self._part_at(target.start)

    def _part_at(self, offset: int) -> Part:
        return next((part for part in reversed(self.parts) if part.start <= offset), self.parts[0])


def _open_at(page: Page, at: int) -> list[Element]:
    """Return the elements within the content that are open at a cut, outermost first."""
    if at >= page.content.end:
        return []
    heading = next(heading for heading in page.headings if heading.begin >= at)
    return [element for element in heading.ancestors if element.open.start < at < element.end]


def _without_identifier(text: str, element: Element) -> str:
    """Return an element's start tag without its identifier."""
    start, end = element.open.start, element.open.end
    pieces = []
    for attribute in scan_attributes(text, start):
        if attribute.name in ("id", "name"):
            pieces.append(text[start : attribute.span.start].rstrip())
            start = attribute.span.end
    return "".join([*pieces, text[start:end]])
