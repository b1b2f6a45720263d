"""Headings: look-alikes, levels, words, moves, section elements, and where one is missing."""

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from pages import edited, page_of, site_of, text_after
from signpost.core.headings.end_comments import plan_end_notes, plan_no_end_notes, plan_no_separators, plan_separators
from signpost.core.headings.levels import (
    count_gaps,
    find_repairs,
    plan_closed_gaps,
    plan_first_heading,
    plan_levels,
    shift_levels,
    with_subsections,
)
from signpost.core.headings.lookalikes import SURE, find_lookalikes
from signpost.core.headings.missing import find_missing, plan_heading
from signpost.core.headings.moves import Direction, Where, plan_drop, plan_move
from signpost.core.headings.promotions import plan_promotions, plan_sure
from signpost.core.headings.samples import find_raw_samples, plan_escaped, plan_sample
from signpost.core.headings.skeleton import copy_page, make_page, plan_skeleton, read_titles
from signpost.core.headings.spoken import read_spoken_headings
from signpost.core.headings.wording import plan_title, plan_words
from signpost.core.headings.wrapping import plan_unwrapping, plan_wrapping
from signpost.core.identifiers.sections import plan_identifiers, propose_identifiers
from signpost.core.page import read_nodes
from signpost.core.page.blocks import read_blocks
from signpost.core.page.outline import read_outline
from signpost.core.page.plans import plan_in_turn
from signpost.core.site.site import single_page_site
from signpost.core.text.edits import EditSet, apply_to_text
from signpost.core.text.errors import RequestError
from strategies import pages, tidy_block

LAYOUT = "<table><tr><td>{}</td></tr><tr><td><p>It burns well.</p><p>So does coke.</p></td></tr></table>"
TEXT = "<p>Text of more than a few words follows it, as it does on any page.</p>"


def levels_of(page):
    return [(heading.level, heading.text) for heading in page.headings]


# -------------------------------------------------------------------- look-alikes


@pytest.mark.parametrize(
    ("markup", "sure"),
    [
        pytest.param("<p><b>Coal</b></p>", True, id="bold paragraph"),
        pytest.param("<p><strong>Coal</strong></p>", True, id="strong paragraph"),
        pytest.param("<P><B>Coal</B>", True, id="never closed"),
        pytest.param("<p><font size=5>Coal</font></p>", True, id="large font"),
        pytest.param("<p><big><b>Coal</b></big></p>", True, id="big and bold"),
        pytest.param("<p><b>Best <i>coal</i></b></p>", True, id="with emphasis"),
        pytest.param("<div class=section-title>Coal</div>", True, id="class of a box"),
        pytest.param('<p><span style="font-weight: bold">Coal</span></p>', True, id="style"),
        pytest.param("<b>Coal</b><br>", False, id="bold line in the body"),
        pytest.param("<p><b>Coal</b><br>It is black and it burns, and we have little.</p>", False, id="bold line"),
        pytest.param("<a name=coal></a><p><b>COAL</b></p>", True, id="capitals with an anchor"),
        pytest.param("<p>KINDS OF COAL</p>", False, id="capitals alone"),
        pytest.param("<table><tr><td><b>Coal</b></td></tr></table>", True, id="lone cell"),
        pytest.param("<p><b>Coal:</b></p>", False, id="ends with a colon"),
        pytest.param("<p><b>Note</b></p>", False, id="the label of a note"),
        pytest.param("<div class=callout><p><b>Coal in winter</b></p></div>", False, id="a box beside the text"),
        pytest.param(
            "<div class=exampleblock><div class=title>Rule: Merge upwards</div></div>", False, id="an example"
        ),
        pytest.param("<p><b>Kinds of coal</b></p><pre>a\nb</pre>", False, id="right before a sample"),
        pytest.param("<p><b>kinds_of_coal.py</b></p>", False, id="a file's name"),
        pytest.param("<p><b>count = max(1, n)</b></p>", False, id="a formula"),
        pytest.param(LAYOUT.format("<b><font size=5>Coal</font></b>"), True, id="a title in a layout table"),
    ],
)
def test_what_looks_like_a_heading(markup, sure):
    (found,) = find_lookalikes(page_of(markup + TEXT))
    assert found.sure is sure, (found.score, found.reasons)
    assert found.reasons
    assert 0 < found.score <= 100


