"""Findings to take away: JSON, CSV, SARIF 2.1.0, and a page to print."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from html import escape
from urllib.parse import quote

from signpost.core.findings.catalogue import Finding, Severity
from signpost.core.text.tables import write_csv

#: What SARIF calls our severities (3.27.10).
_LEVELS = {Severity.ERROR: "error", Severity.WARNING: "warning", Severity.ADVICE: "note"}
_STYLE = (
    "body{font:11pt/1.4 serif;max-width:48em;margin:2em auto;padding:0 1em;color:#111;background:#fff}"
    "h1,h2,h3{font-family:sans-serif;line-height:1.2}h2{margin-top:2em;border-bottom:1px solid #999}"
    "h3{margin:1.2em 0 .2em}li{margin:.3em 0;break-inside:avoid}.place{font-family:monospace;font-size:.9em}"
    "table{border-collapse:collapse}td,th{text-align:left;padding:.2em 1em .2em 0}p.why{margin:.2em 0;color:#444}"
)


def findings_json(findings: Sequence[Finding]) -> dict[str, object]:
    """Return findings as `check --json` prints them."""
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
                "fix": finding.fix.value,
                "reference": finding.rule.reference,
            }
            for finding in findings
        ],
        "counts": counts,
    }


def findings_csv(findings: Sequence[Finding]) -> str:
    """Return findings as a table, with a line for each."""
    rows: list[list[object]] = [["page", "line", "column", "severity", "rule", "message", "fix", "reference"]]
    for one in findings:
        place = (one.page, one.place.line, one.place.column)
        rule = one.rule
        rows.append([*place, rule.severity.value, rule.code, one.message, one.fix.value, rule.reference])
    return write_csv(rows)


def sarif_json(findings: Sequence[Finding]) -> dict[str, object]:
    """Return findings as SARIF 2.1.0, columns counted in Unicode code points."""
    rules = sorted({finding.rule.code: finding.rule for finding in findings}.values(), key=lambda rule: rule.code)
    return {
        "$schema": "https://json.schemastore.org/sarif-2.1.0.json",
        "version": "2.1.0",
        "runs": [
            {
                "tool": {
                    "driver": {
                        "name": "signpost",
                        "rules": [
                            {
                                "id": rule.code,
                                "shortDescription": {"text": rule.title},
                                "fullDescription": {"text": rule.why},
                                "helpUri": rule.reference,
                                "defaultConfiguration": {"level": _LEVELS[rule.severity]},
                            }
                            for rule in rules
                        ],
                    }
                },
                "columnKind": "unicodeCodePoints",
                "results": [_sarif_result(finding) for finding in findings],
            }
        ],
    }


def _sarif_result(finding: Finding) -> dict[str, object]:
    place = finding.place
    return {
        "ruleId": finding.rule.code,
        "level": _LEVELS[finding.rule.severity],
        "message": {"text": finding.message},
        "locations": [
            {
                "physicalLocation": {
                    "artifactLocation": {"uri": quote(finding.page)},
                    "region": {"startLine": place.line, "startColumn": place.column},
                }
            }
        ],
    }


def findings_html(name: str, findings: Sequence[Finding]) -> str:
    """Return findings as a page to print: by severity, then by rule, each with its places."""
    counts = Counter(finding.rule.severity for finding in findings)
    pages = len({finding.page for finding in findings})
    title = escape(f"Findings in {name}")
    rows = "".join(
        f"<tr><th>{severity.value.capitalize()}</th><td>{counts[severity]:,}</td></tr>" for severity in Severity
    )
    body = [f"<h1>{title}</h1>", f"<p>{len(findings):,} on {pages:,} pages.</p>", f"<table>{rows}</table>"]
    for severity in Severity:
        found = [finding for finding in findings if finding.rule.severity is severity]
        if found:
            body.append(f"<h2>{severity.value.capitalize()}</h2>")
            body += _by_rule(found)
    return (
        f'<!DOCTYPE html>\n<html lang="en">\n<head>\n<meta charset="utf-8">\n<title>{title}</title>\n'
        f"<style>{_STYLE}</style>\n</head>\n<body>\n" + "\n".join(body) + "\n</body>\n</html>\n"
    )


def _by_rule(findings: Sequence[Finding]) -> list[str]:
    rules = {finding.rule.code: finding.rule for finding in findings}
    lines = []
    for code, rule in sorted(rules.items(), key=lambda pair: pair[1].title):
        places = [finding for finding in findings if finding.rule.code == code]
        lines.append(f"<h3>{escape(rule.title)} ({len(places):,})</h3>")
        lines.append(f'<p class="why">{escape(rule.why)}</p>')
        items = (
            f'<li><span class="place">{escape(one.page)}:{one.place.line}</span> {escape(one.message)}</li>'
            for one in places
        )
        lines.append("<ul>\n" + "\n".join(items) + "\n</ul>")
    return lines
