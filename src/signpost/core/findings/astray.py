"""Links and files that lead nowhere: what was meant, and the edits that lead there."""

from __future__ import annotations

import posixpath
import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace
from functools import partial
from urllib.parse import unquote

from rapidfuzz.distance import DamerauLevenshtein

from signpost.core.addresses.links import LinkKind, classify_link, is_page_path
from signpost.core.addresses.nearness import NameIndex
from signpost.core.back_to_top.links import find_back_links
from signpost.core.findings.addresses import is_explained, is_explained_of, is_torn
from signpost.core.findings.catalogue import Choice, Finding
from signpost.core.findings.identifiers import is_one_place, meant_name, name_as_linked
from signpost.core.findings.page_check import Check
from signpost.core.page import Link, Resource, Target
from signpost.core.parts.series import series_of
from signpost.core.references.renames import plan_rename
from signpost.core.site.index import EVERY, Matter
from signpost.core.site.site import NoFile, NoTarget, Resolved, Site
from signpost.core.site.told import Kind, NameUse
from signpost.core.text.edits import Edit
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import Span
from signpost.core.text.tags import SPACE, Attribute, fragment_edit, path_edit, piece_edit

#: Kinds of links that can lead astray within the site.
_LEADING = frozenset([LinkKind.FRAGMENT, LinkKind.PAGE, LinkKind.FILE, LinkKind.OUTSIDE])
#: Attributes by which an author says that an `a` leads nowhere now, or that a script works it (HTML 4.5.1, WAI-ARIA).
_MEANT_SO = frozenset(["aria-current", "aria-disabled", "role", "tabindex", "title", "xlink:href", "onclick"])
#: Attributes of links, by their names near to href; and others in which its address is sometimes written.
_OF_LINKS = frozenset(["href", "hreflang", "here", "ref", "rel"])
_IN_PLACE_OF_HREF = frozenset(["src", "link", "url", "ref"])
_MOST_WRONG = 2  # letters of href
_IDLE = re.compile(r"\s*javascript:\s*(?:void\s*\(?\s*0?\s*\)?)?\s*;?\s*", re.IGNORECASE)
_BETWEEN = re.compile(r"[-_\s]+")
_MOST = 4  # choices that a finding offers
_LONG_ENOUGH = 4  # letters of a fragment that is known with one of them wrong


def find_astray(check: Check) -> Iterator[Finding]:
    """Yield the links of a page that lead nowhere, and the files it loads that are not there."""
    yield from _placeholders(check)
    lost = _of_lost_parts(check)
    for link in check.page.links:
        if link.kind not in _LEADING or link.start in lost:
            continue
        outcome = check.site.follow(check.page.path, link.href)
        if isinstance(outcome, (NoTarget, NoFile)) and (is_torn(check, outcome) or not _is_told(check, link)):
            if isinstance(outcome, NoTarget):
                told = _hidden(check, link, outcome) or _named_wrongly(check, link, outcome)
                told = told or _no_target(check, link, outcome)
                yield replace(told, about=f"{outcome.path}#{outcome.fragment}")
            else:
                code = "page-missing" if link.kind is LinkKind.PAGE or is_page_path(outcome.path) else "file-missing"
                words = f"“{link.text or link.href}” leads to"
                yield _no_file(check, code, link.start, "href", words, outcome)
    for resource in check.page.resources:
        found = _resource(check, resource)
        if found is not None:
            yield found


def _of_lost_parts(check: Check) -> frozenset[int]:
    """Return where links between parts are, of which one is missing: that is told by a rule of its own."""
    page = check.page
    series = series_of(check.site, page.path) if page.part_marks is not None else None
    if series is None or not series.missing:
        return frozenset()
    made = (made for kind in ("part-links", "moved-sections", "contents") for made in page.made_blocks(kind))
    return frozenset(link.start for one in made for link in one.links)


def _is_told(check: Check, link: Link) -> bool:
    """Return whether another rule tells why a link leads nowhere."""
    return is_explained(check, link) or check.lacks_quote(link.start, "href") or _is_quoted_oddly(link.href or "")


