"""Slips of markup and of addresses: what is found, where, what one press or the first choice makes of it."""

import pytest

from checked import ALL, GOOD, codes, fixed_by, site_with
from pages import page_of, site_from, site_of
from parted import after
from signpost.core.contents import ContentsOptions, plan_contents
from signpost.core.findings import check_page
from signpost.core.findings.fixing import has_fix, plan_fixes
from signpost.core.findings.options import CheckOptions
from signpost.core.site.plans import plan_for
from signpost.core.site.site import Site, single_page_site

#: Rule, markup, what a press (None) or a choice (its number) makes of it, and words of the message.
PRESSED = [
    # end tags
    (
        "end-tag-missing",
        "<div class=a>\n  <section>\n    <p>x</p>\n</div>",
        None,
        "<div class=a>\n  <section>\n    <p>x</p>\n  </section>\n</div>",
        "<section> has no </section>; browsers close it at </div> on line 13",
    ),
    (
        "end-tag-missing",
        "<table><tr><td><div>x</td></tr></table>",
        None,
        "<table><tr><td><div>x</div></td></tr></table>",
        "close it at </td>",
    ),
    (
        "end-tag-missing",
        "<ul><li><div>x<ul><li>y</ul><li>z</ul>",
        1,
        "<ul><li><div>x<ul><li>y</ul></div><li>z</ul>",
        "close it at <li>",
    ),
    ("end-tag-missing", "<div><span>x</div>", None, "<div><span>x</span></div>", "<span> has no </span>"),
    ("end-tag-missing", "<a name=x>\n<p>text</p>", None, "<a name=x></a>\n<p>text</p>", "only marks a place"),
    ("end-tag-missing", "<p>a <b>bold. And not</p>", 0, "<p>a <b>bold.</b> And not</p>", "goes on to"),
    ("end-tag-missing", "<p>a <q>b <i>c</q> d</p>", None, "<p>a <q>b <i>c</i></q> d</p>", "goes on to </q>"),
    ("end-tag-missing", "<p>a <b>bold. And not</p>", 1, "<p>a <b>bold. And not</b></p>", "goes on to"),
    ("end-tag-missing", "<p><i>a <em>b</em></p>\n<p>c</p>", 0, "<p><i>a <em>b</em></i></p>\n<p>c</p>", "<i> has no"),
    ("end-tag-stray", "<p>x</span></p>", None, "<p>x</p>", "</span> ends nothing"),
    ("end-tag-stray", "<p>x</p>\n</div>\n<p>y</p>", None, "<p>x</p>\n<p>y</p>", "</div> ends nothing"),
    ("end-tag-stray", "<p>a\n<ul><li>b</li></ul>\n</p>", None, "<p>a\n<ul><li>b</li></ul>", "an empty one here"),
    ("end-tag-stray", "<p>a</br>b</p>", None, "<p>a<br>b</p>", "take it for a line break"),
    ("elements-crossed", "<p><b>a <i>b</b></i></p>", None, "<p><b>a <i>b</i></b></p>", "begins within <b>"),
    ("elements-crossed", "<p><b>a <i>b</b> c</i></p>", None, "<p><b>a <i>b</i></b><i> c</i></p>", "ends behind it"),
    (
        "link-in-link",
        '<p><a name="x"><a href="index.html">home page</a></a></p>',
        None,
        '<p><a name="x"></a><a href="index.html">home page</a></p>',
        "No link can contain another",
    ),
    ("list-item-stray", "<li>a</li>\n<li>b</li>", 0, "<ul>\n<li>a</li>\n<li>b</li>\n</ul>", "not within a ul or ol"),
    ("list-item-stray", "<div><li>a</li></div>", 1, "<div><ol><li>a</li></ol></div>", "not within a ul or ol"),
    ("list-item-stray", "<dt>a</dt><dd>b</dd>", 0, "<dl>\n<dt>a</dt><dd>b</dd>\n</dl>", "not within a dl"),
    # within tags
    ("bracket-missing", "<p class=a <b>x</b></p>", None, "<p class=a> <b>x</b></p>", "<p class=a has no “>”"),
    (
        "bracket-missing",
        '<p><a href="index.html"<b>t</b></a></p>',
        None,
        '<p><a href="index.html"><b>t</b></a></p>',
        "<b>",
    ),
    ("bracket-missing", '<h2 id="two" Two</h2><p>x</p>', None, '<h2 id="two"> Two</h2><p>x</p>', "has no “>”"),
    ("bracket-missing", "<h2 Two and three</h2><p>x</p>", None, "<h2> Two and three</h2><p>x</p>", "has no “>”"),
    ("bracket-missing", "<h2Two and three</h2><p>x</p>", None, "<h2>Two and three</h2><p>x</p>", "has no “>”"),
    ("bracket-missing", "<h2Two</h2><p>x</p>", None, "<h2>Two</h2><p>x</p>", "has no “>” behind <h2,"),
    ("bracket-missing", "<h2<b>Two</b></h2><p>x</p>", None, "<h2><b>Two</b></h2><p>x</p>", "has no “>” behind <h2,"),
    ("bracket-missing", "<ol compact reversed <li>a</li></ol>", None, "<ol compact reversed> <li>a</li></ol>", "“>”"),
    ("bracket-missing", "<p id='a'Open <b>x</b></p>", None, "<p id='a'>Open <b>x</b></p>", "has no “>”"),
    ("bracket-missing", "<p class=a Coal <b>x</b></p>", None, "<p class=a> Coal <b>x</b></p>", "has no “>”"),
    ("bracket-missing", "<p><i>a</i <b>x</b></p>", None, "<p><i>a</i> <b>x</b></p>", "has no “>”"),
    ("bracket-missing", "<p><i>a</i and <b>x</b></p>", None, "<p><i>a</i> and <b>x</b></p>", "has no “>”"),
    ("bracket-missing", "<p><i>a</i. So <b>x</b></p>", None, "<p><i>a</i>. So <b>x</b></p>", "has no “>”"),
    ("bracket-missing", "<p><i>a</i<b>x</b></p>", None, "<p><i>a</i><b>x</b></p>", "has no “>” behind </i,"),
    ("bracket-missing", "<p><b><i>a</i</b> x</p>", None, "<p><b><i>a</i></b> x</p>", "has no “>” behind </i,"),
    ("bracket-missing", "<pagain and <b>x</b></p>", None, "<p>again and <b>x</b></p>", "has no “>”"),
    ("bracket-missing", "<ul><licoal and <b>x</b></li></ul>", None, "<ul><li>coal and <b>x</b></li></ul>", "has no"),
    # a tag that is shown as text
    (
        "bracket-missing",
        "<p>See a href=index.html>it</a>.</p>",
        None,
        "<p>See <a href=index.html>it</a>.</p>",
        "no “<”",
    ),
    (
        "bracket-missing",
        "h2>Two</h2><p>x</p>",
        None,
        "<h2>Two</h2><p>x</p>",
        "h2> has no “<”, so it is shown as text",
    ),
    ("bracket-missing", "<p>See <b>it/b> and</p>", None, "<p>See <b>it</b> and</p>", "/b> has no “<”"),
    ("bracket-missing", "<h2>Two/h2><p>x</p>", None, "<h2>Two</h2><p>x</p>", "/h2> has no “<”"),
    ("bracket-missing", "<ul><li>a</li>\n/ul>\n<p>x</p>", None, "<ul><li>a</li>\n</ul>\n<p>x</p>", "/ul> has no"),
    ("bracket-missing", "<p>a/p>\n<p>b</p>", None, "<p>a</p>\n<p>b</p>", "/p> has no “<”"),
    ("bracket-missing", "<p>a br class=x> b</p>", None, "<p>a <br class=x> b</p>", "has no “<”"),
    ("bracket-missing", "<p><i>a</i: <b>x</b></p>", None, "<p><i>a</i>: <b>x</b></p>", "has no “>”"),
    ("bracket-missing", "<h2>Two</h2<p>x</p>", None, "<h2>Two</h2><p>x</p>", "has no “>” behind </h2,"),
    ("quote-missing", "<p title=x'>a</p>", 0, "<p title='x'>a</p>", "begins with none"),
    (
        "quote-missing",
        '<p><a href="index.html>all about coal</a> <b title="y">z</b></p>',
        0,
        '<p><a href="index.html">all about coal</a> <b title="y">z</b></p>',
        "has no quotation mark at its end",
    ),
    ("attribute-repeated", "<p class=a class=a>x</p>", None, "<p class=a>x</p>", "has class twice"),
    ("attribute-repeated", '<p class="a" class="b">x</p>', 0, '<p class="a b">x</p>', "ignore the second"),
    ("attribute-repeated", '<p title="a" title="b">x</p>', 1, '<p title="b">x</p>', "ignore the second"),
    (
        "attribute-invented",
        '<h2 href="#coal">C</h2><p>p</p>',
        0,
        '<h2 id="coal">C</h2><p>p</p>',
        "means nothing on <h2>",
    ),
    ("attribute-invented", "<p link=coal>C</p>", 1, "<p>C</p>", "means nothing on <p>"),
    # references and comments
    ("reference-unended", "<p>Smith &amp Sons</p>", None, "<p>Smith &amp; Sons</p>", "&amp;"),
    ("reference-unknown", "<p>a &emdash; b</p>", None, "<p>a &amp;emdash; b</p>", "no character's name"),
    (
        "reference-of-windows",
        "<p>1998 &#150; 2004</p>",
        None,
        "<p>1998 &#8211; 2004</p>",
        "whose own number is &#8211;",
    ),
    ("comment-open", "<p>a</p>\n<!-- old <p>b</p>", 0, "<p>a</p>\n<!-- old --> <p>b</p>", "never ended"),
    # identifiers
    ("identifier-empty", '<p id="">x</p>', None, "<p>x</p>", "empty identifier"),
    (
        "identifier-white-space",
        "<p id='a b'>x</p> <a href='#a%20b'>ab</a>",
        0,
        "<p id='a-b'>x</p> <a href='#a-b'>ab</a>",
        "white space",
    ),
    ("identifier-hash", "<p id='#ab'>x</p>", 0, "<p id='ab'>x</p>", "#"),
    (
        "identifier-digit-first",
        "<h2 id=1998>New coaches</h2><p>p</p>",
        0,
        "<h2 id=new-coaches>New coaches</h2><p>p</p>",
        "digit",
    ),
    ("identifier-capitals", "<p id=Coal>x</p>", 0, "<p id=coal>x</p>", "capitals"),
    (
        "identifier-untelling",
        "<h2 id=section7>Boiler care</h2><p>p</p>",
        0,
        "<h2 id=boiler-care>Boiler care</h2><p>p</p>",
        "says nothing",
    ),
    (
        "identifier-duplicate",
        "<p id=x>x</p><p id=x>y</p><a href=#x>to x</a>",
        0,
        "<p id=x>x</p><p id=x-2>y</p><a href=#x>to x</a>",
        "The only link to it ends there",
    ),
    (
        "name-target",
        "<a name=coal></a>\n<h2>Coal</h2><p>p</p>",
        None,
        '<h2 id="coal">Coal</h2><p>p</p>',
        "One place is marked",
    ),
    # where links lead
    (
        "fragment-misspelt",
        "<p id=boiler-care>x</p><a href='#Boiler_Care'>b</a>",
        None,
        "<p id=boiler-care>x</p><a href='#boiler-care'>b</a>",
        "written “#boiler-care”",
    ),
    (
        "fragment-misspelt",
        "<p id=part-2>x</p><a href='#Part_Two'>b</a>",
        None,
        "<p id=part-2>x</p><a href='#part-2'>b</a>",
        "written “#part-2”",
    ),
    (
        "fragment-elsewhere",
        '<a href="#x">the x</a>',
        0,
        '<a href="index.html#x">the x</a>',
        "index.html and 1 more have it",
    ),
    (
        "fragment-missing",
        "<p id=boilers>x</p><a href='#boilrs'>b</a>",
        None,
        "<p id=boilers>x</p><a href='#boilers'>b</a>",
        "Perhaps it means “#boilers”",
    ),
    (
        "hash-doubled",
        "<p id=coal>x</p><a href='##coal'>c</a>",
        None,
        "<p id=coal>x</p><a href='#coal'>c</a>",
        "a # too many",
    ),
    (
        "hash-doubled",
        "<p id=coal>x</p><a href='page.html##coal'>c</a>",
        None,
        "<p id=coal>x</p><a href='page.html#coal'>c</a>",
        "a # too many",
    ),
    (
        "address-case",
        "<a href=INDEX.html#x>i</a>",
        None,
        "<a href=index.html#x>i</a>",
        "Most hosts tell capitals apart",
    ),
    ("page-missing", "<a href=pages/other.html#x>o</a>", 0, "<a href=other.html#x>o</a>", "There is “other.html”"),
    ("page-missing", "<a href=other.htm>o</a>", 0, "<a href=other.html>o</a>", "There is “other.html”"),
    ("page-missing", "<a href=othr.html>o</a>", 0, "<a href=other.html>o</a>", "There is “other.html”"),
    (
        "scheme-misspelt",
        "<a href='htp://example.org/a'>a</a>",
        None,
        "<a href='http://example.org/a'>a</a>",
        "begins with “htp://”",
    ),
    (
        "scheme-misspelt",
        "<a href='https//example.org'>a</a>",
        None,
        "<a href='https://example.org'>a</a>",
        "begins with",
    ),
    (
        "scheme-misspelt",
        "<a href='http:/example.org'>a</a>",
        None,
        "<a href='http://example.org'>a</a>",
        "begins with",
    ),
    (
        "scheme-misspelt",
        "<a href='mailto//a@example.org'>a</a>",
        None,
        "<a href='mailto:a@example.org'>a</a>",
        "mailto:",
    ),
    (
        "window-name-misspelt",
        "<a href=index.html target=blank>i</a>",
        None,
        "<a href=index.html target=_blank>i</a>",
        "opens a new one each time",
    ),
    (
        "window-name-misspelt",
        "<a href=index.html target=_tpo>i</a>",
        None,
        "<a href=index.html target=_top>i</a>",
        "Perhaps _top",
    ),
    (
        "opener-open",
        "<a href='https://example.org' target='_blank'>a (new window)</a>",
        None,
        "<a href='https://example.org' target='_blank' rel=\"noopener\">a (new window)</a>",
        "reach back",
    ),
    (
        "opener-open",
        "<a rel=help href='https://example.org' target=_blank>new tab</a>",
        None,
        "<a rel=\"help noopener\" href='https://example.org' target=_blank>new tab</a>",
        "reach back",
    ),
    (
        "address-space",
        "<a href='index.html?a b#x'>i</a>",
        None,
        "<a href='index.html?a%20b#x'>i</a>",
        "has a space in it",
    ),
    (
        "identifier-long",
        f"<h2 id={'very-' * 14}long>Boiler care</h2><p>p</p>",
        0,
        "<h2 id=boiler-care>Boiler care</h2><p>p</p>",
        "longer than 60 characters",
    ),
    # structure
    (
        "heading-gap",
        "<h2>A</h2><p>a</p><h4>B</h4><p>b</p>",
        0,
        "<h2>A</h2><p>a</p><h3>B</h3><p>b</p>",
        "directly after a level 2",
    ),
    (
        "heading-lookalike",
        "<p>a</p>\n<p><b>Boiler care</b></p>\n<p>b</p>\n<p><b>Brakes</b></p>\n<p>c</p>",
        None,
        None,
        "looks like a heading",
    ),
    (
        "separator-last",
        "<p><a href=index.html>I</a> | <a href=other.html>O</a> |</p>",
        None,
        "<p><a href=index.html>I</a> | <a href=other.html>O</a></p>",
        "behind the last link",
    ),
    (
        "style-hash-for-class",
        "<style>#note { color: red }</style><p class=note>x</p>",
        None,
        "<style>.note { color: red }</style><p class=note>x</p>",
        "written .note",
    ),
]


