"""The commands `check`, `fix` and `explain`: what is wrong, put right, and why."""

from __future__ import annotations

import json
import sys
from collections.abc import Collection, Sequence
from dataclasses import replace
from pathlib import Path
from typing import Annotated

import typer

from signpost.cli.abreast import check_pages
from signpost.cli.folder import Folder, carry_out, tell
from signpost.cli.options import SiteOption, WriteOption, read_names
from signpost.core.findings import RULES, Finding, Severity
from signpost.core.findings.fixing import MADE_ANEW, plan_fixes
from signpost.core.findings.landings import check_measured
from signpost.core.findings.options import CheckOptions
from signpost.core.findings.reports import findings_csv, findings_json, sarif_json
from signpost.core.findings.rule import Rule
from signpost.core.landings.geometry import Window
from signpost.core.page.lengths import WINDOW_HEIGHT, WINDOW_WIDTH

PathArgument = Annotated[Path, typer.Argument(metavar="PATH", help="A page or a site's folder.")]
SelectOption = Annotated[str | None, typer.Option("--select", metavar="CODE,…", help="Only these rules.")]
_FAILING = {"error": {Severity.ERROR}, "warning": {Severity.ERROR, Severity.WARNING}, "never": set[Severity]()}


def check(
    path: PathArgument,
    as_json: Annotated[bool, typer.Option("--json", help="Print JSON.")] = False,
    as_sarif: Annotated[bool, typer.Option("--sarif", help="Print SARIF 2.1.0.")] = False,
    as_csv: Annotated[bool, typer.Option("--csv", help="Print CSV.")] = False,
    select: SelectOption = None,
    ignore: Annotated[str | None, typer.Option("--ignore", metavar="CODE,…", help="Without these rules.")] = None,
    fail_on: Annotated[str, typer.Option("--fail-on", metavar="error|warning|never")] = "error",
    measure: Annotated[
        bool, typer.Option("--measure", help="Render the pages in Chromium, and find what only that shows.")
    ] = False,
    site: SiteOption = None,
) -> None:
    """Print what is wrong."""
    if fail_on not in _FAILING:
        raise typer.BadParameter("--fail-on takes error, warning or never.")
    if as_json + as_sarif + as_csv > 1:
        raise typer.BadParameter("Choose one of --json, --sarif and --csv.")
    folder, page = _open(path, site)
    options = _options(folder, select, ignore)
    paths = sorted(folder.site().pages) if page is None else [page]
    found = check_pages(folder.site(), paths, options)
    if measure:
        found += _measure(folder, paths, options)
        found.sort(key=lambda one: (one.page, one.span.start, one.rule.code))
    if as_json:
        print(json.dumps(findings_json(found), ensure_ascii=False, indent=2))
    elif as_sarif:
        print(json.dumps(sarif_json(found), ensure_ascii=False, indent=2))
    elif as_csv:
        sys.stdout.write(findings_csv(found))
    else:
        for one in found:
            place = f"{one.page}:{one.place.line}:{one.place.column}"
            print(f"{place}: {one.rule.severity}: {one.message} [{one.rule.code}]")
    if any(one.rule.severity in _FAILING[fail_on] for one in found):
        sys.exit(1)


def fix(
    path: PathArgument,
    select: SelectOption = None,
    ask_none: Annotated[
        bool, typer.Option("--ask-none", help="Leave what takes a choice, though it is selected.")
    ] = False,
    choice: Annotated[
        int | None, typer.Option("--choice", metavar="N", min=1, help="Fix what takes a choice by its first, second…")
    ] = None,
    site: SiteOption = None,
    write: WriteOption = False,
) -> None:
    """Fix what can be fixed without a question, or what is selected."""
    chosen = _codes(select)
    if ask_none:
        chosen = None if chosen is None else [code for code in chosen if code not in MADE_ANEW]
        choice = None
    folder, page = _open(path, site)
    paths = sorted(folder.site().pages) if page is None else [page]
    picked = None if choice is None else choice - 1
    options = _options(folder, select, None)
    carry_out(folder, plan_fixes(folder.site(), paths, chosen, choice=picked, options=options), write)


def _measure(folder: Folder, paths: Sequence[str], options: CheckOptions) -> list[Finding]:
    """Return what only rendered pages tell; where they cannot be rendered, say so."""
    from signpost.browser.chromium import find_chromium, measure_pages  # noqa: PLC0415 - most runs do without

    program = find_chromium()
    if program is None:
        tell("Chromium is not installed, so where jumps land and what does not fit was not looked at.")
        return []
    site = folder.site()
    window = Window(WINDOW_WIDTH, WINDOW_HEIGHT)
    measured = measure_pages(program, {path: site.pages[path] for path in paths}, folder.read, window)
    missing = [path for path in paths if path not in measured]
    if missing:
        tell(f"Chromium did not render {missing[0]} and {len(missing) - 1} more; they were not measured.")
    return [one for path in paths for one in check_measured(site, path, measured, options)]


def _options(folder: Folder, select: str | None, ignore: str | None) -> CheckOptions:
    """Return how a folder is checked: as its own file says, and as the options do."""
    checks = folder.site_file.checks
    ignored = tuple(_codes(ignore) or ())
    return replace(checks, off=(*checks.off, *ignored)).options(only=_without(_codes(select), ignored))


def _without(codes: Collection[str] | None, ignored: Collection[str]) -> Collection[str] | None:
    return None if codes is None else [code for code in codes if code not in ignored]


def explain(
    code: Annotated[
        str | None, typer.Argument(metavar="[CODE]", help="A rule's code; without it, all are listed.")
    ] = None,
) -> None:
    """Print what a rule is about: why, wrong and right, where it is written. Without a code, list all rules."""
    if code is None:
        for listed in sorted(RULES.values(), key=lambda rule: rule.code):
            print(f"{listed.code:24}{listed.severity.value:9}{listed.title}{_why_off(listed)}")
        return
    rule = RULES[next(iter(_codes(code) or ()))]
    print(f"{rule.code} ({rule.severity}): {rule.title}.")
    off = _why_off(rule).strip(" ()")
    parts = (("Why", rule.why), ("Wrong", rule.wrong), ("Right", rule.right), ("See", rule.reference), ("Note", off))
    for label, text in parts:
        if text:
            print(f"  {label + ':':7}{text}")


def _why_off(rule: Rule) -> str:
    """Return that a rule is off, and why; "" for one that is on."""
    return f" (off unless signpost.toml or --select names it: {rule.off})" if rule.off else ""


def _open(path: Path, site: Path | None) -> tuple[Folder, str | None]:
    """Return the folder of a page or site, and the page's path in it; None for a site."""
    if path.is_dir():
        return Folder(site or path), None
    folder = Folder.around(path, site)
    return folder, folder.page(path).path


def _codes(written: str | None) -> Collection[str] | None:
    """Return the rules that an option names; None where it is not given."""
    if written is None:
        return None
    names = read_names(written)
    unknown = [name for name in names if name not in RULES]
    if unknown or not names:
        near = ", ".join(sorted(RULES))
        raise typer.BadParameter(f"There is no rule “{', '.join(unknown)}”. The rules are {near}.")
    return names
