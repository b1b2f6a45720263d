"""The catalogue of rules: code, severity, reference and what can be done."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from signpost.core.text.edits import Edit
from signpost.core.text.positions import Place, Span


class Severity(StrEnum):
    """How much a finding matters."""

    ERROR = "error"  # a reader does not get where a link promises
    WARNING = "warning"  # some readers lose their way
    ADVICE = "advice"  # it could be better


class Fix(StrEnum):
    """Whether a finding can be fixed."""

    AUTO = "auto"  # safe without a question
    ASK = "ask"  # one question
    NONE = "none"


@dataclass(frozen=True, slots=True)
class Rule:
    """A rule of the catalogue."""

    code: str  # stable
    severity: Severity
    fix: Fix
    reference: str  # the standard's section
    title: str  # what is wrong, in a few words
    why: str = ""  # what comes of it
    wrong: str = ""  # an example
    right: str = ""


@dataclass(frozen=True, slots=True)
class Finding:
    """A problem at a place."""

    rule: Rule
    page: str  # path
    span: Span  # in the page's text
    place: Place
    message: str  # the reason, in plain words
    suggestions: tuple[str, ...] = ()  # identifiers that a broken jump may have meant, nearest first
    edits: tuple[Edit, ...] = ()  # that fix it; () where that takes a choice


_HTML = "https://html.spec.whatwg.org/multipage/"
_WCAG = "https://www.w3.org/TR/WCAG22/#"
_URL = "https://url.spec.whatwg.org/"
_PARSING = _HTML + "parsing.html#parse-error-"
_ALL = (
    Rule(
        "fragment-missing",
        Severity.ERROR,
        Fix.ASK,
        _HTML + "browsing-the-web.html#the-indicated-part-of-the-document",
        "Jump link leads nowhere",
        "The reader stays at the top of the page, or where the link was.",
        '<a href="#boiler-care">Boiler care</a>, with no such identifier',
        '<a href="#boiler">Boiler care</a>, with <h2 id="boiler">',
    ),
    Rule(
        "page-missing",
        Severity.ERROR,
        Fix.ASK,
        _HTML + "links.html#following-hyperlinks",
        "Link to a missing page",
        "The reader gets an error page.",
        '<a href="Stations.html">Stations</a>',
        '<a href="stations.html">Stations</a>',
    ),
    Rule(
        "file-missing",
        Severity.ERROR,
        Fix.ASK,
        _HTML + "urls-and-fetching.html#resolving-urls",
        "Missing file",
        "The picture, style or file does not come.",
        '<img src="loco.jpg" alt="…">, with no such file',
        '<img src="images/loco.jpg" alt="…">',
    ),
    Rule(
        "quote-missing",
        Severity.ERROR,
        Fix.NONE,
        _HTML + "syntax.html#attributes-2",
        "Missing quotation mark",
        "Tags and words up to the next quotation mark become part of the address.",
        '<a href="#water>Water</a>',
        '<a href="#water">Water</a>',
    ),
    Rule(
        "identifier-duplicate",
        Severity.ERROR,
        Fix.ASK,
        _HTML + "dom.html#the-id-attribute",
        "Duplicate identifier",
        "Links lead to the first of them, always.",
        '<h2 id="notes"> … <h2 id="notes">',
        '<h2 id="notes"> … <h2 id="more-notes">',
    ),
    Rule(
        "link-without-destination",
        Severity.WARNING,
        Fix.ASK,
        _HTML + "text-level-semantics.html#the-a-element",
        "Link without a target",
        "It looks like a link and does nothing, or leads to the top.",
        '<a href="#">Carriages</a>',
        '<a href="#carriages">Carriages</a>',
    ),
    Rule(
        "heading-gap",
        Severity.WARNING,
        Fix.ASK,
        _WCAG + "info-and-relationships",
        "Skipped heading level",
        "Who goes from level to level misses what is below.",
        "<h2>Safety</h2> <h4>Fire</h4>",
        "<h2>Safety</h2> <h3>Fire</h3>",
    ),
    Rule(
        "contents-out-of-date",
        Severity.WARNING,
        Fix.AUTO,
        _WCAG + "multiple-ways",
        "Contents out of date",
        "The reader looks for words that are not there.",
        "an entry “Boilers”, its heading “Boiler care”",
        "an entry “Boiler care”",
    ),
    Rule(
        "series-broken",
        Severity.ERROR,
        Fix.NONE,
        _HTML + "links.html#link-type-next",
        "Part of a page missing",
        "Links between the parts lead nowhere.",
        "part 2 of 3 deleted",
        "all parts there",
    ),
    Rule(
        "parts-out-of-date",
        Severity.WARNING,
        Fix.AUTO,
        _HTML + "links.html#sequential-link-types",
        "Parts out of date",
        "Links between parts and contents say what used to be.",
        "“Next: Boilers”, the part now “Boiler care”",
        "“Next: Boiler care”",
    ),
    Rule(
        "section-without-entry",
        Severity.WARNING,
        Fix.AUTO,
        _WCAG + "multiple-ways",
        "Section missing from the contents",
        "Who looks into the contents thinks that the page does not have it.",
        "a section that the contents leave out",
        "an entry for it",
    ),
    Rule(
        "entry-without-section",
        Severity.WARNING,
        Fix.ASK,
        _WCAG + "multiple-ways",
        "Contents entry without a section",
        "The reader is led nowhere.",
        "an entry for a section that was removed",
        "no such entry",
    ),
    Rule(
        "entry-doubted",
        Severity.ADVICE,
        Fix.ASK,
        _WCAG + "link-purpose-in-context",
        "Shortened entry, changed heading",
        "Whether the shorter words still fit, only you can tell.",
        "an entry “Boilers”, its heading now “Brakes”",
        "an entry “Brakes”",
    ),
    Rule(
        "landing-covered",
        Severity.WARNING,
        Fix.ASK,
        _WCAG + "focus-not-obscured-minimum",
        "Jump target under a bar",
        "The reader sees the second line of the section first.",
        "a bar of 64 pixels fixed at the top",
        "html { scroll-padding-top: 64px }",
    ),
    Rule(
        "landing-short",
        Severity.ADVICE,
        Fix.ASK,
        "https://drafts.csswg.org/cssom-view/#scroll-an-element-into-view",
        "Jump target low in the window",
        "The page ends too soon for the section to come to the top of the window.",
        "a short last section",
        "room below it",
    ),
    Rule(
        "encoding-refused",
        Severity.ERROR,
        Fix.NONE,
        "https://encoding.spec.whatwg.org/#replacement",
        "Encoding rejected by browsers",
        "Browsers show an empty page.",
        '<meta charset="utf-7">',
        '<meta charset="utf-8">',
    ),
    Rule(
        "encoding-conflict",
        Severity.WARNING,
        Fix.NONE,
        _HTML + "parsing.html#determining-the-character-encoding",
        "Conflicting encodings",
        "Browsers and other programs read the letters differently.",
        "a UTF-8 mark and charset=iso-8859-1",
        "both the same",
    ),
    Rule(
        "page-unreadable",
        Severity.ERROR,
        Fix.NONE,
        _HTML + "parsing.html#determining-the-character-encoding",
        "Page cannot be edited safely",
        "No edit could keep the rest unharmed.",
        "bytes that do not fit charset=utf-8",
        "the page saved as UTF-8",
    ),
)

#: All rules by their codes.
_NEW = (
    Rule(
        "hash-missing", Severity.ERROR, Fix.AUTO, _HTML + "links.html#following-hyperlinks",
        "Jump link without #",
        "The browser looks for a file of that name and finds none.",
        '<a href="boiler">Boiler care</a>', '<a href="#boiler">Boiler care</a>',
    ),
    Rule(
        "scheme-missing", Severity.ERROR, Fix.AUTO, _URL + "#absolute-url-string",
        "Outside address without https://",
        "The browser looks for a file of that name beside the page.",
        '<a href="www.example.org">Friends</a>', '<a href="https://www.example.org">Friends</a>',
    ),
    Rule(
        "mail-scheme-missing", Severity.ERROR, Fix.AUTO, "https://www.rfc-editor.org/rfc/rfc6068",
        "Mail address without mailto:",
        "The browser looks for a file of that name beside the page.",
        '<a href="office@example.org">Write to us</a>', '<a href="mailto:office@example.org">Write to us</a>',
    ),
    Rule(
        "own-disk-address", Severity.ERROR, Fix.NONE, _URL + "#file-host-state",
        "Link to a file on your own computer",
        "It works for you alone.",
        '<a href="file:///C:/site/map.pdf">Map</a>', '<a href="map.pdf">Map</a>',
    ),
    Rule(
        "backslash-in-address", Severity.WARNING, Fix.AUTO, _URL + "#url-parsing",
        "Backslash in an address",
        "Browsers take it for a slash; servers, feeds and checkers do not.",
        '<a href="pages\\map.html">Map</a>', '<a href="pages/map.html">Map</a>',
    ),
    Rule(
        "jump-in-new-window", Severity.WARNING, Fix.AUTO, _WCAG + "on-input",
        "Jump link opens a new window",
        "The reader has the page twice, and “Back” does not lead back.",
        '<a href="#boiler" target="_blank">Boiler care</a>', '<a href="#boiler">Boiler care</a>',
    ),
    Rule(
        "first-heading-missing", Severity.ADVICE, Fix.ASK, _HTML + "sections.html#headings-and-outlines-2",
        "No h1",
        "Search engines and screen readers take the h1 for what the page is about.",
        "<h2>Boiler care</h2>", "<h1>Boiler care</h1>",
    ),
    Rule(
        "first-heading-repeated", Severity.ADVICE, Fix.ASK, _HTML + "sections.html#headings-and-outlines-2",
        "Several h1",
        "One h1 says what the page is about; the others are its sections.",
        "<h1>Handbook</h1> <h1>Safety</h1>", "<h1>Handbook</h1> <h2>Safety</h2>",
    ),
    Rule(
        "heading-empty", Severity.WARNING, Fix.NONE, _WCAG + "headings-and-labels",
        "Heading without words",
        "Who goes from heading to heading hears nothing there.",
        "<h2></h2>", "<h2>Safety</h2>",
    ),
    Rule(
        "heading-tags-unequal", Severity.WARNING, Fix.AUTO, _HTML + "parsing.html#parsing-main-inbody",
        "Heading ends as another level",
        "Browsers go by the start tag; whoever reads the source may take it for the other level.",
        "<h2>Safety</h3>", "<h2>Safety</h2>",
    ),
    Rule(
        "heading-repeated", Severity.ADVICE, Fix.NONE, _WCAG + "headings-and-labels",
        "Same heading twice in one place",
        "In contents, and in a list of headings, the two cannot be told apart.",
        "<h2>Notes</h2> … <h2>Notes</h2>", "<h2>Notes on coal</h2> … <h2>Notes on water</h2>",
    ),
    Rule(
        "element-self-closed", Severity.WARNING, Fix.AUTO,
        _PARSING + "non-void-html-element-start-tag-with-trailing-solidus",
        "Element closed by />",
        "Only void elements and those of SVG and MathML end so; any other stays open.",
        '<a name="coal"/>', '<a name="coal"></a>',
    ),
    Rule(
        "quote-typographic", Severity.ERROR, Fix.AUTO, _HTML + "syntax.html#attributes-2",
        "Typographic quotation marks around a value",
        "They become part of the address or the name.",
        "<a href=“map.html”>Map</a>", '<a href="map.html">Map</a>',
    ),
    Rule(
        "less-than-raw", Severity.ADVICE, Fix.AUTO, _PARSING + "invalid-first-character-of-tag-name",
        "Bare < in the text",
        "With a letter behind it, it would begin a tag and swallow what follows.",
        "<p>if a < b", "<p>if a &lt; b",
    ),
    Rule(
        "element-obsolete", Severity.ADVICE, Fix.NONE, _HTML + "obsolete.html#non-conforming-features",
        "Obsolete element",
        "Browsers still show it; it cannot be changed for all pages in one place.",
        "<center>Closed</center>", '<p class="notice">Closed</p>',
    ),
    Rule(
        "title-missing", Severity.WARNING, Fix.NONE, _WCAG + "page-titled",
        "Page without a title",
        "Tabs, bookmarks and search results show its address.",
        "<head></head>", "<head><title>Boiler care</title></head>",
    ),
    Rule(
        "title-repeated", Severity.WARNING, Fix.NONE, _WCAG + "page-titled",
        "Title of another page",
        "Tabs, bookmarks and search results of the pages cannot be told apart.",
        "<title>New page</title>", "<title>Boiler care</title>",
    ),
    Rule(
        "language-missing", Severity.WARNING, Fix.ASK, _WCAG + "language-of-page",
        "Language not said",
        "Screen readers read the page in their own language; browsers offer to translate it.",
        "<html>", '<html lang="en">',
    ),
    Rule(
        "viewport-missing", Severity.ADVICE, Fix.AUTO, "https://drafts.csswg.org/css-viewport/#viewport-meta",
        "Small on phones",
        "Phones lay the page out for a wide screen and shrink it.",
        "<head>", '<head><meta name="viewport" content="width=device-width, initial-scale=1">',
    ),
    Rule(
        "picture-without-alt", Severity.WARNING, Fix.NONE, _WCAG + "non-text-content",
        "Picture without alt",
        "Who cannot see it does not learn what it shows; screen readers spell its file name.",
        '<img src="loco.jpg">', '<img src="loco.jpg" alt="Engine 3 on the turntable">',
    ),
    Rule(
        "link-empty", Severity.WARNING, Fix.NONE, _WCAG + "link-purpose-in-context",
        "Link without words",
        "There is nothing to see or to press, and the keyboard stops there.",
        '<a href="map.html"></a>', '<a href="map.html">Map</a>',
    ),
    Rule(
        "link-words-vague", Severity.ADVICE, Fix.ASK, _WCAG + "link-purpose-link-only",
        "Link words that say nothing",
        "Who goes from link to link hears “here, here, more”.",
        'For times click <a href="times.html">here</a>.', '<a href="times.html">Times of trains</a>',
    ),
    Rule(
        "filler-left", Severity.WARNING, Fix.NONE, _WCAG + "headings-and-labels",
        "Filler text left over",
        "It says nothing to anybody.",
        "<p>Lorem ipsum dolor sit amet", "<p>Trains run on Sundays",
    ),
    Rule(
        "file-name-awkward", Severity.ADVICE, Fix.NONE, _URL + "#url-writing",
        "Awkward file name",
        "Spaces are written %20 in links, and capitals are easily typed wrong.",
        "Boiler Care.html", "boiler-care.html",
    ),
    Rule(
        "contents-missing", Severity.ADVICE, Fix.ASK, _WCAG + "multiple-ways",
        "Long page without contents",
        "The reader has to scroll through it to learn what it has.",
        "twenty sections one after another", "a list of jump links to them before the first",
    ),
    Rule(
        "way-back-missing", Severity.ADVICE, Fix.ASK, _WCAG + "multiple-ways",
        "Long page without a way back",
        "Who has read a section has to scroll up for the next.",
        "a section that just ends", '<p><a href="#top">Back to top</a></p> at its end',
    ),
    Rule(
        "page-unlinked", Severity.ADVICE, Fix.NONE, _WCAG + "multiple-ways",
        "No page links here",
        "Readers and search engines do not find it.",
        "old-news.html, to which nothing links", "a link to it from another page",
    ),
)  # fmt: skip

RULES = {rule.code: rule for rule in (*_ALL, *_NEW)}
