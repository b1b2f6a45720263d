"""An author types at the desk while others save: nothing is written over, and what is discarded can be had back."""

import re

import pytest
from playwright.sync_api import expect

from screens import apply, faults, open_page, save_elsewhere
from signpost.desk import linked_folders
from signpost.desk.changes import list_changes, undo_change
from sites import change, new_site

PAGE = (
    "<!DOCTYPE html>\n<html lang=en>\n<title>Boilers</title>\n<h1>Boilers</h1>\n<h2>Fire</h2>\n<p>one</p>\n"
    + "".join(f"<p>line {number}</p>\n" for number in range(12))
)


@pytest.fixture
def linked_page(screen, beside, folder, database):
    """A page of a linked folder, open with its source."""
    (folder / "a.html").write_text(PAGE)
    site = linked_folders.link_folder(database, str(folder), [str(folder.parent)])
    open_page(screen, f"{beside}/sites/{site.site_id}", "a.html", "Headings")
    screen.get_by_label("Bench", exact=True).get_by_text("Source", exact=True).click()
    return folder / "a.html", site.site_id


def source(screen):
    return screen.get_by_role("textbox", name="Source of the page")


def type_before(screen, line: str, words: str) -> None:
    """Type words before those of a line."""
    screen.locator(".cm-line", has_text=re.compile(f"^{re.escape(line)}$")).click()
    screen.keyboard.press("Home")
    screen.keyboard.type(words)


def test_what_came_from_outside_stays_when_what_was_typed_before_it_is_saved(screen, linked_page):
    file, _ = linked_page
    type_before(screen, "<p>line 10</p>", "typed ")
    expect(screen.get_by_text("Not saved")).to_be_visible()
    save_elsewhere(file, PAGE.replace("one", "from the editor"))
    expect(source(screen)).to_contain_text("from the editor")
    expect(source(screen)).to_contain_text("typed <p>line 10</p>")
    expect(screen.locator(".cm-came")).to_have_count(1)
    expect(screen.get_by_text("1 line came in from elsewhere")).to_be_visible()
    assert faults(screen, [".bench-pane"]) == []
    screen.get_by_role("button", name="Seen").click()
    expect(screen.locator(".cm-came")).to_have_count(0)
    screen.keyboard.press("Control+s")
    expect(screen.locator(".tray")).to_contain_text("Applied")
    wanted = PAGE.replace("one", "from the editor").replace("<p>line 10", "typed <p>line 10")
    assert file.read_text() == wanted


def test_what_came_in_a_moment_before_saving_is_marked_too(screen, linked_page):
    """The desk has not heard of it yet; saving brings both together, and the source shows what came."""
    file, _ = linked_page
    screen.route("**/pulse", lambda route: route.abort())
    type_before(screen, "<p>line 10</p>", "typed ")
    save_elsewhere(file, PAGE.replace("one", "from the editor"))
    source(screen).press("Control+s")
    expect(screen.locator(".tray")).to_contain_text("Applied")
    expect(source(screen)).to_contain_text("from the editor")
    expect(screen.locator(".cm-came")).to_have_count(1)
    assert file.read_text() == PAGE.replace("one", "from the editor").replace("<p>line 10", "typed <p>line 10")
    type_before(screen, "<p>line 9</p>", "typed ")
    expect(screen.locator(".cm-came")).to_have_count(1)  # until its author has seen it


def test_lines_that_both_edited_are_decided_place_by_place(screen, linked_page):
    file, _ = linked_page
    type_before(screen, "<p>one</p>", "mine ")
    type_before(screen, "<p>line 10</p>", "also mine ")
    expect(screen.get_by_text("Not saved")).to_be_visible()
    save_elsewhere(file, PAGE.replace("<p>one", "theirs <p>one").replace("<p>line 10", "also theirs <p>line 10"))
    expect(screen.get_by_text("The same lines were saved elsewhere")).to_be_visible()
    source(screen).click()
    screen.keyboard.press("Control+s")
    dialog = screen.get_by_role("dialog", name="The same lines were saved elsewhere")
    expect(dialog.get_by_text("2 places to decide")).to_be_visible()
    assert faults(screen, [".el-dialog"]) == []
    assert file.read_text().startswith(PAGE[:40])
    assert "mine" not in file.read_text()
    first, second = dialog.get_by_role("group", name=re.compile("^Line ")).all()
    first.get_by_text("Both").click()
    second.get_by_text("Type it…").click()
    second.get_by_role("textbox").fill("of my own <p>line 10</p>\n")
    dialog.get_by_role("button", name="Put them together").click()
    expect(source(screen)).to_contain_text("of my own")
    for _ in range(2):  # pressed twice, it is saved once
        source(screen).press("Control+s")
    expect(screen.locator(".tray")).to_contain_text("Applied")
    assert file.read_text() == PAGE.replace("<p>one</p>\n", "mine <p>one</p>\ntheirs <p>one</p>\n").replace(
        "<p>line 10", "of my own <p>line 10"
    )


