"""The `signpost` command: the core over plain files. docs/architecture.md says what stays compatible."""

from __future__ import annotations

import contextlib
import json
import os
import re
import stat
import sys
import tempfile
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Annotated, NoReturn

import typer

from signpost.core.chains import plan_in_turn
from signpost.core.chrome import Marks
from signpost.core.contents import ContentsOptions, Form, plan_contents, plan_no_contents
from signpost.core.cuts import best_cuts, cuts_at_level, cuts_by_identifier
from signpost.core.diffs import FileDiff, unified_diff
from signpost.core.edits import apply_edits
from signpost.core.errors import RequestError, SignpostError
from signpost.core.findings import Finding, Severity, check_page, check_site
from signpost.core.identifiers import plan_identifiers
from signpost.core.levels import plan_closed_gaps
from signpost.core.links import is_page_path, is_text_path
from signpost.core.lookalikes import find_lookalikes
from signpost.core.outline import Section, read_outline
from signpost.core.page import Page, read_page
from signpost.core.page.phrasing import count_words
from signpost.core.parts import plan_parts
from signpost.core.promotions import plan_sure
from signpost.core.renames import plan_rename
from signpost.core.returns import Destination, ReturnOptions, plan_no_returns, plan_returns
from signpost.core.site import Site, SitePlan, find_repeated, plan_for, repeats_on
from signpost.core.source import Source, read_source

app = typer.Typer(
    add_completion=False,
    pretty_exceptions_enable=False,
    help="Headed sections, identifiers, contents, ways back and numbered parts for pages coded by hand.",
)

PageArgument = Annotated[Path, typer.Argument(metavar="PAGE", help="The page's file.")]
SiteOption = Annotated[
    Path | None,
    typer.Option("--site", metavar="DIR", help="The site's folder; else the one that the page stands in."),
]
WriteOption = Annotated[bool, typer.Option("--write", help="Write the change; without it, only its diff is printed.")]
RemoveOption = Annotated[bool, typer.Option("--remove", help="Take out what was made earlier.")]


#: Typer's root of all that it refuses. It exports the leaves only.
_Refusal: type[Exception] = typer.BadParameter.__mro__[2]


def main() -> None:
    """Run the command; errors are one line on standard error and exit code 2."""
    try:
        app(standalone_mode=False)
    except _Refusal as error:
        _fail(error.format_message())  # type: ignore[attr-defined]
    except typer.Abort:
        _fail("Stopped; nothing was written.")
    except SignpostError as error:
        _fail(str(error))
    except OSError as error:
        _fail(f"{error.filename or 'A file'}: {error.strerror or error}")


def _fail(message: str) -> NoReturn:
    print("signpost: " + " ".join(message.split()), file=sys.stderr)
    sys.exit(2)


# -------------------------------------------------------------------- commands


@app.command()
def outline(
    page: PageArgument,
    site: SiteOption = None,
    as_json: Annotated[bool, typer.Option("--json", help="Print JSON.")] = False,
) -> None:
    """Print the page as it is understood: sections, targets, links."""
    folder = _Folder.around(page, site)
    found = folder.page(page)
    if as_json:
        print(json.dumps(_outline_json(folder.site(), found), ensure_ascii=False, indent=2))
        return
    lines = found.source.lines
    for section in read_outline(found).flat():
        mark = f"#{section.identifier}" if section.identifier else "(no identifier)"
        indent = "  " * (section.level - 1)
        print(f"{indent}{section.text}  {mark}  line {lines.line(section.start)}, {section.words} words")


@app.command()
def headings(
    page: PageArgument,
    lookalikes: Annotated[bool, typer.Option("--lookalikes", help="Make look-alike headings real.")] = False,
    close_gaps: Annotated[bool, typer.Option("--close-gaps", help="Close the gaps between levels.")] = False,
    site: SiteOption = None,
    write: WriteOption = False,
) -> None:
    """Make look-alike headings real, those scored as sure, and close gaps between levels; without an option, both."""
    folder = _Folder.around(page, site)
    found = folder.page(page)
    both = lookalikes == close_gaps
    planners = [
        *([plan_sure] if lookalikes or both else []),
        *([plan_closed_gaps] if close_gaps or both else []),
    ]
    _carry_out(folder, plan_for(found, plan_in_turn(found, *planners, reason="headings")), write)


