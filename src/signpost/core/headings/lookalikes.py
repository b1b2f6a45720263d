"""Lines that look like headings and are none: bold paragraphs, large fonts, capitals, classes that say so.

Each is scored with its reasons and offered a level from its style and place. Nothing is changed here.
"""

from __future__ import annotations

import re
from bisect import bisect_left, bisect_right
from collections import Counter
from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass, replace
from html import unescape
from itertools import islice

from signpost.core.contents.phrases import heads_contents
from signpost.core.page import Heading, Node, Nodes, Page, read_nodes
from signpost.core.page.phrasing import PHRASING
from signpost.core.text.positions import Span

#: From which score on a look-alike counts as sure; out of 100.
SURE = 70
#: Below which score a line is not worth a question.
LEAST = 40
_LONGEST = 90  # characters of a heading
_MOST_WORDS = 14

_BOLD = frozenset(["b", "strong"])
#: Elements that only make words look like something, and go when the words become a heading.
WRAPPERS = _BOLD | {"font", "big"}
_PEELED = WRAPPERS | frozenset("span u i em a tt small center".split())
#: Elements whose lines are never headings of the page: samples, lists, tables, captions, quotations, forms.
_SHUT = frozenset(
    """
    pre xmp listing code li dl ul ol menu table caption figure figcaption blockquote address form fieldset label
    button select textarea h1 h2 h3 h4 h5 h6 a object svg math video audio canvas details
    """.split()
)
#: Words that head a note or a sample, not a section, in the languages that we have words for.
_LABELS = re.compile(
    r"(?:note|notes|nota|hinweis|remarque|opmerking|obs|warning|warnung|caution|vorsicht|attention|achtung|danger|"
    r"important|wichtig|tip|tipp|hint|astuce|see also|siehe auch|voir aussi|related|examples?|beispiel|exemple|"
    r"örnek|esempio|ejemplo|exempel|todo|new|update|changed)\s*:?",
    re.IGNORECASE,
)
#: What numbers a table, a figure or a sample: the line is its caption.
_CAPTION = re.compile(
    r"(?:table|fig(?:ure|\.)?|example|listing|plate|photo|image|illustration|diagram|map|exhibit|tabelle|abbildung|"
    r"abb\.|bild|beispiel|tableau|exemple|tabel|afbeelding|tabla|figura|tabella)\s*\d[\w.\-–]*\b.*|"
    r"(?:table|figure|fig\.)\s+[IVXLC]+\b.*",
    re.IGNORECASE | re.DOTALL,
)
#: Characters of formulas and programs.
_CODE = re.compile(r"[{}$=<>*\\|]|\w\(|[!&]=|::|->|^\S+\.(?:c|conf|css|h|html?|ini|js|php|pl|py|rb|sh|sql|txt|xml)$")
#: Boxes that contain a sample.
_SAMPLE_CLASS = re.compile(r"example|highlight|listing|sample|\bcode")
#: Boxes that contain an aside with a title of its own.
_ASIDE_CLASS = re.compile(
    r"admonition|note|warning|caution|callout|tip\b|hint|alert|sidebar|example|listing|figure|quote|infobox|toc"
)
_TITLE_CLASS = re.compile(r"(?:^|[-_])(?:title|heading|headline|header|head|subhead|subheading|subtitle|h[1-6])\d?$")
_MINOR_CLASS = re.compile(r"sub")
_TAGS = re.compile(r"<!--.*?-->|<[^>]*>|&nbsp;|&#160;", re.DOTALL)
#: What a reader sees though it has no words.
_SEEN = re.compile(r"<(?:img|hr|table|input)\b", re.IGNORECASE)
_FAR = 2000  # characters of markup beyond which an anchor is not right before a line
_BOLD_STYLE = re.compile(r"font-weight\s*:\s*(?:bold|[6-9]00)", re.IGNORECASE)
_LARGE_STYLE = re.compile(
    r"font-size\s*:\s*(?:(?:x+-)?large|larger|1\.[2-9]\d*r?em|[2-9](?:\.\d+)?r?em|1[2-9]\d%|[2-9]\d\d%|(?:1[89]|[2-9]\d)p[xt])",
    re.IGNORECASE,
)
#: Elements that say a table is one of data, and those that text of a page is made of; words of a cell of text.
_OF_DATA = frozenset("th caption thead tfoot colgroup".split())
_OF_TEXT = frozenset("p h1 h2 h3 h4 h5 h6 ul ol dl blockquote pre hr table".split())
_LONG_CELL = 25
_ANCHORED = 1.5  # sizes by which a line that links lead to ranks above others
_NEARLY_ALL = 0.8  # of the lines that look the same
_NORMAL_SIZE = 3  # of a font element (HTML 15.3.1)
_SHORT_LINE = 8  # words
_LETTERS = 4  # that make a line of capitals, at least


