"""What the holes bored say of the bar, in words."""

from __future__ import annotations

from collections.abc import Sequence

from redline_bore.core.show import Show
from redline_bore.job.bore.tool_lessons import Diagnosis, HoleFault, NextSetting, ProofWant

DIAGNOSES = {
    Diagnosis.WIDE_TOP: "Every hole is wider at the top: the bar cuts taper. Look to its square and its slide",
    Diagnosis.WIDE_BOTTOM: "Every hole is wider at the bottom: the bar cuts taper. Look to its square and its slide",
    Diagnosis.WARMING: "Each hole comes bigger than the one before: the tool is warming. Let it cool, or set it smaller",
    Diagnosis.WRONG_MICROMETER: "Every hole is off by as much: look to the setting micrometer before the bar",
}
HOLE_FAULTS = {
    HoleFault.WIDE_TOP: "it is wider at the top: the bar's taper, no setting takes it out",
    HoleFault.WIDE_BOTTOM: "it is wider at the bottom: the bar's taper, no setting takes it out",
    HoleFault.ANGLES_DIFFER: "its two angles differ: the block is strained by its clamps, or the spindle is loose",
    HoleFault.FAR_OFF: "it is so far off its setting that the micrometer comes first: set it on its standard again",
}
_WANTS = {ProofWant.THREE_PLACES: "top, middle and bottom", ProofWant.SECOND_ANGLE: "at a second angle"}


def wants_words(wants: Sequence[ProofWant]) -> str:
    """What a first hole is to be measured for, as it goes on in a sentence."""
    return " ".join(_WANTS[w] for w in wants)


def say_next(f: NextSetting, show: Show) -> str:
    """The setting of the next hole, and why it is that."""
    why = f"cylinder {f.last.cylinder} came {show.away(f.over_mm)} over, the bar cuts {show.away(f.usual_mm)} over as a rule"
    if f.first:
        why = f"{show.away(f.over_mm)} of cylinder {f.last.cylinder} was a cold tool's; only first holes count it"
    held = f" But {HOLE_FAULTS[f.faults[0]]}." if f.faults else ""
    return f"Next, cylinder {f.cylinder}: set {show.size(f.setting_mm)}; {why}.{held}"
