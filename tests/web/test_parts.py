"""A page in parts behind the API: looked at, proposed, cut, cut anew, joined."""

import pytest

from sites import change, demo_site, new_site, plan, taken_out

WINDOW = {"width": 440, "height": 560, "text_size": 100}
PAGE = (
    b"<!DOCTYPE html>\n<title>T</title>\n<h1>T</h1>\n<p>lead</p>\n<h2 id=a>A</h2>\n<p>one two <a href=#b>b</a></p>\n"
    b"<h2 id=b>B</h2>\n<p>three</p>\n<p>four</p>\n<h2 id=c>C</h2>\n<p>five six seven</p>\n"
)


def look(client, site, page="page.html", **asked):
    answer = client.post(f"{site}/parts", json={"page": page, "window": WINDOW, **asked})
    assert answer.status_code == 200, answer.text
    return answer.json()


def place_of(view, text):
    return next(place["at"] for place in view["places"] if place["text"] == text)


def test_parts_are_looked_at_before_the_cut(client):
    site = new_site(client, {"page.html": PAGE})
    view = look(client, site)
    assert (view["in_parts"], len(view["parts"])) == (False, 1)
    cuts = [{"at": place_of(view, "four")}, {"at": place_of(view, "C")}]
    view = look(client, site, cuts=cuts, pattern="{title}")
    assert [part["number"] for part in view["parts"]] == [1, 2, 3]
    assert [part["untitled"] for part in view["parts"]] == [False, True, False]
    assert [part["path"] for part in view["parts"]] == ["page.html", "part-2.html", "c.html"]
    assert sum(part["words"] for part in view["parts"]) == view["words"]
    assert sum(part["share"] for part in view["parts"]) == pytest.approx(1)
    assert [part["crossing"] for part in view["parts"]] == [0, 0, 0]
    assert look(client, site, cuts=[{"at": place_of(view, "B")}])["parts"][1]["crossing"] == 1
    assert [section["text"] for section in view["sections"]] == ["T", "A", "B", "C"]
    refused = client.post(f"{site}/plans", json={"operation": "parts", "page": "page.html", "cuts": cuts})
    assert (refused.status_code, "Give it a title" in refused.json()["detail"]) == (422, True)
    assert taken_out(client, site) == {"page.html": PAGE}


def test_ways_to_cut_are_proposed_with_what_each_costs(client):
    site = demo_site(client)
    asked = {"page": "handbook.html", "window": WINDOW}
    for by, value in (("parts", 4), ("words", 2300), ("minutes", 9.5), ("windows", 14)):
        ways = client.post(f"{site}/parts/proposals", json={**asked, "by": by, "value": value}).json()
        assert {way["choice"]: way["parts"] for way in ways} | {"sections": 0} == {
            "best": 4,
            "fewer": 3,
            "more": 5,
            "evenest": 4,
            "sections": 0,
        }
    best = ways[0]["cuts"]
    kept = client.post(f"{site}/parts/proposals", json={**asked, "by": "parts", "value": 3, "fixed": best[:1]}).json()
    assert all(best[0] in way["cuts"] for way in kept if way["choice"] != "sections")
    level = client.post(f"{site}/parts/proposals", json={**asked, "by": "level", "value": 2}).json()
    assert len(level) == 1
    many = client.post(f"{site}/parts/proposals", json={**asked, "by": "parts", "value": 190})
    assert (many.status_code, "at most" in many.json()["detail"]) == (422, True)


def test_limits_and_names_of_a_site_are_kept(client):
    site = new_site(client, {"page.html": PAGE})
    limits = {"least_words": 5, "most_words": 8, "most_windows": 0}
    body = {"names": "{page}/{number}", "limits": limits}
    assert client.put(f"{site}/parts/settings", json=body).status_code == 204
    view = look(client, site)
    view = look(client, site, cuts=[{"at": place_of(view, "C")}])
    assert [part["path"] for part in view["parts"]] == ["page.html", "page/2.html"]
    assert [part["beyond"] for part in view["parts"]] == ["long", "short"]
    asked = {"page": "page.html", "window": WINDOW, "by": "parts", "value": 4}
    refused = client.post(f"{site}/parts/proposals", json=asked)
    assert "With the least length that is set" in refused.json()["detail"]


