"""Identifiers that are hard to use, used twice, or are none at all though they were meant to be."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Callable, Iterator, Mapping
from functools import partial
from urllib.parse import unquote

from signpost.core.addresses.fragments import find_indicated
from signpost.core.addresses.nearness import NameIndex
from signpost.core.findings.catalogue import Choice, Finding
from signpost.core.findings.page_check import Check
from signpost.core.identifiers.anchors import plan_anchors, plan_apart
from signpost.core.identifiers.naming import name_from
from signpost.core.identifiers.sections import find_objection, judge_existing, says_nothing
from signpost.core.page import Page, Target
from signpost.core.page.kept import kept_with_page
from signpost.core.page.markup import tokens_of
from signpost.core.page.tokens import Tag
from signpost.core.references.renames import plan_rename
from signpost.core.site.plans import SitePlan, plan_for
from signpost.core.site.site import Site
from signpost.core.text.edits import Edit
from signpost.core.text.patterns import any_case
from signpost.core.text.positions import Span
from signpost.core.text.tags import SPACE, Attribute, removal, scan_attributes

LONGEST = 60  # characters of an identifier
_EMPTY = re.compile(rf"[{SPACE}]{any_case('id')}\s*=\s*(?:\"\"|'')")
#: Elements that have no address; where they are given one, it was meant to be an identifier.
_PLAIN = frozenset("h1 h2 h3 h4 h5 h6 p div span li dt dd section table ul ol".split())
_FRAGMENT = re.compile(r"#?[\w.:-]+")
_NAMED = ("href", "link", "anchor", "name", "idd", "iid", "ids", "di")
#: What is put behind an identifier that is there already; what tells a word.
_COPY_MARK = re.compile(r"[-_.]?(?:\d{1,3}|copy)\Z", re.IGNORECASE)
_LONG_WORD = re.compile(r"[^\W\d_]{3,}")
_STEM = 4  # letters
_NEAR = 400  # characters with no words in them between two elements at one place
_TAG = re.compile(r"<[^<>]*>")


def find_poor_identifiers(check: Check) -> Iterator[Finding]:
    """Yield what is wrong with what a page's fragments can point to."""
    yield from _duplicates(check)
    better = _better_names(check)
    weaknesses = [one for one in _WEAKNESSES if check.wants(one[0])]
    for target in check.page.targets:
        found = next((one for one in weaknesses if one[1](target.name)), None)
        if found is not None and not _is_copy(check, target):
            code, _, reason = found
            yield check.find(
                code, target.start, f"“{target.name}” {reason}", choices=_renaming(check, target, better)
            )
    yield from _copied(check)
    yield from _empty(check)
    yield from _old_anchors(check)
    yield from _invented(check)
    yield from _unused(check)


_WEAKNESSES: tuple[tuple[str, Callable[[str], bool], str], ...] = (
    (
        "identifier-white-space",
        lambda name: any(char in SPACE for char in name),
        "contains white space, so style sheets and labels take it for several names.",
    ),
    (
        "identifier-hash",
        lambda name: "#" in name,
        "contains “#”, which only begins a fragment; links to it would need %23.",
    ),
    (
        "identifier-long",
        lambda name: len(name) > LONGEST,
        f"is longer than {LONGEST} characters, which is hard to type and to read out.",
    ),
    (
        "identifier-digit-first",
        lambda name: name[:1].isdigit(),
        "begins with a digit, which style sheets cannot write plainly.",
    ),
    (
        "identifier-capitals",
        lambda name: any(char.isupper() for char in name),
        "has capitals, which are easily typed wrong in links.",
    ),
    ("identifier-untelling", says_nothing, "says nothing about its place."),
)


def _is_copy(check: Check, target: Target) -> bool:
    """Return whether a target says again what the element's other attribute says, or another element has said."""
    first = find_indicated(target.name, check.targets)
    return isinstance(first, Target) and first.order != target.order


def _better_names(check: Check) -> Callable[[Target], str]:
    judged: dict[str, str] = {}
    given: set[str] = set()  # so that all can be renamed in one change

    def better(target: Target) -> str:
        if not judged:
            judged[""] = ""
            headings = check.page.headings
            for index, one in judge_existing(check.page).items():
                judged[headings[index].identifier or ""] = one.suggestion or ""
        taken = ({one.name for one in check.page.targets} - {target.name}) | given
        name = judged.get(target.name) or ""
        if not name or name in given:
            name = name_from(target.name.replace("#", " "), taken, language=check.page.language)
        given.add(name)
        return name

    return better


