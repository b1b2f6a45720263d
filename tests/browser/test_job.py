"""The whole job on the demo page, as its author does it."""

import zipfile
from urllib.parse import unquote

import pytest
from playwright.sync_api import expect

from screens import RENDERED, apply, bring_demo, open_page, pick
from signpost.core.page import read_page
from signpost.core.site.site import Site
from signpost.core.text.source import read_source
from signpost.desk.demo import demo_files
from sites import packed, unpacked

pytestmark = pytest.mark.browser

#: How far from where the formula puts it a window may be, in CSS pixels.
TOLERANCE = 2

LANDED = f"Math.abs(where.at - where.wanted) <= {TOLERANCE}"

WHERE = """id => {
  const target = document.getElementById(id) ?? document.getElementsByName(id)[0];
  const root = document.documentElement;
  const top = target ? target.getBoundingClientRect().top + scrollY : 0;
  return { at: scrollY, wanted: Math.min(Math.max(0, top), root.scrollHeight - innerHeight), found: Boolean(target) };
}"""


#: Jump to a fragment, and tell whether the window comes to be where it should.
FOLLOW = f"""async ([fragment, place]) => {{
  document.documentElement.style.scrollBehavior = "auto";
  location.hash = "";
  scrollTo(0, 0);
  location.hash = fragment;
  for (let tries = 0; tries < 100; tries++) {{
    const where = ({WHERE})(place);
    if (where.found && {LANDED}) return true;
    await new Promise((done) => setTimeout(done, 20));
  }}
  return false;
}}"""


def test_the_whole_job(screen, served, tmp_path):
    # bring in
    archive = tmp_path / "thornby.zip"
    archive.write_bytes(packed({f"thornby/{path}": data for path, data in demo_files().items()}))
    screen.goto(served)
    screen.get_by_label("ZIP or files").set_input_files(archive)
    expect(screen.get_by_role("heading", name="thornby")).to_be_visible()
    screen.get_by_role("link", name="handbook.html").click()

    # identifiers
    screen.get_by_role("tab", name="Identifiers").click()
    screen.get_by_role("button", name="Give identifiers").click()
    expect(screen.locator(".tray")).to_contain_text("75 edits in handbook.html")
    screen.get_by_role("button", name="Show the diff").click()
    expect(screen.locator(".diff")).to_contain_text('<h3 id="what-to-wear">What to wear</h3>')
    screen.get_by_role("button", name="Apply").click()
    expect(screen.locator(".tray")).to_contain_text("Applied: Identifiers for 75 sections")

    # contents, back-to-top links
    screen.get_by_role("tab", name="Contents").click()
    screen.get_by_role("button", name="Review and adopt").click()
    screen.get_by_role("button", name="Show the edits").click()
    apply(screen)
    pick(screen, "Deepest level listed", "to h3")
    screen.get_by_role("button", name="Change", exact=True).click()
    apply(screen)
    screen.get_by_role("tab", name="Back to top").click()
    screen.get_by_role("button", name="Add back-to-top links").click()
    apply(screen)

    # look: the rendered page has the contents and follows its own jump links
    frame = screen.frame_locator(RENDERED)
    expect(frame.locator(".back-to-top").first).to_be_attached()  # it was loaded again after the change
    frame.locator("nav.contents a", has_text="Washing out").click()
    expect(screen.locator("tr[aria-selected=true]")).to_contain_text("Washing out")

    # undo one and redo it
    screen.locator("header").get_by_role("button", name="Undo").click()
    expect(screen.locator(".tray")).to_contain_text("Undone: Back-to-top links")
    screen.get_by_role("button", name="Redo").click()
    expect(screen.locator(".tray")).to_contain_text("Redone: Back-to-top links")

    # parts
    screen.get_by_role("tab", name="Parts").click()
    screen.get_by_role("button", name="Propose cuts").click()
    screen.get_by_role("button", name="Cut into 4 parts").click()
    expect(screen.locator(".tray")).to_contain_text("Cut into 4 parts")
    apply(screen)
    expect(screen.locator(".stage-form")).to_contain_text("4 parts of “Volunteer handbook")

    # remove
    screen.get_by_role("button", name="Export").first.click()
    with screen.expect_download() as download:
        screen.get_by_role("link", name="The whole site").click()
    files = unpacked(download.value.path().read_bytes())
    assert {path: files[path] for path in ("images/gauge.png", "history.html", "style.css")} == {
        path: demo_files()[path] for path in ("images/gauge.png", "history.html", "style.css")
    }

    # open it from disk, and follow every jump link
    folder = tmp_path / "taken"
    with zipfile.ZipFile(download.value.path()) as taken:
        taken.extractall(folder)
    followed = follow_all(screen, folder, files)
    assert followed > 90


