"""Jump links: made of words, given another target, removed; and where some could be made."""
