"""Where jumps of published pages land in Chromium, with the pages' own scripts."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping
from contextlib import ExitStack
from urllib.parse import quote, unquote

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


#: What comes of following jumps: a page's path, and its landings by fragment; None for one jump more.
Came = tuple[str, Mapping[str, LiveLanding] | None]


def follow_jumps(
    base: str, wanted: Mapping[str, Collection[str]], window: Window, stack: ExitStack
) -> Iterator[Came] | None:
    """Return what comes of following the jumps to pages, by path; None where Chromium does not run here.

    Chromium ends with the stack.
    """
    program = find_chromium()
    if program is None:
        return None
    asked = {quote(path): fragments for path, fragments in wanted.items()}
    try:
        came = measure_live(program, base.rstrip("/") + "/", asked, window, stack)
    except DevtoolsError:
        return None
    return ((unquote(path), landings) for path, landings in came)


def find_bad_landings(
    jumps: Mapping[tuple[str, str], LiveJump], found: Mapping[tuple[str, str], LiveLanding]
) -> Iterator[LiveFinding]:
    """Yield the jumps that do not land, of those that were followed."""
    for (path, fragment), jump in jumps.items():
        landing = found.get((path, fragment))
        if landing is None or landing.state == "lands":
            continue
        why = "; with the page's scripts off it lands, so a script does that" if landing.by_script else ""
        what = _WORDS[landing.state].format(by=landing.by)
        goal = f"#{fragment}" if path == jump.path else f"{path}#{fragment}"
        yield LiveFinding(jump.path, jump.line, f"“{jump.words}” leads to {goal}, but {what}{why}.")
