"""Sections duplicated, and removed with their entries."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from laws import pieces
from pages import edited, page_of
from signpost.core.contents import ContentsOptions, plan_contents
from signpost.core.headings.moves import section_span
from signpost.core.headings.whole_sections import plan_duplicated_section, plan_removed_section
from signpost.core.page import read_page
from signpost.core.page.outline import read_outline
from signpost.core.site.site import Site, single_page_site
from signpost.core.text.edits import apply_edits
from signpost.core.text.errors import GoneError, RequestError
from signpost.core.text.source import read_source
from strategies import block, heading, pages

PAGE = (
    "<h1>T</h1>\n<h2 id=a>A</h2>\n<p>one <b id=x>two</b></p>\n<h3 id=b>B</h3>\n<p><a name=n>three</a></p>\n"
    "<h2 id=c>C</h2>\n<p>four</p>\n"
)


def removed(markup, index):
    page = page_of(markup)
    plan = plan_removed_section(single_page_site(page), page.path, index)
    return apply_edits(page.source, plan.edits[page.path]).decode(), plan.notes


@pytest.mark.parametrize(
    ("index", "left"),
    [
        (1, "<h1>T</h1>\n<h2 id=c>C</h2>\n<p>four</p>\n"),
        (2, PAGE.replace("<h3 id=b>B</h3>\n<p><a name=n>three</a></p>\n", "")),
        (3, PAGE.partition("<h2 id=c>")[0]),
    ],
)
def test_a_section_goes_with_its_subsections_and_nothing_else(index, left):
    assert removed(PAGE, index) == (left, ())


def test_a_section_element_ends_it_and_what_is_behind_stays():
    box = "<div id=main>\n<h1>T</h1>\n{}<div class=clear></div>\n</div>\n"
    own = "<section>\n<span id=a></span><h2>A</h2>\n<p>one</p>\n<section><h3>B</h3><p>two</p></section>\n</section>\n"
    assert removed(box.format(own), 1)[0] == box.format("")
    copy = edited(page_of(box.format(own)), plan_duplicated_section(page_of(box.format(own)), 1)).text
    assert copy == box.format(own + own.replace("<span id=a></span>", ""))
    boxed = box.format("<section><h2>A</h2></section>\n<p>one</p>\n")  # no more than a box for the heading
    assert "<p>one" not in removed(boxed, 1)[0]


def test_its_entry_goes_and_links_to_it_are_named():
    page = page_of(PAGE.replace("<p>four", "<p><a href=#x>see</a> four"))
    with_contents = edited(page, plan_contents(page, ContentsOptions())).text
    after, notes = removed(with_contents, 1)
    assert ">A</a>" not in after
    assert ">C</a>" in after
    assert len(notes) == 1
    assert notes[0].startswith("A link leads to what is removed: ")


def test_links_of_other_pages_are_named_too():
    page = page_of(PAGE)
    other = read_page("o.html", read_source(f"<p><a href='{page.path}#b'>b</a></p>".encode()))
    site = Site({page.path: page, "o.html": other}, frozenset([page.path, "o.html"]))
    plan = plan_removed_section(site, page.path, 1)
    assert plan.notes == (
        "A link leads to what is removed: o.html, line 1. Give them another target, or remove them.",
    )


def test_a_copy_has_no_identifiers_and_is_right_behind():
    page = page_of(PAGE)
    after = edited(page, plan_duplicated_section(page, 1)).text
    copy = "<h2>A</h2>\n<p>one <b>two</b></p>\n<h3>B</h3>\n<p><a>three</a></p>\n"
    assert after == PAGE.replace("<h2 id=c>", copy + "<h2 id=c>")


@pytest.mark.parametrize("plan", [plan_duplicated_section, lambda page, index: removed(page.text, index)])
def test_a_section_that_is_not_there_or_shares_an_element_is_refused(plan):
    with pytest.raises(GoneError):
        plan(page_of(PAGE), 9)
    with pytest.raises(RequestError, match="list or a table"):
        plan(page_of("<h1>T</h1><ul><li><h2>A</h2>a</li><li><h2>B</h2>b</li></ul>"), 1)


@given(pages(blocks=st.one_of(block, heading(), heading())), st.data())
def test_nothing_is_lost_but_the_section_itself(data, draw):
    page = read_page("page.html", read_source(data))
    flat = read_outline(page).flat()
    if not flat or page.made:
        return
    index = draw.draw(st.integers(0, len(flat) - 1))
    try:
        span = section_span(page, flat, flat[index])
        plan = plan_removed_section(single_page_site(page), page.path, index)
    except RequestError:
        return
    after = edited(page, plan.edits[page.path])
    assert after.text == page.text[: span.start] + page.text[span.end :]
    assert pieces(page.text) - pieces(after.text) <= pieces(span.of(page.text))
    try:
        copied = edited(page, plan_duplicated_section(page, index))
    except RequestError:
        return
    assert not pieces(page.text) - pieces(copied.text)
    assert [target.name for target in copied.targets] == [target.name for target in page.targets]
