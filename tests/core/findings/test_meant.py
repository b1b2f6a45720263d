"""What a press writes is what was meant: identifiers that links call otherwise, tags that are meant to be read."""

import pytest

from checked import codes, fixed_by, site_with
from pages import site_from
from parted import after
from signpost.core.findings import check_page
from signpost.core.findings.fixing import has_fix, plan_fixes

#: Rule, markup, what a press (None) or a choice (its number) makes of it, and words of the message.
PRESSED = [
    # an identifier that no link can write is renamed to what links call it
    (
        "fragment-misspelt",
        '<a href="#red-flag">x</a><h2 id="#red-flag">Red</h2><p>p',
        None,
        '<a href="#red-flag">x</a><h2 id="red-flag">Red</h2><p>p',
        "the identifier on this page is “#red-flag”, which no link can write as it is",
    ),
    (
        "fragment-misspelt",
        '<a href="#red-flag">x</a><h2 id="red flag">Red</h2><p>p',
        None,
        '<a href="#red-flag">x</a><h2 id="red-flag">Red</h2><p>p',
        "is “red flag”",
    ),
    (
        "fragment-misspelt",
        '<a href="#red_flag">x</a><h2 id="red flag">Red</h2><p>p',
        None,
        '<a href="#red_flag">x</a><h2 id="red_flag">Red</h2><p>p',
        "is “red flag”",
    ),
    (  # of as many links that work, one that does not is wrong
        "fragment-misspelt",
        '<a href="#red-flag">x</a><a href="#red%20flag">y</a><h2 id="red flag">Red</h2><p>p',
        None,
        '<a href="#red%20flag">x</a><a href="#red%20flag">y</a><h2 id="red flag">Red</h2><p>p',
        "on this page it is written “#red flag”",
    ),
    # a letter
    (
        "fragment-missing",
        '<a href="#nots">x</a><h2 id="notes">Notes</h2><p>p',
        None,
        '<a href="#notes">x</a><h2 id="notes">Notes</h2><p>p',
        "Perhaps it means “#notes”",
    ),
    (
        "fragment-missing",
        '<a href="#ntoes">Notes</a><h2 id="notes">Notes</h2><p>p',
        None,
        '<a href="#notes">Notes</a><h2 id="notes">Notes</h2><p>p',
        "Perhaps it means “#notes”",
    ),
    # a # that is lost, though there is a point in the name
    (
        "hash-missing",
        '<a href="sec.two">x</a><h2 id="sec.two">Two</h2><p>p',
        None,
        '<a href="#sec.two">x</a><h2 id="sec.two">Two</h2><p>p',
        "without “#” in front",
    ),
    (
        "hash-missing",
        '<a href="stra%C3%9Fe">x</a><h2 id="straße">Two</h2><p>p',
        None,
        '<a href="#stra%C3%9Fe">x</a><h2 id="straße">Two</h2><p>p',
        "without “#” in front",
    ),
    # tags that are meant to be read
    (
        "tag-unescaped",
        "<p>The <h2> tag begins a heading.</p><p>p",
        None,
        "<p>The &lt;h2&gt; tag begins a heading.</p><p>p",
        "<h2> is meant to be read",
    ),
    (
        "tag-unescaped",
        "<p>Das <B>-Element ist alt.</p><p>p",
        None,
        "<p>Das &lt;B&gt;-Element ist alt.</p><p>p",
        "<B> is meant",
    ),
    (
        "tag-unescaped",
        "<p>Write <code><ol></code> first.</p><p>p",
        None,
        "<p>Write <code>&lt;ol&gt;</code> first.</p><p>p",
        "<ol> is meant",
    ),
    (
        "tag-unescaped",
        '<p>Write <code><div class="a"></code> first.</p><p>p',
        None,
        '<p>Write <code>&lt;div class="a"&gt;</code> first.</p><p>p',
        "is meant",
    ),
    (
        "end-tag-missing",
        "<p>Use <h2> for these.</p><p>p",
        0,
        "<p>Use &lt;h2&gt; for these.</p><p>p",
        "<h2> has no </h2>",
    ),
    ("end-tag-missing", "<p>Put <div> around.</p><p>p", 0, "<p>Put &lt;div&gt; around.</p><p>p", "no </div>"),
    ("end-tag-missing", "<p>Put <ul> around.</p><p>p", 0, "<p>Put &lt;ul&gt; around.</p><p>p", "no </ul>"),
    (
        "sample-obeyed",
        "<pre>\n<body>\n<b>x</b>\n</pre>",
        0,
        "<pre>\n&lt;body&gt;\n&lt;b&gt;x&lt;/b&gt;\n</pre>",
        "has tags in it, such as <body>",
    ),
    (
        "sample-obeyed",
        "<pre><code>\n<main>\nx</main></code></pre>",
        0,
        "<pre><code>\n&lt;main&gt;\nx&lt;/main&gt;</code></pre>",
        "has tags in it, such as <main>",
    ),
    # two names of one place: the one that is spelt most like it
    (
        "fragment-misspelt",
        '<a href="#tWo-b">x</a><h2 id="two-b"><span id="Two-B">Two</span></h2><p>p',
        None,
        '<a href="#two-b">x</a><h2 id="two-b"><span id="Two-B">Two</span></h2><p>p',
        "it is written “#two-b”",
    ),
    (
        "fragment-missing",
        '<a href="#boilre">x</a><h2 id="boiler"><span id="BOILER">Two</span></h2><p>p',
        None,
        '<a href="#boiler">x</a><h2 id="boiler"><span id="BOILER">Two</span></h2><p>p',
        "Perhaps it means “#boiler”",
    ),
    (  # the link is right, and its target is not
        "fragment-missing",
        '<a href="#boiler">x</a><h2 idd="boiler"><span id="Boiler">Two</span></h2><p>p',
        None,
        '<a href="#boiler">x</a><h2 id="boiler"><span id="Boiler">Two</span></h2><p>p',
        "that name stands in idd, where it counts for nothing",
    ),
    # addresses by their form, and in other attributes
    (
        "scheme-missing",
        '<p><a href="example.org/a">our site</a></p>',
        None,
        '<p><a href="https://example.org/a">our site</a></p>',
        "Without “https://” in front",
    ),
    (
        "scheme-missing",
        '<p><a href="en.example.org">our site</a></p>',
        None,
        '<p><a href="https://en.example.org">our site</a></p>',
        "Without “https://” in front",
    ),
    (
        "scheme-misspelt",
        '<p><a href="http:// example.org/x">our site</a></p>',
        None,
        '<p><a href="http://example.org/x">our site</a></p>',
        "“http:// ”",
    ),
    (
        "scheme-misspelt",
        '<p><a href="https://www,example.org">our site</a></p>',
        None,
        '<p><a href="https://www.example.org">our site</a></p>',
        "“https://www.”",
    ),
    (
        "scheme-misspelt",
        '<p><a href="https://www,.example.org">our site</a></p>',
        None,
        '<p><a href="https://www.example.org">our site</a></p>',
        "“https://www.”",
    ),
    (
        "scheme-misspelt",
        '<p><a href="https://https://example.org">our site</a></p>',
        None,
        '<p><a href="https://example.org">our site</a></p>',
        "and then again",
    ),
    (
        "scheme-misspelt",
        '<p><a href="http://http//example.org">our site</a></p>',
        None,
        '<p><a href="http://example.org">our site</a></p>',
        "“http://http//”",
    ),
    (
        "address-malformed",
        '<p><a href="mailto:office at example.org">our site</a></p>',
        0,
        '<p><a href="mailto:office@example.org">our site</a></p>',
        "“office at example.org” is no mail address",
    ),
    (
        "address-malformed",
        '<p><a href="mailto:office(at)example.org?subject=at">our site</a></p>',
        0,
        '<p><a href="mailto:office@example.org?subject=at">our site</a></p>',
        "is no mail address",
    ),
    (
        "address-malformed",
        '<p><a href="tel:call +44 1234 567">our site</a></p>',
        0,
        '<p><a href="tel:+441234567">our site</a></p>',
        "is no telephone number",
    ),
    (
        "window-name-misspelt",
        '<a href="index.html" target="new window">a</a>',
        None,
        '<a href="index.html" target="_blank">a</a>',
        "names a window of its own",
    ),
    (
        "link-without-destination",
        '<a herf="index.html">a</a>',
        None,
        '<a href="index.html">a</a>',
        "whose address stands in herf",
    ),
    (
        "link-without-destination",
        '<a src="index.html">a</a>',
        None,
        '<a href="index.html">a</a>',
        "whose address stands in src",
    ),
    (
        "link-without-destination",
        '<a ref="index.html">a</a>',
        None,
        '<a href="index.html">a</a>',
        "whose address stands in ref",
    ),
    (
        "link-without-destination",
        '<a hreff="index.html">a</a>',
        None,
        '<a href="index.html">a</a>',
        "whose address stands in hreff",
    ),
    (
        "link-without-destination",
        '<a url="index.html">a</a>',
        None,
        '<a href="index.html">a</a>',
        "whose address stands in url",
    ),
    (
        "attribute-invented",
        '<p><a href="#a">a</a></p><h2 name="a">A</h2><p>x',
        None,
        '<p><a href="#a">a</a></p><h2 id="a">A</h2><p>x',
        "is no identifier, so links to “#a” lead nowhere",
    ),
    ("attribute-invented", '<h2 idd="b">B</h2><p>x', 0, '<h2 id="b">B</h2><p>x', "means nothing on <h2>"),
]


