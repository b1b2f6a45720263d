"""Pages and files together: what links lead to."""

from __future__ import annotations

import json
import posixpath
import unicodedata
from collections.abc import Callable, Collection, Iterator, Mapping, Set
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from typing import Any, TypeVar, cast

from signpost.core.addresses.fragments import TOP, Targets, Top, find_indicated
from signpost.core.addresses.links import LinkKind, resolve_path
from signpost.core.page import Link, Page, Target
from signpost.core.page.outline import section_of_place
from signpost.core.site.index import Index, Matter, Need, PagesIndex, ReplacedIndex, ReplacedPages, fetched, file_key
from signpost.core.site.told import Kind, NameUse, asked_names, file_name_key, names_of
from signpost.core.text.source import Source

T = TypeVar("T")
#: Names under which a server shows a folder's page.
INDEX_NAMES = ("index.html", "index.htm")
_SITES_KEPT = 16


#: Kinds of links that may have a fragment of a page of the site.
_JUMPS = frozenset([LinkKind.FRAGMENT, LinkKind.PLACEHOLDER, LinkKind.PAGE])

#: The file in a site's folder in which its author says how it is read and checked.
SITE_FILE = "signpost.toml"


@dataclass(frozen=True, slots=True)
class Resolved:
    """A link that leads to something that is there."""

    path: str  # of the page or file
    target: Target | Top | None  # None for a file that is not a page


@dataclass(frozen=True, slots=True)
class Reached:
    """What a link that lands on a page of the site leads to."""

    section: int  # by index; -1 for the top, or a place before the first section
    title: str  # of the section, else of the page
    is_top: bool  # whether it is the top itself


@dataclass(frozen=True, slots=True)
class NoFile:
    """A link to a page or file that the site does not have."""

    path: str
    near: str | None  # a path that differs only in letter case


@dataclass(frozen=True, slots=True)
class NoTarget:
    """A link whose page is there, and whose fragment leads nowhere on it."""

    path: str
    fragment: str


@dataclass(frozen=True, slots=True)
class Elsewhere:
    """A link that leads out of the site, or nowhere at all by its kind."""


Outcome = Resolved | NoFile | NoTarget | Elsewhere


