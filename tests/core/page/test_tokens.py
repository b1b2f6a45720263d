"""Tags and comments as the standard's tokenizer takes them."""

import pytest
from html5lib import HTMLParser
from html5lib._tokenizer import HTMLTokenizer
from html5lib.constants import tokenTypes
from hypothesis import given, settings
from hypothesis import strategies as st
from turbohtml import parse

from pages import page_of
from signpost.core.page import read_page
from signpost.core.page.kept import forget_kept
from signpost.core.page.markup import markup_of, tokens_of
from signpost.core.page.tokens import Tokens
from signpost.core.text.positions import Lines
from signpost.core.text.source import read_source
from soup import SOUP
from strategies import EXAMPLES, pages


@pytest.mark.parametrize(
    ("text", "tags"),
    [
        pytest.param('<a title="x > y" href=b>', ['<a title="x > y" href=b>'], id="> in an attribute"),
        pytest.param("<a title='<b>'>", ["<a title='<b>'>"], id="< in an attribute"),
        pytest.param("<P\r\n CLASS=a\r\n>b</P >", ["<P\r\n CLASS=a\r\n>", "</P >"], id="upper case, CRLF in a tag"),
        pytest.param("\ufeff<p>\r<b>", ["<p>", "<b>"], id="mark of the byte order, CR"),
        pytest.param("<!-- <b> --><i>", ["<i>"], id="comment"),
        pytest.param("<!--><b><!-- -->", ["<b>"], id="comment that ends at once"),
        pytest.param("<? <b> ?></ <i>>", ["<i>"][:0], id="what is taken for a comment up to its first >"),
        pytest.param("<script>'</p>'</script>", ["<script>", "</script>"], id="script"),
        pytest.param("<script><!--<script></script>--></script>", ["<script>", "</script>"], id="script in a script"),
        pytest.param("<title><b></title>", ["<title>", "</title>"], id="title"),
        pytest.param("<textarea><b>", ["<textarea>"], id="raw text to the end"),
        pytest.param("<noscript><b></noscript>", ["<noscript>", "<b>", "</noscript>"], id="scripts do not run"),
        pytest.param(
            "<svg><title><b></title></svg>", ["<svg>", "<title>", "<b>", "</title>", "</svg>"], id="drawing"
        ),
        pytest.param("<svg><title/><g/></svg>", ["<svg>", "<title/>", "<g/>", "</svg>"], id="title that ends itself"),
        pytest.param("<svg/><title><b></title>", ["<svg/>", "<title>", "</title>"], id="drawing that ends itself"),
        pytest.param("<svg><![CDATA[<p>]]><g/></svg>", ["<svg>", "<g/>", "</svg>"], id="CDATA in a drawing"),
        pytest.param("<svg><![CDATA[<p></svg>", ["<svg>"], id="CDATA that is left open"),
        pytest.param("<![CDATA[<p>]]><b>", ["<b>"], id="CDATA elsewhere is a comment up to its first >"),
        pytest.param(
            "<svg><title><b></title><style><i></style>",
            ["<svg>", "<title>", "<b>", "</title>", "<style>", "<i>", "</style>"],
            id="HTML in a drawing",
        ),
        pytest.param("<svg><p><style><i></style>", ["<svg>", "<p>", "<style>", "</style>"], id="what ends a drawing"),
        pytest.param(
            "<svg></b><title><i></title>", ["<svg>", "</b>", "<title>", "<i>", "</title>"], id="its end tag"
        ),
        pytest.param(
            "<math><title><style><i></style>", ["<math>", "<title>", "<style>", "<i>", "</style>"], id="a formula"
        ),
        pytest.param('<b><a href="x', ["<b>"], id="a tag that is not finished is none"),
        pytest.param("a < b <3 <=", [], id="< that is text"),
    ],
)
def test_tags_are_what_browsers_take_for_tags(text, tags):
    assert [text[tag.start : tag.end] for tag in Tokens(text).tags()] == tags


@pytest.mark.parametrize(
    "shape", ["<svg><title/>", "<noscript>", "<svg><![CDATA[>]]>", "<svg><style>", "<svg><desc>"]
)
def test_what_repeats_is_read_to_its_end(shape):
    tokens = Tokens(shape * 3000)
    assert tokens.starts == sorted(set(tokens.starts))
    assert len(tokens) >= 3
    assert len(tokens.masked) == len(shape) * 3000


def test_a_text_is_not_taken_up_again_for_ever():
    assert len(Tokens("<noscript>" * 3000)) < 300


