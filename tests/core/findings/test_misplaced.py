"""What stands in the wrong place, was typed as words, or was copied and not changed; and what only looks so."""

import pytest

from checked import GOOD, codes, fixed_by, site_with
from pages import site_of
from parted import after
from signpost.core.findings import check_page
from signpost.core.findings.fixing import has_fix, plan_fixes

TEXT = "<p>" + "The train runs on Sundays and is late very often. " * 3 + "</p>\n"

NAMES = ("coal", "water", "oil", "fire", "ash")


def listed(*names):
    """A list of sections in this order, before the sections in theirs."""
    entries = "".join(f'<li><a href="#{name}">{name.title()}</a></li>\n' for name in names)
    sections = "".join(f'<h2 id="{name}">{name.title()}</h2>\n{TEXT}' for name in NAMES)
    return f"<ul>\n{entries}</ul>\n{sections}"


#: Rule, markup, what a press (None) or a choice (its number) makes of it.
FIXED = [
    (
        "list-in-list",
        "<ol>\n  <li>One</li>\n  <ol>\n    <li>a</li>\n  </ol>\n  <li>Two</li>\n</ol>",
        None,
        "<ol>\n  <li>One\n  <ol>\n    <li>a</li>\n  </ol></li>\n  <li>Two</li>\n</ol>",
    ),
    (  # two of them belong to the same item
        "list-in-list",
        "<ol><li>One</li> <!-- more --> <ol><li>b</li></ol><ul><li>c</li></ul><li>d</li></ol>",
        None,
        "<ol><li>One <!-- more --> <ol><li>b</li></ol><ul><li>c</li></ul></li><li>d</li></ol>",
    ),
    ("region-empty", "<nav></nav>\n<p>x</p>", None, "<p>x</p>"),
    ("region-empty", "<p>x</p> <aside> \n </aside>", None, "<p>x</p> "),
    (
        "section-closed-early",
        f"<section>\n<h2>A</h2>\n</section>\n{TEXT}<section>\n<h2>B</h2>\n{TEXT}</section>",
        None,
        f"<section>\n<h2>A</h2>\n{TEXT}</section>\n<section>\n<h2>B</h2>\n{TEXT}</section>",
    ),
    (  # a class may give it a look of its own
        "section-closed-early",
        f"<section class=a><h2>A</h2></section>{TEXT}<section><h2>B</h2>{TEXT}</section>",
        0,
        f"<section class=a><h2>A</h2>{TEXT}</section>\n<section><h2>B</h2>{TEXT}</section>",
    ),
    (  # so may all of them
        "section-closed-early",
        f"<div>\n  <section><h2>A</h2></section>\n  {TEXT}</div>",
        0,
        f"<div>\n  <section><h2>A</h2>\n  {TEXT}  </section>\n</div>",
    ),
    ("tag-typed", "<p>&lt;h2&gt;Coal&lt;/h2&gt;</p><p>p", None, "<h2>Coal</h2><p>p"),
    (
        "tag-typed",
        "<p>Do &lt;a href=&quot;index.html&quot;&gt;stop&lt;/a&gt;. 3 &lt; 4 &gt; 2",
        None,
        '<p>Do <a href="index.html">stop</a>. 3 &lt; 4 &gt; 2',
    ),
    ("tag-typed", "<p>Mind &lt;B&gt;the&lt;/B&gt; step.", None, "<p>Mind <B>the</B> step."),
    (
        "line-breaks-lost",
        "<p>Coal Railway\n  12 <b>Station</b> Road\n  Hilltown</p>",
        0,
        "<p>Coal Railway<br>\n  12 <b>Station</b> Road<br>\n  Hilltown</p>",
    ),
    (
        "identifier-copied",
        f'<h2 id="water">Water</h2>{TEXT}<h2 id="water-2">Oil</h2>{TEXT}',
        0,
        f'<h2 id="water">Water</h2>{TEXT}<h2 id="oil">Oil</h2>{TEXT}',
    ),
    ("contents-unordered", listed("coal", "oil", "water", "fire", "ash"), 0, listed(*NAMES)),
    (
        "contents-incomplete",
        f'<ul><li><a href="#a">Coal</a></li><li><a href="#c">Oil</a></li></ul><h2 id=a>Coal</h2>{TEXT}'
        f"<h2 id=b>Water</h2>{TEXT}<h2 id=c>Oil</h2>{TEXT}",
        0,
        None,
    ),
    (
        "entry-words-differ",
        '<ul><li><a href="#a">Coal fires and where they burn</a></li><li><a href="#c">Oil</a></li></ul>'
        f"<h2 id=a>Coal wagons between uphill stations</h2>{TEXT}<h2 id=c>Oil</h2>{TEXT}",
        0,
        '<ul><li><a href="#a">Coal wagons between uphill stations</a></li><li><a href="#c">Oil</a></li></ul>'
        f"<h2 id=a>Coal wagons between uphill stations</h2>{TEXT}<h2 id=c>Oil</h2>{TEXT}",
    ),
    (
        "separator-last",
        '<p>[<a href="index.html">A</a> | <a href="other.html">B</a> | ]</p>',
        None,
        '<p>[<a href="index.html">A</a> | <a href="other.html">B</a> ]</p>',
    ),
    (
        "separator-last",
        '<p><a href="index.html">A</a> | <a href="other.html">B</a> |<br>\ntext</p>',
        None,
        '<p><a href="index.html">A</a> | <a href="other.html">B</a><br>\ntext</p>',
    ),
    (
        "outside-link-here",
        "".join(f'<a href="https://{x}.example.org/" target="_blank" rel="noopener">{x}</a> ' for x in "abc")
        + '<a href="https://d.example.org/">d</a>',
        0,
        "".join(f'<a href="https://{x}.example.org/" target="_blank" rel="noopener">{x}</a> ' for x in "abc")
        + '<a href="https://d.example.org/" target="_blank" rel="noopener">d</a>',
    ),
]


