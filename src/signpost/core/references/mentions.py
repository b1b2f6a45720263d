"""Where a page and what it loads name one of the page's identifiers, beside the links that lead to it."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from urllib.parse import unquote

from signpost.core.page import Node, Nodes, Page, Target, read_nodes
from signpost.core.references.selectors import StyleReader
from signpost.core.site.answers import pages_loading
from signpost.core.site.site import Resolved, Site
from signpost.core.site.told import Kind, NameUse
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Lines, Span
from signpost.core.text.tags import LISTS_OF_IDENTIFIERS, Attribute, fragment_edit, piece_edit, value_edit, word_edits

#: Attributes whose address may lead to a place on the page, beside those of links.
_ADDRESSES = frozenset("href xlink:href cite longdesc action formaction src data".split())
_ANCHORS = frozenset(["a", "area"])
#: What may be a script, so that of thousands of pages only those few are looked at closely.
SCRIPTED = re.compile(
    r"<script\b.*?</script|\son[a-z]+\s*=\s*(?:\"[^\"]*\"|'[^']*'|[^\s\"'>]+)", re.IGNORECASE | re.DOTALL
)


def plan_mentions(page: Page, old: str, new: str) -> list[Edit]:
    """Return the edits in a page's attributes and `style` elements that make `new` of the identifier `old`.

    Attributes that contain identifiers, references of drawings, selectors. Links are not among them.
    """
    nodes = read_nodes(page)
    edits: list[Edit] = []
    for node in nodes.all:
        if node.tag == "style":
            inner = nodes.inner(node)
            edits += StyleReader(inner.of(page.text), inner.start).renamed(old, new)
        elif any(old in value or "%" in value for value in node.attributes.values()):
            for attribute in page.attributes_at(node.start):
                edits += _attribute_edits(page, node, attribute, old, new)
    return edits


def _attribute_edits(page: Page, node: Node, attribute: Attribute, old: str, new: str) -> list[Edit]:
    name, value = attribute.name, attribute.value
    if name in LISTS_OF_IDENTIFIERS:
        return word_edits(page.text, attribute, old, new, f"{name} names “{new}” now")
    is_link = node.tag in _ANCHORS and name == "href"
    reason = f"{name} refers to “{new}” now"
    if name in _ADDRESSES and not is_link and value[:1] == "#" and unquote(value[1:]) == old:
        edit = fragment_edit(page.text, attribute, new, reason)
        return [] if edit is None else [edit]
    if name == "style" and attribute.value_span and "&" not in attribute.value_span.of(page.text):
        span = attribute.value_span
        return StyleReader(span.of(page.text), span.start, declarations=True).renamed(old, new)
    found = re.finditer(rf"url\(\s*[\"']?#({re.escape(old)})(?=[\"']?\s*\))", value)
    edits = (piece_edit(page.text, attribute, Span(*one.span(1)), new, reason) for one in found)
    return [edit for edit in edits if edit is not None]


def read_addresses(page: Page) -> Iterator[tuple[Node, Attribute, str]]:
    """Yield the addresses with a fragment that are on a page and are not links of it, with their attributes.

    Those of quotations, forms, drawings, and of a `meta` that refreshes.
    """
    for node in read_nodes(page).all:
        if "#" not in "".join(node.attributes.values()):
            continue
        for attribute in page.attributes_at(node.start):
            is_link = attribute.name == "href" and node.tag in _ANCHORS
            address = attribute.value
            if node.tag == "meta" and attribute.name == "content":
                address = address.partition("=")[2].strip(" '\"")
            elif attribute.name not in _ADDRESSES or attribute.name in ("src", "data") or is_link:
                continue
            if "#" in address:
                yield node, attribute, address


#: What may be an attribute with an address and a fragment: "#", or what a character reference stands for. Each has a
#: pattern of its own, since one that begins with letters is searched many times as fast as a choice.
_ADDRESSED = (
    *(
        re.compile(rf"{name}\s*=(?=\s*(?:\"[^\"]*[#&]|'[^']*[#&]|[^\s>]*[#&]))")
        for name in ("href", "cite", "longdesc", "action")
    ),
    re.compile(r"content\s*=(?=\s*(?:\"[^\"=&]*[=&][^\"]*[#&]|'[^'=&]*[=&][^']*[#&]|[^\s>=&]*[=&][^\s>]*[#&]))"),
)


def may_have_addresses(page: Page) -> bool:
    """Return whether `read_addresses` may find anything on a page, from its text and its links alone.

    Where as many attributes may have an address with a fragment as links do, no others have one.
    """
    of_links = sum(1 for link in page.links if link.href is not None and ("#" in link.href or "&" in link.href))
    text = page.text.lower()
    return sum(1 for pattern in _ADDRESSED for _ in pattern.finditer(text)) > of_links


def far_edits(site: Site, page: Page, path: str, target: Target, new: str) -> list[Edit]:
    """Return the edits of addresses on another page that are not links and lead to a target on the page at `path`."""
    if f"#{target.name}" not in page.text and "%" not in page.text and "&#" not in page.text:
        return []
    if not may_have_addresses(page):
        return []
    edits = []
    for _, attribute, address in read_addresses(page):
        outcome = site.follow_to(path, page.path, address)
        if outcome is not None and outcome.target == target:
            edit = fragment_edit(page.text, attribute, new, f"{attribute.name} leads to “{new}” now")
            edits += [] if edit is None else [edit]
    return edits


def torn_references(page: Page, part_of: Callable[[int], int]) -> Iterator[str]:
    """Yield in words which attributes name an identifier that a cut puts into another part.

    `part_of` gives the number of the part that an offset goes to; 0 for all parts.
    """
    index = page.index_targets()
    lines = page.source.lines
    for node in read_nodes(page).all:
        for name in LISTS_OF_IDENTIFIERS & node.attributes.keys():
            for word in node.attributes[name].split():
                found = index.ids.get(word)
                own, other = part_of(node.start), 0 if found is None else part_of(found.start)
                if own and other and own != other:
                    yield (
                        f"Line {lines.line(node.start)}: {name} names “{word}”, which goes to part {other} while "
                        f"this stays in part {own}. Keep the two together, or remove the attribute."
                    )


def map_edits(page: Page, old: str, new: str) -> list[Edit]:
    """Return the edits that rename an image map: its `name`, and the `usemap` of the pictures that use it."""
    edits = []
    for node in read_nodes(page).all:
        for name, wanted, written in (("name", old, new), ("usemap", "#" + old, "#" + new)):
            if node.attributes.get(name) == wanted and (name == "usemap" or node.tag == "map"):
                attribute = page.attribute_at(node.start, name)
                if attribute is not None:
                    edits.append(value_edit(page.text, attribute, written, f"image map “{new}”"))
    return edits


def style_edits(site: Site, page: Page, old: str, new: str) -> dict[str, list[Edit]]:
    """Return the edits in the style sheets that a page loads, by path.

    A sheet that other pages with the same identifier load as well keeps its rules for them.
    """
    edits = {}
    for path in sheets_of(site, page):
        css = site.texts[path].text
        if old not in css and "\\" not in css:
            continue
        named = site.index.ask(Kind.NAME, old)
        others = {other for other, uses in named.items() if other != page.path and NameUse.ID in uses}
        found = StyleReader(css).renamed(old, new, keep=bool(others) and not others.isdisjoint(_loaders(site, path)))
        if found:
            edits[path] = found
    return edits


def _loaders(site: Site, path: str) -> set[str]:
    """Return the pages that load a style sheet, or one that imports it."""
    sheets, waiting = {path}, [path]
    while waiting:
        known = waiting.pop()
        for other in site.texts:
            if other not in sheets and other.lower().endswith(".css") and known in _imports(site, other):
                sheets.add(other)
                waiting.append(other)
    return {page for sheet in sheets for page in pages_loading(site, sheet)}


def _imports(site: Site, sheet: str) -> set[str]:
    outcomes = (site.follow(sheet, url) for url in StyleReader(site.texts[sheet].text).imports())
    return {outcome.path for outcome in outcomes if isinstance(outcome, Resolved)}


def sheets_of(site: Site, page: Page) -> list[str]:
    """Return the paths of the style sheets that a page loads, with those that they import."""
    found: list[str] = []
    waiting = [(page.path, resource.url) for resource in page.resources if resource.element == "link"]
    while waiting:
        outcome = site.follow(*waiting.pop(0))
        if isinstance(outcome, Resolved) and outcome.path in site.texts and outcome.path not in found:
            if not outcome.path.lower().endswith(".css"):
                continue
            found.append(outcome.path)
            waiting += [(outcome.path, url) for url in StyleReader(site.texts[outcome.path].text).imports()]
    return found


def script_notes(site: Site, page: Page, name: str) -> Iterator[str]:
    """Yield where scripts mention an identifier, in words: those of the page, and others that lead to it."""
    near = re.compile(rf"#{re.escape(name)}(?![\w-])|([\"'`]){re.escape(name)}\1")
    far = re.compile(rf"{re.escape(page.path.rpartition('/')[2])}#{re.escape(name)}(?![\w-])")
    loaded = {
        outcome.path
        for resource in page.resources
        if resource.element == "script"
        for outcome in [site.follow(page.path, resource.url)]
        if isinstance(outcome, Resolved)
    }
    yield from _script_lines(read_nodes(page), near, name)
    for other in site.pages_that_name(page.path, name):
        if any(far.search(found[0]) for found in SCRIPTED.finditer(other.text)):
            yield from _script_lines(read_nodes(other), far, name)
    for path, source in site.texts.items():
        if path.lower().endswith((".js", ".mjs")):
            lines = Lines(source.text)
            for found in (near if path in loaded else far).finditer(source.text):
                yield _note(path, lines.line(found.start()), name)


def _script_lines(nodes: Nodes, pattern: re.Pattern[str], name: str) -> Iterator[str]:
    page = nodes.page
    lines = page.source.lines
    for node in nodes.all:
        if node.tag == "script":
            inner = nodes.inner(node)
            for found in pattern.finditer(page.text, inner.start, inner.end):
                yield _note(page.path, lines.line(found.start()), name)
        elif any(key.startswith("on") and pattern.search(value) for key, value in node.attributes.items()):
            yield _note(page.path, lines.line(node.start), name)


def _note(path: str, line: int, name: str) -> str:
    return f"{path}, line {line}: a script mentions “{name}”. Scripts are not edited; look at it."
