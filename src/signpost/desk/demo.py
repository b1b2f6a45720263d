"""The demo site: the pages of a made-up railway's volunteers."""

from __future__ import annotations

from importlib.resources import files
from importlib.resources.abc import Traversable
from uuid import UUID

from signpost.store import repositories as store
from signpost.store.database import Database

DEMO_ID = UUID("7d0e6c2a-5a0f-4c1e-9b7e-2f6d3c1b9a40")
DEMO_NAME = "Thornby Vale Light Railway"
DEMO_BASE = "https://thornby-vale.example/volunteers/"


def demo_files() -> dict[str, bytes]:
    """Return the demo site's files by path."""
    return dict(_walk(files("signpost").joinpath("demo/site"), ""))


def seed_demo(database: Database) -> bool:
    """Bring in the demo site where there is no site at all yet; return whether it was."""
    with database.transaction() as session:
        if store.load_sites(session):
            return False
        store.add_site(session, DEMO_NAME, DEMO_BASE, DEMO_ID)
        store.bring_in(session, DEMO_ID, demo_files())
        return True


def _walk(folder: Traversable, prefix: str) -> list[tuple[str, bytes]]:
    found = []
    for entry in sorted(folder.iterdir(), key=lambda entry: entry.name):
        if entry.is_dir():
            found += _walk(entry, f"{prefix}{entry.name}/")
        else:
            found.append((prefix + entry.name, entry.read_bytes()))
    return found
