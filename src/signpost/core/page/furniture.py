"""A page's furniture: header, navigation, footer, side columns, told from its own content.

By landmark element and ARIA role (HTML 4.3, WAI-ARIA 1.2), and by the old way: a `div` or a table cell whose `id`
or class says it.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

#: Words that, as an `id` or as the only class, name the element of the page's own content.
CONTENT_WORDS = frozenset("content main maincontent main-content main_content page-content".split())
_CHROME_WORDS = frozenset(
    """
    banner breadcrumb breadcrumbs foot footer head header leftnav masthead menu menubar nav navbar navi
    navigation page-footer page-header side sidebar sidenav site-footer site-header site-nav topbar
    topnav
    """.split()
)
#: Classes of lists that we made, which stand for what they are in old pages too.
_MADE = frozenset(
    "contents part-contents part-links moved-sections page-path page-steps site-contents site-index site-menu".split()
)
_CHROME_ROLES = frozenset("banner complementary contentinfo navigation search".split())
_OLD_BOXES = frozenset("div td table p ul center".split())


@dataclass(frozen=True, slots=True)
class Marks:
    """What is known of a page's content beside its own markup: the author's corrections, what other pages repeat."""

    content: str | None = None  # selector of the element that contains the content; None where nobody said
    furniture: tuple[str, ...] = ()  # selectors of elements that are furniture
    own: tuple[str, ...] = ()  # selectors of elements that belong to the content, though they look like furniture
    repeated: frozenset[str] = frozenset()  # digests of blocks that other pages of the site have as well


def is_furniture(tag: str, attributes: Mapping[str, str | list[str] | None], *, in_content: bool) -> bool:
    """Return whether an element begins a part of the page's furniture.

    `in_content` says that it is within an element that is known to contain the content: there, a `header` or
    `footer` belongs to it.
    """
    if tag in ("nav", "aside"):
        return True
    if tag in ("header", "footer"):
        return not in_content
    if not attributes:
        return False
    role = attributes.get("role")
    if role:
        return (role if isinstance(role, str) else " ".join(role)).lower() in _CHROME_ROLES
    if tag not in _OLD_BOXES:
        return False
    words = [str(attributes.get("id") or "")]
    classes = attributes.get("class")
    if isinstance(classes, list):
        words += classes
    return any(word.lower() in _CHROME_WORDS or word in _MADE for word in words)
