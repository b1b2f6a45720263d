"""What of a map is drawn at once."""

from hypothesis import given
from hypothesis import strategies as st

from pages import site_from
from signpost.core.references.link_map import MapLinks, map_site
from signpost.core.references.map_drawing import ELSEWHERE, MORE, MOST_DRAWN, NodeKind, draw_map


def chain(*paths: str):
    """Return the map of pages each of which leads to the next one, and the last to the first."""
    return map_site(
        site_from(
            {path: f"<a href=/{other}>on</a>" for path, other in zip(paths, (*paths[1:], paths[0]), strict=True)}
        )
    )


def numbered(folder: str, count: int) -> list[str]:
    return [f"{folder}{at:03}.html" for at in range(count)]


def drawn(*args, **said):
    found = draw_map(*args, **said)
    return found.at, {node.name: node.pages for node in found.nodes}


def test_a_few_pages_are_all_drawn_with_those_that_are_missing():
    found = draw_map(map_site(site_from({"a.html": "<a href=d/gone.html>g</a>", "d/b.html": ""})))
    assert [(node.name, node.kind, node.folder) for node in found.nodes] == [
        ("a.html", NodeKind.PAGE, ""),
        ("d/b.html", NodeKind.PAGE, "d"),
        ("d/gone.html", NodeKind.MISSING, "d"),
    ]
    assert found.lines == (MapLinks("a.html", "d/gone.html", 1, 0, 1),)


def test_of_many_pages_folders_stand_for_what_is_in_them():
    found = chain("index.html", *numbered("a/", 50), *numbered("b/c/", 50))
    assert drawn(found) == ("", {"a/": 50, "b/": 50, "index.html": 1})
    lines = draw_map(found).lines
    assert [(one.source, one.goal, one.links) for one in lines] == [
        ("a/", "b/", 1),
        ("b/", "index.html", 1),
        ("index.html", "a/", 1),
    ]


def test_a_folder_shows_what_is_right_in_it_and_the_rest_as_one():
    found = chain("index.html", *numbered("a/", 30), *numbered("a/deep/", 40))
    at, nodes = drawn(found, "a")
    assert at == "a"
    assert (nodes["a/deep/"], nodes[ELSEWHERE], len(nodes)) == (40, 1, 32)


def test_there_is_room_for_what_is_elsewhere():
    _, nodes = drawn(chain("index.html", *numbered("a/", MOST_DRAWN)), "a")
    assert (len(nodes), nodes[MORE], nodes[ELSEWHERE]) == (MOST_DRAWN, 2, 1)


def test_a_folder_that_holds_nothing_but_another_is_passed_through():
    assert draw_map(chain(*numbered("docs/en/a/", 40), *numbered("docs/en/b/", 40))).at == "docs/en"
    assert draw_map(chain(*numbered("docs/en/", 80))).at == "docs/en"


def test_where_a_folder_has_too_many_pages_those_with_most_links_are_drawn():
    pages = {f"{at:03}.html": "<a href=099.html>the last</a>" for at in range(100)}
    found = draw_map(map_site(site_from(pages)))
    assert len(found.nodes) == MOST_DRAWN
    assert {node.name: node.pages for node in found.nodes}[MORE] == 100 - MOST_DRAWN + 1
    assert "099.html" in {node.name for node in found.nodes}


def test_around_a_page_with_many_neighbours_it_is_drawn_itself():
    pages = {f"d{at % 3}/{at:03}.html": "<a href=/lone.html>it</a>" for at in range(100)} | {"lone.html": ""}
    site = site_from(pages)
    found = draw_map(map_site(site, "lone.html"), focus="lone.html")
    assert len(found.nodes) == MOST_DRAWN
    assert "lone.html" in {node.name for node in found.nodes}
    assert draw_map(map_site(site, "d0/000.html"), focus="d0/000.html").nodes[0].name == "d0/000.html"


paths = st.lists(st.sampled_from(["a", "b", "c", "long name", "ä"]), min_size=0, max_size=3)


@given(st.lists(st.tuples(paths, st.integers(0, 40)), min_size=1, max_size=150), paths)
def test_every_page_is_in_one_node_and_there_are_never_too_many(places, at):
    found = chain(*sorted({"/".join([*folder, f"{number}.html"]) for folder, number in places}))
    drawing = draw_map(found, "/".join(at))
    assert sum(node.pages for node in drawing.nodes) == len(found.pages)
    assert len(drawing.nodes) <= MOST_DRAWN
    names = {node.name for node in drawing.nodes}
    assert all({line.source, line.goal} <= names and line.source != line.goal for line in drawing.lines)
