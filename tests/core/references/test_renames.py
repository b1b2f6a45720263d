"""A rename, and what it carries along."""

import re
from collections import Counter

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tinycss2.serializer import serialize_identifier

from pages import edited, page_of, site_of
from signpost.core.identifiers.sections import find_objection
from signpost.core.page import Target
from signpost.core.references.renames import plan_rename
from signpost.core.site.site import Resolved, Site
from signpost.core.text.edits import apply_edits, apply_to_text
from signpost.core.text.errors import RequestError
from signpost.core.text.source import read_source
from strategies import EXAMPLES, pages


def renamed(site: Site, path: str, old: str, new: str) -> Site:
    plan = plan_rename(site, path, old, new)
    after = {
        name: page_of(apply_edits(page.source, plan.edits[name]), name) if name in plan.edits else page
        for name, page in site.pages.items()
    }
    return Site(after, site.files, site.base)


@pytest.mark.parametrize(
    ("markup", "after"),
    [
        ('<h2 id="old">a</h2>', '<h2 id="new">a</h2>'),
        ("<H2 ID=old>a</H2><A HREF=#old>x</A>", "<H2 ID=new>a</H2><A HREF=#new>x</A>"),
        ("<a name='old'></a><a href='#old'>x</a>", "<a name='new'></a><a href='#new'>x</a>"),
        ('<a id="old" name="old"></a>', '<a id="new" name="new"></a>'),
        ("<p id=old><a href='page.html?p=1&q#old'>x</a>", "<p id=new><a href='page.html?p=1&q#new'>x</a>"),
        (
            "<p id=old><a href='page.html?p=1&amp;q=2#old'>x</a>",
            "<p id=new><a href='page.html?p=1&amp;q=2#new'>x</a>",
        ),
        ("<p id=old><a href='./p&#97;ge.html#old '>x</a>", "<p id=new><a href='./p&#97;ge.html#new '>x</a>"),
        ('<p id=old><a href="page.html?a=1&copy=2#old">x</a>', '<p id=new><a href="page.html?a=1&copy=2#new">x</a>'),
        ("<p id=old><a href=page.html#&#111;ld>x</a>", "<p id=new><a href=page.html#new>x</a>"),
        ("<p id=old><i headers='x   old  y\n old'>", "<p id=new><i headers='x   new  y\n new'>"),
        ("<p id=old><i aria-owns='&amp; old'>", "<p id=new><i aria-owns='&amp; new'>"),
        ("<p id=old><i class=a\u00a0b id=c><a href=#old>", "<p id=new><i class=a\u00a0b id=c><a href=#new>"),
        ('<p id=old><svg fill="url(&quot;#old&quot;)">', '<p id=new><svg fill="url(&quot;#new&quot;)">'),
        ("<p id=old><a href=#ol%64>x</a>", "<p id=new><a href=#new>x</a>"),
        ("<p id=old><label for=old><i headers='a old b'>", "<p id=new><label for=new><i headers='a new b'>"),
        ("<p id=old><i aria-describedby=old><i data-for=old>", "<p id=new><i aria-describedby=new><i data-for=old>"),
        ("<p id=old>#old <!-- <a href=#old> --><b title=old>", "<p id=new>#old <!-- <a href=#old> --><b title=old>"),
        ("<p id=old><p id=older><a href=#older>x</a>", "<p id=new><p id=older><a href=#older>x</a>"),
        ("<form id=old></form><input form=old list=old>", "<form id=new></form><input form=new list=new>"),
        ("<p id=old><button popovertarget=old>", "<p id=new><button popovertarget=new>"),
        ("<map id=old name=old></map><img usemap=#old>", "<map id=new name=new></map><img usemap=#new>"),
        ("<map name=old></map><img usemap='#old'>", "<map name=new></map><img usemap='#new'>"),
        ("<p id=old><map name=m></map><img usemap=#old>", "<p id=new><map name=m></map><img usemap=#old>"),
        ("<svg><g id=old /><use href=#old /></svg>", "<svg><g id=new /><use href=#new /></svg>"),
        ("<svg><g id=old /><use xlink:href='#old'></svg>", "<svg><g id=new /><use xlink:href='#new'></svg>"),
        ("<svg><g id=old /><path fill='url(#old)'></svg>", "<svg><g id=new /><path fill='url(#new)'></svg>"),
        ("<p id=old style='clip-path: url(#old)'>", "<p id=new style='clip-path: url(#new)'>"),
        ("<p id=old><q cite=#old>x</q>", "<p id=new><q cite=#new>x</q>"),
        (
            "<style>#old, p > #old:hover { color: #old }</style><p id=old>",
            "<style>#new, p > #new:hover { color: #old }</style><p id=new>",
        ),
        (
            "<style>@media print { a:not(#old) {} }</style><p id=old>",
            "<style>@media print { a:not(#new) {} }</style><p id=new>",
        ),
        ("<style>p { & #old { top: 0 } }</style><p id=old>", "<style>p { & #new { top: 0 } }</style><p id=new>"),
        (
            "<style>/* #old */ [id=old] [href='#old'] [class=old] {}</style><p id=old>",
            "<style>/* #old */ [id=new] [href='#new'] [class=old] {}</style><p id=new>",
        ),
        (
            "<style>\r\n a { content: '#old' }\r\n #old{}</style><p id=old>",
            "<style>\r\n a { content: '#old' }\r\n #new{}</style><p id=new>",
        ),
        ("<style>#\\6f ld {} #older {}</style><p id=old>", "<style>#new {} #older {}</style><p id=new>"),
        (
            "<style>p { fill: url(#old) url(old.svg#old) }</style><p id=old>",
            "<style>p { fill: url(#new) url(old.svg#old) }</style><p id=new>",
        ),
        (
            "<a name=old></a><label for=old></label><style>#old {}</style>",
            "<a name=new></a><label for=old></label><style>#old {}</style>",
        ),
    ],
)
def test_references_on_the_page(markup, after):
    assert renamed(site_of(page=markup), "page.html", "old", "new").pages["page.html"].text == after


