"""Lengths: measured, carried over an edit, estimated; and two outlines side by side."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pages import page_of, site_of
from signpost.core.comparing.outlines import Tally, compare_pages, pair_sections
from signpost.core.landings.geometry import Box, Geometry, Hold, Window
from signpost.core.landings.lengths import carried_stretches, measured_stretches
from signpost.core.page.lengths import Beyond, Limits, estimate_stretches, find_extremes, judge_length, windows
from signpost.core.page.outline import read_outline
from signpost.core.site.site import Reached
from strategies import pages

PAGE = "<main><p>lead</p><h2>A</h2><p>a</p><h3>B</h3><p>b</p><h2>C</h2><p>c</p></main><footer>end</footer>"


def measured(page, tops, bottom, height, hold=Hold.NONE):
    starts = [heading.element.open.start for heading in page.headings]
    boxes = [Box(start, top, top + 20, hold=hold) for start, top in zip(starts, tops, strict=True)]
    boxes += [Box(part.open.start, bottom + 40, height) for part in page.furniture]
    return Geometry(Window(400, 500), 500, height, 0, snaps=False, boxes=tuple(boxes), bars=(), content_bottom=bottom)


def spans(stretches):
    return [(one.index, one.top, one.height) for one in stretches]


def test_measured_sections_end_where_the_next_of_their_level_begins():
    page = page_of(PAGE)
    found = measured_stretches(page, read_outline(page), measured(page, [100, 300, 700], 950, 1100))
    assert spans(found) == [(-1, 0, 100), (0, 100, 600), (1, 300, 400), (2, 700, 250)]


@pytest.mark.parametrize(
    ("content_bottom", "last"), [(950, 250), (None, 290), (2000, 290)], ids=["element", "page", "before the footer"]
)
def test_where_the_last_section_ends(content_bottom, last):
    page = page_of(PAGE)
    geometry = measured(page, [100, 300, 700], 950, 1100)
    geometry = Geometry(**{**vars(geometry), "content_bottom": content_bottom})
    assert measured_stretches(page, read_outline(page), geometry)[-1].height == last


def test_headings_out_of_order_or_out_of_sight_stand_with_the_one_before():
    page = page_of(PAGE)
    found = measured_stretches(page, read_outline(page), measured(page, [300, 100, 700], 950, 1100))
    assert [one.top for one in found] == [0, 300, 300, 700]
    hidden = measured_stretches(page, read_outline(page), measured(page, [1, 2, 3], 950, 1100, Hold.HIDDEN))
    assert [one.top for one in hidden] == [0, 0, 0, 0]


def test_an_edit_carries_the_heights_that_were_measured():
    page = page_of(PAGE)
    before = read_outline(page)
    old = measured_stretches(page, before, measured(page, [100, 300, 700], 950, 1100))
    after = read_outline(page_of(PAGE.replace("<h2>C", "<h2>New</h2><p>n</p><h2>C")))
    carried = carried_stretches(before, old, after)
    assert [(one.index, one.top) for one in carried[:3]] == [(-1, 0), (0, 100), (1, 300)]
    assert carried[4].height == pytest.approx(250)
    assert carried[3].top == 700
    assert carried_stretches(before, old, before) == old


@given(pages())
def test_stretches_nest_as_sections_do(source):
    page = page_of(source)
    outline = read_outline(page)
    stretches = estimate_stretches(page, outline)
    carried = carried_stretches(outline, stretches, outline)
    assert [one.top for one in carried] == pytest.approx([one.top for one in stretches])
    for section in outline.flat():
        own = stretches[section.index + 1]
        for inner in section.sections:
            found = stretches[inner.index + 1]
            assert own.top <= found.top
            assert found.top + found.height <= own.top + own.height + 1e-6


def test_windows_are_counted_in_the_window_that_was_measured():
    assert windows(1500, 500) == 3
    assert windows(1600) == 2


def headed(*names):
    return page_of("<main>" + "".join(f"<{tag} id={name}>{text}</{tag}><p>x y</p>" for tag, name, text in names))


@pytest.mark.parametrize(
    ("left", "right", "pairs"),
    [
        pytest.param([("h2", "a", "A")], [("h2", "a", "A")], [("A", "A", "")], id="same"),
        pytest.param([("h2", "a", "A")], [("h3", "a", "A")], [("A", "A", "level")], id="level"),
        pytest.param([("h2", "a", "A")], [("h2", "b", "A")], [("A", "A", "identifier")], id="identifier"),
        pytest.param(
            [("h2", "a", "Tea")], [("h2", "a", "Coal")], [("Tea", "Coal", "words")], id="known by identifier"
        ),
        pytest.param(
            [("h2", "a", "Care of lamps")],
            [("h2", "b", "Care of the lamps")],
            [("Care of lamps", "Care of the lamps", "words identifier")],
            id="known by likeness",
        ),
        pytest.param(
            [("h2", "a", "Tea")], [("h2", "b", "Points")], [("Tea", None, ""), (None, "Points", "")], id="unlike"
        ),
        pytest.param(
            [("h2", "a", "A"), ("h2", "c", "C")],
            [("h2", "a", "A"), ("h2", "b", "B"), ("h2", "c", "C")],
            [("A", "A", ""), (None, "B", ""), ("C", "C", "")],
            id="one between",
        ),
    ],
)
def test_sections_side_by_side(left, right, pairs):
    found = pair_sections(read_outline(headed(*left)).flat(), read_outline(headed(*right)).flat())
    assert [
        (pair.left and pair.left.text, pair.right and pair.right.text, " ".join(pair.differences)) for pair in found
    ] == pairs


def test_what_differs_is_counted():
    left = page_of("<main><h2 id=a>A</h2><p>one <a href=#a>x</a></p>\r\n<h2>B</h2></main>")
    right = page_of("<main><h2 id=b>A</h2><p>one two <a href=#b>x</a> <a href=#c>y</a></p>\n<h2>B</h2></main>\n<p>")
    found = compare_pages(left, right)
    assert (found.sections, found.changed) == (Tally(0, 0), 1)
    assert (found.identifiers, found.links) == (Tally(1, 1), Tally(1, 2))
    assert found.lines == Tally(2, 3)  # the last line differs by its end
    assert "+<main><h2 id=b>A</h2>" in found.diff
    same = compare_pages(left, left)
    assert (same.diff, same.lines, same.links) == ("", Tally(0, 0), Tally(0, 0))


@given(st.lists(st.sampled_from("abcd"), max_size=6), st.lists(st.sampled_from("abcd"), max_size=6))
def test_each_side_keeps_its_order_and_loses_nothing(left, right):
    ones = read_outline(headed(*(("h2", name, name * 3) for name in left))).flat()
    others = read_outline(headed(*(("h2", name, name * 3) for name in right))).flat()
    pairs = pair_sections(ones, others)
    assert [pair.left for pair in pairs if pair.left] == ones
    assert [pair.right for pair in pairs if pair.right] == others


@pytest.mark.parametrize(
    ("limits", "words", "height", "beyond"),
    [
        (Limits(), 10_000, 99.0, Beyond.NONE),
        (Limits(most_words=500), 501, 1.0, Beyond.LONG),
        (Limits(most_words=500), 500, 1.0, Beyond.NONE),
        (Limits(most_windows=3), 10, 3.1, Beyond.LONG),
        (Limits(least_words=50), 49, 0.1, Beyond.SHORT),
        (Limits(least_words=50, most_windows=1), 49, 1.5, Beyond.LONG),
    ],
    ids=str,
)
def test_which_limit_a_section_passes(limits, words, height, beyond):
    assert judge_length(limits, words, height) is beyond


@pytest.mark.parametrize(
    ("markup", "tops", "extremes"),
    [
        (PAGE, [100, 300, 700], (0, 2)),
        ("<main><h1>T</h1><h2>A</h2><h2>B</h2><h3>C</h3></main>", [0, 100, 150, 200], (2, 1)),
        ("<main><h1>T</h1><h2>A</h2></main>", [0, 100], None),
        ("<main><p>no heading</p></main>", [], None),
    ],
    ids=["two of the first level", "of the level that divides the page", "one of each", "none"],
)
def test_the_longest_and_the_shortest_are_of_the_level_that_divides_the_page(markup, tops, extremes):
    page = page_of(markup)
    outline = read_outline(page)
    found = find_extremes(outline, measured_stretches(page, outline, measured(page, tops, 950, 1100)))
    assert found == extremes


SITE = site_of(
    a="<title>A</title><h1 id=t>One</h1><p id=p><a href=#t>t</a><a href=#>top</a><a href='b.html#x'>x</a><a href='b.html#z'>z</a>"
    "<a href=b.html>b</a><a href='mailto:g@example.org'>m</a><a href=''>e</a>",
    b="<title>B</title><p id=lead>l</p><h2 id=x>Two</h2>",
)


@pytest.mark.parametrize(
    ("link", "goal"),
    [
        ("t", ("a.html", "t")),
        ("top", ("a.html", "")),
        ("x", ("b.html", "x")),
        ("z", ("b.html", "z")),
        ("b", None),
        ("m", None),
        ("e", None),
    ],
)
def test_where_a_jump_link_is_meant_to_lead(link, goal):
    found = next(one for one in SITE.pages["a.html"].links if one.text == link)
    assert SITE.jump_goal("a.html", found) == goal


@pytest.mark.parametrize(
    ("href", "reached"),
    [
        ("#t", Reached(0, "One", is_top=False)),
        ("#", Reached(-1, "A", is_top=True)),
        ("b.html", Reached(-1, "B", is_top=True)),
        ("b.html#lead", Reached(-1, "B", is_top=False)),
        ("b.html#x", Reached(0, "Two", is_top=False)),
    ],
)
def test_what_a_link_leads_to_is_named(href, reached):
    assert SITE.reached(SITE.follow("a.html", href)) == reached
