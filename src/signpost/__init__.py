"""Humble Signpost: sections, identifiers, contents, back-to-top links and parts for pages coded by hand."""
