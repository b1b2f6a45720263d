import random
import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from signpost.core.text.edits import (
    Edit,
    apply_edits,
    apply_to_text,
    edit_set,
    edits_between,
    edits_for_typed_text,
    shown_text,
)
from signpost.core.text.errors import OutOfBoundsError, OverlapError, StaleError
from signpost.core.text.source import read_source
from strategies import pages

SOURCE = read_source(b"0123456789")


def result(*edits: Edit) -> str:
    return apply_to_text(SOURCE, edit_set(SOURCE, edits))


def test_offsets_mean_the_original():
    assert result(Edit(8, 9, "eight"), Edit(1, 3, ""), Edit(0, 0, ">")) == ">034567eight9"


def test_rank_orders_insertions_at_one_point_however_they_were_given():
    edits = [Edit(5, 5, name, rank) for rank, name in enumerate("abcd")]
    for order in (edits, edits[::-1], random.Random(1).sample(edits, 4)):
        assert result(*order) == "01234abcd56789"


@pytest.mark.parametrize(
    "edits",
    [
        pytest.param([Edit(1, 4, "x"), Edit(3, 5, "y")], id="overlapping"),
        pytest.param([Edit(1, 4, "x"), Edit(1, 4, "y")], id="the same range"),
        pytest.param([Edit(1, 4, "x"), Edit(1, 2, "y")], id="the same start"),
        pytest.param([Edit(1, 4, "x"), Edit(2, 2, "y")], id="an insertion within a replacement"),
        pytest.param([Edit(2, 2, "x"), Edit(2, 2, "y")], id="two insertions of one rank at one point"),
    ],
)
def test_conflicts_are_loud_and_name_both_edits(edits):
    with pytest.raises(OverlapError) as caught:
        edit_set(SOURCE, edits)
    assert {caught.value.first, caught.value.second} == set(edits)


@pytest.mark.parametrize("edit", [Edit(-1, 2, ""), Edit(5, 11, ""), Edit(4, 3, "")])
def test_edits_beyond_the_text_are_refused(edit):
    with pytest.raises(OutOfBoundsError):
        edit_set(SOURCE, [edit])


def test_an_insertion_may_touch_a_replacement():
    assert result(Edit(2, 4, "x"), Edit(2, 2, "a"), Edit(4, 4, "b")) == "01axb456789"


def test_a_plan_for_another_text_is_refused():
    with pytest.raises(StaleError):
        apply_edits(read_source(b"other"), edit_set(SOURCE, [Edit(0, 1, "x")]))


@st.composite
def edits_of(draw, length: int):
    points = sorted(draw(st.sets(st.integers(1, length), max_size=8)))
    pairs = zip(points[::2], points[1::2], strict=False)
    return [Edit(start, end, draw(st.sampled_from(["", "x", "<b>", "\r\n", "é"]))) for start, end in pairs]


@given(pages(), st.data())
def test_bytes_outside_the_edits_are_the_same_and_the_inverse_restores(data, draws):
    source = read_source(data)
    edits = edit_set(source, draws.draw(edits_of(len(source.text))))
    after = apply_edits(source, edits)
    if not edits:
        assert after == data
        return
    text, at, seen = apply_to_text(source, edits), 0, 0
    for edit in edits.edits:
        kept = source.text[at : edit.start]
        assert text[seen : seen + len(kept)] == kept
        seen += len(kept) + len(edit.text)
        at = edit.end
    assert text[seen:] == source.text[at:]


@given(st.text("ab\n", max_size=40), st.text("ab\n", max_size=40))
def test_edits_between_two_texts_lead_from_one_to_the_other(old, new):
    source = read_source(old.encode())
    assert apply_to_text(source, edit_set(source, edits_between(old, new))) == new


@given(pages())
def test_what_an_editor_shows_unchanged_changes_nothing(data):
    source = read_source(data)
    shown = source.text.replace("\r\n", "\n").replace("\r", "\n")
    assert shown_text(source) == shown.removeprefix("\ufeff")
    assert not edits_for_typed_text(source, shown)
    assert not edits_for_typed_text(source, shown_text(source))


def test_typed_lines_take_the_page_s_line_end_and_leave_the_others():
    source = read_source(b"one\r\ntwo\nthree\r\n")
    assert (
        apply_to_text(source, edits_for_typed_text(source, "one\nnew\ntwo\nthree!\n"))
        == "one\r\nnew\r\ntwo\nthree!\r\n"
    )


@given(pages(), st.data())
def test_what_is_typed_comes_out_and_lines_left_alone_keep_their_ends(data, draws):
    source = read_source(data)
    lines = re.split("(?<=\n)", re.sub("\r\n|\r", "\n", source.text))
    start, end = sorted(draws.draw(st.tuples(*[st.integers(1, len(lines))] * 2)))
    lines[start:end] = draws.draw(st.lists(st.sampled_from(["<h2>typed</h2>\n", "\n", "ä\n", "x\n"]), max_size=4))
    typed = "".join(lines)
    after = apply_to_text(source, edits_for_typed_text(source, typed))
    assert re.sub("\r\n|\r", "\n", after) == typed
    kept = re.split("(?<=\n)|(?<=\r)(?!\n)", source.text)[:start]
    assert after.startswith("".join(kept[:-1]))