def test_references_on_other_pages_in_all_forms():
    site = site_of(
        page="<p id=old>",
        d__other='<a href="../page.html#old">a</a><a href="/page.html#old">b</a><a href="#old">c</a>'
        '<a href="https://example.org/page.html#old">d</a><a href="https://example.com/page.html#old">e</a>',
    )
    site = Site(site.pages, site.files, "https://example.org/")
    assert renamed(site, "page.html", "old", "new").pages["d/other.html"].text == (
        '<a href="../page.html#new">a</a><a href="/page.html#new">b</a><a href="#old">c</a>'
        '<a href="https://example.org/page.html#new">d</a><a href="https://example.com/page.html#old">e</a>'
    )


def with_texts(site: Site, **texts: str) -> Site:
    sources = {name.replace("_", "."): read_source(text.encode()) for name, text in texts.items()}
    return Site(site.pages, site.files | frozenset(sources), site.base, sources)


def test_style_sheets_of_the_page_follow():
    sheet = "@import 'more.css';\n#old { color: #old }\n"
    site = with_texts(
        site_of(page="<link rel=stylesheet href=main.css><p id=old>", other="<link rel=stylesheet href=far.css>"),
        main_css=sheet,
        more_css="h1 + #old {}",
        far_css="#old {}",
    )
    plan = plan_rename(site, "page.html", "old", "new")
    after = {path: apply_to_text(site.source(path), edits) for path, edits in plan.edits.items()}
    assert after["main.css"] == "@import 'more.css';\n#new { color: #old }\n"
    assert after["more.css"] == "h1 + #new {}"
    assert "far.css" not in after


def test_a_sheet_that_other_pages_need_as_it_is_gets_a_rule_beside():
    link = "<link rel=stylesheet href=main.css>"
    site = with_texts(
        site_of(page=f"{link}<p id=old>", other=f"{link}<p id=old>"), main_css="a, #old > b, c {}\n@media x{#old{}}"
    )
    plan = plan_rename(site, "page.html", "old", "new")
    assert apply_to_text(site.texts["main.css"], plan.edits["main.css"]) == (
        "a, #old > b, #new > b, c {}\n@media x{#old, #new{}}"
    )


def test_identifiers_are_spelt_as_selectors_need():
    site = site_of(page="<style>#old {} [id=old] {} [id='old'] {}</style><p id=old>")
    assert "#\\31 a {} [id=\\31 a] {} [id='1a'] {}" in renamed(site, "page.html", "old", "1a").pages["page.html"].text


