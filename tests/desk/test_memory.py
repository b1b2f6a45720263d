"""Pages are freed once nobody works on them, and what is kept at hand is counted as it is."""

import gc
import tracemalloc
import weakref
from collections import Counter
from contextlib import suppress

import pytest
from pydantic import TypeAdapter, ValidationError

from asking import Asker
from signpost.core.back_to_top.planning import BackLinkOptions, plan_back_links
from signpost.core.contents import ContentsOptions, plan_contents
from signpost.core.findings import RULES
from signpost.core.findings.check import check_page
from signpost.core.findings.fixing import plan_fixes
from signpost.core.findings.options import CheckOptions
from signpost.core.headings.promotions import plan_sure
from signpost.core.identifiers.sections import plan_identifiers
from signpost.core.operations import Situation
from signpost.core.page import read_page
from signpost.core.site.site import Site
from signpost.core.text.errors import SignpostError
from signpost.core.text.source import read_source
from signpost.desk import reading
from signpost.desk.demo import demo_files
from signpost.web.operations import OperationRequest
from sites import new_site

ALL = CheckOptions(only=frozenset(RULES))


def page_of(markup: str, path="a.html"):
    return read_page(path, read_source(markup.encode()))


def samples() -> dict[str, str]:
    """Markup in which each rule finds something, and pages whole."""
    found = {code: rule.wrong for code, rule in RULES.items() if rule.wrong and rule.wrong.lstrip().startswith("<")}
    found["levels skipped"] = "<h1>T</h1><h4>Skipped</h4><p>x"
    found |= {path: data.decode("cp1252", "replace") for path, data in demo_files().items() if path.endswith(".html")}
    return found


def work_on(markup: str) -> list[weakref.ref]:
    """Check a page, fix it and plan on it; return what tells whether the pages are still there."""
    page = page_of(f"<!DOCTYPE html><title>T</title>{markup}")
    site = Site({page.path: page}, frozenset([page.path]))
    for _ in check_page(site, page.path, ALL):
        pass
    for plan in (
        lambda: plan_fixes(site, [page.path], None, options=ALL),
        lambda: plan_sure(page),
        lambda: plan_identifiers(page, [2, 3]),
        lambda: plan_contents(page, ContentsOptions()),
        lambda: plan_back_links(page, BackLinkOptions()),
    ):
        try:
            plan()
        except SignpostError:
            continue
    return [weakref.ref(page)]


def test_every_page_is_freed_after_it_was_worked_on():
    alive = {name: work_on(markup) for name, markup in samples().items()}
    for number in range(5):  # the last few pages may be at hand
        for path in ("handbook.html", "notices.html", "history.html"):
            work_on(f"{samples()[path]}<!-- {number} -->")
    gc.collect()
    assert len(alive) > 60
    assert [name for name, refs in alive.items() if any(ref() is not None for ref in refs)] == []


def test_every_page_is_freed_after_whatever_was_planned_on_it(client):
    asker = Asker(client.get("/api/openapi").json(), seed=5)
    operation_of = TypeAdapter(OperationRequest).validate_python
    names = ("history.html", "glossary.html", "year-2.html", "style.css")
    files = {path: data for path, data in demo_files().items() if path in names}
    tried, alive = Counter(), []
    pages = {}

    def everywhere(_rule):
        return sorted(pages)

    site_files = new_site(client, files)
    asker.learn(files, client.get(f"{site_files}/page", params={"path": "history.html"}).json())
    for _ in range(500):
        body = {**asker.body(), "page": "history.html"}
        try:
            asked = operation_of(body)
        except ValidationError:
            continue
        pages = {path: read_page(path, read_source(data)) for path, data in files.items() if path.endswith(".html")}
        site = Site(pages, frozenset(files))
        with suppress(SignpostError):
            here = Situation(site, pages["history.html"], faulty=everywhere)
            asked.asked().plan(here)
            tried[asked.operation] += 1
        alive += [(asked.operation, weakref.ref(page)) for page in pages.values()]
    del site, here
    pages.clear()
    for number in range(5):  # the last few pages may be at hand
        work_on(f"{samples()['history.html']}<!-- {number} -->")
    gc.collect()
    assert len(tried) > 25
    assert {operation for operation, page in alive if page() is not None} == set()


KINDS = {
    "links": lambda number: "".join(f"<p><a href='x{at}.html#y'>word {at} {number}</a> more\n" for at in range(300)),
    "headings": lambda number: "".join(
        f"<h2 id=s{at}>Section {at} of {number}</h2>\n<p>words\n" for at in range(200)
    ),
    "words": lambda number: f"<p>{number} " + "plain words " * 4000,
    "hardly anything": lambda number: f"<p>{number}",
    "the demo": lambda number: demo_files()["handbook.html"].decode() + f"<!-- {number} -->",
}


@pytest.mark.parametrize("kind", KINDS)
def test_the_figure_that_is_reckoned_with_is_near_what_a_page_takes(kind):
    many = 40
    gc.collect()
    tracemalloc.start()
    try:
        before = tracemalloc.get_traced_memory()[0]
        pages = [page_of(KINDS[kind](number)) for number in range(many)]
        gc.collect()
        took = tracemalloc.get_traced_memory()[0] - before
    finally:
        tracemalloc.stop()
    reckoned = sum(reading._size(page) for page in pages)
    assert 1 / 1.5 < took / reckoned < 1.5


def test_only_the_pages_used_last_keep_what_was_read_of_them():
    kept = reading._Kept()
    pages = [page_of(f"<h1>T</h1><h4>{number}</h4>", f"p{number}.html") for number in range(reading._FRESH + 5)]
    for page in pages:
        kept.put(page, "")
        list(check_page(Site({page.path: page}, frozenset([page.path])), page.path, ALL))
    assert [bool(vars(page).get("_kept")) for page in pages] == [False] * 5 + [True] * reading._FRESH


def test_of_large_pages_fewer_keep_what_was_read_of_them(monkeypatch):
    pages = [page_of(f"<h1>T</h1><h4>{number}</h4>{'x' * 10_000}", f"p{number}.html") for number in range(4)]
    monkeypatch.setattr(reading, "_FRESH_BYTES", 2.5 * reading._FRESH_TIMES * 10_000)
    kept = reading._Kept()
    for page in pages:
        kept.put(page, "")
        list(check_page(Site({page.path: page}, frozenset([page.path])), page.path, ALL))
    assert [bool(vars(page).get("_kept")) for page in pages] == [False, False, True, True]


@pytest.mark.parametrize("kind", [kind for kind in KINDS if kind != "hardly anything"])
def test_what_a_page_keeps_beside_its_facts_is_no_more_than_is_reckoned_with(kind):
    gc.collect()
    pages = [page_of(KINDS[kind](number)) for number in range(10)]
    tracemalloc.start()
    try:
        before = tracemalloc.get_traced_memory()[0]
        for page in pages:
            list(check_page(Site({page.path: page}, frozenset([page.path])), page.path, ALL))
        gc.collect()
        took = tracemalloc.get_traced_memory()[0] - before
    finally:
        tracemalloc.stop()
    assert took < sum(reading._FRESH_TIMES * len(page.source.data) for page in pages)
