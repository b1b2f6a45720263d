"""Writes docs/findings.md from the catalogue of rules."""

from __future__ import annotations

from pathlib import Path

from signpost.core.findings import RULES, Fix, Severity

PAGE = Path(__file__).resolve().parents[1] / "docs" / "findings.md"
_MEANS = {
    Severity.ERROR: "readers are led wrong",
    Severity.WARNING: "it will go wrong, or shuts someone out",
    Severity.ADVICE: "it could be better",
}
_FIXED = {Fix.AUTO: "one press", Fix.ASK: "one question", Fix.NONE: "by hand"}


def write() -> str:
    """Return the page: each rule with its reason, wrong and right, by severity."""
    lines = [
        "# Findings",
        "",
        "What is looked for on every page. `signpost explain CODE` prints a rule, `signpost check` finds,",
        "`signpost fix` fixes what needs no question. Made from the catalogue by `scripts/list_findings.py`.",
    ]
    for severity in Severity:
        lines += ["", f"## {severity.value.capitalize()}: {_MEANS[severity]}"]
        for rule in sorted(RULES.values(), key=lambda rule: rule.code):
            if rule.severity is severity:
                facts = f"`{rule.code}` · fix: {_FIXED[rule.fix]} · [reference]({rule.reference})"
                lines += ["", f"### {rule.title}", "", facts]
                lines += ["", rule.why] if rule.why else []
                lines += ["", f"Off unless asked for: {rule.off}."] if rule.off else []
                if rule.wrong:
                    lines += ["", "```html", f"<!-- wrong --> {rule.wrong}", f"<!-- right --> {rule.right}", "```"]
    return "\n".join(lines) + "\n"


if __name__ == "__main__":
    PAGE.write_text(write(), encoding="utf-8")