def name_as_linked(site: Site, path: str, name: str) -> str | None:
    """Return what links call an identifier that browsers cannot match with them as it is written; None for no name.

    It has white space or a “#” in it, which links write otherwise; that most of them do so is asked for.
    """
    if not any(char == "#" or char in SPACE for char in name):
        return None

    def find() -> str | None:
        targets = site.targets(path)
        names, right = set(site.names(path)), 0
        index = NameIndex(sorted(names))
        called: Counter[str] = Counter()
        for fragment, count in (one for led in site.pages_linking_to(path).values() for one in led):
            indicated = find_indicated(fragment, targets)
            if isinstance(indicated, Target):
                right += count if indicated.name == name else 0
            elif indicated is None and name in index.alike(fragment):
                called[unquote(fragment)] += count
        meant = max(called, key=lambda one: (called[one], one), default="")
        return meant if meant and called[meant] > right and not find_objection(meant, names) else None

    return site.remember(("name as linked", f"{path}#{name}"), find)


def _renaming(check: Check, target: Target, better: Callable[[Target], str]) -> list[Choice]:
    """Return the choice to rename a target with all that refers to it."""
    taken = {one.name for one in check.page.targets} - {target.name}
    name = name_as_linked(check.site, check.page.path, target.name) or better(target)
    if name == target.name or find_objection(name, taken):
        return []
    rename = partial(plan_rename, check.site, check.page.path, target.name, name)
    return [Choice(f"Rename it to “{name}”", plan=rename)]


def _copied(check: Check) -> Iterator[Finding]:
    """Yield the headings whose identifier is another heading's with a number behind it, and says nothing of them."""
    named = {one.identifier: one for one in check.page.headings if one.identifier}
    for name, heading in named.items():
        base = _COPY_MARK.sub("", name)
        model = named.get(base) if base != name else None
        if model is None:
            continue
        said, own = _stems(base), _stems(heading.text)
        target = find_indicated(name, check.targets)
        if own and said & _stems(model.text) and not said & own and isinstance(target, Target):
            message = f"“{name}” says that this is “{model.text}” once more, and its heading says “{heading.text}”."
            taken = {one.name for one in check.page.targets} - {name}
            new = name_from(heading.text, taken, language=check.page.language)
            rename = partial(plan_rename, check.site, check.page.path, name, new)
            choices = [] if find_objection(new, taken) else [Choice(f"Rename it to “{new}”", plan=rename)]
            yield check.find("identifier-copied", target.start, message, choices=choices)


def _stems(words: str) -> frozenset[str]:
    return frozenset(word[:_STEM] for word in _LONG_WORD.findall(words.casefold()))


# ---------------------------------------------------------------- used twice


def _duplicates(check: Check) -> Iterator[Finding]:
    page = check.page
    told: set[str] = set()
    for target in page.targets:
        first = find_indicated(target.name, check.targets)
        if not isinstance(first, Target) or first.start == target.start or is_one_place(check.page, first, target):
            continue
        line = check.lines.line(first.start)
        links = _uses(check)[target.name]
        leads = "No link leads there." if not links else _counted(links)
        choices = []
        if target.name not in told:
            told.add(target.name)
            choices = [Choice("Rename the later ones", plan=partial(_apart, page, target.name))]
        yield check.find(
            "identifier-duplicate",
            target.start,
            f"“{target.name}” is also the identifier of <{first.element}> on line {line}, which is the one that "
            f"counts. {leads}",
            choices=choices,
        )


def is_one_place(page: Page, first: Target, second: Target) -> bool:
    """Return whether no words stand between two elements, so that links land alike at either."""
    start, end = sorted((first.start, second.start))
    between = page.text[start:end] if end - start < _NEAR else "far"
    return not _TAG.sub("", between).strip()


def _apart(page: Page, name: str) -> SitePlan:
    return plan_for(page, plan_apart(page, name))


def _counted(links: int) -> str:
    return "The only link to it ends there." if links == 1 else f"All {links} links to it end there."


# ---------------------------------------------------------------- none, old, invented, unused


def _empty(check: Check) -> Iterator[Finding]:
    if '""' not in check.page.text and "''" not in check.page.text:
        return
    for found in _EMPTY.finditer(tokens_of(check.page).masked):
        tag = tokens_of(check.page).around(found.start())
        if tag is None or tag.is_end:
            continue
        edit = Edit(found.start(), found.end(), "", reason="an empty identifier")
        message = f"This {tag.name} has an empty identifier. Remove it, or name the place."
        yield check.find_at("identifier-empty", Span(found.start() + 1, found.end()), message, [edit])