@pytest.mark.parametrize(("code", "wrong", "choice", "right", "words"), PRESSED)
def test_what_a_press_writes_is_what_was_meant(code, wrong, choice, right, words):
    finding, made = fixed_by(code, wrong, choice)
    assert made == right
    assert words in finding.message


#: A rule, and markup in which it finds nothing.
QUIET = [
    ("tag-unescaped", "<p>The <em>element</em> is new.</p>"),
    ("tag-unescaped", "<p>The <em> element</em> is new.</p>"),
    ("tag-unescaped", "<p>Coal. <p>Elements of steam. <h2> Tags</h2><p>p"),
    ("tag-unescaped", "<p>Write <code><a id=x></code></a> or <code><b>bold</b></code>.</p>"),
    ("tag-unescaped", "<p>Write <code>&lt;b></code>, the &lt;b> tag.</p>"),
    ("sample-obeyed", "<pre>\n<b>x</b> <a href=index.html>y</a></pre>"),
    ("sample-obeyed", "<pre>\n<h2>SYNOPSIS</h2>\n</pre>"),
    ("end-tag-stray", "<p>Use <h2> for these.</p><p>p"),
    ("identifier-duplicate", '<a name="x"></a>\n<h2 id="x">X</h2><p>p'),
    ("identifier-duplicate", '<h2 id="x"><a name="x">X</a></h2><p>p'),
    ("address-malformed", "<a href='mailto:?subject=x'>a</a> <a href='mailto:a@b.example,%20c@d.example'>a</a>"),
    ("address-malformed", "<a href='tel:+44 (0)1234-567;ext=3'>a</a> <a href='mailto:root@localhost'>a</a>"),
    ("scheme-missing", "<a href='notes.org'>a</a> <a href='readme.de'>a</a> <a href='script.pl/x'>a</a>"),
    ("scheme-missing", "<a href='index.html.fr'>a</a> <a href='notes.txt.de'>b</a> <a href='a.tar.it/x'>c</a>"),
    ("link-without-destination", "<a id=x rel=y>a</a> <a href='javascript:void(0)' onclick='f()'>b</a>"),
    ("end-tag-missing", "<p>a<p>b<frame src=index.html><basefont size=2><bgsound src=index.html><keygen>"),
]


