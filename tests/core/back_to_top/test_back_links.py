"""Back-to-top links: after which sections, recognised however they were made by hand, made alike, removed again."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from laws import lost
from pages import edited, page_of, text_after
from signpost.core.addresses.fragments import TOP, find_indicated
from signpost.core.back_to_top.destinations import Destination
from signpost.core.back_to_top.links import find_back_links, is_near_top, opens_page, read_back_links
from signpost.core.back_to_top.planning import BackLinkOptions, Corner, plan_back_links, plan_no_back_links
from signpost.core.contents import ContentsOptions, plan_contents
from signpost.core.page.outline import read_outline
from signpost.core.text.edits import apply_edits
from signpost.core.text.errors import RequestError
from strategies import pages, tidy_block

OPTIONS = ContentsOptions()
AS_THEY_ARE = BackLinkOptions()
ALIKE = BackLinkOptions(alike=True)
BACK = '<p class="back-to-top"><a href="#top">Back to top</a></p>'


@pytest.mark.parametrize(
    ("markup", "made"),
    [
        pytest.param(
            "<h2>A</h2>\n<p>a</p>\n\n<h3>B</h3>\n<h2>C</h2>\n</body>",
            "<h2>A</h2>\n<p>a</p>\n\n<h3>B</h3>\nBACK\n<h2>C</h2>\nBACK\n</body>",
            id="before the next heading, and at the end",
        ),
        pytest.param(
            "<h2>A</h2>\n<p>a</p>\n\n\n<h2>B</h2>\n  <p>b</p>\n\n</body>",
            "<h2>A</h2>\n<p>a</p>\nBACK\n\n\n<h2>B</h2>\n  <p>b</p>\nBACK\n\n</body>",
            id="right behind the last block",
        ),
        pytest.param(
            "<table><tr><td><h2>A</h2></td><td>a</td></tr>\n<tr><td><h2>B</h2></td></tr></table>",
            "<table><tr><td><h2>A</h2></td><td>aBACK</td></tr>\n<tr><td><h2>B</h2>BACK</td></tr></table>",
            id="in the last cell of a row",
        ),
        pytest.param(
            "<ul><li><h2>A</h2>a</li><li><h2>B</h2>b</li></ul>",
            "<ul><li><h2>A</h2>aBACK</li><li><h2>B</h2>bBACK</li></ul>",
            id="in an item",
        ),
        pytest.param("<h2>A</h2>a<!-- <p>", "<h2>A</h2>a<!-- <p>", id="never in an unclosed comment"),
        pytest.param("<h2>A</h2>a<textarea>b", "<h2>A</h2>a<textarea>b", id="never in a field"),
        pytest.param("<h2>A</h2>a<plaintext>b", "<h2>A</h2>a<plaintext>b", id="never in plain text"),
        pytest.param(
            "<h2>Contents</h2>\n<ul><li>x</li></ul>\n<h2>B</h2>b\n",
            "<h2>Contents</h2>\n<ul><li>x</li></ul>\n<h2>B</h2>b\nBACK\n",
            id="none below what heads the contents",
        ),
        pytest.param(
            "<main>\n  <section>\n    <h2>A</h2>\n  </section>\n  <section>\n    <h2>B</h2>\n  </section>\n</main>",
            "<main>\n  <section>\n    <h2>A</h2>\n    BACK\n  </section>\n  <section>\n    <h2>B</h2>\n    BACK\n"
            "  </section>\n</main>",
            id="within elements around the sections",
        ),
        pytest.param("<h2>A</h2>x<h2>B</h2>y", "<h2>A</h2>xBACK<h2>B</h2>yBACK", id="on one line"),
        pytest.param(
            "<h2>A</h2>\n<a href=#top>up</a>\n<h2>B</h2>\n<a href='#'>^</a>\n<h2>C</h2>\n",
            "<h2>A</h2>\n<a href=#top>up</a>\n<h2>B</h2>\n<a href='#'>^</a>\n<h2>C</h2>\nBACK\n",
            id="those made by hand count",
        ),
        pytest.param(
            "<body>\n<a name=start></a>\n<h2>A</h2>\n<a href=#start>up</a>\n<h2>B</h2>\n",
            "<body>\n<a name=start></a>\n<h2>A</h2>\n<a href=#start>up</a>\n<h2>B</h2>\nBACK\n",
            id="an identifier at the real top",
        ),
        pytest.param(
            "<p>p</p>\n<a name=c></a>\n<h2>A</h2>\n<a name=d></a>\n<h2>B</h2>\n<div id=footer>f</div>\n",
            "<p>p</p>\n<a name=c></a>\n<h2>A</h2>\nBACK\n<a name=d></a>\n<h2>B</h2>\nBACK\n<div id=footer>f</div>\n",
            id="before anchors, before the footer",
        ),
        pytest.param(
            "<h1>A</h1><p>no section of the level</p>", "<h1>A</h1><p>no section of the level</p>", id="none"
        ),
    ],
)
def test_ways_back(markup, made):
    back = '<p class="back-to-top"><a href="#top">Back to top</a></p>'
    plain = "<p class=back-to-top><a href=#top>Back to top</a></p>"
    after = text_after(markup, plan_back_links, AS_THEY_ARE).replace(plain, "BACK")
    after = after.replace(back.replace('"', "'"), "BACK")
    assert after.replace(back, "BACK") == made


def test_short_sections_get_no_way_back():
    after = text_after(
        "<h2>A</h2>one two\n<h2>B</h2>one two three\n", plan_back_links, BackLinkOptions(least_words=4)
    )
    assert after.index("back-to-top") > after.index("three")
    assert after.count("back-to-top") == 1


def test_ways_back_lead_to_the_contents_and_can_be_led_elsewhere():
    page = page_of("<h2>A</h2>\n<h2>B</h2>\n")
    with pytest.raises(RequestError, match="Make one first"):
        plan_back_links(page, BackLinkOptions(to=Destination.CONTENTS))
    page = edited(page, plan_contents(page, OPTIONS))
    page = edited(page, plan_back_links(page, BackLinkOptions()))
    page = edited(page, plan_back_links(page, BackLinkOptions(to=Destination.CONTENTS)))
    assert page.text.count("#contents") == 2
    assert len(find_back_links(page)) == 2
    assert not plan_back_links(page, BackLinkOptions(to=Destination.CONTENTS))
    assert not plan_contents(page, OPTIONS)


@given(pages(), st.integers(1, 4))
def test_ways_back_made_twice_and_taken_out(data, level):
    page = page_of(data)
    made = edited(page, plan_back_links(page, BackLinkOptions(levels=(level,))))
    assert not plan_back_links(made, BackLinkOptions(levels=(level,)))
    assert not lost(page.text, made.text)
    if not page.made_blocks("back-to-top") and "page-top" not in made.text:
        assert apply_edits(made.source, plan_no_back_links(made)) == data


def after(markup, **options):
    return edited(page_of(markup), plan_back_links(page_of(markup), BackLinkOptions(**options)))


#: Back-to-top links as authors paste them.
HANDMADE = {
    "a paragraph": '<p><a href="#top">Back to top</a></p>',
    "in capitals": '<P ALIGN=RIGHT><A HREF="#TOP">TOP</A></P>',
    "a bare link": '<a href="#top">up</a>',
    "an arrow": '<p class="up"><a href="#">&uarr;</a></p>',
    "in brackets": '<p>[ <a href="#top">Top of page</a> ]</p>',
    "after a rule": '<div align="right"><font size="1"><a href="#start">back to start</a></font></div>',
    "to the list": '<p><a href="#toc">Contents</a></p>',
    "to the main heading": '<center><a href="#works">Works</a></center>',
    "a picture": '<p><a href="#top"><img src="up.gif" alt="Top"></a></p>',
    "a script": '<p><a href="javascript:window.scrollTo(0,0)">Go up</a></p>',
    "the page itself": '<p><a href="page.html#top">Top</a></p>',
    "a table": '<table width="100%"><tr><td align="right"><a href="#top">Top</a></td></tr></table>',
    "an item": '<ul class="up"><li><a href="#top">Nach oben</a></li></ul>',
    "a definition list": '<dl><dd><a href="#top">Page top</a></dd></dl>',
    "a heading's looks": '<h6><a href="#top">^ Top</a></h6>',
    "spaces and dots": '<p>&nbsp;...&nbsp;<a href="#top">Back</a>&nbsp;...</p>',
    "in two boxes": '<div class="end"><div class="up"><a href="#top">Return to top</a></div></div>',
    "with a script behind": '<p><a href="#top" onclick="return up()">Top</a></p>',
    "bold in a centre": '<center><b><a href="#toc">Index</a></b></center>',
    "percent-encoded": '<p><a href="#%74op">Top</a></p>',
    "an empty link": '<p><a href="#top"><b>^</b></a></p>',
}
WORKS = (
    '<body>\n<a name="start"></a>\n<h1 id="works">Works</h1>\n<ul id="toc" class="contents"><li><a href="#a">A</a></li></ul>\n'
    '<h2 id="a">A</h2>\n<p>one</p>\nWAY\n<h2 id="b">B</h2>\n<p>two</p>\n'
)


@pytest.mark.parametrize("way", HANDMADE.values(), ids=HANDMADE)
def test_a_way_back_made_by_hand_is_adopted_and_its_likes_added(way):
    page = page_of(WORKS.replace("WAY", way))
    assert len(find_back_links(page)) == 1
    kept = edited(page, plan_back_links(page, AS_THEY_ARE))
    assert kept.text == WORKS.replace("WAY", way) + BACK + "\n"
    assert not plan_back_links(kept, AS_THEY_ARE)
    assert edited(kept, plan_no_back_links(kept)).text == page.text
    made = edited(page, plan_back_links(page, ALIKE))
    assert made.text == WORKS.replace("WAY", BACK) + BACK + "\n"
    assert not plan_back_links(made, ALIKE)


def test_several_alike_made_by_hand_stay_and_new_ones_say_the_same():
    way = '<p align="right"><a href="#start">Up</a></p>'
    page = page_of(
        WORKS.replace("WAY", way).replace("<p>two</p>\n", f"<p>two</p>\n{way}\n<h2>C</h2>\n<p>three</p>\n")
    )
    made = edited(page, plan_back_links(page, AS_THEY_ARE))
    assert made.text == page.text + '<p class="back-to-top"><a href="#start">Up</a></p>\n'
    assert not plan_back_links(made, AS_THEY_ARE)


@pytest.mark.parametrize(
    ("top", "way"),
    [
        ('<table><tr><td>Banner of the club</td></tr></table>\n<a name="top"></a>', "<a href='#top'>Back to top</a>"),
        ("<p>Club pages</p>\n<h1 id='club'>The club</h1>", "<a href='#club'>Top</a>"),
        ("<div id='head'>Name of the club</div>", "<a href='#head'>up</a>"),
        ("<p>Club</p>\n<div id='bar'>Home</div>", "<a href='#bar'><img src='up.gif' alt=''></a>"),
        ("<h2 id='list'>Contents</h2>\n<ul><li>A</li></ul>", "<a href='#list'>Back to contents</a>"),
    ],
)
def test_ways_back_are_known_by_where_they_lead(top, way):
    page = page_of(
        f"<body>\n{top}\n<h2 id=a>A</h2>\n<p>a</p>\n<p>{way}</p>\n<h2 id=b>B</h2>\n<p>b</p>\n<p>{way}</p>\n"
    )
    assert len(find_back_links(page)) == 2
    assert not plan_back_links(page, BackLinkOptions())


def test_an_anchor_at_the_top_is_used_and_nothing_is_marked_for_nothing():
    page = page_of("<body>\n<a name='start'></a>\n<h2>A</h2>\n<p>a</p>\n")
    made = edited(page, plan_back_links(page, BackLinkOptions(to=Destination.MARK)))
    assert "#start" in made.text
    assert "<body>" in made.text
    assert not plan_back_links(page_of("<body><p>no section</p>"), BackLinkOptions(to=Destination.MARK))


def test_ways_back_to_the_contents_say_so():
    page = page_of('<html lang="de">\n<body>\n<h2>A</h2>\n<h2>B</h2>\n</body>')
    page = edited(page, plan_contents(page, OPTIONS))
    page = edited(page, plan_back_links(page, BackLinkOptions(to=Destination.CONTENTS)))
    assert page.text.count(">Zum Inhalt</a>") == 2


NO_WAYS = {
    "a placeholder": '<p><a href="#">Carriages</a></p>',
    "down the page": '<p><a href="#b">Back again</a></p>',
    "another page": '<p><a href="other.html#top">Top</a></p>',
    "the page without a place": '<p><a href="page.html">Works</a></p>',
    "a broken link": '<p><a href="#topp">Top</a></p>',
}


@pytest.mark.parametrize("way", NO_WAYS.values(), ids=NO_WAYS)
def test_what_is_no_way_back(way):
    page = page_of(WORKS.replace("WAY", way))
    assert not find_back_links(page)
    assert way in edited(page, plan_back_links(page, BackLinkOptions())).text


def test_a_way_back_within_words_counts_and_stays():
    words = '<p>See above, or go <a href="#top">up</a> to the list.</p>'
    page = page_of(WORKS.replace("WAY", words))
    assert [way.alone for way in read_back_links(page)] == [False]
    assert words in edited(page, plan_back_links(page, BackLinkOptions())).text


NESTED = "<h2>A</h2>\n<p>a</p>\n<h3>B</h3>\n<p>b</p>\n<h3>C</h3>\n<p>c</p>\n<h2>D</h2>\n<p>d</p>\n"


def test_where_subsections_end_together_one_serves_for_all():
    made = after(NESTED, levels=(2, 3))
    assert [line for line in made.text.replace(BACK, "^").split("\n") if line[:2] in ("^", "<h")] == [
        "<h2>A</h2>", "<h3>B</h3>", "^", "<h3>C</h3>", "^", "<h2>D</h2>", "^",
    ]  # fmt: skip
    fewer = edited(made, plan_back_links(made, BackLinkOptions(levels=(2,))))
    assert fewer.text == after(NESTED, levels=(2,)).text
    boxed = after("<section>\n<h2>A</h2>\n<section>\n<h3>B</h3>\n</section>\n</section>\n<h2>C</h2>\n", levels=(2, 3))
    assert boxed.text.count("back-to-top") == 2


def test_those_too_many_and_those_after_short_sections_go():
    twice = '<p><a href="#top">Top</a></p>\n<p><a href="#top">Top</a></p>'
    made = after(WORKS.replace("WAY", twice), alike=True)
    assert made.text.count("back-to-top") == 2
    short = after(WORKS.replace("WAY", twice), least_words=4, alike=True)
    assert "#top" not in short.text
    again = edited(made, plan_back_links(made, BackLinkOptions(least_words=4, alike=True)))
    assert again.text == short.text
    long = "<h2>A</h2>\n" + "<p>" + "word " * 900 + "</p>\n<h2>B</h2>\n<p>b</p>\n"
    assert after(long, least_windows=1.0).text.count("back-to-top") == 1


def test_beside_the_heading_and_back_to_the_end():
    beside = after(NESTED, corner=Corner.HEADING)
    assert '<h2>A</h2>\n<p class="back-to-top">' in beside.text
    assert not plan_back_links(beside, BackLinkOptions(corner=Corner.HEADING))
    end = edited(beside, plan_back_links(beside, BackLinkOptions()))
    assert end.text == after(NESTED).text
    assert edited(end, plan_back_links(end, BackLinkOptions(corner=Corner.HEADING))).text == beside.text


def test_the_real_top_is_marked_on_the_body_where_no_bar_moves_it():
    page = page_of('<body class=x>\n<header class="bar">Bar</header>\n<h2>A</h2>\n')
    made = edited(page, plan_back_links(page, BackLinkOptions(to=Destination.MARK)))
    assert "<body id=page-top class=x>" in made.text
    assert "href=#page-top" in made.text
    assert not plan_back_links(made, BackLinkOptions(to=Destination.MARK))
    with pytest.raises(RequestError, match="no <body> tag"):
        plan_back_links(page_of("<h2>A</h2>"), BackLinkOptions(to=Destination.MARK))


def test_where_top_is_the_name_of_something_else_the_real_top_is_marked():
    made = after("<body>\n<h2>A</h2>\n<h2 id='top'>Top of the line</h2>\n</body>")
    assert "<body id='page-top'>" in made.text
    assert made.text.count("href='#page-top'") == 2


def test_words_in_the_page_s_language_or_the_author_s_own():
    german = '<html lang="de-AT">\n<body>\n<h2>A</h2>\n</body>'
    assert ">Nach oben</a>" in after(german).text
    made = after(german, words="Auf & ab")
    assert ">Auf &amp; ab</a>" in made.text
    assert not plan_back_links(made, BackLinkOptions())
    assert ">Hinauf</a>" in edited(made, plan_back_links(made, BackLinkOptions(words="Hinauf"))).text


return_options = st.builds(
    BackLinkOptions,
    levels=st.sampled_from([(2,), (1, 2, 3), (3, 4)]),
    to=st.sampled_from([Destination.TOP, Destination.MARK]),
    least_words=st.sampled_from([0, 3, 8]),
    corner=st.sampled_from(list(Corner)),
    alike=st.booleans(),
)


@given(pages(blocks=tidy_block), return_options)
def test_every_section_that_is_long_enough_has_one_and_all_lead_up(data, options):
    page = page_of(data)
    try:
        made = edited(page, plan_back_links(page, options))
    except RequestError:
        assert page.body_start is None
        assert options.to is Destination.MARK
        return
    assert not plan_back_links(made, options)
    ways = find_back_links(made)
    top = made.index_targets()
    for way in ways:
        found = find_indicated(way.href[1:], top)
        assert found is TOP or found.start == made.body_start or opens_page(made, found) or is_near_top(made, found)
    for section in read_outline(made).flat():
        if section.level in options.levels and section.words >= options.least_words:
            assert any(section.start <= way.start < section.end for way in ways)
    if not find_back_links(page):
        assert re.sub(r"\s", "", plain(made)) == re.sub(r"\s", "", plain(page))


def plain(page):
    """The page's text without back-to-top links and the mark at the top."""
    text = apply_edits(page.source, plan_no_back_links(page)).decode(page.source.encoding.replace("windows-", "cp"))
    return re.sub(r"(<body) id=\S*page-top[\"']?", r"\1", text, flags=re.IGNORECASE)
