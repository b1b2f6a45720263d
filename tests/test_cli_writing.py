"""What the command writes: all or nothing whatever ends it, over nothing that was saved since, and where it belongs."""

import os
import random
import signal
import subprocess
import sys
from pathlib import Path

import pytest

from signpost.cli import folder as cli_folder
from signpost.cli.folder import find_root
from test_cli import run

#: Runs the command, and does something right before a file gets its place for the n-th time.
PROGRAM = """
import os, pathlib, sys
from signpost.folders import writing
count, what = int(sys.argv.pop(1)), sys.argv.pop(1)
def before(real):
    def call(handle, one, other):
        global count
        count -= 1
        if count == 0:
            exec(what)
        return real(handle, one, other)
    return call
writing.swap, writing.give = before(writing.swap), before(writing.give)
from signpost.cli.app import main
main()
"""
PAGES = {
    f"p{number}.html": f"<h1>P{number}</h1>\n<p><a href='p0.html#gone'>x</a>\n<h2>A</h2>\n" for number in range(6)
}
PAGES["p0.html"] = "<h1>P0</h1>\n<h2 id=old>Old</h2>\n"
RENAME = ["move", "p0.html", "first.html", "--write"]


@pytest.fixture
def site(tmp_path):
    folder = tmp_path / "site"
    folder.mkdir()
    for name, text in PAGES.items():
        (folder / name).write_text(text)
    return folder


def texts(folder: Path) -> dict[str, str]:
    return {file.relative_to(folder).as_posix(): file.read_text() for file in folder.rglob("*") if file.is_file()}


def interrupted(folder: Path, count: int, what: str, *command: str) -> subprocess.CompletedProcess:
    arguments = [sys.executable, "-c", PROGRAM, str(count), what, *command]
    return subprocess.run(arguments, cwd=folder, capture_output=True, check=False, timeout=60)


@pytest.mark.parametrize(
    ("number", "code"), [(signal.SIGTERM, 143), (signal.SIGHUP, 129), (signal.SIGINT, 130)], ids=str
)
@pytest.mark.parametrize("count", [1, 4, 7])
def test_a_run_that_is_stopped_leaves_all_as_it_was(site, number, code, count):
    before = texts(site)
    done = interrupted(site, count, f"os.kill(os.getpid(), {int(number)})", *RENAME)
    assert (done.returncode, done.stderr) == (code, b"signpost: Stopped; nothing was written.\n")
    assert texts(site) == before


@pytest.mark.parametrize("count", [1, 2, 4, 7])
def test_what_a_killed_run_left_half_written_is_put_back_by_the_next_one(site, count):
    before = texts(site)
    done = interrupted(site, count, "os.kill(os.getpid(), 9)", *RENAME)
    assert done.returncode == -9
    assert texts(site) != before
    said = run("outline", "p1.html", cwd=site).stderr
    assert b"they are as they were" in said
    assert texts(site) == before
    assert run("outline", "p1.html", cwd=site).stderr == b""


def test_what_was_edited_after_a_run_was_killed_stays_and_what_was_there_before_is_beside_it(site):
    interrupted(site, 5, "os.kill(os.getpid(), 9)", *RENAME)
    changed = next(name for name in PAGES if (site / name).exists() and (site / name).read_text() != PAGES[name])
    (site / changed).write_text("edited since")
    said = run("outline", "p5.html", cwd=site).stderr
    assert f"{changed}.orig".encode() in said
    assert (site / changed).read_text() == "edited since"
    assert (site / f"{changed}.orig").read_text() == PAGES[changed]
    assert {name: text for name, text in texts(site).items() if not name.startswith(changed)} == {
        name: text for name, text in PAGES.items() if name != changed
    }


def test_a_run_that_is_killed_once_all_is_written_is_finished(site):
    done = interrupted(site, 100, "", *RENAME)
    assert done.returncode == 0
    after = texts(site)
    for name, text in PAGES.items():
        (site / name).write_text(text)
    (site / "first.html").unlink()
    code = "from signpost.cli import writing; writing._tidy = lambda *_: os.kill(os.getpid(), 9)"
    assert interrupted(site, 1, f"import os; {code}", *RENAME).returncode == -9
    assert run("outline", "p1.html", cwd=site).returncode == 0
    assert texts(site) == after


def test_another_run_at_work_is_waited_for(site):
    interrupted(site, 2, "os.kill(os.getpid(), 9)", *RENAME)
    journal = site / cli_folder.JOURNAL
    said = journal.read_text()
    mine = f'"process": {os.getppid()}, "began": "{Path(f"/proc/{os.getppid()}/stat").read_text().split()[21]}"'
    journal.write_text(mine.join(["{", said[said.index(', "done"') :]]))
    assert b"Another signpost command" in run("outline", "p1.html", cwd=site, code=2).stderr
    journal.write_text("{")
    assert b"is damaged" in run("outline", "p1.html", cwd=site, code=2).stderr


