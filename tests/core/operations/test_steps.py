"""Operations as steps of a recipe: any of them, each read as a request would be, and carried out once."""

import importlib.util
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

import pytest

from pages import carried_out, site_from
from signpost.core.operations import OPERATIONS
from signpost.core.operations.contents import BackToTop, Entries, TermRow
from signpost.core.operations.operation import Operation, Planned, declared
from signpost.core.operations.reading import read_said
from signpost.core.operations.recipes import Recipe, Step, plan_recipe, read_recipe
from signpost.core.site.plans import Question, SitePlan
from signpost.core.text.errors import InputError

FILES = {
    "a.html": '<!DOCTYPE html>\n<title>A</title>\n<link rel="stylesheet" href="s.css">\n<h1>A</h1>\n<h2 id="one">One</h2>\n<p><a href="b.html#two">Two</a></p>\n',
    "b.html": '<!DOCTYPE html>\n<title>B</title>\n<h1>B</h1>\n<h2 id="two">Two</h2>\n<p><a href="a.html#one">a</a> <img src="p.png" alt="">\n',
    "p.png": "a picture",
    "s.css": "#one { color: red }\n",
}


def after(text, files=FILES):
    plan = plan_recipe(site_from(files), read_recipe(text))
    done = carried_out(files, site_from(files), plan)
    return {path: data.decode() for path, data in done.items()}, plan


def test_what_adds_something_each_time_adds_it_once():
    done, _ = after('[[step]]\ndo = "skeleton"\ntitles = "Coal"\ncontents = false\npages = "a.html"')
    assert done["a.html"].count("Coal</h2>") == 1
    assert done["b.html"] == FILES["b.html"]


def test_what_one_page_changes_on_others_is_there_for_the_next():
    done, plan = after(
        '[[step]]\ndo = "rename"\nold = "one"\nnew = "first"\npages = "a.html"\n'
        '[[step]]\ndo = "rename"\nold = "two"\nnew = "second"\npages = "b.html"\n'
    )
    assert 'id="first"' in done["a.html"]
    assert 'href="b.html#second"' in done["a.html"]
    assert 'href="a.html#first"' in done["b.html"]
    assert done["s.css"] == "#first { color: red }\n"
    assert not plan.notes


def test_each_page_gets_the_edits_of_its_own_and_those_that_others_make_there():
    """The words of a heading are those of links to it: what is planned for the second page is on the first as well."""
    done, plan = after('[[step]]\ndo = "words"\nsection = 1\nwords = "Steam"')
    assert '<h2 id="one">Steam</h2>' in done["a.html"]
    assert '<a href="b.html#two">Steam</a>' in done["a.html"]
    assert '<h2 id="two">Steam</h2>' in done["b.html"]
    assert not plan.notes


@dataclass(frozen=True, kw_only=True)
class Asking(Operation):
    """An operation that wants to be told something first."""

    does: ClassVar[str] = "asking"

    def plan(self, _here):
        return Planned(
            "x", SitePlan(new_files={"x.html": b"x"}, question=Question("which", "Which one?", ("a", "b")))
        )


def test_what_has_to_be_asked_is_not_done_and_is_said():
    site = site_from(FILES)
    plan = plan_recipe(site, Recipe("", (Step(Asking(), ("a.html",)),)))
    assert not plan
    assert plan.notes == ("Step 1, asking: Which one? Do it at the desk, where that can be answered.",)


def test_files_move_with_what_was_edited_in_them():
    text = (
        '[[step]]\ndo = "title"\nwords = "Another"\npages = "b.html"\n'
        '[[step]]\ndo = "move-files"\nmoves = {"b.html" = "deep/b.html", "p.png" = "deep/p.png"}\n'
        '[[step]]\ndo = "identify"\npages = "deep/*"\n'
    )
    done, plan = after(text)
    assert plan.moves == {"b.html": "deep/b.html", "p.png": "deep/p.png"}
    assert set(done) == {"a.html", "deep/b.html", "deep/p.png", "s.css"}
    assert "<title>Another</title>" in done["deep/b.html"]
    assert 'href="../a.html#one"' in done["deep/b.html"]
    assert 'src="p.png"' in done["deep/b.html"]
    assert 'href="deep/b.html#two"' in done["a.html"]
    assert done["deep/p.png"] == "a picture"


def test_a_file_that_moves_twice_and_one_that_comes_and_moves():
    text = (
        '[[step]]\ndo = "move-files"\nmoves = {"b.html" = "c.html"}\n'
        '[[step]]\ndo = "move-files"\nmoves = {"c.html" = "d.html"}\n'
        '[[step]]\ndo = "new-page"\npath = "n.html"\ntitle = "New"\ntitles = "X"\npages = "a.html"\n'
        '[[step]]\ndo = "move-files"\nmoves = {"n.html" = "m.html"}\n'
        '[[step]]\ndo = "delete-file"\npath = "p.png"\n'
    )
    done, plan = after(text)
    assert plan.moves == {"b.html": "d.html"}
    assert set(plan.new_files) == {"m.html"}
    assert plan.gone == ("p.png",)
    assert set(done) == {"a.html", "d.html", "m.html", "s.css"}


def test_what_comes_and_goes_within_a_recipe_is_not_spoken_of():
    made = '[[step]]\ndo = "new-page"\npath = "n.html"\ntitle = "New"\ntitles = "X"\npages = "a.html"\n'
    done, plan = after(made + '[[step]]\ndo = "delete-file"\npath = "n.html"\n')
    assert done == FILES
    assert not plan


