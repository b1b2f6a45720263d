"""What is wrong of landings. They are measured, so that a page alone cannot tell them."""

from __future__ import annotations

from collections.abc import Iterable

from signpost.core.findings.catalogue import RULES, Finding
from signpost.core.landings.landings import JumpLanding, Verdict
from signpost.core.page import Link, Page
from signpost.core.text.positions import Span
from signpost.core.text.tags import start_tag_end


def find_bad_landings(page: Page, landings: Iterable[tuple[Link, JumpLanding]]) -> list[Finding]:
    """Return what is wrong of the landings of a page's links, in the order in which they come."""
    lines = page.source.lines
    findings = []
    for link, landing in landings:
        if landing.verdict is Verdict.COVERED:
            code, message = "landing-covered", _covered(link, landing)
        elif landing.verdict is Verdict.SHORT:
            code, message = "landing-short", _short(link, landing)
        else:
            continue
        end = start_tag_end(page.text, link.start)
        findings.append(Finding(RULES[code], page.path, Span(link.start, end), lines.place(link.start), message))
    return findings


def _covered(link: Link, landing: JumpLanding) -> str:
    return (
        f"“{link.text or link.href}” lands with {landing.covered:.0f} pixels of its first line under {landing.bar}. "
        "Fix it at the stage “Landings”."
    )


def _short(link: Link, landing: JumpLanding) -> str:
    return (
        f"“{link.text or link.href}” lands {landing.short:.0f} pixels below the window's top, since the page ends "
        "too soon. Fix it at the stage “Landings”, or accept it."
    )
