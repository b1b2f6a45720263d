"""The small page that stays where a page was and leads its readers on."""

from __future__ import annotations

from html import escape

from signpost.core.addresses.links import relative_address
from signpost.core.page import Page

#: What it says, in the page's language; `{link}` leads to the page.
_WORDS = {
    "cs": "Tato stránka je nyní na adrese {link}.",
    "da": "Denne side er flyttet til {link}.",
    "de": "Diese Seite steht jetzt unter {link}.",
    "en": "This page has moved to {link}.",
    "es": "Esta página está ahora en {link}.",
    "fi": "Tämä sivu on nyt osoitteessa {link}.",
    "fr": "Cette page se trouve maintenant sous {link}.",
    "it": "Questa pagina si trova ora in {link}.",
    "nb": "Denne siden er flyttet til {link}.",
    "nl": "Deze pagina staat nu op {link}.",
    "pl": "Ta strona jest teraz pod adresem {link}.",
    "pt": "Esta página está agora em {link}.",
    "sv": "Den här sidan har flyttat till {link}.",
}
_WORDS["no"] = _WORDS["nn"] = _WORDS["nb"]


def forwarding_page(page: Page, goal: str) -> bytes:
    """Return the page that stands at the old place of `page` and leads to `goal`, a path of the site.

    A script carries the fragment and the query along, at once; without scripts the reader is led to the page's top
    (HTML 4.2.5.3, the refresh state).
    """
    address = escape(relative_address(page.path, goal))
    title = escape(page.title or goal.rpartition("/")[2], quote=False)
    language = page.language or "en"
    words = _WORDS.get(language.partition("-")[0].lower(), _WORDS["en"])
    link = f'<a href="{address}">{title}</a>'
    script = relative_address(page.path, goal).replace("\\", "\\\\").replace('"', "%22").replace("<", "%3C")
    lines = [
        "<!DOCTYPE html>",
        f'<html lang="{escape(language)}">',
        "<head>",
        '<meta charset="utf-8">',
        f"<title>{title}</title>",
        '<meta name="viewport" content="width=device-width, initial-scale=1">',
        f'<link rel="canonical" href="{address}">',
        f'<noscript><meta http-equiv="refresh" content="0; url={address}"></noscript>',
        f'<script>location.replace("{script}" + location.search + location.hash)</script>',
        "</head>",
        "<body>",
        f"<p>{words.format(link=link)}</p>",
        "</body>",
        "</html>",
        "",
    ]
    return "\n".join(lines).encode()
