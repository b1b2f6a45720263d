"""A folder and its site brought together by a process that is killed anywhere, while another one writes at random."""

import os
import random
import subprocess
import sys
import time

import pytest
from sqlalchemy import text

import dav
from dav import dav_host
from signpost.core.operations.pages import Type
from signpost.desk import intake, linked_folders, publication_plans, publishing, syncing, targets
from signpost.desk.changes import apply_change, plan_change
from signpost.desk.targets import Surroundings
from signpost.store import repositories as store
from signpost.store.records import TargetRecord

#: How often it is looked whether all has arrived, a tenth of a second apart.
MOST_LOOKS = 600
#: How often the process is killed.
KILLS = 300 if os.environ.get("SIGNPOST_LONG") else 4
SYNCING = """
import sys, time
from uuid import UUID
from signpost.desk.syncing import sync_folder
from signpost.store.database import Database
database = Database(sys.argv[1])
print("ready", flush=True)
while True:
    sync_folder(database, UUID(sys.argv[2]))
    time.sleep(0.005)
"""
WRITING = """
import pathlib, random, sys, time
root, seed = pathlib.Path(sys.argv[1]), random.Random(int(sys.argv[2]))
for turn in range(100000):
    waiting = root / ".new.swp"
    waiting.write_text(f"<h1>Theirs {turn}</h1>" + "<p>x</p>\\n" * seed.randrange(400))
    waiting.replace(root / f"theirs-{seed.randrange(3)}.html")
    time.sleep(seed.uniform(0.005, 0.05))
"""
PAGE = "<!DOCTYPE html>\n<title>{name}</title>\n<h1>{name}</h1>\n<p>{text}</p>\n"


def start(code: str, *arguments: str) -> subprocess.Popen:
    return subprocess.Popen([sys.executable, "-c", code, *arguments], stdout=subprocess.PIPE, text=True)


def on_disk(root) -> dict[str, bytes]:
    return {file.name: file.read_bytes() for file in root.iterdir() if not file.name.startswith(".")}


def in_store(database, site_id) -> dict[str, bytes]:
    with database.transaction() as session:
        files = [file for file in store.load_files(session, site_id) if file.sha256]
        blobs = store.load_blobs(session, site_id, {file.sha256 for file in files})
    return {file.path: blobs[file.sha256] for file in files}


def cut_off(database) -> None:
    """End all other connections to the database, whatever they are doing."""
    others = "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid()"
    with database.engine.connect() as connection:
        connection.execute(text(others))


PUBLISHING = """
import sys
from uuid import UUID
from signpost.core.text.errors import SignpostError
from signpost.desk import publication_plans, publishing
from signpost.desk.errors import DeskError
from signpost.desk.targets import Surroundings
from signpost.store.database import Database
database, site_id = Database(sys.argv[1]), UUID(sys.argv[2])
reach = Surroundings((sys.argv[3],), "", "", sys.argv[3] + "/secrets.json")
print("ready", flush=True)
while True:
    try:
        tag = publication_plans.plan_publication(database, site_id, "there", reach).tag
        publishing.publish(database, site_id, "there", tag, reach)
    except (DeskError, SignpostError):
        pass
"""


@pytest.mark.long
@pytest.mark.parametrize("kind", ["folder", "webdav"])
def test_a_publication_arrives_whole_whoever_is_killed(database, database_url, tmp_path, kind):
    www = tmp_path / "www"
    www.mkdir()
    (www / "theirs.html").write_text("somebody else's")
    names = [f"{folder}p{number}.html" for number in range(4) for folder in ("", "deep/")]
    site_id = intake.create_site(database, "Killed").site_id
    intake.bring_in_files(database, site_id, [(name, b"<h1>first</h1>") for name in names])
    seed = random.Random(11)
    known = {name: {b"<h1>first</h1>"} for name in names}
    with dav_host(www) as (address, _):
        reach = Surroundings((str(tmp_path),), "", "", str(tmp_path / "secrets.json"))
        place = str(www) if kind == "folder" else address
        target = TargetRecord("there", kind, place, dav.USER if kind == "webdav" else "")
        targets.save_target(database, site_id, target, dav.PASSWORD if kind == "webdav" else None, reach)
        for turn in range(KILLS // 3 + 1):
            for name in names:
                said = {"text": PAGE.format(name=name, text=f"turn {turn} " + "word " * seed.randrange(300))}
                tag = plan_change(database, site_id, name, Type(**said)).tag
                apply_change(database, site_id, name, Type(**said), tag)
                known[name].add(in_store(database, site_id)[name])
            with start(PUBLISHING, database_url, str(site_id), str(tmp_path)) as publisher:
                assert publisher.stdout.readline() == "ready\n"
                time.sleep(seed.uniform(0, 0.3))
                if turn % 3 == 2:
                    cut_off(database)
                publisher.kill()
            for name in names:
                if (www / name).exists():
                    assert (www / name).read_bytes() in known[name], "half a page is at the target"
        tag = publication_plans.plan_publication(database, site_id, "there", reach).tag
        assert publishing.publish(database, site_id, "there", tag, reach).left == ()
    there = {file.relative_to(www).as_posix(): file.read_bytes() for file in www.rglob("*") if file.is_file()}
    assert there == {**in_store(database, site_id), "theirs.html": b"somebody else's"}
    with database.transaction() as session:
        store.delete_site(session, site_id)


@pytest.mark.long
def test_whole_changes_arrive_whoever_is_killed(database, database_url, tmp_path):
    root = tmp_path / "site"
    root.mkdir()
    names = ["a.html", "b.html", "c.html"]
    for name in names:
        (root / name).write_text(PAGE.format(name=name, text="first"))
    site_id = linked_folders.link_folder(database, str(root), [str(tmp_path)]).site_id
    seed = random.Random(7)
    known = {name: {(root / name).read_bytes()} for name in names}
    with start(WRITING, str(root), "3") as writer:
        try:
            for turn in range(KILLS):
                with start(SYNCING, database_url, str(site_id)) as syncer:
                    assert syncer.stdout.readline() == "ready\n"
                    for name in names:
                        words = f"turn {turn} " + "word " * seed.randrange(200)
                        said = {"text": PAGE.format(name=name, text=words)}
                        tag = plan_change(database, site_id, name, Type(**said)).tag
                        apply_change(database, site_id, name, Type(**said), tag)
                        known[name].add(in_store(database, site_id)[name])
                    time.sleep(seed.uniform(0, 0.25))
                    if turn % 3 == 2:  # the database goes away under it first
                        cut_off(database)
                        time.sleep(seed.uniform(0, 0.05))
                    syncer.kill()
                for name in names:
                    assert (root / name).read_bytes() in known[name], "half a file is in the folder"
        finally:
            writer.kill()
    for _ in range(MOST_LOOKS):  # the database may still think that who was killed is there
        syncing.sync_folder(database, site_id)
        if on_disk(root) == in_store(database, site_id):
            break
        time.sleep(0.1)
    assert on_disk(root) == in_store(database, site_id)
    assert not [file.name for file in root.iterdir() if file.name.startswith(".signpost-")]
    with database.transaction() as session:
        store.delete_site(session, site_id)
