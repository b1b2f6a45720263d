"""The law above all others, as something to count: what a page's author wrote, piece by piece.

Read by the standard library's tokenizer, so that our own reading of a page is not asked whether it is right.
"""

from __future__ import annotations

from collections import Counter
from html.parser import HTMLParser

Pieces = Counter[tuple[str, ...]]


class _Pieces(HTMLParser):
    def __init__(self) -> None:
        super().__init__(convert_charrefs=True)
        self.found: Pieces = Counter()

    def handle_starttag(self, tag, attrs):
        self.found["element", tag] += 1
        for name, value in attrs:
            if name == "class":
                self.found.update(("class", tag, word) for word in (value or "").split())
            else:
                self.found["attribute", tag, name, value or ""] += 1

    def handle_startendtag(self, tag, attrs):
        self.handle_starttag(tag, attrs)

    def handle_endtag(self, tag):
        self.found["end tag", tag] += 1

    def handle_data(self, data):
        self.found.update(("word", word) for word in data.split())

    def handle_comment(self, data):
        self.found["comment", data] += 1


def pieces(markup: str) -> Pieces:
    """The words, attributes, elements, end tags and comments of a page's source, each with its count."""
    parser = _Pieces()
    parser.feed(markup)
    parser.close()
    return parser.found


def lost(before: str, after: str) -> Pieces:
    """What stood in a page's source and stands there no more."""
    return pieces(before) - pieces(after)
