"""What is wrong on a page or in a site: found by rules, each with a stable code."""

from signpost.core.findings.catalogue import RULES, Finding, Fix, Rule, Severity
from signpost.core.findings.check import check_page, check_site

__all__ = ["RULES", "Finding", "Fix", "Rule", "Severity", "check_page", "check_site"]
