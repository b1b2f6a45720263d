"""A page as a whole: as it is before it is cut, or as its parts would be if they were joined."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace

from signpost.core.addresses.links import relative_address
from signpost.core.headings.levels import LOWEST, level_edits
from signpost.core.page import Element, Heading, Node, Page, Target, read_nodes, read_page
from signpost.core.page.placing import block_end, whole_block
from signpost.core.parts.addressing import Goal, Rewriter
from signpost.core.parts.cuts import Cut, find_cuts
from signpost.core.parts.frames import Frame, merge_frames
from signpost.core.parts.options import PartOptions
from signpost.core.parts.phrases import SUFFIX
from signpost.core.parts.series import Series, marks_of, series_of
from signpost.core.references.written import WrittenAddress, read_written
from signpost.core.site.plans import Question
from signpost.core.site.site import Site
from signpost.core.text.edits import Edit, splice
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import Span, after_line_end, indent_before, line_start
from signpost.core.text.tags import value_edit

#: Classes of what we put into a part; all of it is made anew.
PART_BLOCKS = ("part-links", "part-contents", "moved-sections")


@dataclass(frozen=True, slots=True)
class ChosenCut:
    """A place where a page is cut, with what its author says of the part that begins there."""

    at: int  # offset into the whole page
    title: str = ""  # "" for the words of the heading that the part begins with
    path: str = ""  # of the part's file; "" for the one that the pattern gives


@dataclass(frozen=True)
class Whole:
    """A page as a whole, with what is known of its parts."""

    page: Page  # at the path of the first part
    site: Site  # with the page in the place of its parts
    series: Series | None  # None for a page that was never cut
    cuts: tuple[ChosenCut, ...]  # where it is cut now
    options: PartOptions  # as it was cut
    frames: tuple[Page, ...]  # for each part, the whole page with that part's head, header and footer
    notes: tuple[str, ...] = ()  # what the author should know of the joining
    question: Question | None = None  # whose head, header and footer stay

    @property
    def paths(self) -> tuple[str, ...]:
        """The files that have the page's content now, in order."""
        return self.series.paths if self.series else (self.page.path,)

    def begins(self, path: str) -> int:
        """Return where the piece begins that a file has now, as an offset into the whole page."""
        return dict(zip(self.paths, self.starts, strict=True))[path]

    @property
    def starts(self) -> tuple[int, ...]:
        """Where the pieces begin that the files have now."""
        return (self.page.content.start, *(cut.at for cut in self.cuts))

    def frame_index(self, at: int) -> int:
        """Return which of `frames` a part has that begins at an offset: of a part that was there, its own."""
        starts = self.starts
        return max((index for index, start in enumerate(starts) if start <= max(at, starts[0])), default=0)


def read_whole(site: Site, path: str, *, for_good: bool = False, frame: str | None = None) -> Whole:
    """Return the page at `path` as a whole; where it is a part, its series joined.

    With `for_good`, links that lead to a whole part lead to its first section after that; else they stay, for the
    page will be cut again. Then too, the heads, headers and footers become one: where they differ, that of the part
    at `frame` stays, and without it the outcome has a question. Raises RequestError where parts are missing, and for
    a `frame` that is none of them.
    """
    series = series_of(site, path)
    if series is None:
        page = site.pages[path]
        return Whole(page, site, None, (), PartOptions(), (page,))
    series.whole_or_refuse()
    if frame is not None and frame not in series.paths:
        raise RequestError(f"{frame} is none of the parts. Choose one of {', '.join(series.paths)}.")
    return _Joiner(site, series, for_good=for_good, frame=frame).join()


def framed(like: Page, head: str, content: str, tail: str) -> Page:
    """Return a page of a head, a content and a tail, at the path and in the encoding of another."""
    text = head + content + tail
    end = len(head) + len(content)
    if line_start(text, end) == end:
        end += len(tail) - len(tail.lstrip(" \t"))
    page = read_page(like.path, like.source.again(like.source.encode(text)), like.marks)
    return replace(page, content=Span(len(head), end))


