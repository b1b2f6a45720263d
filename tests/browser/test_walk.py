"""The walk and the road: landings tried and fixed, windows, lengths, two pages side by side."""

import re

import httpx2
import pytest
from playwright.sync_api import expect

from screens import RENDERED, apply, bring, bring_demo, faults, open_page, pick, picked, show_bench, tick
from sites import change

pytestmark = pytest.mark.browser

STYLE = b"nav { position: fixed; top: 0; left: 0; right: 0; height: 50px; background: #ddd }\nbody { padding-top: 60px }\n"
TALL = b"<p style='height:%dpx;margin:0'>words</p>\n"
PAGE = (
    b"<!DOCTYPE html>\n<html lang=en><head><title>Works</title><link rel=stylesheet href=s.css></head><body>\n"
    b"<nav>Works</nav><main><h1 id=works>Works</h1>\n<p><a href=#lamps>Lamps</a> <a href=#tea>Tea</a> <a href=#gone>Gone</a> "
    b"<a href=other.html#far>Far</a> <a href=mailto:guard@example.org>Write</a> <a href=https://example.org/>Out</a></p>\n"
    b"<h2 id=lamps>Lamps</h2>\n" + TALL % 1500 + b"<h2 id=tea>Tea</h2>\n" + TALL % 120 + b"</main></body></html>\n"
)
OTHER = (
    b"<!DOCTYPE html>\n<html lang=en><head><title>Other</title></head><body><main><h1>Other</h1>"
    + TALL % 900
    + b"<h2 id=far>Far off</h2>\n"
    + TALL % 900
    + b"<p><a href=page.html#lamps>Lamps again</a></p></main></body></html>\n"
)
FILES = {"page.html": PAGE, "other.html": OTHER, "s.css": STYLE}


def measured(screen):
    expect(screen.locator(".facts")).to_contain_text(", measured")


def rows(screen):
    expect(screen.locator("tr:has-text('not measured')")).to_have_count(0)
    return [
        text.split("\n")[0].replace("\t", " | ") for text in screen.locator(".ledger-pane tbody tr").all_inner_texts()
    ]


@pytest.fixture
def walk(screen, served):
    """The stage of the walk on a page with a bar at its top."""
    open_page(screen, bring(served, FILES), "page.html", "Landings")
    measured(screen)
    expect(screen.locator("tr:has-text('not measured')")).to_have_count(0)
    return screen


def landings(screen):
    texts = screen.locator("td.landing").all_inner_texts()
    names = screen.locator("tbody th.link").all_inner_texts()
    return dict(zip([name.strip() for name in names], [text[2:].strip() for text in texts], strict=True))


def test_links_are_followed_one_by_one_and_back(walk):
    found = landings(walk)
    assert found["Lamps"] == "covered, 20 px" or found["Lamps"].startswith("covered")
    assert found["Tea"].endswith("too low")
    assert found["Gone"] == "leads nowhere"
    assert found["Far"] == "lands"
    line = walk.locator(".line")
    walk.keyboard.press("n")
    expect(line).to_contain_text("“Lamps” → Lamps.")
    expect(line).to_contain_text("under nav, which ends 50 px down")
    expect(walk.locator("tr.chosen")).to_contain_text("Lamps")
    expect(walk.locator("#stretch-1")).to_have_attribute("aria-selected", "true")
    expect(walk.get_by_role("slider")).not_to_have_attribute("aria-valuenow", "0")
    walk.keyboard.press("n")
    expect(line).to_contain_text("“Tea” → Tea.")
    expect(line).to_contain_text("the page ends too soon")
    walk.keyboard.press("n")
    expect(line).to_contain_text("page.html has no target “gone”.")
    walk.keyboard.press("n")
    expect(walk).to_have_url(re.compile(r"/pages/other\.html$"))
    expect(line).to_contain_text("Lands at the top of the window")
    expect(walk.frame_locator(RENDERED).get_by_role("heading", name="Far off")).to_be_in_viewport()
    assert "than measured" not in line.inner_text()
    expect(picked(walk, "Links of")).to_contain_text("page.html")
    expect(walk.get_by_role("row", name="Tea")).to_be_visible()
    walk.keyboard.press("b")
    expect(walk).to_have_url(re.compile(r"/pages/page\.html$"))
    expect(walk.locator("tr.chosen")).to_contain_text("Far")
    measured(walk)
    walk.keyboard.press("Shift+X")
    expect(line).to_contain_text("“Gone”")
    assert faults(walk) == []


