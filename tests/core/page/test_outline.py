"""The outline of a page."""

from pages import page_of
from signpost.core.page.outline import read_outline


def shape(sections):
    return [(section.text, shape(section.sections)) for section in sections]


def test_sections_nest_by_level_whatever_is_left_out():
    page = page_of("<h3>a</h3><h1>b</h1><h2>c</h2><h4>d</h4><h3>e</h3><h2>f</h2>")
    outline = read_outline(page)
    assert shape(outline.sections) == [
        ("a", []),
        ("b", [("c", [("d", []), ("e", [])]), ("f", [])]),
    ]
    for section in outline.flat():
        assert section.end >= section.start + len("<hn>x</hn>")
        assert all(section.start < inner.start and inner.end <= section.end for inner in section.sections)


def test_words_of_sections_add_up():
    outline = read_outline(page_of("<p>lead in</p><h1>b</h1>one<h2>c</h2>two three<h2>d</h2><h1>e f</h1>"))
    assert outline.lead_words == 2
    assert [(section.text, section.words, section.own_words) for section in outline.flat()] == [
        ("b", 6, 2),
        ("c", 3, 3),
        ("d", 1, 1),
        ("e f", 2, 2),
    ]
