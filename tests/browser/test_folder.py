"""A folder opened as a site, edited by another process while it is open."""

import subprocess

from playwright.sync_api import expect

from screens import FOLDER_PAGE as PAGE
from screens import apply, bring, faults, open_page, picked, save_elsewhere
from signpost.core.operations.pages import Type
from signpost.desk import linked_folders, syncing
from signpost.desk.changes import apply_change, plan_change
from signpost.desk.leases import held


def test_a_folder_is_opened_and_both_sides_follow(screen, beside, folder):
    screen.goto(beside)
    field = screen.get_by_label("Folder on this computer")
    field.fill(str(folder / "none"))
    screen.get_by_role("button", name="Open the folder").click()
    expect(screen.get_by_role("alert")).to_contain_text("is not a folder of this computer")
    field.fill(f"{folder}/")
    screen.get_by_role("button", name="Open the folder").click()
    expect(screen.get_by_text(f"Linked to {folder}")).to_be_visible()
    assert faults(screen, []) == []
    site = screen.url
    open_page(screen, site, "a.html", "Headings")
    expect(screen.get_by_role("row", name="Fire")).to_be_visible()
    save_elsewhere(folder / "a.html", PAGE + "<h2>Water</h2>\n<p>two</p>\n")
    expect(screen.get_by_role("row", name="Water")).to_be_visible()
    open_page(screen, site, "a.html", "Identifiers")
    screen.get_by_role("button", name="Give identifiers").click()
    apply(screen)
    expect(screen.locator(".tray")).to_contain_text("Applied")
    assert "<h2 id=water>Water</h2>" in (folder / "a.html").read_text()


def test_the_author_decides_what_was_edited_on_both_sides(screen, beside, folder, database):
    site = linked_folders.link_folder(database, str(folder), [str(folder.parent)])
    typed = {"text": PAGE.replace("one", "at the desk")}
    tag = plan_change(database, site.site_id, "a.html", Type(**typed)).tag
    with held(database, site.site_id, "folder"):  # both edit before anybody looks
        apply_change(database, site.site_id, "a.html", Type(**typed), tag)
        save_elsewhere(folder / "a.html", PAGE.replace("one", "in the editor"))
    assert syncing.sync_folder(database, site.site_id).conflicts == 1
    screen.goto(f"{beside}/sites/{site.site_id}")
    expect(screen.get_by_text("1 file edited here and in the folder")).to_be_visible()
    screen.get_by_role("button", name="a.html…").click()
    dialog = screen.get_by_role("dialog", name="a.html was edited here and in the folder")
    expect(dialog.get_by_text("at the desk", exact=False).first).to_be_visible()
    expect(dialog).to_contain_text("in the editor")
    assert faults(screen, [".el-dialog"]) == []
    dialog.get_by_role("button", name="Take the folder's").click()
    expect(screen.get_by_text("edited here and in the folder")).to_have_count(0)
    text = (folder / "a.html").read_text()
    assert text == PAGE.replace("one", "in the editor")


def test_a_site_is_published_checked_and_taken_back(screen, beside, folder):
    (folder / "a.html").write_text(PAGE + '<p><a href="#none">nowhere</a> <a href="gone.html">gone</a>\n')
    screen.goto(beside)
    screen.get_by_label("Folder on this computer").fill(str(folder))
    screen.get_by_role("button", name="Open the folder").click()
    screen.get_by_role("button", name="Publish…").click()
    dialog = screen.get_by_role("dialog", name="Publish")
    dialog.get_by_label("Name", exact=True).fill("Practice")
    assert faults(screen, [".el-dialog"]) == []
    dialog.get_by_role("button", name="Keep this target").click()
    expect(dialog).to_contain_text("1 file, 1")
    dialog.get_by_role("button", name="Publish", exact=True).click()
    expect(dialog).to_contain_text("1 file sent and read back, 0 deleted.")
    expect(dialog).to_contain_text("Nothing to send")
    dialog.get_by_role("button", name="Check the live site").click()
    expect(dialog.get_by_role("heading", name="As readers get it")).to_be_visible()
    expect(dialog).to_contain_text("Published from here just now.")
    expect(dialog).to_contain_text("“nowhere” leads to #none")
    expect(dialog).to_contain_text("the host answers 404")
    assert faults(screen, [".el-dialog"]) == []
    address = dialog.get_by_role("link", name=".localhost:").get_attribute("href")
    reader = screen.context.new_page()
    reader.goto(f"{address}a.html")
    expect(reader.get_by_role("heading", name="Boilers")).to_be_visible()
    dialog.get_by_role("button", name="Undo the last publication").click()
    expect(dialog).to_contain_text("0 files sent, 1 deleted")
    assert reader.goto(f"{address}a.html").status == 404


def test_a_desk_is_taken_in_on_the_start_screen(screen, served, tmp_path):
    site = bring(served, {"a.html": PAGE.encode()})
    archive = tmp_path / "desk.zip"
    answer = screen.request.get(site.replace("/sites/", "/api/sites/") + "/takeout/desk.zip")
    archive.write_bytes(answer.body())
    screen.goto(served)
    with screen.expect_file_chooser() as chooser:
        screen.get_by_role("button", name="Import a desk…").click()
    chooser.value.set_files(archive)
    expect(screen.get_by_role("link", name="a.html")).to_be_visible()
    assert screen.url != site


def test_links_follow_a_file_that_was_moved_in_the_folder(screen, beside, folder):
    (folder / "b.html").write_text("<!DOCTYPE html>\n<title>B</title>\n<h1>B</h1>\n<p><a href=a.html>to a</a>\n")
    screen.goto(beside)
    screen.get_by_label("Folder on this computer").fill(str(folder))
    screen.get_by_role("button", name="Open the folder").click()
    expect(screen.get_by_role("link", name="a.html")).to_be_visible()
    (folder / "a.html").rename(folder / "boilers.html")
    screen.get_by_role("button", name="Update links to boilers.html").click()
    expect(screen.locator(".tray")).to_contain_text("1 edit in b.html")
    apply(screen)
    expect(screen.locator(".tray")).to_contain_text("Applied")
    assert "<a href=boilers.html>" in (folder / "b.html").read_text()


def test_a_page_is_compared_with_any_commit(screen, beside, folder):
    def git(*arguments):
        who = ("-c", "user.name=A", "-c", "user.email=a@line.example")
        subprocess.run(["git", "-C", str(folder), *who, *arguments], check=True, capture_output=True)

    git("init", "--quiet")
    for words in ("first", "second"):
        (folder / "a.html").write_text(PAGE + f"<h2>{words}</h2>\n")
        git("add", ".")
        git("commit", "--quiet", "-m", f"The {words} words")
    (folder / "a.html").write_text(PAGE + "<h2>third</h2>\n")
    screen.goto(beside)
    screen.get_by_label("Folder on this computer").fill(str(folder))
    screen.get_by_role("button", name="Open the folder").click()
    screen.get_by_role("button", name="1 file not committed").click()
    screen.get_by_role("button", name="Compare", exact=True).click()
    screen.get_by_text("Sources", exact=True).click()
    expect(screen.locator("li.removed")).to_have_text("-<h2>second</h2>")
    screen.get_by_role("combobox", name="Left: revision").press("Enter")
    screen.get_by_role("option", name="commit: The first words").click()
    expect(screen.locator("li.removed")).to_have_text("-<h2>first</h2>")
    expect(picked(screen, "Left: revision")).to_contain_text("commit: The first words")
    expect(screen.locator("li.added")).to_have_text("+<h2>third</h2>")
