"""The parser's own errors, judged by what they do to the page: quotes, brackets, attributes, references, comments."""

from __future__ import annotations

import re
from bisect import bisect_left
from collections.abc import Callable, Iterator

from signpost.core.findings.catalogue import Choice, Finding
from signpost.core.findings.page_check import Check
from signpost.core.page.markup import ELEMENTS, tokens_of
from signpost.core.page.slips import ParseError, read_parse_errors
from signpost.core.page.tokens import Tag
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Span, line_start
from signpost.core.text.tags import Attribute, find_missing_quote, removal, scan_all_attributes, scan_attributes

_SHOWN = 60  # characters of the source that a message shows
_REACH = 2000  # characters of a tag before one of its quotation marks
_OPENS = re.compile(r"<[a-zA-Z][^<>]*=\s*\Z")
_REFERENCE = re.compile(r"&#?[A-Za-z0-9]*$")
_NAME = re.compile(r"&[A-Za-z0-9]+;?")
_CODE = re.compile(r"&#[xX]?[0-9A-Fa-f]+;?$")
_C1 = range(0x80, 0xA0)  # control characters in Unicode, letters and signs in windows-1252
_LONGEST_NAME = max(map(len, ELEMENTS))
_TAG_NAME = re.compile(r"</?[a-zA-Z][^\s/>]*")
#: Attributes that may have no value (HTML, boolean attributes, and those of earlier versions).
_WITHOUT_VALUE = frozenset(
    "allowfullscreen async autofocus autoplay checked compact contenteditable controls declare default defer "
    "disabled download draggable formnovalidate hidden inert ismap itemscope loop multiple muted nohref nomodule "
    "noresize noshade novalidate nowrap open playsinline readonly required reversed scoped selected "
    "spellcheck".split()
)
#: Attributes whose values are often written.
_ATTRIBUTES = frozenset("href src class id name style alt title target rel lang width height align border".split())
_LONGEST_ATTRIBUTE = 10  # characters, and white space before it
#: A name of an attribute right before a quotation mark, and a value in such marks; and both, somewhere before.
_UNEQUAL = re.compile(r"\s([a-zA-Z]+)[ \t]?\Z")
_VALUE = re.compile(r"(\"[^\"<>]*\"|'[^'<>]*')(?=[\s/>])")
_UNEQUAL_BEFORE = re.compile(rf"\s(?:{'|'.join(sorted(_ATTRIBUTES))})[ \t]?([\"'])[^\"'<>]*\Z", re.IGNORECASE)
_COMMENT_LINE = re.compile(r"[^\r\n<]*")


def find_token_errors(check: Check) -> Iterator[Finding]:
    """Yield what the parser noticed in a page's tokens, each slip once."""
    seen: set[tuple[str, int]] = set()
    for error in read_parse_errors(check.page):
        judge = _JUDGES.get(error.code)
        for found in judge(check, error) if judge is not None else ():
            if (found.rule.code, found.span.start) not in seen:
                seen.add((found.rule.code, found.span.start))
                yield found


# ---------------------------------------------------------------- within tags


def _odd_character(check: Check, error: ParseError) -> Iterator[Finding]:
    """Yield the bracket or quotation mark that is missing where a tag has a character that none has."""
    text = check.page.text
    if text[error.start] == "<":
        yield from _bracket(check, error.start)
    elif text[error.start] in "\"'":
        tag = tokens_of(check.page).around(error.start)
        named = _UNEQUAL.search(text, max(0, error.start - _LONGEST_ATTRIBUTE), error.start)
        value = _VALUE.match(text, error.start) if named else None
        if tag is not None and named is not None and value is not None and named[1].lower() in _ATTRIBUTES:
            message = f"{named[1]} has no “=” before {_shown(value[0])}, so it says nothing."
            edit = Edit(error.start, error.start, "=", reason="the sign before the value")
            yield check.find_at("equals-missing", Span(named.start(1), value.end()), message, [edit])
        elif tag is not None and not _UNEQUAL_BEFORE.search(text, tag.start, error.start):
            yield from _quote(check, tag)


