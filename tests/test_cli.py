"""The `signpost` command, as other programs call it."""

import json
import os
import subprocess
import sys
from contextlib import chdir, redirect_stderr, redirect_stdout
from io import BytesIO, TextIOWrapper
from pathlib import Path
from unittest import mock

import pytest

from signpost.cli.app import main
from signpost.cli.folder import write_files
from signpost.core.text.diffs import FileDiff, unified_diff
from signpost.desk.demo import demo_files
from signpost.folders import writing

SIGNPOST = Path(sys.executable).with_name("signpost")
PAGE = "<!DOCTYPE html>\n<title>T</title>\n<h1>T</h1>\n<h2>One</h2>\n<p>a\n<h2>Two</h2>\n<p><a href='#gone'>b</a>\n"


def run_process(*arguments, cwd, code=0):
    """Run the command as a program of its own."""
    done = subprocess.run([SIGNPOST, *map(str, arguments)], cwd=cwd, capture_output=True, check=False)
    assert done.returncode == code, done.stderr.decode()
    return done


def run(*arguments, cwd, code=0):
    """Run the command within this process, which is quicker; what it prints and its exit code are the same."""
    command = ["signpost", *map(str, arguments)]
    out, err = (TextIOWrapper(BytesIO(), encoding="utf-8", write_through=True) for _ in range(2))
    ended = 0
    with chdir(cwd), redirect_stdout(out), redirect_stderr(err), mock.patch.object(sys, "argv", command):
        try:
            main()
        except SystemExit as end:
            ended = end.code or 0
    done = subprocess.CompletedProcess(command, ended, out.buffer.getvalue(), err.buffer.getvalue())
    assert code is None or done.returncode == code, done.stderr.decode()
    return done


@pytest.mark.parametrize(
    ("command", "code"),
    [
        (["outline", "page.html", "--json"], 0),
        (["contents", "page.html"], 0),
        (["check", "page.html"], 1),
        (["identify", "gone.html"], 2),
        (["nonsense"], 2),
    ],
)
def test_a_process_of_its_own_prints_the_same(folder, command, code):
    alone, within = run_process(*command, cwd=folder, code=code), run(*command, cwd=folder, code=code)
    assert (alone.stdout, alone.stderr) == (within.stdout, within.stderr)


@pytest.fixture
def folder(tmp_path):
    (tmp_path / "page.html").write_text(PAGE, newline="")
    (tmp_path / "other.html").write_text("<a href=page.html#two>two</a>\n", newline="")
    return tmp_path


@pytest.fixture
def demo(tmp_path):
    for path, data in demo_files().items():
        (tmp_path / path).parent.mkdir(exist_ok=True)
        (tmp_path / path).write_bytes(data)
    return tmp_path


def files_of(folder):
    return {path.relative_to(folder).as_posix(): path.read_bytes() for path in folder.rglob("*") if path.is_file()}


def test_the_outline_says_that_its_lengths_are_an_estimate(demo):
    last = run("outline", "handbook.html", cwd=demo).stdout.decode().strip().splitlines()[-1]
    assert last.startswith("9027 words, 38 minutes; about ")
    assert last.endswith(" windows of 1280 × 800, estimated without a browser")


def test_outline_as_json(demo):
    found = json.loads(run("outline", "handbook.html", "--json", cwd=demo).stdout)
    assert set(found) == {"page", "encoding", "newline", "title", "words", "sections", "targets", "links"}
    assert (found["page"], found["encoding"], found["newline"]) == ("handbook.html", "utf-8", "\n")
    (top,) = found["sections"]
    text = (demo / "handbook.html").read_text()
    section = top["sections"][0]
    assert set(section) == {"level", "text", "id", "line", "start", "end", "words", "lookalike", "sections"}
    assert text[section["start"] :].startswith('<h2 id="first-day">')
    assert text[section["end"] :].startswith('<h2 id="joining">')
    assert text.count("\n", 0, section["start"]) + 1 == section["line"]
    assert {link["kind"] for link in found["links"]} >= {"fragment", "page", "placeholder", "mail", "none"}
    assert {
        "href": "#boiler-care",
        "text": "Boiler care",
        "kind": "fragment",
        "resolves": False,
        "line": 39,
    } in found["links"]
    assert found["targets"][0] == {"id": "first-day", "attribute": "id", "element": "h2", "line": 46}


