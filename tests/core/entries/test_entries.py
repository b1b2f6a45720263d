"""Entry lists: terms read, sorted as their language does, made into entries, updated without loss."""

import io

import openpyxl
import pytest
from hypothesis import given
from hypothesis import strategies as st

from pages import edited, page_of
from signpost.core.addresses.fragments import find_indicated
from signpost.core.entries.collation import initial, sort_key
from signpost.core.entries.planning import Bar, EntriesOptions, plan_entries, plan_letters, plan_no_letters
from signpost.core.entries.terms import Term, read_terms, rows_to_terms
from signpost.core.page.outline import read_outline
from signpost.core.text.edits import apply_edits
from signpost.core.text.errors import RequestError
from signpost.sheets import read_rows
from strategies import pages, tidy_block

PAGE = "<html lang=en>\n<body>\n<h1 class='t'>Words</h1>\n<p class='l'>Lead.</p>\n</body>\n</html>\n"
OPTIONS = EntriesOptions()


def after(page, terms, options=OPTIONS):
    return edited(
        page, plan_entries(page, [Term(one) if isinstance(one, str) else one for one in terms], options).edits
    )


def headings(page):
    return [(heading.text, heading.identifier) for heading in page.headings if heading.level > 1]


@pytest.mark.parametrize(
    ("text", "terms"),
    [
        ("coal\n\n  water  \n", [Term("coal"), Term("water")]),
        ("\ufeffcoal, and water\nashes", [Term("coal, and water"), Term("ashes")]),
        ("coal\tburns\nwater\t", [Term("coal", text="burns"), Term("water")]),
        (
            'term,label,id,text\ncoal,Coal (steam),c,"black, hard"\n',
            [Term("coal", "Coal (steam)", "c", "black, hard")],
        ),
        ('Term\tText\n"coal"\t"one\n\ntwo"\n', [Term("coal", text="one\n\ntwo")]),
        ("label,term\nA label,\n", [Term("A label", "A label")]),
        ("the text, the term\nother", [Term("the text, the term"), Term("other")]),
    ],
)
def test_terms_are_read_from_lines_and_tables(text, terms):
    assert read_terms(text) == terms


@pytest.mark.parametrize("text", ["", "\n \n", "term,text\n,\n", "x\n" * 5001])
def test_what_is_no_list_of_terms(text):
    with pytest.raises(RequestError):
        read_terms(text)


def test_terms_come_from_a_workbook():
    book = openpyxl.Workbook()
    for row in (["Term", None, "Text"], ["coal", None, "black"], [7.0, None, None]):
        book.active.append(row)
    data = io.BytesIO()
    book.save(data)
    assert rows_to_terms(read_rows(data.getvalue())) == [Term("coal", text="black"), Term("7")]
    with pytest.raises(RequestError, match="not an XLSX"):
        read_rows(b"term,text")


@pytest.mark.parametrize(
    ("language", "words"),
    [
        ("en", ["Åland", "apple", "éclair", "Eclipse", "Zebra"]),
        ("sv-SE", ["apple", "zebra", "Åland", "Ängel", "öl"]),
        ("da", ["abe", "zebra", "Ærø", "øl", "aal", "Århus"]),
        ("de", ["Apfel", "Äpfel", "Öl", "Zug"]),
        ("es", ["nube", "ñandú", "ola"]),
        ("cs", ["cena", "čaj", "hora", "chata", "iva"]),
        (None, ["alpha", "βήτα", "гамма"]),
    ],
)
def test_words_sort_as_their_language_does(language, words):
    other = [*reversed(words)]
    assert sorted(other, key=lambda word: sort_key(word, language)) == words


@pytest.mark.parametrize(
    ("language", "words", "letter"),
    [("en", "éclair", "E"), ("sv", "ängel", "Ä"), ("cs", "chata", "Ch"), ("en", "“quoted”", "Q"), ("en", "7-inch", "#"), ("en", "<a>", "A"), ("ru", "ёлка", "Ё")],
)  # fmt: skip
def test_the_letter_that_words_stand_under(language, words, letter):
    assert initial(words, language) == letter


def test_each_term_gets_an_entry_in_the_page_s_hand_with_a_bar_above():
    page = after(
        page_of(PAGE),
        ["water", Term("<a>", text="A link & more.\n\nTwo."), Term("C++", label="C++ (language)"), "Water", "apple"],
    )
    assert headings(page) == [
        ("<a>", "a"),
        ("apple", "apple"),
        ("C++ (language)", "c-plus-plus-language"),
        ("water", "water"),
    ]
    assert "<h2 id='a'>&lt;a&gt;</h2>\n<p>A link &amp; more.</p>\n<p>Two.</p>\n<h2 id='apple'>" in page.text
    assert (
        "<nav class='letters' aria-label='A–Z'><a href='#a'>A</a> <a href='#c-plus-plus-language'>C</a> <a href='#water'>W</a></nav>\n<h2"
        in page.text
    )
    assert page.text.endswith("</h2>\n</body>\n</html>\n")