def _bracket(check: Check, at: int) -> Iterator[Finding]:
    text = check.page.text
    start = text.rfind("<", 0, at)
    around = tokens_of(check.page).around(at)
    if start < 0 or (around is not None and around.start != start):
        return  # it is in an attribute that a missing quotation mark has made longer
    inside = text[start:at]
    end = start + _length_of_tag(text, start, at)
    own = text[start:end]
    if any(_runs_on(own, one) for one in scan_all_attributes(own, 0)):
        return  # what is missing is the quotation mark before the bracket
    known = _TAG_NAME.match(own)
    whole = own.count('"') % 2 == 0 and own.count("'") % 2 == 0
    whole = whole and known is not None and known[0].strip("</").lower() in ELEMENTS
    edits = [Edit(end, end, ">", reason="the bracket that ends the tag")] if whole else []
    yield check.find_at(
        "bracket-missing",
        Span(start, end),
        f"{_shown(inside)} has no “>”, so {_shown(text[at : at + _SHOWN].partition('>')[0] + '>')} has become part "
        "of it.",
        edits,
    )


def _length_of_tag(text: str, start: int, until: int) -> int:
    """Return how many characters of what has become a tag are one: its name and its attributes, without words.

    What has no value is an attribute only where the standard knows one of that name, now or before.
    """
    markup = text[start:until]
    name = _TAG_NAME.match(markup)
    glued = end_of_glued_name(text, start, until)
    if glued is not None:
        return glued - start
    if name is None or markup.startswith("</"):
        return len(markup.rstrip()) if name is None else name.end()
    end = name.end()
    for attribute in scan_all_attributes(markup, 0):
        is_one = attribute.name in _WITHOUT_VALUE and markup[attribute.span.start - 1].isspace()
        if attribute.value_span is None and not is_one:
            break
        end = attribute.span.end
    return len(markup[:end].rstrip())


def end_of_glued_name(text: str, start: int, end: int) -> int | None:
    """Return where a tag's name ends that has grown together with the words behind it; None where it has not.

    That is so where nobody knows an element of such a name, and one that is known is followed by what begins a word
    or a tag: `<h2Coal and steam</h2>`; or by anything, where its end tag is there: `<pcoal and steam</p>`.
    """
    name = _TAG_NAME.match(text, start, end)
    first = start + (2 if text.startswith("</", start) else 1)
    if name is None or text[first : name.end()].lower() in ELEMENTS:
        return None
    known = [
        at
        for at in range(min(name.end() - 1, first + _LONGEST_NAME), first, -1)
        if text[first:at].lower() in ELEMENTS
    ]
    begun = next((at for at in known if _begins(text[at : at + 2])), None)
    if begun is not None or text[first - 1] == "/":
        return begun
    behind = text[name.end() : end + _REACH].lower()
    if f"</{text[first : name.end()].lower()}>" in behind:
        return None
    return next((at for at in known if _is_ended(text[first:at].lower(), behind)), None)


def _is_ended(name: str, behind: str) -> bool:
    """Return whether the end tag of an element is behind it, before another one of its name begins."""
    found = re.search(rf"<(/?){name}[\s>]", behind)
    return found is not None and found[1] == "/"


def _begins(text: str) -> bool:
    """Return whether a text begins with what is in no element's name, or begins a word; `o:p` is a name."""
    if text[0] == ":":
        return not text[1:].isalnum()
    return text[0].isupper() or not (text[0].isascii() and (text[0].isalnum() or text[0] in "-_"))


