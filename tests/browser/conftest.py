"""Chromium as Debian ships it, on the built front end and a real PostgreSQL."""

from __future__ import annotations

import json
import os
import socket
import threading
import time
from collections.abc import Generator, Iterator
from pathlib import Path

import pytest
import uvicorn
from playwright.sync_api import Browser, BrowserContext, Page, expect, sync_playwright

from screens import FOLDER_PAGE
from signpost.core.operations import OPERATIONS
from signpost.web.app import create_app

#: How long a screen may take to become what it should, in milliseconds; machines differ, and no test is timed.
PATIENCE_MS = int(os.environ.get("SIGNPOST_PATIENCE_MS", "120000"))
expect.set_options(timeout=PATIENCE_MS)

ARGUMENTS = [
    "--no-sandbox",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-quic",
    "--no-first-run",
]


#: What `./test` runs in the browser: the whole job by keyboard, and one test for each screen. The others are long.
QUICK = frozenset(
    """
    test_the_whole_job_by_keyboard test_a_section_chosen_anywhere_is_chosen_everywhere
    test_an_identifier_is_judged_while_it_is_typed test_a_selection_in_the_source_becomes_a_link
    test_links_are_followed_one_by_one_and_back test_cuts_are_proposed_moved_titled_kept_and_made
    test_findings_are_fixed_one_by_one_by_a_choice_and_all_of_a_rule test_words_lead_to_another_site
    test_a_page_is_deleted_and_its_links_lead_elsewhere test_the_table_has_what_the_picture_has_and_opens_each_link
    test_a_menu_is_put_in_order_on_all_pages_with_the_keyboard test_a_folder_is_opened_and_both_sides_follow
    test_a_site_is_published_checked_and_taken_back test_a_hostile_page_runs_nothing_and_reaches_nobody
    test_what_another_author_does_appears_and_what_is_typed_stays test_the_command_measures
    test_what_came_from_outside_stays_when_what_was_typed_before_it_is_saved
    test_lines_that_both_edited_are_decided_place_by_place test_esc_closes_what_is_open_and_nothing_else
    """.split()
)


@pytest.hookimpl(tryfirst=True)  # before those that were not asked for are left out
def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    for item in items:
        if item.path.parent == Path(__file__).parent and item.originalname not in QUICK:  # type: ignore[attr-defined]
            item.add_marker("long")


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
    known = {"signpost-first-steps": "true", "signpost-kinds-read": json.dumps(sorted(OPERATIONS))}
    said = "".join(f"localStorage.setItem({json.dumps(name)}, {json.dumps(value)});" for name, value in known.items())
    # an author who has read edits of each kind before; no frame may keep anything
    context.add_init_script(f"try {{ if (!localStorage.getItem('signpost-first-steps')) {{ {said} }} }} catch {{}}")
    yield context
    context.close()


FAILED = pytest.StashKey[bool]()


@pytest.hookimpl(wrapper=True)
def pytest_runtest_makereport(item: pytest.Item) -> Generator[None, pytest.TestReport, pytest.TestReport]:
    report = yield
    if report.when == "call":
        item.stash[FAILED] = report.failed
    return report


@pytest.fixture
def screen(context: BrowserContext, request: pytest.FixtureRequest) -> Iterator[Page]:
    """A page; whatever it complains of on its console fails the test, and where that fails, it says what it showed."""
    page = context.new_page()
    complaints: list[str] = []
    page.on("pageerror", lambda error: complaints.append(str(error)))
    page.on("console", lambda message: complaints.append(message.text) if message.type == "error" else None)
    yield page
    if request.node.stash.get(FAILED, False):
        print(page.url, *complaints, page.inner_text("body")[:2000], sep="\n")  # noqa: T201 - for whoever reads why
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


@pytest.fixture
def folder(tmp_path):
    root = tmp_path / "line"
    root.mkdir()
    (root / "a.html").write_text(FOLDER_PAGE)
    return root


def free_port() -> int:
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        return free.getsockname()[1]


@pytest.fixture
def beside(database, tmp_path, monkeypatch):
    """The application, which may open folders; returns its address."""
    port, other = free_port(), free_port()
    monkeypatch.setenv("SIGNPOST_SECRETS", str(tmp_path / "secrets.json"))
    app = create_app(database, folders=(str(tmp_path),), host=(str(tmp_path / "host"), other))
    server = uvicorn.Server(uvicorn.Config(app, host="127.0.0.1", port=port, log_level="warning"))
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started:
        time.sleep(0.05)
    yield f"http://127.0.0.1:{port}"
    server.should_exit = True
    thread.join(10)
