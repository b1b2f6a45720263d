"""Addresses with a fragment that are no links: a page's text says whether it may have any."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.strategies import EXAMPLES

from signpost.core.page import read_page
from signpost.core.references.mentions import may_have_addresses, read_addresses
from signpost.core.text.source import read_source


def page_of(text: str):
    return read_page("page.html", read_source(text.encode()))


@pytest.mark.parametrize(
    "markup",
    [
        '<q cite="other.html#a">Coal</q>',
        "<q CITE = other.html#a>Coal</q>",
        '<blockquote title="a > b" cite="other.html&#35;a">Coal</blockquote>',
        '<form action="other.html#a"></form>',
        '<button formaction="other.html&num;a">Go</button>',
        '<svg><use xlink:href="drawings.svg#coal" /></svg>',
        '<link rel="help" href="other.html#a">',
        '<meta http-equiv="refresh" content="3; url=other.html#a">',
        '<meta http-equiv="refresh" content="3; url&equals;other.html&num;a">',
        '<!-- href=" --><q cite="other.html#a">Coal</q>',
    ],
)
def test_an_address_that_is_no_link_is_never_overlooked(markup):
    page = page_of(f'<!doctype html><title>Coal</title><a href="#top">Top</a>{markup}<p>Coal')
    assert list(read_addresses(page))
    assert may_have_addresses(page)


@pytest.mark.parametrize(
    "markup",
    [
        '<a href="#a">Coal</a> <a href="?one=1&amp;two=2">Two</a> <area href=#b>',
        '<link rel="stylesheet" href="style.css"><meta name="description" content="Coal & steam">',
        '<form action="search"><q cite="other.html">Coal</q></form>',
    ],
)
def test_a_page_of_links_alone_needs_no_closer_look(markup):
    assert not may_have_addresses(page_of(f"<!doctype html><title>Coal</title>{markup}<p>Coal"))


values = st.sampled_from(
    ["x.html", "x.html#a", "#", "a&amp;b", "x&#35;y", "x&num;y", "3;url=x#y", "a>b", "<a href=#c>", "'"]
)
names = st.sampled_from(
    ["href", "HREF", "cite", "action", "formaction", "content", "title", "xlink:href", "data-href"]
)
attributes = st.builds(
    lambda name, space, quote, value: f"{name}{space}={space}{quote}{value}{quote}",
    names, st.sampled_from(["", " ", "\n"]), st.sampled_from(['"', "'", ""]), values,
)  # fmt: skip
tags = st.builds(
    lambda tag, given: f"<{tag} {' '.join(given)}>",
    st.sampled_from(
        ["a", "q", "area", "form", "meta", "link", "svg", "use", "p", "/a", "/svg", "!--", "script", "template"]
    ),
    st.lists(attributes, max_size=3),
)


@settings(max_examples=EXAMPLES * 3)
@given(st.lists(st.one_of(tags, st.sampled_from(["coal", "-->", "</script>", '"', "'", "<!--"])), max_size=8))
def test_whatever_the_markup_no_address_is_overlooked(pieces):
    page = page_of("<!doctype html><title>Coal</title>" + "".join(pieces))
    assert may_have_addresses(page) or not list(read_addresses(page))
