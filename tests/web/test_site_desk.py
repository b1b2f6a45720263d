"""The site's desk: pages, findings, links and destinations a stretch at a time, as they are asked for."""

import pytest

from sites import demo_site, findings_of, new_site, pages_of

PAGES = {
    "a.html": b"<title>Alpha</title><h1>A</h1><h2>One</h2><h2>Two</h2><p>many words of text here</p>"
    b"<a href=b.html>b</a><a href=b.html#zz>b</a><a href='#q'>q</a>",
    "b.html": b"<title>100% beta_x</title><h1 id=b>Caf\xc3\xa9 b</h1><p>some words</p>",
    "c/d.html": b"<title>Gamma</title><h1>C</h1><a href=../b.html#b>b</a>",
    "odd.html": b"GIF89a\0\1\2",
    "x.css": b"h1 { }",
    "y.css": b"h2 { }",
}


@pytest.fixture
def site(client):
    return new_site(client, PAGES)


def get(client, site, what, **query):
    answer = client.get(f"{site}/{what}", params=query)
    assert answer.status_code == 200, answer.text
    return answer.json()


@pytest.mark.parametrize(
    ("query", "paths"),
    [
        ({}, ["a.html", "b.html", "c/d.html", "odd.html"]),
        ({"down": True}, ["odd.html", "c/d.html", "b.html", "a.html"]),
        ({"order": "links_in", "down": True}, ["b.html", "a.html", "c/d.html", "odd.html"]),
        ({"order": "sections", "down": True, "limit": 1}, ["a.html"]),
        ({"order": "words", "down": True, "limit": 2}, ["a.html", "b.html"]),
        ({"order": "findings", "down": True, "limit": 1}, ["a.html"]),
        ({"start": 1, "limit": 2}, ["b.html", "c/d.html"]),
        ({"start": 9}, []),
        ({"query": "GAMMA"}, ["c/d.html"]),
        ({"query": "c/"}, ["c/d.html"]),
        ({"query": "0% beta_"}, ["b.html"]),
        ({"query": "0%x"}, []),
        ({"query": "a_h"}, []),
    ],
)
def test_pages_are_found_and_put_in_order(client, site, query, paths):
    found = get(client, site, "pages", **query)
    assert [page["path"] for page in found["pages"]] == paths
    every = get(client, site, "pages", query=query.get("query", ""))
    assert found["total"] == len(every["pages"])


def test_a_row_says_what_its_page_is(client, site):
    rows = pages_of(client, site)
    assert (rows["b.html"]["links_in"], rows["a.html"]["links_out"], rows["a.html"]["links_in"]) == (3, 2, 0)
    assert rows["a.html"]["errors"] == 2
    assert "not a text file" in rows["odd.html"]["unreadable"]
    view = client.get(site).json()
    assert (view["pages"], view["files"], view["linked"], view["first"]) == (4, 2, True, ["a.html", "b.html"])


def test_files_and_links_go_on_after_the_last(client, site):
    first = get(client, site, "files", limit=1)
    assert ([one["path"] for one in first["files"]], first["more"]) == (["x.css"], True)
    rest = get(client, site, "files", after="x.css")
    assert ([one["path"] for one in rest["files"]], rest["more"]) == (["y.css"], False)
    links = get(client, site, "links", limit=1)
    assert links == {"links": [{"from_page": "a.html", "to_page": "b.html", "count": 2}], "after": "a.html"}
    links = get(client, site, "links", after="a.html")
    assert links == {"links": [{"from_page": "c/d.html", "to_page": "b.html", "count": 1}], "after": None}


def test_findings_are_grouped_the_gravest_first_and_gone_through(client):
    site = demo_site(client)
    view = get(client, site, "findings")
    ranks = [("error", "warning", "advice").index(group["severity"]) for group in view["groups"]]
    assert ranks == sorted(ranks)
    for group in view["groups"]:
        assert (group["only"] is not None) is (group["count"] == 1)
    assert view["fixable"] == sum(one["fixable"] and one["fix"] == "auto" for one in findings_of(client, site))
    rule, count = view["groups"][0]["rule"], view["groups"][0]["count"]
    gone_through, after = [], {}
    while True:
        some = get(client, site, f"findings/{rule}", limit=3, **after)
        gone_through += [(one["page"], one["start"]) for one in some["findings"]]
        if some["after"] is None:
            break
        after = {"after_page": some["findings"][-1]["page"], "after": some["after"]}
    assert len(gone_through) == len(set(gone_through)) == count
    assert client.get(f"{site}/findings/no-such-rule").status_code == 422


