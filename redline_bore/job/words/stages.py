"""Whether each step of a honing practice does what it is for, in words."""

from __future__ import annotations

from redline_bore.core.show import Show
from redline_bore.job.card import Mark
from redline_bore.job.hone.steps import StageCall, StageStands, StageWhy

STAGE_MARKS = {StageStands.SOUND: Mark.SOUND, StageStands.LOOK: Mark.LOOK, StageStands.STOP: Mark.STOP}
_WORDS = {
    StageWhy.START_UNKNOWN: "where it starts from is not known",
    StageWhy.PAST_ITS_END: "it would start past its own end",
    StageWhy.BARS_MARKS: "takes out the bar's marks, and trues the hole",
    StageWhy.ERASES: "{side} a side erases valleys of {last}: they would hold no oil",
    StageWhy.LEAVES_LITTLE: "{side} a side leaves little of valleys of {last}",
    StageWhy.CUTS_PEAKS: "cuts peaks, leaves the valleys of {both}",
    StageWhy.TOO_SHORT: "{side} a side is too short to take out marks of up to {last}",
    StageWhy.TAKES_OUT: "takes out the marks of {both} before it",
}


def say_stage(call: StageCall, show: Show) -> str:
    """Why a step stands as it does, as part of a sentence.

    >>> from redline_bore.core.lengths import Units
    >>> say_stage(StageCall(StageStands.SOUND, StageWhy.CUTS_PEAKS, (6.0, 9.0)), Show(Units.METRIC))
    'cuts peaks, leaves the valleys of 6–9 µm'
    """
    um = call.um
    side, last, both = (
        (show.height(um[0]), show.height(um[-1], digits=0), show.height(*um, digits=0)) if um else ("",) * 3
    )
    few = "; stepping down keeps few" if call.keeps_few else ""
    return f"{_WORDS[call.why].format(side=side, last=last, both=both)}{few}"