@pytest.mark.parametrize(
    ("code", "markup", "choice", "right"), FIXED, ids=[f"{one[0]} {at}" for at, one in enumerate(FIXED)]
)
def test_it_is_found_and_mended_as_its_author_would(code, markup, choice, right):
    _, text = fixed_by(code, markup, choice)
    assert right is None or text == right


#: Rule, markup: told, and nobody can know what is to be done.
TOLD = [
    ("list-in-list", "<ul><ul><li>a</li></ul></ul>"),
    ("region-empty", "<main></main><p>x"),
    ("region-empty", "<aside id=news></aside><p>x"),
    ("tag-typed", "<p>Go. &lt;h2&gt;Coal&lt;/h2&gt; Stop."),
    ("section-in-footer", f"<footer><h2>Tickets</h2>{TEXT * 5}</footer>"),
    (
        "copy-stale",
        f'<h2>Coal</h2><p><a href="index.html">More on coal</a></p>{TEXT}'
        f'<h2>Water</h2><p><a href="index.html">More on coal</a></p>{TEXT}',
    ),
    (
        "copy-stale",
        f'<h2>Coal</h2><p><img src="data:," alt="Coal heap"></p>{TEXT}'
        f'<h2>Water</h2><p><img src="data:," alt="Coal heap"></p>{TEXT}',
    ),
    ("filler-left", "<p>asdf asdf</p>"),
    ("filler-left", "<p>TODO: write this</p>"),
    ("filler-left", "<p>bla bla bla</p>"),
]


@pytest.mark.parametrize(("code", "markup"), TOLD)
def test_where_nobody_can_know_it_is_told(code, markup):
    found = [one for one in check_page(site_with(markup), "page.html") if one.rule.code == code]
    assert len(found) == 1, codes(site_with(markup))
    assert not has_fix(found[0])
    assert (found[0].edits, found[0].choices, found[0].fix) == ((), (), "none")


