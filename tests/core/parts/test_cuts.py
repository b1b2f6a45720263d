"""Where a page is cut."""

from itertools import combinations, pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pages import edited, page_of, site_of
from signpost.core.parts.cuts import LEVEL_PENALTY, best_cuts, cuts_at_level, cuts_by_identifier, find_cuts
from signpost.core.parts.planning import plan_parts
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
    assert best_cuts(sized(*words), parts) == cuts


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

    best = [cut for cut in cuts if cut.section in best_cuts(page, parts)]
    assert cost(best) == pytest.approx(min(map(cost, combinations(cuts, parts - 1))))


def test_cuts_prefer_higher_headings():
    page = page_of("<h2>a</h2>" + "w " * 100 + "<h3>b</h3>" + "w " * 20 + "<h2>c</h2>" + "w " * 90)
    assert best_cuts(page, 2) == [2]


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
