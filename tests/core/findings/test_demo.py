"""The demo has each kind of mistake that such a site would have."""

from collections import Counter

from pages import page_of
from signpost.core.findings import RULES, check_page
from signpost.core.findings.landings import MEASURED
from signpost.core.site.site import Site
from signpost.core.text.source import read_source
from signpost.desk.demo import demo_files

#: How many of the rules find something in the demo without measuring.
KINDS = 69
#: What it does not have: it is as long, as old and as odd as its own story makes it, and no more.
ABSENT = {
    "address-beyond-site", "address-malformed", "address-space", "cdata-in-html", "comment-open",
    "content-behind-end", "contents-missing", "contents-out-of-date", "contents-unordered", "copy-stale",
    "element-misspelt", "encoding-conflict", "encoding-refused", "end-tag-mistyped", "entry-doubted",
    "entry-without-section", "entry-words-differ", "equals-missing", "file-name-awkward", "first-heading-missing",
    "first-heading-repeated", "header-shown", "headings-missing", "identifier-copied", "line-breaks-lost",
    "list-in-list", "menu-missing", "outside-link-here", "page-unreadable", "pair-one-way", "part-long",
    "part-short", "region-empty", "sample-obeyed", "section-closed-early", "section-in-footer",
    "section-without-entry", "section-without-way-back", "series-broken", "style-brace-missing",
    "style-dot-for-identifier", "style-property-misspelt", "tag-space-missing", "tag-typed", "tag-unescaped",
    "title-missing", "way-back-missing",
}  # fmt: skip


def test_the_demo_has_what_such_a_site_would_have():
    files = demo_files()
    pages = {path: page_of(data, path) for path, data in files.items() if path.endswith(".html")}
    texts = {path: read_source(data) for path, data in files.items() if path.endswith(".css")}
    site = Site(pages, frozenset(files), texts=texts)
    found = Counter(one.rule.code for path in pages for one in check_page(site, path))
    missing = {code for code, rule in RULES.items() if not rule.off and code not in MEASURED} - set(found)
    assert (len(found), missing) == (KINDS, ABSENT)
