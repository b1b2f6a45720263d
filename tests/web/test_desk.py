"""What the desk shows of a page: how far each stage has come, and the page as it is typed."""

import json
import os
from types import SimpleNamespace

import pytest

from signpost.desk.stages import view_findings_stage
from sites import demo_site, new_site, pages_of

LONG = bool(os.environ.get("SIGNPOST_LONG"))


def stages(client, markup, **files):
    site = new_site(client, {"page.html": markup.encode(), **files})
    found = client.get(f"{site}/page", params={"path": "page.html"}).json()["stages"]
    return {one["stage"]: (one["progress"], one["words"]) for one in found}


SECTIONS = "<h1 id=t>T</h1>" + "".join(f"<h2 id=s{n}>Section {n}</h2><p>text</p>" for n in range(3))


@pytest.mark.parametrize(
    ("markup", "stage", "progress", "words"),
    [
        ("<p>nothing</p>", "headings", "todo", "none"),
        ("<h1>T</h1><p><b>Coal</b></p><p>It is black.</p>", "headings", "todo", "1 look-alike"),
        ("<h1>T</h1><h3>A</h3>", "headings", "wrong", "levels skipped"),
        ("<h2>A</h2>", "headings", "wrong", "no h1"),
        (SECTIONS, "headings", "done", "4 headings"),
        ("<h1>T</h1><h2>A</h2><h2 id=b>B</h2>", "identifiers", "todo", "1 missing"),
        ("<h1>T</h1><h2 id=a>A</h2><p id=a>a</p>", "identifiers", "wrong", "1 used twice"),
        ("<h1>T</h1><h2>A</h2><h2 id=b>B</h2><p id=b>", "identifiers", "todo", "1 missing, 1 twice"),
        (SECTIONS, "identifiers", "done", "all 3"),
        (SECTIONS, "contents", "todo", "none yet"),
        ("<h1>T</h1><h2 id=a>A</h2>", "contents", "optional", "none yet"),
        (
            "<h1>T</h1><ul><li><a href=#s0>Section 0</a><li><a href=#s1>Section 1</a></ul>" + SECTIONS[15:],
            "contents",
            "todo",
            "yours lists 2 of 3",
        ),
        (
            "<h1>T</h1><ul><li><a href=#s0>Section 0</a><li><a href=#s1>Section 1</a><li><a href=#s2>Section 2</a>"
            "</ul>" + SECTIONS[15:],
            "contents",
            "done",
            "yours, 3 sections",
        ),
        (SECTIONS + "<p><a href=#gone>x</a>", "jumps", "wrong", "1 broken"),
        (SECTIONS + "<p><a href=#>Section 2</a></p>", "jumps", "optional", "1 suggestion"),
        (SECTIONS, "jumps", "done", "none broken"),
        (SECTIONS, "back-to-top", "todo", "none yet"),
        (SECTIONS + "<p><a href=#top>Back to top</a></p>", "back-to-top", "todo", "1 of 3"),
        ("<h1>T</h1><p>short</p>", "back-to-top", "optional", "no sections"),
    ],
)
def test_each_stage_tells_what_is_left(client, markup, stage, progress, words):
    assert stages(client, markup)[stage] == (progress, words)


