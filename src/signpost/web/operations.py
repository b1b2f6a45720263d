"""The operations that a request can ask for, with their parameters."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field

from signpost.core.back_to_top.planning import Corner, Destination
from signpost.core.contents import Choice
from signpost.core.entries.planning import Bar
from signpost.core.entries.terms import MOST_TERMS
from signpost.core.jumps.planning import Edge
from signpost.core.navigation.planning import NavigationKind
from signpost.core.parts.options import Forwarding, LinkPiece, PartContents
from signpost.core.reading_style.style import PartLook, StylePart
from signpost.core.references.deletions import Leading
from signpost.web.requests import Body, CutBody, HeadingLevel, Identifier, Level, Line, PagePath, RuleCode, WindowBody


class _Operation(Body):
    page: PagePath

    def parameters(self) -> dict[str, Any]:
        """Return what the operation is asked for, without its name and page."""
        return self.model_dump(exclude={"operation", "page"})


class _ManyPages(_Operation):
    without: list[PagePath] | None = Field(None, max_length=20_000)  # pages that stay as they are


class Promote(_Operation):
    """Look-alike headings made real: their levels by index."""

    operation: Literal["promote"]
    levels: dict[int, HeadingLevel] = Field(min_length=1)


class Levels(_Operation):
    """Headings brought to levels, by section index."""

    operation: Literal["levels"]
    levels: dict[int, HeadingLevel] = Field(min_length=1)
    with_subsections: bool = False


class Shift(_Operation):
    """Headings lowered, or raised where `by` is negative."""

    operation: Literal["shift"]
    sections: list[int] = Field(min_length=1)
    by: Annotated[int, Field(ge=-5, le=5)]
    with_subsections: bool = True


class Repair(_Operation):
    """A repair of the levels that was proposed."""

    operation: Literal["repair"]
    code: Literal["gaps", "several-h1", "no-h1"]


class Words(_Operation):
    """Other words for a heading."""

    operation: Literal["words"]
    section: int
    words: Line


class InsertHeading(_Operation):
    """A new heading before a block."""

    operation: Literal["insert-heading"]
    before: int
    level: HeadingLevel
    words: Line
    identifier: Identifier = ""


class Wrap(_Operation):
    """Sections put into elements of their own."""

    operation: Literal["wrap"]
    levels: list[Level] = Field([2, 3, 4, 5, 6], min_length=1)


class Unwrap(_Operation):
    """Section elements removed."""

    operation: Literal["unwrap"]
    levels: list[Level] = Field([1, 2, 3, 4, 5, 6], min_length=1)


class Separators(_Operation):
    """Separators before sections."""

    operation: Literal["separators"]
    levels: list[Level] = Field([2], min_length=1)


class NoSeparators(_Operation):
    """Separators removed."""

    operation: Literal["no-separators"]
    levels: list[Level] = Field([1, 2, 3, 4, 5, 6], min_length=1)


class Plain(_Operation):
    """What needs no choice: comments behind far end tags on and off, raw samples escaped, what we made removed."""

    operation: Literal["end-notes", "no-end-notes", "escape-samples", "no-back-to-top", "no-letters", "no-style"]


class Move(_Operation):
    """A section moved one step, with its subsections."""

    operation: Literal["move"]
    section: int
    direction: Literal["up", "down", "in", "out"]


class SectionEdit(_Operation):
    """A section duplicated or removed, with its subsections."""

    operation: Literal["duplicate", "remove-section"]
    section: int


class Drop(_Operation):
    """A section moved before, after or into another one."""

    operation: Literal["drop"]
    section: int
    target: int
    where: Literal["before", "after", "into"]


class Skeleton(_Operation):
    """Titles made into headings with identifiers, and contents; before a block or at the end."""

    operation: Literal["skeleton"]
    titles: Annotated[str, Field(max_length=20_000)]
    highest: HeadingLevel = 2
    before: int | None = None
    contents: bool = True


class NewPage(_Operation):
    """A new page made of titles; with `take_frame`, what is around the content of `page` is taken over."""

    operation: Literal["new-page"]
    path: PagePath
    title: Line
    titles: Annotated[str, Field(max_length=20_000)]
    take_frame: bool = True
    contents: bool = True


class CopyPage(_Operation):
    """A new page that is a copy of this one, with a title of its own."""

    operation: Literal["copy-page"]
    path: PagePath
    title: Line


class MoveFiles(_Operation):
    """Files renamed or moved: their new paths by the old ones; with `forward`, pages leave one that leads on."""

    operation: Literal["move-files"]
    moves: dict[PagePath, PagePath] = Field(min_length=1, max_length=1000)
    forward: bool = False


class FollowMoves(_ManyPages):
    """Addresses of files that were moved in the folder already: their paths now, by those before."""

    operation: Literal["follow-moves"]
    moves: dict[PagePath, PagePath] = Field(min_length=1, max_length=10_000)


class DeleteFile(_Operation):
    """A file taken out of its site; links to it lead to `goal`, are links no more, or are left broken."""

    operation: Literal["delete-file"]
    path: PagePath
    leading: Leading = Leading.LEAVE
    goal: Annotated[str, Field(max_length=400)] = ""


class ChangeLinks(_Operation):
    """Links given the new addresses of a list, CSV or JSON, as it was exported."""

    operation: Literal["change-links"]
    text: Annotated[str, Field(max_length=20_000_000)]


class Alike(_ManyPages):
    """Copies of a block on several pages made alike, as the one on the page `model` is, or as most are."""

    operation: Literal["alike"]
    block: Annotated[str, Field(max_length=1000)] = ""  # "" for all blocks
    model: Annotated[str, Field(max_length=400)] = ""


class Spread(_ManyPages):
    """A block of the page `model` put on pages that lack it."""

    operation: Literal["spread"]
    block: Annotated[str, Field(max_length=1000)]
    model: PagePath
    pages: list[PagePath] = Field(min_length=1, max_length=20_000)


class Navigation(_ManyPages):
    """Navigation across pages made, renewed, or taken out again."""

    operation: Literal["navigation"]
    kind: NavigationKind
    pages: list[PagePath] = Field([], max_length=20_000)  # in their order; none for all, as they are read
    home: PagePath | None = None  # the page that a list over the site is on
    block: Annotated[str, Field(max_length=1000)] = ""  # the menu that is changed; "" for a new one
    is_list: bool = True
    separator: Annotated[str, Field(max_length=20)] = "|"
    sections: bool = False  # whether a menu lists sections below its pages
    depth: Annotated[int, Field(ge=0, le=6)] = 1  # levels of sections in a list of all pages
    remove: bool = False


class MenuSection(_Operation):
    """A section of the page in a menu that pages share."""

    operation: Literal["menu-section"]
    block: Annotated[str, Field(min_length=1, max_length=1000)]
    section: Annotated[int, Field(ge=0)]
    words: Annotated[str, Field(max_length=400)] = ""  # "" for those of the heading


class HeadSaid(Body):
    """What a page's head shall say; null leaves it as it is."""

    title: Annotated[str, Field(max_length=400)] | None = None
    description: Annotated[str, Field(max_length=1000)] | None = None
    language: Annotated[str, Field(max_length=40)] | None = None
    viewport: bool | None = None  # whether it says that it is as wide as the reader's window
    utf8: bool = False  # whether it is written in UTF-8 from now on


