"""Pages and other files renamed, moved and deleted on the screen."""

import re

from playwright.sync_api import expect

from screens import apply, bring, faults, open_page

A = b"<!DOCTYPE html><html lang=en><title>Boilers</title><h1 id=top>Boilers</h1><p><a href='b.html#x'>brakes</a> <img src=p.png alt=''>\n"
B = b"<!DOCTYPE html><html lang=en><title>Brakes</title><h1>Brakes</h1><h2 id=x>Hand</h2><p><a href=a.html>boilers</a>\n"
FILES = {"a.html": A, "b.html": B, "p.png": b"\x89PNG"}


def ask(screen, path: str, command: str) -> None:
    screen.get_by_role("button", name=f"More about {path}").click()
    screen.get_by_role("menuitem", name=command).click()


def test_a_page_is_renamed_and_its_links_follow(screen, served):
    site = bring(served, FILES)
    screen.goto(site)
    ask(screen, "b.html", "Rename or move…")
    field = screen.get_by_label("Path within the site")
    expect(field).to_be_focused()
    screen.keyboard.type("a")  # over the name, the ending stays
    expect(field).to_have_value("a.html")
    screen.keyboard.press("Enter")
    expect(screen.get_by_role("dialog").get_by_role("alert")).to_contain_text("The site has a file of that name.")
    field.fill("works/brakes.html")
    screen.get_by_text("Leave a page at b.html that leads on").click()
    assert faults(screen, [".el-dialog"]) == []
    screen.keyboard.press("Enter")
    tray = screen.locator(".tray")
    expect(tray).to_contain_text("4 edits in 3 files")
    apply(screen)
    expect(tray).to_contain_text("Applied: b.html is now works/brakes.html.")
    expect(screen.get_by_role("link", name="works/brakes.html")).to_be_visible()
    screen.get_by_role("link", name="works/brakes.html").click()
    expect(screen.get_by_role("heading", name="works/brakes.html")).to_be_visible()


def test_a_page_is_renamed_while_it_is_open(screen, served):
    site = bring(served, FILES)
    open_page(screen, site, "a.html", "Headings")
    screen.get_by_role("button", name="More…").click()
    screen.get_by_role("menuitem", name="Rename or move this page…").click()
    field = screen.get_by_label("Path within the site")
    expect(field).to_be_focused()
    field.fill("works/boilers.html")
    screen.keyboard.press("Enter")
    expect(screen.locator(".tray")).to_contain_text("edits in 2 files")
    screen.keyboard.press("d")
    expect(screen.get_by_role("region", name="Edits in works/boilers.html")).to_contain_text(
        "a.html → works/boilers.html"
    )
    apply(screen)
    expect(screen).to_have_url(re.compile("/pages/works(/|%2F)boilers.html$"))
    expect(screen.get_by_role("heading", name="works/boilers.html")).to_be_visible()
    screen.locator(".undo").click()
    expect(screen).to_have_url(f"{site}/pages/a.html")


def test_a_page_is_deleted_and_its_links_lead_elsewhere(screen, served):
    more = {"c.html": A.replace(b"Boilers", b"Couplings")}
    site = bring(served, {**FILES, **more})
    screen.goto(site)
    ask(screen, "b.html", "Delete…")
    expect(screen.get_by_role("dialog")).to_contain_text("2 links on other pages lead to it.")
    show = screen.get_by_role("button", name="Show the edits")
    expect(show).to_be_disabled()
    screen.get_by_role("combobox", name="Page that the links lead to").click()
    expect(screen.get_by_role("option", name="b.html")).to_have_count(0)
    screen.get_by_role("option", name="c.html").click()
    assert faults(screen, [".el-dialog"]) == []
    show.click()
    expect(screen.locator(".tray")).to_contain_text("3 edits in 3 files")
    apply(screen)
    expect(screen.get_by_role("link", name="b.html", exact=True)).to_have_count(0)
    screen.get_by_text("Other files (1)").click()
    ask(screen, "p.png", "Delete…")
    screen.get_by_role("button", name="Show the edits").click()
    expect(screen.locator(".tray")).to_contain_text("still leads to p.png")


