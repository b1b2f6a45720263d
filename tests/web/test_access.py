"""Beyond loopback: nothing without the key, and the key is not to be guessed."""

import asyncio
import re
from collections import Counter
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta

import pytest
from sqlalchemy import delete
from sqlalchemy.exc import OperationalError
from starlette.testclient import TestClient

from signpost.store import sign_ins
from signpost.store.models import FailureRow
from signpost.web import access
from signpost.web.app import create_app
from signpost.web.serve import read_reach
from sites import new_site

KEY = "a long key of the volunteers"


@pytest.fixture(autouse=True)
def nobody_tried_yet(database):
    with database.transaction() as session:
        session.execute(delete(FailureRow))


@pytest.fixture
def guarded(database):
    app = create_app(database, hosts=("club.example",), key=KEY)
    with TestClient(app, base_url="https://club.example", follow_redirects=False) as client:
        yield client


def sign_in(client, key=KEY, **query):
    return client.post("/sign-in", params=query, data={"key": key})


@pytest.mark.parametrize("path", ["/api/sites", "/api/openapi", "/api/sites/7d0e6c2a-5a0f-4c1e-9b7e-2f6d3c1b9a40"])
def test_the_api_answers_nobody_who_has_not_signed_in(guarded, path):
    answer = guarded.get(path)
    assert answer.status_code == 401
    assert answer.headers["content-type"] == "application/problem+json"


def test_a_page_leads_to_the_sign_in_and_back(guarded):
    answer = guarded.get("/sites/x/pages")
    assert answer.status_code == 303
    assert answer.headers["location"] == "/sign-in?to=%2Fsites%2Fx%2Fpages"
    form = guarded.get(answer.headers["location"])
    assert form.status_code == 200
    assert "<form" in form.text
    answer = sign_in(guarded, to="/sites/x/pages")
    assert answer.status_code == 303
    assert answer.headers["location"] == "/sites/x/pages"
    cookie = answer.headers["set-cookie"].lower()
    assert all(word in cookie for word in ("httponly", "samesite=strict", "secure", "path=/"))
    assert guarded.get("/api/sites").status_code == 200
    assert guarded.post("/sign-out").status_code == 303
    assert guarded.get("/api/sites").status_code == 401


@pytest.mark.parametrize("to", ["//evil.example/", "https://evil.example/", "/\\evil.example", "javascript:alert(1)"])
def test_nobody_is_led_elsewhere_by_the_sign_in(guarded, to):
    assert sign_in(guarded, to=to).headers["location"] == "/"


def test_a_cookie_without_https_is_not_marked_secure(database):
    with TestClient(create_app(database, key=KEY), base_url="http://127.0.0.1", follow_redirects=False) as client:
        assert "secure" not in sign_in(client).headers["set-cookie"].lower()


@pytest.mark.parametrize("cookie", ["", "x", "99999999999-" + "0" * 32, "1-" + "0" * 32, "-", "\u00fc"])
def test_forged_cookies_open_nothing(guarded, cookie):
    said = {"cookie": f"signpost-signed-in={cookie}".encode()}
    assert guarded.get("/api/sites", headers=said).status_code == 401


@pytest.fixture
def clock(monkeypatch):
    """The time as the server has it; adding seconds makes it go."""
    passed = [0.0]
    started = access.now()
    monkeypatch.setattr(access, "now", lambda: started + timedelta(seconds=passed[0]))

    def go(seconds):
        passed[0] += seconds

    return go


def test_a_pass_ends_by_the_servers_clock(guarded, clock):
    signed_in = sign_in(guarded).cookies["signpost-signed-in"]
    guarded.cookies.clear()  # which would drop it by itself
    said = {"cookie": f"signpost-signed-in={signed_in}"}
    clock(access.SIGNED_IN.total_seconds() - 5)
    assert guarded.get("/api/sites", headers=said).status_code == 200
    clock(10)
    assert guarded.get("/api/sites", headers=said).status_code == 401


