"""Each rule: what it finds, where, how one press fixes it, and what it leaves alone."""

import importlib.util
from pathlib import Path

import pytest
from hypothesis import given

from checked import GOOD, codes, site_with
from pages import page_of, site_from, site_of
from parted import after
from signpost.core.findings import RULES, Fix, check_page
from signpost.core.findings.fixing import has_fix, plan_fixes
from signpost.core.site.site import Site
from strategies import pages

#: Rule, markup in the body, and the same after one press; None where there is none.
FOUND = [
    ("hash-missing", "<h2 id=coal>C</h2><a href='coal'>c</a>", "<h2 id=coal>C</h2><a href='#coal'>c</a>"),
    ("scheme-missing", '<a href="www.example.org/a">a</a>', '<a href="https://www.example.org/a">a</a>'),
    ("mail-scheme-missing", "<a href= a.b@example.org>a</a>", "<a href= mailto:a.b@example.org>a</a>"),
    ("own-disk-address", '<a href="file:///C:/a.html">a</a>', None),
    ("own-disk-address", r'<a href="C:\site\a.html">a</a>', None),
    ("backslash-in-address", r'<a href=".\index.html#x">a</a>', '<a href="./index.html#x">a</a>'),
    (
        "jump-in-new-window",
        '<h2 id=c>C</h2><a href="#c" target="_blank">c</a>',
        '<h2 id=c>C</h2><a href="#c">c</a>',
    ),
    ("heading-empty", "<h2></h2><p>p</p>", None),
    ("heading-tags-unequal", "<h2>A</h3><p>p</p>", "<h2>A</h2><p>p</p>"),
    ("heading-tags-unequal", "<H2>A</H3 ><p>p</p>", "<H2>A</H2 ><p>p</p>"),
    ("heading-repeated", "<h2>A</h2><p>p</p><h2>a</h2>", None),
    ("element-self-closed", '<a name="x" />text', '<a name="x"></a>text'),
    ("element-self-closed", "<span class='y'/>text", "<span class='y'></span>text"),
    ("element-self-closed", "<b/>text", "<b></b>text"),
    ("quote-typographic", "<p class=“a”>p</p>", '<p class="a">p</p>'),
    ("less-than-raw", "<p>1 < 2</p>", "<p>1 &lt; 2</p>"),
    ("element-obsolete", "<center>a</center> <CENTER>b</CENTER>", None),
    ("picture-without-alt", "<img src='data:,'>", None),
    ("link-empty", "<a href=index.html></a>", None),
    ("link-words-vague", "<a href=index.html>Click here</a>", None),
    ("filler-left", "<p>Lorem ipsum dolor</p>", None),
]


@pytest.mark.parametrize(
    ("code", "wrong", "right"), FOUND, ids=[f"{code} {at}" for at, (code, *_) in enumerate(FOUND)]
)
def test_a_slip_is_found_and_one_press_fixes_it(code, wrong, right):
    site = site_with(wrong)
    found = [finding for finding in check_page(site, "page.html") if finding.rule.code == code]
    assert len(found) == 1, codes(site)
    assert has_fix(found[0]) == (right is not None)
    assert codes(site).count("page-missing") == codes(site).count("file-missing") == 0
    if right is None:
        assert found[0].rule.fix is not Fix.AUTO
        return
    fixed = after(site, plan_fixes(site, ["page.html"], [code], found[0].span.start))
    assert fixed.pages["page.html"].text == GOOD.replace("{}", right)
    assert code not in codes(fixed)
    assert set(codes(fixed)) <= set(codes(site))


