"""Pages as authors leave them, composed of fragments: closed or not, nested wrongly, in any case and encoding."""

from __future__ import annotations

import os

from hypothesis import HealthCheck, settings
from hypothesis import strategies as st

#: How many examples each property is tried with; SIGNPOST_LONG makes them many more.
EXAMPLES = 1000 if os.environ.get("SIGNPOST_LONG") else 70
#: The same examples everywhere, however slow the machine is.
PROFILE = "signpost"
settings.register_profile(
    PROFILE, max_examples=EXAMPLES, derandomize=True, deadline=None, suppress_health_check=[HealthCheck.too_slow]
)

WORDS = ["Boiler", "coal", "signal box", "Ääkkösiä", "naïve café", "tokens", "the gauge", "R&amp;D", "2nd class"]
EMOJI = ["🚂 steam", "🎫", "👩‍🔧 crew"]

words = st.lists(st.sampled_from(WORDS), min_size=1, max_size=4).map(" ".join)
name = st.sampled_from(["a", "b", "coal", "Coal", "x-1", "1st", "two words", "top", "Ä"])


@st.composite
def heading(draw, plain: bool = False, tidy: bool = False):
    level = draw(st.integers(1, 4))
    tag = f"h{level}"
    if draw(st.booleans()):
        tag = tag.upper()
    inner = draw(words)
    if draw(st.integers(0, 3)) == 0:
        inner = draw(
            st.sampled_from(
                [
                    "<em>{}</em>",
                    "<code>{}</code>",
                    "<i>{}</i>" if tidy else "<b>{}",
                    '<a href="#a">{}</a>',
                    "{}<br>more",
                ]
            )
        ).format(inner)
    attributes = ""
    if not plain:
        attributes = draw(
            st.one_of(
                st.just(""),
                st.just(""),
                name.map(lambda value: f' id="{value}"'),
                st.just(" class=big id = single"),
                st.just(" ID='quoted' CLASS=x"),
                st.just(' id=""'),
            )
        )
    close = draw(st.sampled_from([f"</{tag}>", f"</{tag}>", f"</{tag}>", f"</{tag} >", f"</{tag}>" if tidy else ""]))
    anchor = "" if plain else draw(st.sampled_from(["", "", "", '<a name="old"></a>', "<a name=older></a>\n"]))
    return f"{anchor}<{tag}{attributes}>{inner}{close}"


link = st.builds(
    lambda href, text: f"<a {href}>{text}</a>",
    st.one_of(
        name.map(lambda value: f'href="#{value}"'),
        st.sampled_from(
            [
                'href="#"',
                "href=#coal",
                "HREF='page.html#a'",
                "",
                'name="here"',
                'href="other.html#a"',
                'href="#to%70"',
            ]
        ),
    ),
    words,
)

block = st.one_of(
    words.map("<p>{}</p>".format),
    words.map("<P>{}".format),
    link.map("<p>{}</p>".format),
    st.lists(words, min_size=1, max_size=3).map(
        lambda items: "<ul>" + "".join(f"<li>{item}" for item in items) + "</ul>"
    ),
    heading(),
    heading(),
    heading(),
    heading().map("<section>\n{}\n<p>in a section</p>\n</section>".format),
    heading().map("<div class=wrap>{}<p>in a box</div>".format),
    heading().map("<table><tr><td>{}</table>".format),
    heading().map("<!-- {} -->".format),
    heading().map("<script>document.write('{}')</script>".format),
    heading().map("<template>{}</template>".format),
    heading().map("<pre>{}</pre>".format),
    st.sampled_from(
        [
            "</div>",
            "<b><p>wrong</b></p>",
            "<table><p>fostered</p><tr><td>cell</table>",
            "<nav><a href='#coal'>Coal</a></nav>",
            "text without a box",
            "<hr>",
            "<br/>",
            "<img src=pic.gif alt='a > b'>",
            "&nbsp;&copy; &bogus; & <",
            "<a name='stub'/>",
        ]
    ),
)

tidy_block = st.one_of(
    words.map("<p>{}</p>".format),
    link.map("<p>{}</p>".format),
    heading(tidy=True),
    heading(tidy=True),
    heading(tidy=True),
    heading(tidy=True).map("<section>\n{}\n<p>in a section</p>\n</section>".format),
    st.sampled_from(["<hr>", "<ul>\n<li>item</li>\n</ul>", "&nbsp;&copy; & <", "<!-- <h2>no</h2> -->"]),
)
"""Blocks that are closed and nested as they should be."""

