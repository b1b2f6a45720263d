"""Where a page is cut."""

import re
from itertools import combinations, pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pages import edited, page_of, site_of
from signpost.core.parts.choosing import (
    LEVEL_PENALTY,
    CutReason,
    best_cuts,
    find_proposals,
    parts_for_length,
    word_ruler,
)
from signpost.core.parts.cuts import cut_at, cuts_at_level, cuts_by_identifier, find_cuts, find_places
from signpost.core.parts.planning import plan_parts
from signpost.core.site.site import Site
from signpost.core.text.errors import RequestError

LONG = (
    "<!DOCTYPE html>\n<html>\n<head>\n  <title>Guide</title>\n  <link rel=stylesheet href=s.css>\n</head>\n<body>\n"
    "<div id=header><a href=#b>B</a></div>\n<h1 id=t>The guide</h1>\n<p>Lead. <a href=#c>to C</a></p>\n"
    "<div class=two>\n<h2 id=a>A</h2>\n<p>a <a href=#a1>a1</a></p>\n<h3 id=a1>A1</h3>\n<p>a</p>\n<h2 id=b>B &amp; b</h2>\n"
    "<p><a href=guide.html#b>b</a> <a href=#t>t</a> <a href=#top>top</a> <img src=p.png></p>\n</div>\n<h2 id=c>C</h2>\n"
    "<ul><li><h2 id=l>in a list</h2></ul>\n<p>c <a href=other.html>o</a></p>\n<div id=footer>f</div>\n</body>\n</html>\n"
)


def test_places_that_are_never_cut():
    page = page_of(LONG)
    assert [page.headings[cut.section].text for cut in find_cuts(page)] == ["A", "A1", "B & b", "C"]
    with pytest.raises(RequestError, match="inside a list"):
        plan_parts(site_of(guide=LONG), "guide.html", [5])
    with pytest.raises(RequestError, match="No section"):
        cuts_by_identifier(page, ["nothing"])


def sized(*words: int, level=2):
    return page_of(
        "<h1>T</h1>" + "".join(f"<h{level} id=s{i}>S</h{level}><p>{'w ' * n}</p>" for i, n in enumerate(words))
    )


@pytest.mark.parametrize(
    ("words", "parts", "cuts"),
    [
        ([100, 100, 100, 100], 2, [3]),
        ([300, 100, 100, 100], 2, [2]),
        ([10, 10, 500, 10, 10, 500], 2, [4]),
        ([100] * 6, 3, [3, 5]),
        ([100, 100], 1, []),
    ],
)
def test_the_best_cuts(words, parts, cuts):
    assert [cut.section for cut in best_cuts(sized(*words), parts)] == cuts


@given(st.lists(st.tuples(st.integers(0, 90), st.integers(2, 4)), min_size=2, max_size=8), st.integers(2, 4))
def test_the_best_cuts_are_the_best_of_all(sections, parts):
    page = page_of("<p>w</p>" + "".join(f"<h{level}>S</h{level}><p>{'w ' * n}</p>" for n, level in sections))
    cuts = find_cuts(page)
    if len(cuts) < parts - 1:
        return
    highest, wanted = min(cut.level for cut in cuts), page.words / parts

    def cost(chosen):
        at = [0, *(cut.words_before for cut in chosen), page.words]
        deviations = sum(((end - start - wanted) / wanted) ** 2 for start, end in pairwise(at))
        return deviations + sum(LEVEL_PENALTY * (cut.level - highest) for cut in chosen)

    assert cost(best_cuts(page, parts)) == pytest.approx(min(map(cost, combinations(cuts, parts - 1))))


def test_cuts_prefer_higher_headings():
    page = page_of("<h2>a</h2>" + "w " * 100 + "<h3>b</h3>" + "w " * 20 + "<h2>c</h2>" + "w " * 90)
    assert [cut.section for cut in best_cuts(page, 2)] == [2]


def test_more_parts_than_places_is_refused_with_the_number_that_can_be_had():
    with pytest.raises(RequestError, match="at most 2 parts"):
        best_cuts(page_of("<h2>a</h2><h2>b</h2>"), 5)


def test_cuts_at_a_level_leave_the_first_section_with_the_lead():
    assert cuts_at_level(page_of(LONG), 2) == [3, 4]


def test_a_page_is_cut_behind_a_heading_that_is_never_closed():
    site = site_of(page="<body>\n<h1>T\n  <h2>A</h2>\n</body>\n")
    plan = plan_parts(site, "page.html", [1])
    assert b"<h2>A</h2>" in plan.new_files["page-2.html"]
    assert "<h2>A</h2>" not in edited(site.pages["page.html"], plan.edits["page.html"]).text


HEADED = "<h1>T</h1><p>lead</p><h2>A</h2>\n<p>a</p>\n{}<p>b</p><h2>C</h2><p>c"


