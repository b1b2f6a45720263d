"""The operations an author can ask for, each a plan and a title."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from signpost.core.contents import ContentsOptions, Form, plan_contents, plan_no_contents
from signpost.core.edits import retyped
from signpost.core.identifiers import plan_given, plan_identifiers
from signpost.core.page import Page
from signpost.core.parts import plan_parts
from signpost.core.renames import plan_rename
from signpost.core.returns import Destination, ReturnOptions, plan_no_returns, plan_returns
from signpost.core.site import Site, SitePlan, plan_for


@dataclass(frozen=True, slots=True)
class Planned:
    """An operation's plan, and what its change will be called."""

    title: str
    plan: SitePlan


_Planner = Callable[[Site, Page, Mapping[str, Any]], Planned]


def _identify(_site: Site, page: Page, parameters: Mapping[str, Any]) -> Planned:
    edits = plan_identifiers(page, parameters["levels"])
    return Planned(f"Identifiers for {_count(len(edits), 'section')}", plan_for(page, edits))


def _set_identifiers(_site: Site, page: Page, parameters: Mapping[str, Any]) -> Planned:
    given = {int(index): name for index, name in parameters["identifiers"].items()}
    names = ", ".join(given.values())
    title = f"Identifier “{names}”" if len(given) == 1 else f"Identifiers for {len(given)} sections"
    return Planned(title, plan_for(page, plan_given(page, given)))


def _rename(site: Site, page: Page, parameters: Mapping[str, Any]) -> Planned:
    old, new = parameters["old"], parameters["new"]
    return Planned(f"Identifier “{old}” renamed to “{new}”", plan_rename(site, page.path, old, new))


def _contents(_site: Site, page: Page, parameters: Mapping[str, Any]) -> Planned:
    options = ContentsOptions(
        levels=parameters["levels"], form=Form(parameters["form"]), left_out=parameters["left_out"]
    )
    title = "Contents refreshed" if page.made_blocks("contents") else "Contents"
    return Planned(title, plan_for(page, plan_contents(page, options)))


def _no_contents(_site: Site, page: Page, _parameters: Mapping[str, Any]) -> Planned:
    return Planned("Contents taken out", plan_for(page, plan_no_contents(page)))


def _returns(_site: Site, page: Page, parameters: Mapping[str, Any]) -> Planned:
    options = ReturnOptions(
        parameters["level"], Destination(parameters["to"]), parameters["least_words"], parameters["words"]
    )
    return Planned("Ways back", plan_for(page, plan_returns(page, options)))


def _no_returns(_site: Site, page: Page, _parameters: Mapping[str, Any]) -> Planned:
    return Planned("Ways back taken out", plan_for(page, plan_no_returns(page)))


def _parts(site: Site, page: Page, parameters: Mapping[str, Any]) -> Planned:
    plan = plan_parts(site, page.path, parameters["sections"])
    return Planned(f"Cut into {len(plan.new_files) + 1} parts", plan)


def _type(_site: Site, page: Page, parameters: Mapping[str, Any]) -> Planned:
    edits = retyped(page.source, parameters["text"])
    return Planned("Source edited by hand", plan_for(page, edits))


def _count(number: int, noun: str) -> str:
    return f"{number} {noun}" if number == 1 else f"{number} {noun}s"


OPERATIONS: dict[str, _Planner] = {
    "identify": _identify,
    "set-identifiers": _set_identifiers,
    "rename": _rename,
    "contents": _contents,
    "no-contents": _no_contents,
    "returns": _returns,
    "no-returns": _no_returns,
    "parts": _parts,
    "type": _type,
}


def plan_operation(site: Site, page: Page, operation: str, parameters: Mapping[str, Any]) -> Planned:
    """Return the plan of an operation on a page. Raises what its planner raises."""
    return OPERATIONS[operation](site, page, parameters)
