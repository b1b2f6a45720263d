"""The law above all others, over every operation that can be asked for: what is lost is what its name says."""

from __future__ import annotations

import json
import re
from collections import Counter

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter

from laws import of_address, of_empty_identifier, of_level, of_nothing, pieces
from pages import carried_out, site_from
from signpost.core.operations import OPERATIONS, Situation, Takes
from signpost.core.operations.reading import read_said
from signpost.core.text.errors import SignpostError
from signpost.core.text.source import read_source
from signpost.web.operations import OperationRequest
from strategies import block, heading, layout, listing, pages, row

OTHER = (
    b"<!DOCTYPE html>\n<html lang=en>\n<head>\n<meta charset=utf-8>\n<title>Other</title>\n"
    b"<link rel=stylesheet href=site.css>\n</head>\n<body>\n"
    b"<nav><ul><li><a href=page.html>Page</a><li><a href=other.html>Other</a></ul></nav>\n<main>\n<h1>Other</h1>\n"
    b'<h2 id="first">First</h2>\n<p>See <a href="page.html#coal">the coal</a> and <a href="page.html#b">more</a>.\n'
    b"<h2>Second</h2>\n<p>Words.\n</main>\n</body>\n</html>\n"
)
BODIES = TypeAdapter(OperationRequest)
composed = pages(blocks=st.one_of(block, listing, row, layout, heading(), heading()))


def paragraph(page):
    """Where the first paragraph begins."""
    found = re.search("<p>", page.text)
    return None if found is None else found.start()


def section(page):
    return {"section": 0} if page.headings else None


def of_reference(piece):
    """Whether a piece is an address, or another attribute that names an identifier."""
    return piece[0] == "attribute" and piece[2] in {"href", "src", "cite", "action", "id", "name", "for", "headers"}


def of(*tags):
    """Whether a piece belongs to elements of some tags."""
    return lambda piece: piece[0] in ("element", "end tag", "attribute", "class") and piece[1] in tags


def within(markup):
    """Whether a piece is one of some markup, which is what goes."""
    inside = pieces(markup)
    return lambda piece: piece in inside


def in_heading(page):
    found = page.headings[0].element
    return within(page.text[found.open.start : found.end])


def in_first_link(page):
    start = first_link(page).start
    return within(re.split("</a *>", page.text[start:], maxsplit=1, flags=re.IGNORECASE)[0] + "</a>")


def first_link(page):
    return next((one for one in page.links if one.href is not None), None)


def to_link(page, **more):
    """The first link of the page, to be changed."""
    found = first_link(page)
    return None if found is None else {"start": found.start, **more}


def led(page, **more):
    """The first link of the page, to be led elsewhere."""
    found = first_link(page)
    return None if found is None else {"start": found.start, "end": found.start, **more}


def lone_link(page):
    """The first link whose words are not grown together with others, to be taken out."""
    found = next((one for one in page.links if re.match(r"<a[^>]*>[^<]*</a>[\s<]", page.text[one.start :])), None)
    return None if found is None else {"start": found.start}


def broken_link(page):
    """A link to nowhere on the page, and a target that it may have."""
    names = {one.name for one in page.targets}
    found = next((one for one in page.links if one.href and one.href[0] == "#" and one.href[1:] not in names), None)
    return found and names and {"start": found.start, "identifier": min(names)}


def in_title(page):
    """Whether a piece is of the title, or of a first heading that says the same."""
    said = re.search("<title>.*?</title>", page.text, re.IGNORECASE | re.DOTALL)
    first = page.headings[0].element if page.headings else None
    heading = page.text[first.open.start : first.end] if first else ""
    return within(f"{said[0] if said else ''} {heading}")


def first_target(page):
    return next(iter(page.targets), None)


