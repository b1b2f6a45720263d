"""Plans that reach across the files of a site."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field

from signpost.core.page import Page
from signpost.core.site.site import Site
from signpost.core.text.edits import Edit, EditSet, edit_set


@dataclass(frozen=True, slots=True)
class Question:
    """What an operation cannot know; until it is answered, its plan shows what comes of the first choice."""

    name: str  # of the operation's parameter that answers it
    words: str
    choices: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class SitePlan:
    """What an operation would do to a site's files."""

    edits: Mapping[str, EditSet] = field(default_factory=dict)  # by path; pages without edits are left out
    new_files: Mapping[str, bytes] = field(default_factory=dict)  # by path
    gone: tuple[str, ...] = ()  # paths of files that go
    notes: tuple[str, ...] = ()  # what the author should know, in plain words
    question: Question | None = None  # what is to be answered before this is carried out

    def __bool__(self) -> bool:
        return bool(self.edits or self.new_files or self.gone)

    @property
    def count(self) -> int:
        """How many edits there are, a file that comes or goes counting as one."""
        return sum(len(edits) for edits in self.edits.values()) + len(self.new_files) + len(self.gone)


def plan_for(page: Page, edits: EditSet, notes: Iterable[str] = ()) -> SitePlan:
    """Return the plan that makes `edits` on one page."""
    return SitePlan({page.path: edits} if edits else {}, notes=tuple(notes))


def plan_edits(site: Site, edits: Mapping[str, Iterable[Edit]], notes: Iterable[str] = ()) -> SitePlan:
    """Return the plan that makes edits in files of a site, by path."""
    sets = {path: edit_set(site.source(path), found) for path, found in edits.items()}
    return SitePlan({path: found for path, found in sets.items() if found}, notes=tuple(notes))
