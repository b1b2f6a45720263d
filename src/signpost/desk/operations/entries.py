"""The operation on entry lists."""

from __future__ import annotations

from signpost.core.entries.planning import Bar, EntriesOptions, plan_entries, plan_no_letters
from signpost.core.entries.terms import Term
from signpost.desk.operations.asked import Asked, Planned, Planner, count_of, on_page


def _entries(asked: Asked) -> Planned:
    terms = [Term(**term) for term in asked["terms"]]
    options = EntriesOptions(asked["home"], Bar(asked["bar"]), asked["sort"])
    plan = plan_entries(asked.page, terms, options, asked.settings.identifiers)
    return on_page(f"Entries for {count_of(len(terms), 'term')}", asked, plan.edits, [plan.note])


def _no_letters(asked: Asked) -> Planned:
    return on_page("Letters taken out", asked, plan_no_letters(asked.page))


ENTRY_OPERATIONS: dict[str, Planner] = {"entries": _entries, "no-letters": _no_letters}