@pytest.mark.parametrize(
    "markup",
    [
        "<p><b>Mind the gap.</b></p>",
        "<p><b>Coal</b> is black</p>",
        "<p>Coal</p>",
        "<ul><li><b>Coal</b></li></ul>",
        "<table><tr><td><b>Coal</b><td>1</table>",
        "<pre><b>Coal</b></pre>",
        "<blockquote><p><b>Coal</b></p></blockquote>",
        "<h2><b>Coal</b></h2>",
        "<nav><p><b>Coal</b></p></nav>",
        "<p><b>On this page</b></p><ul><li><a href=#a>A</a></ul>",
        "<p><a href=x><b>Coal</b></a></p>",
        f"<p><b>{'word ' * 20}</b></p>",
        "<!-- <p><b>Coal</b></p> -->",
        "<p><b></b></p>",
        "<table><tr><td><p><b>Coal</b></p></td><td><p>black</p></td></tr></table>",
        "<p><b>See also:</b></p>",
        "<p><b>Table 9.51. Kinds of coal</b></p>",
        "<p><b>Example 10-6. Coal by weight</b></p>",
        "<p><b>Figure 3</b></p>",
        "<p><b>Fig. 2: the boiler</b></p>",
        "<p><b>Table of Contents</b></p>",
        "<div class='admonition note'><p class=admonition-title>Note</p></div>",
        "<table><tr><td><b>Day</b></td><td><b>Train</b></td></tr><tr><td>Monday</td><td>9.20</td></tr></table>",
        "<table><caption>Coal</caption><tr><td><b>Kind</b><td>" + "word " * 40 + "</table>",
    ],
)
def test_what_does_not(markup):
    assert find_lookalikes(page_of(markup + TEXT)) == []


def test_nothing_follows_a_signature():
    assert find_lookalikes(page_of(TEXT + "<p><b>Edith Harrow</b></p>")) == []


@pytest.mark.parametrize(
    ("markup", "levels"),
    [
        ("<p><b>A</b></p>T<p><b>B</b></p>T", [2, 2]),
        ("<center><font size=6>T</font></center><p><b>A</b></p>text here<p><b>B</b></p>text here", [1, 2, 2]),
        ("<h1>T</h1><p><font size=5>A</font></p>text<p><b>B</b></p>text", [2, 3]),
        ("<h1>T</h1><h2>A</h2>text<p><b>B</b></p>text<h2>C</h2>", [3]),
        ("<h1>T</h1><h2>A</h2>text<p><b>B</b></p>text<h3>C</h3>", [2]),
        ("<h1>T</h1><p><b>B</b></p>text<h2>C</h2>", [2]),
        ("<h1>T</h1><p><b>1. A</b></p>t t<h2>X</h2>t<p><b>2. B</b></p>t t<p><b>3. C</b></p>t t", [2, 2, 2]),
        ("<p><b>A</b></p>t t<p><b>B MINE</b></p>t t<center><b>C</b></center>t t", [2, 2, 2]),
        ("<p><b>A</b></p>t t<a name=b></a><p><b>B</b></p>t t", [2, 2]),
    ],
)
def test_levels_come_of_style_and_place(markup, levels):
    assert [found.level for found in find_lookalikes(page_of(markup + TEXT))] == levels


def test_a_refused_one_stays_away():
    page = page_of("<p><b>Coal</b></p>" + TEXT)
    (found,) = find_lookalikes(page)
    assert find_lookalikes(page, {found.key}) == []


@pytest.mark.parametrize(
    ("markup", "after"),
    [
        ("<p class=x><b>Best <i>coal</i></b></p>", "<h2 class=x>Best <i>coal</i></h2>"),
        ("<P><B>Coal</B>\n", "<H2>Coal</H2>\n"),
        ("<p><b>Coal</b><br>\nIt burns well enough.</p>", "<h2>Coal</h2>\n<p>It burns well enough.</p>"),
        ("<p>\n <b>Coal</b>\n</p>", "<h2>\n Coal\n</h2>"),
        ("<b>Coal</b><br>\nIt burns well enough. ", "<h2>Coal</h2>\nIt burns well enough. "),
        ("<table><tr><td><b>Coal</b></td></tr></table>", "<table><tr><td><h2>Coal</h2></td></tr></table>"),
        (
            "<table bgcolor=navy><tr><td><font color=white size=5><b>Coal</b></font></td></tr></table>",
            "<table bgcolor=navy><tr><td><h2><font color=white>Coal</font></h2></td></tr></table>",
        ),
        (LAYOUT.format("<b>Coal</b>"), LAYOUT.format("<h2>Coal</h2>")),
        ("<a name=old></a>\n<p><b>Coal</b></p>", "<h2 id=old>Coal</h2>"),
        ("<A NAME=old>\n<P><B>Coal</B>\n", "<H2 ID=old>Coal</H2>\n"),
        ("<p><a name=old><b>Coal</b></a></p>", "<h2 id=old>Coal</h2>"),
        ("<p><b><a name=old>Coal</a></b></p>", "<h2 id=old>Coal</h2>"),
        ("<p id=own><a name=old></a><b>Coal</b></p>", "<h2 id=own><a name=old></a>Coal</h2>"),
        ("<p><a href=x name=old></a><b>Coal</b></p>", "<h2><a href=x name=old></a>Coal</h2>"),
        ("<p id=old>x</p><a name=old></a><p><b>Coal</b></p>", "<p id=old>x</p><a name=old></a><h2>Coal</h2>"),
        (
            "<center><font size=5 color=red>Coal</font></center>",
            "<center><h2><font color=red>Coal</font></h2></center>",
        ),
        ("<div class=title>Coal</div>", "<h2 class=title>Coal</h2>"),
    ],
)
def test_made_real(markup, after):
    page = page_of(markup + TEXT)
    found = find_lookalikes(page)
    made = edited(page, plan_promotions(page, {len(found) - 1: 2}))
    assert made.text == after + TEXT
    assert (2, found[-1].text) in levels_of(made)


