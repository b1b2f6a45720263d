"""Where a fragment leads: HTML 7.4.6.4, "the indicated part of the document"."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import Enum
from typing import Final, Generic, TypeVar
from urllib.parse import unquote

T = TypeVar("T")


class Top(Enum):
    """The top of the document, which no element need mark."""

    TOP = "top"


TOP: Final = Top.TOP


@dataclass(frozen=True, slots=True)
class Targets(Generic[T]):
    """What fragments of one page can point to: the first element, in tree order, with each `id` and each `a name`."""

    ids: Mapping[str, T]
    names: Mapping[str, T]


#: What a fragment's directive begins with.
DIRECTIVE = ":~:"


def find_indicated(fragment: str, targets: Targets[T]) -> T | Top | None:
    """Return what `fragment` (without "#") indicates: a target, the top, or None for nowhere.

    Comparison is case-sensitive, but for the word "top". What a text directive asks for is not an identifier, and is
    taken off first (URL Fragment Text Directives, 3.3).
    """
    fragment = fragment.partition(DIRECTIVE)[0]
    if not fragment:
        return TOP
    found = _find(fragment, targets)
    if found is None and "%" in fragment:
        decoded = unquote(fragment, errors="replace")
        found = _find(decoded, targets)
        fragment = decoded
    if found is None and fragment.lower() == "top" and fragment.isascii():
        return TOP
    return found


def _find(fragment: str, targets: Targets[T]) -> T | None:
    found = targets.ids.get(fragment)
    return targets.names.get(fragment) if found is None else found
