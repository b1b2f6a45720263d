"""Whatever is asked for, by somebody who knows what there is and means no good: an answer, and never a 500."""

import json
from collections import Counter
from urllib.parse import quote

import pytest

from asking import HOSTILE, Asker
from signpost.desk.demo import demo_files
from sites import new_site, taken_out

#: Answers over 499 that are documented: the database does not answer, the site is full.
DOCUMENTED = frozenset([503, 507])
#: After how many requests the site is made anew, and how many there are at each seed.
ANEW, EACH = 250, 10_000
#: A part of the demo: pages of every kind, but for the longest.
FILES = {path: data for path, data in demo_files().items() if len(data) < 30_000}


def ask(client, seed, count):
    """Ask for so many things; return how many answers there were of each status."""
    asker = Asker(client.get("/api/openapi").json(), seed)
    chance = asker.chance
    said = {"content-type": "application/json"}
    counts = Counter()
    site = ""
    for number in range(count):
        if number % ANEW == 0:
            site = new_site(client, FILES)
        if number % 25 == 0:
            files = taken_out(client, site)
            page = chance.choice([path for path in files if path.endswith(".html")])
            asker.learn(files, client.get(f"{site}/page", params={"path": page}).json())
        if chance.random() < 0.25:
            path, query = asker.question()
            what = ("GET", path, query)
            encoded = {name: str(value).encode("utf-8", "replace") for name, value in query.items()}
            answer = client.get(f"{site}{quote(path, safe='/', errors='replace')}", params=encoded)
        else:
            body = asker.body()
            if chance.random() < 0.9:
                body["page"] = page
            what = ("POST", "/plans", body)
            answer = client.post(f"{site}/plans", content=json.dumps(body), headers=said)
            if answer.status_code == 200 and chance.random() < 0.6:
                tag = {"if-match": f'"{answer.json()["tag"]}"', **said}
                answer = client.post(f"{site}/changes", content=json.dumps(body), headers=tag)
                what = ("POST", "/changes", body)
        counts[answer.status_code] += 1
        assert answer.status_code < 500 or answer.status_code in DOCUMENTED, (seed, number, what, answer.text)
    return counts


def test_some_of_what_can_be_asked(client):
    counts = ask(client, 1, 300)
    assert counts[200] > 20
    assert counts[201] > 5
    assert counts[422] > 30


@pytest.mark.long
@pytest.mark.timeout(1500)
@pytest.mark.parametrize("seed", range(2, 12))
def test_much_of_what_can_be_asked(client, seed):
    counts = ask(client, seed, EACH)
    assert sum(counts.values()) == EACH
    assert counts[201] > EACH // 100, "changes are made"


def test_what_is_hostile_is_of_many_kinds():
    assert len(set(HOSTILE)) > 40
