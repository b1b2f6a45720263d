"""All links of a site as a table, and addresses changed by one."""

import csv
import io
import json

import pytest

from pages import carried_out, site_from
from signpost.core.references.link_list import links_csv, links_json, list_links, plan_addresses
from signpost.core.text.errors import RequestError

FILES = {
    "a.html": "<title>A</title><h1 id=x>A</h1>\n<p><a href='b.html#y'>to, b</a> <a href=#z>z</a>\n<a href=c.html>c</a>\n"
    '<a href="https://example.org/?a=1&amp;b=2">"out"</a> <a>none</a> <a href=mailto:o@example.org>m</a>\n',
    "b.html": "<title>B</title><h1 id=y>B</h1><a href=p.png><img src=p.png alt='A plan'></a>",
    "p.png": b"",
}


def test_each_link_has_a_row():
    rows = [
        (row.page, row.line, row.words, row.address, row.kind, row.leads_to, row.state)
        for row in list_links(site_from(FILES))
    ]
    assert rows == [
        ("a.html", 2, "to, b", "b.html#y", "page", "b.html#y", "found"),
        ("a.html", 2, "z", "#z", "fragment", "a.html#z", "no target"),
        ("a.html", 3, "c", "c.html", "page", "c.html", "no file"),
        ("a.html", 4, '"out"', "https://example.org/?a=1&b=2", "outside", "", "outside"),
        ("a.html", 4, "none", "", "none", "", "no address"),
        ("a.html", 4, "m", "mailto:o@example.org", "mail", "", "outside"),
        ("b.html", 1, "A plan", "p.png", "file", "p.png", "found"),
    ]


def filled_in(site, changes) -> list[dict[str, str]]:
    rows = list(csv.DictReader(io.StringIO(links_csv(list_links(site)))))
    return [{**row, "new_address": changes.get(row["address"], "")} for row in rows]


def as_csv(rows, delimiter=",") -> str:
    out = io.StringIO()
    writer = csv.DictWriter(out, rows[0].keys(), delimiter=delimiter)
    writer.writeheader()
    writer.writerows(rows)
    return out.getvalue()


CHANGES = {"#z": "#x", "c.html": "b.html", "https://example.org/?a=1&b=2": "https://example.net/?c&d=1"}
AFTER = (
    "<title>A</title><h1 id=x>A</h1>\n<p><a href='b.html#y'>to, b</a> <a href=#x>z</a>\n<a href=b.html>c</a>\n"
    '<a href="https://example.net/?c&d=1">"out"</a> <a>none</a> <a href=mailto:o@example.org>m</a>\n'
)


@pytest.mark.parametrize(
    "written",
    [
        as_csv,
        lambda rows: "\ufeff" + as_csv(rows, ";"),
        lambda rows: as_csv(rows, "\t"),
        lambda rows: json.dumps({"links": rows}),
        lambda rows: as_csv([{**row, "line": str(int(row["line"]) + 7)} for row in rows]),  # lines came before them
    ],
)
def test_addresses_change_by_the_list(written):
    site = site_from(FILES)
    plan = plan_addresses(site, written(filled_in(site, CHANGES)))
    assert plan.notes == ()
    done = carried_out(FILES, site, plan)
    assert done["a.html"].decode() == AFTER
    assert done["b.html"] == FILES["b.html"].encode()
    after = site_from(done)
    assert not plan_addresses(after, links_csv(list_links(after)))
    again = plan_addresses(after, written(filled_in(site, CHANGES)))
    assert not again  # and says so of each
    assert len(again.notes) == 3


def test_white_space_around_an_address_does_not_hide_it():
    files = {"a.html": "<a href=' x.html '>1</a>\n"}
    site = site_from(files)
    rows = filled_in(site, {" x.html ": "y.html"})
    assert carried_out(files, site, plan_addresses(site, as_csv(rows)))["a.html"] == b"<a href='y.html'>1</a>\n"


def test_what_is_not_found_is_said():
    site = site_from(FILES)
    rows = [
        {"page": "a.html", "line": "9", "address": "old.html", "new_address": "new.html"},
        {"page": "gone.html", "line": "1", "address": "x", "new_address": "y"},
    ]
    plan = plan_addresses(site, as_csv(rows))
    assert not plan
    assert plan.notes == (
        "a.html, line 9: no link there has the address old.html now.",
        "gone.html is no page of the site; its 1 rows change nothing.",
    )


def test_the_same_address_may_become_different_ones():
    files = {"a.html": "<a href=x.html>1</a>\n<a href=x.html>2</a>\n"}
    site = site_from(files)
    rows = [{"page": "a.html", "line": str(n), "address": "x.html", "new_address": f"x{n}.html"} for n in (1, 2)]
    assert (
        carried_out(files, site, plan_addresses(site, as_csv(rows)))["a.html"]
        == b"<a href=x1.html>1</a>\n<a href=x2.html>2</a>\n"
    )


@pytest.mark.parametrize("text", ["", "page,line\n", "{", "[1]", '{"links": 3}', "page,line,address\na,1,b\n"])
def test_a_list_that_cannot_be_read_says_why(text):
    with pytest.raises(RequestError):
        plan_addresses(site_from(FILES), text)


def test_the_tables_say_the_same():
    site = site_from(FILES)
    rows = links_json(list_links(site))["links"]
    assert [{name: str(value) for name, value in row.items()} for row in rows] == list(
        csv.DictReader(io.StringIO(links_csv(list_links(site))))
    )