def test_the_whole_life_of_a_page_in_parts(client):
    site = new_site(client, {"page.html": PAGE, "other.html": b"<p><a href=page.html#c>c</a>"})
    before = taken_out(client, site)
    made = change(client, site, "parts", "page.html", sections=[2, 3])
    assert made["title"] == "Cut into 3 parts"
    opened = client.get(f"{site}/page", params={"path": "page-2.html"}).json()
    assert opened["part"] == {"number": 2, "count": 3, "home": "page.html", "title": "T", "missing": []}
    listed = client.get(site).json()["series"]
    assert [[part["title"] for part in one["parts"]] for one in listed] == [["T", "B", "C"]]

    # an edit in one part puts the others out of date; the cut cannot be undone then, but joined
    source = client.get(f"{site}/source", params={"path": "page-2.html"}).json()["text"]
    change(client, site, "type", "page-2.html", text=source.replace(">B<", ">Bells<"))
    assert look(client, site, "page-3.html")["outdated"] > 0
    refused = client.post(f"{site}/changes/{made['number']}/undo")
    assert "by “Source edited by hand”" in refused.json()["detail"]
    assert "or join the parts of page.html instead" in refused.json()["detail"]
    assert change(client, site, "refresh-parts", "page-3.html")["title"] == "Parts brought up to date"
    assert plan(client, site, "refresh-parts", "page.html")["edits"] == 0
    assert b"Bells" in taken_out(client, site)["page.html"]

    # cut anew, put into another order, joined
    view = look(client, site, "page-2.html")
    cuts = [{"at": part["at"], "title": part["titled"]} for part in view["parts"][1:]]
    again = [{"at": place_of(view, "A")}, *cuts]
    assert change(client, site, "parts", "page-3.html", cuts=again)["title"] == "Cut anew into 4 parts"
    change(client, site, "reorder-parts", "page.html", order=[1, 2, 4, 3])
    assert b"page-3.html#c" in taken_out(client, site)["other.html"]
    change(client, site, "reorder-parts", "page.html", order=[1, 2, 4, 3])
    assert change(client, site, "join", "page-4.html")["title"] == "Parts joined to one page"
    joined = taken_out(client, site)
    assert joined == {**before, "page.html": before["page.html"].replace(b">B<", b">Bells<")}

    # where a part went is known
    gone = client.get(f"{site}/successor", params={"path": "page-3.html"}).json()
    assert gone == {"path": "page.html"}
    assert client.get(f"{site}/successor", params={"path": "nothing.html"}).json() == {"path": None}


def test_lengths_of_a_series_are_put_together_from_its_parts(client):
    site = demo_site(client)
    one = look(client, site, "handbook.html")
    cuts = one["places"][20]["at"], one["places"][60]["at"]
    sections = [place["section"] for place in one["places"] if place["at"] in cuts and place["section"] is not None]
    change(client, site, "parts", "handbook.html", sections=sections or [10, 40])
    parts = look(client, site, "handbook-2.html")
    assert [section["text"] for section in parts["sections"]] == [section["text"] for section in one["sections"]]
    assert parts["height"] == pytest.approx(one["height"], rel=0.05)
    assert {section["page"] for section in parts["sections"]} == set(parts["paths"])
    assert parts["words"] == one["words"]
    tops = [section["top"] for section in parts["sections"]]
    assert tops == sorted(tops)


def test_joining_asks_whose_footer_stays_and_writes_nothing_before_the_answer(client):
    site = new_site(client, {"page.html": b"<body>\n<main>\n" + PAGE + b"</main>\n<p>Printed in May.</p>\n</body>\n"})
    view = look(client, site)
    change(client, site, "parts", "page.html", cuts=[{"at": place_of(view, "B")}])
    source = client.get(f"{site}/source", params={"path": "page-2.html"}).json()["text"]
    change(client, site, "type", "page-2.html", text=source.replace("in May", "in June"))
    before = taken_out(client, site)
    planned = plan(client, site, "join", "page.html")
    assert planned["question"]["choices"] == ["page.html", "page-2.html"]
    body = {"operation": "join", "page": "page.html"}
    refused = client.post(f"{site}/changes", json=body, headers={"if-match": planned["tag"]})
    assert (refused.status_code, refused.json()["detail"]) == (422, planned["question"]["words"])
    assert taken_out(client, site) == before
    change(client, site, "join", "page.html", frame="page-2.html")
    assert b"in June" in taken_out(client, site)["page.html"]
