"""Tags, values and style rules that were mistyped, and what only looks so."""

import pytest

from checked import GOOD, codes, fixed_by, site_with
from pages import site_from
from parted import after
from signpost.core.findings import check_page
from signpost.core.findings.fixing import has_fix, plan_fixes
from signpost.core.findings.style_slips import find_style_slips

#: Rule, markup, and the same after a press.
TAGS = [
    ("element-misspelt", "<p>Mind <stong>the</strong> step.</p>", "<p>Mind <strong>the</strong> step.</p>"),
    ("element-misspelt", "<p>Mind <strong>the</storng> step.</p>", "<p>Mind <strong>the</strong> step.</p>"),
    ("element-misspelt", "<DVI class=a><p>p</p></DIV>", "<div class=a><p>p</p></DIV>"),
    ("element-misspelt", "<ul><il>One</li><li>Two</li></ul>", "<ul><li>One</li><li>Two</li></ul>"),
    ("tag-space-missing", '<p><ahref="index.html">i</a></p>', '<p><a href="index.html">i</a></p>'),
    ("tag-space-missing", '<divclass="a"><p>p</p></div>', '<div class="a"><p>p</p></div>'),
    ("tag-space-missing", "<h2id='a' class=b>A</h2><p>p", "<h2 id='a' class=b>A</h2><p>p"),
    ("end-tag-mistyped", "<p>Mind <b>the<b> step.</p>", "<p>Mind <b>the</b> step.</p>"),
    ("end-tag-mistyped", '<p><a href="index.html">i<a> and more</p>', '<p><a href="index.html">i</a> and more</p>'),
    (
        "end-tag-mistyped",
        '<p><a href="index.html"><img src="data:," alt=i><a> and more</p>',
        '<p><a href="index.html"><img src="data:," alt=i></a> and more</p>',
    ),
    ("end-tag-mistyped", "<h2>A<h2>\n<p>p</p>", "<h2>A</h2>\n<p>p</p>"),
    ("end-tag-mistyped", "<p>Mind <b>the<\\b> step.</p>", "<p>Mind <b>the</b> step.</p>"),
    ("end-tag-mistyped", "<p>Mind <b>the</ b> step.</p>", "<p>Mind <b>the</b> step.</p>"),
    ("end-tag-mistyped", "<p>Mind <B>the< /B> step.</p>", "<p>Mind <B>the</B> step.</p>"),
    ("end-tag-mistyped", "<p>Mind <b>the<//b> step.</p>", "<p>Mind <b>the</b> step.</p>"),
    ("equals-missing", '<p><a href"index.html">i</a></p>', '<p><a href="index.html">i</a></p>'),
    (
        "equals-missing",
        '<p><a class=x href "index.html?a=b">i</a></p>',
        '<p><a class=x href ="index.html?a=b">i</a></p>',
    ),
    ("bracket-missing", '<p>see "a href="index.html">i</a>"</p>', '<p>see "<a href="index.html">i</a>"</p>'),
]


@pytest.mark.parametrize(("code", "wrong", "right"), TAGS, ids=[f"{one[0]} {at}" for at, one in enumerate(TAGS)])
def test_a_mistyped_tag_is_all_that_is_found_and_a_press_mends_it(code, wrong, right):
    assert codes(site_with(wrong)) == [code]
    _, text = fixed_by(code, wrong, None)
    assert text == right
    assert codes(site_with(right)) == []


@pytest.mark.parametrize(
    ("wrong", "code"),
    [
        ("<p>a <string>b</string></p>", "element-misspelt"),  # written so twice, it is a name
        ("<p>a <stong>b</p>", "element-misspelt"),  # without a partner
        ("<svg><pat d='M0'/></svg><p>a</p>", "element-misspelt"),
        ("<my-strong>a</my-strong>", "element-misspelt"),
        ("<p><x-ahref='a'>a</x-ahref></p>", "tag-space-missing"),
        ("<p><b>a</b> <b>b<i>c</i></b></p>", "end-tag-mistyped"),
        ("<p><b>a<b>b</b></b></p>", "end-tag-mistyped"),
        ("<p><b>a</p><p>x</p><p><b>c</b></p>", "end-tag-mistyped"),
        ("<p>a <\\b> c</p>", "end-tag-mistyped"),  # nothing to end
        ('<p title="a" "b">c</p>', "equals-missing"),
        ('<p><a href="index.html>i</a> <img alt="Mind the step" src="data:,"></p>', "equals-missing"),
        ('<p title="a=">a</p>', "quote-missing"),
        ('<p title="Solve for x=" class="a">a</p>', "quote-missing"),
    ],
)
def test_what_may_be_meant_so_is_not_mended(wrong, code):
    assert code not in codes(site_with(wrong))


