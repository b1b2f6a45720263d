"""What every operation is: what it is asked with, what it plans, and what it may take from a page.

An operation is declared once, here in the core. The request that asks for it, the step of a recipe, the title in the
list of changes and the row in the table of laws come of that.
"""

from __future__ import annotations

import re
from abc import ABC, abstractmethod
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from enum import StrEnum
from typing import Annotated, ClassVar, TypeVar, dataclass_transform

from annotated_types import Ge, Le, MaxLen, MinLen, Predicate

from signpost.core.findings.catalogue import RULES
from signpost.core.findings.options import CheckOptions
from signpost.core.findings.site_file import SiteFile
from signpost.core.identifiers.naming import IdentifierRule
from signpost.core.landings.geometry import Window
from signpost.core.page import Page
from signpost.core.site.plans import SitePlan, plan_for
from signpost.core.site.site import Site
from signpost.core.text.edits import EditSet

#: The path of a file, from the site's folder.
PagePath = Annotated[str, MinLen(1), MaxLen(400)]
#: The level of a section, whatever marks it.
Level = Annotated[int, Ge(1), Le(9)]
#: The level of a heading's element.
HeadingLevel = Annotated[int, Ge(1), Le(6)]
Identifier = Annotated[str, MaxLen(200)]
#: Words that cannot be empty.
Line = Annotated[str, MinLen(1), MaxLen(400)]


def _is_rule(code: str) -> bool:
    if code not in RULES:
        raise ValueError(f"There is no rule “{code}”.")  # whoever reads a request tells it
    return True


#: The code of a rule of the catalogue.
RuleCode = Annotated[str, Predicate(_is_rule)]

#: The pages on which something is wrong by a rule, or by any; by the rule's code.
Faulty = Callable[[str | None], Sequence[str]]
#: The heights of a page's sections in windows, by index, where they were measured; by the page's path.
Lengths = Callable[[str], Mapping[int, float]]
#: Tells how far work has come: what is done, how many pages of it, of how many.
Tell = Callable[[str, int, int], None]


class Takes(StrEnum):
    """What an operation may take from a page, however much its author has there."""

    NOTHING = "nothing"
    LEVELS = "the levels of headings"
    ADDRESSES = "the addresses of links"
    REFERENCES = "addresses, and whatever else names an identifier"
    ANCHORS = "old anchors, whose names become identifiers"
    LINKS = "a link, whose words stay"
    SECTION_ELEMENTS = "section elements, whose content stays"
    HEADING = "the words of a heading"
    LINK_WORDS = "the words of a link"
    TITLE = "the title, and a first heading that says the same"
    SECTION = "a section"
    OURS = "what was put in by an operation"
    COPIES = "what differs between copies of a block"
    MARKUP = "the markup of samples, which becomes text"
    FILE = "a file"
    WRONG = "what a finding says is wrong"
    WRITTEN = "whatever its author says anew"


@dataclass(frozen=True)
class Preferences:
    """What is settled for a site, as far as operations ask for it."""

    identifiers: IdentifierRule = field(default_factory=IdentifierRule)
    refused: Mapping[str, tuple[str, ...]] = field(default_factory=dict)  # keys of look-alikes, by page
    part_names: str = ""  # pattern of the parts' file names; "" for the usual one
    checks: CheckOptions = field(default_factory=CheckOptions)
    settled: SiteFile = field(default_factory=SiteFile)  # as the site's own file would say it


@dataclass(frozen=True)
class Situation:
    """What an operation is planned on."""

    site: Site
    page: Page  # that it is asked on, or from
    preferences: Preferences = field(default_factory=Preferences)
    measured: Callable[[Window], Lengths] = lambda _: lambda _path: {}
    faulty: Faulty = lambda _: ()
    tell: Tell = lambda _what, _done, _total: None

    @property
    def path(self) -> str:
        """The path of the page."""
        return self.page.path

    def at(self, site: Site, path: str) -> Situation:
        """Return the same on a page of a site as it is by then."""
        return replace(self, site=site, page=site.pages[path])


@dataclass(frozen=True, slots=True)
class Planned:
    """An operation's plan, and what its change will be called."""

    title: str
    plan: SitePlan


@dataclass(frozen=True, kw_only=True)
class Operation(ABC):
    """An operation with what it is asked with."""

    #: Its name, in requests and recipes.
    does: ClassVar[str]
    takes: ClassVar[Takes] = Takes.NOTHING
    #: Whether it is about the whole site, whichever page it is asked on.
    is_over_site: ClassVar[bool] = False
    #: Whether what it is asked with is too long to be kept with its change.
    is_long: ClassVar[bool] = False

    @abstractmethod
    def plan(self, here: Situation) -> Planned:
        """Return what it would do. Raises RequestError for what cannot be done, saying what to do instead."""

    def on_page(self, title: str, here: Situation, edits: EditSet, notes: Iterable[str] = ()) -> Planned:
        """Return a plan of edits on the page that it is asked on."""
        return Planned(title, plan_for(here.page, edits, notes))


@dataclass(frozen=True, kw_only=True)
class ManyPages(Operation):
    """An operation whose edits of one page do not need those of another."""

    is_over_site: ClassVar[bool] = True

    without: Annotated[tuple[PagePath, ...], MaxLen(20_000)] | None = None  # pages that stay as they are

    def plan(self, here: Situation) -> Planned:
        """Return what it would do on the pages that it shall not leave."""
        planned = self.plan_all(here)
        return replace(planned, plan=planned.plan.without(frozenset(self.without or ())))

    @abstractmethod
    def plan_all(self, here: Situation) -> Planned:
        """Return what it would do on all pages. Raises what `plan` raises."""


@dataclass(frozen=True, kw_only=True)
class Said:
    """Several things that an operation is told together; what it does not know is refused where it is read."""

    __pydantic_config__: ClassVar[Mapping[str, str]] = {"extra": "forbid"}


#: All operations, by name.
OPERATIONS: dict[str, type[Operation]] = {}
_Declared = TypeVar("_Declared", bound=Operation)
_NAME = re.compile("[a-z]+(-[a-z]+)*")


@dataclass_transform(kw_only_default=True, frozen_default=True, field_specifiers=(field,))
def declared(operation: type[_Declared]) -> type[_Declared]:
    """Declare an operation: it can be asked for from now on, by its name."""
    made = dataclass(frozen=True, kw_only=True)(operation)
    if not _NAME.fullmatch(made.does) or made.does in OPERATIONS:
        raise ValueError(f"“{made.does}” is no name for another operation")
    OPERATIONS[made.does] = made
    return made
