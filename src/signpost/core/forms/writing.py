"""The forms themselves: OPML, JSON, Markdown, HTML, a navigation document, a site map, a table of lengths."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable, Mapping, Sequence
from typing import Any
from xml.sax.saxutils import escape, quoteattr

from signpost.core.addresses.links import full_address
from signpost.core.forms.outlines import OutlineEntry, chosen_pages, read_entries
from signpost.core.page.outline import read_outline
from signpost.core.site.site import Site
from signpost.core.site.told import leads_on
from signpost.core.text.errors import RequestError
from signpost.core.text.tables import write_csv

#: How many words people read in a minute.
_WORDS_A_MINUTE = 238
_XML = '<?xml version="1.0" encoding="UTF-8"?>'
_MARKDOWN = str.maketrans({mark: f"\\{mark}" for mark in "\\`*_[]<>"})


def opml(site: Site, pages: Sequence[str] = ()) -> str:
    """Return the outline of pages as OPML 2.0: a link for each page and each section."""
    lines = [_XML, '<opml version="2.0">', "  <head><title>Outline</title></head>", "  <body>"]
    lines += _opml_lines(read_entries(site, pages, full=True), "    ")
    return "\n".join([*lines, "  </body>", "</opml>", ""])


def _opml_lines(entries: Iterable[OutlineEntry], indent: str) -> list[str]:
    lines = []
    for entry in entries:
        said = f'<outline text={quoteattr(entry.words)} type="link" url={quoteattr(entry.address)}'
        if entry.inner:
            lines += [f"{indent}{said}>", *_opml_lines(entry.inner, indent + "  "), f"{indent}</outline>"]
        else:
            lines.append(f"{indent}{said}/>")
    return lines


def outline_json(site: Site, pages: Sequence[str] = ()) -> str:
    """Return the outline of pages as JSON: words, address, level and what is below, for each page and section."""
    found = [_as_json(entry) for entry in read_entries(site, pages)]
    return json.dumps(found, ensure_ascii=False, indent=2) + "\n"


def _as_json(entry: OutlineEntry) -> dict[str, Any]:
    return {
        "text": entry.words,
        "address": entry.address,
        "level": entry.level,
        "sections": [_as_json(one) for one in entry.inner],
    }


def markdown(site: Site, pages: Sequence[str] = ()) -> str:
    """Return the contents of pages as nested lists in Markdown (CommonMark 0.31)."""
    return "".join(_markdown_lines(read_entries(site, pages), ""))


def _markdown_lines(entries: Iterable[OutlineEntry], indent: str) -> list[str]:
    lines = []
    for entry in entries:
        lines.append(f"{indent}- [{entry.words.translate(_MARKDOWN)}](<{entry.address}>)\n")
        lines += _markdown_lines(entry.inner, indent + "  ")
    return lines


def html_list(site: Site, pages: Sequence[str] = ()) -> str:
    """Return the contents of pages as a fragment of HTML: nested lists of links."""
    return "\n".join(_html_lines(read_entries(site, pages), "ul", "")) + "\n"


def _html_lines(entries: Sequence[OutlineEntry], tag: str, indent: str) -> list[str]:
    lines = [f"{indent}<{tag}>"]
    for entry in entries:
        link = f"{indent}  <li><a href={quoteattr(entry.address)}>{escape(entry.words)}</a>"
        if entry.inner:
            lines += [link, *_html_lines(entry.inner, tag, indent + "    "), f"{indent}  </li>"]
        else:
            lines.append(link + "</li>")
    return [*lines, f"{indent}</{tag}>"]


def navigation_document(site: Site, pages: Sequence[str] = ()) -> str:
    """Return the contents of pages as an EPUB navigation document (EPUB 3.3, 7)."""
    entries = read_entries(site, pages)
    if not entries:
        raise RequestError("The site has no page to list.")
    lines = [
        _XML,
        '<html xmlns="http://www.w3.org/1999/xhtml" xmlns:epub="http://www.idpf.org/2007/ops">',
        "<head><title>Contents</title></head>",
        "<body>",
        '  <nav epub:type="toc">',
        *_html_lines(entries, "ol", "    "),
        "  </nav>",
        "</body>",
        "</html>",
        "",
    ]
    return "\n".join(lines)


def site_map(site: Site, pages: Sequence[str] = ()) -> str:
    """Return the addresses of pages by the sitemaps protocol 0.9; pages that only lead on are left out.

    Raises RequestError where the site's own address is not known: the protocol wants addresses in full.
    """
    if site.base is None:
        raise RequestError("A site map has addresses in full. Say the site's own address first.")
    found = [page.path for page in chosen_pages(site, pages or sorted(site.pages)) if not leads_on(page)]
    lines = [f"  <url><loc>{escape(full_address(site.base, path))}</loc></url>" for path in found]
    start = '<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">'
    return "\n".join([_XML, start, *lines, "</urlset>", ""])


def lengths_csv(site: Site, pages: Sequence[str] = ()) -> str:
    """Return the lengths of pages and their sections as a table: words, and minutes that reading takes."""
    rows: list[list[object]] = [["page", "section", "level", "identifier", "line", "words", "minutes"]]
    for page in chosen_pages(site, pages):
        rows.append([page.path, "", 0, "", 1, page.words, round(page.words / _WORDS_A_MINUTE, 1)])
        for section in read_outline(page).flat():
            line = page.source.lines.line(section.start)
            minutes = round(section.words / _WORDS_A_MINUTE, 1)
            known = [section.text, section.level, section.identifier or "", line, section.words, minutes]
            rows.append([page.path, *known])
    return write_csv(rows, "\r\n")


#: The forms by their file names: what writes each, and its media type.
FORMS: Mapping[str, tuple[Callable[[Site, Sequence[str]], str], str]] = {
    "outline.opml": (opml, "text/x-opml; charset=utf-8"),
    "outline.json": (outline_json, "application/json"),
    "contents.md": (markdown, "text/markdown; charset=utf-8"),
    "contents.html": (html_list, "text/html; charset=utf-8"),
    "nav.xhtml": (navigation_document, "application/xhtml+xml"),
    "sitemap.xml": (site_map, "application/xml"),
    "lengths.csv": (lengths_csv, "text/csv; charset=utf-8"),
}
