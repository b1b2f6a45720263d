"""What stayed from a copy, parts of unequal length, pages that lead on to one another, style sheets; and clean twins."""

import pytest

from checked import GOOD, site_with
from pages import page_of, site_of
from parted import after
from signpost.core.findings import check_page
from signpost.core.findings.fixing import plan_fixes
from signpost.core.parts.planning import plan_parts
from signpost.core.site.site import Site
from signpost.core.text.source import read_source

OF_COPIES = ("number-repeated", "comment-copied", "entry-words-differ")


def found(site, path="page.html", only=()):
    return [one for one in check_page(site, path) if one.rule.code in only]


def headings(*titles, tag="h2"):
    return "".join(f"<{tag}>{title}</{tag}><p>About it.</p>\n" for title in titles)


@pytest.mark.parametrize(
    ("markup", "codes"),
    [
        pytest.param(headings("1. Coal", "2. Water", "2. Ash"), ["number-repeated"], id="heading"),
        pytest.param(headings("1 Coal", "2 Water", "2 Ash", "3 Oil"), ["number-repeated"], id="the rest counts on"),
        pytest.param(headings("1 Coal", "2 Water", "2 Ash", "4 Oil"), ["number-repeated"], id="only the number is wrong"),
        pytest.param(headings("1. Coal", "2. Water", "3. Ash"), [], id="right"),
        pytest.param(headings("2.1 Coal", "2.2 Water", "2.3 Ash"), [], id="right, with two numbers"),
        pytest.param(headings("1 Coal", "1 Water"), [], id="too few to tell"),
        pytest.param(headings("2 wheels", "2 axles", "Ash"), [], id="not all have numbers"),
        pytest.param(headings("4 Mill Lane", "4 Mill Lane, again", "8 High Street"), [], id="house numbers"),
        pytest.param(
            "<figure><figcaption>Figure 1: Cab</figcaption></figure><figure><figcaption>figure 1 Box</figcaption></figure>",
            ["number-repeated"],
            id="caption",
        ),
        pytest.param(
            "<figure><figcaption>Figure 1: Cab</figcaption></figure><table><caption>Table 1</caption></table>",
            [],
            id="a figure and a table",
        ),
        pytest.param(
            "<!-- Coal --><h2>Coal</h2><p>a</p><!-- Coal --><h2>Water</h2><p>b</p>", ["comment-copied"], id="comment"
        ),
        pytest.param("<!-- Coal --><h2>Coal</h2><p>a</p><!-- Water --><h2>Water</h2><p>b</p>", [], id="own comments"),
        pytest.param("<!-- new --><h2>Coal</h2><p>a</p><!-- new --><h2>Water</h2><p>b</p>", [], id="no names"),
        pytest.param(
            "<!-- Coal --><h2>Coal</h2><p>a</p><h2>Water</h2><!-- Coal --><p>b</p>", [], id="not before the heading"
        ),
    ],
)  # fmt: skip
def test_what_stayed_from_a_copy(markup, codes):
    assert [one.rule.code for one in found(site_with(markup), only=OF_COPIES)] == codes


def test_a_copied_comment_gets_the_name_of_its_section():
    site = site_with("<!-- Coal --><h2>Coal</h2><p>a</p><!--  Coal  --><h2>Water &amp; oil</h2><p>b</p>")
    fixed = after(site, plan_fixes(site, ["page.html"], ["comment-copied"]))
    assert "<!--  Water & oil  --><h2>" in fixed.pages["page.html"].text


LISTED = [
    ("coal", "Coal"),
    ("oil", "Oil"),
    ("steam", "Steam"),
    ("water", "Water"),
    ("ash", "Ash"),
    ("tools", "Tools"),
]


def page_with_list(*entries):
    entries = dict(LISTED) | dict(entries)
    items = "".join(f"<li><a href=#{name}>{words}</a></li>\n" for name, words in entries.items())
    return f"<ul>\n{items}</ul>\n" + "".join(
        f"<h2 id={name}>{words}</h2>\n<p>About it.</p>\n" for name, words in LISTED
    )


def test_entries_made_by_hand_whose_words_are_others_than_the_heading_s():
    site = site_with(
        page_with_list(("tools", "Hammers and such")).replace("id=tools", "id=t9").replace("#tools", "#t9")
    )
    (one,) = found(site, only=OF_COPIES)
    assert one.message == "The entry “Hammers and such” leads to a heading that says “Tools”."
    fixed = after(site, plan_fixes(site, ["page.html"], ["entry-words-differ"], choice=0))
    assert "<a href=#t9>Tools</a>" in fixed.pages["page.html"].text
    assert found(fixed, only=OF_COPIES) == []


