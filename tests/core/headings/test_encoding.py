"""Pages written in UTF-8 from now on: every character stays, and the page says so."""

import pytest
from hypothesis import given

from signpost.core.headings.encoding import in_utf8
from signpost.core.headings.heads import HeadChange, plan_heads
from signpost.core.page import read_page
from signpost.core.site.site import single_page_site
from signpost.core.text.errors import SignpostError
from signpost.core.text.source import read_source
from strategies import pages


def page_in(encoding: str, markup: str, named: str | None = None):
    return read_page("a.html", read_source(markup.encode(encoding), named))


@pytest.mark.parametrize(
    ("encoding", "before", "after"),
    [
        pytest.param(
            "windows-1252",
            "<HTML>\r\n<HEAD>\r\n<META HTTP-EQUIV='Content-Type' CONTENT='text/html; charset=iso-8859-1'>\r\n<TITLE>Café – “x”</TITLE>",
            "<HTML>\r\n<HEAD>\r\n<META HTTP-EQUIV='Content-Type' CONTENT='text/html; charset=utf-8'>\r\n<TITLE>Café – “x”</TITLE>",
            id="content type",
        ),
        pytest.param(
            "iso-8859-2",
            "<!DOCTYPE html><head><meta charset=iso-8859-2><title>Żółć</title>",
            "<!DOCTYPE html><head><meta charset=utf-8><title>Żółć</title>",
            id="charset",
        ),
        pytest.param(
            "windows-1252",
            "<!DOCTYPE html>\n<head>\n  <title>Café</title>\n</head>",
            '<!DOCTYPE html>\n<head>\n<meta charset="utf-8">\n  <title>Café</title>\n</head>',
            id="not declared",
        ),
        pytest.param(
            "windows-1252",
            "<!DOCTYPE html>\n<title>Café</title>\n<p>x",
            '<!DOCTYPE html>\n<meta charset="utf-8">\n<title>Café</title>\n<p>x',
            id="no head element",
        ),
        pytest.param(
            "utf-16",
            '<?xml version="1.0" encoding="utf-16"?>\n<html><head><title>é</title>',
            '<?xml version="1.0" encoding="utf-8"?>\n<html><head><title>é</title>',
            id="a mark, and XML",
        ),
    ],
)
def test_a_page_is_written_in_utf8(encoding, before, after):
    data = in_utf8(page_in(encoding, before))
    assert data.decode("utf-8-sig") == after
    assert read_source(data).encoding == "utf-8"


def test_with_other_words_in_its_head():
    page = page_in("windows-1252", "<head>\n<title>Café</title>\n</head>")
    plan = plan_heads(single_page_site(page), {"a.html": HeadChange(title="Thé", utf8=True)})
    assert plan.new_files["a.html"].decode() == '<head>\n<meta charset="utf-8">\n<title>Thé</title>\n</head>'
    assert not plan.edits
    assert "host" in plan.notes[0]
    assert not plan.without(["a.html"])


@pytest.mark.parametrize(
    ("data", "named", "why"),
    [
        (b"<meta charset=shift_jis><title>\x81</title>", None, "shift_jis"),
        (b"<head><title>x</title>", "windows-1252", "because you chose that"),
    ],
)
def test_pages_that_stay(data, named, why):
    with pytest.raises(SignpostError, match=why):
        in_utf8(read_page("a.html", read_source(data, named)))


@given(pages())
def test_every_character_stays_the_one_it_was(written):
    page = read_page("a.html", read_source(written))
    data = in_utf8(page)
    again = read_page(page.path, read_source(data))
    assert [(one.level, one.text) for one in again.headings] == [(one.level, one.text) for one in page.headings]
    assert [link.href for link in again.links] == [link.href for link in page.links]
    assert in_utf8(again) == data
