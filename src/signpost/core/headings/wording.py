"""Other words for a heading, its inner markup kept; entries and links that said the same follow."""

from __future__ import annotations

import re
from html import escape

from signpost.core.contents.following import entry_word_edits
from signpost.core.page import Heading, Page, Target
from signpost.core.page.phrasing import PERMALINK_MARKS
from signpost.core.page.shown import word_edits_between
from signpost.core.site.plans import SitePlan, plan_edits
from signpost.core.site.site import Site
from signpost.core.text.edits import Edit, edit_set
from signpost.core.text.errors import GoneError, RequestError
from signpost.core.text.positions import Span, end_before
from signpost.core.text.tags import start_tag_end

_LINK_END = re.compile(r"</a[\s>]", re.IGNORECASE)


def plan_words(site: Site, path: str, index: int, words: str) -> SitePlan:
    """Return the plan that gives the section with this index other words, on the page at `path`.

    Links that lead to it from any page, contents entries among them, follow where they said the same. Raises
    RequestError for no words, or where the old ones cannot be told apart from the markup.
    """
    page = site.pages[path]
    if not 0 <= index < len(page.headings):
        raise GoneError("The section")
    heading = page.headings[index]
    new = " ".join(words.split())
    if not new:
        raise RequestError("A heading needs words. To remove it, make it a paragraph in the source.")
    element = heading.element
    if element.close is None:
        raise RequestError(
            f"“{heading.text}” has no end tag, so it is unclear where it ends. Close it in the source."
        )
    inner = _without_permalinks(page, Span(element.open.end, element.close.start))
    own = word_edits_between(page.text, inner, heading.text, new, f"“{heading.text}” is “{new}” now")
    if own is None:
        raise RequestError(
            f"The words of “{heading.text}” come from a picture or are written in a way that cannot be edited here. "
            "Edit them there."
        )
    edits = {path: [*own, *entry_word_edits(page, heading.text, new), *_title_edits(page, heading, new)]}
    for other, link, landing in site.links_to(path):
        target = landing.target
        same = isinstance(target, Target) and target.name == heading.identifier and link.text == heading.text
        if same and heading.text and not (other.path == path and inner.start <= link.start < inner.end):
            edits.setdefault(other.path, []).extend(_link_words(other, link.start, heading.text, new))
    return SitePlan(
        {name: found for name, more in edits.items() if (found := edit_set(site.pages[name].source, more))}
    )


def plan_title(site: Site, path: str, words: str) -> SitePlan:
    """Return the plan that gives the page at `path` another title; a first heading that said the same follows.

    Raises RequestError for no words, or a page without a title element.
    """
    page = site.pages[path]
    new = " ".join(words.split())
    if not new or page.title_span is None:
        raise RequestError("The page needs a <title> element with words in it. Add one to its head.")
    first = next((index for index, one in enumerate(page.headings) if one.level == 1), None)
    if first is not None and page.headings[first].text == page.title and page.title != new:
        return plan_words(site, path, first, new)
    edit = Edit(page.title_span.start, page.title_span.end, escape(new, quote=False), reason=f"title “{new}”")
    return plan_edits(site, {path: [edit]})


def _title_edits(page: Page, heading: Heading, new: str) -> list[Edit]:
    """Return the edit by which the page's title goes on saying what its first heading says."""
    same = heading.level == 1 and page.title == heading.text and page.title_span is not None
    if not same or page.title_span is None:
        return []
    span = page.title_span
    return [Edit(span.start, span.end, escape(new, quote=False), reason="the title says the same")]


def _without_permalinks(page: Page, inner: Span) -> Span:
    """Return what is between a heading's tags without the marks at its ends that lead to the heading itself."""
    text = page.text
    for link in page.links:
        permalink = (link.href or "").startswith("#") and link.text in PERMALINK_MARKS | {""}
        if not permalink or not inner.start <= link.start < inner.end:
            continue
        close = _LINK_END.search(text, link.start, inner.end)
        end = text.find(">", close.start()) + 1 if close else inner.end
        if not text[end : inner.end].strip():
            inner = Span(inner.start, end_before(text, link.start))
        elif not text[inner.start : link.start].strip():
            inner = Span(end, inner.end)
    return inner


def plan_link_words(site: Site, path: str, start: int, words: str) -> SitePlan:
    """Return the plan that gives the link at a start tag other words. Raises RequestError where it has none."""
    page = site.pages[path]
    link = next((link for link in page.links if link.start == start), None)
    new = " ".join(words.split())
    if link is None or not new:
        raise RequestError("The link is not there any more, or has no words. Reload the page and choose it again.")
    edits = _link_words(page, start, link.text, new)
    if not edits and link.text != new:
        raise RequestError("The link's words come from a picture. Change its alt text in the source.")
    return plan_edits(site, {path: edits})


def _link_words(page: Page, start: int, old: str, new: str) -> list[Edit]:
    begin = start_tag_end(page.text, start)
    close = _LINK_END.search(page.text, begin)
    inner = Span(begin, close.start() if close else begin)
    return word_edits_between(page.text, inner, old, new, "says what its section says") or []