def test_two_windows_and_an_undo_by_somebody_else_while_one_types(screen, context, served, client, database):
    site = new_site(client, {"a.html": PAGE.encode()})
    change(client, site, "identify", "a.html", levels=[2])
    open_page(screen, f"{served}{site.removeprefix('/api')}", "a.html", "Headings")
    screen.get_by_label("Bench", exact=True).get_by_text("Source", exact=True).click()
    type_before(screen, "<p>line 10</p>", "typed ")
    expect(screen.get_by_text("Not saved")).to_be_visible()
    site_id = site.rpartition("/")[2]
    undo_change(database, site_id, 1)
    expect(source(screen)).to_contain_text("<h2>Fire</h2>")
    change(client, site, "type", "a.html", text=PAGE.replace("line 3", "line three"))
    expect(source(screen)).to_contain_text("line three")
    expect(source(screen)).to_contain_text("typed <p>line 10</p>")
    source(screen).press("Control+s")
    expect(screen.locator(".tray")).to_contain_text("Applied")
    text = client.get(f"{site}/source", params={"path": "a.html"}).json()["text"]
    assert text == PAGE.replace("line 3", "line three").replace("<p>line 10", "typed <p>line 10")
    assert len(list_changes(database, site_id)) == 3


def test_a_draft_that_was_left_is_brought_together_with_what_was_saved_since(screen, served, client):
    site = new_site(client, {"a.html": PAGE.encode(), "b.html": b"<h1>B</h1>"})
    address = f"{served}{site.removeprefix('/api')}"
    open_page(screen, address, "a.html", "Headings")
    screen.get_by_label("Bench", exact=True).get_by_text("Source", exact=True).click()
    type_before(screen, "<p>line 10</p>", "left ")
    expect(screen.get_by_text("Not saved")).to_be_visible()
    screen.goto(address)
    change(client, site, "type", "a.html", text=PAGE.replace("one", "saved since"))
    open_page(screen, address, "a.html", "Headings")
    expect(screen.get_by_text("the page has changed since, and both are brought together")).to_be_visible()
    screen.get_by_role("button", name="Restore it").click()
    expect(source(screen)).to_contain_text("saved since")
    expect(source(screen)).to_contain_text("left <p>line 10</p>")
    screen.get_by_role("button", name="Show the edits").click()
    expect(screen.locator(".tray .diff")).to_contain_text("left")
    expect(screen.locator(".tray .diff")).not_to_contain_text("saved since</p>-")


def test_esc_closes_what_is_open_and_nothing_else(screen, served, client):
    site = new_site(client, {"a.html": PAGE.encode()})
    open_page(screen, f"{served}{site.removeprefix('/api')}", "a.html", "Identifiers")
    screen.get_by_role("button", name="Give identifiers").click()
    tray = screen.locator(".tray")
    expect(tray.get_by_role("button", name="Apply")).to_be_visible()
    for opens, closes in [("?", ".el-dialog, .el-drawer"), (None, ".el-drawer")]:
        if opens:
            screen.locator(".road-pane").click(position={"x": 5, "y": 300})
            screen.keyboard.press(opens)
        else:
            screen.get_by_role("button", name="Changes").click()
        shown = screen.locator(closes).first
        expect(shown).to_be_visible()
        screen.keyboard.press("Escape")
        expect(shown).to_be_hidden()
        expect(tray.get_by_role("button", name="Apply")).to_be_visible()
    screen.keyboard.press("Escape")
    expect(tray).to_contain_text("Discarded: Identifiers for")
    tray.get_by_role("button", name="Take it back").click()
    expect(tray.get_by_role("button", name="Apply")).to_be_visible()
    apply(screen)
    expect(tray).to_contain_text("Applied")


def test_the_first_edits_of_a_kind_are_shown_before_they_can_be_applied(screen, served, client):
    page = PAGE + "".join(f"<h2>Part {number}</h2>\n<p>x</p>\n" for number in range(3))
    site = new_site(client, {"a.html": page.encode(), "b.html": page.encode()})
    address = f"{served}{site.removeprefix('/api')}"
    screen.goto(address)
    screen.evaluate("localStorage.removeItem('signpost-kinds-read')")
    open_page(screen, address, "a.html", "Identifiers")
    screen.get_by_role("button", name="Give identifiers").click()
    expect(screen.locator(".tray .diff")).to_contain_text("id=fire")
    apply(screen)
    expect(screen.locator(".tray")).to_contain_text("Applied")
    open_page(screen, address, "b.html", "Identifiers")
    screen.get_by_role("button", name="Give identifiers").click()
    expect(screen.locator(".tray").get_by_role("button", name="Apply")).to_be_visible()
    expect(screen.locator(".tray .diff")).to_have_count(0)


def test_an_undo_whose_answer_never_came_is_found_out_about(screen, served, client):
    site = new_site(client, {"a.html": PAGE.encode()})
    change(client, site, "identify", "a.html", levels=[2])
    open_page(screen, f"{served}{site.removeprefix('/api')}", "a.html", "Headings")

    def lose_the_answer(route):
        route.fetch()
        route.abort()

    screen.route("**/undo", lose_the_answer)
    screen.get_by_role("button", name="Undo").click()
    expect(screen.locator(".tray")).to_contain_text("Undone")
    (entry,) = client.get(f"{site}/changes").json()["entries"]
    assert entry["undone"]


def test_a_file_that_cannot_be_written_says_so_and_the_others_arrive(screen, linked_page):
    file, _ = linked_page
    other = file.with_name("b.html")
    save_elsewhere(other, PAGE)
    screen.goto(screen.url.partition("/pages")[0])
    expect(screen.get_by_role("link", name="b.html").first).to_be_visible()
    file.unlink()
    file.symlink_to("/etc/hostname")
    button = screen.get_by_role("button", name="1 file waiting")
    expect(button).to_be_visible()
    button.click()
    expect(screen.get_by_text("a link to another place; links are not followed")).to_be_visible()
    expect(screen.get_by_text("Put a plain file in its place")).to_be_visible()
    file.unlink()
    save_elsewhere(file, PAGE)
    screen.get_by_role("button", name="Try again").click()
    expect(button).to_have_count(0)
