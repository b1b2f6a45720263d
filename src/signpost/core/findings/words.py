"""Words that are missing or say nothing: titles, links, pictures, the page's language."""

from __future__ import annotations

import re
from collections.abc import Iterator
from html import escape

from signpost.core.findings.catalogue import Choice, Finding
from signpost.core.findings.lost import is_in_code
from signpost.core.findings.page_check import Check
from signpost.core.jumps.offers import UNTELLING
from signpost.core.page import Link, Page
from signpost.core.page.habits import read_habits
from signpost.core.page.markup import tokens_of
from signpost.core.site.answers import find_titles_alike, find_usual_language, key_of_words, title_words
from signpost.core.site.told import Kind, title_key
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Span
from signpost.core.text.tags import scan_attributes

_LINK_BODY = re.compile(r"(.*?)</a\s*>", re.IGNORECASE | re.DOTALL)
_NAMED = re.compile(r"\s(?:aria-label|aria-labelledby|title)\s*=\s*[\"']?[^\s\"'>]", re.IGNORECASE)
_SHOWS = re.compile(r"<(?:img|svg|object|video|canvas|button|input|i|span)\b", re.IGNORECASE)
_ONLY_PICTURE = re.compile(
    r"(?:\s|</?(?:span|b|center|br)\b[^<>]*>)*<img\b[^<>]*>(?:\s|</?(?:span|b|center|br)\b[^<>]*>)*", re.IGNORECASE
)
#: Filler, by words that have to be there for the pattern to be looked for, in lower case.
_FILLERS = (
    ("lorem", re.compile(r"\blorem\s+ipsum\b", re.IGNORECASE)),
    ("text here", re.compile(r"\b(?:your|insert|add)\s+text\s+here\b", re.IGNORECASE)),
    ("goes here", re.compile(r"\b(?:text|title|heading|name|content)\s+goes\s+here\b", re.IGNORECASE)),
    ("untitled", re.compile(r"<h1>\s*untitled(?:\s+document)?\s*<", re.IGNORECASE)),
    ("new page", re.compile(r"<h1>\s*new\s+page(?:\s+\d+)?\s*<", re.IGNORECASE)),
    (">xxx", re.compile(r"<(?:p|td|li|h[1-6])>\s*x{3,}\s*</", re.IGNORECASE)),
    ("blindtext", re.compile(r"\bdies ist (?:ein|nur) blindtext\b", re.IGNORECASE)),
    ("hier", re.compile(r"\b(?:text|titel|überschrift|inhalt) hier (?:einfügen|eingeben)\b", re.IGNORECASE)),
    ("ici", re.compile(r"\b(?:votre|insérez(?: le| votre)?) texte ici\b", re.IGNORECASE)),
    ("aquí", re.compile(r"\b(?:su|inserte(?: el| su)?|escriba(?: el| su)?) texto aquí\b", re.IGNORECASE)),
    ("heading", re.compile(r"<h([1-6])[^<>]*>\s*(?:sub)?heading(?:\s+\d+)?\s*</h\1", re.IGNORECASE)),
    ("überschrift", re.compile(r"<h([1-6])[^<>]*>\s*überschrift(?:\s+\d+)?\s*</h\1", re.IGNORECASE)),
    ("asdf", re.compile(r"<(?:p|td|li|h[1-6])>\s*(?:(?:asdf)+[a-z]{0,6}\s*)+</", re.IGNORECASE)),
    ("qwert", re.compile(r"<(?:p|td|li|h[1-6])>\s*qwert[yz][a-z]{0,6}\s*</", re.IGNORECASE)),
    (">tbd<", re.compile(r"<(?:p|td|li|h[1-6])>\s*tbd\s*</", re.IGNORECASE)),
    ("yxcv", re.compile(r"<(?:p|td|li|h[1-6])>\s*yxcv[a-z]{0,6}\s*</", re.IGNORECASE)),
    ("zxcv", re.compile(r"<(?:p|td|li|h[1-6])>\s*zxcv[a-z]{0,6}\s*</", re.IGNORECASE)),
    ("bla", re.compile(r"<(?:p|td|li|h[1-6])>\s*(?:blah?[\s,.…]*){3,}</", re.IGNORECASE)),
    ("text text", re.compile(r"<(?:p|td|li|h[1-6])>\s*(?:text[\s,.…]*){3,}</", re.IGNORECASE)),
    ("titre", re.compile(r"<h([1-6])[^<>]*>\s*titre(?:\s+\d+)?\s*</h\1", re.IGNORECASE)),
    ("título", re.compile(r"<h([1-6])[^<>]*>\s*título(?:\s+\d+)?\s*</h\1", re.IGNORECASE)),
    (">todo:", re.compile(r"<(?:p|td|li|h[1-6])>\s*todo:[^<>]{1,80}</", re.IGNORECASE)),
    (">todo", re.compile(r"<(?:p|td|li|h[1-6])>\s*(?:todo|fixme)\s*[:!.…]*\s*</", re.IGNORECASE)),
    (">fixme", re.compile(r"<(?:p|td|li|h[1-6])>\s*fixme\s*[:!.…]*\s*</", re.IGNORECASE)),
)
_FILLER_TITLE = re.compile(
    r"untitled(?:[ -](?:document|\d+))*|new page(?: \d+)?|document|(?:page )?title|unbenannt(?:es dokument)?(?: \d+)?"
    r"|sans titre(?: \d+)?|sin título(?: \d+)?",
    re.IGNORECASE,
)
#: Lines of a message's head before the page, as programs write them that made it (RFC 9110, 6.3).
_HEAD_SHOWN = re.compile(
    r"\ufeff?\s*content-type:[^\r\n<]*(?:\r\n?|\n)(?:[\w-]+:[^\r\n<]*(?:\r\n?|\n))*\s*", re.IGNORECASE
)
_SITE_NAME = re.compile(r"\s+(?:[|·•–—]|-{1,2})\s+|(?<=\w):\s+")
_FILLER = "This is filler text that was never replaced by words of yours."
_MOST_NAMED = 3


