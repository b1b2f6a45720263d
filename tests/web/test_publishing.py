"""A site published to a folder, to the practice host, by WebDAV; and walked as readers get it."""

import hashlib
import json
import socket
import stat
import threading
import time
from functools import partial
from pathlib import Path

import pytest
import uvicorn
from starlette.testclient import TestClient

from sftp import PASSWORD, USER, sftp_host
from signpost.core.text.errors import InputError, RequestError
from signpost.desk import live, publication_plans, publishing, targets
from signpost.desk.progress import TELLER
from signpost.desk.publication_plans import Does
from signpost.desk.targets import Surroundings
from signpost.hosting.dav import DavTarget
from signpost.hosting.practice import DAV_USER, address_of, create_host
from signpost.hosting.practice_settings import Way, dav_password, is_label, label_of, write_way
from signpost.hosting.sftp import SftpTarget
from signpost.hosting.walking import fetch
from signpost.store.records import TargetRecord
from sites import change, new_site

FILES = {
    "index.html": b"<!DOCTYPE html><title>I</title><h1 id=x>I</h1><a href='b.html#y'>b</a> <a href=gone.html>gone</a>",
    "b.html": b"<!DOCTYPE html><title>B</title><h1>B</h1><h2 id=y>Y</h2>",
    "deep/p.png": b"\x89PNG",
    "signpost.toml": b"",
}


