"""Plans that reach across the files of a site."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable, Mapping
from dataclasses import dataclass, field, replace

from signpost.core.page import Page
from signpost.core.site.site import Site
from signpost.core.text.edits import Edit, EditSet, apply_edits, edit_set
from signpost.core.text.source import Source


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
    moves: Mapping[str, str] = field(default_factory=dict)  # new paths of files by their old ones, edits made there

    def __bool__(self) -> bool:
        return bool(self.edits or self.new_files or self.gone or self.moves)

    @property
    def count(self) -> int:
        """How many edits there are, a file that comes, goes or moves counting as one."""
        files = len(self.new_files) + len(self.gone) + len(self.moves)
        return sum(len(edits) for edits in self.edits.values()) + files

    def without(self, paths: Collection[str]) -> SitePlan:
        """Return the plan that leaves some files as they are; files that go or move are no edits."""
        if not paths:
            return self
        edits = {path: found for path, found in self.edits.items() if path not in paths}
        return replace(self, edits=edits, new_files={k: v for k, v in self.new_files.items() if k not in paths})

    def outcome(self, source: Callable[[str], Source], read: Callable[[str], bytes]) -> dict[str, bytes | None]:
        """Return what each file is afterwards, by path; None for one that is gone.

        `source` gives the text of a file that is edited, `read` the bytes of one that moves as it is.
        """
        found: dict[str, bytes | None] = dict.fromkeys((*self.gone, *self.moves))
        for path, edits in self.edits.items():
            found[self.moves.get(path, path)] = apply_edits(source(path), edits)
        for old, new in self.moves.items():
            if old not in self.edits:
                found[new] = read(old)
        return found | dict(self.new_files)


def plan_for(page: Page, edits: EditSet, notes: Iterable[str] = ()) -> SitePlan:
    """Return the plan that makes `edits` on one page."""
    return SitePlan({page.path: edits} if edits else {}, notes=tuple(notes))


def plan_both(site: Site, *plans: SitePlan) -> SitePlan:
    """Return the plan that makes the edits of several, each once; they must be free of conflicts."""
    edits: dict[str, list[Edit]] = {}
    for plan in plans:
        for path, found in plan.edits.items():
            known = edits.setdefault(path, [])
            known += [edit for edit in found.edits if edit not in known]
    return plan_edits(site, edits, [note for plan in plans for note in plan.notes])


def plan_edits(site: Site, edits: Mapping[str, Iterable[Edit]], notes: Iterable[str] = ()) -> SitePlan:
    """Return the plan that makes edits in files of a site, by path."""
    sets = {path: edit_set(site.source(path), found) for path, found in edits.items()}
    return SitePlan({path: found for path, found in sets.items() if found}, notes=tuple(notes))
