"""Style rules for an identifier that no page has, where a class is meant: in `style` elements and in style sheets."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from functools import partial

from signpost.core.findings.catalogue import Choice, Finding
from signpost.core.findings.page_check import Check
from signpost.core.page import Page
from signpost.core.references.selectors import StyleReader
from signpost.core.site.answers import find_first_loader, pages_loading
from signpost.core.site.index import Matter
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import Resolved, Site
from signpost.core.site.told import Kind, classes_of, names_of
from signpost.core.text.edits import Edit, edit_set
from signpost.core.text.errors import InputError
from signpost.core.text.positions import Span

CODE = "style-hash-for-class"
_STYLE = re.compile(r"<style\b[^<>]*>(.*?)</style", re.IGNORECASE | re.DOTALL)
#: What may be a selector of an identifier. Scripts may give elements some that no page has in its source.
_HASH = re.compile(r"#([\w-]+)")


def find_hashes_for_classes(check: Check) -> Iterator[Finding]:
    """Yield the style rules of a page, and of the style sheets that it is the first to load, that style nothing."""
    page = check.page
    if "<style" in page.text.lower():
        classes, names = classes_of(page), names_of(page)
        for found in _STYLE.finditer(page.text):
            for name, span in _faulty(found[1], found.start(1), lambda name: name in classes and name not in names):
                message = (
                    f"No element here has the identifier “{name}”, but there is a class of that name, which is "
                    f"written .{name}."
                )
                yield check.find_at(CODE, span, message, [_dotted(name, span)])
    for path, start in _first_loaded(check.site, page):
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


def _faulty(css: str, offset: int, is_wrong: Callable[[str], bool]) -> Iterator[tuple[str, Span]]:
    """Yield what rules of a style sheet select by "#" where there is no such identifier, but such a class."""
    if not any(is_wrong(one) for one in dict.fromkeys(_HASH.findall(css))):
        return
    try:
        hashes = list(StyleReader(css, offset).hashes())
    except InputError:
        return
    for name, span in hashes:
        if is_wrong(name):
            yield name, span


def _first_loaded(site: Site, page: Page) -> Iterator[tuple[str, int]]:
    """Yield the style sheets that a page is the first of its site to load, with where it does so."""
    seen = set()
    for resource in page.resources:
        outcome = site.follow(page.path, resource.url) if resource.element == "link" and resource.url else None
        path = outcome.path if isinstance(outcome, Resolved) else ""
        site.index.note([(Matter.TEXT, path)])  # it may be no text now, and one later
        if path.endswith(".css") and path in site.texts and path not in seen:
            seen.add(path)
            if find_first_loader(site, path) == page.path:
                yield path, resource.start


def _faulty_in_sheet(site: Site, path: str) -> list[tuple[str, Span]]:
    site.index.note([(Matter.TEXT, path)])
    css = site.texts[path].text
    if "#" not in css:
        return []
    loaders = frozenset(pages_loading(site, path))

    def is_wrong(name: str) -> bool:
        classes, names = site.index.ask(Kind.CLASS, name), site.index.ask(Kind.NAME, name)
        return not loaders.isdisjoint(classes) and loaders.isdisjoint(names)

    found = list(_faulty(css, 0, is_wrong))
    return found if found and loaders.isdisjoint(site.index.ask(Kind.SCRIPT, "")) else []
