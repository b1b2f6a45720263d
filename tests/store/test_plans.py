"""Every statement stays within a site, so that a distributed PostgreSQL can keep each site in one place."""

from __future__ import annotations

import re
from contextlib import suppress

import pytest
from sqlalchemy import event, inspect

from signpost.core.landings.geometry import Window
from signpost.core.operations.headings import Words
from signpost.core.operations.identifiers import Identify
from signpost.desk import (
    changes,
    check_settings,
    destinations,
    intake,
    measuring,
    page_navigation,
    pages,
    parts,
    places,
    preview,
    style,
    takeout,
    working,
)
from signpost.desk.check_settings import ReportForm
from signpost.desk.demo import demo_files
from signpost.desk.errors import ConflictError
from signpost.store.models import Base

#: What is asked of all sites: the list of them, and which of them have work to be done.
ACROSS = (
    re.compile(r"FROM sites ORDER BY sites\.created_at"),
    re.compile(r"SELECT DISTINCT (?:files|pages)\.site_id"),
)
TABLES = tuple(table.name for table in Base.metadata.sorted_tables)


@pytest.fixture(scope="module")
def statements(own):
    """All statements of a day's work on the demo site, each with the parameters it was first asked with."""
    said: dict[str, object] = {}

    def note(_connection, _cursor, statement, parameters, *_):
        said.setdefault(" ".join(statement.split()), parameters[0] if isinstance(parameters, list) else parameters)

    event.listen(own.engine, "before_cursor_execute", note)
    work(own)
    return said


def work(database):
    site = intake.create_site(database, "Plans").site_id
    intake.bring_in_files(database, site, demo_files().items())
    while working.work_off(database, site):
        pass
    working.find_sites_with_work(database)
    pages.list_sites(database)
    pages.open_site(database, site)
    pages.name_site(database, site, "Plans", "https://a.example/")
    pages.open_page(database, site, "handbook.html")
    pages.view_draft(database, site, "handbook.html", "<h1>x</h1><a href='index.html'>i</a>")
    pages.pages_of_site(database, site, "a", "findings", down=True, start=0, limit=5)
    pages.files_of_site(database, site, "", 5)
    pages.links_of_site(database, site, "", 5)
    pages.findings_of_site(database, site, "page")
    pages.findings_of_rule(database, site, "fragment-missing", "", ("a.html", 0), 5)
    destinations.find_goals(database, site, "handbook.html", "boil wat", 20)
    destinations.complete_address(database, site, "handbook.html", "ros", 20)
    page_navigation.pointers_of(database, site, "handbook.html", 1)
    places.judge(database, site, "handbook.html", "lamps")
    check_settings.checks_of(database, site)
    check_settings.report(database, site, ReportForm.CSV)
    measuring.walk_site(database, site, Window(1280, 720))
    parts.view_parts(database, site, "handbook.html", Window(1280, 720))
    preview.load_preview(database, site, "handbook.html", "", "")
    style.style_of(database, site)
    takeout.take_out_diff(database, site)
    asked = (site, "handbook.html", Identify(levels=(2, 3)))
    with suppress(ConflictError):
        tag = changes.plan_change(database, *asked).tag
        number = changes.apply_change(database, *asked, tag).number
        changes.undo_change(database, site, number)
        changes.redo_change(database, site, number)
    asked = (site, "handbook.html", Words(section=2, words="Other words"))
    changes.apply_change(database, *asked, changes.plan_change(database, *asked).tag)
    changes.list_changes(database, site)
    intake.remove_file(database, site, "rosters.html")
    pages.delete_site(database, site)


#: What is of no site: who is let in, and who tried in vain.
OF_NO_SITE = {"passes", "failures"}


def test_all_tables_lead_with_the_site(database):
    assert {table.name for table in Base.metadata.sorted_tables if "site_id" not in table.columns} == OF_NO_SITE
    for table in Base.metadata.sorted_tables:
        if table.name in OF_NO_SITE:
            continue
        assert next(iter(table.primary_key.columns)).name == "site_id", table.name
        for index in table.indexes:
            assert next(iter(index.columns)).name == "site_id", index.name
        for key in table.foreign_key_constraints:
            assert next(iter(key.columns)).name == "site_id", table.name
    assert set(inspect(database.engine).get_table_names()) - {"alembic_version"} == set(TABLES)


def test_the_plan_of_every_statement_stays_within_a_site(own, statements):
    looked = 0
    with own.engine.connect() as connection:
        cursor = connection.connection.driver_connection.cursor()
        for said, parameters in statements.items():
            if not said.startswith(("SELECT", "INSERT", "UPDATE", "DELETE")) or any(
                one.search(said) for one in ACROSS
            ):
                continue
            cursor.execute("EXPLAIN (FORMAT JSON) " + said, parameters)
            (plan,) = cursor.fetchone()
            for node in nodes(plan[0]["Plan"]):
                table = node.get("Relation Name")
                if table not in TABLES:
                    continue
                looked += 1
                if node["Node Type"] == "ModifyTable" and node["Operation"] == "Insert":
                    assert "(site_id," in said, said
                elif node["Node Type"] != "ModifyTable":
                    assert "site_id" in conditions(node), f"{table} is read across sites: {said}\n{node}"
    assert looked > 80, "the work asks for less than it did"


def nodes(plan):
    """All nodes of a plan."""
    yield plan
    for inner in plan.get("Plans", ()):
        yield from nodes(inner)


def conditions(node) -> str:
    """What limits the rows of a node, or of the scan of an index that is below it."""
    own = " ".join(str(node.get(name, "")) for name in ("Index Cond", "Recheck Cond", "Filter"))
    return own + "".join(conditions(inner) for inner in node.get("Plans", ()) if "Relation Name" not in inner)
