"""Use cases in processes of their own: the same answers, and stopped where they take too long or nobody waits."""

import asyncio
import os
import time
from concurrent.futures import ThreadPoolExecutor

import pytest
from starlette.testclient import TestClient

from signpost.web.app import create_app
from signpost.web.errors import RefusedError
from signpost.web.workers import Processes
from sites import change, new_site, taken_out

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
        assert client.get(f"{site}/changes").json()[0]["author"] == "Ada"
        assert taken_out(client, site)["p.html"].count(b"id=") == 12
        assert client.get(f"{site}/page", params={"path": "gone.html"}).status_code == 404
        body = {"operation": "words", "page": "p.html", "section": 99, "words": "x"}
        assert client.post(f"{site}/plans", json=body).status_code == 422
        events = client.get(f"{site}/reading").text
        assert events.count("event: progress") == 2
        assert events.count("event: done") == 1
        preview = client.get(f"{site.replace('/api/sites', '/preview')}/p.html")
        assert b"<script nonce=" in preview.content


def test_what_takes_too_long_is_stopped_and_others_go_on(run):
    async def work(workers):
        slow = asyncio.create_task(workers.run(stays, sleep, 60))
        await asyncio.sleep(0.5)
        first = [await workers.run(stays, sleep, 0) for _ in range(3)]
        with pytest.raises(RefusedError, match="longer than 8 seconds"):
            await slow
        both = await asyncio.gather(*(workers.run(stays, sleep, 0.5) for _ in range(2)))
        return first, both

    first, both = run(work, deadline=8.0)
    assert len(set(first)) == 1, "the other process answered meanwhile"
    assert len(set(both)) == 2, "and there are two again"


def test_a_client_that_leaves_stops_what_it_asked_for(run):
    async def work(workers):
        begun = time.monotonic()
        with pytest.raises(RefusedError, match="Nobody waits"):
            await workers.run(leaves, sleep, 60)
        await workers.run(stays, sleep, 0)
        return time.monotonic() - begun

    assert run(work, count=1) < 20


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
