"""The catalogue of rules: code, severity, reference and what can be done."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from signpost.core.text.positions import Place, Span


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


@dataclass(frozen=True, slots=True)
class Finding:
    """A problem at a place."""

    rule: Rule
    page: str  # path
    span: Span  # in the page's text
    place: Place
    message: str  # the reason, in plain words
    suggestions: tuple[str, ...] = ()  # identifiers that a broken jump may have meant, nearest first


_HTML = "https://html.spec.whatwg.org/multipage/"
_WCAG = "https://www.w3.org/TR/WCAG22/#"
_ALL = (
    Rule(
        "fragment-missing",
        Severity.ERROR,
        Fix.ASK,
        _HTML + "browsing-the-web.html#the-indicated-part-of-the-document",
        "Jump link leads nowhere",
    ),
    Rule(
        "page-missing",
        Severity.ERROR,
        Fix.ASK,
        _HTML + "links.html#following-hyperlinks",
        "Link to a missing page",
    ),
    Rule(
        "file-missing",
        Severity.ERROR,
        Fix.ASK,
        _HTML + "urls-and-fetching.html#resolving-urls",
        "Missing file",
    ),
    Rule(
        "quote-missing",
        Severity.ERROR,
        Fix.NONE,
        _HTML + "syntax.html#attributes-2",
        "Missing quotation mark",
    ),
    Rule(
        "identifier-duplicate",
        Severity.ERROR,
        Fix.ASK,
        _HTML + "dom.html#the-id-attribute",
        "Duplicate identifier",
    ),
    Rule(
        "link-without-destination",
        Severity.WARNING,
        Fix.ASK,
        _HTML + "text-level-semantics.html#the-a-element",
        "Link without a target",
    ),
    Rule(
        "heading-gap",
        Severity.WARNING,
        Fix.ASK,
        _WCAG + "info-and-relationships",
        "Skipped heading level",
    ),
    Rule(
        "contents-out-of-date",
        Severity.WARNING,
        Fix.AUTO,
        _WCAG + "multiple-ways",
        "Contents out of date",
    ),
    Rule(
        "section-without-entry",
        Severity.WARNING,
        Fix.AUTO,
        _WCAG + "multiple-ways",
        "Section missing from the contents",
    ),
    Rule(
        "entry-without-section",
        Severity.WARNING,
        Fix.ASK,
        _WCAG + "multiple-ways",
        "Contents entry without a section",
    ),
    Rule(
        "entry-doubted",
        Severity.ADVICE,
        Fix.ASK,
        _WCAG + "link-purpose-in-context",
        "Shortened entry, changed heading",
    ),
    Rule(
        "landing-covered",
        Severity.WARNING,
        Fix.ASK,
        _WCAG + "focus-not-obscured-minimum",
        "Jump target under a bar",
    ),
    Rule(
        "landing-short",
        Severity.ADVICE,
        Fix.ASK,
        "https://drafts.csswg.org/cssom-view/#scroll-an-element-into-view",
        "Jump target low in the window",
    ),
    Rule(
        "encoding-refused",
        Severity.ERROR,
        Fix.NONE,
        "https://encoding.spec.whatwg.org/#replacement",
        "Encoding rejected by browsers",
    ),
    Rule(
        "encoding-conflict",
        Severity.WARNING,
        Fix.NONE,
        _HTML + "parsing.html#determining-the-character-encoding",
        "Conflicting encodings",
    ),
    Rule(
        "page-unreadable",
        Severity.ERROR,
        Fix.NONE,
        _HTML + "parsing.html#determining-the-character-encoding",
        "Page cannot be edited safely",
    ),
)

#: All rules by their codes.
RULES = {rule.code: rule for rule in _ALL}
