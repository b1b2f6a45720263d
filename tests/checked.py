"""A page in which nothing is wrong, to put something wrong into."""

from pages import site_of
from parted import after
from signpost.core.findings import check_page
from signpost.core.findings.fixing import has_fix, plan_fixes
from signpost.core.findings.options import CheckOptions

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


#: All rules, those too that are off until somebody asks for them.
ALL = CheckOptions(
    on=frozenset("identifier-capitals identifier-untelling target-unused new-window-unsaid link-words-same".split())
)


def fixed_by(code, markup, choice, options=ALL):
    """What a page's body becomes, its finding at hand, by one press or by the choice of that number."""
    site = site_with(markup)
    found = [one for one in check_page(site, "page.html", options) if one.rule.code == code]
    assert len(found) == 1, [(one.rule.code, one.message) for one in check_page(site, "page.html", options)]
    (one,) = found
    if choice is None:
        assert has_fix(one), one
    else:
        assert len(one.choices) > choice, one
    plan = plan_fixes(site, ["page.html"], [code], one.span.start, choice, options)
    after_it = after(site, plan)
    left = [other.rule.code for other in check_page(after_it, "page.html", options)]
    assert code not in left
    errors = {other.rule.code for other in check_page(site, "page.html", options) if other.rule.severity == "error"}
    new = [other for other in check_page(after_it, "page.html", options) if other.rule.severity == "error"]
    assert {other.rule.code for other in new} <= errors
    before, _, behind = GOOD.partition("{}")
    text = after_it.pages["page.html"].text
    assert text.startswith(before) or code.startswith("identifier")
    return one, text.removeprefix(before).removesuffix(behind)
