"""What a fragment that leads nowhere may have meant."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from signpost.core.addresses.nearness import NameIndex, _distance

NAMES = st.lists(
    st.text("abcdeABC123-_ ", min_size=1, max_size=12) | st.sampled_from(["boiler-care", "Boiler_Care", "section-2"]),
    max_size=12,
)


@given(st.text("abcdeABC123-_ ", max_size=12) | st.sampled_from(["boilercare", "boiler", "section-two"]), NAMES)
def test_the_index_finds_what_comparing_with_each_name_finds(fragment, names):
    names = list(dict.fromkeys(names))
    far = [(distance, at) for at, name in enumerate(names) if (distance := _distance(fragment, name)) is not None]
    assert NameIndex(names).near(fragment) == [names[at] for _, at in sorted(far)][:5]
    assert NameIndex(names).alike(fragment) == [names[at] for distance, at in far if distance <= 1]


@pytest.mark.parametrize(
    ("fragment", "alike"),
    [
        ("Boiler_Care", ["boiler-care"]),
        ("boiler%2Dcare", ["boiler-care"]),
        ("section-two", ["section-2"]),
        ("coal", []),
    ],
)
def test_names_that_sound_alike(fragment, alike):
    assert NameIndex(["boiler-care", "section-2", "boilers"]).alike(fragment) == alike


def test_nearest_first():
    assert NameIndex(["coal", "boiler", "boiler-care"]).near("boiler-car")[0] == "boiler-care"
