"""Operations planned, applied, undone and redone behind the API; files brought in and exported."""

import json
import subprocess
from http import HTTPStatus
from itertools import pairwise
from uuid import UUID, uuid4

import pytest
from sqlalchemy import text

from signpost.desk import changes, opening, reading
from signpost.desk.demo import demo_files
from signpost.store import repositories as store
from signpost.web.errors import RefusedError
from sites import change, demo_site, findings_of, new_site, pages_of, plan, taken_out

WINDOW = {"width": 440, "height": 560, "text_size": 100}
PAGE = b"<!DOCTYPE html>\r\n<title>T</title>\r\n<h2>One</h2>\r\n<p>caf\xe9\r\n<h2>Two</h2>\r\n"


def test_files_come_out_as_they_came_in(client):
    site = demo_site(client)
    assert taken_out(client, site) == demo_files()
    assert taken_out(client, site, "changed.zip") == {}
    assert client.get(f"{site}/takeout/changes.diff").content == b""


def test_a_plan_writes_nothing(client):
    site = new_site(client, {"page.html": PAGE})
    planned = plan(client, site, "identify", "page.html")
    assert planned["edits"] == 2
    assert '+<h2 id="one">One</h2>' in planned["files"][0]["diff"].replace("id=one", 'id="one"')
    assert taken_out(client, site) == {"page.html": PAGE}


def test_a_change_is_undone_and_redone_to_the_byte_in_all_files(client):
    site = demo_site(client)
    change(client, site, "identify", "handbook.html")
    before = taken_out(client, site)
    asked = {"page": "handbook.html", "window": WINDOW, "by": "parts", "value": 4}
    best = client.post(f"{site}/parts/proposals", json=asked).json()[0]
    made = change(client, site, "parts", "handbook.html", cuts=[{"at": at} for at in best["cuts"]])
    after = taken_out(client, site)
    assert {"handbook-2.html", "handbook-3.html", "handbook-4.html"} <= set(after) - set(before)
    assert len(made["paths"]) > 5
    assert client.post(f"{site}/changes/{made['number']}/undo").status_code == 204
    assert taken_out(client, site) == before
    assert client.post(f"{site}/changes/{made['number']}/redo").status_code == 204
    assert taken_out(client, site) == after


def test_changes_are_undone_in_order_only(client):
    site = new_site(client, {"page.html": PAGE})
    first = change(client, site, "identify", "page.html")
    second = change(client, site, "contents", "page.html")
    answer = client.post(f"{site}/changes/{first['number']}/undo")
    assert answer.status_code == 409
    assert answer.headers["content-type"] == "application/problem+json"
    assert "page.html changed since" in answer.json()["detail"]
    assert client.post(f"{site}/changes/{second['number']}/undo").status_code == 204
    assert client.post(f"{site}/changes/{second['number']}/undo").status_code == 409
    assert client.post(f"{site}/changes/{first['number']}/undo").status_code == 204
    assert taken_out(client, site) == {"page.html": PAGE}
    assert [entry["undone"] for entry in client.get(f"{site}/changes").json()["entries"]] == [True, True]


def test_a_stale_plan_is_refused_and_nothing_is_written(client):
    site = new_site(client, {"page.html": PAGE})
    tag = plan(client, site, "identify", "page.html")["tag"]
    change(client, site, "back-to-top", "page.html")
    before = taken_out(client, site)
    body = {"operation": "identify", "page": "page.html"}
    answer = client.post(f"{site}/changes", json=body, headers={"if-match": f'"{tag}"'})
    assert answer.status_code == 409
    assert taken_out(client, site) == before
    assert client.post(f"{site}/changes", json=body).status_code == 409


def test_a_plan_elsewhere_in_the_site_does_not_go_stale(client):
    site = new_site(client, {"page.html": PAGE, "other.html": PAGE})
    tag = plan(client, site, "identify", "page.html")["tag"]
    change(client, site, "identify", "other.html")
    body = {"operation": "identify", "page": "page.html"}
    assert client.post(f"{site}/changes", json=body, headers={"if-match": tag}).status_code == 201


def test_patch_applies_what_is_taken_out_to_the_folder_that_was_brought_in(client, tmp_path):
    site = demo_site(client)
    change(client, site, "identify", "handbook.html")
    change(client, site, "contents", "handbook.html")
    change(
        client, site, "type", "history.html", text=typed(client, site, "history.html", "BEGINNINGS", "Beginnings …")
    )
    change(client, site, "parts", "handbook.html", sections=[30, 60])
    for path, data in demo_files().items():
        (tmp_path / path).parent.mkdir(exist_ok=True)
        (tmp_path / path).write_bytes(data)
    diff = client.get(f"{site}/takeout/changes.diff").content
    subprocess.run(["patch", "-p1", "--binary"], input=diff, cwd=tmp_path, check=True, capture_output=True)
    files = {
        path.relative_to(tmp_path).as_posix(): path.read_bytes() for path in tmp_path.rglob("*") if path.is_file()
    }
    assert files == taken_out(client, site)
    changed = taken_out(client, site, "changed.zip")
    assert "handbook.html" in changed
    assert "images/gauge.png" not in changed


