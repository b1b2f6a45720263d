"""Jump links: from words or a picture of a page to a section or identifier of any page of the site."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum
from html import escape, unescape

from signpost.core.addresses.composing import compose_text
from signpost.core.addresses.fragments import DIRECTIVE, TOP, find_indicated
from signpost.core.addresses.links import read_address
from signpost.core.identifiers.naming import IdentifierRule, name_from
from signpost.core.identifiers.places import find_places, plan_bottom, plan_place
from signpost.core.identifiers.sections import propose_identifiers, put_identifier
from signpost.core.jumps.looks import LinkLook, link_edits, look_edits
from signpost.core.jumps.words import check_words
from signpost.core.page import Link, Node, Nodes, Page, Target, read_nodes
from signpost.core.page.habits import Habits, read_habits
from signpost.core.page.outline import section_of_place
from signpost.core.page.phrasing import PHRASING, collapse, words_of
from signpost.core.page.shown import shown_characters
from signpost.core.site.plans import SitePlan, plan_edits
from signpost.core.site.site import Site
from signpost.core.text.edits import Edit, EditSet, edit_set
from signpost.core.text.errors import GoneError, RequestError
from signpost.core.text.positions import Span, end_before
from signpost.core.text.tags import (
    MARKUP,
    Attribute,
    find_missing_quote,
    fragment_edit,
    removal,
    start_tag_end,
    value_edit,
    without_markup,
)

#: The class of a jump link that looks like a button.
BUTTON = "jump-button"
_LINK_END = re.compile(r"</a\s*>", re.IGNORECASE)
_VOID = frozenset("area br col embed hr img input link meta source track wbr".split())
#: Elements whose words are no place for a link.
_CLOSED = frozenset("a button label option script select style svg template textarea title".split())


_NO_WORDS = "what is in it is not read as markup."
_CLOSED_WHY = {
    "a": "a link cannot contain another one.",
    "label": "a press on it goes to the field that it names.",
    "option": "a list of choices shows plain words only.",
    "select": "a list of choices shows plain words only.",
    "svg": "a drawing has links of its own kind, which only the source shows.",
}


class Edge(StrEnum):
    """An end of a page's content."""

    TOP = "top"
    BOTTOM = "bottom"


@dataclass(frozen=True, slots=True)
class Goal:
    """Where a jump link leads: a section, an identifier, or a place; with none of them, a page as a whole."""

    path: str
    section: int | None = None
    identifier: str | None = None
    place: Edge | int | None = None  # the content's top or bottom, or an element by its start tag


@dataclass(frozen=True, slots=True)
class Origin:
    """What a jump link can be made of."""

    span: Span  # of the words or the picture; of a link, its element
    text: str
    link: int | None  # start of the link that it is already; None for plain words
    href: str | None  # of that link
    button: int | None = None  # start of the `button` element that it is


@dataclass(frozen=True, slots=True)
class Pointer:
    """A link that leads to a place."""

    path: str  # of the page that it is on
    start: int
    text: str
    in_furniture: bool


def read_origin(page: Page, span: Span) -> Origin:
    """Return what is at a stretch of a page's text, narrowed to what can be a link.

    A stretch within a link, or around one alone, means that link. Raises RequestError for one that contains no words,
    tears elements apart, or is where no link can be.
    """
    nodes = read_nodes(page)
    link = _link_at(page, nodes, span)
    if link is not None:
        whole = Span(link.start, _link_end(page, link.start))
        return Origin(whole, link.text, link.start, link.href)
    span = _trimmed(page.text, span)
    inner = span.of(page.text)
    words = words_of(inner) or _alternative(nodes, span)
    if not words:
        raise RequestError("Select the words or the picture to link.")
    holder = nodes.at(span.start)
    around = [holder, *nodes.above(holder)] if holder is not None else []
    within = [node for node in nodes.all if node.tag == "button" and span.start <= node.start < span.end]
    button = next((node for node in (*around, *within) if node.tag == "button"), None)
    if button is not None and button.text:
        return Origin(Span(button.start, button.element.end), button.text, None, None, button.start)
    closed = next((node.tag for node in around if node.tag in _CLOSED), None)
    if closed is not None:
        raise RequestError(
            f"A link cannot go inside a {closed} element: {_CLOSED_WHY.get(closed, _NO_WORDS)} "
            "Choose words of the page's own text, or put the link right behind the element."
        )
    if not any(node.tag == "body" for node in around):
        raise RequestError("This is in the page's head, which readers do not see. Select words of its text.")
    if not _is_whole(inner):
        raise RequestError(
            "The words begin in one element and end in another. Choose words within one line or paragraph."
        )
    return Origin(span, words, None, None)


