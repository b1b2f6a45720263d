"""Links to anywhere: made of words or a picture, or led elsewhere, with what an author says about them."""

from __future__ import annotations

import posixpath
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from html import escape

from signpost.core.addresses.links import LinkKind, classify_link
from signpost.core.jumps.planning import Origin, read_origin
from signpost.core.page import Page, read_nodes
from signpost.core.page.habits import Habits, read_habits
from signpost.core.site.plans import SitePlan, plan_edits
from signpost.core.site.site import Site
from signpost.core.text.edits import Edit
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import Span
from signpost.core.text.tags import Attribute, removal, value_edit

#: What is said to readers of a link that opens a window of its own, by the page's language.
_WINDOW_WORDS = {
    "da": "nyt vindue", "de": "neues Fenster", "es": "ventana nueva", "fi": "uusi ikkuna", "fr": "nouvelle fenêtre",
    "it": "nuova finestra", "nb": "nytt vindu", "nl": "nieuw venster", "pl": "nowe okno", "pt": "nova janela",
    "sv": "nytt fönster", "cs": "nové okno",
}  # fmt: skip
#: Kinds of files as readers know them, by the ending of their names.
_FILE_KINDS = {"jpg": "JPEG", "jpeg": "JPEG", "htm": "HTML", "md": "text", "txt": "text", "mjs": "JS"}
_BARE = "\0"  # of an attribute that is there without a value
_KILO, _MEGA = 1024, 1024 * 1024


@dataclass(frozen=True, slots=True)
class LinkLook:
    """What a link says beside its address. None leaves what is there as it is, "" takes it out."""

    title: str | None = None
    new_window: bool | None = None
    tells_window: bool = False  # whether words behind the link's own say that it opens a window
    rel: str | None = None  # words of the relation, beside what a new window needs
    language: str | None = None  # of what it leads to, as a language tag
    download: bool | None = None


def plan_link(site: Site, path: str, span: Span, address: str, look: LinkLook | None = None) -> SitePlan:
    """Return the plan that makes a stretch of a page a link to an address, or leads the link there to it.

    The address is written as it is given. Raises RequestError where the stretch can be no link, and for a new window
    of a link that stays on the page.
    """
    page = site.pages[path]
    origin = read_origin(page, span)
    look = look or LinkLook()
    if look.new_window and classify_link(address) in (LinkKind.FRAGMENT, LinkKind.PLACEHOLDER):
        raise RequestError("A jump on the same page opens no window: its reader would have the page twice.")
    if origin.button is not None:
        raise RequestError("A button leads nowhere by itself. Choose words of the page's own text.")
    habits = read_habits(page)
    edits = _changed(page, habits, origin, address, look) if origin.link is not None else None
    found = list(edits if edits is not None else _made(page, habits, origin, address, look))
    return plan_edits(site, {path: found})


def _made(page: Page, habits: Habits, origin: Origin, address: str, look: LinkLook) -> Iterator[Edit]:
    reason = f"“{origin.text[:60]}” leads to “{address}”"
    rel = " ".join(_rel((look.rel or "").split(), new_window=bool(look.new_window)))
    tag = habits.start(
        "a",
        href=address,
        title=(look.title or "").strip() or None,
        target="_blank" if look.new_window else None,
        rel=rel or None,
        hreflang=look.language or None,
    )
    if look.download:
        tag = f"{tag[:-1]} {habits.tag('download')}>"
    yield Edit(origin.span.start, origin.span.start, tag, rank=1, reason=reason)
    told = _window_words(page) if look.new_window and look.tells_window else ""
    yield Edit(origin.span.end, origin.span.end, told + habits.end("a"), rank=-1, reason=reason)


def _changed(page: Page, habits: Habits, origin: Origin, address: str, look: LinkLook) -> Iterator[Edit]:
    start = origin.link or 0
    attributes = {one.name: one for one in page.attributes_at(start)}
    reason = f"“{origin.text[:60]}” leads to “{address}”"
    added = ""
    for name, value in _wanted(attributes, address, look).items():
        there = attributes.get(name)
        if there is None:
            added += (
                f" {habits.tag(name)}" if value == _BARE else " " + habits.attribute(name, value) if value else ""
            )
        elif not value:
            yield removal(page.text, there, f"{name} is gone")
        elif value not in (there.value, _BARE):
            yield value_edit(page.text, there, value, reason)
    if added:
        at = max((one.span.end for one in attributes.values()), default=start + 2)
        yield Edit(at, at, added, reason=reason)
    words = _window_words(page)
    if look.new_window and look.tells_window and words.strip() not in origin.text:
        node = next(one for one in read_nodes(page).all if one.start == start)
        if node.element.close is not None:
            at = node.element.close.start
            yield Edit(at, at, words, reason="says that a window opens")


def _wanted(attributes: Mapping[str, Attribute], address: str, look: LinkLook) -> dict[str, str]:
    """Return what attributes of a link shall be; "" for one that shall not be there, others stay as they are."""
    opens = "target" in attributes and attributes["target"].value.lower() == "_blank"
    said = attributes["rel"].value.split() if "rel" in attributes else []
    wanted = {"href": address}
    if look.title is not None:
        wanted["title"] = look.title.strip()
    if look.language is not None:
        wanted["hreflang"] = look.language.strip()
    if look.new_window is not None and look.new_window != opens:
        wanted["target"] = "_blank" if look.new_window else ""
    if look.rel is not None or look.new_window:
        kept = said if look.rel is None else look.rel.split()
        wanted["rel"] = " ".join(_rel(kept, new_window=opens if look.new_window is None else look.new_window))
    if look.download is not None and look.download != ("download" in attributes):
        wanted["download"] = _BARE if look.download else ""
    return wanted


def _rel(words: list[str], *, new_window: bool) -> list[str]:
    """Return the words of a relation; what a new window opens shall not reach back (HTML 4.6.7.15)."""
    found = list(dict.fromkeys(words))
    if new_window and not {"noopener", "opener", "noreferrer"} & {word.lower() for word in found}:
        found.append("noopener")
    return found


def _window_words(page: Page) -> str:
    language = (page.language or "en").partition("-")[0].lower()
    return f" ({escape(_WINDOW_WORDS.get(language, 'new window'), quote=False)})"


def file_words(path: str, size: int) -> str:
    """Return words for a link to a file: its name, its kind and its size, such as “Timetable (PDF, 340 KB)”."""
    stem, ending = posixpath.splitext(posixpath.basename(path))
    words = " ".join(stem.replace("_", " ").replace("-", " ").split())
    kind = ending.lstrip(".").lower()
    kind = _FILE_KINDS.get(kind, kind.upper())
    amount = f"{max(1, round(size / _KILO))} KB" if size < _MEGA else f"{size / _MEGA:.1f} MB"
    return f"{words[:1].upper()}{words[1:]} ({kind}, {amount})" if kind else f"{words} ({amount})"
