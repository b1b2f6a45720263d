"""Use cases in processes of their own: the same answers, and stopped where they take too long or nobody waits."""

import asyncio
import json
import os
import time
from concurrent.futures import ThreadPoolExecutor
from itertools import pairwise

import pytest
from starlette.testclient import TestClient

from signpost.desk import intake, working
from signpost.desk.telling import Told, tell
from signpost.web import background
from signpost.web.app import create_app
from signpost.web.errors import RefusedError
from signpost.web.workers import Processes
from sites import change, demo_site, new_site, pages_of, taken_out

PAGE = b"<!DOCTYPE html><title>T</title><body><h1>T</h1>" + b"".join(
    b"<h2>Section %d</h2><p>text</p>\n" % number for number in range(12)
)


async def stays():
    return False


async def leaves():
    return True


def sleep(_database, seconds):
    time.sleep(seconds)
    return os.getpid()


def tells(_database, times, pause):
    for done in range(times):
        tell("Counting", done, times)
        time.sleep(pause)
    return "counted"


def die(_database):
    os._exit(1)


def devour(_database):
    return len(bytearray(64 * 1024**3))


@pytest.fixture
def run(database_url):
    def run(work, deadline=30.0, count=2):
        async def inside():
            workers = Processes(database_url, count, deadline)
            try:
                return await work(workers)
            finally:
                workers.close()

        with ThreadPoolExecutor(1) as thread:  # whatever loop other tests have left in this one
            return thread.submit(asyncio.run, inside()).result()

    return run


def test_the_application_answers_the_same_from_processes(database):
    with TestClient(create_app(database, workers=2), base_url="http://127.0.0.1") as client:
        site = new_site(client, {"p.html": PAGE})
        client.headers["x-signpost-author"] = "w1;Ada"
        change(client, site, "identify", "p.html")
        assert client.get(f"{site}/changes").json()["entries"][0]["author"] == "Ada"
        assert taken_out(client, site)["p.html"].count(b"id=") == 12
        assert client.get(f"{site}/page", params={"path": "gone.html"}).status_code == 404
        body = {"operation": "words", "page": "p.html", "section": 99, "words": "x"}
        assert client.post(f"{site}/plans", json=body).status_code == 422
        events = client.get(f"{site}/reading").text
        assert events.count("event: progress") >= 1  # the change has looked at its page
        assert events.count("event: done") == 1
        preview = client.get(f"{site.replace('/api/sites', '/preview')}/p.html")
        assert b"<script nonce=" in preview.content


def test_what_nobody_waits_for_is_read_and_checked_all_the_same(database, client, monkeypatch):
    monkeypatch.setattr(background, "_EVERY", 0.1)
    site_id = intake.create_site(database, "Behind").site_id
    pages = {f"{number}.html": b"<h2>%d</h2><a href=0.html#x>x</a>" % number for number in range(130)}
    intake.bring_in_files(database, site_id, pages.items())
    assert working.find_work(database, site_id).unread == 130

    class Runner:
        """Runs use cases here, of this site alone: others of the tests have work to be done as well."""

        async def run(self, _gone, use_case, *args):
            return [site_id] if use_case is working.find_sites_with_work else use_case(database, *args)

    async def work():
        busy = asyncio.create_task(background.work_in_background(Runner()))
        while working.find_work(database, site_id) != working.WorkLeft(0, 0):
            assert not busy.done()
            await asyncio.sleep(0.1)
        busy.cancel()

    with ThreadPoolExecutor(1) as thread:  # whatever loop other tests have left in this one
        thread.submit(asyncio.run, work()).result()
    assert site_id not in working.find_sites_with_work(database)
    assert pages_of(client, f"/api/sites/{site_id}")["7.html"]["errors"] == 1


@pytest.mark.long
def test_two_applications_over_one_database_never_disagree(database):
    address = "http://127.0.0.1"
    with (
        TestClient(create_app(database, workers=1), base_url=address) as one,
        TestClient(create_app(database, workers=1), base_url=address) as other,
    ):
        site = demo_site(one)
        asked = (
            "pages",
            "findings",
            "goals?path=index.html&query=r",
            "page?path=index.html",
            "page?path=rosters.html",
        )

        def agree():
            first, second = ([app.get(f"{site}/{what}").json() for what in asked] for app in (one, other))
            assert first == second
            return first

        seen = [agree()]
        for app, (operation, page, parameters) in zip(
            (other, one, other),
            (
                ("identify", "index.html", {}),
                ("words", "rosters.html", {"section": 1, "words": "Who is on when"}),
                ("contents", "handbook.html", {}),
            ),
            strict=True,
        ):
            change(app, site, operation, page, **parameters)
            seen.append(agree())
        assert one.post(f"{site}/changes/3/undo").status_code == 204
        seen.append(agree())
        assert other.delete(f"{site}/file", params={"path": "glossary.html"}).status_code == 200
        seen.append(agree())
        assert all(before != after for before, after in pairwise(seen)), "each of them is to be seen"


