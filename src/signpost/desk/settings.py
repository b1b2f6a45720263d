"""What an author has settled for a site: how identifiers are made, what counts as content, what was refused."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Mapping
from dataclasses import asdict, dataclass, field, replace
from typing import Any, TypeVar

from pydantic import TypeAdapter, ValidationError

from signpost.core.findings.options import CheckOptions, Checks, SetAside
from signpost.core.findings.site_file import SiteFile
from signpost.core.headings.missing import LONGEST_RUN
from signpost.core.identifiers.naming import IdentifierRule
from signpost.core.landings.geometry import Window
from signpost.core.operations import Preferences
from signpost.core.page.furniture import Marks
from signpost.core.page.lengths import Limits

_T = TypeVar("_T")
#: How long the name of a site may be, in characters.
SITE_NAME = 200
#: Stands for the whole site where a page's path is asked for.
WHOLE_SITE = ""


@dataclass(frozen=True, slots=True)
class Regions:
    """What an author decided about the regions of a page, or of all pages."""

    content: str | None = None  # selector of the element that contains the content
    furniture: tuple[str, ...] = ()  # selectors of furniture
    own: tuple[str, ...] = ()  # selectors of what belongs to the content


@dataclass(frozen=True, slots=True)
class ReadOptions:
    """How a page is read: what is known of its content, and its encoding where an author named it."""

    marks: Marks = field(default_factory=Marks)
    encoding: str | None = None

    @property
    def digest(self) -> str:
        """What tells this reading from others of the same bytes; "" for the usual one."""
        if self == ReadOptions():
            return ""
        facts = {
            name: sorted(found) if isinstance(found, frozenset) else found
            for name, found in asdict(self.marks).items()
        }
        known = facts if self.encoding is None else [facts, self.encoding]
        return hashlib.sha256(json.dumps(known, sort_keys=True).encode()).hexdigest()


@dataclass(frozen=True, slots=True)
class NamedWindow:
    """A window that pages are measured in."""

    name: str
    window: Window


#: Windows that pages are measured in until an author says otherwise, the first one being what the desk opens with.
USUAL_WINDOWS = (
    NamedWindow("Small", Window(440, 560)),
    NamedWindow("Phone", Window(390, 844)),
    NamedWindow("Tablet", Window(820, 1180)),
    NamedWindow("Laptop", Window(1280, 720)),
)


@dataclass(frozen=True, slots=True)
class Settings:
    """The settings of a site."""

    identifiers: IdentifierRule = field(default_factory=IdentifierRule)
    longest_run: int = LONGEST_RUN  # words without a heading
    regions: Mapping[str, Regions] = field(default_factory=dict)  # by page; "" for the whole site
    refused: Mapping[str, tuple[str, ...]] = field(default_factory=dict)  # keys of look-alikes, by page
    windows: tuple[NamedWindow, ...] = USUAL_WINDOWS
    limits: Limits = field(default_factory=Limits)  # for sections
    part_limits: Limits = field(default_factory=Limits)
    part_names: str = ""  # pattern of the parts' file names; "" for the usual one
    settled: Mapping[str, tuple[str, ...]] = field(
        default_factory=dict
    )  # fragments whose landings may be as they are

    encodings: Mapping[str, str] = field(
        default_factory=dict
    )  # that pages are read in whatever they declare, by path

    checks: Checks = field(default_factory=Checks)
    commits: bool = False  # whether each change in a linked folder is committed with its name
    recipes: Mapping[str, str] = field(default_factory=dict)  # in TOML, by name

    @property
    def check_options(self) -> CheckOptions:
        """How the site is checked."""
        return self.checks.options(self.refused)

    @property
    def preferences(self) -> Preferences:
        """What operations ask for of the settings."""
        return Preferences(self.identifiers, self.refused, self.part_names, self.check_options, self.as_file())

    def beside(self, site_file: SiteFile) -> Settings:
        """Return the settings with what the site's own file says; what was settled at the desk counts first."""
        regions = {
            path: Regions(marks.content, marks.furniture, marks.own) for path, marks in site_file.regions.items()
        }
        return replace(self, checks=self.checks.beside(site_file.checks), regions={**regions, **self.regions})

    def as_file(self) -> SiteFile:
        """Return what the site's own file would say."""
        regions = {path: Marks(one.content, one.furniture, one.own) for path, one in self.regions.items()}
        return SiteFile(self.checks, regions)

    def set_aside(self, aside: SetAside, *, aside_now: bool = True) -> Settings:
        """Return the settings with findings set aside, or looked at once more."""
        kept = tuple(one for one in self.checks.aside if one.place != aside.place)
        return replace(self, checks=replace(self.checks, aside=(*kept, aside) if aside_now else kept))

    def read_options(self, path: str, repeated: frozenset[str] = frozenset()) -> ReadOptions:
        """Return how a page is read, with the digests of blocks on it that repeat on other pages."""
        return ReadOptions(self._marks(path, repeated), self.encodings.get(path))

    def _marks(self, path: str, repeated: frozenset[str]) -> Marks:
        """Return what is known of a page's content: the page's own decisions before those for the site."""
        own = self.regions.get(path, Regions())
        shared = self.regions.get(WHOLE_SITE, Regions())
        if own == shared == Regions():
            return Marks(repeated=repeated)
        furniture = tuple(
            dict.fromkeys([*own.furniture, *(found for found in shared.furniture if found not in own.own)])
        )
        kept = tuple(dict.fromkeys([*own.own, *(found for found in shared.own if found not in own.furniture)]))
        return Marks(own.content or shared.content, furniture, kept, repeated)

    def refuse(self, path: str, key: str, *, refused: bool = True) -> Settings:
        """Return the settings with a look-alike of a page refused, or offered once more."""
        keys = [found for found in self.refused.get(path, ()) if found != key]
        by_page = {**self.refused, path: tuple([*keys, key] if refused else keys)}
        return replace(self, refused={name: found for name, found in by_page.items() if found})

    def settle(self, path: str, fragment: str, *, settled: bool = True) -> Settings:
        """Return the settings with the landing at a fragment of a page accepted as it is, or not."""
        kept = [found for found in self.settled.get(path, ()) if found != fragment]
        by_page = {**self.settled, path: tuple([*kept, fragment] if settled else kept)}
        return replace(self, settled={name: found for name, found in by_page.items() if found})

    def name_encoding(self, path: str, encoding: str | None) -> Settings:
        """Return the settings with a page read in an encoding; None for the one that it declares."""
        encodings = {name: found for name, found in self.encodings.items() if name != path}
        return replace(self, encodings=encodings if encoding is None else {**encodings, path: encoding})

    def carried(self, moves: Mapping[str, str]) -> Settings:
        """Return the settings where what was settled of files holds at their new paths too, by their old ones.

        It stays at the old paths as well, for when the move is undone.
        """

        def both(found: Mapping[str, _T]) -> dict[str, _T]:
            return {**found, **{moves[path]: one for path, one in found.items() if path in moves}}

        aside = [replace(one, page=moves[one.page]) for one in self.checks.aside if one.page in moves]
        left_out = [moves[path] for path in self.checks.left_out if path in moves]
        checks = replace(
            self.checks,
            aside=tuple(dict.fromkeys([*self.checks.aside, *aside])),
            left_out=tuple(dict.fromkeys([*self.checks.left_out, *left_out])),
        )
        return replace(
            self,
            regions=both(self.regions),
            refused=both(self.refused),
            settled=both(self.settled),
            encodings=both(self.encodings),
            checks=checks,
        )

    def set_regions(self, path: str, regions: Regions) -> Settings:
        """Return the settings with a decision about a page's regions, or the whole site's where `path` is ""."""
        said = {**self.regions, path: regions}
        return replace(self, regions={name: found for name, found in said.items() if found != Regions()})


_SETTINGS = TypeAdapter(Settings)


def read_settings(kept: Mapping[str, Any]) -> Settings:
    """Return settings as they were kept; what cannot be understood, of another version, is ignored."""
    try:
        return _SETTINGS.validate_python(dict(kept))
    except ValidationError:
        return Settings()


def dump_settings(settings: Settings) -> dict[str, Any]:
    """Return settings as they are kept."""
    found: dict[str, Any] = json.loads(_SETTINGS.dump_json(settings))
    return found
