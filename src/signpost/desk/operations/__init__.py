"""The operations an author can ask for, each a plan and a title."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from signpost.core.page import Page
from signpost.core.site.site import Site
from signpost.desk.operations.asked import Asked, Faulty, Lengths, Planned, Planner
from signpost.desk.operations.blocks import BLOCK_OPERATIONS
from signpost.desk.operations.entries import ENTRY_OPERATIONS
from signpost.desk.operations.files import FILE_OPERATIONS
from signpost.desk.operations.findings import FINDING_OPERATIONS
from signpost.desk.operations.headings import HEADING_OPERATIONS
from signpost.desk.operations.identifiers import IDENTIFIER_OPERATIONS
from signpost.desk.operations.jumps import JUMP_OPERATIONS
from signpost.desk.operations.parts import PART_OPERATIONS
from signpost.desk.operations.style import STYLE_OPERATIONS
from signpost.desk.settings import Settings

__all__ = ["OPERATIONS", "Planned", "plan_operation"]

OPERATIONS: dict[str, Planner] = {
    **HEADING_OPERATIONS,
    **IDENTIFIER_OPERATIONS,
    **BLOCK_OPERATIONS,
    **FILE_OPERATIONS,
    **FINDING_OPERATIONS,
    **PART_OPERATIONS,
    **JUMP_OPERATIONS,
    **STYLE_OPERATIONS,
    **ENTRY_OPERATIONS,
}


def plan_operation(
    site: Site,
    page: Page,
    settings: Settings,
    operation: str,
    parameters: Mapping[str, Any],
    lengths: Lengths,
    faulty: Faulty,
) -> Planned:
    """Return the plan of an operation on a page, without the pages that it shall leave. Raises what it raises."""
    planned = OPERATIONS[operation](Asked(site, page, settings, parameters, lengths, faulty))
    return replace(planned, plan=planned.plan.without(frozenset(parameters.get("without") or ())))