@pytest.mark.parametrize("words", ["Tools", "The tools", "tooling", "3. Tools", "Tools we use", "<b>Tools</b>"])
def test_entries_that_only_shorten_or_lengthen_are_left_alone(words):
    assert found(site_with(page_with_list(("tools", words))), only=OF_COPIES) == []


# ------------------------------------------------------------------- parts


def cut(*lengths):
    body = "".join(f"<h2 id=s{at}>S{at}</h2>\n<p>{'word ' * count}</p>\n" for at, count in enumerate(lengths))
    page = GOOD.replace("{}", body)
    return site_of(page=page, index="<html lang=en><title>I</title><a href=page.html>p</a>")


@pytest.mark.parametrize(
    ("lengths", "expected"),
    [
        pytest.param((2000, 2000, 2000), [], id="alike"),
        pytest.param((2000, 2500, 20), ["part-short"], id="short"),
        pytest.param((1000, 900, 9000), ["part-long"], id="long"),
        pytest.param((30, 40, 5), [], id="all are short"),
    ],
)
def test_parts_that_are_far_longer_or_shorter_than_the_others(lengths, expected):
    site = cut(*lengths)
    parts = after(site, plan_parts(site, "page.html", range(2, len(lengths) + 1)))
    codes = [
        one.rule.code for path in parts.pages for one in check_page(parts, path) if one.rule.code.startswith("part-")
    ]
    assert codes == expected


# ------------------------------------------------------------------- several pages


def led(**pages):
    head = "<html lang=en><title>{}</title>"
    files = {f"{name}.html": head.replace("{}", name) + markup for name, markup in pages.items()}
    return Site({path: page_of(text, path) for path, text in files.items()}, frozenset(files))


@pytest.mark.parametrize(
    ("there", "codes"),
    [
        ("<a rel=prev href=a.html>a</a>", []),
        ("<a rel=previous href=a.html>a</a>", []),
        ("<link rel='prev bookmark' href=a.html>", []),
        ("<a href=a.html>a</a>", []),
        ("<a rel=prev href=c.html>c</a>", ["pair-one-way"]),
        ("<a rel=next href=c.html>c</a>", []),
    ],
)
def test_next_and_previous_have_to_match(there, codes):
    site = led(a="<a rel=next href=b.html>b</a>", b=there, c="<p>c</p>")
    assert [one.rule.code for one in found(site, "a.html", ["pair-one-way"])] == codes


def test_a_jump_in_a_menu_that_only_one_page_has():
    menu = "<nav><a href=a.html>A</a> <a href=b.html>B</a> <a href='#fares'>Fares</a></nav>"
    site = led(a=menu + "<main><h1>A</h1><p id=fares>f</p></main>", b=menu + "<main><h1>B</h1><p>b</p></main>")
    codes = ["menu-jump-alone", "fragment-elsewhere"]
    assert found(site, "a.html", codes) == []
    (one,) = found(site, "b.html", codes)
    assert one.rule.code == "menu-jump-alone"
    fixed = after(site, plan_fixes(site, ["b.html"], ["menu-jump-alone"], choice=0))
    assert "<a href='a.html#fares'>" in fixed.pages["b.html"].text
    in_text = led(a="<main><p id=fares>f</p></main>", b="<main><p><a href=#fares>f</a></p></main>")
    assert [one.rule.code for one in found(in_text, "b.html", codes)] == ["fragment-elsewhere"]


def styled(css, *pages):
    head = "<html lang=en><link rel=stylesheet href=s.css><title>T</title>"
    files = {f"{name}.html": head + markup for name, markup in zip("abc", pages, strict=False)}
    texts = {"s.css": read_source(css.encode())}
    return Site(
        {path: page_of(text, path) for path, text in files.items()}, frozenset([*files, "s.css"]), texts=texts
    )


@pytest.mark.parametrize(
    ("css", "pages", "count"),
    [
        pytest.param("p { margin: 0 }\n#note { color: red }", ["<p class=note>", "<p>"], 1, id="a class is meant"),
        pytest.param("#note { color: red }", ["<p class=note>", "<p id=note>"], 0, id="another page has it"),
        pytest.param("#note { color: red }", ["<p>", "<p>"], 0, id="neither"),
        pytest.param(".note { color: #note }", ["<p class=note>", "<p>"], 0, id="a colour"),
        pytest.param(
            "#note { color: red }", ["<p class=note><script></script>", "<p>"], 0, id="a script may make it"
        ),
    ],
)
def test_rules_of_a_style_sheet_that_style_nothing(css, pages, count):
    site = styled(css, *pages)
    hits = [one for path in site.pages for one in found(site, path, ["style-hash-for-class"])]
    assert [one.page for one in hits] == ["a.html"] * count
    if count:
        assert "s.css, line 2, has a rule for #note" in hits[0].message
        plan = plan_fixes(site, ["a.html"])
        assert [edit.text for edit in plan.edits["s.css"].edits] == ["."]
