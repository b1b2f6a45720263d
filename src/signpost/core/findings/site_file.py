"""`signpost.toml` in a site's folder: what its author settled about the site, for the command and the desk alike."""

from __future__ import annotations

import json
import tomllib
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any

from signpost.core.findings.catalogue import RULES, Severity
from signpost.core.findings.options import Checks, PageLimits, SetAside
from signpost.core.page.furniture import Marks
from signpost.core.site.site import SITE_FILE
from signpost.core.text.errors import InputError

_HEAD = "# How this site is read and checked. Humble Signpost writes it when asked, and reads what you write.\n"


@dataclass(frozen=True)
class SiteFile:
    """What a site's file says."""

    checks: Checks = field(default_factory=Checks)
    regions: Mapping[str, Marks] = field(default_factory=dict)  # by page; "" for all pages
    levels: tuple[int, ...] | None = None  # of the headings that get identifiers; None for the usual ones
    ignored: tuple[str, ...] = ()  # patterns, as in .gitignore, of what in its folder is no part of the site

    def marks(self, path: str) -> Marks:
        """Return what is said of a page's regions."""
        own, shared = self.regions.get(path, Marks()), self.regions.get("", Marks())
        return Marks(
            own.content or shared.content,
            tuple(dict.fromkeys([*own.furniture, *shared.furniture])),
            tuple(dict.fromkeys([*own.own, *shared.own])),
        )


def read_site_file(text: str) -> SiteFile:
    """Return what a site's file says. Raises InputError for one that is no TOML, or says what nobody understands."""
    try:
        said = tomllib.loads(text)
    except (ValueError, RecursionError) as error:  # also for numbers and brackets beyond what can be read
        what = str(error).partition(";")[0] if isinstance(error, ValueError) else "its brackets are too deep"
        raise InputError(f"{SITE_FILE} cannot be read: {what}. Correct it, or remove the file.") from error
    reader = _Reader()
    found = SiteFile(reader.checks(said), reader.regions(said), reader.levels(said), reader.ignored(said))
    reader.refuse_rest(said)
    return found


