"""What is wrong on the pages of a site: found once, and again where something changed that it depends on."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Collection, Iterable, Mapping
from dataclasses import asdict, dataclass, replace
from typing import Literal

from pydantic import TypeAdapter

from signpost.core.findings import RULES, Finding, Severity
from signpost.core.findings.catalogue import rank_of
from signpost.core.findings.check import check_page
from signpost.core.findings.fixing import MADE_ANEW
from signpost.core.findings.lacking import find_lacks
from signpost.core.findings.options import CheckOptions, words_at
from signpost.core.page import Page
from signpost.core.site.site import Elsewhere, Site
from signpost.core.site.told import Kind, title_key
from signpost.core.text.positions import Place, Span
from signpost.desk.finding_views import FindingView, view_finding
from signpost.desk.indexing import keep_answers
from signpost.desk.loading import LoadedSite
from signpost.desk.settings import Settings
from signpost.desk.stored import need_digests
from signpost.desk.versions import core_digest
from signpost.store import checks, queries
from signpost.store import index as store
from signpost.store.records import FindingRecord, FindingsAsked, SaidCount
from signpost.store.rows import storable

#: What findings of a rule are grouped by.
By = Literal["cause", "block"]
_VIEW = TypeAdapter(FindingView)


def _options(settings: Settings) -> CheckOptions:
    """Return how findings are found that are kept; what only leaves some of them out is applied to those."""
    said = settings.check_options
    return CheckOptions(on=said.on, limits=said.limits, refused=said.refused)


def checked_by(settings: Settings) -> tuple[str, dict[str, str]]:
    """Return the digest of how findings are found, and those of pages of which something else was said."""
    options = _options(settings)
    known = [core_digest(), sorted(options.on), asdict(options.limits)]

    def digest(refused: Collection[str]) -> str:
        return hashlib.sha256(json.dumps([known, sorted(refused)]).encode()).hexdigest()

    return digest(()), {path: digest(refused) for path, refused in options.refused.items() if refused}


def find_unchecked(loaded: LoadedSite, paths: Collection[str] | None = None) -> list[str]:
    """Return the pages, or those of `paths`, whose findings are out of date."""
    return checks.load_unchecked(loaded.session, loaded.record.site_id, *checked_by(loaded.settings), paths)


def keep_findings(loaded: LoadedSite, paths: Iterable[str]) -> None:
    """Find what is wrong on pages, and keep it with what it depends on. The site must be locked."""
    site_id, options = loaded.record.site_id, _options(loaded.settings)
    usual, others = checked_by(loaded.settings)
    wanted = list(paths)
    loaded.pages.fetch(wanted)
    loaded.pages.fetch(linked_pages(loaded, wanted))
    asked_of_all = ((Kind.TITLE, title_key(loaded.pages[path])) for path in wanted)
    linking = ((Kind.LINK, key) for path in wanted for key in loaded.site.spellings(path))
    loaded.index.fetch([*asked_of_all, *linking])
    known = loaded.pages.records
    needs, records, kept = {}, [], {}
    for path in wanted:
        page = loaded.pages[path]
        with loaded.index.noting() as noted:
            found = check_page(loaded.site, path, options)
            of_others = {
                "lacks": find_lacks(page, options.limits),
                "links_in": _count_links_in(loaded.site, path),
                "links_out": _count_links_out(loaded.site, page),
            }
        needs[path] = need_digests(noted)
        summary = {**known[path].summary, **of_others}
        records.append(replace(known[path], summary=summary, checked_by=others.get(path, usual)))
        kept[path] = [_record(one, page) for one in found]
    checks.save_findings(loaded.session, site_id, kept)
    store.save_pages(loaded.session, site_id, records)
    checks.save_needs(loaded.session, site_id, needs)
    keep_answers(loaded)


def linked_pages(loaded: LoadedSite, paths: Iterable[str]) -> set[str]:
    """Return the pages that links of some pages lead to, to be fetched at once."""
    site = loaded.site
    pages = (site.pages[path] for path in paths)
    led = (page.resolve(link.href, site.base) for page in pages for link in page.links if link.href)
    return {path for found in led if found is not None and (path := site.file_at(found[0])) in loaded.pages}


def _count_links_in(site: Site, path: str) -> int:
    """Return how many links of other pages lead to a page."""
    linking = site.pages_linking_to(path)
    return sum(count for page, led in linking.items() if page != path for _, count in led)


def _count_links_out(site: Site, page: Page) -> int:
    """Return how many links of a page lead to other pages of the site."""
    outcomes = (site.follow(page.path, link.href) for link in page.links)
    return sum(
        not isinstance(one, Elsewhere) and one.path != page.path and one.path in site.pages for one in outcomes
    )


def _record(finding: Finding, page: Page) -> FindingRecord:
    view = _VIEW.dump_python(view_finding(finding, page), mode="json")
    return FindingRecord(page.path, finding.rule.code, storable(words_at(page.text, finding.span)), view)


def asked(settings: Settings, pages: Collection[str] | None = None) -> FindingsAsked:
    """Return which of the kept findings an author wants to see."""
    options = settings.check_options
    off = [code for code in RULES if not options.wants(code)]
    return FindingsAsked(
        pages=pages,
        rules=tuple(code for code in RULES if code not in off) if off else None,
        aside=tuple(one.place for one in options.aside),
        left_out=options.left_out,
    )


def as_findings(loaded: LoadedSite, page: str | None) -> list[Finding]:
    """Return kept findings of a site, or of a page, as the core knows them, without what fixes them."""
    found = []
    for _, view in load_findings(loaded, asked(loaded.settings, None if page is None else [page])):
        rule = replace(RULES[view.rule], severity=Severity(view.severity))
        span = Span(view.start, view.start)
        found.append(Finding(rule, view.page, span, Place(view.line, view.column), view.message))
    return found


def faulty_pages(loaded: LoadedSite, rule: str | None) -> list[str]:
    """Return the pages with findings of a rule, or of any; those that are kept must be up to date."""
    wanted = asked(loaded.settings)
    if rule is not None:
        wanted = replace(wanted, rules=[rule] if loaded.settings.check_options.wants(rule) else [])
    return sorted({page for page, _ in queries.count_findings(loaded.session, loaded.record.site_id, wanted)})


def load_findings(loaded: LoadedSite, wanted: FindingsAsked) -> list[tuple[int, FindingView]]:
    """Return kept findings, each with its number on its page, as their author sees them."""
    found = queries.load_findings(loaded.session, loaded.record.site_id, wanted)
    severities = loaded.settings.checks.severities
    return [(number, _view(record, severities)) for number, record in found]


def _view(record: FindingRecord, severities: Mapping[str, str]) -> FindingView:
    view = _VIEW.validate_python(record.view)
    severity = severities.get(record.rule)
    return view if severity is None else replace(view, severity=str(severity))


def findings_on(loaded: LoadedSite, path: str) -> tuple[FindingView, ...]:
    """Return the findings of a page, which must be up to date."""
    return tuple(view for _, view in load_findings(loaded, asked(loaded.settings, [path])))


def count_severities(loaded: LoadedSite, pages: Collection[str]) -> dict[str, dict[str, int]]:
    """Return how many findings some pages have, by their paths and the findings' severity."""
    counts: dict[str, dict[str, int]] = {}
    severities = loaded.settings.checks.severities
    found = queries.count_findings(loaded.session, loaded.record.site_id, asked(loaded.settings, pages))
    for (page, rule), number in found.items():
        severity = str(severities.get(rule) or RULES[rule].severity)
        of_page = counts.setdefault(page, {})
        of_page[severity] = of_page.get(severity, 0) + number
    return counts


