"""What the scripts of a published page reach while Chromium walks it: their own origin, and nothing else."""

import os
import select
import socket
import threading
from contextlib import ExitStack, contextmanager
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from types import SimpleNamespace

import pytest

from signpost.browser import devtools
from signpost.browser.chromium import find_chromium, profile, reaching, running
from signpost.browser.live import measure_live
from signpost.core.landings.geometry import Window
from signpost.core.text.errors import RequestError
from signpost.hosting.addresses import is_same_host, led_on, read_address
from signpost.hosting.walking import Heard, fetch, find_unlike

#: Tries every way out that a script has, and says then that it did, at its own origin.
SCRIPT = """
const tries = [];
for (const to of TARGETS) {
  tries.push(fetch(`http://${to}/fetch`, { mode: "no-cors" }));
  tries.push(fetch(`http://${to}/put`, { method: "PUT", body: "mine" }));
  tries.push(new Promise((done) => { const one = new Image(); one.onload = one.onerror = done; one.src = `http://${to}/image`; }));
  tries.push(new Promise((done) => { const one = new WebSocket(`ws://${to}/socket`); one.onopen = one.onerror = done; }));
  tries.push(new Promise((done) => {
    const one = document.createElement("iframe"); one.onload = one.onerror = done; one.src = `http://${to}/frame`;
    document.documentElement.append(one);
  }));
  tries.push(new Promise((done) => {
    const one = document.createElement("link"); one.rel = "preconnect"; one.href = `http://${to}/`;
    document.head.append(one); done();
  }));
  tries.push(new Promise(async (done) => {
    const peer = new RTCPeerConnection({ iceServers: [
      { urls: `stun:${to}` }, { urls: `turn:${to}?transport=tcp`, username: "a", credential: "b" } ] });
    peer.createDataChannel("x");
    peer.onicegatheringstatechange = () => peer.iceGatheringState === "complete" && done();
    await peer.setLocalDescription(await peer.createOffer());
  }));
  navigator.sendBeacon(`http://${to}/beacon`, "x");
}
Promise.allSettled(tries).then(() => fetch("/tried"));
"""
PAGE = "<!DOCTYPE html><title>T</title><h1>T</h1><h2 id=x>X</h2><script>%s</script>"
WINDOW = Window(800, 600)


@contextmanager
def listening(address):
    """Listen at a port of an address, by TCP and by UDP; yield the port and what came."""
    came, over = [], threading.Event()
    with socket.create_server((address, 0)) as calls, socket.socket(type=socket.SOCK_DGRAM) as packets:
        port = calls.getsockname()[1]
        packets.bind((address, port))

        def listen():
            while not over.is_set():
                for one in select.select([calls, packets], [], [], 0.1)[0]:
                    if one is calls:
                        with one.accept()[0] as call:
                            call.settimeout(2)
                            came.append(call.recv(200))
                    else:
                        came.append(one.recv(200))

        thread = threading.Thread(target=listen)
        thread.start()
        yield f"{address}:{port}", came
        over.set()
        thread.join()


@contextmanager
def published(answer):
    """Serve a host that answers with what a function returns for a path: a status, headers and a body."""

    class Handler(BaseHTTPRequestHandler):
        def do_GET(self):
            status, headers, body = answer(self.path)
            self.send_response(status)
            for name, value in {"content-type": "text/html", **headers}.items():
                self.send_header(name, value)
            self.end_headers()
            self.wfile.write(body)

        def log_message(self, *_):
            pass

    with ThreadingHTTPServer(("127.0.0.1", 0), Handler) as server:
        thread = threading.Thread(target=server.serve_forever)
        thread.start()
        yield f"http://127.0.0.1:{server.server_port}/"
        server.shutdown()
        thread.join()


def landings(base, jumps):
    with ExitStack() as stack:
        came = list(measure_live(find_chromium(), base, jumps, WINDOW, stack))
    return {path: found for path, found in came if found is not None}