def test_a_row_is_followed_and_the_walk_goes_by_itself(walk):
    walk.get_by_role("row", name="Tea").click()
    expect(walk.locator(".line")).to_contain_text("“Tea” → Tea.")
    walk.get_by_role("button", name="Follow all links").click()
    expect(walk.locator(".stage-form")).to_contain_text("were followed")
    expect(walk.locator("td.more:has-text('as measured')")).to_have_count(4)
    pick(walk, "Links of", "the whole site")
    expect(walk.get_by_role("row", name="other.html Lamps again")).to_contain_text("covered")
    pick(walk, "Landings shown", "bad landings")
    expect(walk.get_by_role("row", name="Far")).to_have_count(0)
    walk.get_by_role("row", name="other.html Lamps again").click()
    expect(walk).to_have_url(re.compile(r"/pages/page\.html$"))
    expect(walk.locator(".line")).to_contain_text("“Lamps again” → page.html: Lamps.")


def test_landings_are_fixed_after_the_effect_was_measured(walk):
    walk.get_by_role("button", name="Fix landings").click()
    dialog = walk.get_by_role("dialog")
    small = dialog.get_by_role("row", name="Small")
    expect(small).to_contain_text("covered")
    expect(small).to_contain_text("1 too low")
    tick(dialog, "Room below")
    expect(small).to_contain_text("all land well")
    assert faults(walk, ["[role=dialog]"]) == []
    dialog.get_by_role("button", name="Show the edits").click()
    apply(walk)
    measured(walk)
    expect(walk.locator("td.landing:has-text('lands')")).to_have_count(4)  # three of its own, one from elsewhere
    expect(walk.locator("td.landing:has-text('covered')")).to_have_count(0)


def test_a_landing_may_stay_as_it_is(walk):
    row = walk.get_by_role("row", name="Tea")
    row.hover()
    row.get_by_role("button", name="Accept").click()
    expect(row).to_contain_text("accepted")
    row.get_by_role("button", name="Review again").click()
    expect(row).not_to_contain_text("accepted")


def test_what_a_link_leads_to_is_said_before_it_is_followed(walk):
    frame = walk.frame_locator(RENDERED)
    for name, words in [
        ("Lamps", "page.html#lamps → “Lamps”"),
        ("Far", "other.html#far → “Far off”"),
        ("Gone", "Nothing is there"),
        ("Write", "A mail address"),
        ("Out", "Out of the site"),
    ]:
        frame.get_by_role("link", name=name, exact=True).hover()
        expect(walk.locator(".line")).to_contain_text(words)
    frame.get_by_role("link", name="Write").click()
    frame.get_by_role("link", name="Out").click()
    expect(walk.locator(".line")).to_contain_text("so it is not opened here")
    frame.get_by_role("link", name="Lamps").focus()
    expect(walk.locator(".line")).to_contain_text("“Lamps”")
    frame.get_by_role("link", name="Tea").click()
    walk.mouse.move(0, 0)
    expect(walk.locator(".line")).to_contain_text("“Tea” → Tea.")
    walk.keyboard.press("n")  # the page has the keyboard, and the desk its keys
    expect(walk.locator(".line")).to_contain_text("no target “gone”")
    walk.keyboard.press("Shift+N")
    expect(walk.locator(".line")).to_contain_text("“Tea” → Tea.")
    assert walk.url.endswith("/pages/page.html")


def test_windows_of_readers_are_chosen_kept_and_compared(walk):
    expect(walk.locator(".facts")).to_contain_text("of 440 × 560")
    pick(walk, "Window", "Laptop 1280 × 720")
    measured(walk)
    expect(walk.locator(".facts")).to_contain_text("of 1280 × 720")
    walk.reload()
    expect(walk.locator(".facts")).to_contain_text("of 1280 × 720")
    pick(walk, "Window", "Windows and limits…")
    dialog = walk.get_by_role("dialog")
    expect(dialog.get_by_role("row").nth(4)).to_contain_text("windows")
    dialog.get_by_role("button", name="Add a window").click()
    dialog.get_by_label("Name").nth(4).fill("Large text")
    dialog.get_by_label("Text size, in percent").nth(4).fill("200")
    dialog.get_by_label("Too long from, words").fill("3")
    assert faults(walk, ["[role=dialog]"]) == []
    dialog.get_by_role("button", name="Save").click()
    expect(dialog).to_have_count(0)
    before = walk.locator(".facts").inner_text()
    pick(walk, "Window", "Large text 1024 × 768, text 200 %")
    expect(walk.locator(".facts")).to_contain_text("of 1024 × 768")
    measured(walk)
    assert walk.locator(".facts").inner_text() != before
    walk.get_by_role("tab", name="Parts").click()
    expect(walk.locator(".stage-form")).to_contain_text("too long")


