"""Killed at any time, application or database, a site keeps every change that was acknowledged, and no half of one."""

import multiprocessing
import os
import random
import re
import secrets
import shutil
import signal
import subprocess
import time
from pathlib import Path

import pytest
from sqlalchemy.exc import OperationalError

from signpost.core.operations.headings import Words
from signpost.desk import changes, intake, takeout
from signpost.desk.errors import UnsureError
from signpost.store.database import Database
from sites import unpacked

ROOT = Path(__file__).parent.parent.parent
#: How often the application is killed, and how often the database, which takes longer to come back; SIGNPOST_LONG
#: makes it a thousand times each.
KILLS, DATABASE_KILLS = (1000, 1000) if os.environ.get("SIGNPOST_LONG") else (30, 10)
FILES = {
    "p.html": b"<!DOCTYPE html><title>T</title><h1>T</h1><h2>A</h2><p>a</p><h2>B</h2><p>b</p>",
    "q.html": b"<!DOCTYPE html><title>Q</title><h1>Q</h1><p><a href=p.html#a>a</a></p>",
}


def reword_in_turn(url, site_id, pipe):
    """Give a section other words again and again, and tell of each change that was acknowledged."""
    database = Database(url)
    while True:
        words = f"name-{secrets.token_hex(6)}"
        parameters = {"section": 1, "words": words}
        try:
            plan = changes.plan_change(database, site_id, "p.html", Words(**parameters))
            pipe.send(("trying", words))
            changes.apply_change(database, site_id, "p.html", Words(**parameters), plan.tag)
            pipe.send(("done", words))
        except (OperationalError, UnsureError):  # the database is gone
            os._exit(1)


def begin(url, site_id):
    ours, theirs = multiprocessing.get_context("fork").Pipe()
    process = multiprocessing.get_context("fork").Process(
        target=reword_in_turn, args=(url, site_id, theirs), daemon=True
    )
    process.start()
    theirs.close()
    return process, ours


def heard(pipe):
    """All that a process said before it ended."""
    said = []
    try:
        while pipe.poll(0.05):
            said.append(pipe.recv())
    except (EOFError, ConnectionResetError):
        pass
    return said


def wait_for_a_change(pipe):
    """All that a process says until a change of its was acknowledged."""
    said = []
    while not said or said[-1][0] != "done":
        said.append(pipe.recv())
    return said


def new_site(database):
    site_id = intake.create_site(database, "Kills").site_id
    intake.bring_in_files(database, site_id, FILES.items())
    return site_id


def check(database, site_id, said, known):
    """What was acknowledged is there; what was tried and not acknowledged is there as a whole, or not at all."""
    done = [name for kind, name in said if kind == "done"]
    tried = [name for kind, name in said if kind == "trying"]
    page = unpacked(takeout.take_out_site(database, site_id))["p.html"].decode()
    known += len(done)
    listed = len(changes.list_changes(database, site_id))
    assert listed in (known, known + (len(tried) > len(done)))
    shown = re.findall(r"name-[0-9a-f]{12}", page)
    if done:
        assert shown in ([done[-1]], [tried[-1]])
    return listed


def undo_all(database, site_id):
    for change, _ in changes.list_changes(database, site_id):
        changes.undo_change(database, site_id, change.number)
    assert unpacked(takeout.take_out_site(database, site_id)) == FILES


@pytest.mark.long
def test_the_application_is_killed_again_and_again(database, database_url):
    site_id, known = new_site(database), 0
    draw = random.Random(11)
    for turn in range(KILLS):
        process, pipe = begin(database_url, site_id)
        before = wait_for_a_change(pipe) if turn % 2 else []
        time.sleep(draw.uniform(0.01, 0.1))
        os.kill(process.pid, signal.SIGKILL)
        process.join()
        known = check(database, site_id, [*before, *heard(pipe)], known)
    assert known >= KILLS // 2, "changes were made between the kills"
    undo_all(database, site_id)


@pytest.fixture
def cluster(tmp_path_factory):
    """A database server of this test's own, which can be killed: what starts it, and returns its address."""
    if shutil.which("pg_ctlcluster") is None:
        pytest.skip("PostgreSQL is not installed here")
    folder = tmp_path_factory.mktemp("cluster")
    for part in (folder, *folder.parents):
        if part.stat().st_uid == os.getuid() and part != Path("/"):
            part.chmod(part.stat().st_mode | 0o111)
    script = f'. scripts/setup.sh; start_cluster "{folder}" sync; printf "%s\\n%s" "$CLUSTER_URL" "$CLUSTER/data"'

    def start():
        done = subprocess.run(["bash", "-c", script], cwd=ROOT, capture_output=True, text=True, check=True)
        return done.stdout.splitlines()

    url, data = start()
    yield start, url, Path(data)
    subprocess.run(
        ["bash", "-c", f'. scripts/setup.sh; start_cluster "{folder}" sync; stop_cluster'], cwd=ROOT, check=False
    )


def kill_cluster(data):
    pid = int(
        subprocess.run(
            ["bash", "-c", f'. scripts/setup.sh; as_postgres head -n 1 "{data}/postmaster.pid"'],
            cwd=ROOT,
            capture_output=True,
            text=True,
            check=True,
        ).stdout
    )
    children = Path(f"/proc/{pid}/task/{pid}/children").read_text().split()
    for one in (str(pid), *children):
        try:
            os.kill(int(one), signal.SIGKILL)
        except ProcessLookupError:
            continue
    while any(
        Path(f"/proc/{one}").exists() and "Z" not in Path(f"/proc/{one}/stat").read_text().rpartition(")")[2][:3]
        for one in (pid, *children)
    ):
        time.sleep(0.01)


@pytest.mark.long
def test_the_database_is_killed_again_and_again(cluster):
    start, url, data = cluster
    database = Database(url)
    database.migrate()
    site_id, known = new_site(database), 0
    draw = random.Random(12)
    for turn in range(DATABASE_KILLS):
        process, pipe = begin(url, site_id)
        before = wait_for_a_change(pipe) if turn % 2 else []
        time.sleep(draw.uniform(0.02, 0.1))
        kill_cluster(data)
        time.sleep(0.05)  # what was acknowledged last is told
        process.kill()
        process.join()
        database.close()
        url, _ = start()
        database = Database(url)
        known = check(database, site_id, [*before, *heard(pipe)], known)
    assert known >= DATABASE_KILLS // 2
    undo_all(database, site_id)
    database.close()
