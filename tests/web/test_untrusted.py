"""What comes from outside: uploads, hosts, origins, and the author's pages in the preview."""

import io
import random
import re
import stat
import zipfile
from collections import Counter

import pytest

from signpost.desk import intake
from signpost.store import limits
from sites import new_site, packed, pages_of, taken_out


def bring(client, files, **form):
    site_id = client.post("/api/sites", json={"name": "Test"}).json()["site_id"]
    answer = client.post(f"/api/sites/{site_id}/files", files=[("files", file) for file in files], data=form)
    return site_id, answer


def bring_archive(client, data):
    site_id = client.post("/api/sites", json={"name": "Test"}).json()["site_id"]
    return site_id, client.post(f"/api/sites/{site_id}/archive", files={"archive": ("site.zip", data)})


@pytest.mark.parametrize(
    ("path", "reason"),
    [
        ("../x.html", "leads out"),
        ("a/../../x.html", "leads out"),
        ("/etc/x.html", "within the site"),
        ("C:/x.html", "within the site"),
        ("a\\b.html", "backslash"),
        ("a//b.html", "empty piece"),
        (".git/config", "hidden"),
        ("a/.DS_Store", "left by the system"),
        ("x" * 500 + ".html", "longer than"),
    ],
)
def test_paths_that_are_not_taken(client, path, reason):
    site_id, answer = bring_archive(client, packed({path: b"<h1>a</h1>", "ok.html": b"<h1>b</h1>"}))
    assert answer.json()["taken"] == ["ok.html"]
    assert reason in answer.json()["skipped"][0]["reason"]
    assert set(taken_out(client, f"/api/sites/{site_id}")) == {"ok.html"}


def broken(seed):
    """An archive that was damaged somewhere on its way."""
    draw = random.Random(seed)
    buffer = io.BytesIO()
    kinds = [zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED, zipfile.ZIP_LZMA, zipfile.ZIP_BZIP2]
    with zipfile.ZipFile(buffer, "w", draw.choice(kinds)) as archive:
        for name in ("site/a.html", "site/b.html", "site/c/d.css", "site/\u00fc.html"):
            archive.writestr(name, b"<h1>x</h1>\n" * 40)
    data = bytearray(buffer.getvalue())
    for _ in range(draw.choice([1, 2, 5, 20])):
        at, kind = draw.randrange(len(data)), draw.random()
        if kind < 0.7:
            data[at] = draw.randrange(256)
        elif kind < 0.85:
            del data[at : at + draw.randrange(1, 40)]
        else:
            data[at:at] = draw.randbytes(draw.randrange(1, 20))
    return bytes(data)


@pytest.mark.long
def test_every_way_an_archive_can_be_broken_gives_an_answer(client):
    site_id = client.post("/api/sites", json={"name": "Test"}).json()["site_id"]
    answers = Counter()
    for seed in range(400):
        answer = client.post(f"/api/sites/{site_id}/archive", files={"archive": ("site.zip", broken(seed))})
        answers[answer.status_code] += 1
        assert answer.status_code < 500, (seed, answer.text)
        assert all(one["reason"] for one in answer.json().get("skipped", ()))
    assert answers[200] + answers[201] > 100
    assert answers[409] > 100


def test_large_files_are_skipped_with_their_size(client):
    _, answer = bring(client, [("big.html", b"x" * 20_000_000), ("ok.html", b"<h1>ok</h1>")])
    assert answer.json()["taken"] == ["ok.html"]
    assert (
        answer.json()["skipped"][0]["reason"].startswith("16.0 MB")
        or "at most" in answer.json()["skipped"][0]["reason"]
    )


def test_files_of_one_path_are_taken_once(client):
    site_id, answer = bring(client, [("a.html", b"1"), ("a.html", b"2")])
    assert answer.json()["skipped"] == [
        {"path": "a.html", "reason": "there already, brought in with these files", "asks": False}
    ]
    assert taken_out(client, f"/api/sites/{site_id}") == {"a.html": b"1"}


def test_a_folder_around_everything_is_left_out_of_the_paths(client):
    _, answer = bring(client, [("club/a.html", b"1"), ("club/d/b.html", b"2")], root="club")
    assert answer.json()["taken"] == ["a.html", "d/b.html"]
    _, answer = bring_archive(client, packed({"club/a.html": b"1", "club/d/b.css": b"2", "__MACOSX/x": b""}))
    assert answer.json()["taken"] == ["a.html", "d/b.css"]