STEPS = [
    (
        "<h1>T</h1><p><b>Coal is black and it burns</b></p><p>x</p>",
        "headings",
        {"start": 10, "line": 1, "form": "", "edits": None},
    ),
    (
        "<h1>T</h1><h2 id=a>A</h2><p>x</p><p><b>Coal</b></p><p>It is black and it burns.</p><h2 id=b>B</h2><p>y</p>"
        "<p><b>Lamps</b></p><p>They are of brass.</p>",
        "headings",
        {"edits": {"operation": "promote", "levels": {"0": 3, "1": 3}}, "start": 33},
    ),
    ("<h1>T</h1><h3>A</h3>", "headings", {"form": "repair", "code": "gaps", "edits": None}),
    ("<h1>T</h1><h2>A</h2><h4>B</h4>", "identifiers", {"edits": {"operation": "identify", "levels": [2, 4]}}),
    ("<h1>T</h1><h2 id=a>A</h2><p id=a>a</p>", "identifiers", {"form": "twice", "edits": None}),
    (SECTIONS, "contents", {"edits": {"operation": "contents", "block": "new", "spot": "lead"}}),
    (
        "<h1>T</h1>\n<ul><li><a href=#s0>Section 0</a><li><a href=#s1>Section 1</a></ul>" + SECTIONS[15:],
        "contents",
        {"form": "adopt", "start": 11, "line": 2, "edits": None},
    ),
    (SECTIONS + "\n<p><a href=#gone>x</a>", "jumps", {"start": len(SECTIONS) + 4, "line": 2, "edits": None}),
    (SECTIONS, "jumps", {"start": None, "form": "", "edits": None}),
    (
        SECTIONS,
        "back-to-top",
        {"edits": {"operation": "back-to-top", "levels": [2], "to": "top", "everywhere": False}},
    ),
    (SECTIONS + "<p><a href=#top>Back to top</a></p>", "back-to-top", {"edits": {"operation": "back-to-top"}}),
]


@pytest.mark.parametrize(("markup", "stage", "step"), STEPS)
def test_each_stage_says_what_comes_next(client, markup, stage, step):
    site = new_site(client, {"page.html": markup.encode()})
    view = client.get(f"{site}/page", params={"path": "page.html"}).json()
    (found,) = [one["steps"][0] for one in view["stages"] if one["stage"] == stage]
    edits = step.pop("edits", None)
    assert {name: found[name] for name in step} == step
    if edits is None:
        assert found["edits"] is None
        return
    assert {name: found["edits"][name] for name in edits} == edits
    assert found["edits"]["page"] == "page.html"
    planned = client.post(f"{site}/plans", json=found["edits"])
    assert planned.status_code == 200, planned.text
    assert planned.json()["edits"] > 0


def test_of_several_contents_the_one_that_is_out_of_date_is_brought_up_to_date(client):
    site = new_site(client, {"page.html": SECTIONS.replace("<p>text</p>", "<h3>A</h3><h3>B</h3><h3>C</h3>").encode()})
    for said in ({"block": "new"}, {"block": "new", "home": 1, "levels": [3]}):
        body = {"operation": "contents", "page": "page.html", **said}
        tag = client.post(f"{site}/plans", json=body).json()["tag"]
        assert client.post(f"{site}/changes", json=body, headers={"if-match": tag}).status_code == 201
    source = client.get(f"{site}/source", params={"path": "page.html"}).json()["text"]
    body = {"operation": "type", "page": "page.html", "text": source.replace("</h3>", "</h3><h3>More</h3>", 1)}
    before = client.get(f"{site}/page", params={"path": "page.html"}).json()
    assert [one["progress"] for one in before["stages"] if one["stage"] == "contents"] == ["done"]
    tag = client.post(f"{site}/plans", json=body).json()["tag"]
    assert client.post(f"{site}/changes", json=body, headers={"if-match": tag}).status_code == 201
    for _ in range(2):  # each list that lacks the new section
        view = client.get(f"{site}/page", params={"path": "page.html"}).json()
        (stage,) = [one for one in view["stages"] if one["stage"] == "contents"]
        assert stage["progress"] == "wrong"
        wrong = [block["index"] for block in view["navigation"]["contents"] if block["missing"]]
        assert stage["steps"][0]["edits"]["block"] == wrong[0]
        body = stage["steps"][0]["edits"]
        tag = client.post(f"{site}/plans", json=body).json()["tag"]
        assert client.post(f"{site}/changes", json=body, headers={"if-match": tag}).status_code == 201
    view = client.get(f"{site}/page", params={"path": "page.html"}).json()
    assert [one["progress"] for one in view["stages"] if one["stage"] == "contents"] == ["done"]


