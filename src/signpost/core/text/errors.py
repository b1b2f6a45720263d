"""What the core refuses, and why.

    SignpostError
    ├── InputError            what was given cannot be worked on; the text says what to do
    │   ├── NotTextError          bytes that are no text: binary, or of a size beyond reason
    │   └── EncodingError         bytes that do not fit the encoding the page declares
    ├── RequestError          an operation was asked for something that is not there, or that may not be
    │   └── GoneError             what was asked for is not on the page any more
    ├── StaleError            a plan meets another text than the one it was made for
    └── PlanError             a plan that contradicts itself: a bug of ours
        ├── OutOfBoundsError
        └── OverlapError          two edits that claim the same place

Oddities of a page are findings, never exceptions.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from signpost.core.text.edits import Edit


class SignpostError(Exception):
    """The root of all errors of the core."""


class InputError(SignpostError):
    """Input that cannot be worked on."""


class NotTextError(InputError):
    """Bytes that are not a page's text."""

    def __init__(self, offset: int) -> None:
        self.offset = offset  # of the first NUL byte, 0-based
        super().__init__(
            f"This is not a text file: byte {offset} is NUL. Choose the page's HTML file, or save it as UTF-8."
        )


class EncodingError(InputError):
    """Bytes that do not fit the encoding the page declares, so that writing them back would change them."""

    def __init__(self, encoding: str, offset: int) -> None:
        self.encoding = encoding
        self.offset = offset  # of the first byte that does not fit, 0-based
        super().__init__(
            f"The page counts as {encoding}, but byte {offset} does not fit that encoding, so no edit could keep "
            f"the rest unharmed. Save the page as {encoding}, or correct the encoding that it declares."
        )


class RequestError(SignpostError):
    """An operation was asked for something that is not there, or that may not be."""


class GoneError(RequestError):
    """What was asked for is not on the page any more."""

    def __init__(self, thing: str) -> None:
        self.thing = thing
        super().__init__(f"{thing} is not there any more. Reload the page and choose again.")


class StaleError(SignpostError):
    """A plan was made for another text."""

    def __init__(self, planned: str, found: str) -> None:
        self.planned = planned  # SHA-256, hexadecimal
        self.found = found
        super().__init__("The page has changed since these edits were planned. Plan them again.")


class PlanError(SignpostError):
    """A plan that cannot be applied to any text; always a bug in a planner."""


class OutOfBoundsError(PlanError):
    """An edit reaches beyond the text."""

    def __init__(self, edit: Edit, length: int) -> None:
        self.edit = edit
        self.length = length
        super().__init__(f"{edit} reaches beyond a text of {length} characters")


class OverlapError(PlanError):
    """Two edits claim the same place."""

    def __init__(self, first: Edit, second: Edit) -> None:
        self.first = first
        self.second = second
        super().__init__(f"{first} and {second} claim the same place")
