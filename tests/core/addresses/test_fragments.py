"""What fragments lead to."""

import pytest

from pages import page_of
from signpost.core.addresses.fragments import TOP, find_indicated


@pytest.mark.parametrize(
    ("fragment", "element"),
    [
        ("", TOP),
        ("coal", "h2"),
        ("Coal", None),
        ("old", "a"),
        ("both", "h3"),
        ("caf%C3%A9", "h4"),
        ("100%25", "h5"),
        ("top", TOP),
        ("TOP", TOP),
        ("%74op", TOP),
        ("inside", None),
        ("div-name", None),
    ],
)
def test_where_a_fragment_leads(fragment, element):
    page = page_of(
        "<a name=both></a><div name=div-name></div><h2 id=coal>a</h2><p id=coal>b</p><a name=old></a><h3 id=both></h3>"
        "<h4 id=café></h4><h5 id='100%25'></h5><template><p id=inside></template>"
    )
    found = find_indicated(fragment, page.index_targets())
    assert (found if found in (TOP, None) else found.element) == element


def test_an_element_called_top_wins_over_the_top_of_the_page():
    assert find_indicated("top", page_of("<p id=top>").index_targets()) is not TOP
