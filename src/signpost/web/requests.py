"""What requests carry."""

from __future__ import annotations

from dataclasses import asdict
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, HttpUrl, model_validator

from signpost.core.findings import Severity
from signpost.core.findings.options import PageLimits, SetAside
from signpost.core.identifiers.naming import Digits, IdentifierRule
from signpost.core.landings.geometry import Hold, Sized
from signpost.core.operations.contents import ReaderWindow
from signpost.core.operations.operation import HeadingLevel, Line, PagePath, RuleCode
from signpost.core.operations.parts import CutSaid
from signpost.core.page.lengths import Limits
from signpost.desk.check_settings import Scope
from signpost.desk.measuring import Windows
from signpost.desk.settings import SITE_NAME, NamedWindow, Settings
from signpost.desk.targets import TargetKind
from signpost.hosting.practice_settings import BytesPerSecond, Charset, Seconds

Sha256 = Annotated[str, Field(pattern="^[0-9a-f]{64}$")]
Selector = Annotated[str, Field(max_length=300)]


class Body(BaseModel):
    """A body of a request; what it does not know is refused."""

    model_config = ConfigDict(extra="forbid")

    @model_validator(mode="before")
    @classmethod
    def _without_nul(cls, value: object) -> object:
        """Refuse text with a NUL: no file contains one that a browser would show, and no database takes it."""
        if _holds_nul(value):
            raise ValueError("text must not contain a NUL character")
        return value


def _holds_nul(value: object) -> bool:
    """Return whether a text in a decoded JSON value, or one of its keys, contains a NUL."""
    waiting = [value]
    while waiting:
        one = waiting.pop()
        if isinstance(one, str):
            if "\0" in one:
                return True
        elif isinstance(one, dict):
            waiting += [*one.keys(), *one.values()]
        elif isinstance(one, list):
            waiting += one
    return False


class FolderBody(Body):
    """A folder of this machine."""

    path: Annotated[str, Field(min_length=1, max_length=2000)]


class ConflictBody(Body):
    """Which side's version of a file counts, or the text that its author put together of both."""

    path: PagePath
    side: Literal["desk", "folder", "text"]
    text: str = ""


class TargetBody(Body):
    """A place to publish to."""

    name: Annotated[str, Field(min_length=1, max_length=100)]
    kind: TargetKind
    address: Annotated[str, Field(max_length=2000)] = ""
    user_name: Annotated[str, Field(max_length=200)] = ""
    live: Annotated[str, Field(max_length=2000)] = ""
    secret: Annotated[str, Field(max_length=1000)] | None = None  # null leaves it as it is
    delay: Seconds = 0  # that the practice host waits before it answers
    bandwidth: BytesPerSecond = 0  # that it sends; 0 for no limit
    charset: Charset = ""  # that it says pages are in
    was: Annotated[str, Field(max_length=100)] = ""  # the name of the place that is edited; "" for a new one


class PublishBody(Body):
    """A publication as it was shown."""

    name: Annotated[str, Field(min_length=1, max_length=100)]
    tag: Annotated[str, Field(min_length=1, max_length=100)]
    anyway: bool = False  # whether what was not published from here is replaced
    thorough: bool = False  # whether every file was read and compared


class ShorteningBody(Body):
    """How a site's history is shortened, as it was shown."""

    first: Annotated[int, Field(ge=1, lt=2**63)]  # the number of the oldest change that stays
    changes: Annotated[int, Field(ge=0)]  # how many are let go
    first_states: bool = True  # whether files stay as they were brought in, too


class CommitsBody(Body):
    """Whether changes are committed."""

    commits: bool


class RecipeBody(Body):
    """A recipe to be kept, in TOML."""

    text: Annotated[str, Field(min_length=1, max_length=100_000)]


class NewSite(Body):
    """A site to be made."""

    name: str = Field(max_length=SITE_NAME)


class SiteNames(Body):
    """A site's name and its own address."""

    name: str = Field(min_length=1, max_length=SITE_NAME)
    base: HttpUrl | None = None


class Draft(Body):
    """A page's text as its author is typing it."""

    path: PagePath
    text: str


class DraftToMerge(Body):
    """A page's text as its author is typing it, and what that began from: a revision, or the text itself."""

    path: PagePath
    text: str
    base: Sha256
    base_text: str | None = None


class SiteSettings(Body):
    """How identifiers are made on a site, and how many words may be without a heading."""

    longest: int = Field(40, ge=8, le=120)
    least_words: int = Field(2, ge=1, le=10)
    joiner: Literal["-", "_", ".", ""] = "-"
    transliterate: bool = True
    levels: list[HeadingLevel] = Field([2, 3, 4, 5, 6], min_length=1)
    prefix: str = Field("", max_length=20, pattern=r"^[A-Za-z0-9._~-]*$")
    digits: Digits = Digits.SPELL
    lead: str = Field("section", min_length=1, max_length=20, pattern=r"^[A-Za-z][A-Za-z0-9._~-]*$")
    longest_run: int = Field(400, ge=50, le=100_000)

    @classmethod
    def of(cls, settings: Settings) -> SiteSettings:
        """Return the settings of a site."""
        return cls.model_validate(asdict(settings.identifiers) | {"longest_run": settings.longest_run})

    def settings(self) -> Settings:
        """Return them as the desk keeps them."""
        rule = self.model_dump(exclude={"longest_run"}) | {"levels": tuple(self.levels)}
        return Settings(IdentifierRule(**rule), self.longest_run)


class Refusal(Body):
    """Whether a look-alike is refused as a heading."""

    path: PagePath
    key: Line
    refused: bool = True


