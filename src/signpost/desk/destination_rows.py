"""Where links may lead on a page, as the index keeps it."""

from __future__ import annotations

import unicodedata

from signpost.core.page import Page
from signpost.core.site.told import NameUse, names_of
from signpost.store.records import DestinationRecord


def read_destinations(page: Page) -> list[DestinationRecord]:
    """Return where links may lead on a page: to itself, to its sections, to other places with an identifier."""
    found = [_destination(page, None, 0, None, page.title or page.path)]
    for index, heading in enumerate(page.headings):
        found.append(_destination(page, index, heading.level, heading.identifier, heading.text))
    named = {heading.identifier for heading in page.headings}
    names = (name for name, use in names_of(page).items() if use is not NameUse.MOVED and name not in named)
    return found + [_destination(page, None, 0, name, name) for name in names]


def _destination(page: Page, section: int | None, level: int, identifier: str | None, text: str) -> DestinationRecord:
    return DestinationRecord(section, level, identifier, text, folded(f"{text} {identifier or ''} {page.path}"))


def folded(text: str) -> str:
    """Return text as it is looked for: without accents, in lower case (Unicode, UAX 15)."""
    apart = unicodedata.normalize("NFD", text.casefold())
    return "".join(char for char in apart if not unicodedata.combining(char))
