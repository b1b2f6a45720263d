"""Published pages as they land in Chromium, with the pages' own scripts and without them."""

from __future__ import annotations

import json
import queue
import threading
import time
from collections.abc import Callable, Collection, Iterator, Mapping
from contextlib import ExitStack
from dataclasses import dataclass, replace
from functools import partial
from pathlib import Path
from urllib.parse import urlsplit

from signpost.browser.chromium import reaching
from signpost.browser.devtools import DevtoolsError, Tab, open_tab
from signpost.core.landings.geometry import Window

_LOOK = (Path(__file__).parent / "live.js").read_text("utf-8").split("\n", 2)[2].rstrip().rstrip(";")
_BACK = """(() => {
  window.scrollTo({ top: 0, behavior: "instant" });
  history.replaceState(null, "", location.pathname + location.search);
})()"""
#: In seconds: how long scripts may take to settle once a page is loaded, a jump to come to rest, between two looks at
#: that, and before a jump.
_SETTLE, _REST, _GLANCE, _STAND = 0.3, 1.5, 0.05, 0.15
#: How many pages are looked at at once: most of the time is waiting.
_WIDTH = 3
_STILL = 3  # looks at which the window has not moved, after which it rests


@dataclass(frozen=True, slots=True)
class LiveLanding:
    """Where a reader's window stands after a jump."""

    state: str  # "lands", "missing", "hidden", "away" or "covered"
    top: int = 0  # of the target, from the window's top, in CSS pixels
    by: str = ""  # what covers it
    by_script: bool = False  # whether it lands where the page's scripts are off


def measure_live(
    program: str, base: str, jumps: Mapping[str, Collection[str]], window: Window, stack: ExitStack
) -> Iterator[tuple[str, dict[str, LiveLanding] | None]]:
    """Return how the fragments of published pages land: a page's address below `base`, and its landings by fragment.

    Several pages are looked at at once; for each jump that was followed meanwhile comes an address without landings.
    Nothing is asked for but at the origin of `base`. Pages that do not come have no landings. Chromium ends
    with the stack. Raises DevtoolsError where it does not run.
    """
    options = [*stack.enter_context(reaching(_origins(base))), f"--window-size={window.width},{window.height}"]
    tabs = [stack.enter_context(open_tab(program, options)) for _ in range(min(_WIDTH, len(jumps)))]
    for tab in tabs:
        tab.ask(
            "Emulation.setDeviceMetricsOverride",
            width=window.width,
            height=window.height,
            deviceScaleFactor=1,
            mobile=False,
        )
    return _followed(base, jumps, tabs)


def _origins(base: str) -> list[str]:
    """Return the origin of an address, and its `https` where the host may lead there."""
    parts = urlsplit(base)
    port = parts.port or {"http": 80, "https": 443}[parts.scheme]
    host = f"[{parts.hostname}]" if ":" in (parts.hostname or "") else parts.hostname
    both = [("http", 80), ("https", 443)] if (parts.scheme, port) == ("http", 80) else [(parts.scheme, port)]
    return [f"{scheme}://{host}:{number}" for scheme, number in both]


def _followed(
    base: str, jumps: Mapping[str, Collection[str]], tabs: Collection[Tab]
) -> Iterator[tuple[str, dict[str, LiveLanding] | None]]:
    waiting: queue.SimpleQueue[str] = queue.SimpleQueue()
    for path in sorted(jumps):
        waiting.put(path)
    came: queue.SimpleQueue[tuple[str, dict[str, LiveLanding] | None] | None] = queue.SimpleQueue()

    def work(tab: Tab) -> None:
        try:
            while True:
                path = waiting.get_nowait()
                try:
                    found = _follow_all(tab, base + path, jumps[path], partial(came.put, (path, None)))
                except DevtoolsError:
                    found = {}
                came.put((path, found))
        except queue.Empty:
            pass
        finally:
            came.put(None)

    for tab in tabs:
        threading.Thread(target=work, args=(tab,), daemon=True).start()
    left = len(tabs)
    while left:
        one = came.get()
        if one is None:
            left -= 1
        else:
            yield one


def _follow_all(
    tab: Tab, address: str, fragments: Collection[str], tell: Callable[[], None]
) -> dict[str, LiveLanding]:
    """Return how fragments land on a page; `tell` is called for each.

    One that does not is followed again on the page newly loaded, since another jump may have changed it; and once
    more with the page's scripts off.
    """
    found = _follow(tab, address, fragments, tell, scripts=True)
    for fragment in [one for one, landing in found.items() if landing.state != "lands"]:
        again = _follow(tab, address, [fragment], _nothing, scripts=True)[fragment]
        if again.state != "lands":
            plain = _follow(tab, address, [fragment], _nothing, scripts=False)[fragment]
            again = replace(again, by_script=plain.state == "lands")
        found[fragment] = again
    return found


def _nothing() -> None:
    """Tell nobody."""


def _follow(
    tab: Tab, address: str, fragments: Collection[str], tell: Callable[[], None], *, scripts: bool
) -> dict[str, LiveLanding]:
    tab.ask("Emulation.setScriptExecutionDisabled", value=not scripts)
    tab.open(address)
    time.sleep(_SETTLE)
    found = {}
    for fragment in sorted(fragments):
        tab.evaluate(_BACK)
        time.sleep(_STAND)  # so that the page stands still, as it does when a reader follows a link
        tab.evaluate(f"void (location.hash = {json.dumps('#' + fragment)})")
        _come_to_rest(tab)
        said = tab.evaluate(f"({_LOOK})({json.dumps(fragment)})")
        found[fragment] = LiveLanding(said["state"], said.get("top", 0), said.get("by", ""))
        tell()
    return found


def _come_to_rest(tab: Tab) -> None:
    """Return once the window does not move any more, or has moved for too long."""
    until, last, still = time.monotonic() + _REST, None, 0
    while still < _STILL and time.monotonic() < until:
        time.sleep(_GLANCE)
        at = tab.evaluate("window.scrollY")
        still = still + 1 if at == last else 0
        last = at
