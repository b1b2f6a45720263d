"""Takes the pictures of the README from the demo data: docs/screenshots/make.py, while ./start serves."""

import json
import sys
from pathlib import Path

import httpx2
from playwright.sync_api import Page, expect, sync_playwright

HERE = Path(__file__).parent
sys.path.insert(0, str(HERE.parents[1] / "tests"))
from screens import pick, tick  # noqa: E402
from signpost.core.operations import OPERATIONS  # noqa: E402
from signpost.desk.demo import DEMO_BASE, DEMO_NAME, demo_files  # noqa: E402
from sites import new_site  # noqa: E402

SETTLE_MS = 900
expect.set_options(timeout=60_000)


def shoot(page: Page, name: str) -> None:
    page.mouse.move(640, 790)  # away from what it would light up
    page.wait_for_timeout(SETTLE_MS)
    page.screenshot(path=HERE / f"{name}.png")


def apply(page: Page) -> None:
    expect(page.locator(".tray.waits")).to_be_visible()
    page.keyboard.press("Control+Enter")
    expect(page.locator(".tray")).to_contain_text("Applied")


def take_job(page: Page, site: str) -> None:
    page.goto(f"{site}/pages/handbook.html")
    expect(page.locator("tbody tr").first).to_be_visible()
    page.keyboard.press("Alt+2")
    page.get_by_role("rowheader", name="Safety", exact=True).click()
    page.keyboard.press("Enter")
    page.get_by_role("textbox", name="Identifier of Safety").fill("Keeping safe")
    expect(page.locator(".judgement.refused")).to_be_visible()
    shoot(page, "identifiers")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Give identifiers").click()
    page.keyboard.press("d")
    expect(page.locator(".diff")).to_be_visible()
    apply(page)
    page.keyboard.press("Alt+3")
    page.get_by_role("button", name="Review and adopt").click()
    page.get_by_role("button", name="Show the edits").click()
    apply(page)
    pick(page, "Deepest level listed", "to h3")
    page.get_by_role("button", name="Change", exact=True).click()
    apply(page)
    shoot(page, "contents")
    page.keyboard.press("Alt+4")
    page.get_by_role("button", name="Change target").first.click()
    page.get_by_role("combobox", name="Heading, identifier or page").fill("lamp")
    shoot(page, "jumps")
    page.get_by_role("dialog").get_by_text("Another site", exact=True).click()
    page.get_by_role("combobox", name="Address").fill("https:\\\\narrow-gauge.example\\lines\\thornby vale.html")
    page.get_by_role("dialog").get_by_text("Open in a new window").click()
    expect(page.get_by_role("dialog").get_by_role("status")).to_contain_text("thornby%20vale")
    shoot(page, "link")
    page.keyboard.press("Escape")
    page.keyboard.press("Alt+5")
    page.get_by_role("button", name="Add back-to-top links").click()
    apply(page)
    page.get_by_role("rowheader", name="Boiler care").click()
    shoot(page, "page")

    page.get_by_role("button", name="More").click()
    page.get_by_role("menuitem", name="Reading style").click()
    tick(page.get_by_role("dialog"), "contents at the side, in sight")
    page.wait_for_timeout(1500)  # for the page to be seen in it
    shoot(page, "style")
    page.keyboard.press("Escape")


def take_walk(page: Page) -> None:
    page.keyboard.press("Alt+6")
    expect(page.locator(".facts")).to_contain_text(", measured")
    expect(page.locator("tr:has-text('not measured')")).to_have_count(0)
    page.keyboard.press("x")
    expect(page.locator(".line")).to_contain_text("under header.bar")
    shoot(page, "walk")
    page.get_by_role("button", name="Fix landings").click()
    tick(page.get_by_role("dialog"), "Room below")
    expect(page.get_by_role("row", name="Laptop")).to_contain_text("all land well")
    expect(page.locator("table[aria-busy=true]")).to_have_count(0)
    page.keyboard.press("Escape")

    page.keyboard.press("Alt+7")
    page.get_by_role("button", name="Propose cuts").click()
    expect(page.locator("tr.part")).to_have_count(4)
    page.get_by_role("button", name="Parts only").click()
    shoot(page, "parts")
    page.get_by_role("button", name="Show sections").click()

    page.keyboard.press("Alt+8")
    expect(page.locator(".finding").first).to_be_visible()
    shoot(page, "findings")
    page.locator(".bench-bar").get_by_text("Source", exact=True).click()
    page.locator(".finding").nth(4).click()
    page.locator(".cm-lintRange").first.hover()
    expect(page.locator(".cm-tooltip-lint")).to_be_visible()
    shoot(page, "source")


