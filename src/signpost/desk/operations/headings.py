"""Operations on a page's headings."""

from __future__ import annotations

from collections import Counter

from signpost.core.addresses.links import is_page_path
from signpost.core.addresses.paths import Clash, PathIndex, find_path_advice, find_path_objection
from signpost.core.headings.end_comments import plan_end_notes, plan_no_end_notes, plan_no_separators, plan_separators
from signpost.core.headings.levels import plan_levels, plan_repair, shift_levels, with_subsections
from signpost.core.headings.missing import plan_heading
from signpost.core.headings.moves import Direction, Where, plan_drop, plan_move
from signpost.core.headings.promotions import plan_promotions
from signpost.core.headings.samples import plan_escaped, plan_sample
from signpost.core.headings.skeleton import copy_page, make_page, plan_skeleton, read_titles
from signpost.core.headings.whole_sections import plan_duplicated_section, plan_removed_section
from signpost.core.headings.wording import plan_title, plan_words
from signpost.core.headings.wrapping import plan_unwrapping, plan_wrapping
from signpost.core.page import read_page
from signpost.core.site.plans import SitePlan
from signpost.core.text.errors import RequestError
from signpost.core.text.source import read_source
from signpost.desk.operations.asked import Asked, Planned, Planner, count_of, on_page


def _promote(asked: Asked) -> Planned:
    levels = asked.indexed("levels")
    edits = plan_promotions(asked.page, levels, asked.settings.refused.get(asked.page.path, ()))
    return on_page(f"{count_of(len(levels), 'heading')} made", asked, edits)


def _levels(asked: Asked) -> Planned:
    levels = asked.indexed("levels")
    if asked["with_subsections"]:
        levels = with_subsections(asked.page, levels)
    return on_page(f"{count_of(len(levels), 'heading')} at other levels", asked, plan_levels(asked.page, levels))


def _shift(asked: Asked) -> Planned:
    by = asked["by"]
    levels = shift_levels(asked.page, asked["sections"], by, whole=asked["with_subsections"])
    title = f"{count_of(len(levels), 'heading')} {'lowered' if by > 0 else 'raised'}"
    return on_page(title, asked, plan_levels(asked.page, levels))


def _repair(asked: Asked) -> Planned:
    return on_page("Levels repaired", asked, plan_repair(asked.page, asked["code"]))


def _words(asked: Asked) -> Planned:
    plan = plan_words(asked.site, asked.page.path, asked["section"], asked["words"])
    return Planned(f"Heading “{asked['words'].strip()}”", plan)


def _insert(asked: Asked) -> Planned:
    edits = plan_heading(asked.page, asked["before"], asked["level"], asked["words"], asked["identifier"] or None)
    return on_page(f"Heading “{asked['words'].strip()}” put in", asked, edits)


def _duplicate(asked: Asked) -> Planned:
    edits = plan_duplicated_section(asked.page, asked["section"])
    return on_page(f"“{asked.page.headings[asked['section']].text}” duplicated", asked, edits)


def _remove(asked: Asked) -> Planned:
    plan = plan_removed_section(asked.site, asked.page.path, asked["section"])
    return Planned(f"“{asked.page.headings[asked['section']].text}” removed", plan)


def _wrap(asked: Asked) -> Planned:
    wrapping = plan_wrapping(asked.page, asked["levels"])
    notes = [
        f"“{words}” shares an element with what stands around it and is left as it is." for words in wrapping.left
    ]
    return on_page("Section elements", asked, wrapping.edits, notes)


def _unwrap(asked: Asked) -> Planned:
    wrapping = plan_unwrapping(asked.page, asked["levels"])
    notes = [f"The section element of “{words}” has attributes of its own, so it stays." for words in wrapping.left]
    return on_page("Section elements removed", asked, wrapping.edits, notes)


def _end_notes(asked: Asked) -> Planned:
    return on_page("Comments behind far end tags", asked, plan_end_notes(asked.page))


def _no_end_notes(asked: Asked) -> Planned:
    return on_page("Comments behind end tags taken away", asked, plan_no_end_notes(asked.page))


def _separators(asked: Asked) -> Planned:
    return on_page("Separators before sections", asked, plan_separators(asked.page, asked["levels"]))


