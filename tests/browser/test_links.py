"""Links to other sites, letters, calls and files, put together on the screen."""

import re

import pytest
from playwright.sync_api import expect

from screens import RENDERED, apply, bring, bring_demo, faults, open_page, pick, show_bench

PAGE = b"""<!DOCTYPE html>
<html lang="en">
<title>Visit</title>
<body class="a">
<h1 id="t">Visit us</h1>
<p>Ask the office or see our friends, and take the plan with you.</p>
<p><a href="https://friends.example/old" rel="me">Friends</a></p>
"""
FILES = {"visit.html": PAGE, "files/track-plan.pdf": b"%PDF" * 600}


def choose(screen, words: str, kind: str) -> None:
    """Choose words in the source, and ask for a link of a kind."""
    show_bench(screen, "Source")
    screen.locator(".cm-content").click()
    screen.keyboard.press("Control+f")
    screen.keyboard.type(words)
    screen.keyboard.press("Enter")
    screen.keyboard.press("Escape")
    screen.keyboard.press("Alt+l")
    expect(screen.get_by_role("dialog", name="Link")).to_contain_text(words)
    screen.get_by_role("dialog").get_by_text(kind, exact=True).click()


@pytest.fixture
def desk(screen, served):
    open_page(screen, bring(served, FILES), "visit.html", "Jump links")
    return screen


def test_words_lead_to_another_site(desk):
    choose(desk, "our friends", "Another site")
    field = desk.get_by_role("combobox", name="Address")
    show = desk.get_by_role("button", name="Show the edits")
    expect(show).to_be_disabled()
    field.fill("javascript:alert(1)")
    expect(desk.get_by_role("dialog").get_by_role("alert")).to_contain_text("begins with https://")
    field.fill("friends")
    expect(desk.locator("#addresses-used option")).to_have_attribute("value", "https://friends.example/old")
    field.fill("müller.example/a b")
    expect(desk.get_by_role("dialog").get_by_role("status").locator("code")).to_have_text(
        "https://müller.example/a%20b"
    )
    expect(desk.get_by_role("dialog")).to_contain_text("xn--mller-kva.example")
    desk.get_by_text("Open in a new window").click()
    desk.get_by_text("Tell readers").click()
    assert faults(desk, [".el-dialog"]) == []
    show.click()
    apply(desk)
    expect(desk.locator(".cm-content")).to_contain_text(
        '<a href="https://müller.example/a%20b" target="_blank" rel="noopener">our friends (new window)</a>'
    )


def test_words_open_a_letter_and_lead_to_a_file(desk):
    choose(desk, "the office", "E-mail")
    desk.get_by_role("textbox", name="E-mail address").fill("office@thornby.example")
    desk.get_by_label("Subject, if you want one").fill("A visit & a ride")
    expect(desk.get_by_role("dialog").get_by_role("status").locator("code")).to_have_text(
        "mailto:office@thornby.example?subject=A%20visit%20%26%20a%20ride"
    )
    desk.get_by_role("button", name="Show the edits").click()
    apply(desk)
    choose(desk, "the plan", "File")
    desk.get_by_role("combobox", name="File of the site").click()
    desk.get_by_role("option", name="files/track-plan.pdf").click()
    expect(desk.get_by_role("dialog")).to_contain_text("Track plan (PDF, 2 KB)")
    desk.get_by_text("Save the file instead of opening it").click()
    desk.get_by_role("button", name="Show the edits").click()
    apply(desk)
    expect(desk.locator(".cm-content")).to_contain_text('<a href="files/track-plan.pdf" download>the plan</a>')
    expect(desk.locator(".cm-content")).to_contain_text(
        '<a href="mailto:office@thornby.example?subject=A%20visit%20%26%20a%20ride">the office</a>'
    )


def test_a_link_shows_what_it_says_and_is_led_elsewhere(desk):
    desk.locator("tr.extra", has_text="Friends").get_by_role("button", name="Change target").click()
    expect(desk.get_by_role("combobox", name="Address")).to_have_value("https://friends.example/old")
    expect(desk.get_by_label("Relation (rel)")).to_have_value("me")
    desk.get_by_role("dialog").get_by_text("Telephone", exact=True).click()
    desk.get_by_role("textbox", name="Telephone number").fill("0044 (0)1632 960123")
    expect(desk.get_by_role("dialog").get_by_role("status").locator("code")).to_have_text("tel:+441632960123")
    desk.get_by_role("button", name="Show the edits").click()
    apply(desk)
    show_bench(desk, "Source")
    expect(desk.locator(".cm-content")).to_contain_text('<a href="tel:+441632960123" rel="me">Friends</a>')


def test_a_link_within_the_site_says_more_than_its_address(screen, served):
    other = (
        b"<!DOCTYPE html><html lang=en><title>Fire</title><h1 id=f>Fire</h1><p>Call the <em>brigade</em> first.</p>"
    )
    open_page(screen, bring(served, {**FILES, "fire.html": other}), "visit.html", "Jump links")
    choose(screen, "the office", "This site")
    dialog = screen.get_by_role("dialog")
    dialog.get_by_role("combobox").fill("fire")
    expect(dialog.get_by_role("option", selected=True)).to_contain_text("Fire")
    dialog.get_by_role("button", name="More about this link").click()
    dialog.get_by_label("Open at these words").fill("the fire brigade")
    dialog.get_by_label("Tooltip").fill("In case of fire")
    dialog.get_by_text("Open in a new window").click()
    assert faults(screen, [".el-dialog"]) == []
    dialog.get_by_role("button", name="Show the edits").click()
    expect(dialog.get_by_role("alert")).to_contain_text("“the fire brigade” is not on fire.html")
    dialog.get_by_label("Open at these words").fill("the brigade")
    dialog.get_by_role("button", name="Show the edits").click()
    apply(screen)
    link = '<a href="fire.html#:~:text=the%20brigade" title="In case of fire" target="_blank" rel="noopener">the office</a>'
    expect(screen.locator(".cm-content")).to_contain_text(link)
    row = screen.locator("tr.extra", has_text="the office")
    row.get_by_role("button", name="Change target").click()
    expect(dialog.get_by_label("Open at these words")).to_have_value("the brigade")


