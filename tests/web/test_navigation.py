"""Contents, jump links, entries and the reading style through the API: what is shown, asked and done."""

import io

import openpyxl
import pytest

from signpost.desk.demo import demo_files
from sites import change, demo_site, new_site, plan, taken_out

PAGE = (
    b'<!DOCTYPE html>\r\n<html lang="en">\r\n<title>T</title>\r\n<body>\r\n<h1 id="t">T</h1>\r\n<p>See Boiler care below, caf\xc3\xa9.</p>\r\n'
    b'<ul>\r\n<li><a href="#lamps">Lamps</a></li>\r\n<li>Boiler</li>\r\n<li><a href="other.html">More</a></li>\r\n</ul>\r\n'
    b'<h2 id="lamps">Lamps</h2>\r\n<p>a <a href="#zz">gone</a></p>\r\n<h2>Boiler care</h2>\r\n<p><a href="#top">Up</a></p>\r\n</body>\r\n'
)
OTHER = b'<title>Other</title>\n<h2 id="deep">Deep</h2>\n<p id="p"><a href="page.html#lamps">lamps</a></p>\n'
CSS = b"h1 { color: red }\n"


@pytest.fixture
def site(client):
    return new_site(client, {"page.html": PAGE, "other.html": OTHER, "s.css": CSS})


def navigation(client, site, path="page.html"):
    return client.get(f"{site}/page", params={"path": path}).raise_for_status().json()["navigation"]


def ask(client, site, what, **query):
    return client.get(f"{site}/{what}", params={"path": "page.html", **query})


def test_a_list_made_by_hand_and_what_may_want_a_link_are_shown(client, site):
    shown = navigation(client, site)
    (handmade,) = shown["handmade"]
    assert (handmade["line"], handmade["levels"], handmade["home"]) == (7, [2], None)
    guesses = [(one["words"], one["section"], one["sure"], one["leads"]) for one in handmade["guesses"]]
    assert guesses == [("Lamps", 1, True, True), ("Boiler", 2, True, False), ("More", None, True, True)]
    (offer,) = shown["offers"]
    assert (offer["words"], offer["title"], offer["home"], offer["line"]) == ("Boiler care", "Boiler care", 0, 6)
    assert shown["contents"] == []


def test_adopted_refreshed_worded_moved_and_taken_out(client, site):
    start = navigation(client, site)["handmade"][0]["start"]
    change(client, site, "adopt", "page.html", start=start, sections={"1": 2})
    (block,) = navigation(client, site)["contents"]
    assert [(one["section"], one["words"], one["state"]) for one in block["entries"]] == [
        (1, "Lamps", "right"), (2, "Boiler", "shortened"), (None, "More", "extra"),
    ]  # fmt: skip
    assert (block["levels"], block["outdated"], block["missing"]) == ([2], False, [])
    change(client, site, "words", "page.html", section=2, words="Care of the boilers")
    change(
        client,
        site,
        "type",
        "page.html",
        text=taken_out(client, site)["page.html"].decode().replace("of the boilers", "and cleaning"),
    )
    (block,) = navigation(client, site)["contents"]
    assert [one["state"] for one in block["entries"]] == ["right", "doubted", "extra"]
    shown = plan(client, site, "contents", "page.html", block=0)
    assert "was shortened" in shown["notes"][0]
    change(client, site, "contents", "page.html", block=0, kept=[2])
    change(client, site, "entry", "page.html", section=2, words="Boilers & more")
    change(client, site, "move-contents", "page.html", spot="top")
    text = taken_out(client, site)["page.html"].decode()
    assert ">Boilers &amp; more</a></li>\r\n" in text
    assert text.index("<nav") < text.index("See Boiler care")
    assert "\n" not in text.replace("\r\n", "")
    change(client, site, "no-contents", "page.html")
    assert navigation(client, site)["contents"] == []


def test_goals_begin_with_the_page_s_own(client, site):
    goals = ask(client, site, "goals").json()["goals"]
    assert [(one["path"], one["text"], one["level"], one["address"]) for one in goals] == [
        ("page.html", "T", 0, "page.html"), ("page.html", "Top of this page", 0, "#top"),
        ("page.html", "Bottom of this page", 0, ""), ("page.html", "T", 1, "#t"), ("page.html", "Lamps", 2, "#lamps"),
        ("page.html", "Boiler care", 2, "page.html"), ("other.html", "Other", 0, "other.html"),
        ("other.html", "Deep", 2, "other.html#deep"), ("other.html", "p", 0, "other.html#p"),
    ]  # fmt: skip