@pytest.mark.parametrize(
    "right",
    [
        "<ol><li>One<ol><li>a</li></ol></li><li>Two</li></ol>",
        "<nav aria-label=x><a href=index.html>I</a></nav>",
        "<aside id=news></aside><p>x</p><script>fill()</script>",
        f"<section><h2>A</h2>{TEXT}</section>{TEXT}",
        f"<section><h2>A</h2></section><section><h2>B</h2>{TEXT}</section>".replace(
            "<h2>A</h2>", "<h2>A</h2><p>a</p>"
        ),
        "<p>The b tag: &lt;b&gt;important&lt;/b&gt;</p>",
        "<p>Mind <code>&lt;b&gt;important&lt;/b&gt;</code></p>",
        "<p>a &lt;user&gt; b &lt;/user&gt;</p>",
        f"<footer><h2>Links</h2>{TEXT}</footer>",
        # lines that are as long as they can be, or a sentence each, or a list that goes on, or shown as they are
        "<p>The train runs on Sundays and is late very often, so that nobody\nWaits for it any more who knows the line.\nX.</p>",
        "<p>It runs.\nIt stops.\nIt waits.</p>",
        "<p>Coal,\nWater,\nOil</p>",
        "<p>one line\nand two\nand three</p>",
        "<style>p { white-space: pre-line }</style><p>Coal Railway\n12 Station Road\nHilltown</p>",
        "<p>Coal Railway<br>\n12 Station Road<br>\nHilltown</p>",
        # a term that is linked wherever it is used
        f'<h2>Coal</h2><p>The <a href="index.html">coal</a> is black.</p>{TEXT}'
        f'<h2>Water</h2><p>The <a href="index.html">coal</a> floats.</p>{TEXT}',
        f'<h2>Coal</h2><p><a href="index.html">More on coal</a></p>{TEXT}'
        f'<h2>Water</h2><p>See</p><p><a href="index.html">More on coal</a></p>{TEXT}',
        f'<h2 id="water">Water</h2>{TEXT}<h2 id="water-2">Water again</h2>{TEXT}',
        # by the alphabet, and by what matters
        listed(*sorted(NAMES)),
        listed("oil", "fire", "coal", "ash", "water"),
        '<p>[<a href="index.html">A</a> | <a href="other.html">B</a>]</p>',
        "<p>|<a href=index.html>A</a>|, |<a href=other.html>B</a>|)</p>",
        '<p><a href="index.html">A</a> |<br><a href="other.html">B</a> and more</p>',
        "".join(f'<a href="https://{x}.example.org/">{x}</a> ' for x in "abc")
        + '<a href="https://d.example.org/" target="_blank" rel="noopener">d</a>',
    ],
)
def test_what_only_looks_so_is_left_alone(right):
    assert codes(site_with(right)) == []


# ---------------------------------------------------------------- the page as a whole

WHOLE = GOOD.replace("{}", "<p>x</p>")


@pytest.mark.parametrize(
    ("page", "right"),
    [
        (
            WHOLE + "<p>Behind it.</p>\n<script>x()</script>\n",
            WHOLE.replace("</body>\n</html>\n", "<p>Behind it.</p>\n</body>\n</html>\n<script>x()</script>\n"),
        ),
        (
            WHOLE.replace("</html>", "<p>Behind</p>\n</html>"),
            WHOLE.replace("</body>\n", "<p>Behind</p>\n</body>\n"),
        ),
        (
            WHOLE.replace("</body>\n</html>\n", "</body></html> Tail."),
            WHOLE.replace("</body>\n</html>\n", " Tail.</body></html>"),
        ),
    ],
)
def test_what_is_behind_the_page_s_end_comes_before_it(page, right):
    site = site_with("", page)
    assert codes(site) == ["content-behind-end"]
    assert after(site, plan_fixes(site, ["page.html"])).pages["page.html"].text == right


@pytest.mark.parametrize("tail", ["<script>x()</script><!-- made by hand -->\n", "<style>p {}</style>", " \n\n"])
def test_what_nobody_reads_may_be_behind_the_end(tail):
    assert codes(site_with("", WHOLE + tail)) == []


