"""What is found: a rule of the catalogue at a place, with what can be done."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from signpost.core.findings.rule import Fix, Rule, Severity
from signpost.core.findings.rules import RULES
from signpost.core.site.plans import SitePlan
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Place, Span

__all__ = ["REFRESHED", "RULES", "Choice", "Finding", "Fix", "Rule", "Severity", "rank_of"]

#: Rules whose fix is a refresh of all that they are about.
REFRESHED = frozenset(["contents-out-of-date", "section-without-entry", "parts-out-of-date"])
#: Rules of what hurts readers most, the worst first: jumps that do nothing, pages that are not there, hidden text.
_HURTING = tuple(
    "fragment-missing fragment-misspelt fragment-elsewhere hash-missing hash-doubled menu-jump-alone page-missing "
    "address-case series-broken scheme-misspelt scheme-missing mail-scheme-missing own-disk-address page-unreadable "
    "encoding-refused comment-open quote-missing bracket-missing element-misspelt tag-space-missing end-tag-mistyped "
    "equals-missing end-tag-missing".split()
)


def rank_of(code: str) -> int:
    """Return how much findings of a rule hurt readers among those as grave: 0 most."""
    return _HURTING.index(code) if code in _HURTING else len(_HURTING)


@dataclass(frozen=True, slots=True)
class Choice:
    """One way to fix a finding that its author has to choose."""

    words: str  # a verb and its object, as on a button
    edits: tuple[Edit, ...] = ()  # on the finding's page
    plan: Callable[[], SitePlan] | None = None  # where it reaches further than the page

    def __post_init__(self) -> None:
        if (self.plan is None) == (not self.edits):
            raise ValueError("a choice has either edits or a plan")


@dataclass(frozen=True, slots=True)
class Finding:
    """A problem at a place."""

    rule: Rule
    page: str  # path
    span: Span  # in the page's text
    place: Place
    message: str  # the reason, in plain words
    edits: tuple[Edit, ...] = ()  # that fix it without a question
    choices: tuple[Choice, ...] = ()  # ways to fix it, the likeliest first
    about: str = ""  # the address that it is about; "" for none

    @property
    def cause(self) -> str:
        """What findings of a rule have in common that have one cause: the address, else what is wrong."""
        return self.about or self.message

    @property
    def fix(self) -> Fix:
        """Return whether this one can be fixed: with edits it needs no question, whatever its rule asks of others."""
        if self.edits:
            return Fix.AUTO
        if self.rule.fix is not Fix.AUTO or self.rule.code in REFRESHED or len(self.choices) == 1:
            return self.rule.fix
        return Fix.ASK if self.choices else Fix.NONE
