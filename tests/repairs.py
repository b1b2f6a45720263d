"""Mistakes put into pages, what is offered for them, and whether that brings back what was there."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Callable, Iterator
from random import Random
from typing import NamedTuple

import html5lib

from pages import page_of, site_from
from signpost.core.findings import check_page
from signpost.core.findings.catalogue import Finding
from signpost.core.findings.fixing import has_fix, plan_fixes
from signpost.core.page.tokens import Tokens
from signpost.core.text.edits import apply_edits

Mistake = Callable[[str, Random], "Broken | None"]


class Broken(NamedTuple):
    """A text with one mistake in it."""

    text: str
    at: int  # where it was made


def shape(text: str) -> list[tuple[str, tuple[str, ...]]]:
    """Each word of a page with the elements around it, by a parser that is not ours."""
    found: list[tuple[str, tuple[str, ...]]] = []

    def walk(node, chain: tuple[str, ...]) -> None:
        if not isinstance(node.tag, str):
            return
        here = (*chain, f"{node.tag} {sorted(node.attrib.items())}")
        found.extend((word, here) for word in (node.text or "").split())
        for below in node:
            walk(below, here)
            found.extend((word, here) for word in (below.tail or "").split())

    walk(html5lib.parse(text, namespaceHTMLElements=False), ())
    return found


def without_end_tag(*names: str) -> Mistake:
    """The end tag of an element is left out."""

    def make(text: str, random: Random) -> Broken | None:
        ends = [*Tokens(text).named(*(f"/{name}" for name in names))]
        if not ends:
            return None
        tag = random.choice(ends)
        return Broken(text[: tag.start] + text[tag.end :], tag.start)

    return make


def without_bracket(*names: str, first: bool) -> Mistake:
    """The first or the last character of a tag is left out."""

    def make(text: str, random: Random) -> Broken | None:
        tags = [*Tokens(text).named(*names)]
        if not tags:
            return None
        tag = random.choice(tags)
        at = tag.start if first else tag.end - 1
        return Broken(text[:at] + text[at + 1 :], at)

    return make


def without_quote(text: str, random: Random) -> Broken | None:
    """The quotation mark behind an address is left out."""
    marks = [match.end() - 1 for match in re.finditer(r'\shref="[^"<>]*"', text)]
    if not marks:
        return None
    at = random.choice(marks)
    return Broken(text[:at] + text[at + 1 :], at)


def without_comment_end(text: str, random: Random) -> Broken | None:
    """The mark at the end of a comment is left out."""
    ends = [span.end for span in Tokens(text).silent if text[span.start : span.start + 4] == "<!--"]
    if not ends:
        return None
    at = random.choice(ends) - 3
    return Broken(text[:at] + text[at + 3 :], at)


def end_tag_twice(text: str, random: Random) -> Broken | None:
    """An end tag is written twice."""
    ends = [tag for tag in Tokens(text).tags() if tag.is_end and tag.name not in ("body", "html", "head")]
    if not ends:
        return None
    tag = random.choice(ends)
    return Broken(text[: tag.end] + text[tag.start : tag.end] + text[tag.end :], tag.end)


def replacing(pattern: str, make: Callable[[re.Match[str], Random], str]) -> Mistake:
    """What matches a pattern becomes something else; where that is the same, nothing is tried."""

    def mistake(text: str, random: Random) -> Broken | None:
        places = [*re.finditer(pattern, Tokens(text).masked, re.DOTALL)]
        if not places:
            return None
        found = random.choice(places)
        made = make(found, random)
        if made == found[0]:
            return None
        return Broken(text[: found.start()] + made + text[found.end() :], found.start())

    return mistake


def letter_wrong(found: re.Match[str], random: Random) -> str:
    """A letter of a word is left out, doubled, or swapped with the next one."""
    word = found[2]
    at = random.randrange(len(word) - 1)
    made = random.choice(
        [word[:at] + word[at + 1 :], word[: at + 1] + word[at:], word[:at] + word[at + 1] + word[at] + word[at + 2 :]]
    )
    return found[1] + made + found[3]


HEADINGS = ("h2", "h3", "h4")
MARKING = ("b", "i", "em", "strong", "code", "span")
#: The kinds of mistakes, by their names.
KINDS: dict[str, Mistake] = {
    **{
        f"no </{name}>": without_end_tag(name)
        for name in ("ol", "ul", "dl", "table", "a", "pre", "div", "blockquote")
    },
    "no end tag of a heading": without_end_tag(*HEADINGS),
    "no end tag of marked words": without_end_tag(*MARKING),
    **{f"no > of <{name}": without_bracket(name, first=False) for name in ("a", "p", "li")},
    "no > of a heading": without_bracket(*HEADINGS, first=False),
    "no > of an end tag": without_bracket("/a", *(f"/{name}" for name in (*HEADINGS, *MARKING)), first=False),
    "no < of a link": without_bracket("a", first=True),
    "no < of a heading": without_bracket(*HEADINGS, first=True),
    "no < of an end tag": without_bracket(
        "/a", "/p", "/ul", *(f"/{name}" for name in (*HEADINGS, *MARKING)), first=True
    ),
    "no # of a jump": replacing(r'(\shref=")#([\w-]+)(")', lambda found, _: found[1] + found[2] + found[3]),
    "two # of a jump": replacing(r'(\shref="#)([\w-]+")', lambda found, _: f"{found[1]}#{found[2]}"),
    "a letter of a jump": replacing(r'(\shref="#)([a-z-]{5,})(")', letter_wrong),
    "capitals in a jump": replacing(r'(\shref="#)([\w-]+")', lambda found, _: found[1] + found[2].title()),
    "a space in an identifier": replacing(r'(\sid="\w+)-(\w+")', lambda found, _: f"{found[1]} {found[2]}"),
    "a # in an identifier": replacing(r'(\sid=")(\w[\w-]+")', lambda found, _: f"{found[1]}#{found[2]}"),
    "idd for id": replacing(r'(<h[2-6] )id(="[\w-]+")', lambda found, _: f"{found[1]}idd{found[2]}"),
    "name for id": replacing(r'(<h[2-6] )id(="[\w-]+")', lambda found, _: f"{found[1]}name{found[2]}"),
    "herf for href": replacing(r'(<a )href(="#[\w-]+")', lambda found, _: f"{found[1]}herf{found[2]}"),
    "an outside address with one slash": replacing(r"(https?:/)/(\w)", lambda found, _: found[1] + found[2]),
    "typographic quotation marks": replacing(r'(\shref=)"([^"<>]+)"', lambda found, _: f"{found[1]}“{found[2]}”"),
    "no quotation mark": without_quote,
    "an end tag twice": end_tag_twice,
    "no = of an address": replacing(r'(<a href)=("[^"<>]*">)', lambda found, _: found[1] + found[2]),
    "no space of a link": replacing(r'(<a) (href="[^"<>]*">)', lambda found, _: found[1] + found[2]),
    "no / of an end tag": replacing(r"<()/((?:a|b|i|em|strong|h[2-4])>)", lambda found, _: f"<{found[2]}"),
    "a backslash in an end tag": replacing(r"<()/((?:a|b|i|em|strong|h[2-4])>)", lambda found, _: f"<\\{found[2]}"),
    "a space in an end tag": replacing(r"<()/((?:a|b|i|em|strong|h[2-4])>)", lambda found, _: f"</ {found[2]}"),
    "a letter of a start tag": replacing(r"(<)(strong|code|blockquote|table|span|div)([\s>])", letter_wrong),
    "a letter of an end tag": replacing(r"(</)(strong|code|blockquote|table|span|div)([\s>])", letter_wrong),
    "an anchor that ends itself": replacing(r'(<a name="[^"<>]*")></a>', lambda found, _: found[1] + "/>"),
    "no end of a comment": without_comment_end,
    "src for href": replacing(r'(<a )href(="#[\w-]+")', lambda found, _: f"{found[1]}src{found[2]}"),
    "hre for href": replacing(r'(<a )href(="#[\w-]+")', lambda found, _: f"{found[1]}hre{found[2]}"),
    "a scheme with a letter less": replacing(r'(href="ht)t(ps?://)', lambda found, _: found[1] + found[2]),
    "a scheme twice": replacing(r'(href=")(https?://)', lambda found, _: found[1] + found[2] * 2),
    "a scheme without its colon": replacing(r'(href="https?):(//)', lambda found, _: found[1] + found[2]),
    "a space behind a scheme": replacing(r'(href="https?://)(\w)', lambda found, _: f"{found[1]} {found[2]}"),
    "a comma in a host": replacing(r'(href="https?://www)\.', lambda found, _: f"{found[1]},"),
    "no scheme": replacing(r'(href=")https?://(www\.)', lambda found, _: found[1] + found[2]),
    "no mailto": replacing(r'(href=")mailto:', lambda found, _: found[1]),
    "blank for _blank": replacing(r'(target=")_blank', lambda found, _: f"{found[1]}blank"),
    "a list between items": replacing(
        r"(<li>[^<>]*)(<ul>(?:(?!</?[uo]l>).)*</ul>\s*)(</li>)", lambda found, _: found[1] + found[3] + found[2]
    ),
}
#: What is found of such mistakes; other findings are what they brought about.
CODES = frozenset(
    "end-tag-missing end-tag-stray bracket-missing quote-missing list-item-stray elements-crossed link-in-link "
    "hash-missing hash-doubled fragment-missing fragment-misspelt identifier-white-space identifier-hash "
    "attribute-invented link-without-destination heading-tags-unequal scheme-misspelt quote-typographic "
    "element-self-closed element-misspelt tag-space-missing end-tag-mistyped equals-missing less-than-raw attribute-repeated comment-open comment-nested scheme-missing page-missing "
    "file-missing mail-scheme-missing window-name-misspelt tag-typed tag-unescaped reference-unknown list-in-list".split()
)


def findings_of(text: str) -> list[Finding]:
    """What is found of a page's tags."""
    return [one for one in check_page(site_from({"page.html": text}), "page.html") if one.rule.code in CODES]


