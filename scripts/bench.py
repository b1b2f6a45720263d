"""How fast pages are read, as ratios to a bare lxml parse of the same bytes in the same run.

Full analysis means: decode, parse, sections, targets, links, words, outline, all findings.
"""

from __future__ import annotations

import gc
import random
import sys
import time
from collections.abc import Callable
from dataclasses import replace
from statistics import median

from lxml import html

from signpost.core.findings import check_page, check_site
from signpost.core.page import Page, read_page
from signpost.core.page.outline import read_outline
from signpost.core.site.site import Site, single_page_site
from signpost.core.text.source import read_source

WORDS = "engine boiler line valley station volunteer signal point morning water fire rail sleeper guard token".split()
ROUNDS = 15
FEW = 3  # rounds of what takes long


def compose(sections: int, links: int, seed: int = 1) -> bytes:
    """Return a page of about 2 KB a section, its links spread over its paragraphs."""
    dice = random.Random(seed)  # noqa: S311 - the same page in every run is wanted

    def words(count: int) -> str:
        return " ".join(dice.choice(WORDS) for _ in range(count))

    each = links // sections
    pieces = [
        "<!DOCTYPE html>\n<html lang='en'>\n<head>\n<meta charset='utf-8'>\n<title>Bench</title>\n</head>\n<body>\n"
        "<header><nav><a href='#s0'>start</a></nav></header>\n<main>\n<h1>Bench</h1>\n"
    ]
    for number in range(sections):
        level = 2 + number % 3
        pieces.append(f'<h{level} id="s{number}">Section {number}: {words(4)}</h{level}>\n')
        for _ in range(each):
            target = dice.randrange(sections)
            pieces.append(
                f'<p>{words(38)} <a href="#s{target}">{words(2)}</a> {words(22)} <em>{words(2)}</em>.</p>\n'
            )
    pieces.append("</main>\n<footer><p>end</p></footer>\n</body>\n</html>\n")
    return "".join(pieces).encode()


def analyse(data: bytes) -> None:
    """Do the full analysis of one page."""
    page = read_page("bench.html", read_source(data))
    read_outline(page)
    check_page(single_page_site(page), page.path)


def analyse_site(pages: dict[str, bytes]) -> None:
    """Do the full analysis of a site."""
    read = {path: read_page(path, read_source(data)) for path, data in pages.items()}
    for page in read.values():
        read_outline(page)
    check_site(Site(read, frozenset(read)))


def _fresh(pages: dict[str, Page]) -> Site:
    """Return a site of pages of which nothing is remembered."""
    copies = {path: replace(page) for path, page in pages.items()}
    return Site(copies, frozenset(copies))


def check_again(pages: dict[str, Page]) -> None:
    """Check a site whose pages were checked before, as after a change of one of them."""
    check_site(Site(pages, frozenset(pages)))


def compare(
    ours: Callable[[], object], theirs: Callable[[], object], most: int = ROUNDS
) -> tuple[float, float, float]:
    """Return the ratio of two works and their times in seconds: medians over rounds in which both take turns."""
    rounds = []
    for _ in range(most):
        times = []
        for work in (theirs, ours):
            gc.collect()
            start = time.perf_counter()
            work()
            times.append(time.perf_counter() - start)
        rounds.append(times)
    ratio = median(mine / bare for bare, mine in rounds)
    return ratio, median(mine for _, mine in rounds), median(bare for bare, _ in rounds)


def main() -> int:
    """Print the ratios."""
    one = compose(500, 2500)
    four = compose(2000, 10_000)
    ten = {f"{number}.html": compose(500, 2500, number) for number in range(10)}
    ratio, ours, bare = compare(lambda: analyse(one), lambda: html.document_fromstring(one))
    print(f"one page of {len(one) / 1e6:.2f} MB, 500 sections, 2500 links")
    print(f"  bare lxml parse           1.00  ({bare * 1000:.1f} ms)")
    print(f"  full analysis             {ratio:.2f}  ({ours * 1000:.1f} ms)   wanted: at most 5")
    ratio, ours, bare = compare(
        lambda: analyse_site(ten), lambda: [html.document_fromstring(data) for data in ten.values()]
    )
    print("ten such pages in one site")
    print(f"  bare lxml parse           1.00  ({bare * 1000:.1f} ms)")
    print(f"  full analysis             {ratio:.2f}  ({ours * 1000:.1f} ms)   wanted: at most 5")
    many = {f"{number}.html": compose(8, 30, number) for number in range(1000)}
    read = {path: read_page(path, read_source(data)) for path, data in many.items()}
    print(f"check of a site of {len(many):,} pages, {sum(map(len, many.values())) / 1e6:.0f} MB, read before")
    for label, work in (("first", lambda: check_site(_fresh(read))), ("after a change", lambda: check_again(read))):
        ratio, ours, bare = compare(work, lambda: [html.document_fromstring(data) for data in many.values()], FEW)
        print(f"  {label:24}  {ratio:.2f}  ({ours * 1000:.0f} ms; bare lxml parse {bare * 1000:.0f} ms)")
    growth, _, _ = compare(lambda: analyse(four), lambda: analyse(one))
    theirs, _, _ = compare(lambda: html.document_fromstring(four), lambda: html.document_fromstring(one))
    print(f"growth from {len(one) / 1e6:.1f} to {len(four) / 1e6:.1f} MB")
    print(f"  bare lxml parse           {theirs:.2f}")
    print(f"  full analysis             {growth:.2f}   wanted: at most 4.4")
    return 0


if __name__ == "__main__":
    sys.exit(main())
