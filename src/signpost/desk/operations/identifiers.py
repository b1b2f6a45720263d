"""Operations on a page's identifiers."""

from __future__ import annotations

from signpost.core.identifiers.anchors import plan_anchors, plan_apart
from signpost.core.identifiers.places import plan_bottom, plan_place, plan_top
from signpost.core.identifiers.sections import plan_given, plan_identifiers
from signpost.core.jumps.planning import plan_relink
from signpost.core.references.renames import plan_rename
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
    words, edits = plan_relink(asked.page, asked["start"], asked["identifier"])
    return on_page(f"“{words}” led to “{asked['identifier']}”", asked, edits)


IDENTIFIER_OPERATIONS: dict[str, Planner] = {
    "identify": _identify,
    "set-identifiers": _set_identifiers,
    "rename": _rename,
    "place": _place,
    "anchors": _anchors,
    "apart": _apart,
    "relink": _relink,
}
