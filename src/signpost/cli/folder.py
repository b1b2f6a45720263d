"""A site's folder on disk: read as a site, written whole files at a time."""

from __future__ import annotations

import contextlib
import os
import shutil
import stat
import sys
import tempfile
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

from signpost.core.addresses.links import is_page_path, is_text_path
from signpost.core.page import Page, read_page
from signpost.core.page.furniture import Marks
from signpost.core.site.plans import SitePlan
from signpost.core.site.repeats import find_repeated, repeats_on
from signpost.core.site.site import SITE_FILE, Site
from signpost.core.text.diffs import FileDiff, unified_diff
from signpost.core.text.errors import InputError, RequestError, SignpostError
from signpost.core.text.source import Source, read_source

if TYPE_CHECKING:
    from signpost.core.findings.site_file import SiteFile


class Folder:
    """A site's folder on disk."""

    def __init__(self, root: Path) -> None:
        if not root.is_dir():
            raise RequestError(f"{root} is not a folder.")
        self.root = root.resolve()
        self._pages: dict[str, Page] = {}
        self._site: Site | None = None

    @cached_property
    def site_file(self) -> SiteFile:
        """What the site's own file says. Raises InputError for one that cannot be read."""
        from signpost.core.findings.site_file import SiteFile, read_site_file  # noqa: PLC0415 - all rules

        file = self.root / SITE_FILE
        if not file.is_file():
            return SiteFile()
        try:
            return read_site_file(file.read_bytes().decode("utf-8-sig"))
        except UnicodeDecodeError as error:
            raise InputError(f"{SITE_FILE} is not UTF-8. Save it as UTF-8.") from error

    @classmethod
    def around(cls, page: Path, site: Path | None) -> Folder:
        """Return the folder of a page's site."""
        if not page.is_file():
            raise RequestError(f"{page} is not there." if not page.exists() else f"{page} is not a file.")
        folder = cls(site or page.parent)
        if not page.resolve().is_relative_to(folder.root):
            raise RequestError(f"{page} is not in {folder.root}.")
        return folder

    def page(self, path: Path) -> Page:
        """Return a page by its file. Where its content has no mark, what other pages repeat tells it."""
        name = path.resolve().relative_to(self.root).as_posix()
        found = self._read(name)
        return self.site().pages.get(name, found) if found.outer else found

    def source(self, path: str) -> Source:
        """Return the source of a page, or of a text that pages load."""
        return self.site().texts[path] if self._site and path in self._site.texts else self._read(path).source

    def read(self, path: str) -> bytes | None:
        """Return a file's bytes; None where the folder has none of that name."""
        return (self.root / path).read_bytes() if path in self.site().files else None

    def _read(self, name: str) -> Page:
        if name not in self._pages:
            source = read_source((self.root / name).read_bytes())
            marks = self.site_file.marks(name) if (self.root / SITE_FILE).is_file() else Marks()
            self._pages[name] = read_page(name, source, marks)
        return self._pages[name]

    def site(self) -> Site:
        """Return all pages of the folder; those that cannot be read as text count as files."""
        if self._site is None:
            files = frozenset(self._walk())
            texts: dict[str, Source] = {}
            for name in sorted(files):
                with contextlib.suppress(SignpostError):
                    if is_page_path(name):
                        self._read(name)
                    elif is_text_path(name) or name == SITE_FILE:
                        texts[name] = read_source((self.root / name).read_bytes())
            pages = self._with_repeats()
            self._site = Site(pages, files | frozenset(pages), texts=texts)
        return self._site

    def _with_repeats(self) -> dict[str, Page]:
        repeated = find_repeated(page.outer for page in self._pages.values())
        found = {name: repeats_on(page.outer, repeated) for name, page in self._pages.items()}
        return {
            name: read_page(name, page.source, replace(page.marks, repeated=found[name])) if found[name] else page
            for name, page in self._pages.items()
        }

    def _walk(self) -> Iterator[str]:
        """Yield the paths of the folder's files; what is no file, or has a name that is no text, is passed over."""
        for folder, folders, names in os.walk(self.root):
            folders[:] = [name for name in folders if not name.startswith(".")]
            for name in names:
                file = Path(folder) / name
                path = file.relative_to(self.root).as_posix()
                if not _is_text(path):
                    tell(f"{path.encode(errors='backslashreplace').decode()}: its name is not UTF-8; passed over.")
                elif file.is_file():
                    yield path
                elif file.is_symlink():
                    tell(f"{path}: a link to something that is not there; passed over.")


