"""Contents, ways back and parts: what is made, and that it comes out again."""

import re
from itertools import combinations, pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pages import edited, page_of, site_of, text_after
from signpost.core.addresses.fragments import find_indicated
from signpost.core.back_to_top.planning import BackLinkOptions, plan_back_links
from signpost.core.contents import ContentsOptions, Form, find_contents, plan_contents, plan_no_contents
from signpost.core.identifiers.sections import plan_identifiers
from signpost.core.page.outline import read_outline
from signpost.core.parts.cuts import LEVEL_PENALTY, best_cuts, cuts_at_level, cuts_by_identifier, find_cuts
from signpost.core.parts.planning import plan_parts
from signpost.core.site.site import Resolved, Site
from signpost.core.text.edits import apply_edits
from signpost.core.text.errors import RequestError
from strategies import pages

OPTIONS = ContentsOptions()
ALL_LEVELS = ContentsOptions(levels=range(1, 7))


def test_contents_stand_before_the_first_section_in_the_author_s_hand():
    markup = (
        "<!DOCTYPE html>\n<body>\n\t<h1 class='t'>T</h1>\n\t<p class='l'>lead</p>\n\t<h2 id='a'>A &amp; <i>b</i></h2>\n"
        "\t<div>\n\t\t<h3 id='c'>C</h3>\n\t</div>\n\t<h2 id='d'>D</h2>\n"
    )
    assert text_after(markup, plan_contents, OPTIONS) == markup.replace(
        "\t<h2 id='a'>",
        "\t<nav class='contents' aria-label='Contents'>\n\t\t<ul>\n\t\t\t<li><a href='#a'>A &amp; <i>b</i></a>\n"
        "\t\t\t\t<ul>\n\t\t\t\t\t<li><a href='#c'>C</a></li>\n\t\t\t\t</ul>\n\t\t\t</li>\n"
        "\t\t\t<li><a href='#d'>D</a></li>\n\t\t</ul>\n\t\t<!-- levels 2-3; as headed e8fzxm8zt -->\n\t</nav>\n\t<h2 id='a'>",
    )


def test_contents_of_an_old_page_use_old_elements_and_capitals():
    markup = '<!DOCTYPE HTML PUBLIC "-//W3C//DTD HTML 3.2//EN">\r\n<BODY>\r\n<H2><A NAME=x>A <TT>b</TT></A></H2>\r\n'
    made = text_after(markup, plan_contents, OPTIONS)
    assert made == markup.replace(
        "<H2>",
        "<DIV CLASS=contents>\r\n<UL>\r\n<LI><A HREF=#x>A <TT>b</TT></A></LI>\r\n</UL>\r\n<!-- levels 2-3; as headed 3cs -->\r\n</DIV>\r\n<H2>",
    )


def test_a_row_has_separators_between_its_entries_and_none_after():
    made = text_after("<h2 id=a>A</h2>\n<h2 id=b>B</h2>\n", plan_contents, ContentsOptions(form=Form.ROW))
    assert "<a href=#a>A</a> | <a href=#b>B</a>\n<!--" in made


def test_refreshing_touches_only_what_differs():
    page = page_of("<h2 id=a>A</h2>\n<h2 id=b>B</h2>\n<h2 id=c>C</h2>\n")
    made = edited(page, plan_contents(page, OPTIONS))
    page = page_of(made.text.replace("<h2 id=b>B", "<h2 id=b>Bee").replace("<nav ", "<nav lang=en "))
    refresh = plan_contents(page, OPTIONS)
    assert [edit.text for edit in refresh.edits] == ["ee", "fe"]  # and the remark says how it is headed now
    assert "<nav lang=en " in edited(page, refresh).text


def test_sections_can_be_left_out_and_levels_chosen():
    page = page_of("<h1 id=t>T</h1><h2 id=a>A</h2><h3 id=b>B</h3><h2 id=c>C</h2>")
    made = edited(page, plan_contents(page, ContentsOptions(levels=[2], left_out=["c"])))
    assert re.findall(r"href=#(\w+)", made.text) == ["a"]