@dataclass(frozen=True, slots=True)
class Run:
    """Words that are on a line of their own within a block."""

    block: Node
    span: Span  # of its markup, white space at its ends left out
    elements: tuple[Node, ...]  # outermost elements in it
    break_after: Node | None  # the `br` that ends it; None where the block does
    whole: bool  # whether the block contains nothing else
    text: str


@dataclass(frozen=True, slots=True)
class Lookalike:
    """A line that looks like a heading."""

    run: Run
    text: str
    level: int  # that it would take
    score: int  # out of 100
    reasons: tuple[str, ...]  # in plain words
    start: int  # where its block, or its line in it, begins
    identifier: str | None  # that a fragment reaches it by already; None where none does

    @property
    def key(self) -> str:
        """By what a refusal is remembered: its words, so that edits elsewhere do not matter."""
        return self.text.casefold()

    @property
    def sure(self) -> bool:
        """Whether it can be made a heading without a question."""
        return self.score >= SURE


@dataclass(frozen=True, slots=True)
class _Look:
    score: int
    size: float  # how large it looks, on the scale of a font element
    reasons: tuple[str, ...]


def find_lookalikes(page: Page, refused: Collection[str] = (), nodes: Nodes | None = None) -> list[Lookalike]:
    """Return the look-alike headings of a page's content in source order; `refused` holds keys of those put aside."""
    nodes = nodes or read_nodes(page)
    looks = [(run, _judge(nodes, run)) for run in _find_runs(nodes)]
    shapes = Counter(look.size for _, look in looks if look.score >= LEAST)
    found = []
    for run, look in looks:
        score, reasons = look.score, look.reasons
        if score >= LEAST and shapes[look.size] > 1:
            more = shapes[look.size] - 1
            score, reasons = score + 10, (*reasons, f"{more} more {'looks' if more == 1 else 'look'} like it")
        found.append((run, _Look(min(score, 100), look.size, reasons)))
    kept = [(run, look) for run, look in found if look.score >= LEAST and run.text.casefold() not in refused]
    levels = _propose_levels(page, kept)
    return [
        Lookalike(run, run.text, level, look.score, look.reasons, _start(run), _identifier(nodes, run))
        for (run, look), level in zip(kept, levels, strict=True)
    ]


def _identifier(nodes: Nodes, run: Run) -> str | None:
    own = run.block.attributes.get("id") if run.whole and run.block.tag in ("p", "div", "table") else None
    marks = (anchor.attributes.get("id") or anchor.attributes.get("name") for anchor in anchors_of(nodes, run))
    return own or next(marks, None)


def _start(run: Run) -> int:
    first = run.whole or run.span.start == run.block.element.open.end
    return run.block.start if first and run.block.tag in ("p", "div", "table") else run.span.start


# ---------------------------------------------------------------------- lines


def _find_runs(nodes: Nodes) -> Iterator[Run]:
    """Yield the lines of the content that could be headings by their length and place."""
    page = nodes.page
    for node in nodes.all:
        if node.tag in PHRASING or (node.tag in _SHUT and node.tag != "table"):
            continue
        if node.element.end <= page.content.start or node.start >= page.content.end:
            continue
        if any(above.tag in _SHUT and _is_shut(nodes, above) for above in nodes.above(node)):
            continue
        if node.tag == "table":
            if not _is_layout(nodes, node) and (lone := _lone_cell(nodes, node)):
                yield lone
            continue
        for run in _lines(nodes, node):
            if _is_short(run) and page.in_content(run.span.start) and not _in_made(page, run.span.start):
                yield run


def _is_shut(nodes: Nodes, above: Node) -> bool:
    """Return whether an element shuts out what it contains.

    Not one that contains the content, nor an unclosed anchor, nor a table that only lays out the page.
    """
    if above.start < nodes.page.content.start or (above.tag == "a" and above.element.close is None):
        return False
    return not (above.tag == "table" and _is_layout(nodes, above))


