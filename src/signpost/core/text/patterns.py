"""Regular expressions put together from words."""


def any_case(word: str) -> str:
    """Return the pattern of a word in any case; quicker than a pattern whose case is ignored as a whole."""
    return "".join(f"[{letter}{letter.upper()}]" for letter in word)
