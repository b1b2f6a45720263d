"""Fragments, links, outline, identifiers and findings: the rules in tables."""

import pytest

from pages import edited, page_of, site_of, text_after
from signpost.core.addresses.fragments import TOP, find_indicated
from signpost.core.addresses.links import LinkKind, classify_link, full_address, relative_address, resolve_path
from signpost.core.back_to_top.planning import BackLinkOptions, plan_back_links
from signpost.core.contents import ContentsOptions, plan_contents
from signpost.core.findings import check_page, check_site
from signpost.core.identifiers.sections import find_objection, plan_given, plan_identifiers
from signpost.core.page.lengths import estimate_page, estimate_stretches
from signpost.core.page.outline import read_outline
from signpost.core.site.site import Elsewhere, NoFile, NoTarget, Resolved, Site
from signpost.core.text.errors import RequestError


@pytest.mark.parametrize(
    ("fragment", "element"),
    [
        ("", TOP),
        ("coal", "h2"),
        ("Coal", None),
        ("old", "a"),
        ("both", "h3"),
        ("caf%C3%A9", "h4"),
        ("100%25", "h5"),
        ("top", TOP),
        ("TOP", TOP),
        ("%74op", TOP),
        ("inside", None),
        ("div-name", None),
    ],
)
def test_where_a_fragment_leads(fragment, element):
    page = page_of(
        "<a name=both></a><div name=div-name></div><h2 id=coal>a</h2><p id=coal>b</p><a name=old></a><h3 id=both></h3>"
        "<h4 id=café></h4><h5 id='100%25'></h5><template><p id=inside></template>"
    )
    found = find_indicated(fragment, page.index_targets())
    assert (found if found in (TOP, None) else found.element) == element


def test_an_element_called_top_wins_over_the_top_of_the_page():
    assert find_indicated("top", page_of("<p id=top>").index_targets()) is not TOP


@pytest.mark.parametrize(
    ("href", "kind"),
    [
        (None, LinkKind.NONE),
        ("", LinkKind.PLACEHOLDER),
        (" # ", LinkKind.PLACEHOLDER),
        ("#coal", LinkKind.FRAGMENT),
        ("rules.html", LinkKind.PAGE),
        ("rules.HTM#coal", LinkKind.PAGE),
        ("../", LinkKind.PAGE),
        ("about", LinkKind.PAGE),
        ("?print", LinkKind.PAGE),
        ("map.pdf", LinkKind.FILE),
        ("https://example.org/a.html", LinkKind.OUTSIDE),
        ("//example.org", LinkKind.OUTSIDE),
        ("MAILTO:a@example.org", LinkKind.MAIL),
        ("tel:123", LinkKind.PHONE),
        ("javascript:void(0)", LinkKind.OTHER),
    ],
)
def test_kinds_of_links(href, kind):
    assert classify_link(href) is kind


@pytest.mark.parametrize(
    ("page", "href", "path"),
    [
        ("a/b.html", "#x", ("a/b.html", "x")),
        ("a/b.html", "c.html#x", ("a/c.html", "x")),
        ("a/b.html", "../c.html", ("c.html", None)),
        ("a/b.html", "/club/c.html", ("c.html", None)),
        ("a/b.html", "my%20page.html", ("a/my page.html", None)),
        ("a/b.html", "..", ("", None)),
        ("b.html", "../c.html", None),
        ("b.html", "https://example.org/club/c.html#x", ("c.html", "x")),
        ("b.html", "https://example.com/c.html", None),
        ("b.html", "mailto:x", None),
    ],
)
def test_where_an_address_leads_within_the_site(page, href, path):
    assert resolve_path(page, href, "https://example.org/club/") == path


@pytest.mark.parametrize(
    ("page", "target", "fragment", "address"),
    [
        ("a.html", "a.html", "x", "#x"),
        ("a.html", "b.html", "x", "b.html#x"),
        ("d/a.html", "b.html", None, "../b.html"),
        ("a.html", "d/my page.html", "ä ö", "d/my%20page.html#%C3%A4%20%C3%B6"),
        ("a.html", "odd:name.html", None, "./odd:name.html"),
    ],
)
def test_relative_addresses_lead_back_to_their_target(page, target, fragment, address):
    assert relative_address(page, target, fragment) == address
    assert resolve_path(page, address)[0] == target


def test_full_addresses():
    assert full_address("https://example.org/club/", "d/a b.html", "x") == "https://example.org/club/d/a%20b.html#x"


def shape(sections):
    return [(section.text, shape(section.sections)) for section in sections]