def test_two_files_that_take_each_others_names():
    """Through a name that is free in between."""
    text = "".join(
        f'[[step]]\ndo = "move-files"\nmoves = {{"{old}" = "{new}"}}\n'
        for old, new in (("a.html", "x.html"), ("b.html", "a.html"), ("x.html", "b.html"))
    )
    done, plan = after(text)
    assert plan.moves == {"a.html": "b.html", "b.html": "a.html"}
    assert "<title>A</title>" in done["b.html"]
    assert "<title>B</title>" in done["a.html"]
    assert 'href="a.html#two"' in done["b.html"]


def test_style_sheets_move_and_are_followed():
    text = '[[step]]\ndo = "move-files"\nmoves = {"s.css" = "look/t.css"}\n[[step]]\ndo = "rename"\nold = "one"\nnew = "first"\npages = "a.html"\n'
    done, plan = after(text)
    assert plan.moves == {"s.css": "look/t.css"}
    assert done["look/t.css"] == "#first { color: red }\n"
    assert 'href="look/t.css"' in done["a.html"]
    assert not plan.new_files


def test_over_the_site_only_the_pages_that_are_meant_change():
    done, _ = after('[[step]]\ndo = "heads"\npattern = "{h1} - X"\nPAGES\npages = "a.html"'.replace("PAGES\n", ""))
    assert done == FILES
    text = '[[step]]\ndo = "heads"\nheads = {"a.html" = {title = "T"}, "b.html" = {title = "T"}}\npages = "a.html"'
    done, _ = after(text)
    assert "<title>T</title>" in done["a.html"]
    assert done["b.html"] == FILES["b.html"]


def test_no_page_that_is_meant_is_nothing_to_do():
    done, plan = after('[[step]]\ndo = "own-addresses"\npages = "z*"')
    assert (done, plan.notes) == (FILES, ())


@pytest.mark.parametrize(
    ("kind", "said", "words"),
    [
        ("words", {"section": 1}, "“words” has to be told its words"),
        ("words", {"section": True, "words": "x"}, "True cannot be the section"),
        ("words", {"section": 1, "words": ""}, "'' cannot be the words"),
        ("words", {"section": 1, "words": "x" * 401}, "cannot be the words"),
        ("levels", {"levels": {"x": 2}}, "cannot be the levels"),
        ("levels", {"levels": {"0": 7}}, "cannot be the levels"),
        ("levels", {"levels": {}}, "cannot be the levels"),
        ("shift", {"sections": [1], "by": -6}, "-6 cannot be the by"),
        ("repair", {"code": 1}, "1 cannot be the code"),
        ("navigation", {"kind": 1}, "1 cannot be the kind"),
        ("repair", {"code": "wrong"}, "'wrong' cannot be the code"),
        ("back-to-top", {"corner": "middle"}, "cannot be the corner"),
        ("back-to-top", {"least-windows": "2"}, "cannot be the least-windows"),
        ("entries", {"terms": [{"label": "x"}]}, "cannot be the terms"),
        ("entries", {"terms": [{"term": "x", "colour": "red"}]}, "cannot be the terms"),
        ("entries", {"terms": "x"}, "cannot be the terms"),
        ("fix", {"rule": "no-such"}, "'no-such' cannot be the rule"),
        ("end-notes", {"x": 1}, "“end-notes” can be told nothing beside its pages, not “x”"),
    ],
)
def test_what_does_not_fit_is_refused_with_its_name(kind, said, words):
    with pytest.raises(InputError, match=words):
        read_said(OPERATIONS[kind], kind, said)


def test_values_become_what_the_operation_asks_for():
    said = {"terms": [{"term": "Ash"}], "sort": False, "bar": "none"}
    read = read_said(OPERATIONS["entries"], "entries", said)
    assert isinstance(read, Entries)
    assert read.terms == (TermRow(term="Ash"),)
    assert read.bar.value == "none"
    back = read_said(OPERATIONS["back-to-top"], "back-to-top", {"least-windows": 2, "levels": [2, 3]})
    assert back == BackToTop(least_windows=2.0, levels=(2, 3))
    assert read_said(OPERATIONS["levels"], "levels", {"levels": {"12": 3}}).levels == {12: 3}


@pytest.mark.parametrize("name", ["identify", "Bad Name", "two--hyphens"])
def test_a_name_is_declared_once_and_is_one(name):
    with pytest.raises(ValueError, match="no name"):

        @declared
        class Other(Operation):
            does = name

            def plan(self, _here):
                return None


def test_the_list_of_operations_is_up_to_date():
    root = Path(__file__).resolve().parents[3]
    spec = importlib.util.spec_from_file_location("list_operations", root / "scripts" / "list_operations.py")
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    assert (root / "docs" / "operations.md").read_text(encoding="utf-8") == module.write()


def test_an_operation_over_the_site_that_cannot_be_done_is_said():
    files = {**FILES, "signpost.toml": "no = [toml"}
    _, plan = after('[[step]]\ndo = "site-file"\n[[step]]\ndo = "move-files"\nmoves = {"z.html" = "y.html"}\n', files)
    assert not plan
    assert [note.split(":")[0] for note in plan.notes] == ["Step 1, site-file", "Step 2, move-files"]
