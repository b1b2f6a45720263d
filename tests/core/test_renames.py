"""A rename, and what it carries along."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pages import page_of, site_of
from signpost.core.edits import apply_edits
from signpost.core.errors import RequestError
from signpost.core.renames import plan_rename
from signpost.core.site import Landing, Site
from strategies import pages


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
        ("<p id=old><a href=#ol%64>x</a>", "<p id=new><a href=#new>x</a>"),
        ("<p id=old><label for=old><i headers='a old b'>", "<p id=new><label for=new><i headers='a new b'>"),
        ("<p id=old><i aria-describedby=old><i data-for=old>", "<p id=new><i aria-describedby=new><i data-for=old>"),
        ("<p id=old>#old <!-- <a href=#old> --><b title=old>", "<p id=new>#old <!-- <a href=#old> --><b title=old>"),
        ("<p id=old><p id=older><a href=#older>x</a>", "<p id=new><p id=older><a href=#older>x</a>"),
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


@pytest.mark.parametrize(
    ("old", "new", "words"), [("gone", "x", "Nothing"), ("a", "b", "taken"), ("a", "b c", "white")]
)
def test_what_cannot_be(old, new, words):
    with pytest.raises(RequestError, match=words):
        plan_rename(site_of(page="<p id=a><p id=b>"), "page.html", old, new)


@given(pages(), st.sampled_from(["coal", "a", "x-1", "1st", "Ä"]))
def test_there_and_back_gives_the_first_bytes_and_no_link_breaks(data, old):
    page = page_of(data)
    site = Site({"page.html": page}, frozenset(["page.html"]))
    names = [target.name for target in page.targets]
    if names.count(old) != 1:
        return
    there = renamed(site, "page.html", old, "entirely-new")
    links = zip(page.links, there.pages["page.html"].links, strict=True)
    for before, after in links:
        first, second = site.follow("page.html", before.href), there.follow("page.html", after.href)
        assert isinstance(first, Landing) == isinstance(second, Landing)
        if isinstance(first, Landing) and hasattr(first.target, "order"):
            assert first.target.order == second.target.order
    percent = any("%" in (link.href or "") for link in page.links)
    if not percent:
        back = renamed(there, "page.html", "entirely-new", old)
        assert back.pages["page.html"].text == page.text or "Ä" in old
