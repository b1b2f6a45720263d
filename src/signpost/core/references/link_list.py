"""All links of a site as a table, and such a table read again to change addresses in bulk."""

from __future__ import annotations

import csv
import json
from collections import defaultdict
from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import asdict, dataclass, fields

from signpost.core.addresses.links import LinkKind
from signpost.core.page import Link, Page, Target
from signpost.core.site.index import fetched
from signpost.core.site.plans import SitePlan, plan_edits
from signpost.core.site.site import NoFile, NoTarget, Resolved, Site
from signpost.core.text.edits import Edit
from signpost.core.text.errors import RequestError
from signpost.core.text.tables import read_cell, write_csv
from signpost.core.text.tags import value_edit

#: How many rows of a list are read.
MOST_ROWS = 200_000
_MOST_NOTES = 20


@dataclass(frozen=True, slots=True)
class LinkRow:
    """A link of a site, as the table has it."""

    page: str
    line: int  # 1-based
    words: str
    address: str
    kind: str
    leads_to: str  # a path of the site, with the fragment; "" for no place of it
    state: str  # "found", "no file", "no target", "outside", "no address"
    new_address: str = ""  # to be filled in by who wants another one


def list_links(site: Site) -> Iterator[LinkRow]:
    """Yield all links of a site, by page, in the order of the source."""
    for page in fetched(site.pages, sorted(site.pages)):
        for link in page.links:
            yield list_link(site, page, link)


def list_link(site: Site, page: Page, link: Link) -> LinkRow:
    """Return a link of a page as the table has it."""
    leads_to, state = _outcome(site, page, link)
    line = page.source.lines.line(link.start)
    return LinkRow(page.path, line, link.text, link.href or "", link.kind.value, leads_to, state)


def list_links_between(site: Site, source: str, goal: str) -> Iterator[LinkRow]:
    """Yield the links on one page that lead to another page or file, or should, in the order of the source."""
    page = site.pages[source]
    for link in page.links:
        row = list_link(site, page, link)
        if row.leads_to.partition("#")[0] == goal:
            yield row


def _outcome(site: Site, page: Page, link: Link) -> tuple[str, str]:
    if link.kind in (LinkKind.NONE, LinkKind.PLACEHOLDER) or link.href is None:
        return "", "no address"
    outcome = site.follow(page.path, link.href)
    if isinstance(outcome, Resolved):
        name = outcome.target.name if isinstance(outcome.target, Target) else ""
        return outcome.path + (f"#{name}" if name else ""), "found"
    if isinstance(outcome, NoTarget):
        return f"{outcome.path}#{outcome.fragment}", "no target"
    if isinstance(outcome, NoFile):
        return outcome.path, "no file"
    return "", "outside"


_COLUMNS = [one.name for one in fields(LinkRow)]


def links_csv(rows: Iterator[LinkRow]) -> str:
    """Return links as a table, with a line for each."""
    return write_csv([_COLUMNS, *([getattr(row, name) for name in _COLUMNS] for row in rows)])


def links_json(rows: Iterator[LinkRow]) -> dict[str, object]:
    """Return links as JSON has them."""
    return {"links": [asdict(row) for row in rows]}


def plan_addresses(site: Site, text: str) -> SitePlan:
    """Return the plan that gives links the new addresses of a list, CSV or JSON as this module writes it.

    A link is found by its page, line and address; where it moved, by its page and address, if all with that address
    get the same one. Rows without a new address change nothing. Links that are not found are named in the notes.
    Raises RequestError for a list that cannot be read.
    """
    wanted: dict[str, list[Mapping[str, str]]] = defaultdict(list)
    for row in _read_list(text):
        if row["new_address"] and row["new_address"] != row["address"]:
            wanted[row["page"]].append(row)
    edits: dict[str, list[Edit]] = {}
    notes: list[str] = []
    for path, rows in sorted(wanted.items()):
        if path not in site.pages:
            notes.append(f"{path} is no page of the site; its {len(rows)} rows change nothing.")
            continue
        found, missing = _edits_on(site.pages[path], rows)
        if found:
            edits[path] = found
        notes += missing
    more = len(notes) - _MOST_NOTES
    return plan_edits(site, edits, [*notes[:_MOST_NOTES], f"and {more} more."] if more > 0 else notes)


def _edits_on(page: Page, rows: Sequence[Mapping[str, str]]) -> tuple[list[Edit], list[str]]:
    """Return the edits of a page's addresses, and in words which links are not there."""
    lines = page.source.lines
    by_place: dict[tuple[str, str], list[Link]] = defaultdict(list)
    by_address: dict[str, list[Link]] = defaultdict(list)
    for link in page.links:
        address = (link.href or "").strip()
        by_place[str(lines.line(link.start)), address].append(link)
        by_address[address].append(link)
    one_way: dict[str, set[str]] = defaultdict(set)
    for row in rows:
        one_way[row["address"]].add(row["new_address"])
    edits: dict[int, Edit] = {}
    notes = []
    for row in rows:
        old, new = row["address"], row["new_address"]
        links = by_place.get((row["line"], old)) or (by_address.get(old, []) if len(one_way[old]) == 1 else [])
        for link in links:
            written = page.attribute_at(link.start, "href")
            if written is not None:
                edits[link.start] = value_edit(page.text, written, new, "as the list of links says")
        if not links:
            notes.append(f"{page.path}, line {row['line']}: no link there has the address {old or '(none)'} now.")
    return list(edits.values()), notes


def _read_rows(text: str, needed: Collection[str]) -> Iterator[dict[str, str]]:
    """Yield the cells of a table's rows that are needed. Raises RequestError for a column that lacks, csv.Error."""
    delimiter = max(",;\t", key=text.partition("\n")[0].count)
    lines = (line + "\n" for line in text.replace("\r\n", "\n").replace("\r", "\n").split("\n"))
    reader = csv.DictReader(lines, delimiter=delimiter)
    missing = [name for name in needed if name not in (reader.fieldnames or ())]
    if missing:
        raise RequestError(
            f"The list's first line does not name the column {missing[0]}. Export the list of links, and fill in "
            "new_address where an address shall be another one."
        )
    for row in reader:
        yield {name: read_cell(cell or "") for name, cell in row.items() if name in needed}


def _read_list(text: str) -> Iterator[dict[str, str]]:
    """Yield the rows of a list. Raises RequestError."""
    needed = ("page", "line", "address", "new_address")
    text = text.removeprefix("\ufeff")
    found: list[Mapping[str, object]]
    if text.lstrip().startswith(("{", "[")):
        try:
            said = json.loads(text)
        except (ValueError, RecursionError) as error:
            raise RequestError(f"This is no JSON that can be read: {error}.") from error
        found = said.get("links", []) if isinstance(said, dict) else said
        if not isinstance(found, list) or not all(isinstance(one, dict) for one in found):
            raise RequestError("The list has no “links”, each with page, line, address and new_address.")
    else:
        try:
            found = list(_read_rows(text, needed))
        except csv.Error as error:
            raise RequestError(
                f"The list cannot be read as rows and columns ({error}). Save it again as CSV with UTF-8."
            ) from error
    if len(found) > MOST_ROWS:
        raise RequestError(f"The list has {len(found):,} rows; at most {MOST_ROWS:,} are read.")
    for one in found:
        yield {name: str(one.get(name) or "").strip() for name in needed}
