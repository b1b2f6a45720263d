"""A site on which one plan after another is carried out, and all of them as one plan of what it was at first."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from signpost.core.addresses.links import is_page_path
from signpost.core.page import Page, read_edited, read_page
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import Site
from signpost.core.text.edits import EditSet, apply_edits, edit_set, edits_between
from signpost.core.text.errors import SignpostError
from signpost.core.text.source import Source, read_source


class WorkedSite:
    """A site while plans are carried out on it."""

    def __init__(self, site: Site) -> None:
        self.first = site
        self.site = site
        self._gone: set[str] = set()
        self._moves: dict[str, str] = {}  # where files are now, by where they were
        self._only: dict[str, EditSet | None] = {}  # of files edited once, how; None for more often

    def put_in(self, plan: SitePlan) -> list[str]:
        """Carry out a plan, but on pages whose bytes would not survive being written back; return which, and why."""
        damaged = {}
        for path in plan.edits:
            try:
                self.site.source(path).encode("")
            except SignpostError as error:
                damaged[path] = f"{path}: {error}"
        if damaged:
            plan = replace(plan, edits={path: edits for path, edits in plan.edits.items() if path not in damaged})
        if plan:
            for path, edits in plan.edits.items():
                self._only[path] = None if path in self._only else edits
            origins = {now: first for first, now in self._moves.items()}
            self._moves |= {origins.get(old, old): new for old, new in plan.moves.items()}
            self._gone |= {*plan.gone}
            self.site = _after(self.site, plan)
        return list(damaged.values())

    def plan(self, notes: Iterable[str], reason: str) -> SitePlan:
        """Return all that was carried out as one plan of the site as it was at first.

        A file that was edited once keeps its edits with their reasons; of others they are found anew, for `reason`.
        """
        moves = {old: new for old, new in self._moves.items() if old in self.first.files and old != new}
        edits = {}
        for path in (*self.first.pages, *self.first.texts):
            now = moves.get(path, path)
            if now in self.site.pages or now in self.site.texts:
                before, after = self.first.source(path), self.site.source(now)
                if before is not after and before.data != after.data:
                    only = self._only.get(path) if now == path else None
                    edits[path] = only or edit_set(before, edits_between(before.text, after.text, reason=reason))
        known = {*self.first.files, *moves.values()}
        new = {
            path: self.site.source(path).data for path in (*self.site.pages, *self.site.texts) if path not in known
        }
        gone = tuple(sorted((self._gone & self.first.files) - self.site.files))
        return SitePlan({path: one for path, one in edits.items() if one}, new, gone, tuple(notes), None, moves)


def _after(site: Site, plan: SitePlan) -> Site:
    """Return the site with a plan carried out."""
    pages, texts = dict[str, Page](), dict[str, Source]()
    made = {path: read_source(data) for path, data in plan.new_files.items()}
    for path, edits in plan.edits.items():
        if path in plan.moves:
            continue
        if path in site.pages:
            pages[path] = read_edited(site.pages[path], edits)
        else:
            texts[path] = site.texts[path].again(apply_edits(site.texts[path], edits))
    for old, new in plan.moves.items():
        if old in site.pages or old in site.texts:
            source = site.source(old)
            made[new] = source.again(apply_edits(source, plan.edits[old])) if old in plan.edits else source
    pages |= {path: read_page(path, source) for path, source in made.items() if is_page_path(path)}
    texts |= {path: source for path, source in made.items() if not is_page_path(path)}
    went = {*plan.gone, *plan.moves} - {*plan.moves.values()}
    after = site.replaced(pages, went)
    if not texts and not plan.moves and not went & site.texts.keys():
        return after
    kept = {path: text for path, text in site.texts.items() if path not in went}
    return replace(after, files=(after.files | made.keys() | {*plan.moves.values()}) - went, texts={**kept, **texts})