class Heads(_ManyPages):
    """Heads of pages that say something else, by path; with a pattern, the titles of `pages` follow it."""

    operation: Literal["heads"]
    heads: dict[PagePath, HeadSaid] = Field(default_factory=dict, max_length=1000)
    pattern: Annotated[str, Field(max_length=200)] = ""
    pages: list[PagePath] = Field(default_factory=list, max_length=1000)


class Recipe(_ManyPages):
    """A recipe carried out over the site: operations with their settings, in TOML."""

    operation: Literal["recipe"]
    text: Annotated[str, Field(max_length=100_000)]


class Title(_Operation):
    """Another title for the page; a first heading that said the same follows."""

    operation: Literal["title"]
    words: Line


class Sample(_Operation):
    """A sample of code put before a block, escaped."""

    operation: Literal["sample"]
    before: int
    code: Annotated[str, Field(max_length=200_000)]


class Identify(_Operation):
    """Identifiers for the sections that have none; without levels, for those that the site's settings say."""

    operation: Literal["identify"]
    levels: list[Level] = Field([])


class SetIdentifiers(_Operation):
    """Identifiers chosen by the author, by section index."""

    operation: Literal["set-identifiers"]
    identifiers: dict[int, Identifier] = Field(min_length=1)


class Rename(_Operation):
    """Another name for an identifier; the old one may stay beside it."""

    operation: Literal["rename"]
    old: Identifier
    new: Identifier
    keep_old: bool = False


class MarkPlace(_Operation):
    """An identifier for the element whose start tag begins at an offset, or for the top or bottom of the content."""

    operation: Literal["place"]
    start: int | Literal["top", "bottom"]
    identifier: Identifier


