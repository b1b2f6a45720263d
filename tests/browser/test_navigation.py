"""The stages of contents, jump links and back-to-top links, as their author works through them."""

import httpx2
import pytest
from playwright.sync_api import expect

from screens import RENDERED, apply, bring, bring_demo, faults, open_page, pick, picked, show_bench, tick
from signpost.core.reading_style.style import StylePart

pytestmark = pytest.mark.browser

PAGE = (
    b"<!DOCTYPE html>\n<html lang=en>\n<title>T</title>\n<body>\n<main>\n<h1 id=t>Works</h1>\n<p>As said in Boiler care below, and again.</p>\n"
    b"<ul><li><a href=#lamps>Lamps</a></li><li>Boiler</li><li>Care of what?</li></ul>\n"
    b"<h2 id=lamps>Lamps</h2>\n<p>a lamp, a lamp</p>\n<h2>Boiler care</h2>\n<p>b <a href=#zz>gone</a></p>\n<p><a href=#top>Up</a></p>\n"
    b"<h2 id=tea>Tea</h2>\n<p>c</p>\n</main>\n</html>\n"
)


def entries(screen):
    return screen.locator("td.entry .words").all_inner_texts()


def test_a_list_made_by_hand_becomes_contents_that_are_kept_true(screen, served):
    site = bring(served, {"page.html": PAGE})
    open_page(screen, site, "page.html", "Contents")
    screen.get_by_role("button", name="Review and adopt").click()
    expect(picked(screen, "What Boiler means")).to_contain_text("Boiler care")
    pick(screen, "What Care of what? means", "remove this entry")
    assert faults(screen) == []
    screen.get_by_role("button", name="Show the edits").click()
    apply(screen)
    assert entries(screen) == ["Lamps", "Boiler", "Tea"]
    expect(screen.locator("tr[data-row='2'] td.entry")).to_contain_text("own words")

    # a heading changes: its shortened entry is pointed out, and kept by one press
    screen.get_by_role("tab", name="Headings").click()
    screen.locator("tr[data-row='2'] th").dblclick()
    screen.keyboard.type("Care of boilers")
    screen.keyboard.press("Enter")
    apply(screen)
    screen.get_by_role("tab", name="Contents").click()
    show_bench(screen, "Source")
    screen.locator(".cm-content").click()
    screen.keyboard.press("Control+End")
    screen.keyboard.press("ArrowUp")
    screen.keyboard.press("ArrowUp")
    screen.keyboard.type("\n<h2 id=coal>Coal</h2>\n")
    screen.keyboard.press("Control+s")
    expect(screen.locator(".tray")).to_contain_text("Applied: Source edited by hand")
    expect(screen.locator(".stage-form")).to_contain_text("1 missing")
    screen.get_by_role("button", name="Bring up to date").click()
    apply(screen)
    assert entries(screen) == ["Lamps", "Boiler", "Tea", "Coal"]

    # left out by its key, words by Enter
    screen.locator("tr[data-row='1']").focus()
    screen.keyboard.press("Space")
    apply(screen)
    expect(screen.locator("tr[data-row='1'] td.entry")).to_contain_text("left out")
    screen.locator("tr[data-row='3']").focus()
    screen.keyboard.press("Enter")
    screen.keyboard.type("Tea, and cake")
    screen.keyboard.press("Enter")
    apply(screen)
    assert entries(screen) == ["Boiler", "Tea, and cake", "Coal"]

    # another place, and its author's own again
    screen.get_by_role("button", name="More").click()
    screen.get_by_role("menuitem", name="Move to the top").click()
    apply(screen)
    screen.get_by_role("button", name="More").click()
    screen.get_by_role("menuitem", name="Stop keeping this list").click()
    apply(screen)
    expect(screen.get_by_role("button", name="Make contents")).to_be_enabled()  # what was added is gone again