def plan_jump(
    site: Site,
    path: str,
    span: Span,
    goal: Goal,
    *,
    look: LinkLook | None = None,
    words: str = "",
    button: bool = False,
    beside: bool = True,
    rule: IdentifierRule | None = None,
) -> SitePlan:
    """Return the plan that makes a stretch of the page at `path` a jump link, or leads the link there elsewhere.

    A section without an identifier gets one, on its own page. `words` are words of the goal's page that browsers are
    to open it at, if any. `button` is for a new link; `beside` says that a button stays and the link is behind it,
    else the button becomes the link. Raises RequestError where the stretch can be no link, where the goal or the
    words are not there, and for a jump on the same page that opens a window.
    """
    page = site.pages[path]
    origin = read_origin(page, span)
    look = look or LinkLook()
    name, marking = mark_goal(site, goal, rule)
    address = page.address_of(goal.path, name, site.base)
    if goal.path == path:
        look.check_jump()
    if words.strip():
        if goal.path not in site.pages:
            raise RequestError(f"{goal.path} is no page, so browsers cannot open it at words.")
        check_words(site.pages[goal.path], goal.section, words)
        address = compose_text("#" + address.partition("#")[2] if goal.path == path else address, words).address
    edits: dict[str, list[Edit]] = {goal.path: marking} if marking else {}
    own = edits.setdefault(path, [])
    habits = read_habits(page)
    reason = f"“{origin.text[:60]}” leads to “{address}”"
    if origin.link is not None:
        written = page.attribute_at(origin.link, "href")
        led = _led(page, written, goal.path, name) if written is not None and DIRECTIVE not in address else None
        if led is not None:
            own.append(led)
        own += look_edits(page, habits, origin.link, origin.text, look, address if led is None else None, reason)
    elif origin.button is not None:
        own += _of_button(page, habits, origin, address, (look.title or "").strip(), beside=beside)
    else:
        own += link_edits(page, habits, origin.span, address, look, reason, BUTTON if button else None)
    return plan_edits(site, {name: found for name, found in edits.items() if found})


def _of_button(
    page: Page, habits: Habits, origin: Origin, address: str, title: str, *, beside: bool
) -> Iterator[Edit]:
    """Yield the edits that put a link behind a button, or make a link of it that looks like one.

    The button's attributes stay, but for its `type`, which means another thing on a link (HTML 4.6.2).
    """
    reason = f"“{origin.text[:60]}” leads to “{address}”"
    nodes = read_nodes(page)
    node = next(node for node in nodes.all if node.start == origin.button)
    element = node.element
    end = element.close.end if element.close else element.end
    if beside:
        start = habits.start("a", href=address, title=title or None)
        yield Edit(end, end, f" {start}{escape(origin.text, quote=False)}{habits.end('a')}", reason=reason)
        return
    name = Span(element.open.start + 1, element.open.start + 1 + len("button"))
    classes = page.attribute_at(node.start, "class")
    added = " " + habits.attribute("href", address)
    if classes is None:
        added = " " + habits.attribute("class", BUTTON) + added
    elif BUTTON not in classes.value.split():
        yield value_edit(page.text, classes, f"{classes.value} {BUTTON}".strip(), reason)
    yield Edit(name.start, name.end, habits.tag("a") + added, reason=reason)
    kind = page.attribute_at(node.start, "type")
    if kind is not None:
        yield Edit(end_before(page.text, kind.span.start), kind.span.end, "", reason=reason)
    if element.close is not None:
        yield Edit(element.close.start, element.close.end, habits.end("a"), reason=reason)