@dataclass(frozen=True, slots=True)
class _Pieces:
    """What a part's file is made of, as it is in the whole page."""

    path: str
    head: str  # what is before the content
    slice: str
    tail: str  # what is behind the content, the indent of its first line included


class _Joiner:
    def __init__(self, site: Site, series: Series, *, for_good: bool, frame: str | None) -> None:
        self.site = site
        self.series = series
        self.for_good = for_good
        self.frame = frame  # the file whose head, header and footer stay, where its author said
        self.notes: list[str] = []
        self.rewriter = Rewriter(site, series.home, series.paths, self._goal)

    def join(self) -> Whole:
        series = self.series
        pieces = [self._pieces(part) for part in series.parts]
        question = None
        if self.for_good:
            pieces, question = self._in_one_frame(pieces)
        starts = [len(pieces[0].head)]
        for piece in pieces:
            starts.append(starts[-1] + len(piece.slice))
        page = self._read(pieces, pieces[0])
        frames = (
            page if (piece.head, piece.tail) == (pieces[0].head, pieces[0].tail) else self._read(pieces, piece)
            for piece in pieces
        )
        gone = frozenset(series.paths[1:])
        site = self.site.replaced({page.path: page}, gone)
        options = PartOptions.of(marks_of(series.parts[0]).settings)
        cuts = tuple(
            ChosenCut(at, marks_of(part).settings.get("titled", ""), part.path)
            for part, at in zip(series.parts[1:], starts[1:], strict=False)
        )
        return Whole(page, site, series, cuts, options, tuple(frames), tuple(self.notes), question)

    def _in_one_frame(self, pieces: list[_Pieces]) -> tuple[list[_Pieces], Question | None]:
        """Return the pieces with the frame that stays, and what is to be asked about it."""
        first = next((piece for piece in pieces if piece.path == self.frame), pieces[0])
        pieces = [_with_added(piece, first) if piece is not first else piece for piece in pieces]
        merged = merge_frames([Frame(piece.path, piece.head, piece.tail) for piece in pieces], self.frame)
        self.notes += merged.notes
        pieces = [replace(piece, head=merged.frame.head, tail=merged.frame.tail) for piece in pieces]
        return pieces, merged.question

    def _read(self, pieces: list[_Pieces], frame: _Pieces) -> Page:
        content = "".join(piece.slice for piece in pieces)
        return framed(self.series.parts[0], frame.head, content, frame.tail)

    # ---------------------------------------------------------------- one part

    def _pieces(self, part: Page) -> _Pieces:
        marks = marks_of(part)
        end = _ours_end(part)
        dropped = [Span(marks.head.start, marks.slice.start), Span(marks.slice.end, end)]
        dropped += [
            our_lines(part.text, made.element)
            for made in part.made
            if made.kind in PART_BLOCKS and marks.slice.start <= made.element.open.start < marks.slice.end
        ]
        edits = [
            edit
            for edit in (
                *self._head_edits(part),
                *self.rewriter.edits(part, self.series.home, foreign_addresses(part)),
                *self._levels(part),
            )
            if not any(span.start <= edit.start < span.end for span in dropped)
        ]
        edits += [Edit(span.start, span.end, "") for span in dropped[2:]]
        left = self._left_over(part)
        spans = (Span(0, marks.head.start), marks.slice, Span(end, len(part.text)))
        head, body, tail = (
            splice(part.text, span, [edit for edit in edits if span.start <= edit.start and edit.end <= span.end])
            for span in spans
        )
        return _Pieces(part.path, head, left + body, tail)

    def _left_over(self, part: Page) -> str:
        """Return what its author put between the things that we made at a part's beginning; it goes to the slice."""
        marks = marks_of(part)
        if marks.number == 1:
            return ""
        span = Span(marks.head.end, marks.slice.start)
        ours = []
        headline_seen = False
        for node in read_nodes(part).all:
            if not span.start <= node.start < span.end:
                continue
            if node.element.end >= marks.slice.start:
                ours.append(node.element.open)  # opened again
            elif node.classes & set(PART_BLOCKS):
                ours.append(Span(node.start, block_end(node.element)))
            elif node.tag == "h1" and not headline_seen:
                headline_seen = True
                ours.append(Span(node.start, block_end(node.element)))
                ours += [
                    tag
                    for above in read_nodes(part).above(node)
                    if above.start >= span.start and above.element.end < marks.slice.start
                    for tag in (above.element.open, above.element.close)
                    if tag is not None
                ]
        rest = splice(part.text, span, [Edit(one.start, one.end, "") for one in _outermost(ours)])
        rest = re.sub(r"<!-- part \d+ begins -->", "", rest)
        return rest.strip() + part.source.newline if rest.strip() else ""

    def _levels(self, part: Page) -> list[Edit]:
        """Return the edits that give headings their own levels again, which were raised at a part's beginning."""
        marks = marks_of(part)
        raised, _, total = marks.settings.get("raised", "").partition(" of ")
        amounts = read_raised(raised)
        own = own_headings(part)
        if amounts and total.isdigit() and int(total) != len(own):
            self.notes.append(
                f"{part.path} has {len(own)} headings, and had {total} when the levels of the first "
                f"{len(amounts)} were raised. The first ones are lowered again; look at the levels there."
            )
        edits = []
        for heading, amount in zip(own, amounts, strict=False):
            edits += level_edits(part, heading, min(heading.level + amount, LOWEST))
        return edits

    def _head_edits(self, part: Page) -> Iterator[Edit]:
        """Yield the edits that make a part's head the whole page's again."""
        first, last = self.series.parts[0], self.series.parts[-1]
        if part.title_span is not None:
            title = part.title_span.of(part.text).rstrip()
            found = SUFFIX.search(title)
            if found:
                start = part.title_span.start
                yield Edit(start + found.start(), start + found.end(), "")
        for rel, holder in (("prev", first), ("next", last)):
            node, own = head_link(part, rel), head_link(holder, rel)
            if node is None:
                continue
            written, value = part.attribute_at(node.start, "href"), own.attributes.get("href", "") if own else ""
            if own is None or written is None:
                lines = whole_block(part.text, node.element)
                yield Edit(lines.start, lines.end, "")
            else:
                yield value_edit(part.text, written, self._from_home(holder, value), "")
        for node in read_nodes(part).all:
            if node.tag in ("style", "script") and "moved-sections" in node.classes:
                lines = whole_block(part.text, node.element)
                yield Edit(lines.start, lines.end, "")
        if part is not first:
            own_ones = dict(own_addresses(first))
            for name, node in own_addresses(part):
                written = part.attribute_at(node.start, _VALUES[name])
                if name in own_ones and written is not None:
                    yield value_edit(part.text, written, own_ones[name].attributes.get(_VALUES[name], ""), "")

    def _from_home(self, holder: Page, address: str) -> str:
        """Return an address of a part's head as the whole page would have it."""
        path = self.rewriter.rebased(holder, self.series.home, address)
        return address if path is None else path + address[len(address.partition("#")[0].partition("?")[0]) :]

    def _goal(self, path: str, target: Target | str | None) -> Goal | None:
        home = self.series.home
        part = next(part for part in self.series.parts if part.path == path)
        joined = Goal(home, where="the parts are joined")
        if isinstance(target, Target) and not _in_frame(part, target):
            return joined
        if path == home or not self.for_good:
            return None
        if target is not None:
            return joined
        own = own_headings(part)
        name = own[0].identifier if own else None
        fragment = relative_address(home, home, name)[1:] if name else None
        return Goal(home, fragment, "the parts are joined")


