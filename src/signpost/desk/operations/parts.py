"""Operations on a page in parts: cut, cut anew, brought up to date, put into another order, joined."""

from __future__ import annotations

from dataclasses import replace

from signpost.core.parts.options import Forwarding, LinkPiece, PartContents, PartOptions
from signpost.core.parts.planning import plan_join, plan_parts, plan_refreshed_parts, plan_reordered
from signpost.core.parts.whole import ChosenCut, read_whole
from signpost.desk.operations.asked import Asked, Planned, Planner


def read_options(asked: Asked) -> PartOptions:
    """Return the options that were asked for; what was not said is as it was, or as the site's settings say."""
    whole = read_whole(asked.site, asked.page.path)
    options = whole.options
    if whole.series is None:
        options = replace(options, pattern=asked.settings.part_names or options.pattern)
    said = asked.parameters
    if said.get("links") is not None:
        options = replace(options, links=frozenset(map(LinkPiece, said["links"])))
    if said.get("contents") is not None:
        options = replace(options, contents=PartContents(said["contents"]))
    if said.get("forward") is not None:
        options = replace(options, forward=frozenset(map(Forwarding, said["forward"])))
    if said.get("pattern"):
        options = replace(options, pattern=said["pattern"])
    if said.get("raise_levels") is not None:
        options = replace(options, raise_levels=said["raise_levels"])
    return options


def _parts(asked: Asked) -> Planned:
    cuts: list[int | ChosenCut] = [*asked.parameters.get("sections", ())]
    cuts += [ChosenCut(cut["at"], cut["title"], cut["path"]) for cut in asked.parameters.get("cuts", ())]
    plan = plan_parts(asked.site, asked.page.path, cuts, read_options(asked), frame=asked.parameters.get("frame"))
    in_parts = asked.page.part_marks is not None
    if in_parts and not cuts:
        return Planned("Parts joined to one page", plan)
    count = len(cuts) + 1
    return Planned(f"Cut anew into {count} parts" if in_parts else f"Cut into {count} parts", plan)


def _refresh(asked: Asked) -> Planned:
    plan = plan_refreshed_parts(asked.site, asked.page.path, read_options(asked))
    return Planned("Parts brought up to date", plan)


def _reorder(asked: Asked) -> Planned:
    return Planned("Parts put into another order", plan_reordered(asked.site, asked.page.path, asked["order"]))


def _join(asked: Asked) -> Planned:
    return Planned("Parts joined to one page", plan_join(asked.site, asked.page.path, asked.parameters.get("frame")))


PART_OPERATIONS: dict[str, Planner] = {
    "parts": _parts,
    "refresh-parts": _refresh,
    "reorder-parts": _reorder,
    "join": _join,
}