def fixed(text: str, finding: Finding, choice: int | None = None) -> str:
    """The text as a finding's press, or its choice, leaves it."""
    site = site_from({"page.html": text})
    plan = plan_fixes(site, ["page.html"], [finding.rule.code], finding.span.start, choice)
    edits = plan.edits.get("page.html")
    return text if edits is None else apply_edits(page_of(text).source, edits).decode()


def repair(text: str, mistake: Mistake, random: Random, before: Counter[str]) -> Iterator[str]:
    """Put a mistake into a text, and yield what came of it.

    "tried"; "same" where browsers do not mind; "found"; "restored" or "WORSE" by a press; "by the first choice" or
    "by no first choice"; "told" where nothing is offered. `before` are the findings that were there, by their codes.
    """
    broken = mistake(text, random)
    if broken is None:
        return
    yield "tried"
    good = shape(text)
    if shape(broken.text) == good:
        yield "same"
        return
    known = Counter(before)
    found = []
    near = sorted(findings_of(broken.text), key=lambda one: abs(one.span.start - broken.at))
    for one in reversed(near):  # what was there before is rather far from the mistake
        if known[one.rule.code]:
            known[one.rule.code] -= 1
        else:
            found.insert(0, one)
    if found:
        yield "found"
    pressed = next((one for one in found if has_fix(one) and one.edits), None)
    chosen = next((one for one in found if one.choices), None)
    if pressed is not None:
        yield "restored" if shape(fixed(broken.text, pressed)) == good else "WORSE"
    elif chosen is not None:
        yield "first choice" if shape(fixed(broken.text, chosen, 0)) == good else "other choice"
    else:
        yield "told"