def test_offsets_count_a_crlf_as_two(demo):
    found = json.loads(run("outline", "history.html", "--json", cwd=demo).stdout)
    assert (found["encoding"], found["newline"]) == ("windows-1252", "\r\n")
    assert found["targets"][0] == {"id": "BEGIN", "attribute": "name", "element": "a", "line": 14}


def test_lookalikes_are_listed_with_the_level_they_would_take(demo):
    found = json.loads(run("outline", "history.html", "--json", cwd=demo).stdout)
    (title,) = found["sections"]
    assert (title["text"], title["level"], title["id"]) == ("The History of our Railway", 1, None)
    assert [(one["text"], one["level"], one["line"], one["id"]) for one in title["sections"]][:2] == [
        ("BEGINNINGS", 2, 15, "BEGIN"),
        ("THE GOOD YEARS", 2, 27, "GOOD"),
    ]
    text = (demo / "history.html").read_bytes().decode("cp1252")

    def check(one):
        assert one["lookalike"] is True
        assert set(one) == {"level", "text", "id", "line", "start", "end", "words", "lookalike", "sections"}
        assert text.count("\n", 0, one["start"]) + 1 == one["line"]
        assert one["start"] < one["end"] <= len(text)
        assert one["words"] > 0
        for inner in one["sections"]:
            assert one["start"] < inner["start"] and inner["end"] <= one["end"]  # noqa: PT018
            check(inner)

    check(title)
    (top,) = json.loads(run("outline", "handbook.html", "--json", cwd=demo).stdout)["sections"]
    inside = [part for section in top["sections"] for part in section["sections"]]
    assert [part["text"] for part in inside if part["lookalike"]] == ["Training and passing out"]


@pytest.mark.parametrize(
    ("options", "real", "closed"),
    [([], True, True), (["--lookalikes"], True, False), (["--close-gaps"], False, True), (["--lookalikes", "--close-gaps"], True, True)],
)  # fmt: skip
def test_headings_are_made_real_and_gaps_closed(folder, options, real, closed):
    page = "<h1>T</h1>\n<p><b>Coal</b></p>\n<p>It is black.</p>\n<h2>One</h2>\n<h4>Two</h4>\n"
    (folder / "page.html").write_text(page, newline="")
    run("headings", "page.html", *options, cwd=folder)
    assert (folder / "page.html").read_text() == page
    run("headings", "page.html", *options, "--write", cwd=folder)
    expected = page.replace("<p><b>Coal</b></p>", "<h2>Coal</h2>") if real else page
    expected = expected.replace("<h4>Two</h4>", "<h3>Two</h3>") if closed else expected
    assert (folder / "page.html").read_text() == expected
    assert run("headings", "page.html", *options, "--write", cwd=folder).stdout == b""


def test_a_rename_reaches_the_whole_site_and_back(demo):
    before = files_of(demo)
    shown = run("rename", "handbook.html", "safety", "keeping-safe", cwd=demo).stdout.decode()
    assert {line[6:] for line in shown.splitlines() if line.startswith("+++ b/")} == {
        "handbook.html",
        "safety.html",
        "style.css",
    }
    assert files_of(demo) == before
    run("rename", "handbook.html", "#safety", "keeping-safe", "--write", cwd=demo)
    assert b"#keeping-safe { color: #a00; }" in (demo / "style.css").read_bytes()
    run("rename", "handbook.html", "keeping-safe", "safety", "--write", cwd=demo)
    assert files_of(demo) == before
    run("rename", "handbook.html", "safety", "keeping-safe", "--keep-old", "--write", cwd=demo)
    assert b'<h2 id="keeping-safe"><span id="safety"></span>Safety</h2>' in (demo / "handbook.html").read_bytes()


def test_scripts_are_named_and_left(folder):
    (folder / "page.html").write_text("<h2 id=one>One</h2>\n<script>go('#one')</script>\n<script src=m.js></script>")
    (folder / "m.js").write_text("go('#one')")
    done = run("rename", "page.html", "one", "two", "--write", cwd=folder)
    assert done.stderr.decode().splitlines() == [
        "signpost: page.html, line 2: a script mentions “one”. Scripts are not edited; look at it.",
        "signpost: m.js, line 1: a script mentions “one”. Scripts are not edited; look at it.",
    ]
    assert (folder / "m.js").read_text() == "go('#one')"


def test_what_other_pages_repeat_is_no_content(folder):
    for name in "abc":
        (folder / f"{name}.html").write_text(
            f"<table><tr><td><h1>Our site</h1><a href=a.html>Home</a></table><h2>{name}</h2><p>a long text of {name} for readers</p>"
        )
    found = json.loads(run("outline", "a.html", "--json", cwd=folder).stdout)
    assert [section["text"] for section in found["sections"]] == ["a"]
    assert found["words"] == 8


