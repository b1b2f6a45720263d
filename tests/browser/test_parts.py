"""A page in parts on the desk, and its parts as a browser shows them."""

import re
import threading
from functools import partial
from http.server import SimpleHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path

import pytest
from playwright.sync_api import expect

from pages import page_of
from parted import after
from screens import apply, bring_demo, faults, open_page
from signpost.core.page import read_page
from signpost.core.parts.choosing import best_cuts
from signpost.core.parts.options import Forwarding, LinkPiece, PartContents, PartOptions
from signpost.core.parts.planning import plan_parts
from signpost.core.site.site import Site
from signpost.core.text.source import read_source
from signpost.desk.demo import demo_files


@pytest.fixture
def parts_desk(screen, served):
    open_page(screen, bring_demo(served), "handbook.html", "Parts")
    expect(screen.locator("[data-pane=ledger] tr.part")).to_have_count(1)
    return screen


def test_cuts_are_proposed_moved_titled_kept_and_made(parts_desk):
    desk = parts_desk
    desk.get_by_role("button", name="Propose cuts").click()
    expect(desk.locator("tr.part")).to_have_count(4)
    expect(desk.get_by_role("list", name="Ways to cut the page")).to_contain_text("Evenest: 4")
    second = desk.locator("tr.part").nth(1)
    expect(second).to_contain_text(re.compile(r"handbook-2\.html.*words · .* min · .* windows · .* %", re.DOTALL))
    expect(second).to_contain_text("cross this cut")

    # moved by key and by dragging; kept while the rest is proposed anew
    line = desk.get_by_role("slider", name="Part 2 begins")
    was = line.get_attribute("aria-valuetext")
    line.focus()
    desk.keyboard.press("ArrowDown")
    expect(line).not_to_have_attribute("aria-valuetext", was)
    moved = line.get_attribute("aria-valuetext")
    box = desk.get_by_role("slider", name="Part 3 begins").locator("rect").bounding_box()
    desk.mouse.move(box["x"] + 5, box["y"] + 5)
    desk.mouse.down()
    desk.mouse.move(box["x"] + 5, box["y"] - 60, steps=4)
    desk.mouse.up()
    expect(desk.get_by_role("slider", name="Part 3 begins")).not_to_have_attribute(
        "aria-valuetext", "Signals and tokens"
    )
    second.get_by_role("button", name="What can be done with part 2").click()
    desk.get_by_role("menuitem", name="Keep this cut in proposals").click()
    desk.get_by_role("button", name="One part fewer: 3").or_(
        desk.get_by_role("button", name="Propose cuts")
    ).first.click()
    desk.get_by_role("button", name="Propose cuts").click()
    expect(desk.locator("tr.part").filter(has_text=moved)).to_have_count(1)


