"""A site's folder on disk: read as a site, written whole files at a time."""

from __future__ import annotations

import contextlib
import hashlib
import posixpath
import sys
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import replace
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

from signpost.core.addresses.links import LinkKind, classify_link, is_page_path, is_text_path, path_of
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

#: What tells of a run that was killed, in a site's folder.
JOURNAL = ".signpost-journal"


class Folder:
    """A site's folder on disk."""

    def __init__(self, root: Path, *, is_named: bool = True) -> None:
        """Take a folder; `is_named` where its author named it as the site's, and it was not found by looking."""
        if not root.is_dir():
            raise RequestError(f"{root} is not a folder.")
        self.root = root.resolve()
        self.is_named = is_named
        self._pages: dict[str, Page] = {}
        self._site: Site | None = None
        _recover(self.root)

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
        """Return the folder of a page's site: the one that is named, or else that which is found above the page."""
        if not page.is_file():
            raise RequestError(f"{page} is not there." if not page.exists() else f"{page} is not a file.")
        folder = cls(site or find_root(page), is_named=site is not None)
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

    def refuse_links_above(self) -> None:
        """Raise RequestError where a page leads to a file above the folder, which was not named as the site's.

        What leads to the page from there would not be found.
        """
        if self.is_named:
            return
        for path, page in self.site().pages.items():
            for link in page.links:
                above = _above(path, link.href)
                if above is not None and (self.root / above).exists():
                    raise RequestError(
                        f"{path} leads to {link.href}, above {self.root}: links from there would break unseen. Name "
                        "the folder of the whole site with --site."
                    )

    def _walk(self) -> Iterator[str]:
        """Yield the paths of the folder's files; what is no file, or has a name that is no text, is passed over.

        What `.gitignore` and the site's own file leave out is not there.
        """
        from signpost.folders.opened import OpenedFolder  # noqa: PLC0415 - most commands read one page
        from signpost.folders.scanning import walk  # noqa: PLC0415

        patterns = self.site_file.ignored if (self.root / SITE_FILE).is_file() else ()
        with OpenedFolder(self.root) as folder:
            for entry in walk(folder, patterns):
                file = self.root / entry.path
                if not _is_text(entry.path):
                    said = entry.path.encode(errors="backslashreplace").decode()
                    tell(f"{said}: its name is not UTF-8; passed over.")
                elif file.is_file():
                    yield entry.path
                elif file.is_symlink():
                    tell(f"{entry.path}: a link to something that is not there; passed over.")


#: What tells that a folder is a work tree of version control.
_VERSION_CONTROL = (".git", ".hg", ".svn", ".bzr", "_darcs", ".jj")


def find_root(file: Path) -> Path:
    """Return the folder of a file's site: the nearest above with the site's file or version control, else its own."""
    above = (file.parent.resolve() / file.name).parents  # a link is where its name is
    for folder in above:
        if (folder / SITE_FILE).is_file() or any((folder / name).exists() for name in _VERSION_CONTROL):
            return folder
    return above[0]


def _above(page: str, href: str | None) -> str | None:
    """Return the path that a relative address leads to, where that is above the site's folder; None else."""
    if href is None or classify_link(href) not in (LinkKind.PAGE, LinkKind.FILE) or href.strip()[:1] == "/":
        return None
    path = posixpath.normpath(posixpath.join(posixpath.dirname(page), path_of(href.strip())))
    return path if path.startswith("../") else None


def _recover(root: Path) -> None:
    """Put back what a run that was killed left half written, and say so."""
    if not (root / JOURNAL).exists():
        return
    from signpost.cli.writing import recover  # noqa: PLC0415 - seldom needed

    found = recover(root)
    if found is not None and found.files:
        tell(f"A run that was killed had written some of {found.files} files of {root}; they are as they were.")
        for path in found.kept:
            tell(f"{path} is what was there before it; the file beside it was edited since.")


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
    """Print a plan's diff, and with `write` write its files: all or none, over nothing that was saved since."""
    before: dict[str, bytes | None] = {path: folder.source(path).data for path in plan.edits}

    def read(path: str) -> bytes | None:
        if path not in before:
            file = folder.root / path
            before[path] = file.read_bytes() if file.is_file() else None
        return before[path]

    old_paths = {new: old for old, new in plan.moves.items()}
    results = plan.outcome(folder.source, lambda path: read(path) or b"")
    shown = [path for path in sorted(results) if not (path in plan.moves and results[path] is None)]
    diffs = [FileDiff(path, read(old_paths.get(path, path)), results[path], old_paths.get(path)) for path in shown]
    sys.stdout.buffer.write(unified_diff(_from_here(out or folder.root, diffs)))
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
        write_files(out or folder.root, results, None if out else {path: read(path) for path in results}, old_paths)


def _from_here(root: Path, diffs: Sequence[FileDiff]) -> list[FileDiff]:
    """Return diffs whose paths are those from where one stands, where all of them are below; else from the site."""
    try:
        here = root.resolve().relative_to(Path.cwd()).as_posix()
        return [_renamed(one, lambda path: posixpath.normpath(posixpath.join(here, path))) for one in diffs]
    except ValueError:
        pass
    try:
        within = Path.cwd().relative_to(root.resolve()).as_posix() + "/"
    except (ValueError, OSError):
        within = "/"
    paths = [path for one in diffs for path in (one.path, one.moved_from) if path]
    if all(path.startswith(within) for path in paths):
        return [_renamed(one, lambda path: path.removeprefix(within)) for one in diffs]
    tell(f"The paths of the diff are those from {root}.")
    return list(diffs)


def _renamed(diff: FileDiff, name: Callable[[str], str]) -> FileDiff:
    old = diff.moved_from
    return replace(diff, path=name(diff.path), moved_from=None if old is None else name(old))


def write_files(
    root: Path,
    files: Mapping[str, bytes | None],
    before: Mapping[str, bytes | None] | None = None,
    old_paths: Mapping[str, str] | None = None,
) -> None:
    """Write files below a folder, all or none; None for one that goes. Their modes stay.

    `before` is what they were when they were read; without it, as they are now. `old_paths` says where those that
    move came from: they take their modes along, and folders that they leave empty go. Raises RequestError for a path
    that a link leads out of the folder, InputError where a file was saved since, OSError for what the system refuses.
    """
    from signpost.cli.writing import write_all  # noqa: PLC0415 - most runs write nothing
    from signpost.folders.writing import Step  # noqa: PLC0415

    root.mkdir(parents=True, exist_ok=True)
    inside = root.resolve()
    steps: dict[str, Step] = {}
    for path, data in files.items():
        place = (root / path).resolve()  # a link stays a link; what it points to changes
        if not place.is_relative_to(inside):
            raise RequestError(f"{path} is a link that leads out of {root}, so nothing was written.")
        was = before[path] if before is not None else place.read_bytes() if place.is_file() else None
        if data == was:
            continue
        name = place.relative_to(inside).as_posix()
        like = old_paths[path] if old_paths and path in old_paths else ""
        steps[name] = Step(name, None if was is None else hashlib.sha256(was).hexdigest(), data, like=like)
    if steps:
        write_all(inside, list(steps.values()))
