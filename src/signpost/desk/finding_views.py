"""Findings as screens show them."""

from __future__ import annotations

from dataclasses import dataclass

from signpost.core.findings import Finding
from signpost.core.findings.fixing import has_fix
from signpost.core.page import Page


@dataclass(frozen=True, slots=True)
class FindingView:
    """A finding."""

    rule: str
    title: str
    severity: str
    page: str
    line: int
    column: int  # 1-based, in code points
    section: int
    message: str
    fix: str
    reference: str
    start: int  # offset of the start tag it is about
    end_line: int  # of the stretch that it is about
    end_column: int
    choices: tuple[str, ...]  # ways to fix it, the likeliest first, as words of a button
    fixable: bool  # whether one press fixes it without a question


def view_finding(finding: Finding, page: Page) -> FindingView:
    """Return a finding on a page."""
    lines = page.source.lines if finding.span.end > finding.span.start else None
    end = finding.place if lines is None else lines.place(finding.span.end)
    return FindingView(
        rule=finding.rule.code,
        title=finding.rule.title,
        severity=finding.rule.severity.value,
        page=finding.page,
        line=finding.place.line,
        column=finding.place.column,
        section=page.section_at(finding.span.start),
        message=finding.message,
        fix=finding.fix.value,
        reference=finding.rule.reference,
        start=finding.span.start,
        end_line=end.line,
        end_column=end.column,
        choices=tuple(choice.words for choice in finding.choices),
        fixable=has_fix(finding),
    )