class Anchors(_Operation):
    """Old anchors' names moved to identifiers."""

    operation: Literal["anchors"]
    keep: bool = False


class Apart(_Operation):
    """New identifiers for the elements that links do not reach, where one is used twice."""

    operation: Literal["apart"]
    name: Identifier


class Relink(_Operation):
    """A broken link led to another identifier of the page that it leads to."""

    operation: Literal["relink"]
    start: int
    identifier: Identifier


class Contents(_Operation):
    """Contents made or refreshed; what is not said stays as it is."""

    operation: Literal["contents"]
    levels: Annotated[list[Level], Field(min_length=1)] | None = None
    form: Literal["list", "row"] | None = None
    left_out: list[Identifier] | None = None
    ordered: bool | None = None
    numbered: bool | None = None
    label: Annotated[str, Field(max_length=100)] = ""
    separator: Annotated[str, Field(max_length=20)] = ""
    prefix: Annotated[str, Field(max_length=40)] | None = None
    suffix: Annotated[str, Field(max_length=40)] | None = None
    spot: Literal["lead", "top", "side", "section"] = "lead"
    before: int | None = None
    home: int | None = None
    block: Annotated[int, Field(ge=0)] | Literal["new"] | None = None
    kept: list[int] = Field([])


class Adopt(_Operation):
    """A list made by hand made the page's contents; `sections` says what its entries mean, by their positions."""

    operation: Literal["adopt"]
    start: int
    levels: Annotated[list[Level], Field(min_length=1)] | None = None
    sections: dict[int, Annotated[int, Field(ge=0)] | Choice] = Field({})


class MoveContents(_Operation):
    """Contents moved to another place."""

    operation: Literal["move-contents"]
    block: int = 0
    spot: Literal["lead", "top", "side", "section"] = "lead"
    before: int | None = None


class Entry(_Operation):
    """Words of an entry; without any, those of its heading."""

    operation: Literal["entry"]
    block: int = 0
    section: int
    words: Annotated[str, Field(max_length=400)] = ""


class TermRow(Body):
    """A term of an entry list."""

    term: Line
    label: Annotated[str, Field(max_length=400)] = ""
    identifier: Identifier = ""
    text: Annotated[str, Field(max_length=50_000)] = ""


class Entries(_Operation):
    """An entry for each term, in a section or right on the page; those that are there are brought up to date."""

    operation: Literal["entries"]
    terms: list[TermRow] = Field(min_length=1, max_length=MOST_TERMS)
    home: int | None = None
    bar: Bar = Bar.LETTERS
    sort: bool = True


class NoContents(_Operation):
    """Contents removed; all of them where no block is chosen."""

    operation: Literal["no-contents"]
    block: int | None = None


class _Look(_Operation):
    """What a link says beside its address; what is null stays as it is."""

    title: Annotated[str, Field(max_length=200)] | None = None
    new_window: bool | None = None
    tells_window: bool = False  # in words behind the link's
    rel: Annotated[str, Field(max_length=200)] | None = None
    language: Annotated[str, Field(max_length=40)] | None = None
    insists: bool = False  # whether a jump on the same page may open a window


class Jump(_Look):
    """Words or a picture made a jump link, or a link led elsewhere; `to_page` is this page where it is empty."""

    operation: Literal["jump"]
    start: int
    end: int
    to_page: Annotated[str, Field(max_length=400)] = ""
    section: int | None = None
    identifier: Identifier = ""
    edge: Edge | None = None  # of the page's content
    element: int | None = None  # on the page, by its start tag; it gets an identifier where it has none
    words: Annotated[str, Field(max_length=300)] = ""  # of that page, for browsers to open it at
    button: bool = False
    beside: bool = True  # of words that are a button: whether that stays, with the link behind it
    back: bool = False  # whether the section that it leads to points back


class Pair(_Operation):
    """A line “See also” at the end of a section, and at the end of the one that it leads to."""

    operation: Literal["pair"]
    section: int  # by index; -1 for the page
    to_page: Annotated[str, Field(max_length=400)] = ""
    to_section: int | None = None  # None for the page
    both: bool = True


class OwnAddresses(_ManyPages):
    """Full addresses of the site made relative on all pages, or relative ones full."""

    operation: Literal["own-addresses"]
    full: bool = False


class LinkTo(_Look):
    """Words or a picture made a link to any address, or a link led there; what is null of the rest stays as it is."""

    operation: Literal["link"]
    start: int
    end: int
    address: Annotated[str, Field(min_length=1, max_length=4000)]
    download: bool | None = None


