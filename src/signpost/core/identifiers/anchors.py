"""Old `name` targets moved to `id` on what they mark, and identifiers that are used twice told apart.

The same word stays, so that no link breaks: the fragment is looked for among `id`s first, then among the names of
anchors (HTML 7.4.6.4).
"""

from __future__ import annotations

from dataclasses import dataclass

from signpost.core.addresses.fragments import find_indicated
from signpost.core.identifiers.naming import IdentifierRule, Named, choose_identifiers, name_from
from signpost.core.identifiers.sections import put_identifier
from signpost.core.page import Heading, Node, Page, Target, read_nodes
from signpost.core.page.habits import Habits, read_habits
from signpost.core.page.outline import read_outline
from signpost.core.page.placing import whole_block
from signpost.core.site.site import Site
from signpost.core.text.edits import Edit, EditSet, edit_set
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import after_line_end, indent_before, line_start
from signpost.core.text.tags import value_edit


@dataclass(frozen=True, slots=True)
class Twice:
    """An identifier that several elements have."""

    name: str
    indicated: Target  # the one that links reach, by the standard
    others: tuple[Target, ...]
    links: tuple[tuple[str, int], ...]  # where links to it begin: path, offset


def plan_anchors(page: Page, *, keep: bool = False) -> EditSet:
    """Return the edits that move the names of old anchors to `id`s, on the headings beside or around them.

    An anchor that marks no heading, or one with an identifier of its own, keeps its word as its own `id`. Empty
    anchors that are not needed any more go, unless `keep` says that they stay. Those which no fragment reaches,
    because another element has the same word, are left alone.
    """
    return edit_set(page.source, _Mover(page, keep=keep).edits())


def count_anchors(page: Page) -> int:
    """Return how many targets are marked by the `name` of an anchor alone."""
    return sum(target.attribute == "name" and target.element == "a" for target in page.targets)


class _Mover:
    def __init__(self, page: Page, *, keep: bool) -> None:
        self.page = page
        self.keep = keep
        self.habits: Habits = read_habits(page)
        self.targets = page.index_targets()
        self.given: set[int] = set()  # start tags of headings that got an identifier

    def edits(self) -> list[Edit]:
        edits: list[Edit] = []
        for node in read_nodes(self.page).all:
            name = node.attributes.get("name", "") if node.tag == "a" else ""
            if not name:
                continue
            found = find_indicated(name, self.targets)
            if isinstance(found, Target) and found.start == node.start:
                edits += self._move(node, name)
            elif isinstance(found, Target) and self._is_heading_of(node, found):
                edits += self._without(node)
        return edits

    def _move(self, node: Node, name: str) -> list[Edit]:
        own = node.attributes.get("id", "")
        if own == name:
            return self._drop_attribute(node)
        heading = self._heading_of(node)
        start = heading.element.open.start if heading else -1
        written = self.page.attribute_at(start, "id") if heading else None
        if heading is None or start in self.given or (written is not None and written.value):
            return [] if own else self._as_own(node)
        self.given.add(start)
        reason = f"“{name}” moved to its heading"
        return [put_identifier(self.page, self.habits, start, name), *self._without(node, reason)]

    def _heading_of(self, node: Node) -> Heading | None:
        """Return the heading that an anchor marks: in it, around it, or right behind it."""
        for heading in self.page.headings:
            element = heading.element
            inside = element.open.start <= node.start < element.end
            behind = heading.begin <= node.start < element.open.start
            around = node.start < element.open.start and element.end <= node.element.end and node.element.close
            if inside or behind or (around and node.text == heading.text):
                return heading
        return None

    def _is_heading_of(self, node: Node, target: Target) -> bool:
        heading = self._heading_of(node)
        return heading is not None and heading.element.open.start == target.start

    def _without(self, node: Node, reason: str = "anchor not needed any more") -> list[Edit]:
        """Return the edits that remove an anchor's tags, or its name alone where it is a link or says more."""
        if self.keep:
            return []
        if set(node.attributes) - {"name"}:
            return self._drop_attribute(node)
        text, element = self.page.text, node.element
        if element.close is not None and not text[element.open.end : element.close.start].strip():
            span = whole_block(text, element)
            return [Edit(span.start, span.end, "", reason=reason)]
        line_end = after_line_end(text, element.open.end)
        if line_end is not None and indent_before(text, element.open.start) is not None:
            edits = [Edit(line_start(text, element.open.start), line_end, "", reason=reason)]
        else:
            edits = [Edit(element.open.start, element.open.end, "", reason=reason)]
        if element.close is not None:
            edits.append(Edit(element.close.start, element.close.end, "", reason=reason))
        return edits

    def _drop_attribute(self, node: Node) -> list[Edit]:
        attribute = self.page.attribute_at(node.start, "name")
        if attribute is None:
            return []
        start = attribute.span.start
        while self.page.text[start - 1].isspace():
            start -= 1
        return [Edit(start, attribute.span.end, "", reason="its identifier says the same")]

    def _as_own(self, node: Node) -> list[Edit]:
        """Return the edits that make an anchor's `name` its `id`; one that was never closed is."""
        attribute = self.page.attribute_at(node.start, "name")
        if attribute is None:
            return []
        span, opened = attribute.span, node.element.open
        reason = f"“{attribute.value}” as an identifier"
        edits = [Edit(span.start, span.start + len("name"), self.habits.tag("id"), reason=reason)]
        if node.element.close is None and "href" not in node.attributes:
            slash = opened.end - 2 if self.page.text[opened.end - 2] == "/" else opened.end - 1
            slash = max(slash, *(found.span.end for found in self.page.attributes_at(node.start)))
            edits.append(Edit(slash, opened.end, ">" + self.habits.end("a"), reason="anchor closed"))
        return edits


