"""The recipes that are kept with a site."""

from __future__ import annotations

from dataclasses import dataclass, replace
from uuid import UUID

from signpost.core.operations.recipes import read_recipe
from signpost.core.text.errors import RequestError
from signpost.desk.deeds import change_settings
from signpost.desk.loading import load_record
from signpost.desk.settings import Settings, read_settings
from signpost.store.database import Database

#: How many recipes a site keeps.
_MOST = 100


@dataclass(frozen=True, slots=True)
class KeptRecipe:
    """A recipe, in TOML."""

    name: str
    text: str


def recipes_of(database: Database, site_id: UUID) -> list[KeptRecipe]:
    """Return the recipes of a site, by name."""
    with database.transaction() as session:
        kept = read_settings(load_record(session, site_id).settings).recipes
    return [KeptRecipe(name, text) for name, text in sorted(kept.items())]


def keep_recipe(database: Database, site_id: UUID, text: str) -> list[KeptRecipe]:
    """Keep a recipe under its name, in the place of one that had it. Raises what reading it raises."""
    name = read_recipe(text).name.strip()
    if not name:
        raise RequestError("The recipe needs a name to be kept by. Write one above its steps: name = “Put in order”.")

    def change(settings: Settings) -> Settings:
        if name not in settings.recipes and len(settings.recipes) >= _MOST:
            raise RequestError(f"The site has {_MOST} recipes already. Delete one first.")
        return replace(settings, recipes={**settings.recipes, name: text})

    change_settings(database, site_id, change, f"kept the recipe “{name}”")
    return recipes_of(database, site_id)


def forget_recipe(database: Database, site_id: UUID, name: str) -> list[KeptRecipe]:
    """Delete a recipe; one that is not there is no mistake."""
    change_settings(
        database,
        site_id,
        lambda kept: replace(kept, recipes={one: text for one, text in kept.recipes.items() if one != name}),
        f"deleted the recipe “{name}”",
    )
    return recipes_of(database, site_id)
