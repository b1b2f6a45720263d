"""How fast pages are read and operations planned, as ratios in one run.

Full analysis means: decode, parse, sections, targets, links, words, outline, all findings; it is compared with a bare
lxml parse of the same bytes. Operations are compared with the reading of their page: decode to outline. With
`corpus`, pages of others are taken (scripts/fetch_pages), as many of each collection as --pages says.
"""

from __future__ import annotations

import argparse
import contextlib
import gc
import random
import resource
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from statistics import median

from lxml import html

from signpost.core.back_to_top.planning import BackLinkOptions, plan_back_links
from signpost.core.contents import ContentsOptions, plan_contents
from signpost.core.findings import check_page, check_site
from signpost.core.headings.levels import plan_closed_gaps
from signpost.core.headings.promotions import plan_sure
from signpost.core.identifiers.sections import plan_identifiers
from signpost.core.page import Page, read_page
from signpost.core.page.outline import read_outline
from signpost.core.parts.choosing import best_cuts
from signpost.core.parts.planning import plan_parts
from signpost.core.site.site import Site, single_page_site
from signpost.core.text.errors import SignpostError
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
    """Do the full analysis of one page, of whose parsing nothing is kept from before."""
    page = read_page("bench.html", read_source(data))
    read_outline(page)
    check_page(single_page_site(page), page.path)


def analyse_site(pages: dict[str, bytes]) -> None:
    """Do the full analysis of a site, of which nothing is kept from before."""
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


OPERATIONS: dict[str, Callable[[Page], object]] = {
    "identifiers": plan_identifiers,
    "contents": lambda page: plan_contents(page, ContentsOptions()),
    "back-to-top links": lambda page: plan_back_links(page, BackLinkOptions()),
    "look-alikes": plan_sure,
    "gaps": plan_closed_gaps,
    "parts": lambda page: plan_parts(single_page_site(page), page.path, best_cuts(page, 3)),
    "findings": lambda page: check_page(single_page_site(page), page.path),
}


def spent(work: Callable[[], object]) -> float:
    """Return how much processor time a work takes, in seconds; one that refuses a page has done its work."""
    gc.collect()
    start = time.process_time()
    with contextlib.suppress(SignpostError):
        work()
    return time.process_time() - start


def read(data: bytes) -> Page:
    """Return a page as it is read, its outline known."""
    page = read_page("bench.html", read_source(data))
    read_outline(page)
    return page


def time_operations(data: bytes) -> dict[str, float]:
    """Return how long each operation takes on a page that was just read, against that reading."""
    reading = min(spent(lambda: read(data)) for _ in range(FEW))
    found = {}
    for name, plan in OPERATIONS.items():
        page = read(data)
        found[name] = spent(lambda page=page, plan=plan: plan(page)) / reading  # type: ignore[misc]
    return found


def growth_of_operations() -> None:
    """Print how long operations take on one composed page, and on one of four times its size."""
    small, large = time_operations(compose(500, 2500)), time_operations(compose(2000, 10_000))
    print("operations against the reading of the same page: 500 sections, 2000 sections   wanted: no growth")
    for name in OPERATIONS:
        print(f"  {name:24}  {small[name]:5.1f} {large[name]:7.1f}")


def started(*command: str | Path) -> float:
    """Return how much processor time a command takes from its start to its end, in seconds: the least of several."""
    times = []
    for _ in range(ROUNDS):
        before = resource.getrusage(resource.RUSAGE_CHILDREN)
        subprocess.run(command, check=True, stdout=subprocess.DEVNULL)  # noqa: S603 - our own
        after = resource.getrusage(resource.RUSAGE_CHILDREN)
        times.append(after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime)
    return min(times)


def start_of_command() -> None:
    """Print how long the command needs to start, against Python itself."""
    signpost = Path(sys.executable).with_name("signpost")
    with tempfile.TemporaryDirectory() as folder:  # of its own, for the folder around a page is its site
        page = Path(folder, "page.html")
        page.write_bytes(compose(8, 8))
        bare = started(sys.executable, "-c", "pass")
        told, outlined = started(signpost, "--help"), started(signpost, "outline", page)
    print("the command, against python -c pass")
    print(f"  signpost --help           {told / bare:.1f}   wanted: at most 3")
    print(f"  signpost outline          {outlined / bare:.1f}   wanted: at most 6")


