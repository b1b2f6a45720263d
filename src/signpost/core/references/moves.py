"""Files that get another name or folder, with all addresses of the site that lead to them or start from them."""

from __future__ import annotations

import posixpath
import re
from collections.abc import Collection, Iterable, Iterator, Mapping
from dataclasses import dataclass, field, replace
from urllib.parse import quote, unquote

from signpost.core.addresses.links import PATH_SAFE, base_folder, is_absolute, is_page_path, path_of
from signpost.core.addresses.paths import Clash, PathIndex, find_path_advice, find_path_objection
from signpost.core.page import Page, read_nodes, read_page
from signpost.core.references.forwarding import forwarding_page
from signpost.core.references.mentions import SCRIPTED
from signpost.core.references.written import WrittenAddress, loose_addresses, read_sheet_addresses, read_written
from signpost.core.site.index import fetched
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import INDEX_NAMES, SITE_FILE, Site
from signpost.core.site.told import Kind, file_name_key
from signpost.core.text.edits import Edit, EditSet, edit_set, narrow_edit
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import Lines


def plan_move(site: Site, moves: Mapping[str, str], *, forward: bool = False) -> SitePlan:
    """Return the plan that gives files other paths; `moves` has the new path of each by its old one.

    Addresses on all pages and in style sheets follow, and so do those that a moved file has itself, where it goes to
    another folder; each is spelled as it was: relative, from the site's root, or in full. With `forward`, a small
    page stays at the old place of each page and leads on, fragments carried. Scripts that mention a file are named in
    the notes. Raises RequestError for a file that is not there, and for a name that cannot be or is taken.
    """
    moves = {old: new for old, new in moves.items() if old != new}
    _refuse_bad_names(site, moves)
    edits: dict[str, EditSet] = {}
    notes = [f"{new}: {advice}" for new in moves.values() if (advice := find_path_advice(new))]
    respeller = Respeller(site, moves)
    for page in fetched(site.pages, pages_concerned(site, moves)):
        if page.path not in moves and not may_lead_to(site, page, moves):
            continue
        path = page.path
        found = [*respeller.page_edits(page)]
        if found:
            edits[path] = edit_set(page.source, found)
        notes += _script_notes(page, moves)
    for path, source in site.texts.items():
        if path.lower().endswith(".css"):
            made = edit_set(source, respeller.sheet_edits(path, source.text))
        elif path == SITE_FILE:
            made = edit_set(source, _site_file_edits(source.text, moves))
        else:
            notes += _mentions(path, Lines(source.text), source.text, 0, moves)
            continue
        if made:
            edits[path] = made
    left = {old: forwarding_page(site.pages[old], new) for old, new in moves.items() if forward and old in site.pages}
    return SitePlan(edits, left, notes=tuple(dict.fromkeys(notes)), moves=moves)


def plan_followed(site: Site, moves: Mapping[str, str]) -> SitePlan:
    """Return the plan that lets addresses follow files that were moved already, by another program, say.

    `moves` has their paths now by those before. Of a moved page's own addresses, those that lead somewhere as they
    are stay: somebody may have put them right already. Raises RequestError where a file is not there now, or
    something is at its old path again.
    """
    moves = {old: new for old, new in moves.items() if old != new}
    for old, new in moves.items():
        if new not in site.files:
            raise RequestError(f"{new} is not a file of the site.")
        if old in site.files:
            raise RequestError(f"{old} is there again, so links to it are left as they are.")
    there = {new: old for old, new in moves.items()}
    pages = {old: read_page(old, site.pages[new].source) for old, new in moves.items() if new in site.pages}
    texts = {there.get(path, path): source for path, source in site.texts.items()}
    files = frozenset(there.get(path, path) for path in site.files)
    before = replace(site.replaced(pages, [*there]), files=files, texts=texts)
    plan = plan_move(before, moves)
    edits = {path: found for path, found in plan.edits.items() if path not in pages}
    respeller = Respeller(before, moves)
    for old, page in pages.items():
        lost = [edit for address, edit in respeller.address_edits(page) if not _leads(site, moves[old], address)]
        edits[moves[old]] = edit_set(page.source, lost)
    return SitePlan({moves.get(path, path): found for path, found in edits.items() if found}, notes=plan.notes)


def _leads(site: Site, path: str, address: WrittenAddress) -> bool:
    """Return whether an address leads to something of the site as it is written, on the page at a path."""
    found = site.resolve(path, address.value, ignore_base=address.node.tag == "base")
    return found is not None and site.file_at(found[0]) in site.files