@app.command()
def rename(
    page: PageArgument,
    old: Annotated[str, typer.Argument(metavar="OLD", help="The identifier as it is.")],
    new: Annotated[str, typer.Argument(metavar="NEW", help="The identifier as it shall be.")],
    keep_old: Annotated[bool, typer.Option("--keep-old", help="Leave the old one beside the new one.")] = False,
    site: SiteOption = None,
    write: WriteOption = False,
) -> None:
    """Rename an identifier, with all references to it in the site."""
    folder = _Folder.around(page, site)
    path = folder.page(page).path
    plan = plan_rename(folder.site(), path, old.removeprefix("#"), new.removeprefix("#"), keep_old=keep_old)
    _carry_out(folder, plan, write)


@app.command()
def identify(
    page: PageArgument,
    levels: Annotated[str, typer.Option("--levels", metavar="A-B", help="Levels of headings.")] = "2-6",
    site: SiteOption = None,
    write: WriteOption = False,
) -> None:
    """Give identifiers to the headings that have none."""
    folder = _Folder.around(page, site)
    found = folder.page(page)
    _carry_out(folder, plan_for(found, plan_identifiers(found, read_levels(levels))), write)


@app.command()
def contents(
    page: PageArgument,
    levels: Annotated[str, typer.Option("--levels", metavar="A-B", help="Levels of sections listed.")] = "2-3",
    form: Annotated[Form, typer.Option("--form", help="Nested lists, or one row.")] = Form.LIST,
    remove: RemoveOption = False,
    site: SiteOption = None,
    write: WriteOption = False,
) -> None:
    """Make or refresh the contents, or take them out again."""
    folder = _Folder.around(page, site)
    found = folder.page(page)
    edits = plan_no_contents(found) if remove else plan_contents(found, ContentsOptions(read_levels(levels), form))
    _carry_out(folder, plan_for(found, edits), write)


@app.command()
def returns(
    page: PageArgument,
    level: Annotated[int, typer.Option("--level", min=1, max=6, help="Level of the sections.")] = 2,
    to: Annotated[Destination, typer.Option("--to", help="Where they lead.")] = Destination.TOP,
    min_words: Annotated[int, typer.Option("--min-words", min=0, help="Shorter sections get none.")] = 0,
    remove: RemoveOption = False,
    site: SiteOption = None,
    write: WriteOption = False,
) -> None:
    """Make or refresh back-to-top links, or take them out again."""
    folder = _Folder.around(page, site)
    found = folder.page(page)
    edits = plan_no_returns(found) if remove else plan_returns(found, ReturnOptions(level, to, min_words))
    _carry_out(folder, plan_for(found, edits), write)


@app.command()
def parts(
    page: PageArgument,
    out: Annotated[Path, typer.Option("--out", metavar="DIR", help="Where the parts are written.")],
    into: Annotated[int | None, typer.Option("--into", metavar="N", min=1, help="How many parts.")] = None,
    at: Annotated[str | None, typer.Option("--at", metavar="ID,…", help="Sections that begin a part.")] = None,
    level: Annotated[int | None, typer.Option("--level", min=1, max=6, help="Cut before each of this level.")] = None,
    site: SiteOption = None,
    write: WriteOption = False,
) -> None:
    """Cut the page into numbered parts; they and all pages whose links change are written to a folder."""
    if sum(choice is not None for choice in (into, at, level)) != 1:
        raise typer.BadParameter("Say where to cut with one of --into, --at or --level.")
    folder = _Folder.around(page, site)
    found = folder.page(page)
    if into is not None:
        cuts = best_cuts(found, into)
    elif at is not None:
        cuts = cuts_by_identifier(found, [name.strip().lstrip("#") for name in at.split(",") if name.strip()])
    else:
        cuts = cuts_at_level(found, level or 1)
    plan = plan_parts(folder.site(), found.path, cuts)
    _carry_out(folder, plan, write, out)


