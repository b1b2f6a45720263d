"""The life of a page in parts: cut, edited, cut anew, brought up to date, put into another order, joined."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pages import page_of, site_of
from parted import after, cut, cut_at_text, landing, texts
from signpost.core.contents import ContentsOptions, plan_contents
from signpost.core.contents.blocks import find_blocks
from signpost.core.parts.cuts import find_places
from signpost.core.parts.frames import Frame, merge_frames
from signpost.core.parts.options import Forwarding, LinkPiece, PartContents, PartOptions
from signpost.core.parts.planning import plan_join, plan_parts, plan_refreshed_parts, plan_reordered
from signpost.core.parts.series import find_series, series_of
from signpost.core.parts.whole import ChosenCut, read_raised, read_whole, write_raised
from signpost.core.site.site import Resolved, Site
from signpost.core.text.edits import apply_edits
from signpost.core.text.errors import RequestError
from strategies import pages, tidy_block

GUIDE = (
    "<!DOCTYPE html>\n<html lang=en>\n<head>\n  <title>Guide</title>\n</head>\n<body>\n<header><a href=#coal>Coal</a>"
    "</header>\n<main>\n  <h1>The guide</h1>\n  <p>Lead, see <a href=guide.html#oil>oil</a>.</p>\n"
    "  <h2 id=coal>Coal</h2>\n  <p>Shovel. <a href=#ash>ash</a></p>\n  <h3 id=ash>Ash</h3>\n  <p>Rake.</p>\n"
    "  <h2 id=oil>Oil</h2>\n  <p>Pour. <a href=#coal>coal</a> <a href=guide.html#oil>here</a></p>\n"
    "  <h2 id=steam>Steam</h2>\n  <p>Raise it. <a href='#top'>up</a> <a href=#>nowhere</a></p>\n</main>\n"
    "<footer>f</footer>\n</body>\n</html>\n"
)
OTHER = "<p><a href=guide.html#oil>o</a> <a href='./guide.html#ash'>a</a> <a href=guide.html>g</a>"


def guide(**others):
    return site_of(guide=GUIDE, other=OTHER, **others)


def edited_in(site, path, old, new):
    """The site with other words on one page, as an author types them."""
    text = site.pages[path].text
    assert old in text
    return Site({**site.pages, path: page_of(text.replace(old, new), path)}, site.files, site.base)


# ---------------------------------------------------------------- laws


@given(pages(), pages(), st.data())
def test_cut_and_joined_again_a_site_is_as_it_was_to_the_byte(data, other, draws):
    """And nothing is planned for parts that are up to date; and cut at once is the same as cut one after another."""
    page = page_of(data)
    places = find_places(page)
    if not places:
        return
    site = Site(
        {"page.html": page, "other.html": page_of(other, "other.html")},
        frozenset(["page.html", "other.html", "pic.gif"]),
    )
    chosen = draws.draw(st.lists(st.sampled_from(places), min_size=1, max_size=4, unique=True))
    cuts = [ChosenCut(one.at, "" if one.section is not None else "A; <title> --") for one in chosen]
    options = PartOptions(
        forward=draws.draw(st.frozensets(st.sampled_from(Forwarding))),
        pattern=draws.draw(st.sampled_from(["{page}-{number}", "{page}/{number}", "{number}-{title}"])),
        raise_levels=draws.draw(st.booleans()),
    )
    parted = after(site, plan_parts(site, "page.html", cuts, options))
    last = series_of(parted, "page.html").parts[-1].path
    assert not plan_refreshed_parts(parted, last)
    joined = after(parted, plan_join(parted, last))
    assert {path: page.source.data for path, page in joined.pages.items()} == {
        path: page.source.data for path, page in site.pages.items()
    }
    if len(cuts) > 1:
        fewer = after(site, plan_parts(site, "page.html", cuts[1:], options))
        assert texts(after(fewer, plan_parts(fewer, "page.html", cuts))) == texts(parted)


@given(pages(encodings=("utf-8",), blocks=tidy_block), pages(), st.data())
def test_every_jump_of_every_page_reaches_the_same_place(data, other, draws):
    page = page_of(data)
    places = [place for place in find_places(page) if place.section is not None]
    if not places:
        return
    site = Site(
        {"page.html": page, "other.html": page_of(other, "other.html")}, frozenset(["page.html", "other.html"])
    )
    chosen = draws.draw(st.lists(st.sampled_from(places), min_size=1, max_size=3, unique=True))
    parted = after(
        site, plan_parts(site, "page.html", [ChosenCut(one.at) for one in chosen], PartOptions(forward=frozenset()))
    )
    series = series_of(parted, "page.html")
    whole = read_whole(parted, "page.html")
    now = [
        (part.path, link)
        for part in series.parts
        for link in part.links
        if part.part_marks.slice.start <= link.start < part.part_marks.slice.end
        and not any(link.start == own.start for made in part.made if made.kind == "part-links" for own in made.links)
    ]
    before = [link for link in page.links if link.start >= page.content.start and link.start < page.content.end]
    assert [link.text for _, link in now] == [link.text for link in before]
    for was, (path, link) in zip(before, now, strict=True):
        old, new = landing(site, "page.html", was.href), landing(parted, path, link.href)
        assert (old and old[1]) == (new and new[1])
        if old and old[0] == "page.html" and new[0] in series.paths:
            first = next(t.start for t in page.targets if t.name == old[1])
            if page.content.start <= first < page.content.end:
                assert any(target.name == old[1] for target in parted.pages[new[0]].targets)
    for was, link in zip(site.pages["other.html"].links, parted.pages["other.html"].links, strict=True):
        old, new = landing(site, "other.html", was.href), landing(parted, "other.html", link.href)
        assert (old and old[1]) == (new and new[1])
    assert whole.page.text == page.text


@given(
    st.sampled_from(["Shovel.", "Rake.", "Pour.", "Raise it.", ">Oil<", "Lead"]),
    st.sampled_from(["X y", "Ölkanne &amp; rag"]),
)
def test_cut_edited_and_joined_is_the_same_as_edited(old, new):
    site = guide()
    new = f">{new}<" if old == ">Oil<" else new
    parted = cut(site, "guide.html", "ash", "oil", "steam")
    holder = next(
        part.path
        for part in series_of(parted, "guide.html").parts
        if old in part.text[part.part_marks.slice.start : part.part_marks.slice.end]
    )
    slice_ = parted.pages[holder].part_marks.slice
    text = parted.pages[holder].text
    changed = text[: slice_.start] + slice_.of(text).replace(old, new) + text[slice_.end :]
    parted = Site({**parted.pages, holder: page_of(changed, holder)}, parted.files)
    joined = after(parted, plan_join(parted, holder))
    assert joined.pages["guide.html"].text == GUIDE.replace(old, new)


# ---------------------------------------------------------------- after the cut


def test_parts_are_known_again_from_their_files():
    site = cut(guide(), "guide.html", "oil", "steam")
    series = series_of(site, "guide-3.html")
    assert (series.name, series.paths, series.missing) == (
        "guide",
        ("guide.html", "guide-2.html", "guide-3.html"),
        (),
    )
    moved = {page.path.replace("guide-2", "the-oil"): page.text for page in site.pages.values()}
    renamed = site_of(**{path.removesuffix(".html"): text for path, text in moved.items()})
    assert series_of(renamed, "guide.html").paths == ("guide.html", "the-oil.html", "guide-3.html")
    assert find_series(guide()) == []


def test_a_copy_of_a_part_is_not_taken_for_the_part():
    site = cut(guide(), "guide.html", "oil", "steam")
    pages_ = {**site.pages, "a-copy.html": page_of(site.pages["guide-2.html"].text, "a-copy.html")}
    assert series_of(Site(pages_, frozenset(pages_)), "guide.html").paths[1] == "guide-2.html"


def test_a_series_with_a_missing_part_says_which():
    site = cut(guide(), "guide.html", "oil", "steam")
    left = {path: page for path, page in site.pages.items() if path != "guide-2.html"}
    broken = Site(left, frozenset(left))
    assert series_of(broken, "guide.html").missing == (2,)
    with pytest.raises(RequestError, match=r"part 2 cannot be found.*Bring the missing files in again"):
        plan_join(broken, "guide.html")
    with pytest.raises(RequestError, match="is not a part"):
        plan_join(guide(), "guide.html")


def test_a_cut_is_moved_taken_away_and_added_and_the_rest_stays():
    site = edited_in(cut(guide(), "guide.html", "oil"), "guide-2.html", "Pour.", "Pour slowly.")
    again = cut_whole(site, "guide.html", ["Oil", "Steam"])
    assert sorted(path for path in again.pages if "guide" in path) == ["guide-2.html", "guide-3.html", "guide.html"]
    assert "Pour slowly." in again.pages["guide-2.html"].text
    moved = cut_whole(again, "guide-3.html", ["Coal"])
    assert sorted(path for path in moved.pages if "guide" in path) == ["guide-2.html", "guide.html"]
    assert "Pour slowly." in moved.pages["guide-2.html"].text
    assert landing(moved, "other.html", moved.pages["other.html"].links[0].href) == ("guide-2.html", "oil")
    whole = after(moved, plan_parts(moved, "guide-2.html", []))
    assert whole.pages["guide.html"].text == GUIDE.replace("Pour.", "Pour slowly.")
    assert whole.pages["other.html"].text == OTHER


def cut_whole(site, path, titles):
    """The site with a page in parts cut anew before the sections with these headings."""
    page = read_whole(site, path).page
    index = {heading.text: number for number, heading in enumerate(page.headings)}
    return after(site, plan_parts(site, path, [index[title] for title in titles]))


def test_a_renamed_heading_is_followed_in_all_parts():
    page = page_of(GUIDE, "guide.html")
    with_contents = apply_edits(page.source, plan_contents(page, ContentsOptions(levels=[2])))
    site = cut(
        Site({"guide.html": page_of(with_contents, "guide.html")}, frozenset(["guide.html"])),
        "guide.html",
        "oil",
        "steam",
    )
    assert "Next: <a href=guide-2.html rel=next>Oil</a>" in site.pages["guide.html"].text
    renamed = edited_in(site, "guide-2.html", ">Oil</h2>", ">Oil and grease</h2>")
    fresh = after(renamed, plan_refreshed_parts(renamed, "guide-2.html"))
    first, third = fresh.pages["guide.html"].text, fresh.pages["guide-3.html"].text
    assert "<a href=guide-2.html#oil>Oil and grease</a></li>" in first
    assert "Next: <a href=guide-2.html rel=next>Oil and grease</a>" in first
    assert "Previous: <a href=guide-2.html rel=prev>Oil and grease</a>" in third
    assert not plan_refreshed_parts(fresh, "guide-3.html")
    added = edited_in(fresh, "guide-3.html", "  <p>Raise", "  <p>New.</p>\n  <h2 id=whistle>Whistle</h2>\n  <p>Raise")
    again = after(added, plan_refreshed_parts(added, "guide.html"))
    assert "<a href=guide-3.html#whistle>Whistle</a>" in again.pages["guide.html"].text
    assert "Oil and grease" in again.pages["guide.html"].text


def test_links_of_other_pages_that_are_right_stay_when_parts_are_brought_up_to_date():
    long = GUIDE.replace("Rake.", "Rake. " * 200)
    site = cut(site_of(guide=long, other=OTHER), "guide.html", "steam")
    assert len(site.pages["guide.html"].text) > len(long) - 200
    assert not plan_refreshed_parts(site, "guide.html")


@pytest.mark.parametrize("adopted", [False, True])
def test_contents_refreshed_in_one_part_alone_keep_what_they_know_of_the_others(adopted):
    lists = "<ul>\n<li><a href='#coal'>Coal</a>\n<li><a href='#oil'>The oil</a>\n</ul>\n" if adopted else ""
    page = page_of(GUIDE.replace("  <h2 id=coal>", lists + "  <h2 id=coal>"), "guide.html")
    page = page_of(apply_edits(page.source, plan_contents(page, ContentsOptions(levels=[2]))), "guide.html")
    assert page.made_blocks("contents")
    site = cut(Site({"guide.html": page}, frozenset(["guide.html"])), "guide.html", "oil", "steam")
    first = edited_in(site, "guide.html", ">Coal</h2>", ">Coals</h2>").pages["guide.html"]
    alone = page_of(apply_edits(first.source, plan_contents(first, ContentsOptions())), "guide.html")
    assert ">Coals</a>" in alone.text
    assert not plan_contents(alone, ContentsOptions())
    renamed = edited_in(Site({**site.pages, "guide.html": alone}, site.files), "guide-3.html", ">Steam<", ">Vapour<")
    fresh = after(renamed, plan_refreshed_parts(renamed, "guide.html"))
    assert ">Vapour</a>" in fresh.pages["guide.html"].text
    assert (">The oil</a>" in fresh.pages["guide.html"].text) == adopted
    joined = after(fresh, plan_join(fresh, "guide.html")).pages["guide.html"]
    assert not plan_contents(joined, ContentsOptions())


def test_parts_change_places():
    site = cut(guide(), "guide.html", "coal", "oil", "steam")
    other = after(site, plan_reordered(site, "guide.html", [1, 4, 2, 3]))
    assert [other.pages[f"guide-{n}.html"].headings[1].text for n in (2, 3, 4)] == ["Steam", "Coal", "Oil"]
    assert landing(other, "other.html", other.pages["other.html"].links[0].href) == ("guide-4.html", "oil")
    back = after(other, plan_reordered(other, "guide.html", [1, 3, 4, 2]))
    assert texts(back) == texts(site)
    with pytest.raises(RequestError, match="Name each of the parts 2 to 4 once"):
        plan_reordered(site, "guide.html", [2, 1, 3, 4])


def test_parts_that_share_an_element_do_not_change_places():
    boxed = GUIDE.replace("<h2 id=coal>", "<div class=x><h2 id=coal>").replace("<h2 id=steam>", "</div><h2 id=steam>")
    site = cut(site_of(guide=boxed), "guide.html", "coal", "oil", "steam")
    with pytest.raises(RequestError, match="an element begins in one and ends in another"):
        plan_reordered(site, "guide.html", [1, 3, 2, 4])
    joined = after(site, plan_join(site, "guide.html"))
    assert joined.pages["guide.html"].text == boxed


def test_what_was_put_between_what_we_made_is_kept():
    site = cut(guide(), "guide.html", "oil", "steam")
    site = edited_in(
        site, "guide-2.html", "  <!-- part 2 begins -->", "  <p>Mind the drips.</p>\n  <!-- part 2 begins -->"
    )
    joined = after(site, plan_join(site, "guide.html")).pages["guide.html"].text
    assert "<p>Mind the drips.</p>\n  <h2 id=oil>" in joined
    fresh = after(site, plan_refreshed_parts(site, "guide.html"))
    assert "Mind the drips" in fresh.pages["guide-2.html"].text


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("</main>", "<p>Mind the <a href=guide.html#coal>drips</a>.</p>\n</main>"),
        ("<main>", "<main>\n  <p>Mind the <a href=guide.html#coal>drips</a>.</p>"),
    ],
)
def test_what_was_put_before_or_behind_all_that_we_made_is_kept(old, new):
    site = edited_in(cut(guide(), "guide.html", "oil", "steam"), "guide-2.html", old, new)
    plan = plan_join(site, "guide.html")
    joined = after(site, plan).pages["guide.html"].text
    assert "<p>Mind the <a href=#coal>drips</a>.</p>" in joined.replace("guide.html#coal", "#coal")
    assert joined.index("Shovel") < joined.index("Mind the") < joined.index("Raise it")
    assert not any("another head" in note for note in plan.notes)


def test_a_part_keeps_its_own_frame_and_joining_asks_which_stays():
    site = edited_in(cut(guide(), "guide.html", "oil", "steam"), "guide-2.html", "<footer>f", "<footer>of oil")
    again = cut_whole(site, "guide.html", ["Ash", "Oil", "Steam"])
    assert "<footer>of oil" in again.pages["guide-3.html"].text
    assert "<footer>f<" in again.pages["guide-2.html"].text
    question = plan_join(site, "guide.html").question
    assert question is not None
    assert question.choices == ("guide.html", "guide-2.html")
    assert "guide-2.html has another head, header or footer than guide.html (“of oil”)" in question.words
    for kept, written in (("guide.html", "<footer>f<"), ("guide-2.html", "<footer>of oil<")):
        plan = plan_join(site, "guide.html", kept)
        assert plan.question is None
        assert written in after(site, plan).pages["guide.html"].text
    with pytest.raises(RequestError, match=r"other\.html is none of the parts"):
        plan_join(site, "guide.html", "other.html")


ADDED = "<p id=added>Since the cut.</p>\n"


@pytest.mark.parametrize("before", ["</body>", "</head>", "</html>", "<header>"])
@pytest.mark.parametrize("parts", [["guide-2.html"], ["guide-3.html"], ["guide-2.html", "guide-3.html"]])
def test_what_was_added_to_the_frame_of_a_part_is_in_the_joined_page_once(before, parts):
    site = cut(guide(), "guide.html", "oil", "steam")
    for path in parts:
        site = edited_in(site, path, before, ADDED + before)
    site = edited_in(site, "other.html", "<p>", f"<p><a href={parts[0]}#added>added</a> ")
    plan = plan_join(site, "guide.html")
    assert plan.question is None
    assert plan.notes == (f"Kept from {parts[0]}: “{ADDED.strip()}”.",)
    joined = after(site, plan)
    assert joined.pages["guide.html"].text == GUIDE.replace(before, ADDED + before)
    assert "href=guide.html#added" in joined.pages["other.html"].text


def test_what_was_added_to_the_frame_of_a_part_that_goes_is_in_the_part_before():
    site = cut(guide(), "guide.html", "oil", "steam")
    site = edited_in(site, "guide-3.html", "</body>", ADDED + "</body>")
    again = cut_whole(site, "guide.html", ["Oil"])
    assert ADDED not in again.pages["guide.html"].text
    assert ADDED + "</body>" in again.pages["guide-2.html"].text
    assert after(again, plan_join(again, "guide.html")).pages["guide.html"].text == GUIDE.replace(
        "</body>", ADDED + "</body>"
    )


def test_cutting_anew_asks_whose_frame_stays_where_a_part_goes():
    site = edited_in(cut(guide(), "guide.html", "oil", "steam"), "guide-3.html", "<footer>f", "<footer>of steam")
    cuts = read_whole(site, "guide.html").cuts[:1]
    plan = plan_parts(site, "guide.html", cuts)
    assert plan.question is not None
    assert plan.question.choices == ("guide-2.html", "guide-3.html")
    plan = plan_parts(site, "guide.html", cuts, frame="guide-3.html")
    assert plan.question is None
    assert "<footer>of steam<" in after(site, plan).pages["guide-2.html"].text
    assert "<footer>f<" in after(site, plan).pages["guide.html"].text


FRAMES = {
    "same": (["<p>a</p>\n", "<p>a</p>\n"], "<p>a</p>\n", 0),
    "a line": (["<p>a</p>\n", "<p>a</p>\n<p>b</p>\n"], "<p>a</p>\n<p>b</p>\n", 0),
    "a line in each": (["<hr>\n", "<hr>\n<p>b</p>\n", "<hr>\n<p>c</p>\n"], "<hr>\n<p>b</p>\n<p>c</p>\n", 0),
    "the same line in each": (["<hr>\n", "<hr>\n<p>b</p>\n", "<hr>\n<p>b</p>\n"], "<hr>\n<p>b</p>\n", 0),
    "an element within a line": (["<ul><li>a</ul>", "<ul><li>a<li>b</li></ul>"], "<ul><li>a<li>b</li></ul>", 0),
    "an element like the one before": (["<i>x</i></p>", "<i>x</i><i>y</i></p>"], "<i>x</i><i>y</i></p>", 0),
    "a line within an indent": (["  </div>\n", "  <hr>\n</div>\n"], "  <hr>\n</div>\n", 0),
    "missing in the other": (["<p>a</p>\n<p>b</p>\n", "<p>a</p>\n"], "<p>a</p>\n<p>b</p>\n", 0),
    "missing in one, added in another": (["<p>a</p>\n<hr>\n", "<hr>\n<p>c</p>\n"], "<p>a</p>\n<hr>\n<p>c</p>\n", 0),
    "other words": (["<p>a</p>\n", "<p>b</p>\n"], "<p>a</p>\n", 2),
    "words within a line": (["<p>a</p>\n", "<p>a, b</p>\n"], "<p>a</p>\n", 2),
    "other words, and a line": (["<p>a</p>\n<hr>\n", "<p>b</p>\n<hr>\n<p>c</p>\n"], "<p>a</p>\n<hr>\n<p>c</p>\n", 2),
    "only white space": (["<p>a</p>\n", "  <p>a</p>\n"], "<p>a</p>\n", 0),
}


@pytest.mark.parametrize(("sides", "merged", "choices"), FRAMES.values(), ids=FRAMES)
def test_frames_become_one(sides, merged, choices):
    frames = [Frame(f"{number}.html", "", side) for number, side in enumerate(sides)]
    found = merge_frames(frames)
    assert found.frame == Frame("0.html", "", merged)
    assert len(found.question.choices if found.question else ()) == choices


def test_links_to_a_whole_part_lead_to_its_first_section_once_it_is_gone():
    site = cut(guide(), "guide.html", "oil", "steam")
    site = edited_in(site, "other.html", "<p>", "<p><a href=guide-3.html>steam</a> ")
    assert not plan_refreshed_parts(site, "guide.html")
    joined = after(site, plan_join(site, "guide.html"))
    assert joined.pages["other.html"].text.startswith("<p><a href=guide.html#steam>steam</a> <a href=guide.html#oil>")


# ---------------------------------------------------------------- how parts are made


def test_options_live_on_in_the_parts():
    options = PartOptions(
        frozenset([LinkPiece.TITLES, LinkPiece.BOTTOM]),
        PartContents.OWN,
        frozenset([Forwarding.LIST]),
        "{page}/{title}",
        raise_levels=True,
    )
    site = cut(guide(), "guide.html", "ash", "oil", options=options)
    assert sorted(site.pages) == ["guide.html", "guide/ash.html", "guide/oil.html", "other.html"]
    assert read_whole(site, "guide.html").options == options
    ash = site.pages["guide/ash.html"].text
    assert "<h2 id=ash>Ash</h2>" in ash
    assert "<li><strong aria-current=page>Ash</strong></li>" in ash
    assert 'class="contents part-contents"' in ash
    assert '<a href="../guide.html">Guide</a>' in ash
    first = site.pages["guide.html"].text
    assert "<script" not in first
    assert "<style" not in first
    assert '<p id=oil>This section has moved to <a href="guide/oil.html#oil">Oil</a> (part 3).</p>' in first
    assert "a href=../guide.html#coal" in site.pages["guide/oil.html"].text


def test_contents_of_all_parts_stand_on_each():
    page = page_of(GUIDE, "guide.html")
    with_contents = page_of(
        apply_edits(page.source, plan_contents(page, ContentsOptions(levels=[2, 3]))), "guide.html"
    )
    site = Site({"guide.html": with_contents}, frozenset(["guide.html"]))
    parted = cut(site, "guide.html", "oil", options=PartOptions(contents=PartContents.ALL))
    second = parted.pages["guide-2.html"]
    assert [link.href for link in second.made_blocks("part-contents")[0].links] == [
        "guide.html#coal",
        "guide.html#ash",
        "#oil",
        "#steam",
    ]
    assert "levels 2-3" not in second.text
    assert after(parted, plan_join(parted, "guide.html")).pages["guide.html"].text == with_contents.text


HEAD = (
    '<!DOCTYPE html>\n<html>\n<head>\n<title>G</title>\n<link rel="canonical" href="https://x.org/d/g.html">\n'
    '<meta property="og:url" content="https://x.org/d/g.html">\n<link rel="prev" href="before.html">\n'
    '<link rel="next" href="after.html">\n<link rel="stylesheet" href="s.css">\n<style>p { background: url(bg.png) }'
    '</style>\n<meta http-equiv="refresh" content="900; url=g.html#b">\n</head>\n<body>\n<main>\n<h1>G</h1>\n<p>t</p>\n'
    '<h2 id="a">A</h2>\n<p><img src="p.png" srcset="p.png 1x, big/p.png 2x" alt=""></p>\n<h2 id="b">B</h2>\n'
    '<form action="send.cgi"><button formaction="../x.cgi">go</button></form><svg><image xlink:href="v.svg"/></svg>\n'
    '<video poster="v.jpg" src="v.mp4"></video><iframe src="i.html"></iframe><p style="background:url(\'q.png\')">s</p>\n'
    "</main>\n</body>\n</html>\n"
)


def test_a_part_in_a_folder_below_has_its_own_addresses_and_all_others_from_there():
    site = site_of(d__g=HEAD, d__i="", d__before="", d__after="")
    parted = cut(site, "d/g.html", "a", "b", options=PartOptions(pattern="{page}/{number}"))
    assert sorted(parted.pages) == [
        "d/after.html",
        "d/before.html",
        "d/g.html",
        "d/g/2.html",
        "d/g/3.html",
        "d/i.html",
    ]
    text = parted.pages["d/g/3.html"].text
    for written in (
        'rel="canonical" href="https://x.org/d/g/3.html"',
        'content="https://x.org/d/g/3.html"',
        'rel="prev" href="2.html"',
        'rel="next" href="../after.html"',
        'href="../s.css"',
        "url(../bg.png)",
        "url=3.html#b",
        'action="../send.cgi"',
        'formaction="../../x.cgi"',
        'xlink:href="../v.svg"',
        'poster="../v.jpg" src="../v.mp4"',
        'iframe src="../i.html"',
        "url('../q.png')",
    ):
        assert written in text, written
    second = parted.pages["d/g/2.html"].text
    assert 'src="../p.png" srcset="../p.png 1x, ../big/p.png 2x"' in second
    assert 'rel="prev" href="../g.html"' in second
    assert 'rel="next" href="3.html"' in second
    assert text.count('rel="prev"') == text.count('rel="next"') + 1  # once in the head, once in the links
    assert 'rel="prev" href="before.html"' in parted.pages["d/g.html"].text
    assert after(parted, plan_join(parted, "d/g/2.html")).pages["d/g.html"].text == HEAD


def test_addresses_that_are_carried_to_another_folder_keep_their_spelling():
    markup = "<body><h1>T</h1>\n<p>a</p>\n<h2 id=b>B</h2>\n<p><a href='a&#45;&#45;b.html#x'>x</a> <a href='./c.html'>c</a></p></body>"
    site = site_of(page=markup)
    parted = cut(site, "page.html", "b", options=PartOptions(pattern="{page}/{number}"))
    assert "<a href='../a&#45;&#45;b.html#x'>x</a> <a href='.././c.html'>" in parted.pages["page/2.html"].text
    assert after(parted, plan_join(parted, "page.html")).pages["page.html"].text == markup


def test_a_name_that_a_broken_link_leads_to_is_not_taken():
    markup = GUIDE.replace("Rake.", "<a href=guide-2.html>missing</a>")
    parted = cut(site_of(guide=markup), "guide.html", "steam")
    assert sorted(parted.pages) == ["guide-2-part.html", "guide.html"]
    assert after(parted, plan_join(parted, "guide.html")).pages["guide.html"].text == markup


@pytest.mark.parametrize("language", ["de", "fr-CA", "fi", "pl", "cs", "sv", "nb", "xx", ""])
@pytest.mark.parametrize("encoding", ["utf-8", "iso-8859-1"])
def test_parts_speak_the_page_s_language(language, encoding):
    markup = (
        f"<html lang='{language}'><head><meta charset={encoding}><title>T</title></head><body>\n<h1>T</h1>\n"
        "<h2 id=a>A</h2>\n<p>a</p>\n<h2 id=b>B</h2>\n</body></html>"
    ).encode(encoding)
    site = Site({"page.html": page_of(markup)}, frozenset(["page.html"]))
    parted = cut(site, "page.html", "b")
    assert ("(part 2 of 2)" in parted.pages["page-2.html"].text) == (language in ("xx", ""))
    assert not plan_refreshed_parts(parted, "page.html")
    assert after(parted, plan_join(parted, "page.html")).pages["page.html"].source.data == markup


def test_a_wrapper_around_the_heading_is_kept_and_identifiers_are_not():
    markup = "<body>\n<center class=big id=x><h1 id=t>T</h1></center>\n<div id=y lang=de>\n<h2 id=a>A</h2>\n<h2 id=b>B</h2>\n</div>\n</body>"
    site = cut(site_of(page=markup), "page.html", "b")
    text = site.pages["page-2.html"].text
    assert "<center class=big>\n<h1>T (part 2 of 2)</h1>\n</center>" in text
    assert "<div lang=de>\n<!-- part 2 begins -->" in text
    assert len(re.findall("id=", text.partition("<nav")[2])) == 1


@pytest.mark.parametrize(
    ("levels", "wanted"),
    [([4, 4, 3, 4, 2], [2, 2, 2, 3, 2]), ([3, 4, 2], [2, 3, 2]), ([2, 3], [2, 3]), ([5, 6, 5], [2, 3, 2])],
)
def test_raised_levels_leave_no_gap_and_come_back(levels, wanted):
    markup = "<body><h1>T</h1>\n<h2>x</h2>\n" + "".join(
        f"<h{level} id=s{index}>S</h{level}>\n" for index, level in enumerate(levels)
    )
    site = site_of(page=markup)
    parted = cut(site, "page.html", "s0", options=PartOptions(raise_levels=True))
    assert [heading.level for heading in parted.pages["page-2.html"].headings[1:]] == wanted
    assert after(parted, plan_join(parted, "page.html")).pages["page.html"].text == markup
    assert read_raised(write_raised([2, 1, 1])) == [2, 1, 1]


@pytest.mark.parametrize(
    ("pattern", "names"),
    [
        ("{page}-{number}", ["guide-2.html", "guide-3.html"]),
        ("{page}/{number}", ["guide/2.html", "guide/3.html"]),
        ("{title}", ["oil.html", "steam.html"]),
        ("part{number}.htm", ["part2.htm", "part3.htm"]),
    ],
)
def test_files_are_named_by_a_pattern(pattern, names):
    site = cut(guide(), "guide.html", "oil", "steam", options=PartOptions(pattern=pattern))
    assert sorted(set(site.pages) - {"guide.html", "other.html"}) == names


@pytest.mark.parametrize(
    ("cuts", "pattern", "refused"),
    [
        ([ChosenCut(0, "", "other.html")], "{page}-{number}", "There is “other.html” already"),
        ([ChosenCut(0, "", "a/../b.html")], "{page}-{number}", "leads out of the folder"),
        ([ChosenCut(0, "", "part.txt")], "{page}-{number}", "has to end in .html"),
        ([ChosenCut(0)], "{page}", "would call all parts the same"),
        ([ChosenCut(0)], "../{number}", "leads out of the folder"),
    ],
)
def test_names_that_cannot_be_are_refused(cuts, pattern, refused):
    at = GUIDE.index("<h2 id=oil>")
    with pytest.raises(RequestError, match=re.escape(refused)):
        plan_parts(
            guide(), "guide.html", [ChosenCut(at, one.title, one.path) for one in cuts], PartOptions(pattern=pattern)
        )


def test_a_part_without_heading_is_asked_for_a_title():
    at = GUIDE.index("<p>Shovel.")
    with pytest.raises(RequestError, match=r"begins at line 12, where no heading is. Give it a title"):
        plan_parts(guide(), "guide.html", [ChosenCut(at)])
    site = cut_at_text(guide(), "guide.html", ("<p>Shovel.", "Shovels & spades"))
    assert "rel=next>Shovels &amp; spades</a>" in site.pages["guide.html"].text
    assert "titled Shovels %26 spades" in site.pages["guide-2.html"].text
    assert after(site, plan_join(site, "guide.html")).pages["guide.html"].text == GUIDE


def test_all_identifiers_that_moved_are_led_on():
    site = cut(guide(), "guide.html", "ash", "steam")
    first = site.pages["guide.html"]
    moved = first.made_blocks("moved-sections")[0]
    assert [link.href for link in moved.links] == ["guide-2.html#ash", "guide-2.html#oil", "guide-3.html#steam"]
    assert '"ash": "guide-2.html#ash"' in first.text
    for name in ("ash", "oil", "steam"):
        assert isinstance(site.follow("guide.html", f"#{name}"), Resolved)
    assert site.names("guide.html") == ["coal"]  # what is offered as a target of links
    none = cut(guide(), "guide.html", "ash", options=PartOptions(forward=frozenset()))
    assert "moved-sections" not in none.pages["guide.html"].text


def test_a_picture_whose_map_goes_to_another_part_is_named():
    markup = "<body><h1>T</h1><img src=a.png usemap='#m' alt=a><h2 id=b>B</h2><map name=m><area href=#b alt=b></map></body>"
    page = page_of(markup, "page.html")
    plan = plan_parts(Site({"page.html": page}, frozenset(["page.html", "a.png"])), "page.html", [1])
    assert any("usemap names “m”, which goes to part 2" in note for note in plan.notes)


def test_fifty_parts():
    markup = "<body><h1>T</h1>\n" + "".join(
        f"<h2 id=s{n}>S {n}</h2>\n<p><a href=#s{49 - n}>x</a></p>\n" for n in range(50)
    )
    site = site_of(page=markup)
    parted = cut(site, "page.html", *(f"s{n}" for n in range(1, 50)))
    assert len(parted.pages) == 50
    for path, page in parted.pages.items():
        assert all(parted.resolves(path, link) for link in page.links)
    assert after(parted, plan_join(parted, "page-50.html")).pages["page.html"].text == markup


def test_two_lists_that_both_lack_a_section_give_it_one_identifier():
    page = page_of(GUIDE, "guide.html")
    first = page_of(apply_edits(page.source, plan_contents(page, ContentsOptions(levels=[2]))), "guide.html")
    block = find_blocks(first)[0].span.of(first.text)
    twice = first.text.replace("</main>", f"{block}\n<h2>Rust</h2>\n<p>Brush it off.\n</main>", 1)
    site = cut(Site({"guide.html": page_of(twice, "guide.html")}, frozenset(["guide.html"])), "guide.html", "oil")
    last = max(site.pages)
    lacking = edited_in(site, last, " id=rust", "") if " id=rust" in site.pages[last].text else site
    fresh = after(lacking, plan_refreshed_parts(lacking, "guide.html"))
    assert sum(one.text.count("<h2 id=rust>Rust</h2>") for one in fresh.pages.values()) == 1
