"""The `signpost` command: the core over plain files."""

from __future__ import annotations

from signpost.cli.commands import main

__all__ = ["main"]