def find_twice(site: Site, path: str) -> list[Twice]:
    """Return the identifiers that several elements of a page have, with the links that lead to each."""
    page = site.pages[path]
    index = page.index_targets()
    groups: dict[str, list[Target]] = {}
    for target in page.targets:
        groups.setdefault(target.name, []).append(target)
    found = []
    for name, targets in groups.items():
        indicated = find_indicated(name, index)
        if not isinstance(indicated, Target):
            continue
        others = tuple(target for target in targets if target.start != indicated.start)
        if others:
            links = tuple(
                (other.path, link.start)
                for other, link, landing in site.links_to(path)
                if isinstance(landing.target, Target) and landing.target.name == name
            )
            found.append(Twice(name, indicated, others, links))
    return found


def plan_apart(page: Page, name: str, rule: IdentifierRule | None = None) -> EditSet:
    """Return the edits that give the elements which links do not reach new identifiers, where `name` is used twice.

    A heading's new one comes of its words. Raises RequestError where the name is used once or never.
    """
    indicated = find_indicated(name, page.index_targets())
    others = [
        target
        for target in page.targets
        if target.name == name and isinstance(indicated, Target) and target.start != indicated.start
    ]
    if not others:
        raise RequestError(f"“{name}” is not used twice on this page.")
    taken = {target.name for target in page.targets}
    edits = []
    for target in others:
        new = _other_name(page, target, taken, rule or IdentifierRule())
        taken.add(new)
        written = page.attribute_at(target.start, target.attribute)
        if written is not None:
            edits.append(value_edit(page.text, written, new, f"“{new}” instead of a second “{name}”"))
    return edit_set(page.source, edits)


def _other_name(page: Page, target: Target, taken: set[str], rule: IdentifierRule) -> str:
    sections = read_outline(page).flat()
    headings = [Named(section.text, section.identifier, section.parent) for section in sections]
    for section in sections:
        if section.start == target.start:
            return choose_identifiers(headings, [section.index], taken, rule, page.language)[section.index]
    numbered = (f"{target.name}-{number}" for number in range(2, len(taken) + 3))
    return next((name for name in numbered if name not in taken), name_from(target.name, taken, rule))