#: What may be lost by an operation, by what it says of itself.
MAY_GO = {
    Takes.NOTHING: lambda _: of_nothing,
    Takes.LEVELS: lambda _: of_level,
    Takes.ADDRESSES: lambda _: of_address,
    Takes.REFERENCES: lambda _: of_reference,
    Takes.ANCHORS: lambda _: of("a"),
    Takes.LINKS: lambda _: of("a", "area"),
    Takes.SECTION_ELEMENTS: lambda _: of("section"),
    Takes.HEADING: in_heading,
    Takes.LINK_WORDS: in_first_link,
    Takes.TITLE: in_title,
    Takes.SECTION: lambda page: within(page.text[page.headings[0].begin :]),
}
#: By operation: what is asked of a page, something empty where that cannot be.
ASKED = {
    "levels": lambda page: page.headings and {"levels": {0: 3}, "with_subsections": True},
    "shift": lambda page: page.headings and {"sections": [0], "by": 1},
    "repair": lambda _: {"code": "gaps"},
    "words": lambda page: section(page) and {"section": 0, "words": "Other words"},
    "insert-heading": lambda page: paragraph(page) and {"before": paragraph(page), "level": 2, "words": "New"},
    "wrap": lambda _: {},
    "unwrap": lambda _: {},
    "separators": lambda _: {},
    "move": lambda page: section(page) and {"section": 0, "direction": "down"},
    "drop": lambda page: len(page.headings) > 1 and {"section": 1, "target": 0, "where": "before"},
    "duplicate": section,
    "skeleton": lambda _: {"titles": "One\n  Two\n"},
    "new-page": lambda _: {"path": "new.html", "title": "New", "titles": "One\nTwo"},
    "copy-page": lambda _: {"path": "copy.html", "title": "Copy"},
    "sample": lambda page: paragraph(page) and {"before": paragraph(page), "code": "<b>x</b>"},
    "tidy": lambda _: {"first_line": 1, "last_line": 10_000},
    "identify": lambda _: {},
    "set-identifiers": lambda page: (
        {"identifiers": {at: f"new-{at}" for at, one in enumerate(page.headings) if one.identifier is None}}
        if any(one.identifier is None for one in page.headings)
        else None
    ),
    "rename": lambda page: first_target(page) and {"old": first_target(page).name, "new": "renamed"},
    "place": lambda _: {"start": "top", "identifier": "content-top"},
    "anchors": lambda _: {},
    "apart": lambda page: first_target(page) and {"name": first_target(page).name},
    "jump": lambda page: led(page, to_page="other.html", identifier="first"),
    "link": lambda page: led(page, address="https://elsewhere.example/"),
    "no-jump": lone_link,
    "link-words": lambda page: to_link(page, words="Other words"),
    "relink": broken_link,
    "remove-section": section,
    "title": lambda _: {"words": "Another title"},
    "pair": lambda page: section(page) and {"section": 0, "to_page": "other.html"},
    "back-to-top": lambda _: {"levels": [1, 2, 3]},
    "contents": lambda _: {},
    "entries": lambda _: {"terms": [{"term": "Ash", "text": "What is left."}, {"term": "Bell"}]},
    "navigation": lambda _: {"kind": "steps", "pages": ["page.html", "other.html"]},
    "own-addresses": lambda _: {"full": True},
    "heads": lambda _: {"heads": {"page.html": {"description": "About it", "viewport": True}}},
    "move-files": lambda _: {"moves": {"page.html": "deep/moved.html"}},
    "parts": lambda page: len(page.headings) > 2 and {"sections": [len(page.headings) - 1]},
    "style": lambda _: {"parts": ["mark"]},
}
TAKES_OUT = "takes out what was put in: tests/core/test_laws.py, and the tests of each"
PARTS = "needs a page in parts: tests/core/parts"
#: Those that the law is not asked of here, and why.
ELSEWHERE = {
    "adopt": "needs a list made by hand: tests/core/contents",
    "alike": "what differs between copies goes",
    "change-links": "addresses that a list says",
    "delete-file": "a file goes",
    "end-notes": "composed pages are too short: tests/core/test_laws.py",
    "entry": "needs contents: tests/core/contents",
    "escape-samples": "markup becomes text",
    "fix": "each fix does what its finding says: tests/core/findings",
    "follow-moves": "addresses, as they do when files are moved here",
    "join": PARTS,
    "menu-section": "needs a menu: tests/core/navigation",
    "move-contents": "needs contents: tests/core/contents",
    "no-back-to-top": TAKES_OUT,
    "no-contents": TAKES_OUT,
    "no-end-notes": TAKES_OUT,
    "no-letters": TAKES_OUT,
    "no-separators": TAKES_OUT,
    "no-style": TAKES_OUT,
    "promote": "composed pages have few look-alikes: tests/core/test_laws.py",
    "recipe": "other operations in a row",
    "refresh-parts": PARTS,
    "reorder-parts": PARTS,
    "site-file": "no page",
    "spread": "needs a block that pages share: tests/core/references",
    "type": "whatever its author typed",
}


def test_every_operation_has_been_thought_of():
    assert set(ASKED) | set(ELSEWHERE) == set(OPERATIONS)
    assert not set(ASKED) & set(ELSEWHERE)
    beyond = {one for one, kind in OPERATIONS.items() if kind.takes not in MAY_GO}
    assert beyond <= set(ELSEWHERE), "the law knows what each of these may take"


def count(files) -> Counter:
    """The pieces of all pages together, so that what goes from one page to another is not lost."""
    found = Counter()
    for path, data in files.items():
        if path.endswith(".html"):
            found += pieces(read_source(data).text)
    return found


@pytest.mark.parametrize("operation", sorted(ASKED))
def test_nothing_is_lost_but_what_the_operation_s_name_says(operation):
    ask, allow = ASKED[operation], MAY_GO[OPERATIONS[operation].takes]
    changed, asked = 0, 0

    @given(composed)
    def loses_nothing(data):
        nonlocal changed, asked
        files = {"page.html": data, "other.html": OTHER, "site.css": b"p { margin: 0 }\n"}
        site = site_from(files, "https://site.example/")
        page = site.pages["page.html"]
        if page.made:
            return  # what is ours is refreshed
        given_to = ask(page)
        if not isinstance(given_to, dict):
            return
        asked += 1
        body = BODIES.validate_python({"operation": operation, "page": "page.html", **given_to})
        try:
            planned = body.asked().plan(Situation(site, page))
        except SignpostError:
            return
        after = carried_out(files, site, planned.plan)
        changed += after != files
        may_go = allow(page)
        gone = count(files) - count(after)
        assert not {piece for piece in gone if not may_go(piece) and not of_empty_identifier(piece)}

    loses_nothing()
    assert changed, f"the law was asked of changes: {asked} were asked for"


SAID = (
    b"<!DOCTYPE html>\n<html lang=en>\n<head>\n<meta charset=utf-8>\n<title>Page</title>\n</head>\n<body>\n<h1>Page</h1>\n"
    b'<h2 id="a">One</h2>\n<p>See <a href="#b">more</a> of it.\n<h2>Two</h2>\n<p>Words.\n</body>\n</html>\n'
)


@pytest.mark.parametrize("operation", sorted(ASKED))
def test_a_request_and_a_step_of_a_recipe_mean_the_same(operation):
    said = ASKED[operation](site_from({"page.html": SAID}).pages["page.html"])
    assert isinstance(said, dict)
    asked = BODIES.validate_python({"operation": operation, "page": "page.html", **said}).asked()
    assert type(asked) is OPERATIONS[operation]
    as_step = json.loads(json.dumps({name.replace("_", "-"): value for name, value in said.items()}))
    assert read_said(OPERATIONS[operation], operation, as_step) == asked
