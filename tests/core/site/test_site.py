"""Links between the pages of a site."""

import pytest

from pages import page_of
from signpost.core.site.site import Elsewhere, NoFile, NoTarget, Resolved, Site


@pytest.mark.parametrize(
    ("href", "outcome"),
    [
        ("d/", "d/index.html"),
        ("d", "d/index.html"),
        ("d/x.html", "d/x.html"),
        ("/", "index.html"),
        ("D/x.html", "near d/x.html"),
        ("e/", "no e/"),
        ("d/x.html#gone", "no target"),
        ("pic.gif", "pic.gif"),
        ("mailto:a@b", "elsewhere"),
        (None, "elsewhere"),
    ],
)
def test_where_links_of_a_site_lead(href, outcome):
    pages = {path: page_of("<p id=a>", path) for path in ("index.html", "d/index.html", "d/x.html")}
    site = Site(pages, frozenset([*pages, "pic.gif"]))
    match site.follow("index.html", href):
        case Resolved(path, _):
            found = path
        case NoFile(path, near):
            found = f"near {near}" if near else f"no {path}"
        case NoTarget():
            found = "no target"
        case Elsewhere():
            found = "elsewhere"
    assert found == outcome
