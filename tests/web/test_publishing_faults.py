"""A site published to hosts that fail: in the end the host has what the site has, or the desk says what it has not."""

import contextlib
import os
import socket
import threading
from functools import partial

import pytest

import sftp
from dav import PASSWORD, USER, dav_host
from signpost.core.text.errors import SignpostError
from signpost.desk import publication_plans, publishing, targets
from signpost.desk.errors import ConflictError
from signpost.desk.publication_plans import Does, Seen
from signpost.desk.targets import Surroundings
from signpost.hosting.dav import DavTarget
from signpost.hosting.sftp import SftpTarget
from signpost.hosting.targets import FolderTarget
from signpost.store.records import TargetRecord
from sites import change, new_site

FILES = {
    "index.html": b"<!DOCTYPE html><title>I</title><h1 id=x>I</h1><a href='b.html#y'>b</a>",
    "b.html": b"<!DOCTYPE html><title>B</title><h1>B</h1><h2 id=y>Y</h2>" * 20,
    "deep/p.png": b"\x89PNG" * 40,
}
THEIRS = {"theirs.html": b"somebody else's", "deep/also.txt": b"theirs too"}
#: How many requests in turn fail; each in `-m long`.
EVERY = 1 if os.environ.get("SIGNPOST_LONG") else 4


@pytest.fixture
def reach(tmp_path):
    return Surroundings((str(tmp_path),), "", "", str(tmp_path / "config" / "secrets.json"))


@pytest.fixture
def www(tmp_path):
    root = tmp_path / "www"
    for path, data in THEIRS.items():
        (root / path).parent.mkdir(parents=True, exist_ok=True)
        (root / path).write_bytes(data)
    return root


def id_of(site):
    return site.rpartition("/")[2]


def there(root):
    return {file.relative_to(root).as_posix(): file.read_bytes() for file in root.rglob("*") if file.is_file()}


def ours(root):
    return {path: data for path, data in there(root).items() if path not in THEIRS}


def set_up(database, site, reach, kind, address, **said):
    target = TargetRecord(said.pop("name", "there"), kind, address, said.pop("user", USER))
    return targets.save_target(database, id_of(site), target, said.pop("secret", PASSWORD), reach, **said)


def plan(database, site, reach, **how):
    return publication_plans.plan_publication(database, id_of(site), "there", reach, **how)


def publish(database, site, reach, **how):
    tag = plan(database, site, reach, **how).tag
    return publishing.publish(database, id_of(site), "there", tag, reach, **how)


def does(planned):
    return {step.path: (step.does, step.seen) for step in planned.steps}


@pytest.mark.parametrize("fault", ["refuses", "cuts before", "cuts after", "truncates", "redirects"])
def test_whatever_request_fails_the_host_ends_up_as_the_site_or_it_is_said(client, database, reach, www, fault):
    site = new_site(client, FILES)
    with dav_host(www) as (address, host):
        set_up(database, site, reach, "webdav", address)
        host.fails()
        publish(database, site, reach)
        count = len(host.asked)
        publishing.undo_publication(database, id_of(site), "there", reach)
        assert there(www) == THEIRS
        for at in range(1, count + 1, EVERY):
            host.fails(fault, at)
            try:
                done = publish(database, site, reach)
                assert done.wrong or ours(www) == FILES, "it is called done, and is not"
            except SignpostError:
                pass
            host.fails()
            # half a page is never at a page's own address
            assert all(
                data == FILES[path] for path, data in ours(www).items() if not path.rpartition("/")[2].startswith(".")
            )
            done = publish(database, site, reach)
            assert (done.wrong, done.left) == ((), ())
            assert there(www) == {**FILES, **THEIRS}
            assert plan(database, site, reach).steps == ()
            for _ in range(2):
                if there(www) != THEIRS:
                    publishing.undo_publication(database, id_of(site), "there", reach)
            assert there(www) == THEIRS
    assert count > 10