def test_words_become_jump_links_from_the_source_the_page_and_the_road(screen, served):
    site = bring(served, {"page.html": PAGE, "d/other.html": b"<title>O</title><h2 id=deep>Deep water</h2>"})
    open_page(screen, site, "page.html", "Jump links")
    expect(screen.locator("tr.extra")).to_have_count(3)
    expect(screen.locator(".stage-form")).to_contain_text("1 broken")

    # an offer, by its key
    offer = screen.locator("tr.extra", has_text="names a section")
    offer.focus()
    screen.keyboard.press("Enter")
    apply(screen)

    # words chosen on the page lead to another page, found by a few letters
    screen.get_by_role("button", name="Link words").click()
    frame = screen.frame_locator(RENDERED)
    frame.locator("p", has_text="a lamp, a lamp").evaluate(
        "node => { const text = node.firstChild; getSelection().setBaseAndExtent(text, 8, text, 14); }"
    )
    frame.locator("p", has_text="a lamp, a lamp").dispatch_event("mouseup")
    expect(screen.get_by_role("dialog")).to_contain_text("“a lamp”")
    expect(screen.get_by_role("combobox", name="Heading, identifier or page")).to_be_focused()
    screen.keyboard.type("deep")
    expect(screen.locator(".goal")).to_have_count(1)
    assert faults(screen) == []
    screen.keyboard.press("Enter")
    screen.keyboard.press("d")
    expect(screen.locator(".diff")).to_contain_text('a lamp, <a href="d/other.html#deep">a lamp</a>')
    apply(screen)

    # the broken one is led to a section picked on the road
    screen.locator("tr.extra", has_text="gone").get_by_role("button", name="Change target").click()
    screen.get_by_role("button", name="Pick on the page, the road or in the ledger").click()
    screen.locator("tr[data-row='3'] th").click()
    expect(screen.locator(".tray")).to_contain_text("Jump link")
    apply(screen)
    expect(screen.locator("tr.extra", has_text="gone")).to_contain_text("→ Tea")

    # who points there now
    screen.locator("tr[data-row='3'] th").click()
    screen.get_by_role("button", name="More…").click()
    screen.get_by_role("menuitem", name="Links to this section").click()
    expect(screen.get_by_role("dialog")).to_contain_text("“gone”")


def test_a_selection_in_the_source_becomes_a_link(screen, served):
    open_page(screen, bring(served, {"page.html": PAGE}), "page.html", "Jump links")
    show_bench(screen, "Source")
    line = screen.locator(".cm-line", has_text="<p>c</p>")
    line.click()
    screen.keyboard.press("Home")
    for _ in range(3):
        screen.keyboard.press("ArrowRight")
    screen.keyboard.press("Shift+ArrowRight")
    screen.get_by_role("button", name="Link words").click()
    expect(screen.get_by_role("combobox", name="Heading, identifier or page")).to_be_focused()
    screen.keyboard.type("lamps")
    screen.keyboard.press("Enter")
    screen.keyboard.press("d")
    expect(screen.locator(".diff")).to_contain_text("<p><a href=#lamps>c</a></p>")


def test_ways_back_on_all_pages_with_those_made_by_hand(screen, served):
    open_page(screen, bring(served, {"page.html": PAGE, "other.html": PAGE}), "page.html", "Back to top")
    expect(screen.locator(".stage-form")).to_contain_text("1 link made by hand stay")
    screen.get_by_role("button", name="Options").click()
    tick(screen, "like the others")
    tick(screen, "On all pages")
    pick(screen, "Where they lead", "an identifier at the top")
    screen.get_by_role("button", name="Show the edits").click()
    expect(screen.locator(".tray")).to_contain_text("2 files")
    apply(screen)
    frame = screen.frame_locator(RENDERED)
    expect(frame.locator(".back-to-top")).to_have_count(3)
    expect(screen.locator(".stage-form")).to_contain_text("a link back")


def test_terms_become_entries_with_a_bar_of_letters(screen, served, tmp_path):
    open_page(screen, bring(served, {"page.html": PAGE}), "page.html", "Contents")
    screen.get_by_role("button", name="More").click()
    screen.get_by_role("menuitem", name="Entries for many terms").click()
    file = tmp_path / "terms.csv"
    file.write_text("term,text\nzinc,grey\n<a>,a link\nZinc,\ncoal,\n")
    screen.locator(".el-upload input").set_input_files(file)
    expect(screen.get_by_role("dialog")).to_contain_text("3 terms, 1 repeated and left out")
    assert faults(screen) == []
    tick(screen.get_by_role("dialog"), "coal")
    pick(screen, "Section for the entries", "Tea")
    screen.get_by_role("button", name="Show the edits").click()
    expect(screen.locator(".tray")).to_contain_text("2 new entries")
    apply(screen)
    frame = screen.frame_locator(RENDERED)
    expect(frame.locator("nav.letters a")).to_have_text(["A", "Z"])
    expect(frame.locator("h3")).to_have_text(["<a>", "zinc"])


