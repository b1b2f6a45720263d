"""The words within a heading or a link, plain and as a contents entry shows them."""

from __future__ import annotations

from html import escape, unescape

from turbohtml import Element as Parsed
from turbohtml import Node, Text

from signpost.core.text.tags import without_markup

#: Elements that do not begin a line of their own.
PHRASING = frozenset(
    """
    a abbr acronym b bdi bdo big cite code data del dfn em font i ins kbd label mark nobr q s samp small span strike
    strong sub sup time tt u var wbr
    """.split()
)
#: Inline elements that an entry keeps; links, anchors, fonts and the like give their words only.
_KEPT = frozenset(
    """
    abbr b bdi bdo cite code dfn em i kbd mark q s samp small strong sub sup tt u var
    """.split()
)
DROPPED = frozenset("script style template".split())
#: ASCII with white space made spaces and all else made "x".
_SHAPE = bytes(ord(" ") if chr(byte).isspace() else ord("x") for byte in range(256))
#: Link words that are not words of a heading: marks that lead to the heading itself.
PERMALINK_MARKS = frozenset("# ¶ § ↑ ⇧ ^ 🔗 ∞ ☍ ⚓ ⚑ link".split())
_ICONS = frozenset("img svg i span".split())


def collapse(text: str) -> str:
    """Return `text` with each run of white space made one space, none at its ends."""
    return " ".join(text.split())


def words_of(markup: str) -> str:
    """Return the words of a stretch of markup; tags stand for room, comments for nothing else."""
    return collapse(unescape(without_markup(markup, " ")))


def shorten(text: str, most: int) -> str:
    """Return a text's first words, in at most so many characters, with an ellipsis where some are left out."""
    return text if len(text) <= most else text[:most].rsplit(" ", 1)[0] + "…"


def count_words(text: str) -> int:
    """Return how many words there are between white space, as `str.split` finds them."""
    if not text.isascii():
        return len(text.split())
    shape = text.encode("ascii").translate(_SHAPE)  # twice as fast as making the words
    return shape.count(b" x") + shape.startswith(b"x")


def read_heading(parsed: Parsed) -> tuple[str, str]:
    """Return a heading's words, and its inner markup as a contents entry."""
    if not any(isinstance(child, Parsed) for child in parsed.children):
        text = collapse(parsed.text)
        return text, escape(text, quote=False)
    return plain_text(parsed, permalinks=False) or plain_text(parsed), entry_markup(parsed)


def plain_text(parsed: Parsed, *, permalinks: bool = True) -> str:
    """Return an element's words; a line break counts as a space, a picture as its `alt`.

    Without `permalinks`, marks that lead to the element itself are not words of it.
    """
    pieces: list[str] = []
    nodes: list[Node] = [*reversed(parsed.children)]
    while nodes:
        node = nodes.pop()
        if isinstance(node, Text):
            pieces.append(node.data)
        elif isinstance(node, Parsed) and node.tag not in DROPPED and (permalinks or not is_permalink(node)):
            pieces.append(stand_in(node))
            nodes += reversed(node.children)
    return collapse("".join(pieces))


def is_permalink(parsed: Parsed) -> bool:
    """Return whether an element is a mark that leads to the heading it is in: ¶, #, §, an icon."""
    if parsed.tag != "a" or not str(parsed.attr("href") or "").startswith("#"):
        return False
    words = parsed.text.strip()
    pictured = (isinstance(below, Parsed) and below.tag in _ICONS for below in parsed.descendants)
    return words in PERMALINK_MARKS or (not words and any(pictured))


def entry_markup(parsed: Parsed) -> str:
    """Return an element's inner markup as a contents entry: escaped words with code and emphasis kept.

    Links give their words; note marks (a superscript that is a link) and links to the heading itself give nothing.
    """
    pieces: list[str] = []
    nodes: list[Node | str] = [*reversed(parsed.children)]
    while nodes:
        node = nodes.pop()
        if isinstance(node, str):
            pieces.append(node)
        elif isinstance(node, Text):
            pieces.append(escape(node.data, quote=False))
        elif isinstance(node, Parsed) and node.tag not in DROPPED and not _is_mark(node):
            pieces.append(escape(stand_in(node), quote=False))
            if node.tag in _KEPT and node.text.strip():
                pieces.append(f"<{node.tag}>")
                nodes.append(f"</{node.tag}>")
            nodes += reversed(node.children)
    return collapse("".join(pieces))


def stand_in(node: Parsed) -> str:
    """Return the words that an element itself stands for: room, where it begins a line; a picture's `alt`."""
    if node.tag not in PHRASING and node.tag != "img":
        return " "
    return str(node.attr("alt") or "") if node.tag == "img" else ""


def _is_mark(node: Parsed) -> bool:
    if node.tag == "a":
        marks = node.text.strip() in PERMALINK_MARKS or is_permalink(node)
        return marks or (node.parent is not None and getattr(node.parent, "tag", "") == "sup")
    if node.tag == "sup":
        links = node.find_all("a")
        return bool(links) and collapse(node.text) == collapse("".join(link.text for link in links))
    return False
