"""What the browser tests do again and again."""

from __future__ import annotations

import httpx2
from playwright.sync_api import Page, expect

from sites import demo_site, new_site


def bring_demo(served: str) -> str:
    """Bring in the demo site anew; return the address of its desk."""
    with httpx2.Client(base_url=served) as client:
        return served + demo_site(client).removeprefix("/api")


def bring(served: str, files: dict[str, bytes]) -> str:
    with httpx2.Client(base_url=served, timeout=60) as client:
        return served + new_site(client, files).removeprefix("/api")


def open_page(screen: Page, site: str, path: str, stage: str = "Identifiers") -> None:
    screen.goto(f"{site}/pages/{path}")
    screen.get_by_role("tab", name=stage).click()


def apply(screen: Page) -> None:
    """Apply what waits in the tray, by its key."""
    expect(screen.get_by_role("button", name="Apply")).to_be_enabled()
    screen.keyboard.press("Control+Enter")
    expect(screen.locator(".tray")).to_contain_text("Applied")
