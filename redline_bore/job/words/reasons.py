"""Why a way with the block stands as it does and what would tell more, in words that go on in a sentence."""

from __future__ import annotations

import math

from redline_bore.core.show import Show, cylinders, listed
from redline_bore.job.call.ladder import OutOfLimits
from redline_bore.job.call.reason import Measure, Reason, ToMeasure, Why
from redline_bore.job.words.asks import ask_words

_LIMITS = {
    OutOfLimits.MARKED: "cylinder {c} is marked with a defect",
    OutOfLimits.OUT_OF_ROUND: "cylinder {c} is too far out of round for it",
    OutOfLimits.WORN: "cylinder {c} is worn past the limit for it",
    OutOfLimits.NOT_STRAIGHT: "cylinder {c} is not straight enough for it",
    OutOfLimits.NOT_GAUGED: "cylinder {c} is not gauged fully",
    OutOfLimits.MAY_HIDE_OVAL: "two axes can hide an oval in cylinder {c}: read it at four angles",
    OutOfLimits.TOO_FEW_DEPTHS: "cylinder {c} is read at too few depths to show a bulge",
}
_GAPS = "taper by ring gaps {size[0]} ± {size[1]}, limit {size[2]}"
_WORDS = {  # c: the cylinder, many: "cylinders 1 and 2", listed: "1 and 2"; size: to the gauge's digits, rough: with its unit
    Why.LEAST_SIZE: "the least size that cleans all up; the pistons have to be made, and waited for",
    Why.MUCH_FOR_A_HONE: "up to {size[0]} to take is more than a hone alone should",
    Why.MUCH_FOR_HONES: "up to {size[0]} to take: more than a hone alone usually should, and it leads nothing straight",
    Why.NO_PISTON_YET: "no piston of that size is measured: honed to the least one allows, the rest once they are here",
    Why.CRACKED: "{many} cracked: pressure-test before anything else",
    Why.NOTHING_ELSE: "nothing else is left that is known to work",
    Why.ANOTHER_WAY: "there is another way",
    Why.TOO_THIN: "{many} would be too thin",
    Why.WILL_NOT: "{many} will not clean up",
    Why.CUT_LARGER: "{many} cut larger than that already",
    Why.ALL_SURE: "every cylinder surely cleans up, and every wall keeps its limit",
    Why.MAY_SHADOW: "{listed} may keep a shadow",
    Why.WALL_UNKNOWN: "the wall left in {listed} is unknown",
    Why.WALL_CLOSE: "the wall left in {listed} is too close to its limit",
    Why.NOT_KNOWN: "{many} not known",
    Why.PARENT_UNKNOWN: "the parent wall of {c} is unknown",
    Why.PARENT_TOO_THIN: "behind a sleeve in {c} only {rough[0]} of parent would stand",
    Why.PARENT_IN_PART: "the parent wall of {c} is not read all round",
    Why.PARENT_CLOSE: "{rough[0]} of parent behind the sleeve in {c} is too close to its limit",
    Why.PARENT_STANDS: "{rough[0]} of parent stand behind the sleeve in {c}",
    Why.FLAW_FELT: "the {named[0]} in {c} can be felt: so many strokes and a look say whether it goes",
    Why.FLAW_STAYS: "the {named[0]} in {c} stays: {named[1]}",
    Why.INSIDE_LIMITS: "every cylinder is inside the limits for {way}",
    Why.OUT_OF_LIMITS: "{limit}",
    Why.GAP_TAPER: _GAPS,
    Why.GAP_TAPER_CLOSE: f"{_GAPS}: too close to call with a ring and a feeler",
    Why.STOP_RULE: "by drill hone {strokes[0]} to {strokes[1]} strokes, even in and out, then stop and look; stop for good when a "
    "ring's gap has grown by {gap}, which is {size[0]} of size",
    Why.CLEARANCE_UNDER: "the clearance of {many} is under {named[0]}: a piston would seize",
    Why.CLEARANCE_OVER: "the clearance of {many} would be over {named[0]}",
    Why.PISTONS_UNMEASURED: "the pistons there are have not all been measured",
    Why.CLEARANCE_CLOSE: "the clearance of {many} is too close to call by {named[0]}",
    Why.CLEARANCE_IN: "the pistons there are stand inside {named[0]}",
}
_WAYS = {"leave": "leave", "deglaze": "deglaze", "rering": "re-ringing"}


def say_reason(reason: Reason, show: Show) -> str:
    """A reason as part of a sentence.

    >>> from redline_bore.core.lengths import Units
    >>> say_reason(Reason(Why.MAY_SHADOW, (1, 4)), Show(Units.METRIC))
    '1 and 4 may keep a shadow'
    """
    of, named = list(reason.cylinders), reason.named
    first = of[0] if of else 0
    return _WORDS[reason.why].format(
        c=first, many=cylinders(of), listed=listed(of), named=named,
        size=[show.size(v) for v in reason.mm], rough=[show.unit(show.rough(v)) for v in reason.mm],
        strokes=[f"{v:.0f}" for v in reason.strokes],
        way=_WAYS.get(named[0], named[0]) if named else "",
        limit="" if reason.limit is None else _LIMITS[reason.limit].format(c=first),
        gap=show.unit(show.size(math.pi * reason.mm[0])) if reason.mm else "",
    )  # fmt: skip


def say_need(need: ToMeasure, show: Show) -> str:
    """What to measure, as an order that goes on in a sentence."""
    if need.ask is not None:
        return ask_words(need.ask, show)
    m, c, named = Measure, need.cylinder, need.named
    return {
        m.GAUGE: f"gauge cylinder {c}", m.GAUGE_BECAUSE: f"gauge cylinder {c}: {named[:1].lower()}{named[1:]}",
        m.GAUGE_FULLY: "gauge it fully", m.FOUR_ANGLES: "read every level at four angles or more",
        m.MIDDLE_TOO: "read it in the middle of ring travel too",
        m.PRESSURE_TEST: f"pressure-test {need.cylinder} before any metal is taken: tested tight, or leaks, and how",
        m.BORE_GAUGE: "borrow a bore gauge and read it: ring gaps show neither size nor out of round",
        m.OWNER_ACCEPTS: f"ask the owner: accept {named} WHY, in {c}, lets it stay",
        m.MEASURE_PISTONS: "measure every piston at its gauge point", m.READ_WALL: f"read the wall of cylinder {c}",
    }[need.what]  # fmt: skip
