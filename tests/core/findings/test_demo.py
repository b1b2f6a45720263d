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
    "address-beyond-site", "address-malformed", "address-space", "cdata-in-html", "comment-open", "contents-missing",
    "contents-out-of-date", "encoding-conflict", "encoding-refused", "entry-doubted", "entry-without-section",
    "entry-words-differ", "file-name-awkward", "first-heading-missing", "first-heading-repeated",
    "header-shown",
    "headings-missing", "page-unreadable", "pair-one-way", "part-long", "part-short", "section-without-entry",
    "sample-obeyed", "series-broken", "tag-unescaped", "title-missing", "way-back-missing",
}  # fmt: skip


def test_the_demo_has_what_such_a_site_would_have():
    files = demo_files()
    pages = {path: page_of(data, path) for path, data in files.items() if path.endswith(".html")}
    texts = {path: read_source(data) for path, data in files.items() if path.endswith(".css")}
    site = Site(pages, frozenset(files), texts=texts)
    found = Counter(one.rule.code for path in pages for one in check_page(site, path))
    missing = {code for code, rule in RULES.items() if not rule.off and code not in MEASURED} - set(found)
    assert (len(found), missing) == (KINDS, ABSENT)
