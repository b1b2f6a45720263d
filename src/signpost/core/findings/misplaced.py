"""What stands where it does not belong: behind the page's end, in a section closed too early, a list in a list."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence

from signpost.core.findings.catalogue import Choice, Finding
from signpost.core.findings.page_check import Check
from signpost.core.page import Node, Nodes, Page, read_nodes
from signpost.core.page.marks import HEADINGS, holds
from signpost.core.page.markup import tokens_of
from signpost.core.page.placing import block_end, slot_behind, whole_span
from signpost.core.page.tokens import Tag
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Span, line_indent

_REGIONS = ("nav", "main", "header", "footer", "aside", "section", "article")
_LISTS = ("ul", "ol")
_ENDS = ("/body", "/html")
#: What pages and programs put behind the end, which nobody reads.
_UNREAD = re.compile(
    r"<(script|style|template)\b[^<>]*>.*?</\1\s*>|<(?:link|meta|base)\b[^<>]*>", re.IGNORECASE | re.DOTALL
)
_FEWEST_WORDS = 15  # of a paragraph beside the main content
_FOOTER_WORDS = 120  # below a heading in a footer that is a section of the page rather than a column of links
_COMMENTS = re.compile(r"<!--.*?-->", re.DOTALL)
_LINE = re.compile(r"[^\r\n]*")


def find_misplaced(check: Check) -> Iterator[Finding]:
    """Yield what stands on a page where it does not belong."""
    yield from _behind_end(check)
    yield from _empty_regions(check)
    counts = tokens_of(check.page).count
    if counts("ul") + counts("ol") > 1 and counts("/li"):
        yield from _lists_in_lists(check)
    if counts("/section") and check.page.headings:
        yield from _closed_early(check)
    if check.page.content_tag == "main" and counts("main") == 1:
        yield from _beside_main(check)
    if counts("footer"):
        yield from _in_footer(check)


# ---------------------------------------------------------------- behind the page's end


def _behind_end(check: Check) -> Iterator[Finding]:
    """Yield what readers see and the source has behind `</body>` or `</html>` (HTML 13.2.6.4.19)."""
    page, tokens = check.page, tokens_of(check.page)
    ends = list(tokens.named(*_ENDS))
    if not ends or any(tokens.count(name) > 1 for name in _ENDS) or tokens.count("frameset"):
        return
    behind = _UNREAD.sub(lambda found: " " * len(found[0]), tokens.masked[ends[0].end :])
    rest = re.sub(r"</(?:body|html)\s*>", lambda found: " " * len(found[0]), behind, flags=re.IGNORECASE)
    if not holds(rest):
        return
    base = ends[0].end
    begin, last = base + len(rest) - len(rest.lstrip()), base + len(rest.rstrip())
    passed = [tag for tag in ends if tag.start < last]
    message = f"What follows stands behind </{passed[-1].name}>, which says that the page ends there."
    yield check.find_at(
        "content-behind-end", Span(begin, _line_end(page.text, begin)), message, _down(page, passed, last)
    )


def _line_end(text: str, at: int) -> int:
    found = _LINE.match(text, at)
    return at if found is None else found.end()


def _down(page: Page, ends: Sequence[Tag], last: int) -> list[Edit]:
    """Return the edits that put the end tags of body and html behind all that is there."""
    removed = [whole_span(page.text, Span(tag.start, tag.end)) for tag in ends]
    gap = page.source.newline if all(span.end > tag.end for span, tag in zip(removed, ends, strict=True)) else ""
    edits = [Edit(span.start, span.end, "", reason="the page goes on") for span in removed]
    written = "".join(gap + page.text[tag.start : tag.end] for tag in ends)
    return [*edits, Edit(last, last, written, reason="the page ends here")]


# ---------------------------------------------------------------- regions


def _empty_regions(check: Check) -> Iterator[Finding]:
    """Yield the regions in which nothing is, and which no script can find to fill them."""
    page, tokens = check.page, tokens_of(check.page)
    names = tokens.names
    scripts = tokens.count("script")
    for name in _REGIONS:
        if not tokens.count(name):
            continue
        for tag in tokens.named(name):
            at = tokens.at(tag.start) + 1
            if names[at : at + 1] != [f"/{name}"] or page.text[tag.end : tokens.starts[at]].strip():
                continue
            if scripts and tag.end - tag.start > len(name) + 2:
                continue  # a script may fill it
            span = Span(tag.start, tokens.ends[at])
            plain = name != "main" and tag.end - tag.start == len(name) + 2
            whole = whole_span(page.text, span)
            edits = [Edit(whole.start, whole.end, "", reason="nothing is in it")] if plain else []
            message = f"This {name} element is empty: who goes from region to region is led to nothing."
            yield check.find_at("region-empty", span, message, edits)


def _closed_early(check: Check) -> Iterator[Finding]:
    """Yield the sections that end right behind their heading, before what belongs to it."""
    nodes = read_nodes(check.page)
    text = check.page.text
    early: list[tuple[Node, int]] = []
    holding = 0
    for node in nodes.all:
        if node.tag != "section" or node.element.close is None:
            continue
        inner = list(nodes.children(node))
        headed = [one for one in inner if one.tag in HEADINGS]
        if not headed:
            continue
        if len(inner) > 1 or node.bare:
            holding += 1
            continue
        end = _where_it_ends(nodes, node)
        if end > node.element.end and holds(_COMMENTS.sub("", text[node.element.end : end])):
            early.append((node, end))
    for node, end in early:
        close = node.element.close
        if close is None:
            continue
        plain = not node.attributes.get("class")
        edits = _moved_close(check.page, node, close, end)
        message = "This section element ends right behind its heading, before what the heading is for."
        choices = [] if plain and holding else [Choice("End it before the next section", tuple(edits))]
        yield check.find("section-closed-early", node.start, message, edits if not choices else (), choices)


def _where_it_ends(nodes: Nodes, node: Node) -> int:
    """Return where a section's content ends that follows it: at the next section or heading beside it."""
    parent = next(nodes.above(node), None)
    if parent is None:
        return node.element.end
    for one in nodes.children(parent):
        if one.start > node.start and (one.tag in _REGIONS or one.tag in HEADINGS or _is_headed(nodes, one)):
            return one.start
    return nodes.inner(parent).end


