"""What the desk shows of a page: how far each stage has come, and the page as it is typed."""

import pytest

from sites import new_site


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
            "yours lists 2 of 4",
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
