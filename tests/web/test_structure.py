"""Headings and identifiers through the API: what is shown, what is remembered, what each operation does."""

import pytest

from signpost.desk.demo import demo_files
from sites import change, demo_site, new_site, plan, taken_out

PAGE = (
    b"<!DOCTYPE html>\n<title>Title</title>\n<main class=c>\n<h1 id=t>T</h1>\n<p><b>Coal</b></p>\n<p>It is black.</p>\n"
    b"<h3 id=a>A</h3>\n<p id=x>text</p>\n<h3>B</h3>\n<pre><h2>raw</h2></pre>\n<a name=old></a><h4>C</h4>\n"
    b"<p id=x>again</p><a href=#X>y</a>\n</main>\n"
)


def page_view(client, site, path="page.html"):
    answer = client.get(f"{site}/page", params={"path": path})
    assert answer.status_code == 200, answer.text
    return answer.json()


def test_what_there_is_to_do_is_shown(client):
    site = new_site(client, {"page.html": PAGE})
    view = page_view(client, site)
    structure = view["structure"]
    (lookalike,) = structure["lookalikes"]
    assert (lookalike["text"], lookalike["level"], lookalike["before"], lookalike["line"]) == ("Coal", 2, 1, 5)
    assert [repair["code"] for repair in structure["repairs"]] == ["gaps"]
    assert {"text": "A", "before": 3, "after": 2} in structure["repairs"][0]["rows"]
    assert (structure["raw_samples"], structure["anchors"]) == ([10], 1)
    (twice,) = structure["twice"]
    assert (twice["name"], twice["line"], twice["others"], twice["links"]) == ("x", 8, [12], [])
    (broken,) = [found for found in view["findings"] if found["rule"] == "fragment-misspelt"]
    assert broken["fixable"]
    assert PAGE[broken["start"] :].startswith(b"<a href=#X>")


@pytest.mark.parametrize(
    ("operation", "parameters", "before", "after"),
    [
        ("promote", {"levels": {0: 2}}, b"<p><b>Coal</b></p>", b"<h2>Coal</h2>"),
        ("levels", {"levels": {1: 2}}, b"<h3 id=a>A</h3>", b"<h2 id=a>A</h2>"),
        ("shift", {"sections": [1], "by": -1}, b"<h3 id=a>A</h3>", b"<h2 id=a>A</h2>"),
        ("repair", {"code": "gaps"}, b"<h3 id=a>A</h3>", b"<h2 id=a>A</h2>"),
        ("words", {"section": 1, "words": "New"}, b">A<", b">New<"),
        ("move", {"section": 2, "direction": "up"}, b"<h1 id=t>T</h1>", b"<h1 id=t>T</h1>"),
        ("drop", {"section": 1, "target": 2, "where": "after"}, b"<h1 id=t>T</h1>", b"<h1 id=t>T</h1>"),
        ("wrap", {}, b"<h3 id=a>", b"<section aria-labelledby=a>\n<h3 id=a>"),
        ("separators", {"levels": [3]}, b"<h3 id=a>", b"<hr>\n<h3 id=a>"),
        ("escape-samples", {}, b"<pre><h2>raw</h2></pre>", b"<pre>&lt;h2&gt;raw&lt;/h2&gt;</pre>"),
        ("skeleton", {"titles": "One\n Two", "contents": False}, b"</main>", b"<h2 id=one>One</h2>\n<h3 id=two>Two</h3>\n</main>"),
        ("identify", {"levels": []}, b"<h3>B</h3>", b"<h3 id=b>B</h3>"),
        ("place", {"start": "top", "identifier": "begin"}, b"<main class=c>", b"<main id=begin class=c>"),
        ("place", {"start": "bottom", "identifier": "end"}, b"</main>", b"<div id=end></div>\n</main>"),
        ("anchors", {}, b"<a name=old></a><h4>C", b"<h4 id=old>C"),
        ("apart", {"name": "x"}, b"<p id=x>again", b"<p id=x-2>again"),
        ("rename", {"old": "a", "new": "b", "keep_old": True}, b"<h3 id=a>", b"<h3 id=b><span id=a></span>"),
    ],
)  # fmt: skip
def test_each_operation_is_one_change_that_can_be_undone(client, operation, parameters, before, after):
    site = new_site(client, {"page.html": PAGE})
    made = change(client, site, operation, "page.html", **parameters)
    text = taken_out(client, site)["page.html"]
    assert before in PAGE
    assert after in text
    assert text != PAGE
    assert client.post(f"{site}/changes/{made['number']}/undo").status_code == 204
    assert taken_out(client, site)["page.html"] == PAGE