def test_what_a_link_is_made_of_is_found_in_the_source_and_on_the_page(client, site):
    text = PAGE.decode()
    found = ask(client, site, "origin/place", line=6, column=4, end_line=6, end_column=19).json()
    assert text[found["start"] : found["end"]] == found["text"] == "See Boiler care"
    element = text.index("<p>See")
    found = ask(client, site, "origin/words", element=element, words="below, café").json()
    assert text[found["start"] : found["end"]] == "below, café"
    found = ask(client, site, "origin/words", element=text.index('<a href="#zz"')).json()
    assert (found["text"], found["href"], found["link"]) == ("gone", "#zz", text.index('<a href="#zz"'))
    for query in (
        {"element": element, "words": "not there"},
        {"element": 3},
        {"element": element, "words": "See", "occurrence": 4},
    ):
        answer = ask(client, site, "origin/words", **query)
        assert (answer.status_code, "detail" in answer.json()) == (422, True)


def test_jump_links_are_made_led_elsewhere_and_taken_away(client, site):
    found = ask(client, site, "origin/place", line=6, column=8, end_line=6, end_column=19).json()
    change(
        client,
        site,
        "jump",
        "page.html",
        start=found["start"],
        end=found["end"],
        section=2,
        title="Look",
        button=True,
    )
    text = taken_out(client, site)["page.html"].decode()
    assert '<a class="jump-button" href="#boiler-care" title="Look">Boiler care</a>' in text
    start = text.index('<a href="#zz"')
    change(client, site, "jump", "page.html", start=start, end=start, to_page="other.html", identifier="p")
    change(client, site, "link-words", "page.html", start=start, words="what became of it")
    assert b'<a href="other.html#p">what became of it</a>' in taken_out(client, site)["page.html"]
    change(client, site, "no-jump", "page.html", start=start)
    assert b"<p>a what became of it</p>" in taken_out(client, site)["page.html"]


def test_who_points_to_a_section(client, site):
    pointers = ask(client, site, "pointers", section=1).json()
    assert [(one["path"], one["line"], one["text"]) for one in pointers] == [
        ("page.html", 8, "Lamps"),
        ("other.html", 3, "lamps"),
    ]
    assert [one["text"] for one in ask(client, site, "pointers", section=-1).json()] == ["Up"]
    assert ask(client, site, "pointers", section=2).json() == []


def test_ways_back_reach_all_pages_and_say_where_they_cannot(client, site):
    shown = plan(client, site, "back-to-top", "page.html", everywhere=True, to="mark")
    assert [file["path"] for file in shown["files"]] == ["page.html"]
    assert shown["notes"] == [
        "other.html: The page has no <body> tag to put an identifier on. Add one, or link to #top."
    ]
    change(client, site, "back-to-top", "page.html", everywhere=True, alike=True)
    after = taken_out(client, site)
    assert after["page.html"].count(b'<p class="back-to-top">') == 2
    assert after["other.html"].count(b'<p class="back-to-top">') == 1


def test_terms_are_read_from_text_and_files(client):
    assert client.post("/api/terms", json={"text": "coal\nashes"}).json()[1]["term"] == "ashes"
    book, data = openpyxl.Workbook(), io.BytesIO()
    for row in (["term", "text"], ["coal", "black"]):
        book.active.append(row)
    book.save(data)
    files = {"terms.xlsx": data.getvalue(), "terms.tsv": b"coal\tblack\n", "old.txt": "caf\xe9\n".encode("cp1252")}
    read = {
        name: client.post("/api/terms/file", files={"file": (name, content)}).json()
        for name, content in files.items()
    }
    coal = {"term": "coal", "label": "", "identifier": "", "text": "black", "repeated": False}
    assert read["terms.xlsx"] == read["terms.tsv"] == [coal]
    again = client.post("/api/terms", json={"text": "coal\nCoal \nashes"}).json()
    assert [term["repeated"] for term in again] == [False, True, False]
    assert read["old.txt"][0]["term"] == "café"
    for content in (b"PK\x03\x04 broken", b"  \n", b"x" * (5 * 2**20 + 1)):
        answer = client.post("/api/terms/file", files={"file": ("f", content)})
        assert answer.status_code in (413, 422)
        assert answer.json()["detail"]


