"""What is settled for a site, kept and read again."""

import pytest

from signpost.core.identifiers.naming import Digits, IdentifierRule
from signpost.core.page.furniture import Marks
from signpost.desk.settings import Reading, Regions, Settings, dump_settings, read_settings


def test_settings_are_kept_as_they_are():
    settings = Settings(
        IdentifierRule(longest=20, joiner="_", digits=Digits.KEEP, levels=(2, 3)),
        250,
        {"": Regions(chrome=("table",)), "a.html": Regions("main", (), ("nav",))},
        {"a.html": ("coal",)},
    )
    assert read_settings(dump_settings(settings)) == settings


@pytest.mark.parametrize("kept", [{}, {"identifiers": 3}, {"of": "another version"}, {"longest_run": "many"}])
def test_what_cannot_be_understood_is_as_if_never_set(kept):
    assert read_settings(kept) == Settings()


def test_a_refusal_is_remembered_once_and_forgotten():
    settings = Settings().refuse("a.html", "coal", again=False).refuse("a.html", "coal", again=False)
    assert settings.refused == {"a.html": ("coal",)}
    assert settings.refuse("a.html", "coal", again=True) == Settings()


def test_what_is_said_of_a_page_goes_before_what_is_said_of_the_site():
    settings = Settings().say_regions("", Regions("#site", ("nav", "table"), ("p",)))
    settings = settings.say_regions("a.html", Regions(None, ("p",), ("table",)))
    assert settings.reading("b.html").marks == Marks("#site", ("nav", "table"), ("p",))
    assert settings.reading("a.html", frozenset(["x"])).marks == Marks(
        "#site", ("p", "nav"), ("table",), frozenset(["x"])
    )
    assert settings.say_regions("a.html", Regions()).say_regions("", Regions()) == Settings()


def test_marks_have_a_digest_of_their_own():
    some = [Marks(), Marks("a"), Marks(chrome=("a",)), Marks(own=("a",)), Marks(repeated=frozenset(["a", "b"]))]
    assert len({Reading(marks).digest for marks in some}) == len(some)
    assert Reading(Marks(repeated=frozenset(["b", "a"]))).digest == Reading(some[-1]).digest
    assert Reading().digest == ""
    assert len({Reading(encoding=name).digest for name in (None, "utf-8", "koi8-r")}) == 3
