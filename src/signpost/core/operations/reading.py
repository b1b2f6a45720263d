"""An operation read from plain values, such as those of TOML or JSON; what does not fit is refused with its name."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import MISSING, Field, fields, is_dataclass
from enum import Enum
from types import NoneType, UnionType
from typing import Annotated, Any, Literal, TypeVar, Union, cast, get_args, get_origin, get_type_hints

from annotated_types import Ge, Le, MaxLen, MinLen, Predicate

from signpost.core.text.errors import InputError

_Read = TypeVar("_Read")


class _UnfitError(Exception):
    """A value is not of the kind that is asked for."""


def read_said(kind: type[_Read], does: str, said: Mapping[str, Any]) -> _Read:
    """Return a dataclass of what is said of its fields, by their names with hyphens.

    `does` is what messages call it. Raises InputError for a name that it has not, a value that does not fit, and a
    field that nothing is said of and that has no usual value.
    """
    hints = get_type_hints(kind, include_extras=True)
    known: dict[str, Field[Any]] = {one.name.strip("_").replace("_", "-"): one for one in fields(kind)}  # type: ignore[arg-type]
    read = {}
    for name, value in said.items():
        if name not in known:
            can = f"only {', '.join(known)}" if known else "nothing"
            raise InputError(f"“{does}” can be told {can} beside its pages, not “{name}”.")
        try:
            read[known[name].name] = _fit(hints[known[name].name], value)
        except _UnfitError:
            raise InputError(f"{value!r} cannot be the {name} of “{does}”.") from None
    for name, one in known.items():
        if one.name not in read and one.default is MISSING and one.default_factory is MISSING:
            raise InputError(f"“{does}” has to be told its {name}.")
    return kind(**read)


def _fit(hint: Any, value: Any) -> Any:
    """Return a value as a type hint asks for it. Raises _UnfitError."""
    kind, within = get_origin(hint) or hint, get_args(hint)
    if kind is Annotated:
        found = _fit(within[0], value)
        if not all(_keeps(found, limit) for limit in within[1:]):
            raise _UnfitError
        return found
    if kind in (Union, UnionType):
        return _fit_any(within, value)
    if kind is tuple:
        return tuple(_fit(within[0], one) for one in _plain(value, list, tuple))
    if kind is dict:
        return {_fit_key(within[0], key): _fit(within[1], one) for key, one in _plain(value, dict).items()}
    if kind is Literal:
        return _one_of(value, within)
    return _fit_class(kind, value)


def _keeps(value: Any, limit: Any) -> bool:
    """Return whether a value keeps within a limit."""
    try:
        return _LIMITS[type(limit)](value, limit)
    except ValueError:
        return False


def _fit_class(kind: Any, value: Any) -> Any:
    if issubclass(kind, Enum):
        return kind(_one_of(value, [one.value for one in kind]))
    if is_dataclass(kind):
        try:
            return read_said(cast("type[Any]", kind), "it", _plain(value, dict))
        except InputError as error:
            raise _UnfitError from error
    return float(_plain(value, int, float)) if kind is float else _plain(value, kind)


def _fit_any(hints: tuple[Any, ...], value: Any) -> Any:
    for hint in hints:
        try:
            return _fit(hint, value)
        except _UnfitError:
            continue
    raise _UnfitError


def _fit_key(hint: Any, key: str) -> Any:
    """Return a key; formats that know only texts as keys write numbers in digits."""
    return _fit(hint, int(key) if hint is int and key.isascii() and key.isdigit() else key)


def _plain(value: Any, *kinds: type) -> Any:
    """Return a value of a kind; a switch is no number."""
    if type(value) not in (NoneType if kind is None else kind for kind in kinds):
        raise _UnfitError
    return value


def _one_of(value: Any, known: Any) -> Any:
    if not any(type(one) is type(value) and one == value for one in known):
        raise _UnfitError
    return value


_LIMITS: dict[type, Callable[[Any, Any], bool]] = {
    Ge: lambda value, limit: value >= limit.ge,
    Le: lambda value, limit: value <= limit.le,
    MinLen: lambda value, limit: len(value) >= limit.min_length,
    MaxLen: lambda value, limit: len(value) <= limit.max_length,
    Predicate: lambda value, limit: limit.func(value),
}
