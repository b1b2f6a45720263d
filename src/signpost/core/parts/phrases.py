"""The words that we write into parts, in the page's language."""

from __future__ import annotations

import re
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class PartWords:
    """What parts say in one language; `{n}` is a part's number, `{count}` how many there are."""

    which: str  # in titles, within brackets
    part: str
    previous: str
    next: str
    overview: str  # the name of the links to all parts
    neighbours: str  # the name of the links to the parts beside
    moved: str  # where a section went; `{link}` leads there


_ENGLISH = PartWords(
    "part {n} of {count}", "Part", "Previous", "Next", "Parts of this page", "Previous and next part",
    "This section has moved to {link} (part {n}).",
)  # fmt: skip
_NORWEGIAN = PartWords(
    "del {n} av {count}", "Del", "Forrige", "Neste", "Deler av denne siden", "Forrige og neste del",
    "Dette avsnittet er flyttet til {link} (del {n}).",
)  # fmt: skip
_WORDS = {
    "cs": PartWords(
        "část {n} z {count}", "Část", "Předchozí", "Další", "Části této stránky", "Předchozí a další část",
        "Tato část je nyní v {link} (část {n}).",
    ),
    "da": PartWords(
        "del {n} af {count}", "Del", "Forrige", "Næste", "Dele af denne side", "Forrige og næste del",
        "Dette afsnit er flyttet til {link} (del {n}).",
    ),
    "de": PartWords(
        "Teil {n} von {count}", "Teil", "Vorheriger Teil", "Nächster Teil", "Teile dieser Seite",
        "Vorheriger und nächster Teil", "Dieser Abschnitt steht jetzt unter {link} (Teil {n}).",
    ),
    "es": PartWords(
        "parte {n} de {count}", "Parte", "Anterior", "Siguiente", "Partes de esta página",
        "Parte anterior y siguiente", "Esta sección está ahora en {link} (parte {n}).",
    ),
    "fi": PartWords(
        "osa {n}/{count}", "Osa", "Edellinen", "Seuraava", "Tämän sivun osat", "Edellinen ja seuraava osa",
        "Tämä osio on nyt kohdassa {link} (osa {n}).",
    ),
    "fr": PartWords(
        "partie {n} sur {count}", "Partie", "Précédente", "Suivante", "Parties de cette page",
        "Partie précédente et partie suivante", "Cette section se trouve maintenant sous {link} (partie {n}).",
    ),
    "it": PartWords(
        "parte {n} di {count}", "Parte", "Precedente", "Successiva", "Parti di questa pagina",
        "Parte precedente e successiva", "Questa sezione si trova ora in {link} (parte {n}).",
    ),
    "nb": _NORWEGIAN,
    "nl": PartWords(
        "deel {n} van {count}", "Deel", "Vorige", "Volgende", "Delen van deze pagina", "Vorig en volgend deel",
        "Dit onderdeel staat nu onder {link} (deel {n}).",
    ),
    "no": _NORWEGIAN,
    "pl": PartWords(
        "część {n} z {count}", "Część", "Poprzednia", "Następna", "Części tej strony", "Poprzednia i następna część",
        "Ten rozdział jest teraz w {link} (część {n}).",
    ),
    "pt": PartWords(
        "parte {n} de {count}", "Parte", "Anterior", "Seguinte", "Partes desta página", "Parte anterior e seguinte",
        "Esta secção está agora em {link} (parte {n}).",
    ),
    "sv": PartWords(
        "del {n} av {count}", "Del", "Föregående", "Nästa", "Delar av den här sidan", "Föregående och nästa del",
        "Det här avsnittet har flyttats till {link} (del {n}).",
    ),
}  # fmt: skip


def part_words(language: str | None) -> PartWords:
    """Return what parts say in a language tag's language (RFC 5646); English where we have no words."""
    return _WORDS.get((language or "").lower().partition("-")[0], _ENGLISH)


def suffix(language: str | None, number: int, count: int) -> str:
    """Return what a title ends with that says which part it is of."""
    return f" ({part_words(language).which.format(n=number, count=count)})"


def _pattern(which: str) -> str:
    """Return the pattern of a phrase in any encoding, which may lack its letters (then they are references)."""
    letters = (re.escape(one) if one.isascii() else f"(?:{one}|&#{ord(one)};)" for one in which)
    return "".join(letters).replace(r"\{n\}", r"\d+").replace(r"\{count\}", r"\d+")


_EVERY = "|".join(sorted({_pattern(words.which) for words in (_ENGLISH, *_WORDS.values())}))
#: What `suffix` writes, in any language.
SUFFIX = re.compile(rf" \((?:{_EVERY})\)$")
