"""What pages contain, in open forms."""

import csv
import json

import pytest
from defusedxml import ElementTree

from pages import site_from
from signpost.core.forms.writing import FORMS
from signpost.core.text.errors import RequestError

FILES = {
    "index.html": "<title>Our & line</title><h1>Our &amp; line</h1><h2 id=a>A [1] &lt;b&gt;</h2><h3 id=b>B</h3><h2>=C</h2>",
    "x y/b.html": "<title>B</title><h1>B</h1><p>one two",
    "old.html": "<title>Old</title><meta http-equiv=refresh content='0; url=index.html'>",
}
BASE = "https://line.example/v/"


def made(form: str, pages=(), base: str | None = BASE) -> str:
    return FORMS[form][0](site_from(FILES, base), pages)


def test_opml_has_an_outline_for_each_page_and_section():
    (body,) = ElementTree.fromstring(made("outline.opml")).iter("body")
    (index, other) = body
    assert (index.get("text"), index.get("url")) == ("Our & line", f"{BASE}index.html")
    assert [(one.get("text"), one.get("url")) for one in index.iter("outline")][1:] == [
        ("A [1] <b>", f"{BASE}index.html#a"),
        ("B", f"{BASE}index.html#b"),
        ("=C", f"{BASE}index.html"),
    ]
    assert other.get("url") == f"{BASE}x%20y/b.html"


def test_json_nests_as_the_sections_do():
    index, _ = json.loads(made("outline.json"))
    assert index["address"] == "index.html"
    assert index["sections"][0]["sections"] == [{"text": "B", "address": "index.html#b", "level": 3, "sections": []}]


def test_markdown_has_nothing_that_would_be_markup():
    assert made("contents.md").splitlines() == [
        "- [Our & line](<index.html>)",
        r"  - [A \[1\] \<b\>](<index.html#a>)",
        "    - [B](<index.html#b>)",
        "  - [=C](<index.html>)",
        "- [B](<x%20y/b.html>)",
    ]


def test_html_and_a_navigation_document_have_the_same_links():
    document = ElementTree.fromstring(made("nav.xhtml"))
    links = [link.get("href") for link in document.iter("{http://www.w3.org/1999/xhtml}a")]
    fragment = ElementTree.fromstring(made("contents.html"))
    assert [link.get("href") for link in fragment.iter("a")] == links
    assert links == ["index.html", "index.html#a", "index.html#b", "index.html", "x%20y/b.html"]


def test_a_site_map_has_full_addresses_and_no_page_that_only_leads_on():
    space = "{http://www.sitemaps.org/schemas/sitemap/0.9}"
    found = [one.text for one in ElementTree.fromstring(made("sitemap.xml")).iter(f"{space}loc")]
    assert found == [f"{BASE}index.html", f"{BASE}x%20y/b.html"]
    with pytest.raises(RequestError, match="own address"):
        made("sitemap.xml", base=None)


def test_lengths_are_a_table_without_formulas():
    rows = [*csv.DictReader(made("lengths.csv").splitlines())]
    assert [(row["page"], row["section"], row["words"]) for row in rows] == [
        ("index.html", "", "8"),
        ("index.html", "Our & line", "8"),
        ("index.html", "A [1] <b>", "4"),
        ("index.html", "B", "1"),
        ("index.html", "'=C", "1"),
        ("x y/b.html", "", "3"),
        ("x y/b.html", "B", "3"),
    ]


def test_one_page_alone_and_none_that_is_not_there():
    assert made("contents.md", ["x y/b.html"]) == "- [B](<x%20y/b.html>)\n"
    with pytest.raises(RequestError, match="not a page"):
        made("contents.md", ["none.html"])
