"""Links to anywhere, and what they say beside their address."""

import pytest

from pages import carried_out, site_from
from signpost.core.jumps.linking import file_words, plan_link
from signpost.core.jumps.looks import LinkLook
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import Span

OUT = "https://example.org/"


def linked(
    markup: str, words: str, address: str, look: LinkLook | None = None, head: str = '<html lang="en">'
) -> str:
    files = {"a.html": f'<!DOCTYPE html>{head}<title>T</title><body class="x" id="y" dir="ltr">\n<p>{markup}</p>\n'}
    site = site_from(files)
    start = files["a.html"].index(words)
    plan = plan_link(site, "a.html", Span(start, start + len(words)), address, look)
    return carried_out(files, site, plan)["a.html"].decode().partition("<p>")[2].partition("</p>")[0]


@pytest.mark.parametrize(
    ("look", "tag"),
    [
        (None, f'<a href="{OUT}">'),
        (LinkLook(title=" Tip "), f'<a href="{OUT}" title="Tip">'),
        (LinkLook(new_window=True), f'<a href="{OUT}" target="_blank" rel="noopener">'),
        (
            LinkLook(new_window=True, rel="nofollow noreferrer"),
            f'<a href="{OUT}" target="_blank" rel="nofollow noreferrer">',
        ),
        (LinkLook(rel="author", language="de"), f'<a href="{OUT}" rel="author" hreflang="de">'),
        (LinkLook(download=True), f'<a href="{OUT}" download>'),
    ],
)
def test_words_become_a_link(look, tag):
    assert linked("See our friends.", "our friends", OUT, look) == f"See {tag}our friends</a>."


def test_readers_are_told_of_a_window_in_their_language():
    look = LinkLook(new_window=True, tells_window=True)
    made = linked("See them.", "them", OUT, look, '<html lang="de-AT">')
    assert made == f'See <a href="{OUT}" target="_blank" rel="noopener">them (neues Fenster)</a>.'
    again = linked(made, "them", OUT, look, '<html lang="de-AT">')
    assert again == made


@pytest.mark.parametrize(
    ("before", "look", "after"),
    [
        ("<a href='x.html'>w</a>", None, f"<a href='{OUT}'>w</a>"),
        ("<a>w</a>", None, f'<a href="{OUT}">w</a>'),
        ("<a href=x title=old>w</a>", LinkLook(), f"<a href={OUT} title=old>w</a>"),
        ("<a href=x title=old>w</a>", LinkLook(title=""), f"<a href={OUT}>w</a>"),
        ("<a href=x target=_blank rel='me'>w</a>", LinkLook(new_window=False), f"<a href={OUT} rel='me'>w</a>"),
        ("<a href=x target=main>w</a>", LinkLook(new_window=False), f"<a href={OUT} target=main>w</a>"),
        (
            "<a href=x rel=me>w</a>",
            LinkLook(new_window=True),
            f'<a href={OUT} rel="me noopener" target="_blank">w</a>',
        ),
        ("<a href=x target=_blank>w</a>", LinkLook(rel="me"), f'<a href={OUT} target=_blank rel="me noopener">w</a>'),
        ("<a href=x download>w</a>", LinkLook(download=False), f"<a href={OUT}>w</a>"),
        ("<a href=x>w</a>", LinkLook(download=True), f"<a href={OUT} download>w</a>"),
        (f"<a HREF='{OUT}' rel='a>b'>w</a>", LinkLook(title="T"), f"<a HREF='{OUT}' rel='a>b' title=\"T\">w</a>"),
    ],
)
def test_a_link_is_led_elsewhere(before, look, after):
    assert linked(before, "w</a>", OUT, look) == after


def test_a_jump_opens_no_window():
    with pytest.raises(RequestError, match="opens no window"):
        linked("words", "words", "#x", LinkLook(new_window=True))
    insisted = linked("words", "words", "#x", LinkLook(new_window=True, insists=True))
    assert insisted == '<a href="#x" target="_blank" rel="noopener">words</a>'


def test_a_picture_is_linked():
    assert (
        linked("<img src=p.png alt=Cab>", "<img src=p.png alt=Cab>", OUT)
        == f'<a href="{OUT}"><img src=p.png alt=Cab></a>'
    )


@pytest.mark.parametrize(
    ("path", "size", "words"),
    [
        ("files/time-table_2026.pdf", 348_000, "Time table 2026 (PDF, 340 KB)"),
        ("a.jpeg", 10, "A (JPEG, 1 KB)"),
        ("film.mp4", 5_400_000, "Film (MP4, 5.1 MB)"),
        ("README", 2048, "README (2 KB)"),
    ],
)
def test_words_for_a_file(path, size, words):
    assert file_words(path, size) == words