@dataclass(frozen=True)
class Site:
    """A folder of pages and other files that belong together."""

    pages: Mapping[str, Page]  # by path
    files: frozenset[str]  # paths of all files, pages among them
    base: str | None = None  # the site's own address where known
    texts: Mapping[str, Source] = field(default_factory=dict)  # style sheets, scripts and drawings, by path

    known: Index | None = None  # what the pages tell of themselves, where that is kept; else it is asked of them

    @cached_property
    def index(self) -> Index:
        """What the pages tell of themselves, by what is asked."""
        return PagesIndex(self.pages, self.base) if self.known is None else self.known

    @cached_property
    def _targets(self) -> dict[str, Targets[Target]]:
        return {}

    @cached_property
    def _outcomes(self) -> dict[tuple[str, str], tuple[Outcome, Set[Need]]]:
        return {}

    @cached_property
    def _remembered(self) -> dict[tuple[str, str], tuple[Any, Set[Need] | None]]:
        return {}

    def remember(self, key: tuple[str, str], find: Callable[[], T]) -> T:
        """Return what `find` finds out about the site, asked once; a key is what it is, and of which page."""
        if key not in self._remembered:
            with self.index.noting() as needs:
                value = find()
            self._remembered[key] = value, needs
        known, of_it = self._remembered[key]
        self.index.note(of_it or ())
        return cast("T", known)

    def answer(self, name: str, find: Callable[[], T]) -> T:
        """Return what `find` finds out about the site as a whole, asked once, and note that this alone matters."""
        key = ("answer", name)
        if key not in self._remembered:
            kept = self.index.recall(name)
            if kept is not None:
                self._remembered[key] = kept[0], None
            else:
                with self.index.noting() as needs:
                    value = find()
                self._remembered[key] = value, needs
        known, of_it = self._remembered[key]
        self.index.answer(name, known, of_it)
        return cast("T", known)

    def replaced(self, pages: Mapping[str, Page], gone: Collection[str] = ()) -> Site:
        """Return the site with some of its pages other than they are, and without those that are gone."""
        files = self.files | pages.keys() if pages.keys() - self.files else self.files
        return Site(
            ReplacedPages(self.pages, pages, gone),
            files - (frozenset(gone) - pages.keys()) if gone else files,
            self.base,
            self.texts,
            ReplacedIndex(self.index, pages, gone, self.base),
        )

    def page(self, path: str) -> Page:
        """Return a page of which more is asked than what its index tells, and note that it matters."""
        self.index.note([(Matter.PAGE, path)])
        return self.pages[path]

    def source(self, path: str) -> Source:
        """Return the source of a page, or of a text that pages load."""
        return self.pages[path].source if path in self.pages else self.texts[path]

    def targets(self, path: str) -> Targets[Target]:
        """Return what fragments can point to on the page at `path`."""
        if path not in self._targets:
            self._targets[path] = self.pages[path].index_targets()
        return self._targets[path]

    def names(self, path: str) -> list[str]:
        """Return the identifiers of the page at `path` that a link may want, in tree order, each once.

        Those that only lead on to another part are left out.
        """
        return self.remember(("names", path), lambda: self._names(path))

    def _names(self, path: str) -> list[str]:
        self.index.note([(Matter.NAMES, path)])
        return [name for name, use in names_of(self.pages[path]).items() if use is not NameUse.MOVED]

    def follow(self, page: str, href: str | None) -> Outcome:
        """Return where an address on `page` leads."""
        if href is None:
            return Elsewhere()
        known = self._outcomes.get((page, href))
        if known is None:
            found = self.resolve(page, href)
            with self.index.noting() as needs:
                outcome = Elsewhere() if found is None else self._follow(page, *found)
            known = self._outcomes[page, href] = outcome, needs
        if known[1]:
            self.index.note(known[1])
        return known[0]

    def resolve(self, page: str, href: str, *, ignore_base: bool = False) -> tuple[str, str | None] | None:
        """Return the path and the fragment that an address leads to on a page or in a style sheet.

        Its `base` element counts unless it shall be ignored. None for an address outside the site.
        """
        known = None if ignore_base else self.pages.get(page)
        return resolve_path(page, href, self.base) if known is None else known.resolve(href, self.base)

    def file_at(self, path: str) -> str:
        """Return the file that a path leads to: itself, however its letters are composed, or its folder's page.

        The path may name nothing that is there.
        """
        self.index.note([(Matter.FILE, file_key(path))])
        if path not in self.files and not path.isascii():
            path = _composed(self.files).get(unicodedata.normalize("NFC", path), path)
        if path not in self.files and path.rstrip("/") in _folders(self.files):
            names = (posixpath.join(path, name) for name in INDEX_NAMES)
            path = next((name for name in names if name in self.files), posixpath.join(path, INDEX_NAMES[0]))
        return path

    def _follow(self, page: str, path: str, fragment: str | None) -> Outcome:
        path = self.file_at(path)
        if path not in self.files:
            return NoFile(path, _folded(self.files).get(path.lower()))
        if path not in self.pages:
            return Resolved(path, None)
        if not fragment:
            return Resolved(path, TOP)
        target = self.indicated(path, fragment, noted=path != page)
        return NoTarget(path, fragment) if target is None else Resolved(path, target)

    def indicated(self, path: str, fragment: str, *, noted: bool = True) -> Target | Top | None:
        """Return what a fragment indicates on the page at a path, and note which identifiers that depends on."""
        if noted:
            self.index.note((Kind.NAME, name) for name in asked_names(fragment))
        return find_indicated(fragment, self.targets(path))

    def resolves(self, page: str, link: Link) -> bool | None:
        """Return whether a link leads to something; None for one that leads out of the site, and so is not known."""
        if link.kind in (LinkKind.PLACEHOLDER, LinkKind.NONE):
            return False
        outcome = self.follow(page, link.href)
        return None if isinstance(outcome, Elsewhere) else isinstance(outcome, Resolved)

    def reached(self, landing: Resolved) -> Reached:
        """Return what a landing on a page leads to, for people."""
        page = self.pages[landing.path]
        target = landing.target
        if not isinstance(target, Target):
            return Reached(-1, page.title or page.path, is_top=True)
        section = section_of_place(page, target.start)
        return Reached(
            section, page.headings[section].text if section >= 0 else page.title or page.path, is_top=False
        )

    def jump_goal(self, page: str, link: Link) -> tuple[str, str] | None:
        """Return the page and the fragment that a jump link on `page` is meant to lead to, be they there or not.

        None for a link that is not a jump link.
        """
        if link.kind not in _JUMPS or link.href is None:
            return None
        found = self.resolve(page, link.href)
        if found is None or found[1] is None:
            return None
        outcome = self.follow(page, link.href)
        return (outcome.path if isinstance(outcome, Resolved | NoTarget) else found[0]), found[1]

    def pages_linking_to(self, path: str) -> Mapping[str, list[tuple[str, int]]]:
        """Return the pages whose links lead to a file, with the fragments and how many links have each."""
        found: dict[str, list[tuple[str, int]]] = {}
        for key in self.spellings(path):
            for page, values in self.index.ask(Kind.LINK, key).items():
                found.setdefault(page, []).extend((fragment, count) for fragment, count in map(json.loads, values))
        return found

    def spellings(self, path: str) -> Iterator[str]:
        """Yield the keys of rows that tell of the file at a path."""
        keys = {path, unicodedata.normalize("NFC", path), unicodedata.normalize("NFD", path)}
        if posixpath.basename(path) in INDEX_NAMES:
            folders = {posixpath.dirname(key) for key in keys}
            keys |= folders | {f"{folder}/" for folder in folders if folder}
        yield from (key for key in sorted(keys) if self.file_at(key) == path)

    def links_to(self, path: str) -> Iterator[tuple[Page, Link, Resolved]]:
        """Yield the links of all pages that land on the page at `path`, with where they land."""
        linking = sorted(self.pages_linking_to(path), key=lambda name: (name != path, name))
        for page in fetched(self.pages, linking):
            for link in page.links:
                outcome = None if link.href is None else self.follow_to(path, page.path, link.href)
                if outcome is not None:
                    yield page, link, outcome

    def follow_to(self, path: str, page: str, address: str) -> Resolved | None:
        """Return where an address on `page` lands on the page at `path`; None for one that does not land there.

        No other page is read to find out where on it an address leads.
        """
        found = self.resolve(page, address)
        if found is None or self.file_at(found[0]) != path:
            return None
        outcome = self.follow(page, address)
        return outcome if isinstance(outcome, Resolved) and outcome.path == path else None

    def pages_that_name(self, path: str, name: str) -> list[Page]:
        """Return the other pages whose markup may have an address that leads to an identifier of a page."""
        linking = {
            page
            for page, led in self.pages_linking_to(path).items()
            if any(name in asked_names(fragment) for fragment, _ in led)
        }
        naming = set(self.index.ask(Kind.FILE_NAME, file_name_key(path)))
        if posixpath.basename(path) in INDEX_NAMES:  # an address may leave the file's name out
            linking |= {*self.index.ask(Kind.HASH, name), *self.index.ask(Kind.HASH, "")}
        else:
            for wanted in (name, ""):
                linking |= self.index.ask_among(Kind.HASH, wanted, naming - linking)
        return fetched(self.pages, sorted(linking - {path}))


def single_page_site(page: Page) -> Site:
    """Return the site of a page that is alone."""
    return Site({page.path: page}, frozenset([page.path]))


# What all sites of the same files have in common: a set of paths remembers its hash, so asking again costs nothing.


@lru_cache(maxsize=_SITES_KEPT)
def _folded(files: frozenset[str]) -> Mapping[str, str]:
    return {path.lower(): path for path in files}


@lru_cache(maxsize=_SITES_KEPT)
def _composed(files: frozenset[str]) -> Mapping[str, str]:
    """Return the paths whose letters may be composed in more than one way, by their composed form (UAX 15)."""
    return {unicodedata.normalize("NFC", path): path for path in sorted(files) if not path.isascii()}


@lru_cache(maxsize=_SITES_KEPT)
def _folders(files: frozenset[str]) -> frozenset[str]:
    folders = {""}
    for path in files:
        while path := posixpath.dirname(path):
            folders.add(path)
    return frozenset(folders)