def test_what_cannot_be_made_real():
    page = page_of("<p><b>Coal</b></p>" + TEXT)
    for index, level in ((7, 2), (0, 9)):
        with pytest.raises(RequestError):
            plan_promotions(page, {index: level})


look = st.sampled_from(
    [
        "<p><b>Coal</b></p>",
        "<P><B>WATER</B>",
        "<p><b>Oil</b><br>\nthat is dear",
        "<a name=w></a>\n<p><strong>Wood</strong></p>",
        "<A NAME=s>\n<P><FONT SIZE=5>Steam</FONT>",
        "<table><tr><td><b>Ash</b></table>",
        "<center><big>Smoke</big></center>",
        "<b>Loose</b><br>",
    ]
)


@given(
    st.lists(st.one_of(look, pages(encodings=["utf-8"]).map(lambda data: data.decode().lstrip("\ufeff"))), max_size=6)
)
def test_no_words_and_no_targets_are_lost_when_they_are_made_real(pieces):
    page = page_of("\n".join(pieces) + TEXT)
    found = find_lookalikes(page)
    made = edited(page, plan_promotions(page, {index: one.level for index, one in enumerate(found)}))
    assert sum(node.text.count("Coal") for node in read_nodes(made).all if node.tag == "body") == sum(
        node.text.count("Coal") for node in read_nodes(page).all if node.tag == "body"
    )
    assert {target.name for target in made.targets} == {target.name for target in page.targets}
    texts = [heading.text for heading in made.headings]
    assert all(one.text in texts for one in found)


# -------------------------------------------------------------------- levels


@pytest.mark.parametrize(
    ("markup", "after"),
    [
        ("<h2>a</h2>", "<h3>a</h3>"),
        ("<H2 CLASS=x>a</H2 >", "<H3 CLASS=x>a</H3 >"),
        ("<h2>a", "<h3>a"),
        ("<div role=heading aria-level=2>a</div>", "<div role=heading aria-level=3>a</div>"),
        ("<div role=heading>a</div>", "<div aria-level=3 role=heading>a</div>"),
    ],
)
def test_both_tags_change_together(markup, after):
    page = page_of(markup)
    assert edited(page, plan_levels(page, {0: 3})).text == after


def test_levels_shift_with_their_subsections_or_alone():
    page = page_of("<h2>a</h2><h3>b</h3><h2>c</h2>")
    assert shift_levels(page, [0], 1, whole=True) == {0: 3, 1: 4}
    assert shift_levels(page, [0, 2], 1, whole=False) == {0: 3, 2: 3}
    assert with_subsections(page, {0: 4, 2: 3}) == {0: 4, 1: 5, 2: 3}
    assert with_subsections(page, {0: 3, 1: 5}) == {0: 3, 1: 5}
    with pytest.raises(RequestError, match="cannot go to 0"):
        shift_levels(page_of("<h1>a</h1>"), [0], -1, whole=True)
    for index, level in ((9, 2), (0, 7)):
        with pytest.raises(RequestError):
            plan_levels(page, {index: level})


@given(pages(), st.integers(1, 2), st.booleans(), st.data())
def test_raised_and_lowered_again_gives_the_first_bytes(data, by, whole, draw):
    page = page_of(data)
    assume(page.headings)
    index = draw.draw(st.integers(0, len(page.headings) - 1))
    down = edited(page, plan_levels(page, shift_levels(page, [index], by, whole=whole)))
    changed = [i for i, (a, b) in enumerate(zip(page.headings, down.headings, strict=True)) if a.level != b.level]
    back = edited(down, plan_levels(down, {i: page.headings[i].level for i in changed}))
    assert back.source.data == page.source.data


def shape(page):
    return [section.parent for section in read_outline(page).flat()]


@pytest.mark.parametrize(
    ("levels", "closed"),
    [
        ([1, 3, 3, 2], [1, 2, 2, 2]),
        ([2, 4, 6, 3], [2, 3, 4, 3]),
        ([1, 2, 3], [1, 2, 3]),
        ([3, 1, 4], [3, 1, 2]),
        ([1, 5, 4, 5], [1, 2, 2, 3]),
    ],
)
def test_gaps_are_closed(levels, closed):
    page = page_of("".join(f"<h{level}>x</h{level}>" for level in levels))
    after = edited(page, plan_closed_gaps(page))
    assert [heading.level for heading in after.headings] == closed


@given(st.lists(st.integers(1, 6), max_size=12))
def test_closing_gaps_leaves_none_and_keeps_what_belongs_to_what(levels):
    page = page_of("".join(f"<h{level}>x</h{level}>" for level in levels))
    after = edited(page, plan_closed_gaps(page))
    assert count_gaps(after) == 0
    assert shape(after) == shape(page)
    assert not plan_closed_gaps(after)
    roots = [section.index for section in read_outline(page).sections]
    highest = min(levels, default=1)
    assert all(after.headings[index].level == (levels[index] if highest == 1 else highest) for index in roots)


