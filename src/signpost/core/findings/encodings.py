"""Pages whose bytes are read otherwise than they are meant."""

from __future__ import annotations

from collections.abc import Iterator

from signpost.core.findings.catalogue import Finding
from signpost.core.findings.page_check import Check
from signpost.core.text.errors import EncodingError
from signpost.core.text.prescan import declares_refused
from signpost.core.text.source import find_conflict


def find_damage(check: Check) -> Iterator[Finding]:
    """Yield what is wrong with a page's encoding."""
    source = check.page.source
    if source.damage is not None:
        yield check.find("page-unreadable", 0, str(EncodingError(source.encoding, source.damage)))
    if declares_refused(source.data):
        yield check.find(
            "encoding-refused",
            0,
            "The page declares an encoding that browsers refuse to read, so they show an empty page. It is read as "
            f"{source.encoding} here; save it as UTF-8 and declare that.",
        )
    declared = find_conflict(source)
    if declared is not None:
        yield check.find(
            "encoding-conflict",
            0,
            f"The byte-order mark says {source.encoding}, the page's meta element says {declared}. Browsers go by "
            f"the mark; write {source.encoding} into the meta element, or save the page without the mark.",
        )
