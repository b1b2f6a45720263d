"""What is found on a page."""

import pytest

from pages import page_of, site_of
from parted import cut
from signpost.core.addresses.links import resolve_path
from signpost.core.findings import check_page, check_site
from signpost.core.site.site import Site

#: What any piece of a page lacks that is no whole page.
OF_WHOLE_PAGES = frozenset(
    """
    page-unlinked title-missing viewport-missing language-missing first-heading-missing picture-without-alt
    element-self-closed title-repeated section-empty name-target end-tag-missing
    """.split()
)


def found_on(site, path):
    """What is found on a page, but for what it lacks as a whole page."""
    return [finding for finding in check_page(site, path) if finding.rule.code not in OF_WHOLE_PAGES]


def codes(markup, **others):
    site = site_of(page=markup, **others)
    return [(finding.rule.code, finding.place.line) for finding in found_on(site, "page.html")]


@pytest.mark.parametrize(
    ("markup", "found"),
    [
        ("<h1>a</h1><a href=#top>x</a><a href=mailto:a@b>m</a><a href=https://example.org>o</a>", []),
        ("\n<a href=#gone>x</a>", [("fragment-missing", 2)]),
        ('<p id=water><a href="#water>water</a>\n<a href="#a">a</a>', [("quote-missing", 1)]),
        ('<p id=a><a href=#a">x</a>', [("quote-missing", 1)]),
        ('<a href="https://x.org/>x</a>\n<a href="https://y.org/">y</a>', [("quote-missing", 1)]),
        ('<p id=a><a href="#a\n">x</a>', []),
        ('<a href="https://x.org/?q=&quot;a&quot;">x</a>', []),
        ("<a href=other.html#gone>x</a>", [("fragment-missing", 1)]),
        ("<a href=other.html#here>x</a>", []),
        ("<a href=missing.html>x</a><a href=gone/>y</a>", [("page-missing", 1), ("page-missing", 1)]),
        ("<a href=map.pdf>x</a><img src=gone.gif>", [("file-missing", 1), ("file-missing", 1)]),
        (
            "<a href=#>x</a>\n<a>y</a><a name=z></a>",
            [("link-without-destination", 1), ("link-without-destination", 2)],
        ),
        ("<p id=a>w\n<p id=a>w\n<a name=a>", [("identifier-duplicate", 2), ("identifier-duplicate", 3)]),
        ("<a id=a name=a></a>", []),
        ("<h1>a</h1>\n<h3>b</h3>\n<h2>c</h2><h3>d</h3>", [("heading-gap", 2)]),
        ("<h3>a</h3><h1>b</h1>", []),
    ],
)
def test_what_does_not_hold(markup, found):
    assert codes(markup, other="<p id=here>") == found


@pytest.mark.parametrize(
    ("base", "href", "found"),
    [
        ("https://x/club/", "/club/page.html", ("page.html", None)),
        ("https://x/club/", "/page.html", None),
        ("https://x/club/", "/club", ("", None)),
        ("https://x/club", "https://x/clubhouse/a.html", None),
        ("https://x/club", "https://x/club/a.html#b", ("a.html", "b")),
        ("https://X/club/index.html", "HTTPS://x/club/a.html?q#b", ("a.html", "b")),
        ("https://x/club", "http://x/club/a.html", None),
        ("https://x/club", "//x/club/a.html", ("a.html", None)),
        ("https://x", "/a.html", ("a.html", None)),
        (None, "/a.html", ("a.html", None)),
        (None, "https://x/a.html", None),
    ],
)
def test_full_addresses_of_the_site_itself(base, href, found):
    assert resolve_path("d/other.html", href, base) == found


def test_wrong_letter_case_is_named():
    site = site_of(page="<a href=Other.html>x</a>", other="")
    (found,) = found_on(site, "page.html")
    assert (found.rule.code, "which is “other.html” in the site" in found.message) == ("address-case", True)


def test_a_page_that_cannot_be_written_back_is_a_finding():
    site = site_of(page=b"<meta charset=utf-8>\xe9")
    assert [finding.rule.code for finding in found_on(site, "page.html")] == ["page-unreadable"]


def test_parts_that_are_out_of_date_or_missing_are_found():
    guide = "<body><h1>G</h1>\n<h2 id=a>A</h2>\n<p>a</p>\n<h2 id=b>B</h2>\n<p>b</p>\n<h2 id=c>C</h2></body>"
    site = cut(site_of(page=guide), "page.html", "b", "c")
    of_parts = {"parts-out-of-date", "series-broken"}
    assert not [finding for finding in check_site(site) if finding.rule.code in of_parts]
    text = site.pages["page-2.html"].text.replace(">B</h2>", ">Bells</h2>")
    renamed = Site({**site.pages, "page-2.html": page_of(text, "page-2.html")}, site.files)
    found = [(finding.page, finding.rule.code) for finding in check_site(renamed) if finding.rule.code in of_parts]
    assert found == [("page-3.html", "parts-out-of-date"), ("page.html", "parts-out-of-date")]
    left = {path: page for path, page in site.pages.items() if path != "page-2.html"}
    broken = check_page(Site(left, frozenset(left)), "page.html")
    assert ("series-broken", "part 2 is not in the site") in [
        (one.rule.code, one.message[one.message.index("part 2") :][:25]) for one in broken if "part 2" in one.message
    ]
    told = [
        (one.page, one.rule.code) for one in check_site(Site(left, frozenset(left))) if one.rule.severity == "error"
    ]
    assert told == [("page.html", "series-broken")]  # once, and without the links that follow from it