@pytest.mark.parametrize("command", [["identify"], ["contents"], ["returns"], ["contents", "--form", "row"]])
def test_without_write_nothing_changes_and_with_it_the_diff_comes_true(folder, command):
    before = files_of(folder)
    shown = run(command[0], "page.html", *command[1:], cwd=folder).stdout
    assert shown.startswith(b"--- a/page.html\n+++ b/page.html\n@@ ")
    assert files_of(folder) == before
    run(command[0], "page.html", *command[1:], "--write", cwd=folder)
    after = files_of(folder)
    assert after["page.html"] != before["page.html"]
    assert after["other.html"] == before["other.html"]
    subprocess.run(["patch", "-p1", "-R", "--binary"], input=shown, cwd=folder, check=True, capture_output=True)
    assert files_of(folder) == before


def test_a_second_run_writes_nothing(folder):
    for command in ("identify", "contents", "returns"):
        run(command, "page.html", "--write", cwd=folder)
    stamp = (folder / "page.html").stat().st_mtime_ns
    for command in ("identify", "contents", "returns"):
        assert run(command, "page.html", "--write", cwd=folder).stdout == b""
    assert (folder / "page.html").stat().st_mtime_ns == stamp
    for command in ("returns", "contents"):
        run(command, "page.html", "--remove", "--write", cwd=folder)
    assert (folder / "page.html").read_text() == PAGE.replace("<h2>One", "<h2 id='one'>One").replace(
        "<h2>Two", "<h2 id='two'>Two"
    )


def test_writing_keeps_the_mode_and_leaves_no_other_file(folder):
    (folder / "page.html").chmod(0o640)
    run("identify", "page.html", "--write", cwd=folder)
    assert (folder / "page.html").stat().st_mode & 0o777 == 0o640
    assert {path.name for path in folder.iterdir()} == {"page.html", "other.html"}


def test_a_change_of_several_files_is_written_whole_or_not_at_all(folder, monkeypatch):
    run("identify", "page.html", "--write", cwd=folder)
    before = files_of(folder)
    swap = writing.swap
    done = []

    def fail_at_the_second(handle, one, other):
        done.append(other)
        if len(done) == 2:
            raise OSError(28, "No space left on device", other)
        return swap(handle, one, other)

    monkeypatch.setattr(writing, "swap", fail_at_the_second)
    with pytest.raises(OSError, match="No space"):
        write_files(folder, {"more.html": b"new", "page.html": b"new", "other.html": b"new"})
    monkeypatch.undo()
    assert files_of(folder) == before
    write_files(folder, {"page.html": b"new", "other.html": None, "d/more.html": b"new"})
    assert files_of(folder) == {"page.html": b"new", "d/more.html": b"new"}


def test_odd_files_of_a_folder_are_passed_over_and_links_out_of_it_never_written_through(folder, tmp_path_factory):
    away = tmp_path_factory.mktemp("away") / "far.html"
    away.write_text(PAGE)
    (folder / "far.html").symlink_to(away)
    (folder / "dangling.html").symlink_to("nothing.html")
    os.mkfifo(folder / "pipe.html")
    (Path(os.fsdecode(bytes(folder) + b"/\xff.html"))).write_text("x")
    done = run("check", ".", "--fail-on", "never", cwd=folder)
    assert b"not UTF-8" in done.stderr
    assert b"dangling.html: a link to something that is not there" in done.stderr
    assert b"far.html is not in" in run("identify", "far.html", "--write", cwd=folder, code=2).stderr
    assert away.read_text() == PAGE
    done = subprocess.run(
        [SIGNPOST, "outline", "page.html"],
        cwd=folder,
        capture_output=True,
        check=True,
        env={"LC_ALL": "C", "PYTHONUTF8": "0"},
    )
    assert b"Two" in done.stdout


def test_a_name_cannot_forge_a_patch():
    forged = "a.html\n--- /dev/null\n+++ b/evil.sh\n@@ -0,0 +1 @@\n+rm"
    patch = unified_diff([FileDiff(forged, b"old\n", b"new\n"), FileDiff('q"b\\.html', b"", b"x")])
    assert b"\n+++ b/evil.sh" not in patch
    assert b'--- "a/a.html\\012--- /dev/null' in patch
    assert b'+++ "b/q\\"b\\\\.html"' in patch


