"""The whole job on a small site."""

from hypothesis import given

from pages import edited, page_of
from signpost.core.back_to_top.planning import BackLinkOptions, plan_back_links
from signpost.core.contents import ContentsOptions, plan_contents
from signpost.core.identifiers.sections import plan_identifiers
from signpost.core.parts.cuts import find_cuts
from signpost.core.parts.planning import plan_parts
from signpost.core.site.site import Resolved, Site
from signpost.core.text.edits import apply_edits
from strategies import pages

ALL_LEVELS = ContentsOptions(levels=range(1, 7))


@given(pages(), pages())
def test_the_whole_job_breaks_no_link_of_the_site(data, other_data):
    """Identifiers, contents, back-to-top links, parts: what a link led to before, it leads to after."""
    page, other = page_of(data), page_of(other_data, "other.html")
    before = Site({"page.html": page, "other.html": other}, frozenset(["page.html", "other.html"]))
    for planned in (
        lambda page: plan_identifiers(page, range(1, 7)),
        lambda page: plan_contents(page, ALL_LEVELS),
        lambda page: plan_back_links(page, BackLinkOptions()),
    ):
        page = edited(page, planned(page))
    site = Site({"page.html": page, "other.html": other}, before.files)
    for was in other.links:
        landed = before.follow("other.html", was.href)
        if isinstance(landed, Resolved):
            assert isinstance(site.follow("other.html", was.href), Resolved)
    cuts = [cut.section for cut in find_cuts(page)][:2]
    plan = plan_parts(site, "page.html", cuts)
    bytes_after = {path: apply_edits(site.pages[path].source, edits) for path, edits in plan.edits.items()}
    bytes_after |= plan.new_files
    parts = {**site.pages, **{path: page_of(part, path) for path, part in bytes_after.items()}}
    after = Site(parts, frozenset(parts))
    for was, now in zip(other.links, parts["other.html"].links, strict=True):
        first, second = site.follow("other.html", was.href), after.follow("other.html", now.href)
        assert isinstance(first, Resolved) == isinstance(second, Resolved)
        if isinstance(first, Resolved) and hasattr(first.target, "name") and first.path == "page.html":
            assert second.target.name == first.target.name
