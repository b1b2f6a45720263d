"""A site that is a folder: what is saved in any editor comes to the desk, what is applied at the desk goes there."""

import shutil
import stat
import subprocess

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from signpost.core.operations.files import FollowMoves
from signpost.core.operations.pages import Type
from signpost.desk import folder_writing, linked_folders, syncing
from signpost.desk.changes import apply_change, list_changes, plan_change, redo_change, undo_change
from signpost.desk.intake import remove_file
from signpost.folders import writing
from signpost.folders.ignoring import TEMPORARY
from signpost.store import folders as kept
from signpost.store import repositories as store

A = b"<!DOCTYPE html>\n<title>A</title>\n<h1>A</h1>\n<p>one</p>\n<p>two</p>\n<p>three</p>\n<p>four</p>\n<p>five</p>\n"


def on_disk(root) -> dict[str, bytes]:
    return {
        file.relative_to(root).as_posix(): file.read_bytes()
        for file in root.rglob("*")
        if file.is_file() and ".git" not in file.parts
    }


def in_store(database, site_id) -> dict[str, bytes]:
    with database.transaction() as session:
        files = [file for file in store.load_files(session, site_id) if file.sha256]
        blobs = store.load_blobs(session, site_id, {file.sha256 for file in files})
    return {file.path: blobs[file.sha256] for file in files}


@pytest.fixture
def root(tmp_path):
    folder = tmp_path / "site"
    folder.mkdir()
    (folder / "a.html").write_bytes(A)
    (folder / "deep").mkdir()
    (folder / "deep" / "b.html").write_bytes(b"<h1>B</h1><a href='../a.html'>A</a>")
    return folder


@pytest.fixture
def site_id(database, root):
    found = linked_folders.link_folder(database, str(root), [str(root.parent)]).site_id
    yield found
    with database.transaction() as session:
        store.delete_site(session, found)


def edit(database, site_id, page, text) -> None:
    said = {"text": text}
    planned = plan_change(database, site_id, page, Type(**said))
    apply_change(database, site_id, page, Type(**said), planned.tag)


def interrupt(*_) -> None:
    raise KeyboardInterrupt


def titles(database, site_id) -> list[str]:
    return [change.title for change, _ in list_changes(database, site_id)]


def test_a_folder_is_taken_in_as_it_is(database, root, site_id):
    assert in_store(database, site_id) == on_disk(root)
    assert titles(database, site_id) == []
    assert (
        linked_folders.link_folder(database, str(root), [str(root)]).site_id == site_id
    )  # opened once more, it is the same


def test_what_is_edited_outside_is_a_change_that_can_be_undone(database, root, site_id):
    (root / "a.html").write_bytes(A.replace(b"two", b"2"))
    (root / "new.html").write_bytes(b"<h1>New</h1>")
    (root / "deep" / "b.html").unlink()
    assert syncing.sync_folder(database, site_id).taken == 3
    assert in_store(database, site_id) == on_disk(root)
    assert titles(database, site_id) == ["Edited outside: a.html and 2 more"]
    assert syncing.sync_folder(database, site_id) == syncing.Synced()
    undo_change(database, site_id, 1)
    assert syncing.sync_folder(database, site_id).written == 3
    assert on_disk(root) == {"a.html": A, "deep/b.html": b"<h1>B</h1><a href='../a.html'>A</a>"}
    redo_change(database, site_id, 1)
    syncing.sync_folder(database, site_id)
    assert not (root / "deep").exists()


def test_what_is_applied_is_written_with_the_files_mode(database, root, site_id):
    (root / "a.html").chmod(0o640)
    edit(database, site_id, "a.html", A.decode().replace("two", "2"))
    assert syncing.sync_folder(database, site_id).written == 1
    assert (root / "a.html").read_bytes() == A.replace(b"two", b"2")
    assert stat.S_IMODE((root / "a.html").stat().st_mode) == 0o640
    remove_file(database, site_id, "deep/b.html")
    syncing.sync_folder(database, site_id)
    assert [*on_disk(root)] == ["a.html"]