lead_in = st.sampled_from(
    [
        "<!DOCTYPE html>\n<html lang=en>\n<head>\n  <meta charset=ENC>\n  <title>Page</title>\n</head>\n<body>\n",
        '<!DOCTYPE HTML PUBLIC "-//W3C//DTD HTML 3.2//EN">\n<HTML><HEAD><TITLE>Page</TITLE>\n'
        '<META HTTP-EQUIV="Content-Type" CONTENT="text/html; charset=ENC"></HEAD>\n<BODY BGCOLOR=white>\n',
        "<meta charset=ENC><title>Page</title>\n",
    ]
)
lead_out = st.sampled_from(["\n</body>\n</html>\n", "</BODY></HTML>", "", "\n</body>\n\n"])
container = st.sampled_from(
    [
        ("", ""),
        ("<main>\n", "\n</main>"),
        ("\t<div id=content>\n\t", "\n\t</div>\n<div id=footer>foot</div>"),
        ("<header><h1>Chrome</h1></header>\n", "\n<footer>end</footer>"),
    ]
)


@st.composite
def pages(draw, encodings=("utf-8", "windows-1252", "iso-8859-15", "utf-16le"), blocks=block):
    """A page's bytes."""
    before, after = draw(container)
    separator = draw(st.sampled_from(["\n", "\n\n", "\n  ", "", "\n\t"]))
    body = separator.join(draw(st.lists(blocks, min_size=1, max_size=9)))
    text = draw(lead_in) + before + body + after + draw(lead_out)
    newline = draw(st.sampled_from(["\n", "\n", "\r\n", "\r", "mixed"]))
    text = text.replace("\n", "\r\n", 3) if newline == "mixed" else text.replace("\n", newline)
    encoding = draw(st.sampled_from(encodings))
    if encoding.startswith("utf") and draw(st.booleans()):
        text = text.replace("Boiler", draw(st.sampled_from(EMOJI)))
    text = text.replace("ENC", encoding)
    mark = "\ufeff" if encoding == "utf-16le" or (encoding == "utf-8" and draw(st.booleans())) else ""
    codec = {"windows-1252": "cp1252"}.get(encoding, encoding.replace("16le", "16-le"))
    return (mark + text).encode(codec)


item = st.one_of(link, words, st.just("<ul><li><a href='#coal'>Coal</a></ul>"))
listing = st.one_of(
    st.builds(
        lambda items, tag: f"<{tag}>" + "".join(f"<li>{one}" for one in items) + f"</{tag}>",
        st.lists(item, min_size=1, max_size=4),
        st.sampled_from(["ul", "ol", "menu"]),
    ),
    st.lists(st.one_of(link, words), min_size=2, max_size=4).map(lambda pieces: f"<p>{' | '.join(pieces)}</p>"),
    st.sampled_from(
        [
            '<nav class=contents><ul><li><a href="#coal">x</a></ul>',
            '<p class="back-to-top"><a href="#top">u</a>',
            '<div class="contents"><a href=#a>A</a> | <a href=#b>B</a></div>',
            "<nav class=letters><a href=#a>A</a></nav>",
            "<ul class=contents><li><a href=#coal>Coal</a><li>plain<!-- c --><ul></ul></ul>",
        ]
    ),
)
"""Lists of jump links as authors leave them, and blocks of ours that were broken since."""

row = st.builds(
    lambda links, hand: hand[0] + hand[1].join(links) + hand[2],
    st.lists(link, min_size=2, max_size=5),
    st.sampled_from(
        [
            ("<p>", " | ", "</p>"),
            ("<p>[ ", " ] [ ", " ]</p>"),
            ("<p align=center>", "&nbsp;&middot;&nbsp;", ""),
            ("<hr>\n", " &bull; ", "\n<hr>"),
            ("<div>", "<br>\n", "</div>"),
            ("<table><tr><td>", "</td><td>", "</td></tr></table>"),
            ("<table>\n<tr><td>1.<td>", "\n<tr><td>2.<td>", "\n</table>"),
            ("<center><b>", " <img src=dot.gif alt=''> ", "</b></center>"),
            ("<p>Jump to: ", ", ", "</p>"),
            ("<p>See ", " and ", ".</p>"),
            ("<dl><dt>", "<dt>", "</dl>"),
            ("<ul class=nav><li><span>", "</span></li>\n<li><span>", "</span></li></ul>"),
        ]
    ),
)
"""Rows of jump links in the hands of many authors, and sentences that hold some."""

layout = st.builds(
    lambda left, right, attributes: f"<table{attributes}><tr><td>{left}</td>\n<td>{right}</td></tr></table>",
    st.sampled_from(
        ["<a href='#coal'>Coal</a><br><a href='#a'>A</a>", "<b><font size=4>Boiler</font></b>", "&nbsp;"]
    ),
    st.builds(
        lambda title, head, text: f"{title}\n{head}\n<p>{text}<p>{text}",
        st.sampled_from(["<b><font size=5 color=red>Coal</font></b><br>", "", "<center><big>Works</big></center>"]),
        heading(),
        words,
    ),
    st.sampled_from(["", " width=100% bgcolor='#ccc'", " role=presentation"]),
)
"""Tables that lay out a page."""
