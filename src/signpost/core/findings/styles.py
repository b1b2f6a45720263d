"""What is wrong in `style` elements and attributes, and in style sheets, told on the first page to load one."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import cached_property, partial

from signpost.core.findings.catalogue import Choice, Finding
from signpost.core.findings.page_check import Check
from signpost.core.findings.style_slips import StyleSlip, find_style_slips
from signpost.core.page import Page
from signpost.core.page.markup import tokens_of
from signpost.core.references.selectors import StyleReader
from signpost.core.references.written import read_sheet_addresses, read_written
from signpost.core.site.answers import find_first_loader, pages_loading
from signpost.core.site.index import Matter
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import NoFile, Resolved, Site
from signpost.core.site.told import Kind, classes_of, names_of
from signpost.core.text.edits import Edit, edit_set
from signpost.core.text.errors import InputError
from signpost.core.text.positions import Span

_Known = Callable[[str], bool]
HASH, DOT = "style-hash-for-class", "style-dot-for-identifier"
_UNUSED = 2  # classes that a style sheet of these pages may have rules for, and no page has
_STYLE = re.compile(r"<style\b[^<>]*>(.*?)</style", re.IGNORECASE | re.DOTALL)
#: What may be a selector of an identifier. Scripts may give elements some that no page has in its source.
_HASH = re.compile(r"#([\w-]+)")
_DOT = re.compile(r"\.([A-Za-z_][\w-]*)")
#: The attribute with style rules that has something to be looked at: a name and a colon.
_STYLED = re.compile(r"\sstyle\s*=\s*(?:\"([^\"<>]*)\"|'([^'<>]*)')", re.IGNORECASE)


def find_faulty_styles(check: Check) -> Iterator[Finding]:
    """Yield what is wrong with the style rules of a page, and with the style sheets that it is the first to load."""
    page = check.page
    if "<style" in page.text.lower():
        for found in _STYLE.finditer(page.text):
            yield from _InPage(check, found[1], found.start(1)).findings()
    for path, start in _first_loaded(check.site, page):
        yield from _InSheet(check, path, start).findings()
    yield from _attributes(check)
    yield from _lost(check)


@dataclass(frozen=True)
class _Styles:
    """A text of style rules."""

    check: Check

    def slips(self, css: str, offset: int) -> Iterator[StyleSlip]:
        """Yield the slips of the text, their spans moved by an offset."""
        for slip in find_style_slips(css):
            yield slip._replace(span=Span(slip.span.start + offset, slip.span.end + offset))

    @staticmethod
    def wrong(css: str, offset: int, is_class: _Known, is_name: _Known) -> list[StyleSlip]:
        """Return the selectors of an identifier that only a class has, and of a class that only an identifier has.

        Where a style sheet has rules for both, it is made for pages of more than one kind.
        """
        hashes, dots = frozenset(_HASH.findall(css)), frozenset(_DOT.findall(css))
        hashed = {one for one in hashes - dots if is_class(one) and not is_name(one)}
        dotted = {one for one in dots - hashes if is_name(one) and not is_class(one)}
        try:
            reader = StyleReader(css, offset) if hashed or dotted else None
            found = [(HASH, name, span) for name, span in (reader.hashes() if reader and hashed else ())]
            found += [(DOT, name, span) for name, span in (reader.classes() if reader and dotted else ())]
        except InputError:
            return []
        return [
            StyleSlip(code, Span(span.start, span.start + 1), name, "." if code == HASH else "#")
            for code, name, span in found
            if name in (hashed if code == HASH else dotted)
        ]


@dataclass(frozen=True)
class _InPage(_Styles):
    """The text of a `style` element."""

    css: str
    offset: int

    def findings(self) -> Iterator[Finding]:
        """Yield what is wrong with it."""
        page = self.check.page
        classes, names = classes_of(page), names_of(page)
        for slip in self.wrong(self.css, self.offset, classes.__contains__, names.__contains__):
            if slip.code == DOT and tokens_of(page).count("script"):
                continue  # a script may give the class
            name = slip.message
            if slip.code == HASH:
                message = (
                    f"No element here has the identifier “{name}”, but there is a class of that name, which is "
                    f"written .{name}."
                )
            else:
                message = (
                    f"No element here has the class “{name}”, but one has that identifier, which is written #{name}."
                )
            span = Span(slip.span.start, slip.span.end + len(name))
            yield self.check.find_at(slip.code, span, message, [_edit(slip)])
        for slip in self.slips(self.css, self.offset):
            yield self.check.find_at(slip.code, slip.span, slip.message, [] if slip.text is None else [_edit(slip)])


@dataclass(frozen=True)
class _InSheet(_Styles):
    """A style sheet, told where a page loads it."""

    path: str
    start: int

    def findings(self) -> Iterator[Finding]:
        """Yield what is wrong with it."""
        site = self.check.site
        site.index.note([(Matter.TEXT, self.path)])
        css = site.texts[self.path].text
        wrong = self.wrong(css, 0, self._is_class, self._is_name) if "#" in css or "." in css else []
        if wrong and not self._loaders.isdisjoint(site.index.ask(Kind.SCRIPT, "")):
            wrong = []
        if any(slip.code == DOT for slip in wrong) and self._is_for_others(css):
            wrong = [slip for slip in wrong if slip.code != DOT]
        for slip in wrong:
            name = slip.message
            if slip.code == HASH:
                said = f"has a rule for #{name}. No page that loads it has such an identifier, but there is a class"
                message = f"{self._where(slip)}, {said} of that name, which is written .{name}."
            else:
                said = f"has a rule for .{name}. No page that loads it has such a class, but there is an identifier"
                message = f"{self._where(slip)}, {said} of that name, which is written #{name}."
            yield self._told(slip, message, f"Write {slip.text}{name}")
        for slip in self.slips(css, 0):
            doing = f"Write {slip.text.strip()}" if slip.text and slip.text.strip() else "Take it out"
            yield self._told(slip, f"{self._where(slip)}: {slip.message}", doing)

    def _is_for_others(self, css: str) -> bool:
        """Return whether a style sheet is made for other pages too: it has rules for classes that none has here."""
        classes = frozenset(_DOT.findall(css))
        return sum(not self._is_class(one) for one in classes) > max(_UNUSED, len(classes) // 10)

    def _told(self, slip: StyleSlip, message: str, doing: str) -> Finding:
        plan = partial(_planned, self.check.site, self.path, slip)
        choices = [] if slip.text is None else [Choice(doing, plan=plan)]
        return self.check.find(slip.code, self.start, message, choices=choices)

    def _where(self, slip: StyleSlip) -> str:
        return f"{self.path}, line {self.check.site.texts[self.path].lines.line(slip.span.start)}"

    @cached_property
    def _loaders(self) -> frozenset[str]:
        return frozenset(pages_loading(self.check.site, self.path))

    def _is_class(self, name: str) -> bool:
        return not self._loaders.isdisjoint(self.check.site.index.ask(Kind.CLASS, name))

    def _is_name(self, name: str) -> bool:
        return not self._loaders.isdisjoint(self.check.site.index.ask(Kind.NAME, name))


def _edit(slip: StyleSlip) -> Edit:
    return Edit(slip.span.start, slip.span.end, slip.text or "", reason="the style rule that is meant")


def _planned(site: Site, path: str, slip: StyleSlip) -> SitePlan:
    return SitePlan({path: edit_set(site.texts[path], [_edit(slip)])})


def _attributes(check: Check) -> Iterator[Finding]:
    """Yield the slips in the `style` attributes of a page, the same ones once."""
    masked = tokens_of(check.page).masked
    known: dict[str, list[StyleSlip]] = {}
    for found in _STYLED.finditer(masked):
        group = 1 if found[1] is not None else 2
        css = found[group]
        if css not in known:
            known[css] = [] if "&" in css else find_style_slips(css, declarations=True)
        if known[css] and tokens_of(check.page).around(found.start()) is not None:
            offset = found.start(group)
            for slip in known[css]:
                moved = slip._replace(span=Span(slip.span.start + offset, slip.span.end + offset))
                yield check.find_at(slip.code, moved.span, slip.message, [_edit(moved)])


# ---------------------------------------------------------------- what they load


def _lost(check: Check) -> Iterator[Finding]:
    """Yield what style rules, and lists of pictures, load and the site does not have."""
    page, site = check.page, check.site
    lowered = page.text.lower()
    if "srcset" in lowered or "url(" in lowered or "@import" in lowered:
        for one in read_written(page):
            if one.name in ("srcset", "imagesrcset", "style"):
                outcome = site.follow(page.path, one.value)
                if isinstance(outcome, NoFile):
                    what = "A style rule" if one.name == "style" else f"The {one.name} of this {one.node.tag} element"
                    found = check.find("file-missing", one.node.start, _lost_words(what, outcome))
                    yield replace(found, about=outcome.path)
    for path, start in _first_loaded(site, page):
        site.index.note([(Matter.TEXT, path)])
        source = site.texts[path]
        if "url(" not in source.text.lower() and "@import" not in source.text.lower():
            continue
        told = set()
        for span, address in read_sheet_addresses(source.text):
            outcome = site.follow(path, address)
            if isinstance(outcome, NoFile) and outcome.path not in told:
                told.add(outcome.path)
                what = f"{path}, line {source.lines.line(span.start)},"
                yield replace(check.find("file-missing", start, _lost_words(what, outcome)), about=outcome.path)


def _lost_words(what: str, outcome: NoFile) -> str:
    near = f" There is “{outcome.near}”, and most hosts tell capitals apart." if outcome.near else ""
    return f"{what} loads “{outcome.path}”, which is not in the site.{near}"


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
