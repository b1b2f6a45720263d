"""Operations on links: jumps, links to any address, what they look like, and pairs that point at each other."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, ClassVar

from annotated_types import MaxLen, MinLen

from signpost.core.addresses.fragments import find_indicated
from signpost.core.headings.wording import plan_link_words
from signpost.core.jumps.linking import plan_link
from signpost.core.jumps.looks import LinkLook
from signpost.core.jumps.pairs import Spot, plan_pair
from signpost.core.jumps.planning import Edge, Goal, plan_jump, plan_no_jump
from signpost.core.operations.operation import Identifier, Line, Operation, Planned, Situation, Takes, declared
from signpost.core.page import Target
from signpost.core.page.outline import section_of_place
from signpost.core.site.plans import plan_both
from signpost.core.site.site import Site
from signpost.core.text.positions import Span


@dataclass(frozen=True, kw_only=True)
class _WithLook(Operation):
    """What a link says beside its address; what is null stays as it is."""

    takes: ClassVar[Takes] = Takes.ADDRESSES

    title: Annotated[str, MaxLen(200)] | None = None
    new_window: bool | None = None
    tells_window: bool = False  # in words behind the link's
    rel: Annotated[str, MaxLen(200)] | None = None
    language: Annotated[str, MaxLen(40)] | None = None
    insists: bool = False  # whether a jump on the same page may open a window

    def look(self, *, download: bool | None = None) -> LinkLook:
        return LinkLook(
            title=self.title,
            new_window=self.new_window,
            tells_window=self.tells_window,
            rel=self.rel,
            language=self.language,
            download=download,
            insists=self.insists,
        )


@declared
class Jump(_WithLook):
    """Words or a picture made a jump link, or a link led elsewhere; `to_page` is this page where it is empty."""

    does: ClassVar[str] = "jump"

    start: int
    end: int
    to_page: Annotated[str, MaxLen(400)] = ""
    section: int | None = None
    identifier: Identifier = ""
    edge: Edge | None = None  # of the page's content
    element: int | None = None  # on the page, by its start tag; it gets an identifier where it has none
    words: Annotated[str, MaxLen(300)] = ""  # of that page, for browsers to open it at
    button: bool = False
    beside: bool = True  # of words that are a button: whether that stays, with the link behind it
    back: bool = False  # whether the section that it leads to points back

    def plan(self, here: Situation) -> Planned:
        place = self.edge or self.element
        goal = Goal(self.to_page or here.path, self.section, self.identifier or None, place)
        plan = plan_jump(
            here.site,
            here.path,
            Span(self.start, self.end),
            goal,
            look=self.look(),
            words=self.words,
            button=self.button,
            beside=self.beside,
            rule=here.preferences.identifiers,
        )
        if not self.back:
            return Planned("Jump link", plan)
        one, other = _spot(here.site, goal), Spot(here.path, here.page.section_at(self.start))
        back = plan_pair(here.site, one, other, both=False, rule=here.preferences.identifiers)
        return Planned("Jump link, and one back", plan_both(here.site, plan, back))


def _spot(site: Site, goal: Goal) -> Spot:
    """Return the section that a goal is in."""
    if isinstance(goal.place, int) and not isinstance(goal.place, bool):
        return Spot(goal.path, section_of_place(site.pages[goal.path], goal.place))
    if goal.section is not None or goal.identifier is None or goal.path not in site.pages:
        return Spot(goal.path, -1 if goal.section is None else goal.section)
    target = find_indicated(goal.identifier, site.targets(goal.path))
    return Spot(
        goal.path, section_of_place(site.pages[goal.path], target.start) if isinstance(target, Target) else -1
    )


@declared
class Pair(Operation):
    """A line “See also” at the end of a section, and at the end of the one that it leads to."""

    does: ClassVar[str] = "pair"

    section: int  # by index; -1 for the page
    to_page: Annotated[str, MaxLen(400)] = ""
    to_section: int | None = None  # None for the page
    both: bool = True

    def plan(self, here: Situation) -> Planned:
        one = Spot(here.path, self.section)
        other = Spot(self.to_page or here.path, -1 if self.to_section is None else self.to_section)
        plan = plan_pair(here.site, one, other, both=self.both, rule=here.preferences.identifiers)
        return Planned("See also, both ways" if self.both else "See also", plan)


@declared
class LinkTo(_WithLook):
    """Words or a picture made a link to any address, or a link led there; what is null of the rest stays as it is."""

    does: ClassVar[str] = "link"

    start: int
    end: int
    address: Annotated[str, MinLen(1), MaxLen(4000)]
    download: bool | None = None

    def plan(self, here: Situation) -> Planned:
        look = self.look(download=self.download)
        plan = plan_link(here.site, here.path, Span(self.start, self.end), self.address, look)
        return Planned(f"Link to {self.address[:60]}", plan)


@declared
class NoJump(Operation):
    """A link removed; its words stay."""

    does: ClassVar[str] = "no-jump"
    takes: ClassVar[Takes] = Takes.LINKS

    start: int

    def plan(self, here: Situation) -> Planned:
        return Planned("Remove link", plan_no_jump(here.site, here.path, self.start))


@declared
class LinkWords(Operation):
    """Other words for a link."""

    does: ClassVar[str] = "link-words"
    takes: ClassVar[Takes] = Takes.LINK_WORDS

    start: int
    words: Line

    def plan(self, here: Situation) -> Planned:
        return Planned("Link words", plan_link_words(here.site, here.path, self.start, self.words))
