"""What a page is made of, read in one pass.

The parser (turbohtml) follows HTML 13.2, so what a browser takes for an element is one here. Its lines end where
the standard's do, so that a line and a column lead to an offset into the text as it is, CRLF or not.
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass, replace

from turbohtml import Element as Parsed
from turbohtml import Namespace, Text

from signpost.core.addresses.links import classify_link
from signpost.core.page.facts import MADE_BLOCKS, Element, Heading, Link, Made, Page, Resource, Target
from signpost.core.page.furniture import Marks, is_furniture
from signpost.core.page.kept import keep_at_hand
from signpost.core.page.marks import (
    HEADINGS,
    Attributes,
    find_content_element,
    follows_block,
    heading_level,
    holds,
    holds_sections,
    identifier_of,
    identifier_within,
    is_html5,
    marks_before,
    own_identifier,
    path_from,
    shows,
    size,
    visible_before,
)
from signpost.core.page.markup import VOID, Markup, markup_of
from signpost.core.page.outer_blocks import find_marked, outer_blocks, repeated_blocks, stated_furniture
from signpost.core.page.part_marks import read_part_marks
from signpost.core.page.phrasing import PHRASING, collapse, count_words, read_heading
from signpost.core.text.edits import EditSet, apply_edits
from signpost.core.text.positions import Span
from signpost.core.text.source import Source

_SILENT = frozenset("script style template noscript title".split())  # their text is not read
#: Elements that, without attributes, are nothing to us but room for words.
_PLAIN = frozenset("p em strong b i li ul ol dl dt dd td th tr tbody table br code span div blockquote".split())
#: Attributes that fetch or lead to a file, beside `a` and `area`.
_RESOURCES = {
    "img": "src", "link": "href", "script": "src", "iframe": "src", "frame": "src", "source": "src",
    "audio": "src", "video": "src", "embed": "src", "object": "data", "input": "src", "body": "background",
}  # fmt: skip

#: Elements in lines of words that, but for what any element may have, are nothing to us.
_IN_LINES = PHRASING - _SILENT - {"a"}
_MADE = frozenset(MADE_BLOCKS)

NO_MARKS = Marks()
#: Elements that authors put everything into; never a piece of a table or a list.
_BOXES = frozenset("article center div main section".split())
_PROLOG = re.compile(r"(?:\s|<!--.*?-->|<!doctype[^>]*>|<\?[^>]*>)*", re.IGNORECASE | re.DOTALL)
_BODY_END = re.compile(r"</(?:body|html)\s*>", re.IGNORECASE)
#: A paragraph of words that ends right before something, and how far back that is looked for, in characters.
_WORDS_END = re.compile(r"[^\s>]</[pP]>\s*\Z")
_GAP = 24
#: How far before a page's end its body's end tag is looked for where the parser does not say, in characters.
_TAIL = 200


def read_page(path: str, source: Source, marks: Marks = NO_MARKS) -> Page:
    """Return the facts of the page whose source this is; `marks` says what else is known of its content."""
    reader = _Reader(path, source, marks)
    page = reader.read()
    keep_at_hand(markup_of, page, reader.where)
    return page


def read_edited(page: Page, edits: EditSet) -> Page:
    """Return the page that comes of edits. Raises what `apply_edits` raises."""
    return read_page(page.path, page.source.again(apply_edits(page.source, edits)), page.marks)


@dataclass(frozen=True, slots=True)
class _Opening:
    """What opens with a heading: an empty anchor before it, or an element around it."""

    start: int
    end: int  # of the element; 0 for an anchor, which contains nothing
    identifier: str | None


class _Reader:
    """One pass over one tree."""

    def __init__(self, path: str, source: Source, marks: Marks) -> None:
        self.path = path
        self.source = source
        self.text = source.text
        self.where = Markup(source.text)
        self.mark = self.where.mark
        self.tree = self.where.tree
        self.words: list[str] = []
        self.counted = 0
        self.headings: list[tuple[Heading, list[_Opening]]] = []
        self.targets: list[Target] = []
        self.links: list[Link] = []
        self.resources: list[Resource] = []
        self.made: list[Made] = []
        self.seen: set[tuple[int, str]] = set()  # starts of links and targets; the parser clones what is left open
        self.furniture: list[Element] = []
        self.marks = marks
        self.root: Parsed | None = None
        self.outer: tuple[str, ...] = ()
        self.said: dict[Parsed, bool] = {}  # elements that the author said are furniture, or are not
        # how far stretches of the flat list reach: the content, furniture, what is not read, what is not the author's
        self.content_until = self.furniture_until = self.skipped_until = self.quiet_until = -1

    def read(self) -> Page:
        tree = self.tree
        head, html = tree.find("head"), tree.find("html")
        self.root = find_marked(tree, self.marks) or find_content_element(tree)
        if self.root is None:
            blocks = outer_blocks(tree)
            self.outer = tuple(digest for _, digest in blocks)
            self.said |= dict.fromkeys(repeated_blocks(blocks, self.marks.repeated), True)
        self.said |= stated_furniture(tree, self.marks)
        if html is not None:
            self._walk(html)
        tag = "body" if self.root is None else self.root.tag
        headings, content, tag = self._narrow(self._settle_headings(), self._content_span(), tag)
        content = self._without_part_frame(content)
        title = None if head is None else head.find("title")
        if title is None:  # words before the head put what is in it into the body, where it counts as well
            title = next((one for one in tree.find_all("title") if one.namespace is Namespace.HTML), None)
        located = None if title is None else self.where.element(title)
        self.links.sort(key=lambda link: link.start)
        return Page(
            path=self.path,
            source=self.source,
            title=None if title is None else collapse(title.text),
            title_span=Span(located.open.end, located.close.start) if located and located.close else None,
            language=None if html is None else html.attr("lang"),
            base=self._base(),
            html5=is_html5(tree),
            head_end=self._head_end(head),
            body_start=self._body_start(),
            content=content,
            content_tag=tag,
            words=self._count(),
            headings=headings,
            targets=tuple(self.targets),
            links=tuple(self.links),
            resources=tuple(self.resources),
            made=tuple(self.made),
            furniture=tuple(self.furniture),
            marks=self.marks,
            outer=self.outer,
        )

    # ---------------------------------------------------------------- where things are

    def _content_span(self) -> Span:
        root = self.root
        element = None if root is None else self.where.element(root)
        if element is not None:
            return self._without_chrome(Span(element.open.end, element.close.start if element.close else element.end))
        prolog = _PROLOG.match(self.text, self.mark)
        start, end = prolog.end() if prolog else self.mark, len(self.text)
        head = self.tree.find("head")
        for parsed in (self.tree.find("html"), *(head.children if head else ()), head, self.tree.find("body")):
            found = self.where.element(parsed) if isinstance(parsed, Parsed) else None
            if found is not None:
                is_head = found.tag not in ("html", "body")
                start = max(start, found.end if is_head and found.close else found.open.end)
                if found.close and not is_head:
                    end = min(end, found.close.start)
        if end == len(self.text):  # the start tag may be left out and the end tag written
            closing = _BODY_END.search(self.text, max(start, end - _TAIL))
            end = closing.start() if closing and not shows(self.text[closing.start() :]) else end
        return self._without_chrome(Span(start, max(start, end)))

    def _narrow(
        self, headings: tuple[Heading, ...], content: Span, tag: str
    ) -> tuple[tuple[Heading, ...], Span, str]:
        """Return headings, content and its element's tag without boxes that contain all of the content.

        Of a page whose author put everything into a box, the content is what the box contains.
        """
        while len(headings) > 1 and headings[0].ancestors:
            box = headings[0].ancestors[0]
            if box.tag not in _BOXES or "aria-labelledby" in box.open.of(self.text).lower():
                break  # a labelled section belongs to its heading
            shared = all(heading.ancestors[:1] == (box,) for heading in headings)
            around = self.text[content.start : box.open.start], self.text[box.end : content.end]
            if not shared or box.close is None or box.end > content.end or any(map(shows, around)):
                break
            content, tag = self._without_chrome(Span(box.open.end, box.close.start)), box.tag
            headings = tuple(_unboxed(heading, content.start) for heading in headings)
        return headings, content, tag

    def _without_chrome(self, span: Span) -> Span:
        """Return the span without the furniture at its two ends."""
        start, end = span.start, span.end
        first = self.headings[0][0].element.open.start if self.headings else span.end
        last = self.headings[-1][0].element.end if self.headings else span.start
        for part in self.furniture:
            if start <= part.open.start and part.end <= first and not holds(self.text[start : part.open.start]):
                start = part.end
        for part in reversed(self.furniture):
            if max(last, start) <= part.open.start < end and not holds(self.text[part.end : end]):
                end = part.open.start
        return Span(start, max(start, end))

    def _without_part_frame(self, content: Span) -> Span:
        """Return the content of a part without what was made around its slice, where nothing else may go."""
        marks = read_part_marks(self.text)
        if marks is None:
            return content
        start = content.start if marks.number == 1 else marks.head.end
        return Span(start, max(start, marks.slice.end))

    def _base(self) -> str | None:
        """Return the address of the first `base` element that has one (HTML 4.2.3)."""
        return next((str(found.attr("href")) for found in self.tree.find_all("base") if found.attr("href")), None)

    def _body_start(self) -> int | None:
        body = self.tree.find("body")
        element = None if body is None else self.where.element(body)
        return element.open.start if element is not None and element.open.start < element.open.end else None

    def _head_end(self, head: Parsed | None) -> int | None:
        if head is None:
            return None
        located = self.where.element(head)
        if located is not None and located.close is not None:
            return located.close.start
        children = [child for child in head.children if isinstance(child, Parsed)]
        last = self.where.element(children[-1]) if children else None
        return last.end if last else (located.open.end if located else None)

    # ---------------------------------------------------------------- the walk

    def _walk(self, top: Parsed) -> None:
        """Visit the tree in its order, as one flat list: a whole subtree is a run of it, whose length is known."""
        words, said = self.words, self.said
        content_until, quiet_until, skipped_until = -1, -1, -1  # as _enter says; at hand, for this is the hot loop
        boundary = after_text = False  # whether a block began since the last text; whether a text came right before
        for index, node in enumerate(top.descendants):
            kind = type(node)
            if kind is Text:
                if quiet_until <= index < content_until:
                    data = node.data  # type: ignore[attr-defined]
                    if (boundary or after_text) and not data[:1].isspace() and (boundary or follows_block(node)):
                        words.append(" ")
                    words.append(data)
                    boundary = False
                after_text = True
            elif kind is Parsed and index >= skipped_until:
                tag, attributes = node.tag, node.attrs  # type: ignore[attr-defined]
                after_text = tag in VOID
                if tag not in PHRASING:
                    boundary = True
                if attributes or tag not in _PLAIN or (said and node in said):
                    self._enter(index, node, tag, attributes)  # type: ignore[arg-type]
                    content_until, quiet_until = self.content_until, self.quiet_until
                    skipped_until = self.skipped_until

    def _enter(self, index: int, parsed: Parsed, tag: str, attributes: Attributes) -> None:
        """Keep what an element is to us, and how far what it begins reaches."""
        if self._is_plain(parsed, tag, attributes):  # as most are
            if tag == "a":
                self._note_link(parsed, tag, attributes, in_furniture=index < self.furniture_until)
            return
        root = self.root
        if parsed is root or (root is None and tag == "body"):
            self.content_until = index + 1 + size(parsed)
        in_content = index < self.content_until
        furniture = self._is_furniture(parsed, tag, attributes, in_content=in_content)
        if index >= self.furniture_until and furniture:
            self.furniture_until = self.quiet_until = index + 1 + size(parsed)
            element = self.where.element(parsed)
            if element is not None:
                self.furniture.append(element)
        elif tag in _SILENT:
            self.skipped_until = index + 1 + size(parsed)
            self.quiet_until = max(self.quiet_until, self.skipped_until)
        in_furniture = index < self.furniture_until
        if attributes and self._note_attributes(parsed, tag, attributes):
            self.quiet_until = max(self.quiet_until, index + 1 + size(parsed))
        if tag in ("a", "area"):
            if "href" in attributes or not ("id" in attributes or "name" in attributes):
                self._note_link(parsed, tag, attributes, in_furniture=in_furniture)
        elif in_content and not in_furniture and (tag in HEADINGS or "role" in attributes):
            level = heading_level(tag, attributes)
            if level:
                self._note_heading(parsed, level)

    def _is_plain(self, parsed: Parsed, tag: str, attributes: Attributes) -> bool:
        """Return whether an element in a line of words is nothing to us, or a link and nothing but that."""
        if tag == "a":
            if "href" not in attributes or "name" in attributes:
                return False
        elif tag not in _IN_LINES:
            return False
        if "id" in attributes or "role" in attributes or (self.said and parsed in self.said) or parsed is self.root:
            return False
        return "class" not in attributes or _MADE.isdisjoint(attributes["class"] or ())

    def _is_furniture(self, parsed: Parsed, tag: str, attributes: Attributes, *, in_content: bool) -> bool:
        """Return whether an element is furniture: as was decided about it, or else by what it is called."""
        if parsed is self.root:
            return False
        said = self.said.get(parsed) if self.said else None
        if said is not None:
            return said
        found = is_furniture(tag, attributes, in_content=in_content and self.root is not None)
        if found and tag != "nav" and "contents" in (attributes.get("class") or ()):
            return not holds_sections(parsed)  # else it is the author's own box around the content
        return found

    def _note_attributes(self, parsed: Parsed, tag: str, attributes: Attributes) -> bool:
        """Keep what the attributes say; return whether they mark a block we made."""
        if "id" in attributes:
            self._note_target(parsed, "id", attributes["id"])
        if tag == "a":
            if "name" in attributes:
                self._note_target(parsed, "name", attributes["name"])
        elif _RESOURCES.get(tag) in attributes:
            name = _RESOURCES[tag]
            self.resources.append(Resource(str(attributes[name] or ""), tag, name, self.where.start(parsed)))
        return "class" in attributes and self._note_made(parsed, attributes["class"] or ())

    def _note_made(self, parsed: Parsed, classes: Iterable[str]) -> bool:
        kind = next((kind for kind in MADE_BLOCKS if kind in classes), None)
        element = self.where.element(parsed) if kind else None
        if kind is None or element is None or parsed.tag in _SILENT or holds_sections(parsed):
            return False
        links = (self._link(a, "a", a.attrs, in_furniture=False) for a in parsed.find_all("a"))
        own = tuple(link for link in links if link and link.start >= element.open.end)  # what is cloned is before
        self.made.append(Made(kind, element, own, frozenset(classes)))
        return True

    def _note_target(self, parsed: Parsed, attribute: str, name: str | list[str] | None) -> None:
        start = self.where.start(parsed)
        if name and start >= 0 and (start, attribute) not in self.seen:
            self.seen.add((start, attribute))
            self.targets.append(Target(str(name), attribute, parsed.tag, start, len(self.targets)))

    def _note_link(self, parsed: Parsed, tag: str, attributes: Attributes, *, in_furniture: bool) -> None:
        link = self._link(parsed, tag, attributes, in_furniture=in_furniture)
        if link is not None and (link.start, "href") not in self.seen:
            self.seen.add((link.start, "href"))
            self.links.append(link)

    def _link(self, parsed: Parsed, tag: str, attributes: Attributes, *, in_furniture: bool) -> Link | None:
        start = self.where.start(parsed)
        if start < 0:
            return None
        href = str(attributes["href"] or "") if "href" in attributes else None
        text = collapse(parsed.text)
        if not text:
            image = parsed if tag == "area" else parsed.find("img")
            text = collapse(str(image.attr("alt") or "")) if image is not None else ""
        return Link(href, text, classify_link(href), start, in_furniture)

    def _note_heading(self, parsed: Parsed, level: int) -> None:
        element = self.where.plain_heading(parsed) or self.where.element(parsed)
        if element is None:
            return
        below = path_from(self.root, parsed)
        ancestors = tuple(found for node in below if (found := self.where.element(node)))
        text, entry = read_heading(parsed)
        heading = Heading(
            element=element,
            level=level,
            text=text,
            entry=entry,
            identifier=own_identifier(parsed),
            begin=element.open.start,
            ancestors=ancestors,
            words_before=self._count(),
        )
        self.headings.append((heading, self._openings(parsed, below)))

    def _openings(self, parsed: Parsed, below: list[Parsed]) -> list[_Opening]:
        """Return what opens with a heading, from within outwards: empty anchors before it, elements around it."""
        openings: list[_Opening] = []
        start = self.where.start(parsed)
        if _WORDS_END.search(self.text[max(0, start - _GAP) : start]):
            return openings  # as most begin: behind a paragraph of words
        node: Parsed = parsed
        wrappers = list(reversed(below))
        while True:
            for mark in marks_before(node, self._is_open):
                found = self.where.element(mark)
                if found is not None:
                    openings.append(_Opening(found.open.start, 0, identifier_within(mark)))
                    node = mark
            if not wrappers or visible_before(node) is not None:
                return openings
            node = wrappers.pop(0)
            wrapper = self.where.element(node)
            if wrapper is not None:  # else the parser invented it, as it does rows' groups
                openings.append(_Opening(wrapper.open.start, wrapper.end, identifier_of(node)))

    def _is_open(self, parsed: Parsed) -> bool:
        """Return whether an element has no end tag of its own."""
        element = self.where.element(parsed)
        return element is not None and element.close is None

    def _settle_headings(self) -> tuple[Heading, ...]:
        """Return the headings in source order, each with the place where its section can be cut off.

        An element that opens with a heading belongs to that section only where it ends with it.
        """
        self.headings.sort(key=lambda pair: pair[0].element.open.start)
        settled: list[Heading] = []
        followers: list[int] = []  # starts of headings behind, that no nearer one of a higher level hides
        levels: list[int] = []
        for heading, openings in reversed(self.headings):
            while levels and levels[-1] > heading.level:
                levels.pop()
                followers.pop()
            after = followers[-1] if followers else len(self.text)
            begin, identifier = heading.begin, heading.identifier
            for opening in openings:
                if opening.end > after:
                    break
                begin, identifier = opening.start, identifier or opening.identifier
            same = begin == heading.begin and identifier == heading.identifier
            settled.append(heading if same else replace(heading, begin=begin, identifier=identifier))
            followers.append(heading.element.open.start)
            levels.append(heading.level)
        return tuple(reversed(settled))

    def _count(self) -> int:
        """Return the words read so far."""
        self.counted += count_words("".join(self.words))
        self.words.clear()
        return self.counted


def _unboxed(heading: Heading, start: int) -> Heading:
    """Return a heading without its outermost ancestor, behind whose start tag the content starts at `start`."""
    begin = max(heading.begin, min(start, heading.element.open.start))
    return replace(heading, ancestors=heading.ancestors[1:], begin=begin)