def test_edits_of_other_lines_on_both_sides_are_brought_together(database, root, site_id):
    edit(database, site_id, "a.html", A.decode().replace("one", "1"))
    (root / "a.html").write_bytes(A.replace(b"five", b"5"))
    result = syncing.sync_folder(database, site_id)
    assert (result.taken, result.written, result.conflicts) == (1, 1, 0)
    assert in_store(database, site_id) == on_disk(root)
    assert on_disk(root)["a.html"] == A.replace(b"one", b"1").replace(b"five", b"5")


@pytest.mark.parametrize("side", ["desk", "folder"])
def test_edits_of_the_same_line_are_the_authors_to_decide(database, root, site_id, side):
    ours, theirs = A.replace(b"three", b"3 here"), A.replace(b"three", b"3 there")
    edit(database, site_id, "a.html", ours.decode())
    (root / "a.html").write_bytes(theirs)
    assert syncing.sync_folder(database, site_id).conflicts == 1
    assert (in_store(database, site_id)["a.html"], on_disk(root)["a.html"]) == (ours, theirs)
    (conflict,) = linked_folders.view_folder(database, site_id).conflicts
    assert (conflict.base, conflict.desk, conflict.folder) == (A.decode(), ours.decode(), theirs.decode())
    linked_folders.decide(database, site_id, "a.html", side)
    assert on_disk(root)["a.html"] == in_store(database, site_id)["a.html"] == (ours if side == "desk" else theirs)
    assert linked_folders.view_folder(database, site_id).conflicts == ()
    bytes_kept = {
        data for change, _ in list_changes(database, site_id) for data in _states(database, site_id, change)
    }
    assert {ours, theirs} <= bytes_kept  # neither is lost


def _states(database, site_id, change) -> list[bytes]:
    with database.transaction() as session:
        return [*store.load_blobs(session, site_id, {one.after_sha256 for one in change.files}).values()]


def test_a_conflict_goes_where_both_sides_come_to_the_same(database, root, site_id):
    edit(database, site_id, "a.html", A.decode().replace("three", "3"))
    (root / "a.html").write_bytes(A.replace(b"three", b"III"))
    assert syncing.sync_folder(database, site_id).conflicts == 1
    (root / "a.html").write_bytes(A.replace(b"three", b"3"))
    assert syncing.sync_folder(database, site_id) == syncing.Synced()


def test_a_file_that_moved_is_known_by_its_bytes(database, root, site_id):
    (root / "deep" / "b.html").rename(root / "c.html")
    syncing.sync_folder(database, site_id)
    assert titles(database, site_id) == ["Moved outside: deep/b.html is now c.html"]
    (change, _), *_ = list_changes(database, site_id)
    said = {"moves": change.parameters["moves"], "without": None}
    planned = plan_change(database, site_id, "a.html", FollowMoves(**said))
    assert [file.path for file in planned.files] == ["c.html"]
    apply_change(database, site_id, "a.html", FollowMoves(**said), planned.tag)
    linked_now = syncing.sync_folder(database, site_id)
    assert linked_now.written == 1
    assert (root / "c.html").read_bytes() == b"<h1>B</h1><a href='a.html'>A</a>"


def test_a_folder_that_is_away_loses_nothing_and_comes_back(database, root, site_id):
    before = in_store(database, site_id)
    away = root.with_name("elsewhere")
    root.rename(away)
    assert "is not there" in syncing.sync_folder(database, site_id).away
    root.mkdir()  # as where a disk is put in, when it is not
    assert "is empty" in syncing.sync_folder(database, site_id).away
    assert in_store(database, site_id) == before
    assert "is empty" in linked_folders.view_folder(database, site_id).away
    edit(database, site_id, "a.html", A.decode().replace("one", "1"))
    shutil.rmtree(root)
    away.rename(root)
    assert syncing.sync_folder(database, site_id) == syncing.Synced(written=1)
    assert linked_folders.view_folder(database, site_id).away == ""


