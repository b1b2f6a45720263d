"""More than one at work: two windows at one site, a server that goes away, one that asks for its key."""

import socket
import threading
import time

import pytest
import uvicorn
from playwright.sync_api import expect

from screens import apply, bring, open_page, show_bench
from signpost.web.app import create_app

pytestmark = pytest.mark.browser

PAGE = b"<!DOCTYPE html><title>T</title><body><h1>T</h1><h2>Alpha</h2><p>a</p><h2>Beta</h2><p>b</p>"


def test_what_another_author_does_appears_and_what_is_typed_stays(screen, context, served):
    site = bring(served, {"p.html": PAGE})
    screen.goto(f"{site}/pages/p.html")
    show_bench(screen, "Source")
    source = screen.locator(".cm-content")
    source.click()
    screen.keyboard.press("Control+End")
    screen.keyboard.type("<p>typed here</p>")
    other = context.new_page()
    other.add_init_script("localStorage.setItem('signpost-author', 'Mara')")
    open_page(other, site, "p.html")
    other.get_by_role("button", name="Give identifiers").click()
    apply(other)
    screen.bring_to_front()
    expect(screen.locator(".el-message")).to_contain_text("Mara made a change: Identifiers for")
    expect(source).to_contain_text("typed here")
    other.close()


def test_a_change_whose_answer_never_came_is_found_out_about(screen, served):
    site = bring(served, {"p.html": PAGE})
    open_page(screen, site, "p.html")
    screen.get_by_role("button", name="Give identifiers").click()
    expect(screen.get_by_role("button", name="Apply")).to_be_enabled()

    def lose_the_answer(route):
        if route.request.method == "POST":
            route.fetch()
            route.abort()
        else:
            route.fallback()

    screen.route("**/changes", lose_the_answer)
    screen.keyboard.press("Control+Enter")
    expect(screen.locator(".tray")).to_contain_text("Applied")
    screen.unroute("**/changes")


def test_a_change_that_was_lost_is_said_to_be(screen, served):
    site = bring(served, {"p.html": PAGE})
    open_page(screen, site, "p.html")
    screen.get_by_role("button", name="Give identifiers").click()
    expect(screen.get_by_role("button", name="Apply")).to_be_enabled()
    screen.route("**/changes", lambda route: route.abort() if route.request.method == "POST" else route.fallback())
    screen.keyboard.press("Control+Enter")
    expect(screen.locator(".tray")).to_contain_text("before anything was written")
    screen.unroute("**/changes")
    apply(screen)


def test_a_file_is_removed_and_read_in_another_encoding(screen, served):
    site = bring(served, {"p.html": PAGE, "pl.html": "<h1>\u0141\u0105ka</h1>".encode("iso-8859-2")})
    screen.goto(f"{site}")
    screen.get_by_role("button", name="More about pl.html").click()
    screen.get_by_role("menuitem", name="Read in another encoding").click()
    screen.get_by_role("combobox", name="Encoding").fill("iso-8859-2")
    screen.get_by_role("option", name="iso-8859-2").click()
    screen.get_by_role("button", name="Use this encoding").click()
    expect(screen.locator(".el-message")).to_contain_text("is read as iso-8859-2")
    screen.get_by_role("button", name="More about p.html").click()
    screen.get_by_role("menuitem", name="Delete").click()
    screen.get_by_role("button", name="Show the edits").click()
    apply(screen)
    expect(screen.get_by_role("link", name="p.html", exact=True)).to_have_count(0)


def test_one_signs_in_with_the_key(screen, database):
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    app = create_app(database, key="the volunteers' long key")
    server = uvicorn.Server(uvicorn.Config(app, host="127.0.0.1", port=port, log_level="warning"))
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started:
        time.sleep(0.05)
    address = f"http://127.0.0.1:{port}"
    screen.goto(f"{address}/")
    screen.get_by_label("Key").fill("a guess")
    screen.get_by_role("button", name="Sign in").click()
    expect(screen.get_by_role("alert")).to_have_text("That is not the key.")
    screen.get_by_label("Key").fill("the volunteers' long key")
    screen.get_by_role("button", name="Sign in").click()
    expect(screen.get_by_role("heading", name="Bring in a site")).to_be_visible()
    site = screen.evaluate(
        "async () => (await (await fetch('/api/sites', {method: 'POST', body: '{\"name\": \"K\"}', headers: {'content-type': 'application/json'}})).json()).site_id"
    )
    screen.evaluate(
        "async ([site, text]) => { const form = new FormData(); form.append('files', new File([text], 'p.html')); await fetch(`/api/sites/${site}/files`, {method: 'POST', body: form}) }",
        [site, PAGE.decode()],
    )
    screen.goto(f"{address}/sites/{site}/pages/p.html")
    expect(screen.locator(".facts")).to_contain_text("measured")
    screen.get_by_role("button", name="Sign out").click()
    expect(screen.get_by_label("Key")).to_be_focused()
    screen.goto(f"{address}/sites/{site}/pages/p.html")
    expect(screen.get_by_label("Key")).to_be_visible()
    server.should_exit = True
    thread.join(10)
