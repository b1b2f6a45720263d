"""The few words that we write into pages, in the page's language."""

from __future__ import annotations

import re

_CONTENTS = {
    "cs": "Obsah", "da": "Indhold", "de": "Inhalt", "es": "Contenido", "fi": "Sisällys", "fr": "Sommaire",
    "it": "Indice", "nb": "Innhold", "nl": "Inhoud", "no": "Innhold", "pl": "Spis treści", "pt": "Conteúdo",
    "sv": "Innehåll",
}  # fmt: skip
_BACK = {
    "cs": "Nahoru", "da": "Til toppen", "de": "Nach oben", "es": "Volver arriba", "fi": "Takaisin ylös",
    "fr": "Haut de page", "it": "Torna su", "nb": "Til toppen", "nl": "Naar boven", "no": "Til toppen",
    "pl": "Do góry", "pt": "Voltar ao topo", "sv": "Till toppen",
}  # fmt: skip
_BACK_TO_CONTENTS = {
    "cs": "Zpět na obsah", "da": "Til indholdet", "de": "Zum Inhalt", "es": "Volver al contenido",
    "fi": "Takaisin sisällykseen", "fr": "Retour au sommaire", "it": "Torna all’indice", "nb": "Til innholdet",
    "nl": "Naar de inhoud", "no": "Til innholdet", "pl": "Do spisu treści", "pt": "Voltar ao conteúdo",
    "sv": "Till innehållet",
}  # fmt: skip
#: What heads a list of sections, in the languages that we have words for.
_HEADS = re.compile(
    r"(?:table of )?contents?|[oi]n this (?:page|document|section)|jump to|quick links|overview|index|topics|"
    r"inhalt(?:sverzeichnis)?|auf dieser seite|sommaire|sur cette page|table des matières|inhoud|op deze pagina|"
    r"innehåll|på denna sida|indhold|innhold|sisällys|contenido|en esta página|indice|conteúdo|spis treści|obsah",
    re.IGNORECASE,
)


def heads_contents(words: str) -> bool:
    """Return whether words are what authors head a list of sections with, such as “On this page”."""
    return _HEADS.fullmatch(words.strip()) is not None


def contents_label(language: str | None) -> str:
    """Return what contents are called in a language tag's language (RFC 5646); English where we have no word."""
    return _CONTENTS.get(_primary(language), "Contents")


def back_words(language: str | None, *, to_contents: bool = False) -> str:
    """Return what a back-to-top link to the top, or to the contents, says in a language."""
    if to_contents:
        return _BACK_TO_CONTENTS.get(_primary(language), "Back to contents")
    return _BACK.get(_primary(language), "Back to top")


def _primary(language: str | None) -> str:
    return (language or "").lower().partition("-")[0]