def _is_quoted_oddly(address: str) -> bool:
    """Return whether an address stands in typographic quotation marks, which are told by a rule of their own."""
    return address.strip()[:1] in ("“", "”", "„", "‘", "’", "‚")


# ---------------------------------------------------------------- left to be filled in


def _placeholders(check: Check) -> Iterator[Finding]:
    page = check.page
    empty = [link for link in page.links if link.kind in (LinkKind.NONE, LinkKind.PLACEHOLDER) or _is_idle(link)]
    upwards = {link.start for link in find_back_links(page)} if empty else set()
    for link in empty:
        if link.start in upwards or _is_meant_so(check, link) or any(one.start == link.start for one in check.broken):
            continue
        if link.kind is LinkKind.NONE:
            words = f"“{link.text}”" if link.text else "An empty link"
            meant = _meant_address(check, link)
            if meant is not None:
                message, edits, choices = _other_attribute(check, meant, words)
                yield check.find("link-without-destination", link.start, message, edits, choices)
                continue
            message = f"{words} is an <a> element without an href, so it goes nowhere."
        elif _is_idle(link):
            words = f"“{link.text}”" if link.text else "A link"
            message = (
                f"{words} leads nowhere: its href is “{link.href}”, and no script of the link's own does anything."
            )
        elif not _means_this_page(check, link):
            words = f"“{link.text}”" if link.text else "A link"
            message = f"{words} has a placeholder as its target: its href is “{link.href}”."
        else:
            continue
        yield check.find("link-without-destination", link.start, message)


def _is_idle(link: Link) -> bool:
    """Return whether a link asks for a script that does nothing."""
    return link.kind is LinkKind.OTHER and _IDLE.fullmatch(link.href or "") is not None


def _meant_address(check: Check, link: Link) -> Attribute | None:
    """Return the attribute of a link without href in which its address stands."""
    for one in check.page.attributes_at(link.start):
        if one.value_span is None or not one.value.strip():
            continue
        is_near = one.name not in _OF_LINKS and DamerauLevenshtein.distance(one.name, "href") <= _MOST_WRONG
        if is_near or one.name in _IN_PLACE_OF_HREF:
            return one
    return None


def _other_attribute(check: Check, written: Attribute, words: str) -> tuple[str, list[Edit], list[Choice]]:
    """Return that a link's address stands in another attribute than href, and how it gets there."""
    start = written.span.start
    edit = Edit(start, start + len(written.name), "href", reason=f"the address, in place of {written.name}")
    message = f"{words} is a link whose address stands in {written.name}, so it goes nowhere. It belongs in href."
    kind, outcome = classify_link(written.value), check.site.follow(check.page.path, written.value)
    leads = isinstance(outcome, Resolved) or kind in (LinkKind.OUTSIDE, LinkKind.MAIL, LinkKind.PHONE)
    if leads:
        return message, [edit], []
    return message, [], [Choice(f"Make it href=“{written.value}”", (edit,))]


def _is_meant_so(check: Check, link: Link) -> bool:
    """Return whether a link without an address, or with a placeholder, is so on purpose."""
    return any(one.name in _MEANT_SO for one in check.page.attributes_at(link.start))


def _means_this_page(check: Check, link: Link) -> bool:
    """Return whether a link that leads to its own page says so: its words are the page's name."""
    words = link.text.casefold()
    names = [check.page.title or "", *(heading.text for heading in check.page.headings[:1])]
    return bool(words) and any(name.casefold().startswith(words) for name in names)


# ---------------------------------------------------------------- no such place


def _hidden(check: Check, link: Link, outcome: NoTarget) -> Finding | None:
    """Return that a link's target stands in a tag that is broken, which is to be mended; None where not."""
    at = check.hidden_names.get(outcome.fragment) if outcome.path == check.page.path else None
    if at is None:
        return None
    message = (
        f"“{link.text or link.href}” leads to “#{outcome.fragment}”. The tag that has it, on line "
        f"{check.lines.line(at)}, lacks a bracket or a quotation mark: mend that first."
    )
    return check.find("fragment-missing", link.start, message)


