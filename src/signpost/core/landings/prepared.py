"""A page prepared to be looked at and measured: its elements marked, what would act by itself switched off."""

from __future__ import annotations

import re

from signpost.core.identifiers.places import worthy_nodes
from signpost.core.landings.geometry import Sized
from signpost.core.page import Node, Nodes, Page, read_nodes
from signpost.core.text.edits import Edit, apply_to_text, edit_set
from signpost.core.text.tags import Attribute

_TAG = re.compile(r"<(a(?:rea)?)(?=[\s/>])", re.IGNORECASE)
#: What may come before a document type without making it one of the page's body (HTML 13.2.6.4.1), and the type.
_HEAD = re.compile(r"\ufeff?(?:(?>\s|<!--.*?-->|<\?[^>]*>)*+<!doctype[^>]*>)?", re.IGNORECASE | re.DOTALL)
_ACTIVE = re.compile(r"<(meta|link|i?frame|object|embed)(?=[\s/])", re.IGNORECASE)
#: What a page may not say for its preview, which has a policy of its own: HTML 4.2.5.3.
_SILENCED = frozenset(["refresh", "content-security-policy", "x-ua-compatible"])
#: Links that have a browser connect to other servers, which no policy forbids (HTML 4.6.7).
_HINTS = frozenset("preconnect dns-prefetch prefetch preload modulepreload prerender".split())
#: What is never shown in the preview; browsers connect to a frame's server before they heed that.
_EMBEDDED = frozenset(["src", "srcdoc", "data"])


def prepare_page(page: Page, additions: str, mark: str) -> bytes:
    """Return a page as UTF-8, whatever it is kept in, that can do nothing but be looked at.

    It begins with `additions`, elements of ours. Its elements have attributes that begin with `data-`, `mark` and a
    hyphen: `section` on a heading with the index of its section, `place` and `until` on what can be pointed to with
    the offsets of its start tag and of its end, `measure` on what is measured ("link" for a link), `sized` on what
    may have an unfit size, see `Sized`, `content` on what contains the content. Its refreshes and policies are
    switched off.
    """
    prepared = apply_to_text(page.source, edit_set(page.source, _prepare(page, additions, f" data-{mark}-")))
    return prepared.encode("utf-8", "replace")


def _prepare(page: Page, additions: str, prefix: str) -> list[Edit]:
    nodes = read_nodes(page)
    sections = {heading.element.open.start: index for index, heading in enumerate(page.headings)}
    begin = page.content.start
    holders = (node for node in nodes.all if node.tag == page.content_tag and node.element.open.end == begin)
    holder = next((node.start for node in holders if node.start < begin), None)
    tags = _measured_tags(page)
    links = {link.start for link in page.links} - {target.start for target in page.targets}
    ends = {node.start: node.element.end for node in nodes.all}
    measured = set(tags)
    sized = _sized(page, nodes)
    tags |= {node.start: node.tag for node in worthy_nodes(nodes)}
    if holder is not None:
        tags[holder] = page.content_tag
    edits = []
    for start, tag in tags.items():
        marks = f'{prefix}section="{sections[start]}"' if start in sections else ""
        if start in measured:
            marks += f'{prefix}measure="{"link" if start in links else ""}"'
        if start in sized:
            marks += f'{prefix}sized="{sized[start]}"'
        if start == holder:
            marks += f"{prefix}content"
        at = start + 1 + len(tag)
        until = f'{prefix}until="{ends[start]}"' if start in ends else ""
        edits.append(Edit(at, at, f'{marks}{until}{prefix}place="{start}"'))
    edits += [
        Edit(attribute.span.start, attribute.span.end, "", rank=1)
        for found in _ACTIVE.finditer(page.text)
        for attribute in page.attributes_at(found.start())
        if _acts(found[1].lower(), attribute)
    ]
    head = _HEAD.match(page.text)
    at = head.end() if head else 0
    return [*edits, Edit(at, at, additions)]


def _acts(tag: str, attribute: Attribute) -> bool:
    """Return whether an attribute would make a browser leave the preview, or connect to another server for it."""
    if tag == "meta":
        return attribute.name == "http-equiv" and attribute.value.strip().lower() in _SILENCED
    if tag == "link":
        return attribute.name == "rel" and not _HINTS.isdisjoint(attribute.value.lower().split())
    return attribute.name in _EMBEDDED


def _measured_tags(page: Page) -> dict[int, str]:
    """Return the elements whose places count, by where their start tags begin: headings, targets, links, bars."""
    tags = {heading.element.open.start: heading.element.tag for heading in page.headings}
    tags |= {part.open.start: part.tag for part in page.furniture if part.open.end > part.open.start}
    tags |= {target.start: target.element for target in page.targets}
    tags |= {link.start: found[1] for link in page.links if (found := _TAG.match(page.text, link.start))}
    return tags


def _sized(page: Page, nodes: Nodes) -> dict[int, Sized]:
    """Return the elements whose sizes are measured, by where their start tags begin."""
    furniture = {part.open.start for part in page.furniture}
    found = ((node.start, _size_of(node, beside=node.start in furniture)) for node in nodes.all)
    return {start: size for start, size in found if size is not None}


def _size_of(node: Node, *, beside: bool) -> Sized | None:
    if node.tag == "img":
        # of what has several sources, or is drawn, the browser takes the size that fits
        drawn = (node.attributes.get("src") or "").partition("?")[0].lower().endswith((".svg", ".svgz"))
        return None if drawn or "srcset" in node.attributes else Sized.PICTURE
    if node.tag == "pre":
        return Sized.SAMPLE
    return Sized.SIDE if beside or node.tag in ("nav", "aside") else None
