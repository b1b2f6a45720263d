"""Humble Signpost: headed sections, identifiers, contents, ways back and numbered parts for hand-coded pages."""