def typed(client, site, path, old, new):
    text = client.get(f"{site}/source", params={"path": path}).json()["text"]
    assert old in text
    return text.replace(old, new)


def test_typing_changes_the_typed_bytes_alone(client):
    site = demo_site(client)
    before = demo_files()["history.html"]
    change(
        client, site, "type", "history.html", text=typed(client, site, "history.html", "BEGINNINGS", "Beginnings – €")
    )
    assert taken_out(client, site)["history.html"] == before.replace(b"BEGINNINGS", b"Beginnings \x96 \x80")


def test_what_was_typed_is_kept_once_in_the_file_that_came_of_it(client, database):
    site = new_site(client, {"page.html": b"<h1>A</h1>"})
    for body in (
        {"operation": "type", "page": "page.html", "text": "<h1>Typed</h1>"},
        {"operation": "words", "page": "page.html", "section": 0, "words": "Again"},
    ):
        tag = client.post(f"{site}/plans", json=body).json()["tag"]
        assert client.post(f"{site}/changes", json=body, headers={"if-match": tag}).status_code == 201
    with database.transaction() as session:
        found = store.load_changes(session, UUID(site.rpartition("/")[2]))
    kept = {change.operation: change.parameters for change in found}
    assert kept == {"type": {}, "words": {"section": 0, "words": "Again"}}


def test_a_draft_shows_its_outline_and_keeps_nothing(client):
    site = demo_site(client)
    text = typed(client, site, "history.html", "<P><B>BEGINNINGS</B>", "<H2>Beginnings</H2>")
    view = client.post(f"{site}/draft", json={"path": "history.html", "text": text}).json()
    assert [section["text"] for section in view["sections"]] == ["Beginnings"]
    assert view["sections"][0]["identifier"] == "BEGIN"
    assert taken_out(client, site) == demo_files()


def test_a_rename_carries_all_references_along(client):
    site = new_site(
        client,
        {
            "page.html": b"<label for=old>l</label><h2 id=old aria-labelledby='x old'>a</h2>"
            b"<a href='#old'>a</a><script>go('#old')</script><link rel=stylesheet href=main.css>",
            "main.css": b"@charset 'utf-8';\r\n#old { color: red }\r\n",
            "d/o.html": b"<a href=../page.html#old>a</a> <a href=../page.html#other>b</a>",
        },
    )
    before = taken_out(client, site)
    planned = plan(client, site, "rename", "page.html", old="old", new="new")
    assert planned["notes"] == ["page.html, line 1: a script mentions “old”. Scripts are not edited; look at it."]
    change(client, site, "rename", "page.html", old="old", new="new")
    after = taken_out(client, site)
    assert after["page.html"] == (
        b"<label for=new>l</label><h2 id=new aria-labelledby='x new'>a</h2><a href='#new'>a</a>"
        b"<script>go('#old')</script><link rel=stylesheet href=main.css>"
    )
    assert after["main.css"] == b"@charset 'utf-8';\r\n#new { color: red }\r\n"
    assert after["d/o.html"] == b"<a href=../page.html#new>a</a> <a href=../page.html#other>b</a>"
    change(client, site, "rename", "page.html", old="new", new="old")
    assert taken_out(client, site) == before


@pytest.mark.parametrize(
    ("body", "words"),
    [
        ({"operation": "set-identifiers", "identifiers": {0: "two words"}}, "white space"),
        ({"operation": "set-identifiers", "identifiers": {9: "x"}}, "Reload"),
        ({"operation": "rename", "old": "gone", "new": "x"}, "Nothing on page.html"),
        ({"operation": "back-to-top", "to": "contents"}, "Make one first"),
        ({"operation": "parts", "sections": [0]}, "cannot be cut"),
        ({"operation": "contents", "levels": []}, "levels"),
        ({"operation": "nonsense"}, "operation"),
        ({"operation": "identify", "extra": 1}, "extra"),
        ({"operation": "back-to-top", "words": "up" * 60}, "words"),
    ],
)
def test_what_cannot_be_done_says_why(client, body, words):
    site = new_site(client, {"page.html": b"<h2>One</h2><h2>Two</h2>"})
    answer = client.post(f"{site}/plans", json={"page": "page.html", **body})
    assert answer.status_code == 422
    assert words in answer.json()["detail"]


