"""What every rule needs of the page it looks at."""

from __future__ import annotations

import re
from collections.abc import Iterable
from functools import cached_property

from signpost.core.addresses.fragments import Targets
from signpost.core.contents.own import PageContents, read_page_contents
from signpost.core.findings.catalogue import RULES, Choice, Finding
from signpost.core.findings.options import CheckOptions
from signpost.core.page import Page, Target
from signpost.core.page.markup import tokens_of
from signpost.core.site.site import Site
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Lines, Span
from signpost.core.text.tags import find_missing_quote, is_well_quoted, start_tag_end

_NAMED = re.compile(r"\b(?:id|name)\s*=\s*[\"']?([^\s\"'<>]+)", re.IGNORECASE)


class Check:
    """A page that is looked at, with its site."""

    def __init__(self, site: Site, page: Page, options: CheckOptions) -> None:
        self.site = site
        self.page = page
        self.options = options
        self.broken: tuple[Span, ...] = ()  # tags that lack a bracket or a quotation mark, as far as that is known

    @cached_property
    def lines(self) -> Lines:
        """Where the page's lines begin."""
        return self.page.source.lines

    @cached_property
    def targets(self) -> Targets[Target]:
        """What fragments can point to."""
        return self.page.index_targets()

    @cached_property
    def contents(self) -> PageContents:
        """What lists the page's sections."""
        return read_page_contents(self.page)

    @cached_property
    def names(self) -> frozenset[str]:
        """The identifiers of the page."""
        return frozenset(target.name for target in self.page.targets)

    @cached_property
    def hidden_names(self) -> dict[str, int]:
        """Identifiers in broken tags, to which nothing can lead until these are mended, with their places."""
        text = self.page.text
        return {found[1]: one.start for one in self.broken for found in _NAMED.finditer(text, one.start, one.end)}

    def wants(self, code: str) -> bool:
        """Return whether a rule is looked at, for those that take long."""
        return self.options.wants(code)

    def lacks_quote(self, start: int, name: str) -> bool:
        """Return whether an attribute of a start tag lacks a quotation mark, which explains whatever else it does."""
        if is_well_quoted(self.page.text, start):  # as most are
            return False
        written = self.page.attribute_at(start, name)
        return written is not None and find_missing_quote(self.page.text, written) is not None

    def find(
        self,
        code: str,
        start: int,
        message: str,
        edits: Iterable[Edit] = (),
        choices: Iterable[Choice] = (),
    ) -> Finding:
        """Return a finding at an element's start tag."""
        tokens = tokens_of(self.page)
        tag = tokens.at(start)  # what is left unfinished at the page's end is no tag
        span = Span(start, start_tag_end(self.page.text, start) if tag < 0 else tokens.ends[tag])
        return self.find_at(code, span, message, edits, choices)

    def find_at(
        self, code: str, span: Span, message: str, edits: Iterable[Edit] = (), choices: Iterable[Choice] = ()
    ) -> Finding:
        """Return a finding at a stretch of the source; `edits` are those that fix it, or `choices` the ways to."""
        place = self.lines.place(span.start)
        return Finding(RULES[code], self.page.path, span, place, message, tuple(edits), tuple(choices))
