"""Recipes, read and carried out."""

import pytest

from pages import carried_out, site_from
from signpost.core.operations.recipe_steps import STEPS
from signpost.core.operations.recipes import plan_recipe, read_recipe
from signpost.core.text.errors import InputError
from signpost.desk.demo import demo_files

PAGE = (
    "<!DOCTYPE html>\n<html>\n<title>T</title>\n<body>\n<h1>{0}</h1>\n<p><b>Lamps</b></p>\n<p>words</p>\n"
    "<h2>Boilers</h2>\n<p>more words</p>\n<h4>Deep</h4>\n<p>x</p>\n</body>\n</html>\n"
)
ALL = """
name = "Spring cleaning"
[[step]]
do = "headings"
[[step]]
do = "identify"
levels = [2, 3]
[[step]]
do = "contents"
make = true
pages = ["*", "!index.html"]
[[step]]
do = "returns"
words = "Up"
[[step]]
do = "titles"
pattern = "{h1} - TVLR"
[[step]]
do = "shared"
[[step]]
do = "navigation"
kind = "steps"
order = ["index.html", "a.html"]
[[step]]
do = "fix"
"""


def after(files, text):
    site = site_from(files)
    plan = plan_recipe(site, read_recipe(text))
    return carried_out(files, site, plan), plan


def test_it_is_told_how_far_that_has_come():
    files = {"a.html": PAGE.format("A"), "b.html": PAGE.format("B")}
    said = []
    recipe = read_recipe('[[step]]\ndo = "identify"\n[[step]]\ndo = "fix"\npages = "b.*"')
    plan_recipe(site_from(files), recipe, lambda *told: said.append(told))
    assert said[:3] == [("Step 1, identify", 0, 2), ("Step 1, identify", 1, 2), ("Step 1, identify", 2, 2)]
    assert ("Step 2, fix", 1, 1) in said
    assert said[-1] == ("Step 2, fix, once more", 1, 1)


def test_steps_come_one_after_the_other():
    files = {"a.html": PAGE.format("A"), "index.html": PAGE.format("Home"), "s.css": "p { color: red }"}
    done, plan = after(files, ALL)
    text = done["a.html"].decode()
    assert '<h2 id="boilers">Boilers</h2>' in text
    assert "<h3" in text  # the gap is closed
    assert "<title>A - TVLR</title>" in text
    assert 'class="contents"' in text
    assert text.count(">Up</a>") >= 1
    assert 'href="index.html" rel="prev"' in text
    assert 'class="contents"' not in done["index.html"].decode()
    assert done["s.css"] == b"p { color: red }"
    assert set(plan.edits) == {"a.html", "index.html"}
    assert after(done, ALL)[0] == done


@pytest.mark.long
def test_the_demo_comes_out_the_same_a_second_time():
    text = ALL.replace('[[step]]\ndo = "titles"\npattern = "{h1} - TVLR"\n', "")
    done, _ = after(demo_files(), text)
    again, plan = after(done, text)
    assert {path for path in done if done[path] != again[path]} == set(), plan.edits.keys()
    assert sum(done[path] != data for path, data in demo_files().items()) > 5


def test_only_the_pages_that_are_meant():
    files = {"a.html": PAGE, "sub/b.html": PAGE, "sub/c.html": PAGE}
    done, _ = after(files, '[[step]]\ndo = "identify"\npages = ["sub/*", "!sub/c.html"]\n')
    assert [path for path in files if done[path] != files[path].encode()] == ["sub/b.html"]
    done, _ = after(files, '[[step]]\ndo = "identify"\npages = "!a.html"\n')
    assert [path for path in files if done[path] != files[path].encode()] == ["sub/b.html", "sub/c.html"]


def test_what_refuses_is_said_and_the_rest_is_done():
    files = {"a.html": PAGE, "b.html": b"<meta charset=utf-8><title>B</title><h1>B</h1>\xff<h2>C</h2><h2>D</h2>"}
    _, plan = after(files, '[[step]]\ndo = "contents"\nmake = true\n[[step]]\ndo = "shared"\nfrom = "z.html"\n')
    assert set(plan.edits) == {"a.html"}
    assert any(note.startswith("Step 1, contents: b.html:") for note in plan.notes)
    assert any(note.startswith("Step 2, shared:") for note in plan.notes)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "no step"),
        ("x = 1\n[[step]]\ndo = 'identify'", "“x” is neither"),
        ("[[step]]\ndo = 'dance'", "do is one of"),
        ("[[step]]\nlevels = [2]", "do is one of"),
        ("[[step]]\ndo = 'identify'\nlevels = [0]", r"\[0\] cannot be the levels"),
        ("[[step]]\ndo = 'identify'\ncolour = 1", "can be told only levels"),
        ("[[step]]\ndo = 'fix'\nselect = ['no-such-rule']", "cannot be the select"),
        ("[[step]]\ndo = 'identify'\npages = [3]", "pages is a list"),
        ("[[step", "cannot be read"),
        ("step = 3", "each written"),
        ("name = 3\n[[step]]\ndo = 'identify'", "name in quotation marks"),
    ],
)
def test_a_recipe_that_cannot_be_read_says_what_to_correct(text, words):
    with pytest.raises(InputError, match=words):
        read_recipe(text)


def test_all_steps_are_tried_here():
    assert all(f'do = "{name}"' in ALL for name in STEPS)
