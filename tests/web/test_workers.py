"""Use cases in processes of their own: the same answers, and stopped where they take too long or nobody waits."""

import asyncio
import importlib
import json
import os
import time
from collections import Counter
from concurrent.futures import ThreadPoolExecutor
from functools import partial
from itertools import pairwise
from uuid import UUID

import pytest
from starlette.testclient import TestClient

from signpost.desk import changes, intake, live, pages, publication_plans, publishing, syncing, working
from signpost.desk.progress import Told, tell
from signpost.web import background, workers
from signpost.web.app import create_app
from signpost.web.errors import RefusedError
from signpost.web.readings import Readings
from signpost.web.workers import Processes, too_long
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

        async def run_in_background(self, use_case, *args):
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
        with pytest.raises(RefusedError, match="within 3 seconds"):
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
        with pytest.raises(RefusedError, match="within 2 seconds"):
            await workers.run_telling(stays, said.append, sleep, 30)
        return found

    assert run(work, count=1) == "counted"
    assert said[0] == Told("Counting", 0, 8)
    assert len(said) > 3
    assert [told.done for told in said] == sorted(told.done for told in said)


def test_one_process_is_left_to_people_whatever_goes_on_behind(run):
    async def work(workers):
        both = await asyncio.gather(*(workers.run(stays, sleep, 0.5) for _ in range(2)))  # both have started
        behind = [asyncio.create_task(workers.run_in_background(sleep, 1)) for _ in range(3)]
        await asyncio.sleep(0.1)
        people = [await workers.run(stays, sleep, 0) for _ in range(5)]
        assert not any(one.done() for one in behind)
        return both, people, await asyncio.gather(*behind)

    both, people, behind = run(work)
    assert len(set(both)) == 2
    assert set(people).isdisjoint(behind)
    assert len(set(behind)) == 1, "one after the other, however many are asked for"


def test_too_many_who_wait_are_told_at_once(run, monkeypatch):
    monkeypatch.setattr("signpost.web.workers.MOST_WAITING", 3)

    async def work(workers):
        await workers.run(stays, sleep, 0)
        slow = [asyncio.create_task(workers.run(stays, sleep, 1))]
        while not workers._idle.empty():
            await asyncio.sleep(0.01)
        slow += [asyncio.create_task(workers.run(stays, sleep, 0)) for _ in range(3)]
        while workers._people < 3:
            await asyncio.sleep(0.01)
        with pytest.raises(RefusedError, match="busy"):
            await workers.run(stays, sleep, 0)
        await asyncio.gather(*slow)
        return await workers.run(stays, sleep, 0)

    assert run(work, count=1) > 0


@pytest.mark.parametrize(
    ("use_case", "args", "words"),
    [
        (publishing.publish, (), "The host did not get on within 9 seconds, so it was stopped. What was sent stays"),
        (partial(publication_plans.plan_publication, anyway=True), (), "The host did not get on"),
        (live.walk_site, (), "checking again goes on from there"),
        (syncing.sync_folder, (), "The folder did not answer"),
        (changes.plan_change, (), "Work on a shorter page"),
        (syncing.change_with_folder, (1, changes.apply_change), "Work on a shorter page"),
        (pages.list_sites, (), "This was not done within 9 seconds, so it was stopped. Nothing was written. Try"),
    ],
)
def test_what_is_said_of_a_deadline_fits_what_took_long(use_case, args, words):
    assert words in too_long(use_case, args, 9)


def test_every_room_that_a_deadline_speaks_of_is_there():
    for name in workers._SUBJECTS:
        assert importlib.import_module(f"signpost.desk.{name}")


class Behind:
    """Runs use cases here, and counts them."""

    width = 3

    def __init__(self, database):
        self.database, self.asked = database, Counter()

    async def run_in_background(self, use_case, *args):
        self.asked[use_case.__name__] += 1
        await asyncio.sleep(0.01)
        return use_case(self.database, *args)


def follow(database, site_id, followers, leave_after=None):
    """Have some follow the reading of a site; return what each was told, and what was asked for."""
    runner = Behind(database)

    async def inside():
        readings = Readings(runner)

        async def one():
            said = []
            async for progress in readings.follow(site_id):
                said.append(progress)
                if len(said) == leave_after:
                    break
            return said

        said = await asyncio.gather(*(one() for _ in range(followers)), return_exceptions=True)
        await asyncio.sleep(0.1)
        return said, readings._going

    with ThreadPoolExecutor(1) as thread:
        said, going = thread.submit(asyncio.run, inside()).result()
    assert not going
    return said, runner.asked


@pytest.fixture
def unread(database):
    site_id = intake.create_site(database, "Unread").site_id
    intake.bring_in_files(database, site_id, [(f"{n}.html", b"<h2>%d</h2>" % n) for n in range(130)])
    return site_id


def test_a_site_is_read_once_however_many_look_on(database, unread):
    said, asked = follow(database, unread, 50)
    assert working.find_work(database, unread) == working.WorkLeft(0, 0)
    assert asked["take_up"] == 1
    alone, asked_again = follow(database, unread, 1)
    assert asked["work_off_or_rest"] < 60
    assert asked_again["work_off_or_rest"] == 2, "those that work in the background find nothing to do"
    assert all(one[-1].left.unread == 0 for one in said)
    assert len(alone[0]) == 1


def test_where_nobody_looks_on_any_more_a_reading_ends(database, unread):
    follow(database, unread, 3, leave_after=1)
    assert working.find_work(database, unread).unread > 0
    follow(database, unread, 1)
    assert working.find_work(database, unread) == working.WorkLeft(0, 0)


def test_whatever_goes_wrong_with_a_reading_is_told_to_all(database):
    said, _ = follow(database, UUID(int=7), 3)
    assert [type(one).__name__ for one in said] == ["NotThereError"] * 3


def test_a_batch_takes_no_longer_than_it_may(database, unread, monkeypatch):
    monkeypatch.setattr(working, "STEP", 0)
    left = [working.work_off(database, unread).unread for _ in range(3)]
    assert left == [130 - 8, 130 - 16, 130 - 24]
    monkeypatch.setattr(working, "STEP", 1e9)
    assert working.work_off(database, unread).unread == 130 - 24 - 50
    while working.find_work(database, unread).unread:
        working.work_off(database, unread)
    monkeypatch.setattr(working, "STEP", 0)
    while (found := working.work_off(database, unread)).unchecked == 130:
        pass
    assert found.unchecked == 130 - 8


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
