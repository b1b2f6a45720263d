"""The pages of a site and the links between them."""

from xml.etree import ElementTree

from pages import site_from
from signpost.core.references.link_map import MapLinks, graphml, map_site

FILES = {
    "index.html": "<a href=a.html>A</a><a href='a.html#x'>x</a><a href='a.html#no'>no</a><a href=gone.html>gone</a>"
    "<a href=p.png>picture</a><a href=https://example.org/>out</a><a href='#self'>here</a>",
    "a.html": "<h1 id=x>A</h1><a href='index.html#TOP'>top</a><a href='index.html#:~:text=A'>text</a>",
    "deep/b.html": "<a href='../a.html'>up</a>",
    "p.png": b"",
}


def test_links_are_counted_by_pages_and_told_which_lead_nowhere():
    found = map_site(site_from(FILES))
    assert found.links == (
        MapLinks("a.html", "index.html", 2, 2, 0),
        MapLinks("deep/b.html", "a.html", 1, 0, 0),
        MapLinks("index.html", "a.html", 3, 2, 1),
        MapLinks("index.html", "gone.html", 1, 0, 1),
    )
    pages = {page.path: page for page in found.pages}
    assert [path for path, page in pages.items() if not page.there] == ["gone.html"]
    assert [path for path, page in pages.items() if page.is_orphan] == ["deep/b.html"]
    assert pages["index.html"].broken == 3  # the one to itself too
    assert pages["a.html"].links_in == 4


def test_around_a_page_is_what_leads_there_and_where_it_leads():
    found = map_site(site_from(FILES), "deep/b.html")
    assert [page.path for page in found.pages] == ["a.html", "deep/b.html"]
    assert len(found.links) == 1


def test_a_page_that_many_lead_to_is_a_hub():
    files = {f"p{at}.html": "<a href=index.html>I</a>" for at in range(6)} | {"index.html": ""}
    assert [page.path for page in map_site(site_from(files)).pages if page.is_hub] == ["index.html"]


def test_graphml_has_a_node_for_each_page_and_an_edge_for_its_links():
    files = {'a"&.html': "<a href='b.html'>b</a><a href='b.html#x'>x</a>", "b.html": "<p id=x>"}
    tree = ElementTree.fromstring(graphml(map_site(site_from(files))))  # noqa: S314 - our own
    space = "{http://graphml.graphdrawing.org/xmlns}"
    assert [node.get("id") for node in tree.iter(f"{space}node")] == ['a"&.html', "b.html"]
    (edge,) = tree.iter(f"{space}edge")
    assert (edge.get("source"), edge.get("target")) == ('a"&.html', "b.html")
    assert [data.text for data in edge] == ["2", "1", "0"]
