"""What is added looks like the rest of the page."""

import pytest

from pages import edited, page_of
from signpost.core.contents import ContentsOptions, plan_contents
from signpost.core.page.habits import Habits, read_habits


@pytest.mark.parametrize(
    ("markup", "habits"),
    [
        pytest.param("", Habits("\n", "", False, '"', False), id="nothing to go by"),
        pytest.param('<p class="a">x<br>', Habits("\n", "", False, '"', False), id="double quotes"),
        pytest.param("<p class='a'>x<br/>", Habits("\n", "", False, "'", True), id="single quotes, XHTML voids"),
        pytest.param("<P CLASS=a>x<BR>\r\n<P>\r\n", Habits("\r\n", "", True, "", False), id="1998"),
        pytest.param("<ul>\n\t<li>a\n\t<li>b\n</ul>\n", Habits("\n", "\t", False, '"', False), id="tabs"),
        pytest.param("<div>\n    <p>a\n    <p>b\n</div>", Habits("\n", "    ", False, '"', False), id="four spaces"),
        pytest.param(
            "    <main>\n      <p>a\n      <ul>\n        <li>b\n      </ul>\n",
            Habits("\n", "  ", False, '"', False),
            id="two spaces, deep within",
        ),
    ],
)
def test_habits_are_those_of_most_of_the_page(markup, habits):
    assert read_habits(page_of(markup)) == habits


@pytest.mark.parametrize(
    ("habits", "written"),
    [
        (Habits("\n", "", False, '"', False), '<a href="#x" class="a b"><br>'),
        (Habits("\n", "", False, "'", True), "<a href='#x' class='a b'><br />"),
        (Habits("\n", "", True, "", False), '<A HREF=#x CLASS="a b"><BR>'),
    ],
)
def test_tags_are_written_so(habits, written):
    assert habits.start("a", href="#x", class_="a b", title=None) + habits.void("br") == written


@pytest.mark.parametrize(
    ("quote", "written"),
    [
        ("'", "title='it&#39;s \"R&amp;D\"'"),
        ('"', 'title="it\'s &quot;R&amp;D&quot;"'),
        ("", 'title="it\'s &quot;R&amp;D&quot;"'),
    ],
)
def test_values_are_escaped_as_their_quotes_need_it(quote, written):
    assert Habits("\n", "", False, quote, False).attribute("title", 'it\'s "R&D"') == written


def test_what_we_added_does_not_change_what_we_add_next():
    page = page_of("<div>\n\t<p>a\n</div>\n<div>\n  <p>b\n</div>\n<h2 id=a>A</h2>\n<h2 id=b>B</h2>\n")
    made = edited(page, plan_contents(page, ContentsOptions()))
    assert read_habits(made) == read_habits(page)
    assert not plan_contents(made, ContentsOptions())
