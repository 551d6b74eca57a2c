"""What speaks against a thing that was typed, as the question that is asked once."""

from __future__ import annotations

from collections.abc import Sequence

from redline_bore.core.show import Show
from redline_bore.job.gauge.doubtful import DoubtOf, TypedDoubt, doubt_in
from redline_bore.job.kinds.entry import Entry
from redline_bore.job.state.job_state import JobState

_WORDS = {
    DoubtOf.FAR_FROM_OTHERS: "{size[0]} is {away} from the others there: a wrong place, or a wrong zero?",
    DoubtOf.NO_SIZE_HERE: "{size[0]} is no size that this block could be worn to",
    DoubtOf.READ_ALREADY: "cylinder {c} is fully read: another reading {down} at {deg:g}°?",
    DoubtOf.NOT_TOUCHED: "it came out at {size[0]} and was gauged {size[1]}: can the tool have touched it all over?",
    DoubtOf.STROKES_ARE_A_SIZE: "strokes come first: is {strokes:g} not a size?",
    DoubtOf.FIRST_STROKES_LARGE: "strokes come first, and {strokes:g} at the first check are many: is it not a size?",
    DoubtOf.SHRUNK: "it was {size[0]} larger at the last check, and metal does not go back on: is the zero right, the cylinder, the temperature?",
    DoubtOf.HOLE_SHRUNK: "it came from the bar {size[0]} larger before, and metal does not go back on: is it this cylinder, is the zero right?",
    DoubtOf.NOT_AS_BORED: "it came from the bar at {size[0]} and reads {size[1]} now: is it this cylinder, and the right zero?",
    DoubtOf.CUT_SINCE: "cylinder {c} was cut to {size[0]} since it was gauged, and what was worn there is gone; what it measures now is booked at the "
    "bar and the hone. Count this as the worn hole?",
    DoubtOf.NO_PISTON_HERE: "{size[0]} is {away} from nominal, and no piston for this block: is it this job's, and the right unit?",
    DoubtOf.PISTON_WARM: "at {warm} it reads {size[0]}, and is counted as {size[1]}: is the piston itself that warm, all through?",
    DoubtOf.NOT_AS_SET: "the bar was set to {size[0]} and it came out at {size[1]}: is that figure right, and the cylinder?",
    DoubtOf.PLACES_APART: "its places are {size[0]} apart: is one of them mistyped?",
    DoubtOf.LEAPT: "it grew by {size[0]} since the last check: is it this cylinder, and the right zero?",
}


def asked_of(state: JobState, entries: Sequence[Entry], show: Show) -> str:
    """The question before entries that were typed are booked; empty where nothing speaks against them."""
    found = doubt_in(state, entries, show.units)
    return "" if found is None else say_doubt(found, show)


def say_doubt(d: TypedDoubt, show: Show) -> str:
    """A doubt as a question."""
    return _WORDS[d.what].format(
        size=[show.size(v) for v in d.mm], away=show.away(d.mm[-1]) if d.mm else "", down=show.down(d.mm[0]) if d.mm else "",
        c=d.cylinder, deg=d.deg, strokes=d.strokes, warm=show.warm(d.celsius),
    )  # fmt: skip
