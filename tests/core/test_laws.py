"""The law above all others, over every operation: nothing of the author's is lost but what the operation's name says."""

import contextlib
from collections import Counter
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from laws import lost, of_address, of_empty_identifier, of_level, of_looks, of_nothing
from pages import edited, page_of
from signpost.core.back_to_top.planning import BackLinkOptions, Corner, plan_back_links, plan_no_back_links
from signpost.core.contents import (
    NEW,
    ContentsOptions,
    Form,
    find_blocks,
    find_handmade,
    plan_contents,
    plan_no_contents,
)
from signpost.core.headings.end_comments import plan_end_notes, plan_separators
from signpost.core.headings.levels import plan_closed_gaps
from signpost.core.headings.lookalikes import find_lookalikes
from signpost.core.headings.promotions import plan_promotions
from signpost.core.headings.wrapping import plan_wrapping
from signpost.core.identifiers.anchors import plan_anchors
from signpost.core.identifiers.sections import plan_identifiers
from signpost.core.page.tidying import plan_tidied
from signpost.core.parts.cuts import find_cuts
from signpost.core.parts.planning import plan_parts
from signpost.core.references.renames import plan_rename
from signpost.core.site.site import single_page_site
from signpost.core.text.edits import apply_edits
from signpost.core.text.errors import SignpostError
from signpost.core.text.source import read_source
from strategies import block, heading, layout, listing, pages, row

composed = pages(blocks=st.one_of(block, listing, row, layout, heading(), heading()))


def promote_all(page):
    return plan_promotions(page, {index: one.level for index, one in enumerate(find_lookalikes(page))})


def of_anchor(piece):
    """Whether a piece is an anchor's name, which becomes an identifier."""
    return piece[:3] == ("attribute", "a", "name")


OPERATIONS = {
    "identifiers": (plan_identifiers, of_nothing),
    "contents": (lambda page: plan_contents(page, ContentsOptions()), of_address),
    "contents of all levels": (lambda page: plan_contents(page, ContentsOptions(levels=range(1, 7))), of_address),
    "other contents": (lambda page: plan_contents(page, ContentsOptions(form=Form.ROW, block=NEW)), of_nothing),
    "ways back": (lambda page: plan_back_links(page, BackLinkOptions(levels=(1, 2, 3))), of_nothing),
    "ways back by the headings": (
        lambda page: plan_back_links(page, BackLinkOptions(corner=Corner.HEADING)),
        of_nothing,
    ),
    "look-alikes": (promote_all, of_looks),
    "gaps": (plan_closed_gaps, of_level),
    "wrapping": (lambda page: plan_wrapping(page, range(1, 7)).edits, of_nothing),
    "separators": (lambda page: plan_separators(page, (2,)), of_nothing),
    "end notes": (plan_end_notes, of_nothing),
    "tidied": (lambda page: plan_tidied(page, 1, 10_000), of_nothing),
    "anchors kept": (lambda page: plan_anchors(page, keep=True), of_anchor),
}


@pytest.mark.parametrize("name", OPERATIONS)
def test_nothing_is_lost_but_what_the_operation_s_name_says(name):
    plan, may_go = OPERATIONS[name]
    changed = 0

    @given(composed)
    def loses_nothing(data):
        nonlocal changed
        page = page_of(data)
        if page.made_blocks("contents") or page.made_blocks("back-to-top"):
            return  # what is in blocks of ours is refreshed
        with contextlib.suppress(SignpostError):
            after = edited(page, plan(page))
            changed += after.text != page.text
            gone = {
                piece for piece in lost(page.text, after.text) if not may_go(piece) and not of_empty_identifier(piece)
            }
            assert not gone

    loses_nothing()
    assert changed >= 3 or name == "end notes", "the law was asked of changes"


@given(composed)
def test_what_was_put_in_comes_out_again_and_takes_nothing_along(data):
    page = page_of(data)
    if page.made:
        return
    for plan, back in (
        (lambda page: plan_contents(page, ContentsOptions()), plan_no_contents),
        (lambda page: plan_back_links(page, BackLinkOptions()), plan_no_back_links),
    ):
        with contextlib.suppress(SignpostError):
            made = edited(page, plan(page))
            again = edited(made, back(made))
            assert not {
                piece
                for piece in lost(page.text, again.text)
                if not (of_address(piece) or of_empty_identifier(piece))
            }
            assert not [block for block in find_blocks(again) if not block.remark.adopted]


@given(pages(blocks=st.one_of(row, row, heading(tidy=True), heading(tidy=True))))
def test_rows_in_any_hand_are_prose_or_adopted_whole(data):
    page = page_of(data)
    for one in find_handmade(page):
        entries = one.listing.entries
        assert all(later.own.start >= earlier.own.end for earlier, later in pairwise(entries))
        assert len({guess.section for guess in one.guesses if guess.section is not None}) >= 2


@given(composed)
def test_every_word_of_a_page_stands_in_one_of_its_parts(data):
    page = page_of(data)
    cuts = [cut.section for cut in find_cuts(page)]
    if not cuts or page.made:
        return
    with contextlib.suppress(SignpostError):
        plan = plan_parts(single_page_site(page), page.path, cuts[:2])
        parts = [apply_edits(page.source, plan.edits[page.path]), *plan.new_files.values()]
        text = "".join(read_source(part).text for part in parts)
        assert not {piece for piece in lost(page.text, text) if piece[0] in ("word", "element")}


odd_link = st.builds(
    lambda tag, address, quote: f"<{tag.format(quote + address + quote)}>x</{tag.split()[0]}>",
    st.sampled_from(["a href={}", "a class=' a  b' href={} title='&lt;'", "q cite={}", "form action={}"]),
    st.sampled_from(
        ["page.html?a=1&amp;b=2#coal", "./p&#97;ge.html#coal", "#co%61l", "page.html#coal ", "caf&eacute;.html#coal"]
    ),
    st.sampled_from(["'", '"']),
)
odd_names = st.sampled_from(
    [
        "<td headers='a   coal  b'>",
        "<i aria-describedby='coal\n x'>",
        "<label for=coal>",
        "<p title='coal &amp; oil'>",
    ]
)


def test_a_rename_touches_the_identifier_alone_whatever_stands_around_it():
    tried = Counter()

    @given(st.lists(st.one_of(odd_link, odd_names, heading(plain=True)), min_size=1, max_size=6))
    def touches_it_alone(blocks):
        page = page_of("<body><p id=coal>t</p>\n" + "\n".join(blocks))
        plan = plan_rename(single_page_site(page), page.path, "coal", "coke")
        after = edited(page, plan.edits[page.path])
        tried[len(plan.edits[page.path])] += 1
        undone = after.text.replace("coke", "coal")
        assert undone == page.text.replace("#co%61l", "#coal")
        assert "title='coal &amp; oil'" in after.text or "title" not in page.text or "&lt;" in page.text
        back = plan_rename(single_page_site(after), page.path, "coke", "coal")
        assert edited(after, back.edits[page.path]).text == undone

    touches_it_alone()
    assert sum(count for edits, count in tried.items() if edits > 2) > 10, (
        "renames were asked of pages that refer to it"
    )