@pytest.mark.parametrize("how", ["in place", "replaced"])
@pytest.mark.parametrize("count", [1, 3, 6])
def test_a_file_that_is_saved_meanwhile_is_not_written_over(site, how, count):
    """An editor saves another page of the site in the moment in which the run puts the n-th file in its place."""
    place = "pathlib.Path('p4.html')"
    save = {
        "in place": f"{place}.write_text('saved by hand')",
        "replaced": f"pathlib.Path('new').write_text('saved by hand'); os.replace('new', {place})",
    }[how]
    before = texts(site)
    done = interrupted(site, count, save, *RENAME)
    after = texts(site)
    if done.returncode == 0:  # it was put there already, and edited after that
        assert after["p4.html"] == "saved by hand"
        return
    assert (done.returncode, b"saved by somebody else" in done.stderr, b"Traceback" in done.stderr) == (
        2,
        True,
        False,
    )
    assert after == {**before, "p4.html": "saved by hand"}


@pytest.mark.parametrize("turns", [40, pytest.param(200, marks=pytest.mark.long)])
def test_saves_in_the_moment_of_a_write(site, turns):
    """The law for the command: whatever was saved by hand is there, and the run is whole or did nothing."""
    seed = random.Random(3)
    real, before = cli_folder.carry_out, texts(site)
    counted = {"whole": 0, "nothing": 0}
    from signpost.folders import writing

    swap, give = writing.swap, writing.give
    for turn in range(turns):
        at, victim, how = seed.randrange(1, 8), f"p{seed.randrange(1, 6)}.html", seed.choice(["place", "replace"])
        mark, left = f"saved {turn}", [at]

        def race(call, *asked, left=left, victim=victim, how=how, mark=mark):
            left[0] -= 1
            if left[0] == 0:
                waiting = site / ("new" if how == "replace" else victim)
                waiting.write_text(mark)
                waiting.replace(site / victim)
            return call(*asked)

        writing.swap, writing.give = (lambda *asked: race(swap, *asked)), (lambda *asked: race(give, *asked))
        try:
            done = run(*RENAME, cwd=site, code=None)
        finally:
            writing.swap, writing.give = swap, give
        after = texts(site)
        if left[0] <= 0:
            assert mark in after[victim], (turn, at, victim, how)
        whole = "first.html" in after
        counted["whole" if whole else "nothing"] += 1
        assert done.returncode == (0 if whole else 2)
        if not whole:
            assert {name: text for name, text in after.items() if name != victim} == {
                name: text for name, text in before.items() if name != victim
            }
        assert not [name for name in after if name.startswith(".")]
        (site / "first.html").unlink(missing_ok=True)
        for name, text in before.items():
            (site / name).write_text(text)
    assert real is cli_folder.carry_out
    assert min(counted.values()) > turns // 20, counted


@pytest.mark.parametrize("marked", ["signpost.toml", ".git", ".hg"])
def test_the_site_of_a_page_in_a_subfolder_is_found_above_it(tmp_path, marked):
    root = tmp_path / "site"
    (root / "deep" / "deeper").mkdir(parents=True)
    (root / "index.html").write_text("<a href='deep/deeper/p.html#a'>p</a>")
    page = root / "deep" / "deeper" / "p.html"
    page.write_text("<h1>P</h1><h2 id=a>A</h2>")
    assert find_root(page) == page.parent
    (root / marked).mkdir() if marked.startswith(".") else (root / marked).write_text("")
    assert find_root(page) == root
    done = run("rename", "p.html", "a", "b", "--write", cwd=page.parent)
    assert "p.html#b" in (root / "index.html").read_text()
    assert b"--- a/deep/deeper/p.html" in done.stdout  # the other page is not below
    assert b"are those from" in done.stderr
    run("move", "deep/deeper/p.html", "deep/q.html", "--write", cwd=root)
    assert "deep/q.html#b" in (root / "index.html").read_text()


def test_a_diff_has_the_paths_that_patch_takes_where_one_stands(tmp_path):
    root = tmp_path / "site"
    (root / "deep").mkdir(parents=True)
    (root / ".git").mkdir()
    (root / "deep" / "p.html").write_text("<h1>P</h1>\n<h2>A</h2>\n")
    (root / "other.html").write_text("<p>other")
    for cwd, page in [(root / "deep", "p.html"), (root, "deep/p.html"), (tmp_path, "site/deep/p.html")]:
        diff = run("identify", page, cwd=cwd).stdout
        assert f"+++ b/{page}".encode() in diff
        subprocess.run(["patch", "-p1", "--dry-run"], cwd=cwd, input=diff, check=True, stdout=subprocess.DEVNULL)