@pytest.mark.parametrize(
    "right",
    [
        "<a href='#top'>top</a> <a href=tel:+441>t</a> <a href='mailto:a@b.example'>m</a>",
        "<a href=https://www.example.org>a</a> <a href=//www.example.org/>b</a>",
        r"<a href='index.html?a=\b'>b</a>",
        "<a href=index.html target=_blank rel=noopener>new window of another page</a>",
        "<h2 id=coal>C</h2><a href=index.html#x>x</a>",
        "<h2><img src='data:,' alt=Coal></h2><p>p</p>",
        "<h2>A</h2><h3>Notes</h3><p>p</p><h2>B</h2><h3>Notes</h3><p>p</p>",
        "<br/><img src='data:,' alt=''/><hr /><svg><path d='M0'/></svg>",
        "<p title='“a”'>“b” = “c” x=“d”</p>",
        "<pre><code>&lt;center&gt;</code></pre> <p>a &lt; b <b>c</b> <!-- <center> 1 < 2 --></p>",
        "<script>if (1 < 2) document.write('<center/>Lorem ipsum')</script><style>a:before { content: '<font>' }</style>",
        "<textarea><a name=x/></textarea> <span class=y/>x</span>",
        "<img src='data:,' alt=''><img src='data:,' role=presentation><img src='data:,' aria-hidden=true>",
        "<a href=index.html aria-label=Home></a> <a href=index.html><img src='data:,' alt=Home></a>",
        "<a href=index.html>All about coal</a> <a href=index.html><code>continue</code></a>",
        "<a href=index.html aria-label='More about coal'>More</a>",
        "<a href=''>Good</a> <a href='#'>good</a>",
        "<a href='#:~:text=coal'>c</a> <a href='index.html#x:~:text=coal'>x</a>",
        "<svg><a xlink:href='#a'><text>x</text></a></svg> <a aria-current=page>Here</a> <a role=link aria-disabled=true>No</a>",
        "<p><a href='#'>Back to top</a> <a href='#' role=button>Menu</a> <a href='#' onclick='go()'>Go there now</a>",
    ],
)
def test_what_is_right_is_left_alone(right):
    assert codes(site_with(right)) == []


HEADS = [
    ("title-missing", GOOD.replace("<title>Good</title>", ""), None),
    ("title-missing", GOOD.replace("<title>Good</title>", "<title> </title>"), None),
    ("title-repeated", GOOD.replace("<title>Good</title>", "<title>I</title>"), GOOD),
    ("language-missing", GOOD.replace(' lang="en"', ""), GOOD),
    ("language-missing", GOOD.replace(' lang="en"', ' xml:lang="en"'), GOOD.replace("lang=", "lang=", 1)),
    (
        "viewport-missing",
        GOOD.replace('  <meta name="viewport" content="width=device-width">\n', ""),
        GOOD.replace("width=device-width", "width=device-width, initial-scale=1"),
    ),
    ("first-heading-missing", GOOD.replace("h1>", "h2>"), GOOD),
]


@pytest.mark.parametrize(
    ("code", "wrong", "right"), HEADS, ids=[f"{code} {at}" for at, (code, *_) in enumerate(HEADS)]
)
def test_what_a_page_s_head_lacks_is_found(code, wrong, right):
    site = site_with("<p>p</p>", wrong)
    assert codes(site) == [code]
    plan = plan_fixes(site, ["page.html"], [code], choice=0)
    assert bool(plan) == (right is not None)
    if right is not None:
        fixed = after(site, plan)
        assert codes(fixed) == []
        assert right.replace("{}", "<p>p</p>") == fixed.pages["page.html"].text or "xml:lang" in wrong


def test_a_first_heading_in_the_page_s_header_counts():
    page = GOOD.replace("<h1>Good</h1>", "<header><h1>Good</h1></header><main><h2>a</h2><p>a</p>").replace(
        "</body>", "</main></body>"
    )
    assert codes(site_with("", page)) == []


