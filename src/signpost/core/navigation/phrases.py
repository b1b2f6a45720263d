"""The words that we write into navigation, in the page's language."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class NavigationWords:
    """What navigation says in one language."""

    skip: str  # the link past what all pages begin with
    menu: str  # names of blocks, for those who hear them
    path: str
    steps: str
    previous: str
    next: str
    contents: str
    index: str


_ENGLISH = NavigationWords(
    "Skip to content", "Pages", "You are here", "Previous and next page", "Previous", "Next",
    "All pages", "A to Z",
)  # fmt: skip
_NORWEGIAN = NavigationWords(
    "Hopp til innholdet", "Sider", "Du er her", "Forrige og neste side", "Forrige", "Neste", "Alle sider", "A til Å"
)
_WORDS = {
    "cs": NavigationWords(
        "Přejít k obsahu", "Stránky", "Jste zde", "Předchozí a další stránka", "Předchozí", "Další",
        "Všechny stránky", "Rejstřík",
    ),
    "da": NavigationWords(
        "Gå til indholdet", "Sider", "Du er her", "Forrige og næste side", "Forrige", "Næste", "Alle sider",
        "A til Å",
    ),
    "de": NavigationWords(
        "Zum Inhalt", "Seiten", "Sie sind hier", "Vorige und nächste Seite", "Zurück", "Weiter", "Alle Seiten",
        "Von A bis Z",
    ),
    "es": NavigationWords(
        "Ir al contenido", "Páginas", "Está aquí", "Página anterior y siguiente", "Anterior", "Siguiente",
        "Todas las páginas", "De la A a la Z",
    ),
    "fi": NavigationWords(
        "Siirry sisältöön", "Sivut", "Olet tässä", "Edellinen ja seuraava sivu", "Edellinen", "Seuraava",
        "Kaikki sivut", "Hakemisto",
    ),
    "fr": NavigationWords(
        "Aller au contenu", "Pages", "Vous êtes ici", "Page précédente et page suivante", "Précédente", "Suivante",
        "Toutes les pages", "De A à Z",
    ),
    "it": NavigationWords(
        "Vai al contenuto", "Pagine", "Sei qui", "Pagina precedente e successiva", "Precedente", "Successiva",
        "Tutte le pagine", "Dalla A alla Z",
    ),
    "nb": _NORWEGIAN,
    "nl": NavigationWords(
        "Naar de inhoud", "Pagina's", "U bent hier", "Vorige en volgende pagina", "Vorige", "Volgende",
        "Alle pagina's", "Van A tot Z",
    ),
    "no": _NORWEGIAN,
    "pl": NavigationWords(
        "Przejdź do treści", "Strony", "Jesteś tutaj", "Poprzednia i następna strona", "Poprzednia", "Następna",
        "Wszystkie strony", "Indeks",
    ),
    "pt": NavigationWords(
        "Ir para o conteúdo", "Páginas", "Está aqui", "Página anterior e seguinte", "Anterior", "Seguinte",
        "Todas as páginas", "De A a Z",
    ),
    "sv": NavigationWords(
        "Hoppa till innehållet", "Sidor", "Du är här", "Föregående och nästa sida", "Föregående", "Nästa",
        "Alla sidor", "A till Ö",
    ),
}  # fmt: skip


def navigation_words(language: str | None) -> NavigationWords:
    """Return what navigation says in a language tag's language (RFC 5646); English where we have no words."""
    return _WORDS.get((language or "").lower().partition("-")[0], _ENGLISH)


#: What the links to the pages before and after may be introduced with, in any language.
STEP_WORDS = frozenset(
    word.casefold() for words in (_ENGLISH, *_WORDS.values()) for word in (words.previous, words.next)
)
#: The words of the link past what all pages begin with, in any language.
SKIP_WORDS = frozenset(words.skip for words in (_ENGLISH, *_WORDS.values()))
