"""Findings on the fetched pages of others, to be read by eye: how many of each rule, and some with their lines.

    .venv/bin/python scripts/read_findings.py [--half 0|1] [--only CODE …] [--show N] [--seed N] [--table]

`scripts/fetch_pages` fetches the pages. Each package is read as a site. Prints, for each rule, on how many pages it
found how much, and of each N findings, drawn at random, with the source around them. With --table, how many of those
were read and how many of them are false, as docs/findings-read.toml says: who draws them again writes it anew.
"""

from __future__ import annotations

import argparse
import hashlib
import random
import tomllib
from collections import Counter, defaultdict
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

from signpost.core.addresses.links import is_page_path, is_text_path
from signpost.core.findings import check_page
from signpost.core.findings.catalogue import RULES, Finding, Severity
from signpost.core.findings.options import CheckOptions
from signpost.core.page import read_page
from signpost.core.site.site import Site
from signpost.core.text.errors import SignpostError
from signpost.core.text.source import read_source

ROOT = Path(__file__).resolve().parents[1]
PAGES = ROOT / "var" / "pages"
_LARGEST = 400_000  # bytes of a page that is looked at
_AROUND = 160  # characters of the source shown before and behind a finding
_SEVERITIES = (Severity.ERROR, Severity.WARNING, Severity.ADVICE)
_Found = tuple[str, str, int, str, str, str]  # code, page, line, message, what is around it, how it is fixed


def site_of(folder: Path) -> Site:
    """Return a folder of fetched pages as a site."""
    pages, texts, files = {}, {}, set()
    for file in sorted(folder.rglob("*")):
        if not file.is_file():
            continue
        path = file.relative_to(folder).as_posix()
        files.add(path)
        if file.stat().st_size > _LARGEST:
            continue
        try:
            if is_page_path(path):
                pages[path] = read_page(path, read_source(file.read_bytes()))
            elif is_text_path(path):
                texts[path] = read_source(file.read_bytes())
        except SignpostError:
            continue
    return Site(pages, frozenset(files), None, texts)


def half_of(path: Path) -> int:
    """Return the half that a page belongs to: rules are chosen on 0, and counted on 1."""
    return hashlib.sha256(path.relative_to(ROOT).as_posix().encode()).digest()[0] % 2


def _told(site: Site, folder: Path, half: int, only: frozenset[str]) -> Iterator[_Found]:
    options = CheckOptions(on=only)
    for path in site.pages:
        if half_of(folder / path) != half:
            continue
        for one in check_page(site, path, options):
            if not only or one.rule.code in only:
                yield _row(site, folder, one)


def _row(site: Site, folder: Path, one: Finding) -> _Found:
    text = site.pages[one.page].text
    around = text[max(0, one.span.start - _AROUND) : one.span.start]
    around += "⟦" + text[one.span.start : one.span.end][: 2 * _AROUND] + "⟧"
    around += text[one.span.end : one.span.end + _AROUND]
    how = "a press" if one.edits else " / ".join(choice.words for choice in one.choices) or "-"
    page = (folder / one.page).relative_to(PAGES).as_posix()
    return one.rule.code, page, one.place.line, one.message, around, how


def _of_package(argument: tuple[Path, int, frozenset[str]]) -> tuple[int, list[_Found]]:
    folder, half, only = argument
    site = site_of(folder)
    return sum(half_of(folder / path) == half for path in site.pages), list(_told(site, folder, half, only))


def print_table(found: dict[str, list[_Found]], show: int, seed: int) -> None:
    """Print how many of the findings that are drawn are false, by rule and by severity."""
    told = tomllib.loads((ROOT / "docs" / "findings-read.toml").read_text())["false"]
    false = {(one["rule"], one["page"], one["line"]) for one in told}
    sums: dict[str, Counter[str]] = defaultdict(Counter)
    print("| rule | found | read | false |\n|---|---|---|---|")
    for code, rows in sorted(found.items(), key=lambda one: (_SEVERITIES.index(RULES[one[0]].severity), one[0])):
        drawn = random.Random(seed).sample(rows, min(show, len(rows)))  # noqa: S311 - no secret
        wrong = sum((code, page, line) in false for _, page, line, *_ in drawn)
        sums[RULES[code].severity].update(read=len(drawn), false=wrong)
        print(f"| {code} | {len(rows)} | {len(drawn)} | {wrong} |")
    for severity, counts in sums.items():
        print(f"| all of {severity} | | {counts['read']} | {counts['false']} |")


def main() -> None:
    """Print what was found."""
    parser = argparse.ArgumentParser(description=__doc__.partition("\n")[0])
    parser.add_argument("--half", type=int, default=0, choices=(0, 1))
    parser.add_argument("--only", nargs="*", default=[], help="rules")
    parser.add_argument("--show", type=int, default=5, help="findings of each rule with their lines")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--table", action="store_true")
    arguments = parser.parse_args()
    folders = [folder for folder in sorted(PAGES.iterdir()) if folder.is_dir()]
    only = frozenset(arguments.only)
    with ProcessPoolExecutor() as pool:
        read = list(pool.map(_of_package, [(folder, arguments.half, only) for folder in folders]))
    found = defaultdict(list)
    for _, rows in read:
        for row in rows:
            found[row[0]].append(row)
    print(f"{sum(count for count, _ in read)} pages of half {arguments.half}\n")
    if arguments.table:
        print_table(found, arguments.show, arguments.seed)
        return
    for code, rows in sorted(found.items()):
        by_package = Counter(row[1].partition("/")[0] for row in rows)
        packages = ", ".join(f"{name} {count}" for name, count in by_package.most_common())
        print(f"{code}: {len(rows)} on {len({row[1] for row in rows})} pages ({packages})")
        drawn = random.Random(arguments.seed).sample(rows, min(arguments.show, len(rows)))  # noqa: S311 - no secret
        for _, page, line, message, around, how in drawn:
            print(f"  {page}:{line} {message} [{how}]\n    {' '.join(around.split())}\n")


if __name__ == "__main__":
    main()
