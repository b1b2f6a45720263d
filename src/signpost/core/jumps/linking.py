"""Links to anywhere: made of words or a picture, or led elsewhere, with what an author says about them."""

from __future__ import annotations

import posixpath

from signpost.core.addresses.links import LinkKind, classify_link
from signpost.core.jumps.looks import LinkLook, link_edits, look_edits
from signpost.core.jumps.planning import read_origin
from signpost.core.page.habits import read_habits
from signpost.core.site.plans import SitePlan, plan_edits
from signpost.core.site.site import Site
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import Span

#: Kinds of files as readers know them, by the ending of their names.
_FILE_KINDS = {"jpg": "JPEG", "jpeg": "JPEG", "htm": "HTML", "md": "text", "txt": "text", "mjs": "JS"}
_KILO, _MEGA = 1024, 1024 * 1024


def plan_link(site: Site, path: str, span: Span, address: str, look: LinkLook | None = None) -> SitePlan:
    """Return the plan that makes a stretch of a page a link to an address, or leads the link there to it.

    The address is written as it is given. Raises RequestError where the stretch can be no link, and for a new window
    of a link that stays on the page.
    """
    page = site.pages[path]
    origin = read_origin(page, span)
    look = look or LinkLook()
    if classify_link(address) in (LinkKind.FRAGMENT, LinkKind.PLACEHOLDER):
        look.check_jump()
    if origin.button is not None:
        raise RequestError("A button leads nowhere by itself. Choose words of the page's own text.")
    habits = read_habits(page)
    reason = f"“{origin.text[:60]}” leads to “{address}”"
    if origin.link is not None:
        edits = look_edits(page, habits, origin.link, origin.text, look, address, reason)
    else:
        edits = link_edits(page, habits, origin.span, address, look, reason)
    return plan_edits(site, {path: list(edits)})


def file_words(path: str, size: int) -> str:
    """Return words for a link to a file: its name, its kind and its size, such as “Timetable (PDF, 340 KB)”."""
    stem, ending = posixpath.splitext(posixpath.basename(path))
    words = " ".join(stem.replace("_", " ").replace("-", " ").split())
    kind = ending.lstrip(".").lower()
    kind = _FILE_KINDS.get(kind, kind.upper())
    amount = f"{max(1, round(size / _KILO))} KB" if size < _MEGA else f"{size / _MEGA:.1f} MB"
    return f"{words[:1].upper()}{words[1:]} ({kind}, {amount})" if kind else f"{words} ({amount})"
