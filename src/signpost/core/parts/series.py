"""The parts of one page, known again by the remarks that stand in them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from signpost.core.page import Page
from signpost.core.page.part_marks import PartMarks
from signpost.core.site.site import Resolved, Site
from signpost.core.site.told import Kind
from signpost.core.text.errors import RequestError


@dataclass(frozen=True, slots=True)
class Series:
    """The parts of one page, in order."""

    name: str  # what their remarks call them
    parts: tuple[Page, ...]
    missing: tuple[int, ...] = ()  # numbers of parts that are not there
    count: int = 0  # how many there should be

    @property
    def home(self) -> str:
        """The path of the first part, which is the whole page's."""
        return self.parts[0].path

    @property
    def paths(self) -> tuple[str, ...]:
        """The parts' paths, in order."""
        return tuple(part.path for part in self.parts)

    def whole_or_refuse(self) -> None:
        """Raise RequestError where a part is missing, so that nothing can be done with the others."""
        if self.missing:
            numbers = ", ".join(map(str, self.missing))
            plural = "parts" if len(self.missing) > 1 else "part"
            raise RequestError(
                f"Of the {self.count} parts that {self.home} belongs to, {plural} {numbers} cannot be found. Bring "
                "the missing files in again, or undo what removed them or their remarks (<!-- part … -->)."
            )


def marks_of(page: Page) -> PartMarks:
    """Return the remarks of a page that is a part."""
    marks = page.part_marks
    if marks is None:
        raise ValueError(f"{page.path} is not a part")
    return marks


def find_series(site: Site) -> list[Series]:
    """Return all series of a site, by the path of their first part."""
    by_name = {
        name: [site.page(path) for path in parts] for name, parts in site.index.ask_all(Kind.SERIES).items() if parts
    }
    return sorted((_gather(site, name, pages) for name, pages in by_name.items()), key=lambda one: one.home)


def series_of(site: Site, path: str) -> Series | None:
    """Return the series that a page is a part of; None for a page that is none."""
    page = site.pages[path]
    if page.part_marks is None:
        return None
    name = page.part_marks.series
    others = (other for other in site.index.ask(Kind.SERIES, name) if other != path)
    return _gather(site, name, [page, *map(site.page, others)], page)


def _gather(site: Site, name: str, pages: Iterable[Page], asked: Page | None = None) -> Series:
    """Return the series of pages with one name; of two with one number, the one that the others lead to."""
    by_number: dict[int, list[Page]] = {}
    for page in sorted(pages, key=lambda page: page.path):
        by_number.setdefault(marks_of(page).number, []).append(page)
    sure = {number: found[0] for number, found in by_number.items() if len(found) == 1}
    if asked is not None:
        sure[marks_of(asked).number] = asked
    for number, found in by_number.items():
        if number not in sure:
            sure[number] = max(found, key=lambda page: _links_between(site, page, sure))
    count = max(marks_of(page).count for page in sure.values())
    missing = tuple(number for number in range(1, count + 1) if number not in sure)
    return Series(name, tuple(sure[number] for number in sorted(sure)), missing, count)


def _links_between(site: Site, page: Page, others: Mapping[int, Page]) -> int:
    """Return how many links of the other parts lead to a page; the earlier path counts where none do."""
    known = {other.path for other in others.values()}
    outcomes = (
        site.follow(other.path, link.href)
        for other in others.values()
        for link in other.links
        if other.path != page.path
    )
    to_page = sum(isinstance(one, Resolved) and one.path == page.path for one in outcomes)
    own = (site.follow(page.path, link.href) for link in page.links)
    return to_page + sum(isinstance(one, Resolved) and one.path in known for one in own)
