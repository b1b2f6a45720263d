"""What is settled for a site, kept and read again."""

import pytest

from signpost.core.identifiers.naming import Digits, IdentifierRule
from signpost.core.page.furniture import Marks
from signpost.desk.settings import ReadOptions, Regions, Settings, dump_settings, read_settings


def test_settings_are_kept_as_they_are():
    settings = Settings(
        IdentifierRule(longest=20, joiner="_", digits=Digits.KEEP, levels=(2, 3)),
        250,
        {"": Regions(furniture=("table",)), "a.html": Regions("main", (), ("nav",))},
        {"a.html": ("coal",)},
    )
    assert read_settings(dump_settings(settings)) == settings


@pytest.mark.parametrize("kept", [{}, {"identifiers": 3}, {"of": "another version"}, {"longest_run": "many"}])
def test_what_cannot_be_understood_is_as_if_never_set(kept):
    assert read_settings(kept) == Settings()


def test_a_refusal_is_remembered_once_and_forgotten():
    settings = Settings().refuse("a.html", "coal").refuse("a.html", "coal")
    assert settings.refused == {"a.html": ("coal",)}
    assert settings.refuse("a.html", "coal", refused=False) == Settings()


def test_what_is_said_of_a_page_goes_before_what_is_said_of_the_site():
    settings = Settings().set_regions("", Regions("#site", ("nav", "table"), ("p",)))
    settings = settings.set_regions("a.html", Regions(None, ("p",), ("table",)))
    assert settings.read_options("b.html").marks == Marks("#site", ("nav", "table"), ("p",))
    assert settings.read_options("a.html", frozenset(["x"])).marks == Marks(
        "#site", ("p", "nav"), ("table",), frozenset(["x"])
    )
    assert settings.set_regions("a.html", Regions()).set_regions("", Regions()) == Settings()


def test_marks_have_a_digest_of_their_own():
    some = [Marks(), Marks("a"), Marks(furniture=("a",)), Marks(own=("a",)), Marks(repeated=frozenset(["a", "b"]))]
    assert len({ReadOptions(marks).digest for marks in some}) == len(some)
    assert ReadOptions(Marks(repeated=frozenset(["b", "a"]))).digest == ReadOptions(some[-1]).digest
    assert ReadOptions().digest == ""
    assert len({ReadOptions(encoding=name).digest for name in (None, "utf-8", "koi8-r")}) == 3
