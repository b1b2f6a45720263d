"""A page in numbered parts."""

import re

from hypothesis import given
from hypothesis import strategies as st

from pages import edited, page_of, site_of
from signpost.core.page.outline import read_outline
from signpost.core.parts.cuts import cuts_by_identifier, find_cuts
from signpost.core.parts.planning import plan_parts
from signpost.core.site.site import Resolved, Site
from signpost.core.text.edits import apply_edits
from strategies import pages

LONG = (
    "<!DOCTYPE html>\n<html>\n<head>\n  <title>Guide</title>\n  <link rel=stylesheet href=s.css>\n</head>\n<body>\n"
    "<div id=header><a href=#b>B</a></div>\n<h1 id=t>The guide</h1>\n<p>Lead. <a href=#c>to C</a></p>\n"
    "<div class=two>\n<h2 id=a>A</h2>\n<p>a <a href=#a1>a1</a></p>\n<h3 id=a1>A1</h3>\n<p>a</p>\n<h2 id=b>B &amp; b</h2>\n"
    "<p><a href=guide.html#b>b</a> <a href=#t>t</a> <a href=#top>top</a> <img src=p.png></p>\n</div>\n<h2 id=c>C</h2>\n"
    "<ul><li><h2 id=l>in a list</h2></ul>\n<p>c <a href=other.html>o</a></p>\n<div id=footer>f</div>\n</body>\n</html>\n"
)


def split(markup, identifiers, **others):
    site = site_of(guide=markup, **others)
    plan = plan_parts(site, "guide.html", cuts_by_identifier(site.pages["guide.html"], identifiers))
    pages_ = {path: page.source for path, page in site.pages.items()}
    after = {path: apply_edits(source, plan.edits[path]) if path in plan.edits else source.text.encode()
             for path, source in pages_.items()}  # fmt: skip
    after |= plan.new_files
    return Site({path: page_of(data, path) for path, data in after.items()}, frozenset(after))


def test_each_part_is_a_whole_page():
    site = split(LONG, ["b", "c"], other="<a href='guide.html#b'>B</a> <a href=guide.html#a>A</a>")
    texts = {path: page.text for path, page in site.pages.items()}
    assert sorted(texts) == ["guide-2.html", "guide-3.html", "guide.html", "other.html"]
    for number, path in enumerate(["guide.html", "guide-2.html", "guide-3.html"], start=1):
        text = texts[path]
        assert f"<title>Guide (part {number} of 3)</title>" in text
        assert text.count("<strong aria-current=page>" + str(number)) == 2
        assert "<div id=header>" in text
        assert "<div id=footer>f</div>\n</body>\n</html>\n" in text
        assert text.count("<div") == text.count("</div>")
    assert [heading.text for heading in site.pages["guide-2.html"].headings] == ["The guide (part 2 of 3)", "B & b"]
    assert "<link rel=prev href=guide.html>\n  <link rel=next href=guide-3.html>\n</head>" in texts["guide-2.html"]
    assert "Previous: <a href=guide.html rel=prev>Guide</a>" in texts["guide-2.html"]
    assert "Next: <a href=guide-2.html rel=next>B &amp; b</a>" in texts["guide.html"]
    assert texts["other.html"] == "<a href='guide-2.html#b'>B</a> <a href=guide.html#a>A</a>"


def test_links_follow_their_sections():
    site = split(LONG, ["b", "c"], other="")
    for page in site.pages.values():
        for link in page.links:
            assert site.resolves(page.path, link), (page.path, link)
    hrefs = {path: [link.href for link in page.links if not link.in_furniture] for path, page in site.pages.items()}
    assert hrefs["guide.html"][:2] == ["guide-3.html#c", "#a1"]
    assert hrefs["guide-2.html"] == ["guide-2.html#b", "guide.html#t", "#top"]
    assert site.pages["guide-3.html"].links[0].href == "guide-2.html#b"


def test_pages_in_other_folders_follow_too():
    site = site_of(
        d__guide=LONG.replace("guide.html", "../d/guide.html"),
        index="<a href=d/guide.html#c>c</a>",
        e__o="<a href='../d/guide.html?x=1#b'>b</a>",
    )
    plan = plan_parts(site, "d/guide.html", cuts_by_identifier(site.pages["d/guide.html"], ["b", "c"]))
    assert sorted(plan.new_files) == ["d/guide-2.html", "d/guide-3.html"]
    after = {path: apply_edits(site.pages[path].source, edits).decode() for path, edits in plan.edits.items()}
    assert after["index.html"] == "<a href=d/guide-3.html#c>c</a>"
    assert after["e/o.html"] == "<a href='../d/guide-2.html?x=1#b'>b</a>"
    assert b"<a href=guide.html>1</a>" in plan.new_files["d/guide-2.html"]


