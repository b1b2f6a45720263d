"""How smooth a page of a thousand sections is on its desk: frames while it is used, beside those of an idle screen.

It needs Chromium, the front end as it is built, and a database of its own in DATABASE_URL.
"""

from __future__ import annotations

import os
import socket
import sys
import threading
import time
from collections.abc import Callable
from statistics import median

import httpx2
import uvicorn
from bench import compose
from playwright.sync_api import Page, sync_playwright
from sqlalchemy.engine import make_url

from signpost.store.database import Database
from signpost.web.app import create_app

SECTIONS = 1000
PRESSES = 40
PATIENCE_MS = 120_000
WATCH = """() => {
  window.frames_ = []; let last = performance.now();
  const tick = (now) => {
    window.frames_.push(now - last); last = now; window.watching_ = requestAnimationFrame(tick);
  };
  window.watching_ = requestAnimationFrame(tick);
}"""
END = "() => { cancelAnimationFrame(window.watching_); return window.frames_.slice(1); }"


def serve(database: Database) -> str:
    """Serve the application on a port of its own, until this process ends; return its address."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    server = uvicorn.Server(uvicorn.Config(create_app(database), host="127.0.0.1", port=port, log_level="warning"))
    threading.Thread(target=server.run, daemon=True).start()
    while not server.started:
        time.sleep(0.05)
    return f"http://127.0.0.1:{port}"


def bring(address: str) -> str:
    """Bring in a site of one long page; return the address of the page's desk."""
    with httpx2.Client(base_url=address, timeout=60) as client:
        site = client.post("/api/sites", json={"name": "Bench"}).json()["site_id"]
        files = [("files", ("long.html", compose(SECTIONS, 2 * SECTIONS)))]
        client.post(f"/api/sites/{site}/files", files=files).raise_for_status()
    return f"{address}/sites/{site}/pages/long.html"


def watch(page: Page, work: Callable[[], object]) -> tuple[float, float]:
    """Return the frames of a screen while something is done: their median and the 95th of a hundred, in ms."""
    page.evaluate(WATCH)
    work()
    frames = sorted(page.evaluate(END))
    return median(frames), frames[int(len(frames) * 0.95)]


def drag(page: Page) -> None:
    """Drag the window down the road."""
    edge = page.locator(".fold .edge").bounding_box()
    if edge is None:
        raise RuntimeError("the road shows no window")
    x, y = edge["x"] + 6, edge["y"] + 3
    page.mouse.move(x, y)
    page.mouse.down()
    for step in range(60):
        page.mouse.move(x, y + step * 6)
    page.mouse.up()


def press(page: Page, key: str) -> None:
    """Press a key again and again."""
    for _ in range(PRESSES):
        page.keyboard.press(key)


def scroll(page: Page, selector: str) -> None:
    """Turn the wheel over a pane."""
    page.locator(selector).first.hover()
    for _ in range(PRESSES):
        page.mouse.wheel(0, 90)


def main() -> int:
    """Print how long frames are, and as ratios to an idle screen's."""
    url = make_url(os.environ["DATABASE_URL"]).set(drivername="postgresql+psycopg")
    database = Database(url.render_as_string(hide_password=False))
    database.migrate()
    address = bring(serve(database))
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox"])
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.add_init_script("try { localStorage.setItem('signpost-first-steps', 'true') } catch {}")
        page.set_default_timeout(PATIENCE_MS)
        begin = time.perf_counter()
        page.goto(address)
        page.locator("tbody tr").first.wait_for()
        shown = time.perf_counter() - begin
        page.locator(".facts:has-text(', measured')").wait_for()
        measured = time.perf_counter() - begin
        page.wait_for_timeout(8000)  # the other windows are measured meanwhile
        idle, idle_worst = watch(page, lambda: page.wait_for_timeout(1500))
        print(f"a page of {SECTIONS} sections and {2 * SECTIONS} links on its desk")
        print(f"  shown after {shown:.1f} s, measured after {measured:.1f} s")
        print(f"  {'':26}median frame    ratio   95 of 100")
        print(f"  {'idle':26}{idle:9.1f} ms     1.00{idle_worst:9.1f} ms")
        page.locator(".stretches").focus()
        works: list[tuple[str, Callable[[], object]]] = [
            ("window dragged", lambda: drag(page)),
            ("road scrolled", lambda: scroll(page, ".road")),
            ("ledger scrolled", lambda: scroll(page, "[data-pane='ledger'] tbody")),
            ("sections selected", lambda: press(page, "j")),
            ("links walked", lambda: press(page, "n")),
        ]
        for name, work in works:
            found, worst = watch(page, work)
            print(f"  {name:26}{found:9.1f} ms{found / idle:9.2f}{worst:9.1f} ms   wanted: ratio at most 1.1")
        browser.close()
    return 0


if __name__ == "__main__":
    sys.exit(main())