@pytest.mark.parametrize(("code", "markup"), QUIET)
def test_what_is_right_is_left_alone(code, markup):
    assert code not in codes(site_with(markup))


#: Links of which one letter does not tell what they mean.
DOUBTFUL = [
    '<a href="#sec1">x</a><h2 id="sec2">Two</h2><p>p',  # another section's number
    '<a href="#nots">x</a><h2 id="notes">N</h2><p>p</p><h2 id="dots">D</h2><p>p',  # one of two
    '<a href="#abd">x</a><h2 id="abc">N</h2><p>p',  # too short to say
    '<a href="#gauges">Gauges</a><h2 id="gauge">A gauge</h2><p>p</p><h2>Gauges</h2><p>p',  # it means the other
]


@pytest.mark.parametrize("markup", DOUBTFUL)
def test_a_letter_that_does_not_tell_is_asked_about(markup):
    (found,) = [one for one in check_page(site_with(markup), "page.html") if one.rule.code == "fragment-missing"]
    assert not has_fix(found)


def test_links_of_other_pages_are_asked_what_an_identifier_is_called():
    site = site_from(
        {
            "a.html": '<html lang=en><title>A</title><h1>A</h1><h2 id="red flag">R</h2><a href="#red_flag">x</a>',
            "b.html": '<html lang=en><title>B</title><h1>B</h1><a href="a.html#red-flag">x</a>',
            "c.html": '<html lang=en><title>C</title><h1>C</h1><a href="a.html#red-flag">x</a>',
        }
    )
    (found,) = [one for one in check_page(site, "b.html") if one.rule.code == "fragment-misspelt"]
    assert has_fix(found)
    changed = after(site, plan_fixes(site, ["b.html"], ["fragment-misspelt"]))
    assert 'id="red-flag"' in changed.pages["a.html"].text
    (other,) = [one for one in check_page(site, "a.html") if one.rule.code == "fragment-misspelt"]
    assert not has_fix(other)  # named otherwise than most links name it: a question
    (named,) = [one for one in check_page(site, "a.html") if one.rule.code == "identifier-white-space"]
    assert [one.words for one in named.choices] == ["Rename it to “red-flag”"]


