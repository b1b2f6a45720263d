"""Files of a site: brought in beside others, replaced, removed, read in another encoding."""

import unicodedata

import pytest

from sites import change, new_site, packed, pages_of, plan, taken_out

PAGE = b"<!DOCTYPE html><title>T</title><h1>T</h1><h2 id=a>A</h2><p>text</p>"
COMPOSED = unicodedata.normalize("NFC", "gen\u00e8ve.html")
APART = unicodedata.normalize("NFD", COMPOSED)


def bring(client, site, *files, **form):
    return client.post(f"{site}/files", files=[("files", file) for file in files], data=form).json()


@pytest.mark.parametrize(
    ("there", "new", "reason", "asks"),
    [
        ("a.html", "A.html", "capitals or accents", True),
        (COMPOSED, APART, "capitals or accents", True),
        ("b/a.html", "B/a.html", "capitals or accents", True),
        ("stra\u00dfe.html", "STRASSE.html", "capitals or accents", True),
        ("a", "a/b.html", "would be a folder", False),
        ("a/b.html", "a", "would be a folder", False),
        ("A/b.html", "a", "would be a folder", False),
        ("a", "A/b/c.html", "would be a folder", False),
    ],
)
def test_names_that_get_in_each_other_s_way_are_asked_about(client, there, new, reason, asks):
    site = new_site(client, {there: PAGE})
    answer = bring(client, site, (new, b"new"))
    assert not answer["taken"]
    assert reason in answer["skipped"][0]["reason"]
    assert answer["skipped"][0]["asks"] is asks
    answer = bring(client, site, (new, b"new"), anyway=[new])
    assert answer["taken"] == ([new] if asks else [])
    assert taken_out(client, site) == {there: PAGE} | ({new: b"new"} if asks else {})


def test_look_alikes_within_an_archive_are_asked_about(client):
    site = new_site(client, {"x.html": PAGE})
    data = packed({"Photo.html": b"1", "photo.html": b"2"})
    answer = client.post(f"{site}/archive", files={"archive": ("a.zip", data)}).json()
    assert answer["taken"] == ["Photo.html"]
    assert answer["skipped"][0]["asks"]
    client.post(f"{site}/archive", files={"archive": ("a.zip", data)}, data={"anyway": ["photo.html"]})
    assert taken_out(client, site) == {"x.html": PAGE, "Photo.html": b"1", "photo.html": b"2"}


@pytest.mark.parametrize("path", ["A.html", "a.html", APART, "folder"])
def test_new_pages_and_parts_keep_to_the_same_rule(client, path):
    site = new_site(client, {"a.html": PAGE, COMPOSED: PAGE, "folder/x.html": PAGE})
    body = {"operation": "new-page", "page": "a.html", "path": path, "title": "T", "titles": "One"}
    answer = client.post(f"{site}/plans", json=body)
    assert answer.status_code == 422


def test_a_link_reaches_a_file_whose_name_is_composed_in_another_way(client):
    site = new_site(client, {APART: PAGE, "p.html": f"<h1>P</h1><a href='{COMPOSED}#a'>there</a>".encode()})
    link = client.get(f"{site}/page", params={"path": "p.html"}).json()["links"][0]
    assert link["resolves"]
    assert link["to_page"] == APART


def test_a_file_is_replaced_and_removed_as_a_change_that_can_be_undone(client):
    files = {"a.html": PAGE, "b.gif": b"GIF89a\0\1", "broken.html": b"\0\1\2"}
    site = new_site(client, files)
    answer = bring(client, site, ("b.gif", b"new"), ("c.html", PAGE), replace="true")
    assert answer["replaced"] == ["b.gif"]
    assert sorted(answer["taken"]) == ["b.gif", "c.html"]
    for path in ("broken.html", "b.gif"):
        assert client.delete(f"{site}/file", params={"path": path}).status_code == 200
    assert taken_out(client, site) == {"a.html": PAGE, "c.html": PAGE}
    assert client.delete(f"{site}/file", params={"path": "b.gif"}).status_code == 404
    changes = client.get(f"{site}/changes").json()["entries"]
    assert [change["title"] for change in changes] == ["b.gif removed", "broken.html removed", "b.gif replaced"]
    for entry in changes:
        assert client.post(f"{site}/changes/{entry['number']}/undo").status_code == 204
    assert taken_out(client, site) == files | {"c.html": PAGE}


def test_a_removed_file_can_be_brought_in_again(client):
    site = new_site(client, {"a.html": PAGE, "b.html": PAGE})
    client.delete(f"{site}/file", params={"path": "b.html"})
    assert bring(client, site, ("b.html", b"<h1>again</h1>"))["taken"] == ["b.html"]
    assert taken_out(client, site)["b.html"] == b"<h1>again</h1>"


