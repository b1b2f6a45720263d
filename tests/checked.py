"""A page in which nothing is wrong, to put something wrong into."""

from pages import site_of
from signpost.core.findings import check_page

GOOD = (
    '<!DOCTYPE html>\n<html lang="en">\n<head>\n  <meta charset="utf-8">\n  <title>Good</title>\n'
    '  <meta name="viewport" content="width=device-width">\n</head>\n<body>\n<h1>Good</h1>\n{}\n</body>\n</html>\n'
)


def site_with(markup, page=GOOD):
    """A site of a page with some markup in its body, and two others that link to it."""
    other = "<html lang=en><title>{}</title><a href=page.html>p</a> <p id=x>"
    return site_of(page=page.replace("{}", markup), index=other.format("I"), other=other.format("O"))


def codes(site, path="page.html"):
    """The codes of what is found on a page."""
    return [finding.rule.code for finding in check_page(site, path)]