def test_parts_are_written_to_a_folder_with_every_page_whose_links_change(folder):
    before = files_of(folder)
    run("identify", "page.html", "--write", cwd=folder)
    whole = files_of(folder)
    run("parts", "page.html", "--at", "two", "--out", "out", "--write", cwd=folder)
    after = files_of(folder)
    assert {path: data for path, data in after.items() if not path.startswith("out/")} == whole
    assert set(after) - set(before) == {"out/page.html", "out/page-2.html", "out/other.html"}
    assert b"page-2.html#two" in after["out/other.html"]


@pytest.mark.parametrize("choice", [["--into", "5"], ["--level", "2"], ["--at", "safety,boiler,guards"]])
def test_the_demo_page_in_parts_has_no_broken_jump_that_it_did_not_have(demo, choice):
    run("identify", "handbook.html", "--write", cwd=demo)
    before = json.loads(run("check", ".", "--json", "--fail-on", "never", cwd=demo).stdout)["counts"]["error"]
    whole = files_of(demo)
    run("parts", "handbook.html", *choice, "--write", cwd=demo)
    found = json.loads(run("check", ".", "--json", "--fail-on", "never", cwd=demo).stdout)["findings"]
    errors = [finding for finding in found if finding["severity"] == "error"]
    duplicates = sum(finding["rule"] == "identifier-duplicate" for finding in errors)
    assert len(errors) - duplicates <= before
    assert run("parts", "handbook.html", *choice, cwd=demo).stdout == b""
    assert run("parts", "handbook-2.html", "--refresh", cwd=demo).stdout == b""
    run("join", "handbook-3.html", "--write", cwd=demo)
    assert files_of(demo) == whole


def test_joining_writes_nothing_before_it_is_said_whose_footer_stays(demo):
    part = demo / "year-2.html"
    part.write_bytes(part.read_bytes().replace(b"<title>", b"<title>Our "))
    before = files_of(demo)
    assert b"Answer with --frame year.html or --frame year-2.html" in run("join", "year.html", cwd=demo).stderr
    refused = run("join", "year.html", "--write", cwd=demo, code=2)
    assert b"Nothing was written." in refused.stderr
    assert files_of(demo) == before
    run("join", "year.html", "--frame", "year-2.html", "--write", cwd=demo)
    assert b"<title>Our " in (demo / "year.html").read_bytes()


def test_the_parts_and_their_lengths_are_told_before_the_cut(demo):
    found = json.loads(run("parts", "handbook.html", "--words", "3000", "--json", cwd=demo).stdout)
    assert [part["number"] for part in found["parts"]] == [1, 2, 3]
    assert sum(part["words"] for part in found["parts"]) == found["words"]
    assert found["series"] is None
    assert {part["path"] for part in found["parts"]} == {"handbook.html", "handbook-2.html", "handbook-3.html"}
    assert sum(part["share"] for part in found["parts"]) == pytest.approx(1, abs=0.01)
    run("parts", "handbook.html", "--words", "3000", "--names", "{page}/{title}", "--no-forward", "--write", cwd=demo)
    parts = json.loads(run("parts", "handbook.html", "--json", cwd=demo).stdout)
    assert parts["series"] == "handbook"
    assert all(part["path"].startswith("handbook/") for part in parts["parts"][1:])
    known = json.loads(run("outline", "handbook.html", "--json", cwd=demo).stdout)["series"]
    assert (known["part"], known["of"], known["missing"]) == (1, 3, [])
    assert b"moved-sections" not in (demo / "handbook.html").read_bytes()


def test_a_page_is_cut_before_a_block_that_has_an_identifier(folder):
    (folder / "long.html").write_bytes(b"<h1>T</h1>\n<p>one</p>\n<p id=mid>Second thoughts</p>\n<p>three</p>\n")
    run("parts", "long.html", "--at", "mid", "--links", "titles,bottom", "--forward", "list", "--write", cwd=folder)
    assert b"<p id=mid>Second thoughts</p>" in (folder / "long-2.html").read_bytes()
    assert b"<li><a href=long-2.html>Second thoughts</a></li>" in (folder / "long.html").read_bytes()


