"""The neighbourhood of a page's sections."""

from pages import site_from
from signpost.core.references.section_map import MapSection, map_sections

FILES = {
    "a.html": "<title>A</title><body><nav><a href='#two'>Menu</a></nav><h1>A</h1><p><a href='#two'>down</a> "
    "<a href='#no'>broken</a></p><h2 id=one>One</h2><p>none</p>"
    "<h2 id=two>Two</h2><p><a href='b.html#x'>over</a> <a href='#two'>itself</a> <a href='#top'>up</a> "
    "<a href=https://example.org/>out</a></p>",
    "b.html": "<h1 id=x>B</h1><p><a href='a.html#two'>to two</a> <a href=a.html>to all</a></p>",
}


def test_links_between_sections_and_with_other_pages():
    found = map_sections(site_from(FILES), "a.html")
    assert [(one.source, one.goal, one.row.words) for one in found.links] == [
        ("#0", "#2", "down"),
        ("#2", "b.html", "over"),
        ("b.html", "#2", "to two"),
        ("b.html", "#-1", "to all"),
    ]
    assert found.sections == (
        MapSection(-1, 0, "Lead and top of the page", 1, 0),
        MapSection(0, 1, "A", 0, 1),
        MapSection(2, 2, "Two", 2, 1),
    )
    assert found.title == "A"
    assert {one.row.page for one in found.links} == {"a.html", "b.html"}
