"""Writes src/signpost/core/findings/properties.py: the names of style properties, as Chromium knows them and more.

.venv/bin/python scripts/list_properties.py
"""

from __future__ import annotations

import textwrap
from pathlib import Path

from playwright.sync_api import sync_playwright

FILE = Path(__file__).resolve().parents[1] / "src" / "signpost" / "core" / "findings" / "properties.py"
#: Of CSS 2 and of modules that Chromium does not have, and of other browsers of old.
_MORE = """
azimuth cue cue-after cue-before elevation pause pause-after pause-before pitch pitch-range play-during richness speak
speak-header speak-numeral speak-punctuation speech-rate stress voice-family volume rest rest-after rest-before
voice-balance voice-duration voice-pitch voice-range voice-rate voice-stress voice-volume speak-as
marks bleed font-size-adjust hanging-punctuation text-group-align block-step line-snap initial-letter-wrap
bookmark-label bookmark-level bookmark-state footnote-display footnote-policy running string-set
behavior ime-mode layout-flow layout-grid scrollbar-face-color scrollbar-shadow-color scrollbar-highlight-color
scrollbar-3dlight-color scrollbar-darkshadow-color scrollbar-track-color scrollbar-arrow-color scrollbar-base-color
text-autospace text-kashida-space writing-mode word-wrap zoom filter accelerator float clip page size
nav-up nav-down nav-left nav-right text-decoration-blink box-flex font-effect font-emphasize column-width
""".split()
_READ = """() => {
  const names = new Set()
  for (const name in document.body.style) {
    if (typeof document.body.style[name] === 'string' && !/^(webkit|moz|cssText|cssFloat)/i.test(name))
      names.add(name.replace(/[A-Z]/g, one => '-' + one.toLowerCase()))
  }
  for (const name of getComputedStyle(document.body)) if (!name.startsWith('-')) names.add(name)
  return [...names]
}"""


def main() -> None:
    """Write the list."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium")
        names = sorted({*browser.new_page().evaluate(_READ), *_MORE})
        browser.close()
    lines = textwrap.wrap(" ".join(names), 114, break_on_hyphens=False)
    body = "\n".join(f"    {line}" for line in lines)
    FILE.write_text(
        '"""The names of style properties; written by scripts/list_properties.py."""\n\n'
        f'PROPERTIES = frozenset(\n    """\n{body}\n    """.split()\n)\n'
    )


if __name__ == "__main__":
    main()
