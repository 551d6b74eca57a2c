"""The entries of the finish: traces, windows, crosshatch seen. Texture in um, angles in degrees."""

from __future__ import annotations

import re
from typing import Literal

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import changed, frozen
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.core.told import Unit, told
from redline_bore.job.kinds.entry import Entry, Record
from redline_bore.job.kinds.folding import Folding
from redline_bore.job.kinds.kind import Into, Wrong, declare
from redline_bore.job.kinds.measures import number
from redline_bore.job.kinds.phrase import At, Phrase
from redline_bore.job.kinds.topics import Topic
from redline_bore.job.state import fields
from redline_bore.job.state.finishing import Finishing, FinishWindow, HatchRead, WallTrace

FINISH, TRACE, HATCH = ("finish",), "finish/trace", "finish/hatch"
PARAMETERS = ("Ra", "Rz", "Rpk", "Rk", "Rvk")
_WINDOW = r"window\s+(?P<name>\w+)\s+(?P<low>[\d.,]+)\s+(?:to\s+)?(?P<high>[\d.,]+)\s*(?P<unit>[µμu](?:m|in))?(?:\s+by\s+(?P<by>.+))?"
FAMILY_WHY = "no angle of a family of scratches; from 0 to 90 degrees can be"


@frozen(kw_only=True)
class TraceBooked(Entry):
    """A trace of a wall. ``heights``: packed (core.texture.packed). plateau_strokes: double strokes of the plateau that the
    wall had had by then, nought before it; None: not known. depth_mm: where its middle lay, None: not said.
    """

    cylinder: int = fields.cylinder(TRACE)
    step_um: float = told("spacing", Unit.TEXTURE, above=0.0, most=1000.0, why="no spacing of a trace", shown=TRACE)
    heights: str = told("heights", Unit.PACKED)
    depth_mm: float | None = fields.depth(shown=TRACE, default=None)
    plateau_strokes: float | None = told(
        "plateau strokes by then",
        Unit.STROKES,
        least=0.0,
        most=100000.0,
        why="less than none",
        shown=TRACE,
        default=None,
    )
    source: str = fields.words("from", TRACE, default="profilometer")
    kind: Literal["trace_booked"] = "trace_booked"


@frozen(kw_only=True)
class FinishWindowStated(FinishWindow, Entry):
    """A window for a figure of the finish, and whose it is; it goes before the one by duty."""

    kind: Literal["finish_window_stated"] = "finish_window_stated"


@frozen(kw_only=True)
class HatchSeen(Entry):
    """The crosshatch read from a picture: both families from the horizontal, k = 2 of the included angle, confidence."""

    cylinder: int = fields.cylinder(HATCH)
    up_deg: float = told("rising family", Unit.ANGLE, least=0.0, most=90.0, why=FAMILY_WHY, shown=HATCH)
    down_deg: float = told("falling family", Unit.ANGLE, least=0.0, most=90.0, why=FAMILY_WHY, shown=HATCH)
    u_deg: float = told("sure to ±", Unit.ANGLE, shown=HATCH)
    confidence: float = told(
        "confidence", Unit.SHARE, least=0.0, most=1.0, why="no confidence; it is from 0 to 1", shown=HATCH
    )
    kind: Literal["hatch_seen"] = "hatch_seen"


def wall_of_record(r: Record) -> WallTrace:
    """The trace that a record holds. Raises InputError where it holds none."""
    x = r.entry
    if not isinstance(x, TraceBooked):
        raise InputError(f"Entry {r.seq} is no trace")
    return WallTrace(r.seq, x.cylinder, x.step_um, x.heights, x.depth_mm, x.plateau_strokes, x.source, r.person, r.at)


def _traced(s: Finishing, _x: TraceBooked, on: Folding) -> Finishing:
    return changed(s, traces=s.traces.plus(wall_of_record(on.record)))


