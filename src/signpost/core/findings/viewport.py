"""A page that does not say that it fits narrow windows; whether it does, its style rules tell."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from functools import partial

import tinycss2

from signpost.core.findings.catalogue import Choice, Finding
from signpost.core.findings.page_check import Check
from signpost.core.headings.heads import read_head
from signpost.core.page import Page
from signpost.core.page.habits import read_habits
from signpost.core.page.markup import tokens_of
from signpost.core.page.placing import block_start
from signpost.core.site.index import Matter
from signpost.core.site.site import Resolved
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Span
from signpost.core.text.tags import scan_attributes

CODE = "viewport-missing"
_STYLE = re.compile(r"<style\b[^<>]*>(.*?)</style", re.IGNORECASE | re.DOTALL)
#: What selects something in which the whole page stands.
_FRAME = re.compile(
    r"(?<![\w.#-])(?:body|html)(?![\w-])|[.#][\w-]*(?:wrap|page|contain|content|main|layout|site|frame|outer)",
    re.IGNORECASE,
)
_PIXELS = re.compile(r"\s*(\d{1,5})(?:\.\d+)?px\s*", re.IGNORECASE)
_LEAST_WIDE = 500  # pixels that fit no telephone


def find_missing_viewport(check: Check) -> Iterator[Finding]:
    """Yield that a page does not say whether it fits narrow windows (CSS Viewport 1, the viewport meta element)."""
    page = check.page
    if not page.html5 or page.head_end is None or read_head(page).viewport:
        return
    at = Span(page.head_end, page.head_end)
    fits = _edit(page, "width=device-width, initial-scale=1", "the page fits narrow windows")
    width = _fixed_width(check)
    if width is None:
        message = (
            "The page does not say that it fits narrow windows, so phones show it small, as if on a wide screen."
        )
        yield check.find_at(CODE, at, message, edits=[fits])
        return
    message = (
        f"The page does not say how it fits narrow windows. It is laid out {width} pixels wide: where it says so, "
        "phones show all of it, small; where it says that it fits, they show a part of its width, in reading size."
    )
    wide = _edit(page, f"width={width}", "the page is as wide as it is laid out")
    choices = [Choice(f"Say that it is {width} pixels wide", (wide,)), Choice("Say that it fits any window", (fits,))]
    yield check.find_at(CODE, at, message, choices=choices)


def _edit(page: Page, content: str, reason: str) -> Edit:
    slot = block_start(page.text, page.head_end or 0)
    newline = page.source.newline if slot.own_line else ""
    indent = _head_indent(page) if slot.own_line else ""
    meta = read_habits(page).void("meta", name_="viewport", content=content)
    return Edit(slot.at, slot.at, f"{indent}{meta}{newline}", reason=reason)


def _head_indent(page: Page) -> str:
    found = re.search(r"^([ \t]+)<(?:title|meta|link)\b", page.text[: page.head_end], re.IGNORECASE | re.MULTILINE)
    return found[1] if found else ""


def _fixed_width(check: Check) -> int | None:
    """Return how many pixels wide a page is laid out, whatever the window; None where it is not."""
    widths = [width for widths in _widths(check) for width in widths]
    table = next(tokens_of(check.page).named("table", having="width"), None)
    if table is not None:
        said = next((one.value for one in scan_attributes(check.page.text, table.start) if one.name == "width"), "")
        pixels = _PIXELS.fullmatch(said.strip().removesuffix("px") + "px")
        widths += [int(pixels[1])] if pixels else []
    wide = max(widths, default=0)
    return wide if wide >= _LEAST_WIDE and min(widths) > 0 else None


def _widths(check: Check) -> Iterator[Sequence[int]]:
    """Yield what the style rules that a page has or loads from its site say of its width, as `_widths_in` does."""
    for found in _STYLE.finditer(check.page.text):
        yield _widths_in(found[1])
    for resource in check.page.resources:
        outcome = check.site.follow(check.page.path, resource.url) if resource.element == "link" else None
        if not isinstance(outcome, Resolved):
            continue
        check.site.index.note([(Matter.TEXT, outcome.path)])
        source = check.site.texts.get(outcome.path)
        if source is not None:
            yield check.site.remember(("widths of a page", outcome.path), partial(_widths_in, source.text))


def _widths_in(css: str) -> Sequence[int]:
    """Return how many pixels wide a style sheet makes what a page stands in; a 0 among them is of a narrow window."""
    if "width" not in css or "px" not in css:
        return ()
    found = []
    for rule in tinycss2.parse_stylesheet(css, skip_comments=True, skip_whitespace=True):
        if rule.type == "at-rule" and rule.lower_at_keyword == "media":
            found += [0] if "width" in tinycss2.serialize(rule.prelude).lower() else []
        elif rule.type == "qualified-rule" and _is_of_frame(tinycss2.serialize(rule.prelude)):
            for said in tinycss2.parse_blocks_contents(rule.content, skip_comments=True, skip_whitespace=True):
                if said.type == "declaration" and said.lower_name in ("width", "min-width"):
                    pixels = _PIXELS.fullmatch(tinycss2.serialize(said.value))
                    found += [int(pixels[1])] if pixels and int(pixels[1]) else []
    return found


def _is_of_frame(selectors: str) -> bool:
    """Return whether one of some selectors is of what the whole page stands in; what is within that is not."""
    return any(_FRAME.search(re.split(r"[\s>+~]+", one.strip())[-1]) for one in selectors.split(","))