def test_repairs_are_proposed():
    several = page_of("<h1>T</h1><h2>a</h2><h1>b</h1><h2>c</h2>")
    (repair,) = find_repairs(several)
    assert (repair.code, repair.levels) == ("several-h1", {2: 2, 3: 3})
    (repair,) = find_repairs(page_of("<h2>T</h2><h3>a</h3><h3>b</h3>"))
    assert (repair.code, repair.levels) == ("no-h1", {0: 1})
    assert [repair.code for repair in find_repairs(page_of("<h1>a</h1><h3>b</h3>"))] == ["gaps"]
    assert find_repairs(page_of("<h1>a</h1><h2>b</h2>")) == []


def test_a_first_heading_goes_before_the_content():
    page = page_of("<main>\n  <p>lead</p>\n  <h2>a</h2>\n</main>")
    assert edited(page, plan_first_heading(page, "A & B")).text == page.text.replace(
        "  <p>", "  <h1>A &amp; B</h1>\n  <p>"
    )
    with pytest.raises(RequestError):
        plan_first_heading(page_of("<h1>a</h1>"), "b")


def test_the_outline_as_it_is_heard():
    page = page_of(
        "<header><h2>Site</h2></header><main><h1>a <img alt=b></h1><h2 hidden>c</h2><div aria-hidden=true><h2>d</h2>"
        "</div><h2 aria-label='Other'>e</h2><p role=heading>f</p><h3></h3></main>"
    )
    assert [(one.level, one.text, one.section) for one in read_spoken_headings(page)] == [
        (2, "Site", None),
        (1, "a b", 0),
        (2, "Other", 3),
        (2, "f", 4),
        (3, "", 5),
    ]


# -------------------------------------------------------------------- words


@pytest.mark.parametrize(
    ("markup", "words", "after"),
    [
        ("<h2>Coal</h2>", "Best coal & wood", "<h2>Best coal &amp; wood</h2>"),
        ("<h2>Best <em>coal</em> here</h2>", "Good coal here", "<h2>Good <em>coal</em> here</h2>"),
        ("<h2>Best <em>coal</em></h2>", "Wood", "<h2>Wood</h2>"),
        ("<h2>Q&amp;A &lt;b&gt;</h2>", "Q&A <i>", "<h2>Q&amp;A &lt;i&gt;</h2>"),
        ("<h2>\n  Coal\n  now\n</h2>", "Coal later", "<h2>\n  Coal\n  later\n</h2>"),
        ("<h2>Coal<br>now</h2>", "Coal later", "<h2>Coal<br>later</h2>"),
        ("<h2><a name=x>Coal</a><!-- old --></h2>", "Wood", "<h2><a name=x>Wood</a><!-- old --></h2>"),
        ("<h2></h2>", "Coal", "<h2>Coal</h2>"),
    ],
)
def test_words_change_and_markup_stays(markup, words, after):
    site = site_of(page=markup)
    plan = plan_words(site, "page.html", 0, words)
    assert apply_to_text(site.pages["page.html"].source, plan.edits["page.html"]) == after


def test_entries_and_links_that_said_the_same_follow():
    site = site_of(
        page="<nav class=contents><a href=#a><b>Coal</b></a></nav><h2 id=a>Coal</h2><a href=#a>here</a>",
        other="<a href=page.html#a>Coal</a><a href=page.html>Coal</a><a href=#a>Coal</a>",
    )
    plan = plan_words(site, "page.html", 0, "Wood")
    after = {path: apply_to_text(site.pages[path].source, edits) for path, edits in plan.edits.items()}
    assert after["page.html"] == (
        "<nav class=contents><a href=#a><b>Wood</b></a></nav><h2 id=a>Wood</h2><a href=#a>here</a>"
    )
    assert after["other.html"] == "<a href=page.html#a>Wood</a><a href=page.html>Coal</a><a href=#a>Coal</a>"


@pytest.mark.parametrize(
    ("markup", "words"), [("<h2>a</h2>", " "), ("<h2>a", "b"), ("<h2>a <img alt=b></h2>", "c"), ("", "b")]
)
def test_words_that_cannot_be_changed(markup, words):
    with pytest.raises(RequestError):
        plan_words(site_of(page=markup), "page.html", 0, words)


@given(
    pages(), st.lists(st.sampled_from(["Boiler", "coal", "<new>", "R&D", "ä"]), min_size=1).map(" ".join), st.data()
)
def test_new_words_arrive_and_nothing_outside_the_heading_changes(data, words, draw):
    site = site_of(page=data)
    page = site.pages["page.html"]
    assume(page.headings)
    index = draw.draw(st.integers(0, len(page.headings) - 1))
    try:
        plan = plan_words(site, "page.html", index, words)
    except RequestError:
        return
    edits = plan.edits.get("page.html", EditSet(page.source.sha256, ()))
    after = edited(page, edits)
    assert after.headings[index].text == words
    element = page.headings[index].element
    own = [edit for edit in edits.edits if element.open.end <= edit.start <= edit.end <= element.close.start]
    assert len(own) == len(edits) or any(link.text == page.headings[index].text for link in page.links)


