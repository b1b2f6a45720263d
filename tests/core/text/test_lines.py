"""What two sequences of lines have in common."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from signpost.core.text.edits import edits_between, splice
from signpost.core.text.lines import line_opcodes
from signpost.core.text.positions import Span

LINES = st.lists(st.sampled_from("a\n b\n c\n </p>\n \n".split(" ")), max_size=60)


def rebuilt(a, b, codes):
    """The second sequence, made of the first and of what the opcodes put into it; stretches follow one another."""
    made, i, j = [], 0, 0
    for kind, a1, a2, b1, b2 in codes:
        assert (a1, b1) == (i, j)
        assert (kind == "equal") == (a[a1:a2] == b[b1:b2])
        assert (kind == "insert") == (a1 == a2)
        assert (kind == "delete") == (b1 == b2)
        made += a[a1:a2] if kind == "equal" else b[b1:b2]
        i, j = a2, b2
    assert (i, j) == (len(a), len(b))
    return made


@settings(max_examples=300)
@given(LINES, LINES)
def test_opcodes_make_the_second_of_the_first(a, b):
    assert rebuilt(a, b, line_opcodes(a, b)) == b


@settings(max_examples=100)
@given(LINES, LINES)
def test_edits_between_two_texts_make_one_of_the_other(a, b):
    old, new = "".join(a), "".join(b)
    assert splice(old, Span(0, len(old)), edits_between(old, new)) == new


@pytest.mark.parametrize(
    ("a", "b", "changed"),
    [
        pytest.param("abc", "axc", [("replace", 1, 2, 1, 2)], id="one line"),
        pytest.param("abc", "abxc", [("insert", 2, 2, 2, 3)], id="a line more"),
        pytest.param("abxc", "abc", [("delete", 2, 3, 2, 2)], id="a line less"),
        pytest.param("apbpcp", "apxpcp", [("replace", 2, 3, 2, 3)], id="among lines that repeat"),
        pytest.param("abcd", "cdab", [("delete", 0, 2, 0, 0), ("insert", 4, 4, 2, 4)], id="moved"),
        pytest.param("", "ab", [("insert", 0, 0, 0, 2)], id="all new"),
        pytest.param("ab", "", [("delete", 0, 2, 0, 0)], id="all gone"),
    ],
)
def test_what_differs_is_as_little_as_can_be(a, b, changed):
    assert [code for code in line_opcodes(a, b) if code[0] != "equal"] == changed


def test_small_changes_all_over_a_long_page_stay_small():
    a = [line for at in range(3000) for line in (f"<h2>{at}</h2>", "<p>", "words", "</p>")]
    b = [line.replace("<h2>", "<h2 id>") if line.endswith("5</h2>") else line for line in a]
    b = [line for line in b for line in ([line, "<p>top</p>"] if line.startswith("<h2 id") else [line])]
    codes = [code for code in line_opcodes(a, b) if code[0] != "equal"]
    assert rebuilt(a, b, line_opcodes(a, b)) == b
    assert len(codes) == 300
    assert all(b2 - b1 == 2 for _, _, _, b1, b2 in codes)
