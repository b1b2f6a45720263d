"""What the browser tests do again and again."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

import httpx2
from playwright.sync_api import Locator, Page, expect

from sites import demo_site, new_site

AXE = Path(__file__).parents[1] / "frontend/node_modules/axe-core/axe.min.js"
#: The page as its reader sees it, beside the frames that pages are measured in.
RENDERED = "iframe[title$='as its reader sees it']"
RUN_AXE = """async ([within, rules]) => {
  const until = performance.now() + 900; // what fades in does so a frame after it is there; what pulses never ends
  const frame = () => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
  do await frame(); while (document.getAnimations().length && performance.now() < until);
  const only = rules ? { runOnly: rules } : {};
  return (await axe.run(within ?? document, { iframes: false, resultTypes: ["violations"], ...only })).violations;
}"""


def faults(screen: Page, within: list[str] | None = None) -> list[tuple[str, str, list[str], str]]:
    """The serious faults that axe finds in both themes, on the screen or in what some selectors name.

    In the dark theme only the colours are others, so that only contrast is looked at there. A desk keeps to its
    window: where the document is longer, something stands out of the box that scrolls it.
    """
    if not screen.evaluate("'axe' in window"):
        screen.evaluate(AXE.read_text())
    where = {"include": [[one] for one in within]} if within else None
    found = screen.evaluate(RUN_AXE, [where, None])
    screen.emulate_media(color_scheme="dark")
    found += screen.evaluate(RUN_AXE, [where, ["color-contrast"]])
    screen.emulate_media(color_scheme="light")
    length = screen.evaluate("document.documentElement.scrollHeight - innerHeight")
    assert length <= 0 or "/sites/" not in screen.url, f"the document is {length} px longer than its window"
    return [
        (
            fault["id"],
            fault["impact"],
            [node["target"] for node in fault["nodes"]][:4],
            fault["nodes"][0]["failureSummary"],
        )
        for fault in found
        if fault["impact"] in ("serious", "critical")
    ]


def bring_demo(served: str) -> str:
    """Bring in the demo site again; return the address of its desk."""
    with httpx2.Client(base_url=served) as client:
        return served + demo_site(client).removeprefix("/api")


def bring(served: str, files: dict[str, bytes]) -> str:
    with httpx2.Client(base_url=served, timeout=60) as client:
        return served + new_site(client, files).removeprefix("/api")


def open_page(screen: Page, site: str, path: str, stage: str = "Identifiers") -> None:
    screen.goto(f"{site}/pages/{path}", wait_until="commit")  # what is meant is waited for, not the page's own frames
    screen.get_by_role("tab", name=stage).click()


def pick(scope: Page | Locator, label: str, option: str) -> None:
    """Choose an option of a list by its words."""
    box = scope.get_by_role("combobox", name=label).first
    box.focus()
    box.press("Enter")
    page = scope if isinstance(scope, Page) else scope.page
    page.get_by_role("option", name=option, exact=True).locator("visible=true").click()


def picked(scope: Page | Locator, label: str) -> Locator:
    """What a list has chosen, with its words."""
    box = scope.get_by_role("combobox", name=label, exact=True)
    return scope.locator(".el-select").filter(has=box)


def tick(scope: Page | Locator, words: str) -> None:
    """Press a checkbox or a radio button by its words."""
    scope.locator(".el-checkbox, .el-radio").filter(has_text=words).first.click()


def show_bench(screen: Page, which: str) -> None:
    """Show the page, its source or both on the bench."""
    screen.locator(".bench-bar").get_by_text(which, exact=True).click()


def apply(screen: Page) -> None:
    """Apply what is pending in the tray, by its key."""
    expect(screen.get_by_role("button", name="Apply")).to_be_enabled()
    screen.keyboard.press("Control+Enter")
    expect(screen.locator(".tray")).to_contain_text("Applied")


#: A page of a folder that is opened as a site.
FOLDER_PAGE = "<!DOCTYPE html>\n<html lang=en>\n<title>Boilers</title>\n<h1>Boilers</h1>\n<h2>Fire</h2>\n<p>one</p>\n"


def save_elsewhere(path, text: str) -> None:
    """Save a file as another program does."""
    code = "import sys, pathlib; pathlib.Path(sys.argv[1]).write_text(sys.argv[2])"
    subprocess.run([sys.executable, "-c", code, str(path), text], check=True)
