"""Killed in the middle of a change, a site is as before or as after, never between."""

import os
import signal
import subprocess
import sys
import time

import pytest
from sqlalchemy import text
from sqlalchemy.exc import OperationalError

from signpost.desk import changes
from signpost.store import repositories as store
from sites import new_site, plan, taken_out

FILES = {f"{name}.html": b"<h2 id=a>A</h2>" + b"<a href=page.html#b>b</a> " * 50 for name in "cdefgh"}
FILES["page.html"] = b"<h2 id=a>A</h2>text\n<h2 id=b>B</h2>text\n"

SPLITTER = """
import sys
from uuid import UUID
from signpost.desk.changes import apply_change
from signpost.store.database import Database
database = Database(sys.argv[1])
print("ready", flush=True)
sys.stdin.readline()
apply_change(database, UUID(sys.argv[2]), "page.html", "parts", {"sections": [1]}, sys.argv[3])
print("done", flush=True)
"""


def outcome(client, site, before):
    after = taken_out(client, site)
    number = len(client.get(f"{site}/changes").json())
    if after == before:
        assert number == 0
        return "before"
    assert number == 1
    assert "page-2.html" in after
    assert all(b"page-2.html#b" in after[path] for path in FILES if path != "page.html")
    return "after"


@pytest.mark.parametrize("delay", [0.0, 0.01, 0.03, 0.06, 2.0])
def test_the_application_is_killed_in_the_middle_of_a_change(client, database_url, delay):
    site = new_site(client, FILES)
    before = taken_out(client, site)
    tag = plan(client, site, "parts", "page.html", sections=[1])["tag"]
    command = [sys.executable, "-c", SPLITTER, database_url, site.rpartition("/")[2], tag]
    with subprocess.Popen(command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True) as process:
        assert process.stdout.readline() == "ready\n"
        process.stdin.write("go\n")
        process.stdin.flush()
        time.sleep(delay)
        os.kill(process.pid, signal.SIGKILL)
    found = outcome(client, site, before)
    assert delay < 1 or found == "after"


def test_the_database_drops_the_connection_in_the_middle_of_a_change(client, database, monkeypatch):
    site = new_site(client, FILES)
    before = taken_out(client, site)
    tag = plan(client, site, "parts", "page.html", sections=[1])["tag"]
    real = store.set_files

    def cut_off(session, site_id, hashes):
        real(session, site_id, hashes)
        pid = session.scalar(text("SELECT pg_backend_pid()"))
        with database.engine.connect() as other:
            other.execute(text("SELECT pg_terminate_backend(:pid)"), {"pid": pid})

    monkeypatch.setattr(store, "set_files", cut_off)
    body = {"operation": "parts", "page": "page.html", "sections": [1]}
    answer = client.post(f"{site}/changes", json=body, headers={"if-match": tag})
    assert answer.status_code == 503
    assert "nothing was written" in answer.json()["detail"]
    monkeypatch.undo()
    assert outcome(client, site, before) == "before"
    assert client.post(f"{site}/changes", json=body, headers={"if-match": tag}).status_code == 201


def test_two_changes_at_once_do_not_mix(client, database):
    from concurrent.futures import ThreadPoolExecutor
    from uuid import UUID

    site = new_site(client, FILES)
    site_id = UUID(site.rpartition("/")[2])
    tag = plan(client, site, "parts", "page.html", sections=[1])["tag"]

    def attempt(_):
        try:
            changes.apply_change(database, site_id, "page.html", "parts", {"sections": [1]}, tag)
        except (changes.ConflictError, OperationalError):
            return "refused"
        return "applied"

    with ThreadPoolExecutor(4) as pool:
        results = list(pool.map(attempt, range(4)))
    assert sorted(results) == ["applied", "refused", "refused", "refused"]


@pytest.mark.parametrize(
    ("url", "words"), [("sqlite:///x.db", "must name a PostgreSQL"), ("nonsense", "is not an address")]
)
def test_a_database_that_is_not_postgresql_is_refused(url, words):
    from signpost.store.database import Database

    with pytest.raises(ValueError, match=words):
        Database(url)


def test_the_models_are_what_the_migrations_make(database):
    from alembic.autogenerate import compare_metadata
    from alembic.migration import MigrationContext

    from signpost.store.models import Base

    with database.engine.connect() as connection:
        context = MigrationContext.configure(connection)
        assert compare_metadata(context, Base.metadata) == []