def test_a_list_made_by_hand_on_the_demo_page_is_adopted_and_a_style_put_in_and_out(demo):
    before = files_of(demo)
    run("contents", "handbook.html", "--write", cwd=demo)
    page = (demo / "handbook.html").read_text()
    assert page.count('<nav class="contents"') == 1
    assert '<li><a href="#carriages">Carriages</a></li>' in page
    with_contents = files_of(demo)
    run("style", ".", "--write", cwd=demo)
    assert "scroll-padding-top: 4rem;" in (demo / "style.css").read_text()
    assert run("style", ".", "--write", cwd=demo).stdout == b""
    run("style", ".", "--remove", "--write", cwd=demo)
    assert files_of(demo) == with_contents
    assert {path for path, data in with_contents.items() if before[path] != data} == {"handbook.html"}


def test_entries_come_from_a_file_and_are_updated(demo):
    (demo / "words.csv").write_text("term,text\npoints,where the line divides\nPoints,again\n")
    shown = run("entries", "glossary.html", "--from", "words.csv", "--in", "w", "--write", cwd=demo)
    assert b"1 new entry, 0 there already, 1 given twice" in shown.stderr
    page = (demo / "glossary.html").read_text()
    assert '<h3 id="points">points</h3>\n    <p>where the line divides</p>\n' in page
    assert run("entries", "glossary.html", "--from", "words.csv", "--in", "w", "--write", cwd=demo).stdout == b""
    run("entries", "glossary.html", "--remove", "--write", cwd=demo)
    assert '<nav class="letters"' not in (demo / "glossary.html").read_text()


def test_check_counts_and_fails(folder):
    found = json.loads(run("check", "page.html", "--json", cwd=folder, code=1).stdout)
    assert found["counts"] == {"error": 1, "warning": 0, "advice": len(found["findings"]) - 1}
    (finding,) = [one for one in found["findings"] if one["severity"] == "error"]
    assert set(finding) == {"rule", "severity", "page", "line", "column", "message", "fix", "reference"}
    assert (finding["rule"], finding["line"], finding["column"]) == ("fragment-missing", 7, 4)
    assert b"page.html:7:4: error: " in run("check", "page.html", "--fail-on", "never", cwd=folder).stdout
    found = json.loads(run("check", ".", "--json", cwd=folder, code=1).stdout)
    assert found["counts"]["error"] == 2  # the other page's link to a section that has no identifier yet


@pytest.mark.parametrize(
    "arguments",
    [
        ["nonsense"],
        ["outline"],
        ["outline", "gone.html"],
        ["outline", "."],
        ["outline", "binary.html"],
        ["identify", "odd.html", "--write"],
        ["headings", "gone.html"],
        ["headings", "odd.html", "--close-gaps", "--nonsense"],
        ["rename", "page.html", "gone", "two"],
        ["rename", "page.html", "one"],
        ["rename", "named.html", "a", "two words", "--write"],
        ["rename", "named.html", "a", "b", "--write"],
        ["rename", "named.html", "a", "top", "--write"],
        ["contents", "page.html", "--levels", "x"],
        ["contents", "page.html", "--form", "cloud"],
        ["contents", "page.html", "--in", "nowhere"],
        ["entries", "page.html"],
        ["entries", "page.html", "--from", "gone.csv"],
        ["entries", "page.html", "--from", "page.html", "--bar", "cloud"],
        ["style", "gone"],
        ["style", ".", "--parts", "glitter"],
        ["style", ".", "--accent", "green", "--write"],
        ["returns", "page.html", "--to", "contents"],
        ["returns", "page.html", "--level", "9"],
        ["parts", "page.html", "--out", "o"],
        ["parts", "page.html", "--into", "2", "--links", "colours"],
        ["parts", "page.html", "--into", "2", "--names", "same", "--write"],
        ["parts", "page.html", "--refresh", "--write"],
        ["parts", "page.html", "--refresh", "--into", "2"],
        ["join", "page.html", "--write"],
        ["parts", "page.html", "--out", "o", "--into", "2", "--level", "2"],
        ["parts", "page.html", "--out", "o", "--into", "50", "--write"],
        ["parts", "page.html", "--out", "o", "--at", "gone", "--write"],
        ["check", "gone"],
        ["check", ".", "--json", "--csv"],
        ["check", ".", "--select", "no-such-rule"],
        ["explain", "no-such-rule"],
        ["fix", "gone", "--write"],
        ["check", ".", "--fail-on", "sometimes"],
        ["outline", "page.html", "--site", "elsewhere"],
    ],
    ids=" ".join,
)
def test_bad_usage_is_one_line_and_writes_nothing(folder, arguments):
    (folder / "binary.html").write_bytes(b"GIF89a\0")
    (folder / "odd.html").write_bytes(b"<meta charset=utf-8><h2>\xe9</h2>")
    (folder / "named.html").write_bytes(b"<p id=a>x</p><p id=b>y</p>")
    before = files_of(folder)
    done = run(*arguments, cwd=folder, code=2)
    lines = done.stderr.decode().splitlines()
    assert len(lines) == 1
    assert lines[0].startswith("signpost: ")
    assert done.stdout == b""
    assert files_of(folder) == before