def test_what_tools_leave_and_what_is_ignored_is_no_part_of_the_site(database, root, site_id):
    (root / ".gitignore").write_text("build/\n*.log\n!kept.log\n")
    (root / "signpost.toml").write_text('[folder]\nignore = ["drafts/"]\n')
    for path in (
        "build/x.html",
        "drafts/y.html",
        "a.log",
        ".git/config",
        "a.html~",
        ".a.html.swp",
        "node_modules/z.js",
    ):
        (root / path).parent.mkdir(exist_ok=True)
        (root / path).write_text("x")
    (root / "kept.log").write_text("x")
    (root / "away.html").symlink_to("/etc/hostname")
    syncing.sync_folder(database, site_id)
    assert sorted(in_store(database, site_id)) == ["a.html", "deep/b.html", "kept.log", "signpost.toml"]
    (root / ".gitignore").write_text("build/\n*.log\n!kept.log\ndeep/\n")
    syncing.sync_folder(database, site_id)
    assert "deep/b.html" in in_store(database, site_id)  # it is there, ignored or not


def test_folders_that_are_not_allowed_are_refused(database, root, site_id):
    for path, allowed, words in [
        (str(root / "deep"), [str(root)], "within the other"),
        (str(root.parent), [str(root)], "outside the folders"),
        (str(root / "none"), [str(root)], "not a folder"),
        ("relative", [str(root)], "not a folder"),
        (str(root), [], "opens no folders"),
    ]:
        with pytest.raises(linked_folders.RequestError, match=words):
            linked_folders.link_folder(database, path, allowed)


def test_unlinked_both_sides_stay_as_they_are(database, root, site_id):
    linked_folders.unlink_folder(database, site_id)
    (root / "a.html").write_bytes(b"other")
    assert syncing.sync_folder(database, site_id) == syncing.Synced()
    assert in_store(database, site_id)["a.html"] == A


@pytest.mark.parametrize("stopped_at", ["stage", "put", "_agree", "finish"])
def test_a_change_is_in_the_folder_whole_whoever_was_stopped(database, root, site_id, stopped_at, monkeypatch):
    """Stopped before a file is put in place, after it, or before that is kept: what was begun is finished."""
    edit(database, site_id, "a.html", A.decode().replace("one", "1"))
    edit(database, site_id, "deep/b.html", "<h1>B2</h1>")
    where = folder_writing if stopped_at == "_agree" else writing
    real = getattr(where, stopped_at)

    def stop(*asked):
        if stopped_at != "_agree":
            real(*asked)
        raise KeyboardInterrupt

    with monkeypatch.context() as patch:
        patch.setattr(where, stopped_at, stop)
        with pytest.raises(KeyboardInterrupt):
            syncing.sync_folder(database, site_id)
    syncing.sync_folder(database, site_id)
    assert on_disk(root) == in_store(database, site_id)
    assert on_disk(root)["deep/b.html"] == b"<h1>B2</h1>"
    assert not [file for file in root.rglob("*") if file.name.startswith(TEMPORARY)]
    with database.transaction() as session:
        assert kept.load_writes(session, site_id) == []


@pytest.mark.parametrize(
    ("then", "wanted"),
    [
        ("typed again", b"<h1>Third</h1>"),
        ("undone", A),
        ("gone", None),
        ("saved by an editor", b"<h1>Editor</h1>"),
    ],
)
@pytest.mark.parametrize("deed", ["written", "removed"])
def test_what_was_put_in_place_counts_though_it_could_not_be_noted(
    database, root, site_id, deed, then, wanted, monkeypatch
):
    """Stopped between the folder and the note of it: what the folder has is the desk's, not somebody else's edit."""
    if deed == "written":
        edit(database, site_id, "a.html", "<h1>Second</h1>")
    else:
        remove_file(database, site_id, "a.html")
    with monkeypatch.context() as patch:
        patch.setattr(folder_writing, "_agree", interrupt)
        with pytest.raises(KeyboardInterrupt):
            syncing.sync_folder(database, site_id)
    if then == "typed again" and deed == "written":
        edit(database, site_id, "a.html", wanted.decode())
    elif then in ("undone", "typed again"):
        undo_change(database, site_id, list_changes(database, site_id)[0][0].number)
        wanted = A
    elif then == "gone" and deed == "written":
        remove_file(database, site_id, "a.html")
    elif then == "saved by an editor":
        (root / "a.html").write_bytes(wanted)
    result = syncing.sync_folder(database, site_id)
    assert result.conflicts == 0
    assert on_disk(root).get("a.html") == wanted == in_store(database, site_id).get("a.html")


