"""Identifiers in style sheets, by their tokens."""

import contextlib

import pytest

from signpost.core.references.selectors import StyleReader
from signpost.core.text.edits import splice
from signpost.core.text.errors import InputError
from signpost.core.text.positions import Span


def renamed(css: str, old: str = "old", new: str = "new", **options) -> str:
    return splice(css, Span(0, len(css)), StyleReader(css).renamed(old, new, **options))


@pytest.mark.parametrize(
    ("css", "after"),
    [
        pytest.param("#old{}", "#new{}", id="plain"),
        pytest.param("a #old > b, #old::after {}", "a #new > b, #new::after {}", id="in selectors"),
        pytest.param("#old.x:not(#old) {}", "#new.x:not(#new) {}", id="in functions"),
        pytest.param(":is(a, :where(#old)) {}", ":is(a, :where(#new)) {}", id="deeper in functions"),
        pytest.param("#older #old-one #Old {}", "#older #old-one #Old {}", id="other names"),
        pytest.param("a { color: #old; background: #oldold }", "a { color: #old; background: #oldold }", id="colours"),
        pytest.param("/* #old */ a { content: '#old' }", "/* #old */ a { content: '#old' }", id="comments, strings"),
        pytest.param("@media print { #old {} }", "@media print { #new {} }", id="media"),
        pytest.param("@supports (x: y) { @layer a { #old {} } }", "@supports (x: y) { @layer a { #new {} } }", id="nested at-rules"),
        pytest.param("a { #old & { top: 0 } }", "a { #new & { top: 0 } }", id="nested rules"),
        pytest.param("@scope (#old) { a {} }", "@scope (#new) { a {} }", id="scope"),
        pytest.param("@font-face { src: url(#old) }", "@font-face { src: url(#old) }", id="no rule"),
        pytest.param("a { fill: url(#old) }", "a { fill: url(#new) }", id="url"),
        pytest.param("a { fill: url( '#old' ) }", "a { fill: url( '#new' ) }", id="quoted url"),
        pytest.param("a { fill: url(x.svg#old) }", "a { fill: url(x.svg#old) }", id="of a file"),
        pytest.param("[id=old], [id='old'] {}", "[id=new], [id='new'] {}", id="attribute"),
        pytest.param('[href="#old"], [href*=old] {}', '[href="#new"], [href*=old] {}', id="address"),
        pytest.param("[for=old], [aria-controls~=old] {}", "[for=new], [aria-controls~=new] {}", id="referring"),
        pytest.param("[title=old], [class=old] {}", "[title=old], [class=old] {}", id="no identifier"),
        pytest.param("#\\6fld {} #ol\\64  b {}", "#new {} #new b {}", id="escaped"),
        pytest.param("a{}\r\n\r\n#old\r\n{}", "a{}\r\n\r\n#new\r\n{}", id="CRLF"),
        pytest.param("a{}\f#old{}\r#old{}", "a{}\f#new{}\r#new{}", id="form feed, CR"),
        pytest.param("ä{} 🚂{} #old{}", "ä{} 🚂{} #new{}", id="beyond ASCII"),
        pytest.param("#old { color: red", "#new { color: red", id="never closed"),
        pytest.param("", "", id="empty"),
    ],
)  # fmt: skip
def test_what_names_the_identifier_follows(css, after):
    assert renamed(css) == after


@pytest.mark.parametrize(
    ("css", "after"),
    [
        ("#old{}", "#old, #new{}"),
        ("a,\n#old b ,c {}", "a,\n#old b, #new b ,c {}"),
        ("#old #old {}", "#old #old, #new #new {}"),
        ("@media x{#old{}}", "@media x{#old, #new{}}"),
        (":is(#old, b) c, d {}", ":is(#old, b) c, :is(#new, b) c, d {}"),
        ("a:not(#old, b) {}", "a:not(#old, b), a:not(#new, b) {}"),
        ("@scope (#old) { a {} }", "@scope (#old, #new) { a {} }"),
    ],
)
def test_a_rule_goes_beside_where_the_old_one_is_needed(css, after):
    assert renamed(css, keep=True) == after


def test_names_are_spelt_as_css_needs():
    assert renamed("#old [id=old] [id='old'] {}", new="1st") == "#\\31 st [id=\\31 st] [id='1st'] {}"


def test_declarations_of_a_style_attribute():
    reader = StyleReader("clip-path: url(#old); color: #old", 10, declarations=True)
    (edit,) = reader.renamed("old", "new")
    assert (edit.start, edit.end, edit.text) == (26, 29, "new")


def test_imports_are_found():
    css = "@import 'a.css';\n@import url(b.css) print;\n@import url(\"c.css\");\na{}"
    assert StyleReader(css).imports() == ["a.css", "b.css", "c.css"]


@pytest.mark.long
@pytest.mark.parametrize(
    "css", ["{" * 60_000, "a{" * 60_000, "@media x{" * 30_000, "(" * 60_000, "a(" * 30_000 + "{}"]
)
def test_a_style_sheet_nested_beyond_reason_gets_a_clear_answer(css):
    with contextlib.suppress(InputError):
        assert StyleReader(css).renamed("a", "b") == []
    assert StyleReader(css).imports() == []