@pytest.mark.parametrize(
    ("code", "wrong", "choice", "right", "words"),
    [one for one in PRESSED if one[3] is not None],
    ids=[f"{code} {at}" for at, (code, _, _, right, _) in enumerate(PRESSED) if right is not None],
)
def test_a_slip_is_found_and_its_fix_makes_it_right(code, wrong, choice, right, words):
    finding, made = fixed_by(code, wrong, choice)
    assert made == right
    assert words in finding.message


#: Rule, markup, and words of the message; to be put right by hand.
BY_HAND = [
    ("address-beyond-site", "<a href=../../a.html>a</a>", "leads above the site's folder"),
    ("new-window-unsaid", "<a href=index.html target=_blank>map</a>", "does not say so"),
    ("link-words-same", "<a href=index.html>Times</a> <a href=other.html>times</a>", "on line 10 to index.html"),
    ("link-picture-silent", "<a href=index.html><img src='data:,' alt=''></a>", "a picture without words"),
    ("target-unused", "<p id=nobody>x</p>", "No link of the site leads to “nobody”"),
    ("cdata-in-html", "<p>a <![CDATA[ b ]]></p>", "taken for a comment"),
    ("comment-nested", "<!-- a <!-- b --> c -->", "The first --> ends both"),
    ("attribute-obsolete", "<table bgcolor=red><tr><td align=left>x<td ALIGN=right>", "align (2), bgcolor (1)"),
    (
        "attribute-obsolete",
        "<table><tr><td nowrap>x</table><hr noshade><ul compact><li>y</ul>",
        "compact (1), noshade (1)",
    ),
    ("heading-long", f"<h2>{'words ' * 30}</h2><p>p</p>", "has 30 words"),
    ("headings-missing", None, "no heading"),
    ("section-empty", "<h2>Tickets</h2>\n<h2>Trains</h2><p>p</p>", "Nothing stands under “Tickets”"),
    ("section-without-heading", "<section><p>p</p></section>", "has no heading and no label"),
    ("filler-left", "<p>Your text here</p>", "never replaced"),
    ("filler-left", "<header><h1>New page 2</h1></header>", "never replaced"),
    ("elements-crossed", "<b>a<div>b</b></div>", "begins within"),
]