def test_a_later_list_updates_and_keeps_what_was_written():
    page = after(page_of(PAGE), ["water", "coal"])
    page = page_of(page.text.replace("water</h2>", "water</h2>\n<p class='l'>It <em>boils</em>.</p>"))
    plan = plan_entries(
        page, [Term("coal", label="Coal, hard"), Term("ashes"), Term("water", text="ignored"), Term("zinc")], OPTIONS
    )
    assert (plan.new, plan.known, plan.doubles) == (2, 2, 0)
    later = edited(page, plan.edits)
    assert headings(later) == [("ashes", "ashes"), ("Coal, hard", "coal"), ("water", "water"), ("zinc", "zinc")]
    assert "<p class='l'>It <em>boils</em>.</p>\n<h2 id='zinc'>" in later.text
    assert ">A</a> <a href='#coal'>C</a> <a href='#water'>W</a> <a href='#zinc'>Z</a></nav>" in later.text
    again = plan_entries(later, [Term("Coal, hard"), Term("ashes"), Term("water"), Term("zinc")], OPTIONS)
    assert not again.edits


def test_entries_of_a_section_with_a_row_above():
    page = page_of("<h1>T</h1>\n<h2 id=w>Words</h2>\n<p>lead</p>\n<h2 id=x>Other</h2>\n")
    made = after(page, ["coal", "ashes"], EntriesOptions(home=1, bar=Bar.ROW, sort=False))
    assert [(one.level, one.text) for one in read_outline(made).flat()][1:] == [
        (2, "Words"),
        (3, "coal"),
        (3, "ashes"),
        (2, "Other"),
    ]
    assert ">coal</a> · <a" in made.text
    with pytest.raises(RequestError, match="not there any more"):
        plan_entries(page, [Term("x")], EntriesOptions(home=9))


@pytest.mark.parametrize("identifier", ["two words", "top", "there"])
def test_identifiers_that_cannot_be(identifier):
    page = page_of("<h1 id=there>T</h1>")
    with pytest.raises(RequestError, match="coal"):
        plan_entries(page, [Term("coal", identifier=identifier)], OPTIONS)


word = st.sampled_from(["coal", "<b>", "C++", "R&D", "Ärger", "42", "coal", "a -- b", "“x”"])


@given(pages(blocks=tidy_block), st.lists(word, min_size=1, max_size=6), st.sampled_from(list(Bar)))
def test_every_term_has_one_entry_and_every_letter_leads_there(data, words, bar):
    page = page_of(data)
    options = EntriesOptions(bar=bar)
    made = after(page, words, options)
    texts = [heading.text for heading in made.headings if heading.level == 2]
    before = [heading.text.casefold() for heading in page.headings if heading.level == 2]
    for one in set(words):
        assert texts.count(one) == (1 if one.casefold() not in before else texts.count(one))
    assert not plan_entries(made, [Term(one) for one in words], options).edits
    for block in made.made_blocks("letters"):
        assert all(find_indicated(link.href[1:], made.index_targets()) for link in block.links)
    bare = edited(made, plan_no_letters(made))
    assert (
        apply_edits(bare.source, plan_letters(bare, None)) == made.source.encode(made.text) or bar is not Bar.LETTERS
    )


def test_an_entry_behind_sections_out_of_order_does_not_come_twice():
    words = ["coal", "<b>", "\u201cx\u201d"]
    made = after(
        page_of(b"<!DOCTYPE html><title>T</title><h2>signal box</h2><h2>Boiler</h2>"), words, EntriesOptions()
    )
    assert not plan_entries(made, [Term(one) for one in words], EntriesOptions()).edits


def test_semicolons_part_columns_and_cells_may_be_long():
    long = "word " * 60_000
    terms = read_terms(f'term;text\nAxle;"turns; and turns"\nBolt;{long}\n')
    assert [(term.term, term.text.strip()) for term in terms] == [
        ("Axle", "turns; and turns"),
        ("Bolt", long.strip()),
    ]
    assert [term.term for term in read_terms("Axle; the\nBolt")] == ["Axle; the", "Bolt"]


def test_numbers_sort_as_numbers():
    words = ["Class 10", "Class 2", "Class 2a", "Axle 1", "100", "20"]
    assert sorted(words, key=lambda word: sort_key(word, "en")) == [
        "20",
        "100",
        "Axle 1",
        "Class 2",
        "Class 2a",
        "Class 10",
    ]


def test_sections_that_are_no_entries_are_left_alone():
    page = page_of(
        "<h1>G</h1><h2 id=z>Using it</h2><p>t</p>\n<h2 id=a>Axle</h2><p>t</p>\n<h2 id=b>Boiler</h2><p>t</p>\n"
        "<h2 id=c>Coal</h2><p>t</p>\n<h2 id=d>About this page</h2><p>t</p>\n"
    )
    made = edited(page, plan_entries(page, [Term("Bolt"), Term("Ash")], EntriesOptions()).edits)
    assert [heading.text for heading in made.headings][1:] == [
        "Using it", "Ash", "Axle", "Boiler", "Bolt", "Coal", "About this page",
    ]  # fmt: skip
    assert [link.text for link in made.made_blocks("letters")[0].links] == ["A", "B", "C"]
