"""Where the parser's elements are in the text as its author saved it.

The parser's lines end where the standard's do (HTML 13.2.3.5), so that a line and a column lead to an offset into
the text as it is, CRLF or not.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from itertools import islice
from operator import le

from turbohtml import Element as Parsed
from turbohtml import Namespace, Node, parse

from signpost.core.page.facts import Element, Page
from signpost.core.page.kept import kept_at_hand
from signpost.core.page.tokens import Tag, Tokens
from signpost.core.text.positions import Lines, Span

#: Elements without an end tag (HTML 13.1.2, void elements, with those of old: 13.3, serialising).
VOID = frozenset(
    "area base basefont bgsound br col embed frame hr img input keygen link meta param source track wbr".split()
)

#: Elements whose end tags may be left out (HTML 13.1.2.4).
OPTIONAL_END = frozenset(
    "html head body p li dt dd rt rp optgroup option thead tbody tfoot tr td th colgroup caption".split()
)
#: All elements of HTML, those of earlier versions among them (HTML 4 and 16.2).
ELEMENTS = frozenset(
    """
    a abbr acronym address applet area article aside audio b base basefont bdi bdo bgsound big blink blockquote
    body br button canvas caption center cite code col colgroup data datalist dd del details dfn dialog dir div
    dl dt em embed fieldset figcaption figure font footer form frame frameset h1 h2 h3 h4 h5 h6 head header
    hgroup hr html i iframe image img input ins isindex kbd keygen label legend li link listing main map mark
    marquee math menu menuitem meta meter multicol nav nextid nobr noembed noframes noscript object ol optgroup
    option output p param picture plaintext pre progress q rb rp rt rtc ruby s samp script search section select
    slot small source spacer span strike strong style sub summary sup svg table tbody td template textarea tfoot
    th thead time title tr track tt u ul var video wbr xmp
    """.split()
)
#: Elements that a browser opens again behind a block that cut them off (HTML 13.2.4.3), the links among them.
FORMATTING = frozenset("a b big code em font i nobr s small strike strong tt u".split())
#: Elements that may reach further than to their own end tag, or less far.
_ODD = frozenset("html head body frameset template".split())
#: A heading whose tags are written plainly and that contains no markup: as most do.
_PLAIN_HEADING = re.compile(
    r"""<(h[1-6])((?:[ \t\r\n]+[\w-]+=(?:"[^"<>]*"|'[^'<>]*'|[\w-]+))*>)[^<]*(</\1>)""", re.IGNORECASE
)


#: Where an element's start tag ends, where its end tag begins (-1 for none), and where the element ends.
Written = tuple[int, int, int]


class Markup:
    """One text's tree, and where its elements are in it."""

    def __init__(self, text: str) -> None:
        self.mark = 1 if text.startswith("\ufeff") else 0  # a browser drops the mark before it parses
        self.tree = parse(text[self.mark :], source_locations=True)
        self.text = text
        self.end = len(text)
        self._starts = [self.mark, *Lines(text).starts[1:]]  # of lines; the parser is given the text without its mark
        self._elements: dict[Parsed, Element | None] = {}
        # whether end tags may be those of others: an element is left open, or was moved out of a table
        self._loose = self.tree.find("table") is not None and not self._is_in_order()
        self._first: dict[int, Parsed] = {}  # the first element that starts somewhere

    def element(self, parsed: Parsed) -> Element | None:
        """Return where an element is; None where no author wrote it. Asked of the parser once: it is slow."""
        if parsed in self._elements:
            return self._elements[parsed]
        location = parsed.source_location
        if location is None:
            self._elements[parsed] = None
            return None
        starts, tag = self._starts, location.start_tag
        opened = Span(starts[tag.start_line - 1] + tag.start_col, starts[tag.end_line - 1] + tag.end_col)
        closed = None
        if location.end_tag is not None:
            tag = location.end_tag
            closed = Span(starts[tag.start_line - 1] + tag.start_col, starts[tag.end_line - 1] + tag.end_col)
        end = closed.end if closed else opened.end
        if closed is None and parsed.tag not in VOID and not self._ends_itself(parsed, opened.end):
            end = self._implied_end(parsed, opened.end)
            self._loose = self._loose or parsed.tag not in OPTIONAL_END
        element = Element(parsed.tag, opened, closed, end)
        self._elements[parsed] = element
        return element

    def _ends_itself(self, parsed: Parsed, end: int) -> bool:
        """Return whether a start tag that ends at `end` is all of an element of a drawing (HTML 13.2.6.5)."""
        return self.text[end - 2] == "/" and parsed.namespace is not Namespace.HTML

    def _is_in_order(self) -> bool:
        """Return whether all elements are in the order of the source; a browser moves some ahead of their table."""
        places = [one.position for one in self.tree.find_all()]
        return all(map(le, filter(None, places), islice(filter(None, places), 1, None)))

    def written_start(self, parsed: Parsed) -> int:
        """Return where an element's start tag begins; -1 where no author wrote it.

        Of an element that is left open, a browser makes several, and all have its start: to be asked in tree order.
        """
        position = parsed.position
        if position is None:
            return -1
        start = self._starts[position[0] - 1] + position[1]
        first = self._first.setdefault(start, parsed)
        return start if first is parsed or self.element(parsed) is not None else -1

    def written(self, tokens: Tokens, parsed: Parsed, tag: str, start: int, inner: int) -> Written | None:
        """Return where the tags are of an element that starts at `start`; None where the parser has to be asked.

        `inner` is where what is written within it ends, or 0. Where its own end tag comes next behind that and words,
        it is its own.
        """
        if self._loose or tag in _ODD or parsed in self._elements:
            return None
        opened = tokens.at(start)
        if opened < 0:
            return None
        end = tokens.ends[opened]
        if tag in VOID:
            return end, -1, end
        if self.text[end - 2] == "/":
            return (end, -1, end) if self._ends_itself(parsed, end) else None
        close = opened + 1 if inner <= end else tokens.next(inner)
        closes = close < len(tokens.names) and tokens.names[close] == "/" + tag
        if tag == "form":  # ends where its tag is, whatever is open in it, and may be left by what is in it
            self._loose = self._loose or not closes
            return None
        return (end, tokens.starts[close], tokens.ends[close]) if closes else None

    def plain_heading(self, parsed: Parsed) -> Element | None:
        """Return where a heading of words alone is, without asking the parser; None for any other."""
        start = self.start(parsed)
        found = _PLAIN_HEADING.match(self.text, start) if start >= 0 else None
        if found is None:
            return None
        return Element(parsed.tag, Span(start, found.end(2)), Span(found.start(3), found.end()), found.end())

    def _implied_end(self, parsed: Parsed, least: int) -> int:
        """Return where an element without an end tag ends: where what follows it begins."""
        node: Node | None = parsed
        while node is not None:
            sibling = node.next_sibling
            while sibling is not None:
                if isinstance(sibling, Parsed) and sibling.source_line is not None:
                    return max(least, self.start(sibling))
                sibling = sibling.next_sibling
            node = node.parent
            if isinstance(node, Parsed):
                location = node.source_location
                if location is not None and location.end_tag is not None:
                    return max(least, self._starts[location.end_tag.start_line - 1] + location.end_tag.start_col)
        return len(self.text)

    def offset(self, line: int, column: int) -> int:
        """Return the offset of a place that the parser names: a 1-based line, a 0-based column."""
        return min(self._starts[line - 1] + column, len(self.text))

    def start(self, parsed: Parsed) -> int:
        """Return where an element's start tag begins, by line and column, which are quick to ask for."""
        position = parsed.position
        return -1 if position is None else self._starts[position[0] - 1] + position[1]


@kept_at_hand
def markup_of(page: Page) -> Markup:
    """Return a page's tree, and where its elements are; it is only read."""
    return Markup(page.text)


@kept_at_hand
def tokens_of(page: Page) -> Tokens:
    """Return a page's tags as written."""
    return Tokens(page.text)


def head_tags(page: Page, *names: str) -> Iterator[Tag]:
    """Yield the start tags of some names that are in a page's head; of a page without one, wherever they are."""
    end = len(page.text) if page.head_end is None else page.head_end
    return (tag for tag in tokens_of(page).named(*names) if tag.end <= end)
