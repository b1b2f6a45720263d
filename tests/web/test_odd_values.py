"""Values that nobody means: what comes is an answer that says what to do, and nothing is written."""

import io
import json
import zipfile

import pytest
from sqlalchemy import text

from signpost.desk.targets import Surroundings
from signpost.web.errors import explain
from sites import demo_site, new_site, taken_out

PAGE = (
    b"<!DOCTYPE html><title>T</title><h1>T</h1><h2>One</h2><p>see <a href='#x'>x</a> <a href=b.html>b</a></p>"
    b"<h2 id=x>Two <a href='#x'>here</a></h2><p>more words</p>"
)
WORDS = [
    "&#1;",
    "\1",
    "a\0",
    "a\ud800",
    "\ufffe",
    "\x7f",
    "\x80",
    "&#0;",
    "&#xd800;",
    "&#x110000;",
    "\r\n",
    " ",
    "x" * 10**5,
]
PATHS = [
    "x" * 300,
    "~unknown",
    "~unknown/x",
    "\0",
    "a/" * 2000,
    "~",
    "/proc/self/mem",
    "/dev/zero",
    "//",
    "\ud800",
    "a\nb",
]
ADDRESSES = [
    *[
        "http://[",
        "http://[::1",
        "https://a:99999/",
        "https://a b/",
        "https://\ud800/",
        "https:///x",
        "https://a:b@c/",
    ],
    *[
        "https://" + "a" * 300 + "/",
        "https://a..b/",
        "sftp://[",
        "sftp://a:99999/x",
        "sftp://",
        "https://-/",
        "https://a\nb/",
    ],
    *["https://" + "\u0660" * 80 + "/", "https://a\\b/", "javascript:x", "file:///etc/passwd", "a" * 3000],
]


@pytest.fixture
def send(client, tmp_path):
    """Send a value as JSON, lone halves of pairs and all; return the status."""
    secrets = str(tmp_path / "secrets.json")
    client.app.state.reach = Surroundings((str(tmp_path),), str(tmp_path / "host"), "http://127.0.0.1:9", secrets)
    client.app.state.folders = (str(tmp_path),)

    def send(method, address, body):
        said = {"content-type": "application/json"}
        answer = client.request(method, address, content=json.dumps(body), headers=said)
        if answer.status_code >= 400:
            assert answer.headers["content-type"] == "application/problem+json"
            assert answer.json()["detail"]
        return answer

    return send


@pytest.fixture
def site(client):
    return new_site(client, {"a.html": PAGE, "b.html": b"<title>b</title><h1>B</h1><h2>B1</h2><p>x"})


@pytest.mark.parametrize("words", WORDS, ids=ascii)
@pytest.mark.parametrize("operation", ["words", "rename", "type", "give"])
def test_words(client, send, site, words, operation):
    body = {
        "words": {"section": 1, "words": words},
        "rename": {"old": "x", "new": words},
        "type": {"text": words},
        "give": {"section": 1, "identifier": words},
    }[operation]
    asked = {"operation": operation, "page": "a.html", **body}
    before = taken_out(client, site)
    plan = send("POST", f"{site}/plans", asked)
    assert plan.status_code in (200, 422)
    if plan.status_code == 200:
        said = {"if-match": f'"{plan.json()["tag"]}"', "content-type": "application/json"}
        done = client.post(f"{site}/changes", content=json.dumps(asked), headers=said)
        assert done.status_code in (201, 204, 422)
        if done.status_code == 201:
            assert client.post(f"{site}/changes/{done.json()['number']}/undo").status_code == 204
    assert taken_out(client, site) == before


@pytest.mark.parametrize(
    "body",
    [
        {"operation": "fix", "rule": "${ `\ud800"},
        {"operation": "pair", "section": 2},
        {"operation": "change-links", "text": '"page'},
        {"operation": "change-links", "text": "[" * 5000},
        {"operation": "\ud800"},
        {"\ud800": 1, "operation": "tidy"},
    ],
    ids=ascii,
)
def test_what_was_found_by_asking_at_random(send, site, body):
    assert send("POST", f"{site}/plans", {"page": "a.html", **body}).status_code == 422


def test_a_list_whose_lines_end_as_on_old_computers_is_read(send, site):
    asked = {"operation": "change-links", "page": "a.html", "text": "page,line,address,new_address\ra.html,1,#x,#y\r"}
    plan = send("POST", f"{site}/plans", asked)
    assert (plan.status_code, plan.json()["edits"]) == (200, 2)


def test_contents_that_list_nothing_any_more_are_moved_where_one_says(client, send):
    block = "<!DOCTYPE html><title>T</title><h1>T</h1><ul class=contents><li><a href=#x>One</a></ul><p>%s</p>"
    site = new_site(client, {"a.html": (block % "no section").encode()})
    asked = {"operation": "move-contents", "page": "a.html", "block": 0, "spot": "side"}
    assert send("POST", f"{site}/plans", asked).status_code == 422


