"""Published pages as they land in Chromium, with the pages' own scripts and without them."""

from __future__ import annotations

import json
import time
from collections.abc import Callable, Collection, Mapping
from dataclasses import dataclass, replace
from pathlib import Path
from urllib.parse import urlsplit

from signpost.browser.chromium import alone_options
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
_STILL = 3  # looks at which the window has not moved, after which it rests


@dataclass(frozen=True, slots=True)
class LiveLanding:
    """Where a reader's window stands after a jump."""

    state: str  # "lands", "missing", "hidden", "away" or "covered"
    top: int = 0  # of the target, from the window's top, in CSS pixels
    by: str = ""  # what covers it
    by_script: bool = False  # whether it lands where the page's scripts are off


def measure_live(
    program: str,
    base: str,
    jumps: Mapping[str, Collection[str]],
    window: Window,
    tell: Callable[[int, int], None],
) -> dict[tuple[str, str], LiveLanding]:
    """Return how the fragments of published pages land, by the page's address below `base` and the fragment.

    Nothing is asked for from other hosts than that of `base`. Pages that do not come are left out. Raises
    DevtoolsError where Chromium does not run.
    """
    host = urlsplit(base).hostname or ""
    options = [
        *alone_options(),
        "--proxy-server=127.0.0.1:9",  # so that nothing but that host is reached
        f"--proxy-bypass-list={host}",
        f"--window-size={window.width},{window.height}",
    ]
    found: dict[tuple[str, str], LiveLanding] = {}
    with open_tab(program, options) as tab:
        tab.ask(
            "Emulation.setDeviceMetricsOverride",
            width=window.width,
            height=window.height,
            deviceScaleFactor=1,
            mobile=False,
        )
        for done, (path, fragments) in enumerate(sorted(jumps.items()), start=1):
            tell(done, len(jumps))
            try:
                said = _follow_all(tab, base + path, fragments)
            except DevtoolsError:
                continue
            found |= {(path, fragment): landing for fragment, landing in said.items()}
    return found


def _follow_all(tab: Tab, address: str, fragments: Collection[str]) -> dict[str, LiveLanding]:
    """Return how fragments land on a page.

    One that does not is followed again on the page newly loaded, since another jump may have changed it; and once
    more with the page's scripts off.
    """
    found = _follow(tab, address, fragments, scripts=True)
    for fragment in [one for one, landing in found.items() if landing.state != "lands"]:
        again = _follow(tab, address, [fragment], scripts=True)[fragment]
        if again.state != "lands":
            plain = _follow(tab, address, [fragment], scripts=False)[fragment]
            again = replace(again, by_script=plain.state == "lands")
        found[fragment] = again
    return found


def _follow(tab: Tab, address: str, fragments: Collection[str], *, scripts: bool) -> dict[str, LiveLanding]:
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
    return found


def _come_to_rest(tab: Tab) -> None:
    """Return once the window does not move any more, or has moved for too long."""
    until, last, still = time.monotonic() + _REST, None, 0
    while still < _STILL and time.monotonic() < until:
        time.sleep(_GLANCE)
        at = tab.evaluate("window.scrollY")
        still = still + 1 if at == last else 0
        last = at