@pytest.mark.parametrize(
    ("code", "wrong", "words"), BY_HAND, ids=[f"{code} {at}" for at, (code, *_) in enumerate(BY_HAND)]
)
def test_a_slip_is_found_that_only_its_author_can_put_right(code, wrong, words):
    page = GOOD if wrong is not None else GOOD.replace("<h1>Good</h1>", f"<p>{'words ' * 1200}</p>")
    site = site_with(wrong or "", page)
    found = [one for one in check_page(site, "page.html", ALL) if one.rule.code == code]
    assert len(found) == 1, [(one.rule.code, one.message) for one in check_page(site, "page.html", ALL)]
    assert words in found[0].message
    assert not has_fix(found[0])


@pytest.mark.parametrize(
    "right",
    [
        # end tags that may be left out, and elements that follow other rules
        "<ul><li>a<li>b<ul><li>c</ul><li>d</ul><dl><dt>a<dd>b</dl>",
        "<table><caption>c<tr><th>a<td><b>b</b><tr><td>c</table><p>x<p>y",
        "<p>a<table><tr><td>x</table></p>",
        "<svg><g><path d='M0'/></g></svg> <p>b</p>",
        "<p><a href=index.html>i <img src='data:,' alt=x></a><br>x<input><hr>",
        "<script>document.write('<b>' + '</div>')</script><style>a:before{content:'</i>'}</style><!-- </div> <b> -->",
        "<textarea><b></textarea><p title='</b>'>x</p>",
        "<h2>A</h2><p>a</p><menu><li>x</li></menu>",
        # within tags
        "<p title='a > b' class=\"c\">x</p><p title=\"it's\">y</p>",
        "<p class=a data-class=b>x</p>",
        # references
        "<p>a & b, AT&T, ?a=1&b=2 &copy; &#8211; &amp;amp</p><a href='index.html?a=1&copy=2'>i</a>",
        # identifiers
        "<h2 id=coal-and-water>C</h2><p>p</p><a id=here></a><input name='a b'><map name='m n'></map>",
        # addresses
        "<a href='http://example.org'>a</a><a href='https://example.org'>b</a><a href='//example.org'>c</a>",
        "<a href='mailto:a@example.org'>m</a><a href='ftp://example.org/x'>f</a><a href='tel:+44'>t</a>",
        "<a href=index.html target=_blank>i</a><a href=index.html target=map>i</a><a href=index.html target=_TOP>i</a>",
        "<a href='https://example.org' target=_blank rel=noreferrer>o</a>",
        # structure
        "<h2>A</h2><img src='data:,' alt='a'><h2>B</h2><h3>C</h3><p>p</p>",
        "<section aria-label=x><p>p</p></section><section><h2>A</h2><p>p</p></section>",
        "<p><a href=index.html>I</a> | <a href=other.html>O</a></p><p>a <a href=index.html>b</a> – c</p>",
        "<p><b>Mind the step:</b> it is high.</p><p>A <b>bold</b> word.</p>",
        "<style>#x { color: red } .note { color: #note }</style><p id=x class=note>x</p>",
        "<h2>Your name and where to write it here on the form</h2><p>p</p>",
    ],
)  # fmt: skip
def test_what_is_right_is_left_alone(right):
    assert codes(site_with(right)) == []