# -------------------------------------------------------------------- moves

NESTED = "<main>\n  <h1>T</h1>\n\n  <h2>A</h2>\n  a\n\n  <h3>A1</h3>\n  a1\n\n  <h2>B</h2>\n  b\n</main>\n"


def moved(page, index, direction):
    return edited(page, plan_move(page, index, direction))


def test_a_section_moves_with_its_subsections():
    page = page_of(NESTED)
    down = moved(page, 1, Direction.DOWN)
    assert down.text == (
        "<main>\n  <h1>T</h1>\n\n  <h2>B</h2>\n  b\n\n  <h2>A</h2>\n  a\n\n  <h3>A1</h3>\n  a1\n</main>\n"
    )
    assert moved(down, 2, Direction.UP).text == page.text


def test_in_and_out_take_the_levels_along():
    page = page_of(NESTED)
    inside = moved(page, 3, Direction.IN)
    assert levels_of(inside) == [(1, "T"), (2, "A"), (3, "A1"), (3, "B")]
    assert moved(inside, 3, Direction.OUT).text == page.text
    assert levels_of(moved(page, 1, Direction.OUT)) == [(1, "T"), (2, "B"), (1, "A"), (2, "A1")]


def test_a_section_can_be_dropped_anywhere():
    page = page_of(NESTED)
    assert levels_of(edited(page, plan_drop(page, 2, 3, Where.AFTER))) == [(1, "T"), (2, "A"), (2, "B"), (2, "A1")]
    assert levels_of(edited(page, plan_drop(page, 1, 3, Where.INTO))) == [(1, "T"), (2, "B"), (3, "A"), (4, "A1")]
    assert levels_of(edited(page, plan_drop(page, 3, 2, Where.BEFORE))) == [(1, "T"), (2, "A"), (3, "B"), (3, "A1")]


@pytest.mark.parametrize(
    ("markup", "index", "direction"),
    [
        ("<h2>a</h2><h2>b</h2>", 0, Direction.UP),
        ("<h2>a</h2><h2>b</h2>", 1, Direction.DOWN),
        ("<h2>a</h2><h2>b</h2>", 0, Direction.IN),
        ("<h2>a</h2><h2>b</h2>", 0, Direction.OUT),
        ("<h6>a</h6><h6>b</h6>", 1, Direction.IN),
        ("<h2>a</h2><p>x</p><div>y<h2>b</h2>z</div>", 0, Direction.DOWN),
        ("", 0, Direction.UP),
    ],
)
def test_moves_that_cannot_be(markup, index, direction):
    with pytest.raises(RequestError):
        plan_move(page_of(markup), index, direction)


@pytest.mark.parametrize(
    ("markup", "words"),
    [
        ("<h2>A</h2><p><b>a</p>\n<h2>B</h2><p>b</p>\n<h2>C</h2><p>c</p></b>", "left open"),
        ("<h2>A</h2><p id=x>a</p>\n<h2>B</h2><p>b</p>\n<h2>C</h2><p id=x>c</p>", "several elements"),
    ],
)
def test_a_move_that_would_change_other_sections_is_refused(markup, words):
    page = page_of(f"<body>{markup}</body>")
    with pytest.raises(RequestError, match=words):
        plan_drop(page, 2, 0, Where.BEFORE)


def test_nothing_is_dropped_into_itself():
    with pytest.raises(RequestError):
        plan_drop(page_of("<h2>a</h2><h3>b</h3>"), 0, 1, Where.INTO)


REVERSE = {Direction.UP: Direction.DOWN, Direction.DOWN: Direction.UP, Direction.IN: Direction.OUT}


@given(pages(), st.sampled_from(list(Direction)), st.data())
def test_whatever_is_moved_nothing_is_lost(data, direction, draw):
    page = page_of(data)
    assume(page.headings)
    try:
        there = moved(page, draw.draw(st.integers(0, len(page.headings) - 1)), direction)
    except RequestError:
        return
    assert sorted(heading.text for heading in there.headings) == sorted(heading.text for heading in page.headings)
    assert sorted(filter(str.isalpha, there.text)) == sorted(filter(str.isalpha, page.text))


@given(pages(blocks=tidy_block), st.sampled_from(list(REVERSE)), st.data())
def test_moved_there_and_back_gives_the_first_bytes(data, direction, draw):
    page = page_of(data)
    assume(page.headings)
    index = draw.draw(st.integers(0, len(page.headings) - 1))
    flat = read_outline(page).flat()
    siblings = {section.level for section in flat if section.parent == flat[index].parent}
    assume(len(siblings) == 1)  # past a section of another level, it takes that level
    try:
        there = moved(page, index, direction)
    except RequestError:
        return
    assert sorted(heading.text for heading in there.headings) == sorted(heading.text for heading in page.headings)
    same = [at for at, heading in enumerate(there.headings) if heading.text == page.headings[index].text]
    backs = []
    for at in same:
        try:
            backs.append(moved(there, at, REVERSE[direction]).source.data)
        except RequestError:
            continue
    assert not backs or page.source.data in backs