def _old_anchors(check: Check) -> Iterator[Finding]:
    old = [one for one in check.page.targets if one.attribute == "name" and not _is_copy(check, one)]
    if not old:
        return
    first, count = old[0], len(old)
    places = "One place is" if count == 1 else f"{count:,} places are"
    message = f"{places} marked by an anchor's name, such as “{first.name}” here. An id on the heading does the same."
    plan = partial(_moved, check.page)
    yield check.find("name-target", first.start, message, choices=[Choice("Move the names to ids", plan=plan)])


def _moved(page: Page) -> SitePlan:
    return plan_for(page, plan_anchors(page))


@kept_with_page
def _find_invented(page: Page) -> list[tuple[Tag, Attribute, Edit | None]]:
    """Return the attributes that name places and count for nothing, each with the edit by which it counts, if any."""
    found = []
    names = {target.name for target in page.targets}
    tags = (tag for word in _NAMED for tag in tokens_of(page).named(*_PLAIN, having=word))
    for tag in sorted(set(tags), key=lambda tag: tag.start):
        attributes = {one.name: one for one in scan_attributes(page.text, tag.start)}
        written = next((attributes[name] for name in _NAMED if name in attributes), None)
        if written is None or written.value_span is None or not _FRAGMENT.fullmatch(written.value):
            continue
        name = written.value.removeprefix("#")
        edit = Edit(written.span.start, written.span.end, f'id="{name}"', reason=f"“{name}” as an identifier")
        found.append((tag, written, None if "id" in attributes or name in names else edit))
    return found


def meant_name(page: Page, fragment: str) -> tuple[Attribute, Edit] | None:
    """Return the attribute that names a place and counts for nothing, and the edit by which it counts."""
    return _invented_by_name(page).get(unquote(fragment))


@kept_with_page
def _invented_by_name(page: Page) -> Mapping[str, tuple[Attribute, Edit]]:
    found: dict[str, tuple[Attribute, Edit]] = {}
    for _, written, edit in _find_invented(page):
        if edit is not None:
            found.setdefault(written.value.removeprefix("#"), (written, edit))
    return found


def _invented(check: Check) -> Iterator[Finding]:
    text = check.page.text
    for tag, written, edit in _find_invented(check.page):
        name = written.value.removeprefix("#")
        choices = []
        if edit is not None:
            if _is_sought(check, name):
                message = f"{written.name}=“{written.value}” is no identifier, so links to “#{name}” lead nowhere."
                yield check.find_at("attribute-invented", written.span, message, [edit])
                continue
            choices.append(Choice(f'Make it id="{name}"', (edit,)))
        choices.append(
            Choice(f"Remove {written.name}", (removal(text, written, f"{written.name} means nothing here"),))
        )
        message = (
            f"{written.name}=“{written.value}” means nothing on <{tag.name}>. A place is named by id, and linked to "
            "by <a href>."
        )
        yield check.find_at("attribute-invented", written.span, message, choices=choices)


def _is_sought(check: Check, name: str) -> bool:
    """Return whether links lead to a fragment of the page."""
    path = check.page.path

    def find() -> frozenset[str]:
        found = check.site.pages_linking_to(path)
        return frozenset(fragment for led in found.values() for fragment, _ in led)

    return name in check.site.remember(("fragments that are sought", path), find)


def _unused(check: Check) -> Iterator[Finding]:
    if not check.wants("target-unused"):
        return
    used = _uses(check)
    for target in check.page.targets:
        if target.name in used or _is_copy(check, target):
            continue
        if check.page.text.count(target.name) > 1:
            continue  # a label, a table's header, a style rule or a script may refer to it
        yield check.find("target-unused", target.start, f"No link of the site leads to “{target.name}”.")


def _uses(check: Check) -> Counter[str]:
    """Return how many links of the site lead to each identifier of the page."""

    def find() -> Counter[str]:
        found: Counter[str] = Counter()
        for led in check.site.pages_linking_to(check.page.path).values():
            for fragment, count in led:
                target = find_indicated(fragment, check.targets)
                if isinstance(target, Target):
                    found[target.name] += count
        return found

    return check.site.remember(("uses of identifiers", check.page.path), find)
