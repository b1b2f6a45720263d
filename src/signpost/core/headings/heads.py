"""What the heads of pages say: title, description, language, viewport, encoding; read, and said otherwise."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from html import escape

from signpost.core.headings.encoding import in_utf8
from signpost.core.page import Page
from signpost.core.page.habits import read_habits
from signpost.core.page.markup import head_tags, tokens_of
from signpost.core.page.placing import block_start, whole_span
from signpost.core.site.plans import SitePlan, plan_edits
from signpost.core.site.site import Site
from signpost.core.text.edits import Edit
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import Span, line_indent
from signpost.core.text.tags import Attribute, removal, scan_attributes, value_edit

#: A language tag as authors write them (BCP 47, roughly).
_LANGUAGE = re.compile(r"[A-Za-z]{2,8}(?:-[A-Za-z0-9]{1,8})*")
_PLACEHOLDER = re.compile(r"\{(\w*)\}")


_HOST_NOTE = "If your host names an encoding for its pages, it has to say utf-8 too; the live walk tells."


@dataclass(frozen=True, slots=True)
class Head:
    """What a page's head says of it."""

    title: str
    description: str
    language: str
    viewport: bool  # whether it says how wide a window it is for
    charset: str  # the encoding that it is read in


@dataclass(frozen=True, slots=True)
class HeadChange:
    """What a page's head shall say; None leaves it as it is."""

    title: str | None = None
    description: str | None = None  # "" takes it out
    language: str | None = None
    viewport: bool | None = None  # whether it says that it is as wide as the reader's window
    utf8: bool = False  # whether it is written in UTF-8 from now on


def read_head(page: Page) -> Head:
    """Return what a page's head says."""
    metas = {_name(said): said for _, said in _metas(page)}
    return Head(
        page.title or "",
        " ".join(_content(metas.get("description")).split()),
        page.language or "",
        "viewport" in metas,
        page.source.encoding,
    )


def _metas(page: Page) -> Iterator[tuple[int, dict[str, Attribute]]]:
    """Yield the `meta` elements of a page's head, with their attributes."""
    for tag in head_tags(page, "meta"):
        yield tag.start, {one.name: one for one in scan_attributes(page.text, tag.start)}


def _name(said: Mapping[str, Attribute]) -> str:
    return said["name"].value.strip().lower() if "name" in said else ""


def _content(said: Mapping[str, Attribute] | None) -> str:
    return said["content"].value if said and "content" in said else ""


def plan_heads(site: Site, changes: Mapping[str, HeadChange]) -> SitePlan:
    """Return the plan that lets the heads of pages say something else.

    Raises RequestError for a page that is not there, no words for a title, or what is no language tag.
    """
    edits: dict[str, list[Edit]] = {}
    again: dict[str, bytes] = {}
    for path, change in sorted(changes.items()):
        if path not in site.pages:
            raise RequestError(f"{path} is not a page of the site.")
        page, now = site.pages[path], read_head(site.pages[path])
        if change.title is not None and " ".join(change.title.split()) != now.title:
            edits.setdefault(path, []).append(_titled(page, change.title))
        if change.description is not None and " ".join(change.description.split()) != now.description:
            edits.setdefault(path, []).extend(_described(page, " ".join(change.description.split())))
        if change.language is not None and change.language.strip() != now.language:
            edits.setdefault(path, []).extend(_in_language(page, change.language.strip()))
        if change.viewport is not None and change.viewport != now.viewport:
            edits.setdefault(path, []).extend(_fitted(page, wanted=change.viewport))
        if change.utf8 and now.charset != "utf-8":
            again[path] = in_utf8(page, edits.pop(path, []))
    return replace(plan_edits(site, edits, [_HOST_NOTE] if again else []), new_files=again)


