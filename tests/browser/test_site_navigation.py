"""Navigation across pages on the screen: menus put in order, links on and back, lists over the site."""

from playwright.sync_api import expect

from screens import apply, bring, faults

MENU = "<nav class=main><ul>\n<li><a href=a.html>Boilers</a></li>\n<li><a href=b.html>Brakes</a></li>\n<li><a href=c.html>Coal</a></li>\n</ul></nav>"


def page(title: str) -> bytes:
    return f"<!DOCTYPE html><html lang=en><title>{title}</title>\n<body>\n{MENU}\n<main>\n<h1>{title}</h1>\n<h2 id=x>More</h2>\n</main>\n".encode()


FILES = {
    f"{name}.html": page(title) for name, title in [("a", "Boilers"), ("b", "Brakes"), ("c", "Coal"), ("d", "Doors")]
}


def open_dialog(screen, served):
    screen.goto(bring(served, FILES))
    screen.get_by_role("button", name="Navigation…").click()
    dialog = screen.get_by_role("dialog", name="Navigation")
    expect(dialog.get_by_role("listitem")).to_have_count(4)
    return dialog


def test_a_menu_is_put_in_order_on_all_pages_with_the_keyboard(screen, served):
    dialog = open_dialog(screen, served)
    expect(dialog.get_by_text("3 pages, in this order")).to_be_visible()
    assert faults(screen, [".el-dialog"]) == []
    dialog.get_by_role("button", name="Move Coal up").press("Enter")
    dialog.get_by_role("button", name="Move Coal up").press("Enter")
    dialog.get_by_role("checkbox", name="Doors").press("Space")
    dialog.get_by_role("button", name="Show the edits").click()
    tray = screen.locator(".tray")
    expect(tray).to_contain_text("in 4 files")
    apply(screen)
    expect(tray).to_contain_text("Applied: Menu changed")
    screen.get_by_role("button", name="Navigation…").click()
    again = screen.get_by_role("dialog", name="Navigation")
    expect(again.get_by_role("listitem").first).to_contain_text("Coal")
    expect(again.get_by_text("4 pages, in this order")).to_be_visible()


def test_links_on_and_back_are_made_and_taken_out(screen, served):
    dialog = open_dialog(screen, served)
    dialog.get_by_text("Previous and next", exact=True).click()
    dialog.get_by_role("button", name="Show the edits").click()
    tray = screen.locator(".tray")
    expect(tray).to_contain_text("in 4 files")
    apply(screen)
    expect(tray).to_contain_text("Applied: Links to the pages before and after made")
    screen.get_by_role("button", name="Navigation…").click()
    dialog.get_by_text("Previous and next", exact=True).click()
    dialog.get_by_role("button", name="Remove it again").click()
    expect(tray).to_contain_text("in 4 files")


def test_one_page_lists_all(screen, served):
    dialog = open_dialog(screen, served)
    dialog.get_by_text("All pages", exact=True).click()
    dialog.get_by_role("combobox", name="Page that gets the list").click()
    screen.get_by_role("option", name="d.html").click()
    dialog.get_by_role("button", name="Show the edits").click()
    apply(screen)
    expect(screen.locator(".tray")).to_contain_text("Applied: List of all pages made")


def test_several_pages_are_moved_and_one_is_left_out_of_a_change(screen, served):
    screen.goto(bring(served, FILES))
    for name in ("b.html", "c.html"):
        screen.get_by_role("row", name=name).locator(".el-checkbox").click()
    screen.get_by_role("button", name="Move to a folder…").click()
    screen.get_by_label("Into the folder").fill("works/")
    screen.keyboard.press("Enter")
    tray = screen.locator(".tray")
    expect(tray).to_contain_text("in 4 files")
    apply(screen)
    expect(screen.get_by_role("link", name="works/c.html")).to_be_visible()
    screen.get_by_role("button", name="Recipe…").click()
    screen.get_by_role("button", name="Keep with the site").click()
    expect(screen.get_by_role("combobox", name="Kept with the site")).to_be_attached()
    screen.get_by_role("button", name="Show the edits").click()
    expect(tray).to_contain_text("in 4 files")
    screen.keyboard.press("d")
    screen.get_by_role("checkbox", name="a.html: untick").press("Space")
    expect(screen.get_by_role("region", name="No edits in a.html")).to_be_visible()
    expect(tray).to_contain_text("in 3 files")
    apply(screen)
    expect(tray).to_contain_text("Applied: Recipe")