@pytest.mark.parametrize("size", [16_000_000, 40_000_000])
@pytest.mark.parametrize(
    ("method", "where", "body"),
    [
        ("POST", "/plans", {"operation": "words", "page": "a.html", "section": 1, "words": None}),
        ("POST", "/plans", {"operation": "type", "page": "a.html", "text": None}),
        ("POST", "/plans", {"operation": "recipe", "page": "a.html", "text": None}),
        ("PUT", "/refusals", {"path": "a.html", "key": None}),
        ("PUT", "", {"name": None}),
    ],
    ids=lambda one: str(one)[:30],
)
def test_a_field_that_is_as_long_as_a_book(send, site, method, where, body, size):
    filled = {name: "y" * size if value is None else value for name, value in body.items()}
    assert send(method, f"{site}{where}", filled).status_code in (200, 413, 422)


@pytest.mark.parametrize("path", PATHS, ids=lambda one: ascii(one)[:20])
def test_folders(send, site, path):
    assert send("POST", "/api/folders", {"folder": path}).status_code in (404, 422)
    assert send("PUT", f"{site}/targets", {"name": "t", "kind": "folder", "address": path}).status_code == 422


@pytest.mark.parametrize("address", ADDRESSES, ids=lambda one: ascii(one)[:20])
def test_addresses(send, site, tmp_path, address):
    for kind in ("webdav", "sftp"):
        assert send("PUT", f"{site}/targets", {"name": "t", "kind": kind, "address": address}).status_code == 422
    folder = {"name": "t", "kind": "folder", "address": str(tmp_path / "www"), "live": address}
    assert send("PUT", f"{site}/targets", folder).status_code == 422
    assert send("GET", f"{site}/targets", None).json() == []


def test_a_pair_whose_link_stands_in_its_own_target(client, send, site):
    for section in range(3):
        for at in range(3):
            body = {"operation": "pair", "page": "a.html", "section": section, "to_page": "a.html", "to_section": at}
            assert send("POST", f"{site}/plans", body).status_code in (200, 422)


def broken_desk(client, change):
    """Return a desk archive whose list was changed by a function."""
    site = demo_site(client)
    data = client.get(f"{site}/takeout/desk.zip").content
    packed = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as old, zipfile.ZipFile(packed, "w") as new:
        for name in old.namelist():
            content = old.read(name)
            new.writestr(name, json.dumps(change(json.loads(content))) if name.endswith(".json") else content)
    return packed.getvalue()


def _each_text(value, text):
    if isinstance(value, dict):
        return {key: _each_text(one, text) for key, one in value.items()}
    if isinstance(value, list):
        return [_each_text(one, text) for one in value]
    return text if isinstance(value, str) else value


@pytest.mark.parametrize(
    "change",
    [
        lambda said: {**said, "files": said["files"] * 2},
        lambda said: {**said, "changes": said.get("changes", []) * 2, "name": "x" * 10**6},
        lambda said: {**said, "name": "\ud800"},
        lambda said: _each_text(said, "\ud800"),
        lambda said: _each_text(said, "~" * 400),
        lambda said: [said],
        lambda _: {},
    ],
    ids=["files twice", "a long name", "a half of a pair", "halves everywhere", "long paths", "a list", "nothing"],
)
def test_a_desk_that_was_tampered_with(client, change):
    archive = broken_desk(client, change)
    before = client.get("/api/sites").json()
    answer = client.post("/api/sites/desks", files={"file": ("desk.zip", archive)})
    assert answer.status_code in (409, 413, 422)
    assert answer.json()["detail"]
    assert client.get("/api/sites").json() == before


def test_a_connection_that_is_killed_in_the_middle_of_a_transaction(database):
    """Whatever is noticed of it, at the next statement, at the end or after it, is an answer of 503."""

    def killed(session):
        with pytest.raises(Exception) as raised:  # noqa: PT011 - as SQLAlchemy has it
            session.execute(text("SELECT pg_terminate_backend(pg_backend_pid())"))
        return raised.value

    def at_once():
        with database.transaction() as session:
            raise killed(session)

    def at_the_next_statement():
        with database.transaction() as session:
            killed(session)
            session.execute(text("SELECT 1"))

    def at_the_end():
        with database.transaction() as session:
            killed(session)

    for use_case in (at_once, at_the_next_statement, at_the_end):
        with pytest.raises(Exception) as raised:  # noqa: PT011
            use_case()
        status, words = explain(raised.value)
        assert (status, "does not answer" in words) == (503, True), repr(raised.value)
    with database.transaction() as session:
        assert session.scalar(text("SELECT 1")) == 1