def _named_wrongly(check: Check, link: Link, outcome: NoTarget) -> Finding | None:
    """Return that a link is right, and its target is named by an attribute that is no identifier; None where not."""
    wrong = meant_name(check.page, outcome.fragment) if outcome.path == check.page.path else None
    if wrong is None:
        return None
    written, edit = wrong
    message = (
        f"“{link.text or link.href}” leads to “#{outcome.fragment}”, but on this page that name stands in "
        f"{written.name}, where it counts for nothing."
    )
    return check.find("fragment-missing", link.start, message, [edit])


def _no_target(check: Check, link: Link, outcome: NoTarget) -> Finding:
    page, site = check.page, check.site
    words = f"“{link.text or link.href}” leads to “#{outcome.fragment}”"
    where = "this page" if outcome.path == page.path else outcome.path
    written = page.attribute_at(link.start, "href")
    names = site.names(outcome.path)
    meant = _unhashed(outcome.fragment, names)
    if meant is not None:
        message = f"{words}, with a # too many: “#{meant}” is on {where}."
        return check.find("hash-doubled", link.start, message, _fragment(check, written, meant))
    index = site.remember(("names to be near", outcome.path), lambda: NameIndex(sorted(names)))
    alike = _of_one_place(check, outcome, index.alike(outcome.fragment))
    if len(alike) == 1:
        return _spelt_otherwise(check, link, outcome, words, alike[0])
    near = _of_one_place(check, outcome, index.near(outcome.fragment))
    choices = [
        Choice(f"Link to “#{name}”", tuple(edits)) for name in near if (edits := _fragment(check, written, name))
    ]
    others = _pages_with(site, outcome)
    elsewhere = [
        Choice(f"Link to {path}#{outcome.fragment}", tuple(edits))
        for path in others[:_MOST]
        if (edits := _whole(check, written, path, outcome.fragment))
    ]
    if elsewhere and not near:
        found = f"{others[0]} has it" if len(others) == 1 else f"{others[0]} and {len(others) - 1} more have it"
        message = f"{words}, which {where} does not have; {found}."
        if link.in_furniture and link.kind is LinkKind.FRAGMENT:
            message += " In a menu that several pages have, a jump needs the name of its page."
            return check.find("menu-jump-alone", link.start, message, choices=elsewhere)
        return check.find("fragment-elsewhere", link.start, message, choices=elsewhere)
    hint = f" Perhaps it means “#{near[0]}”." if near else ""
    message = f"{words}, but nothing on {where} has that identifier.{hint}"
    if len(near) == 1 and not elsewhere and _is_a_letter_off(check, link, outcome, near[0]):
        return check.find("fragment-missing", link.start, message, choices[0].edits if choices else ())
    return check.find("fragment-missing", link.start, message, choices=[*choices, *elsewhere])


def _spelt_otherwise(check: Check, link: Link, outcome: NoTarget, words: str, name: str) -> Finding:
    """Return that a link is spelt otherwise than its target, which is what changes where no link can spell it."""
    written = check.page.attribute_at(link.start, "href")
    edits = _fragment(check, written, name)
    meant = name_as_linked(check.site, outcome.path, name)
    where = "this page" if outcome.path == check.page.path else outcome.path
    if meant is None:
        message = f"{words}, but on {where} it is written “#{name}”."
        return check.find("fragment-misspelt", link.start, message, edits)
    rename = Choice(f"Rename it to “{meant}”", plan=partial(plan_rename, check.site, outcome.path, name, meant))
    choices = [rename] if meant == unquote(outcome.fragment) else [Choice(f"Link to “#{name}”", tuple(edits)), rename]
    message = f"{words}, but the identifier on {where} is “{name}”, which no link can write as it is."
    return check.find("fragment-misspelt", link.start, message, choices=choices)


def _is_a_letter_off(check: Check, link: Link, outcome: NoTarget, name: str) -> bool:
    """Return whether a fragment surely means a name: one letter is too much, too few, wrong, or two are swapped.

    A digit says which of several is meant; and words that are those of another heading mean that one.
    """
    wanted = unquote(outcome.fragment)
    if len(wanted) < _LONG_ENOUGH or DamerauLevenshtein.distance(wanted, name) != 1:
        return False
    if re.findall(r"\d", wanted) != re.findall(r"\d", name):
        return False
    words = link.text.casefold()
    same = [one for one in check.site.pages[outcome.path].headings if one.text.casefold() == words]
    return all(one.identifier == name for one in same)