def _cut_off(check: Check, error: ParseError) -> Iterator[Finding]:
    """Yield a tag that the page ends within (HTML 13.2.2, eof-in-tag)."""
    text = check.page.text
    start = _open_tag(text)
    start = text.rfind("<", 0, error.start + 1) if start is None else start
    if start < 0:
        return
    lost = text[start:]
    quote = next((one for one in scan_all_attributes(text, start) if _runs_on(text, one)), None)
    if quote is not None:
        yield from _unquoted(check, quote)
    else:
        message = f"{_shown(lost)} has no “>” up to the page's end, so nothing of it is shown."
        yield check.find_at("bracket-missing", Span(start, len(text)), message)


def _open_tag(text: str) -> int | None:
    """Return the start of the tag whose quotation mark is the last of its kind, so that all behind is in the tag."""
    for mark in "\"'":
        last = text.rfind(mark)
        found = _OPENS.search(text, max(0, last - _REACH), max(0, last))
        if found is not None:
            return found.start()
    return None


def _runs_on(text: str, attribute: Attribute) -> bool:
    return attribute.value_span is not None and any(mark in attribute.value_span.of(text) for mark in "<>")


def _quote(check: Check, tag: Tag) -> Iterator[Finding]:
    for attribute in scan_all_attributes(check.page.text, tag.start):
        if find_missing_quote(check.page.text, attribute) is not None:
            yield from _unquoted(check, attribute)
            return


def _unquoted(check: Check, attribute: Attribute) -> Iterator[Finding]:
    """Yield the attribute that lacks a quotation mark, at the place where it belongs."""
    text, at = check.page.text, find_missing_quote(check.page.text, attribute)
    if attribute.value_span is None or at is None:
        return
    meant = text[attribute.value_span.start : at]
    if not attribute.quote:
        value = attribute.value_span.of(text)
        message = f"{attribute.name}={value} ends with a quotation mark and begins with none."
        mark = next(char for char in value if char in "\"'")
    else:
        until = "the next one" if attribute.value_span.end < len(text) else "the page's end"
        message = (
            f"{attribute.name}={attribute.quote}{meant} has no quotation mark at its end, so the words and tags up "
            f"to {until} have become part of it."
        )
        mark = attribute.quote
    choice = Choice(
        f"Put {mark} {'behind' if attribute.quote else 'before'} “{meant or attribute.value}”", (Edit(at, at, mark),)
    )
    yield check.find_at("quote-missing", Span(at, at), message, choices=[choice])


def _repeated(check: Check, error: ParseError) -> Iterator[Finding]:
    tag = tokens_of(check.page).around(error.start)
    if tag is None:
        return
    text = check.page.text
    written = scan_all_attributes(text, tag.start)
    before = bisect_left(written, error.start, key=lambda one: one.span.start)
    second = written[before - 1] if before and error.start <= written[before - 1].span.end else None
    first = next((one for one in scan_attributes(text, tag.start) if second and one.name == second.name), None)
    if first is None or second is None or first is second:
        return
    without_second = removal(text, second, f"the second {second.name}")
    message = (
        f"{_shown(text[tag.start : tag.end])} has {second.name} twice. Browsers take the first and ignore the second."
    )
    if first.value == second.value:
        yield check.find_at("attribute-repeated", second.span, message, [without_second])
        return
    choices = [Choice(f"Remove the second, “{second.value}”", (without_second,))]
    if first.value_span is not None and second.value_span is not None:
        if first.name == "class" and first.quote == second.quote:
            joined = Edit(
                first.value_span.end, first.value_span.end, " " + second.value_span.of(text), reason="all classes"
            )
            choices.insert(0, Choice("Put both classes into one", (joined, without_second)))
        choices.append(Choice(f"Remove the first, “{first.value}”", (removal(text, first, "the first"),)))
    yield check.find_at("attribute-repeated", second.span, message, choices=choices)


# ---------------------------------------------------------------- references


def _unended(check: Check, error: ParseError) -> Iterator[Finding]:
    """Yield a reference without its semicolon; with it, it means the same."""
    text = check.page.text
    end = error.start + (1 if error.start + 1 == len(text) and text[error.start].isalnum() else 0)
    found = _REFERENCE.search(text, max(0, end - 40), end)
    if found is None:
        return
    yield check.find_at(
        "reference-unended",
        Span(found.start(), end),
        f"{found[0]} stands for a character, and ends with a semicolon: {found[0]};.",
        [Edit(end, end, ";", reason="the reference ends")],
    )


