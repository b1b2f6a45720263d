"""A page as its author saved it: bytes, characters, tags, and edits at known offsets."""