def test_what_has_one_answer_is_fixed_with_all_the_others():
    """Also of a rule that mostly has to ask."""
    site = site_with('<a href="#nots">x</a><h2 id="notes">Notes</h2><p>1 < 2')
    text = after(site, plan_fixes(site, ["page.html"])).pages["page.html"].text
    assert '<a href="#notes">x</a>' in text
    assert "1 &lt; 2" in text


TITLES = "".join(
    f'<p><a name="{name}"></a><b>{name.capitalize()}</b></p>\n<p>{"Words of the line and its engines. " * 12}</p>\n'
    for name in "coal steam water brass lamps yard points".split()
)


def test_all_look_alikes_of_a_page_become_headings_together_and_keep_their_names():
    """Each anchor's name becomes the heading's own, though the anchors by themselves have a fix as well."""
    site = site_with(TITLES)
    names = [one for one in codes(site) if one in ("heading-lookalike", "name-target")]
    assert sorted(set(names)) == ["heading-lookalike", "name-target"]
    text = after(site, plan_fixes(site, ["page.html"])).pages["page.html"].text
    for name in "coal steam water brass lamps yard points".split():
        assert f'<h2 id="{name}">{name.capitalize()}</h2>' in text, text
    assert "<h3" not in text


def test_tags_are_right_before_it_is_judged_what_a_page_consists_of():
    """The words behind a bold title whose end tag is missing are no part of it."""
    site = site_with(TITLES.replace("<b>Steam</b>", "<b>Steam</B", 1))
    text = after(site, plan_fixes(site, ["page.html"])).pages["page.html"].text
    assert '<h2 id="steam">Steam</h2>' in text


