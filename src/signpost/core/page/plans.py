"""One plan after another, as a single plan of the page that the first one began with."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from signpost.core.page import Page, read_edited
from signpost.core.text.edits import EditSet, apply_to_text, edit_set, edits_between
from signpost.core.text.errors import RequestError

Planner = Callable[[Page], EditSet]


def plan_in_turn(page: Page, *planners: Planner, reason: str) -> EditSet:
    """Return the edits that do what each planner asks of the page that those before it have made."""
    first = planners[0](page) if planners else edit_set(page.source, ())
    if len(planners) <= 1:
        return first
    now, text = page, page.text
    for planner in planners:
        edits = planner(now)
        if edits:
            text = apply_to_text(now.source, edits)
            now = read_edited(now, edits)
    return edit_set(page.source, edits_between(page.text, text, reason=reason))


def refuse_unseen(page: Page, edits: EditSet, identifiers: Iterable[str]) -> EditSet:
    """Return the edits, which bring these identifiers to a page, where a browser makes elements of them.

    Raises RequestError where they would be in what is left open at the page's end: a comment, a script, a field.
    """
    if edits:
        after = read_edited(page, edits)
        if not {target.name for target in after.targets}.issuperset(identifiers):
            raise RequestError(
                "A comment, a script, a style or a text field before this place is never closed, so browsers would "
                "not show what is put there. Close it first."
            )
    return edits
