"""What is relied on of turbohtml: where an update of it breaks one of these, something here has to be thought over."""

import pytest
import turbohtml
from turbohtml import Comment, Document, DocumentFragment, Element, Namespace, Text, TokenType, parse, tokenize


def tokens(text: str):
    return list(tokenize(text, capture_source=True, capture_attributes=False))


@pytest.mark.parametrize("end", ["\n", "\r\n", "\r"])
def test_lines_end_where_the_standard_s_do(end):
    text = f"a{end}b{end}  <p>x"
    paragraph = parse(text, source_locations=True).find("p")
    assert paragraph.position == (3, 2)
    assert (paragraph.source_line, paragraph.source_col) == (3, 2)
    (tag,) = [one for one in tokens(text) if one.type is TokenType.START_TAG]
    assert (tag.line, tag.col) == (3, 2)


def test_columns_count_code_points():
    assert parse("🚂e\u0301<p>", source_locations=True).find("p").position == (1, 3)
    assert tokens("🚂e\u0301<p>")[-1].col == 3


def test_tokens_have_their_source_but_for_carriage_returns_in_it():
    assert [one.source for one in tokens("<A\r\nb=1></A >")] == ["<A\nb=1>", "</A >"]
    assert [one.tag for one in tokens("<A\r\nb=1></A >")] == ["a", "a"]


def test_a_tag_that_is_not_finished_is_no_token():
    assert [one.type for one in tokens("a<b")] == [TokenType.TEXT]


def test_the_tokenizer_takes_noscript_for_raw_text_and_the_parser_does_not():
    assert [one.type for one in tokens("<noscript><b></noscript>")][1] is TokenType.TEXT
    assert parse("<body><noscript><b></noscript>").find("b") is not None


def test_the_tokenizer_knows_no_drawings():
    assert [one.type for one in tokens("<svg><title><b></title>")][2] is TokenType.TEXT
    assert tokens("<svg><![CDATA[<p>]]>")[1].source == "<![CDATA[<p>"


def test_elements_that_no_author_wrote_have_no_place():
    tree = parse("<table><td>x", source_locations=True)
    assert [(one.tag, one.position) for one in tree.find_all("tbody") + tree.find_all("td")] == [
        ("tbody", None),
        ("td", (1, 7)),
    ]


def test_a_location_says_where_both_tags_are():
    location = parse("<p>\n<b>x</b>", source_locations=True).find("b").source_location
    assert (location.start_tag.start_line, location.start_tag.start_col, location.start_tag.end_col) == (2, 0, 3)
    assert (location.end_tag.start_line, location.end_tag.start_col, location.end_tag.end_col) == (2, 4, 8)
    assert parse("<p>x", source_locations=True).find("p").source_location.end_tag is None


def test_an_element_is_the_same_object_wherever_it_is_asked_for():
    tree = parse("<p>a<b>c</b></p>")
    assert tree.find("b").parent is tree.find("p")
    assert tree.find("p").children[1] is tree.find("b")


def test_descendants_come_in_tree_order_with_what_templates_contain():
    tree = parse("<p>a<!-- c --><b>d</b></p><template><i></i></template>")
    kinds = [one.tag if isinstance(one, Element) else type(one) for one in tree.find("body").descendants]
    assert kinds == ["p", Text, Comment, "b", Text, "template", DocumentFragment, "i"]
    assert isinstance(tree, Document)
    assert tree.find("i").parent is not tree.find("template")


def test_classes_are_a_list_and_other_values_are_words():
    found = parse("<p class='a  b' id=c hidden>").find("p").attrs
    assert (found["class"], found["id"], found["hidden"]) == (["a", "b"], "c", "")


def test_names_in_drawings_are_as_the_standard_spells_them():
    tree = parse("<svg><clippath/></svg>")
    assert tree.find("clipPath").namespace is Namespace.SVG
    assert tree.find("body").namespace is Namespace.HTML


def test_errors_have_the_standard_s_codes_and_places():
    found = [(one.code, one.line, one.col) for one in parse("<p a=1 a=2>\n&foo;", source_locations=True).errors]
    assert ("duplicate-attribute", 1) in {(code, line) for code, line, _ in found}


def test_the_version_is_one_that_was_tried():
    assert turbohtml.__version__.startswith("1.15.")