def test_an_edit_is_measured_anew_by_itself(walk):
    before = float(walk.locator(".facts").inner_text().split(" · ")[2].split(" ")[0])
    show_bench(walk, "Source")
    walk.locator(".cm-content").click()
    walk.keyboard.press("Control+Home")
    for _ in range(4):
        walk.keyboard.press("ArrowDown")
    walk.keyboard.type("<p style='height:2800px'>more</p>\n")
    walk.keyboard.press("Control+s")
    expect(walk.locator(".tray")).to_contain_text("Applied: Source edited by hand")
    expect(walk.locator(".facts")).not_to_contain_text(f" {before} windows")
    measured(walk)
    after = float(walk.locator(".facts").inner_text().split(" · ")[2].split(" ")[0])
    assert abs(after - before - 5) < 0.3


def test_the_road_scrolls_the_page_and_is_zoomed(walk):
    fold = walk.get_by_role("slider")
    edge = walk.locator(".fold .edge").bounding_box()
    walk.mouse.move(edge["x"] + 8, edge["y"] + 4)
    walk.mouse.down()
    walk.mouse.move(edge["x"] + 8, edge["y"] + 60, steps=6)
    walk.mouse.up()
    heading = walk.frame_locator(RENDERED).get_by_role("heading", name="Works")
    expect(heading).not_to_be_in_viewport()
    fold.focus()
    walk.keyboard.press("Home")
    expect(heading).to_be_in_viewport()
    expect(fold).to_have_attribute("aria-valuenow", "0")
    walk.keyboard.press("PageDown")
    expect(fold).to_have_attribute("aria-valuenow", "560")
    labels = walk.locator(".labels text")
    expect(labels).to_have_count(3)
    walk.locator(".road [role=listbox]").focus()
    walk.keyboard.press("End")
    walk.keyboard.press("z")
    expect(labels).to_have_count(1)
    expect(walk.get_by_role("button", name="Whole page")).to_be_visible()
    walk.locator(".road [role=listbox]").focus()
    walk.keyboard.press("ArrowUp")
    expect(labels).to_have_count(3)
    expect(walk.locator("#stretch-2 .trouble")).to_have_count(1)
    divider = walk.get_by_role("separator", name="Room for the ledger")
    width = int(divider.get_attribute("aria-valuenow"))
    divider.focus()
    walk.keyboard.press("ArrowLeft")
    expect(divider).to_have_attribute("aria-valuenow", str(width - 24))


def test_two_revisions_and_two_pages_stand_side_by_side(screen, served):
    site = bring_demo(served)
    with httpx2.Client(base_url=served) as client:
        change(client, f"/api/sites/{site.rpartition('/')[2]}", "contents", "handbook.html")
    open_page(screen, site, "handbook.html", "Parts")
    screen.get_by_role("button", name="Changes").click()
    screen.get_by_role("link", name="Compare revisions").click()
    expect(picked(screen, "Left: revision")).to_contain_text("As it was brought in")
    expect(screen.locator(".counts")).to_contain_text("links")
    tick(screen, "Show what is the same")
    expect(screen.locator("tbody tr:has-text('same')")).to_have_count(0)
    assert faults(screen) == []
    screen.locator(".looks").get_by_text("Sources", exact=True).click()
    expect(screen.locator(".lines .added").first).to_be_visible()
    pick(screen, "Left: page", "safety.html")
    expect(screen.locator(".counts")).to_contain_text("only left")
    screen.locator(".looks").get_by_text("Outlines", exact=True).click()
    screen.locator("tbody tr").first.click()
    expect(screen.locator("iframe")).to_have_count(2)
    pick(screen, "Zoom", "50 %")
    expect(screen.frame_locator("iframe >> nth=0").locator("h1")).to_be_visible()
    assert faults(screen, ["main", ".choices"]) == []
    screen.get_by_role("button", name="Swap left and right").click()
    expect(picked(screen, "Right: page")).to_contain_text("safety.html")
