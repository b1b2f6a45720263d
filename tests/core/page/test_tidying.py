"""Indentation made to follow the elements, and nothing else changed."""

import pytest
from hypothesis import given

from laws import pieces
from pages import edited, page_of, text_after
from signpost.core.page.tidying import plan_tidied
from signpost.core.text.errors import RequestError
from strategies import pages


@pytest.mark.parametrize(
    ("before", "after"),
    [
        ("<ul>\n<li>a</li>\n   <li>b</li>\n</ul>\n", "<ul>\n   <li>a</li>\n   <li>b</li>\n</ul>\n"),
        ("<div>\n<ul>\n<li>a\n<li>b\n</ul>\n</div>\n", "<div>\n  <ul>\n    <li>a\n    <li>b\n  </ul>\n</div>\n"),
        ("  <div>\n<p>a</p>\n    </div>\n", "  <div>\n    <p>a</p>\n  </div>\n"),
        ("<p>one\n      two\n  three</p>\n", "<p>one\ntwo\nthree</p>\n"),
        ("<div>\r\n<p>a</p>\r\n</div>\r\n", "<div>\r\n  <p>a</p>\r\n</div>\r\n"),
        ("\t<div>\n\t<p>a</p>\n\t\t<p>b</p>\n\t</div>\n", "\t<div>\n\t\t<p>a</p>\n\t\t<p>b</p>\n\t</div>\n"),
    ],
)
def test_lines_are_indented_by_their_elements(before, after):
    assert text_after(before, plan_tidied, 1, 99) == after


@pytest.mark.parametrize(
    "kept",
    [
        "<div>\n  <pre>\na\n b</pre>\n</div>\n",
        "<div>\n  <textarea>\nx\n y</textarea>\n</div>\n",
        "<div>\n  <script>\nif (a) {\n}\n</script>\n</div>\n",
        '<div>\n  <p style="white-space: pre-line">\na\n b</p>\n</div>\n',
        "<div>\n  <!-- one\n two -->\n</div>\n",
        '<div>\n  <img\n alt="a\n b" src=x>\n</div>\n',
    ],
)
def test_white_space_that_counts_stays(kept):
    assert page_of(kept).text == text_after(kept, plan_tidied, 1, 99)


def test_only_the_chosen_lines_change():
    page = page_of("<ul>\n<li>a</li>\n<li>b</li>\n<li>c</li>\n</ul>\n")
    assert edited(page, plan_tidied(page, 1, 2)).text == "<ul>\n  <li>a</li>\n<li>b</li>\n<li>c</li>\n</ul>\n"
    assert not plan_tidied(page, 7, 99)


@given(pages())
def test_nothing_but_white_space_at_the_beginning_of_lines_changes(data):
    page = page_of(data)
    try:
        after = edited(page, plan_tidied(page, 1, 10_000))
    except RequestError:
        return
    assert [line.lstrip(" \t") for line in after.text.splitlines()] == [
        line.lstrip(" \t") for line in page.text.splitlines()
    ]
    assert pieces(after.text) == pieces(page.text)
