"""A linked folder while an editor saves in it: what is saved in the very moment of a write, and what no file can be."""

import os
import random
import shutil
import threading

import pytest

from signpost.core.operations.files import FollowMoves
from signpost.core.operations.pages import Type
from signpost.desk import linked_folders, syncing
from signpost.desk.changes import apply_change, list_changes, plan_change
from signpost.desk.intake import FILE_BYTES
from signpost.folders import opened, writing
from signpost.folders.writing import Step
from signpost.store import folders as kept
from signpost.store import repositories as store

PAGE = "<h1>P</h1>\n" + "".join(f"<p>line {number}</p>\n" for number in range(8))


@pytest.fixture
def root(tmp_path):
    folder = tmp_path / "site"
    folder.mkdir()
    for number in range(3):
        (folder / f"p{number}.html").write_text(PAGE)
    return folder


@pytest.fixture
def site_id(database, root):
    found = linked_folders.link_folder(database, str(root), [str(root.parent)]).site_id
    yield found
    with database.transaction() as session:
        store.delete_site(session, found)


def edit(database, site_id, page, text) -> None:
    planned = plan_change(database, site_id, page, Type(text=text))
    apply_change(database, site_id, page, Type(text=text), planned.tag)


def states(database, site_id) -> str:
    """All texts of the site, now and before, and those in conflict."""
    with database.transaction() as session:
        hashes = {file.sha256 for file in store.load_files(session, site_id)}
        for change in store.load_changes(session, site_id):
            hashes |= {one for file in change.files for one in (file.before_sha256, file.after_sha256)}
        hashes |= {one.folder_sha256 for one in kept.load_conflicts(session, site_id).values()}
        blobs = store.load_blobs(session, site_id, {one for one in hashes if one})
    return b"\n".join(blobs.values()).decode()


def save(file, text, how) -> None:
    if how == "in place":
        file.write_text(text)
    elif how == "replacing":
        waiting = file.with_name(f"{file.name}~")
        waiting.write_text(text)
        waiting.replace(file)
    else:  # aside first, as some do for a backup
        file.rename(file.with_name(f"{file.name}~"))
        file.write_text(text)


@pytest.mark.parametrize("turns", [12, pytest.param(100, marks=pytest.mark.long)])
@pytest.mark.parametrize("where", ["before", "after"])
def test_saves_in_the_moment_of_a_write(database, root, site_id, where, turns, monkeypatch):
    """The editor saves right before two names are swapped, or right after; each in another way, on the same line or not."""
    seed = random.Random(5)
    swap = writing.swap
    raced = 0
    for turn in range(turns):
        page, how = f"p{seed.randrange(3)}.html", seed.choice(["in place", "replacing", "aside"])
        text = (root / page).read_text()
        edit(database, site_id, page, text.replace("<p>line 1", f"<p>desk {turn} line 1"))
        mine = text.replace(seed.choice(["<p>line 6", "<p>line 1"]), f"<p>editor {turn} line 6")
        done = []

        def racing(handle, one, other, page=page, how=how, mine=mine, done=done):
            if where == "before" and not done:
                done.append(save(root / page, mine, how))
            swap(handle, one, other)
            if where == "after" and not done:
                done.append(save(root / page, mine, how))

        monkeypatch.setattr(writing, "swap", racing)
        syncing.sync_folder(database, site_id)
        monkeypatch.undo()
        raced += len(done)
        syncing.sync_folder(database, site_id)
        found = states(database, site_id) + "".join(file.read_text() for file in root.glob("*.html"))
        assert f"editor {turn} " in found
        assert f"desk {turn} " in found
        for one in linked_folders.view_folder(database, site_id).conflicts:
            linked_folders.decide(database, site_id, one.path, "folder")
        edit(database, site_id, page, PAGE)
        syncing.sync_folder(database, site_id)
        assert (root / page).read_text() == PAGE
    assert raced == turns
    assert not list(root.glob(".signpost-*"))


def test_what_was_brought_together_is_so_again_where_the_editor_saves_before_it_is_written(
    database, root, site_id, monkeypatch
):
    """What both agreed on was never written, and yet it is what both begin from next."""
    edit(database, site_id, "p0.html", PAGE.replace("line 1", "desk"))
    save(root / "p0.html", PAGE.replace("line 6", "first"), "in place")
    swap, done = writing.swap, []

    def racing(*asked):
        if not done:
            done.append(
                save(root / "p0.html", PAGE.replace("line 6", "first").replace("line 4", "second"), "in place")
            )
        swap(*asked)

    monkeypatch.setattr(writing, "swap", racing)
    syncing.sync_folder(database, site_id)
    monkeypatch.undo()
    assert done
    syncing.sync_folder(database, site_id)
    wanted = PAGE.replace("line 1", "desk").replace("line 6", "first").replace("line 4", "second")
    assert (root / "p0.html").read_text() == wanted
    assert linked_folders.view_folder(database, site_id).conflicts == ()