def test_addresses_in_every_form(client):
    site = new_site(client, {"d/my page.html": b"<h2 id=a>A &amp; <b>b</b></h2><h2>B</h2>"})
    ask = {"path": "d/my page.html", "section": 0}
    assert client.get(f"{site}/addresses", params=ask).json() == {
        "fragment": "#a",
        "relative": "my%20page.html#a",
        "full": None,
        "link": '<a href="my%20page.html#a">A &amp; <b>b</b></a>',
    }
    client.put(site, json={"name": "Named", "base": "https://example.org/club/"})
    assert client.get(f"{site}/addresses", params=ask).json()["full"] == "https://example.org/club/d/my%20page.html#a"
    assert client.get(f"{site}/addresses", params={**ask, "section": 1}).status_code == 404


def test_the_site_s_desk_tells_what_each_page_lacks(client):
    site = demo_site(client)
    pages = pages_of(client, site)
    assert pages["handbook.html"]["words"] >= 9000
    assert pages["handbook.html"]["without_identifier"] > 50
    assert len(pages) >= 8
    findings = findings_of(client, site)
    assert {"fragment-missing", "page-missing", "file-missing", "identifier-duplicate", "heading-gap",
            "link-without-destination"} <= {finding["rule"] for finding in findings}  # fmt: skip
    for path, page in pages.items():
        counted = page["errors"] + page["warnings"] + page["advice"]
        assert counted == sum(finding["page"] == path for finding in findings)


def test_reading_tells_how_far_it_has_come_and_what_was_read_stays_read(client, database):
    files = {f"{number}.html": b"<h2>%d</h2>" % number for number in range(120)}
    site = new_site(client, files | {"odd.html": b"GIF89a\0\1\2"})
    events = client.get(f"{site}/reading").text
    assert '"what": "read", "done": 0, "total": 121' in events
    assert '"what": "checked", "done": 120, "total": 120' in events
    read = [json.loads(line[6:])["done"] for line in events.splitlines() if '"what": "read"' in line]
    steps = [after - before for before, after in pairwise(read)]
    assert read[0] == 0
    assert steps
    assert all(0 < step <= 50 for step in steps), "whatever is read is told at once, before all of it is indexed"
    assert events.endswith("event: done\r\ndata: {}\r\n\r\n")
    again = client.get(f"{site}/reading").text
    assert again.count("event: progress") == 1, "all is there already"
    assert '"done": 0, "total": 0' in again
    assert client.get("/api/sites/00000000-0000-0000-0000-000000000000/reading").text.startswith("event: problem")


def test_what_was_kept_by_another_version_is_read_anew(client, database):
    site = new_site(client, {"page.html": b"<h2>kept by an earlier version</h2>"})
    before = client.get(f"{site}/page", params={"path": "page.html"}).json()
    reading._kept._pages.clear()
    with database.transaction() as session:
        session.execute(text("""UPDATE analyses SET facts = '{"headings": []}'"""))
    assert client.get(f"{site}/page", params={"path": "page.html"}).json() == before
    reading._kept._pages.clear()
    assert client.get(f"{site}/page", params={"path": "page.html"}).json() == before


def test_unknown_things_are_not_found(client):
    site = new_site(client, {"page.html": PAGE})
    for address in (
        "/api/sites/00000000-0000-0000-0000-000000000000",
        f"{site}/page?path=gone.html",
        f"{site}/source?path=gone.html",
    ):
        answer = client.get(address)
        assert answer.status_code == 404
        assert answer.json()["detail"]
    assert client.post(f"{site}/changes/7/undo").status_code == 404


def test_a_source_that_has_not_changed_is_not_sent_again(client):
    site = new_site(client, {"page.html": PAGE})
    first = client.get(f"{site}/source?path=page.html")
    again = client.get(f"{site}/source?path=page.html", headers={"if-none-match": first.headers["etag"]})
    assert (again.status_code, again.content) == (304, b"")


def test_a_site_goes_with_all_that_belongs_to_it(client):
    site = new_site(client, {"page.html": PAGE})
    change(client, site, "identify", "page.html")
    assert client.delete(site).status_code == 204
    assert client.get(site).status_code == 404


def test_a_rule_that_fails_keeps_no_change_from_being_made(client, monkeypatch):
    site = new_site(client, {"page.html": PAGE})

    def fails(*_):
        raise RuntimeError("a rule")

    with monkeypatch.context() as broken:
        broken.setattr(opening, "keep_findings", fails)
        made = change(client, site, "identify", "page.html")
    assert taken_out(client, site)["page.html"] != PAGE
    assert client.get(f"{site}/page", params={"path": "page.html"}).status_code == 200
    assert client.post(f"{site}/changes/{made['number']}/undo").status_code == 204
    assert taken_out(client, site)["page.html"] == PAGE


