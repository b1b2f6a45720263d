"""Puts one mistake after another into the fetched pages of others, and counts what comes of the fixes.

    .venv/bin/python scripts/try_repairs.py [HALF [PAGES]]

`scripts/fetch_pages` fetches them. They are in two halves by their names, 0 and 1: rules are chosen on one, and
counted on the other. Prints a table; what changes nothing in a browser is left out of it.
"""

from __future__ import annotations

import hashlib
import random
import sys
from collections import Counter
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT / "tests"))

from repairs import KINDS, findings_of, repair  # noqa: E402 - it is beside the tests

_SIZES = range(1500, 40_000)


def pages_of(half: int) -> list[str]:
    """Return the texts of one half's pages in which no tag is wrong, in an order that is always the same."""
    found = []
    for file in sorted((ROOT / "var" / "pages").glob("**/*.htm*")):
        name = file.relative_to(ROOT).as_posix()
        if hashlib.sha256(name.encode()).digest()[0] % 2 != half or not file.is_file():
            continue
        try:
            found.append(file.read_bytes().decode())
        except UnicodeDecodeError:
            continue
    random.Random(5).shuffle(found)  # noqa: S311 - nobody is to be kept from guessing
    return [text for text in found if len(text) in _SIZES and "\r" not in text]


def main(half: int, most: int) -> None:
    """Print the table."""
    texts = []
    for text in pages_of(half):
        if not findings_of(text):
            texts.append(text)
        if len(texts) == most:
            break
    print(f"{len(texts)} pages of half {half}\n")
    print("| mistake | tried | found | restored | first choice | told | worse |")
    print("|---|---|---|---|---|---|---|")
    for kind, mistake in KINDS.items():
        counts: Counter[str] = Counter()
        for number, text in enumerate(texts):
            counts.update(repair(text, mistake, random.Random(number), Counter()))  # noqa: S311
        changed = counts["tried"] - counts["same"]
        choices = counts["first choice"] + counts["other choice"]
        first = f"{counts['first choice']} of {choices}"
        row = (kind, changed, counts["found"], counts["restored"], first, counts["told"], counts["WORSE"])
        print(f"| {' | '.join(map(str, row))} |", flush=True)


if __name__ == "__main__":
    main(int(sys.argv[1]) if sys.argv[1:] else 1, int(sys.argv[2]) if sys.argv[2:] else 60)
