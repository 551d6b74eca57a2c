"""What may be typed at the bench, turned into entries. Words and figures in the order they are said.

Everywhere: ``22.9 C`` or ``73 F`` (block temperature).
Gauge: ``105.214``, ``+0.214`` (from the gauge's zero), ``+21`` (oversize), ``gap 0.56 at 14``,
``wall 4.6 at 60 clock 90``, ``rust 0.18 at 60 to 75 clock 250 wide 60``, ``score catches at 30 to 90 clock 90``.
Call: in ``typed_call``. Bore: in ``typed_bore``. Sleeve: in ``typed_sleeve``.
Hone: ``42 106.012`` (double strokes, then sizes from the top down), and words in ``typed_hone``.
"""

from __future__ import annotations

import re

from redline_bore.core.errors import InputError
from redline_bore.core.lengths import parse_length, with_unit
from redline_bore.core.thermal import GaugeSetting, gauge_size_at_part
from redline_bore.job.ledger import entries as e
from redline_bore.job.ledger.state import JobState
from redline_bore.job.typed.bore import entry_at_bar
from redline_bore.job.typed.call import entry_at_call
from redline_bore.job.typed.gauge import words_at_gauge
from redline_bore.job.typed.hone import words_at_hone
from redline_bore.job.typed.measures import clock, depth, plain, temperature
from redline_bore.job.typed.sleeve import entry_at_sleeve
from redline_bore.job.typed.where import Where

_DEFECT = re.compile(
    r"(?P<what>score|pit|rust|crack|heat mark|smear|groove)\s+(?P<deep>.+?)\s+at\s+(?P<top>.+?)\s+to\s+(?P<bottom>.+?)"
    r"\s+clock\s+(?P<clock>[\d.]+)(?:\s+wide\s+(?P<wide>[\d.]+))?",
    re.IGNORECASE,
)
_GAP = re.compile(r"gap\s+(?P<gap>.+?)\s+at\s+(?P<depth>.+)", re.IGNORECASE)
_WALL = re.compile(r"wall\s+(?P<wall>.+?)\s+at\s+(?P<depth>.+?)\s+clock\s+(?P<clock>[\d.]+)", re.IGNORECASE)
_CLASSES = {
    "can't feel": "cant_feel",
    "cant feel": "cant_feel",
    "can feel": "can_feel",
    "catches": "catches",
    "catches hard": "catches_hard",
}
DEFECT_WIDE_DEG = 20.0


def entry_from_typed(step: str, text: str, state: JobState, where: Where) -> e.Entry:
    """The entry that ``text`` means in ``step``. Raises InputError with the reason and what was meant."""
    if (warm := temperature(text)) is not None:
        return e.BlockTemperature(block_c=round(warm, 2))
    if step == "gauge":
        return _at_gauge(text, state, where)
    if step == "call":
        return entry_at_call(text, state, where)
    if step == "bore":
        return entry_at_bar(text, state, where)
    if step == "sleeve":
        return entry_at_sleeve(text, state, where)
    if step == "hone":
        return _at_hone(text, state, where)
    if step == "finish":
        from redline_bore.job.typed.finish import entry_at_finish  # not for the first picture

        return entry_at_finish(text, state, where)
    raise InputError("Only a block temperature is typed here, like 22.9 C")


def _at_gauge(text: str, state: JobState, where: Where) -> e.Entry:
    if (worded := words_at_gauge(text, state, where)) is not None:
        return worded
    if found := _GAP.fullmatch(text.strip()):
        deep = depth(found["depth"], state, where)
        return e.RingGapRead(cylinder=where.cylinder, depth_mm=deep, gap_mm=plain(found["gap"], where))
    if found := _WALL.fullmatch(text.strip()):
        angle = clock(found["clock"])
        across = min(abs(angle - 90.0), abs(angle - 270.0)) <= 45.0
        return e.WallRead(
            cylinder=where.cylinder, clock_deg=angle, depth_mm=depth(found["depth"], state, where),
            wall_mm=plain(found["wall"], where), zone="thrust" if across else "elsewhere",
        )  # fmt: skip
    if found := _DEFECT.fullmatch(text.strip()):
        return _defect(found, state, where)
    size = size_from_typed(text, state, where)
    plan = state.plan
    return e.ReadingBooked(
        cylinder=where.cylinder, depth_mm=plan.depths_mm[where.place.level], clock_deg=plan.clocks_deg[where.place.clock],
        diameter_mm=size, plate_on=state.plate_on, gauge=state.gauge_kind, gauge_c=where.body_c,
    )  # fmt: skip


def size_from_typed(text: str, state: JobState, where: Where) -> float:
    """A diameter in mm at the part's temperature: a size, an oversize (+21), or a distance from the gauge's zero.

    ``where.from_zero``: the figure came off a gauge, so a sign always means from its zero.
    """
    nominal = state.block.bore_mm
    length = parse_length(text, where.units, None if where.from_zero else nominal)
    if length.signed and abs(length.mm) < 0.25 * nominal:
        zero = state.gauge or GaugeSetting(nominal, 11.5, 20.0)
        size = gauge_size_at_part(zero, length.mm, where.body_c)
        if not 0.8 * nominal <= size <= 1.25 * nominal:
            raise InputError(
                f"{text.strip()} from the gauge's zero gives {with_unit(size, where.units)}: check the zero"
            )
        return size
    return parse_length(text, where.units, nominal, "reading").mm


def _defect(found: re.Match[str], state: JobState, where: Where) -> e.DefectMarked:
    top, bottom = sorted(depth(found[end], state, where) for end in ("top", "bottom"))
    feel = _CLASSES.get(found["deep"].strip().lower())
    if feel is not None:
        low, high = state.figures.row(f"cleanup.{feel}")
    else:
        low = high = plain(found["deep"], where)
    if high > 0.25 * state.block.bore_mm:
        raise InputError(f"A {found['what']} of {found['deep'].strip()} deep is more than a wall; check the unit")
    return e.DefectMarked(
        cylinder=where.cylinder, what=found["what"].lower(), top_mm=top, bottom_mm=bottom, clock_deg=clock(found["clock"]),
        width_deg=clock(found["wide"]) if found["wide"] else DEFECT_WIDE_DEG, deep_low_mm=low, deep_high_mm=high, feel=feel or "",
    )  # fmt: skip


def _at_hone(text: str, state: JobState, where: Where) -> e.Entry:
    if (worded := words_at_hone(text, state, where)) is not None:
        return worded
    words = text.split()
    if len(words) < 2:
        raise InputError("A check is double strokes, then sizes from the top down: 42 106.012 106.010")
    try:
        strokes = float(words[0].replace(",", "."))
    except ValueError:
        raise InputError(f"“{words[0]}” is no count of strokes; strokes come first: 42 106.012") from None
    if (
        not 0.0 <= strokes <= 100000.0
        or strokes > 0.8 * state.block.bore_mm
        and "." in words[0]
        and len(words) == 2
        and _count_like(words[1])
    ):
        raise InputError(f"{words[0]} double strokes? Strokes come first, then the size: 42 106.012")
    earlier = state.checks_of(where.cylinder, state.hone_step(where.cylinder))
    if earlier and strokes < earlier[-1].strokes:
        raise InputError(
            f"{words[0]} double strokes is less than the {earlier[-1].strokes:g} booked before; strokes count from the start of the step"
        )
    return e.CheckLogged(
        cylinder=where.cylinder, strokes=strokes, sizes_mm=tuple(size_from_typed(w, state, where) for w in words[1:])
    )


def _count_like(word: str) -> bool:
    return word.isdigit()