def test_sections_nest_by_level_whatever_is_left_out():
    page = page_of("<h3>a</h3><h1>b</h1><h2>c</h2><h4>d</h4><h3>e</h3><h2>f</h2>")
    outline = read_outline(page)
    assert shape(outline.sections) == [
        ("a", []),
        ("b", [("c", [("d", []), ("e", [])]), ("f", [])]),
    ]
    for section in outline.flat():
        assert section.end >= section.start + len("<hn>x</hn>")
        assert all(section.start < inner.start and inner.end <= section.end for inner in section.sections)


def test_words_of_sections_add_up():
    outline = read_outline(page_of("<p>lead in</p><h1>b</h1>one<h2>c</h2>two three<h2>d</h2><h1>e f</h1>"))
    assert outline.lead_words == 2
    assert [(section.text, section.words, section.own_words) for section in outline.flat()] == [
        ("b", 6, 2),
        ("c", 3, 3),
        ("d", 1, 1),
        ("e f", 2, 2),
    ]


def test_identifiers_are_kept_and_never_doubled():
    markup = (
        '<p id=coal><h2 id="Odd One">a</h2><h2>Coal</h2><h3><a name=old>b</a></h3><H4 CLASS=x>c</H4><h2 id="">d</h2>'
    )
    assert text_after(markup, plan_identifiers) == (
        '<p id=coal><h2 id="Odd One">a</h2><h2 id=coal-2>Coal</h2><h3><a name=old>b</a></h3>'
        "<H4 id=c CLASS=x>c</H4><h2 id=d>d</h2>"
    )


@pytest.mark.parametrize(
    ("name", "words"),
    [("", "at least one"), ("a b", "white space"), ("a#b", "#"), ("TOP", "top of the page"), ("coal", "taken")],
)
def test_identifiers_that_cannot_be(name, words):
    assert words in (find_objection(name, {"coal"}) or "")
    with pytest.raises(RequestError, match=words):
        plan_given(page_of("<p id=coal>t<h2>a</h2>"), {0: name})


def test_a_given_identifier_goes_where_it_should():
    page = page_of("<h2>a</h2><h2 id=x>b</h2>")
    assert plan_given(page, {0: "é&1"}).edits[0].text == ' id="é&amp;1"'
    for index in (1, 7):
        with pytest.raises(RequestError):
            plan_given(page, {index: "y"})


@pytest.mark.parametrize(
    ("href", "outcome"),
    [
        ("d/", "d/index.html"),
        ("d", "d/index.html"),
        ("d/x.html", "d/x.html"),
        ("/", "index.html"),
        ("D/x.html", "near d/x.html"),
        ("e/", "no e/"),
        ("d/x.html#gone", "no target"),
        ("pic.gif", "pic.gif"),
        ("mailto:a@b", "elsewhere"),
        (None, "elsewhere"),
    ],
)
def test_where_links_of_a_site_lead(href, outcome):
    pages = {path: page_of("<p id=a>", path) for path in ("index.html", "d/index.html", "d/x.html")}
    site = Site(pages, frozenset([*pages, "pic.gif"]))
    match site.follow("index.html", href):
        case Resolved(path, _):
            found = path
        case NoFile(path, near):
            found = f"near {near}" if near else f"no {path}"
        case NoTarget():
            found = "no target"
        case Elsewhere():
            found = "elsewhere"
    assert found == outcome


@pytest.mark.parametrize("markup", ["", "<p>lead only</p>", "<h1>a</h1>x<h3>b</h3>y z<h2>c</h2>", "<h2>a</h2>" * 9])
def test_estimated_stretches_follow_one_another_and_fill_the_page(markup):
    page = page_of(markup)
    outline = read_outline(page)
    lead, *stretches = estimate_stretches(page, outline)
    assert lead.top == 0
    tops = [stretch.top for stretch in stretches]
    assert tops == sorted(tops)
    assert not tops or tops[0] == lead.height
    bottom = max([lead.height, *(stretch.top + stretch.height for stretch in stretches)])
    assert bottom == pytest.approx(estimate_page(page))
    for section, stretch in zip(outline.flat(), stretches, strict=True):
        for inner in section.sections:
            assert stretches[inner.index].top + stretches[inner.index].height <= stretch.top + stretch.height + 0.01


def codes(markup, **others):
    site = site_of(page=markup, **others)
    return [(finding.rule.code, finding.place.line) for finding in check_page(site, "page.html")]


