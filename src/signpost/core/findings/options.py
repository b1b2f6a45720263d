"""What an author says of the check: rules switched off or on, limits, findings that are set aside."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass, field, fields, replace

from signpost.core.findings.catalogue import RULES, Finding, Severity
from signpost.core.text.positions import Span

_LONGEST = 200  # characters that tell a place from others


@dataclass(frozen=True, slots=True)
class PageLimits:
    """From when a page is long."""

    sections: int = 6  # from how many on a page wants contents and ways back
    windows: float = 5.0  # and from which length on


@dataclass(frozen=True, slots=True)
class SetAside:
    """A finding, or several, that the author has seen and accepts."""

    rule: str  # its code
    page: str = ""  # path; "" for all pages
    words: str = ""  # of the source at the place; "" for all places of the page
    reason: str = ""

    def covers(self, finding: Finding, words: str) -> bool:
        """Return whether a finding is set aside by this, `words` being those of its place."""
        return self.rule == finding.rule.code and self.page in ("", finding.page) and self.words in ("", words)

    @property
    def place(self) -> tuple[str, str, str]:
        """What it covers, its reason left out."""
        return self.rule, self.page, self.words


@dataclass(frozen=True)
class Checks:
    """What an author settled about the check of a site."""

    off: tuple[str, ...] = ()  # codes of rules that are not looked at
    on: tuple[str, ...] = ()  # of those that are looked at though they usually are not
    severities: Mapping[str, Severity] = field(default_factory=dict)  # other ones than the catalogue's, by code
    limits: PageLimits = field(default_factory=PageLimits)
    aside: tuple[SetAside, ...] = ()
    left_out: tuple[str, ...] = ()  # folders and pages that are not checked

    def beside(self, other: Checks) -> Checks:
        """Return these with what others say besides; where both say something of one thing, these count."""
        places = {one.place for one in self.aside}
        return Checks(
            tuple(dict.fromkeys([*self.off, *(code for code in other.off if code not in self.on)])),
            tuple(dict.fromkeys([*self.on, *(code for code in other.on if code not in self.off)])),
            {**other.severities, **self.severities},
            other.limits if self.limits == PageLimits() else self.limits,
            (*self.aside, *(one for one in other.aside if one.place not in places)),
            tuple(dict.fromkeys([*self.left_out, *other.left_out])),
        )

    def options(
        self, refused: Mapping[str, Collection[str]] | None = None, only: Collection[str] | None = None
    ) -> CheckOptions:
        """Return the options of a check."""
        said = {one.name: getattr(self, one.name) for one in fields(Checks)}
        return CheckOptions(**said, refused=refused or {}, only=only)


@dataclass(frozen=True)
class CheckOptions(Checks):
    """How a site is checked."""

    only: Collection[str] | None = None  # no rules but these; None for all
    refused: Mapping[str, Collection[str]] = field(default_factory=dict)  # look-alikes that are none, by page

    def wants(self, code: str) -> bool:
        """Return whether a rule is looked at."""
        if self.only is not None:
            return code in self.only
        return code not in self.off and (not RULES[code].off or code in self.on)

    def checks(self, path: str) -> bool:
        """Return whether a page is checked."""
        return not any(path == one or path.startswith(one.rstrip("/") + "/") for one in self.left_out)

    def judged(self, finding: Finding) -> Finding:
        """Return a finding with the severity that its author gives its rule."""
        severity = self.severities.get(finding.rule.code)
        if severity is None or severity is finding.rule.severity:
            return finding
        return replace(finding, rule=replace(finding.rule, severity=severity))


def words_at(text: str, span: Span) -> str:
    """Return the words of the source by which a finding's place is known again after other edits."""
    end = max(span.end, span.start + 1)
    return " ".join(text[span.start : end][:_LONGEST].split())
