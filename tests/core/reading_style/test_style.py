"""The reading style: written between its marks, in the sheet's hand, and out again without a trace."""

from dataclasses import replace

import pytest
import tinycss2
from hypothesis import given
from hypothesis import strategies as st

from pages import page_of
from signpost.core.reading_style.style import (
    BEGIN,
    ReadingStyle,
    StylePart,
    find_sheet,
    find_used_parts,
    plan_no_style,
    plan_style,
    read_style,
    write_style,
)
from signpost.core.site.site import Site
from signpost.core.text.edits import apply_edits
from signpost.core.text.errors import RequestError
from signpost.core.text.source import read_source

ALL = ReadingStyle(tuple(StylePart))
PAGE = '<html>\n<head>\n  <title>T</title>\n  <link rel="stylesheet" href="main.css">\n</head>\n<body>\n<nav class="contents beside"></nav>\n<p class="back-to-top"><a href="#top">Up</a></p>\n<pre>x</pre>\n'
SHEET = "/* ours */\r\nh2 {\r\n\tcolor: red;\r\n}\r\n"


def test_a_sheet_in_capitals_and_a_link_with_a_bracket_come_out_again():
    page = PAGE.replace(
        '<link rel="stylesheet" href="main.css">', '<link rel="stylesheet" title="a > b" href="STYLE.CSS">'
    )
    pages = {"page.html": page_of(page)}
    site = Site(pages, frozenset(["page.html", "STYLE.CSS"]), texts={"STYLE.CSS": read_source(SHEET.encode())})
    styled = after(site, plan_style(site, ALL))
    assert BEGIN in styled.texts["STYLE.CSS"].text
    assert after(styled, plan_no_style(styled)).texts["STYLE.CSS"].text == SHEET
    own = Site(pages, site.files, texts={"STYLE.CSS": read_source(write_style(ALL, None).encode())})
    assert '<link rel="stylesheet"' not in after(own, plan_no_style(own)).pages["page.html"].text
    assert ' b"' not in after(own, plan_no_style(own)).pages["page.html"].text


def site_with(sheet: str | None = SHEET, page: str = PAGE) -> Site:
    texts = {} if sheet is None else {"main.css": read_source(sheet.encode())}
    pages = {path: page_of(page, path) for path in ("page.html", "other.html")}
    return Site(pages, frozenset([*pages, *texts]), texts=texts)


def after(site: Site, plan) -> Site:
    pages, texts = dict(site.pages), dict(site.texts)
    for path, edits in plan.edits.items():
        data = apply_edits(site.source(path), edits)
        if path in pages:
            pages[path] = page_of(data, path)
        else:
            texts[path] = read_source(data)
    texts |= {path: read_source(data) for path, data in plan.new_files.items()}
    texts = {path: source for path, source in texts.items() if path not in plan.gone}
    return Site(pages, frozenset([*pages, *texts]), texts=texts)


def test_the_style_follows_the_sheet_s_hand_and_leaves_the_author_s_rules():
    styled = after(site_with(), plan_style(site_with(), ALL))
    text = styled.texts["main.css"].text
    assert text.startswith(SHEET + BEGIN + "\r\n")
    assert "\r\n\tscroll-padding-top: 4rem;\r\n" in text
    assert "\n" not in text.replace("\r\n", "")
    assert read_style(styled) == ALL
    assert not plan_style(styled, ALL)


@pytest.mark.parametrize("sheet", [SHEET, "", "h2 { color: red }", "a{}\n\n"])
@given(st.sets(st.sampled_from(list(StylePart))), st.sampled_from(["#abc", "#123456"]), st.integers(0, 40))
def test_renewed_and_taken_out_gives_the_first_bytes(sheet, parts, accent, bar):
    site = site_with(sheet)
    style = ReadingStyle(tuple(part for part in StylePart if part in parts), accent, bar=bar)
    styled = after(after(site, plan_style(site, ALL)), plan_style(after(site, plan_style(site, ALL)), style))
    assert read_style(styled) == style
    if not styled.texts["main.css"].text.startswith(BEGIN):
        assert after(styled, plan_no_style(styled)).texts["main.css"].text == sheet


def test_every_rule_is_valid_and_about_what_we_make():
    styled = after(site_with(), plan_style(site_with(), ALL))
    text = styled.texts["main.css"].text.partition(BEGIN)[2]
    rules = tinycss2.parse_stylesheet(text, skip_comments=True, skip_whitespace=True)
    assert len(rules) > 12
    for rule in rules:
        assert rule.type in ("qualified-rule", "at-rule")
        content = tinycss2.parse_blocks_contents(rule.content, skip_comments=True, skip_whitespace=True)
        assert not [one for one in content if one.type == "error"]
    own = {
        part
        for part in StylePart
        if part not in (StylePart.ROOM, StylePart.BELOW, StylePart.MARK, StylePart.SMOOTH, StylePart.SAMPLES)
    }
    sections = after(site_with(), plan_style(site_with(), replace(ALL, parts=tuple(own)))).texts["main.css"].text
    for line in sections.partition(BEGIN)[2].splitlines():
        if line.rstrip().endswith("{") and "@media" not in line:
            assert any(
                name in line for name in (".contents", ".letters", ".back-to-top", ".part-links", ".jump-button")
            ), line


def test_parts_are_switched_on_by_what_pages_use():
    assert find_used_parts(site_with()) == [StylePart.CONTENTS, StylePart.SIDE, StylePart.BACK, StylePart.SAMPLES]
    assert find_used_parts(site_with(SHEET, '<a class="jump-button" href="#x">x</a>')) == [StylePart.BUTTONS]
    assert find_used_parts(site_with(".bar { position: fixed; top: 0 }", "<p>plain")) == [StylePart.ROOM]
    assert find_used_parts(site_with(SHEET, "<p>plain")) == []


def test_a_site_without_a_sheet_gets_one_that_its_pages_load_and_loses_it_again():
    page = PAGE.replace('  <link rel="stylesheet" href="main.css">\n', "")
    site = site_with(None, page)
    assert find_sheet(site) is None
    styled = after(site, plan_style(site, ALL))
    assert '<link rel="stylesheet" href="reading.css">\n</head>' in styled.pages["other.html"].text
    assert find_sheet(styled) == "reading.css"
    plan = plan_no_style(styled)
    bare = after(styled, plan)
    assert bare.pages["page.html"].text == page
    assert (plan.gone, plan.count) == (("reading.css",), 3)
    assert "reading.css" not in bare.files
    stray = Site(site.pages, site.files | {"reading.css"})
    with pytest.raises(RequestError, match="no page loads"):
        plan_style(stray, ALL)


@pytest.mark.parametrize(
    "style", [replace(ALL, accent="green"), replace(ALL, wash="#12"), replace(ALL, bar=-1), replace(ALL, side=900)]
)
def test_what_cannot_be_a_style(style):
    with pytest.raises(RequestError):
        plan_style(site_with(), style)