@pytest.mark.skipif(os.geteuid() == 0, reason="root may write everywhere")
def test_a_folder_that_may_not_be_written_is_one_line(folder):
    folder.chmod(0o500)
    done = run("identify", "page.html", "--write", cwd=folder, code=2)
    folder.chmod(0o700)
    assert done.stderr.count(b"\n") == 1


def test_a_style_sheet_that_was_made_for_the_style_goes_with_it(folder):
    for path in folder.glob("*.css"):
        path.unlink()
    run("returns", "page.html", "--write", cwd=folder)
    before = files_of(folder)
    run("style", ".", "--write", cwd=folder)
    assert "reading.css" in files_of(folder)
    shown = run("style", ".", "--remove", cwd=folder).stdout
    assert b"--- a/reading.css\n+++ /dev/null\n" in shown
    run("style", ".", "--remove", "--write", cwd=folder)
    assert files_of(folder) == before


SLIPS = b"<!DOCTYPE html>\n<html lang=en>\n<title>S</title>\n<h1 id=top-of-it>S</h1>\n<p>1 < 2</p>\n<a href='top-of-it'>up</a>\n"


def test_navigation_is_made_on_all_pages_and_renewed(demo):
    done = run("navigation", "steps", ".", cwd=demo)
    assert done.stdout.count(b'rel="next"') >= 8
    before = files_of(demo)
    run("navigation", "steps", ".", "--write", cwd=demo)
    assert run("navigation", "steps", ".", cwd=demo).stdout == b""
    run("navigation", "steps", ".", "--remove", "--write", cwd=demo)
    assert files_of(demo) == before
    run("navigation", "contents", ".", "--on", "index.html", "--write", cwd=demo)
    assert b'class="site-contents"' in (demo / "index.html").read_bytes()
    assert b"--on" in run("navigation", "index", ".", cwd=demo, code=2).stderr


def test_a_site_is_exported_in_open_forms_and_so_is_one_page(demo):
    assert run("export", "outline.opml", ".", cwd=demo).stdout.startswith(b"<?xml")
    page = run("export", "contents.md", "glossary.html", cwd=demo).stdout
    assert page.startswith(b"- [Glossary](<glossary.html>)")
    assert b"own address" in run("export", "sitemap.xml", ".", cwd=demo, code=2).stderr
    found = run("export", "sitemap.xml", ".", "--base", "https://line.example/", cwd=demo).stdout
    assert b"<loc>https://line.example/handbook.html</loc>" in found


def test_findings_are_chosen_exported_explained_and_fixed(folder):
    (folder / "slips.html").write_bytes(SLIPS)
    found = json.loads(run("check", "slips.html", "--json", cwd=folder, code=1).stdout)["findings"]
    assert {"hash-missing", "less-than-raw", "viewport-missing"} <= {finding["rule"] for finding in found}
    only = run("check", "slips.html", "--select", "less-than-raw", cwd=folder).stdout.decode()
    assert only == "slips.html:5:6: advice: This < is text, not the beginning of a tag. Written as &lt; it stays so whatever comes behind it. [less-than-raw]\n"  # fmt: skip
    without = run(
        "check", "slips.html", "--csv", "--ignore", "hash-missing,page-unlinked", cwd=folder
    ).stdout.decode()
    assert without.splitlines()[0] == "page,line,column,severity,rule,message,fix,reference"
    assert "hash-missing" not in without
    sarif = json.loads(run("check", "slips.html", "--sarif", "--fail-on", "never", cwd=folder).stdout)
    results = sarif["runs"][0]["results"]
    assert len(results) == len(found)
    assert {result["ruleId"] for result in results} == {
        rule["id"] for rule in sarif["runs"][0]["tool"]["driver"]["rules"]
    }
    assert results[0]["locations"][0]["physicalLocation"]["artifactLocation"]["uri"] == "slips.html"
    assert b'Wrong: <a href="boiler">' in run("explain", "hash-missing", cwd=folder).stdout
    run("fix", "slips.html", "--select", "hash-missing,less-than-raw", "--write", cwd=folder)
    assert (folder / "slips.html").read_bytes() == SLIPS.replace(b"1 < 2", b"1 &lt; 2").replace(
        b"'top-of-it'", b"'#top-of-it'"
    )
    assert run("fix", "slips.html", "--select", "hash-missing", cwd=folder).stdout == b""


