"""A database of the tests' own, and the application over it."""

from __future__ import annotations

import os
import secrets
import socket
import threading
import time
from collections.abc import Iterator

import pytest
import uvicorn
from sqlalchemy import create_engine, text
from sqlalchemy.engine import make_url
from starlette.testclient import TestClient

from signpost.store.database import Database
from signpost.web.app import create_app


@pytest.fixture(scope="session")
def database_url() -> Iterator[str]:
    server = os.environ.get("SIGNPOST_TEST_SERVER")
    if not server:
        pytest.fail("these tests need PostgreSQL; run them with ./test")
    url = make_url(server).set(drivername="postgresql+psycopg")
    name = f"signpost_test_{secrets.token_hex(6)}"
    engine = create_engine(url, isolation_level="AUTOCOMMIT")
    with engine.connect() as connection:
        connection.execute(text(f'CREATE DATABASE "{name}"'))
    yield url.set(database=name).render_as_string(hide_password=False)
    with engine.connect() as connection:
        connection.execute(text(f'DROP DATABASE "{name}" WITH (FORCE)'))
    engine.dispose()


@pytest.fixture(scope="session")
def database(database_url: str) -> Iterator[Database]:
    database = Database(database_url)
    database.migrate()
    database.migrate()  # a second time changes nothing
    yield database
    database.close()


@pytest.fixture
def client(database: Database) -> Iterator[TestClient]:
    with TestClient(create_app(database), base_url="http://127.0.0.1", raise_server_exceptions=False) as client:
        yield client


@pytest.fixture(scope="session")
def served(database: Database) -> Iterator[str]:
    """The application on a port of its own; returns its address."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    server = uvicorn.Server(uvicorn.Config(create_app(database), host="127.0.0.1", port=port, log_level="warning"))
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    for _ in range(200):
        if server.started:
            break
        time.sleep(0.05)
    assert server.started
    yield f"http://127.0.0.1:{port}"
    server.should_exit = True
    thread.join(10)
