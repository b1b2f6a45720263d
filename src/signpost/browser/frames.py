"""The frame that untrusted pages are shown in: what it may do, and our scripts in it."""

from __future__ import annotations

import secrets
from dataclasses import dataclass, field
from pathlib import Path
from typing import Final

_FOLDER = Path(__file__).parent
#: Our scripts in the order in which they run; the last one says that all are ready.
SCRIPTS: Final = ("frame", "measure", "walk")
#: The size that a reader has set for text, which the least of the page's own rules takes precedence over.
_TEXT_SIZE = "<style>:where(:root) {{ font-size: {}% }}</style>"
#: Phones and tablets lay their scroll bars over the page, where they take no room.
_NO_SCROLL_BAR = "<style>html::-webkit-scrollbar { display: none }</style>"


def read_script(name: str) -> bytes:
    """Return one of `SCRIPTS`."""
    return (_FOLDER / f"{name}.js").read_bytes()


@dataclass(frozen=True, slots=True)
class Frame:
    """One answer to the frame: what its page begins with, and what it may do.

    `own` is what the addresses of the site's files begin with, `scripts` those of our scripts; `text_size` is in
    percent of the usual one; `bare` hides the scroll bar, as on a phone.
    """

    own: str
    scripts: str
    text_size: int | None = None
    bare: bool = False
    mark: str = field(default_factory=lambda: "s" + secrets.token_hex(8))  # what our attributes begin with
    nonce: str = field(default_factory=lambda: secrets.token_urlsafe(16))

    @property
    def additions(self) -> str:
        """What the page begins with."""
        styles = (_TEXT_SIZE.format(self.text_size) if self.text_size else "") + (_NO_SCROLL_BAR if self.bare else "")
        return styles + "".join(
            f'<script nonce="{self.nonce}" data-mark="{self.mark}" src="{self.scripts}{name}.js" defer></script>'
            for name in SCRIPTS
        )

    @property
    def headers(self) -> dict[str, str]:
        """What a browser is told: to show the site's own files, to run our own scripts, and nothing else."""
        own = self.own
        return {
            "content-security-policy": (
                f"sandbox allow-scripts; default-src 'none'; script-src 'nonce-{self.nonce}'; style-src {own} "
                f"'unsafe-inline'; img-src {own} data:; media-src {own} data:; font-src {own} data:; form-action "
                "'none'; base-uri 'none'; frame-ancestors 'self'"
            ),
            "cache-control": "no-store",
            "x-dns-prefetch-control": "off",
            **FOR_THE_FRAME,
        }


#: The frame's own origin is opaque, so to the browser nothing is of the same origin as it.
FOR_THE_FRAME: Final = {"cross-origin-resource-policy": "cross-origin"}