@pytest.mark.parametrize(
    ("markup", "progress", "words"),
    [
        ("<h1 id=t>T</h1><p><a href=#gone>x</a></p>", "wrong", None),
        (
            "<!DOCTYPE html><html lang=en><meta charset=utf-8><meta name=viewport content='width=device-width'>"
            "<title>T</title><h1>T</h1><p>words</p>",
            "done",
            "none",
        ),
    ],
)
def test_the_stage_of_the_findings_is_as_grave_as_the_worst(client, markup, progress, words):
    site = new_site(client, {"index.html": markup.encode()})
    view = client.get(f"{site}/page", params={"path": "index.html"}).json()
    (stage,) = [one for one in view["stages"] if one["stage"] == "findings"]
    assert (stage["progress"], len(view["findings"]) > 0) == (progress, progress != "done")
    assert stage["words"] == (words or f"{len(view['findings'])} findings")


@pytest.mark.parametrize(
    ("severities", "progress", "words"),
    [
        (["advice"], "optional", "1 finding"),
        (["advice", "warning", "advice"], "todo", "3 findings"),
        (["warning", "error"], "wrong", "2 findings"),
        ([], "done", "none"),
    ],
)
def test_findings_make_a_stage_as_wrong_as_they_are_grave(severities, progress, words):
    found = [
        SimpleNamespace(severity=one, rule=one, fix="none", fixable=False, start=at, line=1)
        for at, one in enumerate(severities)
    ]
    stage = view_findings_stage("page.html", found)
    assert (stage.progress, stage.words) == (progress, words)


@pytest.mark.parametrize(
    ("markup", "hand"),
    [
        ("<ul>\n\t<li>a\n\t<li>b\n</ul>\n<ol>\n\t<li>c\n</ol>", {"indent": "\t", "capitals": False}),
        ("<UL>\n<LI>a\n<LI>b\n</UL>\n<P>x</P>", {"indent": "", "capitals": True}),
    ],
)
def test_the_desk_knows_how_the_author_writes(client, markup, hand):
    site = new_site(client, {"page.html": markup.encode()})
    assert client.get(f"{site}/page", params={"path": "page.html"}).json()["hand"] == hand


def test_a_draft_is_rendered_and_nothing_is_kept(client):
    site = new_site(client, {"page.html": "<h2>One</h2>\r\n<p>caf\xe9</p>".encode("cp1252")})
    before = client.get(f"{site}/source", params={"path": "page.html"}).json()
    address = f"/preview/{site.rpartition('/')[2]}/page.html"
    answer = client.post(address, data={"text": "<h2>One</h2>\r\n<p>typed é</p>"})
    assert answer.status_code == 200
    assert "typed é" in answer.text
    assert "sandbox allow-scripts" in answer.headers["content-security-policy"]
    assert answer.headers["cache-control"] == "no-store"
    assert client.get(f"{site}/source", params={"path": "page.html"}).json() == before
    assert client.post(address.replace("page.html", "gone.html"), data={"text": "x"}).status_code == 404
    assert client.post(address).status_code == 422


def test_a_draft_from_another_site_is_refused(client):
    site = new_site(client, {"page.html": b"<h2>One</h2>"})
    address = f"/preview/{site.rpartition('/')[2]}/page.html"
    for origin in ("https://elsewhere.example", "null"):
        assert client.post(address, data={"text": "x"}, headers={"origin": origin}).status_code == 403


def steps_left(view):
    """What is left to be done or decided on a page, as the desk goes through it."""
    left = [
        (one["stage"], step)
        for one in view["stages"]
        if one["progress"] in ("todo", "wrong")
        for step in one["steps"]
    ]
    return [(stage, json.dumps(step, sort_keys=True), step) for stage, step in left]


def walk_to_the_end(client, site, path, most=60):
    """Go through a page by its next steps alone; return what was left for its author, and the page at the end."""
    passed = []
    for _ in range(most):
        view = client.get(f"{site}/page", params={"path": path}).json()
        step = next((one for one in steps_left(view) if one[1] not in passed), None)
        if step is None:
            return passed, view
        _, key, shown = step
        if shown["edits"] is None:
            passed.append(key)
            continue
        answer = client.post(f"{site}/plans", json=shown["edits"])
        assert answer.status_code == 200, (key, answer.text)
        assert answer.json()["edits"] > 0, key
        done = client.post(f"{site}/changes", json=shown["edits"], headers={"if-match": answer.json()["tag"]})
        assert done.status_code == 201, (key, done.text)
        after = client.get(f"{site}/page", params={"path": path}).json()
        assert key not in [one[1] for one in steps_left(after)], key  # it is done
    raise AssertionError(f"{path} has no end: {steps_left(view)}")