def test_scripts_are_listed_and_not_edited():
    script = "\n<script>\nf('old'); g('older'); h('#old')</script><p id=old onclick=\"k('old')\">"
    site = with_texts(
        site_of(
            page=f"<script src=main.js></script>{script}", other="<script>go('page.html#old'); f('old')</script>"
        ),
        main_js="\n\nq('#old')",
        far_js="q('#old')",
    )
    plan = plan_rename(site, "page.html", "old", "new")
    assert [note.partition(":")[0] for note in plan.notes] == [
        "page.html, line 3",
        "other.html, line 1",
        "main.js, line 3",
    ]
    assert set(plan.edits) == {"page.html"}


@pytest.mark.parametrize(
    ("markup", "after"),
    [
        ("<h2 id=old>a</h2>", "<h2 id=new><span id=old></span>a</h2>"),
        ("<H2 ID=old>a</H2>", "<H2 ID=new><SPAN ID=old></SPAN>a</H2>"),
        ("<img id=old>", "<span id=old></span><img id=new>"),
        ("<ul id=old></ul>", "<span id=old></span><ul id=new></ul>"),
        ("<a name=old></a>", "<a name=new><span id=old></span></a>"),
    ],
)
def test_the_old_one_can_stay(markup, after):
    page = site_of(page=markup).pages["page.html"]
    plan = plan_rename(site_of(page=markup), "page.html", "old", "new", keep_old=True)
    assert edited(page, plan.edits["page.html"]).text == after


def test_a_row_has_no_room_for_the_old_one():
    with pytest.raises(RequestError, match="cannot carry a second"):
        plan_rename(site_of(page="<table><tr id=old><td>a"), "page.html", "old", "new", keep_old=True)


def test_addresses_of_all_kinds_follow_on_other_pages():
    other = (
        "<q cite='page.html#old'>x</q><form action=page.html?a=1&amp;b#old><button formaction='page.html#old'>"
        "</form><svg><a xlink:href='page.html#old'></a></svg><meta http-equiv=refresh content='3; url=page.html#old'>"
        "<q cite='far.html#old'>y</q>"
    )
    changed = renamed(site_of(page="<p id=old>", other=other), "page.html", "old", "new").pages["other.html"].text
    assert changed == other.replace("page.html#old", "page.html#new").replace("b#old", "b#new")


def test_addresses_that_load_files_follow():
    site = site_of(page="<p id=old>", other="<iframe src='page.html#old'></iframe><img src=#old>")
    assert renamed(site, "page.html", "old", "new").pages["other.html"].text == (
        "<iframe src='page.html#new'></iframe><img src=#old>"
    )


@pytest.mark.parametrize(
    ("old", "new", "words"), [("gone", "x", "Nothing"), ("a", "b", "taken"), ("a", "b c", "white")]
)
def test_what_cannot_be(old, new, words):
    with pytest.raises(RequestError, match=words):
        plan_rename(site_of(page="<p id=a><p id=b>"), "page.html", old, new)


#: Ways to write an address that leads to an identifier, as a browser reads it.
SPELLINGS = [
    lambda name: f"<a href='#{name}'>plain</a>",
    lambda name: f"<a href=page.html#{name}>with the file</a>",
    lambda name: f'<a href=" #{name} ">with spaces</a>',
    lambda name: f'<a href="&#35;{name}">with a reference</a>',
    lambda name: f'<a href="#&#x{ord(name[0]):x};{name[1:]}">with a letter as a reference</a>',
    lambda name: f'<a href="./page.html&#x23;{name}">with dots</a>',
    lambda name: f'<A HREF="page.html&num;{name}">in capitals</A>',
]


@st.composite
def linked_pages(draw, **options):
    """A page, one of its identifiers that only one element has, and links to that in all spellings."""
    data = draw(pages(**options))
    page = page_of(data)
    counts = Counter(target.name for target in page.targets)
    names = [name for name, count in counts.items() if count == 1 and name.isascii() and "%" not in name]
    if not names:
        return data, None
    name = draw(st.sampled_from(names))
    spelled = draw(st.lists(st.sampled_from(SPELLINGS), min_size=1, max_size=4, unique=True))
    links = "".join(f"<p>{spell(name)}</p>" for spell in spelled)
    end = re.search(r"</body|</html|\Z", page.text, re.IGNORECASE).start()
    return page.source.encode(page.text[:end] + links + page.text[end:]), name