def test_without_sections_there_are_no_contents():
    assert not plan_contents(page_of("<h1>T</h1><p>only</p>"), OPTIONS)


@given(pages(), st.sampled_from(list(Form)))
def test_contents_made_twice_and_taken_out(data, form):
    options = ContentsOptions(levels=range(1, 7), form=form)
    page = page_of(data)
    page = edited(page, plan_identifiers(page, range(1, 7)))
    assert not plan_identifiers(page, range(1, 7))
    made = edited(page, plan_contents(page, options))
    assert not plan_contents(made, options)
    contents = find_contents(made)
    if not made.headings:
        assert contents is None
        return
    listed = [(link.href, " ".join(link.text.split())) for link in contents.links]
    assert len(listed) == len(made.headings)
    targets = made.index_targets()
    for link in contents.links:
        assert find_indicated(page_of(f'<a href="{link.href}">').links[0].href[1:], targets) is not None
    assert [heading.text for heading in made.headings] == [heading.text for heading in page.headings]
    assert apply_edits(made.source, plan_no_contents(made)) == apply_edits(page.source, plan_identifiers(page, []))


# -------------------------------------------------------------------- parts

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
        assert text.count("<div class=two>") == text.count("</div>\n<nav") + ("</div>\n<h2" in text)
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
    assert hrefs["guide.html"] == ["guide-3.html#c", "#a1"]
    assert hrefs["guide-2.html"] == ["#b", "guide.html#t", "#top"]
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


def test_a_page_in_parts_is_left_alone():
    site = split(LONG, ["b"])
    plan = plan_parts(site, "guide.html", [1])
    assert not plan
    assert "already" in plan.notes[0]


def test_places_that_are_never_cut():
    page = page_of(LONG)
    assert [page.headings[cut.section].text for cut in find_cuts(page)] == ["A", "A1", "B & b", "C"]
    with pytest.raises(RequestError, match="inside a list"):
        plan_parts(site_of(guide=LONG), "guide.html", [5])
    with pytest.raises(RequestError, match="No section"):
        cuts_by_identifier(page, ["nothing"])


def test_names_that_are_taken_are_passed_over():
    site = split(LONG, ["b"], **{"guide-2": "taken"})
    assert "guide-2-part.html" in site.pages


def sized(*words: int, level=2):
    return page_of(
        "<h1>T</h1>" + "".join(f"<h{level} id=s{i}>S</h{level}><p>{'w ' * n}</p>" for i, n in enumerate(words))
    )


@pytest.mark.parametrize(
    ("words", "parts", "cuts"),
    [
        ([100, 100, 100, 100], 2, [3]),
        ([300, 100, 100, 100], 2, [2]),
        ([10, 10, 500, 10, 10, 500], 2, [4]),
        ([100] * 6, 3, [3, 5]),
        ([100, 100], 1, []),
    ],
)
def test_the_best_cuts(words, parts, cuts):
    assert best_cuts(sized(*words), parts) == cuts


@given(st.lists(st.tuples(st.integers(0, 90), st.integers(2, 4)), min_size=2, max_size=8), st.integers(2, 4))
def test_the_best_cuts_are_the_best_of_all(sections, parts):
    page = page_of("<p>w</p>" + "".join(f"<h{level}>S</h{level}><p>{'w ' * n}</p>" for n, level in sections))
    cuts = find_cuts(page)
    if len(cuts) < parts - 1:
        return
    highest, wanted = min(cut.level for cut in cuts), page.words / parts

    def cost(chosen):
        at = [0, *(cut.words_before for cut in chosen), page.words]
        deviations = sum(((end - start - wanted) / wanted) ** 2 for start, end in pairwise(at))
        return deviations + sum(LEVEL_PENALTY * (cut.level - highest) for cut in chosen)

    best = [cut for cut in cuts if cut.section in best_cuts(page, parts)]
    assert cost(best) == pytest.approx(min(map(cost, combinations(cuts, parts - 1))))