def test_a_paragraph_beside_the_main_content():
    main = GOOD.replace("<h1>Good</h1>\n{}", f"<main><h1>Good</h1>\n<p>x</p></main>\n{TEXT}")
    assert codes(site_with("", main)) == ["content-outside-main"]
    for around in ("aside", "footer", "header"):
        assert codes(site_with("", main.replace(TEXT, f"<{around}>{TEXT}</{around}>"))) == []
    assert codes(site_with("", main.replace(TEXT, f"<div id=box>{TEXT}</div>"))) == []


@pytest.mark.parametrize("way", ['<p><a href="#">Back to top</a></p>'])
def test_the_one_long_section_without_the_way_back_of_the_others(way):
    def sections(*ways):
        names = ("Coal", "Water", "Oil", "Fire", "Steam", "Lamps", "Yard", "Ash")
        return "".join(f"<h2>{name}</h2>\n{TEXT * 6}{one}\n" for name, one in zip(names, ways, strict=True))

    markup = sections(way, way, "", way, way, way, way, "")
    found, text = fixed_by("section-without-way-back", markup, None)
    assert "“Oil”" in found.message
    bare = text.replace(' class="back-to-top"', "").replace("\n\n", "\n")
    assert bare == sections(way, way, way, way, way, way, way, "").replace("\n\n", "\n")
    assert codes(site_with(sections(way, way, way, way, way, way, way, ""))) == []
    assert "section-without-way-back" not in codes(site_with(sections(way, "", "", way, way, way, way, "")))


# ---------------------------------------------------------------- the first level


def test_several_first_headings_are_repaired_as_it_fits():
    titled = GOOD.replace("{}", f"<h1>Coal</h1>{TEXT}<h2>Black</h2>{TEXT}")
    site = site_with("", titled)
    assert after(site, plan_fixes(site, ["page.html"], ["first-heading-repeated"], choice=0)).pages[
        "page.html"
    ].text == titled.replace("<h1>Coal</h1>", "<h2>Coal</h2>").replace("<h2>Black</h2>", "<h3>Black</h3>")
    chapters = GOOD.replace("<title>Good</title>", "<title>Handbook – Railway</title>").replace(
        "<h1>Good</h1>\n{}", f"<h1>Coal</h1>\n{TEXT}<h1>Water</h1>\n{TEXT}"
    )
    site = site_with("", chapters)
    found = next(one for one in check_page(site, "page.html") if one.rule.code == "first-heading-repeated")
    assert [one.words for one in found.choices] == [
        "Put “Handbook” above all as the h1",
        "Leave “Coal” as the h1, and move the others down",
    ]
    assert after(site, plan_fixes(site, ["page.html"], ["first-heading-repeated"], choice=0)).pages[
        "page.html"
    ].text == chapters.replace("<h1>Coal</h1>", "<h1>Handbook</h1>\n<h2>Coal</h2>").replace(
        "<h1>Water</h1>", "<h2>Water</h2>"
    )


# ---------------------------------------------------------------- across pages


def test_a_title_that_says_what_another_page_s_does():
    page = '<!DOCTYPE html><html lang=en><title>{}</title><body><h1>{}</h1><p><a href="{}">p</a>'
    site = site_of(
        care=page.format("Boiler care – Railway", "Boiler care", "lamps.html"),
        lamps=page.format("Care of boilers – Railway", "Lamps", "care.html"),
    )
    assert "title-repeated" not in codes(site, "care.html")
    found = next(one for one in check_page(site, "lamps.html") if one.rule.code == "title-repeated")
    assert "says what the title of care.html does" in found.message
    fixed = after(site, plan_fixes(site, ["lamps.html"], ["title-repeated"], choice=0))
    assert fixed.pages["lamps.html"].title == "Lamps – Railway"
    assert "title-repeated" not in codes(fixed, "lamps.html")


MENU = '<nav class="menu"><a href="a.html">Coal</a> <a href="b.html">Oil</a> <a href="c.html">Water</a></nav>'


def _with_menu(**others):
    page = "<!DOCTYPE html><html lang=en><title>{0}</title><body>\n{1}\n<h1>{0}</h1><p>p"
    pages = {name: page.format(name, MENU) for name in "abcdefgh"}
    return site_of(**pages | {name: page.format(name, markup) for name, markup in others.items()})