def test_what_is_no_markup_is_blanked_out_and_nothing_else():
    text = "<!DOCTYPE html><!-- <b> -->x<script>'<p>'</script>\r\n<svg><![CDATA[<i>]]></svg><STYLE>a>b"
    masked = "<!DOCTYPE html>            x<script>     </script>\r\n<svg>               </svg><STYLE>   "
    assert Tokens(text).masked == masked
    assert Tokens(text).lowered == masked.lower()


def test_lower_case_leaves_every_character_where_it_is():
    assert Tokens("<P>İ").lowered == "<p>İ"  # whose lower case is two characters


def test_tags_are_found_by_name_and_by_a_word_in_them():
    tokens = Tokens("<P Class=a><b></b><p id=class><P></p>")
    assert [tag.start for tag in tokens.named("p", "b")] == [0, 11, 18, 30]
    assert [tag.start for tag in tokens.named("p", having="class")] == [0, 18]
    assert next(tokens.named("/p")).is_end
    assert (tokens.count("p"), tokens.count("/p"), tokens.count("i")) == (3, 1, 0)


def test_tags_are_found_by_their_places():
    tokens = Tokens("a<b>c</b>")
    assert (tokens.at(1), tokens.at(2), tokens.next(2), tokens.next(6)) == (0, -1, 1, 2)
    assert [None if tag is None else tag.name for tag in map(tokens.around, range(6))] == [None, *"bbb", None, "b"]


@given(pages())
def test_the_elements_of_the_tree_begin_at_tags_of_their_names(data):
    text = read_source(data).text
    _agree_with_the_tree(text)


PIECES = (
    "<svg>|</svg>|<svg/>|<math>|</math>|<![CDATA[|]]>|<title>|</title>|<title/>|<style>|</style>|<script>|</script>|"
    "<script/>|<desc>|</desc>|<p>|</p>|<noscript>|</noscript>|<textarea>|</textarea>|<!--|-->|<b>|</b>|<g/>|<g |a='>'|>|<p\r\n>|\r|\n|x"
)


@given(st.lists(st.sampled_from(PIECES.split("|")), max_size=20).map("".join))
@settings(max_examples=3 * EXAMPLES)
def test_the_tree_knows_no_tag_that_the_tokens_do_not(text):
    _agree_with_the_tree(text)


def _agree_with_the_tree(text: str) -> None:
    tokens = Tokens(text)
    mark = 1 if text.startswith("\ufeff") else 0
    lines = Lines(text[mark:]).starts
    for element in parse(text[mark:], source_locations=True).find_all():
        if element.position is not None:
            line, column = element.position
            index = tokens.at(mark + lines[line - 1] + column)
            assert index >= 0
            assert tokens.names[index] == element.tag.lower()


class _Recording(HTMLTokenizer):
    """An independent tokenizer, which notes the start tags that it comes by."""

    def __iter__(self):
        for token in super().__iter__():
            if token["type"] in (tokenTypes["StartTag"], tokenTypes["EmptyTag"]):
                self.parser.names.append(token["name"])
            yield token


class _Recorder(HTMLParser):
    """A parser that tells its tokenizer what is raw text."""

    def mainLoop(self):  # noqa: N802 - its own name
        self.names: list[str] = []
        self.tokenizer.__class__ = _Recording
        super().mainLoop()


@given(st.one_of(pages().map(lambda data: read_source(data).text), SOUP))
@settings(max_examples=2 * EXAMPLES)
def test_start_tags_are_those_of_an_independent_reader(text):
    theirs = _Recorder()
    theirs.parse(text)
    assert [tag.name for tag in Tokens(text.removeprefix("\ufeff")).tags() if not tag.is_end] == theirs.names


def test_what_is_known_of_a_page_goes_with_it():
    page = page_of("<h1>a</h1>")
    known = markup_of(page)
    assert markup_of(page) is known
    for number in range(4):
        markup_of(page_of(f"<h1>{number}</h1>"))
    assert markup_of(page) is not known  # others were worked on
    again = tokens_of(page)
    forget_kept(page)
    assert tokens_of(page) is not again


def test_long_pages_are_not_kept_beside_one_another():
    long = "<p>" + "word " * 300_000
    first = read_page("a.html", read_source(long.encode()))
    known = markup_of(first)
    markup_of(page_of("<p>short"))
    assert markup_of(first) is known
    markup_of(read_page("b.html", read_source(long.encode())))
    assert markup_of(first) is not known
