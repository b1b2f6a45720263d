"""Jump links: made of words or pictures, given another target and back, offered where words resemble a title."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pages import edited, page_of, site_of
from signpost.core.addresses.fragments import TOP
from signpost.core.jumps.looks import LinkLook
from signpost.core.jumps.offers import OfferKind, find_offers
from signpost.core.jumps.planning import Edge, Goal, find_pointers, find_words, plan_jump, plan_no_jump, read_origin
from signpost.core.page import read_nodes
from signpost.core.page.phrasing import collapse
from signpost.core.site.site import Resolved, Site, single_page_site
from signpost.core.text.edits import apply_edits
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import Span
from strategies import pages, tidy_block

HERE = (
    '<h1>Works</h1>\n<p>See the <em>lamp</em> hut &amp; more. <img src="l.gif" alt="A lamp"> '
    '<a href="#b">B</a> <a>none</a></p>\n<ul><li>one<li>two</ul>\n<h2>Lamps</h2>\n<h2 id="b">Boilers</h2>\n<pre>code</pre>\n'
)


def site_with(markup=HERE):
    return site_of(page=markup, d__other="<h2 id=x>Other &amp; more</h2>\n<h3>Deep</h3>\n<p id=p>p</p>")


def span_of(site, words, path="page.html"):
    start = site.pages[path].text.index(words)
    return Span(start, start + len(words))


def after(site, plan):
    pages_ = dict(site.pages)
    for path, edits in plan.edits.items():
        pages_[path] = page_of(apply_edits(site.pages[path].source, edits), path)
    return Site(pages_, site.files)


@pytest.mark.parametrize(
    ("words", "goal", "made"),
    [
        pytest.param("the <em>lamp</em> hut", Goal("page.html", 2), '<a href="#b">the <em>lamp</em> hut</a>', id="to a section"),
        pytest.param("hut &amp; more", Goal("page.html"), '<a href="page.html">hut &amp; more</a>', id="to a page"),
        pytest.param("lamp", Goal("d/other.html", 0), '<em><a href="d/other.html#x">lamp</a></em>', id="to another page"),
        pytest.param("two", Goal("d/other.html", None, "p"), '<li><a href="d/other.html#p">two</a>', id="to an identifier"),
        pytest.param('<img src="l.gif" alt="A lamp">', Goal("page.html", 2), '<a href="#b"><img src="l.gif" alt="A lamp"></a>', id="a picture"),
        pytest.param('<a href="#b">B', Goal("d/other.html", 0), '<a href="d/other.html#x">B</a>', id="a link led elsewhere"),
        pytest.param("none", Goal("page.html", 2), '<a href="#b">none</a>', id="a link that led nowhere"),
        pytest.param("See ", Goal("page.html", 1), '<p><a href="#lamps">See</a> the', id="an identifier is given"),
    ],
)  # fmt: skip
def test_words_become_a_jump_link(words, goal, made):
    site = site_with()
    result = after(site, plan_jump(site, "page.html", span_of(site, words), goal))
    assert made in result.pages["page.html"].text
    link = next(
        link
        for link in result.pages["page.html"].links
        if link.start == result.pages["page.html"].text.index(made[made.index("<a") :])
    )
    outcome = result.follow("page.html", link.href)
    assert isinstance(outcome, Resolved)
    assert outcome.path == goal.path
    if goal.section is not None:
        assert outcome.target.start == result.pages[goal.path].headings[goal.section].element.open.start


def test_a_section_of_another_page_gets_its_identifier_there():
    site = site_with()
    plan = plan_jump(
        site, "page.html", span_of(site, "two"), Goal("d/other.html", 1), look=LinkLook(title='"Deep"'), button=True
    )
    result = after(site, plan)
    assert "<h3 id=deep>Deep</h3>" in result.pages["d/other.html"].text
    assert (
        '<a class="jump-button" href="d/other.html#deep" title="&quot;Deep&quot;">two</a>'
        in result.pages["page.html"].text
    )


@pytest.mark.parametrize(
    ("words", "goal", "href"),
    [
        pytest.param("CODE", Goal("page.html"), "#:~:text=CODE", id="the same page, in another case"),
        pytest.param("code", Goal("page.html", 2), "#b:~:text=code", id="within a section"),
        pytest.param(
            "other & more", Goal("d/other.html"), "d/other.html#:~:text=other%20%26%20more", id="another page"
        ),
    ],
)
def test_a_jump_opens_at_words_of_its_page(words, goal, href):
    site = site_with()
    result = after(site, plan_jump(site, "page.html", span_of(site, "two"), goal, words=words))
    assert f'<a href="{href}">two</a>' in result.pages["page.html"].text.replace("&amp;", "&")
    assert isinstance(result.follow("page.html", href), Resolved)
    start = result.pages["page.html"].text.index("<a", result.pages["page.html"].text.index("<ul>"))
    plain = after(result, plan_jump(result, "page.html", Span(start, start), goal))
    assert ":~:" not in plain.pages["page.html"].text


@pytest.mark.parametrize(
    ("words", "goal", "why"),
    [
        pytest.param("cod", Goal("page.html"), "is not on page.html", id="part of a word"),
        pytest.param("See", Goal("page.html", 2), "also in line 2", id="words of an earlier section"),
        pytest.param("var", Goal("page.html"), "is not on page.html", id="words of a script"),
    ],
)
def test_words_that_browsers_would_not_open(words, goal, why):
    site = site_with(HERE + "<script>var x</script>")
    with pytest.raises(RequestError, match=why):
        plan_jump(site, "page.html", span_of(site, "two"), goal, words=words)


@pytest.mark.parametrize(
    ("goal", "look", "tag"),
    [
        (Goal("d/other.html"), LinkLook(new_window=True), '<a href="d/other.html" target="_blank" rel="noopener">'),
        (Goal("page.html", 2), LinkLook(rel="help", language="en"), '<a href="#b" rel="help" hreflang="en">'),
        (
            Goal("page.html", 2),
            LinkLook(new_window=True, insists=True),
            '<a href="#b" target="_blank" rel="noopener">',
        ),
    ],
)
def test_a_jump_and_what_it_says_beside_its_address(goal, look, tag):
    site = site_with()
    made = after(site, plan_jump(site, "page.html", span_of(site, "two"), goal, look=look))
    assert f"{tag}two</a>" in made.pages["page.html"].text
    start = made.pages["page.html"].text.index(tag)
    plain = LinkLook(title="", new_window=False, rel="", language="")
    again = after(made, plan_jump(made, "page.html", Span(start, start), goal, look=plain))
    assert f"{tag.partition(' target')[0].partition(' rel')[0].rstrip('>')}>two</a>" in again.pages["page.html"].text


def test_a_jump_on_the_page_opens_no_window_unless_insisted_on():
    site = site_with()
    with pytest.raises(RequestError, match="opens no window"):
        plan_jump(site, "page.html", span_of(site, "two"), Goal("page.html", 2), look=LinkLook(new_window=True))


def test_there_and_back_gives_the_first_bytes():
    site = site_with()
    there = after(site, plan_jump(site, "page.html", span_of(site, 'href="#b"'), Goal("d/other.html", 0)))
    start = there.pages["page.html"].text.index("<a href=")
    back = after(there, plan_jump(there, "page.html", Span(start, start), Goal("page.html", 2)))
    assert back.pages["page.html"].text == HERE
    made = after(site, plan_jump(site, "page.html", span_of(site, "two"), Goal("page.html", 2)))
    start = made.pages["page.html"].text.index('<a href="#b">two')
    assert after(made, plan_no_jump(made, "page.html", start)).pages["page.html"].text == HERE


@pytest.mark.parametrize("words", ["lamp</em> hut", "</p>\n<ul>", " ", "<ul><li>one<li>two</ul>", "See the <em>lamp"])
def test_what_can_be_no_link(words):
    site = site_with()
    with pytest.raises(RequestError):
        read_origin(site.pages["page.html"], span_of(site, words))


@pytest.mark.parametrize("goal", [Goal("page.html", 9), Goal("no.html"), Goal("page.html", None, "zz")])
def test_goals_that_are_not_there(goal):
    site = site_with()
    with pytest.raises(RequestError):
        plan_jump(site, "page.html", span_of(site, "two"), goal)


@pytest.mark.parametrize(
    ("place", "made"),
    [
        pytest.param(Edge.TOP, '<a href="#top">two</a>', id="top"),
        pytest.param(Edge.BOTTOM, '<a href="#bottom">two</a>', id="bottom"),
        pytest.param("<pre", '<a href="#code">two</a>', id="an element"),
        pytest.param("<h2 id", '<a href="#b">two</a>', id="an element that has an identifier"),
    ],
)
def test_a_jump_leads_to_a_place(place, made):
    site = site_with()
    at = site.pages["page.html"].text.index(place) if "<" in place else place
    result = after(site, plan_jump(site, "page.html", span_of(site, "two"), Goal("page.html", place=at)))
    text = result.pages["page.html"].text
    assert made in text
    assert isinstance(result.follow("page.html", made[9:].partition('"')[0]), Resolved)
    if place == Edge.BOTTOM:
        again = after(result, plan_jump(result, "page.html", span_of(result, "lamp"), Goal("page.html", place=at)))
        assert again.pages["page.html"].text.count('id="bottom"') == text.count('id="bottom"') == 1


def test_top_is_no_goal_where_an_element_has_that_name():
    site = site_with('<p id=x>x</p><p id="top">here</p><p>two</p>')
    with pytest.raises(RequestError, match="with this identifier"):
        plan_jump(site, "page.html", span_of(site, "two"), Goal("page.html", place=Edge.TOP))


def test_words_are_found_as_a_reader_sees_them():
    page = page_of("<p id=p>Tea &amp;\n  cake, tea\n&amp; cake</p>")
    text = page.text
    assert find_words(page, 0, "Tea & cake").of(text) == "Tea &amp;\n  cake"
    assert find_words(page, 0, "& cake", 1).of(text) == "&amp; cake"
    for words, start, occurrence in [("Tea & cake", 0, 1), ("no", 0, 0), ("Tea", 5, 0), (" ", 5, 0)]:
        with pytest.raises(RequestError):
            find_words(page, start, words, occurrence)


def test_who_points_where():
    site = site_of(
        page="<nav><a href='#a'>A</a></nav><h1>T</h1><p><a href='page.html#b'>b</a> <a href='#top'>up</a></p><h2 id=a>A</h2><h2 id=b>B</h2><h2>C</h2>",
        other="<a href='page.html#b'>B there</a> <a href='page.html'>page</a> <a href='page.html#zz'>broken</a>",
    )
    found = {
        index: [(one.path, one.text, one.in_furniture) for one in ones]
        for index, ones in find_pointers(site, "page.html").items()
    }
    assert found == {
        -1: [("page.html", "up", False), ("other.html", "page", False)],
        1: [("page.html", "A", True)],
        2: [("page.html", "b", False), ("other.html", "B there", False)],
    }


@given(pages(blocks=tidy_block), st.data())
def test_a_link_made_of_any_words_leads_to_its_section_and_comes_out_again(data, draws):
    page = page_of(data, "page.html")
    nodes = [
        node for node in read_nodes(page).all if node.tag == "p" and node.text and not read_nodes(page).below(node)
    ]
    if not nodes or not page.headings:
        return
    node = draws.draw(st.sampled_from(nodes))
    words = draws.draw(st.sampled_from(collapse(node.text).split(" ")))
    section = draws.draw(st.sampled_from(range(len(page.headings))))
    site = Site({page.path: page}, frozenset([page.path]))
    plan = plan_jump(site, page.path, find_words(page, node.start, words), Goal(page.path, section))
    made = after(site, plan).pages[page.path]
    new = [link for link in made.links if link.text == words and link.start > 0]
    outcomes = [after(site, plan).follow(page.path, link.href) for link in new]
    wanted = made.headings[section].identifier
    assert any(
        outcome.target is not TOP and outcome.target.name == wanted
        for outcome in outcomes
        if isinstance(outcome, Resolved)
    )


# -------------------------------------------------------------------- offers

TITLES = "<h1>T</h1><h2 id=b>Boiler care</h2><p>b</p><h2 id=s>Safety</h2><p>s</p><h2>The token</h2><p>t</p><h2>Part four: tea</h2><p>p</p>"


@pytest.mark.parametrize(
    ("prose", "offered"),
    [
        ("as in Boiler care below", [("Boiler care", 1, True)]),
        ("see boiler care.", [("boiler care", 1, True)]),
        ("good boiler care is half of it", [("boiler care", 1, False)]),
        ("see Safety.", [("Safety", 2, True)]),
        ("safety comes first", []),
        ("Safety comes first", []),
        ("he kept the token", []),
        ("see the token", [("the token", 3, True)]),
        ("as said in part three", [("part three", 3, False)]),
        ("as said in part four", [("part four", 4, False)]),
        ("in part 12", []),
        ("<a href='#b'>Boiler care</a>", []),
        ("<code>see Safety.</code>", []),
        ("<a href='#'>Boilers care</a>", [("Boilers care", 1, True)]),
        ("<a href='#'>Rabbits</a>", []),
        ("<a href='#'>Back to top</a>", []),
        ("<a href='#b'>click here</a>", [("click here", 1, True)]),
        ("<a href='#top'>here</a>", []),
    ],
)
def test_words_that_may_want_to_be_links(prose, offered):
    site = site_of(page=TITLES.replace("<h1>T</h1>", f"<h1>T</h1><p>{prose}</p>"))
    assert [(one.words, one.section, one.sure) for one in find_offers(site, "page.html")] == offered


def test_an_offer_taken_is_offered_no_more():
    site = site_of(page=TITLES.replace("<p>s</p>", "<p>Mind Boiler care, and\nBoiler   care. And Boiler care.</p>"))
    offers = find_offers(site, "page.html")
    assert [offer.kind for offer in offers] == [OfferKind.MENTION]
    result = after(site, plan_jump(site, "page.html", offers[0].span, Goal("page.html", offers[0].section)))
    assert "<a href=#b>Boiler care</a>, and" in result.pages["page.html"].text


BUTTONS = "<h2 id=a>A</h2><p>t</p>\n<button type=button class='big x' onclick='go()'>Go to A</button>\n"


@pytest.mark.parametrize(
    ("beside", "after"),
    [
        (True, "<button type=button class='big x' onclick='go()'>Go to A</button> <a href=#a>Go to A</a>\n"),
        (False, "<a href=#a class='big x jump-button' onclick='go()'>Go to A</a>\n"),
    ],
)
def test_a_button_becomes_a_link_or_gets_one_beside_it(beside, after):
    page = page_of(BUTTONS)
    at = page.text.index("Go to A")
    plan = plan_jump(single_page_site(page), page.path, Span(at, at + 5), Goal(page.path, section=0), beside=beside)
    assert edited(page, plan.edits[page.path]).text.replace('"', "'").endswith(after)


@pytest.mark.parametrize(
    ("markup", "words"),
    [
        ("<form><label>Name</label></form>", "label"),
        ("<select><option>Name</option></select>", "list of choices"),
        ("<textarea>Name</textarea>", "not read as markup"),
    ],
)
def test_where_no_link_can_stand_it_says_why(markup, words):
    page = page_of(f"<body><h2 id=a>A</h2>{markup}")
    at = page.text.index("Name")
    with pytest.raises(RequestError, match=words):
        read_origin(page, Span(at, at + 4))
