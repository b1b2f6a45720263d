"""Rules of pages as wholes: their heads, pictures and files."""

from signpost.core.findings.rule import HTML, URL, WCAG, Fix, Rule, Severity

PAGES = (
    Rule(
        "encoding-refused", Severity.ERROR, Fix.NONE, "https://encoding.spec.whatwg.org/#replacement",
        "Encoding rejected by browsers",
        "Browsers show an empty page.",
        '<meta charset="iso-2022-kr">', '<meta charset="utf-8">',
    ),
    Rule(
        "encoding-conflict", Severity.WARNING, Fix.NONE, HTML + "parsing.html#determining-the-character-encoding",
        "Conflicting encodings",
        "Browsers and other programs read the letters differently.",
        "a UTF-8 mark and charset=iso-8859-1", "both the same",
    ),
    Rule(
        "page-unreadable", Severity.ERROR, Fix.NONE, HTML + "parsing.html#determining-the-character-encoding",
        "Page cannot be edited safely",
        "No edit could keep the rest unharmed.",
        "bytes that do not fit charset=utf-8", "the page saved as UTF-8",
    ),
    Rule(
        "title-missing", Severity.WARNING, Fix.NONE, WCAG + "page-titled",
        "Page without a title",
        "Tabs, bookmarks and search results show its address.",
        "<head></head>", "<head><title>Boiler care</title></head>",
    ),
    Rule(
        "title-repeated", Severity.WARNING, Fix.NONE, WCAG + "page-titled",
        "Title of another page",
        "Tabs, bookmarks and search results of the pages cannot be told apart.",
        "<title>New page</title>", "<title>Boiler care</title>",
    ),
    Rule(
        "language-missing", Severity.WARNING, Fix.ASK, WCAG + "language-of-page",
        "Language not said",
        "Screen readers read the page in their own language; browsers offer to translate it.",
        "<html>", '<html lang="en">',
    ),
    Rule(
        "header-shown", Severity.WARNING, Fix.AUTO, "https://www.rfc-editor.org/rfc/rfc9110#name-fields",
        "Head of a message shown as text",
        "A program wrote what servers say of a page into the page, where it is the first thing to be read.",
        "Content-type: text/html <!DOCTYPE html>", "<!DOCTYPE html>",
    ),
    Rule(
        "viewport-missing", Severity.ADVICE, Fix.AUTO, "https://drafts.csswg.org/css-viewport/#viewport-meta",
        "Small on phones",
        "Phones lay the page out for a wide screen and shrink it.",
        "<head>", '<head><meta name="viewport" content="width=device-width, initial-scale=1">',
    ),
    Rule(
        "picture-without-alt", Severity.WARNING, Fix.NONE, WCAG + "non-text-content",
        "Picture without alt",
        "Who cannot see it does not learn what it shows; screen readers spell its file name.",
        '<img src="loco.jpg">', '<img src="loco.jpg" alt="Engine 3 on the turntable">',
    ),
    Rule(
        "filler-left", Severity.WARNING, Fix.NONE, WCAG + "headings-and-labels",
        "Filler text left over",
        "It says nothing to anybody.",
        "<p>Lorem ipsum dolor sit amet", "<p>Trains run on Sundays",
    ),
    Rule(
        "file-name-awkward", Severity.ADVICE, Fix.NONE, URL + "#url-writing",
        "Awkward file name",
        "Spaces are written %20 in links, and capitals are easily typed wrong.",
        "Boiler Care.html", "boiler-care.html",
    ),
    Rule(
        "page-unlinked", Severity.ADVICE, Fix.NONE, WCAG + "multiple-ways",
        "No page links here",
        "Readers and search engines do not find it.",
        "old-news.html, to which nothing links", "a link to it from another page",
    ),
    Rule(
        "style-dot-for-identifier", Severity.WARNING, Fix.ASK, "https://drafts.csswg.org/selectors/#class-html",
        "Style rule for a class that is an identifier",
        "The rule styles nothing.",
        ".note { color: red }, with <p id=\"note\">", "#note { color: red }",
    ),
    Rule(
        "style-brace-missing", Severity.WARNING, Fix.AUTO, "https://drafts.csswg.org/css-syntax-3/#consume-qualified-rule",
        "Brace missing in style rules",
        "The rules behind it are taken for a part of it, or are skipped.",
        "h2 { color: red  h3 { color: blue }", "h2 { color: red } h3 { color: blue }",
    ),
    Rule(
        "style-property-misspelt", Severity.WARNING, Fix.AUTO, "https://drafts.csswg.org/css-syntax-3/#declaration-rule-list",
        "Misspelt property",
        "Browsers ignore what they do not know.",
        "h2 { colour: red }", "h2 { color: red }",
    ),
    Rule(
        "style-hash-for-class", Severity.WARNING, Fix.AUTO, "https://drafts.csswg.org/selectors/#id-selectors",
        "Style rule for an identifier that is a class",
        "The rule styles nothing.",
        "#note { color: red }, with <p class=\"note\">", ".note { color: red }",
    ),
    Rule(
        "menu-missing", Severity.ADVICE, Fix.ASK, WCAG + "consistent-navigation",
        "Page without the menu of all others",
        "Who comes here finds no way to the rest of the site.",
        "a page without the menu that twelve others have", "the same menu on all pages",
    ),
    Rule(
        "block-differs", Severity.ADVICE, Fix.ASK, WCAG + "consistent-navigation",
        "Navigation differs from its copies",
        "The reader finds other links here than on the other pages.",
        "a menu of seven links where eight pages have eight", "the same menu on all pages",
    ),
    Rule(
        "current-page-unmarked", Severity.ADVICE, Fix.AUTO, "https://www.w3.org/TR/wai-aria-1.2/#aria-current",
        "Current page not marked in the navigation",
        "Screen readers do not say which of the links is the page that one is on.",
        '<nav><a href="map.html">Map</a></nav>, on map.html',
        '<nav><a href="map.html" aria-current="page">Map</a></nav>',
    ),
    Rule(
        "picture-too-large", Severity.ADVICE, Fix.NONE, HTML + "images.html#images",
        "Picture far larger than it is shown",
        "Readers wait for pixels that they never see, and pay for them on the road.",
        "a photograph of 4,000 × 3,000 pixels, shown at 300 × 225", "a copy of it with 600 × 450 pixels",
    ),
    Rule(
        "sample-too-wide", Severity.WARNING, Fix.NONE, "https://drafts.csswg.org/css-overflow/#overflow-control",
        "Line of a sample runs out of its box",
        "Its end is cut off, lies over something else, or makes the whole page scroll sideways.",
        "<pre> with a line of 200 characters", "pre { overflow-x: auto }",
    ),
    Rule(
        "side-over-text", Severity.WARNING, Fix.NONE, "https://drafts.csswg.org/css-position/#position-property",
        "List at the side does not fit there",
        "The reader sees neither the list nor the text below it.",
        "nav { position: fixed; width: 20em }, the text's margin 12em", "the text's margin 22em",
    ),
)  # fmt: skip
