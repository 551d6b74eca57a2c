"""Ways with a sleeve in words: what each is called, why it stands as it does, what would tell more."""

from __future__ import annotations

from redline_bore.core.show import Show
from redline_bore.job.sleeve.fit import Holder
from redline_bore.job.sleeve.ways import SleeveDoing, SleeveWay
from redline_bore.job.sleeve.why import SleeveMeasure, SleeveNeed, SleeveReason, SleeveWhy
from redline_bore.job.words.missing import say_missing

HOLDERS = {
    Holder.FLANGE: "its flange",
    Holder.STEP: "the step at the bottom",
    Holder.BLIND_BOTTOM: "the blind bottom",
}
TITLES = {
    SleeveDoing.TOUCH_UP: "Go on, true it up in the hone",
    SleeveDoing.BORE_TO_IT: "Bore the parent to the sleeve in hand",
    SleeveDoing.OVERSIZE: "Bore the parent, oversize sleeve",
    SleeveDoing.REPAIR: "Repair sleeve under the sleeve",
}
_WORDS = {
    SleeveWhy.GOES: "it grips all round, the parent is under its limit, the finish takes the oval out",
    SleeveWhy.HERE: "the sleeve is here, measured",
    SleeveWhy.TO_BE_HAD: "parent round again; the sleeve has to be had",
    SleeveWhy.TWO_SEATS: "keeps the sleeve at hand; two seats to cut",
    SleeveWhy.PARENT_SMALL: "the parent is {size[0]} too small for this sleeve",
    SleeveWhy.NOT_SEATED: "where the parent is widest nothing presses the sleeve, even bent after it",
    SleeveWhy.GRIPS_IN_PART: "by figures {share:.0%} of the wall does not grip; a thin sleeve bends after it",
    SleeveWhy.OVAL_HIDDEN: "too few angles were read to see an oval",
    SleeveWhy.OVAL_UNKNOWN: "the parent's oval is not known",
    SleeveWhy.HOOP_OVER: "the pull round the parent, {pull}, is over its {limit}",
    SleeveWhy.HOOP_CLOSE: "the pull round the parent, {pull}, may pass its {limit}",
    SleeveWhy.NO_REDLINE: "the redline is not known: {missing}",
    SleeveWhy.OVAL_OVER_FINISH: "its bore goes oval by {size[0]} and only {size[1]} is left to finish",
    SleeveWhy.OVAL_NEAR_FINISH: "its bore goes oval by {size[0]}; {size[1]} to finish is little for it",
    SleeveWhy.WALL_UNREAD: "the wall behind the parent was not read",
    SleeveWhy.WALL_THIN: "only {rough[0]} of parent would stand, {rough[1]} is the least",
    SleeveWhy.WALL_GONE: "nothing of the parent would stand, {rough[1]} is the least",
    SleeveWhy.GRIPS_LITTLE: "it grips by {away}, {size[1]} too little",
    SleeveWhy.GRIPS_MUCH: "it grips by {size[0]}, {size[1]} more than usual",
    SleeveWhy.NO_WALL_BEHIND: "the parent's outside leaves no wall behind so large a bore",
    SleeveWhy.SLEEVE_THIN: "its sleeve would be {rough[0]} thick; {rough[1]} is the least that is pressed in",
    SleeveWhy.NOT_ROUND: "a parent of {size[0]} would not be round: it cleans up at {size[1]}",
}
_NEEDS = {
    SleeveMeasure.FOUR_ANGLES: "read the parent at four angles or more",
    SleeveMeasure.OUTSIDE: "find the parent's outside, its least and its most",
    SleeveMeasure.PARENT_WALL: "read the parent's wall from inside it, in the gauge step",
    SleeveMeasure.REDLINE: "{missing}",
}


def say_why(reason: SleeveReason, show: Show) -> str:
    """A reason as part of a sentence.

    >>> from redline_bore.core.lengths import Units
    >>> say_why(SleeveReason(SleeveWhy.GRIPS_MUCH, (0.12, 0.02)), Show(Units.METRIC))
    'it grips by 0.120, 0.020 more than usual'
    """
    mm, mpa = reason.mm, reason.mpa
    return _WORDS[reason.why].format(
        size=[show.size(v) for v in mm], rough=[show.rough(v) for v in mm], away=show.away(mm[0]) if mm else "",
        pull=show.stress(*mpa[:2]) if mpa else "", limit=show.stress(mpa[2]) if mpa else "", share=reason.share,
        missing=say_missing(reason.missing),
    )  # fmt: skip


def whys_of(way: SleeveWay, show: Show) -> tuple[str, ...]:
    """All that speaks for and against a way; what rules it out first."""
    return tuple(say_why(r, show) for r in way.reasons)


def say_need(need: SleeveNeed) -> str:
    """What to measure, as an order that goes on in a sentence."""
    return _NEEDS[need.what].format(missing=say_missing(need.missing))
