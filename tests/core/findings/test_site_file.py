"""The site's own file: what it says, what is refused, and written as it is read."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from signpost.core.findings import RULES, Severity
from signpost.core.findings.options import Checks, PageLimits, SetAside
from signpost.core.findings.site_file import SiteFile, read_site_file, write_site_file
from signpost.core.page.furniture import Marks
from signpost.core.text.errors import InputError

SAID = """
[check]
off = ["heading-gap"]
on = ["target-unused"]
left-out = ["old"]
[check.severity]
title-repeated = "advice"
[limits]
sections = 9
windows = 2.5
[identifiers]
levels = [3, 2]
[regions]
content = "#main"
furniture = [".ads"]
[regions."a.html"]
own = [".box"]
[[aside]]
rule = "end-tag-stray"
page = "a.html"
words = "</b>"
reason = "so it is"
"""


def test_what_a_site_s_file_says():
    found = read_site_file(SAID)
    assert found.checks == Checks(
        ("heading-gap",),
        ("target-unused",),
        {"title-repeated": Severity.ADVICE},
        PageLimits(9, 2.5),
        (SetAside("end-tag-stray", "a.html", "</b>", "so it is"),),
        ("old",),
    )
    assert found.levels == (2, 3)
    assert found.marks("a.html") == Marks("#main", (".ads",), (".box",))
    assert found.marks("b.html") == Marks("#main", (".ads",))
    assert read_site_file("") == SiteFile()


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("[check\n", "cannot be read"),
        ('[check]\noff = ["heading-gaps"]', "no rule “heading-gaps”"),
        ("[check]\noff = true", "off is a list of words"),
        ("check = 1", "written [check]"),
        ('[check.severity]\nheading-gap = "grave"', "error, warning or advice"),
        ("[limits]\nsections = true", "sections in [limits] is a number"),
        ("[limits]\nwords = 3", "[limits] says “words”"),
        ("[identifiers]\nlevels = [0]", "list of levels"),
        ("[regions]\ncontent = 3", "is a selector"),
        ("aside = 3", "written [[aside]]"),
        ('[[aside]]\nrule = "heading-gap"\nwho = "me"', "[[aside]] says “who”"),
        ("[colours]\nred = 1", "this file says “colours”"),
    ],
)
def test_what_nobody_understands_is_refused_with_its_place(text, words):
    with pytest.raises(InputError) as refused:
        read_site_file(text)
    assert words in str(refused.value)
    assert str(refused.value).startswith("signpost.toml")


codes = st.sampled_from(sorted(RULES))
words = st.text(st.characters(exclude_categories=["Cs", "Cc"]), max_size=12)
marks = st.builds(Marks, st.none() | words.filter(bool), st.lists(words, max_size=2).map(tuple), st.just(()))
checks = st.builds(
    Checks,
    st.lists(codes, max_size=3).map(tuple),
    st.lists(codes, max_size=2).map(tuple),
    st.dictionaries(codes, st.sampled_from(Severity), max_size=3),
    st.builds(PageLimits, st.integers(1, 99), st.floats(0, 99).map(lambda value: round(value, 2))),
    st.lists(st.builds(SetAside, codes, words, words, words), max_size=3).map(tuple),
    st.lists(words, max_size=2).map(tuple),
)


@given(checks, st.dictionaries(words, marks.filter(lambda one: one != Marks()), max_size=2))
def test_a_site_s_file_is_read_as_it_was_written(said, regions):
    site_file = SiteFile(said, regions, (2, 4))
    assert read_site_file(write_site_file(site_file)) == site_file


def test_what_the_desk_says_counts_before_the_site_s_file():
    desk = Checks(off=("heading-gap",), severities={"title-repeated": Severity.ERROR})
    both = desk.beside(Checks(on=("heading-gap", "target-unused"), severities={"title-repeated": Severity.ADVICE}))
    assert (both.off, both.on, both.severities["title-repeated"]) == (("heading-gap",), ("target-unused",), "error")