@pytest.mark.parametrize("fault", ["refuse", "cut"])
@pytest.mark.parametrize("renames", ["at once", "in two steps"])
def test_whatever_request_fails_by_sftp(client, database, reach, www, tmp_path, monkeypatch, fault, renames):
    site = new_site(client, FILES)
    known = tmp_path / "known_hosts"
    asked, failing = [], [0]

    def said(request):
        asked.append(request)
        if renames == "in two steps" and request == "replace":
            raise OSError(95, "Operation not supported")
        if len(asked) == failing[0]:
            raise OSError(13, "refused") if fault == "refuse" else EOFError

    with sftp.sftp_host(www, known, said) as (address, _):
        monkeypatch.setattr(targets, "SftpTarget", partial(SftpTarget, known_hosts=known))
        set_up(database, site, reach, "sftp", address, user=sftp.USER, secret=sftp.PASSWORD)
        publish(database, site, reach)
        change(client, site, "type", "b.html", text="<h1>B, changed</h1>")
        wanted = {**FILES, "b.html": b"<h1>B, changed</h1>"}
        asked.clear()
        publish(database, site, reach)
        count = len(asked)
        assert ours(www) == wanted
        for at in range(1, count + 1, EVERY):
            for text in (FILES["b.html"].decode(), "<h1>B, changed</h1>"):
                change(client, site, "type", "b.html", text=text)
                asked.clear()
                failing[0] = at
                try:
                    done = publish(database, site, reach)
                    assert done.wrong or ours(www)["b.html"] == text.encode(), "it is called done, and is not"
                except SignpostError:
                    pass
                failing[0] = 0
                publish(database, site, reach)
                assert ours(www)["b.html"] == text.encode()
                assert {path: data for path, data in there(www).items() if path in THEIRS} == THEIRS
                assert plan(database, site, reach).steps == ()
    assert not [path for path in there(www) if path.rpartition("/")[2].startswith(".")]


def test_what_is_gone_altered_or_torn_there_is_said(client, database, reach, www):
    site = new_site(client, FILES)
    with dav_host(www) as (address, _):
        set_up(database, site, reach, "webdav", address)
        publish(database, site, reach)
        (www / "deep" / "p.png").unlink()
        (www / "b.html").write_bytes(b"changed at the host")
        assert does(plan(database, site, reach)) == {
            "deep/p.png": (Does.SEND, Seen.MISSING),
            "b.html": (Does.FOREIGN, Seen.ALTERED),
        }
        publish(database, site, reach)
        assert ours(www) == {**FILES, "b.html": b"changed at the host"}
        publish(database, site, reach, anyway=True)
        assert ours(www) == FILES
        publishing.undo_publication(database, id_of(site), "there", reach)
        assert ours(www)["b.html"] == b"changed at the host"  # put back to the byte


def test_what_the_listing_does_not_tell_a_comparison_of_all_bytes_does(client, database, reach, www):
    site = new_site(client, FILES)
    set_up(database, site, reach, "folder", str(www), user="", secret=None)
    publish(database, site, reach)
    assert plan(database, site, reach, thorough=True).steps == ()
    with database.transaction() as session:
        published = publishing.kept.load_published(session, id_of(site), "there", str(www))
        (www / "b.html").write_bytes(b"x" * len(FILES["b.html"]))
        about = (www / "b.html").stat()
        same = published["b.html"]._replace(tag=str(about.st_ctime_ns))  # as if its time told nothing
        publishing.kept.save_published(session, id_of(site), "there", str(www), {"b.html": same})
    assert plan(database, site, reach).steps == ()
    assert does(plan(database, site, reach, thorough=True)) == {"b.html": (Does.FOREIGN, Seen.ALTERED)}


def test_a_target_with_another_address_has_nothing_yet_and_no_password_goes_there(
    client, database, reach, www, tmp_path
):
    site = new_site(client, FILES)
    with dav_host(www) as (address, _):
        set_up(database, site, reach, "webdav", address)
        publish(database, site, reach)
        (view,) = set_up(database, site, reach, "webdav", f"{address}/other", was="there", secret=None)
        assert (view.has_secret, view.publications) == (False, 0)
        (view,) = set_up(database, site, reach, "webdav", address, was="there")
        assert (view.has_secret, view.publications) == (True, 1)  # what is known of the first address is known again
        assert plan(database, site, reach).steps == ()
        with pytest.raises(ConflictError, match="There is a target"):
            set_up(database, site, reach, "folder", str(tmp_path / "x"))
        (view,) = set_up(database, site, reach, "webdav", address, was="there", secret=None, name="named anew")
        assert (view.name, view.has_secret, view.publications) == ("named anew", True, 1)
    client.app.state.reach = reach
    client.delete(site)
    assert "made up" not in (tmp_path / "config" / "secrets.json").read_text()


def test_a_host_that_moves_nothing_gets_files_straight(client, database, reach, www):
    site = new_site(client, FILES)
    with dav_host(www) as (address, host):
        host.refused = frozenset(["MOVE"])
        set_up(database, site, reach, "webdav", address)
        assert publish(database, site, reach).wrong == ()
        assert there(www) == {**FILES, **THEIRS}


#: Right before which a stranger puts a file there: as late as a host lets it be seen.
LAST = {
    "folder": (FolderTarget, "write"),
    "webdav": (DavTarget, "_refuse_changed"),
    "sftp": (SftpTarget, "_refuse_changed"),
}


