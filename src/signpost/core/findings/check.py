"""All rules, run over a page or a site."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from itertools import chain

from signpost.core.findings.across import find_differences
from signpost.core.findings.addresses import find_unclear_addresses
from signpost.core.findings.astray import find_astray
from signpost.core.findings.catalogue import Finding
from signpost.core.findings.contents import find_faulty_contents, find_last_separators
from signpost.core.findings.copied import find_copied
from signpost.core.findings.encodings import find_damage
from signpost.core.findings.headings import find_weak_headings
from signpost.core.findings.identifiers import find_poor_identifiers
from signpost.core.findings.lines import find_lost_breaks
from signpost.core.findings.markup import find_slips
from signpost.core.findings.misplaced import find_misplaced
from signpost.core.findings.mistyped import find_mistyped_tags
from signpost.core.findings.options import CheckOptions, words_at
from signpost.core.findings.page_check import Check
from signpost.core.findings.pages import find_lost_pages
from signpost.core.findings.pairs import find_broken_pairs
from signpost.core.findings.parts import find_faulty_parts
from signpost.core.findings.sections import find_unmade_headings, find_weak_sections
from signpost.core.findings.spoken import find_spoken_tags
from signpost.core.findings.styles import find_faulty_styles
from signpost.core.findings.swallowed import BREAKING, without_swallowed
from signpost.core.findings.tokens import find_token_errors
from signpost.core.findings.typed import find_typed_tags
from signpost.core.findings.unmatched import find_unmatched_tags
from signpost.core.findings.viewport import find_missing_viewport
from signpost.core.findings.ways import find_missing_ways
from signpost.core.findings.windows import find_own_windows, find_windows
from signpost.core.findings.words import find_missing_words, find_unclear_pages
from signpost.core.page import Page
from signpost.core.page.kept import kept_with_page
from signpost.core.page.markup import tokens_of
from signpost.core.site.site import Site, single_page_site
from signpost.core.site.told import leads_on
from signpost.core.text.positions import Span

USUAL = CheckOptions()


def check_site(site: Site, options: CheckOptions = USUAL) -> list[Finding]:
    """Return what is wrong on the pages of a site, page by page in the order of their paths."""
    return [finding for path in sorted(site.pages) for finding in check_page(site, path, options)]


def check_page(site: Site, path: str, options: CheckOptions = USUAL) -> list[Finding]:
    """Return what is wrong on one page, in the order of the places; what is set aside is left out."""
    return [finding for finding, aside in check_all(site, path, options) if not aside]


def check_alone(page: Page, options: CheckOptions = USUAL) -> list[Finding]:
    """Return what a page alone tells is wrong on it, whatever its site has; what is set aside is left out."""
    return [finding for finding, aside in settle(page, _find_in_page(page), options) if not aside]


def check_all(site: Site, path: str, options: CheckOptions = USUAL) -> list[tuple[Finding, bool]]:
    """Return what is wrong on one page, in the order of the places, each with whether it is set aside."""
    if not options.checks(path):
        return []
    check = Check(site, site.pages[path], options)
    rules = _UNREAD_RULES if leads_on(check.page) else _RULES
    alone = _find_in_page(check.page)
    check.broken = tuple(_whole_tag(check, one) for one in alone if one.rule.code in BREAKING)
    every = chain(alone, *(rule(check) for rule in rules))
    return settle(check.page, every, options)


def _whole_tag(check: Check, broken: Finding) -> Span:
    """Return a tag that lacks a bracket or a quotation mark, with what it has swallowed."""
    tag = tokens_of(check.page).around(broken.span.start)
    return broken.span if tag is None else Span(tag.start, max(tag.end, broken.span.end))


def settle(page: Page, findings: Iterable[Finding], options: CheckOptions) -> list[tuple[Finding, bool]]:
    """Return findings as their author wants them, in the order of the places, each with whether it is set aside."""
    found = [options.judged(one) for one in findings if options.wants(one.rule.code)]
    found.sort(key=lambda finding: (finding.span.start, finding.rule.code))
    return [(one, any(aside.covers(one, words_at(page.text, one.span)) for aside in options.aside)) for one in found]


@kept_with_page
def _find_in_page(page: Page) -> list[Finding]:
    """Return what the page alone tells, whatever its site and the options are."""
    check = Check(single_page_site(page), page, USUAL)
    found = [finding for rule in _PAGE_RULES for finding in rule(check)]
    return without_swallowed(page, sorted(found, key=lambda finding: finding.span.start))


_Rules = tuple[Callable[[Check], Iterator[Finding]], ...]
#: What asks for nothing but the page; what they find is kept with it.
_PAGE_RULES: _Rules = (
    find_token_errors,
    find_mistyped_tags,
    find_unmatched_tags,
    find_spoken_tags,
    find_typed_tags,
    find_slips,
    find_misplaced,
    find_damage,
    find_windows,
    find_weak_headings,
    find_weak_sections,
    find_last_separators,
    find_missing_words,
    find_lost_breaks,
    find_copied,
)
#: What asks for other pages, or for what the author wants.
_RULES: _Rules = (
    find_astray,
    find_unclear_addresses,
    find_poor_identifiers,
    find_unmade_headings,
    find_faulty_contents,
    find_missing_ways,
    find_faulty_parts,
    find_unclear_pages,
    find_missing_viewport,
    find_lost_pages,
    find_differences,
    find_broken_pairs,
    find_faulty_styles,
    find_own_windows,
)
#: Those of them that are asked of a page which only leads on to another.
_UNREAD_RULES: _Rules = (find_astray, find_unclear_addresses, find_poor_identifiers)
