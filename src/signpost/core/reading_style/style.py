"""The reading style: a small part of a style sheet, written by us and kept between two marks.

It styles what we make and how jumps land, and nothing of the author's own. Its parts are switched on by what pages
use; colours and lengths come from a few settings. Taken out, it leaves no trace.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from enum import StrEnum

from signpost.core.page import Page
from signpost.core.page.habits import read_habits
from signpost.core.site.answers import pages_loading
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import Resolved, Site
from signpost.core.site.told import Kind
from signpost.core.text.edits import Edit, EditSet, edit_set, edits_between
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import Span
from signpost.core.text.source import Source
from signpost.core.text.tags import start_tag_end

#: The marks between which the style is.
BEGIN = "/* reading style: begin */"
END = "/* reading style: end */"
#: The style sheet that is made where the site has none.
NEW_SHEET = "reading.css"
_BLOCK = re.compile(re.escape(BEGIN) + r"(.*?)" + re.escape(END) + r"(?:\r\n|\n|\r)?", re.DOTALL)
#: Something that a style sheet keeps at the window's top.
_BAR = re.compile(r"\{[^{}]*position\s*:\s*(?:fixed|sticky)[^{}]*\}")
_RULE_INDENT = re.compile(r"\{[ \t]*(?:\r\n|\n|\r)([ \t]+)\S")
_SETTING = re.compile(r"/\* settings: (.*?) \*/")


class StylePart(StrEnum):
    """A part of the reading style."""

    CONTENTS = "contents"  # the list and the jump row
    SIDE = "side"  # contents at the page's side, in sight while there is room
    BACK = "back"  # back-to-top links
    PARTS = "parts"  # links between numbered parts
    BUTTONS = "buttons"  # jump links like buttons
    ROOM = "room"  # above a landing, for a bar that is fixed at the top
    BELOW = "below"  # room below the last section, so that it can come to the window's top
    MARK = "mark"  # on the section just reached
    SMOOTH = "smooth"  # scrolling, for readers who have not asked for less motion
    SAMPLES = "samples"  # scroll instead of running out of their box


class PartLook(StrEnum):
    """How links between parts look."""

    LINE = "line"  # under a line, the current one underlined
    BOXES = "boxes"  # each in a box, the current one filled
    BAND = "band"  # on a band of the second colour


@dataclass(frozen=True, slots=True)
class ReadingStyle:
    """The settings of the reading style."""

    parts: tuple[StylePart, ...] = ()
    accent: str = "#1d5c4a"  # of links, rules and marks
    wash: str = "#fff3c4"  # behind the section just reached
    bar: float = 4.0  # height of the bar at the top, in rem
    side: float = 16.0  # width of contents at the side, in rem
    narrow: float = 60.0  # width of a window, in rem, below which contents are in the text
    below: float = 50.0  # room at the page's end, in hundredths of the window's height
    look: PartLook = PartLook.LINE


_COLOUR = re.compile(r"#[0-9a-fA-F]{3}(?:[0-9a-fA-F]{3})?")


#: What is styled of what pages have, by the kind of row that tells it; else it is a block of a part.
_STYLED = {
    "part-contents": StylePart.CONTENTS,
    "back-to-top": StylePart.BACK,
    "buttons": StylePart.BUTTONS,
    "samples": StylePart.SAMPLES,
}


def find_used_parts(site: Site) -> list[StylePart]:
    """Return the parts of the style that a site has a use for, by what we made in its pages and what it fixes."""
    used: set[StylePart] = set()
    if any(_BAR.search(source.text) for path, source in site.texts.items() if path.lower().endswith(".css")):
        used.add(StylePart.ROOM)
    for has in site.index.ask_all(Kind.HAS):
        kind, _, beside = has.partition(" ")
        if kind in ("contents", "letters"):
            used |= {StylePart.SIDE, StylePart.CONTENTS} if beside else {StylePart.CONTENTS}
        else:
            used.add(_STYLED.get(kind, StylePart.PARTS))
    return [part for part in StylePart if part in used]


def reaches(site: Site, page: Page) -> bool:
    """Return whether a page would be read in the reading style: it loads the sheet that has it, or would get one."""
    sheet = find_sheet(site)
    if sheet is None:
        return bool(page.made) and page.head_end is not None
    return sheet in _sheets(site, page)


def find_sheet(site: Site) -> str | None:
    """Return the path of the style sheet that has the reading style, or that most pages load; None for none."""
    holding = [path for path, source in site.texts.items() if path.lower().endswith(".css") and BEGIN in source.text]
    if holding:
        return holding[0]
    loaders: dict[str, set[str]] = {}
    for told, pages in site.index.ask_all(Kind.SHEET).items():
        sheet = site.file_at(told)
        if _is_sheet(site, sheet):
            loaders.setdefault(sheet, set()).update(pages)
    return min(loaders, key=lambda sheet: (-len(loaders[sheet]), min(loaders[sheet]), sheet), default=None)


def _sheets(site: Site, page: Page) -> Iterable[str]:
    for resource in page.resources:
        if resource.element == "link" and resource.url:
            outcome = site.follow(page.path, resource.url)
            if isinstance(outcome, Resolved) and _is_sheet(site, outcome.path):
                yield outcome.path


def _is_sheet(site: Site, path: str) -> bool:
    return path in site.texts and path.lower().endswith(".css")


def read_style(site: Site) -> ReadingStyle | None:
    """Return the settings of the reading style that a site has; None where it has none."""
    path = find_sheet(site)
    found = _BLOCK.search(site.texts[path].text) if path is not None else None
    written = _SETTING.search(found[1]) if found else None
    if written is None:
        return None
    values = dict(piece.split("=", 1) for piece in written[1].split() if "=" in piece)
    try:
        return ReadingStyle(
            tuple(StylePart(name) for name in values.get("parts", "").split(",") if name),
            values["accent"], values["wash"], float(values["bar"]), float(values["side"]), float(values["narrow"]),
            float(values.get("below", ReadingStyle().below)), PartLook(values.get("look", PartLook.LINE)),
        )  # fmt: skip
    except (KeyError, ValueError):
        return None


def plan_style(site: Site, style: ReadingStyle) -> SitePlan:
    """Return the plan that puts the reading style into the style sheet that most pages load, or renews it there.

    Where no page loads one, a new sheet is made, and the pages that contain something of ours load it. Raises
    RequestError for an invalid colour or length.
    """
    _refuse(style)
    path = find_sheet(site)
    if path is None:
        return _new_sheet(site, style)
    source = site.texts[path]
    written = write_style(style, source)
    found = _BLOCK.search(source.text)
    if found is not None:
        if not found[0].endswith(("\n", "\r")):
            written = written.removesuffix(source.newline)
        edits = edits_between(found[0], written, found.start(), "reading style")
    else:
        text = source.text
        if text and not text.endswith(("\n", "\r")):  # so that the sheet ends as it did when the style goes
            written = source.newline + written.removesuffix(source.newline)
        edits = [Edit(len(text), len(text), written, reason="reading style")]
    planned = edit_set(source, edits)
    return SitePlan({path: planned} if planned else {})


def plan_no_style(site: Site) -> SitePlan:
    """Return the plan that takes the reading style out again; the sheet that was made for it goes as well."""
    edits: dict[str, EditSet] = {}
    gone = []
    for path, source in site.texts.items():
        found = _BLOCK.search(source.text) if path.lower().endswith(".css") else None
        if found is None:
            continue
        if found[0] == source.text:
            edits |= _unlinked(site, path)
            gone.append(path)
            continue
        start = found.start()
        if not source.text[found.end() :] and not found[0].endswith(("\n", "\r")):
            start = len(source.text[:start].removesuffix(source.newline))
        edits[path] = edit_set(source, [Edit(start, found.end(), "", reason="reading style taken out")])
    return SitePlan(edits, gone=tuple(gone))


def _refuse(style: ReadingStyle) -> None:
    for colour in (style.accent, style.wash):
        if not _COLOUR.fullmatch(colour):
            raise RequestError(f"“{colour}” is not a colour. Write it as #1d5c4a.")
    for length in (style.bar, style.side, style.narrow):
        if not 0 <= length <= _LONGEST:
            raise RequestError(f"{length:g} rem does not fit here. Choose a length from 0 to {_LONGEST}.")
    if not 0 <= style.below <= _WHOLE_WINDOW:
        raise RequestError(
            f"Room below of {style.below:g} % of the window is too much. Choose from 0 to {_WHOLE_WINDOW}."
        )


_LONGEST = 200  # rem
_WHOLE_WINDOW = 100  # more room than that is never needed


def _new_sheet(site: Site, style: ReadingStyle) -> SitePlan:
    if NEW_SHEET in site.files:
        raise RequestError(
            f"The site has a file {NEW_SHEET} that no page loads. Rename it, or load it from the pages."
        )
    data = write_style(style, None).encode()
    edits = {}
    holding = {path for has in site.index.ask_all(Kind.HAS).values() for path in has}
    for path in sorted(holding):
        page = site.pages[path]
        if page.made and page.head_end is not None and page.source.damage is None:
            habits = read_habits(page)
            link = habits.void("link", rel="stylesheet", href=page.address_of(NEW_SHEET, site_base=site.base))
            at = page.head_end
            edits[path] = edit_set(
                page.source, [Edit(at, at, link + habits.newline, reason="loads the reading style")]
            )
    return SitePlan(edits, {NEW_SHEET: data})


def _unlinked(site: Site, sheet: str) -> dict[str, EditSet]:
    """Return the edits by which no page loads a sheet any more."""
    edits = {}
    for path in pages_loading(site, sheet):
        page = site.pages[path]
        for resource in page.resources:
            outcome = site.follow(path, resource.url) if resource.element == "link" else None
            if isinstance(outcome, Resolved) and outcome.path == sheet:
                end = start_tag_end(page.text, resource.start)
                after = page.source.newline if page.text.startswith(page.source.newline, end) else ""
                span = Span(resource.start, end + len(after))
                unload = Edit(span.start, span.end, "", reason="loads an empty sheet")
                edits[path] = edit_set(page.source, [unload])
    return edits


def write_style(style: ReadingStyle, source: Source | None) -> str:
    """Return the reading style, written as its style sheet is, its two marks around it."""
    newline = source.newline if source else "\n"
    indents = Counter(_RULE_INDENT.findall(source.text)) if source else Counter()
    indent = indents.most_common(1)[0][0] if indents else "  "
    parts = ",".join(part.value for part in StylePart if part in style.parts)
    lengths = f"bar={style.bar:g} side={style.side:g} narrow={style.narrow:g}"
    if StylePart.BELOW in style.parts:
        lengths += f" below={style.below:g}"
    if StylePart.PARTS in style.parts and style.look is not PartLook.LINE:
        lengths += f" look={style.look}"
    settings = f"parts={parts} accent={style.accent} wash={style.wash} {lengths}"
    lines = [BEGIN, f"/* settings: {settings} */"]
    for part in StylePart:
        if part in style.parts:
            for rule in (*_RULES[part], *(_LOOKS[style.look] if part is StylePart.PARTS else ())):
                lines += _write_rule(rule, style, indent)
    return newline.join([*lines, END]) + newline


def _write_rule(rule: Sequence[str], style: ReadingStyle, indent: str) -> list[str]:
    """Return the lines of a rule: its selector, then its declarations; "@…" contains a rule of its own."""
    values = {
        "ACCENT": style.accent, "WASH": style.wash, "BAR": f"{style.bar:g}rem",
        "SIDE": f"{style.side:g}rem", "NARROW": f"{style.narrow:g}rem", "BELOW": f"{style.below:g}vh",
    }  # fmt: skip
    filled = [re.sub("|".join(values), lambda found: values[found[0]], piece) for piece in rule]
    condition = filled.pop(0) if filled[0].startswith("@") else ""
    selector, *declarations = filled
    inner = [f"{selector} {{", *(f"{indent}{one};" for one in declarations), "}"]
    return [f"{condition} {{", *(indent + line for line in inner), "}"] if condition else inner


_WIDE = "@media (min-width: NARROW)"
#: What the looks of links between parts add.
_LOOKS: dict[PartLook, tuple[tuple[str, ...], ...]] = {
    PartLook.LINE: (
        (".part-links", "border-top: 1px solid ACCENT"),
        (".part-links strong", "border-bottom: 3px solid ACCENT"),
    ),
    PartLook.BOXES: (
        (".part-links a, .part-links strong", "border: 1px solid ACCENT", "border-radius: 0.3em"),
        (".part-links strong", "background: ACCENT", "color: #fff"),
    ),
    PartLook.BAND: (
        (".part-links", "padding: 0.5rem 1rem", "background: WASH", "border-left: 4px solid ACCENT"),
        (".part-links strong", "border-bottom: 3px solid ACCENT"),
    ),
}
_STILL = "@media (prefers-reduced-motion: no-preference)"
_RULES: dict[StylePart, tuple[tuple[str, ...], ...]] = {
    StylePart.CONTENTS: (
        (".contents", "margin: 1rem 0", "padding: 0.5rem 1rem", "border-left: 3px solid ACCENT"),
        (".contents ul, .contents ol", "margin: 0", "padding-left: 1.25rem"),
        (".contents li", "margin: 0.2rem 0"),
        (".letters", "margin: 1rem 0", "letter-spacing: 0.1em"),
    ),
    StylePart.SIDE: (
        (_WIDE, ":has(> .contents.beside)", "padding-right: calc(SIDE + 2rem)"),
        (_WIDE, ".contents.beside", "box-sizing: border-box", "float: right", "position: sticky", "top: BAR",
         "width: SIDE", "max-height: calc(100vh - BAR)", "margin: 0 calc(-2rem - SIDE) 1rem 0", "overflow-y: auto"),
    ),
    StylePart.BACK: (
        (".back-to-top", "margin: 1rem 0", "font-size: 0.9em"),
        (
            "h2 + .back-to-top, h3 + .back-to-top, h4 + .back-to-top",
            "float: right", "margin: 0 0 0 1rem",
        ),
    ),
    StylePart.PARTS: (
        (".part-links", "margin: 1rem 0", "padding: 0.5rem 0"),
        (".part-links p, .part-links ol", "margin: 0.25rem 0"),
        (
            ".part-links a, .part-links strong", "display: inline-block", "box-sizing: border-box",
            "min-width: 28px", "min-height: 28px", "padding: 0 0.4em", "line-height: 28px", "text-align: center",
        ),
        (".part-links a:focus-visible", "outline: 3px solid ACCENT", "outline-offset: 1px"),
    ),
    StylePart.BUTTONS: (
        (
            ".jump-button", "display: inline-block", "padding: 0.35em 0.9em", "border: 2px solid ACCENT",
            "border-radius: 0.3em", "color: ACCENT", "background: #fff", "text-decoration: none",
        ),
        (".jump-button:hover, .jump-button:focus", "text-decoration: underline"),
    ),
    StylePart.ROOM: (("html", "scroll-padding-top: BAR"),),
    StylePart.BELOW: (("body::after", 'content: ""', "display: block", "clear: both", "height: BELOW"),),
    StylePart.MARK: (("main :target, body > :target", "background: WASH", "box-shadow: 0 0 0 0.3em WASH"),),
    StylePart.SMOOTH: ((_STILL, "html", "scroll-behavior: smooth"),),
    StylePart.SAMPLES: (("pre", "max-width: 100%", "overflow-x: auto"),),
}  # fmt: skip
