"""A folder on disk that a site is linked to: read, and written so that no change is ever half there."""
