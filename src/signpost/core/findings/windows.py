"""Where links open: misspelt targets, jumps in new windows, new windows that nobody announces."""

from __future__ import annotations

import re
from collections.abc import Iterator

from rapidfuzz.distance import DamerauLevenshtein

from signpost.core.addresses.links import LinkKind
from signpost.core.findings.catalogue import Choice, Finding
from signpost.core.findings.page_check import Check
from signpost.core.page import Link
from signpost.core.page.habits import read_habits
from signpost.core.page.markup import tokens_of
from signpost.core.site.site import Resolved
from signpost.core.text.edits import Edit
from signpost.core.text.tags import Attribute, removal, scan_attributes, value_edit

#: Names that begin with "_" and mean something (HTML 7.3.1.7); in any case.
_KEYWORDS = ("_blank", "_self", "_parent", "_top")
#: What is written in the place of _blank; as names of a window they would be chosen by nobody.
_MEANT_BLANK = frozenset(["_new", "blank", "new", "_newwindow", "newwindow", "new_window", "-blank"])
_SAID = re.compile(r"\b(?:window|tab|fenster|fenêtre|ventana|finestra|venster|fönster|vindu)\b", re.IGNORECASE)
_FEWEST_NEW = 3  # links of a page that open a new window, for others to differ from them
_SHARE_NEW = 0.75  # of its links to other sites
_CLOSED = frozenset(["noopener", "noreferrer", "opener"])  # what a link may say of it in its rel


def find_windows(check: Check) -> Iterator[Finding]:
    """Yield what is wrong with where a page's links open."""
    text = check.page.text
    if "target" not in text and "TARGET" not in text and "Target" not in text:
        return
    yield from _taken_away(check)
    targeted = {tag.start for tag in tokens_of(check.page).named("a", "area", having="target")}
    for link in check.page.links:
        if link.start not in targeted:
            continue
        attributes = {one.name: one for one in scan_attributes(text, link.start)}
        target = attributes.get("target")
        if target is None:
            continue
        name = target.value.strip().lower()
        meant = _meant(name)
        if link.kind is LinkKind.FRAGMENT and (meant or name) == "_blank":
            yield _jump(check, link, target)
        elif meant is not None:
            edit = value_edit(text, target, meant, f"the target is called {meant}")
            message = f"target=“{target.value}” names a window of its own. What opens a new one each time is {meant}."
            if meant != "_blank":
                message = f"target=“{target.value}” names a window of its own. Perhaps {meant} is meant."
            yield check.find("window-name-misspelt", link.start, message, [edit])
        elif name == "_blank":
            yield from _new_window(check, link, attributes)


def find_own_windows(check: Check) -> Iterator[Finding]:
    """Yield the jumps on this page that open a new window, with the page's own name in their address."""
    for link in check.page.links:
        if link.kind not in (LinkKind.OUTSIDE, LinkKind.PAGE) or "#" not in (link.href or ""):
            continue
        target = check.page.attribute_at(link.start, "target")
        name = "" if target is None else target.value.strip().lower()
        outcome = check.site.follow(check.page.path, link.href) if (_meant(name) or name) == "_blank" else None
        if target is not None and isinstance(outcome, Resolved) and outcome.path == check.page.path:
            yield _jump(check, link, target)


def _taken_away(check: Check) -> Iterator[Finding]:
    """Yield the few links to other sites that open in the reader's window, where the page's others open a new one."""
    outside = [link for link in check.page.links if link.kind is LinkKind.OUTSIDE and not link.in_furniture]
    said = [{one.name: one for one in check.page.attributes_at(link.start)} for link in outside]
    here = [at for at, one in enumerate(said) if "target" not in one]
    new = [at for at, one in enumerate(said) if "target" in one and one["target"].value.strip().lower() == "_blank"]
    if len(new) < _FEWEST_NEW or len(new) < _SHARE_NEW * len(outside):
        return
    model = said[new[0]]
    names = [name for name in ("target", "rel") if name in model]
    for at in here:
        last = max(said[at].values(), key=lambda one: one.span.end)
        written = "".join(" " + model[name].span.of(check.page.text) for name in names if name not in said[at])
        edit = Edit(last.span.end, last.span.end, written, reason="as the page's others")
        message = (
            f"“{outside[at].text or outside[at].href}” takes the reader away from the page; {len(new)} others that "
            "lead to other sites open a new window."
        )
        yield check.find("outside-link-here", outside[at].start, message, choices=[Choice("Open a window", (edit,))])


def _meant(name: str) -> str | None:
    """Return the keyword that a target's name means and does not say; None for one that is right."""
    if name in _KEYWORDS or not name:
        return None
    if name in _MEANT_BLANK or "_".join(name.split()) in _MEANT_BLANK:
        return "_blank"
    near = max(_KEYWORDS, key=lambda keyword: DamerauLevenshtein.normalized_similarity(name, keyword))
    return near if name.startswith("_") else None


def _jump(check: Check, link: Link, target: Attribute) -> Finding:
    words = f"“{link.text}”" if link.text else "A jump link"
    return check.find(
        "jump-in-new-window",
        link.start,
        f"{words} leads to a place on this page and opens it in a new window, where “Back” does not lead back.",
        [removal(check.page.text, target, "the link opens in the same window")],
    )


def _new_window(check: Check, link: Link, attributes: dict[str, Attribute]) -> Iterator[Finding]:
    words = f"“{link.text or link.href}”"
    rel = attributes.get("rel")
    if link.kind is LinkKind.OUTSIDE and not _CLOSED & set((rel.value if rel else "").lower().split()):
        if rel is None or rel.value_span is None:
            at = attributes["target"].span.end
            edit = Edit(at, at, " " + read_habits(check.page).attribute("rel", "noopener"), reason="noopener")
        else:
            edit = value_edit(check.page.text, rel, f"{rel.value} noopener".strip(), "noopener")
        message = f"{words} opens another site in a new window, which older browsers let it reach back from."
        yield check.find("opener-open", link.start, message, [edit])
    title = attributes.get("title")
    if not _SAID.search(link.text + " " + (title.value if title else "")):
        yield check.find(
            "new-window-unsaid",
            link.start,
            f"{words} opens a new window and does not say so. “Back” does nothing there.",
        )