def test_an_editor_that_has_the_file_open_while_it_is_displaced_saves_into_it_and_is_heard(database, root, site_id):
    """It opened the file before the swap, and writes after it: into what has no name of its own any more."""
    with (root / "p0.html").open("r+") as editor:
        edit(database, site_id, "p0.html", PAGE.replace("line 1", "desk"))
        syncing.sync_folder(database, site_id)
        assert list(root.glob(".signpost-*")), "it is kept as long as somebody may write into it"
        editor.write(PAGE.replace("line 6", "late"))
        editor.truncate()
    syncing.sync_folder(database, site_id)
    assert "late" in (root / "p0.html").read_text()
    assert "desk" in (root / "p0.html").read_text()
    assert not list(root.glob(".signpost-*"))
    with (root / "p0.html").open("r+") as editor:
        text = (root / "p0.html").read_text()
        edit(database, site_id, "p0.html", text.replace("line 2", "desk again"))
        syncing.sync_folder(database, site_id)
        editor.write(text.replace("line 2", "late again"))
    syncing.sync_folder(database, site_id)
    assert "desk again" in (root / "p0.html").read_text()
    assert "late again" in states(database, site_id)
    assert "Saved outside while the desk wrote: p0.html" in [
        change.title for change, _ in list_changes(database, site_id)
    ]


def test_the_authors_own_files_are_the_authors_whatever_they_are_called(database, root, site_id):
    mine = [root / ".signpost-notes", root / ".signpost-0123456789abcdef", root / "p0.html.orig"]
    for file in mine:
        file.write_text("mine")
    edit(database, site_id, "p0.html", PAGE.replace("line 1", "desk"))
    real = writing.put
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(writing, "put", lambda *_: (_ for _ in ()).throw(KeyboardInterrupt))
        with pytest.raises(KeyboardInterrupt):
            syncing.sync_folder(database, site_id)
    assert writing.put is real
    syncing.sync_folder(database, site_id)
    assert [file.read_text() for file in mine] == ["mine"] * 3
    assert len(list(root.glob(".signpost-*"))) == 2


ODD = {
    "a link": lambda file: file.symlink_to("/etc/hostname"),
    "a pipe": os.mkfifo,
    "a folder": lambda file: file.mkdir(),
    "too large": lambda file: file.write_bytes(b"x" * (FILE_BYTES + 1)),
}


@pytest.mark.parametrize("odd", ODD)
def test_one_file_that_no_file_can_be_waits_alone_and_says_why(database, root, site_id, odd):
    for number in range(3):
        edit(database, site_id, f"p{number}.html", PAGE.replace("line 1", f"desk {number}"))
    (root / "p1.html").unlink()
    ODD[odd](root / "p1.html")
    result = syncing.sync_folder(database, site_id)
    assert (result.written, result.waiting, result.away) == (2, 1, "")
    assert "desk 0" in (root / "p0.html").read_text()
    assert "desk 2" in (root / "p2.html").read_text()
    (wait,) = linked_folders.view_folder(database, site_id).waits
    assert wait.path == "p1.html"
    assert wait.why
    assert wait.remedy
    assert "desk 1" in states(database, site_id)
    if (root / "p1.html").is_dir():
        (root / "p1.html").rmdir()
    else:
        (root / "p1.html").unlink()
    (root / "p1.html").write_text(PAGE)
    assert syncing.sync_folder(database, site_id).waiting == 0
    assert "desk 1" in (root / "p1.html").read_text()
    assert linked_folders.view_folder(database, site_id).waits == ()


def test_a_change_of_the_same_size_and_time_is_seen_when_it_is_written_over(database, root, site_id):
    file = root / "p0.html"
    about = file.stat()
    file.write_text(PAGE.replace("line 6", "LINE 6"))
    os.utime(file, ns=(about.st_atime_ns, about.st_mtime_ns))
    edit(database, site_id, "p0.html", PAGE.replace("line 1", "desk"))
    edit(database, site_id, "p1.html", PAGE.replace("line 1", "desk"))
    syncing.sync_folder(database, site_id)
    assert file.read_text() == PAGE.replace("line 1", "desk").replace("line 6", "LINE 6")
    assert "desk" in (root / "p1.html").read_text()


