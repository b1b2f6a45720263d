"""The operations that an author can ask for, each declared once: what it is asked with, and what it plans."""

from signpost.core.operations import contents, files, findings, headings, identifiers, links, pages, parts, recipes
from signpost.core.operations.operation import (
    OPERATIONS,
    ManyPages,
    Operation,
    Planned,
    Preferences,
    Situation,
    Takes,
)

__all__ = [
    "OPERATIONS",
    "ManyPages",
    "Operation",
    "Planned",
    "Preferences",
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
