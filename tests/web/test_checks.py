"""How a site is checked, behind the API: fixes and choices, what is set aside, the site's own file, reports."""

import json

import pytest

from signpost.core.findings import RULES
from sites import change, new_site, plan, taken_out

PAGE = (
    b"<!DOCTYPE html>\n<html lang=en><head><title>T</title>\n<meta name=viewport content=x></head>\n<body>\n<h1>T</h1>\n"
    b"<p id=boilers>one</span></p>\n<p>two</b></p>\n<h2 id=a>A</h2>\n<p><a href=#boilrz>b</a> <a href=#gone>c</a></p>\n"
    b"</body></html>\n"
)


def findings(client, site, path="page.html"):
    return client.get(f"{site}/page", params={"path": path}).json()["findings"]


def codes(client, site):
    return [found["rule"] for found in findings(client, site)]


def put(client, site, view, **said):
    on = said.pop("on", [rule["code"] for rule in view["rules"] if rule["on"]])
    body = {"on": on, "limits": view["limits"], "left_out": view["left_out"], **said}
    answer = client.put(f"{site}/checks", json=body)
    assert answer.status_code == 200, answer.text
    return answer.json()


def test_findings_are_fixed_by_a_press_a_choice_or_all_of_a_rule(client):
    site = new_site(client, {"page.html": PAGE, "other.html": PAGE.replace(b"<title>T", b"<title>O")})
    broken = next(found for found in findings(client, site) if found["rule"] == "fragment-missing")
    assert broken["choices"] == ["Link to “#boilers”"]
    change(client, site, "fix", "page.html", rule="fragment-missing", start=broken["start"], choice=0)
    assert b"<a href=#boilers>b</a>" in taken_out(client, site)["page.html"]
    planned = plan(client, site, "fix", "page.html", rule="end-tag-stray", everywhere=True)
    assert [(file["path"], file["edits"]) for file in planned["files"]] == [("page.html", 2), ("other.html", 2)]
    assert plan(client, site, "fix", "page.html", rule="fragment-missing")["edits"] == 0
    gone = client.post(
        f"{site}/plans", json={"operation": "fix", "page": "page.html", "rule": "hash-missing", "start": 3}
    )
    assert (gone.status_code, "not there any more" in gone.json()["detail"]) == (422, True)


def test_what_is_set_aside_is_found_no_more_until_it_is_taken_back(client):
    site = new_site(client, {"page.html": PAGE})
    stray = [found for found in findings(client, site) if found["rule"] == "end-tag-stray"]
    assert len(stray) == 2
    body = {"page": "page.html", "rule": "end-tag-stray", "start": stray[0]["start"], "reason": "an old habit"}
    assert client.post(f"{site}/aside", json=body).status_code == 204
    assert codes(client, site).count("end-tag-stray") == 1
    (aside,) = client.get(f"{site}/checks").json()["aside"]
    assert (aside["words"], aside["reason"], aside["in_file"]) == ("</span>", "an old habit", False)
    assert client.post(f"{site}/aside", json=body).status_code == 422  # it is not found any more
    place = {name: aside[name] for name in ("rule", "page", "words")}
    assert client.post(f"{site}/aside/taken-back", json=place).status_code == 204
    assert codes(client, site).count("end-tag-stray") == 2
    for scope in ("page", "site"):
        assert client.post(f"{site}/aside", json={**body, "scope": scope}).status_code == 204
        assert "end-tag-stray" not in codes(client, site)
        taken = {"rule": "end-tag-stray", "page": "page.html" if scope == "page" else ""}
        assert client.post(f"{site}/aside/taken-back", json=taken).status_code == 204
    assert taken_out(client, site) == {"page.html": PAGE}


def test_rules_are_switched_and_judged_otherwise(client):
    site = new_site(client, {"page.html": PAGE, "old/a.html": PAGE})
    view = client.get(f"{site}/checks").json()
    assert {rule["code"] for rule in view["rules"]} == set(RULES)
    assert not next(rule for rule in view["rules"] if rule["code"] == "target-unused")["on"]
    on = [rule["code"] for rule in view["rules"] if rule["on"] and rule["code"] != "end-tag-stray"]
    put(client, site, view, on=[*on, "target-unused"], severities={"fragment-missing": "warning"}, left_out=["old"])
    found = findings(client, site)
    assert "end-tag-stray" not in {one["rule"] for one in found}
    assert {one["severity"] for one in found if one["rule"] == "fragment-missing"} == {"warning"}
    assert [one["message"] for one in found if one["rule"] == "target-unused"]
    assert findings(client, site, "old/a.html") == []
    wrong = client.put(f"{site}/checks", json={"on": ["no-such-rule"]})
    assert (wrong.status_code, "no-such-rule" in wrong.json()["detail"]) == (422, True)


