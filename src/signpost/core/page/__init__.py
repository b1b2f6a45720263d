"""What a page is made of. The only package that knows the parser."""

from signpost.core.page.facts import MADE_BLOCKS, Element, Heading, Link, Made, Page, Resource, Target
from signpost.core.page.nodes import Node, Nodes, read_formatting, read_markup, read_nodes
from signpost.core.page.reader import read_edited, read_page

__all__ = [
    "MADE_BLOCKS",
    "Element",
    "Heading",
    "Link",
    "Made",
    "Node",
    "Nodes",
    "Page",
    "Resource",
    "Target",
    "read_edited",
    "read_formatting",
    "read_markup",
    "read_nodes",
    "read_page",
]