def find_missing_words(check: Check) -> Iterator[Finding]:
    """Yield where words are missing on a page, or say nothing."""
    yield from _pictures(check)
    yield from _links(check)
    yield from _filler(check)
    shown = _HEAD_SHOWN.match(check.page.text)
    if shown is not None:
        start = 1 if shown[0][:1] == "\ufeff" else 0
        message = (
            f"“{' '.join(shown[0].split())}” is shown to readers: it is for the server to say, not for the page."
        )
        edit = Edit(start, shown.end(), "", reason="what the server says")
        yield check.find_at("header-shown", Span(start, shown.end()), message, [edit])


def find_unclear_pages(check: Check) -> Iterator[Finding]:
    """Yield what a page does not say that others of its site say, or say as well: its title, its language."""
    yield from _titles(check)
    yield from _language(check)
    yield from _same_words(check)


def _filler(check: Check) -> Iterator[Finding]:
    lowered = check.page.text.lower()
    for needle, pattern in _FILLERS:
        if needle not in lowered:
            continue
        for found in pattern.finditer(tokens_of(check.page).masked):
            if not is_in_code(check.page, found.start()):
                yield check.find_at("filler-left", Span(found.start(), found.end()), _FILLER)
    if check.page.title_span is not None and _FILLER_TITLE.fullmatch(check.page.title or ""):
        yield check.find_at("filler-left", check.page.title_span, _FILLER)


def _titles(check: Check) -> Iterator[Finding]:
    page = check.page
    if not page.title:
        where = "is empty" if page.title == "" else "is missing"
        yield check.find_at(
            "title-missing",
            page.title_span or Span(0, 0),
            f"The page's title {where}, so tabs, bookmarks and search results show its address instead.",
        )
        return
    if page.part_marks is not None:
        return
    own = page.source.sha256
    told = check.site.index.ask(Kind.TITLE, title_key(page))
    others = [path for path, hashes in told.items() if own not in hashes]  # the same page under another name is none
    alike = len(others)
    if alike:
        more = f" and {alike - _MOST_NAMED} more" if alike > _MOST_NAMED else ""
        yield check.find_at(
            "title-repeated",
            page.title_span or Span(0, 0),
            f"“{page.title}” is also the title of {', '.join(others[:_MOST_NAMED])}{more}.",
            choices=_own_titles(page),
        )
    else:
        yield from _in_other_words(check)


def _own_heading(page: Page) -> str:
    """Return the words of a page's only heading of the first level; "" where there is none, or several."""
    first = [one.text for one in page.headings if one.level == 1]
    return first[0] if len(first) == 1 else ""


def _own_titles(page: Page) -> list[Choice]:
    """Return the choice to call a page what its first heading says, the name of its site left behind it."""
    first = _own_heading(page)
    span = page.title_span
    if span is None or not first or title_words(first) & title_words(page.title or ""):
        return []
    own = _SITE_NAME.split(span.of(page.text).strip(), maxsplit=1)[0]
    start = span.start + len(span.of(page.text)) - len(span.of(page.text).lstrip())
    edit = Edit(start, start + len(own), escape(first, quote=False), reason=f"the title says “{first}”")
    return [Choice(f"Call it “{first}”", (edit,))]