_VALUES = {"canonical": "href", "og:url": "content"}


def head_link(page: Page, rel: str) -> Node | None:
    """Return the first `link` of a page with a keyword in its `rel`; None where there is none."""
    return next(
        (
            node
            for node in read_nodes(page).all
            if node.tag == "link" and rel in node.attributes.get("rel", "").lower().split()
        ),
        None,
    )


def own_addresses(page: Page) -> Iterator[tuple[str, Node]]:
    """Yield where a page's head says its own address, by what says it: "canonical" or "og:url"."""
    canonical = head_link(page, "canonical")
    if canonical is not None:
        yield "canonical", canonical
    for node in read_nodes(page).all:
        if node.tag != "meta" or "content" not in node.attributes:
            continue
        if (node.attributes.get("property") or node.attributes.get("name")) == "og:url":
            yield "og:url", node
            return


def foreign_addresses(page: Page) -> Iterator[WrittenAddress]:
    """Yield a page's addresses without those by which its head says its own place and its neighbours."""
    for address in read_written(page):
        rel = set(address.node.attributes.get("rel", "").lower().split())
        if address.node.tag != "link" or not rel & {"prev", "next", "canonical"}:
            yield address


def own_address_value(name: str) -> str:
    """Return the attribute that has an address of `own_addresses`."""
    return _VALUES[name]