def _window_folded(s: Finishing, x: FinishWindowStated, on: Folding) -> Finishing:
    return changed(s, windows=(*(w for w in s.windows if w.parameter != x.parameter), x))


def _seen(s: Finishing, x: HatchSeen, on: Folding) -> Finishing:
    seen = HatchRead(on.record.seq, x.cylinder, x.up_deg, x.down_deg, x.u_deg, x.confidence)
    return changed(s, hatches=(*s.hatches, seen))


def _window(text: str, at: At) -> tuple[Entry, ...]:
    found = re.fullmatch(_WINDOW, text, re.IGNORECASE)
    if found is None:
        raise InputError(
            "A window is typed as: window Rvk 1.2 2.0 (the ring maker's, in um, in an inch job in uin; or say which: um, uin), or window Rvk 1.2 2.0 by moly ring"
        )
    name = next((p for p in PARAMETERS if p.lower() == found["name"].lower()), None)
    if name is None:
        raise InputError(f"“{found['name']}” has no window; {', '.join(PARAMETERS)} have")
    unit = (
        found["unit"] or ("uin" if at.where.units is Units.INCH else "um")
    ).lower()  # bare, it is in the units of the job
    scale = 0.0254 if unit.endswith("in") else 1.0
    low, high = (scale * number(found[end], "figure of a finish") for end in ("low", "high"))
    if not 0.0 <= low < high <= 50.0:
        raise InputError(f"A window from {found['low']} to {found['high']} {unit} does not make sense: low end first")
    source = (found["by"] or "ring maker's sheet").strip()
    return (FinishWindowStated(parameter=name, low_um=low, high_um=high, source=source),)  # type: ignore[arg-type]  # one of PARAMETERS


def _trace_faults(x: TraceBooked) -> list[Wrong]:
    from redline_bore.core.texture.packed import unpacked  # a trace is heavy: only where one is checked
    from redline_bore.core.texture.profile import even_trace

    try:
        even_trace(x.step_um, unpacked(x.heights))
    except InputError as error:
        return [Wrong("heights", str(error))]
    return []


def _low_first(x: FinishWindow) -> list[Wrong]:
    return [] if x.low_um < x.high_um else [Wrong("high_um", f"a window from {x.low_um:g} to {x.high_um:g} is none")]


def _trace_words(x: TraceBooked, s: Show) -> str:
    where = "" if x.depth_mm is None else f", {s.down(x.depth_mm)}"
    after = "" if x.plateau_strokes is None else f", {x.plateau_strokes:g} plateau strokes"
    return f"{x.cylinder}: trace{where}{after}, from {x.source}"


def _window_example(at: At) -> str:
    return "window Rvk 1.2 2.0 by moly ring" if at.where.units is Units.METRIC else "window Rvk 47 79 uin by moly ring"


declare(
    TraceBooked, Topic.FINISH, "finish", _trace_words, into=(Into("finishing", _traced),), wrong=_trace_faults,
    not_typed="a profilometer sends it, or a file named behind the word trace", by_file=("trace",),
)  # fmt: skip
declare(
    FinishWindowStated, Topic.FINISH, "finish", lambda x, s: f"{x.parameter} {s.height(x.low_um, x.high_um, digits=2)} by {x.source}",
    into=(Into("finishing", _window_folded),), wrong=_low_first,
    phrases=(
        Phrase(FINISH, ("window",), "window FIGURE LEAST MOST [uin] [by WHOM]", "a finish window of the ring maker's, which goes before the one by duty", _window_example, _window,
               lambda at: {"FIGURE": PARAMETERS}),
    ),
)  # fmt: skip
declare(
    HatchSeen, Topic.FINISH, "finish", lambda x, s: f"{x.cylinder}: crosshatch {x.up_deg + x.down_deg:.1f}° ± {x.u_deg:.1f}° from a picture",
    into=(Into("finishing", _seen),), not_typed="read from a picture file, named behind the word picture", by_file=("picture",),
)  # fmt: skip