def _no_separators(asked: Asked) -> Planned:
    return on_page("Separators taken out", asked, plan_no_separators(asked.page, asked["levels"]))


def _move(asked: Asked) -> Planned:
    index = asked["section"]
    edits = plan_move(asked.page, index, Direction(asked["direction"]))
    return on_page(f"“{asked.page.headings[index].text}” moved {asked['direction']}", asked, edits)


def _drop(asked: Asked) -> Planned:
    index = asked["section"]
    edits = plan_drop(asked.page, index, asked["target"], Where(asked["where"]))
    onto = asked.page.headings[asked["target"]].text
    return on_page(f"“{asked.page.headings[index].text}” moved {asked['where']} “{onto}”", asked, edits)


def _skeleton(asked: Asked) -> Planned:
    titles = read_titles(asked["titles"], asked["highest"])
    edits = plan_skeleton(
        asked.page, titles, asked["before"], contents=asked["contents"], rule=asked.settings.identifiers
    )
    return on_page(f"{count_of(len(titles), 'section')} begun", asked, edits)


def _new_page(asked: Asked) -> Planned:
    path = _new_path(asked)
    frame = asked.page if asked["take_frame"] else None
    data = make_page(
        path,
        asked["title"],
        read_titles(asked["titles"]),
        frame,
        contents=asked["contents"],
        language=asked.page.language,
        rule=asked.settings.identifiers,
    )
    return Planned(f"New page “{asked['title'].strip()}”", SitePlan(new_files={path: data}, notes=_path_notes(path)))


def _copy_page(asked: Asked) -> Planned:
    path = _new_path(asked)
    data = copy_page(asked.page, path, asked["title"])
    copied = read_page(path, read_source(data))
    names = Counter(target.name for target in copied.targets if target.attribute == "id")
    twice = [f"“{name}” is the identifier of {count} elements." for name, count in names.items() if count > 1]
    notes = (*_path_notes(path), *twice)
    return Planned(f"“{asked['title'].strip()}” as a copy", SitePlan(new_files={path: data}, notes=notes))


def _new_path(asked: Asked) -> str:
    """Return the path of a new page. Raises RequestError for an invalid one, or one that is taken."""
    path = str(asked["path"]).strip()
    objection = find_path_objection(path)
    if objection is None and not is_page_path(path):
        objection = "A page's name ends with .html or .htm; write it like guide.html or guides/boiler.html."
    if objection is not None:
        raise RequestError(f"“{path}” cannot be the path of a page. {objection}")
    clash = PathIndex(asked.site.files).find_clash(path)
    if clash is None:
        return path
    if clash[0] is Clash.FOLDER:
        raise RequestError(
            f"“{path}” cannot exist beside “{clash[1]}”: one of them would be a folder. Choose another name."
        )
    raise RequestError(f"The site has “{clash[1]}” already. Choose another name.")


def _path_notes(path: str) -> tuple[str, ...]:
    advice = find_path_advice(path)
    return () if advice is None else (f"{path}: {advice}",)


def _title(asked: Asked) -> Planned:
    return Planned("Page title", plan_title(asked.site, asked.page.path, asked["words"]))


def _sample(asked: Asked) -> Planned:
    return on_page("Sample of code", asked, plan_sample(asked.page, asked["before"], asked["code"]))


def _escape_samples(asked: Asked) -> Planned:
    return on_page("Raw samples escaped", asked, plan_escaped(asked.page))


HEADING_OPERATIONS: dict[str, Planner] = {
    "promote": _promote,
    "levels": _levels,
    "shift": _shift,
    "repair": _repair,
    "words": _words,
    "insert-heading": _insert,
    "wrap": _wrap,
    "unwrap": _unwrap,
    "end-notes": _end_notes,
    "no-end-notes": _no_end_notes,
    "separators": _separators,
    "no-separators": _no_separators,
    "move": _move,
    "drop": _drop,
    "duplicate": _duplicate,
    "remove-section": _remove,
    "skeleton": _skeleton,
    "new-page": _new_page,
    "copy-page": _copy_page,
    "title": _title,
    "sample": _sample,
    "escape-samples": _escape_samples,
}