@pytest.mark.parametrize(
    ("wrong", "found"),
    [
        ("<p class=a <b>x</b></p>", ["bracket-missing"]),
        ('<p><span class="a" <i class="b">x</i></span></p>', ["bracket-missing"]),
        ('<p><a href="index.html>all about coal</a> <b title="y">z</b></p>', ["quote-missing"]),
        ('<p><a href="index.html>all about coal</a> z</p><p title="y">z</p>', ["quote-missing"]),
        ("<p class=a <b>x</b></i></p>", ["bracket-missing", "end-tag-stray"]),
        ('<p>a</p><p><a href="index.html>all about coal</a> z</p>', ["quote-missing"]),
        ("<p>a</p><p><a href='index.html>all about coal</a> z</p>", ["quote-missing"]),
        ("<p>a <a name='coal'/> z</p>", ["element-self-closed", "name-target"]),
        ("<p>a <a href=“index.html”>z</a></p>", ["quote-typographic"]),
        ("<p>a <a href=#x><a href=index.html>z</a></a></p><p id=x>x</p>", ["link-in-link"]),
    ],
)
def test_what_a_tag_has_swallowed_is_no_slip_itself(wrong, found):
    assert codes(site_with(wrong)) == found


def test_what_was_set_aside_by_the_options_is_not_found():
    site = site_with("<p>x</span></p><p id='a b'>")
    assert codes(site) == ["end-tag-stray", "identifier-white-space"]
    for options, left in (
        (CheckOptions(off=["end-tag-stray"]), ["identifier-white-space"]),
        (CheckOptions(only=["end-tag-stray"]), ["end-tag-stray"]),
        (CheckOptions(left_out=["page.html"]), []),
        (CheckOptions(left_out=["pag"]), ["end-tag-stray", "identifier-white-space"]),
    ):
        assert [one.rule.code for one in check_page(site, "page.html", options)] == left


