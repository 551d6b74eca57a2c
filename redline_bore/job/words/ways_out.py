"""Ways out of a hole that is past its redline, in words."""

from __future__ import annotations

from redline_bore.core.show import Show
from redline_bore.job.hone.ways_out import Out, WayOut

TITLES = {
    Out.LEAVE: "Leave it", Out.READ_ENDS_FIRST: "Ask", Out.TOO_CLOSE: "Ask", Out.MATCHED_PISTON: "A matched piston",
    Out.COATED_PISTON: "A coated piston", Out.NEXT_SIZE: "The next size", Out.SLEEVE: "A sleeve",
}  # fmt: skip
_CLEARANCE = "clearance {size[0]} to {size[1]} ± {size[2]} in {size[3]}–{size[4]}"
_WORDS = {
    Out.LEAVE: f"{_CLEARANCE}: still inside the window",
    Out.READ_ENDS_FIRST: f"{_CLEARANCE}: gauge it at three depths and two angles before it is left",
    Out.TOO_CLOSE: f"{_CLEARANCE}: too close to call with this gauge",
    Out.MATCHED_PISTON: "one that measures {size[0]} to {size[1]}{own}",
    Out.COATED_PISTON: "{size[0]} of coating on diameter, {size[1]}–{size[2]} is usual",
    Out.NEXT_SIZE: "{step}, about {size[1]} more from this cylinder, and the others follow or stay apart{thin}",
    Out.SLEEVE: "parent about {rough[0]}, {behind}",
}


def say_out(way: WayOut, show: Show) -> str:
    """The figures that a way out turns on."""
    mm = way.mm
    rough = [show.rough(v) for v in mm]
    return _WORDS[way.out].format(
        size=[show.size(v) for v in mm], rough=rough, step=show.step(mm[0]),
        own=f"; the piston of {way.cylinder} is one" if way.cylinder else "",
        thin=f"; too thin there: {', '.join(map(str, way.thin))}" if way.thin else "",
        behind=f"{rough[1]} of wall behind at least" if len(mm) > 1 else "the wall behind was not read",
    )  # fmt: skip