def _in_other_words(check: Check) -> Iterator[Finding]:
    """Yield a title that says what another page's does, and nothing of its page's heading."""
    page = check.page
    title, heading = page.title or "", _own_heading(page)
    if page.title_span is None or not title_words(heading) or title_words(heading) & title_words(title):
        return
    alike = find_titles_alike(check.site).get(key_of_words(title, page.language), ())
    other = next((path for path in alike if path != page.path), None)
    if other is not None:
        message = f"“{title}” says what the title of {other} does, and nothing of “{heading}”, its page's heading."
        yield check.find_at("title-repeated", page.title_span, message, choices=_own_titles(page))


def _language(check: Check) -> Iterator[Finding]:
    page = check.page
    html = next(tokens_of(page).named("html"), None)
    if page.language or html is None:
        return
    name = Span(html.start, html.start + len("<html"))
    said = {one.name: one.value for one in scan_attributes(page.text, html.start)}.get("xml:lang", "")
    usual = said or find_usual_language(check.site)
    edits, choices = [], []
    if usual:
        said_so = Edit(name.end, name.end, " " + read_habits(page).attribute("lang", usual), reason="its language")
        edits = [said_so] if said else []
        choices = [] if said else [Choice(f"Say that it is in “{usual}”", (said_so,))]
    hint = ' Write it into the html element, as lang="en".'
    if usual:
        hint = f" Only XML reads xml:lang=“{said}”." if said else f" Most pages of the site say “{usual}”."
    yield check.find_at(
        "language-missing",
        name,
        f"The page does not say which language it is in, so screen readers may read it in the wrong one.{hint}",
        edits=edits,
        choices=choices,
    )


def _pictures(check: Check) -> Iterator[Finding]:
    for tag in tokens_of(check.page).named("img"):
        attributes = {one.name: one.value for one in scan_attributes(check.page.text, tag.start)}
        hidden = attributes.get("aria-hidden") == "true" or attributes.get("role") in ("presentation", "none")
        if "alt" in attributes or hidden or attributes.keys() & {"aria-label", "aria-labelledby"}:
            continue
        name = attributes.get("src", "").rpartition("/")[2] or "This picture"
        yield check.find(
            "picture-without-alt",
            tag.start,
            f"“{name}” has no alt, so nobody who cannot see it knows what it shows. For one that only decorates, "
            'write alt="".',
        )


def _links(check: Check) -> Iterator[Finding]:
    text = tokens_of(check.page).masked
    links = check.page.links
    ends = [*(link.start for link in links[1:]), len(text)]
    for link, end in zip(links, ends, strict=False):
        if link.href is None:
            continue
        if not link.text:
            body = _LINK_BODY.match(text, link.start, end)  # one that ends at another link is told elsewhere
            if text[link.start : link.start + 2].lower() != "<a" or body is None:
                continue
            named = _NAMED.search(body[1]) or _NAMED.search(text[link.start : text.find(">", link.start)])
            if not named and _ONLY_PICTURE.fullmatch(body[1].partition(">")[2]):
                message = (
                    "This link is a picture without words, so screen readers spell out its address. Give it an alt."
                )
                yield check.find("link-picture-silent", link.start, message)
            elif not named and not _SHOWS.search(body[1]):
                message = "This link has no words, so there is nothing to see or to press."
                yield check.find("link-empty", link.start, message)
        elif link.text.casefold().strip(" .!…»>") in UNTELLING and not _says_more(text, link.start):
            yield check.find(
                "link-words-vague",
                link.start,
                f"“{link.text}” does not say where the link leads, for those who go from link to link.",
            )


def _same_words(check: Check) -> Iterator[Finding]:
    """Yield links with the words of an earlier one that lead elsewhere."""
    if not check.wants("link-words-same"):
        return
    seen: dict[str, Link] = {}
    for link in check.page.links:
        words = link.text.casefold()
        if not words or link.href is None:
            continue
        first = seen.setdefault(words, link)
        if first.href != link.href:
            line = check.lines.line(first.start)
            message = f"“{link.text}” leads to {link.href}, and on line {line} to {first.href}."
            yield check.find("link-words-same", link.start, message)


def _says_more(text: str, start: int) -> bool:
    """Return whether a link has a name beside its words, or its words are code and so a name."""
    body = _LINK_BODY.match(text, start)
    return (
        bool(_NAMED.search(text[start : text.find(">", start) + 1])) or "<code" in (body[1] if body else "").lower()
    )