def folder_moves(site: Site, old: str, new: str) -> dict[str, str]:
    """Return the moves of all files of a folder to another one. Raises RequestError where it has none."""
    old, new = old.strip("/"), new.strip("/")
    found = {
        path: posixpath.join(new, path[len(old) + 1 :]) for path in sorted(site.files) if path.startswith(f"{old}/")
    }
    if not found:
        raise RequestError(f"The site has no folder {old}.")
    return found


def pages_concerned(site: Site, paths: Iterable[str]) -> list[str]:
    """Return the pages whose markup may have an address that leads to one of these files, and those among them."""
    paths = set(paths)
    if any(not is_page_path(path) or posixpath.basename(path) in INDEX_NAMES for path in paths):
        return sorted(site.pages)  # a folder's page is not named, and of other files no account is kept
    found = paths & site.pages.keys()
    for key in {file_name_key(spelled) for path in paths for spelled in (path, *site.spellings(path))}:
        found |= site.index.ask(Kind.FILE_NAME, key).keys()
    for path in paths:
        found |= site.pages_linking_to(path).keys()
    return sorted(found)


def may_lead_to(site: Site, page: Page, paths: Collection[str]) -> bool:
    """Return whether a page may have an address that leads to one of these files, or a script that mentions one."""
    names = {posixpath.basename(path) for path in paths}
    if _scripts_mention(page, names):
        return True
    addresses = {path_of(address) for address in loose_addresses(page.text)}
    found = (site.resolve(page.path, address) for address in addresses)
    return any(one is not None and site.file_at(one[0]) in paths for one in found)


def _refuse_bad_names(site: Site, moves: Mapping[str, str]) -> None:
    taken = PathIndex(site.files - moves.keys())
    for old, new in moves.items():
        if old not in site.files:
            raise RequestError(f"{old} is not a file of the site.")
        objection = find_path_objection(new)
        if objection is None and is_page_path(old) != is_page_path(new):
            objection = (
                "A page needs a name that ends in .html, .htm or .xhtml."
                if is_page_path(old)
                else "Only a page may have a name that ends like this; keep the file's own ending."
            )
        clash = None if objection else taken.find_clash(new)
        if clash is not None:
            how, other = clash
            objection = {
                Clash.SAME: "The site has a file of that name. Choose another one.",
                Clash.ALIKE: f"Some computers take {other} for the same name. Choose another one.",
                Clash.FOLDER: f"{other} and this cannot both be there, one being the other's folder.",
            }[how]
        if objection:
            raise RequestError(f"{new}: {objection}")
        taken.add(new)


@dataclass(frozen=True)
class Respeller:
    """Spells addresses anew where what they lead to, or what they start from, has another path."""

    site: Site  # before
    moves: Mapping[str, str]
    _known: dict[tuple[str, str, bool], str | None] = field(default_factory=dict)  # by start, path and what it is of

    def page_edits(self, page: Page) -> Iterator[Edit]:
        """Yield the edits of a page's addresses."""
        yield from (edit for _, edit in self.address_edits(page))

    def address_edits(self, page: Page) -> Iterator[tuple[WrittenAddress, Edit]]:
        """Yield a page's addresses that are spelled otherwise now, each with its edit."""
        for address in read_written(page):
            spelled = self.on_page(page, address)
            if spelled is not None:
                edit = address.path_edit(page.text, spelled, None, self._reason(page, address))
                if edit is not None:
                    yield address, edit

    def on_page(self, page: Page, address: WrittenAddress) -> str | None:
        """Return how the path of a page's address is spelled now; None where it stays."""
        start = page.path
        if address.node.tag == "base":
            return self.respell(start, address.value, of_base=True)
        if page.base is not None:
            based = self.site.resolve(page.path, page.base, ignore_base=True)
            if based is None:
                return None
            start = based[0]
            if address.value.startswith("#"):
                return self._within_folder(start)
        return self.respell(start, address.value)

    def _within_folder(self, folder: str) -> str | None:
        """Return the path for a fragment that leads to the page of the folder that a base element names."""
        file = self.site.file_at(folder)
        if file == folder or file not in self.moves:
            return None  # a page follows where the base element does
        return quote(_way(folder, self.moves[file]), safe=PATH_SAFE)

    def _reason(self, page: Page, address: WrittenAddress) -> str:
        found = self.site.resolve(page.path, address.value, ignore_base=address.node.tag == "base")
        file = None if found is None else self.site.file_at(found[0])
        return "leads to where the file is now" if file in self.moves else "the page's folder is another"

    def sheet_edits(self, path: str, text: str) -> Iterator[Edit]:
        """Yield the edits of a style sheet's addresses."""
        for span, value in read_sheet_addresses(text):
            spelled = self.respell(path, value)
            if spelled is not None:
                old = path_of(value)
                yield narrow_edit(span.start, old, spelled, "leads to where the file is now")

    def respell(self, start: str, value: str, *, of_base: bool = False) -> str | None:
        """Return how the path of an address is spelled now that started from `start`; None where it stays.

        That of a base element leads to its folder, whatever page a server shows there.
        """
        key = start, path_of(value), of_base
        if key not in self._known:
            self._known[key] = self._respell(*key)
        return self._known[key]

    def _respell(self, start: str, spelled: str, of_base: bool) -> str | None:
        found = self.site.resolve(start, spelled, ignore_base=True)
        if not spelled or found is None:
            return None
        path = found[0]
        file = path if of_base and path not in self.site.files else self.site.file_at(path)
        there = file in self.site.files
        as_folder = not there or (path.rstrip("/") == posixpath.dirname(file) and path != file)
        goal = self.moves.get(file, file) if there else path
        if as_folder and there and posixpath.basename(goal) in INDEX_NAMES:
            file, goal = posixpath.dirname(file), posixpath.dirname(goal)
        elif as_folder and goal == file:
            file = goal = path.rstrip("/")
        if is_absolute(spelled):
            return None if goal == file else self._absolute(spelled, path, goal)
        old_way = _way(start, file)
        new_way = _way(self.moves.get(start, start), goal)
        if old_way == new_way:
            return None
        return _spelled_like(spelled, old_way, new_way)

    def _absolute(self, spelled: str, path: str, goal: str) -> str:
        """Return an address that does not start from the page, with its site path exchanged."""
        pieces = spelled.split("/")
        count = path.count("/") + 1
        tail = quote(goal, safe=PATH_SAFE) + ("/" if spelled.endswith("/") and not is_page_path(goal) else "")
        if unquote("/".join(pieces[-count:])) == path:
            return "/".join([*pieces[:-count], tail])
        root = "/" if self.site.base is None else base_folder(self.site.base)
        return root + tail


