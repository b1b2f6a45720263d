"""Short ways from markup to what the core makes of it."""

from __future__ import annotations

from collections.abc import Mapping

from signpost.core.addresses.links import is_page_path, is_text_path
from signpost.core.page import Page, read_page
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import Site
from signpost.core.text.edits import EditSet, apply_edits
from signpost.core.text.source import read_source


def page_of(markup: str | bytes, path: str = "page.html") -> Page:
    data = markup if isinstance(markup, bytes) else markup.encode()
    return read_page(path, read_source(data))


def site_of(**pages: str | bytes) -> Site:
    """A site of pages; "__" in a name stands for "/", and ".html" is added."""
    paths = {name.replace("__", "/") + ".html": markup for name, markup in pages.items()}
    return Site({path: page_of(markup, path) for path, markup in paths.items()}, frozenset(paths))


def edited(page: Page, edits: EditSet) -> Page:
    """The page that comes of the edits."""
    return page_of(apply_edits(page.source, edits), page.path)


def text_after(markup: str | bytes, plan, *arguments) -> str:
    """The text that a planner makes of a page; planned again on the result, it must change nothing."""
    page = page_of(markup)
    after = edited(page, plan(page, *arguments))
    assert not plan(after, *arguments), "a second run changes what the first one made"
    return after.text


def site_from(files: Mapping[str, str | bytes], base: str | None = None) -> Site:
    """A site of files of any kind, by path."""
    data = {path: found if isinstance(found, bytes) else found.encode() for path, found in files.items()}
    pages = {path: page_of(found, path) for path, found in data.items() if is_page_path(path)}
    texts = {path: read_source(found) for path, found in data.items() if is_text_path(path) or path.endswith(".toml")}
    return Site(pages, frozenset(data), base, texts)


def carried_out(files: Mapping[str, str | bytes], site: Site, plan: SitePlan) -> dict[str, bytes]:
    """The files of a site after a plan."""
    data = {path: found if isinstance(found, bytes) else found.encode() for path, found in files.items()}
    changed = {**data, **plan.outcome(site.source, data.__getitem__)}
    return {path: found for path, found in changed.items() if found is not None}
