"""Entry lists: an entry for each of an author's terms, in order, with a bar of letters."""