def test_operations_that_ask_for_a_place(client):
    site = new_site(client, {"page.html": PAGE})
    blocks = client.get(f"{site}/blocks", params={"path": "page.html"}).json()
    start = next(block["start"] for block in blocks if block["text"] == "text")
    change(client, site, "insert-heading", "page.html", before=start, level=4, words="New & old", identifier="new")
    assert b"<h4 id=new>New &amp; old</h4>\n<p id=x>text" in taken_out(client, site)["page.html"]
    change(client, site, "sample", "page.html", before=blocks[0]["start"], code="<b>\n")
    assert b"<pre><code>&lt;b&gt;</code></pre>\n<p><b>Coal" in taken_out(client, site)["page.html"]
    places = client.get(f"{site}/places", params={"path": "page.html", "line": 7, "column": 4}).json()
    assert [(place["tag"], place["proposed"]) for place in places] == [("p", "it-is-black"), ("main", "t-2")]
    change(client, site, "place", "page.html", start=places[0]["start"], identifier="black")
    assert b"<p id=black>It is black" in taken_out(client, site)["page.html"]
    view = page_view(client, site)
    broken = next(found for found in view["findings"] if found["rule"] == "fragment-misspelt")
    change(client, site, "relink", "page.html", start=broken["start"], identifier="black")
    assert b"<a href=#black>y</a>" in taken_out(client, site)["page.html"]


def test_a_new_page_is_a_file_that_undoing_takes_away(client):
    site = new_site(client, {"page.html": PAGE})
    body = {"path": "more/new.html", "title": "New", "titles": "One\nTwo"}
    made = change(client, site, "new-page", "page.html", **body)
    text = taken_out(client, site)["more/new.html"].decode()
    assert "<title>New</title>" in text
    assert "<li><a href=#one>One</a></li>" in text
    assert "Coal" not in text
    client.post(f"{site}/changes/{made['number']}/undo")
    assert set(taken_out(client, site)) == {"page.html"}
    for path in ("page.html", "PAGE.html", "/x.html", "../x.html", "x.txt"):
        answer = client.post(
            f"{site}/plans", json={"operation": "new-page", "page": "page.html", **body, "path": path}
        )
        assert answer.status_code == 422, path


def test_a_refusal_is_remembered_and_can_be_taken_back(client):
    site = new_site(client, {"page.html": PAGE})
    refusal = {"path": "page.html", "key": "Coal"}
    assert client.put(f"{site}/refusals", json=refusal).status_code == 204
    structure = page_view(client, site)["structure"]
    assert (structure["lookalikes"], structure["refused"]) == ([], ["coal"])
    client.put(f"{site}/refusals", json=refusal | {"refused": False})
    structure = page_view(client, site)["structure"]
    assert (len(structure["lookalikes"]), structure["refused"]) == (1, [])


def test_settings_are_kept_and_followed(client):
    site = new_site(client, {"page.html": PAGE})
    settings = client.get(f"{site}/settings").json()
    assert (settings["longest"], settings["joiner"]) == (40, "-")
    kept = client.put(f"{site}/settings", json=settings | {"prefix": "p-", "levels": [3]})
    assert kept.status_code == 200
    assert page_view(client, site)["sections"][2]["proposed"] == "p-b"
    change(client, site, "identify", "page.html")
    text = taken_out(client, site)["page.html"]
    assert b"<h3 id=p-b>B" in text
    assert b"<h4>C" in text
    judged = client.get(f"{site}/judgement", params={"path": "page.html", "name": "a", "words": "Hot steam"}).json()
    assert (judged["verdict"], judged["suggestion"]) == ("refused", "p-hot-steam")
    assert client.put(f"{site}/settings", json=settings | {"joiner": "#"}).status_code == 422