@pytest.mark.long
def test_what_takes_too_long_is_stopped_and_others_go_on(run):
    async def work(workers):
        await asyncio.gather(*(workers.run(stays, sleep, 0.5) for _ in range(2)))  # both have started
        workers._deadline = 3.0
        slow = asyncio.create_task(workers.run(stays, sleep, 60))
        await asyncio.sleep(0.5)
        first = [await workers.run(stays, sleep, 0) for _ in range(3)]
        with pytest.raises(RefusedError, match="longer than 3 seconds"):
            await slow
        workers._deadline = 30.0
        both = await asyncio.gather(*(workers.run(stays, sleep, 0.5) for _ in range(2)))
        return first, both

    first, both = run(work)
    assert len(set(first)) == 1, "the other process answered meanwhile"
    assert len(set(both)) == 2, "and there are two again"


@pytest.mark.long
def test_work_that_tells_how_far_it_is_may_take_longer(run):
    said = []

    async def work(workers):
        await workers.run(stays, sleep, 0)  # it has started, however long that takes
        workers._deadline = 2.0
        found = await workers.run_telling(stays, said.append, tells, 8, 0.4)
        with pytest.raises(RefusedError, match="longer than"):
            await workers.run_telling(stays, said.append, sleep, 30)
        return found

    assert run(work, count=1) == "counted"
    assert said[0] == Told("Counting", 0, 8)
    assert len(said) > 3
    assert [told.done for told in said] == sorted(told.done for told in said)


def test_a_plan_is_told_while_it_is_made(database):
    with TestClient(create_app(database, workers=1), base_url="http://127.0.0.1") as client:
        site = new_site(client, {"a.html": PAGE, "b.html": PAGE})
        body = {"operation": "recipe", "page": "a.html", "text": '[[step]]\ndo = "identify"'}
        answer = client.post(f"{site}/plans/told", json=body)
        *told, last = [json.loads(line) for line in answer.text.splitlines()]
        assert told[0]["told"]["what"] == "Step 1, identify"
        assert last["found"] == client.post(f"{site}/plans", json=body).json()
        refused = client.post(f"{site}/plans/told", json={**body, "text": "step ="})
        assert json.loads(refused.text)["problem"]["status"] == 422


def test_a_client_that_leaves_stops_what_it_asked_for(run):
    async def work(workers):
        begun = time.monotonic()
        with pytest.raises(RefusedError, match="Nobody waits"):
            await workers.run(leaves, sleep, 60)
        await workers.run(stays, sleep, 0)
        return time.monotonic() - begun

    assert run(work, count=1) < 20


@pytest.mark.long
def test_a_process_that_dies_is_replaced(run):
    async def work(workers):
        with pytest.raises(RefusedError, match="stopped"):
            await workers.run(stays, die)
        return await workers.run(stays, sleep, 0)

    assert run(work, count=1) > 0


def test_a_process_takes_no_more_memory_than_it_may(run):
    async def work(workers):
        with pytest.raises(RefusedError, match="GB of memory"):
            await workers.run(stays, devour)
        return await workers.run(stays, sleep, 0)

    assert run(work, count=1) > 0


def test_a_site_whose_reading_was_stopped_waits_until_it_is_opened(database, client):
    site_id = intake.create_site(database, "Resting").site_id
    intake.bring_in_files(database, site_id, [(f"{number}.html", b"<h2>A</h2>") for number in range(130)])
    reading = f"/api/sites/{site_id}/reading"
    assert client.delete(reading).status_code == 204
    assert site_id not in working.find_sites_with_work(database)
    assert working.work_off_or_rest(database, site_id) is None
    assert working.find_work(database, site_id).unread == 130
    assert "event: done" in client.get(reading).text
    assert working.find_work(database, site_id) == working.WorkLeft(0, 0)
    intake.bring_in_files(database, site_id, [("more.html", b"<h2>A</h2>")])
    assert site_id in working.find_sites_with_work(database)
    assert client.delete("/api/sites/00000000-0000-0000-0000-000000000000/reading").status_code == 404