@pytest.mark.parametrize("kind", LAST)
def test_what_somebody_puts_there_meanwhile_stays(client, database, reach, www, tmp_path, monkeypatch, kind):
    """A new file, one that is replaced and one that goes, each changed after it was uploaded and before it is moved."""
    site = new_site(client, FILES)
    known = tmp_path / "known_hosts"
    cls, name = LAST[kind]
    real = getattr(cls, name)
    other = [0]

    def racing(self, path, *asked):
        if path == "b.html":
            other[0] += 1
            (www / "b.html").write_bytes(b"put there meanwhile" + b"!" * other[0])
        return real(self, path, *asked)

    with dav_host(www) as (dav, _), sftp.sftp_host(www, known) as (by_sftp, _):
        monkeypatch.setattr(targets, "SftpTarget", partial(SftpTarget, known_hosts=known))
        address = {"folder": str(www), "webdav": dav, "sftp": by_sftp}[kind]
        user, secret = (sftp.USER, sftp.PASSWORD) if kind == "sftp" else (USER, PASSWORD)
        set_up(database, site, reach, kind, address, user=user, secret=secret)

        real_delete = FolderTarget.delete

        def racing_delete(self, path, seen):
            (www / "b.html").write_bytes(b"put there meanwhile, at last")
            return real_delete(self, path, seen)

        def race():
            with monkeypatch.context() as patch:
                patch.setattr(cls, name, racing)
                if kind == "folder":
                    patch.setattr(cls, "delete", racing_delete)
                return publish(database, site, reach).left

        assert race() == ("b.html",)
        publish(database, site, reach, anyway=True)
        change(client, site, "type", "b.html", text="<h1>new</h1>")
        assert race() == ("b.html",)
        publish(database, site, reach, anyway=True)
        change(client, site, "delete-file", "index.html", path="b.html", leading="leave", goal="")
        assert race() == ("b.html",)
        assert b"put there meanwhile" in ours(www)["b.html"]
        assert not [path for path in there(www) if path.rpartition("/")[2].startswith(".")]


def test_too_much_of_others_is_not_replaced(client, database, reach, www, monkeypatch):
    site = new_site(client, FILES)
    (www / "b.html").write_bytes(b"theirs" * 100)
    set_up(database, site, reach, "folder", str(www), user="", secret=None)
    monkeypatch.setattr(publishing, "KEPT_BYTES", 100)
    with pytest.raises(ConflictError, match="could not be put back"):
        publish(database, site, reach, anyway=True)
    monkeypatch.setattr(publication_plans, "FILE_BYTES", 100)
    assert does(plan(database, site, reach, anyway=True))["b.html"] == (Does.FOREIGN, Seen.AS_KNOWN)


@pytest.fixture
def stranger():
    """A server of somebody else's, and what it has heard."""
    heard = []
    with socket.create_server(("127.0.0.2", 0)) as listening:

        def listen():
            with contextlib.suppress(OSError):
                while True:
                    one, _ = listening.accept()
                    heard.append(one.recv(4096))
                    one.close()

        threading.Thread(target=listen, daemon=True).start()
        yield f"127.0.0.2:{listening.getsockname()[1]}", heard


@pytest.mark.parametrize("scheme", ["http", "https", "ftp"])
def test_no_request_leaves_the_host_and_no_writing_is_led_on(client, database, reach, www, stranger, scheme):
    site = new_site(client, FILES)
    address_of_stranger, heard = stranger
    with dav_host(www) as (address, host):
        set_up(database, site, reach, "webdav", address)
        publish(database, site, reach)
        count = len(host.asked)
        publishing.undo_publication(database, id_of(site), "there", reach)
        for goal in (f"{scheme}://{address_of_stranger}/x", f"//{address_of_stranger}/x"):
            host.elsewhere = goal.encode()
            for at in range(1, count + 1, 3):
                host.fails("redirects", at)
                with contextlib.suppress(SignpostError):
                    publish(database, site, reach)
        host.elsewhere = b"/b.html"  # of the same origin: reading goes on there, writing does not
        host.fails()
        publish(database, site, reach)
        host.fails("redirects", 1)
        target = DavTarget(address, USER, PASSWORD)
        assert target.read("index.html") == FILES["b.html"]
        seen = target.look(["index.html"])["index.html"]
        host.fails("redirects", 2)
        with pytest.raises(SignpostError, match="nothing was sent there"):
            target.delete("index.html", seen)
    assert heard == []
    assert ours(www) == FILES