MENU = "<nav><a href=index.html>Home</a> <a href=a.html>A</a> <a href=b.html>B</a> <a href=c.html>C</a></nav>"


def test_a_menu_that_differs_from_its_copies_is_found_and_the_page_one_is_on_is_marked():
    pages = {
        name: GOOD.replace("<h1>", MENU + "<h1>").replace("Good", name).replace("{}", "<p>p</p>") for name in "abcd"
    }
    pages["d"] = pages["d"].replace(" <a href=b.html>B</a>", "").replace("C</a>", "C</a> <a href=d.html#x>D</a>")
    index = GOOD.replace("<h1>", MENU + "<h1>").replace("{}", "<p id=x>p</p>").replace("<nav>", "<nav> ")
    site = site_of(index=index, **pages)
    found = {path: [one for one in check_page(site, path) if one.rule.code == "block-differs"] for path in site.pages}
    assert [path for path in found if found[path]] == ["d.html"]
    assert "it lacks “B”" in found["d.html"][0].message
    marked = after(site, plan_fixes(site, ["a.html"], ["current-page-unmarked"]))
    assert '<a href=a.html aria-current="page">A</a>' in marked.pages["a.html"].text.replace(
        "aria-current=page", 'aria-current="page"'
    )
    alone = Site({"a.html": site.pages["a.html"]}, frozenset(["a.html"]))
    assert "block-differs" not in codes(alone, "a.html")


