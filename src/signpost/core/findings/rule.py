"""What a rule of the catalogue says of itself."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

#: Where rules come from.
HTML = "https://html.spec.whatwg.org/multipage/"
WCAG = "https://www.w3.org/TR/WCAG22/#"
URL = "https://url.spec.whatwg.org/"
PARSING = HTML + "parsing.html#parse-error-"


class Severity(StrEnum):
    """How much a finding matters."""

    ERROR = "error"  # a reader does not get where a link promises
    WARNING = "warning"  # some readers lose their way
    ADVICE = "advice"  # it could be better


class Fix(StrEnum):
    """Whether a finding can be fixed."""

    AUTO = "auto"  # safe without a question
    ASK = "ask"  # one question
    NONE = "none"


@dataclass(frozen=True, slots=True)
class Rule:
    """A rule of the catalogue."""

    code: str  # stable
    severity: Severity
    fix: Fix
    reference: str  # the standard's section
    title: str  # what is wrong, in a few words
    why: str  # what comes of it
    wrong: str  # an example
    right: str
    off: str = ""  # why it is looked at only where somebody asks for it by name; "" for one that always is
