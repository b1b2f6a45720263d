"""Several authors at one site: told of each other's deeds, never in each other's way, and nothing done twice."""

import os
import random
import threading
import time
from uuid import uuid4

import httpx2 as httpx
import pytest
from sqlalchemy import text

from signpost.store import repositories as store
from sites import change, new_site, plan, taken_out

PAGE = b"<!DOCTYPE html><title>T</title><body><h1>T</h1>" + b"".join(
    b"<h2>Section %d</h2><p>text</p>\n" % number for number in range(12)
)
#: How long the clients work, in seconds; SIGNPOST_LONG makes it two minutes.
WORK = 120 if os.environ.get("SIGNPOST_LONG") else 8


def pulse(client, site):
    return client.get(f"{site}/pulse").json()


def test_what_one_author_does_the_others_are_told(client):
    site = new_site(client, {"p.html": PAGE})
    before = pulse(client, site)["revision"]
    client.headers["x-signpost-author"] = "w1;J%C3%BCrg"
    change(client, site, "identify", "p.html")
    told = pulse(client, site)
    assert told == {
        "revision": before + 1,
        "window": "w1",
        "author": "J\u00fcrg",
        "deed": "made a change: Identifiers for 12 sections",
    }
    assert client.get(f"{site}/changes").json()["entries"][0]["author"] == "J\u00fcrg"
    client.headers["x-signpost-author"] = "w2;"
    client.post(f"{site}/changes/1/undo")
    assert pulse(client, site)["deed"] == "undid \u201cIdentifiers for 12 sections\u201d"
    client.put(f"{site}/settings", json={})
    assert (pulse(client, site)["window"], pulse(client, site)["revision"]) == ("w2", before + 3)
    assert client.get("/api/sites/7d0e6c2a-5a0f-4c1e-9b7e-2f6d3c1b9a99/pulse").status_code == 404


@pytest.mark.parametrize("header", ["", ";", ";;;", "w;%00%FF", "x" * 999])
def test_odd_names_of_authors_are_borne(client, header):
    site = new_site(client, {"p.html": PAGE})
    client.headers["x-signpost-author"] = header
    change(client, site, "identify", "p.html")
    assert "\0" not in client.get(f"{site}/changes").json()["entries"][0]["author"]


def test_a_request_that_is_sent_twice_is_done_once(client):
    site = new_site(client, {"p.html": PAGE})
    key = str(uuid4())
    body = {"operation": "identify", "page": "p.html"}
    headers = {"if-match": plan(client, site, "identify", "p.html")["tag"], "idempotency-key": key}
    assert client.get(f"{site}/changes/made-by/{key}").status_code == 404
    first, second = (client.post(f"{site}/changes", json=body, headers=headers) for _ in range(2))
    assert first.status_code == second.status_code == 201
    assert first.json() == second.json()
    assert len(client.get(f"{site}/changes").json()["entries"]) == 1
    assert client.get(f"{site}/changes/made-by/{key}").json() == first.json()


@pytest.mark.parametrize("kept", [True, False], ids=["the change was kept", "the change was not kept"])
def test_a_connection_that_breaks_while_committing_is_found_out_about(client, database, monkeypatch, kept):
    site = new_site(client, {"p.html": PAGE})
    body = {"operation": "identify", "page": "p.html"}
    tag = plan(client, site, "identify", "p.html")["tag"]
    real, cut = store.note_request, []

    def cut_off(session, *facts):
        real(session, *facts)
        if not cut:
            cut.append(True)
            pid = session.scalar(text("SELECT pg_backend_pid()"))
            if kept:
                session.execute(text("COMMIT"))
            with database.engine.connect() as other:
                other.execute(text("SELECT pg_terminate_backend(:pid)"), {"pid": pid})
            session.execute(text("SELECT 1"))

    monkeypatch.setattr(store, "note_request", cut_off)
    answer = client.post(f"{site}/changes", json=body, headers={"if-match": tag})
    monkeypatch.undo()
    assert cut
    assert answer.status_code == (201 if kept else 503), answer.text
    assert len(client.get(f"{site}/changes").json()["entries"]) == (1 if kept else 0)


def test_a_transaction_that_got_in_another_s_way_is_tried_again(database):
    from sqlalchemy.exc import OperationalError

    from signpost.store.database import again_after_deadlock

    class DeadlockError(Exception):
        sqlstate = "40P01"

    tries = []

    def use_case(_, until):
        tries.append(1)
        if len(tries) < until:
            raise OperationalError("", {}, DeadlockError())
        return "done"

    assert again_after_deadlock(use_case, database, 3) == "done"
    assert len(tries) == 3
    tries.clear()
    with pytest.raises(OperationalError):
        again_after_deadlock(use_case, database, 99)


class Tally:
    def __init__(self):
        self.lock = threading.Lock()
        self.answers, self.made = {}, []

    def note(self, status):
        with self.lock:
            self.answers[status] = self.answers.get(status, 0) + 1


def work(address, site, seed, until, tally):
    draw = random.Random(seed)
    with httpx.Client(base_url=address, timeout=60) as client:
        client.headers["x-signpost-author"] = f"w{seed};Author {seed}"
        while time.monotonic() < until:
            page = f"p{draw.randrange(4)}.html"
            kind = draw.choice(["apply", "apply", "undo", "read", "page"])
            if kind == "apply":
                body = draw.choice(
                    [
                        {"operation": "identify", "page": page},
                        {"operation": "contents", "page": page},
                        {"operation": "back-to-top", "page": page},
                        {
                            "operation": "words",
                            "page": page,
                            "section": draw.randrange(1, 13),
                            "words": f"W {draw.random()}",
                        },
                    ]
                )
                planned = client.post(f"{site}/plans", json=body)
                tally.note(planned.status_code)
                if planned.status_code != 200 or not planned.json()["edits"]:
                    continue
                answer = client.post(f"{site}/changes", json=body, headers={"if-match": planned.json()["tag"]})
                if answer.status_code == 201:
                    with tally.lock:
                        tally.made.append(answer.json()["number"])
            elif kind == "undo":
                changes = [
                    one
                    for one in client.get(f"{site}/changes").json()["entries"]
                    if one["can_turn"] and not one["undone"]
                ]
                if not changes:
                    continue
                answer = client.post(f"{site}/changes/{draw.choice(changes)['number']}/undo")
            elif kind == "read":
                answer = client.get(site)
            else:
                answer = client.get(f"{site}/page", params={"path": page})
            tally.note(answer.status_code)


@pytest.mark.long
def test_eight_authors_lose_nothing(served):
    files = {f"p{number}.html": PAGE + b"<a href=p0.html#x>x</a>" for number in range(4)}
    with httpx.Client(base_url=served, timeout=60) as client:
        site = new_site(client, files)
        tally = Tally()
        until = time.monotonic() + WORK
        threads = [threading.Thread(target=work, args=(served, site, seed, until, tally)) for seed in range(8)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        assert set(tally.answers) <= {200, 201, 204, 409, 422}, tally.answers
        changes = client.get(f"{site}/changes").json()["entries"]
        assert sorted(tally.made) == sorted(one["number"] for one in changes), "what was acknowledged is there, once"
        assert len(changes) >= 8
        for one in changes:
            if not one["undone"]:
                assert client.post(f"{site}/changes/{one['number']}/undo").status_code == 204
        assert taken_out(client, site) == files