@dataclass(frozen=True, slots=True)
class RuleCount:
    """How many findings there are of one rule."""

    rule: str
    title: str
    severity: str
    count: int
    pressed: int  # of them that one press fixes
    chosen: int  # of them that are fixed by a choice
    only: FindingView | None  # the finding, where there is but one
    rank: int  # how much such findings hurt readers: 0 most


@dataclass(frozen=True, slots=True)
class FindingsView:
    """What is wrong on the pages of a site, by rule: what hurts readers most first, then what is found most."""

    groups: tuple[RuleCount, ...]
    fixable: int  # how many are fixed without a question


@dataclass(frozen=True, slots=True)
class FoundView:
    """Some of the findings of a rule."""

    findings: tuple[FindingView, ...]
    after: int | None  # number of the last one on its page, to go on after; None where there are no more


_RANKS = {severity: rank for rank, severity in enumerate((Severity.ERROR, Severity.WARNING, Severity.ADVICE))}


def _asked_for(loaded: LoadedSite, query: str) -> FindingsAsked:
    words = query.strip()
    folded = words.casefold()
    named = (code for code, rule in RULES.items() if folded in f"{rule.title} {code}".casefold())
    return replace(asked(loaded.settings), words=words, or_rules=tuple(named) if words else ())


def group_findings(loaded: LoadedSite, query: str) -> FindingsView:
    """Return the kept findings of a site by rule: those whose page, title or message contains some words."""
    severities = loaded.settings.checks.severities
    wanted = _asked_for(loaded, query)
    counts = queries.count_by_rule(loaded.session, loaded.record.site_id, wanted)
    single = [rule for rule, (count, _, _) in counts.items() if count == 1]
    only = {view.rule: view for _, view in load_findings(loaded, replace(wanted, rules=single))} if single else {}
    groups = [
        RuleCount(
            rule,
            RULES[rule].title,
            str(severities.get(rule) or RULES[rule].severity),
            *numbers,
            only.get(rule),
            rank_of(rule),
        )
        for rule, numbers in counts.items()
    ]
    groups.sort(key=lambda one: (_RANKS[Severity(one.severity)], one.rank, -one.count, one.rule))
    return FindingsView(tuple(groups), sum(one.pressed for one in groups if one.rule not in MADE_ANEW))


@dataclass(frozen=True, slots=True)
class CausesView:
    """The findings of a rule by what they have in common."""

    causes: tuple[SaidCount, ...]  # of most findings first
    more: bool  # whether there are others


def find_causes(loaded: LoadedSite, rule: str, query: str, by: By, limit: int) -> CausesView:
    """Return the kept findings of a rule by their cause, or by the block that they are in."""
    wanted = _asked_for(loaded, query)
    if wanted.rules is not None and rule not in wanted.rules:
        return CausesView((), more=False)
    wanted = replace(wanted, rules=[rule])
    found = queries.count_by_said(loaded.session, loaded.record.site_id, wanted, by, limit + 1)
    return CausesView(tuple(found[:limit]), len(found) > limit)


def find_of_rule(
    loaded: LoadedSite,
    rule: str,
    query: str,
    after: tuple[str, int] | None,
    limit: int,
    of: tuple[By, str] | None = None,
) -> FoundView:
    """Return kept findings of a rule, those behind a page and a number on it; with `of`, of a cause or a block."""
    wanted = replace(_asked_for(loaded, query), of=of)
    if wanted.rules is not None and rule not in wanted.rules:
        return FoundView((), None)
    found = load_findings(loaded, replace(wanted, rules=[rule], after=after, limit=limit + 1))
    shown = found[:limit]
    return FoundView(tuple(view for _, view in shown), shown[-1][0] if len(found) > limit else None)
