"""Blocks that several pages carry copies of: compared, and kept alike, each copy with its own paths and its own mark.

A copy is made neutral first: addresses that lead into the site say where, whatever folder the page is in, and what
marks the page itself among the links is taken off. Copies are alike when their neutral forms are, white space aside.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, replace

from signpost.core.addresses.links import is_absolute, path_of
from signpost.core.page import Element, Page, read_nodes
from signpost.core.references.shared_marks import (
    Linked,
    Mark,
    item_of,
    links_of,
    mark_edits,
    read_linked,
    read_mark,
    to_be_marked,
)
from signpost.core.references.written import WrittenAddress, read_written
from signpost.core.site.index import fetched
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import Site
from signpost.core.site.told import Kind, read_shared_blocks
from signpost.core.text.edits import Edit, EditSet, edit_set, edits_between, splice
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import Span, line_indent

#: On how many pages a block is at least, to be shared.
FEWEST_COPIES = 3
#: The same, for a block that its author names by its class.
_FEWEST_NAMED = 2
#: What share of the copies must be alike for the others to follow them, and what share of its links a copy must have
#: in common with those to be a copy of the same block.
_USUAL, _LIKE = 0.5, 0.5
_SPACE = re.compile(r"\s+")


@dataclass(frozen=True, slots=True)
class Copy:
    """A copy of a block."""

    page: Page
    element: Element
    mark: Mark
    key: str  # its neutral form, white space aside


@dataclass(frozen=True, slots=True)
class Shared:
    """A block that several pages have."""

    name: str  # of its element, with its identifier and classes
    pages: int  # that have it
    copies: tuple[Copy, ...]  # of them that are compared
    usual: str | None  # the neutral form that most have; None where none is usual
    mark: Mark  # how it marks the page that it is on, as most copies do

    @property
    def alike(self) -> tuple[Copy, ...]:
        """The copies that are as most are."""
        return tuple(copy for copy in self.copies if copy.key == self.usual)

    @property
    def differing(self) -> tuple[Copy, ...]:
        """The others."""
        return tuple(copy for copy in self.copies if copy.key != self.usual)


def find_shared(site: Site, most: int | None = None, only: str | None = None) -> list[Shared]:
    """Return the blocks of links that at least a few pages of a site have copies of, by name.

    With `only`, the one that is called so, or else the elements of pages that have that class.
    Of a block that more pages than `most` have, so many copies are compared: of each that leads elsewhere than others
    some, the rarest first.
    """
    found = []
    for name, told in sorted(site.index.ask_all(Kind.BLOCK).items()):
        if len(told) >= FEWEST_COPIES and only in (None, " ".join(name.split())):
            shared = replace(read_shared(site, name, _some(told, most)), pages=len(told))
            if len(shared.copies) >= FEWEST_COPIES:
                found.append(shared)
    if only is not None and not found:
        told = dict.fromkeys(site.index.ask(Kind.CLASS, only), (only,))
        shared = replace(read_shared(site, only, _some(told, most)), pages=len(told))
        found += [shared] if len(shared.copies) >= _FEWEST_NAMED else []
    return found


def find_block(site: Site, page: Page, name: str) -> Element | None:
    """Return the block of links of a page that is called so, or its first element with that class."""
    name = " ".join(name.split())
    for called, block in read_shared_blocks(page, site.base).items():
        if " ".join(called.split()) == name:
            return block.element
    if " " in name:
        return None
    return next((node.element for node in read_nodes(page).all if name.lower() in node.classes), None)


def find_changes(site: Site, block: Shared, copy: Copy) -> list[tuple[str, str]]:
    """Return what a copy has where the usual copies have something else, and what they have there."""
    source = next(iter(block.alike), None)
    if source is None:
        return []
    edits = _edits(site, block, source, copy)
    return [(copy.page.text[edit.start : edit.end], edit.text) for edit in edits]


def _some(told: Mapping[str, Collection[str]], most: int | None) -> list[str]:
    """Return the pages whose copies are compared, by what each tells of its block."""
    if most is None or len(told) <= most:
        return sorted(told)
    alike: dict[str, list[str]] = {}
    for page, values in sorted(told.items()):
        alike.setdefault(min(values), []).append(page)
    rarest = sorted(alike.values(), key=len)
    usual = rarest[-1][: most // 2]
    others = [page for pages in rarest[:-1] for page in pages[: max(2, most // 10)]]
    return sorted([*usual, *others[: most - len(usual)]])


def read_shared(site: Site, name: str, paths: Sequence[str]) -> Shared:
    """Return a block by its name, with its copies on these pages."""
    places = []
    for page in fetched(site.pages, list(paths)):
        element = find_block(site, page, name)
        if element is not None:
            places.append((page, element))
    linked = read_linked(site, places)
    copies = []
    for page, element in places:
        mark, edits = read_mark(site, page, element, linked)
        edits += _address_edits(site, page, element, _canonical(page, linked), edits)
        copies.append(Copy(page, element, mark, _key(page, element, edits)))
    count = Counter(copy.key for copy in copies)
    key, number = count.most_common(1)[0] if count else ("", 0)
    usual = key if number > 1 and number >= _USUAL * len(copies) else None
    marks = Counter(copy.mark for copy in copies if copy.mark)
    return Shared(
        " ".join(name.split()), len(copies), tuple(copies), usual, marks.most_common(1)[0][0] if marks else Mark()
    )


def plan_alike(site: Site, name: str | None = None, model: str | None = None) -> SitePlan:
    """Return the plan that makes the copies of blocks alike: of all of them, or of the one that is called `name`.

    They become as most copies are, or as the one on the page `model` is. A copy that shares too few links with that
    is left alone, unless the block is named: it may be a block of another kind. Raises RequestError for a block or a
    copy that is not there.
    """
    blocks = find_shared(site, only=None if name is None else " ".join(name.split()))
    if name is not None and not blocks:
        raise RequestError(f"The site has no block “{name}” that at least {FEWEST_COPIES} pages have.")
    edits: dict[str, EditSet] = {}
    notes = []
    made: dict[str, list[Edit]] = {}
    for block in blocks:
        source = _model(block, model)
        if source is None:
            if model is None:
                notes.append(
                    f"No copy of “{block.name}” is the usual one; name the page whose copy shall be the model."
                )
            continue
        for copy in block.copies:
            if copy.key == source.key:
                continue
            if name is None and _likeness(site, copy, source) < _LIKE:
                notes.append(f"{copy.page.path}: “{block.name}” has other links than the others have, and stays.")
                continue
            made.setdefault(copy.page.path, []).extend(_edits(site, block, source, copy))
    if model is not None and not any(_model(block, model) for block in blocks):
        raise RequestError(f"{model} has no copy of {'that block' if name else 'a block that other pages have'}.")
    for path, found in made.items():
        edits[path] = edit_set(site.pages[path].source, found)
    return SitePlan({path: one for path, one in edits.items() if one}, notes=tuple(notes))


def plan_like(site: Site, block: Shared, page: Page, element: Element) -> SitePlan:
    """Return the plan that makes all copies of a block like one on a page that was edited, with its marks and paths.

    `element` is that copy, on the page as it is now; the block's other copies are as they are in the site.
    """
    mark, _ = read_mark(site, page, element, read_linked(site, [(one.page, one.element) for one in block.copies]))
    source = Copy(page, element, mark, "")
    others = tuple(copy for copy in block.copies if copy.page.path != page.path)
    known = replace(block, copies=(source, *others), mark=block.mark or mark)
    edits = {copy.page.path: edit_set(copy.page.source, _edits(site, known, source, copy)) for copy in others}
    return SitePlan({path: one for path, one in edits.items() if one})


def _model(block: Shared, path: str | None) -> Copy | None:
    if path is None:
        return next(iter(block.alike), None)
    return next((copy for copy in block.copies if copy.page.path == path), None)


def _likeness(site: Site, copy: Copy, source: Copy) -> float:
    """Return the share of links that two copies have in common, of those that either has."""
    ours, theirs = (_goals(site, one.page, one.element) for one in (copy, source))
    ours |= {copy.page.path} & theirs  # which it may mark instead of linking to it
    theirs |= {source.page.path} & ours
    return len(ours & theirs) / len(ours | theirs) if ours or theirs else 1.0


def _goals(site: Site, page: Page, element: Element) -> set[str]:
    found = (site.resolve(page.path, link.attributes.get("href") or "") for link in links_of(page, element))
    return {site.file_at(one[0]) for one in found if one is not None}


# ---------------------------------------------------------------- addresses


def _address_edits(
    site: Site,
    page: Page,
    element: Element,
    spell: Callable[[WrittenAddress, str, str | None], str | None],
    taken: Sequence[Edit] = (),
) -> list[Edit]:
    """Return the edits that spell the block's addresses within the site otherwise; those in `taken` edits stay."""
    edits = []
    for address in read_written(page, Span(element.open.start, element.end)):
        if is_absolute(address.value):
            continue
        if any(edit.start <= address.node.start < edit.end for edit in taken):
            continue
        found = site.resolve(page.path, address.value)
        path = None if found is None else site.file_at(found[0])
        if found is None or path is None:
            continue
        spelled = spell(address, path, found[1])
        if spelled is not None and spelled != address.value:
            edits.append(address.value_edit(page.text, spelled, ""))
    return edits