def same_landings(site, there):
    """Check that every link leads to what it led to, and return how many lead to an element."""
    reached = 0
    for path, page in site.pages.items():
        for before, now in zip(page.links, there.pages[path].links, strict=True):
            first, second = site.follow(path, before.href), there.follow(path, now.href)
            assert type(first) is type(second)
            if isinstance(first, Resolved) and isinstance(first.target, Target):
                assert (first.path, first.target.order) == (second.path, second.target.order)
                reached += 1
    return reached


def test_there_and_back_gives_the_first_bytes_and_no_link_breaks():
    checked = Counter()

    @given(linked_pages(), st.sampled_from(["entirely-new", "\u00c4-neu"]))
    def holds(found, new):
        data, old = found
        page = page_of(data)
        site = Site({"page.html": page}, frozenset(["page.html"]))
        if old is None or [target.name for target in page.targets].count(old) != 1:
            return
        there = renamed(site, "page.html", old, new)
        checked["renamed"] += 1
        checked["links"] += same_landings(site, there)
        if not any("%" in (link.href or "") or "&" in page.text for link in page.links) and new.isascii():
            assert renamed(there, "page.html", new, old).pages["page.html"].text == page.text
            checked["back"] += 1

    holds()
    assert checked["renamed"] > EXAMPLES / 3, checked
    assert checked["links"] > checked["renamed"], checked
    assert checked["back"] > EXAMPLES / 20, checked


SHEET = "#coal, a #x-1:not(#coal) {} @media print { [id=a] { fill: url(#coal) } }\n"


def test_on_a_site_no_link_breaks_and_the_way_back_gives_the_first_bytes():
    checked = Counter()

    @given(
        linked_pages(encodings=["utf-8", "windows-1252"]), pages(), st.sampled_from(["entirely-new", "\u00c4-neu"])
    )
    def holds(found, two, new):
        one, old = found
        linked = one.replace(b"<title>", b'<link rel=stylesheet href="main.css"><title>', 1)
        linked = linked.replace(b"<TITLE>", b'<LINK REL=stylesheet HREF="main.css"><TITLE>', 1)
        paths = {"page.html": page_of(linked), "other.html": page_of(two, "other.html")}
        if old is None or [target.name for target in paths["page.html"].targets].count(old) != 1:
            return
        sheet = {"main.css": read_source(f"{SHEET} #{serialize_identifier(old)} {{}}\n".encode())}
        site = Site(paths, frozenset([*paths, *sheet]), texts=sheet)
        there = after(site, plan_rename(site, "page.html", old, new))
        checked["renamed"] += 1
        checked["links"] += same_landings(site, there)
        written = "".join(page.text for page in paths.values())
        if "%" not in written and "&" not in written and new.isascii() and find_objection(old, ()) is None:
            back = after(there, plan_rename(there, "page.html", new, old))
            assert {path: back.source(path).text for path in back.files} == {
                path: site.source(path).text for path in site.files
            }
            checked["back"] += 1

    holds()
    assert checked["renamed"] > EXAMPLES / 3, checked
    assert checked["links"] > checked["renamed"], checked


def after(site, plan):
    sources = {path: read_source(apply_edits(site.source(path), edits)) for path, edits in plan.edits.items()}
    known = {
        path: page_of(sources[path].data, path) if path in sources else page for path, page in site.pages.items()
    }
    texts = {path: sources.get(path, source) for path, source in site.texts.items()}
    return Site(known, site.files, site.base, texts)


@pytest.mark.parametrize(
    ("path", "name", "address"),
    [
        ("my page.html", "a", "my page.html#a"),
        ("a&b.html", "a", "a&amp;b.html#a"),
        ("b.html", ":r1", "b.html#:r1"),
        ("b.html", "a", "b.html#%61"),
        ("b.html", "a", "b.html&#35;a"),
    ],
)
def test_an_address_that_is_no_link_follows_however_it_is_spelled(path, name, address):
    pages = {path: page_of(f"<p id='{name}'>x</p>", path), "o.html": page_of(f"<form action='{address}'>", "o.html")}
    plan = plan_rename(Site(pages, frozenset(pages)), path, name, "new")
    assert set(plan.edits) == {path, "o.html"}
