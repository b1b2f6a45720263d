"""Style rules for an identifier that no page has, where a class is meant: in `style` elements and in style sheets."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterator, Mapping
from functools import partial

from signpost.core.findings.catalogue import Choice, Finding
from signpost.core.findings.checks import Check
from signpost.core.page import Page
from signpost.core.page.kept import kept_with_page
from signpost.core.page.masking import read_markup_only
from signpost.core.references.selectors import StyleReader
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import Resolved, Site
from signpost.core.text.edits import Edit, edit_set
from signpost.core.text.errors import InputError
from signpost.core.text.positions import Span
from signpost.core.text.tags import SPACE

CODE = "style-hash-for-class"
_STYLE = re.compile(r"<style\b[^<>]*>(.*?)</style", re.IGNORECASE | re.DOTALL)
_HASH = re.compile(r"#([\w-]+)")
_CLASS = re.compile(rf"[{SPACE}]class\s*=\s*(?:\"([^\"]*)\"|'([^']*)'|([^\s\"'<>]+))", re.IGNORECASE)
#: Scripts may give elements identifiers that no page has in its source.
_SCRIPTED = re.compile(r"<script\b", re.IGNORECASE)


def find_hashes_for_classes(check: Check) -> Iterator[Finding]:
    """Yield the style rules of a page, and of the style sheets that it is the first to load, that style nothing."""
    page = check.page
    if "<style" in page.text.lower():
        classes, names = _classes(page), {target.name for target in page.targets}
        for found in _STYLE.finditer(page.text):
            for name, span in _faulty(found[1], found.start(1), classes, names):
                message = (
                    f"No element here has the identifier “{name}”, but there is a class of that name, which is "
                    f"written .{name}."
                )
                yield check.find_at(CODE, span, message, [_dotted(name, span)])
    for path, start in _sheets(check.site).get(page.path, ()):
        for name, span in _faulty_in_sheet(check.site, path):
            line = check.site.texts[path].lines.line(span.start)
            message = (
                f"{path}, line {line}, has a rule for #{name}. No page that loads it has such an identifier, but "
                f"there is a class of that name, which is written .{name}."
            )
            choice = Choice(f"Write .{name}", plan=partial(_planned, check.site, path, name, span))
            yield check.find(CODE, start, message, choices=[choice])


def _planned(site: Site, path: str, name: str, span: Span) -> SitePlan:
    return SitePlan({path: edit_set(site.texts[path], [_dotted(name, span)])})


def _dotted(name: str, span: Span) -> Edit:
    return Edit(span.start, span.start + 1, ".", reason=f"a rule for the class {name}")


def _faulty(css: str, offset: int, classes: Collection[str], names: Collection[str]) -> Iterator[tuple[str, Span]]:
    """Yield what rules of a style sheet select by "#" where there is no such identifier, but such a class."""
    if not any(one in classes and one not in names for one in _HASH.findall(css)):
        return
    try:
        hashes = list(StyleReader(css, offset).hashes())
    except InputError:
        return
    for name, span in hashes:
        if name in classes and name not in names:
            yield name, span


@kept_with_page
def _classes(page: Page) -> frozenset[str]:
    return frozenset(
        word
        for found in _CLASS.finditer(read_markup_only(page))
        for word in (found[1] or found[2] or found[3] or "").split()
    )


def _sheets(site: Site) -> Mapping[str, list[tuple[str, int]]]:
    """Return the style sheets that each page is the first to load, by its path, with where it does so."""

    def find() -> Mapping[str, list[tuple[str, int]]]:
        first: dict[str, list[tuple[str, int]]] = {}
        for sheet, pages in _loaders(site).items():
            path = min(pages)
            first.setdefault(path, []).append((sheet, pages[path]))
        return first

    return site.remember(("first to load a style sheet", ""), find)


def _loaders(site: Site) -> Mapping[str, Mapping[str, int]]:
    """Return the pages that load each style sheet, with where they do so."""

    def find() -> Mapping[str, Mapping[str, int]]:
        found: dict[str, dict[str, int]] = {}
        for page in site.pages.values():
            for resource in page.resources:
                if resource.element != "link":
                    continue
                outcome = site.follow(page.path, resource.url)
                if isinstance(outcome, Resolved) and outcome.path in site.texts and outcome.path.endswith(".css"):
                    found.setdefault(outcome.path, {}).setdefault(page.path, resource.start)
        return found

    return site.remember(("style sheets", ""), find)


def _faulty_in_sheet(site: Site, path: str) -> list[tuple[str, Span]]:
    css = site.texts[path].text
    if "#" not in css:
        return []
    pages = [site.pages[one] for one in _loaders(site)[path]]
    if any(_SCRIPTED.search(page.text) for page in pages):
        return []
    classes = frozenset[str]().union(*map(_classes, pages))
    names = {target.name for page in pages for target in page.targets}
    return list(_faulty(css, 0, classes, names))