def _canonical(page: Page, linked: Linked) -> Callable[[WrittenAddress, str, str | None], str | None]:
    def spell(address: WrittenAddress, path: str, fragment: str | None) -> str | None:
        if not path_of(address.value) and path == page.path and (path, fragment) not in linked.places:
            return None  # within the page, as a link that skips the block has it
        query = address.value.partition("#")[0].partition("?")[2]
        return f"site:{path}" + (f"?{query}" if query else "") + ("" if fragment is None else f"#{fragment}")

    return spell


def _spelled_on(
    site: Site, source: Page, goal: Page, linked: Linked
) -> Callable[[WrittenAddress, str, str | None], str | None]:
    """Return how addresses of a block on one page are spelled on another."""
    names = goal.index_targets()

    def spell(address: WrittenAddress, path: str, fragment: str | None) -> str | None:
        within = not path_of(address.value) and path == source.path and (path, fragment) not in linked.places
        if within and (fragment is None or fragment in names.ids or fragment in names.names or goal is source):
            return None
        query = address.value.partition("#")[0].partition("?")[2]
        if query:
            written = goal.address_of(path, None, site.base) + f"?{query}"
            return written + ("" if fragment is None else f"#{fragment}")
        return goal.address_of(path, fragment, site.base)

    return spell


