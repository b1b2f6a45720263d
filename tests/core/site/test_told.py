"""What a page tells of itself for others, kind by kind."""

import json

import pytest

from pages import page_of
from signpost.core.site.told import Kind, file_name_key, tell

MENU = "<nav id=m><a href=a.html>A</a> <a href='b.html#x'>B</a> <a href=https://x.example/>X</a></nav>"


def told(markup, kind, path="d/page.html", base=None):
    return {(key, value) for what, key, value in tell(page_of(markup, path), base) if what is kind}


@pytest.mark.parametrize(
    ("markup", "rows"),
    [
        ("<a href=b.html>b</a>", {("d/b.html", ("", 1))}),
        ("<a href=b.html#x>b</a><a href='./b.html#x'>b</a>", {("d/b.html", ("x", 2))}),
        ("<a href='#x'>x</a>", {("d/page.html", ("x", 1))}),
        ("<a href=../>up</a><a href=./>here</a>", {("", ("", 1)), ("d/", ("", 1))}),
        ("<a href=https://other.example/a.html>out</a><a>none</a><a href=mailto:a@b.example>mail</a>", set()),
        ("<a href=https://own.example/s/c.html>own</a>", {("c.html", ("", 1))}),
    ],
)
def test_where_links_lead(markup, rows):
    found = told(markup, Kind.LINK, base="https://own.example/s/")
    assert {(key, tuple(json.loads(value))) for key, value in found} == rows


@pytest.mark.parametrize(
    ("markup", "keys"),
    [
        ("<form action='b.html#one'>", {"one"}),
        ("<form action='b.html#:r1'>", {":r1"}),
        ("<form action='b.html#a.b'>", {"a", "a.b"}),
        ("<form action='b.html#%61'>", {""}),
        ("<form action='b.html&#35;a'>", {"", "35", "35;a"}),
        ("<script>go('b.html#one');</script>", {"one"}),
        ("<p>none</p>", set()),
    ],
)
def test_what_stands_behind_a_hash(markup, keys):
    assert {key for key, _ in told(markup, Kind.HASH)} >= keys
    assert bool(told(markup, Kind.HASH)) is bool(keys)


@pytest.mark.parametrize(
    ("path", "markup"),
    [
        ("b.html", "<a href=b.html>b</a>"),
        ("my page.html", "<a href='my page.html'>b</a>"),
        ("a(1).html", "<a href='a(1).html#x'>b</a>"),
        ("a&b.HTM", "<a href='a&amp;b.HTM'>b</a>"),
        ("Caf\u00e9.html", "<a href='Caf\u00e9.html'>b</a>"),
        ("Caf\u00e9.html", "<a href='Caf&eacute;.html'>b</a>"),
        ("Caf\u00e9.html", "<a href=Caf%C3%A9.html#x>b</a>"),
        ("my page.html", "<form action='my%20page.html'>b</form>"),
        ("b.html", "<a href='b%2Ehtml'>b</a>"),
        ("b.html", "<img longdesc='x/b&#46;h&#116;ml?a=1&amp;b'>"),
        ("a&b.html", "<base href='http://example.org/'><a href='a%26b.html'>b</a>"),
    ],
)
def test_a_page_that_names_a_file_is_found_by_the_file_s_key(path, markup):
    assert file_name_key(path) in {key for key, _ in told(markup, Kind.FILE_NAME)}


def test_the_rest():
    markup = (
        f"<html lang=en><title>T</title><link rel=stylesheet href=../s.css><link rel=next href=n.html>{MENU}"
        "<h2 id=one class='a b'>One</h2><a name=two></a><pre>x</pre><script>1</script>"
    )
    assert told(markup, Kind.NAME) == {("m", "id"), ("one", "id"), ("two", "name")}
    assert told(markup, Kind.LANGUAGE) == {("en", "")}
    assert told(markup, Kind.SHEET) == {("s.css", ""), ("d/n.html", "")}
    assert told(markup, Kind.CLASS) == {("a", ""), ("b", "")}
    assert told(markup, Kind.SCRIPT) == {("", "")}
    assert told(markup, Kind.HAS) == {("samples", "")}
    ((title, _),) = told(markup, Kind.TITLE)
    assert json.loads(title) == ["T", "en"]
    ((_, ways),) = told(markup, Kind.WAY)
    assert json.loads(ways) == {"next": "d/n.html"}
    ((name, links),) = told(markup, Kind.BLOCK)
    assert (name, json.loads(links)) == (
        "nav m",
        [["d/a.html", "A"], ["d/b.html#x", "B"], [" https://x.example/", "X"]],
    )
