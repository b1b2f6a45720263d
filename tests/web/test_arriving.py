"""A site that is being read: its pages are listed and opened at once, and nothing is said that is not known yet."""

import httpx2
import pytest

from signpost.desk import intake, opening, working
from sites import new_site

MANY = intake.INDEXED_AT_ONCE + 20


def page(number: int) -> bytes:
    """Return a page that links to the next one, and to a place that the one after it has."""
    title = f"<!DOCTYPE html><html lang=en><title>Page {number}</title>"
    links = f"<a href='{number + 1}.html#there'>on</a> <a href=#here>here</a><p>words</b></p>"
    return f"{title}<main><h1>Page {number}</h1><h2 id=there>There</h2>{links}</main>".encode()


@pytest.fixture(autouse=True)
def nothing_in_the_background(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(working, "find_sites_with_work", lambda _: [])


@pytest.fixture
def site(client: httpx2.Client) -> str:
    """Return the address of a site none of whose pages is read."""
    return new_site(client, {f"{number}.html": page(number) for number in range(MANY)} | {"a.css": b"p {}"})


def test_pages_are_listed_at_once_with_what_is_known_of_them(client, site):
    first = client.get(f"{site}/arriving", params={"limit": 3}).json()
    assert first["total"] == MANY
    assert [one["path"] for one in first["pages"]] == ["0.html", "1.html", "10.html"]
    assert all(one["size"] == len(page(int(one["path"][:-5]))) for one in first["pages"])
    assert {(one["title"], one["words"], one["findings"]) for one in first["pages"]} == {(None, None, None)}
    assert client.get(f"{site}/arriving", params={"start": MANY - 1}).json()["pages"][0]["path"] == "99.html"


def test_what_comes_is_filled_in(client, site):
    client.get(f"{site}/reading")
    there = client.get(f"{site}/arriving", params={"limit": 100}).json()["pages"]
    listed = {one["path"]: one for one in client.get(f"{site}/pages", params={"limit": 100}).json()["pages"]}
    for one in there:
        known = listed[one["path"]]
        assert (one["title"], one["words"]) == (known["title"], known["words"])
        assert one["findings"] == known["errors"] + known["warnings"] + known["advice"] > 0


def test_any_page_opens_at_once_and_says_only_what_it_tells_by_itself(client, site):
    view = client.get(f"{site}/page", params={"path": "7.html"}).json()
    assert view["is_arriving"]
    assert "when the site is read" in view["locked"]
    assert [section["text"] for section in view["sections"]] == ["Page 7", "There"]
    assert {one["rule"] for one in view["findings"]} >= {"end-tag-stray"}
    assert not {one["rule"] for one in view["findings"]} & {"page-lost", "fragment-missing", "page-missing"}
    assert [link["resolves"] for link in view["links"]] == [True, False]  # of other pages, their file alone is known
    assert client.get(f"{site}/source", params={"path": "7.html"}).status_code == 200
    assert client.get(site.replace("/api/sites", "/preview") + "/7.html").status_code == 200
    assert (
        client.get(f"{site}/arriving", params={"limit": 1}).json()["pages"][0]["words"] is None
    )  # no other was read


def test_a_page_is_judged_once_all_are_read(client, site):
    client.get(f"{site}/reading")
    view = client.get(f"{site}/page", params={"path": f"{MANY - 1}.html"}).json()
    assert not view["is_arriving"]
    assert view["locked"] is None
    assert "page-missing" in {one["rule"] for one in view["findings"]}


def test_few_pages_are_read_before_anything_is_shown(client):
    site = new_site(client, {f"{number}.html": page(number) for number in range(opening.FEW_UNREAD)})
    assert not client.get(f"{site}/page", params={"path": "7.html"}).json()["is_arriving"]


def test_what_is_not_there_is_told_at_once_too(client, site):
    answer = client.get(f"{site}/page", params={"path": "none.html"})
    assert (answer.status_code, "no page" in answer.json()["detail"]) == (404, True)


def test_a_page_that_cannot_be_read_is_told_at_once_too(client):
    files = {f"{number}.html": page(number) for number in range(MANY)}
    site = new_site(client, {**files, "deep.html": b"<div>" * 100_000})
    answer = client.get(f"{site}/page", params={"path": "deep.html"})
    assert (answer.status_code, "cannot be opened" in answer.json()["detail"]) == (404, True)
    client.get(f"{site}/reading")
    listed = {one["path"]: one for one in client.get(f"{site}/arriving", params={"start": 100}).json()["pages"]}
    assert listed["deep.html"]["unreadable"]


def test_where_the_whole_index_is_out_of_date_pages_open_at_once(client, site):
    client.get(f"{site}/reading")
    client.put(site, json={"name": "Moved", "base": "https://line.example/"})
    assert client.get(f"{site}/page", params={"path": "7.html"}).json()["is_arriving"]
    assert {one["findings"] for one in client.get(f"{site}/arriving").json()["pages"]} == {None}
    client.get(f"{site}/reading")
    assert not client.get(f"{site}/page", params={"path": "7.html"}).json()["is_arriving"]


def test_few_pages_that_are_out_of_date_are_read_first(client):
    site = new_site(client, {f"{number}.html": page(number) for number in range(5)})
    client.put(site, json={"name": "Moved", "base": "https://line.example/"})
    assert not client.get(f"{site}/page", params={"path": "3.html"}).json()["is_arriving"]


def test_what_was_known_of_other_bytes_is_not_said_of_new_ones(client, site):
    client.get(f"{site}/reading")
    files = [("files", (f"{number}.html", page(number) + b"<p>more")) for number in range(MANY)]
    assert client.post(f"{site}/files", files=files, data={"replace": "true"}).status_code == 200
    there = client.get(f"{site}/arriving").json()["pages"]
    assert {(one["title"], one["words"], one["findings"]) for one in there} == {(None, None, None)}


def test_a_page_in_which_nothing_was_found_yet_is_not_done(client):
    clean = (
        b"<!DOCTYPE html><html lang=en><meta charset=utf-8><meta name=viewport content='width=device-width'>"
        b"<title>Clean</title><h1>Clean</h1><p>words</p></html>"
    )
    files = {f"{number}.html": page(number) for number in range(MANY)} | {"clean.html": clean}
    site = new_site(client, files)
    stages = client.get(f"{site}/page", params={"path": "clean.html"}).json()["stages"]
    (found,) = [one for one in stages if one["stage"] == "findings"]
    assert (found["progress"], found["words"]) == ("optional", "not looked for yet")
    view = client.get(f"{site}/page", params={"path": "7.html"}).json()
    (found,) = [one for one in view["stages"] if one["stage"] == "findings"]
    assert found["words"] == f"{len(view['findings'])} findings"