def test_links_that_spell_out_the_site_s_own_address_follow_too():
    markup = (
        "<a href='https://example.org/club/guide.html#b'>b</a><a href='https://example.com/club/guide.html#b'>no</a>"
    )
    plain = site_of(guide=LONG, other=markup)
    site = Site(plain.pages, plain.files, "https://example.org/club/")
    plan = plan_parts(site, "guide.html", cuts_by_identifier(site.pages["guide.html"], ["b"]))
    after = apply_edits(site.pages["other.html"].source, plan.edits["other.html"]).decode()
    assert after == markup.replace("org/club/guide.html", "org/club/guide-2.html")


def test_an_old_page_in_parts_keeps_its_hand():
    markup = "<HTML>\r\n<HEAD><TITLE>Old</TITLE></HEAD>\r\n<BODY>\r\n<H1>Old</H1>\r\n<H2>A</H2>\r\n<P>caf\xe9\r\n<H2><A NAME=b>B</A></H2>\r\n<P>b\r\n</BODY>\r\n</HTML>\r\n"
    site = site_of(guide=markup.encode("cp1252"))
    plan = plan_parts(site, "guide.html", [2])
    first = apply_edits(site.pages["guide.html"].source, plan.edits["guide.html"])
    second = plan.new_files["guide-2.html"]
    for data in (first, second):
        assert b"\n" not in data.replace(b"\r\n", b"")
        assert b"<NAV CLASS=part-links" in data
    assert b"caf\xe9" in first
    assert b"<H2><A NAME=b>B</A></H2>\r\n<P>b\r\n" in second


def test_names_that_are_taken_are_passed_over():
    site = split(LONG, ["b"], **{"guide-2": "taken"})
    assert "guide-2-part.html" in site.pages


@given(pages(), st.data())
def test_every_section_and_every_link_survives_a_split(data, draws):
    page = page_of(data, "page.html")
    possible = [cut.section for cut in find_cuts(page)]
    if not possible:
        return
    chosen = draws.draw(st.lists(st.sampled_from(possible), min_size=1, max_size=3, unique=True))
    site = Site({"page.html": page}, frozenset(["page.html", "pic.gif"]))
    plan = plan_parts(site, "page.html", chosen)
    parts = {"page.html": apply_edits(page.source, plan.edits["page.html"]), **plan.new_files}
    after = Site({path: page_of(part, path) for path, part in parts.items()}, frozenset([*parts, "pic.gif"]))
    after_split = [
        heading.text
        for part in after.pages.values()
        for heading in part.headings
        if heading.element.close and not re.search(r"\(part \d", heading.text)
    ]  # a heading that was never closed contains whatever comes behind it
    assert sorted(after_split) == sorted(heading.text for heading in page.headings if heading.element.close)
    for link in page.links:
        before = site.follow("page.html", link.href)
        if not isinstance(before, Resolved) or link.in_furniture:
            continue
        homes = [
            (path, found)
            for path, part in after.pages.items()
            for found in part.links
            if found.text == link.text and not found.in_furniture
        ]
        assert homes
        assert any(isinstance(after.follow(path, found.href), Resolved) for path, found in homes)
    assert read_outline(after.pages["page.html"]).lead_words >= read_outline(page).lead_words


def test_a_cut_leads_addresses_of_all_kinds_and_names_what_it_tears():
    page = (
        "<body><h1>T</h1><p>t</p><h2 id=a>A</h2><q cite='#b'>x</q><form action='page.html?x=1&amp;y#b'></form>"
        "<label for=field>l</label>\n<h2 id=b>B</h2><input id=field><p>t</p></body>"
    )
    site = site_of(page=page, other="<q cite='page.html#b'>x</q>")
    plan = plan_parts(site, "page.html", [2])
    first = edited(site.pages["page.html"], plan.edits["page.html"]).text
    assert "cite='page-2.html#b'" in first
    assert "action='./page-2.html?x=1&amp;y#b'" in first
    assert edited(site.pages["other.html"], plan.edits["other.html"]).text == "<q cite='page-2.html#b'>x</q>"
    assert len(plan.notes) == 1
    assert "for names “field”, which goes to part 2" in plan.notes[0]
