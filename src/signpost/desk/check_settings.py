"""How a site is checked: rules on and off, what is set aside, the site's own file, findings to take away."""

from __future__ import annotations

import json
from collections.abc import Collection
from dataclasses import dataclass, replace
from enum import StrEnum
from uuid import UUID

from signpost.core.findings import RULES, Severity, check_page
from signpost.core.findings.landings import MEASURED
from signpost.core.findings.options import PageLimits, SetAside, words_at
from signpost.core.findings.reports import findings_csv, findings_html, findings_json, sarif_json
from signpost.core.page import Page
from signpost.core.text.errors import GoneError
from signpost.core.text.positions import Span
from signpost.core.text.tags import start_tag_end
from signpost.desk.deeds import change_settings
from signpost.desk.findings import as_findings
from signpost.desk.loading import LoadedSite
from signpost.desk.opening import EVERY_PAGE, opened
from signpost.desk.settings import Settings, read_settings
from signpost.store.database import Database


class Scope(StrEnum):
    """How much is set aside with a finding."""

    PLACE = "place"  # it alone
    PAGE = "page"  # all of its rule on its page
    SITE = "site"  # all of its rule


class ReportForm(StrEnum):
    """What findings are taken away as."""

    HTML = "html"
    CSV = "csv"
    JSON = "json"
    SARIF = "sarif"


@dataclass(frozen=True, slots=True)
class RuleView:
    """A rule, and how it is looked at on a site."""

    code: str
    title: str
    why: str
    wrong: str
    right: str
    reference: str
    off: str  # why it is looked at only where somebody asks for it; "" for one that always is
    usual_severity: Severity
    on: bool
    severity: Severity


@dataclass(frozen=True, slots=True)
class AsideView:
    """What is set aside."""

    rule: str
    title: str
    page: str  # "" for all pages
    words: str  # of the place; "" for all places
    reason: str
    in_file: bool  # whether the site's own file says so, so that it is taken back there


@dataclass(frozen=True, slots=True)
class ChecksView:
    """How a site is checked."""

    rules: tuple[RuleView, ...]
    aside: tuple[AsideView, ...]
    limits: PageLimits
    left_out: tuple[str, ...]
    has_file: bool  # whether the site has a file of its own that says so
    problem: str  # why that is passed over; "" where it is read


def checks_of(database: Database, site_id: UUID) -> ChecksView:
    """Return how a site is checked."""
    with opened(database, site_id) as loaded:
        own = read_settings(loaded.record.settings).checks
    options = loaded.settings.check_options
    places = {one.place for one in own.aside}
    rules = (
        RuleView(
            code, rule.title, rule.why, rule.wrong, rule.right, rule.reference, rule.off, rule.severity,
            options.wants(code), options.severities.get(code, rule.severity),
        )
        for code, rule in sorted(RULES.items(), key=lambda pair: pair[1].title)
    )  # fmt: skip
    aside = (
        AsideView(one.rule, RULES[one.rule].title, one.page, one.words, one.reason, one.place not in places)
        for one in options.aside
    )
    return ChecksView(
        tuple(rules),
        tuple(aside),
        options.limits,
        options.left_out,
        loaded.has_site_file,
        loaded.site_file_problem,
    )


def save_checks(
    database: Database,
    site_id: UUID,
    on: Collection[str],
    severities: dict[str, Severity],
    limits: PageLimits,
    left_out: Collection[str],
) -> ChecksView:
    """Keep which rules are looked at, and how; return how the site is checked then."""

    def change(kept: Settings) -> Settings:
        checks = replace(
            kept.checks,
            off=tuple(code for code, rule in RULES.items() if not rule.off and code not in on),
            on=tuple(code for code, rule in RULES.items() if rule.off and code in on),
            severities={code: one for code, one in severities.items() if one is not RULES[code].severity},
            limits=limits,
            left_out=tuple(left_out),
        )
        return replace(kept, checks=checks)

    change_settings(database, site_id, change, "changed how the site is checked")
    return checks_of(database, site_id)


def set_aside(database: Database, site_id: UUID, page: str, rule: str, start: int, scope: Scope, reason: str) -> None:
    """Set a finding aside, or all of its rule. Raises GoneError where it is not there any more.

    What is measured is known by the tag that it is found at, since only browsers find it.
    """
    with opened(database, site_id) as loaded:
        found = loaded.page(page)
        span = _span_of(loaded, found, rule, start)
    if span is None:
        raise GoneError("The finding")
    aside = SetAside(rule, reason=reason)
    if scope is not Scope.SITE:
        aside = replace(aside, page=page)
    if scope is Scope.PLACE:
        aside = replace(aside, words=words_at(found.text, span))
    change_settings(database, site_id, lambda kept: kept.set_aside(aside), f"set aside: {RULES[rule].title}")


def _span_of(loaded: LoadedSite, page: Page, rule: str, start: int) -> Span | None:
    """Return where a finding is; None where there is none."""
    if rule in MEASURED:
        end = start_tag_end(page.text, start) if page.text[start : start + 1] == "<" else start
        return Span(start, end) if end > start else None
    findings = check_page(loaded.site, page.path, loaded.settings.check_options)
    return next((one.span for one in findings if one.rule.code == rule and one.span.start == start), None)


def take_back(database: Database, site_id: UUID, aside: SetAside) -> None:
    """Look again at what was set aside."""
    change_settings(
        database,
        site_id,
        lambda kept: kept.set_aside(aside, aside_now=False),
        f"looks again at: {RULES[aside.rule].title}",
    )


def report(database: Database, site_id: UUID, form: ReportForm, page: str | None = None) -> str:
    """Return the findings of a site, or of one page, to take away."""
    with opened(database, site_id, checked=EVERY_PAGE if page is None else [page]) as loaded:
        if page is not None:
            loaded.page(page)
        found = as_findings(loaded, page)
    if form is ReportForm.CSV:
        return findings_csv(found)
    if form is ReportForm.HTML:
        return findings_html(loaded.record.name, found)
    shaped = findings_json(found) if form is ReportForm.JSON else sarif_json(found)
    return json.dumps(shaped, ensure_ascii=False, indent=2)
