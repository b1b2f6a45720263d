"""Identifiers: named as a careful person would, judged, moved from old anchors, told apart, guessed at."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pages import edited, page_of, site_of, text_after
from signpost.core.addresses.nearness import NameIndex
from signpost.core.identifiers.anchors import find_twice, plan_anchors, plan_apart
from signpost.core.identifiers.naming import Digits, IdentifierRule, Named, choose_identifiers, name_from
from signpost.core.identifiers.places import find_places, plan_bottom, plan_place, plan_top
from signpost.core.identifiers.sections import (
    Fitness,
    find_objection,
    judge_existing,
    judge_identifier,
    plan_identifiers,
)
from signpost.core.site.site import Resolved
from signpost.core.text.errors import RequestError
from strategies import pages

#: What a careful person would choose.
HUNDRED = {
    "Boiler care": "boiler-care",
    "What is a token?": "what-is-a-token",
    "What to wear": "what-to-wear",
    "How to light a fire in a cold engine in winter": "how-to-light-a-fire",
    "How do I join?": "how-do-i-join",
    "Why did the train stop?": "why-did-the-train-stop",
    "Who may ride on the footplate?": "who-may-ride-on-the-footplate",
    "Where to find us": "where-to-find-us",
    "When the signal does not answer": "when-the-signal-does-not-answer",
    "Can I bring my dog on the train when it is full?": "can-i-bring-my-dog",
    "Is the line open in winter?": "is-the-line-open",
    "Rules for the signal box at Thornby": "rules-for-the-signal-box",
    "Frequently asked questions about tickets, refunds and delays": "frequently-asked-questions",
    "Getting to Thornby by bus, train or bicycle": "getting-to-thornby",
    "Don't lean out of the window": "dont-lean-out-of-the-window",
    "If you cannot eat what there is": "if-you-cannot-eat-what-there-is",
    "Tea, dinner and the stove": "tea-dinner-and-the-stove",
    "The permanent way": "the-permanent-way",
    "Signals and tokens": "signals-and-tokens",
    "Working with the crane: what the rule book says": "working-with-the-crane",
    "Looking after the engine shed during the long winter months": "looking-after-the-engine-shed",
    "Report of the committee to the annual general meeting": "report-of-the-committee",
    # numbers and dates
    "1998 season": "season-1998",
    "Season 1998": "season-1998-2",
    "4 May 1894": "may-4-1894",
    "The accident of 1921": "the-accident-of-1921",
    "1914–1918": "section-1914-1918",
    "10 things to check before you light up": "ten-things-to-check",
    "3 easy steps": "three-easy-steps",
    "2nd class carriages": "second-class-carriages",
    "1st visit": "first-visit",
    "24-hour clock": "section-24-hour-clock",
    "3,000 tonnes of slate": "section-3000-tonnes-of-slate",
    "£11,406": "section-11406",
    "50% discount for members": "section-50-percent-discount",
    "100 °C": "section-100-degrees-c",
    "7:30 – 9:00": "section-7-30-9-00",
    "The 10.15 from Coldwell": "the-10-15-from-coldwell",
    "Platform 2": "platform-2",
    "Engine No. 7": "engine-no-7",
    "Rule 55": "rule-55",
    "Step 3: oil the bearings": "step-3-oil-the-bearings",
    "Part 2 – Water": "part-2-water",
    "Timetable 2024/25": "timetable-2024-25",
    "Winter 2019": "winter-2019",
    # numbering that only counts
    "1. Lamps": "lamps",
    "1.2 Gauges and valves": "gauges-and-valves",
    "2.3.1 Injectors": "injectors",
    "III. The good years": "the-good-years",
    "a) Brake van": "brake-van",
    "(4) Couplings": "couplings",
    "§ 4 Liability": "liability",
    # code and signs
    "git commit --amend": "git-commit-amend",
    "<pre> and <code>": "pre-and-code",
    "max_width()": "max-width",
    "C++ and C# bindings": "c-plus-plus-and-c-sharp-bindings",
    "/etc/fstab": "etc-fstab",
    "The onclick attribute": "the-onclick-attribute",
    "<h2 id=lamps>": "h2-id-lamps",
    "font-size: 100%": "font-size-100-percent",
    "a href": "a-href",
    "index.html": "index-html",
    "--verbose": "verbose",
    # ampersands, apostrophes, quotation marks, dashes
    "Terms & Conditions": "terms-and-conditions",
    "Q&A": "q-and-a",
    "R&D at the works": "r-and-d-at-the-works",
    "The driver's guide": "the-drivers-guide",
    "Drivers’ hours": "drivers-hours",
    "“Slate and Sundays”": "slate-and-sundays",
    "A/B signalling": "a-b-signalling",
    "Coal – and how to get it": "coal-and-how-to-get-it",
    "Water (and where to find it on the line)": "water-and-where-to-find-it-on-the-line",
    "Stop!": "stop",
    "Wait… what?": "wait-what",
    "Non-stop trains": "non-stop-trains",
    "E-mail": "e-mail",
    "Sunday/Monday roster": "sunday-monday-roster",
    # letters of all kinds
    "Überwachung & Wärme": "uberwachung-and-warme",
    "naïve café": "naive-cafe",
    "Señor Núñez": "senor-nunez",
    "Łódź": "lodz",
    "Привет, мир": "privet-mir",
    "東京": "dong-jing",
    "Ελλάδα": "ellada",
    "Straße": "strasse",
    "Smørrebrød": "smorrebrod",
    "🚂 Steam": "steam",
    "Coal 🔥": "coal",
    # odd ones
    "Top": "section-top",
    "!!!": "section",
    "???": "section-2",
    "Contents": "contents",
    "A": "a",
    "The": "the",
    "Introduction": "introduction",
    "Conclusion": "conclusion",
    "BEGINNINGS": "beginnings",
    "  Much   space  ": "much-space",
    "soft\u00adhyphen": "softhyphen",
    "no\u00a0break": "no-break",
    "Llanfairpwllgwyngyllgogerychwyrndrobwllllantysiliogogogoch": "llanfairpwllgwyngyllgogerychwyrndrobwlll",
}


def named(*headings: str, rule: IdentifierRule | None = None, taken=(), language=None) -> list[str]:
    entries = [Named(text, None, None) for text in headings]
    return list(choose_identifiers(entries, range(len(entries)), taken, rule or IdentifierRule(), language).values())


def test_a_hundred_headings_are_named_as_a_careful_person_would():
    assert len(HUNDRED) >= 100
    found = dict(zip(HUNDRED, named(*HUNDRED), strict=True))
    assert {text: name for text, name in found.items() if name != HUNDRED[text]} == {}


def test_repeats_are_told_apart_by_what_they_stand_under():
    parts = ["Coal", "Water", "Oil", "Ash", "Steam", "Smoke"]
    page = page_of("<h1>Engines</h1>" + "".join(f"<h2>{part}</h2><h3>Overview</h3>" for part in parts))
    names = {target.name for target in edited(page, plan_identifiers(page)).targets}
    assert names == {name for part in parts for name in (part.lower(), f"{part.lower()}-overview")}


def test_repeats_under_nothing_are_numbered():
    assert named("Overview", "Overview", "Overview") == ["overview", "overview-2", "overview-3"]


def test_a_beginning_that_others_share_is_too_short():
    assert named("Rules for the signal box at Thornby", "Rules for the signal box at Hale Bridge") == [
        "rules-for-the-signal-box-at-thornby",
        "rules-for-the-signal-box-at-hale-bridge",
    ]


@pytest.mark.parametrize(
    ("text", "rule", "name"),
    [
        ("How to light a fire in a cold engine", IdentifierRule(longest=12), "how-to-light"),
        ("How to light a fire in a cold engine", IdentifierRule(least_words=3, longest=60), "how-to-light-a-fire-in-a-cold-engine"),
        ("Boiler care", IdentifierRule(joiner="_"), "boiler_care"),
        ("Boiler care", IdentifierRule(joiner=""), "boilercare"),
        ("Boiler care", IdentifierRule(prefix="hb-"), "hb-boiler-care"),
        ("1998 season", IdentifierRule(prefix="y"), "yseason-1998"),
        ("1998 season", IdentifierRule(digits=Digits.LEAD), "section-1998-season"),
        ("1998 season", IdentifierRule(digits=Digits.KEEP), "1998-season"),
        ("1998 season", IdentifierRule(digits=Digits.LEAD, lead="year"), "year-1998-season"),
        ("Überwachung", IdentifierRule(transliterate=False), "überwachung"),
        ("東京 駅", IdentifierRule(transliterate=False), "東京-駅"),
    ],
)  # fmt: skip
def test_the_settings_of_a_site(text, rule, name):
    assert named(text, rule=rule) == [name]


def test_letters_follow_the_page_s_language():
    assert named("Überwachung", language="de-DE") == ["ueberwachung"]
    assert named("Ærø på tur", language="da") == ["aeroe-paa-tur"]
    assert named("Överblick", language="sv") == ["overblick"]


@given(
    st.lists(st.text(max_size=60), min_size=1, max_size=8),
    st.builds(
        IdentifierRule,
        longest=st.integers(8, 60),
        joiner=st.sampled_from(["-", "_", ""]),
        prefix=st.sampled_from(["", "x-"]),
        digits=st.sampled_from(list(Digits)),
        transliterate=st.booleans(),
    ),
)
def test_whatever_the_words_identifiers_can_be_used_and_are_unique(headings, rule):
    names = named(*headings, rule=rule, taken=["coal"])
    assert len({name.lower() for name in names}) == len(names)
    for name in names:
        assert find_objection(name, {"coal"}) is None
        assert rule.digits is Digits.KEEP or rule.prefix or not name[0].isdigit()
        assert not rule.transliterate or re.fullmatch(r"[a-z0-9_-]+", name)


# -------------------------------------------------------------------- judged


@pytest.mark.parametrize(
    ("name", "verdict", "words", "suggestion"),
    [
        ("boiler", Fitness.GOOD, "", None),
        ("coal", Fitness.REFUSED, "taken", "boiler-care"),
        ("", Fitness.REFUSED, "at least one", "boiler-care"),
        ("boiler care", Fitness.REFUSED, "white space", "boiler-care"),
        ("boiler#care", Fitness.REFUSED, "#", "boiler-care"),
        ("Top", Fitness.REFUSED, "top of the page", "section-top"),
        ("Coal", Fitness.ADVICE, "capitals alone", "coal-2"),
        ("2fire", Fitness.ADVICE, "digit", "section-2fire"),
        ("Fire", Fitness.ADVICE, "capitals", "fire"),
        ("fire&ash", Fitness.ADVICE, "escaped", "fire-and-ash"),
        ("käse", Fitness.ADVICE, "percent", "kase"),
        ("own", Fitness.GOOD, "", None),
    ],
)
def test_what_is_typed_is_judged_at_once(name, verdict, words, suggestion):
    page = page_of("<p id=coal><h2 id=own>Boiler care</h2>")
    judged = judge_identifier(page, name, own="own", words="Boiler care")
    assert (judged.verdict, judged.suggestion) == (verdict, suggestion)
    assert words in judged.message


# -------------------------------------------------------------------- places


def test_any_element_can_be_pointed_to():
    page = page_of(
        "<main>\n<h2>a</h2>\n<table><caption>Engines we have</caption><tr><th>No.</th></tr><tr><td>Seven</td></tr></table>"
        "<p>One two <img src=x alt='A gauge'> three</p>\n</main>"
    )
    at = page.text.index
    found = find_places(page, at("Seven"))
    assert [(place.tag, place.proposed) for place in found][:4] == [
        ("td", "seven"),
        ("tr", "seven"),
        ("table", "engines-we-have"),
        ("main", "a"),
    ]
    assert find_places(page, at("<img") + 2)[0].proposed == "a-gauge"
    assert edited(page, plan_place(page, at("<tr><td>"), "seven")).text == page.text.replace(
        "<tr><td>", "<tr id=seven><td>"
    )
    for start, name in ((3, "x"), (at("<img"), "a b")):
        with pytest.raises(RequestError):
            plan_place(page, start, name)
    with pytest.raises(RequestError, match="already"):
        plan_place(page_of("<p id=a>x</p>"), 0, "b")


@pytest.mark.parametrize(
    ("markup", "top"),
    [
        ("<main class=c><h2>x</h2></main>", "<main id=begin class=c><h2>x</h2></main>"),
        ("<main id=m><h2>x</h2></main>", "<main id=m><h2 id=begin>x</h2></main>"),
        ("<title>t</title><p class=c>x</p>", "<title>t</title><p id=begin class=c>x</p>"),
        ("<nav>n</nav><h1 class=c>x</h1>", "<nav>n</nav><h1 id=begin class=c>x</h1>"),
    ],
)
def test_the_very_top_is_marked(markup, top):
    page = page_of(markup)
    assert edited(page, plan_top(page, "begin")).text == top


def test_the_very_bottom_is_marked():
    page = page_of('<main class="m">\n  <h2>x</h2>\n</main>\n')
    assert (
        edited(page, plan_bottom(page, "end")).text
        == '<main class="m">\n  <h2>x</h2>\n  <div id="end"></div>\n</main>\n'
    )
    with pytest.raises(RequestError):
        plan_bottom(page_of("<p id=end>"), "end")


# -------------------------------------------------------------------- old anchors


@pytest.mark.parametrize(
    ("markup", "after"),
    [
        pytest.param("<h2><a name=x>Coal</a></h2>", "<h2 id=x>Coal</h2>", id="in the heading"),
        pytest.param("<h2><a name=x></a>Coal</h2>", "<h2 id=x>Coal</h2>", id="empty, in the heading"),
        pytest.param("<a name=x></a>\n<h2>Coal</h2>", "<h2 id=x>Coal</h2>", id="before the heading"),
        pytest.param("<a name=x><h2>Coal</h2></a>", "<h2 id=x>Coal</h2>", id="around the heading"),
        pytest.param("<p><a name=x></a></p>\n<h2>Coal</h2>", "<p></p>\n<h2 id=x>Coal</h2>", id="in a paragraph"),
        pytest.param("<A NAME=x><H2>Coal</H2>", "<H2 ID=x>Coal</H2>", id="never closed"),
        pytest.param("<a name=x/>\n<p>b</p>", "<a id=x/></a>\n<p>b</p>", id="slash belongs to the name"),
        pytest.param("<a name='x'/>\n<p>b</p>", "<a id='x'></a>\n<p>b</p>", id="closed by a slash"),
        pytest.param("<a id=x name=x></a>", "<a id=x></a>", id="both, the same"),
        pytest.param("<a id=y name=x></a>", "<a id=y name=x></a>", id="both, not the same"),
        pytest.param("<h2 id=y><a name=x>Coal</a></h2>", "<h2 id=y><a id=x>Coal</a></h2>", id="heading has its own"),
        pytest.param("<h2 id=x><a name=x></a>Coal</h2>", "<h2 id=x>Coal</h2>", id="heading has the same"),
        pytest.param("<h2><a name=x href=y>Coal</a></h2>", "<h2 id=x><a href=y>Coal</a></h2>", id="a link as well"),
        pytest.param("<p>one <a name=x>two</a></p>", "<p>one <a id=x>two</a></p>", id="around words"),
        pytest.param(
            "<a name=x></a><h2>a</h2><a name=x></a><h2>b</h2>", "<h2 id=x>a</h2><a name=x></a><h2>b</h2>", id="twice"
        ),
        pytest.param(
            "<a name=x></a><a name=y></a><h2>a</h2>", "<a id=y></a><h2 id=x>a</h2>", id="two for one heading"
        ),
        pytest.param("<div name=x></div>", "<div name=x></div>", id="no anchor"),
    ],
)
def test_old_names_become_identifiers(markup, after):
    assert text_after(markup, plan_anchors) == after


def test_anchors_can_stay():
    page = page_of("<a name=x></a><h2>a</h2>")
    assert edited(page, plan_anchors(page, keep=True)).text == "<a name=x></a><h2 id=x>a</h2>"


@given(pages())
def test_no_link_breaks_when_old_names_move(data):
    site = site_of(page=data)
    page = site.pages["page.html"]
    after = site_of(page=edited(page, plan_anchors(page)).source.data)
    for before, now in zip(page.links, after.pages["page.html"].links, strict=True):
        assert before.href == now.href
        assert isinstance(site.follow("page.html", before.href), Resolved) <= isinstance(
            after.follow("page.html", now.href), Resolved
        )


# -------------------------------------------------------------------- used twice, misspelt


def test_what_is_used_twice_is_shown_with_its_links_and_told_apart():
    site = site_of(
        page="<a name=coal></a><h2 id=coal>Coal</h2><h2 id=coal>Best kinds</h2><p id=coal>x<a href=#coal>y</a>",
        other="<a href=page.html#coal>z</a>",
    )
    (twice,) = find_twice(site, "page.html")
    assert (twice.indicated.element, [target.element for target in twice.others]) == ("h2", ["a", "h2", "p"])
    assert [path for path, _ in twice.links] == ["page.html", "other.html"]
    page = site.pages["page.html"]
    apart = edited(page, plan_apart(page, "coal"))
    assert apart.text == (
        "<a name=coal-2></a><h2 id=coal>Coal</h2><h2 id=best-kinds>Best kinds</h2><p id=coal-3>x<a href=#coal>y</a>"
    )
    assert find_twice(site_of(page=apart.source.data), "page.html") == []
    with pytest.raises(RequestError):
        plan_apart(page_of("<p id=a>"), "a")


@pytest.mark.parametrize(
    ("fragment", "near"),
    [
        ("Coal", ["coal"]),
        ("chapter2", ["chapter-2", "chapter-12"]),
        ("chapter-two", ["chapter-2", "chapter-12"]),
        ("chapter_2", ["chapter-2", "chapter-12"]),
        ("chapter-02", ["chapter-2", "chapter-12"]),
        ("boiler-car", ["boiler-care"]),
        ("bolier-care", ["boiler-care"]),
        ("boiler", ["boiler-care"]),
        ("caf%C3%A9", ["café"]),
        ("zebra", []),
        ("", []),
    ],
)
def test_what_a_broken_link_may_have_meant(fragment, near):
    names = ["coal", "chapter-12", "chapter-2", "boiler-care", "café", "water", "signals-and-tokens"]
    assert NameIndex(names).near(fragment) == near


def test_a_piece_of_text_that_stands_alone_gets_a_name():
    assert name_from("Engines we have", ["engines-we-have"]) == "engines-we-have-2"


@pytest.mark.parametrize(
    ("name", "words", "better"),
    [
        ("section-3", "says nothing", "steam-engines"),
        ("x1", "says nothing", "steam-engines"),
        ("9f3c1a77", "says nothing", "steam-engines"),
        ("1st", "digit", "steam-engines"),
        ("STEAM", "capitals", "steam-engines"),
        ("steam engines", "white space", "steam-engines"),
        ("steam#engines", "#", "steam-engines"),
        ("steam-" * 12, "characters long", "steam-engines"),
        ("steam", None, None),
        ("engines-of-steam", None, None),
    ],
)
def test_identifiers_that_are_hard_to_use_and_better_ones(name, words, better):
    found = judge_existing(page_of(f'<h1>T</h1><h2 id="{name}">Steam engines</h2><p>t'))
    if words is None:
        assert found == {}
    else:
        assert words in found[1].message
        assert found[1].suggestion == better


@pytest.mark.parametrize(
    ("markup", "name"),
    [
        ("<img src='pics/goods_shed.jpg'>", "goods-shed"),
        ("<img src='a.gif' alt='The shed'>", "the-shed"),
        ("<h2 id=s>Sheds</h2><hr>", "hr-sheds"),
        ("<iframe src='maps/line%20map.html?x=1'></iframe>", "line-map"),
    ],
)
def test_a_proposal_says_what_a_place_is(markup, name):
    page = page_of(f"<body>{markup}")
    found = find_places(
        page, page.text.rindex("<", 0, len(page.text)) if "iframe" not in markup else page.text.index("<iframe")
    )
    assert found[0].proposed == name
