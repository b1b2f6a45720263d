"""Tags that were mistyped: what their author meant is written in their place."""

from __future__ import annotations

from collections.abc import Iterator

from signpost.core.findings.catalogue import Finding
from signpost.core.findings.page_check import Check
from signpost.core.page.mistyped import MistypedKind, find_mistyped
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Span

_CODES = {
    MistypedKind.NAME: "element-misspelt",
    MistypedKind.SPACE: "tag-space-missing",
    MistypedKind.SLASH: "end-tag-mistyped",
    MistypedKind.END: "end-tag-mistyped",
}


def find_mistyped_tags(check: Check) -> Iterator[Finding]:
    """Yield the tags of a page that were mistyped."""
    text = check.page.text
    for one in find_mistyped(check.page):
        tag, written = one.tag, " ".join(text[one.tag.start : one.tag.end].split())
        match one.kind:
            case MistypedKind.NAME:
                message = f"There is no element “{one.span.of(text)}”, so {written} does nothing. {one.text} is one."
            case MistypedKind.SPACE:
                message = f"{written} has no space behind “{tag.name}”, so it is no tag that browsers know."
            case MistypedKind.SLASH:
                message = f"<{tag.name}> begins another {tag.name} here, where </{tag.name}> is meant to end one."
            case MistypedKind.END:
                message = f"{written} is no end tag, so what it should end goes on. One is written {one.text}."
        edit = Edit(one.span.start, one.span.end, one.text, reason="the tag that is meant")
        yield check.find_at(_CODES[one.kind], Span(tag.start, tag.end), message, [edit])
