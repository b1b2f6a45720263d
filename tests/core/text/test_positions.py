"""Places in a text, found from what stands near them."""

from hypothesis import given
from hypothesis import strategies as st

from signpost.core.text.positions import end_before, line_start


@given(text=st.text(alphabet=" \n\tab", max_size=400), data=st.data())
def test_what_stands_before_a_place_ends_where_white_space_begins(text, data):
    offset = data.draw(st.integers(0, len(text)))
    assert end_before(text, offset) == len(text[:offset].rstrip())


@given(text=st.text(alphabet="ab\r\n", max_size=60), data=st.data())
def test_a_line_starts_behind_the_last_line_end(text, data):
    offset = data.draw(st.integers(0, len(text)))
    assert line_start(text, offset) == max(text.rfind("\n", 0, offset), text.rfind("\r", 0, offset)) + 1
