"""Contents: refreshed entry by entry, several on a page, adopted where an author made them by hand."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from laws import lost
from pages import edited, page_of
from signpost.core.addresses.fragments import find_indicated
from signpost.core.contents import (
    NEW,
    ContentsOptions,
    Form,
    Spot,
    State,
    Unplaced,
    find_blocks,
    find_handmade,
    find_outdated,
    note_contents,
    plan_adoption,
    plan_contents,
    plan_entry_words,
    plan_moved_contents,
    plan_no_contents,
)
from signpost.core.contents.own import read_page_contents
from signpost.core.headings.wording import plan_words
from signpost.core.identifiers.sections import plan_identifiers
from signpost.core.page.outline import read_outline
from signpost.core.references.renames import plan_rename
from signpost.core.site.site import Site
from signpost.core.text.edits import apply_edits
from signpost.core.text.errors import RequestError
from strategies import pages, tidy_block

USUAL = ContentsOptions()
SECTIONS = (
    "<h1>Works</h1>\n<p>Lead.</p>\n"
    '<h2 id="lamps">Lamps</h2>\n<p>a</p>\n'
    '<h2 id="boilers">Boiler care</h2>\n<p>b</p>\n<h3 id="wash">Washing out</h3>\n<p>c</p>\n'
    '<h2 id="tea">Tea &amp; cake</h2>\n<p>d</p>\n'
)


def with_list(markup, sections=SECTIONS):
    return page_of("<!DOCTYPE html>\n<body>\n" + sections.replace("<p>Lead.</p>\n", f"<p>Lead.</p>\n{markup}\n"))


def entries(page, block=0):
    return [(one.entry.words, one.entry.href) for one in find_blocks(page)[block].listed]


def states(page):
    return [one.state for one in find_blocks(page)[0].listed]


# -------------------------------------------------------------------- refreshing


def made(markup=SECTIONS, options=USUAL):
    page = page_of(markup)
    return edited(page, plan_contents(page, options))


def edits_for_typed_text(page, *replacements):
    text = page.text
    for old, new in replacements:
        assert old in text
        text = text.replace(old, new)
    return page_of(text)


ENTRY = re.compile(r'(<a href="#boilers">)Boiler care')


def test_an_entry_follows_its_heading_and_only_that_entry_is_touched():
    page = edits_for_typed_text(made(), (">Boiler care</h2>", ">Boilers and <em>their</em> care</h2>"))
    assert states(page) == [State.RIGHT, State.STALE, State.RIGHT, State.RIGHT]
    refreshed = edited(page, plan_contents(page, USUAL))
    assert entries(refreshed)[1] == ("Boilers and their care", "#boilers")
    assert "Boilers and <em>their</em> care</a>" in refreshed.text
    assert len(plan_contents(page, USUAL)) == 2  # the entry, and how its heading reads now
    assert not find_outdated(refreshed)


@pytest.mark.parametrize("longer", ["Boiler care in winter", "On boiler care", "Boiler care"])
@pytest.mark.parametrize("shorter", ["Boilers", "Care of what boils"])
def test_an_entry_that_its_author_shortened_stays_until_its_heading_changes(longer, shorter):
    page = page_of(ENTRY.sub(rf"\g<1>{shorter}", made().text))
    assert states(page)[1] is State.SHORTENED
    assert not plan_contents(page, USUAL)
    page = edits_for_typed_text(page, (">Boiler care</h2>", f">{longer}</h2>"))
    expected = State.SHORTENED if longer == "Boiler care" else State.DOUBTED
    for _ in range(2):
        assert states(page)[1] is expected
        page = edited(page, plan_contents(page, USUAL))
        assert entries(page)[1] == (shorter, "#boilers")
    kept = edited(page, plan_contents(page, ContentsOptions(kept=[2])))
    assert states(kept)[1] is State.SHORTENED
    again = edited(page, plan_entry_words(page, 0, 2, ""))
    assert entries(again)[1] == (longer, "#boilers")


def test_words_for_an_entry_are_set_and_taken_back():
    page = made()
    own = edited(page, plan_entry_words(page, 0, 2, " The  <boilers> "))
    assert entries(own)[1] == ("The <boilers>", "#boilers")
    assert "The &lt;boilers&gt;</a>" in own.text
    assert not plan_contents(own, USUAL)
    assert edited(own, plan_entry_words(own, 0, 2, "")).text == page.text
    with pytest.raises(RequestError, match="Refresh"):
        plan_entry_words(page, 0, 0, "words")


def test_sections_that_come_and_go_take_their_entries_along():
    page = edits_for_typed_text(
        made(),
        ('<h2 id="lamps">Lamps</h2>', '<h2 id="oil">Oil</h2>'),
        ('<h2 id="tea">', '<h2 id="coal">Coal</h2>\n<h2 id="tea">'),
    )
    assert states(page)[0] is State.GONE
    refreshed = edited(page, plan_contents(page, USUAL))
    assert [words for words, _ in entries(refreshed)] == ["Oil", "Boiler care", "Washing out", "Coal", "Tea & cake"]


def test_an_entry_whose_heading_got_another_identifier_is_led_there():
    page = edits_for_typed_text(made(), ('<h2 id="boilers">', '<h2 id="boiler-care">'))
    refreshed = edited(page, plan_contents(page, USUAL))
    assert entries(refreshed)[1] == ("Boiler care", "#boiler-care")


def test_the_author_s_own_entries_and_markup_stay():
    page = edits_for_typed_text(
        made(),
        ('<a href="#lamps">', '<a class="first" href="#lamps">'),
        (
            '<li><a href="#tea">',
            '<!-- later -->\n<li class="more"><a href="notes.html">Notes</a> (new)</li>\n<li><a href="#tea">',
        ),
    )
    refreshed = edited(page, plan_contents(page, USUAL))
    assert [words for words, _ in entries(refreshed)][-2:] == ["Notes", "Tea & cake"]
    for kept in (
        '<a class="first" href="#lamps">',
        "<!-- later -->",
        '<li class="more"><a href="notes.html">Notes</a> (new)</li>',
    ):
        assert kept in refreshed.text
    assert not plan_contents(refreshed, USUAL)


def test_words_behind_a_list_within_an_item_stay():
    page = edits_for_typed_text(made(), ("</ul>\n</li>", "</ul>\n<em>and more</em> <!-- later -->\n</li>"))
    assert not plan_contents(page, USUAL)
    page = edits_for_typed_text(page, ('<h3 id="wash">Washing out</h3>', '<h3 id="wash">Washing</h3>'))
    assert "</ul>\n<em>and more</em> <!-- later -->\n</li>" in edited(page, plan_contents(page, USUAL)).text
    flat = edited(page, plan_contents(page, ContentsOptions(levels=[2])))
    assert "Boiler care</a> <em>and more</em> <!-- later --></li>" in flat.text


def test_leaving_out_is_remembered_and_levels_are():
    page = made(options=ContentsOptions(levels=[2], left_out=["boilers"]))
    assert [words for words, _ in entries(page)] == ["Lamps", "Tea & cake"]
    assert not plan_contents(page, USUAL)
    wide = edited(page, plan_contents(page, ContentsOptions(levels=[2, 3], left_out=[])))
    assert [words for words, _ in entries(wide)] == ["Lamps", "Boiler care", "Washing out", "Tea & cake"]
    narrow = edited(wide, plan_contents(wide, ContentsOptions(levels=[2], left_out=["boilers"])))
    assert narrow.text == page.text


def test_numbers_are_written_and_stay_in_order():
    page = made(options=ContentsOptions(numbered=True))
    numbers = [one.entry.number for one in find_blocks(page)[0].listed]
    assert numbers == ["1", "2", "2.1", "3"]
    assert not plan_contents(page, USUAL)
    page = edits_for_typed_text(
        page, ('<h2 id="boilers">Boiler care</h2>', '<h2 id="coal">Coal</h2>\n<h2 id="boilers">Boiler care</h2>')
    )
    page = edited(page, plan_contents(page, USUAL))
    assert [one.entry.number for one in find_blocks(page)[0].listed] == ["1", "2", "3", "3.1", "4"]
    plain = edited(page, plan_contents(page, ContentsOptions(numbered=False)))
    assert not any(one.entry.number for one in find_blocks(plain)[0].listed)


def test_fixed_words_around_entries_are_the_author_s():
    page = made(options=ContentsOptions(prefix="» ", suffix=" <", numbered=True))
    assert '<li>1 » <a href="#lamps">Lamps</a> &lt;</li>' in page.text
    assert not plan_contents(page, USUAL)
    page = edits_for_typed_text(
        page, ('<h2 id="boilers">Boiler care</h2>', '<h2 id="coal">Coal</h2>\n<h2 id="boilers">Boilers</h2>')
    )
    page = edited(page, plan_contents(page, USUAL))
    assert '<li>2 » <a href="#coal">Coal</a> &lt;</li>' in page.text
    assert '<li>3 » <a href="#boilers">Boilers</a> &lt;' in page.text
    assert not plan_contents(page, USUAL)
    other = edited(page, plan_contents(page, ContentsOptions(prefix="", suffix="", numbered=False)))
    assert '<li><a href="#coal">Coal</a></li>' in other.text


def test_one_form_becomes_another_and_comes_back():
    page = made()
    row = edited(page, plan_contents(page, ContentsOptions(form=Form.ROW, separator=" · ")))
    assert "Lamps</a> · <a" in row.text
    assert not plan_contents(row, USUAL)
    assert edited(row, plan_contents(row, ContentsOptions(form=Form.LIST))).text == page.text
    ordered = edited(page, plan_contents(page, ContentsOptions(ordered=True)))
    assert ordered.text.count("<ol>") == 2
    assert not plan_contents(ordered, USUAL)


def test_what_contents_remember_follows_renames_and_other_words():
    page = made(options=ContentsOptions(levels=[2], left_out=["boilers", "a--b"]))
    site = Site({page.path: page}, frozenset([page.path]))
    renamed = edited(page, plan_rename(site, page.path, "boilers", "boiler care".replace(" ", "--")).edits[page.path])
    assert not plan_contents(renamed, USUAL)
    word_edits_between = edited(page, plan_words(site, page.path, 1, "Lanterns").edits[page.path])
    assert not plan_contents(word_edits_between, USUAL)
    longer = edits_for_typed_text(word_edits_between, (">Lanterns</h2>", ">Lanterns of all kinds</h2>"))
    assert entries(edited(longer, plan_contents(longer, USUAL)))[0] == ("Lanterns of all kinds", "#lamps")


# -------------------------------------------------------------------- places


def test_contents_of_one_section_stand_beside_those_of_the_page():
    page = made()
    boiler = 2
    page = edited(page, plan_contents(page, ContentsOptions(levels=[2])))
    both = edited(page, plan_contents(page, ContentsOptions(home=boiler)))
    assert [block.home for block in find_blocks(both)] == [None, boiler]
    assert entries(both, 1) == [("Washing out", "#wash")]
    assert 'aria-label="Contents: Boiler care"' in both.text
    assert not plan_contents(both, USUAL)
    assert not plan_contents(both, ContentsOptions(home=boiler))
    alone = edited(both, plan_no_contents(both, 1))
    assert alone.text == page.text


@pytest.mark.parametrize("spot", [Spot.TOP, Spot.SIDE])
def test_contents_are_moved_without_being_made_anew(spot):
    page = edits_for_typed_text(made(), (">Boiler care</a>", ">Boilers</a>"))
    moved = edited(page, plan_moved_contents(page, 0, spot))
    assert moved.text.index("<nav") < moved.text.index("<p>Lead")
    assert entries(moved) == entries(page)
    assert find_blocks(moved)[0].is_beside == (spot is Spot.SIDE)
    assert not plan_contents(moved, USUAL)
    assert edited(moved, plan_moved_contents(moved, 0, Spot.LEAD)).text == page.text


def test_contents_go_before_any_block():
    page = page_of(SECTIONS)
    before = page.text.index("<p>d</p>")
    made_there = edited(page, plan_contents(page, ContentsOptions(before=before)))
    assert made_there.text.index("<nav") > made_there.text.index("Tea &amp; cake</h2>")
    with pytest.raises(RequestError, match="not there any more"):
        plan_contents(page, ContentsOptions(before=before + 1))


def test_a_heading_of_the_contents_alone_is_no_entry_of_theirs():
    page = page_of(
        SECTIONS.replace(
            '<h2 id="lamps">',
            '<h2 id="toc">Contents</h2>\n<ul><li><a href="#lamps">Lamps</a><li><a href="#tea">Tea &amp; cake</a></ul>\n<h2 id="lamps">',
        )
    )
    adopted = edited(page, plan_contents(page, USUAL))
    assert entries(adopted) == [("Lamps", "#lamps"), ("Boiler care", "#boilers"), ("Tea & cake", "#tea")]


def test_a_box_of_the_author_s_own_that_is_called_contents_is_none_of_ours():
    page = page_of('<div class="contents">\n' + SECTIONS + "</div>\n")
    assert not find_blocks(page)
    assert not plan_no_contents(page)
    made_within = edited(page, plan_contents(page, USUAL))
    assert len(find_blocks(made_within)) == 1
    assert edited(made_within, plan_no_contents(made_within)).text == page.text


@pytest.mark.parametrize("broken", ["\n", ""])
def test_a_list_that_is_the_block_itself_carries_its_remark(broken):
    items = broken.join(["<li><a href='#lamps'>Old lamps</a></li>", "<li><a href='#tea'>Tea &amp; cake</a></li>"])
    page = with_list(f"<ul class='contents'>{broken}{items}{broken}</ul>")
    once = edited(page, plan_contents(page, USUAL))
    assert [words for words, _ in entries(once)] == ["Old lamps", "Boiler care", "Tea & cake"]
    assert once.text.count("<!--") == 1
    assert not plan_contents(once, USUAL)
    assert edited(once, plan_no_contents(once)).text == page.text


def test_a_navigation_of_the_site_that_is_called_contents_is_left_alone():
    nav = '<ul class="contents"><li><a href="a.html">A</a></li><li><a href="b.html">B</a></li></ul>\n'
    page = page_of(nav + SECTIONS)
    assert not find_blocks(page)
    assert not find_outdated(page)
    both = edited(page, plan_contents(page, USUAL))
    assert nav in both.text
    assert len(find_blocks(both)) == 1
    assert edited(both, plan_no_contents(both)).text == page.text


# -------------------------------------------------------------------- lists made by hand

ALL = ["Lamps", "Boiler care", "Tea & cake"]
#: Lists as authors make them, and the words of the entries once they are adopted.
HANDMADE = {
    "items": ("<ul>\n<li><a href='#lamps'>Lamps</a></li>\n<li><a href='#tea'>Tea &amp; cake</a></li>\n</ul>", ALL),
    "unclosed items": ("<UL>\n<LI><A HREF='#lamps'>Lamps</A>\n<LI><A HREF='#tea'>Tea &amp; cake</A>\n</UL>", ALL),
    "on one line": ("<ul><li><a href=#lamps>Lamps</a></li><li><a href=#tea>Tea &amp; cake</a></li></ul>", ALL),
    "ordered": ("<ol class=k><li><a href=#lamps>Lamps</a><li><a href=#boilers>Boiler care</a></ol>", ALL),
    "old menus": ("<menu><li><a href=#lamps>Lamps</a><li><a href=#boilers>Boiler care</a></menu>", ALL),
    "plain words": ("<ul><li>Lamps</li><li>Boiler care</li><li>Tea &amp; cake</li></ul>", ALL),
    "placeholders": ("<ul><li><a href='#'>Lamps</a></li><li><a href=''>Boiler care</a></li></ul>", ALL),
    "no addresses": ("<ul><li><a>Lamps</a></li><li><a>Boilers care</a></li></ul>", ["Lamps", "Boilers care", "Tea & cake"]),
    "without the mark": ("<ul><li><a href='lamps'>Lamps</a></li><li><a href='##tea'>Tea &amp; cake</a></li></ul>", ALL),
    "broken addresses": ("<ul><li><a href='#lamp'>Lamps</a></li><li><a href='#boiler'>Boiler care</a></li></ul>", ALL),
    "full addresses": ("<ul><li><a href='page.html#lamps'>Lamps</a><li><a href='page.html#tea'>Tea &amp; cake</a></ul>", ALL),
    "shortened": ("<ul><li><a href='#lamps'>Lamps</a></li><li><a href='#boilers'>Boiler</a></li></ul>", ["Lamps", "Boiler", "Tea & cake"]),
    "shortened words": (
        "<ul><li>Lamps</li><li><b>Boiler</b></li><li>Tea &amp; cake</li></ul>", ["Lamps", "Boiler", "Tea & cake"],
    ),
    "left behind": ("<ul><li><a href='#lamps'>Old lamps</a></li><li><a href='#tea'>Tea &amp; cake</a></li></ul>", ["Old lamps", "Boiler care", "Tea & cake"]),
    "typed numbers": ("<ul><li>1. <a href='#lamps'>Lamps</a></li><li>2. <a href='#boilers'>Boiler care</a></li></ul>", ALL),
    "nested": (
        "<ul>\n<li><a href='#lamps'>Lamps</a></li>\n<li><a href='#boilers'>Boiler care</a>\n<ul>\n<li><a href='#wash'>Washing out</a></li>\n</ul>\n</li>\n</ul>",
        ["Lamps", "Boiler care", "Washing out", "Tea & cake"],
    ),
    "a list nested wrongly": (
        "<ul><li><a href='#lamps'>Lamps</a></li><li><a href='#boilers'>Boiler care</a></li><ul><li><a href='#wash'>Washing out</a></li></ul></ul>",
        ["Lamps", "Boiler care", "Washing out", "Tea & cake"],
    ),
    "a row with bars": ("<p><a href='#lamps'>Lamps</a> | <a href='#tea'>Tea &amp; cake</a></p>", ALL),
    "a row in brackets": ("<p align=center>[ <a href='#lamps'>Lamps</a> ] [ <a href='#boilers'>Boiler care</a> ]</p>", ALL),
    "a row with a word before": ("<p>Jump to: <a href='#lamps'>Lamps</a>, <a href='#boilers'>Boiler care</a></p>", ALL),
    "a row of words": ("<p>Lamps &middot; Boiler care &middot; Tea &amp; cake</p>", ALL),
    "a row with words and links": ("<p><a href='#lamps'>Lamps</a> | Boiler care | <a href='#tea'>Tea &amp; cake</a></p>", ALL),
    "lines": ("<p>\n<a href='#lamps'>Lamps</a><br>\n<a href='#boilers'>Boiler care</a><br>\n</p>", ALL),
    "numbered lines": ("<p>1. <a href='#lamps'>Lamps</a><br>\n2. <a href='#boilers'>Boiler care</a><br></p>", ALL),
    "bold lines in a box": ("<div class=toc><b>Contents</b><br><a href='#lamps'>Lamps</a><br><a href='#tea'>Tea &amp; cake</a></div>", ALL),
    "a table": ("<table>\n<tr><td><a href='#lamps'>Lamps</a></td></tr>\n<tr><td><a href='#tea'>Tea &amp; cake</a></td></tr>\n</table>", ALL),
    "a table round a list": ("<table><tr><td><ul><li><a href='#lamps'>Lamps</a><li><a href='#boilers'>Boiler care</a></ul></td></tr></table>", ALL),
    "terms without text": ("<dl>\n<dt><a href='#lamps'>Lamps</a>\n<dt><a href='#boilers'>Boiler care</a>\n<dd><dl><dt><a href='#wash'>Washing out</a></dl>\n</dl>", ["Lamps", "Boiler care", "Washing out", "Tea & cake"]),
    "a navigation": ("<nav class=side><p>On this page</p><ul><li><a href='#lamps'>Lamps</a></li><li><a href='#tea'>Tea &amp; cake</a></li></ul></nav>", ALL),
    "pictures": ("<p><a href='#lamps'><img src=l.gif alt=Lamps></a> <a href='#boilers'><img src=b.gif alt='Boiler care'></a></p>", ALL),
    "page numbers": ("<ul><li><a href='#lamps'>Lamps</a> . . . . 3</li><li><a href='#boilers'>Boiler care</a>, p. 12</li></ul>", ALL),
    "roman numbers in cells": ("<table><tr><td>I.<td><a href='#lamps'>Lamps</a><tr><td>II.<td><a href='#boilers'>Boiler care</a><tr><td>III.<td><a href='#tea'>Tea &amp; cake</a></table>", ALL),
    "boxes": ("<div class=toc>\n<div class=e><a href='#lamps'>Lamps</a></div>\n<div class=e><a href='#tea'>Tea &amp; cake</a></div>\n</div>", ALL),
    "pictures between": ("<p><a href='#lamps'>Lamps</a> <img src=dot.gif alt=''> <a href='#tea'>Tea &amp; cake</a></p>", ALL),
    "fixed spaces between": ("<p><a href='#lamps'>Lamps</a>&nbsp;&nbsp;/&nbsp;&nbsp;<a href='#tea'>Tea &amp; cake</a></p>", ALL),
    "square brackets": ("<p>[<a href='#lamps'>Lamps</a>] - [<a href='#tea'>Tea &amp; cake</a>]</p>", ALL),
    "a bare row between rules": ("<hr>\n<a href='#lamps'>Lamps</a> &bull; <a href='#tea'>Tea &amp; cake</a>\n<hr>", ALL),
    "an unclosed paragraph": ("<P>\n<A HREF='#lamps'>Lamps</A><BR>\n<A HREF='#boilers'>Boiler care</A><BR>\n<A HREF='#tea'>Tea &amp; cake</A>", ALL),
    "classes within": ("<ul><li class=l1><a class='ref' href='#lamps'><span class=std>Lamps</span></a></li><li class=l1><a class='ref' href='#tea'><span class=std>Tea &amp; cake</span></a></li></ul>", ALL),
    "a list that is called so": ("<ul class='contents simple'><li><a href='#lamps'>Lamps</a></li><li><a href='#tea'>Tea &amp; cake</a></li></ul>", ALL),
    "one of the author's own entries": ("<ul><li><a href='#lamps'>Lamps</a></li><li><a href='#tea'>Tea &amp; cake</a></li><li><a href='#boilers'>Boiler care</a></li><li><a href='notes.html'>Notes</a></li></ul>", ["Lamps", "Tea & cake", "Boiler care", "Notes"]),
}  # fmt: skip


def mended(piece):
    """Whether a piece is an address that led nowhere, which is put right."""
    return piece[:3] == ("attribute", "a", "href")


@pytest.mark.parametrize(("markup", "words"), HANDMADE.values(), ids=HANDMADE)
def test_a_list_made_by_hand_is_adopted_and_completed(markup, words):
    page = with_list(markup)
    assert len(find_handmade(page)) == 1
    adopted = edited(page, plan_contents(page, USUAL))
    found = entries(adopted)
    assert [found_words for found_words, _ in found] == words
    targets = adopted.index_targets()
    assert all(href and find_indicated(href.partition("#")[2], targets) for _, href in found if href != "notes.html")
    assert len(adopted.made_blocks("contents")) == 1
    assert not plan_contents(adopted, USUAL), "again"
    assert not find_outdated(adopted)
    assert not plan_contents(adopted, ContentsOptions(levels=[2, 3], form=Form.LIST, numbered=True)), (
        "it keeps its hand"
    )
    assert all(mended(piece) for piece in lost(page.text, adopted.text))
    own_again = edited(adopted, plan_no_contents(adopted))
    assert all(mended(piece) for piece in lost(page.text, own_again.text))
    assert not own_again.made_blocks("contents") or "contents" in page.text.lower()
    if not lost(page.text, adopted.text) and "<li>" not in pieces_added(page, own_again):
        assert own_again.text == page.text


def pieces_added(page, other):
    """The start tags that came to a page, written out."""
    return "<li>" if lost(other.text, page.text) else ""


def test_the_line_that_heads_a_list_goes_along_with_it():
    page = with_list(
        "<p><b>On this page</b></p>\n<ul><li><a href='#lamps'>Lamps</a><li><a href='#tea'>Tea &amp; cake</a></ul>"
    )
    adopted = edited(page, plan_contents(page, USUAL))
    assert re.search("<nav[^>]*>\n<p><b>On this page</b></p>\n<ul>", adopted.text)
    moved = edited(adopted, plan_moved_contents(adopted, 0, Spot.TOP))
    assert moved.text.index("On this page") < moved.text.index("Lead.")
    assert not plan_contents(moved, USUAL)


NO_LISTS = {
    "terms with text": "<dl><dt><a href='#lamps'>Lamps</a><dd>how to trim them<dt><a href='#boilers'>Boiler care</a><dd>with soda</dl>",
    "entries with what they hold": "<ul><li><a href='#lamps'>Lamps</a> &ndash; trimming and glasses</li><li><a href='#boilers'>Boiler care</a> &ndash; soda</li></ul>",
    "a sentence of three links": "<p>See <a href='#lamps'>Lamps</a>, <a href='#boilers'>Boiler care</a> and <a href='#tea'>Tea</a>.</p>",
    "a sentence that ends": "<p>(See <a href='#lamps'>Lamps</a>, <a href='#boilers'>Boiler care</a>, <a href='#tea'>Tea</a>.)</p>",
    "references": "<ol><li><a href='#lamps'>^</a> Lamps and how to trim them</li><li><a href='#tea'>^</a> On tea in the guard's van</li></ol>",
    "prose with links": "<p>We keep <a href='#lamps'>the lamps</a> in the hut, and those who look after <a href='#boilers'>the boilers</a> know where.</p>",
    "a list of something else": "<ul><li>oil</li><li>soda</li><li>tea</li></ul>",
    "links to other pages": "<ul><li><a href='a.html'>Lamps</a></li><li><a href='b.html'>Boilers</a></li></ul>",
    "one link": "<p><a href='#lamps'>Lamps</a></p>",
    "links to the top": "<p><a href='#top'>Top</a> <a href='#'>Up</a></p>",
}


@pytest.mark.parametrize("markup", NO_LISTS.values(), ids=NO_LISTS)
def test_what_is_no_list_of_sections(markup):
    assert not find_handmade(with_list(markup))


def test_links_at_the_end_of_a_long_page_are_no_contents():
    more = "".join(f"<h2 id=s{number}>Siding number {number}</h2>\n" for number in range(8))
    page = page_of(SECTIONS + more + "<ul><li><a href='#lamps'>Lamps</a><li><a href='#tea'>Tea &amp; cake</a></ul>")
    assert not find_handmade(page)


def test_doubtful_entries_wait_for_their_author():
    page = with_list(
        "<ul><li><a href='#lamps'>Lamps</a></li><li><a href='#tea'>Tea &amp; cake</a></li><li>Care of the boilers</li></ul>"
    )
    handmade = find_handmade(page)[0]
    assert [(guess.section, guess.sure) for guess in handmade.guesses[2:]] == [(2, False)]
    kept = edited(page, plan_adoption(page, handmade.start, USUAL))
    assert [words for words, _ in entries(kept)] == ["Lamps", "Boiler care", "Tea & cake", "Care of the boilers"]
    assert states(kept)[-1] is State.OPEN
    assert not plan_contents(kept, USUAL)
    led = edited(page, plan_adoption(page, handmade.start, USUAL, {2: 2}))
    assert entries(led)[2] == ("Care of the boilers", "#boilers")
    dropped = edited(page, plan_adoption(page, handmade.start, USUAL, {2: Unplaced.DROP}))
    assert entries(dropped) == [("Lamps", "#lamps"), ("Boiler care", "#boilers"), ("Tea & cake", "#tea")]
    with pytest.raises(RequestError, match="not there any more"):
        plan_adoption(page, handmade.start + 1, USUAL)


def test_an_adopted_list_lists_deeper_levels_where_that_is_asked_of_it():
    page = with_list("<ul>\n<li><a href='#lamps'>Lamps</a></li>\n<li><a href='#boilers'>Boilers</a></li>\n</ul>")
    adopted = edited(page, plan_contents(page, USUAL))
    deeper = edited(adopted, plan_contents(adopted, ContentsOptions(levels=[2, 3], block=0)))
    assert [words for words, _ in entries(deeper)] == ["Lamps", "Boilers", "Washing out", "Tea & cake"]
    assert find_blocks(deeper)[0].listed[2].entry.depth == 1
    assert not plan_contents(deeper, USUAL)
    assert edited(deeper, plan_contents(deeper, ContentsOptions(levels=[2], block=0))).text == adopted.text
    assert edited(deeper, plan_no_contents(deeper)).text == page.text


def test_a_dead_entry_keeps_its_place_and_is_listed():
    page = with_list(
        "<ul><li><a href='#lamps'>Lamps</a></li><li><a href='#rabbits'>Rabbits</a></li><li><a href='#tea'>Tea &amp; cake</a></li></ul>"
    )
    adopted = edited(page, plan_contents(page, USUAL))
    assert ("Rabbits", "#rabbits") in entries(adopted)
    assert any("Rabbits" in note for note in note_contents(page, plan_contents(page, USUAL)))


def test_an_adopted_list_follows_its_headings_and_keeps_its_author_s_words():
    page = with_list(
        "<ul>\n<li><a href='#lamps'>All lamps</a></li>\n<li><a href='#tea'>Tea &amp; cake</a></li>\n<li><a href='more.html'>More</a></li>\n</ul>"
    )
    adopted = edited(page, plan_contents(page, USUAL))
    changed = edits_for_typed_text(
        adopted,
        (">Tea &amp; cake</h2>", ">Tea</h2>"),
        ('<h2 id="tea">', '<h2 id="coal">Coal</h2>\n<h2 id="tea">'),
        (">Boiler care</h2>", ">Boilers</h2>"),
    )
    refreshed = edited(changed, plan_contents(changed, USUAL))
    assert [words for words, _ in entries(refreshed)] == ["All lamps", "Boilers", "Coal", "Tea", "More"]
    assert not plan_contents(refreshed, USUAL)
    own_again = edited(refreshed, plan_no_contents(refreshed))
    assert (
        "<ul>\n<li><a href='#lamps'>All lamps</a></li>\n<li><a href='#tea'>Tea</a></li>\n<li><a href='more.html'>More</a></li>\n</ul>"
        in own_again.text
    )


def test_sections_left_out_of_an_adopted_list_stay_out():
    page = with_list("<ul><li><a href='#lamps'>Lamps</a></li><li><a href='#tea'>Tea &amp; cake</a></li></ul>")
    without = edited(page, plan_contents(page, ContentsOptions(left_out=["boilers"])))
    assert [words for words, _ in entries(without)] == ["Lamps", "Tea & cake"]
    assert not plan_contents(without, USUAL)
    taken_in = edited(without, plan_contents(without, ContentsOptions(left_out=[])))
    assert [words for words, _ in entries(taken_in)] == ALL
    again = edited(taken_in, plan_contents(taken_in, ContentsOptions(left_out=["boilers"])))
    assert again.text == without.text


@pytest.mark.parametrize(
    "heading",
    [
        "<h2><a id='{0}'></a>{1}</h2>",
        "<a name='{0}'></a><h2>{1}</h2>",
        "<p id='{0}'></p>\n<h2>{1}</h2>",
        "<a href='x.html'><h2 id='{0}'>{1}</h2></a>",
        "<div id='{0}'><div><div><h2>{1}</h2></div></div><p>t</p></div>",
        "<h1 id='{0}'>{1}</h1>",
    ],
)
def test_right_links_stay_however_their_headings_are_marked(heading):
    names = [("readme", "5.1 readme"), ("compat", "5.2 compat"), ("copying", "5.3 copying")]
    listed = "".join(f"<li><a class=x href='#{name}'><tt>{words}</tt></a></li>\n" for name, words in names)
    page = page_of(
        f"<ul>\n{listed}</ul>\n" + "\n".join(heading.format(*one) + "\n<p>text</p>" for one in names) + "\n"
    )
    adopted = edited(page, plan_contents(page, ContentsOptions(levels=[2, 3])))
    assert listed in adopted.text
    assert not lost(page.text, adopted.text)
    assert not plan_contents(adopted, ContentsOptions(levels=[2, 3]))
    assert edited(adopted, plan_no_contents(adopted)).text == page.text


def test_a_list_of_one_section_s_own_parts_is_not_the_page_s():
    page = page_of(
        SECTIONS.replace(
            "<p>b</p>",
            "<ul><li><a href='#wash'>Washing out</a><li><a href='#soda'>Soda</a></ul>\n<h3 id=soda>Soda</h3>",
        )
    )
    assert [one.home for one in find_handmade(page)] == [2]
    both = edited(page, plan_contents(page, ContentsOptions(levels=[2])))
    assert len(find_blocks(both)) == 1
    adopted = edited(both, plan_adoption(both, find_handmade(both)[0].element.open.start, USUAL))
    assert [block.home for block in find_blocks(adopted)] == [None, 2]
    assert not find_outdated(adopted)


# -------------------------------------------------------------------- laws

options = st.builds(
    ContentsOptions,
    levels=st.sampled_from([(2, 3), (1, 2, 3, 4), (2,)]),
    form=st.sampled_from(list(Form)),
    ordered=st.booleans(),
    numbered=st.booleans(),
    spot=st.sampled_from([Spot.LEAD, Spot.TOP, Spot.SIDE]),
)


@given(pages(blocks=tidy_block), options)
def test_made_moved_and_taken_out_gives_the_first_bytes(data, chosen):
    page = page_of(data)
    page = edited(page, plan_identifiers(page, range(1, 7)))
    new = edited(
        page,
        plan_contents(
            page,
            ContentsOptions(
                chosen.levels,
                chosen.form,
                block=NEW,
                spot=chosen.spot,
                numbered=chosen.numbered,
                ordered=chosen.ordered,
            ),
        ),
    )
    if not find_blocks(new):
        assert new.text == page.text
        return
    assert not plan_contents(new, USUAL)
    assert not find_outdated(new)
    moved = edited(new, plan_moved_contents(new, 0, Spot.TOP))
    assert not plan_contents(moved, USUAL)
    for one in (new, moved):
        assert apply_edits(one.source, plan_no_contents(one)) == page.source.encode(page.text)


@given(pages(blocks=tidy_block), st.data())
def test_entries_equal_their_headings_after_any_edit_of_a_heading(data, draws):
    page = page_of(data)
    page = edited(page, plan_contents(page, ContentsOptions((1, 2, 3, 4), block=NEW)))
    blocks = find_blocks(page)
    if not blocks:
        return
    index = draws.draw(st.sampled_from([one.section for one in blocks[0].listed]))
    heading = page.headings[index].element
    new = draws.draw(st.sampled_from(["Coal & co", "Coal", page.headings[index].text + " more", "Zebra"]))
    words = new.replace("&", "&amp;")
    text = page.text[: heading.open.end] + words + page.text[heading.close.start :]
    page = page_of(page.source.encode(text))
    page = edited(page, plan_contents(page, USUAL))
    flat = read_outline(page).flat()
    for one in find_blocks(page)[0].listed:
        assert one.entry.words == flat[one.section].text
        assert find_indicated(one.entry.href[1:], page.index_targets())


LISTED = "".join(f"<h2 id={name}>{name.capitalize()}</h2><p>a</p>" for name in "lamps boilers tea signals".split())


@pytest.mark.parametrize(
    ("before", "behind", "missing"),
    [
        ("", "<h2 id=note>Note</h2><p>a</p>", ["Tea", "Signals"]),  # a box is no section
        ("<h2 id=intro>Introduction</h2><p>a</p>", "", ["Tea", "Signals"]),  # whoever reads the list is past it
        ("", "<h2 id=end>End</h2><p>a</p>", ["Tea", "Signals", "End"]),
    ],
)
def test_a_list_lacks_what_comes_behind_it_and_is_a_section(before, behind, missing):
    rows = "<ul><li><a href=#lamps>Lamps</a><li><a href=#boilers>Boilers</a></ul>"
    page = page_of(f"<h1>Works</h1>{before}{rows}{LISTED}{behind}")
    (own,) = find_handmade(page)
    assert [page.headings[one].text for one in own.missing] == missing


def test_a_list_of_one_section_is_not_the_page_s():
    within = "<h3 id=a1>Arms</h3><p>a</p><h3 id=a2>Bells</h3><p>b</p>"
    rows = "<ul><li><a href=#a1>Arms</a><li><a href=#a2>Bells</a></ul>"
    page = page_of(f"<h1>Works</h1>{LISTED}<h2 id=more>More</h2>{rows}{within}")
    assert not read_page_contents(page).lists_page
    adopted = edited(page, plan_adoption(page, find_handmade(page)[0].start, USUAL))
    own = read_page_contents(adopted)
    assert (len(own.blocks), own.lists_page) == (1, False)
    whole = edited(adopted, plan_contents(adopted, ContentsOptions(block=NEW)))
    assert read_page_contents(whole).whole is not None


def test_a_list_that_is_called_contents_is_looked_at_like_any_other():
    rows = "<div class=contents><ul><li><a href=#lamps>Lamps</a><li><a href=#boilers>Boilers</a></ul></div>"
    own = read_page_contents(page_of(f"<h1>Works</h1>{rows}{LISTED}"))
    assert own.lists_page
    assert own.called
    assert own.handmade is not None
