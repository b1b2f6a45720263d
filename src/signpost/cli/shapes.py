"""The JSON that the command prints: docs/architecture.md says what stays compatible."""

from __future__ import annotations

import re

from signpost.core.findings import Finding, Severity
from signpost.core.headings.lookalikes import find_lookalikes
from signpost.core.page import Page
from signpost.core.page.outline import Section, read_outline
from signpost.core.page.phrasing import count_words
from signpost.core.site.site import Site


def outline_json(site: Site, page: Page) -> dict[str, object]:
    """Return what `outline --json` prints of a page. Offsets are characters of the decoded file."""
    line = page.source.lines.line
    found = find_lookalikes(page)

    def lookalikes_json(start: int, end: int) -> list[dict[str, object]]:
        """Return the look-alikes between two offsets, as sections within one another by their levels."""
        listed: list[dict[str, object]] = []
        open_: list[tuple[int, list[dict[str, object]]]] = [(0, listed)]
        within = [one for one in found if start <= one.start < end]
        for row, one in enumerate(within):
            after = next((other.start for other in within[row + 1 :] if other.level <= one.level), end)
            while open_[-1][0] >= one.level:
                open_.pop()
            inner: list[dict[str, object]] = []
            open_[-1][1].append(
                {
                    "level": one.level,
                    "text": one.text,
                    "id": one.identifier,
                    "line": line(one.start),
                    "start": one.start,
                    "end": after,
                    "words": count_words(re.sub(r"<[^>]*>", " ", page.text[one.start : after])),
                    "lookalike": True,
                    "sections": inner,
                }
            )
            open_.append((one.level, inner))
        return listed

    def section_json(section: Section) -> dict[str, object]:
        inner_start = section.sections[0].start if section.sections else section.end
        return {
            "level": section.level,
            "text": section.text,
            "id": section.identifier,
            "line": line(section.start),
            "start": section.start,
            "end": section.end,
            "words": section.words,
            "lookalike": False,
            "sections": [
                *lookalikes_json(section.start, inner_start),
                *(section_json(part) for part in section.sections),
            ],
        }

    sections = read_outline(page).sections
    lead_end = sections[0].start if sections else len(page.text)
    return {
        "page": page.path,
        "encoding": page.source.encoding,
        "newline": page.source.newline,
        "title": page.title,
        "words": page.words,
        "sections": [*lookalikes_json(0, lead_end), *(section_json(section) for section in sections)],
        "targets": [
            {"id": target.name, "attribute": target.attribute, "element": target.element, "line": line(target.start)}
            for target in page.targets
        ],
        "links": [
            {
                "href": link.href,
                "text": link.text,
                "kind": link.kind.value,
                "resolves": site.resolves(page.path, link),
                "line": line(link.start),
            }
            for link in page.links
        ],
    }


def findings_json(findings: list[Finding]) -> dict[str, object]:
    """Return what `check --json` prints."""
    counts = {severity.value: 0 for severity in Severity}
    for finding in findings:
        counts[finding.rule.severity.value] += 1
    return {
        "findings": [
            {
                "rule": finding.rule.code,
                "severity": finding.rule.severity.value,
                "page": finding.page,
                "line": finding.place.line,
                "column": finding.place.column,
                "message": finding.message,
                "fix": finding.rule.fix.value,
                "reference": finding.rule.reference,
            }
            for finding in findings
        ],
        "counts": counts,
    }
