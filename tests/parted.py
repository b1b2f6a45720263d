"""A site after a plan, and what the laws of parts compare."""

from __future__ import annotations

from pages import page_of
from signpost.core.page import Target
from signpost.core.parts.planning import plan_parts
from signpost.core.parts.whole import ChosenCut
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import Resolved, Site
from signpost.core.text.edits import apply_edits


def after(site: Site, plan: SitePlan) -> Site:
    """The site with a plan carried out."""
    data = {
        path: apply_edits(page.source, plan.edits[path]) if path in plan.edits else page.source.data
        for path, page in site.pages.items()
        if path not in plan.gone
    }
    data |= plan.new_files
    files = (site.files - frozenset(plan.gone)) | frozenset(data)
    return Site({path: page_of(found, path) for path, found in data.items()}, files, site.base)


def texts(site: Site) -> dict[str, str]:
    return {path: page.text for path, page in site.pages.items()}


def cut(site: Site, path: str, *names: str, **options) -> Site:
    """The site with a page cut before the sections with these identifiers."""
    page = site.pages[path]
    index = {heading.identifier: number for number, heading in enumerate(page.headings)}
    return after(site, plan_parts(site, path, [index[name] for name in names], **options))


def cut_at_text(site: Site, path: str, *starts: tuple[str, str], **options) -> Site:
    """The site with a page cut before what begins with these words, each with the part's title."""
    page = site.pages[path]
    cuts = [ChosenCut(page.text.index(words), title) for words, title in starts]
    return after(site, plan_parts(site, path, cuts, **options))


def landing(site: Site, path: str, href: str) -> tuple[str, str] | None:
    """The page and the identifier that an address leads to; None for no place on a page of the site."""
    outcome = site.follow(path, href)
    if not isinstance(outcome, Resolved) or not isinstance(outcome.target, Target):
        return None
    return outcome.path, outcome.target.name
