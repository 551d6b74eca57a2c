"""The shadow that a size leaves, in words."""

from __future__ import annotations

from redline_bore.core.late import np
from redline_bore.core.show import Show
from redline_bore.job.call.finish_sizes import finish_size_at
from redline_bore.job.call.need import need_of
from redline_bore.job.call.shadow import Shadow, shadow_of
from redline_bore.job.call.sweeps import sweeps_missing
from redline_bore.job.card import Advice, FigureLine, Mark, Note, Said, WorkLine
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words.shared_figures import SIZE_IN_NAME, cleanup_line

CARE = "A shadow at the ring's turn-around leaks and smokes; one low down may never be noticed. Say so to the owner."


def advise(state: JobState, cylinder: int, size_mm: float, show: Show) -> Advice:
    """What the cut leaves, and what would tell more."""
    found, need = shadow_of(state, cylinder, size_mm), need_of(state, cylinder)
    end = finish_size_at(state, cylinder, round(size_mm - state.block.bore_mm, 6))
    sure = need.cleanup is not None and need.cleanup.is_bound
    sentence, mark = _sentence(cylinder, size_mm, found, sure, show)
    ends = show.size(end.least_mm) if end.measured else f"{show.size(end.least_mm)}–{show.size(end.most_mm)}"
    lines = [
        FigureLine(SIZE_IN_NAME, show.unit(show.size(size_mm))),
        FigureLine("ends at", ends),
    ]
    notes = list[str]()
    if found is not None:
        lines.append(FigureLine("shadow for sure", _of_wall(found.sure_share)))
        if not found.swept:
            lines.append(FigureLine("shadow, if one-sided", _of_wall(found.may_share)))
            notes.append(
                Note(
                    "Close hatching: shadow there or straight across, whatever side wore. Open: if the wear lies all on that side."
                )
            )
        deepest = float(np.nanmax(found.may_mm))
        if deepest > 0.0:
            lines.append(FigureLine("deepest shadow", show.unit(show.size(deepest))))
    if need.why_two_point:
        missing = sweeps_missing(state, cylinder)
        notes.append(f"{need.why_two_point}{' ' if missing else ''}{show.downs(missing)}.")
    if need.cleanup is not None:
        lines.append(cleanup_line(cylinder, need.cleanup, show))
    working = (
        WorkLine(
            f"shadow where the wall's distance from the axis, a flaw's depth and what the clean-up allows for is more than "
            f"half of {ends}; a cut of x on diameter is x/2 a side",
            f"as the ladder counts it; bored about {need.axis_title}",
        ),
    )
    return Advice(f"Call · cylinder {cylinder}", sentence, tuple(lines), tuple(notes), working, "", CARE, mark)


def _of_wall(share: float) -> str:
    if share <= 0.0:
        return "none"
    return "under 1% of the wall" if share < 0.01 else f"{share:.0%} of the wall"


def _sentence(cylinder: int, size_mm: float, found: Shadow | None, bound: bool, show: Show) -> Said:
    size = show.size(size_mm)
    if found is None:
        return Said(f"Cylinder {cylinder} is not known well enough to say where a shadow stays.", Mark.LOOK)
    if found.sure_share > 0.0:
        return Said(f"At {size} a shadow stays in cylinder {cylinder}.", Mark.STOP)
    if found.may_share > 0.0:
        return Said(f"At {size} a shadow may stay in cylinder {cylinder}, if it wore on one side.", Mark.LOOK)
    if not bound:
        return Said(
            f"At {size} none is seen in cylinder {cylinder}, and more is to be read before that is sure.", Mark.LOOK
        )
    return Said(f"At {size} no shadow stays in cylinder {cylinder}.", Mark.SOUND)
