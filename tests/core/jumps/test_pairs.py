"""Sections that point to one another."""

import pytest

from pages import carried_out, site_from
from signpost.core.jumps.pairs import Spot, plan_pair
from signpost.core.references.own_addresses import plan_own_addresses
from signpost.core.text.errors import RequestError

A = """<!DOCTYPE html>
<html lang="en">
<title>A</title>
<main>
  <h1>A</h1>
  <p>Lead.</p>
  <h2 id="fire">Fire &amp; ash</h2>
  <p>Text.</p>
  <p class="back-to-top"><a href="#top">Top</a></p>
  <h2>Water</h2>
  <p>Text.</p>
</main>
"""
B = A.replace("<title>A", "<title>B").replace("<h1>A", "<h1>B").replace('lang="en"', 'lang="de"')
FILES = {"a.html": A, "deep/b.html": B}


def paired(files, one, other, **how) -> dict[str, str]:
    site = site_from(files)
    done = carried_out(files, site, plan_pair(site, one, other, **how))
    assert not plan_pair(site_from(done), one, other, **how), "a second run changes what the first one made"
    return {path: data.decode() for path, data in done.items()}


def test_each_points_to_the_other_before_its_link_to_the_top_in_its_language():
    after = paired(FILES, Spot("a.html", 1), Spot("deep/b.html", 2))
    assert after["a.html"] == A.replace(
        '  <p class="back',
        '  <p class="see-also">See also: <a href="deep/b.html#water">Water</a></p>\n  <p class="back',
    )
    assert after["deep/b.html"] == B.replace("<h2>Water", '<h2 id="water">Water').replace(
        "</main>", '  <p class="see-also">Siehe auch: <a href="../a.html#fire">Fire &amp; ash</a></p>\n</main>'
    )


def test_a_line_that_is_there_gets_the_link_as_well():
    first = paired(FILES, Spot("a.html", 1), Spot("deep/b.html", 1), both=False)
    after = paired(first, Spot("a.html", 1), Spot("a.html", 2), both=False)
    assert '#fire">Fire &amp; ash</a>, <a href="#water">Water</a></p>' in after["a.html"]
    assert after["deep/b.html"] == B


def test_a_page_as_a_whole_is_pointed_to_by_its_title():
    after = paired(FILES, Spot("a.html", 1), Spot("deep/b.html"))
    assert 'See also: <a href="deep/b.html">B</a>' in after["a.html"]
    assert after["deep/b.html"].endswith('<a href="../a.html#fire">Fire &amp; ash</a></p>\n</main>\n')


def test_a_section_has_its_line_before_its_subsections():
    files = {"a.html": A, "deep/b.html": B.replace("</main>", "  <h3>Cold</h3>\n  <p>…</p>\n</main>")}
    after = paired(files, Spot("deep/b.html", 2), Spot("a.html", 1), both=False)
    assert after["deep/b.html"].index("see-also") < after["deep/b.html"].index("<h3>")


def test_what_cannot_be_is_refused():
    with pytest.raises(RequestError, match="cannot point to itself"):
        plan_pair(site_from(FILES), Spot("a.html", 1), Spot("a.html", 1))
    with pytest.raises(RequestError, match="The section"):
        plan_pair(site_from(FILES), Spot("a.html", 9), Spot("a.html", 1))


def test_two_that_end_at_the_same_place_do_not_both_point_from_it():
    site = site_from(FILES)
    last = Spot("a.html", len(site.pages["a.html"].headings) - 1)
    with pytest.raises(RequestError, match="the same place"):
        plan_pair(site, last, Spot("a.html"))
    assert "see-also" in paired(FILES, last, Spot("a.html"), both=False)["a.html"]


FULL = "https://line.example/volunteers/"


@pytest.mark.parametrize(
    ("full", "relative"),
    [
        (f"{FULL}a.html", "../a.html"),
        (f"{FULL}a.html?x=1#fire", "../a.html?x=1#fire"),
        (f"{FULL}deep/p%20q.png", "p%20q.png"),
        (f"{FULL}works/", "../works/"),
        ("https://line.example/other/", None),
        ("https://elsewhere.example/volunteers/a.html", None),
        ("mailto:a@line.example", None),
    ],
)
def test_full_addresses_of_the_site_become_relative_and_back(full, relative):
    files = {
        "deep/b.html": f'<link rel="canonical" href="{FULL}deep/b.html">\n<p><a href="{full}">x</a>',
        "a.html": "x",
    }
    site = site_from(files, FULL)
    after = carried_out(files, site, plan_own_addresses(site, ["deep/b.html"]))["deep/b.html"].decode()
    assert after == files["deep/b.html"].replace(f'"{full}"', f'"{relative or full}"')
    again = site_from({**files, "deep/b.html": after}, FULL)
    back = carried_out({**files, "deep/b.html": after}, again, plan_own_addresses(again, ["deep/b.html"], full=True))
    assert back["deep/b.html"].decode() == files["deep/b.html"]


def test_without_the_sites_address_nothing_can_be_told():
    with pytest.raises(RequestError, match="own address is not known"):
        plan_own_addresses(site_from(FILES), ["a.html"])