def test_findings_are_filtered_by_words_of_page_title_and_message(client, site):
    def rules(words):
        return {group["rule"] for group in get(client, site, "findings", query=words)["groups"]}

    assert {"fragment-missing"} <= rules("#zz")
    assert rules("no such words anywhere") == set()
    assert "fragment-missing" in rules("leads nowhere"), "by its title"
    assert rules("c/d") <= rules("")


def test_what_is_switched_off_is_neither_listed_nor_counted(client, site):
    before = {group["rule"] for group in get(client, site, "findings")["groups"]}
    checks = get(client, site, "checks")
    on = [rule["code"] for rule in checks["rules"] if rule["on"] and rule["code"] != "fragment-missing"]
    body = {"on": on, "severities": {"page-unlinked": "error"}, "left_out": ["c"]}
    assert client.put(f"{site}/checks", json=body).status_code == 200
    after = get(client, site, "findings")["groups"]
    assert before - {group["rule"] for group in after} >= {"fragment-missing"}
    assert [one["severity"] for one in after if one["rule"] == "page-unlinked"] == ["error"]
    rows = pages_of(client, site)
    assert (rows["a.html"]["errors"], rows["c/d.html"]["errors"] + rows["c/d.html"]["advice"]) == (1, 0)
    assert get(client, site, "findings/fragment-missing")["findings"] == []


EDGES = ["Top of this page", "Bottom of this page"]


@pytest.mark.parametrize(
    ("query", "found"),
    [
        ("", ["Alpha", *EDGES, "A", "One", "Two", "100% beta_x", "Caf\u00e9 b", "Gamma", "C"]),
        ("top", EDGES[:1]),
        ("cafe", ["Caf\u00e9 b"]),
        ("#b caf", ["Caf\u00e9 b"]),
        ("100%", ["100% beta_x"]),
        ("d.html c", ["C"]),
        ("nothing like it", []),
    ],
)
def test_destinations_are_found_as_they_are_typed(client, site, query, found):
    goals = get(client, site, "goals", path="a.html", query=query)
    if query == "d.html c":
        assert "C" in [goal["text"] for goal in goals["goals"]]
    else:
        assert [goal["text"] for goal in goals["goals"]] == found
    assert goals["more"] is False


def test_a_long_list_of_destinations_says_that_there_are_more(client, site):
    goals = get(client, site, "goals", path="a.html", limit=2)
    assert ([goal["text"] for goal in goals["goals"]], goals["more"]) == (["Alpha", EDGES[0]], True)


@pytest.mark.parametrize(
    ("typed", "others"),
    [
        ("", ["b.html", "c/d.html", "odd.html", "x.css", "y.css"]),
        ("b.", ["b.html"]),
        ("c/d", ["c/d.html", "odd.html"]),  # by the last piece; the editor leaves out what does not fit
        ("b.html#", ["b.html"]),
        ("#", []),
        ("gone.html#", []),
    ],
)
def test_an_address_is_completed(client, site, typed, others):
    own, *found = get(client, site, "completions", path="a.html", typed=typed)
    assert own["path"] == "a.html"
    assert [one["path"] for one in found] == others
    if typed == "b.html#":
        assert found[0]["identifiers"] == ["b"]


def test_what_begins_with_the_words_typed_comes_before_what_contains_them(client):
    titles = ["Coal", "Old coal", "Water", "Cocoa", "Scones"]
    files = {f"{number}.html": f"<title>{title}</title><p>x".encode() for number, title in enumerate(titles)}
    site = new_site(client, {**files, "asking.html": b"<title>Asking</title><p>x"})
    for limit, found in (
        (20, ["Coal", "Cocoa", "Old coal", "Scones"]),
        (3, ["Coal", "Cocoa", "Old coal"]),
        (1, ["Coal"]),
    ):
        goals = get(client, site, "goals", path="asking.html", query="co", limit=limit)
        assert [goal["text"] for goal in goals["goals"]] == found
        assert goals["more"] is (limit < 4)
