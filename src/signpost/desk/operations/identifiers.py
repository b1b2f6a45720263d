"""Operations on a page's identifiers."""

from __future__ import annotations

from signpost.core.identifiers.anchors import plan_anchors, plan_apart
from signpost.core.identifiers.places import plan_bottom, plan_place, plan_top
from signpost.core.identifiers.sections import plan_given, plan_identifiers
from signpost.core.references.renames import plan_rename
from signpost.core.text.edits import edit_set
from signpost.core.text.errors import GoneError, RequestError
from signpost.core.text.tags import find_missing_quote, fragment_edit
from signpost.desk.operations.asked import Asked, Planned, Planner, count_of, on_page


def _identify(asked: Asked) -> Planned:
    levels = asked["levels"] or asked.settings.identifiers.levels
    edits = plan_identifiers(asked.page, levels, asked.settings.identifiers)
    return on_page(f"Identifiers for {count_of(len(edits), 'section')}", asked, edits)


def _set_identifiers(asked: Asked) -> Planned:
    given = asked.indexed("identifiers")
    names = ", ".join(given.values())
    title = f"Identifier “{names}”" if len(given) == 1 else f"Identifiers for {len(given)} sections"
    return on_page(title, asked, plan_given(asked.page, given))


def _rename(asked: Asked) -> Planned:
    old, new = asked["old"], asked["new"]
    plan = plan_rename(asked.site, asked.page.path, old, new, keep_old=asked["keep_old"])
    return Planned(f"Identifier “{old}” renamed to “{new}”", plan)


def _place(asked: Asked) -> Planned:
    name, where = asked["identifier"], asked["start"]
    if where == "top":
        edits = plan_top(asked.page, name)
    elif where == "bottom":
        edits = plan_bottom(asked.page, name)
    else:
        edits = plan_place(asked.page, int(where), name)
    return on_page(f"Identifier “{name}”", asked, edits)


def _anchors(asked: Asked) -> Planned:
    return on_page("Old anchors made identifiers", asked, plan_anchors(asked.page, keep=asked["keep"]))


def _apart(asked: Asked) -> Planned:
    edits = plan_apart(asked.page, asked["name"], asked.settings.identifiers)
    return on_page(f"“{asked['name']}” used once", asked, edits)


def _relink(asked: Asked) -> Planned:
    """Lead a broken link to one of the identifiers that it may have meant."""
    page, name = asked.page, asked["identifier"]
    link = next((found for found in page.links if found.start == asked["start"] and found.href is not None), None)
    written = page.attribute_at(asked["start"], "href") if link else None
    if written is not None and find_missing_quote(page.text, written) is not None:
        raise RequestError(
            "A quotation mark is missing in this link, so its words became part of its address. Add the mark first."
        )
    edit = None if written is None else fragment_edit(page.text, written, name, f"leads to “{name}” now")
    if link is None or edit is None:
        raise GoneError("The link")
    return on_page(f"“{link.text or link.href}” led to “{name}”", asked, edit_set(page.source, [edit]))


IDENTIFIER_OPERATIONS: dict[str, Planner] = {
    "identify": _identify,
    "set-identifiers": _set_identifiers,
    "rename": _rename,
    "place": _place,
    "anchors": _anchors,
    "apart": _apart,
    "relink": _relink,
}
