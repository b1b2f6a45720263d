"""The facts of a page, frozen: what later stages compute with."""

from __future__ import annotations

from bisect import bisect_right
from dataclasses import dataclass
from functools import cached_property

from signpost.core.addresses.fragments import Targets
from signpost.core.addresses.links import LinkKind, relative_address, resolve_path
from signpost.core.page.furniture import Marks
from signpost.core.page.part_marks import PartMarks, read_part_marks
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import Span
from signpost.core.text.source import Source
from signpost.core.text.tags import Attribute, scan_attributes

#: Classes by which blocks that we made are recognised.
MADE_BLOCKS = (
    "part-contents", "contents", "back-to-top", "part-links", "moved-sections", "letters", "page-path", "page-steps",
    "site-contents", "site-index",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Element:
    """An element that its author wrote; what the parser invents or clones has no place and is not here."""

    tag: str  # in lower case
    open: Span  # its start tag
    close: Span | None  # its end tag; None where the source has none
    end: int  # behind the end tag, or where the parser ended the element


@dataclass(frozen=True, slots=True)
class Heading:
    """A heading of the page's own content."""

    element: Element
    level: int  # 1 the highest; `aria-level` may go beyond 6
    text: str  # its words, white space collapsed
    entry: str  # its inner markup as a contents entry shows it: words, code and emphasis
    identifier: str | None  # that a fragment reaches the heading by; None where it has none
    begin: int  # where the section can be cut off: before wrappers and anchors that open with the heading
    ancestors: tuple[Element, ...]  # between the content's own element and the heading, outermost first
    words_before: int  # words of the content that are before it


@dataclass(frozen=True, slots=True)
class Target:
    """What a fragment can point to."""

    name: str
    attribute: str  # "id" or "name"
    element: str  # its tag
    start: int  # of its start tag
    order: int  # among all targets, in tree order


@dataclass(frozen=True, slots=True)
class Link:
    """An `a` or `area` that leads somewhere, or should."""

    href: str | None  # character references resolved; None where there is no such attribute
    text: str  # its words, white space collapsed; of a picture, its `alt`
    kind: LinkKind
    start: int  # of its start tag
    in_furniture: bool  # whether it is in the page's navigation, header or footer


@dataclass(frozen=True, slots=True)
class Resource:
    """A file that the page loads."""

    url: str
    element: str  # the tag that loads it
    attribute: str  # the name of the attribute that contains the address
    start: int  # of the start tag


@dataclass(frozen=True, slots=True)
class Made:
    """A block that we made on an earlier run."""

    kind: str  # one of MADE_BLOCKS
    element: Element
    links: tuple[Link, ...]
    classes: frozenset[str] = frozenset()


@dataclass(frozen=True)
class Page:
    """The facts of one page."""

    path: str  # within its site
    source: Source
    title: str | None  # None where the page has no `title`
    title_span: Span | None  # of the words between its tags
    language: str | None
    base: str | None  # the address that its `base` element gives, from which relative ones start
    html5: bool  # whether its document type allows the elements of HTML 5
    head_end: int | None  # where the head's last child ends: room for another; None where no head is written
    body_start: int | None  # of the body's start tag; None where it is left out
    content: Span  # where the page's own content is, its element's tags outside
    content_tag: str  # of the element that contains it
    words: int  # of its own content
    headings: tuple[Heading, ...]  # of its own content, in source order
    targets: tuple[Target, ...]  # in tree order, furniture included
    links: tuple[Link, ...]  # in source order, furniture included
    resources: tuple[Resource, ...]
    made: tuple[Made, ...]
    furniture: tuple[Element, ...]  # outermost elements of the page's furniture
    marks: Marks  # what was known of its content beside its own markup
    outer: tuple[str, ...]  # digests of the body's blocks, where no mark tells the content from the body; else ()

    @property
    def text(self) -> str:
        """The page's text."""
        return self.source.text

    def resolve(self, href: str, site_base: str | None = None) -> tuple[str, str | None] | None:
        """Return the site path and the fragment that an address on the page leads to (see links.resolve_path)."""
        return resolve_path(self.path, href, site_base, self.base)

    def address_of(self, path: str, fragment: str | None = None, site_base: str | None = None) -> str:
        """Return the address on the page of a place of the site.

        Raises RequestError where the page's `base` element leads out of the site, so that none can be known.
        """
        if self.base is None:
            return relative_address(self.path, path, fragment)
        start = resolve_path(self.path, self.base, site_base)
        if start is None:
            raise RequestError(
                f"The base element of {self.path} leads out of the site, so addresses within the site cannot be "
                "written there. Remove the base element, or set the site's own address."
            )
        return relative_address(start[0], path, fragment)

    def attribute_at(self, start: int, name: str) -> Attribute | None:
        """Return an attribute of the start tag that begins at `start`, where it is; None where it has none."""
        return next((found for found in self.attributes_at(start) if found.name == name), None)

    def attributes_at(self, start: int) -> tuple[Attribute, ...]:
        """Return all attributes of the start tag that begins at `start`, where they are."""
        return scan_attributes(self.text, start)

    def index_targets(self) -> Targets[Target]:
        """Return what fragments can point to on this page."""
        ids: dict[str, Target] = {}
        names: dict[str, Target] = {}
        for target in self.targets:
            (ids if target.attribute == "id" else names).setdefault(target.name, target)
        return Targets(ids, names)

    @cached_property
    def section_starts(self) -> list[int]:
        """Where the headings' start tags begin, by section index."""
        return [heading.element.open.start for heading in self.headings]

    def section_at(self, offset: int) -> int:
        """Return the index of the section that `offset` lies in, from its heading's start tag on; -1 for the lead."""
        return bisect_right(self.section_starts, offset) - 1

    @cached_property
    def part_marks(self) -> PartMarks | None:
        """What the page says of itself as a part of another one; None for a page that is none."""
        return read_part_marks(self.text)

    def words_between(self, start: Heading, end: Heading | None) -> int:
        """Return the words from one heading to another, or to the end of the content."""
        return (self.words if end is None else end.words_before) - start.words_before

    def made_blocks(self, kind: str) -> list[Made]:
        """Return the blocks of one kind that we made earlier, in source order."""
        return [block for block in self.made if block.kind == kind]

    def in_content(self, offset: int) -> bool:
        """Return whether `offset` lies in the page's own content, outside its furniture."""
        if not self.content.start <= offset < self.content.end:
            return False
        for part in self.furniture:  # a loop, for this is asked of every link # noqa: SIM110
            if part.open.start <= offset < part.end:
                return False
        return True
