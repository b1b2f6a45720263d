"""All elements of a page, its regions, and what is known of its content beside its own markup."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from pages import page_of
from signpost.core.page import read_nodes, read_page
from signpost.core.page.furniture import Marks
from signpost.core.page.markup import Markup
from signpost.core.page.regions import read_regions, selector_of
from signpost.core.site.repeats import find_repeated, repeats_on
from signpost.core.text.source import read_source
from soup import SOUP
from strategies import EXAMPLES, pages


def marked(markup: str, **said):
    return read_page("page.html", read_source(markup.encode()), Marks(**said))


@given(pages())
def test_every_element_stands_where_it_says_and_within_its_parent(data):
    page = page_of(data)
    nodes = read_nodes(page)
    for node in nodes.all:
        opened = node.element.open
        if opened.start < opened.end:  # a body whose tags are left out has none
            assert opened.of(page.text).lower().startswith("<" + node.tag)
        if node.element.close is not None:
            assert node.element.close.of(page.text).startswith("</")
        if node.parent >= 0:
            around = nodes.all[node.parent]
            assert around.index < node.index < around.until
        assert list(nodes.children(node)) == [other for other in nodes.all if other.parent == node.index]
        assert all(other.index < node.until for other in nodes.below(node))


@given(SOUP)
@settings(max_examples=3 * EXAMPLES)
def test_elements_are_where_the_parser_has_them_however_tags_are_mixed(markup):
    page = page_of(markup)
    where = Markup(page.text)
    hidden = {below for one in where.tree.find_all("template") for below in one.find_all()}
    theirs = [
        element for one in where.tree.find_all() if one not in hidden and (element := where.element(one)) is not None
    ]
    ours = [node.element for node in read_nodes(page).all if node.start < node.element.open.end]
    assert [one for one in ours if one in theirs] == theirs
    again = [node.element for node in read_nodes(page_of(markup)).all if node.start < node.element.open.end]
    assert again == ours  # of the same tree
    assert all(one.close is None for one in ours if one not in theirs)  # of which only a browser's copy is left


@given(pages())
def test_headings_of_the_page_are_among_its_elements(data):
    page = page_of(data)
    nodes = read_nodes(page)
    for heading in page.headings:
        node = nodes.of(heading.element)
        assert node is not None
        assert node.text == heading.text
        assert [above.element for above in nodes.above(node)][: len(heading.ancestors)] == list(
            reversed(heading.ancestors)
        )


@given(pages(), st.integers(0, 600))
def test_the_innermost_element_holds_an_offset(data, offset):
    page = page_of(data)
    nodes = read_nodes(page)
    found = nodes.at(offset)
    if found is not None:
        assert found.start <= offset < found.element.end
        assert not any(child.start <= offset < child.element.end for child in nodes.children(found))


def test_what_templates_and_scripts_hold_is_no_element():
    page = page_of("<p>a</p><template><p>b</p></template><script>'<p>c</p>'</script><!-- <p>d</p> -->")
    assert [node.tag for node in read_nodes(page).all] == ["body", "p", "template", "script"]


@given(pages())
def test_a_selector_finds_the_region_it_was_made_for(data):
    page = page_of(data)
    nodes = read_nodes(page)
    text = page.text.removeprefix("\ufeff")
    from turbohtml import parse

    tree = parse(text, source_locations=True)
    for node in nodes.all:
        if node.element.open.start == node.element.open.end or node.tag in ("html", "head") or "/" in node.tag:
            continue
        found = tree.select(selector_of(nodes, node))
        positions = [parsed.position for parsed in found]
        place = page.source.lines.place(node.start)
        column = place.column - 1 - (1 if place.line == 1 and page.text != text else 0)
        if any(position is None for position in positions) or not positions:
            continue  # a parent that the parser invented has no place to be told by
        around, at = [], node.parent
        while at >= 0:
            around.append(nodes.all[at].tag)
            at = nodes.all[at].parent
        moved = {"table", "b", "a"}.intersection([node.tag, *around])  # the parser may have it elsewhere, or twice
        assert (place.line, column) in positions or moved or not around


def test_what_only_two_of_many_pages_share_is_theirs():
    alike = "<p><a href=x>same</a></p><p>{0} and more words of its own</p>"
    some = [page_of(alike.format(name), f"{name}.html") for name in ("a", "b")]
    assert len(find_repeated(page.outer for page in some)) == 1
    assert find_repeated(page.outer for page in [*some, page_of("<p>another</p>", "c.html")]) == frozenset()


def test_long_pages_are_compared_at_their_ends():
    page = page_of("".join(f"<p>{number}</p>" for number in range(100)))
    assert len(page.outer) == 25
    assert page.outer.count("") == 1


OLD = (
    "<title>t</title><table><tr><td><a href=a.html>Home</a> <a href=b.html>News</a></td></tr></table>"
    "<h1>{0}</h1><p>about {0} and whatever belongs to it</p><p><a href=a.html>Home</a> © us</p>"
)


def test_blocks_that_other_pages_have_too_are_furniture():
    some = [page_of(OLD.format(name), f"{name}.html") for name in ("coal", "water", "oil")]
    repeated = find_repeated(page.outer for page in some)
    assert len(repeated) == 2
    again = read_page("coal.html", some[0].source, Marks(repeated=repeats_on(some[0].outer, repeated)))
    assert [part.tag for part in again.furniture] == ["table", "p"]
    assert (again.words, some[0].words) == (8, 13)


def test_copies_beside_a_page_make_no_furniture_of_its_sections():
    page = (
        "<h2>Coal</h2><p>how to shovel it and where it is kept</p><h2>Water</h2><p>{0} from the well by the hut</p>"
        "<h2>Oil</h2><p>where it is kept, and who may take it</p>"
    )
    copies = [page_of(page.format(word), f"step-{word}.html") for word in ("one", "two", "three", "four")]
    assert find_repeated(page.outer for page in copies) == frozenset()
    framed = [page_of("<p><a href=x>Home</a></p>" + copy.text, copy.path) for copy in copies]
    others = [page_of(f"<p><a href=x>Home</a></p><p>{word} of its own altogether</p>", word) for word in ("a", "b")]
    repeated = find_repeated(page.outer for page in [*framed, *others])
    assert len(repeated) == 1
    again = read_page("step-one.html", framed[0].source, Marks(repeated=repeats_on(framed[0].outer, repeated)))
    assert [heading.text for heading in again.headings] == ["Coal", "Water", "Oil"]


@pytest.mark.parametrize(
    ("one", "other"),
    [
        pytest.param("<h1>Same</h1><p>a</p>", "<h1>Same</h1><p>b</p>", id="a heading alone"),
        pytest.param("<p>a</p><p>same</p><p>b</p>", "<p>c</p><p>same</p><p>d</p>", id="in the middle"),
        pytest.param("<p>a</p>", "<p>a</p>", id="a copy"),
        pytest.param("<p>much the same</p><p>a</p>", "<p>much the same</p><p>b</p>", id="a copy with a change"),
        pytest.param("<main><h1>a</h1></main><p>x</p>", "<main><h1>b</h1></main><p>x</p>", id="content is marked"),
        pytest.param("words<p>same</p>more", "other<p>same</p>b", id="words around"),
    ],
)
def test_what_repeats_and_is_none(one, other):
    first = page_of(one)
    repeated = find_repeated(page.outer for page in [first, page_of(other)])
    again = marked(one, repeated=repeats_on(first.outer, repeated))
    assert (again.furniture, again.words) == (first.furniture, first.words)


@pytest.mark.parametrize(
    ("said", "headings"),
    [
        ({}, ["b", "d"]),
        ({"content": "#c"}, ["c"]),
        ({"content": "#gone"}, ["b", "d"]),
        ({"content": "not < a selector"}, ["b", "d"]),
        ({"furniture": ("h2",)}, ["b"]),
        ({"own": ("nav",)}, ["a", "b", "d"]),
        ({"furniture": (".x",), "own": ("#c",)}, ["b", "c"]),
    ],
)
def test_what_the_author_says_goes_first(said, headings):
    markup = "<nav><h1>a</h1></nav><h1>b</h1><div class=sidebar id=c><h1>c</h1></div><div class=x><h2>d</h2></div>"
    assert [heading.text for heading in marked(markup, **said).headings] == headings


def test_regions_are_listed_with_what_they_count_as():
    page = page_of(
        "<header>Site</header><table id=frame><tr><td class=menu><a href=x>X</a> <a href=y>Y</a></td>"
        f"<td><h1>T</h1><p>{'word ' * 40}</p></td></tr></table><div class=footer>foot</div>"
    )
    found = [(region.selector, region.furniture, region.depth) for region in read_regions(page)]
    assert found[0] == ("header:nth-of-type(1)", True, 0) or found[0][0].startswith("body > header")
    assert ("#frame", False, 0) in found
    assert ("td.menu", False, 3) in found or any(selector == "td.menu" for selector, _, _ in found)
    assert ("div.footer", True, 0) in found
    assert read_regions(page_of("")) == []
