"""What heads of pages say, and said otherwise."""

import pytest

from pages import carried_out, page_of, site_from
from signpost.core.headings.heads import Head, HeadChange, plan_heads, read_head, titles_by_pattern
from signpost.core.text.errors import RequestError

WHOLE = (
    '<!DOCTYPE html>\n<html lang="en">\n<head>\n  <meta charset="utf-8">\n  <title>Boilers</title>\n'
    '  <meta name="description" content="On &amp; off">\n  <meta name=viewport content="width=device-width">\n</head>\n'
    "<body><h1>Boilers</h1></body></html>\n"
)
BARE = "<html>\n<head>\n</head>\n<body><h1>Coal &amp; coke</h1></body></html>\n"


def test_what_a_head_says():
    assert read_head(page_of(WHOLE)) == Head("Boilers", "On & off", "en", viewport=True, charset="utf-8")
    bare = read_head(page_of(BARE))
    assert (bare.title, bare.description, bare.language, bare.viewport) == ("", "", "", False)


def changed(markup: str, **change) -> str:
    files = {"a.html": markup, "b.html": WHOLE.replace("Boilers", "Brakes")}
    site = site_from(files)
    done = carried_out(files, site, plan_heads(site, {"a.html": HeadChange(**change)}))
    again = site_from(done)
    assert not plan_heads(again, {"a.html": HeadChange(**change)})
    assert done["b.html"].decode() == files["b.html"]
    return done["a.html"].decode()


@pytest.mark.parametrize(
    ("markup", "change", "old", "new"),
    [
        (WHOLE, {"title": "Boiler care"}, "<title>Boilers", "<title>Boiler care"),
        (WHOLE, {"description": "A < B"}, "On &amp; off", "A < B"),
        (WHOLE, {"description": ""}, '<meta name="description" content="On &amp; off">', ""),
        (WHOLE, {"language": "de-AT"}, 'lang="en"', 'lang="de-AT"'),
        (WHOLE, {"language": ""}, ' lang="en"', ""),
        (WHOLE, {"title": "Boilers", "description": "On  & off", "language": "en"}, "", ""),
        (BARE, {"language": "en"}, "<html>", '<html lang="en">'),
        (BARE, {"title": "Coal"}, "<head>\n", "<head>\n<title>Coal</title>\n"),
        (WHOLE, {"viewport": False}, '  <meta name=viewport content="width=device-width">\n', ""),
        (BARE, {"viewport": True}, "<head>\n",
         '<head>\n<meta name="viewport" content="width=device-width, initial-scale=1">\n'),
        (BARE.replace("<head>\n", "<head>\n  <title>T</title>\n"), {"description": "D d"}, "</title>\n",
         '</title>\n  <meta name="description" content="D d">\n'),
        (WHOLE.replace(' content="On &amp; off"', ""), {"description": "D d"}, 'name="description"',
         'name="description" content="D d"'),
    ],
)  # fmt: skip
def test_heads_say_something_else(markup, change, old, new):
    assert changed(markup, **change) == (markup.replace(old, new) if old else markup)


@pytest.mark.parametrize(
    ("markup", "change", "words"),
    [
        (WHOLE, {"language": "not a tag"}, "no language tag"),
        (WHOLE, {"title": "  "}, "title"),
        ("<p>x", {"description": "d"}, "no head"),
        ("<p>x", {"language": "en"}, "no html element"),
    ],
)
def test_what_cannot_be_said_why(markup, change, words):
    with pytest.raises(RequestError, match=words):
        changed(markup, **change)


def test_titles_by_a_pattern():
    files = {"a.html": WHOLE, "b.html": BARE, "c.html": "<title>C</title><p>none"}
    site = site_from(files)
    paths = list(files)
    assert titles_by_pattern(site, paths, "{h1} - TVLR") == {
        "a.html": HeadChange("Boilers - TVLR"),
        "b.html": HeadChange("Coal & coke - TVLR"),
    }
    assert titles_by_pattern(site, ["c.html"], "{title} | X") == {"c.html": HeadChange("C | X")}
    done = carried_out(files, site, plan_heads(site, titles_by_pattern(site, paths, "{h1} - TVLR")))
    assert b"<title>Boilers - TVLR</title>" in done["a.html"]
    assert b"<title>Coal &amp; coke - TVLR</title>" in done["b.html"]
    for pattern in ("", "{name}", "{}"):
        with pytest.raises(RequestError):
            titles_by_pattern(site, paths, pattern)