def _of_one_place(check: Check, outcome: NoTarget, names: Sequence[str]) -> Sequence[str]:
    """Return names that a fragment may mean; of those that lead to one place of this page, the one most like it."""
    if outcome.path != check.page.path:
        return names
    page = check.page
    found = [check.site.indicated(page.path, name) for name in names]
    targets = [one for one in found if isinstance(one, Target)]
    if len(names) < 2 or not all(is_one_place(page, targets[0], one) for one in targets):  # noqa: PLR2004
        return names
    wanted = unquote(outcome.fragment)
    return [min(names, key=lambda name: DamerauLevenshtein.distance(wanted, name))]


def _unhashed(fragment: str, names: Iterable[str]) -> str | None:
    """Return the identifier that a fragment means which has a "#" within it; None for none."""
    pieces = [piece for piece in fragment.split("#") if piece]
    there = set(names)
    found = [piece for piece in pieces if unquote(piece) in there] if "#" in fragment else []
    return unquote(found[-1]) if found else None


def _fragment(check: Check, written: Attribute | None, name: str) -> list[Edit]:
    if written is None:
        return []
    edit = fragment_edit(check.page.text, written, name, f"leads to “{name}”")
    return [] if edit is None else [edit]


def _pages_with(site: Site, outcome: NoTarget) -> list[str]:
    """Return the pages that have what a fragment names, where the one that it asks does not; the nearest first."""
    told = site.index.ask(Kind.NAME, unquote(outcome.fragment))
    found = [path for path, uses in told.items() if NameUse.MOVED not in uses]
    folder = posixpath.dirname(outcome.path)
    return sorted(found, key=lambda path: (posixpath.dirname(path) != folder, path.count("/"), path))


# ---------------------------------------------------------------- no such file


def _resource(check: Check, resource: Resource) -> Finding | None:
    outcome = check.site.follow(check.page.path, resource.url) if resource.url else None
    if not isinstance(outcome, NoFile) or check.lacks_quote(resource.start, resource.attribute):
        return None
    if is_explained_of(check, resource):
        return None
    words = f"The {resource.element} element loads"
    return _no_file(check, "file-missing", resource.start, resource.attribute, words, outcome)


def _no_file(check: Check, code: str, start: int, name: str, words: str, outcome: NoFile) -> Finding:
    written = check.page.attribute_at(start, name)
    if outcome.near is not None:
        message = f"{words} “{outcome.path}”, which is “{outcome.near}” in the site. Most hosts tell capitals apart."
        return replace(
            check.find("address-case", start, message, _path(check, written, outcome.near)), about=outcome.path
        )
    if is_torn(check, outcome):
        bare = "".join(outcome.path.split())
        message = f"{words} “{bare}”, but its address has white space in it, with which there is no such file."
        return replace(check.find(code, start, message, _path(check, written, bare)), about=outcome.path)
    meant = check.site.remember(("files like", outcome.path), lambda: _files_like(check.site, outcome.path))
    same = [path for path in meant if _is_same_name(path, outcome.path)]
    if len(same) == 1 and (edits := _path(check, written, same[0])):
        message = f"{words} “{outcome.path}”, which is written “{same[0]}” in the site."
        return replace(check.find(code, start, message, edits), about=outcome.path)
    choices = [
        Choice(f"{'Link to' if name == 'href' else 'Load'} {path}", tuple(edits))
        for path in meant[:_MOST]
        if (edits := _path(check, written, path))
    ]
    hint = f" There is “{meant[0]}”." if meant else ""
    found = check.find(code, start, f"{words} “{outcome.path}”, which is not in the site.{hint}", choices=choices)
    return replace(found, about=outcome.path)


def _is_same_name(path: str, other: str) -> bool:
    """Return whether two paths are one but for hyphens, underscores, spaces and capitals in the file's name."""
    (folder, name), (other_folder, other_name) = posixpath.split(path), posixpath.split(unquote(other))
    return folder == other_folder and _BETWEEN.sub("", name.casefold()) == _BETWEEN.sub("", other_name.casefold())


