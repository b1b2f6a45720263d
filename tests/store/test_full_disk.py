"""A database whose disk is full says so, keeps nothing by halves, and goes on once there is room."""

import os
import shutil
import subprocess
from pathlib import Path

import pytest
from sqlalchemy import create_engine, text
from sqlalchemy.engine import make_url
from starlette.testclient import TestClient

from signpost.store.database import Database
from signpost.web.app import create_app
from sites import change, new_site, taken_out

SIZE = "24m"
PAGE = b"<!DOCTYPE html><title>T</title><h1>T</h1><h2>A</h2><p>a</p>"


@pytest.fixture
def small(tmp_path_factory):
    """A database on a small disk of its own."""
    server = os.environ.get("SIGNPOST_TEST_SERVER")
    if os.getuid() != 0 or not server or shutil.which("mount") is None:
        pytest.skip("only root can mount a small disk")
    folder = Path("/var/lib/postgresql") / f"signpost-small-{os.getpid()}"
    if not folder.parent.is_dir():
        pytest.skip("PostgreSQL's own folder is not here")
    folder.mkdir()
    if subprocess.run(["mount", "-t", "tmpfs", "-o", f"size={SIZE}", "tmpfs", folder], check=False).returncode:
        folder.rmdir()
        pytest.skip("no small disk can be mounted here")
    shutil.chown(folder, "postgres")
    (folder / "ballast").write_bytes(bytes(1_000_000))  # is room that a test can make
    name = f"signpost_small_{os.getpid()}"
    engine = create_engine(make_url(server).set(drivername="postgresql+psycopg"), isolation_level="AUTOCOMMIT")
    with engine.connect() as connection:
        connection.execute(text(f"CREATE TABLESPACE {name} LOCATION '{folder}'"))
        connection.execute(text(f"CREATE DATABASE {name} TABLESPACE {name}"))
    database = Database(make_url(server).set(database=name).render_as_string(hide_password=False))
    database.migrate()
    yield database, folder / "ballast"
    database.close()
    with engine.connect() as connection:
        connection.execute(text(f"DROP DATABASE {name} WITH (FORCE)"))
        connection.execute(text(f"DROP TABLESPACE {name}"))
    engine.dispose()
    subprocess.run(["umount", folder], check=False)
    folder.rmdir()


@pytest.mark.long
def test_a_full_disk(small):
    database, ballast = small
    with TestClient(create_app(database), base_url="http://127.0.0.1", raise_server_exceptions=False) as client:
        site = new_site(client, {"p.html": PAGE})
        filler = new_site(client, {})
        full = None
        for number in range(40):
            answer = client.post(f"{filler}/files", files=[("files", (f"{number}.bin", os.urandom(1_000_000)))])
            if answer.status_code != 200:
                full = answer
                break
        assert full is not None
        assert full.status_code == 503
        assert "disk of the database is full" in full.json()["detail"]
        assert client.get(site).status_code == 200, "what is there can be read"
        assert client.get("/api/health").status_code == 200
        taken = client.get(f"{filler}/takeout/site.zip")
        assert taken.status_code == 200
        assert client.delete(filler).status_code == 204
        ballast.unlink()
        with database.engine.connect().execution_options(isolation_level="AUTOCOMMIT") as connection:
            connection.execute(text("VACUUM blobs"))
        change(client, site, "identify", "p.html")
        client.post(f"{site}/changes/1/undo")
        assert taken_out(client, site) == {"p.html": PAGE}