def test_a_write_is_taken_for_put_in_place_once(database, root, site_id):
    """An author's own return to what the desk wrote before is the author's edit."""
    edit(database, site_id, "a.html", "<h1>Second</h1>")
    with (root / "a.html").open("ab"):  # an editor has it open: what the write displaced stays beside
        syncing.sync_folder(database, site_id)
        for text in (A, b"<h1>Second</h1>"):
            (root / "new.swp").write_bytes(text)
            (root / "new.swp").replace(root / "a.html")
            syncing.sync_folder(database, site_id)
    assert on_disk(root)["a.html"] == b"<h1>Second</h1>" == in_store(database, site_id)["a.html"]


def git(root, *arguments) -> str:
    done = subprocess.run(["git", "-C", str(root), *arguments], capture_output=True, text=True, check=True)
    return done.stdout.strip()


@pytest.fixture
def tree(root):
    """The folder as a work tree of git, with what there is committed."""
    git(root, "init", "--quiet", "--initial-branch=main")
    git(root, "config", "user.name", "An author")
    git(root, "config", "user.email", "author@line.example")
    git(root, "add", ".")
    git(root, "commit", "--quiet", "-m", "First")
    return root


def test_each_change_is_committed_by_its_name_where_the_author_wants_that(tree, database, site_id):
    edit(database, site_id, "a.html", A.decode().replace("one", "1"))
    syncing.sync_folder(database, site_id)
    view = linked_folders.view_folder(database, site_id)
    assert (view.is_work_tree, view.commits, view.differing) == (True, False, ("a.html",))
    git(tree, "commit", "--quiet", "-am", "By hand")
    linked_folders.set_commits(database, site_id, commits=True)
    (tree / "notes.txt").write_text("not yet to be committed")
    git(tree, "add", "notes.txt")
    edit(database, site_id, "deep/b.html", "<h1>B2</h1>")
    syncing.sync_folder(database, site_id)
    assert git(tree, "log", "--format=%s") == "Source edited by hand\nBy hand\nFirst"
    assert git(tree, "show", "--name-only", "--format=") == "deep/b.html"
    assert git(tree, "status", "--porcelain") == "A  notes.txt"  # what its author has begun stays begun
    undo_change(database, site_id, 2)
    syncing.sync_folder(database, site_id)
    remove_file(database, site_id, "a.html")
    syncing.sync_folder(database, site_id)
    assert git(tree, "log", "--format=%s", "-2") == "a.html removed\nUndid “Source edited by hand”"
    assert linked_folders.view_folder(database, site_id).differing == ("notes.txt",)


def test_looking_runs_nothing_that_the_folder_names(tree, database, site_id, tmp_path):
    """Its settings, attributes and hooks name programs; only committing, which its author asks for, runs them."""
    ran = tmp_path / "ran"
    program = tmp_path / "program"
    program.write_text(f"#!/bin/sh\necho $0 >> {ran}\ncat\n")
    program.chmod(0o755)
    for name in (
        "core.fsmonitor",
        "filter.x.clean",
        "filter.x.smudge",
        "filter.y.process",
        "diff.external",
        "gpg.program",
    ):
        git(tree, "config", name, str(program))
    for name in ("core.pager", "core.sshCommand", "diff.x.textconv", "core.editor"):
        git(tree, "config", name, str(program))
    git(tree, "config", "log.showSignature", "true")
    git(tree, "config", "filter.x.required", "true")
    (tree / ".gitattributes").write_text("*.html filter=x diff=x\n")
    for hook in ("pre-commit", "post-checkout", "post-index-change", "reference-transaction"):
        (tree / ".git" / "hooks" / hook).write_text(program.read_text())
        (tree / ".git" / "hooks" / hook).chmod(0o755)
    ran.unlink(missing_ok=True)
    (tree / "a.html").write_bytes(A.replace(b"one", b"1"))
    view = linked_folders.view_folder(database, site_id)
    assert "a.html" in view.differing
    assert {"pre-commit", "filter.x", "filter.y", "core.fsmonitor"} <= {*view.runs}
    syncing.sync_folder(database, site_id)
    (first,) = linked_folders.commits_of(database, site_id, "a.html")
    linked_folders.bring_in_committed(database, site_id, "a.html", first.name)
    linked_folders.bring_in_committed(database, site_id, "a.html", "HEAD")
    assert not ran.exists(), ran.read_text()
    for name in ("core.fsmonitor", "filter.x.clean", "filter.x.smudge", "filter.y.process", "filter.x.required"):
        git(tree, "config", "--unset", name)
    git(tree, "config", "gpg.program", "gpg")
    linked_folders.set_commits(database, site_id, commits=True)
    edit(database, site_id, "a.html", A.decode().replace("two", "2"))
    syncing.sync_folder(database, site_id)
    assert "pre-commit" in ran.read_text()


