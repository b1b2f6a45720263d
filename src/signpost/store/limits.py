"""How much a site may keep."""

from __future__ import annotations

#: All files of a site together, in bytes, their earlier states included.
SITE_BYTES = 512 * 1024 * 1024


class SiteFullError(Exception):
    """A site that would keep more than it may; nothing was written."""

    def __init__(self) -> None:
        super().__init__(
            f"The site would keep more than {SITE_BYTES // 2**20} MB, its earlier states included; nothing was "
            "written. Shorten its history on the site's desk, or take out files that it does not need."
        )
