"""Chromium as Debian ships it, on the built front end and a real PostgreSQL."""

from __future__ import annotations

import os
from collections.abc import Generator, Iterator
from pathlib import Path

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
    context.add_init_script("try { localStorage.setItem('signpost-first-steps', 'true') } catch {}")  # no frame may
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