def test_a_page_is_read_in_the_encoding_that_its_author_names(client):
    text = "<meta charset=utf-8><h1>\u017b\u00f3\u0142w</h1><p>b</p><h2>\u0141\u0105ka</h2><p>c</p>"
    data = text.encode("iso-8859-2")
    site = new_site(client, {"p.html": data, "q.html": PAGE})
    before = client.get(f"{site}/page", params={"path": "p.html"}).json()
    assert before["locked"]
    answer = client.put(f"{site}/encoding", json={"path": "p.html", "encoding": "latin2"})
    assert answer.status_code == 204
    page = client.get(f"{site}/page", params={"path": "p.html"}).json()
    assert page["encoding"] == "iso-8859-2"
    assert page["locked"] is None
    assert page["sections"][1]["text"] == "\u0141\u0105ka"
    body = {"operation": "identify", "page": "p.html"}
    tag = client.post(f"{site}/plans", json=body).json()["tag"]
    assert client.post(f"{site}/changes", json=body, headers={"if-match": tag}).status_code == 201
    changed = taken_out(client, site)["p.html"].decode("iso-8859-2")
    assert changed == text.replace("<h2>", "<h2 id=laka>")
    client.put(f"{site}/encoding", json={"path": "p.html", "encoding": None})
    assert client.get(f"{site}/page", params={"path": "p.html"}).json()["encoding"] == "utf-8"


@pytest.mark.parametrize(
    ("encoding", "status"), [("klingon", 422), ("replacement", 422), ("x\0", 422), ("koi8-r", 204)]
)
def test_encodings_that_no_browser_reads_are_refused(client, encoding, status):
    site = new_site(client, {"p.html": PAGE})
    assert client.put(f"{site}/encoding", json={"path": "p.html", "encoding": encoding}).status_code == status
    assert client.put(f"{site}/encoding", json={"path": "none.html", "encoding": "utf-8"}).status_code == 404


def test_a_page_beyond_the_bounds_says_which_and_harms_no_other(client, monkeypatch):
    from signpost.desk import bounds

    monkeypatch.setattr(bounds, "MOST_TAGS", 50_000)
    beyond = {
        "long.html": (b"<p>" * 60_000, "60,000 tags; pages of up to 50,000"),
        "lines.html": (b"\n" * 600_000, "600,000 lines"),
        "deep.html": (b"<div>" * 30_000, "30,000 elements within one another"),
        "tables.html": (b"<table><tr><td>" * 3_000, "3,000 elements within one another"),
        "sections.html": (b"<h2>x</h2>" * 11_000, "11,000 sections"),
        "links.html": (b"<a href=#x>" * 31_000, "31,000 links"),
    }
    site = new_site(client, {path: data for path, (data, _) in beyond.items()} | {"ok.html": PAGE})
    pages = {path: page["unreadable"] for path, page in pages_of(client, site).items()}
    for path, (_, words) in beyond.items():
        assert words in pages[path]
    assert pages["ok.html"] is None
    assert client.get(f"{site}/page", params={"path": "ok.html"}).status_code == 200
    assert client.get(f"{site.replace('/api/sites', '/preview')}/long.html").status_code == 200


def test_a_page_that_moves_takes_along_what_was_settled_of_it(client):
    site = new_site(
        client, {"a.html": b"<title>A</title><h1>A</h1>", "b.html": b"<title>B</title><a href=a.html>a</a>"}
    )
    named = client.put(f"{site}/encoding", json={"path": "a.html", "encoding": "windows-1252"})
    assert named.status_code < 300
    made = change(client, site, "move-files", "b.html", moves={"a.html": "sub/c.html"}, forward=False)
    assert made["moves"] == {"a.html": "sub/c.html"}
    files = taken_out(client, site)
    assert files == {
        "sub/c.html": b"<title>A</title><h1>A</h1>",
        "b.html": b"<title>B</title><a href=sub/c.html>a</a>",
    }
    assert pages_of(client, site)["sub/c.html"]["encoding"] == "windows-1252"
    assert client.get(f"{site}/successor", params={"path": "a.html"}).json() == {"path": "sub/c.html"}
    client.post(f"{site}/changes/{made['number']}/undo")
    assert set(taken_out(client, site)) == {"a.html", "b.html"}
    assert pages_of(client, site)["a.html"]["encoding"] == "windows-1252"


def test_a_plan_to_move_shows_what_differs_alone(client):
    site = new_site(client, {"a.html": b"<title>A</title>\n<img src=p.png>\n", "p.png": b"\x89PNG\0\xff"})
    found = plan(client, site, "move-files", "a.html", moves={"a.html": "sub/a.html", "p.png": "sub/q.png"})
    by_path = {file["path"]: file for file in found["files"]}
    assert by_path["sub/a.html"]["moved_from"] == "a.html"
    assert "+<img src=q.png>" in by_path["sub/a.html"]["diff"]
    assert "<title>" not in by_path["sub/a.html"]["diff"].replace(" <title>", "")
    assert by_path["sub/q.png"]["diff"].splitlines()[1:] == ["rename from p.png", "rename to sub/q.png"]
    assert found["edits"] == 3
