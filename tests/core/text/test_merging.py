"""Two people's edits of one text brought together."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from signpost.core.text.merging import merge, merge_pieces, pieces_without_base

LINES = st.lists(st.sampled_from(["a\n", "b\n", "c\r\n", "d\r", "e\n", "\n"]), max_size=8)
TEXT = st.builds(lambda lines, rest: "".join(lines) + rest, LINES, st.sampled_from(["", "x", "y"]))


@pytest.mark.parametrize(
    ("base", "ours", "theirs", "merged"),
    [
        ("a\nb\nc\n", "A\nb\nc\n", "a\nb\nC\n", "A\nb\nC\n"),
        ("a\nb\nc\n", "a\nc\n", "a\nb\nc\nd\n", "a\nc\nd\n"),
        ("a\nb\nc\n", "a\nX\nc\n", "a\nX\nc\n", "a\nX\nc\n"),  # alike
        ("a\nb\nc\n", "a\nX\nc\n", "a\nY\nc\n", None),
        ("a\nb\nc\n", "A\nb\nc\n", "a\nB\nc\n", None),  # side by side
        ("a\nb\nc\n", "n\na\nb\nc\n", "a\nb\nc\n", "n\na\nb\nc\n"),
        ("", "a\n", "b\n", None),
        ("a", "a\n", "b", None),
    ],
)
def test_edits_of_other_lines_are_brought_together_and_those_of_the_same_are_not(base, ours, theirs, merged):
    assert merge(base, ours, theirs) == merged
    assert merge(base.encode(), ours.encode(), theirs.encode()) == (None if merged is None else merged.encode())
    assert merge(base, theirs, ours) == merged


def test_a_place_has_what_was_there_before_and_both_versions():
    pieces = merge_pieces("a\nb\nc\nd\n", "a\nX\nc\nD\n", "a\nY\nc\nd\n")
    assert [(one.base, one.ours, one.theirs, one.merged) for one in pieces] == [
        ("a\n", "a\n", "a\n", "a\n"),
        ("b\n", "X\n", "Y\n", None),
        ("c\n", "c\n", "c\n", "c\n"),
        ("d\n", "D\n", "d\n", "D\n"),
    ]


@given(TEXT, TEXT, TEXT)
def test_pieces_put_together_are_the_three_texts(base, ours, theirs):
    pieces = merge_pieces(base, ours, theirs)
    assert "".join(one.base for one in pieces) == base
    assert "".join(one.ours for one in pieces) == ours
    assert "".join(one.theirs for one in pieces) == theirs
    merged = [one.merged for one in pieces]
    if theirs not in (ours, base) and ours != base:
        assert merge(base, ours, theirs) == (None if None in merged else "".join(merged))


@given(TEXT, TEXT)
def test_where_one_changed_nothing_the_other_counts(base, other):
    assert merge(base, base, other) == merge(base, other, base) == merge(base, other, other) == other


@given(TEXT, TEXT)
def test_without_a_base_each_difference_is_a_place(ours, theirs):
    pieces = pieces_without_base(ours, theirs)
    assert "".join(one.ours for one in pieces) == ours
    assert "".join(one.theirs for one in pieces) == theirs
    assert all((one.merged is None) == (one.ours != one.theirs) for one in pieces)