TOML = b"""[check]
off = ["title-repeated"]
left-out = ["old"]
[check.severity]
fragment-missing = "advice"
[identifiers]
levels = [3]
[regions]
content = ".body"
"""


def test_the_site_s_own_file_is_read_by_every_command(tmp_path):
    page = b"<html lang=en><title>T</title><h1>T</h1><div class=body><h2>A</h2><p>a</p><h3>B</h3><p><a href=#no>b</a></p></div>"
    (tmp_path / "old").mkdir()
    for name in ("a.html", "b.html", "old/c.html"):
        (tmp_path / name).write_bytes(page)
    (tmp_path / "signpost.toml").write_bytes(TOML)
    found = json.loads(run("check", ".", "--json", cwd=tmp_path).stdout)["findings"]
    assert {one["page"] for one in found} == {"a.html", "b.html"}
    assert {one["severity"] for one in found if one["rule"] == "fragment-missing"} == {"advice"}
    assert "title-repeated" not in {one["rule"] for one in found}
    assert [
        one["text"] for one in json.loads(run("outline", "a.html", "--json", cwd=tmp_path).stdout)["sections"]
    ] == ["A"]
    given = run("identify", "a.html", cwd=tmp_path).stdout
    assert b"<h3 id=b>" in given
    assert b"<h2 id" not in given
    (tmp_path / "signpost.toml").write_bytes(b'[check]\noff = ["nothing"]\n')
    refused = run("check", ".", cwd=tmp_path, code=2)
    assert refused.stderr.startswith(b"signpost: signpost.toml: there is no rule")


def test_fix_does_what_needs_no_question_and_what_is_selected(tmp_path):
    page = tmp_path / "a.html"
    page.write_bytes(b"<html lang=en><title>T</title><h1 id=boilers>T</h1><p>1 < 2</b> <a href=#boilrz>b</a></p>")
    run("fix", "a.html", "--write", cwd=tmp_path)
    assert b"<p>1 &lt; 2 <a href=#boilrz>" in page.read_bytes()
    assert run("fix", "a.html", "--select", "fragment-missing", cwd=tmp_path).stdout == b""
    asked = ["fix", "a.html", "--select", "fragment-missing", "--choice", "1"]
    assert run(*asked, "--ask-none", cwd=tmp_path).stdout == b""
    run(*asked, "--write", cwd=tmp_path)
    assert b"<a href=#boilers>" in page.read_bytes()


def test_the_help_that_is_kept_is_that_of_the_commands(tmp_path, monkeypatch):
    monkeypatch.setenv("COLUMNS", "80")
    done = run("--help", cwd=tmp_path)  # made from the commands
    kept = run_process("--help", cwd=tmp_path)
    assert kept.stdout == done.stdout, "run scripts/write_help.py"


def test_a_page_moves_with_its_links(tmp_path):
    (tmp_path / "a.html").write_text("<title>A</title><h1 id=x>A</h1>\n<a href=b.html>b</a>\n")
    (tmp_path / "b.html").write_text("<title>B</title><a href='a.html#x'>a</a>\n")
    (tmp_path / "a.html").chmod(0o640)
    before = {path.name: path.read_bytes() for path in tmp_path.iterdir()}
    shown = run("move", "a.html", "deep/er/c.html", cwd=tmp_path)
    assert {path.name: path.read_bytes() for path in tmp_path.iterdir()} == before
    (tmp_path / "copy").mkdir()
    for name, data in before.items():
        (tmp_path / "copy" / name).write_bytes(data)
    subprocess.run(["patch", "-p1", "-s"], cwd=tmp_path / "copy", input=shown.stdout, check=True)
    run("move", "a.html", "deep/er/c.html", "--forward", "--write", cwd=tmp_path)
    moved = tmp_path / "deep/er/c.html"
    assert moved.stat().st_mode & 0o777 == 0o640
    assert moved.read_text() == "<title>A</title><h1 id=x>A</h1>\n<a href=../../b.html>b</a>\n"
    assert (tmp_path / "b.html").read_text() == "<title>B</title><a href='deep/er/c.html#x'>a</a>\n"
    assert 'location.replace("deep/er/c.html"' in (tmp_path / "a.html").read_text()
    assert (tmp_path / "copy/deep/er/c.html").read_bytes() == moved.read_bytes()
    assert (tmp_path / "copy/b.html").read_bytes() == (tmp_path / "b.html").read_bytes()
    assert not (tmp_path / "copy/a.html").exists()


