"""The index of a site: after whatever was done, it is what it would be if it were made anew."""

from __future__ import annotations

from collections import Counter
from contextlib import suppress
from dataclasses import dataclass, replace
from hashlib import sha256

import pytest
from hypothesis import HealthCheck, Phase, example, given, settings
from hypothesis import strategies as st
from sqlalchemy import delete, select

from signpost.core.addresses.links import is_page_path, is_text_path
from signpost.core.findings import check_page
from signpost.core.operations.identifiers import Rename
from signpost.core.page import Page, read_page
from signpost.core.page.furniture import Marks
from signpost.core.site.index import PagesIndex
from signpost.core.site.repeats import find_repeated, repeats_on
from signpost.core.site.site import Site
from signpost.core.site.told import Kind
from signpost.core.text.errors import SignpostError
from signpost.core.text.source import read_source
from signpost.desk import changes, findings, indexing, intake, opening, pages, stored, working
from signpost.desk.errors import ConflictError, NotThereError
from signpost.desk.findings import findings_on, group_findings
from signpost.desk.intake import Choices
from signpost.desk.opening import EVERY_PAGE, opened
from signpost.store import index as store_index
from signpost.store import repositories as store
from signpost.store.models import FindingCountRow, FindingRow, ToldRow

PATHS = ("index.html", "a.html", "b.html", "c/index.html", "c/d.html", "Caf\u00e9.html")
NAMES = ("one", "two", "three")


def page(title: str, names: list[str], links: list[str], extra: list[str], own: int = 0) -> bytes:
    """A page that tells much that others ask for; with words of its `own`, it is no copy of others."""
    led_by = " ".join(f"word{own}x{number}" for number in range(40 if own else 0))
    sections = "".join(f"<h2 id='{name}'>{name} words</h2>\n<p>Some text on {name}.</p>\n" for name in names)
    led = "".join(f"<p>See <a href='{href}'>that page</a>.</p>\n" for href in links)
    head = "".join(one for one in extra if one.startswith("<link"))
    begin = "".join(one for one in extra if one.startswith(("<nav", "<div")))
    end = "".join(one for one in extra if one.startswith("<style"))
    lang = "".join(one for one in extra if one.startswith(" lang"))
    return (
        f"<!DOCTYPE html><html{lang}><head><title>{title}</title>{head}{end}</head><body>{begin}<h1>{title}</h1>\n"
        f"<p>{led_by}</p>{led}{sections}</body></html>"
    ).encode()


MENU = "<nav id='menu'>" + "".join(f"<a href='/{path}'>{path}</a> " for path in PATHS[:4]) + "</nav>"
OTHER_MENU = MENU.replace("/b.html", "/c/d.html")
BANNER = "<div><p>The banner of our own pages, as it is on all of them, <a href='/index.html'>home</a></p></div>"
EXTRAS = (
    MENU,
    OTHER_MENU,
    BANNER,
    " lang='en'",
    " lang='de'",
    "<link rel='stylesheet' href='/site.css'>",
    "<link rel='next' href='/a.html'>",
    "<link rel='prev' href='/b.html'>",
    "<style>#one{color:red}</style>",
)
LINKS = st.sampled_from(
    [f"/{path}{mark}" for path in PATHS for mark in ("", "#one", "#two", "#One")]
    + [
        "#one",
        "#zz",
        "/c",
        "/c/",
        "https://elsewhere.example/",
        "/gone.html",
        "/gone.html#one",
        "/B.html",
        "/c/gone.html#two",
        "/Cafe\u0301.html",
    ]
)
PAGES = st.builds(
    page,
    st.sampled_from(["Lamps", "Signals"]),
    st.lists(st.sampled_from(NAMES), max_size=3, unique=True),
    st.lists(LINKS, max_size=4),
    st.lists(st.sampled_from(EXTRAS), max_size=4, unique=True),
    st.integers(0, 5),
)
SHEETS = st.sampled_from([b"#one { color: red }", b"#menu { color: red } .one { }", b"h1 { }"])
STEPS = st.one_of(
    st.tuples(st.just("bring"), st.dictionaries(st.sampled_from(PATHS), PAGES, min_size=1, max_size=4)),
    st.tuples(st.just("bring"), st.dictionaries(st.just("site.css"), SHEETS, min_size=1)),
    st.tuples(st.just("many"), st.dictionaries(st.sampled_from(PATHS), PAGES, min_size=1, max_size=4)),
    st.tuples(st.just("drop"), st.sampled_from(PATHS)),
    st.tuples(st.just("work"), st.integers(1, 5)),
    st.tuples(st.just("remove"), st.sampled_from((*PATHS, "site.css"))),
    st.tuples(st.just("undo"), st.integers(1, 6)),
    st.tuples(st.just("redo"), st.integers(1, 6)),
    st.tuples(st.just("rename"), st.tuples(st.sampled_from(PATHS), st.sampled_from(NAMES))),
    st.tuples(st.just("address"), st.sampled_from([None, "https://a.example/"])),
    st.tuples(st.just("look"), st.sampled_from(PATHS)),
)


