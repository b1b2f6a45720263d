"""Many pages checked by as many processes as the machine has cores, for results that are printed."""

from __future__ import annotations

import multiprocessing
import os
import sys
from collections.abc import Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import replace
from itertools import chain

from signpost.core.findings import Finding, check_page
from signpost.core.findings.options import CheckOptions
from signpost.core.site.site import Site

#: From how many pages on it pays to have other processes, and how many each is given at a time.
_MANY, _AT_A_TIME = 100, 20


def check_pages(site: Site, paths: Sequence[str], options: CheckOptions) -> list[Finding]:
    """Return what is wrong on pages, in their order; of many, without what would fix it.

    How far that has come is told on a terminal.
    """
    cores = len(os.sched_getaffinity(0)) if hasattr(os, "sched_getaffinity") else 1
    if len(paths) < _MANY or cores == 1:
        return [one for path in paths for one in check_page(site, path, options)]
    # what pages tell one another is found out here, once, and the other processes begin with a copy of all that
    first = check_page(site, paths[0], options)
    rest = paths[1:]
    lots = [rest[start : start + _AT_A_TIME] for start in range(0, len(rest), _AT_A_TIME)]
    _Work.site, _Work.options = site, options
    found: list[list[Finding]] = []
    with ProcessPoolExecutor(cores, mp_context=multiprocessing.get_context("fork")) as processes:
        for done, some in enumerate(processes.map(_check_lot, lots), start=1):
            found.append(some)
            _show_progress(min(1 + done * _AT_A_TIME, len(paths)), len(paths))
    return [*first, *chain.from_iterable(found)]


class _Work:
    """What all processes work on: set before they are made, so that they have it."""

    site: Site
    options: CheckOptions


def _check_lot(paths: Sequence[str]) -> list[Finding]:
    found = chain.from_iterable(check_page(_Work.site, path, _Work.options) for path in paths)
    return [replace(one, edits=(), choices=()) for one in found]  # what fixes it holds the page


def _show_progress(done: int, count: int) -> None:
    if sys.stderr.isatty():
        end = "\n" if done == count else ""
        print(f"\r{done:,} of {count:,} pages checked", end=end, file=sys.stderr, flush=True)
