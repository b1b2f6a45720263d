"""What single elements of the parser's tree mean to us."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Mapping

from turbohtml import Comment, Doctype, Document, Node, Text
from turbohtml import Element as Parsed

from signpost.core.page.furniture import CONTENT_WORDS
from signpost.core.page.phrasing import PHRASING
from signpost.core.text.tags import without_markup

HEADINGS = {"h1": 1, "h2": 2, "h3": 3, "h4": 4, "h5": 5, "h6": 6}

_NOTHING = re.compile(r"(?:\s|<!--.*?-->|<a\b[^>]*>\s*</a\s*>)*", re.IGNORECASE | re.DOTALL)

#: Elements that, empty but for an identifier, mark what follows them.
MARK_HOLDERS = frozenset("a span div p center font b strong i em small big tt u".split())
_BREAKS = frozenset(["br", "hr"])

#: The deepest level that is told from others: `aria-level` may say any number.
DEEPEST = 99

Attributes = Mapping[str, str | list[str] | None]


def find_content_element(tree: Document) -> Parsed | None:
    """Return the element that contains the page's own content; None where no mark tells it from the body."""
    for found in (
        *tree.find_all("main"),
        *tree.select("[role=main]"),
        *(
            box
            for tag in ("div", "td", "article")
            for box in tree.find_all(tag)
            if str(box.attr("id") or "").lower() in CONTENT_WORDS
            or (len(box.attrs.get("class") or ()) == 1 and str(box.attrs["class"][0]).lower() in CONTENT_WORDS)  # type: ignore[index]
        ),
    ):
        if found.source_line is not None and any(found.find(tag) is not None for tag in HEADINGS):
            return found
    return None


def is_html5(tree: Document) -> bool:
    """Return whether the document type is HTML's own; older ones name a version (HTML 13.1.1)."""
    return not any(child.public_id for child in tree.children if isinstance(child, Doctype))


def heading_level(tag: str, attributes: Attributes) -> int | None:
    """Return a heading's level, by element or ARIA role; None for what is not a heading, or says that it is not."""
    level = HEADINGS.get(tag)
    if not attributes:
        return level
    role = attributes.get("role")
    if not role or (isinstance(role, str) and role.strip().lower() != "heading"):
        return level if not role else None
    spelled = str(attributes.get("aria-level") or "").strip()
    if spelled.isascii() and spelled.isdigit() and spelled.strip("0"):
        return min(int(spelled.lstrip("0")[:3]), DEEPEST)
    return level or 2  # WAI-ARIA 1.2, 5.3.3: a heading without aria-level is of level 2


def identifier_of(parsed: Parsed) -> str | None:
    """Return what a fragment reaches an element by: its `id`, or the `name` of an `a`; None where it has neither."""
    attributes = parsed.attrs
    named = attributes.get("name") if parsed.tag == "a" else None
    return str(attributes.get("id") or named or "") or None


def own_identifier(parsed: Parsed) -> str | None:
    """Return the identifier on a heading, on the first marked element in it, or on an anchor it opens."""
    own = identifier_within(parsed)
    parent = parsed.parent
    if own is None and isinstance(parent, Parsed) and parent.tag == "a" and visible_before(parsed) is None:
        return identifier_of(parent)
    return own


def identifier_within(parsed: Parsed) -> str | None:
    """Return the identifier of an element or of the first marked one within it; templates hold none."""
    own = identifier_of(parsed)
    if own is not None or not any(isinstance(child, Parsed) for child in parsed.children):
        return own
    skipped_until = -1
    for index, node in enumerate(parsed.descendants):
        if isinstance(node, Parsed) and index >= skipped_until:
            if node.tag == "template":
                skipped_until = index + 1 + size(node)
            elif mark := identifier_of(node):
                return mark
    return None


def visible_before(node: Node) -> Node | None:
    """Return the sibling before `node` that a reader could see; white space and comments are passed over."""
    return _visible(node.previous_sibling)


def marks_before(node: Node, is_open: Callable[[Parsed], bool]) -> Iterator[Parsed]:
    """Yield the empty elements with an identifier that are right before an element, nearest first.

    Line breaks, rules, comments and other empty elements may be between. A paragraph that is left open (`is_open`)
    ends where the element begins, so what it ends with is right before the element too.
    """
    passed = _before(node, is_open)
    while passed is not None:
        if is_empty_mark(passed):
            yield passed
        elif not _shows_nothing(passed):
            return
        passed = _before(passed, is_open)


def _visible(sibling: Node | None) -> Node | None:
    while isinstance(sibling, Comment) or (isinstance(sibling, Text) and not sibling.data.strip()):
        sibling = sibling.previous_sibling
    return sibling


def _before(node: Node, is_open: Callable[[Parsed], bool]) -> Parsed | None:
    """Return the element that ends right before `node`, of an open paragraph the last one in it; None for words."""
    found = _visible(node.previous_sibling)
    if isinstance(found, Parsed) and found.tag == "p" and not _shows_nothing(found) and is_open(found):
        found = _visible(found.children[-1])
    return found if isinstance(found, Parsed) else None


def is_empty_mark(parsed: Parsed) -> bool:
    """Return whether an element shows nothing and holds an identifier: an anchor, a span, a box of nothing else."""
    return parsed.tag in MARK_HOLDERS and identifier_within(parsed) is not None and _shows_nothing(parsed)


def _shows_nothing(parsed: Parsed) -> bool:
    """Return whether an element has neither words nor pictures nor links, whatever empty elements it contains."""
    if parsed.text.strip():
        return False
    below = (one for one in (parsed, *parsed.descendants) if isinstance(one, Parsed))
    return all(one.tag in MARK_HOLDERS | _BREAKS and not one.attr("href") for one in below)


def path_from(root: Parsed | None, parsed: Parsed) -> list[Parsed]:
    """Return the elements between the content's own element and this one, outermost first."""
    path = []
    for node in parsed.ancestors:
        if node is root or not isinstance(node, Parsed) or (root is None and node.tag == "body"):
            break
        path.append(node)
    return path[::-1]


def follows_block(text: Node) -> bool:
    """Return whether an element that is on lines of its own comes right before this text."""
    sibling = text.previous_sibling
    return isinstance(sibling, Parsed) and sibling.tag not in PHRASING


def shows(markup: str) -> bool:
    """Return whether there is anything but tags, comments and white space in a stretch between two elements."""
    return bool(without_markup(markup).strip())


def holds(markup: str) -> bool:
    """Return whether there is anything but comments, white space and empty anchors in a stretch."""
    return _NOTHING.fullmatch(markup) is None


def holds_sections(parsed: Parsed) -> bool:
    """Return whether an element contains more headings than one that heads it: then its class is the author's own."""
    return sum(len(parsed.find_all(tag)) for tag in HEADINGS) > 1


def size(node: Node) -> int:
    """Return how many nodes stand below this one."""
    return len([*node.descendants])
