"""Pages measured in a window: kept, told old from true, and two pages side by side."""

import re

import pytest

from sites import change, demo_site, new_site

PAGE = (
    b"<!DOCTYPE html><title>T</title><link rel=stylesheet href=s.css><body><main><h1 id=t>T</h1><p><a href=#b>to b</a> "
    b"<a href=other.html#x>x</a> <a href=#gone>gone</a></p><h2 id=b>B</h2><p>b</p></main>"
)
FILES = {
    "page.html": PAGE,
    "other.html": b"<!DOCTYPE html><h1 id=x>X</h1><p><a href='page.html#b'>there</a> <a href='page.html#c'>c</a></p>",
    "s.css": b"p { margin: 0 }\n",
}
WINDOW = {"width": 400, "height": 500}


def start(tag: bytes, page: bytes = PAGE) -> int:
    return page.index(tag)


def box(at: int, top: float, **more) -> dict:
    line = {"left": 0, "top": top, "right": 300, "bottom": top + 20}
    return {
        "start": at,
        "top": top,
        "bottom": top + 30,
        "margin": 0,
        "hold": "",
        "words": line,
        "height": None,
    } | more


def geometry(**more) -> dict:
    boxes = [
        box(start(b"<h1"), 20),
        box(start(b"<a href=#b"), 80, words=None),
        box(start(b"<h2"), 900),
    ]
    found = {"view_height": 500, "height": 1200, "padding": 0, "snaps": False, "content_bottom": 1100, "bars": []}
    return found | {"boxes": boxes} | more


def measure(client, site, path="page.html", **window):
    return client.get(f"{site}/measure", params={"path": path, **WINDOW, **window}).json()


def keep(client, site, digest, facts, path="page.html"):
    body = {"digest": digest, "window": WINDOW, **facts}
    return client.put(f"{site}/measure", params={"path": path}, json=body)


@pytest.fixture
def site(client):
    return new_site(client, FILES)


def verdicts(view):
    return {landing["text"]: landing["verdict"] for landing in (*view["landings"], *view["incoming"])}


def test_what_is_measured_is_kept_with_the_look_it_belongs_to(client, site):
    before = measure(client, site)
    assert (before["state"], before["points"]) == ("estimated", [])
    assert verdicts(before) == {
        "to b": "unmeasured",
        "x": "unmeasured",
        "gone": "nowhere",
        "there": "unmeasured",
        "c": "nowhere",
    }
    assert keep(client, site, before["digest"], geometry()).status_code == 204
    after = measure(client, site)
    assert (after["state"], after["height"], after["windows"]) == ("measured", 1200, 2.4)
    assert [(one["index"], one["top"], one["height"]) for one in after["stretches"]] == [
        (-1, 0, 20), (0, 20, 1080), (1, 900, 200),
    ]  # fmt: skip
    assert verdicts(after) == {
        "to b": "short",
        "x": "unmeasured",
        "gone": "nowhere",
        "there": "short",
        "c": "nowhere",
    }
    landing = after["landings"][0]
    assert (landing["scroll"], landing["short"], landing["top"]) == (700, 200, 80)
    assert {point["name"]: point["top"] for point in after["points"]} == {"t": 20, "b": 900}
    assert measure(client, site, width=500)["state"] == "estimated"


def test_after_an_edit_the_figures_are_old_and_carried_over(client, site):
    keep(client, site, measure(client, site)["digest"], geometry())
    old_digest = measure(client, site)["digest"]
    change(client, site, "type", "page.html", text=PAGE.decode().replace("<h2", "<h2 id=n>New</h2><p>n</p><h2"))
    view = measure(client, site)
    assert view["state"] == "outdated"
    assert [one["top"] for one in view["stretches"][:3]] == [0, 20, 900]
    assert view["stretches"][3]["height"] == pytest.approx(200)
    assert verdicts(view)["to b"] == "short"
    refused = keep(client, site, old_digest, geometry())
    assert refused.status_code == 409
    assert "Measure it again" in refused.json()["detail"]


def test_a_style_sheet_that_changes_makes_figures_old(client, site):
    keep(client, site, measure(client, site)["digest"], geometry())
    change(client, site, "style", "page.html", parts=["room"])
    assert measure(client, site)["state"] == "outdated"
    client.post(f"{site}/changes/1/undo")
    assert measure(client, site)["state"] == "measured"


def test_what_is_tried_out_is_not_kept(client, site):
    digest = measure(client, site)["digest"]
    body = {"digest": digest, "window": WINDOW, **geometry(height=2000)}
    tried = client.post(f"{site}/measure/trial", params={"path": "page.html"}, json=body).json()
    assert verdicts(tried)["to b"] == "lands"
    assert measure(client, site)["state"] == "estimated"


def test_a_landing_is_accepted_as_it_is_and_asked_about_once_more(client, site):
    keep(client, site, measure(client, site)["digest"], geometry())
    for settled in (True, False):
        body = {"path": "page.html", "fragment": "b", "settled": settled}
        assert client.put(f"{site}/settled", json=body).status_code == 204
        first = measure(client, site)["landings"][0]
        assert (first["settled"], first["trouble"], first["verdict"]) == (settled, not settled, "short")
    assert client.put(f"{site}/settled", json={"path": "nix.html", "fragment": "b"}).status_code == 404