BARE = "<title>t</title><table><tr><td><a href=i.html>Home</a></table><h1>{0}</h1><p>text {0} and more of it</p><p>© <a href=c.html>us</a></p>"


def test_what_other_pages_repeat_is_furniture_and_the_author_can_say_otherwise(client):
    site = new_site(client, {f"{name}.html": BARE.format(name).encode() for name in "abc"})
    assert page_view(client, site, "a.html")["words"] == 7
    regions = client.get(f"{site}/regions", params={"path": "a.html"}).json()["regions"]
    assert [(region["tag"], region["furniture"]) for region in regions] == [("table", True), ("p", True)]
    said = {"path": "a.html", "own": [regions[0]["selector"]]}
    assert client.put(f"{site}/regions", json=said).status_code == 204
    assert page_view(client, site, "a.html")["words"] == 8
    assert page_view(client, site, "b.html")["words"] == 7
    client.put(f"{site}/regions", json={"path": "", "furniture": ["h1"]})
    assert [section["text"] for section in page_view(client, site, "b.html")["sections"]] == []
    client.put(f"{site}/regions", json={"path": "", "content": "no such < selector"})
    assert page_view(client, site, "b.html")["sections"]
    assert client.put(f"{site}/regions", json={"path": "gone.html"}).status_code == 404


def test_the_outline_is_heard_with_the_furniture(client):
    site = new_site(client, {"page.html": b"<nav><h2>Menu</h2></nav><h1>T</h1>"})
    heard = client.get(f"{site}/spoken-headings", params={"path": "page.html"}).json()
    assert [(one["level"], one["text"], one["section"]) for one in heard] == [(2, "Menu", None), (1, "T", 0)]


@pytest.mark.parametrize(
    ("body", "words"),
    [
        ({"operation": "promote", "levels": {7: 2}}, "not there any more"),
        ({"operation": "levels", "levels": {0: 9}}, "levels"),
        ({"operation": "shift", "sections": [0], "by": -1}, "cannot go to 0"),
        ({"operation": "repair", "code": "no-h1"}, "nothing left to repair"),
        ({"operation": "words", "section": 0, "words": " "}, "needs words"),
        ({"operation": "move", "section": 0, "direction": "up"}, "is the first section at its level"),
        ({"operation": "move", "section": 99, "direction": "up"}, "not there any more"),
        ({"operation": "skeleton", "titles": " "}, "no titles"),
        ({"operation": "sample", "before": 0, "code": "x"}, "not there any more"),
        ({"operation": "place", "start": 3, "identifier": "x"}, "not there any more"),
        ({"operation": "place", "start": "top", "identifier": "t"}, "taken"),
        ({"operation": "apart", "name": "t"}, "not used twice"),
        ({"operation": "relink", "start": 3, "identifier": "t"}, "not there any more"),
    ],
)
def test_what_cannot_be_is_said(client, body, words):
    site = new_site(client, {"page.html": PAGE})
    answer = client.post(f"{site}/plans", json={"page": "page.html", **body})
    assert answer.status_code == 422
    assert words in answer.json()["detail"]


def test_the_demo_s_old_page_is_made_new(client):
    site = demo_site(client)
    view = page_view(client, site, "history.html")
    found = view["structure"]["lookalikes"]
    assert [(one["level"], one["sure"]) for one in found] == [
        (1, True),
        *[(2, True)] * 2,
        (3, True),
        *[(2, True)] * 3,
        (3, True),
    ]
    change(client, site, "promote", "history.html", levels={one["index"]: one["level"] for one in found})
    after = page_view(client, site, "history.html")
    assert all(link["resolves"] is not False for link in after["links"] if link["kind"] == "fragment")
    assert len(after["sections"]) == 8
    planned = plan(client, site, "rename", "handbook.html", old="safety", new="safe")
    assert {file["path"] for file in planned["files"]} == {"handbook.html", "safety.html", "style.css"}
    unchanged = taken_out(client, site)
    assert {path for path, data in demo_files().items() if unchanged[path] != data} == {"history.html"}