def _is_layout(nodes: Nodes, table: Node) -> bool:
    """Return whether a table lays out a page: nothing says it is one of data, and a cell contains text or blocks."""
    if table.attributes.get("role") in ("presentation", "none"):
        return True
    below = nodes.below(table)
    if any(node.tag in _OF_DATA for node in below):
        return False
    cells = [node for node in below if node.tag == "td"]
    if any("headers" in cell.attributes or "scope" in cell.attributes for cell in cells):
        return False
    return any(len(cell.text.split()) >= _LONG_CELL or _holds_text(nodes, cell) for cell in cells)


def _holds_text(nodes: Nodes, cell: Node) -> bool:
    """Return whether a cell contains blocks as a page does, more than one paragraph."""
    blocks = [node for node in nodes.below(cell) if node.tag in _OF_TEXT]
    return len(blocks) > 1 or any(node.tag != "p" for node in blocks)


def _in_made(page: Page, offset: int) -> bool:
    return any(made.element.open.start <= offset < made.element.end for made in page.made)


def _is_short(run: Run) -> bool:
    return 0 < len(run.text) <= _LONGEST and len(run.text.split()) <= _MOST_WORDS


def _lone_cell(nodes: Nodes, table: Node) -> Run | None:
    """Return the words of a table that has a single cell and nothing but words in it."""
    cells = [node for node in nodes.below(table) if node.tag in ("td", "th")]
    if len(cells) != 1 or any(node.tag == "table" for node in nodes.below(table)):
        return None
    lines = list(_lines(nodes, cells[0]))
    if len(lines) != 1 or not lines[0].whole or not _is_short(lines[0]):
        return None
    return replace(lines[0], block=table)


def _lines(nodes: Nodes, block: Node) -> Iterator[Run]:
    """Yield the lines of words right within a block, as `br` and other blocks part them."""
    text = nodes.page.text
    inner = nodes.inner(block)
    content = nodes.page.content
    start, end = inner.start, inner.end
    if block.start < content.start:
        start = max(start, content.start)
        end = min(end, content.end)
    pieces: list[Node] = []
    at, lines, other = start, [], False
    children = [child for child in nodes.children(block) if start <= child.start < end]
    for child in [*children, None]:
        inline = child is not None and child.tag in PHRASING | {"img", "wbr", "a"} and not _holds_blocks(nodes, child)
        if child is not None and inline:
            pieces.append(child)
            continue
        stop = end if child is None else child.start
        run = _run(text, block, Span(at, stop), pieces, child if child is not None and child.tag == "br" else None)
        if run:
            lines.append(run)
        pieces = []
        other = other or (child is not None and child.tag != "br")
        at = stop if child is None else child.element.open.end if child.tag == "br" else child.element.end
    for line in lines:
        yield replace(line, whole=len(lines) == 1 and not other)


def _holds_blocks(nodes: Nodes, node: Node) -> bool:
    return any(below.tag not in PHRASING | {"img", "br", "wbr"} for below in nodes.below(node))


def _run(text: str, block: Node, span: Span, pieces: Sequence[Node], break_after: Node | None) -> Run | None:
    raw = span.of(text)
    words = " ".join(_visible(text, span, pieces).split())
    if not words:
        return None
    start = span.start + len(raw) - len(raw.lstrip())
    end = span.start + len(raw.rstrip())
    kept = list(pieces)
    while kept and not kept[-1].text and kept[-1].tag == "a" and not text[kept[-1].element.end : end].strip():
        end = len(text[: kept.pop().start].rstrip())  # an empty anchor behind the words marks what comes next
    return Run(block, Span(start, end), tuple(kept), break_after, whole=False, text=words)


def _visible(text: str, span: Span, pieces: Sequence[Node]) -> str:
    """Return the words of a line: those of its elements, and between them those of the source."""
    words: list[str] = []
    at = span.start
    for piece in pieces:
        words += (_between(text[at : piece.start]), piece.text)
        at = piece.element.end
    return "".join([*words, _between(text[at : span.end])])


def _between(raw: str) -> str:
    return unescape(_TAGS.sub("", raw))


# ---------------------------------------------------------------------- judging


def _judge(nodes: Nodes, run: Run) -> _Look:
    """Return how much a line looks like a heading, and why."""
    reasons: list[str] = []
    score, size = _style(nodes, run, reasons)
    if not score:
        return _Look(0, size, ())
    more, place = _place(nodes, run)
    reasons += place
    if run.block.tag == "table":
        score += 10
        reasons.append("alone in a table of one cell")
    elif run.whole:
        score += 5
    more += _kind(nodes, run, reasons)
    last = run.text[-1]
    if last in ".;,。、":
        score -= 45
        reasons.append(f"but ends with “{last}”")
    elif last == ":":
        score -= 25
        reasons.append("but ends with a colon")
    if len(run.text.split()) > _SHORT_LINE:
        score -= 10
    anchored = _ANCHORED if anchors_of(nodes, run) else 0.0
    return _Look(max(score + more, 0), size + anchored, tuple(reasons))


