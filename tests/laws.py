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
    """What was in a page's source and is there no more."""
    return pieces(before) - pieces(after)


#: What a line that looks like a heading is made of, and what may go when it becomes one.
LOOKS = frozenset("b strong font big p div h1 h2 h3 h4 h5 h6 br a".split())


def of_looks(piece: tuple[str, ...]) -> bool:
    """Whether a piece only made a line look like a heading, or marked it for links, under the name that it keeps."""
    return piece[0] in ("element", "end tag", "attribute") and piece[1] in LOOKS


def of_level(piece: tuple[str, ...]) -> bool:
    """Whether a piece is a heading's tag; its attributes go with the old tag and come with the new one."""
    return piece[0] in ("element", "end tag", "attribute", "class") and piece[1][0] == "h" and piece[1][1:].isdigit()


def of_empty_identifier(piece: tuple[str, ...]) -> bool:
    """Whether a piece is an identifier without a name."""
    return piece[0] == "attribute" and piece[2:] == ("id", "")


def of_address(piece: tuple[str, ...]) -> bool:
    """Whether a piece is a link's address, which is put right where it led nowhere."""
    return piece[0] == "attribute" and piece[1:3] == ("a", "href")


def of_nothing(_piece: tuple[str, ...]) -> bool:
    """Whether a piece may go where none may."""
    return False