@pytest.mark.parametrize("what", ["the folder itself", "a folder on the way", "a folder within"])
def test_a_link_leads_nowhere_else(database, root, site_id, tmp_path, what):
    away = tmp_path / "away"
    away.mkdir()
    (away / "p0.html").write_text("not of the site")
    (root / "deep").mkdir()
    (root / "deep" / "p0.html").write_text(PAGE)
    syncing.sync_folder(database, site_id)
    edit(database, site_id, "p0.html", PAGE.replace("line 1", "desk"))
    edit(database, site_id, "deep/p0.html", PAGE.replace("line 1", "desk"))
    swapped = {"the folder itself": root, "a folder on the way": root.parent, "a folder within": root / "deep"}[what]
    aside = swapped.with_name(f"{swapped.name}-aside")
    swapped.rename(aside)
    target = away
    if what == "a folder on the way":
        target = tmp_path.with_name("elsewhere")
        shutil.copytree(aside / "away", target / "site")
    swapped.symlink_to(target)
    try:
        result = syncing.sync_folder(database, site_id)
        assert result.away or result.waiting
        outside = target / "site" if what == "a folder on the way" else target
        assert (outside / "p0.html").read_text() == "not of the site"
        assert "not of the site" not in states(database, site_id)
    finally:
        swapped.unlink()
        aside.rename(swapped)
        if what == "a folder on the way":
            shutil.rmtree(target)
    syncing.sync_folder(database, site_id)
    assert "desk" in (root / "p0.html").read_text()
    assert "desk" in (root / "deep" / "p0.html").read_text()


def test_a_pipe_is_not_waited_for(tmp_path):
    os.mkfifo(tmp_path / "pipe")
    (tmp_path / "link").symlink_to("pipe")
    with opened.OpenedFolder(tmp_path.resolve()) as folder:
        for path in ("pipe", "link"):
            done = threading.Event()

            def look(path=path, done=done, folder=folder):
                with pytest.raises(opened.UnfitError):
                    folder.hash(path)
                done.set()

            threading.Thread(target=look, daemon=True).start()
            assert done.wait(30)


def test_links_to_what_was_moved_outside_can_be_updated_as_long_as_they_lead_nowhere(database, root, site_id):
    (root / "index.html").write_text("<a href=p0.html>p</a> <a href=p1.html>q</a>")
    syncing.sync_folder(database, site_id)
    (root / "p0.html").rename(root / "first.html")
    syncing.sync_folder(database, site_id)
    edit(database, site_id, "p2.html", PAGE.replace("line 1", "something else"))
    (root / "first.html").rename(root / "one.html")
    syncing.sync_folder(database, site_id)
    edit(database, site_id, "p2.html", PAGE)
    assert linked_folders.view_folder(database, site_id).moves == {"p0.html": "one.html"}
    said = {"moves": {"p0.html": "one.html"}, "without": []}
    tag = plan_change(database, site_id, "index.html", FollowMoves(**said)).tag
    apply_change(database, site_id, "index.html", FollowMoves(**said), tag)
    assert linked_folders.view_folder(database, site_id).moves == {}


@pytest.mark.parametrize("number", [38, 22, 95])
def test_without_a_swap_in_one_step_nothing_is_lost_either(tmp_path, monkeypatch, number):
    """A file system that cannot swap names: in two steps, each of which keeps what it displaces."""
    from signpost.folders import swapping

    def cannot(handle, old, new, how):
        assert number in swapping._MISSING
        return False

    monkeypatch.setattr(swapping, "_rename", cannot)
    (tmp_path / "a").write_text("before")
    with opened.OpenedFolder(tmp_path.resolve()) as folder:
        before = folder.hash("a")
        step = Step("a", before, b"after", ".ours")
        writing.stage(folder, step)
        writing.put(folder, step)
        assert ((tmp_path / "a").read_text(), (tmp_path / ".ours").read_text()) == ("after", "before")
        writing.drop(folder, step)
        (tmp_path / "a").write_text("saved meanwhile")
        writing.stage(folder, step)
        with pytest.raises(writing.ChangedMeanwhileError):
            writing.put(folder, step)
        assert [(file.name, file.read_text()) for file in sorted(tmp_path.iterdir())] == [("a", "saved meanwhile")]
        new = Step("b", None, b"new", ".ours")
        writing.stage(folder, new)
        (tmp_path / "b").write_text("somebody's")
        with pytest.raises(writing.ChangedMeanwhileError):
            writing.put(folder, new)
        assert (tmp_path / "b").read_text() == "somebody's"
        gone = Step("a", folder.hash("a"), None, ".ours")
        writing.put(folder, gone)
        assert not (tmp_path / "a").exists()
        assert (tmp_path / ".ours").read_text() == "saved meanwhile"