def _kind(nodes: Nodes, run: Run, reasons: list[str]) -> int:
    """Return what a line loses that titles something else than a section; reasons are added."""
    if _CAPTION.fullmatch(run.text):
        reasons.append("but it is a caption")
        return -60
    if heads_contents(run.text):
        reasons.append("but it heads a list of contents")
        return -60
    score = 0
    if _LABELS.fullmatch(run.text):
        score -= 30
        reasons.append("but it is the label of a note")
    if any(_ASIDE_CLASS.search(" ".join(above.classes)) for above in _around(nodes, run)):
        score -= 30
        reasons.append("but it stands in a box beside the text")
    if _heads_links(nodes, run):
        score -= 40
        reasons.append("but only links follow it")
    after = _next_block(nodes, run)
    if after is not None and (after.tag == "pre" or _SAMPLE_CLASS.search(" ".join(after.classes))):
        score -= 25
        reasons.append("but a sample follows it")
    if _CODE.search(run.text):
        score -= 35
        reasons.append("but it reads like code")
    return score


def _heads_links(nodes: Nodes, run: Run) -> bool:
    """Return whether nothing but links, each on a line of its own, follows a line in its block, as in a menu."""
    if run.whole:
        return False
    inner = nodes.inner(run.block)
    behind = [
        node
        for node in nodes.below(run.block)
        if node.tag == "a" and "href" in node.attributes and run.span.end <= node.start
    ]
    if len(behind) < 2:  # noqa: PLR2004
        return False
    following = nodes.page.text[run.span.end : behind[1].element.end]
    words = len(_between(following).split()) - sum(len(link.text.split()) for link in behind[:2])
    return words == 0 and behind[1].element.end <= inner.end


def _around(nodes: Nodes, run: Run) -> list[Node]:
    """Return a line's block and the two elements around it."""
    return [run.block, *islice(nodes.above(run.block), 2)]


def _style(nodes: Nodes, run: Run, reasons: list[str]) -> tuple[int, float]:
    """Return a score for how a line looks, and how large; reasons are added."""
    score, size = 0, float(_NORMAL_SIZE)
    peeled = _peel(nodes, run)
    dressed = [*peeled, *([run.block] if run.whole and run.block.tag in ("p", "div") else [])]
    if any(node.tag in _BOLD or _BOLD_STYLE.search(node.attributes.get("style", "")) for node in dressed):
        score, size = 60 if run.whole else 50, size + 0.5
        reasons.append("bold, alone in its paragraph" if run.whole else "a bold line before a break")
    larger = max(map(_font_size, dressed), default=0.0)
    if larger > _NORMAL_SIZE:
        score, size = max(score + 15, 60 if run.whole else 50), larger + (0.5 if score else 0)
        reasons.append("in a larger font")
    named = next((name for node in dressed for name in sorted(node.classes) if _TITLE_CLASS.search(name)), None)
    if named:
        score, size = max(score + 15, 65), size + (0.8 if _MINOR_CLASS.search(named) else 1.2)
        reasons.append(f"its class is “{named}”")
    letters = [char for char in run.text if char.isalpha()]
    if len(letters) >= _LETTERS and all(char.isupper() for char in letters) and (run.whole or score):
        score = score + 15 if score else 45
        reasons.append("all in capitals")
    if score and any(node.tag == "a" and "href" in node.attributes for node in peeled):
        score -= 40
        reasons.append("but it is a link")
    return score, size


def _peel(nodes: Nodes, run: Run) -> list[Node]:
    """Return the elements that contain all of a line's words, outermost first."""
    peeled: list[Node] = []
    current = [piece for piece in run.elements if piece.text]
    whole = run.text
    while len(current) == 1 and current[0].tag in _PEELED and current[0].text == whole:
        peeled.append(current[0])
        if current[0].bare:
            break
        current = [child for child in nodes.children(current[0]) if child.text]
    return peeled


def _font_size(node: Node) -> float:
    """Return the size an element gives its words, as of a font element; 0 where it says none."""
    if node.tag == "big":
        return _NORMAL_SIZE + 1
    if node.tag == "font":
        spelled = node.attributes.get("size", "").strip()
        if re.fullmatch(r"[+-]?\d+", spelled):
            number = int(spelled)
            return float(_NORMAL_SIZE + number if spelled[0] in "+-" else number)
    return _NORMAL_SIZE + 1.5 if _LARGE_STYLE.search(node.attributes.get("style", "")) else 0.0