def of_page(page, **others):
    site = site_of(page=page, index="<html lang=en><title>I</title><a href=page.html>p</a>", **others)
    return [(one.rule.code, one.message) for one in check_page(site, "page.html")]


def test_content_outside_the_main_region_is_found_once():
    page = GOOD.replace("<h1>Good</h1>\n{}", "<header><h1>G</h1></header><main><h2>A</h2><p>a</p></main>{}")
    outside = page.replace("{}", "<div><h2>B</h2><p>b</p><h2>C</h2><p>c</p></div>")
    assert [code for code, _ in of_page(outside)] == ["content-outside-main"]
    assert of_page(page.replace("{}", "<aside><h2>B</h2><p>b</p></aside><footer><h2>C</h2></footer>")) == []


SECTIONS = [
    ("coal", "Coal"),
    ("oil", "Oil"),
    ("steam", "Steam"),
    ("water", "Water"),
    ("ash", "Ash"),
    ("tools", "Tools"),
]


def sections(named=SECTIONS):
    return "\n".join(f"<h2 id={name}>{words}</h2>\n<p>About it.</p>" for name, words in named)


def entries(named):
    return "".join(f"<li><a href=#{name}>{words}</a></li>\n" for name, words in named)


def test_contents_made_by_hand_that_leave_a_section_out_are_completed():
    whole = GOOD.replace("{}", f"<ul>\n{entries(SECTIONS)}</ul>\n{sections()}")
    assert of_page(whole) == []
    boxed = sections().replace("<p>About it.</p>", "<div><h3>Note</h3><p>n</p></div>", 1)
    assert of_page(GOOD.replace("{}", f"<ul>\n{entries(SECTIONS)}</ul>\n{boxed}")) == []
    less = GOOD.replace("{}", f"<ul>\n{entries(SECTIONS[:-1])}</ul>\n{sections()}")
    ((code, message),) = of_page(less)
    assert (code, message) == ("contents-incomplete", "“Tools” has no entry in your list of contents.")
    site = site_of(page=less, index="<html lang=en><title>I</title><a href=page.html>p</a>")
    assert "page.html" not in plan_fixes(site, ["page.html"]).edits  # it takes a choice
    fixed = after(site, plan_fixes(site, ["page.html"], ["contents-incomplete"], choice=0))
    assert "<li><a href=#tools>Tools</a></li>" in fixed.pages["page.html"].text.replace('"', "")
    assert codes(fixed) == []


