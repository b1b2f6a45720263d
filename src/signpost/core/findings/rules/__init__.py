"""The catalogue's rules, by family."""

from signpost.core.findings.rules.links import LINKS
from signpost.core.findings.rules.markup import MARKUP
from signpost.core.findings.rules.pages import PAGES
from signpost.core.findings.rules.structure import STRUCTURE

#: All rules by their codes.
RULES = {rule.code: rule for rule in (*LINKS, *STRUCTURE, *MARKUP, *PAGES)}

__all__ = ["RULES"]