def test_a_folder_moves_and_leaves_nothing_behind(tmp_path):
    (tmp_path / "old/in").mkdir(parents=True)
    (tmp_path / "old/in/a.html").write_text("<title>A</title><img src=../p.png alt=''>\n")
    (tmp_path / "old/p.png").write_bytes(b"\x89PNG\0")
    (tmp_path / "b.html").write_text("<title>B</title><a href='old/in/a.html'>a</a>\n")
    run("move", "old", "new", "--write", cwd=tmp_path)
    assert sorted(path.relative_to(tmp_path).as_posix() for path in tmp_path.rglob("*") if path.is_file()) == [
        "b.html", "new/in/a.html", "new/p.png",
    ]  # fmt: skip
    assert not (tmp_path / "old").exists()
    assert (tmp_path / "b.html").read_text() == "<title>B</title><a href='new/in/a.html'>a</a>\n"
    (tmp_path / "more").mkdir()
    run("move", "new/in/a.html", "more", "--site", ".", "--write", cwd=tmp_path)
    assert (tmp_path / "more/a.html").read_text() == "<title>A</title><img src=../new/p.png alt=''>\n"
    assert not (tmp_path / "new/in").exists()


@pytest.mark.parametrize("arguments", [("gone.html", "c.html"), ("a.html", "../c.html"), ("a.html", "b.html")])
def test_a_move_that_cannot_be_says_why(tmp_path, arguments):
    for name in ("a.html", "b.html"):
        (tmp_path / name).write_text("<title>A</title>\n")
    done = run("move", *arguments, "--write", cwd=tmp_path, code=2)
    assert done.stderr.startswith(b"signpost: ")
    assert sorted(path.name for path in tmp_path.iterdir()) == ["a.html", "b.html"]


def test_links_are_listed_and_led_elsewhere_by_the_list(tmp_path):
    (tmp_path / "a.html").write_text("<title>A</title>\n<a href=b.html>b</a>\n")
    listed = run("links", ".", cwd=tmp_path)
    assert listed.stdout.decode() == "a.html:2: b → b.html  (no file)\n"
    table = run("links", ".", "--csv", cwd=tmp_path).stdout.decode()
    (tmp_path / "links.csv").write_text(table.replace(",no file,\n", ",no file,c.html\n"))
    diff = run("links", ".", "--from", "links.csv", cwd=tmp_path)
    assert b"+<a href=c.html>b</a>" in diff.stdout
    assert (tmp_path / "a.html").read_text() == "<title>A</title>\n<a href=b.html>b</a>\n"
    run("links", ".", "--from", "links.csv", "--write", cwd=tmp_path)
    assert (tmp_path / "a.html").read_text() == "<title>A</title>\n<a href=c.html>b</a>\n"
    assert run("links", ".", "--from", "links.csv", "--write", cwd=tmp_path).stdout == b""
    run("links", ".", "--from", "a.html", cwd=tmp_path, code=2)
    assert json.loads(run("links", ".", "--json", cwd=tmp_path).stdout)["links"][0]["address"] == "c.html"


def test_a_recipe_is_carried_out_over_a_folder(tmp_path):
    (tmp_path / "site").mkdir()
    (tmp_path / "site/a.html").write_text(PAGE)
    recipe = tmp_path / "spring.toml"
    recipe.write_text('[[step]]\ndo = "identify"\n')
    assert b"+<h2 id='one'>One</h2>" in run("run", "spring.toml", "site", cwd=tmp_path).stdout
    assert (tmp_path / "site/a.html").read_text() == PAGE
    run("run", "spring.toml", "site", "--write", cwd=tmp_path)
    assert "<h2 id='one'>One</h2>" in (tmp_path / "site/a.html").read_text()
    assert run("run", "spring.toml", "site", "--write", cwd=tmp_path).stdout == b""
    recipe.write_text('[[step]]\ndo = "dance"\n')
    assert b"do is one of" in run("run", "spring.toml", "site", cwd=tmp_path, code=2).stderr
    assert b"not there" in run("run", "none.toml", "site", cwd=tmp_path, code=2).stderr