def _way(start: str, goal: str) -> str:
    """Return the relative path from a file to another one, or to a folder."""
    return posixpath.relpath(goal or ".", posixpath.dirname(start) or ".")


def _spelled_like(spelled: str, old_way: str, new_way: str) -> str:
    """Return a relative path as it stands in an address, in the hand of the one that it takes the place of."""
    folder, _, name = new_way.rpartition("/")
    encoded = quote(name, safe=PATH_SAFE)
    if name == old_way.rpartition("/")[2] and not spelled.endswith("/"):
        encoded = spelled.rpartition("/")[2]  # as it was, whatever escapes it has
    result = quote(folder, safe=PATH_SAFE) + "/" + encoded if folder else encoded
    if spelled.endswith("/") and not is_page_path(result):
        result += "/"
    dotted = spelled.startswith("./") and spelled != "./"
    needs_dot = ":" in result.partition("/")[0]
    return "./" + result if (dotted or needs_dot) and not result.startswith(".") else result


def _site_file_edits(text: str, moves: Mapping[str, str]) -> Iterator[Edit]:
    """Yield the edits of the site's own file where it names a file that moves, as a string of its own (TOML 1.0)."""
    for old, new in moves.items():
        for found in re.finditer(rf"([\"'])({re.escape(old)})\1", text):
            yield narrow_edit(found.start(2), old, new, "the file's new path")


def _script_notes(page: Page, moves: Mapping[str, str]) -> Iterator[str]:
    """Yield in words where a page's scripts mention a file that moves."""
    names = {posixpath.basename(old) for old in moves}
    if not _scripts_mention(page, names):
        return
    nodes = read_nodes(page)
    for node in nodes.all:
        if node.tag == "script":
            inner = nodes.inner(node)
            yield from _mentions(page.path, page.source.lines, inner.of(page.text), inner.start, moves)
        elif any(name.startswith("on") for name in node.attributes):
            said = " ".join(value for name, value in node.attributes.items() if name.startswith("on"))
            if any(posixpath.basename(old) in said for old in moves):
                yield _note(page.path, page.source.lines.line(node.start), "a moved file")


def _scripts_mention(page: Page, names: Collection[str]) -> bool:
    """Return whether one of a page's scripts may mention one of these names."""
    there = [name for name in names if name in page.text]
    return bool(there) and any(any(name in one[0] for name in there) for one in SCRIPTED.finditer(page.text))


def _mentions(path: str, lines: Lines, text: str, offset: int, moves: Mapping[str, str]) -> Iterator[str]:
    for old in moves:
        name = posixpath.basename(old)
        for found in re.finditer(rf"[\"'`/]{re.escape(name)}(?=[\"'`?#])", text):
            yield _note(path, lines.line(offset + found.start()), f"“{name}”")


def _note(path: str, line: int, what: str) -> str:
    return f"{path}, line {line}: a script mentions {what}. Scripts are not edited; look at it."
