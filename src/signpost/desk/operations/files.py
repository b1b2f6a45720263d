"""Operations on the site's files: renamed and moved, deleted, their links changed, their blocks kept alike."""

from __future__ import annotations

from signpost.core.headings.heads import HeadChange, plan_heads, titles_by_pattern
from signpost.core.navigation.menu_sections import plan_menu_section
from signpost.core.navigation.menus import MenuOptions
from signpost.core.navigation.planning import NavigationKind, NavigationOptions, plan_navigation
from signpost.core.recipes.recipes import plan_recipe, read_recipe
from signpost.core.references.deletions import Leading, plan_deletion
from signpost.core.references.link_list import plan_addresses
from signpost.core.references.moves import plan_followed, plan_move
from signpost.core.references.own_addresses import plan_own_addresses
from signpost.core.references.shared import plan_alike
from signpost.core.references.spreading import plan_spread
from signpost.core.text.errors import RequestError
from signpost.desk.operations.asked import Asked, Planned, Planner, count_of
from signpost.desk.progress import tell


def _move_files(asked: Asked) -> Planned:
    moves = {old: new.strip().removeprefix("./") for old, new in asked["moves"].items()}
    plan = plan_move(asked.site, moves, forward=asked["forward"])
    if not plan.moves:
        raise RequestError("That is its name already.")
    if len(moves) > 1:
        return Planned(f"{count_of(len(moves), 'file')} moved", plan)
    ((old, new),) = moves.items()
    return Planned(f"{old} is now {new}", plan)


def _follow_moves(asked: Asked) -> Planned:
    plan = plan_followed(asked.site, asked["moves"])
    return Planned(f"Links to {count_of(len(asked['moves']), 'file')} that moved", plan)


def _delete_file(asked: Asked) -> Planned:
    plan = plan_deletion(asked.site, asked["path"], Leading(asked["leading"]), asked["goal"])
    return Planned(f"{asked['path']} deleted", plan)


def _change_links(asked: Asked) -> Planned:
    return Planned("Addresses changed by a list", plan_addresses(asked.site, asked["text"]))


def _own_addresses(asked: Asked) -> Planned:
    title = "Own addresses in full" if asked["full"] else "Own addresses relative"
    return Planned(title, plan_own_addresses(asked.site, sorted(asked.site.pages), full=asked["full"]))


def _alike(asked: Asked) -> Planned:
    plan = plan_alike(asked.site, asked["block"] or None, asked["model"] or None)
    name = f"“{asked['block']}”" if asked["block"] else "Shared blocks"
    return Planned(f"{name} the same on all pages", plan)


def _heads(asked: Asked) -> Planned:
    changes = {path: HeadChange(**said) for path, said in asked["heads"].items()}
    if asked["pattern"]:
        changes |= titles_by_pattern(asked.site, asked["pages"], asked["pattern"])
    return Planned(f"Heads of {count_of(len(changes), 'page')}", plan_heads(asked.site, changes))


def _recipe(asked: Asked) -> Planned:
    recipe = read_recipe(asked["text"])
    return Planned(f"Recipe “{recipe.name}”" if recipe.name else "Recipe", plan_recipe(asked.site, recipe, tell))


_MADE = {
    NavigationKind.MENU: "Menu",
    NavigationKind.PATH: "Path to each page",
    NavigationKind.STEPS: "Links to the pages before and after",
    NavigationKind.CONTENTS: "List of all pages",
    NavigationKind.INDEX: "Index from A to Z",
    NavigationKind.SKIP: "Links past the header",
}


def _navigation(asked: Asked) -> Planned:
    kind = NavigationKind(asked["kind"])
    options = NavigationOptions(
        kind,
        asked["pages"],
        asked["home"] or "",
        asked["block"] or None,
        MenuOptions(asked["is_list"], asked["separator"], asked["sections"]),
        depth=asked["depth"],
        remove=asked["remove"],
    )
    done = (
        "removed"
        if asked["remove"]
        else "made"
        if kind is not NavigationKind.MENU or not options.block
        else "changed"
    )
    return Planned(f"{_MADE[kind]} {done}", plan_navigation(asked.site, options))


def _menu_section(asked: Asked) -> Planned:
    path, section = asked.page.path, asked["section"]
    plan = plan_menu_section(asked.site, asked["block"], path, section, asked["words"], asked.settings.identifiers)
    return Planned("Menu entry for a section", plan)


def _spread(asked: Asked) -> Planned:
    plan = plan_spread(asked.site, asked["model"], asked["block"], asked["pages"])
    return Planned(f"“{asked['block']}” on {count_of(len(plan.edits), 'page')} more", plan)


FILE_OPERATIONS: dict[str, Planner] = {
    "move-files": _move_files,
    "follow-moves": _follow_moves,
    "delete-file": _delete_file,
    "change-links": _change_links,
    "own-addresses": _own_addresses,
    "alike": _alike,
    "spread": _spread,
    "navigation": _navigation,
    "menu-section": _menu_section,
    "heads": _heads,
    "recipe": _recipe,
}
