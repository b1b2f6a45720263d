"""Every operation on every page that others made (see scripts/fetch_pages), and what it must not do.

    .venv/bin/python scripts/try_pages.py [--only OPERATION] [--most N] [--show LOSSES] [FOLDER]

For each page and operation: no fault; the second run plans nothing; nothing of the author's is lost but what the
operation's name says; headings and identifiers of the result are those that an independent parser sees. Prints how
many pages were checked and what was found, and exits with 1 where that is not nothing.
"""

from __future__ import annotations

import argparse
import sys
import time
import traceback
from collections import Counter
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field
from hashlib import sha256
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT / "tests"))

import html5lib  # noqa: E402

from laws import Pieces, lost, of_address, of_empty_identifier, of_level, of_looks, of_nothing  # noqa: E402
from signpost.core.back_to_top.planning import BackLinkOptions, plan_back_links, plan_no_back_links  # noqa: E402
from signpost.core.contents import ContentsOptions, find_outdated, plan_contents, plan_no_contents  # noqa: E402
from signpost.core.headings.levels import plan_closed_gaps  # noqa: E402
from signpost.core.headings.promotions import plan_sure  # noqa: E402
from signpost.core.identifiers.sections import plan_identifiers  # noqa: E402
from signpost.core.page import Page, read_nodes, read_page  # noqa: E402
from signpost.core.parts.choosing import best_cuts  # noqa: E402
from signpost.core.parts.cuts import find_cuts, find_places  # noqa: E402
from signpost.core.parts.options import PartOptions  # noqa: E402
from signpost.core.parts.planning import plan_join, plan_parts, plan_refreshed_parts  # noqa: E402
from signpost.core.parts.whole import ChosenCut  # noqa: E402
from signpost.core.site.plans import SitePlan  # noqa: E402
from signpost.core.site.site import Site, single_page_site  # noqa: E402
from signpost.core.text.edits import EditSet, apply_edits  # noqa: E402
from signpost.core.text.errors import SignpostError  # noqa: E402
from signpost.core.text.source import read_source  # noqa: E402

LARGEST = 800_000  # bytes of a page; beyond it is a book
_HEADINGS = frozenset("h1 h2 h3 h4 h5 h6".split())
SLOW = 20.0  # seconds that an operation may take before it is named


@dataclass(frozen=True)
class Operation:
    """An operation, and what it may remove."""

    plan: Callable[[Page], EditSet]
    may_lose: Callable[[tuple[str, ...]], bool] = of_nothing
    undo: Callable[[Page], EditSet] | None = None  # leads back to the first bytes but for identifiers


OPERATIONS = {
    "identify": Operation(plan_identifiers, of_empty_identifier),
    "contents": Operation(lambda page: plan_contents(page, ContentsOptions()), of_address, plan_no_contents),
    "contents 2-3": Operation(
        lambda page: plan_contents(page, ContentsOptions(levels=(2, 3))), of_address, plan_no_contents
    ),
    "returns": Operation(lambda page: plan_back_links(page, BackLinkOptions()), of_nothing, plan_no_back_links),
    "headings": Operation(plan_sure, of_looks),
    "gaps": Operation(plan_closed_gaps, of_level),
}


@dataclass
class Report:
    """What came of one page."""

    path: str
    checked: Counter[str] = field(default_factory=Counter)
    planned: Counter[str] = field(default_factory=Counter)
    refused: list[str] = field(default_factory=list)
    wrong: list[tuple[str, str]] = field(default_factory=list)  # operation, what
    slow: list[tuple[str, float]] = field(default_factory=list)


def _again(page: Page, data: bytes) -> Page:
    return read_page(page.path, read_source(data), page.marks)


def try_page(path: str, only: str | None) -> Report:
    """Return what the operations do to one page."""
    report = Report(path)
    page = read_page(Path(path).name, read_source(Path(path).read_bytes()))
    for name, operation in OPERATIONS.items():
        if only in (None, name):
            _try_operation(report, page, name, operation)
    if only in (None, "parts"):
        _try_parts(report, page)
    return report


def _try_operation(report: Report, page: Page, name: str, operation: Operation) -> None:
    started = time.perf_counter()
    try:
        edits = operation.plan(page)
        report.checked[name] += 1
        if not edits:
            return
        report.planned[name] += 1
        data = apply_edits(page.source, edits)
        after = _again(page, data)
        if operation.plan(after):
            report.wrong.append((name, "the second run is not empty"))
        gone = lost(page.text, after.text)
        gone = Counter({piece: count for piece, count in gone.items() if not operation.may_lose(piece)})
        if gone:
            report.wrong.append((name, f"lost {_few(gone)}"))
        if _seen(after.text) != _known(after):
            report.wrong.append((name, "headings and identifiers are not those of an independent parser"))
        if operation.undo is not None:
            back = _again(page, apply_edits(after.source, operation.undo(after)))
            gone = lost(page.text, back.text)
            gone = Counter({piece: count for piece, count in gone.items() if not operation.may_lose(piece)})
            if gone:
                report.wrong.append((name, f"taken out again, lost {_few(gone)}"))
    except SignpostError as error:
        report.refused.append(f"{name}: {error}")
    except Exception:
        report.wrong.append((name, "fault: " + traceback.format_exc().strip().splitlines()[-1]))
    took = time.perf_counter() - started
    if took > SLOW:
        report.slow.append((name, took))