def test_signing_out_ends_the_pass_wherever_it_was_copied_to(guarded, database):
    signed_in = sign_in(guarded).cookies["signpost-signed-in"]
    site = new_site(guarded, {"a.html": b"<h1>a</h1>"}).replace("/api/sites", "/preview")
    preview = guarded.get(f"{site}/a.html").headers["location"]
    copied = {"cookie": f"signpost-signed-in={signed_in}"}
    other = create_app(database, hosts=("club.example",), key=KEY)
    with TestClient(other, base_url="https://club.example", follow_redirects=False) as elsewhere:
        assert elsewhere.get("/api/sites", headers=copied).status_code == 200
        assert elsewhere.get(preview).status_code == 200
        assert "signpost-can-sign-out" in guarded.cookies
        assert guarded.post("/sign-out").status_code == 303
        assert "signpost-can-sign-out" not in guarded.cookies
        assert elsewhere.get("/api/sites", headers=copied).status_code == 401
        assert elsewhere.get(preview).status_code == 401
    assert guarded.get("/api/sites", headers=copied).status_code == 401


def test_a_preview_is_open_for_a_day(guarded, clock):
    sign_in(guarded)
    site = new_site(guarded, {"a.html": b"<h1>a</h1>"}).replace("/api/sites", "/preview")
    preview = guarded.get(f"{site}/a.html").headers["location"]
    guarded.cookies.clear()
    clock(access.PASS.total_seconds() - 5)
    assert guarded.get(preview).status_code == 200
    clock(10)
    assert guarded.get(preview).status_code == 401


def test_another_key_ends_all_passes(guarded, database):
    signed_in = sign_in(guarded).cookies["signpost-signed-in"]
    with TestClient(create_app(database, key=KEY + "!"), base_url="http://127.0.0.1") as other:
        answer = other.get("/api/sites", headers={"cookie": f"signpost-signed-in={signed_in}"})
    assert answer.status_code == 401


def test_guessing_is_slowed_down(guarded, clock):
    statuses = [sign_in(guarded, f"guess {number}").status_code for number in range(6)]
    assert statuses == [401] * 4 + [429] * 2
    assert sign_in(guarded).status_code == 429, "the right key has to wait as well"
    waits = []
    for _ in range(12):
        clock(1000)
        sign_in(guarded, "guess")
        waits.append(int(sign_in(guarded, "guess").headers["retry-after"]))
    assert waits == sorted(waits)
    assert waits[0] == 5
    assert waits[-1] == sign_ins.LONGEST_WAIT.total_seconds() + 1
    clock(1000)
    assert sign_in(guarded).status_code == 303
    assert sign_in(guarded, "guess").status_code == 401, "what was before the right key is forgotten"


def test_keys_that_come_at_once_are_judged_one_at_a_time(guarded):
    with ThreadPoolExecutor(30) as pool:
        statuses = Counter(pool.map(lambda n: sign_in(guarded, f"guess {n}").status_code, range(60)))
    assert statuses == {401: sign_ins.FREE_FAILURES + 1, 429: 60 - sign_ins.FREE_FAILURES - 1}


def test_guesses_from_many_addresses_are_bounded_together(guarded, database, clock):
    def status(address, key):
        with TestClient(guarded.app, "https://club.example", client=(address, 1), follow_redirects=False) as one:
            one.app.state.database = database
            return sign_in(one, key).status_code

    known = {"cookie": f"signpost-browser={sign_in(guarded).cookies['signpost-browser']}"}
    guarded.cookies.clear()
    guesses = [status(f"10.0.{n // 2}.{n % 2}", "guess") for n in range(sign_ins.EVERYBODYS_FAILURES + 5)]
    assert Counter(guesses) == {401: sign_ins.EVERYBODYS_FAILURES, 429: 5}
    assert status("10.1.0.1", KEY) == 429
    assert guarded.post("/sign-in", data={"key": KEY}, headers=known).status_code == 303
    clock(61)
    assert status("10.1.0.1", KEY) == 303


@pytest.mark.parametrize(
    ("address", "same"),
    [("2001:db8::1", "2001:db8::ffff"), ("2001:db8:0:1::1", None), ("10.0.0.1", "10.0.0.1"), ("10.0.0.2", None)],
)
def test_of_ipv6_a_customers_network_is_one_address(database, address, same):
    def failures(caller):
        with TestClient(create_app(database, key=KEY), "http://127.0.0.1", client=(caller, 1)) as one:
            return [sign_in(one, "guess").status_code for _ in range(4)].count(429)

    other = same or {"2001:db8:0:1::1": "2001:db8:0:2::1", "10.0.0.2": "10.0.0.3"}[address]
    assert failures(address) == 0
    assert (failures(other) > 0) == (same is not None)


