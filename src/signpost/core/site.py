"""Pages and files together: what links lead to, and plans that reach across files."""

from __future__ import annotations

import posixpath
import unicodedata
from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property

from signpost.core.edits import Edit, EditSet, edit_set
from signpost.core.fragments import Targets, Top, find_indicated
from signpost.core.links import LinkKind, resolve_path
from signpost.core.outline import section_of_place
from signpost.core.page import Link, Page, Target
from signpost.core.page.outer import words_in
from signpost.core.source import Source

#: Names under which a server shows a folder's page.
INDEX_NAMES = ("index.html", "index.htm")


#: Kinds of links that may have a fragment of a page of the site.
_JUMPS = frozenset([LinkKind.FRAGMENT, LinkKind.PLACEHOLDER, LinkKind.PAGE])
#: On how many pages a block stands, at least, to be taken for furniture.
_PAGES_ALIKE = 3


@dataclass(frozen=True, slots=True)
class Landing:
    """A link that leads to something that is there."""

    path: str  # of the page or file
    target: Target | Top | None  # None for a file that is no page


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


Outcome = Landing | NoFile | NoTarget | Elsewhere


@dataclass(frozen=True)
class Site:
    """A folder of pages and other files that belong together."""

    pages: Mapping[str, Page]  # by path
    files: frozenset[str]  # paths of all files, pages among them
    base: str | None = None  # the site's own address where known
    texts: Mapping[str, Source] = field(default_factory=dict)  # style sheets, scripts and drawings, by path

    @cached_property
    def _targets(self) -> dict[str, Targets[Target]]:
        return {}

    @cached_property
    def _outcomes(self) -> dict[tuple[str, str], Outcome]:
        return {}

    @cached_property
    def _folded(self) -> dict[str, str]:
        return {path.lower(): path for path in self.files}

    @cached_property
    def _composed(self) -> dict[str, str]:
        """The paths whose letters may be composed in more than one way, by their composed form (Unicode, UAX 15)."""
        return {unicodedata.normalize("NFC", path): path for path in sorted(self.files) if not path.isascii()}

    @cached_property
    def _folders(self) -> frozenset[str]:
        folders = {""}
        for path in self.files:
            while path := posixpath.dirname(path):
                folders.add(path)
        return frozenset(folders)

    def source(self, path: str) -> Source:
        """Return the source of a page, or of a text that pages load."""
        return self.pages[path].source if path in self.pages else self.texts[path]

    def targets(self, path: str) -> Targets[Target]:
        """Return what fragments can point to on the page at `path`."""
        if path not in self._targets:
            self._targets[path] = self.pages[path].index_targets()
        return self._targets[path]

    def names(self, path: str) -> list[str]:
        """Return all identifiers of the page at `path`, in tree order, each once."""
        return list(dict.fromkeys(target.name for target in self.pages[path].targets))

    def follow(self, page: str, href: str | None) -> Outcome:
        """Return where an address on `page` leads."""
        if href is None:
            return Elsewhere()
        known = self._outcomes.get((page, href))
        if known is None:
            found = self._resolve(page, href)
            known = Elsewhere() if found is None else self._follow(*found)
            self._outcomes[page, href] = known
        return known

    def _resolve(self, page: str, href: str) -> tuple[str, str | None] | None:
        """Return what an address leads to on a page, or in a style sheet, which no `base` element concerns."""
        known = self.pages.get(page)
        return resolve_path(page, href, self.base) if known is None else known.resolve(href, self.base)

    def _follow(self, path: str, fragment: str | None) -> Outcome:
        if path not in self.files and not path.isascii():
            path = self._composed.get(unicodedata.normalize("NFC", path), path)
        if path not in self.files and path.rstrip("/") in self._folders:
            names = (posixpath.join(path, name) for name in INDEX_NAMES)
            path = next((name for name in names if name in self.files), posixpath.join(path, INDEX_NAMES[0]))
        if path not in self.files:
            return NoFile(path, self._folded.get(path.lower()))
        if path not in self.pages:
            return Landing(path, None)
        target = find_indicated(fragment or "", self.targets(path))
        return NoTarget(path, fragment or "") if target is None else Landing(path, target)

    def resolves(self, page: str, link: Link) -> bool | None:
        """Return whether a link leads to something; None for one that leads out of the site, and so is not known."""
        if link.kind in (LinkKind.PLACEHOLDER, LinkKind.NONE):
            return False
        outcome = self.follow(page, link.href)
        return None if isinstance(outcome, Elsewhere) else isinstance(outcome, Landing)

    def reached(self, landing: Landing) -> Reached:
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

        None for a link that is no jump link.
        """
        if link.kind not in _JUMPS or link.href is None:
            return None
        found = self._resolve(page, link.href)
        if found is None or found[1] is None:
            return None
        outcome = self.follow(page, link.href)
        return (outcome.path if isinstance(outcome, Landing | NoTarget) else found[0]), found[1]

    def links_to(self, path: str) -> Iterator[tuple[Page, Link, Landing]]:
        """Yield the links of all pages that land on the page at `path`, with where they land."""
        for page in self.pages.values():
            for link in page.links:
                own = link.kind in (LinkKind.FRAGMENT, LinkKind.PLACEHOLDER) and page.base is None
                if own and page.path != path:
                    continue
                outcome = self.follow(page.path, link.href)
                if isinstance(outcome, Landing) and outcome.path == path:
                    yield page, link, outcome


@dataclass(frozen=True, slots=True)
class SitePlan:
    """What an operation would do to a site's files."""

    edits: Mapping[str, EditSet] = field(default_factory=dict)  # by path; pages without edits are left out
    new_files: Mapping[str, bytes] = field(default_factory=dict)  # by path
    gone: tuple[str, ...] = ()  # paths of files that go
    notes: tuple[str, ...] = ()  # what the author should know, in plain words

    def __bool__(self) -> bool:
        return bool(self.edits or self.new_files or self.gone)

    @property
    def count(self) -> int:
        """How many edits there are, a file that comes or goes counting as one."""
        return sum(len(edits) for edits in self.edits.values()) + len(self.new_files) + len(self.gone)


