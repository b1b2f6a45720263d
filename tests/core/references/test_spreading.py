"""Blocks put on pages that lack them, and blocks that their author names by a class."""

import pytest

from pages import carried_out, site_from
from signpost.core.findings.check import check_page
from signpost.core.references.shared import find_changes, find_shared, plan_alike
from signpost.core.references.spreading import plan_spread, plan_taken_off
from signpost.core.text.errors import RequestError

MENU = """  <nav class="main">
    <a href="a.html">A</a>
    <a href="b.html">B</a>
    <a href="deep/c.html">C</a>
  </nav>
"""
UP = MENU.replace('href="', 'href="../').replace("../deep/c", "c")


def page(title: str, before: str = "", after: str = "") -> str:
    return (
        f'<!DOCTYPE html>\n<html lang="en">\n<title>{title}</title>\n<body>\n{before}  <main>\n    <h1>{title}</h1>\n'
        f"  </main>\n{after}</body>\n</html>\n"
    )


def spread(files, *of) -> dict[str, str]:
    done = carried_out(files, site_from(files), plan_spread(site_from(files), *of))
    assert not plan_spread(site_from(done), *of), "a second run changes what the first one made"
    return {path: data.decode() for path, data in done.items()}


@pytest.mark.parametrize("place", ["before", "after"])
def test_a_page_that_lacks_a_block_gets_it_where_the_others_have_it(place):
    files = {
        "a.html": page("A", **{place: MENU}),
        "b.html": page("B", **{place: MENU}),
        "deep/c.html": page("C"),
    }
    after = spread(files, "a.html", "nav main", ["b.html", "deep/c.html"])
    assert after == {**files, "deep/c.html": page("C", **{place: UP})}


def test_a_page_that_has_one_with_few_links_gets_no_second():
    files = {"a.html": page("A", MENU), "b.html": page("B", '<nav class="main"><a href="a.html">A</a></nav>\n')}
    assert spread(files, "a.html", "nav main", ["b.html"]) == files


def test_into_the_block_around_it():
    head = '  <header class="top">\n    <p>Our line</p>\n{}  </header>\n'
    inner = '    <p class="note">Mind <a href="a.html">the gap</a>.</p>\n'
    files = {"a.html": page("A", head.format(inner)), "deep/c.html": page("C", head.format(""))}
    after = spread(files, "a.html", "note", ["deep/c.html"])
    assert after["deep/c.html"] == page("C", head.format(inner.replace("a.html", "../a.html")))


def test_what_was_put_on_is_taken_off_without_a_trace():
    files = {"a.html": page("A", MENU), "b.html": page("B"), "deep/c.html": page("C")}
    after = spread(files, "a.html", "nav main", ["b.html", "deep/c.html"])
    plan = plan_taken_off(site_from(after), "nav main", ["b.html", "deep/c.html"])
    assert carried_out(after, site_from(after), plan) == {path: text.encode() for path, text in files.items()}


def test_what_is_not_there_is_refused():
    with pytest.raises(RequestError, match=r"a\.html has no block “nav main”"):
        plan_spread(site_from({"a.html": page("A")}), "a.html", "nav main", ["a.html"])


def test_any_element_is_kept_alike_by_its_class():
    note = '  <div class="note big">Open <a href="a.html">daily</a>.</div>\n'
    files = {
        "a.html": page("A", after=note),
        "b.html": page("B", after=note),
        "deep/c.html": page("C", after=note.replace("a.html", "../a.html").replace("daily", "on Sundays")),
    }
    site = site_from(files)
    (found,) = find_shared(site, only="note")
    assert find_changes(site, found, found.differing[0]) == [("on Sundays", "daily")]
    after = carried_out(files, site, plan_alike(site, "note"))
    assert after["deep/c.html"].decode() == page("C", after=note.replace("a.html", "../a.html"))


def test_the_finding_has_a_press_that_makes_the_copy_alike():
    menu = MENU.replace("  </nav>", '    <a href="e.html">E</a>\n  </nav>')
    less = menu.replace('    <a href="b.html">B</a>\n', "")
    files = {f"{name}.html": page(name, menu) for name in "abefg"} | {"h.html": page("H", less)}
    files["deep/c.html"] = page("C")
    site = site_from(files)
    (finding,) = [one for one in check_page(site, "h.html") if one.rule.code == "block-differs"]
    plan = finding.choices[0].plan()
    assert carried_out(files, site, plan)["h.html"].decode() == page("H", menu)