def test_cuts_prefer_higher_headings():
    page = page_of("<h2>a</h2>" + "w " * 100 + "<h3>b</h3>" + "w " * 20 + "<h2>c</h2>" + "w " * 90)
    assert best_cuts(page, 2) == [2]


def test_more_parts_than_places_is_refused_with_the_number_that_can_be_had():
    with pytest.raises(RequestError, match="at most 2 parts"):
        best_cuts(page_of("<h2>a</h2><h2>b</h2>"), 5)


def test_cuts_at_a_level_leave_the_first_section_with_the_lead():
    assert cuts_at_level(page_of(LONG), 2) == [3, 4]


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
    ]  # a heading that was never closed holds whatever comes behind it
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


@given(pages(), pages())
def test_the_whole_job_breaks_no_link_of_the_site(data, other_data):
    """Identifiers, contents, ways back, parts: what a link led to before, it leads to after."""
    page, other = page_of(data), page_of(other_data, "other.html")
    before = Site({"page.html": page, "other.html": other}, frozenset(["page.html", "other.html"]))
    for planned in (
        lambda page: plan_identifiers(page, range(1, 7)),
        lambda page: plan_contents(page, ALL_LEVELS),
        lambda page: plan_back_links(page, BackLinkOptions()),
    ):
        page = edited(page, planned(page))
    site = Site({"page.html": page, "other.html": other}, before.files)
    for was in other.links:
        landed = before.follow("other.html", was.href)
        if isinstance(landed, Resolved):
            assert isinstance(site.follow("other.html", was.href), Resolved)
    cuts = [cut.section for cut in find_cuts(page)][:2]
    plan = plan_parts(site, "page.html", cuts)
    bytes_after = {path: apply_edits(site.pages[path].source, edits) for path, edits in plan.edits.items()}
    bytes_after |= plan.new_files
    parts = {**site.pages, **{path: page_of(part, path) for path, part in bytes_after.items()}}
    after = Site(parts, frozenset(parts))
    for was, now in zip(other.links, parts["other.html"].links, strict=True):
        first, second = site.follow("other.html", was.href), after.follow("other.html", now.href)
        assert isinstance(first, Resolved) == isinstance(second, Resolved)
        if isinstance(first, Resolved) and hasattr(first.target, "name") and first.path == "page.html":
            assert second.target.name == first.target.name


def test_a_page_is_cut_behind_a_heading_that_is_never_closed():
    site = site_of(page="<body>\n<h1>T\n  <h2>A</h2>\n</body>\n")
    plan = plan_parts(site, "page.html", [1])
    assert b"<h2>A</h2>" in plan.new_files["page-2.html"]
    assert "<h2>A</h2>" not in edited(site.pages["page.html"], plan.edits["page.html"]).text


def test_a_cut_leads_addresses_of_all_kinds_and_names_what_it_tears():
    page = (
        "<body><h1>T</h1><p>t</p><h2 id=a>A</h2><q cite='#b'>x</q><form action='page.html?x=1&amp;y#b'></form>"
        "<label for=field>l</label>\n<h2 id=b>B</h2><input id=field><p>t</p></body>"
    )
    site = site_of(page=page, other="<q cite='page.html#b'>x</q>")
    plan = plan_parts(site, "page.html", [2])
    first = edited(site.pages["page.html"], plan.edits["page.html"]).text
    assert "cite='page-2.html#b'" in first
    assert "action='page-2.html?x=1&amp;y#b'" in first
    assert edited(site.pages["other.html"], plan.edits["other.html"]).text == "<q cite='page-2.html#b'>x</q>"
    assert len(plan.notes) == 1
    assert "for names “field”, which goes to part 2" in plan.notes[0]
