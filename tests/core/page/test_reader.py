import pytest
from hypothesis import given
from hypothesis import strategies as st

from pages import page_of
from signpost.core.page.marks import HEADINGS
from signpost.core.page.markup import Markup
from signpost.core.page.phrasing import count_words
from signpost.core.text.edits import apply_to_text, edit_set
from signpost.core.text.source import read_source
from signpost.core.text.tags import scan_attributes, value_edit
from strategies import pages


@given(pages())
def test_everything_stands_where_the_page_says(data):
    page = page_of(data)
    text = page.text
    for heading in page.headings:
        element = heading.element
        assert element.open.of(text).lower().startswith("<" + element.tag)
        assert element.open.of(text).endswith(">")
        assert element.close is None or element.close.of(text).lower().startswith("</" + element.tag)
        assert element.end >= element.open.end
        assert heading.begin <= element.open.start
        for ancestor in heading.ancestors:
            assert ancestor.open.of(text).lower().startswith("<" + ancestor.tag)
    for link in page.links:
        assert text[link.start : link.start + 2].lower() == "<a"
        written = page.attribute_at(link.start, "href")
        assert (None if written is None else written.value) == link.href
    for target in page.targets:
        assert text[target.start] == "<"
        written = page.attribute_at(target.start, target.attribute)
        assert written is not None
        assert written.value == target.name
    assert 0 <= page.content.start <= page.content.end <= len(text)
    starts = [heading.element.open.start for heading in page.headings]
    assert starts == sorted(starts)


@given(pages())
def test_plain_headings_stand_where_the_parser_says(data):
    where = Markup(read_source(data).text)
    for tag in HEADINGS:
        for parsed in where.tree.find_all(tag):
            quick = where.plain_heading(parsed)
            assert quick is None or quick == where.element(parsed)


@pytest.mark.parametrize(
    ("markup", "attributes"),
    [
        pytest.param("<a href=x>", [("href", "x", "href=x")], id="unquoted"),
        pytest.param("<a href = 'x y' id>", [("href", "x y", "href = 'x y'"), ("id", "", "id")], id="spaced, bare"),
        pytest.param('<A HREF="a&amp;b">', [("href", "a&b", 'HREF="a&amp;b"')], id="reference, capitals"),
        pytest.param("<a id=1 id=2>", [("id", "1", "id=1")], id="the first of two counts"),
        pytest.param("<br/>", [], id="none"),
        pytest.param("<a =x y>", [("=x", "", "=x"), ("y", "", "y")], id="begins with an equals sign"),
        pytest.param('<a title="a > b" href="#x"/>', [("title", "a > b", 'title="a > b"'), ("href", "#x", 'href="#x"')],
                     id="a greater-than sign in quotes"),
    ],
)  # fmt: skip
def test_attributes_are_found_where_the_tokenizer_finds_them(markup, attributes):
    found = scan_attributes("…" + markup, 1)
    assert [(a.name, a.value, a.span.of("…" + markup)) for a in found] == attributes


@pytest.mark.parametrize(
    ("tag", "value", "written"),
    [
        ('<a href="x">', "y", '<a href="y">'),
        ("<a href='x'>", "it's", "<a href='it&#x27;s'>"),
        ('<a href="a?b&c=1#x">', "a?b&c=1#y", '<a href="a?b&c=1#y">'),
        ('<a href="a?b&amp;c#x">', "a?b&copy#y", '<a href="a?b&amp;copy#y">'),
        ("<a href=x>", "d/e.html#y", "<a href=d/e.html#y>"),
        ("<a href=x>", "a b", '<a href="a b">'),
        ("<a href>", "x", '<a href="x">'),
    ],
)
def test_a_value_is_changed_in_its_own_quotes(tag, value, written):
    source = page_of(tag).source
    (attribute,) = scan_attributes(tag, 0)
    text = apply_to_text(source, edit_set(source, [value_edit(tag, attribute, value, "")]))
    assert text == written
    assert scan_attributes(text, 0)[0].value == value


