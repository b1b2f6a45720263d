"""What only a rendered page tells: where jumps land, and what does not fit."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence

from signpost.core.findings.catalogue import RULES, Finding
from signpost.core.findings.check import settle
from signpost.core.findings.options import CheckOptions
from signpost.core.landings.geometry import Geometry, Size, Sized
from signpost.core.landings.landings import JumpLanding, Verdict
from signpost.core.landings.measured import MeasuredPage, land_jump
from signpost.core.page import Link, Page
from signpost.core.site.site import Site
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
        elif landing.verdict is Verdict.SHORT and landing.short >= _NOTICEABLE:
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


def check_measured(
    site: Site, path: str, measured: Mapping[str, MeasuredPage], options: CheckOptions
) -> list[Finding]:
    """Return what is wrong on a page as it was rendered, beside what `check_page` finds; pages by their paths."""
    if path not in measured or not options.checks(path):
        return []
    page = site.pages[path]
    jumps = [link for link in page.links if (site.jump_goal(path, link) or ("",))[0] == path]
    landings = [(link, land_jump(site, path, link, measured.get, link)) for link in jumps]
    found = [*find_bad_landings(page, landings), *find_misfits(page, measured[path].geometry)]
    return [finding for finding, aside in settle(page, found, options) if not aside]


def find_misfits(page: Page, geometry: Geometry) -> Iterator[Finding]:
    """Yield what does not fit: pictures that are far too large, samples that are too wide, lists over the text."""
    for size in geometry.sizes:
        told = _MISFITS[size.kind](size)
        if told is not None:
            code, message = told
            span = Span(size.start, start_tag_end(page.text, size.start))
            yield Finding(RULES[code], page.path, span, page.source.lines.place(size.start), message)


def _picture(size: Size) -> tuple[str, str] | None:
    wasted = size.own_width * size.own_height - size.width * size.height * _DENSE**2
    if wasted < _MANY_PIXELS or size.own_width < size.width * _DENSE or size.own_height < size.height * _DENSE:
        return None
    return (
        "picture-too-large",
        f"This picture has {size.own_width:,.0f} × {size.own_height:,.0f} pixels and is shown at {size.width:,.0f} × "
        f"{size.height:,.0f}. Save a smaller copy of it and show that.",
    )


def _sample(size: Size) -> tuple[str, str] | None:
    beyond = size.own_width - size.width
    return (
        "sample-too-wide",
        f"The longest line of this sample runs {beyond:,.0f} pixels out of its box. Break the line, or let the box "
        "scroll: overflow-x: auto.",
    )


def _side(size: Size) -> tuple[str, str] | None:
    if size.over:
        return (
            "side-over-text",
            f"This stands at the side and lies over up to {size.over:,.0f} pixels of the text. Make it narrower, or "
            "give the text a wider margin.",
        )
    beyond = size.own_width - size.width
    return (
        "side-over-text",
        f"This stands at the side, and its lines run {beyond:,.0f} pixels out of it. Make it wider, or let its lines "
        "break.",
    )


#: A landing that is lower than it should be by less than a line is none that a reader notices, in CSS pixels.
_NOTICEABLE = 20
#: Screens show up to two pixels of a picture, each way, where the page counts one.
_DENSE = 2
#: So many pixels more than needed are not told; they hardly take time to load.
_MANY_PIXELS = 250_000
_MISFITS = {Sized.PICTURE: _picture, Sized.SAMPLE: _sample, Sized.SIDE: _side}


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
MEASURED = frozenset([*_MESSAGES, "picture-too-large", "sample-too-wide", "side-over-text"])
