"""How much a page may hold to be worked on; a page beyond is a page with a reason, and harms no other."""

from __future__ import annotations

from signpost.core.errors import InputError
from signpost.core.source import Source

#: Tags of a page. The longest pages that people read have a few ten thousand.
MOST_TAGS = 400_000
#: Lines of a page.
MOST_LINES = 500_000


def find_excess(source: Source) -> InputError | None:
    """Return why a page is too much to be worked on, or None where it is not; nothing of it is parsed for that."""
    tags = source.text.count("<")
    if tags > MOST_TAGS:
        return InputError(f"It has about {tags:,} tags; pages of up to {MOST_TAGS:,} are worked on. Divide it first.")
    lines = source.text.count("\n") + source.text.count("\r")
    if lines > MOST_LINES:
        return InputError(f"It has {lines:,} lines; pages of up to {MOST_LINES:,} are worked on. Divide it first.")
    return None