@pytest.mark.parametrize(
    ("old", "new", "found"),
    [
        (">Oil</h2>", ">Lamp oil</h2>", ["contents-out-of-date"]),
        ("<h2 id=tools>", "<h2 id=brushes>Brushes</h2>\n<p>b</p>\n<h2 id=tools>", ["section-without-entry"]),
        ("<h2 id=oil>Oil</h2>\n<p>About it.</p>\n", "", ["entry-without-section", "fragment-missing"]),
    ],
)
def test_contents_of_ours_that_no_longer_fit_are_found_and_brought_up_to_date(old, new, found):
    site = site_of(page=GOOD.replace("{}", sections()), index="<html lang=en><title>I</title><a href=page.html>p</a>")
    made = after(site, plan_for_page(site))
    text = made.pages["page.html"].text
    assert old in text
    changed = Site({**made.pages, "page.html": page_of(text.replace(old, new), "page.html")}, made.files)
    assert codes(changed) == found
    fixed = after(changed, plan_fixes(changed, ["page.html"], found))
    assert codes(fixed) == ([] if "entry-without-section" not in found else codes(fixed))


def plan_for_page(site):
    page = site.pages["page.html"]
    return plan_for(page, plan_contents(page, ContentsOptions(levels=(2,))))


@pytest.mark.parametrize(
    ("data", "code"),
    [
        (b"<meta charset=iso-2022-kr><title>T</title>", "encoding-refused"),
        (b"\xef\xbb\xbf<meta charset=iso-8859-1><title>T</title>", "encoding-conflict"),
    ],
)
def test_encodings_that_browsers_read_otherwise_are_found(data, code):
    assert code in [one for one, _ in of_page(data)]