@pytest.mark.parametrize(
    ("name", "text"),
    [
        (".gitignore", "*a" * 40 + "\n"),
        (".gitignore", "x\n" * 200_000),
        ("signpost.toml", "n = " + "9" * 5000),
        ("signpost.toml", "n = " + "[" * 3000),
        ("signpost.toml", 'a = "' + "x" * 400_000 + '"'),
        ("signpost.toml", None),
        (".gitignore", None),
    ],
    ids=["stars", "lines", "digits", "brackets", "long", "a pipe", "a pipe that ignores"],
)
def test_what_a_folders_own_files_say_stops_nobody(database, root, site_id, name, text):
    (root / ("a" * 60 + "b.html")).write_text(PAGE)
    if text is None:
        os.mkfifo(root / name)
    else:
        (root / name).write_text(text)
    done = threading.Event()

    def look():
        syncing.sync_folder(database, site_id)
        done.set()

    threading.Thread(target=look, daemon=True).start()
    assert done.wait(60)
    with database.transaction() as session:
        assert "a" * 60 + "b.html" in {file.path for file in store.load_files(session, site_id)}


@pytest.mark.parametrize("stopped_at", [1, 2, 3])
def test_a_swap_in_two_steps_is_finished_whoever_was_stopped_in_it(database, root, site_id, stopped_at, monkeypatch):
    """In each step the author's file has a name, and gets its own back."""
    from signpost.folders import swapping

    class KilledError(BaseException):
        pass

    edit(database, site_id, "p0.html", PAGE.replace("line 1", "desk"))
    real, count = swapping.give, [0]

    def killing(*asked):
        count[0] += 1
        if count[0] >= stopped_at:
            raise KilledError  # and nothing is put right afterwards
        real(*asked)

    with monkeypatch.context() as patch:
        patch.setattr(swapping, "_rename", lambda *_: False)
        patch.setattr(swapping, "give", killing)
        with pytest.raises(KilledError):
            syncing.sync_folder(database, site_id)
    assert count[0] >= stopped_at
    found = [file.read_text() for file in root.iterdir()]
    assert PAGE in found
    syncing.sync_folder(database, site_id)
    assert (root / "p0.html").read_text() == PAGE.replace("line 1", "desk")
    assert not list(root.glob(".signpost-*"))


def test_what_is_beside_is_not_removed_where_the_system_refuses_to_look(database, root, site_id, monkeypatch):
    """The names were swapped with one that was saved in that moment, and then nothing could be read."""
    edit(database, site_id, "p0.html", PAGE.replace("line 1", "desk"))
    real, swap = writing._is, writing.swap

    def racing(handle, one, other):
        (root / "p0.html").write_text(PAGE.replace("line 6", "saved in that moment"))
        swap(handle, one, other)

    def refusing(*_):
        raise OSError(5, "Input/output error")

    monkeypatch.setattr(writing, "swap", racing)
    monkeypatch.setattr(writing, "_is", refusing)
    monkeypatch.setattr(writing, "is_final", lambda *_: False)
    syncing.sync_folder(database, site_id)
    monkeypatch.undo()
    assert real is writing._is
    syncing.sync_folder(database, site_id)
    assert "saved in that moment" in states(database, site_id)
    assert "desk" in (root / "p0.html").read_text()
    assert "saved in that moment" in (root / "p0.html").read_text()


@pytest.mark.parametrize("then", ["other lines", "as it was", "as the desk has it", "gone"])
def test_a_version_in_conflict_that_its_editor_saves_over_is_in_the_list_of_changes(database, root, site_id, then):
    edit(database, site_id, "p0.html", PAGE.replace("line 1", "desk"))
    (root / "p0.html").write_text(PAGE.replace("line 1", "first of the editor"))
    assert syncing.sync_folder(database, site_id).conflicts == 1
    if then == "gone":
        (root / "p0.html").unlink()
    else:
        versions = {"other lines": "line 6", "as it was": "", "as the desk has it": "line 1"}
        (root / "p0.html").write_text(PAGE.replace(versions[then], "desk") if versions[then] else PAGE)
    for _ in range(2):
        syncing.sync_folder(database, site_id)
    titles = [change.title for change, _ in list_changes(database, site_id)]
    assert titles.count("Saved outside before: p0.html") == 1
    assert "first of the editor" in states(database, site_id)
    assert "desk" in states(database, site_id)