def test_a_page_without_the_menu_of_all_others_gets_it():
    site = _with_menu(lost='<p><a href="a.html">Coal</a></p>')
    found = [one for one in check_page(site, "lost.html") if one.rule.code == "menu-missing"]
    assert len(found) == 1
    fixed = after(site, plan_fixes(site, ["lost.html"], ["menu-missing"], choice=0))
    assert MENU in fixed.pages["lost.html"].text
    assert "menu-missing" not in codes(fixed, "lost.html")


@pytest.mark.parametrize(
    "others",
    [
        {"other": MENU.replace('class="menu"', 'class="menu top"')},  # it has one, called otherwise
        {"other": MENU.replace("nav", "p")},  # in the text
        {"other": "", "more": "", "third": ""},  # so many pages have none
    ],
)
def test_a_page_with_a_menu_of_its_own_lacks_none(others):
    site = _with_menu(**others)
    assert not [path for path in site.pages if "menu-missing" in codes(site, path)]


def test_a_copy_of_a_page_makes_no_pair_one_way():
    page = "<!DOCTYPE html><html lang=en><title>{0}</title><link rel={1} href={2}.html><body><h1>{0}</h1><p>p"
    one = page.format("One", "next", "two")
    site = site_of(one=one, two=page.format("Two", "prev", "same"), same=one)
    assert not [path for path in site.pages if "pair-one-way" in codes(site, path)]
    site = site_of(one=one, two=page.format("Two", "prev", "same"), same=one.replace("<p>p", "<p>q"))
    assert "pair-one-way" in codes(site, "one.html")


@pytest.mark.parametrize(("href", "meant"), [("old_map.html", "old-map.html"), ("Old-map.html#a", "old-map.html#a")])
def test_a_file_name_but_for_its_marks_is_what_is_meant(href, meant):
    markup = f'<p><a href="{href}">m</a>'
    page = GOOD.replace("{}", markup)
    site = site_of(
        page=page, **{"old-map": "<html lang=en><title>M</title><h1>M</h1><p id=a><a href=page.html>p</a>"}
    )
    assert len(codes(site)) == 1
    fixed = after(site, plan_fixes(site, ["page.html"]))
    assert fixed.pages["page.html"].text == page.replace(href, meant)
    assert codes(fixed) == []


def test_an_address_that_is_torn_is_put_together():
    page = GOOD.replace("{}", '<p><a href="old-\n   map.html#a">m</a>')
    site = site_of(
        page=page, **{"old-map": "<html lang=en><title>M</title><h1>M</h1><p id=a><a href=page.html>p</a>"}
    )
    assert codes(site) == ["page-missing"]
    fixed = after(site, plan_fixes(site, ["page.html"]))
    assert 'href="old-map.html#a"' in fixed.pages["page.html"].text
    assert codes(fixed) == []


def test_a_jump_with_the_page_s_own_name_opens_no_window():
    markup = (
        '<h2 id=a>A</h2><p><a href="page.html#a" target="_blank">a</a> <a href="index.html#x" target=_blank>i</a>'
    )
    assert codes(site_with(markup)) == ["jump-in-new-window"]
    _, text = fixed_by("jump-in-new-window", markup, None)
    assert '<a href="page.html#a">a</a>' in text


@pytest.mark.parametrize(
    "markup",
    [
        # an entry that another list has, and one that was never linked
        f'<ul><li><a href="#a">A</a></li><li><a href="#b">B</a></li></ul><ul><li><a href="#c">To C</a></li></ul>'
        f"<h2 id=a>A</h2>{TEXT}<h2 id=b>B</h2>{TEXT}<h2 id=c>C</h2>{TEXT}",
        f'<ul><li><a href="#a">A</a></li><li><a href="#b">B</a></li></ul><h3>More</h3><ul><li><i>Coal</i></li></ul>'
        f"<h2 id=a>A</h2>{TEXT}<h2 id=b>B</h2>{TEXT}<h2 id=c>Coal</h2>{TEXT}",
    ],
)
def test_what_another_list_has_is_not_missing(markup):
    assert "contents-incomplete" not in codes(site_with(markup))