@pytest.fixture
def host(tmp_path):
    """The practice host on a port of its own: its folder and its address."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    root = tmp_path / "host"
    server = uvicorn.Server(uvicorn.Config(create_host(root), host="127.0.0.1", port=port, log_level="warning"))
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started:
        time.sleep(0.02)
    yield root, f"http://127.0.0.1:{port}"
    server.should_exit = True
    thread.join(10)


@pytest.fixture
def reach(tmp_path, host):
    root, address = host
    return Surroundings((str(tmp_path),), str(root), address, str(tmp_path / "config" / "secrets.json"))


@pytest.fixture
def site(client):
    return new_site(client, FILES, "Our line")


def id_of(site: str) -> str:
    return site.rpartition("/")[2]


def set_up(database, site, reach, kind="folder", address="", live="", secret=None, user="", was=""):
    target = TargetRecord("there", kind, address, user, live)
    return targets.save_target(database, id_of(site), target, secret, reach, was=was)


def publish(database, site, reach, **how):
    plan = publication_plans.plan_publication(database, id_of(site), "there", reach, **how)
    return plan, publishing.publish(database, id_of(site), "there", plan.tag, reach, **how)


def on_disk(root: Path) -> dict[str, bytes]:
    return {file.relative_to(root).as_posix(): file.read_bytes() for file in root.rglob("*") if file.is_file()}


PUBLIC = {path: data for path, data in FILES.items() if path != "signpost.toml"}


def test_what_would_be_sent_is_shown_first_and_only_that_is_sent(client, database, site, reach, tmp_path):
    set_up(database, site, reach, address=str(tmp_path / "www"))
    plan, done = publish(database, site, reach)
    assert [(step.path, step.does, step.size) for step in plan.steps] == [
        ("deep/p.png", Does.SEND, 4),  # pages come last, after what they need
        ("b.html", Does.SEND, len(FILES["b.html"])),
        ("index.html", Does.SEND, len(FILES["index.html"])),
    ]
    assert (done.sent, done.deleted, done.wrong) == (3, 0, ())
    assert on_disk(tmp_path / "www") == PUBLIC
    again, nothing = publish(database, site, reach)
    assert (again.steps, nothing.sent) == ((), 0)
    change(client, site, "type", "b.html", text=FILES["b.html"].decode() + "<p>more")
    change(client, site, "delete-file", "index.html", path="deep/p.png", leading="leave", goal="")
    plan, done = publish(database, site, reach)
    assert [(step.path, step.does) for step in plan.steps] == [
        ("b.html", Does.REPLACE),
        ("deep/p.png", Does.DELETE),
    ]
    assert (done.sent, done.deleted) == (1, 1)
    publishing.undo_publication(database, id_of(site), "there", reach)
    assert on_disk(tmp_path / "www") == PUBLIC
    publishing.undo_publication(database, id_of(site), "there", reach)
    assert on_disk(tmp_path / "www") == {}
    with pytest.raises(publishing.ConflictError):
        publishing.undo_publication(database, id_of(site), "there", reach)


def test_what_was_not_published_from_here_stays_unless_asked(client, database, site, reach, tmp_path):
    www = tmp_path / "www"
    www.mkdir()
    (www / "b.html").write_bytes(b"somebody else's")
    (www / "theirs.html").write_bytes(b"theirs")
    set_up(database, site, reach, address=str(www))
    plan, _ = publish(database, site, reach)
    assert {step.path: step.does for step in plan.steps}["b.html"] is Does.FOREIGN
    assert on_disk(www)["b.html"] == b"somebody else's"
    publish(database, site, reach, anyway=True)
    assert on_disk(www) == {**PUBLIC, "theirs.html": b"theirs"}
    (www / "index.html").write_bytes(b"changed there")
    change(client, site, "type", "index.html", text="<p>new")
    plan, _ = publish(database, site, reach)
    assert [step.does for step in plan.steps] == [Does.FOREIGN]
    assert on_disk(www)["index.html"] == b"changed there"


def test_a_publication_that_would_do_something_else_than_was_shown_is_refused(
    client, database, site, reach, tmp_path
):
    set_up(database, site, reach, address=str(tmp_path / "www"))
    plan = publication_plans.plan_publication(database, id_of(site), "there", reach)
    change(client, site, "type", "b.html", text="<p>other")
    with pytest.raises(publishing.ConflictError, match="nothing was sent"):
        publishing.publish(database, id_of(site), "there", plan.tag, reach)
    assert not (tmp_path / "www").exists()


def test_what_was_stopped_is_taken_up_again(database, site, reach, tmp_path, monkeypatch):
    set_up(database, site, reach, address=str(tmp_path / "www"))
    real = targets.FolderTarget.write
    with monkeypatch.context() as patch:

        def write(self, path, data, seen):
            if path == "b.html":
                raise InputError("stopped")
            return real(self, path, data, seen)

        patch.setattr(targets.FolderTarget, "write", write)
        with pytest.raises(InputError):
            publish(database, site, reach)
    plan, _ = publish(database, site, reach)
    assert {"b.html"} <= {step.path for step in plan.steps} <= {"b.html", "index.html"}
    assert on_disk(tmp_path / "www") == PUBLIC


def test_to_the_practice_host_and_walked_there(client, database, site, reach):
    (view,) = set_up(database, site, reach, kind="practice")
    assert view.practice.way == Way()
    publish(database, site, reach)
    assert fetch(view.live).data == FILES["index.html"]
    walk = live.walk_site(database, id_of(site), "there", reach)
    assert (walk.pages, walk.files, walk.newer_here, walk.jumps) == (2, 3, (), 1)
    assert [(one.path, one.line, "404" in one.message) for one in walk.findings] == [("index.html", 1, True)]
    change(client, site, "type", "b.html", text="<p>without the place")
    assert live.walk_site(database, id_of(site), "there", reach).newer_here == ("b.html",)
    publish(database, site, reach)
    walk = live.walk_site(database, id_of(site), "there", reach)
    assert ["b.html#y" in one.message for one in walk.findings] == [True, False]


def test_by_webdav_with_the_password_in_a_file_of_its_owner(database, site, reach, host):
    root, address = host
    (root / "mine").mkdir(parents=True)
    password = dav_password(root, "mine")
    with pytest.raises(RequestError, match="in the clear"):
        set_up(database, site, reach, "webdav", "http://host.example/dav")
    (view,) = set_up(
        database, site, reach, "webdav", f"{address}/dav/mine", address_of(address, "mine"), password, DAV_USER
    )
    assert view.has_secret
    assert password not in json.dumps([view.name, view.address, view.live])
    assert stat.S_IMODE(Path(reach.secrets).stat().st_mode) == 0o600
    publish(database, site, reach)
    assert on_disk(root / "mine") == PUBLIC
    publishing.undo_publication(database, id_of(site), "there", reach)
    assert on_disk(root / "mine") == {}
    with pytest.raises(InputError, match="name or password"):
        DavTarget(f"{address}/dav/mine", DAV_USER, "wrong").write("a.html", b"", None)
    targets.delete_target(database, id_of(site), "there", reach)
    assert json.loads(Path(reach.secrets).read_text()) == {}


def test_by_sftp_over_one_connection(database, site, reach, tmp_path, monkeypatch):
    www = tmp_path / "their-www"
    www.mkdir()
    known = tmp_path / "known_hosts"
    with sftp_host(www, known) as (address, came):
        monkeypatch.setattr(targets, "SftpTarget", partial(SftpTarget, known_hosts=known))
        set_up(database, site, reach, "sftp", f"{address}/line", "", PASSWORD, USER)
        (www / "line").mkdir()
        (www / "line" / "b.html").write_bytes(b"")
        (www / "line" / "b.html").chmod(0o640)
        publish(database, site, reach, anyway=True)
        assert on_disk(www / "line") == PUBLIC
        assert stat.S_IMODE((www / "line" / "b.html").stat().st_mode) == 0o640
        assert len(came) == 2  # one to plan, one to plan again and send
        publishing.undo_publication(database, id_of(site), "there", reach)
        assert on_disk(www / "line") == {"b.html": b""}  # as it was before
        with pytest.raises(InputError, match="name, password or key"):
            SftpTarget(f"{address}/line", USER, "wrong", known).read("a.html")
        known.write_text("")
        with pytest.raises(InputError, match="not known yet"):
            SftpTarget(f"{address}/line", USER, PASSWORD, known).read("a.html")


def test_how_a_file_differs_from_the_one_there(client, database, site, reach, tmp_path):
    set_up(database, site, reach, address=str(tmp_path / "www"))
    publish(database, site, reach)
    change(client, site, "type", "b.html", text=FILES["b.html"].decode() + "\n<p>more")
    diff = partial(publication_plans.diff_publication, database, id_of(site), "there", reach=reach)
    assert "+<p>more" in diff(path="b.html")
    assert diff(path="none.html") == ""


#: Pages whose scripts spoil two jumps of three, each in its own way.
SPOILED = {
    "index.html": b"<!DOCTYPE html><title>I</title><p><a href=b.html#in>in</a> <a href=b.html#tab>tab</a>\n"
    b"<a href=b.html#bar>bar</a> <a href=b.html#late>late</a>",
    "b.html": b"<!DOCTYPE html><title>B</title><style>h2{margin:900px 0}</style><h2 id=in>In</h2><div id=t><h2 id=tab>Tab</h2></div>"
    b"<h2 id=bar>Bar</h2><h2 id=late>Late</h2><script src=b.js></script>",
    "b.js": b"document.getElementById('t').hidden = true; document.getElementById('late').id = 'later';"
    b"addEventListener('hashchange', () => { if (location.hash === '#bar') { const top = document.createElement('div');"
    b"top.className = 'top'; top.style = 'position:fixed;top:0;left:0;right:0;height:90px'; document.body.append(top) }});",
}


def test_landings_that_only_a_pages_own_script_spoils_are_found(client, database, reach):
    site = new_site(client, SPOILED)
    set_up(database, site, reach, kind="practice")
    publish(database, site, reach)
    said = []
    token = TELLER.set(said.append)
    try:
        walk = live.walk_site(database, id_of(site), "there", reach)
    finally:
        TELLER.reset(token)
    assert walk.jumps == 4
    assert [(one.path, one.line, one.message) for one in walk.findings] == [
        ("index.html", 1, f"“tab” leads to b.html#tab, but the place is hidden once the page is loaded{BY_SCRIPT}"),
        ("index.html", 2, f"“bar” leads to b.html#bar, but div.top covers it{BY_SCRIPT}"),
        (
            "index.html",
            2,
            f"“late” leads to b.html#late, but the place is not there once the page is loaded{BY_SCRIPT}",
        ),
    ]
    assert {"Asking for every file", "Following jumps"} <= {told.what for told in said}


BY_SCRIPT = "; with the page's scripts off it lands, so a script does that."


def test_hosts_that_do_not_answer_are_told():
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    for target in (DavTarget(f"http://127.0.0.1:{port}/x"), SftpTarget(f"sftp://127.0.0.1:{port}/x", "me", "p")):
        with pytest.raises(InputError, match="does not answer"):
            target.read("a.html")
    with pytest.raises(RequestError, match="sftp://"):
        SftpTarget("ftp://host/x", "", "")


def test_redirects_from_where_pages_were(client, database, site, reach, tmp_path):
    set_up(database, site, reach, address=str(tmp_path / "www"))
    publish(database, site, reach)
    change(client, site, "move-files", "index.html", moves={"b.html": "c d.html"})
    change(client, site, "move-files", "index.html", moves={"c d.html": "e f.html"})
    said = {
        form: live.redirects_of(database, id_of(site), "there", form) for form in ("csv", "pairs", "apache", "nginx")
    }
    assert said == {
        "csv": "/b.html,/e%20f.html\n",
        "pairs": "/b.html /e%20f.html\n",
        "apache": 'Redirect permanent "/b.html" "/e%20f.html"\n',
        "nginx": 'location = "/b.html" { return 301 "/e%20f.html"; }\n',
    }


class TestPracticeHost:
    @pytest.fixture
    def root(self, tmp_path):
        folder = tmp_path / "line"
        (folder / "deep").mkdir(parents=True)
        (folder / "index.html").write_text("<p>home" + " and more" * 100)
        (folder / "deep" / "index.html").write_text("<p>deep")
        (folder / "404.html").write_text("<p>nothing")
        (folder / "redirects.csv").write_text("/old.html,/deep/\n")
        (folder / ".hidden").write_text("x")
        (folder / "out").symlink_to("/etc")
        return tmp_path

    @pytest.fixture
    def ask(self, root):
        """Ask the host for an address."""
        with TestClient(create_host(root), follow_redirects=False) as client:
            yield lambda address, method="GET", **said: client.request(method, f"http://{address}", **said)

    @pytest.mark.parametrize(
        ("address", "status", "words"),
        [
            ("line.localhost:8018/", 200, "home"),
            ("line.localhost:8018/index.html", 200, "home"),
            ("line.localhost:8018/INDEX.html", 404, "nothing"),
            ("line.localhost:8018/deep", 301, ""),
            ("line.localhost:8018/deep/", 200, "deep"),
            ("line.localhost:8018/old.html", 301, ""),
            ("line.localhost:8018/.hidden", 404, "nothing"),
            ("line.localhost:8018/redirects.csv", 404, "nothing"),
            ("line.localhost:8018/out/hostname", 404, "nothing"),
            ("line.localhost:8018/dav/line/index.html", 404, "nothing"),
            ("none.localhost:8018/", 404, "no such site"),
            (".ways.localhost:8018/line.json", 404, "no such site"),
            ("127.0.0.1:8018/", 404, "no such site"),
            ("127.0.0.1:8018/.ways/line.json", 404, "no such site"),
            ("line.example:8018/", 421, "No site is called that"),
            ("localhost.evil.example/line/", 421, "No site is called that"),
        ],
    )
    def test_it_answers_as_hosts_do(self, ask, address, status, words):
        answer = ask(address)
        assert (answer.status_code, words in answer.text) == (status, True)

    def test_where_a_site_was_below_the_hosts_own_address_leads_to_its_own(self, ask):
        for name in ("127.0.0.1:8018", "localhost:8018"):
            answer = ask(f"{name}/line/deep/p%20q.html")
            assert answer.headers["location"] == "http://line.localhost:8018/deep/p%20q.html"

    def test_it_tells_types_tags_and_packs_what_is_long(self, root, ask):
        write_way(root, "line", Way(charset="iso-8859-1"))
        answer = ask("line.localhost/")
        assert answer.headers["content-type"] == "text/html; charset=iso-8859-1"
        assert answer.headers["content-encoding"] == "gzip"
        assert ask("line.localhost/", headers={"if-none-match": answer.headers["etag"]}).status_code == 304

    def test_files_are_taken_by_a_sites_own_password_from_programs_and_within_its_folder(self, root, ask):
        (root / "other").mkdir()
        mine, theirs = dav_password(root, "line"), dav_password(root, "other")
        assert mine != theirs == dav_password(root, "other")
        put = partial(ask, method="PUT", content=b"<p>new")
        for path, said, status in [
            ("line/new.html", {}, 401),
            ("line/new.html", {"auth": (DAV_USER, theirs)}, 401),
            ("line/new.html", {"auth": (DAV_USER, mine), "headers": {"origin": "http://127.0.0.1:8018"}}, 403),
            ("line/new.html", {"auth": (DAV_USER, mine), "headers": {"sec-fetch-site": "same-origin"}}, 403),
            (".ways/line.json", {"auth": (DAV_USER, mine)}, 404),
            ("line/../.ways/line.json", {"auth": (DAV_USER, mine)}, 404),
            ("line/..%2f.ways/line.json", {"auth": (DAV_USER, mine)}, 400),
            ("none/new.html", {"auth": (DAV_USER, mine)}, 404),
            ("line/new.html", {"auth": (DAV_USER, mine)}, 201),
        ]:
            assert put(f"127.0.0.1:8018/dav/{path}", **said).status_code == status, path
        assert (root / "line" / "new.html").read_bytes() == b"<p>new"
        away = {"destination": "http://127.0.0.1:8018/dav/other/new.html"}
        moved = ask("127.0.0.1:8018/dav/line/new.html", "MOVE", auth=(DAV_USER, mine), headers=away)
        assert moved.status_code == 502
        assert [file.name for file in root.rglob("new.html")] == ["new.html"]
        assert {file.name for file in (root / ".ways").iterdir()} == {"line.key", "other.key"}

    @pytest.mark.parametrize(
        ("said", "words"),
        [
            (b'{"delay": "soon"}', "“delay”"),
            (b'{"delay": 1e9}', "“delay”"),
            (b'{"bandwidth": -1}', "“bandwidth”"),
            (b'{"charset": "a\\nb"}', "“charset”"),
            (b"{" * 3000, "cannot be used"),
            (b'{"delay": ' + b"9" * 5000, "cannot be used"),
            (b"\xff", "cannot be used"),
        ],
    )
    def test_settings_that_cannot_be_used_are_named_and_no_other_site_is_touched(self, root, ask, said, words):
        (root / "other").mkdir()
        (root / "other" / "index.html").write_text("other")
        (root / ".ways").mkdir()
        (root / ".ways" / "line.json").write_bytes(said)
        answer = ask("line.localhost/")
        assert (answer.status_code, words in answer.text, "line.json" in answer.text) == (503, True, True)
        assert ask("other.localhost/").text == "other"

    def test_it_can_be_slow(self, root, ask):
        write_way(root, "line", Way(delay=0.05, bandwidth=10_000))
        before = time.monotonic()
        answer = ask("line.localhost/", headers={"accept-encoding": "identity"})
        assert time.monotonic() - before > 0.05
        assert (
            hashlib.sha256(answer.content).digest()
            == hashlib.sha256((root / "line/index.html").read_bytes()).digest()
        )


@pytest.mark.parametrize(
    ("name", "label"),
    [
        ("Our line", "our-line-ab12"),
        ("--- Ä --", "site-ab12"),
        ("a" * 300, "a" * 50 + "-ab12"),
        ("9 O’clock / ..", "9-o-clock-ab12"),
    ],
)
def test_a_sites_folder_is_a_name_that_hosts_may_have(name, label):
    assert label_of(name, "ab12") == label
    assert is_label(label)


def test_what_a_deleted_site_had_on_the_practice_host_goes_whatever_it_is_called_now(client, database, site, reach):
    set_up(database, site, reach, kind="practice")
    publish(database, site, reach)
    root = Path(reach.host_folder)
    (root / "other-ab12").mkdir()
    assert len(list(root.rglob("index.html"))) == 1
    client.app.state.reach = reach
    assert client.put(site, json={"name": "Another name"}).status_code == 200
    assert client.delete(site).is_success
    assert [one.name for one in root.iterdir() if one.name != ".ways"] == ["other-ab12"]
    assert list((root / ".ways").iterdir()) == []


def test_the_routes_answer(client, database, site):
    client.app.state.reach = Surroundings((), "", "", "/nonexistent/secrets.json")
    targets = f"{site}/targets"
    assert client.get(targets).json() == []
    for kind, words in [("practice", "does not run here"), ("webdav", "publishes nowhere")]:
        refused = client.put(targets, json={"name": "w", "kind": kind, "address": "https://host.example/"})
        assert (refused.status_code, words in refused.json()["detail"]) == (422, True)
    (said,) = client.post(f"{targets}/plan", params={"name": "none"}).text.splitlines()
    assert json.loads(said)["problem"]["status"] == 404
    assert client.delete(targets, params={"name": "none"}).json() == []


def test_a_walk_that_is_stopped_keeps_what_it_found_and_goes_on_from_there(client, database, reach, monkeypatch):
    names = [f"p{number:02}.html" for number in range(30)]
    pages = dict.fromkeys(names, b"<title>T</title><h1 id=x>T</h1><a href='#none'>none</a><a href=gone.html>gone</a>")
    site = new_site(client, pages)
    set_up(database, site, reach, kind="practice")
    publish(database, site, reach)
    monkeypatch.setattr(live, "follow_jumps", lambda *_: None)
    real, asked = live.Fetcher.fetch, []

    def stopping(self, base, path=""):
        asked.append(path)
        if len(asked) > 20:
            raise KeyboardInterrupt
        return real(self, base, path)

    monkeypatch.setattr(live.Fetcher, "fetch", stopping)
    with pytest.raises(KeyboardInterrupt):
        live.walk_site(database, id_of(site), "there", reach)
    found = live.view_walk(database, id_of(site), "there", reach)
    assert (found.is_whole, found.of_files, 10 <= found.files <= 20) == (False, 30, True)
    assert len([one for one in found.findings if "#none" in one.message]) == found.files
    known = found.files
    asked.clear()
    monkeypatch.setattr(
        live.Fetcher, "fetch", lambda self, base, path="": asked.append(path) or real(self, base, path)
    )
    whole = live.walk_site(database, id_of(site), "there", reach)
    assert (whole.is_whole, whole.files, len(asked)) == (True, 30, 30 - known + 1)  # and what the site does not have
    assert len([one for one in whole.findings if "404" in one.message]) == 30
    asked.clear()
    live.walk_site(database, id_of(site), "there", reach)
    assert len(asked) == 31  # one that came to its end begins anew