def test_a_pages_script_reaches_nothing_but_its_own_origin():
    tried = threading.Event()
    with listening("127.0.0.1") as (near, heard_near), listening("127.0.0.2") as (far, heard_far):
        script = SCRIPT.replace("TARGETS", str([near, far, near.replace("127.0.0.1", "localhost")]))

        def answer(path):
            if path == "/tried":
                tried.set()
            elif path == "/wait.html":  # stays open until the other page has tried
                tried.wait(30)
            return 200, {}, (PAGE % (script if path == "/a.html" else "")).encode()

        with published(answer) as base:
            found = landings(base, {"a.html": ["x"], "wait.html": ["x"]})
    assert tried.is_set()
    assert {path: one["x"].state for path, one in found.items()} == {"a.html": "lands", "wait.html": "lands"}
    assert (heard_near, heard_far) == ([], [])


def test_a_page_that_leads_to_another_origin_is_not_followed_there():
    with listening("127.0.0.2") as (elsewhere, heard):
        with published(lambda _: (302, {"location": f"http://{elsewhere}/"}, b"")) as base:
            assert landings(base, {"a.html": ["x"]}) in ({"a.html": {}}, {})
        assert heard == []


@pytest.mark.skipif(os.geteuid() != 0, reason="there is nothing to take away from one who may not do everything")
def test_whoever_may_do_everything_lets_chromium_run_as_one_who_may_do_nothing():
    with profile() as home, running(["sleep", "60"], home) as program:
        said = Path(f"/proc/{program.pid}/status").read_text().splitlines()
    ids = [line.split()[1:] for line in said if line.startswith(("Uid:", "Gid:", "Groups:"))]
    assert len(ids) == 3
    assert not [one for line in ids for one in line if one == "0"]


def test_chromium_keeps_its_sandbox():
    with reaching(["http://127.0.0.1:1"]) as options:
        assert not [one for one in options if "sandbox" in one]


@pytest.mark.parametrize(
    ("address", "goal", "followed"),
    [
        ("http://a.example/x", "/y", True),
        ("http://a.example/x", "http://a.example:80/y", True),
        ("http://a.example/x", "https://a.example/y", True),
        ("https://a.example/x", "http://a.example/y", False),
        ("http://a.example:8017/x", "https://a.example/y", False),
        ("http://a.example/x", "http://a.example:8017/y", False),
        ("http://a.example/x", "http://b.example/y", False),
        ("http://a.example/x", "//b.example/y", False),
    ],
)
def test_redirects_are_followed_within_an_origin(address, goal, followed):
    begun = read_address(address)
    assert is_same_host(begun, led_on(begun, goal)) == followed


def test_files_are_not_asked_for_where_a_redirect_leads_elsewhere():
    with listening("127.0.0.2") as (elsewhere, heard):
        with published(lambda _: (302, {"location": f"http://{elsewhere}/"}, b"")) as base:
            answer = fetch(f"{base}a.html")
        assert (answer.status, answer.chain, heard) == (302, (read_address(f"http://{elsewhere}/"),), [])
    (found,) = find_unlike(None, "a.html", Heard(302, "", "", 1, ""))
    assert "to another host" in found.message


@pytest.mark.parametrize(
    "goal", ["http://[::1", "ftp://a.example/y", "http://a.example:99999/y", "http://a b/", "mailto:a@b.example"]
)
def test_a_redirect_to_what_is_no_address_is_told(goal):
    with published(lambda _: (302, {"location": goal}, b"")) as base, pytest.raises(RequestError, match="address"):
        fetch(f"{base}a.html")


def test_each_end_of_a_pipe_to_the_browser_is_closed_once(monkeypatch):
    """Its number may be that of another file soon after, in a process that does other work as well."""
    closed, pipes = [], []

    def close(handle):
        closed.append(handle)
        os.close(handle)

    def pipe():
        pipes.extend(found := os.pipe())
        return found

    monkeypatch.setattr(devtools, "os", SimpleNamespace(pipe=pipe, close=close, read=os.read, write=os.write))
    with reaching({"http://127.0.0.1:1"}) as options, devtools.open_tab(find_chromium(), options):
        assert closed == [pipes[0], pipes[3]]
    assert sorted(closed) == sorted(pipes)
