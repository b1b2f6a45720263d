"""What pages are called, and in which order they are read."""

from __future__ import annotations

import json
import posixpath
from collections import Counter
from collections.abc import Mapping, Sequence

from signpost.core.page import Page
from signpost.core.site.site import INDEX_NAMES, Site
from signpost.core.site.told import Kind

#: How many pages are in a chain of links on and back at least, to be an order.
_CHAIN = 3


def page_name(page: Page) -> str:
    """Return what a page is called: its first heading, else its title, else its file's name."""
    first = next((one.text for one in page.headings if one.level == 1 and one.text), "")
    return first or page.title or posixpath.splitext(posixpath.basename(page.path))[0]


def menu_words(site: Site) -> dict[str, str]:
    """Return the words by which the menus, headers and footers of a site most often link to its pages, by path."""
    found: dict[str, Counter[str]] = {}
    for told in site.index.ask_all(Kind.BLOCK).values():
        for values in told.values():
            for value in values:
                for led, words in json.loads(value):
                    if words and not led.startswith(" ") and "#" not in led:
                        found.setdefault(site.file_at(led), Counter())[words] += 1
    return {
        path: min(count, key=lambda words: (-count[words], len(words)))
        for path, count in found.items()
        if path in site.pages
    }


def reading_order(site: Site) -> list[str]:
    """Return the pages of a site that are read, in the order in which they are most likely read.

    That is the one of their links to the next page where there are such, else that of the site's menus; pages that
    neither says follow by path, the first page of a folder before its others. Parts of a page count as that page.
    """
    pages = {path for told in site.index.ask_all(Kind.TITLE).values() for path in told}
    pages |= {path for told in site.index.ask_all(Kind.SERIES).values() for path, one in told.items() if "1" in one}
    by_path = sorted(pages, key=_place)
    said = [path for path in (_chain(site) or _from_menus(site)) if path in pages]
    return list(dict.fromkeys([*said, *by_path]))


def _place(path: str) -> tuple[tuple[str, ...], bool, str]:
    folder, _, name = path.rpartition("/")
    return tuple(folder.split("/")) if folder else (), name not in INDEX_NAMES, name


def _chain(site: Site) -> list[str]:
    """Return the longest chain of pages that lead on to one another; none where it is short."""
    following: dict[str, str] = {}
    parts = {path for told in site.index.ask_all(Kind.SERIES).values() for path in told}  # lead on within a page
    for path, told in site.index.ask_all(Kind.WAY).items():
        if path in parts:
            continue
        for values in told.values():
            led = json.loads(values[0]).get("next")
            if led is not None:
                following[path] = site.file_at(led)
    firsts = set(following) - set(following.values())
    chains = [_follow(following, first) for first in sorted(firsts)]
    longest = max(chains, key=len, default=[])
    return longest if len(longest) >= _CHAIN else []


def _follow(following: Mapping[str, str], first: str) -> list[str]:
    chain = [first]
    while (led := following.get(chain[-1])) is not None and led not in chain:
        chain.append(led)
    return chain


def _from_menus(site: Site) -> list[str]:
    """Return the pages of the block of links that most pages have."""
    blocks = site.index.ask_all(Kind.BLOCK)
    best: Sequence[str] = max(
        (sorted(value for values in told.values() for value in values) for told in blocks.values()),
        key=len,
        default=[],
    )
    if not best:
        return []
    usual = Counter(best).most_common(1)[0][0]
    led = (site.file_at(one.partition("#")[0]) for one, _ in json.loads(usual) if not one.startswith(" "))
    return list(dict.fromkeys(path for path in led if path in site.pages))