@pytest.mark.parametrize("command", [["rename", "p.html", "a", "b"], ["move", "p.html", "q.html"]])
def test_links_above_a_folder_that_nothing_marks_ask_for_the_site(tmp_path, command):
    (tmp_path / "deep").mkdir()
    (tmp_path / "index.html").write_text("<a href='deep/p.html#a'>p</a>")
    (tmp_path / "deep" / "p.html").write_text("<h2 id=a>A</h2><a href='../index.html'>up</a>")
    said = run(*command, "--write", cwd=tmp_path / "deep", code=2).stderr
    assert b"--site" in said
    run(*command, "--site", "..", "--write", cwd=tmp_path / "deep")
    assert "#b" in (tmp_path / "index.html").read_text() or "q.html" in (tmp_path / "index.html").read_text()


@pytest.mark.parametrize("command", ["check", "fix", "links", "export"])
def test_what_is_left_out_of_the_site_is_no_part_of_it_for_any_command(tmp_path, command):
    bad = "<h1>T</h1><p><a href='#gone'>x</a><img src=a.png>"
    for name in ("index.html", "node_modules/x/n.html", "build/b.html", "drafts/d.html"):
        (tmp_path / name).parent.mkdir(parents=True, exist_ok=True)
        (tmp_path / name).write_text(bad)
    (tmp_path / ".gitignore").write_text("build/\n")
    (tmp_path / "signpost.toml").write_text('[folder]\nignore = ["drafts/"]\n')
    before = texts(tmp_path)
    extra = {
        "fix": ["--write"],
        "check": ["--fail-on", "never"],
    }.get(command, [])
    asked = ["outline.json", "."] if command == "export" else ["."]
    done = run(command, *asked, *extra, cwd=tmp_path, code=None)
    said = done.stdout + done.stderr
    assert done.returncode in (0, 2), said
    assert not [name for name in (b"n.html", b"b.html", b"d.html") if name in said], said
    after = texts(tmp_path)
    assert {name: text for name, text in after.items() if name != "index.html"} == {
        name: text for name, text in before.items() if name != "index.html"
    }


@pytest.mark.parametrize("said", ["n = " + "9" * 5000, "n = " + "[" * 3000], ids=["digits", "brackets"])
def test_a_site_file_beyond_all_measure_is_one_line_of_words(site, said):
    (site / "signpost.toml").write_text(said)
    done = run("check", ".", cwd=site, code=2)
    assert done.stderr.count(b"\n") == 1
    assert b"signpost.toml cannot be read" in done.stderr


def test_a_file_of_the_authors_own_is_not_written_over_by_what_is_kept(site):
    (site / "p3.html.orig").write_text("of a merge of mine")
    interrupted(site, 6, "os.kill(os.getpid(), 9)", *RENAME)
    changed = [name for name in PAGES if (site / name).exists() and (site / name).read_text() != PAGES[name]]
    for name in changed:
        (site / name).write_text("edited since")
        (site / f"{name}.orig").exists() or (site / f"{name}.orig").write_text("of a merge of mine")
    said = run("outline", "p5.html", cwd=site).stderr.decode()
    assert changed
    for name in changed:
        assert (site / f"{name}.orig").read_text() == "of a merge of mine"
        assert (site / f"{name}.orig1").read_text() == PAGES[name]
        assert f"{name}.orig1" in said


def test_what_an_editor_saves_into_a_file_that_it_had_open_is_kept(site):
    """It opened the file before the run, and saves after all was written."""
    code = """
import threading, time
editor = open('p4.html', 'r+')
def save(time=time, editor=editor):
    time.sleep(0.4)
    editor.write('saved late')
    editor.truncate()
    editor.close()
threading.Thread(target=save).start()
"""
    done = interrupted(site, 1, code, *RENAME)
    assert (done.returncode, b"p4.html.orig was saved" in done.stderr) == (0, True), done.stderr
    assert (site / "p4.html.orig").read_text() == "saved late"
    assert "first.html" in (site / "p4.html").read_text()


def test_one_run_at_a_time_has_a_folder(site):
    """Another one that began after this one looked is refused, and writes nothing."""
    before = texts(site)
    other = f"import subprocess, sys; done = subprocess.run([sys.executable, '-c', {PROGRAM!r}, '99', '', 'move', 'p1.html', 'q.html', '--write'], capture_output=True); print(done.returncode, done.stderr.decode(), file=sys.stderr)"
    done = interrupted(site, 3, other, *RENAME)
    assert done.returncode == 0, done.stderr
    assert b"2 signpost: Another signpost command is writing" in done.stderr
    assert not (site / "q.html").exists()
    assert (site / "p1.html").exists()
    assert before.keys() - texts(site).keys() == {"p0.html"}