# -------------------------------------------------------------------- section elements, notes, separators


def test_sections_are_wrapped_and_unwrapped():
    page = page_of(NESTED.replace("<h2>", "<h2 id=x>", 1))
    wrapped = edited(page, plan_wrapping(page, [2, 3]).edits)
    assert "  <section aria-labelledby=x>\n  <h2 id=x>A</h2>\n  a\n\n  <section aria-labelledby=a1>\n" in wrapped.text
    assert "a1\n  </section>\n  </section>\n\n  <section aria-labelledby=b>\n" in wrapped.text
    assert not plan_wrapping(wrapped, [2, 3]).edits
    assert edited(wrapped, plan_unwrapping(wrapped, [2, 3]).edits).text == edited(page, plan_identifiers(page)).text


def test_what_would_be_torn_is_left_and_named():
    page = page_of("<main><h2 id=a>a</h2><p>x</p><div>y<h2 id=b>b</h2>z</div></main>")
    wrapping = plan_wrapping(page, [2])
    assert wrapping.left == ("a",)
    assert edited(page, wrapping.edits).text == page.text.replace(
        "<h2 id=b>", "<section aria-labelledby=b><h2 id=b>"
    ).replace("z</div>", "z</section></div>")
    with pytest.raises(RequestError, match="document type"):
        plan_wrapping(page_of('<!DOCTYPE HTML PUBLIC "-//W3C//DTD HTML 3.2//EN"><h2>a</h2>'), [2])


@given(pages())
def test_wrapping_adds_tags_and_changes_no_heading(data):
    page = page_of(data)
    assume(page.html5 and all(heading.element.close for heading in page.headings))
    page = edited(page, plan_unwrapping(page, range(1, 7)).edits)
    wrapped = edited(page, plan_wrapping(page, range(1, 7)).edits)
    assert [heading.text for heading in wrapped.headings] == [heading.text for heading in page.headings]
    assert wrapped.text.count("<section aria-") == wrapped.text.count("</section>") - page.text.count("</section>")


@given(pages(blocks=tidy_block))
def test_wrapping_and_unwrapping_gives_the_first_bytes(data):
    page = page_of(data)
    assume(page.html5 and all(heading.element.close for heading in page.headings))
    page = edited(page, plan_unwrapping(page, range(1, 7)).edits)
    wrapped = edited(page, plan_wrapping(page, range(1, 7)).edits)
    assert [heading.text for heading in wrapped.headings] == [heading.text for heading in page.headings]
    labelled = edited(
        wrapped, plan_unwrapping(wrapped, range(1, 7)).edits
    )  # as the first page, headings with identifiers
    again = edited(labelled, plan_wrapping(labelled, range(1, 7)).edits)
    back = edited(again, plan_unwrapping(again, range(1, 7)).edits)
    assert back.source.data == labelled.source.data
    assert labelled.source.text.count("<section") == page.source.text.count("<section")


def test_far_end_tags_are_named_and_notes_taken_away():
    far = "<div id=box class=x>\n" + "<p>x</p>\n" * 25 + "</div>\n<section class=y>\n</section>\n"
    noted = text_after(far, plan_end_notes)
    assert noted == far.replace("</div>", "</div> <!-- end of div#box -->")
    assert text_after(noted, plan_no_end_notes) == far
    own = "<div></div> <!-- the author's own -->"
    assert text_after(own, plan_no_end_notes) == own


@given(pages(), st.sampled_from([0, 1, 20]))
def test_notes_on_and_off_give_the_first_bytes(data, far):
    page = page_of(data)
    noted = edited(page, plan_end_notes(page, far))
    assert edited(noted, plan_no_end_notes(noted)).source.data == page.source.data


def test_separators_on_and_off():
    markup = "<h1>T</h1>\n<h2>a</h2>\n<hr>\n<h2>b</h2>\nx<h2>c</h2>\n"
    with_rules = text_after(markup, plan_separators, [2])
    assert with_rules == "<h1>T</h1>\n<hr>\n<h2>a</h2>\n<hr>\n<h2>b</h2>\nx<hr><h2>c</h2>\n"
    assert text_after(with_rules, plan_no_separators, [2]) == markup.replace("<hr>\n", "")


# -------------------------------------------------------------------- missing headings, samples, skeletons


def test_missing_headings_are_pointed_out():
    run = "".join(f"<p>{'word ' * 50}</p>" for _ in range(10))
    page = page_of(f"<h2>a</h2>{run}<h2>b</h2><p>x</p><hr><p>set off</p>")
    long, off = find_missing(page, 400)
    assert (long.reason, long.level, long.block.section) == ("500 words without a heading", 3, 0)
    assert page.text[: long.block.start].count("<p>") == 5
    assert (off.reason, off.block.text) == ("set off by a rule", "set off")
    assert find_missing(page, 500) == [off]


