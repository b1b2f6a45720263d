"""The `signpost` command: the core over plain files."""

from __future__ import annotations

import sys

__all__ = ["main"]


def main() -> None:
    """Run the command; its help is written already, so that nothing has to be loaded for it."""
    if sys.argv[1:] == ["--help"]:
        with open(__file__.replace("__init__.py", "help.txt"), encoding="utf-8") as file:  # noqa: PTH123 - pathlib takes as long as all else
            print(file.read(), end="")
        return
    from signpost.cli.app import main as run  # noqa: PLC0415 - see above

    run()
