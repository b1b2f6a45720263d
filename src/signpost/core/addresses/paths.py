"""Paths of a site's files: which can be, and what could be better about one."""

from __future__ import annotations

import posixpath
import re
import unicodedata
from collections.abc import Callable, Iterable
from enum import Enum

#: How long a path may be, in characters.
PATH_CHARACTERS = 400
_DRIVE = re.compile(r"[A-Za-z]:")
_CONTROL = re.compile(r"[\x00-\x1f\x7f-\x9f\u2028\u2029]")
#: Names that Windows keeps for devices, whatever ending they have.
_DEVICES = frozenset(
    [
        "con",
        "prn",
        "aux",
        "nul",
        *(f"com{number}" for number in range(1, 10)),
        *(f"lpt{number}" for number in range(1, 10)),
    ]
)


def find_path_objection(path: str) -> str | None:
    """Return why a path cannot be one of a site's files, in words that say what to do; None where it can."""
    return next((reason for holds, reason in _OBJECTIONS if holds(path)), None)


def _is_device(path: str) -> bool:
    return any(piece.partition(".")[0].strip().lower() in _DEVICES for piece in path.split("/"))


#: What is asked of each path, in this order, and what is said where it is so.
_OBJECTIONS: tuple[tuple[Callable[[str], object], str], ...] = (
    (
        lambda path: not path or path.startswith("/") or _DRIVE.match(path),
        "A path has to lie within the site's folder; write it like guide.html or guides/boiler.html.",
    ),
    (_CONTROL.search, "It holds a line end or another control character; leave that out."),
    (
        lambda path: len(path) > PATH_CHARACTERS,
        f"It is longer than {PATH_CHARACTERS} characters; choose a shorter one.",
    ),
    (lambda path: ".." in path.split("/"), "It leads out of the folder; leave the “..” out."),
    (
        lambda path: not all(piece.strip() for piece in path.split("/")),
        "It has an empty piece between two slashes, or ends with one; leave the extra slash out.",
    ),
    (
        lambda path: any(piece.startswith(".") for piece in path.split("/")),
        "A name that begins with a dot is hidden; begin it with a letter.",
    ),
    (
        lambda path: "\\" in path,
        "It holds a backslash, which no address can lead to; write a slash between folders.",
    ),
    (_is_device, "Windows keeps that name for a device; choose another one."),
)


class Clash(Enum):
    """How a path gets in the way of another one."""

    SAME = "the same"
    ALIKE = "alike"  # but for capitals, or for how its letters are composed (Unicode, UAX 15)
    FOLDER = "a folder"  # one is a folder of the other


class PathIndex:
    """The paths of a site, to be asked whether another one fits beside them on any file system."""

    def __init__(self, paths: Iterable[str] = ()) -> None:
        self._paths: set[str] = set()
        self._alike: dict[str, str] = {}
        self._folders: dict[str, str] = {}  # one of the paths in each folder
        for path in paths:
            self.add(path)

    def add(self, path: str) -> None:
        """Take a path in."""
        self._paths.add(path)
        self._alike.setdefault(_plain(path), path)
        folder = _plain(path)
        while folder := posixpath.dirname(folder):
            self._folders.setdefault(folder, path)

    def find_clash(self, path: str) -> tuple[Clash, str] | None:
        """Return how a path gets in the way of one that is there, and of which; None where it does not."""
        if path in self._paths:
            return Clash.SAME, path
        plain = _plain(path)
        if plain in self._alike:
            return Clash.ALIKE, self._alike[plain]
        other = self._folders.get(plain)
        folder = plain
        while other is None and (folder := posixpath.dirname(folder)):
            other = self._alike.get(folder)
        return None if other is None else (Clash.FOLDER, other)


def _plain(path: str) -> str:
    """Return a path as file systems that are lenient compare it."""
    return unicodedata.normalize("NFC", path).casefold()


def find_path_advice(path: str) -> str | None:
    """Return what could be better about a path that can be; None where nothing could."""
    if " " in path:
        return "It holds a space, which links have to write as %20; join the words with hyphens."
    if any(piece.endswith((" ", ".")) for piece in path.split("/")):
        return "A name ends with a dot, which Windows drops; leave it out."
    if path != path.lower():
        return "It has capitals, which are easily typed wrong in links; most servers tell them apart."
    return None