def test_a_quotation_mark_that_lacks_before_another_attribute():
    wrong = '<p><a href="index.html class="x y">i</a></p>'
    (found,) = check_page(site_with(wrong), "page.html")
    assert found.rule.code == "quote-missing"
    _, text = fixed_by("quote-missing", wrong, 0)
    assert text == '<p><a href="index.html" class="x y">i</a></p>'


@pytest.mark.parametrize(
    ("markup", "line"),
    [
        ('<a href="#notes">n</a>\nh2 id="notes">Notes</h2><p>p', 11),
        ('<a href="#notes">n</a><h2 id="note">N</h2><p>p\nh2 id="notes">Notes</h2><p>p', 11),
    ],
)
def test_what_stands_in_a_broken_tag_is_mended_there(markup, line):
    """A link to it is right, so that no other target is offered for it."""
    site = site_with(markup)
    link = next(one for one in check_page(site, "page.html") if one.rule.code.startswith("fragment"))
    assert f"line {line}, lacks a bracket or a quotation mark: mend that first" in link.message
    assert not has_fix(link)
    assert not link.choices
    fixed = after(site, plan_fixes(site, ["page.html"]))
    assert codes(fixed) == []
    assert '<h2 id="notes"' in fixed.pages["page.html"].text


# ---------------------------------------------------------------- style rules

MEND = [
    ("h2 {\n  color: red\n\nh3 {\n  color: blue;\n}\n", "h2 {\n  color: red\n}\n\nh3 {\n  color: blue;\n}\n"),
    (
        "h2 {\n  color: red;\nh3, h4,\nh5 {\n  color: blue;\n}\n",
        "h2 {\n  color: red;\n}\nh3, h4,\nh5 {\n  color: blue;\n}\n",
    ),
    ("h2 { color: red\nh3 { color: blue }\n", "h2 { color: red }\nh3 { color: blue }\n"),
    ("h2 {color: red\nh3 {color: blue}\n", "h2 {color: red}\nh3 {color: blue}\n"),
    ("h2 {\r\n  color: red\r\nh3 { top: 0 }", "h2 {\r\n  color: red\r\n}\r\nh3 { top: 0 }"),
    ("h2 { color: red }\n}\nh3 { top: 0 }", "h2 { color: red }\n\nh3 { top: 0 }"),
    ("@media print {\n  h2 { color: red }\n", "@media print {\n  h2 { color: red }\n}\n"),
    (
        "@media print {\n  h2 {\n    top: 0\n  h3 { top: 0 }\n}",
        "@media print {\n  h2 {\n    top: 0\n  }\n  h3 { top: 0 }\n}",
    ),
    ("h2 { color: red", "h2 { color: red }"),
    ("h2 { colour: red }", "h2 { color: red }"),
    ("h2 { font-wieght: bold }", "h2 { font-weight: bold }"),
    ("@media print { h2 { heigth: 3px } }", "@media print { h2 { height: 3px } }"),
    ("h2 { a { colr: red } }", "h2 { a { color: red } }"),
]


@pytest.mark.parametrize(("css", "right"), MEND)
def test_a_slip_of_a_style_sheet_is_mended(css, right):
    (slip,) = find_style_slips(css)
    assert css[: slip.span.start] + (slip.text or "") + css[slip.span.end :] == right
    assert find_style_slips(right) == []


@pytest.mark.parametrize(
    "css",
    [
        "h2 { --colr: red; -moz-colr: red; *colr: red; zoom: 1; speak: none; behavior: url(x) }",
        "h2 { xyzzy: 1; wdth2: 1; to: 3px }",  # near none, or too short to know
        "h2 { content: '}' } /* } */ h3 { background: url(a}b.png) }",
        "h2 { color: red;\n  &:hover { color: blue }\n  a { top: 0 } }",
        "@font-face { src: url(a.woff); font-famly: x }",  # descriptors are no properties
        "",
    ],
)
def test_what_is_right_in_a_style_sheet_is_left_alone(css):
    assert find_style_slips(css) == []


def test_where_a_brace_belongs_nobody_knows_it_is_told():
    (slip,) = find_style_slips("h2{color:red  h3{color:blue}")
    assert (slip.text, slip.span.start) == (None, 0)