#: What says how wide a page is (in its head, in its body, in the style sheet that it loads), and how wide it is.
WIDE = [
    ("<style>#wrapper { margin: 0; width: 760px }</style>", "<p>x", "", 760),
    ("<style>/* body {width: 900px} */ html, body { MIN-WIDTH: 700.5px }</style>", "<p>x", "", 700),
    ("", "<p>x", ".page-wrap, p { color: red; width: 900px; }", 900),
    ("", '<table border="0" width="760"><tr><td>x</table>', "", 760),
    ("", '<table width="100%"><tr><td>x</table>', "", None),
    ("", "<p>x", ".page-wrap { width: 900px } @media (max-width: 700px) { .page-wrap { width: auto } }", None),
    (
        "<style>img { width: 760px } .main img { width: 700px } .main { width: 50em } .wrap { max-width: 800px }</style>",
        "<p>x",
        "",
        None,
    ),
    ("<style>.main { width: 420px }</style>", "<p>x", "", None),
    ("", "<p>x", "@media print { body { width: 900px } }", None),
]


@pytest.mark.parametrize(("head", "body", "css", "width"), WIDE)
def test_a_page_of_a_fixed_width_is_asked_what_it_says_of_narrow_windows(head, body, css, width):
    text = (
        '<!DOCTYPE html>\n<html lang="en">\n<head>\n<link rel="stylesheet" href="a.css">\n<title>T</title>\n'
        f"{head}\n</head>\n<body>\n<h1>T</h1>\n{body}\n</body>\n</html>\n"
    )
    site = site_from({"page.html": text, "a.css": css})
    (found,) = [one for one in check_page(site, "page.html") if one.rule.code == "viewport-missing"]
    assert has_fix(found) is (width is None)
    choice = None if width is None else 0
    changed = after(site, plan_fixes(site, ["page.html"], ["viewport-missing"], choice=choice))
    content = "width=device-width, initial-scale=1" if width is None else f"width={width}"
    line = f'<meta name="viewport" content="{content}">\n'
    assert changed.pages["page.html"].text == text.replace("</head>", line + "</head>")


@pytest.mark.parametrize("href", ["javascript:void(0)", "javascript:;", "JavaScript: void 0;", "#", ""])
def test_a_link_that_does_nothing_is_told(href):
    assert "link-without-destination" in codes(site_with(f'<a href="{href}">x</a>'))


@pytest.mark.parametrize(
    "href", ["mailto:", "mailto:office", "mailto:office@", "mailto:Jane Doe", "tel:call us", "tel:"]
)
def test_an_address_of_nobody_is_told(href):
    (found,) = [
        one for one in check_page(site_with(f'<a href="{href}">x</a>'), "page.html") if "mal" in one.rule.code
    ]
    assert not found.choices


def test_words_twice_apart_are_still_a_duplicate():
    assert "identifier-duplicate" in codes(site_with('<p id="x">a</p><h2 id="x">X</h2><p>p'))


@pytest.mark.parametrize("before", ["Content-type: text/html\n\n", "<p>old</p>"])
def test_a_title_counts_though_words_stand_before_the_page(before):
    page = '<!DOCTYPE html>\n<html lang="en"><head><title>T</title></head><body><h1>T</h1><svg><title>S</title></svg>'
    site = site_from({"page.html": before + page})
    assert site.pages["page.html"].title == "T"
    assert "title-missing" not in codes(site)


def test_what_a_page_loads_is_written_as_addresses_are():
    head = '<!DOCTYPE html>\n<html lang="en"><title>T</title><link rev="made" href="office@example.org">'
    page = f"{head}<h1>T</h1><img src='images\\rack.png' alt=x>"
    site = site_from({"page.html": page, "images/rack.png": ""})
    found = {one.rule.code for one in check_page(site, "page.html")}
    assert found >= {"mail-scheme-missing", "backslash-in-address"}
    assert "file-missing" not in found
    text = after(site, plan_fixes(site, ["page.html"])).pages["page.html"].text
    assert 'href="mailto:office@example.org"' in text
    assert "src='images/rack.png'" in text


