"""What the server says when something is not done: always problem details, always what the description names."""

import pytest
from sqlalchemy import text
from starlette.testclient import TestClient

from signpost.desk import intake
from signpost.store.database import Database
from signpost.web.app import create_app
from signpost.web.errors import REFUSALS, explain


def test_every_route_says_how_it_refuses():
    described = create_app().openapi()["paths"]
    assert len(described) > 20
    for path, methods in described.items():
        for method, operation in methods.items():
            for status in REFUSALS:
                content = operation["responses"][str(status)]["content"]
                assert "application/problem+json" in content, (path, method, status)


def test_a_database_that_is_away_is_told():
    away = create_app(Database("postgresql://signpost:x@127.0.0.1:9/none"), hosts=("testserver",))
    with TestClient(away, raise_server_exceptions=False) as client:
        for path in ("/api/health", "/api/sites"):
            answer = client.get(path)
            assert answer.status_code == 503
            assert "database does not answer" in answer.json()["detail"]


@pytest.mark.parametrize(
    ("state", "words"), [("53100", "disk"), ("40P01", "got in each other's way"), ("08006", "does not answer")]
)
def test_what_the_database_says_is_told_in_words(state, words):
    from sqlalchemy.exc import OperationalError

    class OriginalError(Exception):
        sqlstate = state

    status, detail = explain(OperationalError("SELECT 1", None, OriginalError()))
    assert status == 503
    assert words in detail


def test_a_copy_that_only_reads_says_so(database, client, monkeypatch):
    def only_reads(*_arguments, **_named):
        with database.transaction() as session:
            session.execute(text("SET TRANSACTION READ ONLY"))
            session.execute(text("UPDATE sites SET name = 'x'"))

    monkeypatch.setattr(intake, "create_site", only_reads)
    answer = client.post("/api/sites", json={"name": "New"})
    assert answer.status_code == 503
    assert "only reads" in answer.json()["detail"]
