"""A long page in numbered parts: where to cut it, and the pages that come of it."""