def test_a_key_is_one_requests_own(client):
    """Sent again it does nothing more; another request with it is refused, whether it makes, undoes or redoes."""
    site = new_site(client, {"a.html": b"<h2>A</h2>", "b.html": b"<h2>B</h2>"})
    tags = {page: plan(client, site, "identify", page)["tag"] for page in ("a.html", "b.html")}
    key = {"idempotency-key": str(uuid4())}

    def make(page, tag):
        body = {"operation": "identify", "page": page}
        return client.post(f"{site}/changes", json=body, headers={"if-match": tag, **key})

    assert make("a.html", tags["a.html"]).json()["number"] == 1
    assert make("a.html", tags["a.html"]).json()["number"] == 1
    for page, tag in [("b.html", tags["b.html"]), ("a.html", tags["b.html"])]:
        refused = make(page, tag)
        assert (refused.status_code, "Idempotency-Key" in refused.json()["detail"]) == (422, True)
    assert client.post(f"{site}/changes/1/undo", headers=key).status_code == 422
    undo, redo = ({"idempotency-key": str(uuid4())} for _ in range(2))
    for _ in range(2):
        assert client.post(f"{site}/changes/1/undo", headers=undo).status_code == 204
    assert client.post(f"{site}/changes/1/redo", headers=undo).status_code == 422
    for _ in range(2):
        assert client.post(f"{site}/changes/1/redo", headers=redo).status_code == 204
    assert client.post(f"{site}/changes/1/undo", headers=undo).status_code == 204  # that was done, and is not again
    (entry,) = client.get(f"{site}/changes").json()["entries"]
    assert not entry["undone"]
    assert client.get(f"{site}/changes/made-by/{redo['idempotency-key']}").json()["number"] == 1


@pytest.mark.parametrize("turn", ["undo", "redo"])
def test_a_turn_whose_worker_died_after_it_was_written_is_not_called_undone_nothing(client, monkeypatch, turn):
    site = new_site(client, {"a.html": b"<h2>A</h2>"})
    change(client, site, "identify", "a.html")
    if turn == "redo":
        client.post(f"{site}/changes/1/undo")
    runner = client.app.state.runner
    real = runner.run

    async def dies_after(gone, use_case, *args, **named):
        found = await real(gone, use_case, *args, **named)
        if use_case in (changes.undo_change, changes.redo_change):
            raise RefusedError(HTTPStatus.SERVICE_UNAVAILABLE, "The process stopped; nothing was written.")
        return found

    monkeypatch.setattr(runner, "run", dies_after)
    assert client.post(f"{site}/changes/1/{turn}").status_code == 204
    monkeypatch.undo()
    (entry,) = client.get(f"{site}/changes").json()["entries"]
    assert entry["undone"] is (turn == "undo")


def test_what_was_typed_on_an_older_state_is_brought_together_or_refused(client):
    text = "<h1>T</h1>\n" + "".join(f"<p>{number}</p>\n" for number in range(8))
    site = new_site(client, {"a.html": text.encode()})
    base = client.get(f"{site}/source", params={"path": "a.html"}).json()["revision"]
    change(client, site, "type", "a.html", text=text.replace("<p>1", "<p>one"))
    change(client, site, "type", "a.html", text=text.replace("<p>6", "<p>six"), base=base)
    now = client.get(f"{site}/source", params={"path": "a.html"}).json()
    assert now["text"] == text.replace("<p>1", "<p>one").replace("<p>6", "<p>six")
    body = {"operation": "type", "page": "a.html", "text": text.replace("<p>1", "<p>uno"), "base": base}
    refused = client.post(f"{site}/plans", json=body)
    assert (refused.status_code, "decide which count" in refused.json()["detail"]) == (409, True)
    asked = {"path": "a.html", "text": body["text"], "base": base}
    merged = client.post(f"{site}/draft/merged", json=asked).json()
    assert (merged["revision"], merged["text"], merged["knows_base"]) == (now["revision"], None, True)
    places = [one for one in merged["pieces"] if one["merged"] is None]
    assert places == [{"base": "<p>1</p>\n", "ours": "<p>uno</p>\n", "theirs": "<p>one</p>\n", "merged": None}]
    unknown = client.post(f"{site}/draft/merged", json={**asked, "base": "0" * 64}).json()
    assert (unknown["text"], unknown["knows_base"]) == (None, False)
    by_text = client.post(f"{site}/draft/merged", json={**asked, "base": "0" * 64, "base_text": now["text"]}).json()
    assert by_text["text"] == body["text"]
