"""Writes what `signpost --help` prints, which is kept so that nobody waits for it; a test tells when that is old."""

from __future__ import annotations

import io
import os
import sys
from contextlib import redirect_stdout, suppress
from pathlib import Path

from signpost.cli.app import main


def text() -> str:
    """Return the help of the whole command, as wide as a page of text."""
    os.environ["COLUMNS"] = "80"
    sys.argv = ["signpost", "--help"]
    out = io.StringIO()
    with redirect_stdout(out), suppress(SystemExit):
        main()
    return out.getvalue()


if __name__ == "__main__":
    Path("src/signpost/cli/help.txt").write_text(text(), encoding="utf-8")
