"""Databases with nothing else in them."""

from __future__ import annotations

import os
import secrets

import pytest
from sqlalchemy import create_engine, text
from sqlalchemy.engine import make_url

from signpost.store.database import Database


@pytest.fixture(scope="module")
def own():
    """A database with nothing else in it, so that plans are the same each time."""
    server = make_url(os.environ["SIGNPOST_TEST_SERVER"]).set(drivername="postgresql+psycopg")
    name = f"signpost_own_{secrets.token_hex(6)}"
    engine = create_engine(server, isolation_level="AUTOCOMMIT")
    with engine.connect() as connection:
        connection.execute(text(f'CREATE DATABASE "{name}"'))
    own = Database(server.set(database=name).render_as_string(hide_password=False))
    own.migrate()
    yield own
    own.close()
    with engine.connect() as connection:
        connection.execute(text(f'DROP DATABASE "{name}" WITH (FORCE)'))
    engine.dispose()
