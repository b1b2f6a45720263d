"""All rules, run over a page or a site."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator

from signpost.core.addresses.links import LinkKind, is_page_path
from signpost.core.addresses.nearness import find_near
from signpost.core.back_to_top.links import find_back_links
from signpost.core.findings.addresses import find_unclear_addresses, is_explained
from signpost.core.findings.catalogue import Finding
from signpost.core.findings.checks import Check
from signpost.core.findings.contents import find_faulty_entries
from signpost.core.findings.headings import find_weak_headings
from signpost.core.findings.markup import find_slips
from signpost.core.findings.pages import find_lost_pages
from signpost.core.findings.parts import find_faulty_parts
from signpost.core.findings.ways import find_missing_ways
from signpost.core.findings.words import find_missing_words
from signpost.core.page import Link
from signpost.core.site.site import NoFile, NoTarget, Site
from signpost.core.text.errors import EncodingError
from signpost.core.text.positions import Span
from signpost.core.text.prescan import declares_refused
from signpost.core.text.source import find_conflict
from signpost.core.text.tags import find_missing_quote


def check_site(site: Site) -> list[Finding]:
    """Return what is wrong on the pages of a site, page by page in the order of their paths."""
    return [finding for path in sorted(site.pages) for finding in check_page(site, path)]


def check_page(site: Site, path: str) -> list[Finding]:
    """Return what is wrong on one page, in the order of the places."""
    check = Check(site, site.pages[path])
    findings = [finding for rule in _RULES for finding in rule(check)]
    return sorted(findings, key=lambda finding: (finding.span.start, finding.rule.code))


def _links(check: Check) -> Iterator[Finding]:
    page = check.page
    unclear = any(link.kind in (LinkKind.NONE, LinkKind.PLACEHOLDER) for link in page.links)
    upwards = {link.start for link in find_back_links(page)} if unclear else set()
    for link in page.links:
        if link.kind in (LinkKind.NONE, LinkKind.PLACEHOLDER) and (
            link.start in upwards or _is_meant_so(check, link)
        ):
            continue
        if link.kind is LinkKind.NONE:
            words = f"“{link.text}”" if link.text else "An empty link"
            yield check.find(
                "link-without-destination",
                link.start,
                f"{words} is an <a> element without an href, so it goes nowhere.",
            )
        elif link.kind is LinkKind.PLACEHOLDER and not _means_this_page(check, link):
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
            elif isinstance(outcome, (NoTarget, NoFile)) and not is_explained(check, link):
                yield _astray(check, link, outcome)


#: Attributes by which an author says that an `a` leads nowhere now, or that a script works it (HTML 4.5.1, WAI-ARIA).
_MEANT_SO = frozenset(["aria-current", "aria-disabled", "role", "tabindex", "xlink:href", "onclick"])


def _is_meant_so(check: Check, link: Link) -> bool:
    """Return whether a link without an address, or with a placeholder, is so on purpose."""
    return any(one.name in _MEANT_SO for one in check.page.attributes_at(link.start))


def _means_this_page(check: Check, link: Link) -> bool:
    """Return whether a link that leads to its own page says so: its words are the page's name."""
    words = link.text.casefold()
    names = [check.page.title or "", *(heading.text for heading in check.page.headings[:1])]
    return bool(words) and any(name.casefold().startswith(words) for name in names)


#: What is in an address only where a quotation mark is missing.
_MARKUP = re.compile(r"""["<>\n\r]""")
#: Kinds of links that can lead astray within the site.
_LEADING = frozenset([LinkKind.FRAGMENT, LinkKind.PAGE, LinkKind.FILE, LinkKind.OUTSIDE])


def _unquoted(check: Check, link: Link) -> Finding | None:
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


def _astray(check: Check, link: Link, outcome: NoTarget | NoFile) -> Finding:
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


def _resources(check: Check) -> Iterator[Finding]:
    for resource in check.page.resources:
        outcome = check.site.follow(check.page.path, resource.url) if resource.url else None
        if isinstance(outcome, NoFile):
            message = f"The {resource.element} element loads “{outcome.path}”, {_not_there(outcome)}"
            yield check.find("file-missing", resource.start, message)


def _duplicates(check: Check) -> Iterator[Finding]:
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


def _gaps(check: Check) -> Iterator[Finding]:
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


def _damage(check: Check) -> Iterator[Finding]:
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


def _contents(check: Check) -> Iterator[Finding]:
    for code, start, message in find_faulty_entries(check.page):
        yield check.find(code, start, message)


def _parts(check: Check) -> Iterator[Finding]:
    for code, start, message in find_faulty_parts(check.site, check.page):
        yield check.find_at(code, Span(start, start), message)


_RULES: tuple[Callable[[Check], Iterator[Finding]], ...] = (
    _links,
    _resources,
    _duplicates,
    _gaps,
    _contents,
    _parts,
    _damage,
    find_unclear_addresses,
    find_weak_headings,
    find_slips,
    find_missing_words,
    find_lost_pages,
    find_missing_ways,
)
