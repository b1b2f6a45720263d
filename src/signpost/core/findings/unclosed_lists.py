"""Where a list or table ends whose end tag is missing: behind its last item, as the items' end tags show."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

from signpost.core.page import Page
from signpost.core.page.markup import tokens_of
from signpost.core.page.tokens import Tag

#: Elements that contain items or cells.
HOLDERS = frozenset("table ul ol menu dl select".split())
#: What stands right in a holder.
_ITEMS = {
    "ul": frozenset(["li"]),
    "ol": frozenset(["li"]),
    "menu": frozenset(["li"]),
    "dl": frozenset(["dt", "dd"]),
    "select": frozenset(["option", "optgroup"]),
    "table": frozenset("caption colgroup col thead tbody tfoot tr td th".split()),
}
#: What may stand between them.
_ANYWHERE = frozenset(["script", "template"])
#: Of those of a table, what contains none of the others.
_CELLS = frozenset(["caption", "td", "th"])


@dataclass(slots=True)
class _Open:
    """A holder that is open, while its tags are gone through."""

    index: int  # of its start tag
    name: str
    item: str = ""  # which of its items is open; "" for none
    boxes: int = 0  # how many boxes around items are open in it, as a dl may have them
    end: int = 0  # behind the last end tag of an item; 0 for none yet


class ListEnd(NamedTuple):
    """Which element the source tells to have no end tag, and behind what it ends."""

    tag: Tag
    at: int


class _Holders:
    """Goes through the tags from a list or table on, until one shows that it has ended, or one within it has.

    Whoever writes the end tags of items shows with them where a list ends: what comes behind one of them and is no
    item is not in the list any more.
    """

    def __init__(self, page: Page, tag: Tag) -> None:
        self.tokens = tokens_of(page)
        self.first = self.tokens.at(tag.start)
        self.open = [_Open(self.first, tag.name)]

    def find(self) -> ListEnd | None:
        """Return what has no end tag; None where nothing tells."""
        tokens = self.tokens
        for at in range(self.first + 1, len(tokens)):
            top = self.open[-1]
            name = tokens.names[at]
            if self._ends(top, name[1:], at) if name[0] == "/" else self._begins(top, name, at):
                return ListEnd(tokens.tag(top.index), top.end) if top.end else None
            if not self.open:
                return None
        return None

    def _begins(self, top: _Open, name: str, at: int) -> bool:
        """Return whether a holder ended before a start tag; else take note of the tag."""
        if name in _ITEMS[top.name]:
            top.item = name
        elif not top.item and name == "div" and top.name == "dl":
            top.boxes += 1
        elif not top.item and name != top.name:
            return name not in _ANYWHERE
        elif name in HOLDERS:
            self.open.append(_Open(at, name))
        return False

    def _ends(self, top: _Open, name: str, at: int) -> bool:
        """Return whether a holder ended before an end tag; else take note of the tag."""
        if name == top.name:
            self.open.pop()
        elif name in _ITEMS[top.name]:
            if top.item == name or (top.name == "table" and (top.item or name not in _CELLS)):
                top.item, top.end = "", self.tokens.ends[at]
            elif not top.item:
                return len(self.open) > 1 and name in _ITEMS[self.open[-2].name]
        elif name == "div" and top.boxes:
            top.boxes, top.end = top.boxes - 1, self.tokens.ends[at]
        elif name not in _ANYWHERE:
            return not top.item and bool(top.end)
        return False


def find_list_end(page: Page, tag: Tag) -> ListEnd | None:
    """Return what has no end tag where that of a list or table is missing, it or one within it, and where it ends.

    None where the author leaves the end tags of items out, so that nothing tells.
    """
    return _Holders(page, tag).find()