def _is_headed(nodes: Nodes, node: Node) -> bool:
    return any(below.tag in HEADINGS for below in nodes.below(node))


def _moved_close(page: Page, node: Node, close: Span, end: int) -> list[Edit]:
    removed = whole_span(page.text, close)
    slot = slot_behind(page.text, end, close.end)
    tag = page.text[close.start : close.end]
    if slot.own_line:
        tag = line_indent(page.text, node.start) + tag + page.source.newline
    return [
        Edit(removed.start, removed.end, "", reason="the section goes on"),
        Edit(slot.at, slot.at, tag, reason="the section ends here"),
    ]


def _beside_main(check: Check) -> Iterator[Finding]:
    """Yield the first paragraph that stands in no region, where the page has its main content marked."""
    nodes = read_nodes(check.page)
    for node in nodes.all:
        if node.tag != "p" or len(node.text.split()) < _FEWEST_WORDS:
            continue
        above = list(nodes.above(node))
        around = {one.tag for one in above} | {one.attributes.get("role", "") for one in above}
        if around <= {"html", "body", "div", ""} and not any(one.classes or "id" in one.attributes for one in above):
            message = "This paragraph stands beside <main>, where who skips to the content misses it."
            yield check.find("content-outside-main", node.start, message)
            return


def _in_footer(check: Check) -> Iterator[Finding]:
    """Yield headings in the page's footer with so much below them that they head a section of the page."""
    nodes = read_nodes(check.page)
    for footer in nodes.all:
        if footer.tag != "footer" or any(one.tag in ("article", "section", "main") for one in nodes.above(footer)):
            continue
        below = list(nodes.below(footer))
        headings = [one for one in below if one.tag in HEADINGS]
        for at, heading in enumerate(headings):
            end = headings[at + 1].start if at + 1 < len(headings) else nodes.inner(footer).end
            words = sum(len(one.text.split()) for one in below if one.tag == "p" and heading.start < one.start < end)
            if words >= _FOOTER_WORDS:
                message = f"A section of {words} words stands in the footer, which is for what is about the page."
                yield check.find("section-in-footer", heading.start, message)
                return


# ---------------------------------------------------------------- lists


def _lists_in_lists(check: Check) -> Iterator[Finding]:
    """Yield the lists that stand right in a list, where only items may (HTML 4.4.5)."""
    nodes = read_nodes(check.page)
    for outer in nodes.all:
        if outer.tag not in _LISTS:
            continue
        children = list(nodes.children(outer))
        at = 0
        while at < len(children):
            run = at
            while run < len(children) and children[run].tag in _LISTS:
                run += 1
            if run > at:
                yield _list_in_list(check, children[at - 1] if at else None, children[at:run])
            at = max(run, at + 1)


def _list_in_list(check: Check, item: Node | None, run: Sequence[Node]) -> Finding:
    text = check.page.text
    close = item.element.close if item is not None and item.tag == "li" else None
    edits = []
    if close is not None and not _COMMENTS.sub("", text[close.end : run[0].start]).strip():
        at = block_end(run[-1].element)
        edits = [
            Edit(close.start, close.end, "", reason="the item goes on"),
            Edit(at, at, text[close.start : close.end], reason="the item ends behind its list"),
        ]
    message = "This list stands between the items of another, where screen readers lose count."
    return check.find("list-in-list", run[0].start, message, edits)
