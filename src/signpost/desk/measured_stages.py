"""The stages of the work that only a measured page tells."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace

from signpost.core.landings.landings import Verdict
from signpost.core.page.lengths import Beyond
from signpost.desk.measure_views import LandingView, StretchView
from signpost.desk.stages import NO_STEP, StageProgress, StageView, StepView, stage_with


@dataclass(frozen=True, slots=True)
class PartState:
    """What a page is as a part of another one."""

    number: int
    count: int  # of all parts
    faults: Collection[str]  # codes of what is wrong with the series here
    refreshed: StepView  # shows the edits that bring it up to date


def view_measured_stages(
    landings: Sequence[LandingView],
    stretches: Sequence[StretchView],
    windows: float,
    part: PartState | None = None,
) -> tuple[StageView, ...]:
    """Return the stages that only a measured page tells: where jumps land, and how long the page is."""
    return (_walk(landings), _parts(stretches, windows, part))


def _walk(landings: Sequence[LandingView]) -> StageView:
    counts = Counter(landing.verdict for landing in landings if landing.trouble)
    words = {
        Verdict.COVERED: "under a bar",
        Verdict.SHORT: "too low",
        Verdict.UNSEEN: "not on the page",
    }  # what leads nowhere is the business of the jump links
    for verdict, what in words.items():
        if counts[verdict]:
            progress = StageProgress.WRONG if verdict is Verdict.UNSEEN else StageProgress.TODO
            return stage_with("walk", progress, f"{counts[verdict]} {what}", replace(NO_STEP, form="landing-fixes"))
    if any(landing.verdict is Verdict.UNMEASURED for landing in landings):
        return stage_with("walk", StageProgress.OPTIONAL, "not measured yet")
    return stage_with("walk", StageProgress.DONE, "all land well" if landings else "no jumps yet")


def _parts(stretches: Sequence[StretchView], windows: float, part: PartState | None) -> StageView:
    if part is not None:
        if "series-broken" in part.faults:
            return stage_with("parts", StageProgress.WRONG, "a part is missing")
        if part.faults:
            return stage_with("parts", StageProgress.TODO, "parts out of date", part.refreshed)
        return stage_with("parts", StageProgress.DONE, f"part {part.number} of {part.count}")
    beyond = sum(stretch.beyond is not Beyond.NONE for stretch in stretches)
    if beyond:
        return stage_with("parts", StageProgress.OPTIONAL, f"{beyond} beyond limits")
    return stage_with(
        "parts", StageProgress.OPTIONAL, f"{windows:.0f} windows long" if windows > 1 else "one window long"
    )