def test_a_heading_goes_before_any_block():
    page = page_of("<main>\n  <h2>a</h2>\n\n  <p>x</p>\n  <ul>\n    <li>y\n  </ul>\n</main>\n")
    blocks = {block.tag: block.start for block in read_blocks(page)}
    assert set(blocks) == {"p", "ul"}
    assert edited(page, plan_heading(page, blocks["ul"], 3, "New & old", "new")).text == page.text.replace(
        "  <ul>", '  <h3 id="new">New &amp; old</h3>\n\n  <ul>'
    )
    for before, level, words, identifier in (
        (3, 2, "x", None),
        (blocks["p"], 8, "x", None),
        (blocks["p"], 2, "", None),
    ):
        with pytest.raises(RequestError):
            plan_heading(page, before, level, words, identifier)


def test_raw_samples_are_found_and_escaped():
    markup = "<pre>\n<h2>a</h2> & &amp; <b>b</b>\n</pre><pre><code><div></code></pre><pre><b>fine</b></pre>"
    page = page_of(markup)
    assert [sample.elements for sample in find_raw_samples(page)] == [("h2",), ("div",)]
    assert text_after(markup, plan_escaped) == (
        "<pre>\n&lt;h2&gt;a&lt;/h2&gt; &amp; &amp; &lt;b&gt;b&lt;/b&gt;\n</pre>"
        "<pre><code>&lt;div&gt;</code></pre><pre><b>fine</b></pre>"
    )


def test_pasted_code_arrives_escaped():
    page = page_of("<p>x</p>\r\n")
    after = edited(page, plan_sample(page, 0, "\n<b>1</b>\n  2 & 3\n"))
    assert after.text == "<pre><code>&lt;b&gt;1&lt;/b&gt;\r\n  2 &amp; 3</code></pre>\r\n<p>x</p>\r\n"
    assert read_nodes(after).all[1].text == "<b>1</b> 2 & 3"
    with pytest.raises(RequestError):
        plan_sample(page, 0, " \n")


@pytest.mark.parametrize(
    ("text", "titles"),
    [
        ("A\nB", [("A", 2), ("B", 2)]),
        ("- A\n  - B\n    * C\n- D", [("A", 2), ("B", 3), ("C", 4), ("D", 2)]),
        ("1. A\n\tB\n\n  C", [("A", 2), ("B", 3), ("C", 3)]),
    ],
)
def test_titles_are_read_by_their_indentation(text, titles):
    assert [(title.text, title.level) for title in read_titles(text)] == titles


@pytest.mark.parametrize("text", ["", " \n", "a\n b\n  c\n   d\n    e\n     f"])
def test_titles_that_cannot_be(text):
    with pytest.raises(RequestError):
        read_titles(text)


def test_a_skeleton_within_a_page():
    page = page_of("<h1>T</h1>\n<p class=x>x</p>\n")
    after = edited(page, plan_skeleton(page, read_titles("Coal\n Kinds\nWater\n Kinds"), contents=True))
    assert after.text == (
        "<h1>T</h1>\n<p class=x>x</p>\n<nav class=contents aria-label=Contents>\n<ul>\n<li><a href=#coal>Coal</a>\n<ul>\n"
        "<li><a href=#coal-kinds>Kinds</a></li>\n</ul>\n</li>\n<li><a href=#water>Water</a>\n<ul>\n"
        "<li><a href=#water-kinds>Kinds</a></li>\n</ul>\n</li>\n</ul>\n<!-- levels 2-3; as headed rz4f9zegp -->\n</nav>\n"
        "<h2 id=coal>Coal</h2>\n<h3 id=coal-kinds>Kinds</h3>\n<h2 id=water>Water</h2>\n<h3 id=water-kinds>Kinds</h3>\n"
    )


def test_a_new_page_takes_a_frame_and_not_its_title():
    frame = page_of(
        '<!DOCTYPE html>\n<title>Old</title>\n<meta name=description content="old">\n<link rel=stylesheet href=s.css>\n'
        "<nav><a href=a.html aria-current=page>A</a></nav>\n<main>\n<h1>Old</h1>\n<p id=x>old\n</main>\n<footer>f</footer>",
        "a.html",
    )
    made = make_page("d/new.html", "New & fine", read_titles("One"), frame, contents=False).decode()
    assert made == (
        "<!DOCTYPE html>\n<title>New &amp; fine</title>\n<link rel=stylesheet href=../s.css>\n"
        "<nav><a href=../a.html>A</a></nav>\n<main>\n<h1>New &amp; fine</h1>\n<h2 id=one>One</h2>\n</main>\n"
        "<footer>f</footer>"
    )
    bare = page_of(make_page("new.html", "New", read_titles("One\nTwo")))
    assert (bare.title, levels_of(bare)) == ("New", [(1, "New"), (2, "One"), (2, "Two")])
    with pytest.raises(RequestError):
        make_page("new.html", " ", read_titles("One"))


def test_a_new_page_says_what_a_page_should():
    text = make_page("new.html", "Coal & co", read_titles("One\nTwo"), language="de").decode()
    assert '<html lang="de">' in text
    assert 'charset="utf-8"' in text
    assert 'name="viewport"' in text
    assert "<nav" in text
    assert "\n\n    <h2" in text


