"""Rules of markup: slips that browsers put up with in a way nobody meant."""

from signpost.core.findings.rule import HTML, PARSING, Fix, Rule, Severity

MARKUP = (
    Rule(
        "quote-missing", Severity.ERROR, Fix.NONE, HTML + "syntax.html#attributes-2",
        "Missing quotation mark",
        "Tags and words up to the next quotation mark become part of the address.",
        '<a href="#water>Water</a>', '<a href="#water">Water</a>',
    ),
    Rule(
        "element-self-closed", Severity.WARNING, Fix.AUTO,
        PARSING + "non-void-html-element-start-tag-with-trailing-solidus",
        "Element closed by />",
        "Only void elements and those of SVG and MathML end so; any other stays open.",
        '<a name="coal"/>', '<a name="coal"></a>',
    ),
    Rule(
        "quote-typographic", Severity.ERROR, Fix.AUTO, HTML + "syntax.html#attributes-2",
        "Typographic quotation marks around a value",
        "They become part of the address or the name.",
        "<a href=“map.html”>Map</a>", '<a href="map.html">Map</a>',
    ),
    Rule(
        "less-than-raw", Severity.ADVICE, Fix.AUTO, PARSING + "invalid-first-character-of-tag-name",
        "Bare < in the text",
        "With a letter behind it, it would begin a tag and swallow what follows.",
        "<p>if a < b", "<p>if a &lt; b",
    ),
    Rule(
        "tag-unescaped", Severity.WARNING, Fix.AUTO, HTML + "syntax.html#character-references",
        "Tag that is meant to be read",
        "Browsers obey it: it is not shown, and what is behind it changes its look or goes into another box.",
        "<p>The <h2> tag begins a heading.", "<p>The &lt;h2&gt; tag begins a heading.",
    ),
    Rule(
        "sample-obeyed", Severity.WARNING, Fix.ASK, HTML + "grouping-content.html#the-pre-element",
        "Sample whose tags are not shown",
        "Browsers obey the tags of a sample, so readers see what they do and not how they are written.",
        "<pre><body><main>…</pre>", "<pre>&lt;body>&lt;main>…</pre>",
    ),
    Rule(
        "element-obsolete", Severity.ADVICE, Fix.NONE, HTML + "obsolete.html#non-conforming-features",
        "Obsolete element",
        "Browsers still show it; it cannot be changed for all pages in one place.",
        "<center>Closed</center>", '<p class="notice">Closed</p>',
    ),
    Rule(
        "end-tag-missing", Severity.WARNING, Fix.AUTO, HTML + "syntax.html#end-tags",
        "End tag missing",
        "What was meant for a few words goes on: as a link, in bold, or inside the wrong box.",
        "<div class=\"note\"><p>Mind the step. </section>", "<div class=\"note\"><p>Mind the step. </div></section>",
    ),
    Rule(
        "end-tag-stray", Severity.ADVICE, Fix.AUTO, HTML + "parsing.html#parsing-main-inbody",
        "End tag left over",
        "It ends nothing; whoever edits the page looks for its beginning.",
        "<p>Mind the step.</span></p>", "<p>Mind the step.</p>",
    ),
    Rule(
        "elements-crossed", Severity.WARNING, Fix.AUTO, HTML + "parsing.html#adoption-agency-algorithm",
        "Elements that cross",
        "Browsers take them apart, each in its way, so styles and links reach further than meant.",
        "<b>Mind <i>the</b> step</i>", "<b>Mind <i>the</i></b><i> step</i>",
    ),
    Rule(
        "link-in-link", Severity.WARNING, Fix.AUTO, HTML + "text-level-semantics.html#the-a-element",
        "Link within a link",
        "Browsers end the first one where the second begins, so its last words do nothing.",
        '<a name="coal"><a href="#top">Coal</a></a>', '<a name="coal"></a><a href="#top">Coal</a>',
    ),
    Rule(
        "list-item-stray", Severity.WARNING, Fix.ASK, HTML + "grouping-content.html#the-li-element",
        "List item outside a list",
        "Screen readers do not announce it as a list, and it is not indented as one.",
        "<li>Coal</li> <li>Water</li>", "<ul> <li>Coal</li> <li>Water</li> </ul>",
    ),
    Rule(
        "bracket-missing", Severity.ERROR, Fix.AUTO, PARSING + "unexpected-character-in-attribute-name",
        "Bracket missing",
        "The tag is shown as text, or the next one becomes part of it and does nothing.",
        '<a href="#coal" <b>Coal</b></a>', '<a href="#coal"><b>Coal</b></a>',
    ),
    Rule(
        "attribute-repeated", Severity.WARNING, Fix.ASK, PARSING + "duplicate-attribute",
        "Attribute given twice",
        "Only the first counts.",
        '<h2 class="big" class="red">', '<h2 class="big red">',
    ),
    Rule(
        "reference-unended", Severity.ADVICE, Fix.AUTO, PARSING + "missing-semicolon-after-character-reference",
        "Character reference without a semicolon",
        "Before a letter or a digit it can become something else.",
        "Smith &amp Sons", "Smith &amp; Sons",
    ),
    Rule(
        "reference-unknown", Severity.ADVICE, Fix.AUTO, PARSING + "unknown-named-character-reference",
        "Unknown character reference",
        "The reader sees the code instead of a character.",
        "coal &emdash; water", "coal &mdash; water",
    ),
    Rule(
        "reference-of-windows", Severity.ADVICE, Fix.AUTO, PARSING + "control-character-reference",
        "Character number of windows-1252",
        "Browsers correct it; other programs show a box, or nothing.",
        "1998 &#150; 2004", "1998 &#8211; 2004",
    ),
    Rule(
        "comment-open", Severity.ERROR, Fix.ASK, PARSING + "eof-in-comment",
        "Comment never ended",
        "All that is behind it is not shown.",
        "<!-- old timetable <p>Trains run on Sundays", "<!-- old timetable --> <p>Trains run on Sundays",
    ),
    Rule(
        "comment-nested", Severity.WARNING, Fix.NONE, PARSING + "nested-comment",
        "Comment within a comment",
        "The first --> ends both; the rest is shown to readers.",
        "<!-- off: <!-- note --> text -->", "<!-- off: note, text -->",
    ),
    Rule(
        "cdata-in-html", Severity.WARNING, Fix.NONE, PARSING + "cdata-in-html-content",
        "CDATA in HTML",
        "Browsers take it for a comment, so its first words are not shown.",
        "<![CDATA[ a < b ]]>", "a &lt; b",
    ),
    Rule(
        "attribute-obsolete", Severity.ADVICE, Fix.NONE, HTML + "obsolete.html#non-conforming-features",
        "Obsolete attributes",
        "Browsers still follow them; they cannot be changed for all pages in one place.",
        '<table bgcolor="#ffffcc">', "table { background: #ffffcc }",
    ),
    Rule(
        "attribute-invented", Severity.WARNING, Fix.ASK, HTML + "dom.html#global-attributes",
        "Attribute that its element does not have",
        "A link to it finds nothing: a place is named by id alone.",
        '<h2 href="#coal">', '<h2 id="coal">',
    ),
)  # fmt: skip
