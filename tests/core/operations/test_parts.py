"""How a page is cut: what is not said is as it was, or as the site's settings say."""

import pytest

from pages import carried_out, site_from
from signpost.core.operations import Preferences, Situation
from signpost.core.operations.parts import CutSaid, JoinParts, Parts, RefreshParts
from signpost.core.parts.options import Forwarding, LinkPiece, PartContents

FILES = {
    "guide.html": "<!DOCTYPE html>\n<html>\n<head>\n<title>Guide</title>\n</head>\n<body>\n<h1>Guide</h1>\n<h2>Coal</h2>\n<p>x</p>\n"
    "<h2>Steam</h2>\n<p>y</p>\n<h3>Hot</h3>\n<p>z</p>\n</body>\n</html>\n"
}


def planned(operation, files=FILES, **preferences):
    site = site_from(files)
    found = operation.plan(Situation(site, site.pages["guide.html"], Preferences(**preferences)))
    return found, {path: data.decode() for path, data in carried_out(files, site, found.plan).items()}


def test_files_are_named_as_the_settings_say_until_another_pattern_is_said():
    _, done = planned(Parts(sections=(2,)), part_names="{page}/{number}")
    assert "guide/2.html" in done
    _, other = planned(Parts(sections=(2,), pattern="{page}.{number}"), part_names="{page}/{number}")
    assert "guide.2.html" in other
    _, again = planned(Parts(sections=(1, 2)), done, part_names="part{number}")
    assert {"guide/2.html", "guide/3.html"} <= set(again), "parts that are there keep the pattern that they had"


@pytest.mark.parametrize(
    ("said", "holds"),
    [
        ({}, lambda done: "<h3>Hot" in done["guide-2.html"] and done["guide-2.html"].count("part-links") == 2),
        ({"raise_levels": True}, lambda done: "<h2>Hot" in done["guide-2.html"]),
        ({"links": (LinkPiece.TOP, LinkPiece.NUMBERS)}, lambda done: done["guide-2.html"].count("part-links") == 1),
        ({"contents": PartContents.ALL}, lambda done: 'part-contents"' in done["guide-2.html"]),
        ({"contents": PartContents.FIRST}, lambda done: 'part-contents"' not in done["guide-2.html"]),
    ],
)
def test_what_is_said_of_the_parts_is_done(said, holds):
    assert holds(planned(Parts(sections=(3,), **said))[1])


def test_what_was_said_once_holds_when_they_are_brought_up_to_date():
    _, done = planned(
        Parts(sections=(3,), raise_levels=True, links=(LinkPiece.TOP, LinkPiece.NUMBERS), contents=PartContents.FIRST)
    )
    found, again = planned(RefreshParts(), done)
    assert again == done
    assert not found.plan
    _, raised = planned(RefreshParts(raise_levels=False), done)
    assert "<h2>Hot" in done["guide-2.html"]
    assert "<h3>Hot" in raised["guide-2.html"]


def test_titles_count_the_parts():
    cuts = (CutSaid(at=FILES["guide.html"].index("<h2>Steam"), title="On steam"),)
    found, done = planned(Parts(cuts=cuts))
    assert found.title == "Cut into 2 parts"
    assert any("On steam" in text for path, text in done.items() if path != "guide.html")
    assert planned(Parts(sections=(1, 2)), done)[0].title == "Cut anew into 3 parts"
    assert planned(Parts(), done)[0].title == planned(JoinParts(), done)[0].title == "Parts joined to one page"
    _, joined = planned(JoinParts(), done)
    assert set(joined) == {"guide.html"}


def test_forwarding_is_as_it_is_said():
    site = {**FILES, "other.html": "<p><a href='guide.html#hot'>Hot</a></p>"}
    site["guide.html"] = site["guide.html"].replace("<h3>", '<h3 id="hot">')
    _, plain = planned(Parts(sections=(2,), forward=()), site)
    _, kept = planned(Parts(sections=(2,), forward=(Forwarding.SCRIPT,)), site)
    assert "<script" not in plain["guide.html"]
    assert "<script" in kept["guide.html"]
