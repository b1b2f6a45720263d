"""Links and the addresses they contain."""

import pytest

from signpost.core.addresses.links import LinkKind, classify_link, full_address, relative_address, resolve_path


@pytest.mark.parametrize(
    ("href", "kind"),
    [
        (None, LinkKind.NONE),
        ("", LinkKind.PLACEHOLDER),
        (" # ", LinkKind.PLACEHOLDER),
        ("#coal", LinkKind.FRAGMENT),
        ("rules.html", LinkKind.PAGE),
        ("rules.HTM#coal", LinkKind.PAGE),
        ("../", LinkKind.PAGE),
        ("about", LinkKind.PAGE),
        ("?print", LinkKind.PAGE),
        ("map.pdf", LinkKind.FILE),
        ("https://example.org/a.html", LinkKind.OUTSIDE),
        ("//example.org", LinkKind.OUTSIDE),
        ("MAILTO:a@example.org", LinkKind.MAIL),
        ("tel:123", LinkKind.PHONE),
        ("javascript:void(0)", LinkKind.OTHER),
    ],
)
def test_kinds_of_links(href, kind):
    assert classify_link(href) is kind


@pytest.mark.parametrize(
    ("page", "href", "path"),
    [
        ("a/b.html", "#x", ("a/b.html", "x")),
        ("a/b.html", "c.html#x", ("a/c.html", "x")),
        ("a/b.html", "../c.html", ("c.html", None)),
        ("a/b.html", "/club/c.html", ("c.html", None)),
        ("a/b.html", "my%20page.html", ("a/my page.html", None)),
        ("a/b.html", "..", ("", None)),
        ("b.html", "../c.html", None),
        ("b.html", "https://example.org/club/c.html#x", ("c.html", "x")),
        ("b.html", "https://example.com/c.html", None),
        ("b.html", "mailto:x", None),
    ],
)
def test_where_an_address_leads_within_the_site(page, href, path):
    assert resolve_path(page, href, "https://example.org/club/") == path


@pytest.mark.parametrize(
    ("page", "target", "fragment", "address"),
    [
        ("a.html", "a.html", "x", "#x"),
        ("a.html", "b.html", "x", "b.html#x"),
        ("d/a.html", "b.html", None, "../b.html"),
        ("a.html", "d/my page.html", "ä ö", "d/my%20page.html#%C3%A4%20%C3%B6"),
        ("a.html", "odd:name.html", None, "./odd:name.html"),
    ],
)
def test_relative_addresses_lead_back_to_their_target(page, target, fragment, address):
    assert relative_address(page, target, fragment) == address
    assert resolve_path(page, address)[0] == target


def test_full_addresses():
    assert full_address("https://example.org/club/", "d/a b.html", "x") == "https://example.org/club/d/a%20b.html#x"
