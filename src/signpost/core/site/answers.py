"""What is found out about a site as a whole: answers that few changes alter, though many rows are behind each.

What depends on an answer is looked at again where the answer changes, not wherever a row behind it does.
"""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from functools import wraps
from typing import Protocol, TypeVar

from signpost.core.site.index import EVERY, Matter
from signpost.core.site.site import Site
from signpost.core.site.told import Kind

T = TypeVar("T")
T_co = TypeVar("T_co", covariant=True)
#: The functions that find answers, by their names.
ANSWERS: dict[str, Callable[[Site, str], object]] = {}
#: What share of the pages has to be in one language for it to be the site's.
_SHARE = 0.5
_WORD = re.compile(r"[^\W_]+")
_SMALL = frozenset(
    "a an the of and or in on at to for with by der die das und von im zu le la les de du et en".split()
)
_STEM = 4  # letters


class Answer(Protocol[T_co]):
    """A function that finds out something about a site, asked once for each key."""

    def __call__(self, site: Site, key: str = "") -> T_co:
        """Return what is found out."""


def site_answer(find: Callable[[Site, str], T]) -> Answer[T]:
    """Return a function that asks another about a site once for each key. Its answers are what JSON holds."""
    name = find.__name__

    @wraps(find)
    def answer(site: Site, key: str = "") -> T:
        return site.answer(f"{name} {key}", lambda: find(site, key))

    ANSWERS[name] = answer
    return answer


def find_answer(site: Site, name: str) -> object:
    """Return an answer by the name under which it was noted."""
    which, _, key = name.partition(" ")
    return ANSWERS[which](site, key)


@site_answer
def has_more_pages(site: Site, key: str) -> bool:  # noqa: ARG001 - there is but one answer
    """Return whether a site has more than one page."""
    site.index.note([(Matter.FILE, EVERY)])
    return len(site.pages) > 1


@site_answer
def find_usual_language(site: Site, key: str) -> str:  # noqa: ARG001 - there is but one answer
    """Return the language that most pages of a site say they are in; "" for none."""
    site.index.note([(Matter.FILE, EVERY)])
    counts = sorted(((len(pages), language) for language, pages in site.index.ask_all(Kind.LANGUAGE).items()))
    count, language = counts[-1] if counts else (0, "")
    return language if count > _SHARE * len(site.pages) and len(site.pages) > 1 else ""


@site_answer
def find_titles_alike(site: Site, key: str) -> dict[str, list[str]]:  # noqa: ARG001 - there is but one answer
    """Return the pages whose titles say the same in other words, by `key_of_words`."""
    found: dict[str, dict[str, str]] = {}
    for title, pages in site.index.ask_all(Kind.TITLE).items():
        words, language = json.loads(title)
        if len(title_words(words)) > 1:  # a single word says too little
            found.setdefault(key_of_words(words, language), {})[title] = min(pages)
    return {words: sorted(pages.values()) for words, pages in sorted(found.items()) if len(pages) > 1}


def key_of_words(title: str, language: str | None) -> str:
    """Return what titles in a language have in common that have the same words in any order and form."""
    return " ".join([language or "", *sorted(title_words(title))])


def title_words(title: str) -> frozenset[str]:
    """Return what tells the words of a title: small ones left out, and of long ones what they begin with."""
    words = (word for word in _WORD.findall(title.casefold()) if word not in _SMALL)
    return frozenset(word[:_STEM] if len(word) > _STEM + 1 else word for word in words)


@site_answer
def find_first_loader(site: Site, key: str) -> str:
    """Return the first of the pages that load the style sheet at a path; "" for none."""
    return min(pages_loading(site, key), default="")


def pages_loading(site: Site, sheet: str) -> list[str]:
    """Return the pages that load the style sheet at a path, in the order of their paths."""
    return sorted({page for key in site.spellings(sheet) for page in site.index.ask(Kind.SHEET, key)})
