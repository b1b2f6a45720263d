"""Jump links: made of words, led elsewhere, taken out; and where some could be made."""
