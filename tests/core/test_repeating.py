"""Pages that repeat one thing twenty thousand times: what is done for each is not done for each pair.

A rule that goes through the page for every tag takes minutes here instead of seconds; so a test that does not come
to its end in that time has found one.
"""

import pytest

from pages import page_of
from signpost.core.findings import check_page
from signpost.core.site.site import Site
from signpost.desk.settings import Settings
from signpost.desk.views import view_page

COUNT = 20_000
SHAPES = {
    "formatting left open": "<b>" * COUNT,
    "formatting of many kinds left open": "".join(f"<b id=n{n}>" for n in range(COUNT)),
    "links left open in paragraphs": "<p><a href=x>" * COUNT,
    "links left open in formatting": '<i><a href="#q">' * (COUNT // 2),
    "fonts left open": "<font size=7>" * COUNT,
    "end tags left over": "</b></p></div>" * (COUNT // 2),
    "elements that cross": "<b><i>x</b></i>" * (COUNT // 2),
    "attributes without an end": '<a href="' * COUNT,
    "attributes that run on": "<a b='" * COUNT + ">",
    "lines that look like headings": "<b>x</b><br>" * COUNT,
    "items without a list": "<li>x" * COUNT,
    "old targets": "".join(f"<a name=n{n}>" for n in range(COUNT)),
    "one identifier": "<p id=x>x" * COUNT,
    "links that say nothing": "".join(f'<a href="#n{n}">here</a> ' for n in range(COUNT // 2)),
    "rows without a table": "<td>x<tr>" * COUNT,
    "comments left open": "<!-- -" * COUNT,
    "lists left open": "<ul><li>x</li>" * COUNT,
    "tables left open": "<table><tr><td>x" * COUNT,
    "boxes left open": "<div>\n" * COUNT,
    "names grown together": "<pcoal <b>x" * COUNT,
    "one long name": "<" + "b" * COUNT * 5 + " <i>x</i>",
    "tags without their brackets": "<b>x/b> y/p> a href=x>z</a>" * (COUNT // 4),
    "attributes without a tag": "x " + "b=c " * COUNT,
}


@pytest.mark.long
@pytest.mark.timeout(150)
@pytest.mark.parametrize("body", SHAPES.values(), ids=SHAPES)
def test_what_repeats_is_looked_at_once(body):
    page = page_of(f"<!DOCTYPE html><title>t</title><h1>t</h1>{body}".encode())
    site = Site({page.path: page}, frozenset([page.path]))
    assert check_page(site, page.path)
    assert view_page(site, page, Settings(), ()).path == page.path
