"""End tags that are missing: the one that is, and where its author would have typed it."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pages import site_from
from signpost.core.findings import check_page
from signpost.core.findings.fixing import plan_fixes
from signpost.core.text.edits import apply_edits

PAGE = "<!DOCTYPE html>\n<html lang=en>\n<head>\n<meta charset=utf-8>\n<title>T</title>\n</head>\n<body>\n<h1>T</h1>\n{}\n</body>\n</html>\n"


def missing(body):
    site = site_from({"page.html": PAGE.format(body)})
    return site, [one for one in check_page(site, "page.html") if one.rule.code == "end-tag-missing"]


def pressed(body, choice=None):
    """What the press, or a choice, makes of a body; the finding; what else is wrong with its tags then."""
    site, found = missing(body)
    (finding,) = found
    plan = plan_fixes(site, ["page.html"], ["end-tag-missing"], finding.span.start, choice)
    after = apply_edits(site.source("page.html"), plan.edits["page.html"]).decode()
    before, behind = PAGE.split("{}")
    left = {one.rule.code for one in check_page(site_from({"page.html": after}), "page.html")}
    assert not left & {"end-tag-missing", "end-tag-stray", "list-item-stray", "elements-crossed"}
    return after.removeprefix(before).removesuffix(behind), finding


LISTS = [
    ("<ul>\n<li>a</li>\n<li>b</li>\n<p>c</p>", "<ul>\n<li>a</li>\n<li>b</li>\n</ul>\n<p>c</p>"),
    ("<div>\n  <ol>\n    <li>a</li>\n</div>", "<div>\n  <ol>\n    <li>a</li>\n  </ol>\n</div>"),
    ("<p><b>x</b></p><ul><li>a</li><li>b</li><p>c</p>", "<p><b>x</b></p><ul><li>a</li><li>b</li></ul><p>c</p>"),
    ("<ul><li>a</li> and more<p>c</p>", "<ul><li>a</li></ul> and more<p>c</p>"),
    ("<ul><li>a</li><!-- b --><li>c</li><h2>d</h2>", "<ul><li>a</li><!-- b --><li>c</li></ul><h2>d</h2>"),
    ("<ul>\n<li>a</li> and more\n<p>c</p>", "<ul>\n<li>a</li></ul> and more\n<p>c</p>"),
    ("<ul><li>a</li>then<ul><li>b</li></ul>", "<ul><li>a</li></ul>then<ul><li>b</li></ul>"),
    (
        "<ul><li>a</li><script>1</script><li>b</li><p>c</p>",
        "<ul><li>a</li><script>1</script><li>b</li></ul><p>c</p>",
    ),
    # the inner one took the end tag of the outer one
    (
        "<ul>\n<li>a\n<ul>\n<li>b</li>\n<li>c</li>\n</li>\n<li>d</li>\n</ul>",
        "<ul>\n<li>a\n<ul>\n<li>b</li>\n<li>c</li>\n</ul>\n</li>\n<li>d</li>\n</ul>",
    ),
    ("<dl><dt>a</dt><dd>b</dd><p>c</p>", "<dl><dt>a</dt><dd>b</dd></dl><p>c</p>"),
    ("<div><dl><div><dt>a</dt><dd>b</dd></div></div>", "<div><dl><div><dt>a</dt><dd>b</dd></div></dl></div>"),
    (
        "<table>\n<tr><td>a</td></tr>\n<tr><td>b</td></tr>\n<p>c</p>",
        "<table>\n<tr><td>a</td></tr>\n<tr><td>b</td></tr>\n</table>\n<p>c</p>",
    ),
    (
        "<table><tr><td><table><tr><td>a</td></tr></td><td>b</td></tr></table>",
        "<table><tr><td><table><tr><td>a</td></tr></table></td><td>b</td></tr></table>",
    ),
    (
        "<table><thead><tr><th>a</th></tr></thead><tbody><tr><td>b</td></tr></tbody><h2>c</h2>",
        "<table><thead><tr><th>a</th></tr></thead><tbody><tr><td>b</td></tr></tbody></table><h2>c</h2>",
    ),
    (
        "<table><caption>c</caption><tr><td>a</td></tr> text",
        "<table><caption>c</caption><tr><td>a</td></tr></table> text",
    ),
    (
        "<p><select><option>a</option><option>b</option></p>",
        "<p><select><option>a</option><option>b</option></select></p>",
    ),
]


def test_a_list_is_not_closed_by_its_own_items():
    assert "close it at the page's end" in missing("<ul>\n<li>a</li>\n<p>b</p>")[1][0].message
    assert "close it at </div>" in missing("<div><ul><li>a</li></div>")[1][0].message


@pytest.mark.parametrize(("body", "after"), LISTS)
def test_a_list_or_table_ends_behind_its_last_item(body, after):
    assert pressed(body)[0] == after


@pytest.mark.parametrize(
    "body",
    [
        "<ul>\n<li>a\n<li>b\n<p>c</p>",  # the paragraph may be of the last item
        "<dl>\n<dt>a\n<dd>b\n<p>c</p>",
        "<table><tr><td>a<tr><td>b<p>c</p>",
        "<div class=a>\n<p>a</p>\n<p>b</p>",  # nobody knows which of them is in it
        "<section><p>a</p><p>b</p>",
        "<blockquote>a<p>b</p>",
        "<pre>\n<h2>a</h2>\n<p>b</p>",
        "<h2><p>b</p>",
        "<b><p>b</p>",
    ],
)
def test_where_nothing_tells_it_is_said_and_left(body):
    _, (finding,) = missing(body)
    assert not finding.edits
    assert not finding.choices
    site, _ = missing(body)
    assert not plan_fixes(site, ["page.html"], ["end-tag-missing"])


WORDS = [
    ("<h2>Coal\n<p>It is black.</p>", None, "<h2>Coal</h2>\n<p>It is black.</p>"),
    ("<h2>Coal <em>and</em> steam<p>It is black.</p>", None, "<h2>Coal <em>and</em> steam</h2><p>It is black.</p>"),
    ("<h2>Coal and\nsteam\n<p>It is black.</p>", None, "<h2>Coal and\nsteam</h2>\n<p>It is black.</p>"),
    ("<h2>Coal\n" + "It is black. " * 12 + "\n<p>x</p>", 0, "<h2>Coal</h2>\n" + "It is black. " * 12 + "\n<p>x</p>"),
    ("<h2>Coal\n" + "black " * 20 + "end\n<p>x</p>", 1, "<h2>Coal\n" + "black " * 20 + "end</h2>\n<p>x</p>"),
    (
        "<h2>\n" + "black " * 30 + "\n<p>x</p>",
        None,
        "<h2>\n" + ("black " * 30).rstrip() + "</h2> \n<p>x</p>",
    ),
    (
        "<h2><a name=x></a>\n" + "black " * 30 + "\n<p>x</p>",
        None,
        "<h2><a name=x></a>\n" + ("black " * 30).rstrip() + "</h2> \n<p>x</p>",
    ),
    ("<pre>a\n  b <b>c</b>\n\n<p>d</p>", None, "<pre>a\n  b <b>c</b></pre>\n\n<p>d</p>"),
    # a link alone in its item is all of it; what stands between links is in none
    (
        "<ul><li><a href=index.html>Coal and steam</li></ul>",
        None,
        "<ul><li><a href=index.html>Coal and steam</a></li></ul>",
    ),
    ("<ul><li><a href=index.html>7.1. Coal</li></ul>", None, "<ul><li><a href=index.html>7.1. Coal</a></li></ul>"),
    (
        "<ul><li><a href=index.html>approx. two</li></ul>",
        None,
        "<ul><li><a href=index.html>approx. two</a></li></ul>",
    ),
    (
        "<ul><li><a href=index.html>Next &#187;</li></ul>",
        None,
        "<ul><li><a href=index.html>Next</a> &#187;</li></ul>",
    ),
    (
        "<p><a href=index.html>Coal</a> | <a href=index.html>Steam | <b>Oil</b></p>",
        0,
        "<p><a href=index.html>Coal</a> | <a href=index.html>Steam</a> | <b>Oil</b></p>",
    ),
    (
        "<p>See <a href=index.html>the yard. It is wet.</p>",
        0,
        "<p>See <a href=index.html>the yard.</a> It is wet.</p>",
    ),
    ("<ul><li><a href=index.html>|</li></ul>", None, "<ul><li><a href=index.html></a>|</li></ul>"),
    ("<p><a href=index.html>| Coal</p>", None, "<p><a href=index.html>| Coal</a></p>"),
    # as the page does it elsewhere
    (
        "<p><b>Mind</b> the <b>step</b> and <b>the bell now</p>",
        0,
        "<p><b>Mind</b> the <b>step</b> and <b>the</b> bell now</p>",
    ),
    ("<p>Now <code>a (b) &gt; c</p>", 1, "<p>Now <code>a</code> (b) &gt; c</p>"),
    ("<p>Now <code>f(x), then</p>", 1, "<p>Now <code>f(x)</code>, then</p>"),
    ("<p>Now (<code>f) then</p>", 1, "<p>Now (<code>f</code>) then</p>"),
    ("<p>Now <code>&gt;, then</p>", 1, "<p>Now <code>&gt;</code>, then</p>"),
    ("<p>Now <code><b>a</b> then</p>", 0, "<p>Now <code><b>a</b></code> then</p>"),
    ("<p>Now <code><b>a<br>c</b> then</p>", 0, "<p>Now <code><b>a<br>c</b></code> then</p>"),
    (  # a word that is all of its block does not tell how words within one end
        "<ul><li><b>A</b></li><li><b>B</b></li><li><b>C</b></li></ul><p>Mind <b>the step</p>",
        0,
        "<ul><li><b>A</b></li><li><b>B</b></li><li><b>C</b></li></ul><p>Mind <b>the step</b></p>",
    ),
    ("<p>Now <code></p>", None, "<p>Now <code></code></p>"),
    ("<p>Now <em>here</p>", None, "<p>Now <em>here</em></p>"),
    # marks of places
    ("<p><a name=x>text</p>", None, "<p><a name=x></a>text</p>"),
    (
        "<p><a name=y>words</a> <a name=z>too</a></p><p><a name=x>text</p>",
        None,
        "<p><a name=y>words</a> <a name=z>too</a></p><p><a name=x>text</a></p>",
    ),
]


@pytest.mark.parametrize(("body", "choice", "after"), WORDS)
def test_words_end_with_their_word_their_sentence_or_their_block(body, choice, after):
    found, finding = pressed(body, choice)
    assert found == after
    assert bool(finding.edits) == (choice is None)


def test_an_end_tag_that_a_list_lost_to_an_earlier_one_stays():
    site = site_from({"page.html": PAGE.format("<ul>\n<li>a</li>\n</ul>\n<li>b</li>\n</ul>")})
    (finding,) = [one for one in check_page(site, "page.html") if one.rule.code == "end-tag-stray"]
    assert not finding.edits
    assert "has ended before" in finding.message


@pytest.mark.parametrize(
    ("body", "is_pressed"),
    [
        ("<div><p>a</p></div></div>", True),
        ("<div><p>a</p></div>\n</div>\n<p>b</p>", True),
        ("<p>a</p></div><p>b</p>", True),
        ("<div><div>a</div></div></div>", False),
        ("<p>a <b>b</b></p><p>c</b> d</p>", True),
        ("<div><div>a</div></div><p>b</p></div>", False),
        ("<div><div>a</div></div>b</div>", False),
        ("<section><h2>x</h2></section><p>b</p></section>", False),
    ],
)
def test_an_end_tag_is_taken_out_where_it_surely_is_the_one_too_much(body, is_pressed):
    site = site_from({"page.html": PAGE.format(body)})
    (finding,) = [one for one in check_page(site, "page.html") if one.rule.code == "end-tag-stray"]
    assert bool(finding.edits) == is_pressed
    assert ("may have been ended too early" in finding.message) == (not is_pressed)


def test_no_press_chooses_among_several():
    site, (finding,) = missing("<p>See <b>the yard. It is wet.</p>")
    assert len(finding.choices) > 1
    assert not plan_fixes(site, ["page.html"], ["end-tag-missing"])


BOXES = [
    ("<div>\n  <section>\n    <p>x</p>\n</div>", None, "<div>\n  <section>\n    <p>x</p>\n  </section>\n</div>"),
    ("<section><div>words</section>", None, "<section><div>words</div></section>"),
    ("<section><div>words<p>x</p></section>", 1, "<section><div>words<p>x</p></div></section>"),
    ("<section><div>words<p>x</p></section>", 0, "<section><div>words</div><p>x</p></section>"),
    ("<section><div><p>a</p>words</section>", 1, "<section><div><p>a</p>words</div></section>"),
    ("<section><div><p>a</p><p>b</p></section>", 0, "<section><div><p>a</p></div><p>b</p></section>"),
    ("<section><div><ul><li>a</ul></section>", None, "<section><div><ul><li>a</ul></div></section>"),
]


@pytest.mark.parametrize(("body", "choice", "after"), BOXES)
def test_a_box_that_contains_one_thing_ends_behind_it(body, choice, after):
    found, finding = pressed(body, choice)
    assert found == after
    assert bool(finding.edits) == (choice is None)


INDENTED = """<div class="a">
  <div class="b">
    <p>x</p>
  </div>
  <div class="c">
    <p>y</p>
  </div>
  <div class="d">
    <p>z</p>
