"""Headings: made of look-alikes, levelled, worded, moved, wrapped, begun from titles."""