def test_archives_that_are_none_or_too_much(client, monkeypatch):
    _, answer = bring_archive(client, b"no archive")
    assert answer.status_code == 409
    assert "not a ZIP archive" in answer.json()["detail"]
    bomb = packed({f"{number}.html": b"\0" * 4_000_000 for number in range(8)})
    _, answer = bring_archive(client, bomb)
    assert answer.status_code == 413
    monkeypatch.setattr(intake, "SITE_FILES", 3)
    _, answer = bring_archive(client, packed({f"{number}.html": b"x" for number in range(5)}))
    assert answer.status_code == 413


def test_links_in_archives_are_not_followed(client):
    data = io.BytesIO()
    with zipfile.ZipFile(data, "w") as archive:
        link = zipfile.ZipInfo("passwd.html")
        link.external_attr = (stat.S_IFLNK | 0o777) << 16
        archive.writestr(link, "/etc/passwd")
        archive.writestr("ok.html", "<h1>ok</h1>")
    _, answer = bring_archive(client, data.getvalue())
    assert answer.json()["taken"] == ["ok.html"]
    assert "a link" in answer.json()["skipped"][0]["reason"]


def test_a_site_is_bounded(client, monkeypatch):
    monkeypatch.setattr(limits, "SITE_BYTES", 1000)
    _, answer = bring(client, [("a.bin", b"x" * 2000)])
    assert answer.status_code == 413
    assert "none of these files were taken" in answer.json()["detail"]


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"GIF89a\0\1\2", "not a text file"),
        (b"\xff\xfe\x00", None),
        (b"\xff\xfe<\x00\x00\xd8>\x00", None),
        (b"<h2 id='a\0b' title='\0'>a\0b</h2><a href='#\0'>\0</a>" + b"<p>text</p>" * 99, None),
        (b"", None),
    ],
    ids=["binary", "odd UTF-16", "a lone surrogate", "stray NULs", "empty"],
)
def test_pages_that_are_no_text_say_so_and_harm_nothing(client, data, words):
    site = new_site(client, {"odd.html": data, "ok.html": b"<h1>ok</h1>"})
    summary = pages_of(client, site)
    answer = client.get(f"{site}/page", params={"path": "odd.html"})
    if words:
        assert words in summary["odd.html"]["unreadable"]
        assert answer.status_code == 404
        assert words in answer.json()["detail"]
    else:
        assert answer.status_code == 200
    assert taken_out(client, site)["odd.html"] == data


def test_a_page_that_would_not_survive_is_shown_and_never_edited(client):
    site = new_site(client, {"odd.html": b"<meta charset=utf-8><h2>caf\xe9</h2>"})
    assert "utf-8" in client.get(f"{site}/page", params={"path": "odd.html"}).json()["locked"]
    answer = client.post(f"{site}/plans", json={"operation": "identify", "page": "odd.html"})
    assert answer.status_code == 422
    assert "Save the page as utf-8" in answer.json()["detail"]


@pytest.mark.parametrize("host", ["evil.example", "127.0.0.1.evil.example", ""])
def test_other_hosts_are_not_answered_for(client, host):
    assert client.get("/api/sites", headers={"host": host}).status_code == 421


@pytest.mark.parametrize(
    "headers",
    [
        {"origin": "http://evil.example"},
        {"origin": "null"},
        {"origin": "http://127.0.0.1:1"},
        {"sec-fetch-site": "cross-site"},
        {"sec-fetch-site": "same-site"},
    ],
)
def test_other_origins_change_nothing(client, headers):
    assert client.post("/api/sites", json={"name": "x"}, headers=headers).status_code == 403
    assert client.post("/api/sites", json={"name": "x"}, headers={"origin": "http://127.0.0.1"}).status_code == 201


def test_requests_are_bounded(client):
    headers = {"content-length": str(10**9)}
    assert client.post("/api/sites", content=b"{}", headers=headers).status_code == 413


def test_the_preview_has_no_rights(client):
    site = new_site(
        client,
        {
            "p.html": b"<head><meta http-equiv=refresh content='0;url=http://evil.example'></head><script>x</script><h2>a</h2>",
            "s.js": b"alert(1)",
            "i.svg": b"<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>",
        },
    )
    preview = site.replace("/api/sites", "/preview")
    answer = client.get(f"{preview}/p.html")
    policy = answer.headers["content-security-policy"]
    assert policy.startswith("sandbox allow-scripts; default-src 'none'; script-src 'nonce-")
    for right in ("allow-same-origin", "connect-src", "unsafe-eval", "allow-forms", "allow-popups", "allow-top"):
        assert right not in policy
    assert b"refresh" not in answer.content
    assert re.search(rb'<h2 data-s[0-9a-f]{16}-section="0"', answer.content)
    assert answer.content.count(b"<script nonce=") == answer.content.count(b"nonce=") == 3
    nonces = {client.get(f"{preview}/p.html").headers["content-security-policy"] for _ in range(3)}
    assert len(nonces) == 3
    assert client.get(f"{preview}/s.js").headers["content-type"].startswith("text/plain")
    for path in ("s.js", "i.svg", "gone.html"):
        headers = client.get(f"{preview}/{path}").headers
        assert headers["content-security-policy"].startswith("sandbox")
        assert headers["x-content-type-options"] == "nosniff"
    assert client.get(f"{preview}/gone.html").status_code == 404