def test_a_copy_of_a_page_is_right_for_its_folder():
    frame = page_of(
        '<html><head><title>Old</title><link href="main.css?v=3"></head><body><h1>Old</h1><p id=a>x</p>'
        '<a href="other.html?q=1#b">b</a><a href="page.html#a">a</a><a href="#a">a</a><img src="/pic.gif">'
    )
    assert copy_page(frame, "more/new.html", "New & more").decode() == frame.text.replace(
        "<title>Old", "<title>New &amp; more"
    ).replace("<h1>Old", "<h1>New &amp; more").replace('"main.css', '"../main.css').replace(
        '"other.html', '"../other.html'
    ).replace('"page.html#a"', '"#a"')
    same = copy_page(frame, "new.html", "Old").decode()
    assert same == frame.text.replace('"page.html#a"', '"#a"')
    with pytest.raises(RequestError):
        copy_page(frame, "new.html", " ")


@pytest.mark.parametrize("heading", ["Old", "Another"])
def test_the_title_and_the_first_heading_follow_each_other_where_they_are_the_same(heading):
    page = page_of(f"<title>Old</title><h1 id=x>{heading}</h1><a href=#x>Old</a>")
    site = single_page_site(page)
    titled = edited(page, plan_title(site, "page.html", "N & w").edits["page.html"])
    assert "<title>N &amp; w</title>" in titled.text
    assert ("<h1 id=x>N &amp; w</h1>" in titled.text) == (heading == "Old")
    worded = edited(page, plan_words(site, "page.html", 0, "New").edits["page.html"])
    assert ("<title>New</title>" in worded.text) == (heading == "Old")
    with pytest.raises(RequestError):
        plan_title(single_page_site(page_of("<p>")), "page.html", "x")


def test_a_permalink_is_no_word_of_its_heading_and_stays():
    inner = 'Scope of it<a class=headerlink href="#scope" title="Link">¶</a>'
    page = page_of(f"<h2 id=scope>{inner}</h2><h2><a href='#w'><img src=l.gif alt=link></a> Coal</h2>")
    assert [heading.text for heading in page.headings] == ["Scope of it", "Coal"]
    assert propose_identifiers(page, [2]) == {1: "coal"}
    after = edited(page, plan_words(single_page_site(page), "page.html", 0, "All of it").edits["page.html"])
    assert f"<h2 id=scope>{inner.replace('Scope', 'All')}</h2>" in after.text


def test_plans_in_turn_are_one_plan():
    page = page_of("<h1>T</h1><p><b>Coal</b></p>" + TEXT + "<h4>x</h4>")
    both = edited(page, plan_in_turn(page, plan_sure, plan_closed_gaps, reason="both"))
    assert levels_of(both) == [(1, "T"), (2, "Coal"), (3, "x")]
    assert SURE <= 100


titles = st.lists(
    st.tuples(st.integers(0, 2), st.sampled_from(["Coal", "Water & oil", "<b>", "1. Lamps", "- Fire", "Overview"])),
    min_size=1,
    max_size=8,
)


@given(titles, pages())
def test_what_is_typed_as_titles_is_what_the_outline_says(typed, data):
    lines, deep = [], -1
    for depth, words in typed:
        deep = min(depth, deep + 1)  # a line goes one step further in at most
        lines.append("  " * deep + words)
    wanted = read_titles("\n".join(lines))
    page = page_of(data)
    assume(not page.headings or all(heading.element.close for heading in page.headings))
    made = edited(page, plan_skeleton(page, wanted, contents=False))
    assert [(title.level, title.text) for title in wanted] == levels_of(made)[
        -len(wanted) :
    ] or page.content.end < len(page.text.rstrip())
    new = page_of(make_page("new.html", "Of its own", wanted, page))
    assert [(title.level, title.text) for title in wanted] == [
        found for found in levels_of(new) if found != (1, "Of its own")
    ]
    names = [heading.identifier for heading in new.headings[1:]]
    assert None not in names
    assert len(set(names)) == len(names)


@given(pages(), st.sets(st.integers(1, 4)))
def test_separators_taken_out_are_all_that_was_put_in(data, levels):
    page = page_of(data)
    with_rules = edited(page, plan_separators(page, levels))
    assert not plan_separators(with_rules, levels)
    bare = edited(page, plan_no_separators(page, levels))
    assert edited(with_rules, plan_no_separators(with_rules, levels)).text == bare.text


@given(pages())
def test_every_block_can_have_a_heading_before_it(data):
    page = page_of(data)
    for block in read_blocks(page)[:6]:
        made = edited(page, plan_heading(page, block.start, 5, "Entirely new", "entirely-new"))
        assert made.text.replace(page.text[block.start : block.start + 3], "", 1) != page.text
        assert any(target.name == "entirely-new" for target in made.targets)
        assert len(made.text) > len(page.text)


def test_a_line_of_a_long_paragraph_may_be_a_heading():
    page = page_of(
        "<main><h1>T</h1><p><b>Boiler care</b><br>" + "Fill it with water before the fire. " * 20 + "</main>"
    )
    assert [one.text for one in find_lookalikes(page)] == ["Boiler care"]
