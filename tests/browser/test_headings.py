"""The stages of headings and identifiers, as their author works through them."""

import pytest
from playwright.sync_api import expect

from screens import RENDERED, apply, bring, bring_demo, faults, open_page, pick, show_bench, tick
from signpost.desk.demo import demo_files

pytestmark = pytest.mark.browser

PAGE = (
    b"<!DOCTYPE html>\n<title>T</title>\n<main class=c>\n<h1 id=t>T</h1>\n<h2 id=a>A</h2>\n<p id=x>first</p>\n"
    b"<h2 id=b>B</h2>\n<p>second</p>\n<h4 id=c>C</h4>\n<p>third</p>\n</main>\n"
)


def rows(screen):
    """The headings in the ledger's order, each with its level."""
    found = screen.locator("tr[data-row]").all()
    return [
        (row.locator("select, .chip").first.evaluate("node => node.value ?? node.textContent"), row.locator("th").inner_text().removeprefix("marked:").strip())
        for row in found
    ]  # fmt: skip


def test_the_old_page_becomes_sections(screen, served):
    open_page(screen, bring_demo(served), "history.html", "Headings")
    extras = screen.locator("tr.extra")
    expect(extras).to_have_count(8)
    expect(extras.nth(1)).to_contain_text("marked with an anchor")

    # one is put aside, and that is remembered
    extras.nth(7).get_by_role("button", name="Not a heading").click()
    expect(extras).to_have_count(7)
    screen.reload()
    expect(extras).to_have_count(7)

    # one at another level, by its keys; then all that are sure
    extras.nth(3).focus()
    screen.keyboard.press("2")
    screen.keyboard.press("Enter")
    expect(screen.locator(".tray")).to_contain_text("1 heading made")
    screen.keyboard.press("Escape")
    screen.get_by_role("button", name="Make 7 headings").click()
    screen.keyboard.press("d")
    expect(screen.locator(".diff")).to_contain_text('<H2 ID="BEGIN">BEGINNINGS</H2>')
    apply(screen)
    expect(screen.locator("tr[data-row]")).to_have_count(7)
    assert rows(screen)[:2] == [("1", "The History of our Railway"), ("2", "BEGINNINGS")]

    # it is offered again when its author says so
    screen.get_by_role("button", name="More").click()
    screen.get_by_role("menuitem", name="Offer “books” as a heading").click()
    expect(extras).to_have_count(1)


def test_levels_words_and_moves_by_keyboard(screen, served):
    open_page(screen, bring(served, {"page.html": PAGE}), "page.html", "Headings")
    press = screen.keyboard.press
    screen.locator("tr[data-row='2'] th").click()
    screen.locator("tr[data-row='2']").focus()

    # words
    press("Enter")
    screen.keyboard.type("Best coal")
    press("Enter")
    apply(screen)
    assert rows(screen)[2] == ("2", "Best coal")

    # up with its subsection, and back
    press("Shift+ArrowUp")
    apply(screen)
    assert [words for _, words in rows(screen)] == ["T", "Best coal", "C", "A"]
    press("Control+z")
    expect(screen.locator(".tray")).to_contain_text("Undone")
    assert [words for _, words in rows(screen)] == ["T", "A", "Best coal", "C"]

    # into the one above: its levels follow
    screen.locator("tr[data-row='2']").focus()
    press("Shift+ArrowRight")
    apply(screen)
    assert rows(screen) == [("1", "T"), ("2", "A"), ("3", "Best coal"), ("5", "C")]

    # several levels at once
    screen.locator("tr[data-row='1']").focus()
    press("Space")
    press("ArrowDown")
    press("Space")
    screen.get_by_role("button", name="More").click()
    screen.get_by_role("menuitem", name="Subsections change level").click()
    screen.locator("tr[data-row='2']").focus()
    press("2")
    apply(screen)
    assert rows(screen) == [("1", "T"), ("2", "A"), ("2", "Best coal"), ("5", "C")]

    # the gap is shown before and after, and closed
    screen.get_by_role("button", name="Close the gaps").click()
    dialog = screen.get_by_role("dialog", name="1 place leaves a level out")
    expect(dialog.locator("tr.changed")).to_contain_text("h5 C")
    dialog.get_by_role("button", name="Show the edits").click()
    apply(screen)
    assert rows(screen)[3] == ("3", "C")


