"""The connection to PostgreSQL."""

import pytest
from sqlalchemy import text

from signpost.store.database import Database


@pytest.mark.parametrize("pooled", ["", "?pooled=1"])
def test_a_statement_is_stopped_after_a_minute_whether_connections_are_pooled_or_not(database_url, pooled):
    database = Database(database_url + pooled)
    for _ in range(3):
        with database.transaction() as session:
            assert session.scalar(text("SHOW statement_timeout")) == "1min"
        with database.snapshot() as session:
            assert session.scalar(text("SHOW statement_timeout")) == "1min"
            assert session.scalar(text("SHOW transaction_isolation")) == "repeatable read"
    database.close()


@pytest.mark.parametrize(("lasting", "waits"), [(True, "on"), (False, "off")])
def test_only_what_can_be_found_out_again_is_not_waited_for(database_url, lasting, waits):
    database = Database(database_url, connections=1)
    with database.transaction() as session:
        session.execute(text("SET SESSION synchronous_commit TO on"))  # tests run on a database that never waits
    for _ in range(2):
        with database.transaction(lasting=lasting) as session:
            assert session.scalar(text("SHOW synchronous_commit")) == waits
        with database.transaction() as session:
            assert session.scalar(text("SHOW synchronous_commit")) == "on"
    database.close()


def test_what_is_looked_at_in_a_snapshot_stays_as_it_is(database):
    with database.snapshot() as session:
        before = session.scalar(text("SELECT count(*) FROM sites"))
        with database.transaction() as other:
            other.execute(text("INSERT INTO sites (site_id, name) VALUES (gen_random_uuid(), 'meanwhile')"))
        assert session.scalar(text("SELECT count(*) FROM sites")) == before