def corpus(most: int) -> int:
    """Print ratios for pages of others."""
    root = Path(__file__).resolve().parents[1] / "var" / "pages"
    folders = sorted(root.iterdir()) if root.is_dir() else []
    if not folders:
        print("There are no pages of others; scripts/fetch_pages fetches some.", file=sys.stderr)
        return 2
    for folder in folders:
        files = sorted(folder.rglob("*.html"))
        random.Random(1).shuffle(files)  # noqa: S311 - the same pages in every run are wanted
        pages = [file.read_bytes() for file in files[:most]]
        bare = sum(spent(lambda data=data: html.document_fromstring(data)) for data in pages)  # type: ignore[misc]
        ours = sum(spent(lambda data=data: analyse(data)) for data in pages)  # type: ignore[misc]
        print(f"{folder.name}: {len(pages)} pages, {sum(map(len, pages)) / 1e6:.1f} MB")
        print(f"  full analysis             {ours / bare:.1f}   wanted: at most 4")
        timed = [time_operations(data) for data in pages]
        print("  operations, on average and at worst   wanted: at most 3 and 10")
        for name in OPERATIONS:
            ratios = [one[name] for one in timed]
            print(f"    {name:22}  {sum(ratios) / len(ratios):5.1f} {max(ratios):7.1f}")
    return 0


def main() -> int:
    """Print the ratios."""
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("what", nargs="?", choices=["pages", "corpus"], default="pages")
    asked.add_argument("--pages", type=int, default=100, help="of each collection, with corpus")
    options = asked.parse_args()
    if options.what == "corpus":
        return corpus(options.pages)
    one = compose(500, 2500)
    four = compose(2000, 10_000)
    ten = {f"{number}.html": compose(500, 2500, number) for number in range(10)}
    ratio, ours, bare = compare(lambda: analyse(one), lambda: html.document_fromstring(one))
    print(f"one page of {len(one) / 1e6:.2f} MB, 500 sections, 2500 links")
    print(f"  bare lxml parse           1.00  ({bare * 1000:.1f} ms)")
    print(f"  full analysis             {ratio:.2f}  ({ours * 1000:.1f} ms)   wanted: at most 3")
    ratio, ours, bare = compare(
        lambda: analyse_site(ten), lambda: [html.document_fromstring(data) for data in ten.values()]
    )
    print("ten such pages in one site")
    print(f"  bare lxml parse           1.00  ({bare * 1000:.1f} ms)")
    print(f"  full analysis             {ratio:.2f}  ({ours * 1000:.1f} ms)   wanted: at most 3")
    many = {f"{number}.html": compose(8, 30, number) for number in range(1000)}
    known = {path: read_page(path, read_source(data)) for path, data in many.items()}
    print(f"check of a site of {len(many):,} pages, {sum(map(len, many.values())) / 1e6:.0f} MB, read before")
    for label, work in (("first", lambda: check_site(_fresh(known))), ("after a change", lambda: check_again(known))):
        ratio, ours, bare = compare(work, lambda: [html.document_fromstring(data) for data in many.values()], FEW)
        print(f"  {label:24}  {ratio:.2f}  ({ours * 1000:.0f} ms; bare lxml parse {bare * 1000:.0f} ms)")
    growth, _, _ = compare(lambda: analyse(four), lambda: analyse(one))
    theirs, _, _ = compare(lambda: html.document_fromstring(four), lambda: html.document_fromstring(one))
    print(f"growth from {len(one) / 1e6:.1f} to {len(four) / 1e6:.1f} MB")
    print(f"  bare lxml parse           {theirs:.2f}")
    print(f"  full analysis             {growth:.2f}   wanted: at most 4.4")
    growth_of_operations()
    start_of_command()
    return 0


if __name__ == "__main__":
    sys.exit(main())
