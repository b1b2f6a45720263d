"""What pages of a site have in common and should have alike: navigation, headers, footers."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from signpost.core.findings.catalogue import Finding
from signpost.core.findings.checks import Check
from signpost.core.page import Element, Link, Page
from signpost.core.page.habits import read_habits
from signpost.core.site.site import Elsewhere, NoFile, NoTarget, Resolved, Site
from signpost.core.text.edits import Edit
from signpost.core.text.tags import scan_attributes, start_tag_end

FEWEST_COPIES = 4  # pages with a block of the same name, for one of them to differ from the others
_SHARE = 0.6  # of the copies that have to be the same for the others to differ from them
_FEWEST_LINKS = 3  # of a block that is compared
_MOST_NAMED = 3  # links that a message names


@dataclass(frozen=True, slots=True)
class _Block:
    """A block of links that other pages have as well."""

    element: Element
    links: tuple[tuple[str, str], ...]  # where each leads, and its words; without those to the page itself
    own: tuple[Link, ...]  # those that lead to the page itself


def find_differences(check: Check) -> Iterator[Finding]:
    """Yield where a page differs from others in what they have in common."""
    for name, block in _blocks(check.site).get(check.page.path, {}).items():
        usual = _usual(check.site).get(name)
        if usual is not None:
            yield from _compared(check, block, usual)
            yield from _current(check, block)


# ---------------------------------------------------------------- blocks


def _blocks(site: Site) -> Mapping[str, Mapping[str, _Block]]:
    """Return the shared blocks of each page, by what they are called."""

    def find() -> Mapping[str, Mapping[str, _Block]]:
        return {path: _blocks_of(site, page) for path, page in site.pages.items()}

    return site.remember(("blocks", ""), find)


def _blocks_of(site: Site, page: Page) -> Mapping[str, _Block]:
    found: dict[str, _Block] = {}
    if page.part_marks is not None:
        return found  # parts have links of their own
    made = {one.element.open.start for one in page.made}
    for element in page.furniture:
        if element.open.start in made:
            continue
        links = [link for link in page.links if element.open.end <= link.start < element.end]
        if len(links) < _FEWEST_LINKS:
            continue
        led = [(_led_to(site, page, link), link) for link in links]
        own = tuple(link for where, link in led if where == page.path)
        others = tuple((where, link.text) for where, link in led if where != page.path)
        found.setdefault(_name(page, element), _Block(element, others, own))
    return found


def _led_to(site: Site, page: Page, link: Link) -> str:
    """Return where a link leads, the same for all pages that lead there."""
    outcome = site.follow(page.path, link.href)
    fragment = (link.href or "").partition("#")[2]
    match outcome:
        case Resolved() | NoTarget():
            return outcome.path + ("#" + fragment if fragment else "")
        case NoFile():
            return outcome.path
        case Elsewhere():
            return link.href or ""


def _name(page: Page, element: Element) -> str:
    attributes = {one.name: one.value for one in scan_attributes(page.text, element.open.start)}
    return " ".join([element.tag, attributes.get("id", ""), attributes.get("class", "")]).strip()


def _usual(site: Site) -> Mapping[str, frozenset[tuple[str, str]]]:
    """Return the links that most copies of a block have, by what it is called."""

    def find() -> Mapping[str, frozenset[tuple[str, str]]]:
        copies: defaultdict[str, Counter[frozenset[tuple[str, str]]]] = defaultdict(Counter)
        for path, blocks in _blocks(site).items():
            for name, block in blocks.items():
                copies[name][frozenset(one for one in block.links if one[0] != path)] += 1
        usual = {}
        for name, counts in copies.items():
            every = set[tuple[str, str]]().union(*counts)
            total = sum(counts.values())
            if total < FEWEST_COPIES:
                continue
            kept = frozenset(one for one in every if _has(site, name, one) >= _SHARE)
            same = sum(
                _without_own(blocks[name], path) == frozenset(one for one in kept if one[0] != path)
                for path, blocks in _blocks(site).items()
                if name in blocks
            )
            if same >= _SHARE * total:
                usual[name] = kept
        return usual

    return site.remember(("usual blocks", ""), find)


def _without_own(block: _Block, path: str) -> frozenset[tuple[str, str]]:
    return frozenset(one for one in block.links if one[0] != path)


def _has(site: Site, name: str, link: tuple[str, str]) -> float:
    """Return the share of a block's copies that have a link, where it does not lead to their own page."""
    counts = _link_counts(site).get(name, (0, Counter()))
    total = counts[0] - (1 if link[0] in _blocks(site) and name in _blocks(site)[link[0]] else 0)
    return counts[1][link] / total if total > 0 else 0


def _link_counts(site: Site) -> Mapping[str, tuple[int, Counter[tuple[str, str]]]]:
    def find() -> Mapping[str, tuple[int, Counter[tuple[str, str]]]]:
        totals: Counter[str] = Counter()
        counts: defaultdict[str, Counter[tuple[str, str]]] = defaultdict(Counter)
        for blocks in _blocks(site).values():
            for name, block in blocks.items():
                totals[name] += 1
                counts[name].update(set(block.links))
        return {name: (totals[name], counts[name]) for name in totals}

    return site.remember(("block links", ""), find)


def _compared(check: Check, block: _Block, usual: frozenset[tuple[str, str]]) -> Iterator[Finding]:
    own = check.page.path
    here = _without_own(block, own)
    missing = [words or where for where, words in sorted(usual - here) if where != own]
    added = [words or where for where, words in sorted(here - usual)]
    if not missing and not added:
        return
    said = []
    if missing:
        said.append(f"it lacks {_listed(missing)}")
    if added:
        said.append(f"it has {_listed(added)} besides")
    message = f"Most pages of the site have this block with other links: {', and '.join(said)}."
    yield check.find("block-differs", block.element.open.start, message)


def _listed(words: list[str]) -> str:
    shown = ", ".join(f"“{one}”" for one in words[:_MOST_NAMED])
    more = len(words) - _MOST_NAMED
    return f"{shown} and {more} more" if more > 0 else shown


def _is_in_navigation(page: Page, element: Element, link: Link) -> bool:
    """Return whether a link of a block is in its `nav` element, or the block is one."""
    before = page.text[element.open.start : link.start].lower()
    return before.rfind("<nav") > before.rfind("</nav")


def _current(check: Check, block: _Block) -> Iterator[Finding]:
    """Yield the link of a navigation that leads to its own page and does not say so."""
    text, element = check.page.text, block.element
    if "aria-current" in text[element.open.start : element.end]:
        return
    link = next((one for one in block.own if _is_in_navigation(check.page, element, one)), None)
    if link is None:
        return
    at = start_tag_end(text, link.start) - 1
    edit = Edit(at, at, " " + read_habits(check.page).attribute("aria-current", "page"), reason="the page one is on")
    message = (
        f"“{link.text}” leads to this page itself; aria-current=“page” says so to screen readers and style rules."
    )
    yield check.find("current-page-unmarked", link.start, message, [edit])
