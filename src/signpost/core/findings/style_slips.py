"""Slips in style sheets: a brace too few or too many, a property whose name is misspelt (CSS Syntax 3)."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import NamedTuple

import tinycss2
from rapidfuzz.distance import DamerauLevenshtein

from signpost.core.findings.properties import PROPERTIES
from signpost.core.text.positions import Span, line_indent, line_start

BRACE, PROPERTY = "style-brace-missing", "style-property-misspelt"
_SHORTEST = 4  # letters of a property that is known with one of them wrong
#: What is no code in a style sheet: comments, strings and addresses.
_SILENT = re.compile(
    r"/\*.*?(?:\*/|\Z)|\"(?:\\.|[^\"\\\n])*\"|'(?:\\.|[^'\\\n])*'|url\([^)\"']*\)", re.IGNORECASE | re.DOTALL
)
_BRACES = re.compile(r"[{};]")
_NAME = re.compile(r"[a-z-]+")
#: At-rules that contain rules or declarations of elements.
_NESTING = frozenset("media supports layer container scope document starting-style page".split())


class StyleSlip(NamedTuple):
    """A slip of a style sheet, and what its author meant."""

    code: str
    span: Span
    message: str
    text: str | None  # in place of the span; None where nobody can tell


def find_style_slips(css: str, *, declarations: bool = False) -> list[StyleSlip]:
    """Return the slips of a style sheet, or of the declarations of a `style` attribute."""
    try:
        wrong = [] if declarations else list(_braces(css))
        return wrong or list(_properties(css, declarations=declarations))
    except RecursionError:
        return []


class _Open(NamedTuple):
    brace: int
    begin: int  # of what stands before it


def _braces(css: str) -> Iterator[StyleSlip]:
    """Yield where a brace is missing, or ends nothing; one of them, for what is behind it follows from it."""
    bare = _SILENT.sub(lambda found: " " * len(found[0]), css)
    opened: list[_Open] = []
    begin = 0  # of what stands before the next brace
    early: tuple[_Open, int] | None = None  # a rule that begins in one left open, and which one
    for found in _BRACES.finditer(bare):
        at = found.start()
        if found[0] == "{":
            begin += len(bare[begin:at]) - len(bare[begin:at].lstrip())
            within = opened[-1] if opened else None
            if within and early is None and _begins_anew(bare, within, at):
                early = within, _selector_start(bare, within, at)
            opened.append(_Open(at, begin))
        elif found[0] == "}":
            if not opened:
                message = "This } ends nothing, so browsers take it and the next rule for one that they do not know."
                yield StyleSlip(BRACE, Span(at, at + 1), message, "")
                return
            opened.pop()
        begin = at + 1
    if not opened:
        return
    rule, at = early or (opened[0], len(bare.rstrip()))
    name = " ".join(css[rule.begin : rule.brace].split())
    end = len(bare[:at].rstrip())
    message = f"The rule for {name} has no }} at its end, so all rules behind it are taken for a part of it."
    is_sure = early is not None or css[rule.begin] == "@" or "{" not in bare[rule.brace + 1 :]
    span = Span(end, end) if is_sure else Span(rule.begin, rule.brace + 1)
    yield StyleSlip(BRACE, span, message, _closing(css, rule, end) if is_sure else None)


def _begins_anew(bare: str, within: _Open, brace: int) -> bool:
    """Return whether a rule begins on a line of its own, no deeper than the one it would be in: nobody nests so."""
    if bare[within.begin] == "@":
        return False
    at = _selector_start(bare, within, brace)
    start = line_start(bare, at)
    selector = bare[at:brace]
    return (
        start > within.brace
        and not bare[start:at].strip()
        and "&" not in selector
        and len(line_indent(bare, at)) <= len(line_indent(bare, within.begin))
    )


def _selector_start(bare: str, within: _Open, brace: int) -> int:
    """Return where the selectors before a brace begin: behind the last declaration, on the first line of theirs."""
    last = max(bare.rfind(";", within.brace, brace), bare.rfind("}", within.brace, brace), within.brace)
    lines = bare[last + 1 : brace]
    at = last + 1
    for line in lines.splitlines(keepends=True):
        if line.strip() and not re.match(r"\s*[\w-]+\s*:\s", line):
            return at + len(line) - len(line.lstrip())
        at += len(line)
    return last + 1 + len(lines) - len(lines.lstrip())


def _closing(css: str, rule: _Open, end: int) -> str:
    """Return the brace that ends a rule, as rules of one line or of several have it."""
    body = css[rule.brace : end]
    if "\n" not in body and "\r" not in body:
        return " }" if body[1:2] == " " else "}"
    newline = "\r\n" if "\r\n" in body else "\n" if "\n" in body else "\r"
    return newline + line_indent(css, rule.begin) + "}"


def _properties(css: str, *, declarations: bool) -> Iterator[StyleSlip]:
    """Yield the declarations of properties that there are not, where one letter makes them one that there is."""
    starts = [0, *(found.end() for found in re.finditer(r"\r\n|[\n\r\f]", css))]
    rules = tinycss2.parse_blocks_contents(css) if declarations else tinycss2.parse_stylesheet(css)
    todo = list(reversed(rules))
    while todo:
        one = todo.pop()
        if one.type == "declaration":
            meant = _meant(one.lower_name)
            if meant:
                at = starts[one.source_line - 1] + one.source_column - 1
                message = f"There is no property “{one.name}”, so browsers ignore it. “{meant}” is one."
                yield StyleSlip(PROPERTY, Span(at, at + len(one.name)), message, meant)
        elif one.type == "qualified-rule" or (one.type == "at-rule" and one.lower_at_keyword in _NESTING):
            todo += reversed(tinycss2.parse_blocks_contents(one.content or []))


def _meant(name: str) -> str | None:
    """Return the one property that a name is a letter away from; None where it is one, or may be several or none."""
    if name in PROPERTIES or len(name) < _SHORTEST or name[0] == "-" or not _NAME.fullmatch(name):
        return None
    near = [
        one for one in PROPERTIES if abs(len(one) - len(name)) <= 1 and DamerauLevenshtein.distance(one, name) == 1
    ]
    return near[0] if len(near) == 1 else None
