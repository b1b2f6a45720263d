"""What every rule needs of the page it looks at."""

from __future__ import annotations

from collections.abc import Sequence

from signpost.core.findings.catalogue import RULES, Finding
from signpost.core.page import Page
from signpost.core.site.site import Site
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Lines, Span
from signpost.core.text.tags import start_tag_end


class Check:
    """A page that is looked at, with its site."""

    def __init__(self, site: Site, page: Page) -> None:
        self.site = site
        self.page = page
        self.lines: Lines | None = None

    def find(
        self, code: str, start: int, message: str, suggestions: Sequence[str] = (), edits: Sequence[Edit] = ()
    ) -> Finding:
        """Return a finding at an element's start tag."""
        return self.find_at(code, Span(start, start_tag_end(self.page.text, start)), message, suggestions, edits)

    def find_at(
        self, code: str, span: Span, message: str, suggestions: Sequence[str] = (), edits: Sequence[Edit] = ()
    ) -> Finding:
        """Return a finding at a stretch of the source; `edits` are those that fix it."""
        if self.lines is None:
            self.lines = self.page.source.lines
        place = self.lines.place(span.start)
        return Finding(RULES[code], self.page.path, span, place, message, tuple(suggestions), tuple(edits))
