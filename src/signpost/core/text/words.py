"""Words for what is counted."""

from __future__ import annotations


def count_of(number: int, noun: str) -> str:
    """Return a number with its noun, whose plural ends with an s."""
    return f"{number:,} {noun}" if number == 1 else f"{number:,} {noun}s"