def _try_parts(report: Report, page: Page) -> None:
    """Cut a page into three; no word of it may be lost, and no element but what the cut parts."""
    if len(find_cuts(page)) < 2:  # noqa: PLR2004
        return
    try:
        site = single_page_site(page)
        plan = plan_parts(site, page.path, best_cuts(page, 3))
        report.checked["parts"] += 1
        parted = _after(site, plan)
        all_parts = "\n".join(part.text for part in parted.pages.values())
        gone = Counter(
            {
                piece: count
                for piece, count in lost(page.text, all_parts).items()
                if piece[0] in ("word", "element") or (piece[0] == "attribute" and piece[2] in ("id", "name"))
            }
        )
        if gone:
            report.wrong.append(("parts", f"lost {_few(gone)}"))
        _try_join(report, page, parted)
        places = find_places(page)
        cuts = [ChosenCut(place.at, "Titled") for place in places[:: max(1, len(places) // 4)]][1:]
        if cuts:
            parted = _after(site, plan_parts(site, page.path, cuts, PartOptions(pattern="{page}/{number}")))
            _try_join(report, page, parted)
        report.planned["parts"] += 1
    except SignpostError as error:
        report.refused.append(f"parts: {error}")
    except Exception:
        report.wrong.append(("parts", "fault: " + traceback.format_exc().strip().splitlines()[-1]))


def _after(site: Site, plan: SitePlan) -> Site:
    """Return the site with a plan carried out."""
    data = {
        path: apply_edits(page.source, plan.edits[path]) if path in plan.edits else page.source.data
        for path, page in site.pages.items()
        if path not in plan.gone
    }
    data |= plan.new_files
    return Site({path: read_page(path, read_source(found)) for path, found in data.items()}, frozenset(data))


def _try_join(report: Report, page: Page, parted: Site) -> None:
    """Bring parts up to date, which has to change nothing but outdated contents, and join them, to the byte."""
    refreshed = plan_refreshed_parts(parted, page.path)
    if refreshed and not find_outdated(page):
        report.wrong.append(("parts", f"refreshed where nothing changed: {sorted(refreshed.edits)}"))
    joined = _after(parted, plan_join(parted, page.path)).pages[page.path]
    if joined.source.data != page.source.data:
        at = next(
            (at for at, (old, new) in enumerate(zip(page.text, joined.text, strict=False)) if old != new),
            min(len(page.text), len(joined.text)),
        )
        was, now = page.text[max(0, at - 30) : at + 50], joined.text[max(0, at - 30) : at + 50]
        report.wrong.append(("parts", f"joined otherwise at {at}: {was!r} is {now!r}"))


def _few(gone: Pieces) -> str:
    return f"{gone.total()} pieces: " + ", ".join(" ".join(piece)[:60] for piece in list(gone)[:4])


Seen = tuple[Counter[str], Counter[str]]


def _seen(text: str) -> Seen:
    """Return the identifiers and the heading elements of a page, as html5lib reads them."""
    tree = html5lib.parse(text, treebuilder="etree", namespaceHTMLElements=False)
    names: Counter[str] = Counter()
    headings: Counter[str] = Counter()
    for element in tree.iter():
        if isinstance(element.tag, str):
            names.update(filter(None, [element.get("id")]))
            if element.tag == "a":
                names.update(filter(None, [element.get("name")]))
            if element.tag in _HEADINGS:
                headings[element.tag] += 1
    return names, headings


def _known(page: Page) -> Seen:
    """Return the same as we read it."""
    headings = Counter(node.tag for node in read_nodes(page).all if node.tag in _HEADINGS)
    return Counter(target.name for target in page.targets), headings


def main() -> int:
    """Try the pages and print what came of it."""
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("folder", nargs="?", default=str(ROOT / "var" / "pages"), type=Path)
    parser.add_argument("--only", choices=[*OPERATIONS, "parts"])
    parser.add_argument("--most", type=int, help="how many pages, whole_block_span over all")
    parser.add_argument("--show", type=int, default=40, help="how many of what is wrong is printed")
    chosen = parser.parse_args()
    unique = {}
    for path in sorted(Path(chosen.folder).rglob("*.html")):
        if path.is_file() and not path.is_symlink() and path.stat().st_size <= LARGEST:
            unique.setdefault(sha256(path.read_bytes()).digest(), str(path))
    paths = list(unique.values())
    if chosen.most:
        paths = paths[:: max(1, len(paths) // chosen.most)]
    checked: Counter[str] = Counter()
    planned: Counter[str] = Counter()
    wrong: list[tuple[str, str, str]] = []
    slow: list[tuple[str, str, float]] = []
    refused: Counter[str] = Counter()
    with ProcessPoolExecutor(2) as pool:
        for report in pool.map(try_page, paths, [chosen.only] * len(paths), chunksize=4):
            checked += report.checked
            planned += report.planned
            refused.update(line.partition(":")[0] for line in report.refused)
            wrong += [(report.path, *one) for one in report.wrong]
            slow += [(report.path, *one) for one in report.slow]
    for name, count in checked.items():
        print(f"{name}: {count} pages, {planned[name]} changed, {refused[name]} refused")
    for path, name, seconds in sorted(slow, key=lambda one: -one[2])[: chosen.show]:
        print(f"slow: {name}: {seconds:.0f} s: {path}")
    for path, name, what in wrong[: chosen.show]:
        print(f"{name}: {path}: {what}")
    print(f"{len(paths)} pages, {len(wrong)} wrong: {dict(Counter(name for _, name, _ in wrong))}")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