def test_addresses_change_by_the_table_of_links(screen, served, tmp_path):
    site = bring(served, FILES)
    screen.goto(site)
    screen.get_by_role("button", name="Export").click()
    with screen.expect_download() as loading:
        screen.get_by_role("link", name="All links").click()
    table = loading.value.path().read_text()
    assert table.startswith("page,line,words,address,kind,leads_to,state,new_address\n")
    (tmp_path / "links.csv").write_text(table.replace(",found,\n", ",found,b.html\n"))
    screen.keyboard.press("Escape")
    screen.get_by_text("Links between pages").click()
    with screen.expect_file_chooser() as choosing:
        screen.get_by_role("button", name="read it in again…").click()
    choosing.value.set_files(tmp_path / "links.csv")
    expect(screen.locator(".tray")).to_contain_text("Addresses changed by a list 2 edits in 2 files")
    apply(screen)


def test_menus_are_made_alike(screen, served):
    menu = b"<nav id=menu><a href=a.html>A</a> <a href=b.html>B</a> <a href=c.html>C</a></nav><h1>T</h1>"
    files = {f"{name}.html": b"<title>T</title>" + menu for name in "abd"}
    files["c.html"] = b"<title>T</title>" + menu.replace(b">B<", b">Brakes<")
    site = bring(served, files)
    screen.goto(site)
    screen.get_by_text("Shared blocks", exact=True).click()
    block = screen.get_by_role("region", name="nav menu")
    expect(block).to_contain_text("4 pages, 3 alike")
    assert faults(screen, ["main"]) == []
    block.get_by_role("button", name="Make alike").click()
    expect(screen.locator(".tray")).to_contain_text("1 edit in c.html")
    screen.keyboard.press("Escape")
    block.get_by_role("button", name="Make the others like this one, on c.html").click()
    expect(screen.locator(".tray")).to_contain_text("3 edits in 3 files")
    apply(screen)
    expect(block).to_contain_text("4 pages, all alike")


def test_heads_of_pages_are_edited_in_one_table(screen, served):
    site = bring(served, FILES)
    screen.goto(site)
    screen.get_by_role("button", name="Titles and languages…").click()
    dialog = screen.get_by_role("dialog")
    title = dialog.get_by_label("Title of a.html")
    expect(title).to_have_value("Boilers")
    title.fill("Brakes")
    dialog.get_by_label("Description of b.html").fill("How to stop & stay")
    assert faults(screen, [".el-dialog"]) == []
    dialog.get_by_role("button", name="Show the edits").click()
    expect(screen.locator(".tray")).to_contain_text("2 edits in 2 files")
    apply(screen)
    screen.get_by_role("button", name="Titles and languages…").click()
    expect(dialog.get_by_text("another page has the same")).to_have_count(2)  # the heading stayed
    dialog.locator(".el-table__header .el-checkbox").click()
    dialog.get_by_label("Pattern for the titles").fill("{h1} - Railway")
    dialog.get_by_role("button", name="Show the edits").click()
    expect(screen.locator(".tray")).to_contain_text("2 edits in 2 files")
    apply(screen)


def test_a_recipe_is_carried_out(screen, served):
    site = bring(served, {"p.html": b"<!DOCTYPE html><title>T</title><h1 id=t>T</h1><h2>Lamps</h2><p>x</p>"})
    screen.goto(site)
    screen.get_by_role("button", name="Recipe…").click()
    dialog = screen.get_by_role("dialog")
    field = dialog.get_by_role("textbox")
    field.fill('[[step]]\ndo = "dance"\n')
    dialog.get_by_role("button", name="Show the edits").click()
    expect(dialog.get_by_role("alert")).to_contain_text("Step 1: do is one of")
    assert faults(screen, [".el-dialog"]) == []
    field.fill('name = "Names"\n[[step]]\ndo = "identify"\n')
    dialog.get_by_role("button", name="Show the edits").click()
    expect(screen.locator(".tray")).to_contain_text("Recipe “Names” 1 edit in p.html")
    apply(screen)
    screen.get_by_role("button", name="Recipe…").click()
    expect(field).to_have_value('name = "Names"\n[[step]]\ndo = "identify"\n')  # it is kept