def test_a_section_is_dragged(screen, served):
    open_page(screen, bring(served, {"page.html": PAGE}), "page.html", "Headings")
    first, second = screen.locator("tr[data-row='1'] th"), screen.locator("tr[data-row='2'] th")
    box = second.bounding_box()
    first.drag_to(second, target_position={"x": 20, "y": box["height"] - 3})
    expect(screen.locator(".tray")).to_contain_text("“A” moved after “B”")
    apply(screen)
    assert [words for _, words in rows(screen)] == ["T", "B", "C", "A"]


def test_headings_samples_and_pages_are_put_in(screen, served):
    open_page(screen, bring(served, {"page.html": PAGE}), "page.html", "Headings")

    def choose(item):
        screen.get_by_role("button", name="More").click()
        screen.get_by_role("menuitem", name=item).click()

    choose("Insert a heading")
    screen.get_by_label("Words", exact=True).fill("Between")
    pick(screen, "Before this block", "line 8 · p · second")
    screen.get_by_role("button", name="Show the edits").click()
    apply(screen)
    assert ("2", "Between") in rows(screen)

    choose("Insert a code sample")
    screen.get_by_label("Code", exact=True).fill("<h2>not a heading</h2>")
    screen.get_by_role("button", name="Show the edits").click()
    apply(screen)
    expect(screen.locator("tr[data-row]")).to_have_count(5)

    choose("Wrap sections")
    apply(screen)
    choose("Remove section elements")
    apply(screen)

    choose("New page from titles")
    screen.get_by_label("Title of the page").fill("Fuel")
    screen.get_by_label("File name").fill("fuel.html")
    screen.get_by_label("Titles").fill("Coal\n  Kinds\nWater")
    screen.get_by_role("button", name="Show the edits").click()
    expect(screen.locator(".tray")).to_contain_text("New page “Fuel”")
    apply(screen)
    site = screen.url.partition("/pages/")[0]
    open_page(screen, site, "fuel.html", "Headings")
    assert [words for _, words in rows(screen)] == ["Fuel", "Coal", "Kinds", "Water"]
    choose("Outline as read aloud")
    expect(screen.get_by_role("dialog", name="Outline as read aloud")).to_contain_text("Heading level 3 Kinds")


def test_an_identifier_is_judged_while_it_is_typed(screen, served):
    open_page(screen, bring_demo(served), "handbook.html", "Identifiers")
    screen.locator("tr[data-row='9'] th").click()
    screen.locator("tr[data-row='9']").focus()
    screen.keyboard.press("Enter")
    field = screen.get_by_role("textbox", name="Identifier of Safety")
    note = screen.locator(".judgement")
    for typed, words in (
        ("First day", "white space"),
        ("engines", "taken"),
        ("Engines", "capitals"),
        ("2safe", "digit"),
    ):
        field.fill(typed)
        expect(note).to_contain_text(words)
    note.get_by_role("button", name="Use").click()
    expect(field).to_have_value("section-2safe")
    field.fill("safe")
    expect(note).to_contain_text("Available")
    screen.keyboard.press("Enter")

    # every place is listed before it happens; the old one may stay
    expect(screen.locator(".tray")).to_contain_text("in 3 files")
    tick(screen, "Keep “safety” too")
    screen.keyboard.press("d")
    expect(screen.locator(".diff")).to_contain_text('<h2 id="safe"><span id="safety"></span>Safety</h2>')
    expect(screen.locator(".diff")).to_contain_text("#safe { color: #a00; }")
    apply(screen)
    expect(screen.locator("tr[data-row='9']")).to_contain_text("safe")


def test_any_place_gets_an_identifier_from_the_page_and_from_the_source(screen, served):
    open_page(screen, bring(served, {"page.html": PAGE}), "page.html")
    screen.get_by_role("button", name="Identify a place").click()
    screen.frame_locator(RENDERED).get_by_text("second").click()
    dialog = screen.get_by_role("dialog", name="Identifier for this place")
    expect(dialog.get_by_label("Identifier", exact=True)).to_have_value("second")
    dialog.get_by_role("button", name="Show the edits").click()
    apply(screen)

    show_bench(screen, "Source")
    screen.locator(".cm-line", has_text="third").click()
    screen.get_by_role("button", name="Identify a place").click()
    expect(dialog.get_by_label("Identifier", exact=True)).to_have_value("third")
    dialog.get_by_role("button", name="Show the edits").click()
    screen.keyboard.press("d")
    expect(screen.locator(".diff")).to_contain_text("<p id=third>third</p>")
    apply(screen)

    # what has one already is renamed
    screen.locator(".cm-line", has_text="third").click()
    screen.get_by_role("button", name="Identify a place").click()
    dialog.get_by_label("Identifier", exact=True).fill("last")
    dialog.get_by_role("button", name="Show the edits").click()
    expect(screen.locator(".tray")).to_contain_text("Identifier “third” renamed to “last”")


