"""Files that go, and what led to them."""

import pytest

from pages import carried_out, site_from
from signpost.core.references.deletions import Leading, plan_deletion
from signpost.core.text.errors import RequestError

GONE = "<title>Gone</title><h1 id=x>G</h1><h2 id=y>Y</h2>"
GOAL = "<title>Goal</title><h1 id=x>G</h1>"


@pytest.mark.parametrize(
    ("leading", "before", "after"),
    [
        (Leading.ON, "<a href=gone.html>g</a>", "<a href=sub/goal.html>g</a>"),
        (Leading.ON, "<a href='gone.html#x'>g</a>", "<a href='sub/goal.html#x'>g</a>"),
        (Leading.ON, "<a href='gone.html?a=1&amp;b#y'>g</a>", "<a href='sub/goal.html'>g</a>"),
        (Leading.ON, "<link rel=next href=gone.html>", "<link rel=next href=sub/goal.html>"),
        (Leading.ON, "<a href=other.html>g</a>", "<a href=other.html>g</a>"),
        (Leading.UNLINK, "<p>See <a href='gone.html#y'>the <b>old</b> page</a>.", "<p>See the <b>old</b> page."),
        (Leading.UNLINK, "<a id=k href=gone.html class=c>g</a>", "<a id=k class=c>g</a>"),
        (Leading.UNLINK, "<a href=gone.html>g <a href=a.html>b</a>", "g <a href=a.html>b</a>"),
        (Leading.UNLINK, "<link rel=next href=gone.html>", "<link rel=next href=gone.html>"),
        (Leading.LEAVE, "<a href=gone.html>g</a>", "<a href=gone.html>g</a>"),
    ],
)
def test_links_to_what_goes(leading, before, after):
    files = {"a.html": f"<title>A</title>{before}\n", "gone.html": GONE, "sub/goal.html": GOAL}
    site = site_from(files)
    plan = plan_deletion(site, "gone.html", leading, "sub/goal.html")
    done = carried_out(files, site, plan)
    assert done["a.html"].decode() == f"<title>A</title>{after}\n"
    assert "gone.html" not in done
    assert bool(plan.notes) == ("gone.html" in after)


def test_the_page_that_takes_over_may_have_led_there_itself():
    files = {"gone.html": GONE, "goal.html": "<title>T</title><a href=gone.html#y>g</a>"}
    site = site_from(files)
    done = carried_out(files, site, plan_deletion(site, "gone.html", Leading.ON, "goal.html"))
    assert done == {"goal.html": b"<title>T</title><a href=goal.html>g</a>"}


def test_pictures_and_style_sheets_are_named():
    files = {"a.html": "<img src=p.png alt=''>", "s.css": "p { background: url('p.png') }", "p.png": b""}
    site = site_from(files)
    plan = plan_deletion(site, "p.png", Leading.UNLINK)
    assert plan.notes == ("a.html, line 1: img still leads to p.png.", "s.css still leads to p.png.")
    assert not plan.edits


@pytest.mark.parametrize(("path", "goal"), [("no.html", "a.html"), ("a.html", "a.html"), ("a.html", "no.html")])
def test_what_cannot_be_is_refused(path, goal):
    with pytest.raises(RequestError):
        plan_deletion(site_from({"a.html": GOAL}), path, Leading.ON, goal)
