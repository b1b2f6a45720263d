"""Operations that make blocks of a page, cut it, or take what was typed in its source."""

from __future__ import annotations

from signpost.core.contents import ContentsOptions, Form, plan_contents, plan_no_contents
from signpost.core.edits import retyped
from signpost.core.parts import plan_parts
from signpost.core.returns import Destination, ReturnOptions, plan_no_returns, plan_returns
from signpost.desk.operations.asked import Asked, Planned, Planner, on_page


def _contents(asked: Asked) -> Planned:
    options = ContentsOptions(asked["levels"], Form(asked["form"]), asked["left_out"])
    title = "Contents refreshed" if asked.page.made_blocks("contents") else "Contents"
    return on_page(title, asked, plan_contents(asked.page, options, asked.settings.identifiers))


def _no_contents(asked: Asked) -> Planned:
    return on_page("Contents taken out", asked, plan_no_contents(asked.page))


def _returns(asked: Asked) -> Planned:
    options = ReturnOptions(asked["level"], Destination(asked["to"]), asked["least_words"], asked["words"])
    return on_page("Ways back", asked, plan_returns(asked.page, options))


def _no_returns(asked: Asked) -> Planned:
    return on_page("Ways back taken out", asked, plan_no_returns(asked.page))


def _parts(asked: Asked) -> Planned:
    plan = plan_parts(asked.site, asked.page.path, asked["sections"])
    return Planned(f"Cut into {len(plan.new_files) + 1} parts", plan)


def _type(asked: Asked) -> Planned:
    return on_page("Source edited by hand", asked, retyped(asked.page.source, asked["text"]))


BLOCK_OPERATIONS: dict[str, Planner] = {
    "contents": _contents,
    "no-contents": _no_contents,
    "returns": _returns,
    "no-returns": _no_returns,
    "parts": _parts,
    "type": _type,
}