def do(database, site_id, what, given_) -> None:
    """Do one thing to a site; what cannot be done is left."""
    with suppress(ConflictError, NotThereError, SignpostError):
        if what == "bring":
            intake.bring_in_files(database, site_id, given_.items(), choices=Choices(replace=True))
        elif what in ("many", "drop"):  # as by somebody who leaves the index to others
            changed = given_ if what == "many" else {given_: None}
            with database.transaction() as session:
                store.load_site(session, site_id, lock="alone")
                there = store.load_hashes(session, site_id, changed)
                store.save_blobs(session, site_id, [data for data in changed.values() if data is not None])
                hashes = {path: sha256(data).hexdigest() if data else None for path, data in changed.items()}
                store.set_files(session, site_id, {path: one for path, one in hashes.items() if one or path in there})
        elif what == "work":
            for _ in range(given_):
                working.work_off(database, site_id)
        elif what == "remove":
            intake.remove_file(database, site_id, given_)
        elif what == "undo":
            changes.undo_change(database, site_id, given_)
        elif what == "redo":
            changes.redo_change(database, site_id, given_)
        elif what == "address":
            pages.name_site(database, site_id, "Test", given_)
        elif what == "look":
            pages.open_page(database, site_id, given_)
        else:
            path, name = given_
            asked = (site_id, path, Rename(old=name, new="four"))
            changes.apply_change(database, *asked, changes.plan_change(database, *asked).tag)


def from_scratch(database, site_id) -> Site:
    """The site as it is read from nothing but its files."""
    with database.transaction() as session:
        record = store.load_site(session, site_id)
        hashes = {file.path: file.sha256 for file in store.load_files(session, site_id) if file.sha256}
        blobs = store.load_blobs(session, site_id, set(hashes.values()))
    sources = {path: read_source(blobs[sha256]) for path, sha256 in hashes.items()}
    read: dict[str, Page] = {path: read_page(path, one) for path, one in sources.items() if is_page_path(path)}
    repeated = find_repeated(one.outer for one in read.values())
    marked = {path: Marks(repeated=repeats_on(one.outer, repeated)) for path, one in read.items()}
    read = {path: read_page(path, sources[path], marks) for path, marks in marked.items()}
    texts = {path: one for path, one in sources.items() if is_text_path(path)}
    return Site(read, frozenset(hashes), record.base, texts)