def test_windows_and_limits_are_the_site_s_own(client, site):
    said = client.get(f"{site}/windows").json()
    assert [named["name"] for named in said["windows"]] == ["Small", "Phone", "Tablet", "Laptop"]
    body = {
        "windows": [{"name": "Mine", "window": WINDOW | {"text_size": 100}}],
        "limits": {"most_windows": 0.3, "least_words": 5},
    }
    assert client.put(f"{site}/windows", json=body).status_code == 200
    keep(client, site, measure(client, site)["digest"], geometry())
    (found,) = client.get(f"{site}/measures", params={"path": "page.html"}).json()
    assert (found["name"], found["state"], found["short"], found["covered"]) == ("Mine", "measured", 2, 0)
    assert [one["beyond"] for one in measure(client, site)["stretches"]] == ["", "long", "long"]
    assert client.put(f"{site}/windows", json={"windows": []}).status_code == 422
    fixes = client.get(f"{site}/landing-fixes", params={"path": "page.html"}).json()
    assert fixes["fixes"] == {"room": None, "below": 40.0}
    assert (fixes["sheet"], fixes["reaches"]) == ("s.css", True)
    assert client.get(f"{site}/landing-fixes", params={"path": "other.html"}).json()["reaches"] is False


def test_ways_back_ask_for_measured_windows(client, site):
    body = {"levels": [2], "least_windows": 0.5, "window": WINDOW | {"text_size": 100}}
    keep(client, site, measure(client, site)["digest"], geometry())
    plan = {"operation": "back-to-top", "page": "page.html", **body}
    assert client.post(f"{site}/plans", json=plan).json()["edits"] == 0
    assert client.post(f"{site}/plans", json=plan | {"least_windows": 0.4}).json()["edits"] == 1


def test_all_jump_links_of_a_site_are_walked(client, site):
    walk = client.get(f"{site}/walk", params=WINDOW).json()
    assert [(one["path"], one["state"]) for one in walk["pages"]] == [
        ("other.html", "estimated"),
        ("page.html", "estimated"),
    ]
    assert [one["text"] for one in walk["landings"]] == ["there", "c", "to b", "x", "gone"]


@pytest.mark.parametrize(
    "bad",
    [{"height": "tall"}, {"height": 1e12}, {"boxes": [{"start": -1}]}, {"digest": "x"}, {"bars": [{}]}, {"extra": 1}],
    ids=str,
)
def test_geometry_that_cannot_be_is_refused(client, site, bad):
    body = {"digest": "0" * 64, "window": WINDOW, **geometry()} | bad
    assert client.put(f"{site}/measure", params={"path": "page.html"}, json=body).status_code == 422


def test_the_preview_takes_a_reader_s_text_size_and_an_old_revision(client, site):
    preview = site.replace("/api/sites", "/preview") + "/page.html"
    text = client.get(preview, params={"text_size": 150, "bare": True}).text
    assert ":where(:root) { font-size: 150% }" in text
    assert "::-webkit-scrollbar" in text
    assert "font-size" not in client.get(preview).text
    revision = client.get(f"{site}/revisions", params={"path": "page.html"}).json()[-1]["revision"]
    change(client, site, "type", "page.html", text=PAGE.decode().replace("<p>b", "<p>changed"))
    assert re.search(r"<p [^>]*data-\w+-place=", client.get(preview).text)
    assert "changed" in client.get(preview).text
    assert "changed" not in client.get(preview, params={"revision": revision}).text
    assert client.get(preview, params={"revision": "0" * 64}).status_code == 404
    marked = client.get(preview).text
    assert re.search(r'<main data-(\w+)-content data-\1-until="\d+" data-\1-place="', marked)
    assert '-measure="link"' in marked


def test_revisions_and_pages_side_by_side(client):
    site = demo_site(client)
    change(client, site, "contents", "handbook.html")
    listed = client.get(f"{site}/revisions", params={"path": "handbook.html"}).json()
    assert [(one["title"], one["current"]) for one in listed] == [("Contents", True), ("As it was brought in", False)]
    query = {"left": "handbook.html", "left_revision": listed[1]["revision"], "right": "handbook.html"}
    found = client.get(f"{site}/comparison", params=query).json()
    assert found["links"]["right"] > 5
    assert found["lines"]["right"] > 5
    assert found["diff"].startswith("--- a/handbook.html")
    assert found["sections"] == {"left": 0, "right": 0}
    other = client.get(f"{site}/comparison", params={"left": "history.html", "right": "safety.html"}).json()
    assert (other["left"]["encoding"], other["right"]["encoding"]) == ("windows-1252", "utf-8")
    assert other["sections"]["right"] == 5
    missing = client.get(f"{site}/comparison", params=query | {"left_revision": "0" * 64})
    assert missing.status_code == 404
    assert "Choose another" in missing.json()["detail"]
    assert client.get(f"{site}/revisions", params={"path": "nix.html"}).status_code == 404