def test_whoever_has_signed_in_before_is_not_kept_out_by_others_at_the_same_address(guarded):
    known = {"cookie": f"signpost-browser={sign_in(guarded).cookies['signpost-browser']}"}
    guarded.cookies.clear()
    while sign_in(guarded, "guess").status_code != 429:
        pass
    guarded.cookies.clear()
    for forged in ("x-" + "0" * 32, "-", "\u00fc-1"):
        answer = guarded.post(
            "/sign-in", data={"key": KEY}, headers={"cookie": f"signpost-browser={forged}".encode()}
        )
        assert answer.status_code == 429
    wrong = [guarded.post("/sign-in", data={"key": "guess"}, headers=known).status_code for _ in range(5)]
    assert wrong == [401] * 4 + [429], "it does not guess any faster"


def test_a_body_that_does_not_come_is_not_waited_for(database, monkeypatch):
    monkeypatch.setattr(access, "_PATIENCE", 0.05)
    app = create_app(database, key=KEY)
    sent = []

    async def never():
        await asyncio.sleep(3600)

    async def send(message):
        sent.append(message)

    scope = {
        "type": "http",
        "method": "POST",
        "path": "/sign-in",
        "raw_path": b"/sign-in",
        "query_string": b"",
        "headers": [(b"host", b"127.0.0.1")],
        "client": ("10.0.0.9", 1),
        "server": ("127.0.0.1", 80),
        "scheme": "http",
    }
    asyncio.run(asyncio.wait_for(app(scope, never, send), 20))
    assert sent[0]["status"] == 413


def test_without_the_database_nobody_is_let_in(guarded, monkeypatch):
    sign_in(guarded)

    def gone():
        raise OperationalError("SELECT", {}, Exception("gone"))

    monkeypatch.setattr(guarded.app.state.database, "transaction", gone)
    answer = guarded.get("/api/sites")
    assert (answer.status_code, "does not answer" in answer.json()["detail"]) == (503, True)


def test_what_signs_in_is_bounded(guarded):
    assert sign_in(guarded, "x" * 10_000).status_code == 413


def test_the_preview_s_frame_has_a_pass_for_its_own_site_alone(guarded):
    sign_in(guarded)
    site, other = (new_site(guarded, {"a b.html": b"<h1>a</h1>", "s.css": b"p{}"}) for _ in range(2))
    preview, others = (one.replace("/api/sites", "/preview") for one in (site, other))
    answer = guarded.get(f"{preview}/a%20b.html?text_size=150")
    assert answer.status_code == 307
    there = answer.headers["location"]
    assert re.fullmatch(re.escape(preview) + r"\.\d+-[0-9a-f]{32}-[0-9a-f]{32}/a%20b\.html\?text_size=150", there)
    guarded.cookies.clear()
    page = guarded.get(there)
    assert page.status_code == 200
    root = there[: there.index("/a%20b")]
    assert f"img-src https://club.example{root}/ data:" in page.headers["content-security-policy"]
    assert guarded.get(f"{root}/s.css").status_code == 200
    assert guarded.get(f"{preview}/s.css").status_code == 401
    assert guarded.get(root.replace(preview, others) + "/s.css").status_code == 401
    assert guarded.get("/preview/walk.js").status_code == 200


@pytest.mark.parametrize(
    ("environment", "words"),
    [
        ({"SIGNPOST_HOSTS": "club.example"}, "a key is needed"),
        ({"SIGNPOST_HOSTS": "club.example", "SIGNPOST_KEY": "short"}, "has 5 characters"),
        ({"SIGNPOST_KEY_FILE": "/nowhere/key"}, "cannot be read"),
        ({"SIGNPOST_WORKERS": "many"}, "how many processes"),
    ],
    ids=str,
)
def test_what_would_leave_the_door_open_is_refused(environment, words):
    with pytest.raises(ValueError, match=words):
        read_reach(environment)


def test_where_the_server_is_reached_from(tmp_path):
    (tmp_path / "key").write_text(KEY + "\n")
    reach = read_reach(
        {
            "SIGNPOST_HOSTS": "Club.example, b.example",
            "SIGNPOST_KEY_FILE": str(tmp_path / "key"),
            "SIGNPOST_PROXIES": "127.0.0.1",
        }
    )
    assert reach.hosts == ("club.example", "b.example")
    assert reach.key == KEY
    assert reach.proxies == ("127.0.0.1",)
    assert read_reach({}).key is None
    assert read_reach({}).proxies == ()