def _files_like(site: Site, path: str) -> list[str]:
    """Return the files that an address may mean which leads to none: of its name, or of a name like it."""
    site.index.note([(Matter.FILE, EVERY)])
    folder, name = posixpath.split(path.rstrip("/"))
    stem = posixpath.splitext(name)[0].casefold()
    by_name = _files_by_name(site)
    same = [found for found in by_name.get(name.casefold(), []) if found != path]
    if not same and stem:
        same = [one for found in by_name.get(f"{stem}.", []) for one in [found] if is_page_path(one) or "." in name]
    parts = frozenset(folder.split("/"))  # what shares most of its folders comes first
    found = sorted(
        same,
        key=lambda one: (posixpath.dirname(one) != folder, -len(parts & {*one.split("/")}), one.count("/"), one),
    )
    if found:
        return list(dict.fromkeys(found))
    extension = posixpath.splitext(name)[1]
    beside, names = site.remember((f"names of files {extension}", folder), lambda: _names_in(site, folder, extension))
    return [beside[one] for one in names.near(stem)]


def _names_in(site: Site, folder: str, extension: str) -> tuple[dict[str, str], NameIndex]:
    """Return the files of a folder with an extension, by their names without it, and those names as an index."""
    inside = _files_by_folder(site).get(folder, ())
    beside = {posixpath.splitext(posixpath.basename(one))[0]: one for one in inside if one.endswith(extension)}
    return beside, NameIndex(beside)


def _files_by_folder(site: Site) -> dict[str, list[str]]:
    def find() -> dict[str, list[str]]:
        found: dict[str, list[str]] = {}
        for path in sorted(site.files):
            found.setdefault(posixpath.dirname(path), []).append(path)
        return found

    return site.remember(("files by folder", ""), find)


def _files_by_name(site: Site) -> dict[str, list[str]]:
    """Return the site's files by their names, and by "stem." for another extension, in any case."""

    def find() -> dict[str, list[str]]:
        found: dict[str, list[str]] = {}
        for path in sorted(site.files):
            name = posixpath.basename(path).casefold()
            found.setdefault(name, []).append(path)
            found.setdefault(posixpath.splitext(name)[0] + ".", []).append(path)
        return found

    return site.remember(("files by name", ""), find)


def _path(check: Check, written: Attribute | None, path: str) -> list[Edit]:
    """Return the edit that gives an address another path and leaves query and fragment."""
    address = _address(check, path)
    if written is None or address is None:
        return []
    edit = path_edit(check.page.text, written, address, f"leads to {path}")
    return [] if edit is None or not _leads(check, written, edit, path) else [edit]


def _whole(check: Check, written: Attribute | None, path: str, fragment: str) -> list[Edit]:
    """Return the edit that gives an address another path and a fragment."""
    address = _address(check, path, unquote(fragment))
    if written is None or address is None:
        return []
    inner = Span(len(written.value) - len(written.value.lstrip(SPACE)), len(written.value.rstrip(SPACE)))
    edit = piece_edit(check.page.text, written, inner, address, f"leads to {path}")
    return [] if edit is None else [edit]


def _address(check: Check, path: str, fragment: str | None = None) -> str | None:
    try:
        return check.page.address_of(path, fragment, check.site.base)
    except RequestError:
        return None  # a base element leads out of the site


def _leads(check: Check, written: Attribute, edit: Edit, path: str) -> bool:
    """Return whether an edited address leads to a file; one with a base address or odd escapes may not."""
    if written.value_span is None:
        return False
    value = written.value_span.of(check.page.text)
    at = edit.start - written.value_span.start
    new = value[:at] + edit.text + value[at + edit.end - edit.start :]
    outcome = check.site.follow(check.page.path, new.partition("#")[0].partition("?")[0])
    return isinstance(outcome, Resolved) and outcome.path == path and _has_fragment(check, path, written.value)


def _has_fragment(check: Check, path: str, address: str) -> bool:
    """Return whether a page has what an address asks of it; leading there else would be the next mistake."""
    fragment = address.rstrip(SPACE).partition("#")[2]
    if not fragment or path not in check.site.pages:
        return True
    return check.site.indicated(path, fragment) is not None