def find_repeated(pages: Iterable[Page]) -> frozenset[str]:
    """Return the digests of outer blocks that repeat on pages which mark no content.

    On three pages at least, or on both where there are but two. Copies of a page (a backup, numbered steps) count as
    one, for what they share is no furniture.
    """
    unmarked = [page for page in pages if page.outer]
    least = max(min(len(unmarked), _PAGES_ALIKE), 2)
    holders: dict[str, list[Page]] = {}
    for page in unmarked:
        for digest in set(page.outer):
            if digest:
                holders.setdefault(digest, []).append(page)
    return frozenset(digest for digest, found in holders.items() if _count_different(found, least) >= least)


def _count_different(pages: Sequence[Page], most: int) -> int:
    """Return how many of the pages are no copies of one another, counting no further than `most`."""
    different: list[Page] = []
    for page in pages:
        if len(different) >= most:
            break
        if not any(_is_copy(page, other) for other in different):
            different.append(page)
    return len(different)


def _is_copy(page: Page, other: Page) -> bool:
    """Return whether two pages share most of their words outside links."""
    one, two = set(page.outer), set(other.outer)
    shared = sum(map(words_in, one & two))
    return 2 * shared > min(sum(map(words_in, one)), sum(map(words_in, two)))


def repeats_on(page: Page, repeated: Collection[str]) -> frozenset[str]:
    """Return those of the repeated blocks' digests that a page begins or ends with; what else repeats is its own."""
    if not page.outer or (page.outer[0] not in repeated and page.outer[-1] not in repeated):
        return frozenset()
    return frozenset(digest for digest in page.outer if digest in repeated)


def plan_for(page: Page, edits: EditSet, notes: Iterable[str] = ()) -> SitePlan:
    """Return the plan that makes `edits` on one page."""
    return SitePlan({page.path: edits} if edits else {}, notes=tuple(notes))


def plan_edits(site: Site, edits: Mapping[str, Iterable[Edit]], notes: Iterable[str] = ()) -> SitePlan:
    """Return the plan that makes edits in files of a site, by path."""
    sets = {path: edit_set(site.source(path), found) for path, found in edits.items()}
    return SitePlan({path: found for path, found in sets.items() if found}, notes=tuple(notes))


def single_page_site(page: Page) -> Site:
    """Return the site of a page that stands alone."""
    return Site({page.path: page}, frozenset([page.path]))