@pytest.mark.parametrize("title", ["Untitled  Document", "New Page 1", "untitled"])
def test_a_title_that_nobody_wrote_is_found(title):
    page = page_of(f"<!DOCTYPE html><html lang=en><title>{title}</title><h1>A</h1>")
    found = [one for one in check_page(single_page_site(page), page.path, ALL) if one.rule.code == "filler-left"]
    assert [one.span.of(page.text) for one in found] == [title]


@pytest.mark.parametrize("body", ["<div><pagain and <b>x</b></div>", "<x-part and <b>x</b></x-part>"])
def test_a_bracket_is_not_put_behind_a_name_that_nobody_knows(body):
    (finding,) = [
        one
        for one in check_page(site_from({"page.html": GOOD.format(body)}), "page.html")
        if one.rule.code == "bracket-missing"
    ]
    assert not finding.edits
    assert not finding.choices


@pytest.mark.parametrize(
    "body",
    [
        "<p>p > q and a>b, and/or> as well</p>",
        "<p><code>br class=x> and /p></code> are tags</p>",
        "<pre>li class=a>x/li></pre>",
        "<p>h2>Two, nobody ends it</p>",
        "<p>In <code>div>p</code> the p is within.</p>",
        "<!-- a href=x>y</a> --><p>x</p>",
        '<p title="see br class=y>z">x</p>',
        "<p>and/section> b</p>",
    ],
)
def test_what_may_be_meant_as_text_is_no_lost_tag(body):
    assert "bracket-missing" not in codes(site_with(body))


@pytest.mark.parametrize(
    ("body", "after_"),
    [
        (
            "<p>See a href=index.html>one</a> and <b>x</b>.</p>\n<p>See a href=other.html>two</a>.</p>",
            "<p>See <a href=index.html>one</a> and <b>x</b>.</p>\n<p>See <a href=other.html>two</a>.</p>",
        ),
        ("<p><b>one/b> and x</p>\n<p><b>two/b> and</p>", "<p><b>one</b> and x</p>\n<p><b>two</b> and</p>"),
        ("<p>b>one and <i>b>two</b></i></p>", "<p>b>one and <i><b>two</b></i></p>"),
    ],
)
def test_each_tag_that_has_lost_its_bracket_is_the_nearest_to_its_partner(body, after_):
    site = site_with(body)
    assert {"end-tag-stray", "end-tag-missing"}.isdisjoint(codes(site))
    fixed = after(site, plan_fixes(site, ["page.html"], ["bracket-missing"]))
    assert fixed.pages["page.html"].text == GOOD.format(after_)


@pytest.mark.parametrize(
    ("body", "code"),
    [
        ("<p>x</a> see a href=index.html>y</p>", "end-tag-stray"),
        ("<section><div><p>x</p></section><p>y/div></p>", "end-tag-missing"),
    ],
)
def test_a_lost_tag_on_the_other_side_is_not_the_partner(body, code):
    assert codes(site_with(body)).count(code) == 1
    assert "bracket-missing" not in codes(site_with(body))


def test_a_lost_tag_has_one_partner():
    found = codes(site_with("<p>See a href=index.html>x</a> and</a>.</p>"))
    assert [found.count(code) for code in ("bracket-missing", "end-tag-stray")] == [1, 1]