@pytest.mark.parametrize(
    "before",
    [
        "<a name=x></a>\n{h}",
        "<a id=x></a><br>\n{h}",
        "<a id=x></a><hr>\n{h}",
        "<span id=x></span>\n{h}",
        "<div id=x></div>\n{h}",
        "<p id=x></p>\n{h}",
        "<p>text <a name=x></a>\n{h}",
        "<p><a name=x></a></p>\n{h}",
        "<center><a name=x></a>{h}</center>",
        "<center id=x>{h}</center>",
        "<p id=x>\n{h}",
        "<hr id=x>\n{h}",
        "<br id=x>\n{h}",
        "<img id=x src=p.png alt=''>\n{h}",
        "<hr id=x>\n<hr>\n{h}",
        "<!-- c --><a id=x></a><!-- d -->\n{h}",
        "<div id=x>\n<hr>\n{h}<p>b</div>",
        "<div id=x>\n<!-- chapter -->\n{h}<p>b<h2>B2</h2></div>",
        "<section id=x>{h}<p>b</section>",
        "<!-- ==== B ==== id=x -->\n{h}",
    ],
)
def test_what_belongs_to_a_heading_goes_with_it(before):
    page = page_of(HEADED.format(before.format(h="<h2>B</h2>")))
    cut = next(cut for cut in find_cuts(page) if page.headings[cut.section].text == "B")
    marked = page.text.index("id=x") if "id=x" in page.text else page.text.index("name=x")
    assert cut.at <= marked


def test_a_remark_that_closes_what_is_before_stays_there():
    page = page_of(HEADED.format("</div>\n<!-- end of A -->\n<h2>B</h2>"))
    assert page.text[find_cuts(page)[1].at :].startswith("<h2>B</h2>")


BLOCKS = (
    "<h1>T</h1>\n<p>lead</p>\n<p id=p>two</p>\n<ul>\n<li>one\n<li>two\n</ul>\n<!-- on it -->\n<table><tr><td><p>cell</table>\n"
    "<pre>\n<b>x</b></pre>\n<figure><p>f</p></figure>\n<details><summary>s</summary><p>d</p></details>\n<h2>A</h2>\n<p>a</p>\n"
)


def test_a_page_is_cut_between_any_two_blocks():
    page = page_of(BLOCKS)
    texts = [page.text[cut.at :].split("\n")[0] for cut in find_places(page)]
    assert texts == [
        "<p>lead</p>",
        "<p id=p>two</p>",
        "<ul>",
        "<!-- on it -->",
        "<pre>",
        "<figure><p>f</p></figure>",
        "<details><summary>s</summary><p>d</p></details>",
        "<h2>A</h2>",
        "<p>a</p>",
    ]
    assert [cut.words_before for cut in find_places(page)][:4] == [1, 2, 3, 5]


@pytest.mark.parametrize(
    ("words", "refused"),
    [
        ("<li>two", "line 6: that is inside a list. The nearest place is line 4"),
        ("<p>cell", "inside a table. The nearest place is line 10"),
        ("<b>x", "inside a sample"),
        ("<p>f<", "inside a figure"),
        ("<p>d<", "inside a passage that folds"),
        ("lead", "no place between two blocks. The nearest place is line 2"),
        ("<h1>", "The nearest place is line 2"),
    ],
)
def test_where_a_page_cannot_be_cut_the_nearest_place_is_named(words, refused):
    page = page_of(BLOCKS)
    with pytest.raises(RequestError, match=re.escape(refused)):
        cut_at(page, page.text.index(words))


def test_fixed_cuts_stay_and_no_part_is_too_short():
    page = sized(100, 100, 100, 100, 100, 100)
    cuts = find_cuts(page)
    fixed = cuts[1]
    found = best_cuts(page, 3, fixed=[fixed])
    assert fixed in found
    assert len(found) == 2
    assert [cut.section for cut in best_cuts(sized(5, 300, 300, 5), 2, least=50)] == [3]
    with pytest.raises(RequestError, match="cannot be cut into 4 parts; it can be cut into 2"):
        best_cuts(sized(5, 300, 300, 5), 4, least=50)
    with pytest.raises(RequestError, match="2 cuts are kept, which make 3 parts already"):
        best_cuts(page, 2, fixed=cuts[:2])


def test_the_choices_beside_the_best_are_told_with_their_cost():
    page = page_of("<h1>T</h1>" + "".join(f"<h{level}>S</h{level}><p>{'w ' * words}</p>" for level, words in
                   [(2, 100), (3, 100), (2, 20), (3, 180), (2, 200), (3, 20)]))  # fmt: skip
    found = {one.choice: one for one in find_proposals(page, 3)}
    assert set(found) >= {CutReason.BEST, CutReason.FEWER, CutReason.MORE}
    assert found[CutReason.BEST].cost <= min(
        one.cost for one in found.values() if len(one.cuts) == len(found[CutReason.BEST].cuts)
    )
    assert all(
        len(one.cuts) == {"best": 2, "fewer": 1, "more": 3}.get(one.choice, len(one.cuts)) for one in found.values()
    )
    assert all(one.lower == sum(cut.level > 2 for cut in one.cuts) for one in found.values())


@pytest.mark.parametrize(("wanted", "parts"), [(100, 6), (250, 2), (10_000, 1), (300, 2), (5e-324, 1_000_000)])
def test_a_wanted_length_makes_so_many_parts(wanted, parts):
    assert parts_for_length(word_ruler(sized(100, 100, 100, 100, 100, 100)), wanted) == parts


@pytest.mark.parametrize("name", ["my page.html", "a(1).html", "a=b.html", "a;b.html"])
def test_links_follow_a_page_whose_name_has_marks_in_it(name):
    pages = {name: page_of(LONG, name), "other.html": page_of(f"<a href='{name}#b'>b</a>", "other.html")}
    assert "other.html" in plan_parts(Site(pages, frozenset(pages)), name, [1, 2]).edits
