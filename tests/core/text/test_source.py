import pytest
from hypothesis import given

from pages import page_of
from signpost.core.text.errors import EncodingError, NotTextError
from signpost.core.text.source import find_conflict, find_encoding, read_source
from strategies import pages


@pytest.mark.parametrize(
    ("data", "encoding"),
    [
        pytest.param(b"\xef\xbb\xbf<p>", "utf-8", id="UTF-8 mark"),
        pytest.param(b"\xff\xfe<\x00", "utf-16le", id="UTF-16 mark, little-endian"),
        pytest.param(b"\xfe\xff\x00<", "utf-16be", id="UTF-16 mark, big-endian"),
        pytest.param(b"\xef\xbb\xbf<meta charset=iso-8859-1>", "utf-8", id="a mark outranks a declaration"),
        pytest.param(b"<meta charset=iso-8859-1>", "windows-1252", id="Latin-1 means windows-1252"),
        pytest.param(
            b'<META content="text/html; charset=koi8-r" http-equiv=Content-Type>', "koi8-r", id="http-equiv"
        ),
        pytest.param(b"<!-- <meta charset=koi8-r> --><p>", "utf-8", id="a declaration in a comment is none"),
        pytest.param(b"<meta charset=utf-16>", "utf-8", id="UTF-16 cannot be declared"),
        pytest.param(b"<meta charset=nonsense>\xe4", "windows-1252", id="an unknown label"),
        pytest.param(b"<p>\xc3\xa4", "utf-8", id="undeclared, valid UTF-8"),
        pytest.param(b"<p>\xe4", "windows-1252", id="undeclared, not UTF-8"),
        pytest.param(b" " * 1024 + b"<meta charset=koi8-r>", "utf-8", id="beyond the first 1024 bytes"),
        pytest.param(b"", "utf-8", id="empty"),
    ],
)
def test_the_encoding_is_the_one_a_browser_decides_on(data, encoding):
    assert find_encoding(data) == encoding


@given(pages())
def test_text_written_back_is_the_same_bytes(data):
    source = read_source(data)
    assert source.damage is None
    assert source.encode(source.text) == data


def test_all_bytes_of_windows_1252_survive():
    data = b"<meta charset=windows-1252>" + bytes(range(1, 256))
    source = read_source(data)
    assert source.encode(source.text) == data
    assert "€" in source.text


def test_characters_that_the_encoding_lacks_become_references():
    assert read_source(b"<meta charset=windows-1252>").encode("→") == b"&#8594;"


def test_bytes_that_do_not_fit_are_read_but_never_written():
    source = read_source(b"<meta charset=utf-8>caf\xe9!")
    assert source.text.endswith("caf\ufffd!")
    assert source.damage == 23
    with pytest.raises(EncodingError, match="utf-8"):
        source.encode(source.text)


@pytest.mark.parametrize(
    "data",
    [b"GIF89a\x00\x01", b"\x7fELF\x02" + b"\x00" * 9, b"<html>" + b"\x00\x01" * 500],
    ids=["GIF", "ELF", "many NULs"],
)
def test_binary_files_are_refused_with_a_way_out(data):
    with pytest.raises(NotTextError, match="Choose the page's HTML file"):
        read_source(data)


def test_a_stray_nul_is_read_over_and_kept():
    data = b"<h2>a\x00b</h2>" + b"<p>text</p>" * 50
    source = read_source(data)
    assert source.encode(source.text) == data
    page = page_of(data)
    assert page.headings[0].element.close.of(page.text) == "</h2>"


@pytest.mark.parametrize(
    ("text", "newline"),
    [("a\nb", "\n"), ("a\r\nb\r\nc\nd", "\r\n"), ("a\rb", "\r"), ("a", "\n")],
    ids=["LF", "mostly CRLF", "CR", "none"],
)
def test_the_line_end_used_most(text, newline):
    assert read_source(text.encode()).newline == newline


@pytest.mark.parametrize(
    ("data", "encoding"),
    [
        (b'<meta name="description" content="How charset=koi8-r works"><meta charset="utf-8">', "utf-8"),
        (b"<a title='<meta charset=koi8-r>'>\xe9", "windows-1252"),
        (b"<!-- <meta charset=koi8-r> --><meta charset=iso-8859-2>", "iso-8859-2"),
        (b'<meta content="text/html; charset=koi8-r" http-equiv=content-type>', "koi8-r"),
        (b'<meta content="text/html; charset=koi8-r">\xe9', "windows-1252"),
        (b"<meta charset=utf-16le>", "utf-8"),
        (b"<meta charset=x-user-defined>", "windows-1252"),
        (b"<meta charset=bogus><meta charset=koi8-r>", "koi8-r"),
    ],
)
def test_what_a_page_declares_is_read_as_the_standard_reads_it(data, encoding):
    assert find_encoding(data) == encoding


@pytest.mark.parametrize(
    ("data", "declared"),
    [
        (b"\xef\xbb\xbf<meta charset=koi8-r>", "koi8-r"),
        (b"\xef\xbb\xbf<meta charset=utf-8>", None),
        (b"\xef\xbb\xbf<p>no meta", None),
        ("\ufeff<meta charset=utf-16>".encode("utf-16-le"), None),
        ("\ufeff<meta charset=iso-8859-1>".encode("utf-16-le"), "windows-1252"),
        (b"<meta charset=koi8-r>", None),
    ],
)
def test_a_mark_and_a_declaration_that_differ_are_told(data, declared):
    assert find_conflict(read_source(data)) == declared
