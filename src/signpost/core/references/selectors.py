"""Where style sheets name identifiers: in selectors and in references to parts of a drawing (CSS Syntax 3).

Found by tokens, never by bare search: `#bad` in a colour is not a selector, nor is what is in a comment or a string.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace
from itertools import groupby
from typing import Any

import tinycss2
from tinycss2.serializer import serialize_identifier

from signpost.core.text.edits import Edit, splice
from signpost.core.text.errors import InputError
from signpost.core.text.positions import Span
from signpost.core.text.tags import LISTS_OF_IDENTIFIERS

_LINE_END = re.compile(r"\r\n|\n|\r|\f")
_HASH = re.compile(r"#(?:[-\w\u0080-\U0010ffff]|\\[0-9a-fA-F]{1,6}\s?|\\[^\n\r\f])+")
_URL = re.compile(r"url\(\s*([\"']?)#([^\"')]*)\1\s*\)", re.IGNORECASE)
_NESTING = frozenset("media supports layer container scope document starting-style".split())
#: Where the value is in an attribute selector: behind the name and the sign.
_VALUE = 2
_TOO_DEEP = (
    "A style sheet nests its rules hundreds of levels deep, so it cannot be searched for identifiers. Put its "
    "closing braces right first."
)
_NAMING = LISTS_OF_IDENTIFIERS | {"id", "name"}


class StyleReader:
    """One style sheet, or the declarations of a `style` attribute, that is at an offset of a larger text."""

    def __init__(self, css: str, offset: int = 0, *, declarations: bool = False) -> None:
        self.css = css
        self.offset = offset
        self._starts = [0, *(found.end() for found in _LINE_END.finditer(css))]
        parse = tinycss2.parse_blocks_contents if declarations else tinycss2.parse_stylesheet
        self._rules = parse(css, skip_comments=True, skip_whitespace=True)

    def renamed(self, old: str, new: str, *, keep: bool = False) -> list[Edit]:
        """Return the edits that make `new` of the identifier `old`.

        With `keep`, selectors that name `old` stay, and one for `new` goes beside each. Raises InputError where rules
        are nested beyond all reason.
        """
        try:
            return self._renamed(old, new, keep=keep)
        except RecursionError as error:
            raise InputError(_TOO_DEEP) from error

    def _renamed(self, old: str, new: str, *, keep: bool) -> list[Edit]:
        edits: list[Edit] = []
        for selector, end in self._selectors(self._rules):
            spans = list(self._named(selector, old))
            if not spans:
                continue
            reason = f"style rule for “{new}”"
            changed = [Edit(span.start, span.end, self._spelled(span, new), reason=reason) for span in spans]
            edits += [self._beside(selector, end, changed)] if keep else changed
        for span in self._references(self._rules, old):
            edits.append(Edit(span.start, span.end, new, reason=f"refers to “{new}”"))
        shift = self.offset
        return [replace(edit, start=edit.start + shift, end=edit.end + shift) for edit in edits]

    def imports(self) -> list[str]:
        """Return the addresses of the style sheets that this one imports."""
        found = []
        for rule in self._rules:
            if rule.type == "at-rule" and rule.lower_at_keyword == "import":
                address = next((token for token in rule.prelude if token.type in ("string", "url", "function")), None)
                if address is not None:
                    arguments = [] if address.type != "function" else address.arguments
                    value = next((token.value for token in arguments if token.type == "string"), None)
                    found.append(str(address.value if address.type != "function" else value or ""))
        return found

    def hashes(self) -> Iterator[tuple[str, Span]]:
        """Yield the identifiers that selectors name by "#", each with its place, the "#" included.

        Raises InputError where rules are nested beyond all reason.
        """
        try:
            for selector, _ in self._selectors(self._rules):
                for token in selector:
                    found = _HASH.match(self.css, self._at(token)) if token.type == "hash" else None
                    if found:
                        yield str(token.value), Span(found.start() + self.offset, found.end() + self.offset)
        except RecursionError as error:
            raise InputError(_TOO_DEEP) from error

    def classes(self) -> Iterator[tuple[str, Span]]:
        """Yield the classes that selectors name by "." and by nothing else than an element's name, with their places.

        The "." is included. Raises InputError where rules are nested beyond all reason.
        """
        try:
            for selector, _ in self._selectors(self._rules):
                compounds = groupby(selector, key=lambda one: one.type == "whitespace" or one == ">")
                for compound in (list(tokens) for between, tokens in compounds if not between):
                    dot, *named = compound[compound[0].type == "ident" :] or [None]
                    if dot == "." and [one.type for one in named] == ["ident"]:
                        start, name = self._at(dot) + self.offset, str(named[0].value)
                        yield name, Span(start, start + 1 + len(name))
        except RecursionError as error:
            raise InputError(_TOO_DEEP) from error

    # ------------------------------------------------------------------ what is where

    def _at(self, token: Any) -> int:
        return self._starts[int(token.source_line) - 1] + int(token.source_column) - 1

    def _selectors(self, rules: Iterable[Any]) -> Iterator[tuple[Sequence[Any], int]]:
        """Yield each selector of each rule, as its tokens and the offset behind it; the rules within rules too."""
        for rule in rules:
            if rule.type == "qualified-rule":
                yield from self._split(rule.prelude, "{")
            elif rule.type == "at-rule" and rule.lower_at_keyword == "scope":
                for block in rule.prelude:
                    if block.type == "() block":
                        yield from self._split(block.content, ")")
            yield from self._selectors(self._within(rule))

    def _split(self, tokens: Iterable[Any], closing: str) -> Iterator[tuple[Sequence[Any], int]]:
        """Yield the selectors of a list without the white space around them; `closing` follows the list."""
        selector: list[Any] = []
        for token in [*tokens, None]:
            if token is None or (token.type == "literal" and token.value == ","):
                while selector and selector[-1].type == "whitespace":
                    selector.pop()
                if selector:
                    end = self.css.find(closing, self._behind(selector[-1])) if token is None else self._at(token)
                    yield selector, len(self.css[: end if end >= 0 else None].rstrip())
                selector = []
            elif selector or token.type != "whitespace":
                selector.append(token)

    def _behind(self, token: Any) -> int:
        """Return an offset behind what a token contains, or its own where it contains nothing."""
        held = getattr(token, "arguments", None) or getattr(token, "content", None) or ()
        return self._behind(held[-1]) + bool(token.type in ("function", "() block")) if held else self._at(token)

    def _within(self, rule: Any) -> list[Any]:
        nested = rule.type == "qualified-rule" or (rule.type == "at-rule" and rule.lower_at_keyword in _NESTING)
        if not nested or not rule.content:
            return []
        return list(tinycss2.parse_blocks_contents(rule.content, skip_comments=True, skip_whitespace=True))

    def _named(self, tokens: Iterable[Any], name: str) -> Iterator[Span]:
        """Yield the places in a selector where it names an identifier."""
        for token in tokens:
            if token.type == "hash" and token.value == name:
                found = _HASH.match(self.css, self._at(token))
                if found:
                    yield Span(found.start() + 1, found.end())
            elif token.type == "[] block":
                yield from self._attribute(token.content, name)
            elif token.type == "function":
                yield from self._named(token.arguments, name)
            elif token.type == "() block":
                yield from self._named(token.content, name)

    def _attribute(self, tokens: Iterable[Any], name: str) -> Iterator[Span]:
        """Yield where an attribute selector compares an attribute that names identifiers, or an address."""
        shown = [token for token in tokens if token.type not in ("whitespace", "comment")]
        if len(shown) <= _VALUE or shown[0].type != "ident" or shown[_VALUE].type not in ("ident", "string"):
            return
        attribute, value = shown[0].lower_value, shown[_VALUE].value
        wanted = {name} if attribute in _NAMING else {"#" + name} if attribute in ("href", "xlink:href") else set()
        if value in wanted:
            at = self._at(shown[_VALUE])
            written = self.css.find(name, at)
            if 0 <= written <= at + 2:
                yield Span(written, written + len(name))

    def _references(self, rules: Iterable[Any], name: str) -> Iterator[Span]:
        """Yield where declarations refer to a part of the document by `url(#name)`."""
        for rule in rules:
            if rule.type == "declaration":
                for token in rule.value:
                    found = _URL.match(self.css, self._at(token)) if token.type in ("url", "function") else None
                    if found and found[2] == name:
                        yield Span(found.start(2), found.end(2))
            yield from self._references(self._within(rule), name)

    def _spelled(self, span: Span, new: str) -> str:
        """Return an identifier as it is written at a place: within quotes as it is, else escaped."""
        quoted = self.css[span.start - 1 : span.start] in ('"', "'") or self.css[span.start - 2 : span.start] in (
            '"#',
            "'#",
        )
        return new if quoted else str(serialize_identifier(new))

    def _beside(self, selector: Sequence[Any], end: int, changed: list[Edit]) -> Edit:
        """Return the edit that puts a changed copy of a selector behind it."""
        copy = splice(self.css, Span(self._at(selector[0]), end), changed)
        return Edit(end, end, ", " + copy, reason=changed[0].reason)
