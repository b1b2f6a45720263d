"""What pages of a site have in common and should have alike: navigation, headers, footers."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Collection, Iterable, Iterator, Sequence
from dataclasses import replace
from functools import partial

from signpost.core.findings.catalogue import Choice, Finding
from signpost.core.findings.page_check import Check
from signpost.core.page import Element, Link, Page
from signpost.core.page.habits import read_habits
from signpost.core.references.shared import plan_alike
from signpost.core.references.spreading import plan_spread
from signpost.core.site.answers import site_answer
from signpost.core.site.index import EVERY, Matter
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import Resolved, Site
from signpost.core.site.told import Kind, led_to, links_in, read_shared_blocks
from signpost.core.text.edits import Edit
from signpost.core.text.tags import start_tag_end

FEWEST_COPIES = 4  # pages with a block of the same name, for one of them to differ from the others
_SHARE = 0.6  # of the copies that have to be the same for the others to differ from them
_MOST_NAMED = 3  # links that a message names
_MOST_WITHOUT = 0.1  # of a site's pages that lack a menu, for all others to have it
_SAME_LINKS = 0.5  # of a menu's links, for a page that has more of them elsewhere not to lack it


#: Where a link of a block leads, and its words.
_Led = tuple[str, str]


def find_differences(check: Check) -> Iterator[Finding]:
    """Yield where a page differs from others in what they have in common."""
    site, page = check.site, check.page
    for name, block in read_shared_blocks(page, site.base).items():
        usual = find_usual_block(site, name)
        if usual is not None:
            here = _without_own(_led(site, block.links), page.path)
            yield from _compared(check, name, block.element, here, {(where, words) for where, words in usual})
            yield from _current(check, block.element)

    yield from _menus(check)


def _menus(check: Check) -> Iterator[Finding]:
    """Yield the menus that nearly all pages of the site have and this one lacks."""
    site, page = check.site, check.page
    if page.part_marks is not None or page.body_start is None:
        return
    lacking = [(name, model) for name, model in find_menus(site) if page.path not in site.index.ask(Kind.BLOCK, name)]
    goals = {_goal(site, led_to(page, site.base, link)) for link in page.links} if lacking else set()
    for name, model in lacking:
        usual = _without_own(((where, words) for where, words in find_usual_block(site, name) or ()), page.path)
        if sum(where in goals for where, _ in usual) > _SAME_LINKS * len(usual):
            continue  # it has one that is called otherwise, or its links in the text
        words = _listed([words or where for where, words in sorted(usual)])
        message = f"All other pages of the site have a menu with {words}; this one has none."
        choice = Choice(f"Put it here, as on {model}", plan=partial(plan_spread, site, model, name, [page.path]))
        yield check.find("menu-missing", page.body_start, message, choices=[choice])


# ---------------------------------------------------------------- what is usual


@site_answer
def find_menus(site: Site, key: str) -> list[tuple[str, str]]:  # noqa: ARG001 - there is but one answer
    """Return the navigation that nearly all pages of a site have, each with a page that has it as most do."""
    site.index.note([(Matter.FILE, EVERY)])
    most = max(1, int(_MOST_WITHOUT * len(site.pages)))
    found = []
    for name, told in sorted(site.index.ask_all(Kind.BLOCK).items()):
        if not name.startswith("nav") or len(told) < max(FEWEST_COPIES, len(site.pages) - most):
            continue
        if find_usual_block(site, name) is not None:
            counts = Counter(links for links, *_ in told.values())
            usual = counts.most_common(1)[0][0]
            found.append((name, min(path for path, (links, *_) in told.items() if links == usual)))
    return found


def _led(site: Site, links: Iterable[Sequence[str]]) -> frozenset[_Led]:
    """Return where the links of a block lead, the same for all ways in which an address can be written."""
    return frozenset((_goal(site, where), words) for where, words in links)


def _goal(site: Site, where: str) -> str:
    if where.startswith(" "):
        return where[1:]  # out of the site
    path, mark, fragment = where.partition("#")
    path = site.file_at(path)
    return path + mark + fragment if path in site.files else path


def _without_own(links: Iterable[_Led], path: str) -> frozenset[_Led]:
    return frozenset(one for one in links if one[0] != path)


@site_answer
def find_usual_block(site: Site, name: str) -> list[_Led] | None:
    """Return the links that most copies of a block have, by what it is called; None where most have nothing alike."""
    copies = {path: told[0] for path, told in site.index.ask(Kind.BLOCK, name).items()}
    total = len(copies)
    if total < FEWEST_COPIES:
        return None
    read = {told: _led(site, json.loads(told)) for told in set(copies.values())}
    here = {path: _without_own(read[told], path) for path, told in copies.items()}
    counts = Counter(one for links in here.values() for one in links)
    kept = frozenset(one for one, count in counts.items() if count >= _SHARE * (total - (one[0] in here)))
    same = sum(links == _without_own(kept, path) for path, links in here.items())
    return sorted(kept) if same >= _SHARE * total else None


def _compared(
    check: Check, name: str, element: Element, here: frozenset[_Led], usual: Collection[_Led]
) -> Iterator[Finding]:
    kept = _without_own(usual, check.page.path)
    missing = [words or where for where, words in sorted(kept - here)]
    added = [words or where for where, words in sorted(here - kept)]
    if not missing and not added:
        return
    said = []
    if missing:
        said.append(f"it lacks {_listed(missing)}")
    if added:
        said.append(f"it has {_listed(added)} besides")
    message = f"Most pages of the site have this block with other links: {', and '.join(said)}."
    site, path = check.site, check.page.path

    def plan() -> SitePlan:
        alike = plan_alike(site, name)
        return replace(alike, edits={one: edits for one, edits in alike.edits.items() if one == path}, notes=())

    choice = Choice("Make it as on most pages", plan=plan)
    yield check.find("block-differs", element.open.start, message, choices=[choice])


def _listed(words: list[str]) -> str:
    shown = ", ".join(f"“{one}”" for one in words[:_MOST_NAMED])
    more = len(words) - _MOST_NAMED
    return f"{shown} and {more} more" if more > 0 else shown


def _is_in_navigation(page: Page, element: Element, link: Link) -> bool:
    """Return whether a link of a block is in its `nav` element, or the block is one."""
    before = page.text[element.open.start : link.start].lower()
    return before.rfind("<nav") > before.rfind("</nav")


def _current(check: Check, element: Element) -> Iterator[Finding]:
    """Yield the link of a navigation that leads to its own page and does not say so."""
    page, text = check.page, check.page.text
    if "aria-current" in text[element.open.start : element.end]:
        return
    own = (one for one in links_in(page.links, element) if _leads_here(check.site, page, one))
    link = next((one for one in own if _is_in_navigation(page, element, one)), None)
    if link is None:
        return
    at = start_tag_end(text, link.start) - 1
    edit = Edit(at, at, " " + read_habits(page).attribute("aria-current", "page"), reason="the page one is on")
    message = (
        f"“{link.text}” leads to this page itself; aria-current=“page” says so to screen readers and style rules."
    )
    yield check.find("current-page-unmarked", link.start, message, [edit])


def _leads_here(site: Site, page: Page, link: Link) -> bool:
    """Return whether a link leads to its own page, and to no place on it."""
    outcome = site.follow(page.path, link.href)
    return isinstance(outcome, Resolved) and outcome.path == page.path and not (link.href or "").partition("#")[2]