def _unknown(check: Check, error: ParseError) -> Iterator[Finding]:
    text = check.page.text
    start = text.rfind("&", 0, error.start + 1)
    found = _NAME.match(text, start) if start >= 0 else None
    if found is None:
        return
    yield check.find_at(
        "reference-unknown",
        Span(start, found.end()),
        f"{found[0]} is no character's name, so it is shown as it is written. For an & that is text, write &amp;.",
        [Edit(start + 1, start + 1, "amp;", reason="an & that is text")],
    )


def _of_windows(check: Check, error: ParseError) -> Iterator[Finding]:
    """Yield a reference by a number of windows-1252, which browsers correct (HTML 13.2.5.80)."""
    found = _CODE.search(check.page.text, max(0, error.start - 12), error.start)
    digits = found[0].strip("&#;") if found else ""
    number = int(digits[1:], 16) if digits[:1] in ("x", "X") else int(digits or 0)
    if found is None or number not in _C1:
        return
    shown = bytes([number]).decode("windows-1252", "ignore")
    if not shown:
        return
    yield check.find_at(
        "reference-of-windows",
        Span(found.start(), found.end()),
        f"{found[0]} is a number of windows-1252. Browsers show {shown}, whose own number is &#{ord(shown)};.",
        [Edit(found.start(), found.end(), f"&#{ord(shown)};", reason=f"the number of {shown}")],
    )


# ---------------------------------------------------------------- comments


def _open_comment(check: Check, _error: ParseError) -> Iterator[Finding]:
    text = check.page.text
    start = text.rfind("<!--")
    if start < 0:
        return
    line = _COMMENT_LINE.match(text, start + 4)
    choices = []
    if line is not None:
        at = start + 4 + len(line[0].rstrip())
        words = " ".join(text[start + 4 : at].split()) or "<!--"
        choices = [Choice(f"End it behind “{words[-_SHOWN:]}”", (Edit(at, at, " -->", reason="the comment ends"),))]
    lines = text.count("\n", start) + 1
    yield check.find_at(
        "comment-open",
        Span(start, start + 4),
        f"This comment is never ended by -->, so the last {lines:,} lines of the page are not shown.",
        choices=choices,
    )


def _nested_comment(check: Check, error: ParseError) -> Iterator[Finding]:
    text = check.page.text
    yield check.find_at(
        "comment-nested",
        Span(line_start(text, error.start), error.start),
        "A comment begins within a comment. The first --> ends both, and what is behind it is shown.",
    )


def _cdata(check: Check, error: ParseError) -> Iterator[Finding]:
    text = check.page.text
    start = text.rfind("<![", 0, error.start + 1)
    end = text.find(">", start)
    if start < 0 or end < 0:
        return
    message = (
        "CDATA is of XML. In HTML it is taken for a comment up to the next “>”, so its first words are not shown."
    )
    yield check.find_at("cdata-in-html", Span(start, end + 1), message)


def _shown(markup: str) -> str:
    words = " ".join(markup[:_REACH].split())
    return words if len(words) <= _SHOWN else words[: _SHOWN - 1] + "…"


_JUDGES: dict[str, Callable[[Check, ParseError], Iterator[Finding]]] = {
    "unexpected-character-in-attribute-name": _odd_character,
    "unexpected-character-in-unquoted-attribute-value": _odd_character,
    "eof-in-tag": _cut_off,
    "duplicate-attribute": _repeated,
    "missing-semicolon-after-character-reference": _unended,
    "unknown-named-character-reference": _unknown,
    "control-character-reference": _of_windows,
    "eof-in-comment": _open_comment,
    "nested-comment": _nested_comment,
    "cdata-in-html-content": _cdata,
}