def test_the_reading_style_is_seen_written_and_taken_out(screen, served):
    files = {
        "page.html": PAGE.replace(b"</title>", b"</title><link rel=stylesheet href=s.css>"),
        "s.css": b"h2 { color: green }\n",
    }
    site = bring(served, files)
    open_page(screen, site, "page.html", "Back to top")
    screen.get_by_role("button", name="Add back-to-top links").click()
    apply(screen)
    screen.get_by_role("button", name="More").click()
    screen.get_by_role("menuitem", name="Reading style").click()
    dialog = screen.get_by_role("dialog")
    expect(dialog).to_contain_text("back-to-top links · in use")
    look = screen.frame_locator("iframe[title='The page in this style']")
    expect(look.locator(".back-to-top").first).to_have_css("font-size", "14.4px")
    tick(dialog, "a mark on the section just reached")
    assert faults(screen) == []
    screen.get_by_role("button", name="Show the edits").click()
    apply(screen)
    frame = screen.frame_locator(RENDERED)
    expect(frame.locator(".back-to-top").first).to_have_css("font-size", "14.4px")
    screen.get_by_role("button", name="More").click()
    screen.get_by_role("menuitem", name="Reading style").click()
    dialog.get_by_role("button", name="Remove from the style sheet").click()
    apply(screen)
    expect(frame.locator(".back-to-top").first).to_have_css("font-size", "16px")


@pytest.mark.parametrize("width", [1280, 480])
def test_the_produced_page_reads_well_wide_and_narrow(screen, served, width):
    """The demo page with all that we make: no serious faults, contents beside the text and never over it."""
    site = bring_demo(served)
    desk = {"page": "handbook.html"}
    with httpx2.Client(base_url=served) as client:
        path = site.removeprefix(served)
        for operation in (
            {"operation": "contents"},
            {"operation": "move-contents", "spot": "side"},
            {"operation": "back-to-top"},
            {"operation": "style", "parts": [part.value for part in StylePart]},
        ):
            plan = client.post(f"/api{path}/plans", json=desk | operation).raise_for_status().json()
            client.post(
                f"/api{path}/changes", json=desk | operation, headers={"if-match": plan["tag"]}
            ).raise_for_status()
    screen.set_viewport_size({"width": width, "height": 800})
    screen.goto(f"{served}/preview{path.removeprefix('/sites')}/handbook.html#boiler")
    contents = screen.locator("nav.contents")
    paragraph = screen.locator("#boiler + p")
    expect(paragraph).to_be_in_viewport()
    beside, text = contents.bounding_box(), paragraph.bounding_box()
    if width == 1280:
        expect(contents).to_be_in_viewport()
        assert beside["x"] >= text["x"] + text["width"]
    else:
        expect(contents).not_to_be_in_viewport()
    assert screen.evaluate("document.documentElement.scrollWidth <= innerWidth + 1")
    assert faults(screen, ["nav.contents", ".back-to-top"]) == []


STATES = b"""<!DOCTYPE html><html lang=en><title>T</title><main><h1>T</h1>
<ul><li><a href=#a>One</a></li><li><a href=#b>Two</a></li><li><a href=#gone>Three</a></li><li>Four</li></ul>
<h2 id=a>One</h2><p>See <a>part two</a>, and Section Three.</p><p><a href=#>Top</a></p>
<h2 id=b>Two</h2><p>more</p><h2>Section Three</h2><p><a href=#a>here</a></p><h2>Four</h2></main>"""


def test_the_stages_have_no_serious_faults(screen, served):
    site = bring(served, {"page.html": STATES})
    for stage in ("Contents", "Jump links", "Back to top"):
        open_page(screen, site, "page.html", stage)
        expect(screen.locator("tr[data-row]").first).to_be_visible()
        assert faults(screen) == []
