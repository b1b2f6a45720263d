"""Chromium as Debian ships it, on the built front end and a real PostgreSQL."""

from __future__ import annotations

import os
from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect, sync_playwright

#: How long a screen may take to become what it should, in milliseconds; machines differ, and no test is timed.
PATIENCE_MS = int(os.environ.get("SIGNPOST_PATIENCE_MS", "20000"))
expect.set_options(timeout=PATIENCE_MS)

ARGUMENTS = [
    "--no-sandbox",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-quic",
    "--no-first-run",
]


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=ARGUMENTS)
        yield browser
        browser.close()


@pytest.fixture
def context(browser: Browser, served: str) -> Iterator[BrowserContext]:
    context = browser.new_context(viewport={"width": 1280, "height": 800}, accept_downloads=True)
    context.grant_permissions(["clipboard-read", "clipboard-write"], origin=served)
    context.set_default_timeout(PATIENCE_MS)
    context.add_init_script("try { localStorage.setItem('signpost-first-steps', 'true') } catch {}")  # no frame may
    yield context
    context.close()


@pytest.fixture
def screen(context: BrowserContext) -> Iterator[Page]:
    """A page; whatever it complains of on its console fails the test."""
    page = context.new_page()
    complaints: list[str] = []
    page.on("pageerror", lambda error: complaints.append(str(error)))
    page.on("console", lambda message: complaints.append(message.text) if message.type == "error" else None)
    yield page
    expected = (
        "Failed to load resource",
        "net::ERR_",
        "Blocked script execution",
        "Content Security Policy",
        "frame is sandboxed",
        "Unsafe attempt to load URL",
        "Blocked autofocusing",
    )
    assert [words for words in complaints if not any(part in words for part in expected)] == []