def follow_all(screen, folder, files) -> int:
    """Follow every jump link of the handbook's parts in Chromium, from disk; return how many there were."""
    pages = {path: read_page(path, read_source(data)) for path, data in files.items() if path.endswith(".html")}
    site = Site(pages, frozenset(files))
    broken = {"#boiler-care", "#track", "#fire-beaters", "webpages.html#People"}  # the author's own mistakes
    leading: dict[str, list[tuple[str, str]]] = {}  # where links lead, by the page that they lead to
    for path in sorted(path for path in pages if path.startswith("handbook")):
        screen.goto((folder / path).as_uri())
        found = screen.eval_on_selector_all(
            "a[href*='#']", "links => links.map(link => [link.getAttribute('href'), link.href])"
        )
        assert len(found) == sum("#" in (link.href or "") for link in pages[path].links)
        for href, address in found:
            name = href.partition("#")[2]
            if href.rpartition("/")[2] in broken or not name or name.lower() == "top":
                assert href in ("#", "#top", "#Top") or href in broken
                continue
            assert site.follow(path, href).target is not None, (path, href)
            leading.setdefault(address.partition("#")[0], []).append((path, address.partition("#")[2]))
    for address, jumps in leading.items():
        screen.goto(address)
        for path, fragment in jumps:
            assert screen.evaluate(FOLLOW, [fragment, unquote(fragment)]), (path, address, fragment)
    return sum(map(len, leading.values()))


def test_the_whole_job_by_keyboard(screen, served):
    open_page(screen, bring_demo(served), "handbook.html")
    screen.evaluate("document.activeElement.blur()")
    press = screen.keyboard.press

    # from the top of the document to the ledger, to a section, to its identifier
    press("F6")  # road
    expect(screen.locator(".road [role=listbox]")).to_be_focused()
    for _ in range(3):
        press("ArrowDown")
    expect(screen.locator("tr[aria-selected=true]")).to_contain_text("What to wear")
    press("Alt+2")
    press("F6")  # ledger
    press("ArrowUp")
    press("ArrowDown")
    press("Enter")
    expect(screen.get_by_role("textbox", name="Identifier of What to wear")).to_be_focused()
    press("Control+a")
    screen.keyboard.type("clothes")
    press("Enter")
    expect(screen.locator(".tray")).to_contain_text("Identifier “clothes”")
    apply(screen)
    expect(screen.locator("tr[aria-selected=true]")).to_contain_text("clothes")

    # the stages, each from its form to the tray
    for stage, button in ((2, "Give identifiers"), (3, "Review and adopt"), (5, "Add back-to-top links")):
        press(f"Alt+{stage}")
        screen.get_by_role("button", name=button).focus()
        press("Enter")
        if stage == 3:
            expect(screen.get_by_role("button", name="Show the edits")).to_be_enabled()
            press("Control+Enter")
        else:  # what asked has the keyboard again once the edits are dropped
            expect(screen.get_by_role("button", name="Apply")).to_be_focused()
            press("Escape")
            expect(screen.get_by_role("button", name=button)).to_be_focused()
            press("Enter")
        apply(screen)

    # a cut, a part
    press("Alt+7")
    screen.locator(".road [role=listbox]").focus()
    press("F6")
    expect(screen.locator("[data-pane=ledger] tr:focus")).to_have_count(1)
    press("End")
    press("Space")
    screen.get_by_role("button", name="Cut into 2 parts").focus()
    press("Enter")
    apply(screen)
    press("Escape")
    press("Control+z")
    expect(screen.locator(".tray")).to_contain_text("Undone: Cut into 2 parts")
    press("Control+Shift+z")
    expect(screen.locator(".tray")).to_contain_text("Redone: Cut into 2 parts")

    # the diff and dropping what waits
    press("?")
    expect(screen.get_by_role("dialog", name="Keyboard")).to_be_visible()
    press("Escape")
    expect(screen.get_by_role("dialog", name="Keyboard")).to_be_hidden()