def test_our_own_pages_run_our_own_scripts_only(client):
    policy = client.get("/").headers["content-security-policy"]
    assert "default-src 'self'" in policy
    assert "script-src" not in policy
    assert client.get("/sites/whatever/pages/x.html").text == client.get("/").text
    assert client.get("/api/nothing").status_code == 404


@pytest.mark.parametrize(
    "host",
    [
        *[
            "[::1",
            "a[b",
            "http://[",
            "localhost?x",
            "localhost#x",
            "localhost/x",
            "evil@127.0.0.1",
            "evil:80@127.0.0.1",
        ],
        *[
            "127.0.0.1:",
            "127.0.0.1:x",
            "127.0.0.1:999999",
            "127.0.0.1 ",
            "localhost\\x",
            "127.0.0.1,evil.example",
            "[::1]x",
        ],
    ],
)
def test_a_host_that_cannot_be_read_is_refused(client, host):
    answer = client.get("/api/sites", headers={"host": host})
    assert answer.status_code == 400
    assert answer.headers["content-type"] == "application/problem+json"


@pytest.mark.parametrize("host", ["127.0.0.1", "127.0.0.1:8017", "LocalHost", "[::1]", "[::1]:8017"])
def test_this_computer_is_answered_for_by_its_names(client, host):
    assert client.get("/api/sites", headers={"host": host}).status_code == 200


def test_two_hosts_are_none(client):
    answer = client.get("/api/sites", headers=[("host", "127.0.0.1"), ("host", "evil.example")])
    assert answer.status_code == 400


@pytest.mark.parametrize(
    ("headers", "status"),
    [
        ({"content-length": "2", "transfer-encoding": "chunked"}, 400),
        ({"content-length": "\u00b2"}, 400),
        ({"content-length": "-1"}, 400),
        ({"content-length": "9" * 5000}, 400),
        ({"content-length": "9" * 18}, 413),
        ({"transfer-encoding": "chunked"}, 411),
    ],
    ids=str,
)
def test_a_request_says_once_and_plainly_how_long_it_is(client, headers, status):
    said = {name: value.encode("latin-1") for name, value in headers.items()}
    assert client.post("/api/sites", content=iter([b"{}"]), headers=said).status_code == status
    if len(headers) > 1:
        assert client.request("GET", "/api/sites", content=iter([b"{}"]), headers=said).status_code == status


def test_an_origin_that_cannot_be_read_is_refused(client):
    assert client.post("/api/sites", json={"name": "x"}, headers={"origin": "http://["}).status_code == 403


@pytest.mark.parametrize(
    ("method", "path", "body"),
    [
        ("post", "/api/sites", {"name": "a\0b"}),
        ("post", "{site}/plans", {"operation": "words", "page": "page.html", "section": 0, "words": "a\0b"}),
        ("post", "{site}/draft", {"path": "page.html", "text": "<p>\0"}),
        ("put", "{site}/refusals", {"path": "page.html", "key": "\0"}),
        ("put", "{site}/settings", {"lead": "a\0"}),
        ("get", "{site}/page?path=a%00b", None),
        ("get", "/preview/%00/x", None),
    ],
)
def test_a_nul_anywhere_is_the_caller_s_fault(client, method, path, body):
    site = new_site(client, {"page.html": b"<h1>a</h1>"})
    answer = client.request(method, path.format(site=site), json=body)
    assert 400 <= answer.status_code < 500
    assert answer.headers["content-type"] == "application/problem+json"


def test_bytes_that_come_are_counted_whatever_the_request_says_of_them(client, monkeypatch):
    monkeypatch.setattr("signpost.web.security.TEXT_BODY_BYTES", 1000)
    chunks = (b'{"name": "' + b"x" * 100 for _ in range(100))
    answer = client.post(
        "/api/sites", content=chunks, headers={"content-length": "5", "content-type": "application/json"}
    )
    assert answer.status_code in (400, 413)
