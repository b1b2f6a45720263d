"""All rules, run over a page or a site."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from signpost.core.errors import EncodingError
from signpost.core.findings.catalogue import RULES, Finding
from signpost.core.links import LinkKind
from signpost.core.page import Page
from signpost.core.positions import Lines, Span
from signpost.core.site import NoFile, NoTarget, Site


class _Check:
    """What every rule needs of the page it looks at."""

    def __init__(self, site: Site, page: Page) -> None:
        self.site = site
        self.page = page
        self.lines: Lines | None = None

    def find(self, code: str, start: int, message: str) -> Finding:
        """Return a finding at an element's start tag."""
        if self.lines is None:
            self.lines = self.page.source.lines
        end = self.page.text.find(">", start) + 1 or len(self.page.text)
        return Finding(RULES[code], self.page.path, Span(start, end), self.lines.place(start), message)


def check_site(site: Site) -> list[Finding]:
    """Return what does not hold on the pages of a site, page by page in the order of their paths."""
    return [finding for path in sorted(site.pages) for finding in check_page(site, path)]


def check_page(site: Site, path: str) -> list[Finding]:
    """Return what does not hold on one page, in the order of the places."""
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
                f"{words} is marked as a link but has no href to lead anywhere.",
            )
        elif link.kind is LinkKind.PLACEHOLDER:
            words = f"“{link.text}”" if link.text else "A link"
            yield check.find(
                "link-without-destination",
                link.start,
                f"{words} was never given a destination: its href is “{link.href}”.",
            )
        elif link.kind in (LinkKind.FRAGMENT, LinkKind.PAGE, LinkKind.FILE, LinkKind.OUTSIDE):
            yield from _address(check, link.start, link.href or "", f"“{link.text or link.href}”")


def _address(check: _Check, start: int, href: str, words: str) -> Iterator[Finding]:
    match check.site.follow(check.page.path, href):
        case NoTarget(path, fragment):
            where = "this page" if path == check.page.path else path
            yield check.find(
                "fragment-missing", start, f"{words} leads to “#{fragment}”, which nothing on {where} is called."
            )
        case NoFile(path, near):
            is_page = path.lower().endswith((".html", ".htm"))
            code = "page-missing" if is_page else "file-missing"
            hint = f" There is “{near}”, which differs in capitals." if near else ""
            yield check.find(code, start, f"{words} leads to “{path}”, which the site does not have.{hint}")


def _resources(check: _Check) -> Iterator[Finding]:
    for resource in check.page.resources:
        match check.site.follow(check.page.path, resource.url) if resource.url else None:
            case NoFile(path, near):
                hint = f" There is “{near}”, which differs in capitals." if near else ""
                yield check.find(
                    "file-missing",
                    resource.start,
                    f"The {resource.element} element loads “{path}”, which the site does not have.{hint}",
                )


def _duplicates(check: _Check) -> Iterator[Finding]:
    seen: dict[str, int] = {}
    for target in check.page.targets:
        first = seen.setdefault(target.name, target.start)
        if first != target.start:
            line = check.page.source.lines.line(first)
            yield check.find(
                "identifier-duplicate",
                target.start,
                f"“{target.name}” is already the identifier of what stands on line {line}; links lead there.",
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
                f"“{heading.text}” is a heading of level {heading.level} right below one of level {above[-1]}.",
            )
        above.append(heading.level)


def _damage(check: _Check) -> Iterator[Finding]:
    source = check.page.source
    if source.damage is not None:
        yield check.find("page-unreadable", 0, str(EncodingError(source.encoding, source.damage)))


_RULES: tuple[Callable[[_Check], Iterator[Finding]], ...] = (_links, _resources, _duplicates, _gaps, _damage)