</div>
<p>behind</p>"""


def test_indentation_tells_nothing_before_it_has_fitted():
    _, (finding,) = missing('<div>\n  <div class="d">\n    <p>z</p>\n</div>\n<p>behind</p>')
    assert not finding.edits


def test_indentation_shows_which_box_has_no_end():
    after, finding = pressed(INDENTED)
    assert after == INDENTED.replace("<p>z</p>\n", "<p>z</p>\n  </div>\n")
    assert 'class="d"' in finding.message


@pytest.mark.parametrize(
    "body", [INDENTED.replace("  <", "<"), INDENTED.replace('  <div class="b">', '<b>c</b><div class="b">')]
)
def test_without_it_nobody_knows(body):
    _, (finding,) = missing(body)
    assert not finding.edits


item = st.sampled_from(["a", "a <b>b</b>", "<p>a</p>", "<a href=index.html>a</a> b"])
behind = st.sampled_from(
    [
        "<p>x</p>",
        "<h2>x</h2>",
        "x",
        "<div>x</div>",
        "<hr>",
        "<ul><li>x</li></ul>",
        "<table><tr><td>x</td></tr></table>",
    ]
)


def made(kind, items, lay):
    start, end = {
        "ul": ("<li>", "</li>"),
        "ol": ("<li>", "</li>"),
        "dl": ("<dt>t</dt><dd>", "</dd>"),
        "table": ("<tr><td>", "</td></tr>"),
    }[kind]
    return f"<{kind}>{lay}{lay.join(f'{start}{one}{end}' for one in items)}{lay}</{kind}>"


holder = st.builds(
    made,
    st.sampled_from(["ul", "ol", "dl", "table"]),
    st.lists(item, min_size=1, max_size=4),
    st.sampled_from(["", "\n"]),
)
nested = st.builds(
    lambda kind, items, lay, inner: made(kind, [*items, f"c{lay}{inner}"], lay),
    st.sampled_from(["ul", "ol", "dl", "table"]),
    st.lists(item, max_size=3),
    st.sampled_from(["", "\n"]),
    holder,
)


@given(
    st.one_of(holder, nested),
    behind,
    st.integers(0, 9),
    st.sampled_from(["{}{}", "<div>{}{}</div>", "<section>\n{}\n{}\n</section>"]),
)
def test_whichever_list_or_table_has_no_end_tag_the_press_brings_back_what_was_there(list_, then, which, frame):
    body = frame.format(list_, then)
    ends = [at for kind in ("ul", "ol", "dl", "table") for at in places(list_, f"</{kind}>")]
    at = body.index(list_) + ends[which % len(ends)]
    length = body.index(">", at) + 1 - at
    kind = body[at + 2 : at + length - 1]
    broken = body[:at] + body[at + length :]
    if then.startswith(f"<{kind}"):
        return  # a list right in a list of its kind may be meant
    site, found = missing(broken)
    for one in found:
        plan = plan_fixes(site, ["page.html"], ["end-tag-missing"], one.span.start)
        if plan.edits:
            after = apply_edits(site.source("page.html"), plan.edits["page.html"]).decode()
            assert "".join(after.split()) == "".join(PAGE.format(body).split())
            return
    raise AssertionError(found)


def places(text, words):
    at = text.find(words)
    while at >= 0:
        yield at
        at = text.find(words, at + 1)
