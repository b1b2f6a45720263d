"""The commands that open a folder at the desk, and copy the demo's files."""

import socket
import subprocess
import sys
import threading
import time
import urllib.request
from pathlib import Path

import pytest
import uvicorn

from signpost.desk.demo import demo_files
from signpost.web.app import create_app

SIGNPOST = Path(sys.executable).with_name("signpost")


def signpost(*arguments, code=0):
    done = subprocess.run([SIGNPOST, *map(str, arguments)], capture_output=True, text=True, check=False)
    assert done.returncode == code, done.stderr
    return done


@pytest.fixture
def port(database, tmp_path):
    """The application on a port, which may open folders within the test's own."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    app = create_app(database, folders=(str(tmp_path),))
    server = uvicorn.Server(uvicorn.Config(app, host="127.0.0.1", port=port, log_level="warning"))
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started:
        time.sleep(0.05)
    yield port
    server.should_exit = True
    thread.join(10)


def test_the_demo_is_copied_to_a_new_folder_and_never_over_one(tmp_path):
    signpost("demo", tmp_path / "try")
    found = {
        file.relative_to(tmp_path / "try").as_posix(): file.read_bytes()
        for file in (tmp_path / "try").rglob("*")
        if file.is_file()
    }
    assert found == demo_files()
    refused = signpost("demo", tmp_path / "try", code=2)
    assert refused.stderr.startswith("signpost: ")
    assert "there already" in refused.stderr


def test_a_folder_is_opened_at_the_desk_that_is_running(port, tmp_path):
    root = tmp_path / "line"
    root.mkdir()
    (root / "a.html").write_text("<title>A</title><h1>A</h1>")
    first = signpost("desk", root, "--port", port, "--no-browser").stdout.strip()
    assert first.startswith(f"http://127.0.0.1:{port}/sites/")
    assert signpost("desk", root, "--port", port, "--no-browser").stdout.strip() == first
    api = first.replace("/sites/", "/api/sites/")
    (root / "a.html").write_text("<title>A</title><h1>Changed outside</h1>")
    for _ in range(200):
        with urllib.request.urlopen(f"{api}/source?path=a.html") as answer:  # noqa: S310 - our own server
            if b"Changed outside" in answer.read():
                break
        time.sleep(0.05)
    else:
        pytest.fail("the desk did not follow")


def test_what_cannot_be_opened_is_one_line(port, tmp_path):
    for folder, words in [(tmp_path / "none", "not a folder"), (Path("/usr"), "outside the folders")]:
        refused = signpost("desk", folder, "--port", port, "--no-browser", code=2)
        assert words in refused.stderr
        assert refused.stderr.count("\n") == 1