def test_two_sections_point_to_one_another(screen, served):
    other = b"<!DOCTYPE html><html lang=en><title>Fire</title><h1 id=f>Fire</h1><p>x</p>"
    open_page(screen, bring(served, {**FILES, "fire.html": other}), "visit.html", "Jump links")
    screen.get_by_role("row", name="Visit us").first.click()
    screen.get_by_role("button", name="More…").click()
    screen.get_by_role("menuitem", name="See also…").click()
    dialog = screen.get_by_role("dialog", name="See also")
    dialog.get_by_role("combobox").fill("fire")
    expect(dialog.get_by_role("option", selected=True)).to_contain_text("Fire")
    assert faults(screen, [".el-dialog"]) == []
    dialog.get_by_role("combobox").press("Enter")
    expect(screen.locator(".tray")).to_contain_text("See also, both ways 2 edits in 2 files")


def test_a_link_is_led_to_a_section_by_dragging(desk):
    row = desk.get_by_role("row", name="Link Friends")
    row.drag_to(desk.get_by_role("row", name="Visit us").first)
    expect(desk.locator(".tray")).to_contain_text("Jump link 1 edit in visit.html")
    apply(desk)
    show_bench(desk, "Source")
    expect(desk.locator(".cm-content")).to_contain_text('<a href="#t" rel="me">Friends</a>')


def test_a_link_is_led_to_a_section_of_the_road_and_one_of_it_onto_the_source(desk):
    stretch = desk.get_by_role("option", name="Visit us")
    desk.get_by_role("row", name="Link Friends").drag_to(stretch, target_position={"x": 3, "y": 20})
    apply(desk)
    show_bench(desk, "Source")
    expect(desk.locator(".cm-content")).to_contain_text('<a href="#t" rel="me">Friends</a>')
    line = desk.locator(".cm-line", has_text="Ask the office")
    stretch.drag_to(line, source_position={"x": 3, "y": 20})
    expect(line).to_contain_text('<a href="#t">Visit us</a>')


def test_a_section_dragged_onto_the_source_becomes_a_link(desk):
    show_bench(desk, "Source")
    line = desk.locator(".cm-line", has_text="Ask the office")
    desk.get_by_role("row", name="Visit us").first.drag_to(line)
    expect(line).to_contain_text('<a href="#t">Visit us</a>')


def test_a_section_gets_an_entry_in_the_menu_of_all_pages(screen, served):
    menu = b"<nav><a href=visit.html>Visit</a> | <a href=fire.html>Fire</a> | <a href=coal.html>Coal</a></nav>"
    files = {
        f"{name}.html": b"<!DOCTYPE html><html lang=en><title>T</title><body>"
        + menu
        + b"<h1 id=t>%s</h1>" % name.encode()
        for name in ("visit", "fire", "coal")
    }
    open_page(screen, bring(served, files), "fire.html", "Jump links")
    screen.get_by_role("row", name="fire").first.click()
    screen.get_by_role("button", name="More…").click()
    screen.get_by_role("menuitem", name="Add to a menu…").click()
    dialog = screen.get_by_role("dialog", name="Add to a menu")
    expect(dialog).to_contain_text("nav, on 3 pages")
    dialog.get_by_label("Words of the entry").fill("In case of fire")
    assert faults(screen, [".el-dialog"]) == []
    dialog.get_by_role("button", name="Show the edits").click()
    expect(screen.locator(".tray")).to_contain_text("Menu entry for a section 3 edits in 3 files")
    apply(screen)
    show_bench(screen, "Source")
    expect(screen.locator(".cm-content")).to_contain_text("| <a href=#t>In case of fire</a> | <a href=coal.html>")


def test_words_lead_to_the_bottom_and_to_something_picked_on_the_page(desk):
    choose(desk, "the office", "This site")
    desk.get_by_role("dialog").get_by_role("combobox").fill("bottom")
    expect(desk.get_by_role("dialog").get_by_role("option", selected=True)).to_contain_text("Bottom of this page")
    desk.get_by_role("dialog").get_by_role("combobox").press("Enter")
    apply(desk)
    expect(desk.locator(".cm-content")).to_contain_text('<a href="#bottom">the office</a>')
    choose(desk, "the plan", "This site")
    desk.get_by_role("button", name="Pick on the page, the road or in the ledger").click()
    show_bench(desk, "Page")
    desk.frame_locator(RENDERED).locator("p").last.click(position={"x": 200, "y": 5})
    apply(desk)
    show_bench(desk, "Source")
    expect(desk.locator(".cm-content")).to_contain_text('<a href="#friends">the plan</a>')


def test_broken_links_stand_alone_and_each_is_shown_on_the_page(screen, served):
    open_page(screen, bring_demo(served), "handbook.html", "Jump links")
    pick(screen, "Links shown", "broken links")
    rows = screen.locator("[data-pane=ledger] tbody tr")
    broken = rows.filter(has_text=re.compile("no such target|no target yet"))
    expect(broken.first).to_be_visible()
    assert rows.count() < 2 * broken.count() + 1  # each below a section that has it
    broken.filter(has_text="see there").click()
    shown = screen.frame_locator(RENDERED).get_by_role("link", name="see there")
    expect(shown).to_be_in_viewport()
    expect(shown).to_have_css("outline-style", "solid")
