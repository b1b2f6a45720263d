"""Findings as screens show them."""

from __future__ import annotations

from dataclasses import dataclass

from signpost.core.findings import Finding
from signpost.core.findings.catalogue import rank_of
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
    cause: str = ""  # what it has in common with others of its rule
    rank: int = 0  # how much such findings hurt readers: 0 most
    block: str = ""  # the block of navigation, header or footer that it is in; "" for none


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
        cause=finding.cause,
        rank=rank_of(finding.rule.code),
        block=_block(finding, page),
    )


def _block(finding: Finding, page: Page) -> str:
    """Return what the furniture of a page is called that a finding is in, as its author would write it."""
    start = finding.span.start
    element = next((one for one in page.furniture if one.open.start <= start < one.end), None)
    if element is None or finding.span.end == finding.span.start == 0:
        return ""
    said = {one.name: one.value for one in page.attributes_at(element.open.start)}
    identifier, classes = said.get("id", "").strip(), said.get("class", "").split()
    return element.tag + (f"#{identifier}" if identifier else "") + "".join(f".{one}" for one in classes)