class NoJump(_Operation):
    """A link removed; its words stay."""

    operation: Literal["no-jump"]
    start: int


class LinkWords(_Operation):
    """Other words for a link."""

    operation: Literal["link-words"]
    start: int
    words: Line


class BackToTop(_Operation):
    """Back-to-top links made, refreshed and made alike; with `everywhere`, on all pages of the site."""

    operation: Literal["back-to-top"]
    levels: list[Level] = Field([2], min_length=1)
    to: Destination = Destination.TOP
    least_words: int = Field(0, ge=0)
    least_windows: float = Field(0, ge=0, le=1000)
    words: str = Field("", max_length=100)
    corner: Corner = Corner.END
    alike: bool = False
    everywhere: bool = False
    window: WindowBody | None = None  # that heights were measured in


class Style(_Operation):
    """The reading style put into the site's style sheet, or renewed there."""

    operation: Literal["style"]
    parts: list[StylePart]
    accent: Annotated[str, Field(max_length=20)] = "#1d5c4a"
    wash: Annotated[str, Field(max_length=20)] = "#fff3c4"
    bar: float = 4.0
    side: float = 16.0
    narrow: float = 60.0
    below: float = 50.0
    look: PartLook = PartLook.LINE


class _PartOptions(_Operation):
    """How a page is cut; what is not said is as it was, or as usual."""

    links: list[LinkPiece] | None = None
    contents: PartContents | None = None
    forward: list[Forwarding] | None = None
    pattern: Annotated[str, Field(max_length=200)] = ""
    raise_levels: bool | None = None


class Parts(_PartOptions):
    """A page cut, or its parts cut anew: before sections, by index, or at places of the whole page, by offset."""

    operation: Literal["parts"]
    sections: list[int] = Field([], max_length=500)
    cuts: list[CutBody] = Field([], max_length=500)
    frame: PagePath | None = None  # whose head, header and footer stay, where a part goes that has others


class RefreshParts(_PartOptions):
    """The parts of a page brought up to date."""

    operation: Literal["refresh-parts"]


class ReorderParts(_Operation):
    """The parts of a page in another order, by their numbers now."""

    operation: Literal["reorder-parts"]
    order: list[int] = Field(min_length=2, max_length=500)


class JoinParts(_Operation):
    """The parts of a page joined to one page."""

    operation: Literal["join"]
    frame: PagePath | None = None  # whose head, header and footer stay, where the parts' differ


class FixFindings(_ManyPages):
    """Findings fixed: one, all of a rule, or all that take no choice; on the page or on all pages of the site."""

    operation: Literal["fix"]
    rule: RuleCode | None = None
    start: int | None = None  # offset of the one finding
    choice: Annotated[int, Field(ge=0, le=20)] | None = None  # of those that are offered, from 0 on
    everywhere: bool = False


class WriteSiteFile(_Operation):
    """What is settled for the site written into its own file."""

    operation: Literal["site-file"]


class Tidy(_Operation):
    """The indentation of some lines, 1-based, made to follow their elements."""

    operation: Literal["tidy"]
    first_line: Annotated[int, Field(ge=1)]
    last_line: Annotated[int, Field(ge=1)]


class Type(_Operation):
    """A page's source as its author typed it, with a line feed at every line end."""

    operation: Literal["type"]
    text: str


Operation = Annotated[
    Promote
    | Levels
    | Shift
    | Repair
    | Words
    | InsertHeading
    | Wrap
    | Unwrap
    | Separators
    | NoSeparators
    | Plain
    | Move
    | Drop
    | SectionEdit
    | Skeleton
    | NewPage
    | CopyPage
    | MoveFiles
    | FollowMoves
    | DeleteFile
    | ChangeLinks
    | Alike
    | Spread
    | Navigation
    | MenuSection
    | MenuSection
    | Heads
    | Recipe
    | Title
    | Sample
    | Identify
    | SetIdentifiers
    | Rename
    | MarkPlace
    | Anchors
    | Apart
    | Relink
    | Contents
    | Adopt
    | MoveContents
    | Entry
    | Entries
    | Jump
    | Pair
    | OwnAddresses
    | LinkTo
    | NoJump
    | LinkWords
    | Style
    | NoContents
    | BackToTop
    | Parts
    | RefreshParts
    | ReorderParts
    | JoinParts
    | FixFindings
    | WriteSiteFile
    | Tidy
    | Type,
    Field(discriminator="operation"),
]
