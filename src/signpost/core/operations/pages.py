"""Operations on whole pages: made new, copied, titled, their heads, and what is typed in their source."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, field
from typing import Annotated, ClassVar

from annotated_types import Ge, MaxLen, MinLen

from signpost.core.addresses.links import is_page_path
from signpost.core.addresses.paths import Clash, PathIndex, find_path_advice, find_path_objection
from signpost.core.headings.heads import HeadChange, plan_heads, titles_by_pattern
from signpost.core.headings.skeleton import copy_page, make_page, read_titles
from signpost.core.headings.wording import plan_title
from signpost.core.operations.operation import (
    Line,
    ManyPages,
    Operation,
    PagePath,
    Planned,
    Said,
    Situation,
    Takes,
    declared,
)
from signpost.core.page import read_page
from signpost.core.page.tidying import plan_tidied
from signpost.core.site.plans import SitePlan
from signpost.core.text.edits import edits_for_typed_text
from signpost.core.text.errors import RequestError
from signpost.core.text.source import read_source
from signpost.core.text.words import count_of

#: What the author should know of tidied lines.
_TIDIED = (
    "Only white space at the beginning of lines changes. Browsers show no difference, unless a style keeps it.",
)


@declared
class NewPage(Operation):
    """A new page made of titles; with `take_frame`, what is around the content of the page is taken over."""

    does: ClassVar[str] = "new-page"
    is_over_site: ClassVar[bool] = True

    path: PagePath
    title: Line
    titles: Annotated[str, MaxLen(20_000)]
    take_frame: bool = True
    contents: bool = True

    def plan(self, here: Situation) -> Planned:
        path = _new_path(here, self.path)
        data = make_page(
            path,
            self.title,
            read_titles(self.titles),
            here.page if self.take_frame else None,
            contents=self.contents,
            language=here.page.language,
            rule=here.preferences.identifiers,
        )
        return Planned(f"New page “{self.title.strip()}”", SitePlan(new_files={path: data}, notes=_advice(path)))


@declared
class CopyPage(Operation):
    """A new page that is a copy of this one, with a title of its own."""

    does: ClassVar[str] = "copy-page"
    is_over_site: ClassVar[bool] = True

    path: PagePath
    title: Line

    def plan(self, here: Situation) -> Planned:
        path = _new_path(here, self.path)
        data = copy_page(here.page, path, self.title)
        copied = read_page(path, read_source(data))
        names = Counter(target.name for target in copied.targets if target.attribute == "id")
        twice = [f"“{name}” is the identifier of {count} elements." for name, count in names.items() if count > 1]
        plan = SitePlan(new_files={path: data}, notes=(*_advice(path), *twice))
        return Planned(f"“{self.title.strip()}” as a copy", plan)


def _new_path(here: Situation, said: str) -> str:
    """Return the path of a new page. Raises RequestError for an invalid one, or one that is taken."""
    path = said.strip()
    objection = find_path_objection(path)
    if objection is None and not is_page_path(path):
        objection = "A page's name ends with .html or .htm; write it like guide.html or guides/boiler.html."
    if objection is not None:
        raise RequestError(f"“{path}” cannot be the path of a page. {objection}")
    clash = PathIndex(here.site.files).find_clash(path)
    if clash is None:
        return path
    if clash[0] is Clash.FOLDER:
        raise RequestError(
            f"“{path}” cannot exist beside “{clash[1]}”: one of them would be a folder. Choose another name."
        )
    raise RequestError(f"The site has “{clash[1]}” already. Choose another name.")


def _advice(path: str) -> tuple[str, ...]:
    advice = find_path_advice(path)
    return () if advice is None else (f"{path}: {advice}",)


@declared
class Title(Operation):
    """Another title for the page; a first heading that said the same follows."""

    does: ClassVar[str] = "title"
    takes: ClassVar[Takes] = Takes.TITLE

    words: Line

    def plan(self, here: Situation) -> Planned:
        return Planned("Page title", plan_title(here.site, here.path, self.words))


@dataclass(frozen=True, kw_only=True)
class HeadSaid(Said):
    """What a page's head shall say; null leaves it as it is."""

    title: Annotated[str, MaxLen(400)] | None = None
    description: Annotated[str, MaxLen(1000)] | None = None
    language: Annotated[str, MaxLen(40)] | None = None
    viewport: bool | None = None  # whether it says that it is as wide as the reader's window
    utf8: bool = False  # whether it is written in UTF-8 from now on


@declared
class Heads(ManyPages):
    """Heads of pages that say something else, by path; with a pattern, the titles of `pages` follow it."""

    does: ClassVar[str] = "heads"
    takes: ClassVar[Takes] = Takes.TITLE

    heads: Annotated[dict[PagePath, HeadSaid], MaxLen(1000)] = field(default_factory=dict)
    pattern: Annotated[str, MaxLen(200)] = ""
    pages: Annotated[tuple[PagePath, ...], MaxLen(1000)] = ()

    def plan_all(self, here: Situation) -> Planned:
        changes = {
            path: HeadChange(said.title, said.description, said.language, said.viewport, said.utf8)
            for path, said in self.heads.items()
        }
        if self.pattern:
            changes |= titles_by_pattern(here.site, self.pages, self.pattern)
        return Planned(f"Heads of {count_of(len(changes), 'page')}", plan_heads(here.site, changes))


@declared
class Tidy(Operation):
    """The indentation of some lines, 1-based, made to follow their elements."""

    does: ClassVar[str] = "tidy"

    first_line: Annotated[int, Ge(1)]
    last_line: Annotated[int, Ge(1)]

    def plan(self, here: Situation) -> Planned:
        edits = plan_tidied(here.page, self.first_line, self.last_line)
        return self.on_page("Indentation tidied", here, edits, _TIDIED if edits else ())


@declared
class Type(Operation):
    """A page's source as its author typed it, with a line feed at every line end.

    `base` is the revision that it was typed on: what changed since stays, and is brought together with it.
    """

    does: ClassVar[str] = "type"
    takes: ClassVar[Takes] = Takes.WRITTEN
    is_long: ClassVar[bool] = True

    text: str
    base: Annotated[str, MinLen(64), MaxLen(64)] | None = None  # a SHA-256, in hexadecimal digits

    def plan(self, here: Situation) -> Planned:
        return self.on_page("Source edited by hand", here, edits_for_typed_text(here.page.source, self.text))
