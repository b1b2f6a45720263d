"""Files that move, and the addresses that follow."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from pages import carried_out, site_from
from signpost.core.findings import check_page
from signpost.core.page import Target
from signpost.core.references.deletions import Leading, plan_deletion
from signpost.core.references.moves import folder_moves, plan_followed, plan_move
from signpost.core.site.site import NoTarget, Resolved, Site
from signpost.core.text.errors import RequestError
from signpost.desk.demo import demo_files
from strategies import EXAMPLES

BASE = "https://thornby.example/vale/"


def page(*lines: str) -> str:
    return "\n".join(["<!DOCTYPE html>", "<title>T</title>", *lines, ""])


@pytest.mark.parametrize(
    ("where", "before", "moves", "after"),
    [
        ("a.html", "<a href=b.html>", {"b.html": "c.html"}, "<a href=c.html>"),
        ("a.html", "<a href='b.html?x=1#y'>", {"b.html": "sub/c.html"}, "<a href='sub/c.html?x=1#y'>"),
        ("a.html", "<a href=./b.html>", {"b.html": "c.html"}, "<a href=./c.html>"),
        ("a.html", "<a href=/b.html#y>", {"b.html": "sub/c.html"}, "<a href=/sub/c.html#y>"),
        ("sub/a.html", "<a href=../b.html>", {"b.html": "sub/b.html"}, "<a href=b.html>"),
        ("sub/a.html", "<a href='../b.html'>", {"sub/a.html": "z.html"}, "<a href='b.html'>"),
        ("sub/a.html", "<a href='#x'>", {"sub/a.html": "z.html"}, "<a href='#x'>"),
        ("a.html", "<a href='a.html#x'>", {"a.html": "c.html"}, "<a href='c.html#x'>"),
        ("a.html", "<a href='b.html'>", {"a.html": "new/a.html", "b.html": "new/b.html"}, "<a href='b.html'>"),
        ("a.html", "<a href='?q=1'>", {"a.html": "new/a.html"}, "<a href='?q=1'>"),
        ("a.html", "<a href='mailto:b.html'>", {"b.html": "c.html"}, "<a href='mailto:b.html'>"),
        ("a.html", "<a href='gone.html'>", {"a.html": "new/a.html"}, "<a href='../gone.html'>"),
        ("a.html", "<a href='sub/'>", {"sub/index.html": "deep/index.html"}, "<a href='deep/'>"),
        ("a.html", "<a href='sub'>", {"sub/index.html": "deep/index.html"}, "<a href='deep'>"),
        ("a.html", "<a href='sub/'>", {"sub/index.html": "deep/one.html"}, "<a href='deep/one.html'>"),
        ("sub/a.html", "<a href='./'>", {"sub/a.html": "z.html"}, "<a href='sub/'>"),
        ("a.html", "<a href='b%2Ehtml'>", {"a.html": "new/a.html"}, "<a href='../b%2Ehtml'>"),
        ("a.html", "<a href='my page.html'>", {"a.html": "new/a.html"}, "<a href='../my page.html'>"),
        ("a.html", "<a href='my page.html'>", {"my page.html": "my-page.html"}, "<a href='my-page.html'>"),
        ("a.html", "<a href='b.html'>", {"b.html": "our page.html"}, "<a href='our%20page.html'>"),
        ("a.html", "<a href='b.html'>", {"b.html": "part:b.html"}, "<a href='./part:b.html'>"),
        ("a.html", "<a href='b&#46;html'>", {"b.html": "c.html"}, "<a href='c&#46;html'>"),
        ("a.html", "<a href='x&amp;y.html'>", {"x&y.html": "x&z.html"}, "<a href='x&amp;z.html'>"),
        ("a.html", "<img srcset='p.png 1x, q.png 2x'>", {"q.png": "i/q.png"}, "<img srcset='p.png 1x, i/q.png 2x'>"),
        ("a.html", "<p style='background: url(q.png)'>", {"q.png": "i/q.png"}, "<p style='background: url(i/q.png)'>"),
        ("a.html", "<form action=b.html>", {"b.html": "c.html"}, "<form action=c.html>"),
        ("a.html", "<style>p { background: url('q.png') }</style>", {"q.png": "r.png"},
         "<style>p { background: url('r.png') }</style>"),
        ("a.html", f"<meta property=og:image content='{BASE}q.png'>", {"q.png": "i/q.png"},
         f"<meta property=og:image content='{BASE}i/q.png'>"),
        ("a.html", f"<a href='{BASE}b.html#y'>", {"b.html": "c.html"}, f"<a href='{BASE}c.html#y'>"),
        ("a.html", "<a href='//thornby.example/vale/b.html'>", {"b.html": "c.html"},
         "<a href='//thornby.example/vale/c.html'>"),
        ("a.html", "<a href='/vale/b.html'>", {"b.html": "c.html"}, "<a href='/vale/c.html'>"),
        ("a.html", "<base href=sub/><a href=d.html><a href='#x'>", {"sub/d.html": "e.html"},
         "<base href=sub/><a href=../e.html><a href='#x'>"),
        ("a.html", "<base href=sub/><a href=d.html>", {"a.html": "deep/a.html"},
         "<base href=../sub/><a href=d.html>"),
        ("a.html", "<meta http-equiv=refresh content='5; url=b.html'>", {"b.html": "c.html"},
         "<meta http-equiv=refresh content='5; url=c.html'>"),
        ("a.html", "<!-- <a href=b.html> -->b.html", {"b.html": "c.html"}, "<!-- <a href=b.html> -->b.html"),
        ("s.css", "@import 't.css'; p { background: url(q.png) } /* url(q.png) */", {"q.png": "r.png", "t.css": "u.css"},
         "@import 'u.css'; p { background: url(r.png) } /* url(q.png) */"),
        ("s.css", "p { background: url(q.png) }", {"s.css": "look/s.css"}, "p { background: url(../q.png) }"),
        ("signpost.toml", '[regions."b.html"]\ncontent = "main"', {"b.html": "c.html"},
         '[regions."c.html"]\ncontent = "main"'),
    ],
)  # fmt: skip
def test_addresses_follow(where, before, moves, after):
    full = BASE in before or "vale" in before
    files = {
        **dict.fromkeys(
            ("a.html", "b.html", "sub/index.html", "sub/d.html", "sub/a.html", "x&y.html"), page("<p id=y>")
        ),
        "my page.html": page(),
        **dict.fromkeys(("p.png", "q.png"), b"\x89PNG"),
        "t.css": "",
        where: page(before) if where.endswith(".html") else before,
    }
    site = site_from(files, BASE if full else None)
    done = carried_out(files, site, plan_move(site, moves))
    text = done[moves.get(where, where)].decode()
    assert text == (page(after) if where.endswith(".html") else after)
    assert set(done) == {moves.get(path, path) for path in files}


@pytest.mark.parametrize(
    ("moves", "words"),
    [
        ({"gone.html": "c.html"}, "gone.html is not a file of the site."),
        ({"a.html": "b.html"}, "The site has a file of that name."),
        ({"a.html": "B.html"}, "Some computers take b.html for the same name."),
        ({"a.html": "b.html/a.html"}, "one being the other's folder"),
        ({"a.html": "a.txt"}, "A page needs a name that ends in .html"),
        ({"q.png": "q.html"}, "keep the file's own ending"),
        ({"a.html": "../a.html"}, "It leads out of the folder"),
        ({"a.html": "con.html"}, "Windows keeps that name"),
    ],
)
def test_names_that_cannot_be_are_refused(moves, words):
    files = {"a.html": page(), "b.html": page(), "q.png": b""}
    with pytest.raises(RequestError, match=words):
        plan_move(site_from(files), moves)


@pytest.mark.parametrize(
    "moves", [{"year-2.html": "parts/two.html"}, {"style.css": "css/site.css"}, {"images/line.svg": "line.svg"}]
)
def test_links_follow_a_file_that_was_moved_by_another_program(moves):
    files = demo_files()
    site = site_from(files)
    meant = carried_out(files, site, plan_move(site, moves))
    found = {moves.get(path, path): data for path, data in files.items()}
    there = site_from(found)
    assert carried_out(found, there, plan_followed(there, moves)) == meant
    assert not plan_followed(site_from(meant), moves)


def test_a_move_that_is_none_any_more_is_refused():
    files = {"a.html": page(), "b.html": page()}
    with pytest.raises(RequestError, match="there again"):
        plan_followed(site_from(files), {"a.html": "b.html"})
    with pytest.raises(RequestError, match="not a file"):
        plan_followed(site_from(files), {"c.html": "d.html"})


def test_two_files_change_places():
    files = {"a.html": page("<h1>A</h1><a href=b.html>"), "b.html": page("<h1>B</h1><a href=a.html>")}
    site = site_from(files)
    done = carried_out(files, site, plan_move(site, {"a.html": "b.html", "b.html": "a.html"}))
    assert done["b.html"] == page("<h1>A</h1><a href=a.html>").encode()
    assert done["a.html"] == page("<h1>B</h1><a href=b.html>").encode()


def test_what_differs_in_capitals_alone_can_be_put_right():
    files = {"Guide.html": page("<a href=Guide.html#y>"), "b.html": page("<a href=Guide.html>")}
    site = site_from(files)
    done = carried_out(files, site, plan_move(site, {"Guide.html": "guide.html"}))
    assert done["b.html"] == page("<a href=guide.html>").encode()


def test_a_page_that_stays_leads_on():
    files = {"a.html": "<html lang=de><title>Öfen & Co</title><h1 id=x>Ö</h1>", "b.html": page("<a href=a.html#x>")}
    site = site_from(files)
    done = carried_out(files, site, plan_move(site, {"a.html": "sub/ö.html"}, forward=True))
    left = done["a.html"].decode()
    assert '<html lang="de">' in left
    assert '<p>Diese Seite steht jetzt unter <a href="sub/%C3%B6.html">Öfen &amp; Co</a>.</p>' in left
    assert 'location.replace("sub/%C3%B6.html" + location.search + location.hash)' in left
    assert done["b.html"] == page("<a href=sub/%C3%B6.html#x>").encode()
    assert check_page(site_from(done), "a.html") == []
    assert "title-repeated" not in {one.rule.code for one in check_page(site_from(done), "sub/ö.html")}


def test_scripts_are_named_not_edited():
    script = "<script>open('b.html')</script>"
    files = {"a.html": page(script), "b.html": page(), "s.js": "go('b.html')"}
    site = site_from(files)
    plan = plan_move(site, {"b.html": "c.html"})
    assert not plan.edits
    assert [note.partition(":")[0] for note in plan.notes] == ["a.html, line 3", "s.js, line 1"]


def test_a_folder_moves_whole():
    files = {"old/a.html": page("<a href=b/c.html>"), "old/b/c.html": page("<a href=../../d.html>"), "d.html": page()}
    site = site_from(files)
    done = carried_out(files, site, plan_move(site, folder_moves(site, "old", "new/er")))
    assert done["new/er/a.html"] == page("<a href=b/c.html>").encode()
    assert done["new/er/b/c.html"] == page("<a href=../../../d.html>").encode()
    with pytest.raises(RequestError):
        folder_moves(site, "none", "x")


# ---------------------------------------------------------------- law: all that resolved resolves to the same

PATHS = ["index.html", "a.html", "b c.html", "sub/index.html", "sub/é.html", "sub/deep/d.html", "q.png", "s.css"]
NEW = ["moved.html", "sub/moved.html", "other/m n.html", "other/ü.html", "sub/deep/er/index.html"]
HREFS = st.sampled_from(
    [
        "#x", "a.html#x", "./a.html", "../a.html#x", "b%20c.html", "b c.html#x", "sub/", "sub", "./", "../", ".",
        "/a.html", "/sub/%C3%A9.html#x", "sub/é.html", "deep/d.html#x", "../index.html", "q.png", "../q.png", "/q.png",
        "../../a.html#top", "a.html?x=1#x", "nowhere.html", "sub/deep/../index.html#x",
    ]
)  # fmt: skip


@st.composite
def sites(draw):
    files = {}
    for path in PATHS:
        if path.endswith(".html"):
            base = draw(st.sampled_from(["", "", "", "<base href=../>", "<base href=sub/>", "<base href=/>"]))
            links = "\n".join(f"<a href='{href}'>a</a>" for href in draw(st.lists(HREFS, max_size=6)))
            encoding = draw(st.sampled_from(["utf-8", "windows-1252"]))
            text = page(f"<meta charset={encoding}>{base}<h1 id=x>X</h1>", links)
            files[path] = text.encode(encoding)
        else:
            files[path] = b"p { background: url(q.png) }"
    moved = draw(
        st.lists(
            st.sampled_from([path for path in PATHS if path.endswith("html")]), min_size=1, max_size=3, unique=True
        )
    )
    goals = draw(st.permutations(NEW))
    moves = dict(zip(moved, goals, strict=False))
    if draw(st.booleans()):
        moves["q.png"] = "pictures/q.png"
    return files, moves


def led(site: Site, path: str, href: str | None) -> tuple[str, object] | None:
    outcome = site.follow(path, href)
    if not isinstance(outcome, Resolved | NoTarget):
        return None
    target = outcome.target if isinstance(outcome, Resolved) else outcome.fragment
    return outcome.path, (target.name if isinstance(target, Target) else target)


@given(sites(), st.sampled_from([None, BASE]))
@settings(max_examples=2 * EXAMPLES, deadline=None)
def test_every_link_leads_where_it_did(made, base):
    files, moves = made
    before = site_from(files, base)
    done = carried_out(files, before, plan_move(before, moves))
    site = site_from(done, base)
    for path, old in before.pages.items():
        new = site.pages[moves.get(path, path)]
        assert len(new.links) == len(old.links)
        for was, now in zip(old.links, new.links, strict=True):
            goal = led(before, path, was.href)
            expected = None if goal is None else (moves.get(goal[0], goal[0]), goal[1])
            if goal is not None:
                assert led(site, new.path, now.href) == expected, (path, was.href, now.href)


@given(sites(), st.sampled_from([None, BASE]), st.data())
@settings(max_examples=EXAMPLES, deadline=None)
def test_after_a_deletion_every_link_leads_where_it_did_or_to_the_page_that_takes_over(made, base, data):
    files, _ = made
    before = site_from(files, base)
    gone, goal = data.draw(st.permutations(sorted(before.pages)))[:2]
    done = carried_out(files, before, plan_deletion(before, gone, Leading.ON, goal))
    site = site_from(done, base)
    for path, new in site.pages.items():
        for was, now in zip(before.pages[path].links, new.links, strict=True):
            led_to = led(before, path, was.href)
            if led_to is not None and led_to[0] in before.files:
                where, target = led_to
                expected = (goal if where == gone else where, target)
                assert led(site, path, now.href) == expected, (path, was.href, now.href)


@pytest.mark.long
def test_the_demo_moves_there_and_back_to_the_byte():
    files = demo_files()
    site = site_from(files)
    for old in sorted(files):
        new = f"far/off/{old}"
        there = carried_out(files, site, plan_move(site, {old: new}))
        back = site_from(there)
        assert carried_out(there, back, plan_move(back, {new: old})) == files, old


@pytest.mark.parametrize(
    "moves", [{"year-2.html": "parts/two.html"}, {"style.css": "css/site.css"}, {"handbook.html": "h/b.html"}]
)
def test_nothing_else_is_wrong_after_a_move_than_before(moves):
    files = demo_files()
    site = site_from(files)
    done = site_from(carried_out(files, site, plan_move(site, moves)))
    before = {(moves.get(path, path), one.rule.code) for path in site.pages for one in check_page(site, path)}
    assert {(path, one.rule.code) for path in done.pages for one in check_page(done, path)} == before
