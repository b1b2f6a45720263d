"""What a link says beside its address: title, window, relation, language, and that a file is saved."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from html import escape

from signpost.core.page import Page, read_nodes
from signpost.core.page.habits import Habits
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
_BARE = "\0"  # of an attribute that is there without a value


@dataclass(frozen=True, slots=True)
class LinkLook:
    """What a link says beside its address. None leaves what is there as it is, "" removes it."""

    title: str | None = None
    new_window: bool | None = None
    tells_window: bool = False  # whether words behind the link's own say that it opens a window
    rel: str | None = None  # words of the relation, beside what a new window needs
    language: str | None = None  # of what it leads to, as a language tag
    download: bool | None = None
    insists: bool = False  # whether a jump on the same page may open a window

    def check_jump(self) -> None:
        """Raise RequestError where a jump on the same page opens a window that its author does not insist on."""
        if self.new_window and not self.insists:
            raise RequestError("A jump on the same page opens no window: its reader would have the page twice.")


def link_edits(
    page: Page, habits: Habits, span: Span, address: str, look: LinkLook, reason: str, class_: str | None = None
) -> Iterator[Edit]:
    """Yield the edits that make words or a picture a link."""
    yield Edit(span.start, span.start, _opening_tag(habits, address, look, class_), rank=1, reason=reason)
    yield Edit(span.end, span.end, _words_behind(page, look) + habits.end("a"), rank=-1, reason=reason)


def _opening_tag(habits: Habits, address: str, look: LinkLook, class_: str | None) -> str:
    """Return the start tag of a new link."""
    rel = " ".join(_rel((look.rel or "").split(), new_window=bool(look.new_window)))
    tag = habits.start(
        "a",
        class_=class_,
        href=address,
        title=(look.title or "").strip() or None,
        target="_blank" if look.new_window else None,
        rel=rel or None,
        hreflang=look.language or None,
    )
    return f"{tag[:-1]} {habits.tag('download')}>" if look.download else tag


def _words_behind(page: Page, look: LinkLook) -> str:
    """Return the words that tell readers, in the page's language, that a link opens a window; "" for none."""
    if not (look.new_window and look.tells_window):
        return ""
    language = (page.language or "en").partition("-")[0].lower()
    return f" ({escape(_WINDOW_WORDS.get(language, 'new window'), quote=False)})"


def look_edits(
    page: Page, habits: Habits, start: int, text: str, look: LinkLook, address: str | None, reason: str
) -> Iterator[Edit]:
    """Yield the edits that give the link at a start tag a look; and an address, unless that is None.

    `text` is what the link says now.
    """
    attributes = {one.name: one for one in page.attributes_at(start)}
    added = ""
    for name, value in _wanted(attributes, address, look).items():
        there = attributes.get(name)
        if there is None:
            added += (
                f" {habits.tag(name)}" if value == _BARE else " " + habits.attribute(name, value) if value else ""
            )
        elif not value:
            yield removal(page.text, there, f"{name} removed")
        elif value not in (there.value, _BARE):
            yield value_edit(page.text, there, value, reason)
    if added:
        at = max((one.span.end for one in attributes.values()), default=start + 2)
        yield Edit(at, at, added, reason=reason)
    words = _words_behind(page, look)
    if words and words.strip() not in text:
        node = next(one for one in read_nodes(page).all if one.start == start)
        if node.element.close is not None:
            at = node.element.close.start
            yield Edit(at, at, words, reason="says that a new window opens")


def _wanted(attributes: Mapping[str, Attribute], address: str | None, look: LinkLook) -> dict[str, str]:
    """Return what attributes of a link shall be; "" for one that shall not be there, others stay as they are."""
    opens = "target" in attributes and attributes["target"].value.lower() == "_blank"
    said = attributes["rel"].value.split() if "rel" in attributes else []
    wanted = {} if address is None else {"href": address}
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