def _fitted(page: Page, *, wanted: bool) -> Iterator[Edit]:
    """Yield the edits that let a page be as wide as the reader's window, or no longer (CSS Device Adaptation)."""
    reason = "the window that the page is for"
    if wanted:
        content = "width=device-width, initial-scale=1"
        yield _in_head(page, read_habits(page).void("meta", name_="viewport", content=content), reason, rank=2)
        return
    for start, said in _metas(page):
        if _name(said) == "viewport":
            span = whole_span(page.text, Span(start, page.text.find(">", start) + 1))
            yield Edit(span.start, span.end, "", reason=reason)


def _titled(page: Page, title: str) -> Edit:
    words = escape(" ".join(title.split()), quote=False)
    if not words:
        raise RequestError(f"{page.path} needs a title with words in it.")
    if page.title_span is not None:
        return Edit(page.title_span.start, page.title_span.end, words, reason=f"title “{words}”")
    habits = read_habits(page)
    return _in_head(page, f"{habits.start('title')}{words}{habits.end('title')}", f"title “{words}”")


def _described(page: Page, words: str) -> Iterator[Edit]:
    reason = "the page's description"
    for start, said in _metas(page):
        if _name(said) != "description":
            continue
        if not words:
            end = page.text.find(">", max(one.span.end for one in said.values())) + 1
            yield Edit(start, end, "", reason=reason)
        elif "content" in said:
            yield value_edit(page.text, said["content"], words, reason)
        else:
            at = said["name"].span.end
            yield Edit(at, at, " " + read_habits(page).attribute("content", words), reason=reason)
        return
    if words:
        yield _in_head(page, read_habits(page).void("meta", name_="description", content=words), reason)


def _in_head(page: Page, element: str, reason: str, rank: int = 1) -> Edit:
    """Return the edit that puts an element into a page's head: behind its title, else at the head's end."""
    title = tokens_of(page).tag_at(page.title_span.end) if page.title_span else None
    if title is not None:
        started = next(tokens_of(page).named("title"))
        indent = line_indent(page.text, started.start)
        return Edit(title.end, title.end, f"{page.source.newline}{indent}{element}", rank=rank, reason=reason)
    if page.head_end is None:
        raise RequestError(f"{page.path} has no head to write this into. Add <head> and </head> first.")
    slot = block_start(page.text, page.head_end)
    gap = page.source.newline if slot.own_line else ""
    return Edit(slot.at, slot.at, element + gap, rank=rank, reason=reason)


def _in_language(page: Page, language: str) -> Iterator[Edit]:
    if language and not _LANGUAGE.fullmatch(language):
        raise RequestError(f"“{language}” is no language tag. Write one such as en, de or pt-BR.")
    found = next(tokens_of(page).named("html"), None)
    if found is None:
        raise RequestError(f"{page.path} has no html element to say its language in. Add <html> first.")
    said = {one.name: one for one in scan_attributes(page.text, found.start)}
    at = found.start + len("<html")
    reason = "the page's language"
    for name in ("lang", "xml:lang"):
        if name in said:
            yield (
                value_edit(page.text, said[name], language, reason)
                if language
                else removal(page.text, said[name], reason)
            )
    if "lang" not in said and language:
        yield Edit(at, at, " " + read_habits(page).attribute("lang", language), reason=reason)


def titles_by_pattern(site: Site, paths: Sequence[str], pattern: str) -> dict[str, HeadChange]:
    """Return the titles that pages get by a pattern: {h1} is the words of the first heading, {title} the title now.

    A page that has no such words stays as it is. Raises RequestError for a pattern with other names in braces.
    """
    strange = [name for name in _PLACEHOLDER.findall(pattern) if name not in ("h1", "title")]
    if strange or not pattern.strip():
        raise RequestError("Write a pattern such as “{h1} - Our railway”; {h1} and {title} are replaced.")
    found = {}
    for path in paths:
        if path not in site.pages:
            raise RequestError(f"{path} is not a page of the site.")
        page = site.pages[path]
        first = next((one.text for one in page.headings if one.level == 1), "")
        known = {"h1": first, "title": page.title or ""}
        if all(known[name] for name in _PLACEHOLDER.findall(pattern)):
            found[path] = HeadChange(pattern.replace("{h1}", known["h1"]).replace("{title}", known["title"]))
    return found
