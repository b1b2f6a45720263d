"""Operations that make blocks of a page, or take what was typed in its source."""

from __future__ import annotations

from dataclasses import replace

from signpost.core.back_to_top.destinations import Destination
from signpost.core.back_to_top.planning import BackLinkOptions, Corner, plan_back_links, plan_no_back_links
from signpost.core.contents import (
    NEW,
    ContentsOptions,
    Form,
    Spot,
    note_contents,
    plan_adoption,
    plan_contents,
    plan_entry_words,
    plan_moved_contents,
    plan_no_contents,
)
from signpost.core.page import Page
from signpost.core.page.tidying import plan_tidied
from signpost.core.site.plans import SitePlan
from signpost.core.text.edits import EditSet, edits_for_typed_text
from signpost.core.text.errors import RequestError
from signpost.desk.operations.asked import Asked, Planned, Planner, on_page

#: What the author should know of tidied lines.
_TIDIED = (
    "Only white space at the beginning of lines changes. Browsers show no difference, unless a style keeps it.",
)


def _options(asked: Asked) -> ContentsOptions:
    form = asked["form"]
    return ContentsOptions(
        levels=asked["levels"],
        form=Form(form) if form else None,
        left_out=asked["left_out"],
        ordered=asked["ordered"],
        numbered=asked["numbered"],
        label=asked["label"] or None,
        separator=asked["separator"] or None,
        prefix=asked["prefix"],
        suffix=asked["suffix"],
        spot=Spot(asked["spot"]),
        before=asked["before"],
        home=asked["home"],
        block=asked["block"],
        kept=asked["kept"],
    )


def _contents(asked: Asked) -> Planned:
    options = _options(asked)
    edits = plan_contents(asked.page, options, asked.settings.identifiers)
    new = options.block == NEW or not asked.page.made_blocks("contents")
    return on_page("Contents" if new else "Contents refreshed", asked, edits, note_contents(asked.page, edits))


def _adopt(asked: Asked) -> Planned:
    levels = ContentsOptions(asked["levels"])
    choices = asked.indexed("sections")
    edits = plan_adoption(asked.page, asked["start"], levels, choices, asked.settings.identifiers)
    return on_page("List made by hand adopted", asked, edits, note_contents(asked.page, edits))


def _move_contents(asked: Asked) -> Planned:
    edits = plan_moved_contents(asked.page, asked["block"], Spot(asked["spot"]), asked["before"])
    return on_page("Contents moved", asked, edits)


def _entry(asked: Asked) -> Planned:
    edits = plan_entry_words(asked.page, asked["block"], asked["section"], asked["words"])
    title = "Entry shortened" if asked["words"].strip() else "Entry as its heading"
    return on_page(title, asked, edits)


def _no_contents(asked: Asked) -> Planned:
    return on_page("Contents taken out", asked, plan_no_contents(asked.page, asked["block"]))


def _back_links(asked: Asked) -> Planned:
    options = BackLinkOptions(
        levels=asked["levels"],
        to=Destination(asked["to"]),
        least_words=asked["least_words"],
        least_windows=asked["least_windows"],
        words=asked["words"],
        corner=Corner(asked["corner"]),
        alike=asked["alike"],
    )

    def plan(page: Page) -> EditSet:
        return plan_back_links(page, replace(options, windows=asked.lengths(page.path)))

    if not asked["everywhere"]:
        return on_page("Back-to-top links", asked, plan(asked.page))
    notes, edits = [], {}
    for path, page in asked.site.pages.items():
        if page.source.damage is None:
            try:
                edits[path] = plan(page)
            except RequestError as error:
                notes.append(f"{path}: {error}")
    return Planned(
        "Back-to-top links on all pages",
        SitePlan({path: found for path, found in edits.items() if found}, notes=tuple(notes)),
    )


def _no_back_links(asked: Asked) -> Planned:
    return on_page("Back-to-top links removed", asked, plan_no_back_links(asked.page))


def _tidy(asked: Asked) -> Planned:
    edits = plan_tidied(asked.page, asked["first_line"], asked["last_line"])
    return on_page("Indentation tidied", asked, edits, _TIDIED if edits else ())


def _type(asked: Asked) -> Planned:
    return on_page("Source edited by hand", asked, edits_for_typed_text(asked.page.source, asked["text"]))


BLOCK_OPERATIONS: dict[str, Planner] = {
    "contents": _contents,
    "adopt": _adopt,
    "move-contents": _move_contents,
    "entry": _entry,
    "no-contents": _no_contents,
    "back-to-top": _back_links,
    "no-back-to-top": _no_back_links,
    "tidy": _tidy,
    "type": _type,
}