def test_a_page_in_parts_is_cut_edited_and_joined(parts_desk):
    desk = parts_desk
    desk.get_by_role("button", name="Propose cuts").click()
    second = desk.locator("tr.part").nth(1)

    # a title and a file of one's own; a cut within a section asks for a title
    desk.get_by_role("button", name=re.compile("^Title of part 2")).click()
    desk.get_by_role("textbox", name="Title of part 2").fill("The engines again")
    desk.keyboard.press("Enter")
    desk.get_by_role("button", name=re.compile("^File of part 2")).click()
    desk.get_by_role("textbox", name="File of part 2").fill("engines.html")
    desk.keyboard.press("Enter")
    expect(second).to_contain_text("engines.html")
    desk.get_by_role("button", name="Places for cuts within Your first day").click()
    desk.locator("tr.block").nth(1).locator(".el-checkbox").click()
    expect(desk.locator(".stage-form")).to_contain_text("Part 2 needs a title")
    desk.get_by_role("button", name=re.compile("^Title of part 2")).click()
    desk.get_by_role("textbox", name="Title of part 2").fill("Later that day")
    desk.keyboard.press("Enter")
    assert faults(desk, ["[data-pane=ledger]", "[data-pane=road]"]) == []
    desk.get_by_role("button", name="Cut into 5 parts").click()
    expect(desk.locator(".tray")).to_contain_text("Cut into 5 parts")
    apply(desk)

    # the series: another part opens from it; a heading renamed there puts the parts out of date
    expect(desk.locator(".stage-form")).to_contain_text("5 parts of “Volunteer handbook")
    expect(desk.locator(".strip")).to_contain_text("part 1 of 5")
    desk.locator("tbody tr", has_text="Leaving an engine").click()
    expect(desk).to_have_url(re.compile(r"/handbook-\d\.html|/engines\.html"))
    expect(desk.locator("tr[aria-selected=true]")).to_contain_text("Leaving an engine")
    desk.get_by_role("tab", name="Headings").click()
    row = desk.locator("tr[data-row]", has_text="Leaving an engine")
    row.locator("th").dblclick()
    desk.get_by_role("textbox", name="Words of Leaving an engine").fill("Leaving an engine for the night")
    desk.keyboard.press("Enter")
    apply(desk)
    desk.get_by_role("tab", name="Parts").click()
    expect(desk.locator("tr.part")).to_have_count(5)

    # joined again: an address of a part leads to the page that has its sections
    address = desk.url
    desk.get_by_role("button", name="More…").click()
    desk.get_by_role("menuitem", name="Join the parts to one page").click()
    expect(desk.locator(".tray")).to_contain_text("Parts joined to one page")
    desk.locator(".tray").get_by_role("button", name="Apply").click()
    expect(desk).to_have_url(re.compile("/handbook.html"))
    expect(desk.locator(".tray")).to_contain_text("Applied: Parts joined to one page")
    desk.goto(address)
    desk.get_by_role("link", name="Open handbook.html, which has its sections now").click()
    expect(desk).to_have_url(re.compile("/handbook.html"))


def test_a_series_is_shown_on_its_site_and_brought_up_to_date(screen, served):
    site = bring_demo(served)
    screen.goto(f"{served}/sites/{site.rpartition('/')[2]}")
    series = screen.get_by_role("region", name="Pages in parts")
    expect(series).to_contain_text("A year on the line")
    expect(series.get_by_role("listitem")).to_have_count(3)
    assert faults(screen, [".series"]) == []
    series.get_by_role("button", name="Work on the parts").click()
    expect(screen.locator(".stage-form")).to_contain_text("Out of date")
    screen.get_by_role("button", name="Bring up to date").click()
    expect(screen.locator(".tray")).to_contain_text("Parts brought up to date")
    apply(screen)
    expect(screen.locator(".stage-form")).to_contain_text("Up to date")
    screen.get_by_role("button", name="More…").click()
    screen.get_by_role("menuitem", name="Part links, names, contents…").click()
    drawer = screen.get_by_role("dialog", name="How parts are made")
    drawer.get_by_text("A list of numbers with titles").click()
    expect(drawer).to_contain_text("Links to")
    assert faults(screen, [".el-drawer"]) == []
    drawer.get_by_role("button", name="Done").click()
    screen.get_by_role("button", name="Cut anew into 3 parts").click()
    screen.get_by_role("button", name="Show the diff").click()
    expect(screen.locator(".diff")).to_contain_text('<li><a href="year-2.html">March: paint and practice</a></li>')
    apply(screen)


# ---------------------------------------------------------------- the parts as readers get them

WAYS = {
    "both": frozenset([Forwarding.SCRIPT, Forwarding.NOTE]),
    "script": frozenset([Forwarding.SCRIPT]),
    "note": frozenset([Forwarding.NOTE]),
    "list": frozenset([Forwarding.LIST]),
}