@pytest.mark.parametrize(
    ("markup", "headings"),
    [
        pytest.param("<h2>a</h2><!-- <h2>b</h2> -->", ["a"], id="comment"),
        pytest.param("<h2>a</h2><script>'<h2>b</h2>'</script>", ["a"], id="script"),
        pytest.param("<h2>a</h2><template><h2>b</h2></template>", ["a"], id="template"),
        pytest.param("<h2>a</h2><textarea><h2>b</h2></textarea>", ["a"], id="raw text"),
        pytest.param("<h2>a</h2><pre>&lt;h2>b&lt;/h2></pre>", ["a"], id="escaped sample"),
        pytest.param("<header><h1>a</h1></header><h2>b</h2><footer><h2>c</h2></footer>", ["b"], id="header, footer"),
        pytest.param("<main><header><h1>a</h1></header></main>", ["a"], id="a header within the content"),
        pytest.param("<div id=header><h1>a</h1></div><h2>b</h2>", ["b"], id="the old way"),
        pytest.param("<nav><h2>a</h2></nav><div role=navigation><h2>b</h2></div><h2>c</h2>", ["c"], id="navigation"),
        pytest.param("<h2>a</h2><div id=content><h2>b</h2></div>", ["b"], id="content by its identifier"),
        pytest.param("<aside><h2>a</h2></aside><main><h2>b</h2><aside><h3>c</h3></aside></main>", ["b"], id="aside"),
        pytest.param("<p role=heading aria-level=3>a</p><p role=heading>b</p>", ["a", "b"], id="ARIA headings"),
        pytest.param("<h2 role=presentation>a</h2><h2>b</h2>", ["b"], id="a heading that says it is none"),
        pytest.param("<H2>a<br>b <IMG ALT=c></H2>", ["a b c"], id="break and picture"),
        pytest.param("<h2>a", ["a"], id="unclosed"),
        pytest.param("<h2>a<p>b<h2>c", ["a b", "c"], id="unclosed, with a paragraph"),
        pytest.param("", [], id="empty page"),
    ],
)
def test_headings_of_the_page_s_own_content(markup, headings):
    assert [heading.text for heading in page_of(markup).headings] == headings


@pytest.mark.parametrize(
    ("markup", "identifier", "begin"),
    [
        pytest.param("<h2 id=x>a</h2>", "x", "<h2", id="its own"),
        pytest.param("<h2><a name=x>a</a></h2>", "x", "<h2", id="a named anchor within"),
        pytest.param("<p>p</p><a name=x></a>\n<h2>a</h2>", "x", "<a name", id="an empty anchor before"),
        pytest.param("<p>p</p><p><a name=x></a></p><h2>a</h2>", "x", "<p><a", id="an anchor in a paragraph before"),
        pytest.param("<p>p</p><section id=x><h2>a</h2></section>", "x", "<section", id="a section around"),
        pytest.param("<div id=x><h2>a</h2><h2>b</h2></div>", None, "<h2", id="a box around several sections"),
        pytest.param("<a name=x>text</a><h2>a</h2>", None, "<h2", id="an anchor with words is no part of it"),
        pytest.param("<p>p</p><!-- c --><div><!-- d --><h2>a</h2></div>", None, "<div", id="comments do not matter"),
    ],
)
def test_what_belongs_to_a_heading(markup, identifier, begin):
    page = page_of(markup)
    assert page.headings[0].identifier == identifier
    assert page.text[page.headings[0].begin :].startswith(begin)


@pytest.mark.parametrize(
    ("inner", "entry"),
    [
        ("plain", "plain"),
        ("a <code>&lt;b&gt;</code> &amp; <em>c</em>", "a <code>&lt;b&gt;</code> &amp; <em>c</em>"),
        ('see <a href="x">this</a>', "see this"),
        ('Coal<sup><a href="#n1">1</a></sup>', "Coal"),
        ('Coal <a class=p href="#c">¶</a>', "Coal"),
        ("<b>Coal</b> <font color=red>fire</font>", "<b>Coal</b> fire"),
        ('<img src=x alt="A & B"> c', "A &amp; B c"),
        ("a<br>b", "a b"),
        ("", ""),
    ],
)
def test_a_heading_as_a_contents_entry(inner, entry):
    assert page_of(f"<h2>{inner}</h2>").headings[0].entry == entry


@pytest.mark.parametrize(
    ("markup", "content"),
    [
        ("<body>\n<div id=wrap>\n<h1>a</h1><h2>b</h2>\n</div>\n</body>", "\n<h1>a</h1><h2>b</h2>\n"),
        ("<main><div><article><h1>a</h1><h2>b</h2></article></div></main>", "<h1>a</h1><h2>b</h2>"),
        (
            "<div><div id=header>x</div><div class=t><h2>a</h2><h2>b</h2></div><div id=footer>f</div></div>",
            "<h2>a</h2><h2>b</h2>",
        ),
        ("<div><h2>a</h2></div><div><h2>b</h2></div>", "<div><h2>a</h2></div><div><h2>b</h2></div>"),
        (
            "<table><tr><td>n</td><td><h2>a</h2><h2>b</h2></td></tr></table>",
            "<table><tr><td>n</td><td><h2>a</h2><h2>b</h2></td></tr></table>",
        ),
        ("<p>lead</p><div><h2>a</h2><h2>b</h2></div>", "<p>lead</p><div><h2>a</h2><h2>b</h2></div>"),
        ("<section><h2>a</h2></section>", "<section><h2>a</h2></section>"),
        ("<!DOCTYPE html>\n<title>t</title>\n<h2>a</h2>x", "\n<h2>a</h2>x"),
    ],
)
def test_where_the_content_stands(markup, content):
    page = page_of(markup)
    assert page.content.of(page.text) == content
    assert all(heading.begin >= page.content.start for heading in page.headings)


