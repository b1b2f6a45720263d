"""The link at the very top of a page past what all pages begin with (WCAG 2.2, 2.4.1 Bypass Blocks)."""

from __future__ import annotations

from collections.abc import Sequence
from html import escape

from signpost.core.identifiers.naming import name_from
from signpost.core.identifiers.sections import put_identifier
from signpost.core.navigation.paths import plan_each
from signpost.core.navigation.phrases import SKIP_WORDS, navigation_words
from signpost.core.page import Node, Page, Target, read_nodes
from signpost.core.page.edges import body_start, content_holder
from signpost.core.page.habits import read_habits
from signpost.core.page.placing import whole_block
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import Resolved, Site
from signpost.core.text.edits import Edit, EditSet, edit_set
from signpost.core.text.errors import RequestError

SKIP = "skip-link"


def plan_skips(site: Site, pages: Sequence[str]) -> SitePlan:
    """Return the plan that gives pages a link past their header and menu, as their first link.

    A page that has one, or nothing before its content, stays as it is. Its content gets an identifier where it has
    none.
    """
    return plan_each(site, pages, lambda page: _plan(site, page))


def plan_no_skips(site: Site, pages: Sequence[str]) -> SitePlan:
    """Return the plan that takes these links out again; identifiers stay."""

    def plan(page: Page) -> EditSet:
        found = [node for node in read_nodes(page).all if _is_ours(node)]
        spans = [whole_block(page.text, node.element) for node in found]
        return edit_set(page.source, [Edit(span.start, span.end, "", reason="taken out") for span in spans])

    return plan_each(site, pages, plan)


def _is_ours(node: Node) -> bool:
    """Return whether a link is one that we put in: with our words, and no attribute of its author's."""
    said = node.attributes
    return node.tag == "a" and said.keys() == {"class", "href"} and said["class"] == SKIP and node.text in SKIP_WORDS


def _plan(site: Site, page: Page) -> EditSet:
    nodes, habits = read_nodes(page), read_habits(page)
    holder = content_holder(page)
    begin = page.content.start if holder is None else holder.start
    before = [link for link in page.links if link.start < begin]
    if not before or _skips(site, page, before[0].start, begin):
        return EditSet(page.source.sha256, ())
    slot = body_start(page)
    if slot is None:
        raise RequestError("has no body tag to put the link behind. Add <body> first.")
    goal = holder
    if goal is None:
        goal = next(
            (node for node in sorted(nodes.all, key=lambda one: one.start) if page.in_content(node.start)), None
        )
    if goal is None:
        raise RequestError("has no content to lead to.")
    name, edits = goal.attributes.get("id"), list[Edit]()
    if not name:
        name = name_from("content", {target.name for target in page.targets}, None, page.language)
        edits.append(put_identifier(page, habits, goal.start, name))
    words = escape(navigation_words(page.language).skip, quote=False)
    link = habits.start("a", class_=SKIP, href=f"#{name}") + words + habits.end("a")
    text = f"{slot.indent}{link}{habits.newline}" if slot.own_line else link
    edits.append(Edit(slot.at, slot.at, text, rank=-1, reason="link to the content"))
    return edit_set(page.source, edits)


def _skips(site: Site, page: Page, start: int, begin: int) -> bool:
    """Return whether a link leads past what is before the content."""
    link = next(one for one in page.links if one.start == start)
    found = site.follow(page.path, link.href)
    if not isinstance(found, Resolved) or found.path != page.path or not isinstance(found.target, Target):
        return False
    return found.target.start >= begin or found.target.start in range(page.content.start - 200, page.content.end)
