"""Killed in the middle of a change, a site is as before or as after, never between."""

import multiprocessing
from uuid import UUID

import pytest
from sqlalchemy import text
from sqlalchemy.exc import OperationalError

from signpost.core.operations.parts import Parts
from signpost.desk import changes
from signpost.store import repositories as store
from signpost.store.database import Database
from sites import new_site, plan, taken_out

FILES = {f"{name}.html": b"<h2 id=a>A</h2>" + b"<a href=page.html#b>b</a> " * 50 for name in "cdefgh"}
FILES["page.html"] = b"<h2 id=a>A</h2>text\n<h2 id=b>B</h2>text\n"


def split(url, site_id, tag, pipe):
    """Cut the page once it is told to."""
    database = Database(url)
    with database.transaction() as session:
        store.load_deed(session, site_id)  # connected, before the clock starts
    pipe.send("ready")
    pipe.recv()
    changes.apply_change(database, site_id, "page.html", Parts(sections=(1,)), tag)


def outcome(client, site, before):
    after = taken_out(client, site)
    number = len(client.get(f"{site}/changes").json()["entries"])
    if after == before:
        assert number == 0
        return "before"
    assert number == 1
    assert "page-2.html" in after
    assert all(b"page-2.html#b" in after[path] for path in FILES if path != "page.html")
    return "after"


@pytest.mark.parametrize("delay", [0.0, 0.01, 0.03, 0.06, 20.0])
def test_the_application_is_killed_in_the_middle_of_a_change(client, database_url, delay):
    site = new_site(client, FILES)
    before = taken_out(client, site)
    tag = plan(client, site, "parts", "page.html", sections=[1])["tag"]
    forking = multiprocessing.get_context("fork")
    ours, theirs = forking.Pipe()
    site_id = UUID(site.rpartition("/")[2])
    process = forking.Process(target=split, args=(database_url, site_id, tag, theirs), daemon=True)
    process.start()
    assert ours.recv() == "ready"
    ours.send("go")
    process.join(delay)
    process.kill()
    process.join()
    found = outcome(client, site, before)
    assert delay < 1 or found == "after"


def test_the_database_drops_the_connection_in_the_middle_of_a_change(client, database, monkeypatch):
    site = new_site(client, FILES)
    before = taken_out(client, site)
    tag = plan(client, site, "parts", "page.html", sections=[1])["tag"]
    real = store.add_change

    def cut_off(session, site_id, **change):
        done = real(session, site_id, **change)
        pid = session.scalar(text("SELECT pg_backend_pid()"))
        with database.engine.connect() as other:
            other.execute(text("SELECT pg_terminate_backend(:pid)"), {"pid": pid})
        return done

    monkeypatch.setattr(store, "add_change", cut_off)
    body = {"operation": "parts", "page": "page.html", "sections": [1]}
    answer = client.post(f"{site}/changes", json=body, headers={"if-match": tag})
    assert answer.status_code == 503
    assert "nothing was written" in answer.json()["detail"]
    monkeypatch.undo()
    assert outcome(client, site, before) == "before"
    assert client.post(f"{site}/changes", json=body, headers={"if-match": tag}).status_code == 201


def test_two_changes_at_once_do_not_mix(client, database):
    from concurrent.futures import ThreadPoolExecutor

    site = new_site(client, FILES)
    site_id = UUID(site.rpartition("/")[2])
    tag = plan(client, site, "parts", "page.html", sections=[1])["tag"]

    def attempt(_):
        try:
            changes.apply_change(database, site_id, "page.html", Parts(sections=(1,)), tag)
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
    with pytest.raises(ValueError, match=words):
        Database(url)


def test_the_models_are_what_the_migrations_make(database):
    from alembic.autogenerate import compare_metadata
    from alembic.migration import MigrationContext

    from signpost.store.models import Base

    with database.engine.connect() as connection:
        context = MigrationContext.configure(connection)
        assert compare_metadata(context, Base.metadata) == []