def _led(page: Page, written: Attribute, path: str, fragment: str | None) -> Edit | None:
    """Return the edit of the fragment alone, where a link leads to the page already; else None."""
    resolved = page.resolve(written.value)
    if fragment is None or resolved is None or resolved[0] != path or not read_address(written.value).path:
        return None
    return fragment_edit(page.text, written, fragment, f"leads to “{fragment}” now")


def plan_no_jump(site: Site, path: str, start: int) -> SitePlan:
    """Return the plan that removes the link at a start tag; its words stay. Raises RequestError for no link."""
    page = site.pages[path]
    link = next((link for link in page.links if link.start == start), None)
    if link is None:
        raise GoneError("The link")
    return plan_edits(site, {path: unlink_edits(page, start, f"“{link.text}” is no link any more")})


def unlink_edits(page: Page, start: int, reason: str) -> list[Edit]:
    """Return the edits that make plain words of the link at a start tag.

    One that others can lead to, by its `id` or `name`, stays as a place and loses its address alone.
    """
    attributes = {one.name: one for one in page.attributes_at(start)}
    if "href" in attributes and attributes.keys() & {"id", "name"}:
        return [removal(page.text, attributes["href"], reason)]
    node = next((one for one in read_nodes(page).all if one.start == start), None)
    close = None if node is None else node.element.close
    edits = [Edit(start, start_tag_end(page.text, start), "", reason=reason)]
    return edits if close is None else [*edits, Edit(close.start, close.end, "", reason=reason)]


def plan_relink(page: Page, start: int, name: str) -> tuple[str, EditSet]:
    """Return the words of the link at a start tag, and the edits that lead it to another identifier.

    The rest of its address stays. Raises RequestError where a quotation mark is missing, so that the address is not
    one, and GoneError where there is no such link.
    """
    link = next((found for found in page.links if found.start == start and found.href is not None), None)
    written = page.attribute_at(start, "href") if link else None
    if written is not None and find_missing_quote(page.text, written) is not None:
        raise RequestError(
            "A quotation mark is missing in this link, so its words became part of its address. Add the mark first."
        )
    edit = None if written is None else fragment_edit(page.text, written, name, f"leads to “{name}” now")
    if link is None or edit is None:
        raise GoneError("The link")
    return link.text or link.href or "", edit_set(page.source, [edit])


def find_pointers(site: Site, path: str) -> dict[int, list[Pointer]]:
    """Return the links of all pages that lead into the page at `path`, by the section that they lead to.

    -1 stands for the lead and the top. Links that the page's contents list are among them.
    """
    page = site.pages[path]
    found: dict[int, list[Pointer]] = {}
    for other, link, landing in site.links_to(path):
        section = -1
        if isinstance(landing.target, Target):
            section = section_of_place(page, landing.target.start)
        found.setdefault(section, []).append(Pointer(other.path, link.start, link.text, link.in_furniture))
    return found


def find_words(page: Page, start: int, words: str, occurrence: int = 0) -> Span:
    """Return where words that a reader sees stand within the element whose start tag begins at `start`.

    Without words, it is the element itself. `occurrence` counts from 0 among the places where the element shows them.
    Raises RequestError where it does not.
    """
    nodes = read_nodes(page)
    node = next((node for node in nodes.all if node.start == start), None)
    wanted = collapse(words)
    if node is not None and not wanted:
        return Span(node.start, node.element.end)
    if node is not None:
        chars = shown_characters(page.text, nodes.inner(node))
        shown = "".join(char.char for char in chars)
        at = -1
        for _ in range(occurrence + 1):
            at = shown.find(wanted, at + 1)
            if at < 0:
                break
        if at >= 0:
            return Span(chars[at].span.start, chars[at + len(wanted) - 1].span.end)
    raise RequestError("These words cannot be found in the source. Select them there instead.")