def anchors_of(nodes: Nodes, run: Run) -> list[Node]:
    """Return the anchors with a `name` or `id` that mark a line: right before its block or words, around or in it."""
    text, anchors = nodes.page.text, nodes.anchors
    starts = [node.start for node in anchors]
    first, behind = bisect_left(starts, run.span.start), bisect_right(starts, run.span.end)
    found = list(anchors[first:behind])
    at = run.span.start
    for node in reversed(anchors[:first]):
        end = node.element.open.end if node.element.close is None else node.element.end
        gap = text[end:at]
        if len(gap) > _FAR or _between(gap).strip() or _SEEN.search(gap):
            break
        if not node.text or node.element.close is None:
            found.insert(0, node)
        at = node.start
    return found


def _place(nodes: Nodes, run: Run) -> tuple[int, list[str]]:
    """Return what its surroundings say for a line, and why."""
    score, reasons = 0, []
    if anchors_of(nodes, run):
        score += 15
        reasons.append("marked with an anchor")
    after = _next_block(nodes, run)
    if after is None:
        return score - 30, [*reasons, "but nothing follows it"]
    if after.tag in ("h1", "h2", "h3", "h4", "h5", "h6"):
        level = int(after.tag[1])
        return score - 5, [*reasons, f"right before a heading of level {level}"]
    if after.tag in ("ul", "ol") and _only_jumps(nodes, after):
        return score - 40, [*reasons, "but it names a list of jump links"]
    if len(after.text) > len(run.text):
        score += 10
        reasons.append("text follows")
    return score, reasons


def _next_block(nodes: Nodes, run: Run) -> Node | None:
    """Return the element with the words that follow a line; its own block where they are there."""
    end = run.block.element.end if run.whole else run.span.end
    if not run.whole and nodes.page.text[run.span.end : nodes.inner(run.block).end].strip():
        return run.block
    worded = nodes.worded
    return next(iter(worded[bisect_left(worded, end, key=lambda node: node.start) :][:1]), None)


def _only_jumps(nodes: Nodes, block: Node) -> bool:
    links = [node for node in nodes.below(block) if node.tag == "a" and "href" in node.attributes]
    return bool(links) and all(node.attributes["href"].startswith("#") for node in links)


# ---------------------------------------------------------------------- levels


def _propose_levels(page: Page, kept: Sequence[tuple[Run, _Look]]) -> list[int]:
    """Return a level for each: from its place where the page has headings below the first level, else by its size."""
    starts = [heading.element.open.start for heading in page.headings]
    if any(heading.level > 1 for heading in page.headings):
        by_place = [_level_by_place(page.headings, bisect_right(starts, run.span.start)) for run, _ in kept]
        return _alike([look.size for _, look in kept], by_place)
    sizes = sorted({look.size for _, look in kept}, reverse=True)
    titled = bool(page.headings)
    if not titled and kept:
        largest = [look for _, look in kept if look.size == sizes[0]]
        titled = not (len(largest) == 1 and kept[0][1] is largest[0] and len(kept) > 1)
    first = 2 if titled else 1
    levels: list[int] = []
    for _, look in kept:
        deepest = levels[-1] + 1 if levels else first
        levels.append(min(first + sizes.index(look.size), deepest, 6))
    return _alike([look.size for _, look in kept], levels)


def _alike(sizes: Sequence[float], by_place: Sequence[int]) -> list[int]:
    """Return levels that are the same for lines that look the same: the highest that one of them has by its place.

    Where nearly all have one level by their places, the few others keep theirs.
    """
    own: dict[float, Counter[int]] = {}
    for size, level in zip(sizes, by_place, strict=True):
        own.setdefault(size, Counter())[level] += 1
    levels = []
    for size, level in zip(sizes, by_place, strict=True):
        most = max(own[size].values())
        levels.append(level if most >= _NEARLY_ALL * own[size].total() else min(own[size]))
    return levels


def _level_by_place(headings: Sequence[Heading], following: int) -> int:
    """Return the level for a line before the heading with index `following`.

    It is one below the heading above; but the same where the headings that follow are the first ones below it, and so
    would be left without their own.
    """
    if following == 0:
        return max(2, headings[0].level)
    before = headings[following - 1].level
    after = headings[following].level if following < len(headings) else 0
    if after > before:
        return max(2, before)
    return min(before + 1, 6)