def test_a_page_is_compared_with_any_commit(tree, database, site_id):
    (tree / "a.html").write_bytes(A.replace(b"one", b"1"))
    git(tree, "commit", "--quiet", "-am", "Second")
    syncing.sync_folder(database, site_id)
    second, first = linked_folders.commits_of(database, site_id, "a.html")
    assert (second.subject, first.subject) == ("Second", "First")
    sha256 = linked_folders.bring_in_committed(database, site_id, "a.html", first.name)
    with database.transaction() as session:
        assert store.load_blobs(session, site_id, {sha256}) == {sha256: A}
    assert in_store(database, site_id)["a.html"] == A.replace(b"one", b"1")
    with pytest.raises(linked_folders.NotThereError):
        linked_folders.bring_in_committed(database, site_id, "none.html", first.name)
    with pytest.raises(linked_folders.InputError, match="names no commit"):
        linked_folders.bring_in_committed(database, site_id, "a.html", "--output=x")


LINES = st.lists(st.sampled_from([b"<p>a\n", b"<p>b\n", b"<p>c\n", b"<h2>d</h2>\n", b"<p>e\r\n"]), max_size=8)
STEPS = st.lists(
    st.tuples(st.sampled_from(["folder", "desk", "sync", "gone"]), st.sampled_from(["a.html", "x.html"]), LINES),
    max_size=12,
)


@pytest.mark.long
@given(STEPS)
@settings(max_examples=25, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_after_quiet_both_hold_the_same_and_nothing_is_lost(database, tmp_path_factory, steps):
    root = tmp_path_factory.mktemp("linked")
    (root / "a.html").write_bytes(A)
    (root / "other.txt").write_bytes(b"so that the folder is never empty, as one that is away is")
    site_id = linked_folders.link_folder(database, str(root), [str(root.parent)]).site_id
    written, saved = {A}, {}  # what was applied at the desk, and what was saved in the folder last
    for who, path, lines in steps:
        text = b"".join(lines) or b"<p>\n"
        file = root / path
        if who == "folder":
            file.write_bytes(text)
            saved[path] = text
            syncing.sync_folder(database, site_id)
        elif who == "gone":
            file.unlink(missing_ok=True)
            saved.pop(path, None)
        elif who == "sync":
            syncing.sync_folder(database, site_id)
        elif path in in_store(database, site_id):
            planned = plan_change(database, site_id, path, Type(text=text.decode()))
            if planned.edits:
                apply_change(database, site_id, path, Type(text=text.decode()), planned.tag)
                written.add(in_store(database, site_id)[path])
    syncing.sync_folder(database, site_id)
    for one in linked_folders.view_folder(database, site_id).conflicts:
        linked_folders.decide(database, site_id, one.path, "desk")
    assert on_disk(root) == in_store(database, site_id)
    states = {A}
    for change, _ in list_changes(database, site_id):
        states |= {*_states(database, site_id, change)}
    assert written <= states
    for path, text in saved.items():  # as it was saved, or its lines among those of the desk
        assert text in states or {*text.splitlines()} <= {*on_disk(root)[path].splitlines()}
    with database.transaction() as session:
        store.delete_site(session, site_id)