# ---------------------------------------------------------------- forms


def _key(page: Page, element: Element, edits: Sequence[Edit]) -> str:
    text = splice(page.text, Span(element.open.start, element.end), _outermost(edits))
    return _SPACE.sub(" ", text)


def _outermost(edits: Sequence[Edit]) -> list[Edit]:
    """Return edits without those within another one."""
    whole = [edit for edit in edits if edit.end > edit.start]
    return [
        edit
        for edit in edits
        if not any(
            one is not edit
            and one.start <= edit.start
            and edit.end <= one.end
            and (one.end - one.start) > (edit.end - edit.start)
            and one.start < edit.end
            for one in whole
        )
    ]


def _edits(site: Site, block: Shared, source: Copy, copy: Copy) -> list[Edit]:
    """Return the edits that make a copy like another one, with its own paths and mark."""
    goal = copy.page
    linked = read_linked(site, [(one.page, one.element) for one in block.copies])
    text = copied_text(site, source, goal, block.mark, linked)
    text = _at_home(text, source.page, source.element.open.start, goal, copy.element.open.start)
    old = Span(copy.element.open.start, copy.element.end)
    return edits_between(old.of(goal.text), text, old.start, f"as on the other pages: {block.name}")


def copied_text(site: Site, source: Copy, goal: Page, mark: Mark, linked: Linked) -> str:
    """Return a block's text as it is on another page: with that page's paths and mark, in its own indentation yet."""
    page = source.page
    _, edits = read_mark(site, page, source.element, linked)
    edits = [
        Edit(one.start, one.end, one.text.replace(f"site:{page.path}", goal.address_of(page.path, None, site.base)))
        for one in edits
    ]
    own = to_be_marked(site, page, source.element, goal.path)
    if own is not None and mark:
        edits += mark_edits(page, own, item_of(read_nodes(page), own, source.element), mark)
    edits += _address_edits(site, page, source.element, _spelled_on(site, page, goal, linked), edits)
    return splice(page.text, Span(source.element.open.start, source.element.end), _outermost(edits))


def _at_home(text: str, source: Page, start: int, goal: Page, at: int) -> str:
    return at_home(text, source, start, goal, line_indent(goal.text, at))


def at_home(text: str, source: Page, start: int, goal: Page, new: str) -> str:
    """Return a block's text with the indentation `new` and the line ends of the page that it goes to."""
    old = line_indent(source.text, start)
    lines = re.split(r"\r\n|\n|\r", text)
    moved = [
        line if not index else new + line.removeprefix(old) if line.strip() else line
        for index, line in enumerate(lines)
    ]
    return goal.source.newline.join(moved)