def test_entries_are_made_and_updated(client, site):
    terms = [{"term": "zinc"}, {"term": "<a>", "text": "A link."}, {"term": "Zinc"}]
    change(client, site, "entries", "page.html", terms=terms, home=2)
    text = taken_out(client, site)["page.html"].decode()
    assert '<h3 id="a">&lt;a&gt;</h3>\r\n<p>A link.</p>\r\n<h3 id="zinc">zinc</h3>\r\n' in text
    again = plan(client, site, "entries", "page.html", terms=terms, home=2)
    assert (again["edits"], again["notes"]) == (0, ["0 new entries, 2 there already, 1 given twice."])
    change(client, site, "no-letters", "page.html")
    assert b'class="letters"' not in taken_out(client, site)["page.html"]


def test_the_reading_style_goes_in_and_out(client):
    site = demo_site(client)
    view = client.get(f"{site}/style").json()
    assert (view["written"], view["sheet"], view["used"]) == (
        False,
        "style.css",
        ["contents", "parts", "room", "samples"],
    )
    change(client, site, "style", "handbook.html", parts=["room", "mark"], bar=3.5)
    view = client.get(f"{site}/style").json()
    assert (view["written"], view["style"]["parts"], view["style"]["bar"]) == (True, ["room", "mark"], 3.5)
    assert b"scroll-padding-top: 3.5rem" in taken_out(client, site)["style.css"]
    answer = client.post(
        f"{site}/plans", json={"operation": "style", "page": "handbook.html", "parts": ["mark"], "accent": "red"}
    )
    assert (answer.status_code, "is not a colour" in answer.json()["detail"]) == (422, True)
    change(client, site, "no-style", "handbook.html")
    assert taken_out(client, site)["style.css"] == demo_files()["style.css"]


def test_the_rules_of_a_style_are_given_for_a_look(client):
    query = {"parts": ["room"], "accent": "#123456", "wash": "#fff", "lengths": [5, 16, 60, 50]}
    assert "scroll-padding-top: 5rem;" in client.get("/api/reading-style", params=query).json()
    assert client.get("/api/reading-style", params=query | {"accent": "red"}).status_code == 422


@pytest.mark.parametrize(
    ("operation", "parameters"),
    [
        ("adopt", {"start": 1}),
        ("move-contents", {"block": 3}),
        ("entry", {"section": 1, "words": "x"}),
        ("contents", {"home": 99}),
        ("contents", {"block": 7}),
        ("jump", {"start": 0, "end": 5, "section": 1}),
        ("jump", {"start": 150, "end": 150, "to_page": "nowhere.html"}),
        ("no-jump", {"start": 1}),
        ("link-words", {"start": 1, "words": "x"}),
        ("back-to-top", {"to": "contents"}),
        ("entries", {"terms": [{"term": "x", "identifier": "two words"}]}),
    ],
)
def test_what_cannot_be_says_why_and_writes_nothing(client, site, operation, parameters):
    answer = client.post(f"{site}/plans", json={"operation": operation, "page": "page.html", **parameters})
    assert answer.status_code == 422
    assert len(answer.json()["detail"]) > 20
    assert taken_out(client, site)["page.html"] == PAGE


def test_a_style_sheet_that_was_made_for_the_style_goes_with_it_and_comes_back(client):
    page = b'<html><head><title>T</title>\n</head>\n<body>\n<p class="back-to-top"><a href="#top">Up</a></p>\n</body></html>\n'
    site = new_site(client, {"page.html": page})
    change(client, site, "style", "page.html", parts=["back"])
    styled = taken_out(client, site)
    assert set(styled) == {"page.html", "reading.css"}
    number = change(client, site, "no-style", "page.html")["number"]
    assert taken_out(client, site) == {"page.html": page}
    client.post(f"{site}/changes/{number}/undo").raise_for_status()
    assert taken_out(client, site) == styled