class _Reader:
    """Takes what it knows out of tables; what is left is refused, for it would do nothing."""

    def checks(self, said: dict[str, Any]) -> Checks:
        table = self._table(said, "check")
        limits = self._table(said, "limits")
        severities = self._table(table, "severity")
        found = Checks(
            self._codes(table, "off"),
            self._codes(table, "on"),
            {self._code(code): self._severity(code, value) for code, value in severities.items()},
            PageLimits(
                self._number(limits, "sections", PageLimits().sections, int),
                self._number(limits, "windows", PageLimits().windows, float),
            ),
            tuple(self._aside(one) for one in self._tables(said, "aside")),
            self._words(table, "left-out"),
        )
        self._empty(table, "[check]")
        self._empty(limits, "[limits]")
        return found

    def regions(self, said: dict[str, Any]) -> dict[str, Marks]:
        table = self._table(said, "regions")
        pages = {path: table.pop(path) for path in list(table) if isinstance(table[path], dict)}
        found = {path: self._marks(one, f"[regions.{json.dumps(path)}]") for path, one in pages.items()}
        shared = self._marks(table, "[regions]")
        return found if shared == Marks() else {"": shared, **found}

    def levels(self, said: dict[str, Any]) -> tuple[int, ...] | None:
        table = self._table(said, "identifiers")
        levels = table.pop("levels", None)
        self._empty(table, "[identifiers]")
        if levels is None:
            return None
        if not isinstance(levels, list) or not levels or any(one not in range(1, 7) for one in levels):
            raise self._error("levels in [identifiers] is a list of levels, such as [2, 3]")
        return tuple(sorted(set(levels)))

    def ignored(self, said: dict[str, Any]) -> tuple[str, ...]:
        table = self._table(said, "folder")
        found = self._words(table, "ignore")
        self._empty(table, "[folder]")
        return found

    def refuse_rest(self, said: dict[str, Any]) -> None:
        self._empty(said, "this file")

    def _marks(self, table: dict[str, Any], where: str) -> Marks:
        content = table.pop("content", None)
        if content is not None and not isinstance(content, str):
            raise self._error(f"content in {where} is a selector, such as “#main”")
        marks = Marks(content, self._words(table, "furniture"), self._words(table, "own"))
        self._empty(table, where)
        return marks

    def _aside(self, table: dict[str, Any]) -> SetAside:
        given = {name: table.pop(name, "") for name in ("rule", "page", "words", "reason")}
        if any(not isinstance(value, str) for value in given.values()):
            raise self._error("rule, page, words and reason in [[aside]] are words in quotation marks")
        self._empty(table, "[[aside]]")
        return SetAside(self._code(given.pop("rule")), **given)

    # ------------------------------------------------------------------ values

    def _table(self, said: dict[str, Any], name: str) -> dict[str, Any]:
        found = said.pop(name, {})
        if not isinstance(found, dict):
            raise self._error(f"{name} is a table, written [{name}]")
        return found

    def _tables(self, said: dict[str, Any], name: str) -> Iterable[dict[str, Any]]:
        found = said.pop(name, [])
        if not isinstance(found, list) or any(not isinstance(one, dict) for one in found):
            raise self._error(f"{name} is a list of tables, each written [[{name}]]")
        return found

    def _words(self, table: dict[str, Any], name: str) -> tuple[str, ...]:
        found = table.pop(name, [])
        if not isinstance(found, list) or any(not isinstance(one, str) for one in found):
            raise self._error(f"{name} is a list of words in quotation marks")
        return tuple(found)

    def _codes(self, table: dict[str, Any], name: str) -> tuple[str, ...]:
        return tuple(self._code(code) for code in self._words(table, name))

    def _code(self, code: str) -> str:
        if code not in RULES:
            raise self._error(f"there is no rule “{code}”; “signpost explain” lists them")
        return code

    def _severity(self, code: str, value: Any) -> Severity:
        if value not in set(Severity):
            raise self._error(f"the severity of {code} is error, warning or advice")
        return Severity(value)

    def _number(self, table: dict[str, Any], name: str, usual: Any, kind: Callable[[Any], Any]) -> Any:
        value = table.pop(name, usual)
        if isinstance(value, bool) or not isinstance(value, int | float) or value < 0:
            raise self._error(f"{name} in [limits] is a number")
        return kind(value)

    def _empty(self, table: dict[str, Any], where: str) -> None:
        if table:
            raise self._error(f"{where} says “{next(iter(table))}”, which means nothing")

    @staticmethod
    def _error(said: str) -> InputError:
        return InputError(f"{SITE_FILE}: {said}.")


def write_site_file(site_file: SiteFile) -> str:
    """Return the text of a site's file, as `read_site_file` reads it; what is as usual is left out."""
    checks = site_file.checks
    lines = [_HEAD]
    lines += _section("[check]", {"off": checks.off, "on": checks.on, "left-out": checks.left_out})
    lines += _section("[check.severity]", {code: one.value for code, one in sorted(checks.severities.items())})
    limits = (
        {}
        if checks.limits == PageLimits()
        else {"sections": checks.limits.sections, "windows": checks.limits.windows}
    )
    lines += _section("[limits]", limits)
    lines += _section("[identifiers]", {"levels": list(site_file.levels or ())})
    for path, marks in sorted(site_file.regions.items()):
        head = "[regions]" if not path else f"[regions.{_quoted(path)}]"
        lines += _section(head, {"content": marks.content or "", "furniture": marks.furniture, "own": marks.own})
    for one in checks.aside:
        said = {"rule": one.rule, "page": one.page, "words": one.words, "reason": one.reason}
        lines += _section("[[aside]]", said)
    return "\n".join(lines)


def _section(head: str, values: Mapping[str, Any]) -> list[str]:
    said = {name: value for name, value in values.items() if value not in ("", (), [])}
    if not said:
        return []
    return [head, *(f"{name} = {_written(value)}" for name, value in said.items()), ""]


def _written(value: Any) -> str:
    if isinstance(value, str):
        return _quoted(value)
    if isinstance(value, list | tuple):
        return "[" + ", ".join(map(_written, value)) + "]"
    return str(value)


def _quoted(words: str) -> str:
    """Return words as a basic string (TOML 1.0): JSON's escapes are its own, and DEL is escaped too."""
    return json.dumps(words, ensure_ascii=False).replace("\x7f", "\\u007f")