def test_words_are_those_a_reader_reads():
    page = page_of(
        "<title>not this</title><nav>nor this</nav><p>one <b>t</b>wo</p><p>three</p>four<script>no</script>"
        "<p class=back-to-top><a href=#top>Back to top</a></p><template>no</template><ul><li>five<li>six</ul>"
    )
    assert page.words == 6


@given(st.text(st.characters(codec="utf-8") | st.sampled_from(" \t\n\xa0\u2003\u3000ab"), max_size=60))
def test_words_are_counted_as_they_are_split(text):
    assert count_words(text) == len(text.split())


def test_a_page_nested_beyond_reason_is_read():
    page = page_of("<div><font>" * 3000 + "<h2>deep</h2>")
    assert len(page.headings) == 1
    page = page_of("<div><b>" * 150 + "<h2>deep</h2>")
    assert [heading.text for heading in page.headings] == ["deep"]


def test_a_byte_order_mark_counts_as_a_character():
    page = page_of("\ufeff<!DOCTYPE html><h1>a</h1>")
    assert page.headings[0].element.open.start == 16


def test_what_an_unclosed_link_is_cloned_into_is_no_other_link_or_target():
    page = page_of("<body><div><a href=#x name=y><p>a</p></div><p>b</p><p>c</p><h2 id=x>X</h2>")
    assert [(link.href, link.start) for link in page.links] == [("#x", 11)]
    assert [(target.name, target.element) for target in page.targets] == [("y", "a"), ("x", "h2")]


@pytest.mark.parametrize(
    ("before", "identifier", "begin"),
    [
        pytest.param("<p>t</p><a name=x></a>", "x", "<a name", id="an anchor"),
        pytest.param("<p>t</p><span id=x></span>\n", "x", "<span", id="a span"),
        pytest.param("<p>t</p><div id=x></div>", "x", "<div", id="a box"),
        pytest.param("<p>t</p><p id=x></p>", "x", "<p id", id="a paragraph"),
        pytest.param("<p>t</p><center><a name=x></a></center>", "x", "<center", id="centred"),
        pytest.param("<p>t</p><a name=x></a><br>", "x", "<a name", id="with a break between"),
        pytest.param("<p>t</p><a name=x></a><hr><!-- c -->", "x", "<a name", id="with a rule and a comment between"),
        pytest.param("<p>t<p><a name=x></a>", "x", "<p><a", id="in a paragraph of its own that is left open"),
        pytest.param("<p>t<br><a name=x></a>", "x", "<a name", id="at the end of an open paragraph"),
        pytest.param("<p>t<a name=x></a><br>", "x", "<a name", id="before the break that ends an open paragraph"),
        pytest.param("<p>t</p><p><a name=x></a><p>", "x", "<p><a", id="with an empty paragraph between"),
        pytest.param("<p>t</p><a name=y></a><a name=x></a>", "x", "<a name=y", id="two, of which the nearer counts"),
        pytest.param("<p>t<a name=x></a></p>", None, "<h2", id="within a paragraph of words"),
        pytest.param("<p>t</p><a name=x href=u></a>", None, "<h2", id="a link"),
        pytest.param("<p>t</p><div id=x><img src=i></div>", None, "<h2", id="a picture"),
        pytest.param("<p>t</p><a name=x></a>words", None, "<h2", id="with words between"),
    ],
)
def test_an_identifier_right_before_a_heading_belongs_to_it(before, identifier, begin):
    page = page_of(f"<body><h2>First</h2>{before}<h2>A</h2><p>text")
    heading = page.headings[1]
    assert heading.identifier == identifier
    assert page.text.startswith(begin, heading.begin)


@pytest.mark.parametrize(
    ("markup", "identifier"),
    [
        ('<div id="x"><div><div><h3>A</h3></div></div><p>t</div><div id=y><h3>B</h3></div>', "x"),
        ("<section id=x><h3>A</h3></section><section id=y><h3>B</h3></section>", "x"),
        ("<div id=x><h3>A</h3><h3>B</h3></div>", None),
        ("<a href=u><h3 id=x>A</h3></a><h3>B</h3>", "x"),
        ("<h3><a id=x></a>5.2 A</h3><h3><a id=y></a>5.3 B</h3>", "x"),
    ],
)
def test_a_wrapper_s_identifier_counts_where_the_section_ends_with_it(markup, identifier):
    assert page_of(f"<body><h2>T</h2><p>t</p>{markup}").headings[1].identifier == identifier