def test_the_site_s_own_file_is_read_and_written(client):
    own = b'[check]\noff = ["end-tag-stray"]\n[limits]\nsections = 2\n[[aside]]\nrule = "fragment-missing"\nwords = "<a href=#gone>"\n'
    site = new_site(client, {"page.html": PAGE, "signpost.toml": own})
    assert codes(client, site) == ["fragment-missing"]
    view = client.get(f"{site}/checks").json()
    assert (view["has_file"], view["problem"], view["limits"]["sections"]) == (True, "", 2)
    assert [one["in_file"] for one in view["aside"]] == [True]
    put(client, site, view, severities={"fragment-missing": "advice"})
    change(client, site, "site-file", "page.html")
    written = taken_out(client, site)["signpost.toml"].decode()
    for line in (
        'off = ["end-tag-stray"]',
        'fragment-missing = "advice"',
        "sections = 2",
        'words = "<a href=#gone>"',
    ):
        assert line in written
    assert plan(client, site, "site-file", "page.html")["edits"] == 0

    broken = new_site(client, {"page.html": PAGE, "signpost.toml": b"[check]\nof = []\n"})
    view = client.get(f"{broken}/checks").json()
    assert view["problem"] == "signpost.toml: [check] says “of”, which means nothing."
    assert codes(client, broken).count("end-tag-stray") == 2


MENU = '<nav class="menu"><a href="lost.html">Lost</a> <a href="b.html">B</a></nav>'


def test_findings_of_a_rule_are_told_by_cause_and_by_block_and_fixed_together(client):
    page = "<!DOCTYPE html><html lang=en><title>{0}</title><body>{1}<main><h1>{0}</h1><p><a href='gone.html'>g</a>{2}"
    pages = {f"{name}.html": page.format(name, MENU, "") for name in "abc"}
    pages["d.html"] = page.format("d", MENU, "<a href='lots.html'>l</a>")
    pages["lots/lost.html"] = page.format("Lost", "", "")
    site = new_site(client, pages)
    params = {"by": "cause"}
    told = client.get(f"{site}/findings/page-missing/causes", params=params).json()
    assert [(one["said"], one["count"], one["pages"]) for one in told["causes"]] == [
        ("gone.html", 4, 4), ("lost.html", 4, 4), ("lots.html", 1, 1), ("lots/gone.html", 1, 1),
    ]  # fmt: skip
    assert not told["more"]
    assert client.get(f"{site}/findings/page-missing/causes", params={**params, "limit": 2}).json()["more"]
    told = client.get(f"{site}/findings/page-missing/causes", params={"by": "block"}).json()
    assert [(one["said"], one["count"]) for one in told["causes"]] == [("", 6), ("nav.menu", 4)]
    rows = client.get(f"{site}/findings/page-missing", params={"by": "block", "of": "nav.menu"}).json()["findings"]
    assert [one["page"] for one in rows] == ["a.html", "b.html", "c.html", "d.html"]
    assert {one["cause"] for one in rows} == {"lost.html"}
    # what one line shows is fixed by one press, and nothing else
    fix = {"rule": "page-missing", "choice": 0, "everywhere": True, "cause": "lost.html"}
    planned = plan(client, site, "fix", "a.html", **fix)
    assert sorted(one["path"] for one in planned["files"]) == ["a.html", "b.html", "c.html", "d.html"]
    change(client, site, "fix", "a.html", **fix)
    told = client.get(f"{site}/findings/page-missing/causes", params=params).json()
    assert [one["said"] for one in told["causes"]] == ["gone.html", "lots.html", "lots/gone.html"]
    assert taken_out(client, site)["a.html"].count(b"lots/lost.html") == 1


@pytest.mark.parametrize(
    ("form", "kind"),
    [("html", "text/html"), ("csv", "text/csv"), ("json", "application/json"), ("sarif", "application/sarif+json")],
)
def test_findings_are_taken_away(client, form, kind):
    site = new_site(client, {"page.html": PAGE})
    answer = client.get(f"{site}/report", params={"form": form, "path": "page.html"})
    assert answer.status_code == 200
    assert answer.headers["content-type"].startswith(kind)
    assert f"findings.{form}" in answer.headers["content-disposition"]
    count = len(findings(client, site))
    if form == "json":
        assert len(answer.json()["findings"]) == count
    elif form == "sarif":
        assert len(json.loads(answer.text)["runs"][0]["results"]) == count
    elif form == "csv":
        assert answer.text.count("\n") == count + 1
    else:
        assert answer.text.count("<li>") == count
        assert "&lt;/span&gt; ends nothing" in answer.text