def test_a_long_page_wants_contents_and_a_way_back_and_gets_them():
    sections = "".join(f"<h2>Section {number}</h2>\n<p>{'words ' * 500}</p>\n" for number in range(8))
    site = site_with(sections)
    assert codes(site) == ["contents-missing", "way-back-missing"]
    for code, made in (("contents-missing", '<nav class="contents"'), ("way-back-missing", 'class="back-to-top"')):
        fixed = after(site, plan_fixes(site, ["page.html"], [code]))
        assert made in fixed.pages["page.html"].text
        assert code not in codes(fixed)
    assert codes(site_with(sections.replace("words ", ""))) == []
    by_hand = "<ul>" + "".join(f"<li><a href='#s{n}'>Section {n}</a></li>" for n in range(8)) + "</ul>"
    marked = "".join(
        f"<h2 id=s{n}>Section {n}</h2><p>{'words ' * 500}</p><p><a href='#top'>Top</a></p>" for n in range(8)
    )
    assert codes(site_with(by_hand + marked)) == []


def test_pages_as_files_of_a_site():
    page = GOOD.replace("{}", "")
    site = Site(
        {path: page_of(page.replace("Good", path), path) for path in ("index.html", "Old News.html")},
        frozenset(["index.html", "Old News.html"]),
    )
    assert codes(site, "Old News.html") == ["file-name-awkward", "page-unlinked"]
    assert codes(site, "index.html") == []


def test_all_of_a_rule_are_fixed_on_all_pages_in_one_plan():
    wrong = GOOD.replace("{}", "<p>1 < 2 < 3</p><a name='x'/>")
    site = site_of(a=wrong.replace("Good", "A"), b=wrong.replace("Good", "B"))
    plan = plan_fixes(site, ["a.html", "b.html"], ["less-than-raw"])
    assert {path: len(edits) for path, edits in plan.edits.items()} == {"a.html": 2, "b.html": 2}
    everything = after(site, plan_fixes(site, ["a.html", "b.html"]))
    assert "less-than-raw" not in codes(everything, "a.html")
    assert "<a id='x'></a>" in everything.pages["b.html"].text


@given(pages(), pages())
def test_a_fix_leaves_no_finding_that_was_not_there(data, other):
    """What one press fixes is gone, and no finding comes of it; pages as broken as they come."""
    site = Site(
        {"page.html": page_of(data), "other.html": page_of(other, "other.html")},
        frozenset(["page.html", "other.html"]),
    )
    before = check_page(site, "page.html")
    for code in {one.rule.code for one in before if has_fix(one)}:
        fixed = after(site, plan_fixes(site, ["page.html"], [code]))
        now = codes(fixed)
        assert now.count(code) < [one.rule.code for one in before].count(code)
        errors = [one for one in now if RULES[one].severity == "error"]
        assert len(errors) <= sum(one.rule.severity == "error" for one in before)


def test_every_rule_is_explained_and_the_list_of_them_is_up_to_date():
    for rule in RULES.values():
        assert all([rule.why, rule.wrong, rule.right]), rule.code
        assert rule.reference.startswith("https://")
    root = Path(__file__).resolve().parents[3]
    spec = importlib.util.spec_from_file_location("list_findings", root / "scripts" / "list_findings.py")
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    assert (root / "docs" / "findings.md").read_text(encoding="utf-8") == module.write()


def test_a_missing_file_is_taken_for_none_of_another_kind():
    site = site_from({"a.html": "<a href=boiler-plam.png>plan</a>", "boiler-plan.html": "<h1>Plan</h1>"})
    (found,) = [one for one in check_page(site, "a.html") if one.rule.code == "file-missing"]
    assert found.choices == ()
    near = site_from({"a.html": "<a href=boiler-plam.html>plan</a>", "boiler-plan.html": "<h1>Plan</h1>"})
    (found,) = [one for one in check_page(near, "a.html") if one.rule.code == "page-missing"]
    assert [one.words for one in found.choices] == ["Link to boiler-plan.html"]


@given(pages())
def test_all_that_needs_no_question_is_fixed_at_once(data):
    """The same once more changes nothing; pages as broken as they come."""
    site = site_from({"page.html": data})
    again = after(site, plan_fixes(site, ["page.html"]))
    left = [one.rule.code for one in check_page(again, "page.html") if one.fix is Fix.AUTO and has_fix(one)]
    assert not plan_fixes(again, ["page.html"]), left
    assert not left
