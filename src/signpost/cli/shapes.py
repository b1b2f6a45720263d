"""The JSON that the command prints: docs/architecture.md says what stays compatible."""

from __future__ import annotations

import re
from collections.abc import Sequence

from signpost.core.headings.lookalikes import Lookalike, LookalikeSection, find_lookalikes, nest_lookalikes
from signpost.core.page import Page
from signpost.core.page.lengths import minutes, windows
from signpost.core.page.outline import Section, read_outline
from signpost.core.page.phrasing import count_words
from signpost.core.parts.lengths import estimated_ruler, measure_parts
from signpost.core.parts.naming import Part
from signpost.core.parts.series import series_of
from signpost.core.parts.whole import Whole
from signpost.core.site.site import Site


def outline_json(site: Site, page: Page) -> dict[str, object]:
    """Return what `outline --json` prints of a page. Offsets are characters of the decoded file."""
    line = page.source.lines.line
    return {
        "page": page.path,
        "encoding": page.source.encoding,
        "newline": page.source.newline,
        "title": page.title,
        "words": page.words,
        **_series_json(site, page),
        "sections": _sections_json(page),
        "targets": [
            {"id": target.name, "attribute": target.attribute, "element": target.element, "line": line(target.start)}
            for target in page.targets
        ],
        "links": [
            {
                "href": link.href,
                "text": link.text,
                "kind": link.kind.value,
                "resolves": site.resolves(page.path, link),
                "line": line(link.start),
            }
            for link in page.links
        ],
    }


def _sections_json(page: Page) -> list[dict[str, object]]:
    """Return the sections of a page with the look-alikes among them."""
    found = find_lookalikes(page)
    sections = read_outline(page).sections
    lead_end = sections[0].start if sections else len(page.text)
    lead = [_lookalike_json(page, one) for one in nest_lookalikes(found, 0, lead_end)]
    return [*lead, *(_section_json(page, section, found) for section in sections)]


def _section_json(page: Page, section: Section, found: list[Lookalike]) -> dict[str, object]:
    inner_start = section.sections[0].start if section.sections else section.end
    return {
        "level": section.level,
        "text": section.text,
        "id": section.identifier,
        "line": page.source.lines.line(section.start),
        "start": section.start,
        "end": section.end,
        "words": section.words,
        "lookalike": False,
        "sections": [
            *(_lookalike_json(page, one) for one in nest_lookalikes(found, section.start, inner_start)),
            *(_section_json(page, part, found) for part in section.sections),
        ],
    }


def _lookalike_json(page: Page, section: LookalikeSection) -> dict[str, object]:
    one = section.lookalike
    return {
        "level": one.level,
        "text": one.text,
        "id": one.identifier,
        "line": page.source.lines.line(one.start),
        "start": one.start,
        "end": section.end,
        "words": count_words(re.sub(r"<[^>]*>", " ", page.text[one.start : section.end])),
        "lookalike": True,
        "sections": [_lookalike_json(page, inner) for inner in section.sections],
    }


def parts_json(whole: Whole, parts: Sequence[Part]) -> dict[str, object]:
    """Return what `parts --json` prints: the parts that there are, or would be, with their lengths."""
    page = whole.page
    return {
        "page": page.path,
        "series": None if whole.series is None else whole.series.name,
        "words": page.words,
        "parts": [
            {
                "number": one.part.number,
                "path": one.part.path,
                "title": one.part.title,
                "words": one.words,
                "minutes": round(minutes(one.words), 1),
                "windows": round(windows(one.height), 1),
                "share": round(one.words / max(page.words, 1), 3),
                "first": _section_name(page, one.first_section),
                "last": _section_name(page, one.last_section),
                "crossing": one.crossing,
            }
            for one in measure_parts(whole, parts, estimated_ruler(page))
        ],
    }


def _section_name(page: Page, index: int | None) -> dict[str, object] | None:
    if index is None:
        return None
    heading = page.headings[index]
    return {"text": heading.text, "id": heading.identifier}


def _series_json(site: Site, page: Page) -> dict[str, object]:
    """Return what a page is a part of; {} for a page that is none."""
    series = series_of(site, page.path)
    if series is None or page.part_marks is None:
        return {}
    return {
        "series": {
            "name": series.name,
            "part": page.part_marks.number,
            "of": series.count,
            "pages": list(series.paths),
            "missing": list(series.missing),
        }
    }
