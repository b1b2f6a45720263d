"""Identifiers for places that are no headings: paragraphs, pictures, tables, rows, items, the very top and bottom."""

from __future__ import annotations

import posixpath
from dataclasses import dataclass
from urllib.parse import unquote

from signpost.core.identifiers.naming import IdentifierRule, name_from
from signpost.core.identifiers.sections import find_objection, put_identifier
from signpost.core.page import Node, Nodes, Page, read_nodes
from signpost.core.page.habits import read_habits
from signpost.core.page.outline import section_of_place
from signpost.core.page.phrasing import shorten
from signpost.core.page.placing import block_start
from signpost.core.page.plans import refuse_unseen
from signpost.core.text.edits import Edit, EditSet, edit_set
from signpost.core.text.errors import GoneError, RequestError
from signpost.core.text.positions import end_before, line_indent

#: Elements that are worth pointing to.
_WORTHY = frozenset(
    """
    p ul ol dl li dt dd table caption thead tbody tfoot tr td th pre blockquote figure figcaption img picture video
    audio iframe object svg canvas section article div aside header footer nav main form fieldset details summary
    h1 h2 h3 h4 h5 h6 address hr dfn code em strong span a abbr cite map
    """.split()
)
_TITLED = ("caption", "figcaption", "summary", "legend", "h1", "h2", "h3", "h4", "h5", "h6")
_SHOWN = 60  # characters of an element's words that stand for it
_WORDS = 8  # that an identifier is made of, where nothing is a title


@dataclass(frozen=True, slots=True)
class Place:
    """An element that an identifier can be given to."""

    start: int  # of its start tag
    tag: str
    text: str  # its first words
    identifier: str | None  # that it has
    proposed: str  # that it would get


def find_places(page: Page, offset: int, rule: IdentifierRule | None = None) -> list[Place]:
    """Return the elements that contain `offset` and can be pointed to, innermost first; those of the body alone."""
    nodes = read_nodes(page)
    innermost = nodes.at(offset)
    if innermost is None:
        return []
    around = [innermost, *nodes.above(innermost)]
    return [_place(page, nodes, node, rule) for node in around if node.tag in _WORTHY]


def worthy_nodes(nodes: Nodes) -> list[Node]:
    """Return the elements of a page that can be pointed to, in tree order."""
    return [node for node in nodes.all if node.tag in _WORTHY]


def plan_place(page: Page, start: int, name: str) -> EditSet:
    """Return the edits that give the element whose start tag begins at `start` an identifier.

    Raises RequestError where no such element is there, it has one already, or the identifier is not valid.
    """
    node = next((node for node in read_nodes(page).all if node.start == start and node.tag in _WORTHY), None)
    if node is None:
        raise GoneError("The element")
    if node.attributes.get("id"):
        raise RequestError(f"The element has the identifier “{node.attributes['id']}” already. Rename that one.")
    _refuse(page, name)
    return edit_set(page.source, [put_identifier(page, read_habits(page), start, name)])


def plan_top(page: Page, name: str) -> EditSet:
    """Return the edits that mark the very top of the content: its own element, or else the first one in it."""
    _refuse(page, name)
    nodes = read_nodes(page)
    holders = [node for node in nodes.all if node.tag == page.content_tag and _holds(page, node)]
    within = [node for node in nodes.all if page.in_content(node.start) and node.tag in _WORTHY]
    free = [node for node in (*holders, *within[:1]) if not node.attributes.get("id")]
    node = next(iter([*free, *within]), None)
    if node is None:
        raise RequestError("The page has no content to put an identifier on.")
    if node.attributes.get("id"):
        raise RequestError(f"The top has the identifier “{node.attributes['id']}” already. Use that one.")
    return edit_set(page.source, [put_identifier(page, read_habits(page), node.start, name)])


def plan_bottom(page: Page, name: str) -> EditSet:
    """Return the edits that mark the very bottom of the content with an empty element, since nothing begins there."""
    _refuse(page, name)
    habits = read_habits(page)
    marker = habits.start("div", id=name) + habits.end("div")
    slot = block_start(page.text, page.content.end)
    indent = line_indent(page.text, end_before(page.text, slot.at))
    text = indent + marker + habits.newline if slot.own_line else marker
    edits = edit_set(page.source, [Edit(slot.at, slot.at, text, reason=f"bottom of the content: “{name}”")])
    return refuse_unseen(page, edits, [name])


def _refuse(page: Page, name: str) -> None:
    objection = find_objection(name, {target.name for target in page.targets})
    if objection:
        raise RequestError(objection)


def _holds(page: Page, node: Node) -> bool:
    element = node.element
    written = element.open.start < element.open.end  # a body without tags cannot carry an identifier
    return written and element.open.end <= page.content.start and page.content.end <= element.end


def _place(page: Page, nodes: Nodes, node: Node, rule: IdentifierRule | None) -> Place:
    text = shorten(node.text, _SHOWN)
    taken = {target.name for target in page.targets}
    return Place(
        node.start,
        node.tag,
        text,
        node.attributes.get("id") or (node.attributes.get("name") if node.tag == "a" else None) or None,
        name_from(_telling(nodes, node), taken, rule, page.language),
    )


def _telling(nodes: Nodes, node: Node) -> str:
    """Return the words that tell what an element is: its title's where it has one, else its first few."""
    title = next((below.text for below in nodes.below(node) if below.tag in _TITLED and below.text), "")
    cell = next((below.text for below in nodes.below(node) if below.tag in ("th", "td") and below.text), "")
    words = title or (cell if node.tag == "tr" else "") or " ".join(node.text.split()[:_WORDS])
    return words or _file_name(nodes, node) or f"{node.tag} {_near_words(nodes, node)}".strip()


def _file_name(nodes: Nodes, node: Node) -> str:
    """Return the name of the file that an element shows, without its ending; "" where it shows none."""
    for one in (node, *nodes.below(node)):
        address = one.attributes.get("src") or one.attributes.get("data") or ""
        name = unquote(posixpath.basename(address.partition("?")[0].partition("#")[0]))
        if name and not address.startswith("data:"):
            return posixpath.splitext(name)[0].replace("_", " ")
    return ""


def _near_words(nodes: Nodes, node: Node) -> str:
    """Return the words of the section that an element is in, for one that has none of its own."""
    section = section_of_place(nodes.page, node.start)
    return nodes.page.headings[section].text if section >= 0 else nodes.page.title or ""
