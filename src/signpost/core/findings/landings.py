"""What is wrong of landings. They are measured, so that a page alone cannot tell them."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from signpost.core.findings.catalogue import RULES, Finding
from signpost.core.landings.landings import JumpLanding, Verdict
from signpost.core.page import Link, Page
from signpost.core.text.positions import Span
from signpost.core.text.tags import start_tag_end


def find_bad_landings(page: Page, landings: Iterable[tuple[Link, JumpLanding]]) -> list[Finding]:
    """Return what is wrong of the landings of a page's links: one finding a cause, at its first link.

    A bar that covers eighty landings is one mistake, and so is a page that ends too soon for several.
    """
    lines = page.source.lines
    causes: dict[tuple[str, str], list[tuple[Link, JumpLanding]]] = {}
    for link, landing in landings:
        if landing.verdict is Verdict.COVERED:
            causes.setdefault(("landing-covered", landing.bar), []).append((link, landing))
        elif landing.verdict is Verdict.SHORT:
            causes.setdefault(("landing-short", ""), []).append((link, landing))
        elif landing.verdict is Verdict.IN_VIEW:
            causes.setdefault(("landing-in-view", ""), []).append((link, landing))
    findings = []
    for (code, _), found in causes.items():
        link = found[0][0]
        span = Span(link.start, start_tag_end(page.text, link.start))
        message = _MESSAGES[code](found)
        findings.append(Finding(RULES[code], page.path, span, lines.place(link.start), message))
    return findings


def _covered(found: Sequence[tuple[Link, JumpLanding]]) -> str:
    link, landing = found[0]
    if len(found) > 1:
        most = max(one.covered for _, one in found)
        return (
            f"{landing.bar} covers {len(found):,} landings, with up to {most:.0f} pixels of their first lines under "
            "it. Fix it at the stage “Landings”."
        )
    return (
        f"“{link.text or link.href}” lands with {landing.covered:.0f} pixels of its first line under {landing.bar}. "
        "Fix it at the stage “Landings”."
    )


def _short(found: Sequence[tuple[Link, JumpLanding]]) -> str:
    link, landing = found[0]
    if len(found) > 1:
        most = max(one.short for _, one in found)
        return (
            f"{len(found):,} jump links land too low, by up to {most:.0f} pixels, since the page ends too soon. Fix "
            "them at the stage “Landings”, or accept them."
        )
    return (
        f"“{link.text or link.href}” lands {landing.short:.0f} pixels below the window's top, since the page ends "
        "too soon. Fix it at the stage “Landings”, or accept it."
    )


def _in_view(found: Sequence[tuple[Link, JumpLanding]]) -> str:
    link, _ = found[0]
    words = f"“{link.text or link.href}”"
    if len(found) > 1:
        return f"{len(found):,} jump links, such as {words}, lead to places in view already, so that nothing moves."
    return f"{words} leads to a place that is in view already, so that nothing moves."


#: The rules of what only a browser finds.
_MESSAGES = {"landing-covered": _covered, "landing-short": _short, "landing-in-view": _in_view}
MEASURED = frozenset(_MESSAGES)
