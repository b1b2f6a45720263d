"""What a use case refuses.

DeskError
├── NotThereError       a site, page or change that is not there (any more)
├── ConflictError       what was planned no longer fits what is there; nothing was written
├── TooMuchError        more than the limits allow
└── UnsureError         whether a change was kept cannot be told yet
"""

from __future__ import annotations


class DeskError(Exception):
    """The root of all errors of the desk."""


class NotThereError(DeskError):
    """Something that is not there, or not any more."""


class ConflictError(DeskError):
    """What was planned no longer fits what is there."""


class TooMuchError(DeskError):
    """More than the limits allow."""


class UnsureError(DeskError):
    """Whether a change was kept cannot be told until the database answers."""