def mark_goal(site: Site, goal: Goal, rule: IdentifierRule | None) -> tuple[str | None, list[Edit]]:
    """Return the fragment of a goal, and the edits on its page that it needs."""
    page = site.pages.get(goal.path)
    if page is None:
        if goal.path in site.files and goal.section is None and goal.identifier is None:
            return None, []
        raise RequestError(f"The site has no page “{goal.path}”.")
    if goal.section is not None:
        if not 0 <= goal.section < len(page.headings):
            raise GoneError("The section")
        heading = page.headings[goal.section]
        if heading.identifier is not None:
            return heading.identifier, []
        name = propose_identifiers(page, [heading.level], rule)[goal.section]
        return name, [put_identifier(page, read_habits(page), heading.element.open.start, name)]
    if goal.place is not None:
        return _mark_place(page, goal.place, rule)
    if goal.identifier is None:
        return None, []
    if goal.identifier not in {target.name for target in page.targets}:
        raise RequestError(f"Nothing on {goal.path} has the identifier “{goal.identifier}”.")
    return goal.identifier, []


def _mark_place(page: Page, place: Edge | int, rule: IdentifierRule | None) -> tuple[str, list[Edit]]:
    """Return the fragment of a place, and the edits that give it an identifier where it has none."""
    if place == Edge.TOP:
        if find_indicated("top", page.index_targets()) is not TOP:
            raise RequestError(f"“#top” leads to an element of {page.path} with this identifier. Choose that one.")
        return "top", []
    if place == Edge.BOTTOM:
        last = max(page.targets, key=lambda target: target.start, default=None)
        if last is not None and page.in_content(last.start):
            rest = page.text[last.start : page.content.end]
            if not collapse(unescape(without_markup(rest))) and "<img" not in rest.lower():
                return last.name, []
        taken = {target.name for target in page.targets}
        name = name_from("bottom", taken, rule, None)
        return name, list(plan_bottom(page, name).edits)
    found = next((one for one in find_places(page, int(place), rule) if one.start == place), None)
    if found is None:
        raise GoneError("The element")
    if found.identifier is not None:
        return found.identifier, []
    return found.proposed, list(plan_place(page, found.start, found.proposed).edits)


def _link_at(page: Page, nodes: Nodes, span: Span) -> Link | None:
    """Return the link that a stretch is in, or that alone is in it."""
    holder = nodes.at(span.start)
    around: Iterator[Node] = iter([holder, *nodes.above(holder)]) if holder is not None else iter(())
    starts = {node.start for node in around if node.tag == "a"}
    within = [link for link in page.links if span.start <= link.start < span.end]
    if len(within) == 1:
        end = _link_end(page, within[0].start)
        rest = page.text[span.start : within[0].start] + page.text[end : span.end]
        if not collapse(unescape(without_markup(rest))):
            starts.add(within[0].start)
    return next((link for link in page.links if link.start in starts), None)


def _link_end(page: Page, start: int) -> int:
    close = _LINK_END.search(page.text, start)
    return close.end() if close else len(page.text)


def _trimmed(text: str, span: Span) -> Span:
    inner = span.of(text)
    start = span.start + len(inner) - len(inner.lstrip())
    return Span(start, max(start, span.start + len(inner.rstrip())))


def _alternative(nodes: Nodes, span: Span) -> str:
    """Return what stands for a picture within a stretch."""
    pictures = [node for node in nodes.all if node.tag == "img" and span.start <= node.start < span.end]
    return next((node.text or "picture" for node in pictures), "")


def _is_whole(markup: str) -> bool:
    """Return whether all elements that begin in a stretch of markup end in it, and none begins a line of its own."""
    open_: list[str] = []
    for tag in MARKUP.finditer(markup):
        if tag[2] is None:
            continue
        name = tag[2].lower()
        if name in _VOID:
            if name not in ("br", "img", "wbr"):
                return False
        elif not tag[1]:
            if name not in PHRASING or name == "a":
                return False
            open_.append(name)
        elif not open_ or open_.pop() != name:
            return False
    rest = without_markup(markup)
    return not open_ and "<" not in rest
