"""The link map: a picture, and the same as a table for those who do not see it."""

from playwright.sync_api import expect

from screens import bring, faults, pick

FILES = {
    "a.html": b"<!DOCTYPE html><html lang=en><title>A</title><h1>A</h1>\n<p><a href=b.html>to b</a>\n<p><a href='b.html#no'>nowhere</a>\n",
    "b.html": b"<!DOCTYPE html><html lang=en><title>B</title><h1>B</h1>\n",
    "deep/c.html": b"<!DOCTYPE html><html lang=en><title>C</title><h1>C</h1>\n<p><a href=../gone.html>gone</a>\n",
}


def test_the_table_has_what_the_picture_has_and_opens_each_link(screen, served):
    site = bring(served, FILES)
    screen.goto(site)
    screen.get_by_role("link", name="Link map").click()
    table = screen.get_by_role("region", name="Table")
    expect(table.get_by_role("row")).to_have_count(5)  # with the head, and the page that is missing
    expect(screen.get_by_role("img", name="The link map of 4 pages")).to_be_visible()
    assert faults(screen, ["canvas"]) == []
    table.get_by_text("Not linked", exact=True).click()
    expect(table.get_by_role("row")).to_have_count(3)
    table.get_by_text("All", exact=True).click()
    table.get_by_role("button", name="a.html", exact=True).press("Enter")
    expect(table).to_contain_text("2 links, 1 to a place on it")
    table.get_by_role("button", name="b.html", exact=True).last.press("Enter")
    table.get_by_role("button", name="nowhere line 3").press("Enter")
    expect(screen.get_by_role("heading", name="a.html")).to_be_visible()
    expect(screen.locator(".cm-activeLine")).to_contain_text("nowhere")


def test_only_what_is_around_a_page_is_drawn(screen, served):
    screen.goto(f"{bring(served, FILES)}/map")
    screen.get_by_role("button", name="deep/c.html").click()
    screen.get_by_text("Draw only what is around it").click()
    expect(screen.get_by_role("img", name="The link map of 2 pages")).to_be_visible()


def test_the_sections_of_a_page_and_what_leads_to_them(screen, served):
    screen.goto(
        f"{bring(served, FILES | {'b.html': FILES['b.html'] + b'<h2 id=n>Next</h2><p><a href=a.html>back</a>'})}/map"
    )
    screen.get_by_role("button", name="b.html", exact=True).click()
    screen.get_by_role("button", name="Draw its sections").click()
    expect(screen.get_by_role("img", name="The links of 2 sections of b.html")).to_be_visible()
    listed = screen.get_by_role("region", name="Sections")
    listed.get_by_role("button", name="Next").press("Enter")
    expect(listed).to_contain_text("b.html, line 2to a.html")
    assert faults(screen, ["canvas"]) == []
    listed.get_by_role("button", name="back b.html, line 2").press("Enter")
    expect(screen.locator(".cm-activeLine")).to_contain_text("back")


def test_a_thousand_pages_are_drawn(screen, served):
    files = {
        f"part{at % 20}/p{at}.html": f"<title>{at}</title><a href='p{(at + 20) % 1000}.html'>on</a><a href='../part0/p0.html'>home</a>".encode()
        for at in range(1000)
    }
    warned = []
    screen.on("console", lambda message: warned.append(message.text) if message.type == "warning" else None)
    screen.goto(f"{bring(served, files)}/map")
    expect(screen.get_by_role("img", name="The link map of 1,000 pages")).to_be_visible()
    assert faults(screen, [".trail"]) == []
    pick(screen, "Open a folder", "part7/")
    expect(screen.get_by_label("Folder that is drawn").get_by_role("button", name="part7")).to_be_visible()
    assert warned == []
    screen.get_by_label("Folder that is drawn").get_by_role("button", name="All pages").click()
    expect(screen.get_by_label("Folder that is drawn")).to_be_hidden()
    screen.get_by_label("Find a page").fill("p999")
    expect(screen.get_by_role("region", name="Table").get_by_role("row")).to_have_count(2)