@app.command()
def check(
    path: Annotated[Path, typer.Argument(metavar="PATH", help="A page or a site's folder.")],
    as_json: Annotated[bool, typer.Option("--json", help="Print JSON.")] = False,
    fail_on: Annotated[str, typer.Option("--fail-on", metavar="error|warning|never")] = "error",
    site: SiteOption = None,
) -> None:
    """Print what does not hold."""
    if fail_on not in ("error", "warning", "never"):
        raise typer.BadParameter("--fail-on takes error, warning or never.")
    if path.is_dir():
        findings = check_site(_Folder(site or path).site())
    else:
        folder = _Folder.around(path, site)
        findings = check_page(folder.site(), folder.page(path).path)
    if as_json:
        print(json.dumps(_findings_json(findings), ensure_ascii=False, indent=2))
    else:
        for finding in findings:
            place = f"{finding.page}:{finding.place.line}:{finding.place.column}"
            print(f"{place}: {finding.rule.severity}: {finding.message} [{finding.rule.code}]")
    failing = {"error": {Severity.ERROR}, "warning": {Severity.ERROR, Severity.WARNING}, "never": set()}[fail_on]
    if any(finding.rule.severity in failing for finding in findings):
        sys.exit(1)


def read_levels(levels: str) -> list[int]:
    """Return the levels that "2-6", "2" or "2,4" name. Raises RequestError for anything else."""
    found: list[int] = []
    for piece in levels.split(","):
        first, dash, last = piece.strip().partition("-")
        if not (first.isdigit() and (last.isdigit() or not dash)):
            raise RequestError(f"“{levels}” names no levels; write them as 2-6, 2 or 2,4.")
        found += range(int(first), int(last or first) + 1)
    if not found or min(found) < 1:
        raise RequestError(f"“{levels}” names no levels; write them as 2-6, 2 or 2,4.")
    return found


# -------------------------------------------------------------------- files


class _Folder:
    """A site's folder on disk."""

    def __init__(self, root: Path) -> None:
        if not root.is_dir():
            raise RequestError(f"{root} is not a folder.")
        self.root = root.resolve()
        self._pages: dict[str, Page] = {}
        self._site: Site | None = None

    @classmethod
    def around(cls, page: Path, site: Path | None) -> _Folder:
        """Return the folder of a page's site."""
        if not page.is_file():
            raise RequestError(f"{page} is not there." if not page.exists() else f"{page} is not a file.")
        folder = cls(site or page.parent)
        if not page.resolve().is_relative_to(folder.root):
            raise RequestError(f"{page} does not stand in {folder.root}.")
        return folder

    def page(self, path: Path) -> Page:
        """Return a page by its file. Where its content has no mark, what other pages repeat tells it."""
        name = path.resolve().relative_to(self.root).as_posix()
        found = self._read(name)
        return self.site().pages.get(name, found) if found.outer else found

    def source(self, path: str) -> Source:
        """Return the source of a page, or of a text that pages load."""
        return self.site().texts[path] if self._site and path in self._site.texts else self._read(path).source

    def _read(self, name: str) -> Page:
        if name not in self._pages:
            self._pages[name] = read_page(name, read_source((self.root / name).read_bytes()))
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
                    elif is_text_path(name):
                        texts[name] = read_source((self.root / name).read_bytes())
            pages = self._with_repeats()
            self._site = Site(pages, files | frozenset(pages), texts=texts)
        return self._site

    def _with_repeats(self) -> dict[str, Page]:
        repeated = find_repeated(self._pages.values())
        found = {name: repeats_on(page, repeated) for name, page in self._pages.items()}
        return {
            name: read_page(name, page.source, Marks(repeated=found[name])) if found[name] else page
            for name, page in self._pages.items()
        }

    def _walk(self) -> Iterator[str]:
        for folder, folders, names in os.walk(self.root):
            folders[:] = [name for name in folders if not name.startswith(".")]
            for name in names:
                yield (Path(folder) / name).relative_to(self.root).as_posix()


