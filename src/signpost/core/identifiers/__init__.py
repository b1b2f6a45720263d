"""Identifiers: how they are named, given to sections and other places, and moved from old anchors."""
