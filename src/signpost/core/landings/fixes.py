"""What fixes landings that are covered or fall short: room above for a bar, room below the last section."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

from signpost.core.landings.landings import JumpLanding, Verdict

#: CSS pixels of one rem where the page leaves its text as the browser has it.
_REM = 16
#: How far below a bar a landing is, in CSS pixels.
_GAP = 8


@dataclass(frozen=True, slots=True)
class LandingFixes:
    """Lengths that would fix landings; None where none needs that."""

    room: float | None  # above a landing, in rem, in halves
    below: float | None  # at the page's end, in hundredths of the window's height


def find_landing_fixes(landings: Iterable[tuple[JumpLanding, float]]) -> LandingFixes:
    """Return what would fix landings; each comes with the height of its window, in CSS pixels."""
    room = below = 0.0
    for landing, view_height in landings:
        if landing.verdict is Verdict.COVERED:
            room = max(room, (landing.bar_bottom + _GAP) / _REM)
        if landing.verdict in (Verdict.SHORT, Verdict.COVERED) and landing.short:
            below = max(below, 100 * landing.short / view_height)
    return LandingFixes(
        math.ceil(room * 2) / 2 if room else None, min(float(math.ceil(below)), 100.0) if below else None
    )
