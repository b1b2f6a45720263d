"""Where back-to-top links lead: the standard's own top, an identifier at the real top, or the contents."""

from __future__ import annotations

from collections.abc import Sequence
from enum import StrEnum

from signpost.core.addresses.fragments import find_indicated
from signpost.core.back_to_top.links import is_near_top, is_top_mark, opens_page
from signpost.core.contents import find_contents
from signpost.core.identifiers.sections import put_identifier
from signpost.core.page import Page, Target
from signpost.core.page.habits import Habits
from signpost.core.text.edits import Edit
from signpost.core.text.errors import RequestError

#: The identifier that the contents get when back-to-top links lead to them, and the next choice where it is taken.
CONTENTS_IDENTIFIERS = ("contents", "page-contents")
#: The identifier that the page's real top gets, and the next choice.
TOP_IDENTIFIERS = ("page-top", "page-start")


class Destination(StrEnum):
    """Where a back-to-top link leads."""

    TOP = "top"  # the standard's own "#top", which needs no element
    MARK = "mark"  # an identifier at the real top: the body's, which no bar moves
    CONTENTS = "contents"


def find_destination(page: Page, habits: Habits, to: Destination) -> tuple[str, list[Edit]]:
    """Return the fragment that back-to-top links lead to, and the edit that makes it where it is not there."""
    if to is Destination.TOP:
        found = find_indicated("top", page.index_targets())
        if not isinstance(found, Target) or opens_page(page, found) or is_near_top(page, found):
            return "top", []
        return _mark_top(page, habits) if page.body_start is not None else ("", [])
    if to is Destination.MARK:
        return _mark_top(page, habits)
    contents = find_contents(page)
    if contents is None:
        raise RequestError("The page has no table of contents for the links to lead to yet. Make one first.")
    return _marked(page, habits, contents.element.open.start, CONTENTS_IDENTIFIERS)


def _mark_top(page: Page, habits: Habits) -> tuple[str, list[Edit]]:
    """Return the identifier of the body, which is before everything and in nothing that moves.

    An empty mark at the top that the page has already serves as well.
    """
    there = next((found for found in page.targets if is_top_mark(page, found)), None)
    if there is not None:
        return there.name, []
    body = page.body_start
    if body is None:
        raise RequestError("The page has no <body> tag to put an identifier on. Add one, or link to #top.")
    return _marked(page, habits, body, TOP_IDENTIFIERS)


def _marked(page: Page, habits: Habits, start: int, names: Sequence[str]) -> tuple[str, list[Edit]]:
    own = page.attribute_at(start, "id")
    if own is not None and own.value:
        return own.value, []
    taken = {target.name for target in page.targets}
    name = next((name for name in names if name not in taken), None)
    if name is None:
        raise RequestError(
            f"The identifiers {' and '.join(f'“{name}”' for name in names)} are already used. Choose one yourself."
        )
    return name, [put_identifier(page, habits, start, name)]