def take_map_and_publishing(page: Page, site: str) -> None:
    page.goto(f"{site}/map")
    page.get_by_role("button", name="handbook.html", exact=True).click()
    page.wait_for_timeout(SETTLE_MS)
    shoot(page, "map")
    page.goto(site)
    page.get_by_role("button", name="Publish…").click()
    page.get_by_label("Name", exact=True).fill("Practice host")
    page.get_by_role("button", name="Keep this target").click()
    page.get_by_role("button", name="Publish", exact=True).click()
    page.get_by_role("button", name="Check the live site").click()
    expect(page.get_by_role("heading", name="As readers get it")).to_be_visible(timeout=180_000)
    shoot(page, "publish")
    page.keyboard.press("Escape")


def take(page: Page, served: str, site: str) -> None:
    page.goto(served)
    expect(page.locator(".sites a").first).to_be_visible()
    shoot(page, "sites")
    page.goto(site)
    expect(page.get_by_role("link", name="handbook.html")).to_be_visible()
    shoot(page, "site")
    take_map_and_publishing(page, site)

    page.goto(f"{site}/pages/history.html")
    expect(page.locator("tr.extra").first).to_be_visible()
    shoot(page, "headings")

    take_job(page, site)
    take_walk(page)

    page.goto(f"{site}/pages/year-2.html")
    expect(page.locator("tbody tr").first).to_be_visible()
    page.keyboard.press("Alt+7")
    expect(page.locator(".stage-form")).to_contain_text("Out of date")
    page.get_by_role("button", name="Bring up to date").click()
    expect(page.locator(".tray.waits")).to_be_visible()
    shoot(page, "series")
    page.keyboard.press("Escape")

    page.goto(f"{site}/pages/handbook.html")
    expect(page.locator("tbody tr").first).to_be_visible()
    page.get_by_role("button", name="Changes", exact=True).click()
    page.get_by_role("link", name="Compare revisions").click()
    expect(page.locator(".counts")).to_contain_text("sections")
    shoot(page, "compare")

    page.emulate_media(color_scheme="dark")
    page.goto(f"{site}/pages/stations.html")
    expect(page.locator("tbody tr").first).to_be_visible()
    page.keyboard.press("Alt+2")
    page.get_by_role("rowheader", name="Mill Loop").click()
    shoot(page, "dark")


def take_both(page: Page, site: str) -> None:
    """Source and page side by side, the source as it is typed."""
    page.emulate_media(color_scheme="light")
    page.set_viewport_size({"width": 1680, "height": 1050})
    page.goto(f"{site}/pages/stations.html")
    expect(page.locator(".facts")).to_contain_text(", measured")
    page.evaluate("localStorage.removeItem('signpost-bench-layout')")
    page.reload()
    page.locator(".cm-line", has_text="<h2").first.click()
    page.keyboard.press("End")
    page.keyboard.type("\n<p>Typed a moment ago.</p>")
    expect(page.frame_locator("iframe[title$='as its reader sees it']").get_by_text("Typed a moment")).to_be_visible()
    shoot(page, "both")
    page.get_by_role("button", name="Discard").click()


def main(served: str) -> None:
    with httpx2.Client(base_url=served) as client, sync_playwright() as playwright:
        path = new_site(client, demo_files(), DEMO_NAME)
        client.put(path, json={"name": DEMO_NAME, "base": DEMO_BASE}).raise_for_status()
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox"])
        try:
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            known = {"signpost-first-steps": "true", "signpost-kinds-read": json.dumps(sorted(OPERATIONS))}
            said = "".join(
                f"localStorage.setItem({json.dumps(key)}, {json.dumps(value)});" for key, value in known.items()
            )
            page.add_init_script(f"try {{ {said} }} catch {{}}")
            take(page, served, served + path.removeprefix("/api"))
            take_both(page, served + path.removeprefix("/api"))
        finally:
            browser.close()
            client.delete(path)


if __name__ == "__main__":
    main(sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8017")
