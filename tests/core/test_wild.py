"""Pages as broken as they come: nothing raises but what says why, and twice is once."""

import contextlib

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pages import edited, page_of
from signpost.core.back_to_top.destinations import Destination
from signpost.core.back_to_top.planning import BackLinkOptions, Corner, plan_back_links, plan_no_back_links
from signpost.core.contents import NEW, ContentsOptions, Form, Spot, plan_contents, plan_no_contents
from signpost.core.entries.planning import EntriesOptions, plan_entries, plan_no_letters
from signpost.core.entries.terms import Term
from signpost.core.findings import check_page
from signpost.core.headings.end_comments import plan_separators
from signpost.core.headings.skeleton import plan_skeleton, read_titles
from signpost.core.identifiers.places import plan_bottom
from signpost.core.page import read_nodes
from signpost.core.site.site import Site
from signpost.core.text.errors import RequestError, SignpostError
from signpost.desk.finding_views import view_finding
from signpost.desk.settings import Settings
from signpost.desk.views import view_page
from strategies import block, heading, listing, pages

wild = pages(blocks=st.one_of(block, listing, listing, heading(), heading()))

PLANNERS = {
    "contents": lambda page: plan_contents(page, ContentsOptions()),
    "all levels": lambda page: plan_contents(page, ContentsOptions(levels=range(1, 7))),
    "a numbered row": lambda page: plan_contents(page, ContentsOptions(form=Form.ROW, numbered=True)),
    "others at the side": lambda page: plan_contents(page, ContentsOptions(ordered=True, block=NEW, spot=Spot.SIDE)),
    "no contents": plan_no_contents,
    "ways back": lambda page: plan_back_links(page, BackLinkOptions(levels=(1, 2, 3))),
    "by the headings": lambda page: plan_back_links(
        page, BackLinkOptions(corner=Corner.HEADING, to=Destination.MARK)
    ),
    "no ways back": plan_no_back_links,
    "entries": lambda page: plan_entries(page, [Term("coal"), Term("<x>", text="t")], EntriesOptions()).edits,
    "no letters": plan_no_letters,
}


@pytest.mark.parametrize("planner", PLANNERS.values(), ids=PLANNERS)
@given(wild)
def test_a_plan_is_made_or_refused(planner, data):
    page = page_of(data)
    with contextlib.suppress(SignpostError):  # a refusal says why; anything else is a fault of ours
        edited(page, planner(page))


@given(wild)
def test_any_page_can_be_looked_at(data):
    page = page_of(data)
    site = Site({page.path: page}, frozenset([page.path]))
    found = tuple(view_finding(one, page) for one in check_page(site, page.path))
    assert view_page(site, page, Settings(), found).path == page.path
    check_page(site, page.path)


@given(wild)
def test_contents_refreshed_are_refreshed(data):
    page = page_of(data)
    try:
        once = edited(page, plan_contents(page, ContentsOptions()))
    except SignpostError:
        return
    twice = edited(once, plan_contents(once, ContentsOptions()))
    assert edited(twice, plan_contents(twice, ContentsOptions())).text == twice.text
    assert len(once.made_blocks("contents")) >= len(page.made_blocks("contents"))


OPEN_ENDS = "<!-- |<plaintext>|<script>|<style>|<textarea>|<template>|<title>|<noscript>|<iframe>|<xmp>".split("|")
INSERTING = {
    "contents": lambda page: plan_contents(page, ContentsOptions()),
    "ways back": lambda page: plan_back_links(page, BackLinkOptions()),
    "separators": lambda page: plan_separators(page, (2,)),
    "entries": lambda page: plan_entries(page, [Term("zinc")], EntriesOptions()).edits,
    "skeleton": lambda page: plan_skeleton(page, read_titles("One")),
    "bottom": lambda page: plan_bottom(page, "end"),
}


@pytest.mark.parametrize("name", INSERTING)
@pytest.mark.parametrize("end", [*OPEN_ENDS, "</body></html><body><p>", "<table><tr>"])
def test_nothing_is_put_where_a_browser_makes_no_element_of_it(end, name):
    page = page_of(f"<!DOCTYPE html><body><h1>T</h1><h2>A</h2><p>a</p>\n<h2>B</h2><p>b</p>\n{end}x")
    plan = INSERTING[name]
    refused, once = "", page
    try:
        once = edited(page, plan(page))
    except RequestError as error:
        refused = str(error)
    if refused:
        assert "never closed" in refused
        return
    before, after = (len(read_nodes(one).all) for one in (page, once))
    assert after > before
    if name not in ("skeleton", "bottom"):
        assert not plan(once)