def _is_text(path: str) -> bool:
    try:
        path.encode()
    except UnicodeEncodeError:
        return False
    return True


def tell(message: str) -> None:
    """Say something beside the results, on standard error."""
    print(f"signpost: {message}", file=sys.stderr)


def carry_out(folder: Folder, plan: SitePlan, write: bool, out: Path | None = None) -> None:
    """Print a plan's diff, and with `write` write its files, each as a whole."""
    old_paths = {new: old for old, new in plan.moves.items()}
    results = plan.outcome(folder.source, lambda path: (folder.root / path).read_bytes())
    diffs = []
    for path in sorted(results):
        old = old_paths.get(path)
        if path in plan.moves and results[path] is None:
            continue  # shown where it is then
        file = folder.root / (old or path)
        diffs.append(FileDiff(path, file.read_bytes() if file.is_file() else None, results[path], old))
    sys.stdout.buffer.write(unified_diff(diffs))
    sys.stdout.buffer.flush()
    if plan.question is not None:
        answers = " or ".join(f"--{plan.question.name} {choice}" for choice in plan.question.choices)
        question = f"{plan.question.words} Answer with {answers}."
        if write:
            raise RequestError(f"{question} Nothing was written.")
        tell(question)
    for note in plan.notes or (() if plan else ("Nothing to change.",)):
        tell(note)
    if write:
        write_files(out or folder.root, results, old_paths)


def write_files(root: Path, files: Mapping[str, bytes | None], old_paths: Mapping[str, str] | None = None) -> None:
    """Write files below a folder, all or none; None for one that goes. Their modes stay.

    `old_paths` says where those that move came from: they take their modes along, and folders that they leave empty
    go. All are written beside their places first, and then renamed; where that fails, what was renamed is put back.
    Raises RequestError for a path that a link leads out of the folder, OSError for what the system refuses.
    """
    root.mkdir(parents=True, exist_ok=True)
    inside = root.resolve()
    places = {path: (root / path).resolve() for path in files}  # a link stays a link; what it points to changes
    for path, place in places.items():
        if not place.is_relative_to(inside):
            raise RequestError(f"{path} is a link that leads out of {root}, so nothing was written.")
    staged: dict[Path, Path] = {}
    try:
        for path, data in files.items():
            if data is not None:
                came_from = (root / old_paths[path]).resolve() if old_paths and path in old_paths else None
                staged[places[path]] = _stage(places[path], data, came_from)
        _put_in_place(list(places.values()), staged)
    finally:
        for leftover in staged.values():
            leftover.unlink(missing_ok=True)
    for old in (old_paths or {}).values():
        for folder in (inside / old).parents:
            if folder == inside or not folder.is_dir() or any(folder.iterdir()):
                break
            folder.rmdir()


def _put_in_place(places: Sequence[Path], staged: Mapping[Path, Path]) -> None:
    """Rename the staged files to their places, and remove the other places' files; all or none."""
    kept: list[tuple[Path, Path | None]] = []
    try:
        for place in places:
            kept.append((place, _keep(place)))
            if place in staged:
                staged[place].replace(place)
            else:
                place.unlink()
    except BaseException:
        for place, before in reversed(kept):
            if before is None:
                place.unlink(missing_ok=True)
            else:
                before.replace(place)
        raise
    finally:
        for _, before in kept:
            if before is not None:
                before.unlink(missing_ok=True)


def _stage(place: Path, data: bytes, came_from: Path | None = None) -> Path:
    """Return a new file beside a place, with its contents and the mode of what is there, or of where it came from."""
    place.parent.mkdir(parents=True, exist_ok=True)
    like = came_from or place
    mode = stat.S_IMODE(like.stat().st_mode) if like.exists() else 0o666 & ~_umask()
    handle, name = tempfile.mkstemp(dir=place.parent, prefix=f".{place.name[:40]}.")
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        Path(name).chmod(mode)
    except BaseException:
        Path(name).unlink(missing_ok=True)
        raise
    return Path(name)


def _keep(place: Path) -> Path | None:
    """Return another name for the file at a place, by which it can be put back; None where there is none."""
    if not place.exists():
        return None
    handle, name = tempfile.mkstemp(dir=place.parent, prefix=f".{place.name[:40]}.")
    os.close(handle)
    shutil.copy2(place, name)
    return Path(name)


def _umask() -> int:
    mask = os.umask(0)
    os.umask(mask)
    return mask