def handbook(forward, **options):
    """The demo with its handbook in four parts, and the identifiers that left the first one."""
    files = demo_files()
    pages = {path: read_page(path, read_source(data)) for path, data in files.items() if path.endswith(".html")}
    site = Site(pages, frozenset(files))
    whole = pages["handbook.html"]
    cuts = best_cuts(whole, 4)
    parted = after(site, plan_parts(site, "handbook.html", cuts, PartOptions(forward=forward, **options)))
    moved = {target.name for target in whole.targets if target.start >= cuts[0].at}
    kept = {target.name for target in whole.targets if target.start < cuts[0].at}
    written = {**files, **{path: page.source.data for path, page in parted.pages.items()}}
    return written, sorted(moved - kept)


def put(folder: Path, files):
    for path, data in files.items():
        (folder / path).parent.mkdir(parents=True, exist_ok=True)
        (folder / path).write_bytes(data)


class _Quiet(SimpleHTTPRequestHandler):
    def log_message(self, *_):
        pass


@pytest.fixture
def host(tmp_path):
    """A folder, and the address at which a plain server shows it."""
    server = ThreadingHTTPServer(("127.0.0.1", 0), partial(_Quiet, directory=str(tmp_path)))
    thread = threading.Thread(target=server.serve_forever, daemon=True)
    thread.start()
    yield tmp_path, f"http://127.0.0.1:{server.server_port}/"
    server.shutdown()
    server.server_close()
    thread.join()


#: How far an element is from the window's top, where its page cannot be scrolled further 0; a bar is 64 pixels high.
LANDED = """name => {
  const found = document.getElementById(name) ?? document.getElementsByName(name)[0];
  const top = found.getBoundingClientRect().top;
  const end = scrollY + innerHeight >= document.documentElement.scrollHeight - 2;
  return Math.abs(top) < 2 || (end && top > 0 && top < innerHeight) ? 0 : top;
}"""


@pytest.mark.parametrize("way", ["both", "note", "list"])
@pytest.mark.parametrize("over", ["disk", "http"])
def test_every_old_fragment_ends_at_its_section(browser, host, way, over):
    folder, address = host
    files, moved = handbook(WAYS[way])
    put(folder, files)
    assert len(moved) > 15
    home = address if over == "http" else folder.as_uri() + "/"
    context = browser.new_context(viewport={"width": 800, "height": 600}, java_script_enabled=way == "both")
    page = context.new_page()
    for name in moved if (over, way) == ("http", "both") else moved[::5]:
        page.goto("about:blank")
        page.goto(f"{home}handbook.html#{name}")
        if way == "both":
            page.wait_for_url(re.compile(r"handbook-\d\.html#"))
        else:
            line = page.locator(f"[id='{name}']")
            expect(line).to_be_visible()
            expect(line).to_be_in_viewport()
            expect(page.locator(".moved-sections p:visible")).to_have_count(1 if way == "note" else len(moved))
            line.get_by_role("link").click()
            page.wait_for_url(re.compile(r"handbook-\d\.html#"))
        assert page.evaluate(LANDED, name) == 0, (name, page.url)
    context.close()


def test_a_jump_within_the_first_part_to_what_left_it_leads_on(browser, host):
    folder, address = host
    files, moved = handbook(WAYS["script"])
    put(folder, files)
    page = browser.new_page()
    page.goto(f"{address}handbook.html")
    page.evaluate("name => { location.hash = name }", moved[0])
    page.wait_for_url(re.compile(r"handbook-\d\.html#"))
    page.close()


@pytest.mark.parametrize("pieces", [["numbers", "neighbours", "top", "bottom"], ["titles", "bottom"]])
def test_axe_finds_nothing_on_parts(screen, host, pieces):
    folder, address = host
    options = {"links": frozenset(map(LinkPiece, pieces)), "contents": PartContents.OWN}
    files, _ = handbook(WAYS["list"], **options)
    put(folder, files)
    screen.goto(f"{address}handbook-2.html")
    whole = page_of(files["handbook-2.html"], "handbook-2.html")
    assert whole.made_blocks("part-links")
    assert faults(screen, [".part-links", ".part-contents"]) == []
    screen.goto(f"{address}handbook.html")
    assert faults(screen, [".part-links", ".moved-sections"]) == []