def _carry_out(folder: _Folder, plan: SitePlan, write: bool, out: Path | None = None) -> None:
    """Print a plan's diff, and with `write` write its files, each as a whole."""
    results: dict[str, bytes] = {}
    diffs = []
    for path in sorted({*plan.edits, *plan.new_files}):
        before = None
        if path in plan.edits:
            source = folder.source(path)
            before = (folder.root / path).read_bytes()
            results[path] = apply_edits(source, plan.edits[path])
        else:
            results[path] = plan.new_files[path]
        diffs.append(FileDiff(path, before, results[path]))
    sys.stdout.buffer.write(unified_diff(diffs))
    sys.stdout.buffer.flush()
    for note in plan.notes or (() if plan else ("Nothing to change.",)):
        print(f"signpost: {note}", file=sys.stderr)
    if write:
        for path, data in results.items():
            write_file((out or folder.root) / path, data)


def write_file(path: Path, data: bytes) -> None:
    """Write a file as a whole: a new one, then a rename; the mode of the one it replaces is kept."""
    path.parent.mkdir(parents=True, exist_ok=True)
    path = path.resolve()  # a link stays a link; what it points to changes
    mode = stat.S_IMODE(path.stat().st_mode) if path.exists() else None
    handle, name = tempfile.mkstemp(dir=path.parent, prefix=f".{path.name}.")
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        Path(name).chmod(0o666 & ~_umask() if mode is None else mode)
        Path(name).replace(path)
    except BaseException:
        Path(name).unlink(missing_ok=True)
        raise


def _umask() -> int:
    mask = os.umask(0)
    os.umask(mask)
    return mask


# -------------------------------------------------------------------- JSON


def _outline_json(site: Site, page: Page) -> dict[str, object]:
    lines = page.source.lines
    line: Callable[[int], int] = lines.line
    found = find_lookalikes(page)

    def lookalikes_json(start: int, end: int) -> list[dict[str, object]]:
        """Return the look-alikes between two offsets, as sections within one another by their levels."""
        listed: list[dict[str, object]] = []
        open_: list[tuple[int, list[dict[str, object]]]] = [(0, listed)]
        within = [one for one in found if start <= one.start < end]
        for row, one in enumerate(within):
            after = next((other.start for other in within[row + 1 :] if other.level <= one.level), end)
            while open_[-1][0] >= one.level:
                open_.pop()
            inner: list[dict[str, object]] = []
            open_[-1][1].append(
                {
                    "level": one.level,
                    "text": one.text,
                    "id": one.identifier,
                    "line": line(one.start),
                    "start": one.start,
                    "end": after,
                    "words": count_words(re.sub(r"<[^>]*>", " ", page.text[one.start : after])),
                    "lookalike": True,
                    "sections": inner,
                }
            )
            open_.append((one.level, inner))
        return listed

    def section_json(section: Section) -> dict[str, object]:
        inner_start = section.sections[0].start if section.sections else section.end
        return {
            "level": section.level,
            "text": section.text,
            "id": section.identifier,
            "line": line(section.start),
            "start": section.start,
            "end": section.end,
            "words": section.words,
            "lookalike": False,
            "sections": [
                *lookalikes_json(section.start, inner_start),
                *(section_json(part) for part in section.sections),
            ],
        }

    sections = read_outline(page).sections
    lead_end = sections[0].start if sections else len(page.text)
    return {
        "page": page.path,
        "encoding": page.source.encoding,
        "newline": page.source.newline,
        "title": page.title,
        "words": page.words,
        "sections": [*lookalikes_json(0, lead_end), *(section_json(section) for section in sections)],
        "targets": [
            {"id": target.name, "attribute": target.attribute, "element": target.element, "line": line(target.start)}
            for target in page.targets
        ],
        "links": [
            {
                "href": link.href,
                "text": link.text,
                "kind": link.kind.value,
                "resolves": site.resolves(page.path, link),
                "line": line(link.start),
            }
            for link in page.links
        ],
    }


def _findings_json(findings: list[Finding]) -> dict[str, object]:
    counts = {severity.value: 0 for severity in Severity}
    for finding in findings:
        counts[finding.rule.severity.value] += 1
    return {
        "findings": [
            {
                "rule": finding.rule.code,
                "severity": finding.rule.severity.value,
                "page": finding.page,
                "line": finding.place.line,
                "column": finding.place.column,
                "message": finding.message,
                "fix": finding.rule.fix.value,
                "reference": finding.rule.reference,
            }
            for finding in findings
        ],
        "counts": counts,
    }
