"""All rules, run over a page or a site."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence

from signpost.core.addresses.links import LinkKind, is_page_path
from signpost.core.addresses.nearness import find_near
from signpost.core.findings.catalogue import RULES, Finding
from signpost.core.findings.contents import find_faulty_entries
from signpost.core.page import Link, Page
from signpost.core.site.site import NoFile, NoTarget, Site
from signpost.core.text.errors import EncodingError
from signpost.core.text.positions import Lines, Span
from signpost.core.text.prescan import declares_refused
from signpost.core.text.source import find_conflict
from signpost.core.text.tags import find_missing_quote, start_tag_end


class _Check:
    """What every rule needs of the page it looks at."""

    def __init__(self, site: Site, page: Page) -> None:
        self.site = site
        self.page = page
        self.lines: Lines | None = None

    def find(self, code: str, start: int, message: str, suggestions: Sequence[str] = ()) -> Finding:
        """Return a finding at an element's start tag."""
        end = start_tag_end(self.page.text, start)
        return self.find_at(code, Span(start, end), message, suggestions)

    def find_at(self, code: str, span: Span, message: str, suggestions: Sequence[str] = ()) -> Finding:
        """Return a finding at a stretch of the source."""
        if self.lines is None:
            self.lines = self.page.source.lines
        place = self.lines.place(span.start)
        return Finding(RULES[code], self.page.path, span, place, message, tuple(suggestions))


def check_site(site: Site) -> list[Finding]:
    """Return what is wrong on the pages of a site, page by page in the order of their paths."""
    return [finding for path in sorted(site.pages) for finding in check_page(site, path)]


def check_page(site: Site, path: str) -> list[Finding]:
    """Return what is wrong on one page, in the order of the places."""
    check = _Check(site, site.pages[path])
    findings = [finding for rule in _RULES for finding in rule(check)]
    return sorted(findings, key=lambda finding: (finding.span.start, finding.rule.code))


def _links(check: _Check) -> Iterator[Finding]:
    page = check.page
    for link in page.links:
        if link.kind is LinkKind.NONE:
            words = f"“{link.text}”" if link.text else "An empty link"
            yield check.find(
                "link-without-destination",
                link.start,
                f"{words} is an <a> element without an href, so it goes nowhere.",
            )
        elif link.kind is LinkKind.PLACEHOLDER:
            words = f"“{link.text}”" if link.text else "A link"
            yield check.find(
                "link-without-destination",
                link.start,
                f"{words} has a placeholder as its target: its href is “{link.href}”.",
            )
        elif link.kind in _LEADING:
            outcome = check.site.follow(page.path, link.href)
            if found := _unquoted(check, link):
                yield found
            elif isinstance(outcome, (NoTarget, NoFile)):
                yield _astray(check, link, outcome)


#: What is in an address only where a quotation mark is missing.
_MARKUP = re.compile(r"""["<>\n\r]""")
#: Kinds of links that can lead astray within the site.
_LEADING = frozenset([LinkKind.FRAGMENT, LinkKind.PAGE, LinkKind.FILE, LinkKind.OUTSIDE])


def _unquoted(check: _Check, link: Link) -> Finding | None:
    """Return the finding of an address that lacks a quotation mark, at the place where it belongs."""
    written = check.page.attribute_at(link.start, "href") if _MARKUP.search(link.href or "") else None
    at = None if written is None else find_missing_quote(check.page.text, written)
    if written is None or written.value_span is None or at is None:
        return None
    if not written.quote:
        message = (
            f"The address {written.value_span.of(check.page.text)} ends with a quotation mark and begins with none."
        )
    else:
        meant = check.page.text[written.value_span.start : at]
        message = (
            f"The address “{meant}” has no quotation mark at its end, so the words and tags up to the next one have "
            f"become part of it. Put {written.quote} behind “{meant}”."
        )
    return check.find_at("quote-missing", Span(at, at), message)


def _astray(check: _Check, link: Link, outcome: NoTarget | NoFile) -> Finding:
    words = f"“{link.text or link.href}”"
    if isinstance(outcome, NoTarget):
        where = "this page" if outcome.path == check.page.path else outcome.path
        near = find_near(outcome.fragment, check.site.names(outcome.path))
        hint = f" Perhaps it means “#{near[0]}”." if near else ""
        message = f"{words} leads to “#{outcome.fragment}”, but nothing on {where} has that identifier.{hint}"
        return check.find("fragment-missing", link.start, message, near)
    is_page = link.kind is LinkKind.PAGE or is_page_path(outcome.path)
    code = "page-missing" if is_page else "file-missing"
    return check.find(code, link.start, f"{words} leads to “{outcome.path}”, {_not_there(outcome)}")


def _not_there(outcome: NoFile) -> str:
    hint = f" There is “{outcome.near}”, which differs only in capitals." if outcome.near else ""
    return f"which is not in the site.{hint}"


def _resources(check: _Check) -> Iterator[Finding]:
    for resource in check.page.resources:
        outcome = check.site.follow(check.page.path, resource.url) if resource.url else None
        if isinstance(outcome, NoFile):
            message = f"The {resource.element} element loads “{outcome.path}”, {_not_there(outcome)}"
            yield check.find("file-missing", resource.start, message)


def _duplicates(check: _Check) -> Iterator[Finding]:
    seen: dict[str, int] = {}
    for target in check.page.targets:
        first = seen.setdefault(target.name, target.start)
        if first != target.start:
            line = check.page.source.lines.line(first)
            yield check.find(
                "identifier-duplicate",
                target.start,
                f"“{target.name}” is also the identifier of an element on line {line}, which is where links lead.",
            )


def _gaps(check: _Check) -> Iterator[Finding]:
    above: list[int] = []
    for heading in check.page.headings:
        while above and above[-1] >= heading.level:
            above.pop()
        if above and heading.level > above[-1] + 1:
            yield check.find(
                "heading-gap",
                heading.element.open.start,
                f"“{heading.text}” is a level {heading.level} heading directly after a level {above[-1]} heading.",
            )
        above.append(heading.level)


def _damage(check: _Check) -> Iterator[Finding]:
    source = check.page.source
    if source.damage is not None:
        yield check.find("page-unreadable", 0, str(EncodingError(source.encoding, source.damage)))
    if declares_refused(source.data):
        yield check.find(
            "encoding-refused",
            0,
            "The page declares an encoding that browsers refuse to read, so they show an empty page. It is read as "
            f"{source.encoding} here; save it as UTF-8 and declare that.",
        )
    declared = find_conflict(source)
    if declared is not None:
        yield check.find(
            "encoding-conflict",
            0,
            f"The byte-order mark says {source.encoding}, the page's meta element says {declared}. Browsers go by "
            f"the mark; write {source.encoding} into the meta element, or save the page without the mark.",
        )


def _contents(check: _Check) -> Iterator[Finding]:
    for code, start, message in find_faulty_entries(check.page):
        yield check.find(code, start, message)


_RULES: tuple[Callable[[_Check], Iterator[Finding]], ...] = (
    _links,
    _resources,
    _duplicates,
    _gaps,
    _contents,
    _damage,
)
