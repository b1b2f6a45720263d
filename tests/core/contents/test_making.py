"""Contents made, refreshed and removed."""

import re

from hypothesis import given
from hypothesis import strategies as st

from pages import edited, page_of, text_after
from signpost.core.addresses.fragments import find_indicated
from signpost.core.contents import ContentsOptions, Form, find_contents, plan_contents, plan_no_contents
from signpost.core.identifiers.sections import plan_identifiers
from signpost.core.text.edits import apply_edits
from strategies import pages

OPTIONS = ContentsOptions()


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
