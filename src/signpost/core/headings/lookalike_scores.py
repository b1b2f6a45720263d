"""How much a line looks like a heading, and why."""

from __future__ import annotations

import re
from bisect import bisect_left, bisect_right
from collections.abc import Mapping
from dataclasses import dataclass
from itertools import islice, takewhile

from signpost.core.contents.phrases import heads_contents
from signpost.core.headings.lookalike_lines import BOLD, WRAPPERS, Run, between
from signpost.core.page import Node, Nodes, Page
from signpost.core.page.kept import kept_with_page

_PEELED = WRAPPERS | frozenset("span u i em a tt small center".split())
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
#: What a reader sees though it has no words.
_SEEN = re.compile(r"<(?:img|hr|table|input)\b", re.IGNORECASE)
_FAR = 2000  # characters of markup beyond which an anchor is not right before a line
_BOLD_STYLE = re.compile(r"font-weight\s*:\s*(?:bold|[6-9]00)", re.IGNORECASE)
_LARGE_STYLE = re.compile(
    r"font-size\s*:\s*(?:(?:x+-)?large|larger|1\.[2-9]\d*r?em|[2-9](?:\.\d+)?r?em|1[2-9]\d%|[2-9]\d\d%|(?:1[89]|[2-9]\d)p[xt])",
    re.IGNORECASE,
)
_STYLES = re.compile(r"<style\b[^<>]*>(.*?)</style", re.IGNORECASE | re.DOTALL)
_COMMENT = re.compile(r"/\*.*?(?:\*/|\Z)", re.DOTALL)
#: A rule for a class alone, or for one of paragraphs, boxes or spans.
_CLASS_RULE = re.compile(r"(?:^|[{},;>\s])(?:(?:p|div|span)(?=\.))?\.([A-Za-z_][\w-]*)\s*\{([^{}]*)\}")
_ANCHORED = 1.5  # sizes by which a line that links lead to ranks above others
_NORMAL_SIZE = 3  # of a font element (HTML 15.3.1)
_SHORT_LINE = 8  # words
_LETTERS = 4  # that make a line of capitals, at least


@dataclass(frozen=True, slots=True)
class Appearance:
    """What there is to say of how a line looks."""

    score: int
    size: float  # how large it looks, on the scale of a font element
    reasons: tuple[str, ...]


def makes_title(declarations: str) -> bool:
    """Return whether declarations of a style make words bold or large."""
    return bool(_BOLD_STYLE.search(declarations) or _LARGE_STYLE.search(declarations))


def judge_run(nodes: Nodes, run: Run) -> Appearance:
    """Return how much a line looks like a heading, and why."""
    reasons: list[str] = []
    score, size = _style(nodes, run, reasons)
    if not score:
        return Appearance(0, size, ())
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
    return Appearance(max(score + more, 0), size + anchored, tuple(reasons))


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
        reasons.append("but it is in a box beside the text")
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
    links = nodes.page.links
    later = (links[at] for at in range(bisect_left(links, run.span.end, key=lambda one: one.start), len(links)))
    within = takewhile(lambda one: one.start < inner.end, later)
    found = (nodes.at(one.start) for one in within if one.href is not None)
    behind = list(islice((node for node in found if node is not None and node.tag == "a"), 2))
    if len(behind) < 2:  # noqa: PLR2004
        return False
    following = nodes.page.text[run.span.end : behind[1].element.end]
    words = len(between(following).split()) - sum(len(link.text.split()) for link in behind[:2])
    return words == 0 and behind[1].element.end <= inner.end


def _around(nodes: Nodes, run: Run) -> list[Node]:
    """Return a line's block and the two elements around it."""
    return [run.block, *islice(nodes.above(run.block), 2)]


def _style(nodes: Nodes, run: Run, reasons: list[str]) -> tuple[int, float]:
    """Return a score for how a line looks, and how large; reasons are added."""
    score, size = 0, float(_NORMAL_SIZE)
    peeled = _peel(nodes, run)
    dressed = [*peeled, *([run.block] if run.whole and run.block.tag in ("p", "div") else [])]
    styles = [styles_of(nodes, node) for node in dressed]
    if any(node.tag in BOLD for node in dressed) or any(map(_BOLD_STYLE.search, styles)):
        score, size = 60 if run.whole else 50, size + 0.5
        reasons.append("bold, alone in its paragraph" if run.whole else "a bold line before a break")
    larger = max(map(_font_size, dressed, styles), default=0.0)
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


def styles_of(nodes: Nodes, node: Node) -> str:
    """Return the declarations for an element: of its `style`, and of the page's rules for its classes."""
    known = class_styles(nodes.page)
    return ";".join([node.attributes.get("style", ""), *(known[one] for one in sorted(node.classes) if one in known)])


@kept_with_page
def class_styles(page: Page) -> Mapping[str, str]:
    """Return what the rules of a page's `style` elements declare for classes, in lower case, that makes lines titles.

    Those of its style sheets are not known here, nor is which rule outdoes another.
    """
    found: dict[str, str] = {}
    for block in _STYLES.finditer(page.text):
        for rule in _CLASS_RULE.finditer(_COMMENT.sub("", block[1])):
            if makes_title(rule[2]):
                found[rule[1].lower()] = f"{found.get(rule[1].lower(), '')};{rule[2]}"
    return found


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


def _font_size(node: Node, style: str) -> float:
    """Return the size an element gives its words, as of a font element; 0 where it says none."""
    if node.tag == "big":
        return _NORMAL_SIZE + 1
    if node.tag == "font":
        spelled = node.attributes.get("size", "").strip()
        if re.fullmatch(r"[+-]?\d+", spelled):
            number = int(spelled)
            return float(_NORMAL_SIZE + number if spelled[0] in "+-" else number)
    return _NORMAL_SIZE + 1.5 if _LARGE_STYLE.search(style) else 0.0


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
        if len(gap) > _FAR or between(gap).strip() or _SEEN.search(gap):
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
