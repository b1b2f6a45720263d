"""Tables whose cells no spreadsheet takes for a formula."""

import csv
import io

from hypothesis import given
from hypothesis import strategies as st

from pages import carried_out, site_from
from signpost.core.references.link_list import links_csv, list_links, plan_addresses
from signpost.core.text.tables import read_cell, write_csv

CELL = st.text(st.sampled_from("=+-@\t'a,\" 1"), max_size=6)


@given(st.lists(st.lists(CELL, min_size=2, max_size=2), min_size=1, max_size=4))
def test_no_cell_opens_as_a_formula_and_each_is_read_back_as_it_was(rows):
    written = list(csv.reader(io.StringIO(write_csv(rows), newline="")))
    assert not [cell for row in written for cell in row if cell[:1] in ("=", "+", "-", "@", "\t", "\r")]
    assert [[read_cell(cell) for cell in row] for row in written] == rows


def test_numbers_stay_numbers():
    assert write_csv([["a", -5, 1.5, ""]]) == "a,-5,1.5,\n"


def test_links_whose_words_or_addresses_look_like_formulas_are_changed_by_their_table():
    files = {"a.html": "<a href='-old.html'>=1+1</a> <a href='@x'>@sum</a>"}
    site = site_from(files)
    table = links_csv(list_links(site))
    assert "'=1+1" in table
    assert "'-old.html" in table
    rows = list(csv.DictReader(io.StringIO(table)))
    for row in rows:
        row["new_address"] = "'-new.html" if row["address"] == "'-old.html" else "'@y"
    out = io.StringIO()
    writer = csv.DictWriter(out, list(rows[0]))
    writer.writeheader()
    writer.writerows(rows)
    plan = plan_addresses(site, out.getvalue())
    changed = carried_out(files, site, plan)["a.html"].decode()
    assert changed == "<a href='-new.html'>=1+1</a> <a href='@y'>@sum</a>"
