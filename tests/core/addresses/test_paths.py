"""Which paths a site's files can have."""

import pytest

from signpost.core.addresses.paths import find_path_advice, find_path_objection


@pytest.mark.parametrize(
    ("path", "words"),
    [
        ("a.html", None),
        ("guides/boiler care.html", None),
        ("Größe/ä.html", None),
        ("x:y.html?q=1", "within the site"),
        ("", "within the site"),
        ("/x.html", "within the site"),
        ("C:x.html", "within the site"),
        ("../x.html", "out of the folder"),
        ("a//b.html", "empty piece"),
        ("a/", "empty piece"),
        (".hidden/x.html", "hidden"),
        ("a/.x.html", "hidden"),
        ("a\\b.html", "backslash"),
        ("a\n+++ b/x", "control"),
        ("a\x00.html", "control"),
        ("aux.html", "Windows"),
        ("d/COM1", "Windows"),
        ("console.html", None),
        ("x" * 401, "longer"),
    ],
)
def test_paths_that_cannot_be(path, words):
    found = find_path_objection(path)
    assert found is None if words is None else words in (found or "")


@pytest.mark.parametrize(
    ("path", "words"), [("a.html", None), ("a b.html", "space"), ("A.html", "capitals"), ("a.", "dot")]
)
def test_paths_that_could_be_better(path, words):
    found = find_path_advice(path)
    assert found is None if words is None else words in (found or "")