WALKED = ("stations.html", "glossary.html", "timetable.html") if not LONG else ()


def test_what_comes_next_leads_through_every_page_to_its_end(client):
    """Edits that are shown do something, and are not shown again; the rest can be left for later."""
    site = demo_site(client)
    for path in WALKED or pages_of(client, site):
        passed, view = walk_to_the_end(client, site, path)
        assert all('"edits": null' in key for key in passed), path
        assert {one["progress"] for one in view["stages"] if one["stage"] == "identifiers"} <= {"done", "optional"}
        assert "identifier" in view["account"]


def test_what_is_left_comes_one_by_one(client):
    markup = (
        "<h1 id=t>T</h1><h2 id=a>A</h2><p><a href=#gone>x</a> <a href=#nots>y</a> <a href=#lost>z</a></p>"
        "<h2 id=notes>Notes</h2><p>1 < 2</p>"
    )
    site = new_site(client, {"page.html": markup.encode()})
    view = client.get(f"{site}/page", params={"path": "page.html"}).json()
    jumps = next(one for one in view["stages"] if one["stage"] == "jumps")
    assert jumps["words"] == "3 broken"
    assert [step["start"] for step in jumps["steps"]] == [
        markup.index(f"<a href=#{name}") for name in ("gone", "nots", "lost")
    ]
    assert [step["edits"] and step["edits"]["rule"] for step in jumps["steps"]] == [None, "fragment-missing", None]
    found = next(one for one in view["stages"] if one["stage"] == "findings")
    assert found["steps"][0]["edits"]["operation"] == "fix"
    errors = [one["start"] for one in view["findings"] if one["severity"] == "error" and one["fix"] != "auto"]
    assert errors == [markup.index("<a href=#gone"), markup.index("<a href=#lost")]
    assert found["steps"][1]["start"] == errors[0]  # the first of its rule
    assert errors[1] not in [step["start"] for step in found["steps"]]
    assert view["account"] == "3 identifiers, 0 entries, 0 ways back, 3 jumps dead"


@pytest.mark.parametrize(
    ("markup", "account"),
    [
        ("<p>x</p>", "0 identifiers, 0 entries, 0 ways back, no jumps"),
        (
            SECTIONS + "<p><a href=#s1>s</a> <a href=#top>Back to top</a></p>",
            "4 identifiers, 0 entries, 1 way back, every jump leads somewhere",
        ),
    ],
)
def test_the_account_says_what_a_page_is(client, markup, account):
    site = new_site(client, {"page.html": markup.encode()})
    assert client.get(f"{site}/page", params={"path": "page.html"}).json()["account"] == account


def test_look_alikes_that_are_not_sure_come_before_what_is_to_be_repaired(client):
    markup = "<h1>T</h1><h1>U</h1><p><b>Coal is black and it burns</b></p><p>x</p><p><b>Steam is hot and it is white</b></p><p>y</p>"
    site = new_site(client, {"page.html": markup.encode()})
    view = client.get(f"{site}/page", params={"path": "page.html"}).json()
    steps = next(one["steps"] for one in view["stages"] if one["stage"] == "headings")
    unsure = [one["start"] for one in view["structure"]["lookalikes"] if not one["sure"]]
    assert [step["start"] for step in steps if not step["form"] and not step["edits"]] == unsure[:1]
    assert [step["code"] for step in steps if step["form"]] == [one["code"] for one in view["structure"]["repairs"]]
    assert "several-h1" in [step["code"] for step in steps]


def test_sections_that_need_no_way_back_are_not_asked_about(client):
    """The section that heads the page's contents gets none, and so the stage is done without it."""
    listed = "<ul><li><a href=#s1>Section 1</a><li><a href=#s2>Section 2</a></ul>"
    markup = (
        SECTIONS[15:]
        .replace("Section 0", "Contents")
        .replace("<p>text</p>", listed, 1)
        .replace("<p>text</p>", "<p>t</p><p><a href=#top>Back to top</a></p>")
    )
    assert stages(client, markup)["back-to-top"] == ("done", "2 of 2")