STYLED = [
    (
        "style-dot-for-identifier",
        "<style>.coal { top: 0 }</style><p id=coal>c",
        "<style>#coal { top: 0 }</style><p id=coal>c",
    ),
    (
        "style-dot-for-identifier",
        "<style>p.coal, b > .coal { top: 0 }</style><p id=coal>c",
        "<style>p#coal, b > #coal { top: 0 }</style><p id=coal>c",
    ),
    (
        "style-hash-for-class",
        "<style>#coal { top: 0 }</style><p class=coal>c",
        "<style>.coal { top: 0 }</style><p class=coal>c",
    ),
    ("style-property-misspelt", '<p style="colr: red">c', '<p style="color: red">c'),
    ("style-property-misspelt", "<style>p { colr: red }</style><p>c", "<style>p { color: red }</style><p>c"),
    ("style-brace-missing", "<style>p { top: 0 </style><p>c", "<style>p { top: 0 } </style><p>c"),
]


@pytest.mark.parametrize(("code", "wrong", "right"), STYLED, ids=[f"{one[0]} {at}" for at, one in enumerate(STYLED)])
def test_style_rules_of_a_page_are_mended(code, wrong, right):
    site = site_with(wrong)
    assert set(codes(site)) == {code}
    assert after(site, plan_fixes(site, ["page.html"])).pages["page.html"].text == GOOD.replace("{}", right)
    assert codes(site_with(right)) == []


@pytest.mark.parametrize(
    "right",
    [
        "<style>.coal { top: 0 }</style><p id=coal>c<script>x()</script>",  # a script may give the class
        "<style>.coal { top: 0 } #coal { left: 0 }</style><p id=coal>c",  # made for pages of both kinds
        "<style>.coal.black { top: 0 }</style><p id=coal>c",
        "<style>.oil { top: 0 }</style><p id=coal>c",
        '<p style="--colr: red">c <code style="color:&#114;ed">d</code>',
    ],
)
def test_style_rules_that_may_be_right_are_left_alone(right):
    assert codes(site_with(right)) == []


def _styled(css, **files):
    page = "<!DOCTYPE html><html lang=en><title>A</title><link rel=stylesheet href=s.css><body><h1>A</h1><p id=coal>c"
    return site_from({"a.html": page, "s.css": css, **files})


@pytest.mark.parametrize(
    ("css", "code", "message", "right"),
    [
        (
            "p { top: 0 }\n.coal { top: 0 }",
            "style-dot-for-identifier",
            "s.css, line 2, has a rule for .coal.",
            "p { top: 0 }\n#coal { top: 0 }",
        ),
        (
            "p { colour: red }",
            "style-property-misspelt",
            "s.css, line 1: There is no property “colour”",
            "p { color: red }",
        ),
        ("p { top: 0 }\n}\n", "style-brace-missing", "s.css, line 2: This } ends nothing", "p { top: 0 }\n\n"),
    ],
)
def test_slips_of_a_style_sheet_are_told_on_the_page_that_loads_it(css, code, message, right):
    site = _styled(css)
    (found,) = [one for one in check_page(site, "a.html") if one.rule.code == code]
    assert message in found.message
    plan = plan_fixes(site, ["a.html"], [code], found.span.start, 0)
    assert plan.outcome(site.source, lambda _: b"")["s.css"] == right.encode()


def test_what_style_rules_load_and_the_site_does_not_have():
    site = _styled(
        "p { background: url(no.png) } b { background: url('no.png') } i { background: url(yes.png) }"
        " a { background: url(data:,) } /* url(none.png) */",
        **{
            "yes.png": b"",
            "b.html": "<!DOCTYPE html><html lang=en><title>B</title><body style='background:url(x.png)'><h1>B</h1>"
            "<style>p { background: url(y.png) }</style><p><img src=yes.png srcset='yes.png 1x, z.png 2x' alt=''>",
        },
    )
    lost = [one.message for one in check_page(site, "a.html") if one.rule.code == "file-missing"]
    assert lost == ["s.css, line 1, loads “no.png”, which is not in the site."]
    lost = [one.message for one in check_page(site, "b.html") if one.rule.code == "file-missing"]
    assert [words.partition("“")[2].partition("”")[0] for words in lost] == ["x.png", "y.png", "z.png"]
    assert "The srcset of this img element" in lost[2]