@pytest.mark.parametrize(
    "markup",
    [
        "<h2>Heading 2</h2><p>p",
        "<h2 id=x>Subheading</h2><p>p",
        "<p>TODO:</p>",
        "<li>Fixme!</li>",
        "<p>Dies ist ein Blindtext.</p>",
        "<p>Text hier einfügen</p>",
        "<p>Insérez votre texte ici</p>",
        "<p>Inserte su texto aquí</p>",
        "<p>asdfasdf</p>",
        "<td>qwertz</td>",
        "<h2>Überschrift 3</h2><p>p",
    ],
)
def test_filler_is_known_in_several_languages(markup):
    assert codes(site_with(markup)).count("filler-left") == 1


@pytest.mark.parametrize("title", ["Document", "Untitled-1", "Page title", "Sans titre 2", "Unbenanntes Dokument"])
def test_a_title_that_a_program_left_is_filler(title):
    assert "filler-left" in codes(site_from({"page.html": f"<html lang=en><title>{title}</title><h1>T</h1>"}))


@pytest.mark.parametrize(
    "markup",
    [
        "<h2>Heading north</h2><p>p",
        "<p>TODO lists help.</p>",
        "<p>The Blindtext of a mason.</p>",
        "<p>asdf is a row of keys</p>",
        "<pre>\nLorem ipsum dolor\n</pre>",
    ],
)
def test_words_about_filler_are_none(markup):
    assert "filler-left" not in codes(site_with(markup))


def test_the_head_of_a_message_is_taken_out_of_the_page():
    page = '<!DOCTYPE html>\n<html lang="en"><title>T</title><h1>T</h1>\n'
    for head in ("Content-type: text/html\n\n", "\r\nContent-Type: text/html\r\nPragma: no-cache\r\n\r\n"):
        site = site_from({"page.html": head + page})
        changed = after(site, plan_fixes(site, ["page.html"], ["header-shown"]))
        assert changed.pages["page.html"].text == page
    assert "header-shown" not in codes(site_from({"page.html": page + "<p>Content-type: text/html\n\n"}))


def test_a_choice_is_made_for_all_of_a_rule_though_some_of_it_need_none():
    """The heading is fixed by a press, the words in bold by the first of several choices."""
    site = site_with("<h2>A<p>p</p><p>Use <b>coal, and <i>water</i> too.</p><p>q")
    plan = plan_fixes(site, ["page.html"], ["end-tag-missing"], choice=0)
    changed = after(site, plan)
    assert "<h2>A</h2>" in changed.pages["page.html"].text
    assert "</b>" in changed.pages["page.html"].text
    assert "end-tag-missing" not in codes(changed)


@pytest.mark.parametrize("words", ["Boiler care, before you light up", "Boiler care (1998)", "Boiler care – by Jane"])
def test_a_link_that_may_end_before_its_item_does_is_asked_about(words):
    site = site_with(f'<ul><li><a href="index.html">{words}</li><li>x</li></ul>')
    (found,) = [one for one in check_page(site, "page.html") if one.rule.code == "end-tag-missing"]
    assert not has_fix(found)
    assert "End it behind “Boiler care”" in [one.words for one in found.choices]


@pytest.mark.parametrize(("name", "pressed"), [("listeam", False), ("my-box", True), ("o:box", True)])
def test_a_name_that_has_grown_together_with_words_gets_no_end_tag(name, pressed):
    site = site_with(f"<div><{name}>one thing</div>")
    (found,) = [one for one in check_page(site, "page.html") if one.rule.code == "end-tag-missing"]
    assert has_fix(found) is pressed