def compare(database, site_id) -> Counter:
    """Compare all that is kept of a site with what is found anew; return what there was to compare."""
    fresh = from_scratch(database, site_id)
    counts: Counter = Counter()
    with opened(database, site_id, checked=EVERY_PAGE) as loaded:
        assert sorted(loaded.site.pages) == sorted(fresh.pages)
        index = PagesIndex(fresh.pages, fresh.base)
        for kind in Kind:
            assert loaded.index.ask_all(kind) == index.ask_all(kind), kind
            counts[kind] += len(index.ask_all(kind))
        for path in fresh.pages:
            kept = [(one.rule, one.line, one.column, one.message, one.choices) for one in findings_on(loaded, path)]
            anew = [
                (one.rule.code, *one.place_of, one.message, tuple(choice.words for choice in one.choices))
                for one in map(Shown, check_page(fresh, path))
            ]
            assert kept == anew, path
            counts["findings"] += len(anew)
        grouped = {one.rule: one.count for one in group_findings(loaded, "").groups}
        kept_rows = Counter(
            loaded.session.scalars(select(FindingRow.rule).where(FindingRow.site_id == site_id)).all()
        )
        assert grouped == {rule: number for rule, number in kept_rows.items() if rule in grouped}
        assert not {rule for rule in kept_rows if rule not in grouped and loaded.settings.check_options.wants(rule)}
    return counts


class Shown:
    """A finding, with its place as two numbers."""

    def __init__(self, finding):
        self.rule, self.message, self.choices = finding.rule, finding.message, finding.choices
        self.place_of = (finding.place.line, finding.place.column)


GAP = [("bring", {"a.html": page("Lamps", ["one"], ["/b.html#one"], [MENU])}), ("look", "a.html")]


@pytest.mark.long
@settings(
    max_examples=40, deadline=None, phases=[Phase.explicit, Phase.generate], suppress_health_check=list(HealthCheck)
)
@given(st.lists(STEPS, min_size=2, max_size=10), st.integers(0, 3))
@example([*GAP, ("bring", {"b.html": page("Lamps", ["one"], [], [])})], 0)
@example([*GAP, ("bring", {"b.html": page("Lamps", [], [], [])}), ("remove", "b.html"), ("undo", 1)], 0)
@example([("many", {"a.html": page("Lamps", ["one"], ["/b.html"], [MENU])}), ("work", 1), ("drop", "a.html")], 0)
@example([("many", {"a.html": page("Lamps", ["one"], [], [])}), ("work", 1), ("address", "https://a.example/")], 0)
def test_whatever_is_done_the_index_is_what_it_would_be_made_anew(database, monkeypatch, steps, every):
    monkeypatch.setattr(working, "BATCH", 2)
    monkeypatch.setattr(working, "_INDEXED", 3)
    site_id = intake.create_site(database, "Test").site_id
    for number, (what, given_) in enumerate(steps):
        do(database, site_id, what, given_)
        if every and number % every == 0:
            compare(database, site_id)
    compare(database, site_id)
    pages.delete_site(database, site_id)


def test_the_comparison_has_something_to_compare(database):
    site_id = intake.create_site(database, "Test").site_id
    every = {
        path: page(
            "Lamps", list(NAMES), [f"/{path}#one", "https://elsewhere.example/", "/gone.html", "#zz"], list(EXTRAS)
        )
        for path in PATHS
    }
    do(database, site_id, "bring", {**every, "site.css": b".one { } #menu { }"})
    counts = compare(database, site_id)
    assert counts["findings"] > 20
    assert not {kind for kind in Kind if not counts[kind]} - {Kind.SERIES, Kind.SCRIPT, Kind.HAS, Kind.CLASS}
    pages.delete_site(database, site_id)