def own_headings(part: Page) -> list[Heading]:
    """Return the headings of a part's own slice of the content."""
    span = marks_of(part).slice
    return [heading for heading in part.headings if span.start <= heading.element.open.start < span.end]


def our_lines(text: str, element: Element) -> Span:
    """Return what to remove for an element that we put in: its lines, or from where it begins within one."""
    start, end = element.open.start, block_end(element)
    below = after_line_end(text, end)
    if indent_before(text, start) is not None:
        start = line_start(text, start)
    return Span(start, end if below is None else below)


def read_raised(written: str) -> list[int]:
    """Return by how many levels each of a part's first headings was raised: "2*1,1*3" stands for 2, 1, 1, 1."""
    amounts: list[int] = []
    for amount, count in re.findall(r"(\d)\*(\d{1,4})", written):
        amounts += [int(amount)] * int(count)
    return amounts


def write_raised(amounts: Iterable[int]) -> str:
    """Return amounts as `read_raised` reads them; "" for none."""
    runs: list[list[int]] = []
    for amount in amounts:
        if runs and runs[-1][0] == amount:
            runs[-1][1] += 1
        else:
            runs.append([amount, 1])
    return ",".join(f"{amount}*{count}" for amount, count in runs)


def _ours_end(part: Page) -> int:
    """Return where a part's own frame goes on behind what was made for it at its end."""
    text, marks = part.text, marks_of(part)
    at = marks.end.end
    if text[at - 1 : at] not in ("\n", "\r"):
        at = after_line_end(text, at) or at
    for tag in marks.settings.get("in", "").split():
        found = re.compile(rf"[ \t]*</{re.escape(tag)}[ \t]*>", re.IGNORECASE).match(text, at)
        if found is None:
            break
        at = after_line_end(text, found.end()) or found.end()
    for made in sorted(part.made, key=lambda made: made.element.open.start):
        start = made.element.open.start
        if made.kind in PART_BLOCKS and start >= at and not text[at:start].strip():
            at = our_lines(text, made.element).end
    return at


def _in_frame(part: Page, target: Target) -> bool:
    """Return whether a target is in a part's own head, header or footer."""
    return not marks_of(part).head.start <= target.start < _ours_end(part)


def _outermost(spans: Iterable[Span]) -> list[Span]:
    """Return spans without those that lie within others."""
    kept: list[Span] = []
    for span in sorted(spans, key=lambda span: (span.start, -span.end)):
        if not kept or span.start >= kept[-1].end:
            kept.append(span)
    return kept


def _with_added(piece: _Pieces, first: _Pieces) -> _Pieces:
    """Return a part's pieces with what its author added between frame and content as content, which is kept."""
    head, tail = piece.head, piece.tail
    before = head[len(first.head) :] if head.startswith(first.head) else ""
    behind = tail[: len(tail) - len(first.tail)] if tail.endswith(first.tail) else ""
    return _Pieces(piece.path, head[: len(head) - len(before)], before + piece.slice + behind, tail[len(behind) :])


def cut_of(page: Page, at: int) -> Cut | None:
    """Return the section's cut at an offset; None where no section begins there."""
    return next((cut for cut in find_cuts(page) if cut.at == at), None)
