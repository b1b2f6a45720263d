"""The order of words in a language: the Unicode collation algorithm (UTS 10), tailored to what readers expect.

What a language counts as letters of its own is where CLDR puts it; all others sort as their base letters.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from functools import cache

from pyuca import Collator

_NUMBER = re.compile(r"[0-9]{1,18}")

#: By language: letters of their own, each behind the letter or letters given before the colon, in this order.
_TAILORINGS = {
    "cs": "c:č h:ch r:ř s:š z:ž",
    "da": "z:æ,ä z:ø,ö z:å,aa",
    "es": "n:ñ",
    "et": "s:š,z,ž w:õ w:ä w:ö w:ü",
    "fi": "z:å z:ä,æ z:ö,ø",
    "hr": "c:č c:ć d:đ s:š z:ž",
    "hu": "c:cs o:ö,ő u:ü,ű",
    "is": "a:á d:ð e:é i:í o:ó u:ú y:ý z:þ z:æ z:ö z:å",
    "lt": "c:č s:š z:ž",
    "nb": "z:æ,ä z:ø,ö z:å,aa",
    "nn": "z:æ,ä z:ø,ö z:å,aa",
    "no": "z:æ,ä z:ø,ö z:å,aa",
    "pl": "a:ą c:ć e:ę l:ł n:ń o:ó s:ś z:ź z:ż",
    "ro": "a:ă a:â i:î s:ș t:ț",
    "sk": "a:ä c:č h:ch o:ô s:š z:ž",
    "sl": "c:č s:š z:ž",
    "sv": "z:å z:ä,æ z:ö,ø",
    "tr": "c:ç g:ğ h:ı o:ö s:ş u:ü",
}
Key = tuple[tuple[tuple[int, int], ...], tuple[int, ...]]


@cache
def _collator() -> Collator:
    return Collator()


@cache
def _letters(language: str) -> dict[str, tuple[int, int]]:
    """Return the places of a language's own letters: their base letter's, and which of those behind it they are."""
    found: dict[str, tuple[int, int]] = {}
    behind: dict[str, int] = {}
    for piece in _TAILORINGS.get(language, "").split():
        base, _, letters = piece.partition(":")
        behind[base] = behind.get(base, 0) + 1
        for letter in letters.split(","):
            found[letter] = (_primary(base), behind[base])
    return found


@cache
def _primary(letter: str) -> int:
    """Return a character's primary weight; 0 for what is passed over."""
    weights = _collator().sort_key(letter)
    return int(weights[0]) if weights else 0


def sort_key(words: str, language: str | None) -> Key:
    """Return the key by which words sort in a language tag's language (RFC 5646)."""
    return tuple(_places(words, language)), tuple(_collator().sort_key(words))


def _places(words: str, language: str | None) -> Sequence[tuple[int, int]]:
    own = _letters((language or "").lower().partition("-")[0])
    text = words.casefold() if "ı" not in own else words.replace("I", "ı").casefold()
    places = []
    at = 0
    while at < len(text):
        if number := _NUMBER.match(text, at):
            places.append((_primary("0"), int(number[0])))  # as numbers: 2 before 10
            at = number.end()
            continue
        piece = text[at : at + 2] if text[at : at + 2] in own else text[at]
        place = own.get(piece) or (_primary(piece) if piece.isalnum() else 0, 0)  # signs are passed over
        if place[0]:
            places.append(place)
        at += len(piece)
    return places


def initial(words: str, language: str | None) -> str:
    """Return the letter under which words are in a language, in capitals; "#" for what begins with none."""
    own = _letters((language or "").lower().partition("-")[0])
    text = words.casefold().lstrip()
    for at, char in enumerate(text):
        if not char.isalnum():
            continue
        if text[at : at + 2] in own:
            return text[at : at + 2].capitalize()
        if char in own:
            return char.upper()
        base = next((letter for letter in _LATIN if _primary(letter) == _primary(char)), char)
        return base.upper() if base.isalpha() else "#"
    return "#"


_LATIN = "abcdefghijklmnopqrstuvwxyz"