@pytest.mark.parametrize("at_once", [2, 100])
def test_an_index_that_is_made_bit_by_bit_is_the_same(database, monkeypatch, at_once):
    monkeypatch.setattr(working, "_INDEXED", at_once)
    monkeypatch.setattr(opening, "AT_ONCE", at_once)
    site_id = intake.create_site(database, "Test").site_id
    every = {
        path: page("Lamps", list(NAMES), [f"/{path}#one", "/gone.html", "#zz"], [BANNER], own)
        for own, path in enumerate(PATHS, 1)
    }
    with database.transaction() as session:
        store.bring_in(session, site_id, {**every, "site.css": b".one { } #menu { }"})
    assert working.find_work(database, site_id).unread == len(PATHS)
    steps = list(iter(lambda: working.work_off(database, site_id), None))
    assert [(left.unread, left.unchecked) for left in steps] == [*[(0, 6)] * (5 if at_once == 2 else 2), (0, 0)]
    with opened(database, site_id) as loaded:
        assert all(loaded.pages[path].links[0].in_furniture for path in PATHS)  # of the banner, which repeats
    compare(database, site_id)
    do(database, site_id, "address", "https://a.example/")
    pages.open_page(database, site_id, "a.html")
    compare(database, site_id)
    pages.delete_site(database, site_id)


def test_what_other_rules_found_is_found_anew(database, monkeypatch):
    site_id = intake.create_site(database, "Test").site_id
    do(database, site_id, "bring", {"a.html": page("Lamps", ["one"], ["#zz"], [])})
    compare(database, site_id)
    with database.transaction() as session:
        for table in (ToldRow, FindingRow, FindingCountRow):
            session.execute(delete(table).where(table.site_id == site_id))
    for module in (indexing, findings):
        monkeypatch.setattr(module, "core_digest", lambda: "a later release")
    compare(database, site_id)
    pages.delete_site(database, site_id)


def test_a_figure_that_is_new_is_worked_out_for_pages_that_were_read_before(database, monkeypatch):
    site_id = intake.create_site(database, "Test").site_id
    do(database, site_id, "bring", {"a.html": page("Lamps", ["one"], ["#zz"], [])})
    pages.open_page(database, site_id, "a.html")

    @dataclass(frozen=True, slots=True)
    class More(indexing.PageFigures):
        links: int = 0

    real = indexing._summarise
    monkeypatch.setattr(indexing, "PageFigures", More)
    monkeypatch.setattr(indexing, "_summarise", lambda page: replace(real(page), links=len(page.links)))
    pages.open_page(database, site_id, "a.html")
    with database.transaction() as session:
        records = store_index.load_pages(session, site_id)
    assert records["a.html"].summary["links"] == 1
    pages.delete_site(database, site_id)


def test_pages_that_the_process_read_for_another_site_are_worked_off_too(database):
    for _ in range(2):  # the second time, all pages are at hand
        site_id = intake.create_site(database, "Test").site_id
        with database.transaction() as session:
            store.bring_in(session, site_id, {"a.html": page("Lamps at hand", ["one"], [], [])})
        steps = [working.work_off(database, site_id) for _ in range(4)]
        assert [left and (left.unread, left.unchecked) for left in steps] == [(0, 1), (0, 1), (0, 0), None]
        pages.delete_site(database, site_id)


def test_a_rename_reads_only_the_pages_that_it_edits(database, monkeypatch):
    site_id = intake.create_site(database, "Test").site_id
    files = {
        "a.html": page("Lamps", ["one"], ["/b.html#two"], []),
        "b.html": page("Signals", ["two"], ["/c.html"], []),
        "c.html": page("Coal", ["three"], ["/a.html#one", "/d.html#two"], []),
        "d.html": page("Steam", ["two"], ["/a.html#four"], []),
    }
    do(database, site_id, "bring", files)
    read: list[str] = []
    real = stored.read_all

    def noted(session, site, hashes, *more, **options):
        read.extend(hashes)
        return real(session, site, hashes, *more, **options)

    monkeypatch.setattr(stored, "read_all", noted)
    asked = (site_id, "a.html", Rename(old="one", new="five"))
    planned = changes.plan_change(database, *asked)
    assert sorted({edited.path for edited in planned.files}) == ["a.html", "c.html"]
    assert sorted(set(read)) == ["a.html", "c.html"]
    pages.delete_site(database, site_id)
