"""Processes of this machine, told apart from others that had the same number."""

from __future__ import annotations

from pathlib import Path


def began(process: int) -> str:
    """Return when a process began, in its system's own count (proc(5), stat 22); "" for one that is not there."""
    try:
        said = Path(f"/proc/{process}/stat").read_text(encoding="ascii", errors="replace")
        return said.rpartition(")")[2].split()[19]
    except (OSError, IndexError):
        return ""
