"""What only a rendered page tells, by the command and on the screen."""

import json
import shutil
import struct
import zlib

import pytest
from typer.testing import CliRunner

from signpost.browser import chromium
from signpost.cli.app import command_app

HEAD = (
    '<!DOCTYPE html><html lang=en><meta name=viewport content="width=device-width"><title>{0}</title>'
    "<style>body {{ margin: 0 0 0 {1}px; width: 700px }} nav {{ position: fixed; left: 0; top: 0; width: 200px }} "
    "pre {{ background: #eee; width: 300px; overflow-x: {2} }} .hush {{ display: none }}</style>"
)
TEXT = (
    "<nav><ul><li>Boilers<li>Brakes<li>Couplings<li>Signals<li>Stations</ul></nav><main><h1>T</h1>"
    "<p><img src=cab.png alt=Cab width={3} height={3}></p>"
    "<pre>{4}</pre>" + "<p>Words that are long enough to fill a line of the page, and then some more.</p>" * 60
)
LONG = "x" * 90
WRONG = (HEAD + TEXT).format("W", 150, "visible", 100, LONG)
RIGHT = (HEAD + TEXT).format("R", 220, "auto", 400, LONG)
HIDDEN = RIGHT.replace("<main>", f"<main><pre class=hush style='overflow: visible'>{LONG}</pre>")


def picture(width: int, height: int) -> bytes:
    """A picture of one colour (Portable Network Graphics 1.2, 3 and 4)."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    rows = b"".join(b"\0" + b"\x7f" * width for _ in range(height))
    head = struct.pack(">IIBBBBB", width, height, 8, 0, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(rows)) + chunk(b"IEND", b"")


@pytest.fixture
def folder(tmp_path):
    (tmp_path / "cab.png").write_bytes(picture(800, 800))
    for name, page in (("wrong.html", WRONG), ("right.html", RIGHT), ("hidden.html", HIDDEN)):
        (tmp_path / name).write_text(page)
    return tmp_path


def check(path, *options):
    options = ["--json", "--fail-on", "never", *options]
    return CliRunner().invoke(command_app("check"), ["check", str(path), *options], catch_exceptions=False)


MISFITS = ["picture-too-large", "sample-too-wide", "side-over-text"]


def test_the_command_measures(folder):
    done = check(folder, "--measure", "--select", ",".join(MISFITS))
    found = json.loads(done.stdout)["findings"]
    assert sorted(one["rule"] for one in found) == MISFITS
    assert {one["page"] for one in found} == {"wrong.html"}
    told = {one["rule"]: one["message"] for one in found}
    assert "800 × 800 pixels and is shown at 100 × 100" in told["picture-too-large"]
    assert "lies over up to 50 pixels" in told["side-over-text"]
    assert not done.stderr


def test_landings_are_found_too(folder):
    jump = "<p><a href='#end'>The end</a></p>"
    (folder / "wrong.html").write_text(RIGHT.replace("<h1>", jump + "<h1>") + "<h2 id=end>The end</h2>")
    found = json.loads(check(folder / "wrong.html", "--measure").stdout)["findings"]
    assert "landing-short" in {one["rule"] for one in found}


def test_without_chromium_the_rest_is_checked_and_it_says_so(folder, monkeypatch):
    monkeypatch.setattr(shutil, "which", lambda _: None)
    done = check(folder, "--measure")
    assert done.exit_code == 0
    assert not {one["rule"] for one in json.loads(done.stdout)["findings"]} & set(MISFITS)
    assert "Chromium is not installed" in done.stderr


def test_a_chromium_that_does_not_work_is_told(folder, monkeypatch):
    monkeypatch.setattr(chromium, "find_chromium", lambda: "/bin/false")
    done = check(folder, "--measure")
    assert "Chromium did not render" in done.stderr
    assert json.loads(done.stdout)["findings"]


def test_a_page_s_own_scripts_stay_silent_and_nothing_leaves_the_machine(folder):
    page = (
        RIGHT
        + "<script>document.querySelector('pre').style.overflow = 'visible'</script><img src=http://192.0.2.1/x>"
    )
    (folder / "wrong.html").write_text(page)
    found = json.loads(check(folder / "wrong.html", "--measure").stdout)["findings"]
    assert not {one["rule"] for one in found} & set(MISFITS)
