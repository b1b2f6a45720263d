"""Tables of contents: made, refreshed, moved, removed, and adopted where an author made them by hand."""

from signpost.core.contents.adopting import Unplaced, plan_adoption
from signpost.core.contents.blocks import ContentsBlock, Listed, State, find_blocks, find_contents, listed_identifiers
from signpost.core.contents.handmade import Handmade, find_handmade
from signpost.core.contents.listing import Form
from signpost.core.contents.options import NEW, ContentsOptions, Spot
from signpost.core.contents.planning import (
    find_outdated,
    note_contents,
    plan_contents,
    plan_entry_words,
    plan_moved_contents,
    plan_no_contents,
)

__all__ = [
    "NEW",
    "ContentsBlock",
    "ContentsOptions",
    "Form",
    "Handmade",
    "Listed",
    "Spot",
    "State",
    "Unplaced",
    "find_blocks",
    "find_contents",
    "find_handmade",
    "find_outdated",
    "listed_identifiers",
    "note_contents",
    "plan_adoption",
    "plan_contents",
    "plan_entry_words",
    "plan_moved_contents",
    "plan_no_contents",
]
