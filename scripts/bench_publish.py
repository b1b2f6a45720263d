"""Prints how long publishing thousands of small files by WebDAV takes, as a ratio to plain PUTs over one connection.

The host is the kept server over a folder, in a process of its own on this machine.
"""

from __future__ import annotations

import base64
import http.client
import os
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from urllib.parse import urlsplit

from signpost.desk import intake, publication_plans, publishing, targets
from signpost.desk.targets import Surroundings
from signpost.store.database import Database
from signpost.store.records import TargetRecord

FILES = int(sys.argv[1]) if len(sys.argv) > 1 else 5000
HOST = """
import sys
sys.path.insert(0, "tests")
from pathlib import Path
from dav import dav_host
with dav_host(Path(sys.argv[1])) as (address, _):
    print(address, flush=True)
    sys.stdin.read()
"""


def put_plainly(address: str, user: str, password: str, files: list[tuple[str, bytes]]) -> float:
    """Return how long it takes to put files over one connection, in seconds."""
    parts = urlsplit(address)
    said = {"authorization": "Basic " + base64.b64encode(f"{user}:{password}".encode()).decode()}
    connection = http.client.HTTPConnection(parts.hostname or "", parts.port)
    began = time.perf_counter()
    for path, data in files:
        connection.request("PUT", f"/plain-{path}", data, said)
        answer = connection.getresponse()
        answer.read()
        assert answer.status in (200, 201, 204), answer.status  # noqa: S101
    return time.perf_counter() - began


def main() -> None:
    """Run the bench."""
    sys.path.insert(0, "tests")
    from dav import PASSWORD, USER  # noqa: PLC0415

    database = Database(os.environ["DATABASE_URL"])
    database.migrate()
    files = [(f"p{number}.txt", f"file {number} ".encode() * 40) for number in range(FILES)]
    site_id = intake.create_site(database, "Bench").site_id
    intake.bring_in_files(database, site_id, files)
    with tempfile.TemporaryDirectory() as room:
        www = Path(room) / "www"
        www.mkdir()
        with subprocess.Popen(  # noqa: S603 - our own code
            [sys.executable, "-c", HOST, str(www)], stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True
        ) as host:
            address = (host.stdout.readline() if host.stdout else "").strip()
            reach = Surroundings((room,), "", "", f"{room}/secrets.json")
            target = TargetRecord("there", "webdav", address, USER)
            targets.save_target(database, site_id, target, PASSWORD, reach)
            plain = put_plainly(address, USER, PASSWORD, files)
            began = time.perf_counter()
            tag = publication_plans.plan_publication(database, site_id, "there", reach).tag
            done = publishing.publish(database, site_id, "there", tag, reach)
            ours = time.perf_counter() - began
            began = time.perf_counter()
            publication_plans.plan_publication(database, site_id, "there", reach)
            again = time.perf_counter() - began
            host.kill()
    assert (done.sent, done.wrong) == (FILES, ())  # noqa: S101
    print(f"{FILES} files: plain PUTs {plain:.1f} s; planned, published and read back {ours / plain:.1f} times that")
    print(f"planned again, with nothing to send: {again / plain:.2f} times that")


if __name__ == "__main__":
    main()
