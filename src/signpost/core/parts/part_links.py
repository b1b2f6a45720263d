"""The links between the parts of a page, and the lines by which links to its first part lead on."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from html import escape

from signpost.core.page import Page, Target
from signpost.core.page.habits import Habits
from signpost.core.page.outline import section_marked
from signpost.core.parts.naming import Part
from signpost.core.parts.options import Forwarding, LinkPiece, PartOptions
from signpost.core.parts.phrases import part_words

#: Shows the one line of the list that the address asks for.
_NOTE_STYLE = ".moved-sections p { display: none } .moved-sections p:target { display: block }"
_SCRIPT = (
    "(function () {",
    "  var moved = {",
    "  };",
    "  function follow() {",
    "    var name = location.hash.slice(1);",
    "    if (!Object.prototype.hasOwnProperty.call(moved, name)) {",
    "      try { name = decodeURIComponent(name); } catch (error) { return; }",
    "    }",
    "    if (Object.prototype.hasOwnProperty.call(moved, name)) { location.replace(moved[name]); }",
    "  }",
    '  addEventListener("hashchange", follow);',
    "  follow();",
    "})();",
)
_LIST_AT = 2  # the line of the script that the list goes before

#: Gives the address of a place from a part: the path, and the identifier or None.
AddressOf = Callable[[str, str | None], str]


@dataclass(frozen=True, slots=True)
class Moved:
    """A place of the page that went from its first part to another one."""

    name: str  # its identifier
    part: Part
    words: str  # of the section it is in, or of the part


def find_moved(page: Page, parts: Sequence[Part]) -> list[Moved]:
    """Return all places of a page that fragments lead to and that are not in its first part, each name once."""
    found: dict[str, Moved] = {}
    kept = {target.name for target in page.targets if not parts[0].end <= target.start < parts[-1].end}
    for target in sorted(page.targets, key=lambda target: target.attribute != "id"):  # as fragments look for them
        if target.name in kept or target.name in found or not target.name.strip():
            continue
        part = next(part for part in reversed(parts) if part.start <= target.start)
        found[target.name] = Moved(target.name, part, _words(page, target, part))
    return list(found.values())


def _words(page: Page, target: Target, part: Part) -> str:
    section = section_marked(page, target.start)
    section = page.section_at(target.start) if section is None else section
    heading = page.headings[section] if section >= 0 else None
    return heading.text if heading is not None and part.start <= heading.element.open.start < part.end else part.title


class LinkWriter:
    """Writes the links of one part, as the page's author writes."""

    def __init__(self, page: Page, habits: Habits, parts: Sequence[Part], options: PartOptions, indent: str) -> None:
        self.page = page
        self.habits = habits
        self.parts = parts
        self.options = options
        self.indent = indent
        self.words = part_words(page.language)

    def block(self, part: Part, address_of: AddressOf, *, last: bool) -> str:
        """Return the lines of a part's links, at its beginning or, with `last`, at its end; "" for none there."""
        chosen = self.options.links
        if (LinkPiece.BOTTOM if last else LinkPiece.TOP) not in chosen:
            return ""
        lines = list(self._overview(part, address_of))
        neighbours = LinkPiece.NEIGHBOURS in chosen and (last or LinkPiece.BOTTOM not in chosen)
        if neighbours:
            lines += self._neighbours(part, address_of)
        if not lines:
            return ""
        habits = self.habits
        tag = "nav" if self.page.html5 else "div"
        label = self.words.neighbours if last and neighbours else self.words.overview + (" (2)" if last else "")
        start = habits.start(tag, class_="part-links", aria_label=label if tag == "nav" else None)
        return self.lines([start, *(habits.indent + line for line in lines), habits.end(tag)])

    def lines(self, lines: Iterable[str]) -> str:
        """Return lines at the content's indent."""
        return "".join(self.indent + line + self.habits.newline for line in lines)

    def _overview(self, part: Part, address_of: AddressOf) -> Iterable[str]:
        habits = self.habits
        if LinkPiece.TITLES in self.options.links:
            yield habits.start("ol")
            for other in self.parts:
                item = self._marked(other, part, address_of, escape(other.title, quote=False))
                yield f"{habits.indent}{habits.start('li')}{item}{habits.end('li')}"
            yield habits.end("ol")
        elif LinkPiece.NUMBERS in self.options.links:
            numbers = " ".join(self._marked(other, part, address_of, str(other.number)) for other in self.parts)
            yield f"{habits.start('p')}{self.words.part} {numbers}{habits.end('p')}"

    def _marked(self, other: Part, part: Part, address_of: AddressOf, words: str) -> str:
        habits = self.habits
        if other is part:
            current = "page" if self.page.html5 else None
            return f"{habits.start('strong', aria_current=current)}{words}{habits.end('strong')}"
        return f"{habits.start('a', href=address_of(other.path, None))}{words}{habits.end('a')}"

    def _neighbours(self, part: Part, address_of: AddressOf) -> Iterable[str]:
        habits = self.habits
        sides = ((self.words.previous, "prev", part.number - 1), (self.words.next, "next", part.number + 1))
        for word, rel, number in sides:
            if 1 <= number <= len(self.parts):
                other = self.parts[number - 1]
                start = habits.start("a", href=address_of(other.path, None), rel=rel)
                link = start + escape(other.title, quote=False) + habits.end("a")
                yield f"{habits.start('p')}{word}: {link}{habits.end('p')}"

    def forward_list(self, moved: Sequence[Moved], address_of: AddressOf) -> str:
        """Return the lines that say where sections went, as the first part has them; "" for none."""
        if not moved or not self.options.forward & {Forwarding.NOTE, Forwarding.LIST}:
            return ""
        habits = self.habits
        lines = [habits.start("div", class_="moved-sections")]
        for one in moved:
            link = habits.start("a", href=address_of(one.part.path, one.name)) + escape(one.words, quote=False)
            words = self.words.moved.format(link=link + habits.end("a"), n=one.part.number)
            lines.append(f"{habits.indent}{habits.start('p', id=one.name)}{words}{habits.end('p')}")
        return self.lines([*lines, habits.end("div")])

    def forward_head(self, moved: Sequence[Moved], address_of: AddressOf) -> list[list[str]]:
        """Return the elements, line by line, that the first part's head gets so that links to it lead on."""
        habits, elements = self.habits, []
        if moved and Forwarding.NOTE in self.options.forward and Forwarding.LIST not in self.options.forward:
            start = habits.start("style", class_="moved-sections")
            elements.append([f"{start}{_NOTE_STYLE}{habits.end('style')}"])
        if moved and Forwarding.SCRIPT in self.options.forward:
            listed = [
                f"    {_in_script(one.name)}: {_in_script(address_of(one.part.path, one.name))}" for one in moved
            ]
            listed = [line + "," for line in listed[:-1]] + listed[-1:]
            script = [*_SCRIPT[:_LIST_AT], *listed, *_SCRIPT[_LIST_AT:]]
            elements.append([habits.start("script", class_="moved-sections"), *script, habits.end("script")])
        return elements


def _in_script(words: str) -> str:
    """Return a string as a script contains it in any encoding, in HTML and XHTML (HTML 4.12.1.3)."""
    return json.dumps(words).replace("<", "\\u003c").replace("&", "\\u0026").replace(">", "\\u003e")