def test_what_is_used_twice_and_what_leads_nowhere(screen, served):
    markup = PAGE.replace(b"<p>second</p>", b"<p id=x>second <a href=#X>there</a></p>")
    open_page(screen, bring(served, {"page.html": markup}), "page.html", "Identifiers")
    screen.get_by_role("button", name="1 twice").click()
    dialog = screen.get_by_role("dialog", name="Identifiers used twice")
    expect(dialog).to_contain_text("Reached: p, line 6. Not reached: line 8")
    expect(dialog).to_contain_text("no links lead to it")
    dialog.get_by_role("button", name="Rename the others").click()
    apply(screen)

    screen.get_by_role("tab", name="Findings").click()
    region = screen.get_by_role("region", name="Jump link spelt otherwise than its target")
    expect(region).to_contain_text("but on this page it is written “#x”")
    region.get_by_role("button", name="Fix", exact=True).click()
    apply(screen)
    expect(region).to_have_count(0)


def test_settings_and_regions_are_remembered(screen, served):
    old = {
        path: data for path, data in demo_files().items() if path in ("history.html", "handbook.html", "style.css")
    }
    open_page(screen, bring(served, old), "handbook.html", "Identifiers")
    screen.get_by_role("button", name="More").click()
    screen.get_by_role("menuitem", name="Naming rules").click()
    dialog = screen.get_by_role("dialog", name="Naming rules")
    pick(dialog, "Words are joined by", "underscores")
    dialog.get_by_role("button", name="Save").click()
    expect(screen.locator("tr[data-row='2']")).to_contain_text("what_to_wear")

    screen.get_by_role("tab", name="Headings").click()
    screen.get_by_role("button", name="More").click()
    screen.get_by_role("menuitem", name="Correct what counts").click()
    dialog = screen.get_by_role("dialog", name="What counts as content")
    pick(dialog, "header: Thornby Vale", "part of the content")
    dialog.get_by_role("button", name="Save").click()
    expect(screen.locator(".tray")).to_contain_text("remembered")


def test_axe_finds_no_serious_fault_in_what_is_asked(screen, served):
    markup = PAGE.replace(b"<p>second</p>", b"<p id=x><b>Second</b></p><p>and text that follows it</p>")
    open_page(screen, bring(served, {"page.html": markup}), "page.html", "Headings")
    expect(screen.locator("tr.extra")).to_have_count(1)
    assert faults(screen) == []

    def closes_without_fault(name):
        expect(screen.get_by_role("dialog", name=name)).to_be_visible()
        assert faults(screen) == [], name
        screen.keyboard.press("Escape")
        expect(screen.get_by_role("dialog")).to_have_count(0)

    screen.get_by_role("button", name="Close the gaps").click()
    closes_without_fault("1 place leaves")
    for item, name in (
        ("Outline as read aloud", "Outline as read aloud"),
        ("Insert a heading", "Insert a heading"),
        ("Sections from titles", "Sections from titles"),
        ("New page from titles", "New page"),
        ("Insert a code sample", "Insert a code sample"),
        ("Correct what counts", "What counts as content"),
    ):
        screen.get_by_role("button", name="More").click()
        assert faults(screen) == []
        screen.get_by_role("menuitem", name=item).click()
        closes_without_fault(name)
    screen.get_by_role("tab", name="Identifiers").click()
    screen.get_by_role("button", name="1 twice").click()
    closes_without_fault("Identifiers used twice")
    for item, name in (("Naming rules", "Naming rules"), ("Identifier for the top", "Identifier for this place")):
        screen.get_by_role("button", name="More").click()
        screen.get_by_role("menuitem", name=item).click()
        closes_without_fault(name)
