"""Where jumps of published pages land in Chromium, with the pages' own scripts."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterator, Mapping
from urllib.parse import quote

from signpost.browser.chromium import find_chromium
from signpost.browser.devtools import DevtoolsError
from signpost.browser.live import LiveLanding, measure_live
from signpost.core.landings.geometry import Window
from signpost.hosting.walking import LiveFinding, LiveJump

#: What became of a jump that does not land, in words that follow the link's.
_WORDS = {
    "missing": "the place is not there once the page is loaded",
    "hidden": "the place is hidden once the page is loaded",
    "away": "the window does not stop there",
    "covered": "{by} covers it",
}


def find_bad_landings(
    base: str,
    jumps: Mapping[tuple[str, str], LiveJump],
    window: Window,
    tell: Callable[[int, int], None],
) -> tuple[int, list[LiveFinding]] | None:
    """Return how many jumps were followed, and those that do not land; None where Chromium does not run here."""
    program = find_chromium()
    if program is None:
        return None
    asked: dict[str, list[str]] = defaultdict(list)
    for path, fragment in jumps:
        asked[quote(path)].append(fragment)
    try:
        found = measure_live(program, base.rstrip("/") + "/", asked, window, tell)
    except DevtoolsError:
        return None
    return len(found), list(_bad(jumps, found))


def _bad(
    jumps: Mapping[tuple[str, str], LiveJump], found: Mapping[tuple[str, str], LiveLanding]
) -> Iterator[LiveFinding]:
    for (path, fragment), jump in jumps.items():
        landing = found.get((quote(path), fragment))
        if landing is None or landing.state == "lands":
            continue
        why = "; with the page's scripts off it lands, so a script does that" if landing.by_script else ""
        what = _WORDS[landing.state].format(by=landing.by)
        goal = f"#{fragment}" if path == jump.path else f"{path}#{fragment}"
        yield LiveFinding(jump.path, jump.line, f"“{jump.words}” leads to {goal}, but {what}{why}.")