class RegionsBody(Body):
    """What is content and what is furniture; for all pages of the site where `path` is empty."""

    path: Annotated[str, Field(max_length=400)] = ""
    content: Selector | None = None
    furniture: list[Selector] = Field([], max_length=50)
    own: list[Selector] = Field([], max_length=50)


class NamedEncoding(Body):
    """The encoding that a page is read in; null for the one that it declares."""

    path: PagePath
    encoding: Annotated[str, Field(min_length=1, max_length=40)] | None = None


class PastedTerms(Body):
    """Terms as an author pastes them: a line each, or a table."""

    text: Annotated[str, Field(max_length=2_000_000)]


Length = Annotated[float, Field(ge=-10_000_000, le=10_000_000, allow_inf_nan=False)]
Percent = Annotated[int, Field(ge=50, le=300)]


class RectBody(Body):
    """A rectangle on the rendered page."""

    left: Length
    top: Length
    right: Length
    bottom: Length


class BoxBody(Body):
    """An element as it was measured; `start` is the offset of its start tag."""

    start: int = Field(ge=0)
    top: Length
    bottom: Length
    margin: Length
    hold: Hold
    words: RectBody | None
    height: Length | None


class BarBody(Body):
    """Something that stays in the window."""

    label: Annotated[str, Field(max_length=400)]
    rect: RectBody
    sticky: bool
    stick_top: Length | None
    stick_bottom: Length | None
    ceiling: Length
    floor: Length


class SizeBody(Body):
    """The size of a picture, or of something that does not fit; `start` is the offset of its start tag."""

    start: int = Field(ge=0)
    kind: Sized
    width: Length
    height: Length
    own_width: Length
    own_height: Length
    over: Length


class GeometryBody(Body):
    """What a browser measured of a page; `digest` is the one the page had when measuring began."""

    digest: Annotated[str, Field(pattern="^[0-9a-f]{64}$")]
    window: ReaderWindow
    view_height: Annotated[float, Field(gt=0, le=100_000, allow_inf_nan=False)]
    height: Length
    padding: Length
    snaps: bool
    boxes: list[BoxBody] = Field(max_length=200_000)
    bars: list[BarBody] = Field(max_length=1000)
    content_bottom: Length | None
    sizes: list[SizeBody] = Field(default_factory=list, max_length=20_000)


class NamedWindowBody(Body):
    """A window with its name."""

    name: Annotated[str, Field(min_length=1, max_length=40)]
    window: ReaderWindow


class LimitsBody(Body):
    """How long sections may be; 0 stands for no limit."""

    least_words: Annotated[int, Field(ge=0, le=100_000)] = 0
    most_words: Annotated[int, Field(ge=0, le=100_000)] = 0
    most_windows: Annotated[float, Field(ge=0, le=1000)] = 0


class WindowsBody(Body):
    """The windows that a site's pages are measured in, and how long its sections may be."""

    windows: list[NamedWindowBody] = Field(min_length=1, max_length=8)
    limits: LimitsBody = Field(default_factory=LimitsBody)

    def said(self) -> Windows:
        """Return them as the desk keeps them."""
        named = tuple(NamedWindow(found.name, found.window.window()) for found in self.windows)
        return Windows(named, Limits(**self.limits.model_dump()))


class PartsAsked(Body):
    """Which parts to look at: those that a page has, or those that cuts would make."""

    page: PagePath
    window: ReaderWindow
    cuts: list[CutSaid] | None = Field(None, max_length=500)
    pattern: Annotated[str, Field(max_length=200)] = ""


class ProposalsAsked(Body):
    """What ways to cut a page are asked for; `fixed` are offsets of cuts that stay."""

    page: PagePath
    window: ReaderWindow
    by: Literal["parts", "words", "minutes", "windows", "level"]
    value: Annotated[float, Field(gt=0, le=1_000_000)]
    fixed: list[int] = Field([], max_length=500)


class PartSettingsBody(Body):
    """How pages of a site are cut: the pattern of file names, and how long parts may be."""

    names: Annotated[str, Field(max_length=200)] = ""
    limits: LimitsBody = Field(default_factory=LimitsBody)

    def said(self) -> Limits:
        """Return the limits as the desk keeps them."""
        return Limits(**self.limits.model_dump())


class SettledLanding(Body):
    """Whether a landing is accepted as it is."""

    path: PagePath
    fragment: Annotated[str, Field(max_length=400)]
    settled: bool = True


class CheckLimits(Body):
    """From when a page is long."""

    sections: Annotated[int, Field(ge=1, le=1000)] = 6
    windows: Annotated[float, Field(ge=0, le=1000)] = 5.0

    def limits(self) -> PageLimits:
        """Return them as the core takes them."""
        return PageLimits(self.sections, self.windows)


class ChecksBody(Body):
    """Which rules are looked at, and how."""

    on: list[RuleCode] = Field(max_length=500)
    severities: dict[RuleCode, Severity] = Field(default_factory=dict)
    limits: CheckLimits = Field(default_factory=CheckLimits)
    left_out: list[PagePath] = Field(default_factory=list, max_length=200)


class AsideBody(Body):
    """A finding to set aside, or all of its rule."""

    page: PagePath
    rule: RuleCode
    start: Annotated[int, Field(ge=0)]
    scope: Scope = Scope.PLACE
    reason: Annotated[str, Field(max_length=300)] = ""


class TakenBack(Body):
    """What was set aside and is looked at again."""

    rule: RuleCode
    page: Annotated[str, Field(max_length=400)] = ""
    words: Annotated[str, Field(max_length=400)] = ""

    def aside(self) -> SetAside:
        """Return it as the core takes it."""
        return SetAside(self.rule, self.page, self.words)
