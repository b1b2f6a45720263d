"""The operations that an author can ask for, each declared once: what it is asked with, and what it plans."""

from signpost.core.operations import contents, files, findings, headings, identifiers, links, pages, parts, recipes
from signpost.core.operations.operation import (
    OPERATIONS,
    Habits,
    ManyPages,
    Operation,
    Planned,
    Situation,
    Takes,
)

__all__ = [
    "OPERATIONS",
    "Habits",
    "ManyPages",
    "Operation",
    "Planned",
    "Situation",
    "Takes",
    "contents",
    "files",
    "findings",
    "headings",
    "identifiers",
    "links",
    "pages",
    "parts",
    "recipes",
]
