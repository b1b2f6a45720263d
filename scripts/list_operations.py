"""Writes docs/operations.md from what the operations declare."""

from __future__ import annotations

from dataclasses import MISSING, Field, fields, is_dataclass
from enum import Enum
from pathlib import Path
from types import NoneType, UnionType
from typing import Annotated, Any, Literal, Union, get_args, get_origin, get_type_hints

from annotated_types import Ge, Le, MaxLen, MinLen

from signpost.core.operations import OPERATIONS, Operation
from signpost.core.operations.operation import RuleCode
from signpost.core.operations.recipe_steps import STEPS
from signpost.core.operations.recipes import CarryOut

PAGE = Path(__file__).resolve().parents[1] / "docs" / "operations.md"
_KINDS = {str: "text", int: "a number", float: "a number", bool: "`true` or `false`"}


def write() -> str:
    """Return the page: each operation, what it may take from a page, and what it can be told."""
    lines = [
        "# Operations",
        "",
        'What is done to pages at the desk, and what a recipe can do as `do = "…"`. A recipe writes what an',
        "operation is told as it stands here; `start`, `end`, `before` and `at` are positions in characters,",
        "sections count from 0. What has no usual value has to be told. Made from what the operations declare by",
        "`scripts/list_operations.py`.",
        "",
        "What an operation made earlier it renews, or takes out, whatever stands below of the rest of the page.",
        "",
        f"In recipes {', '.join(f'`{name}`' for name in sorted(STEPS))} take what the README says.",
    ]
    for name, kind in sorted(OPERATIONS.items()):
        lines += [
            "",
            f"## `{name}`",
            "",
            " ".join((kind.__doc__ or "").split()),
            "",
            f"May take from a page: {kind.takes}.",
        ]
        lines += [] if kind is CarryOut else _told(kind)
    return "\n".join(lines) + "\n"


def _told(kind: type[Operation]) -> list[str]:
    hints = get_type_hints(kind, include_extras=True)
    rows = [f"| `{one.name.replace('_', '-')}` | {_words(hints[one.name])} | {_usual(one)} |" for one in fields(kind)]
    return ["", "| it is told | as | usually |", "|---|---|---|", *rows] if rows else []


def _usual(one: Field[Any]) -> str:
    if one.default_factory is not MISSING or one.default in ((), ""):
        return "none"
    if one.default is MISSING:
        return ""
    if one.default is None:
        return "as it is"
    if isinstance(one.default, bool):
        return f"`{str(one.default).lower()}`"
    return f"`{list(one.default) if isinstance(one.default, tuple) else one.default}`"


def _words(hint: Any) -> str:
    """Return in words what a value of a type is."""
    kind, within = get_origin(hint) or hint, get_args(hint)
    if kind is Annotated:
        return "the code of a rule" if hint == RuleCode else _words(within[0]) + _limits(within[0], within[1:])
    if kind in (Union, UnionType):
        return " or ".join(_words(one) for one in within if one is not NoneType)
    if kind is tuple:
        return f"a list, each {_words(within[0])}"
    if kind is dict:
        return f"a table: {_words(within[0])} = {_words(within[1])}"
    return _words_of_class(kind, within)


def _words_of_class(kind: Any, within: tuple[Any, ...]) -> str:
    if kind is Literal or issubclass(kind, Enum):
        return "one of " + ", ".join(f"`{one}`" for one in within or [one.value for one in kind])
    if is_dataclass(kind):
        known = get_type_hints(kind, include_extras=True)
        said = (f"`{one.name.replace('_', '-')}`, {_words(known[one.name])}" for one in fields(kind))
        return f"a table: {'; '.join(said)}"
    return _KINDS[kind]


def _limits(kind: Any, limits: tuple[Any, ...]) -> str:
    least = next((limit.ge for limit in limits if isinstance(limit, Ge)), None)
    most = next((limit.le for limit in limits if isinstance(limit, Le)), None)
    if kind in (int, float):
        return (f" from {least}" if least is not None else "") + (f" to {most}" if most is not None else "")
    shortest = next((limit.min_length for limit in limits if isinstance(limit, MinLen)), 0)
    longest = next((limit.max_length for limit in limits if isinstance(limit, MaxLen)), None)
    least_words = "" if not shortest else "not empty" if shortest == 1 else f"at least {shortest}"
    most_words = "" if longest is None else f"at most {longest:,}" + (" characters" if kind is str else " of them")
    said = [one for one in (least_words, most_words) if one]
    return f" ({', '.join(said)})" if said else ""


if __name__ == "__main__":
    PAGE.write_text(write(), encoding="utf-8")
