"""Pages with a base element."""

import pytest

from pages import edited, page_of
from signpost.core.back_to_top.planning import BackLinkOptions, plan_back_links
from signpost.core.contents import ContentsOptions, plan_contents
from signpost.core.site.site import Resolved, Site
from signpost.core.text.errors import RequestError


@pytest.mark.parametrize(
    ("element", "href", "found"),
    [
        ("", "a.html", ("d/a.html", None)),
        ("<base href='../'>", "a.html", ("a.html", None)),
        ("<base href='../e/f.html'>", "a.html", ("e/a.html", None)),
        ("<base href='../e/f.html'>", "#x", ("e/f.html", "x")),
        ("<base target=_top><base href=../e/><base href=../g/>", "a.html", ("e/a.html", None)),
        ("<base href='https://x/club/'>", "a.html", ("a.html", None)),
        ("<base href='https://elsewhere/'>", "a.html", None),
        ("<base href='https://elsewhere/'>", "https://x/club/a.html", ("a.html", None)),
    ],
)
def test_a_page_s_own_base_is_where_its_addresses_start(element, href, found):
    page = page_of(f"<head>{element}</head><p>", "d/page.html")
    assert page.resolve(href, "https://x/club/") == found


def test_what_is_written_into_a_page_with_a_base_leads_where_it_should():
    page = page_of(
        "<head><base href='/e/'></head><body><h1>T</h1><h2 id=a>A</h2><p>t<h2 id=b>B</h2><p>t", "d/page.html"
    )
    made = edited(page, plan_contents(page, ContentsOptions()))
    made = edited(made, plan_back_links(made, BackLinkOptions()))
    site = Site({made.path: made}, frozenset([made.path]))
    leads = [site.follow(made.path, link.href) for link in made.links]
    assert len(leads) == 4
    assert all(isinstance(outcome, Resolved) and outcome.path == "d/page.html" for outcome in leads)
    assert not plan_contents(made, ContentsOptions())
    assert not plan_back_links(made, BackLinkOptions())
    far = page_of("<head><base href='https://far/'></head><h2>A</h2>t<h2>B</h2>")
    with pytest.raises(RequestError, match="base element"):
        plan_contents(far, ContentsOptions())
