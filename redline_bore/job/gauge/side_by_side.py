"""All cylinders side by side: each one's figures on one line, and which one is odd and why."""

from __future__ import annotations

from enum import Enum, auto
from statistics import median
from typing import NamedTuple

from redline_bore.core.frozen import frozen, replace
from redline_bore.core.shape import oval_turn
from redline_bore.job.gauge.analysis import CylinderShape, rules_of, shape_of
from redline_bore.job.gauge.extremes import extremes_of, wear_told
from redline_bore.job.gauge.round import axis_of, is_crooked
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.job_state import JobState

SPREADS = 4.0  # so many times the others' usual distance from their middle, and over the limit, is odd
TURN_DEG = 30.0


class Measure(Enum):
    """What cylinders are held against each other by."""

    WEAR = auto()
    OUT_OF_ROUND = auto()
    TAPER = auto()


class OddBy(Enum):
    """In which way a cylinder is unlike the others."""

    ABOVE = auto()  # measures
    BELOW = auto()  # measures
    CROOKED = auto()
    TWISTED = auto()
    DEFECTS = auto()  # what they are called
    TURNED = auto()  # its long axis


class Oddness(NamedTuple):
    """One way in which a cylinder is unlike the others, with the measures or the defects that say so."""

    by: OddBy
    measures: tuple[Measure, ...] = ()
    defects: tuple[str, ...] = ()


@frozen(often=True)
class Line:
    """One cylinder; None: not known. ``odd`` says in which ways it is unlike the others, empty when it is not."""

    cylinder: int
    shape: CylinderShape
    odd: tuple[Oddness, ...]
    wear_mm: float | None = None  # freed of the gauge's noise, as the card has it; as read where that cannot be
    out_of_round_mm: float | None = None

    @property
    def taper_mm(self) -> float | None:
        return None if self.shape.axial is None else self.shape.axial.taper_mm

    @property
    def long_axis_deg(self) -> float | None:
        worst = self.shape.worst_level
        return None if worst is None else worst.fit.long_axis_deg


@once_a_state
def lines_of(state: JobState, plate_on: bool) -> tuple[Line, ...]:
    """Every cylinder against the middle of the others."""
    plain = [_line(state, c, plate_on) for c in state.cylinders]
    return tuple(replace(line, odd=tuple(_odd(state, line, plain))) for line in plain)


def _line(state: JobState, cylinder: int, plate_on: bool) -> Line:
    shape, ends = shape_of(state, cylinder, plate_on), extremes_of(state, cylinder, plate_on)
    worst, oval = shape.worst_level, ends.oval or ends.two_directions
    round_mm = oval.middle_mm if oval is not None else None if worst is None else worst.fit.out_of_round_raw_mm
    return Line(cylinder, shape, (), wear_told(state, cylinder, plate_on), round_mm)


def _odd(state: JobState, line: Line, all_of: list[Line]) -> list[Oddness]:
    """In which ways a cylinder is unlike the others, by the middle of the others and their usual distance from it."""
    above: list[Measure] = []
    below: list[Measure] = []
    rules = rules_of(state)
    for measure, attribute, limit in (
        (Measure.WEAR, "wear_mm", rules.limits.taper_mm),
        (Measure.OUT_OF_ROUND, "out_of_round_mm", rules.out_of_round_mm),
        (Measure.TAPER, "taper_mm", rules.limits.taper_mm),
    ):
        own = getattr(line, attribute)
        others = [v for o in all_of if o is not line and (v := getattr(o, attribute)) is not None]
        if own is None or len(others) < 2:
            continue
        middle = median(others)
        usual = median(abs(v - middle) for v in others)
        if abs(own - middle) > max(limit, SPREADS * usual):
            (above if own > middle else below).append(measure)
    found = [Oddness(by, tuple(of)) for by, of in ((OddBy.ABOVE, above), (OddBy.BELOW, below)) if of]
    fit, _ = axis_of(state, line.cylinder, line.shape.plate_on)
    if fit is not None and is_crooked(state, fit):
        found.append(Oddness(OddBy.CROOKED))
    if line.shape.twisted:
        found.append(Oddness(OddBy.TWISTED))
    if defects := tuple(sorted({d.what for d in state.gauging.defects_of(line.cylinder)})):
        found.append(Oddness(OddBy.DEFECTS, defects=defects))
    return found + ([Oddness(OddBy.TURNED)] if _turned(line, all_of) else [])


def _turned(line: Line, all_of: list[Line]) -> bool:
    own = line.long_axis_deg
    others = [o.long_axis_deg for o in all_of if o is not line and o.long_axis_deg is not None]
    if own is None or len(others) < 2:
        return False
    away = sorted(oval_turn(own, other) for other in others)
    return away[len(away) // 2] > TURN_DEG
