"""Beyond loopback: nothing without the key, and the key is not to be guessed."""

import re

import pytest
from starlette.testclient import TestClient

from signpost.web import access
from signpost.web.app import create_app
from signpost.web.serve import read_reach
from sites import new_site

KEY = "a long key of the volunteers"


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


@pytest.mark.parametrize("cookie", ["", "x", "99999999999-" + "0" * 32, "1-" + "0" * 32, "-", "99999999999"])
def test_forged_cookies_open_nothing(guarded, cookie):
    guarded.headers["cookie"] = f"signpost-signed-in={cookie}"
    assert guarded.get("/api/sites").status_code == 401


def test_a_cookie_ends(guarded, monkeypatch):
    sign_in(guarded)
    now = access.time.time()
    monkeypatch.setattr(access.time, "time", lambda: now + access.SIGNED_IN + 1)
    assert guarded.get("/api/sites").status_code == 401


def test_guessing_is_slowed_down(guarded, monkeypatch):
    now = [1000.0]
    monkeypatch.setattr(access.time, "monotonic", lambda: now[0])
    statuses = [sign_in(guarded, f"guess {number}").status_code for number in range(6)]
    assert statuses == [401] * 4 + [429] * 2
    assert sign_in(guarded).status_code == 429, "the right key has to wait as well"
    waits = []
    for _ in range(12):
        now[0] += 1000
        sign_in(guarded, "guess")
        waits.append(int(sign_in(guarded, "guess").headers["retry-after"]))
    assert waits == sorted(waits)
    assert waits[-1] == access.LONGEST_WAIT + 1
    now[0] += 1000
    assert sign_in(guarded).status_code == 303


def test_what_signs_in_is_bounded(guarded):
    assert sign_in(guarded, "x" * 10_000).status_code == 413


def test_the_preview_s_frame_has_a_pass_for_its_own_site_alone(guarded):
    sign_in(guarded)
    site, other = (new_site(guarded, {"a b.html": b"<h1>a</h1>", "s.css": b"p{}"}) for _ in range(2))
    preview, others = (one.replace("/api/sites", "/preview") for one in (site, other))
    answer = guarded.get(f"{preview}/a%20b.html?text_size=150")
    assert answer.status_code == 307
    there = answer.headers["location"]
    assert re.fullmatch(re.escape(preview) + r"\.\d+-[0-9a-f]{32}/a%20b\.html\?text_size=150", there)
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
