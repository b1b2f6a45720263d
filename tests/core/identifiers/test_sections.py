"""Identifiers of sections."""

import pytest

from pages import page_of, text_after
from signpost.core.identifiers.sections import find_objection, plan_given, plan_identifiers
from signpost.core.text.errors import RequestError


def test_identifiers_are_kept_and_never_doubled():
    markup = (
        '<p id=coal><h2 id="Odd One">a</h2><h2>Coal</h2><h3><a name=old>b</a></h3><H4 CLASS=x>c</H4><h2 id="">d</h2>'
    )
    assert text_after(markup, plan_identifiers) == (
        '<p id=coal><h2 id="Odd One">a</h2><h2 id=coal-2>Coal</h2><h3><a name=old>b</a></h3>'
        "<H4 id=c CLASS=x>c</H4><h2 id=d>d</h2>"
    )


@pytest.mark.parametrize(
    ("name", "words"),
    [("", "at least one"), ("a b", "white space"), ("a#b", "#"), ("TOP", "top of the page"), ("coal", "taken")],
)
def test_identifiers_that_cannot_be(name, words):
    assert words in (find_objection(name, {"coal"}) or "")
    with pytest.raises(RequestError, match=words):
        plan_given(page_of("<p id=coal>t<h2>a</h2>"), {0: name})


def test_a_given_identifier_goes_where_it_should():
    page = page_of("<h2>a</h2><h2 id=x>b</h2>")
    assert plan_given(page, {0: "é&1"}).edits[0].text == ' id="é&amp;1"'
    for index in (1, 7):
        with pytest.raises(RequestError):
            plan_given(page, {index: "y"})