@pytest.mark.parametrize(
    ("markup", "found"),
    [
        ("<h1>a</h1><a href=#top>x</a><a href=mailto:a@b>m</a><a href=https://example.org>o</a>", []),
        ("\n<a href=#gone>x</a>", [("fragment-missing", 2)]),
        ('<p id=water><a href="#water>water</a>\n<a href="#a">a</a>', [("quote-missing", 1)]),
        ('<p id=a><a href=#a">x</a>', [("quote-missing", 1)]),
        ('<a href="https://x.org/>x</a>\n<a href="https://y.org/">y</a>', [("quote-missing", 1)]),
        ('<p id=a><a href="#a\n">x</a>', []),
        ('<a href="https://x.org/?q=&quot;a&quot;">x</a>', []),
        ("<a href=other.html#gone>x</a>", [("fragment-missing", 1)]),
        ("<a href=other.html#here>x</a>", []),
        ("<a href=missing.html>x</a><a href=gone/>y</a>", [("page-missing", 1), ("page-missing", 1)]),
        ("<a href=map.pdf>x</a><img src=gone.gif>", [("file-missing", 1), ("file-missing", 1)]),
        (
            "<a href=#>x</a>\n<a>y</a><a name=z></a>",
            [("link-without-destination", 1), ("link-without-destination", 2)],
        ),
        ("<p id=a>\n<p id=a>\n<a name=a>", [("identifier-duplicate", 2), ("identifier-duplicate", 3)]),
        ("<a id=a name=a></a>", []),
        ("<h1>a</h1>\n<h3>b</h3>\n<h2>c</h2><h3>d</h3>", [("heading-gap", 2)]),
        ("<h3>a</h3><h1>b</h1>", []),
    ],
)
def test_what_does_not_hold(markup, found):
    assert codes(markup, other="<p id=here>") == found


@pytest.mark.parametrize(
    ("base", "href", "found"),
    [
        ("https://x/club/", "/club/page.html", ("page.html", None)),
        ("https://x/club/", "/page.html", None),
        ("https://x/club/", "/club", ("", None)),
        ("https://x/club", "https://x/clubhouse/a.html", None),
        ("https://x/club", "https://x/club/a.html#b", ("a.html", "b")),
        ("https://X/club/index.html", "HTTPS://x/club/a.html?q#b", ("a.html", "b")),
        ("https://x/club", "http://x/club/a.html", None),
        ("https://x/club", "//x/club/a.html", ("a.html", None)),
        ("https://x", "/a.html", ("a.html", None)),
        (None, "/a.html", ("a.html", None)),
        (None, "https://x/a.html", None),
    ],
)
def test_full_addresses_of_the_site_itself(base, href, found):
    assert resolve_path("d/other.html", href, base) == found


@pytest.mark.parametrize(
    ("element", "href", "found"),
    [
        ("", "a.html", ("d/a.html", None)),
        ("<base href='../'>", "a.html", ("a.html", None)),
        ("<base href='../e/f.html'>", "a.html", ("e/a.html", None)),
        ("<base href='../e/f.html'>", "#x", ("e/f.html", "x")),
        ("<base target=_top><base href=../e/><base href=../g/>", "a.html", ("e/a.html", None)),
        ("<base href='https://x/club/'>", "a.html", ("a.html", None)),
        ("<base href='https://elsewhere/'>", "a.html", None),
        ("<base href='https://elsewhere/'>", "https://x/club/a.html", ("a.html", None)),
    ],
)
def test_a_page_s_own_base_is_where_its_addresses_start(element, href, found):
    page = page_of(f"<head>{element}</head><p>", "d/page.html")
    assert page.resolve(href, "https://x/club/") == found


def test_what_is_written_into_a_page_with_a_base_leads_where_it_should():
    page = page_of(
        "<head><base href='/e/'></head><body><h1>T</h1><h2 id=a>A</h2><p>t<h2 id=b>B</h2><p>t", "d/page.html"
    )
    made = edited(page, plan_contents(page, ContentsOptions()))
    made = edited(made, plan_back_links(made, BackLinkOptions()))
    site = Site({made.path: made}, frozenset([made.path]))
    leads = [site.follow(made.path, link.href) for link in made.links]
    assert len(leads) == 4
    assert all(isinstance(outcome, Resolved) and outcome.path == "d/page.html" for outcome in leads)
    assert not plan_contents(made, ContentsOptions())
    assert not plan_back_links(made, BackLinkOptions())
    far = page_of("<head><base href='https://far/'></head><h2>A</h2>t<h2>B</h2>")
    with pytest.raises(RequestError, match="base element"):
        plan_contents(far, ContentsOptions())


def test_wrong_letter_case_is_named():
    site = site_of(page="<a href=Other.html>x</a>", other="")
    assert "“other.html”, which differs in capitals" in check_site(site)[0].message


def test_a_page_that_cannot_be_written_back_is_a_finding():
    site = site_of(page=b"<meta charset=utf-8>\xe9")
    assert [finding.rule.code for finding in check_site(site)] == ["page-unreadable"]
