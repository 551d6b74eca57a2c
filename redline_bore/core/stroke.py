"""Stroke and crosshatch: how far the pack travels, at which angle it scratches, what a hand can hold (methods 10).

Lengths in mm, angles in degrees and included (flat is small), speeds in mm/s unless named m/min, F in double strokes a
minute.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import frozen
from redline_bore.core.late import np

if TYPE_CHECKING:
    from numpy.typing import ArrayLike, NDArray

    Array = NDArray[np.float64]

RAMP_STEPS = 400
SHARP_S = 1e-6  # a turn-round quicker than this is none


@frozen(often=True)
class Crosshatch:
    """Turns, double strokes and the angle they give. axial and rotary in m/min, means over the stroke."""

    rpm: float
    double_strokes_per_min: float
    included_deg: float
    axial_m_per_min: float
    rotary_m_per_min: float

    @property
    def from_horizontal_deg(self) -> float:
        """The other way of quoting it: half of the included angle."""
        return self.included_deg / 2.0


def crosshatch(
    bore_mm: float, stroke_mm: float, rpm: float | None = None, double_strokes_per_min: float | None = None,
    included_deg: float | None = None,
) -> Crosshatch:  # fmt: skip
    """The one of turns, strokes and angle that is not given, from the other two.

    Raises InputError when two are not given, or cannot be. Source: methods 10, A = 2 atan(2 S F / (pi D n)).

    >>> round(crosshatch(92.0, 110.0, rpm=200.0, double_strokes_per_min=60.0).included_deg, 1)
    25.7
    """
    _positive(bore=bore_mm, stroke=stroke_mm)
    given = [v for v in (rpm, double_strokes_per_min, included_deg) if v is not None]
    if len(given) != 2:
        raise InputError("Two of turns, strokes and angle are wanted to find the third")
    _positive(**{f"figure {i + 1}": v for i, v in enumerate(given)})
    if included_deg is not None and not included_deg < 180.0:
        raise InputError("A crosshatch lies under 180 degrees")
    n, strokes = rpm, double_strokes_per_min
    if included_deg is not None:
        # Unrolled, a scratch rises by the axial way while it runs the way round; up and down strokes cross at twice that angle, hence the half.
        slope = math.tan(math.radians(included_deg) / 2.0)
        if n is None:
            assert strokes is not None
            n = 2.0 * stroke_mm * strokes / (math.pi * bore_mm * slope)
        else:
            strokes = slope * math.pi * bore_mm * n / (2.0 * stroke_mm)
    assert n is not None and strokes is not None
    # A double stroke is two strokes; both are means over the stroke, in mm a minute.
    axial, rotary = 2.0 * stroke_mm * strokes, math.pi * bore_mm * n
    return Crosshatch(n, strokes, 2.0 * math.degrees(math.atan2(axial, rotary)), axial / 1000.0, rotary / 1000.0)


def snapped_turns(
    bore_mm: float, stroke_mm: float, strokes: float, included_deg: float, steps: Sequence[float]
) -> float:
    """The machine's step whose angle comes nearest. Raises InputError without steps."""
    if not steps:
        raise InputError("The machine has no steps to choose from")
    return min(steps, key=lambda n: abs(crosshatch(bore_mm, stroke_mm, n, strokes).included_deg - included_deg))


def snapped_strokes(bore_mm: float, stroke_mm: float, rpm: float, included_deg: float, steps: Sequence[float]) -> float:
    """The machine's step of double strokes whose angle comes nearest. Raises InputError without steps."""
    if not steps:
        raise InputError("The machine has no steps to choose from")
    return min(steps, key=lambda f: abs(crosshatch(bore_mm, stroke_mm, rpm, f).included_deg - included_deg))


@frozen(often=True)
class StrokeLength:
    """The stroke and what it leaves over each end. ``bottom_limited``: less than wanted, for the room below is less."""

    stroke_mm: float
    over_top_mm: float
    over_bottom_mm: float
    bottom_share_of_stone: float
    bottom_limited: bool


def stroke_length(
    length_mm: float, stone_mm: float, over_top_mm: float, over_bottom_mm: float, room_below_mm: float | None = None
) -> StrokeLength:
    """S = H + over top + over bottom - stone, the bottom never over the room below (None.

    It is not known and not limited). Raises InputError when the stone does not travel. Source: methods 10.

    >>> stroke_length(150.0, 70.0, 20.0, 20.0).stroke_mm
    120.0
    """
    _positive(cylinder=length_mm, stone=stone_mm)
    if over_top_mm < 0.0 or over_bottom_mm < 0.0 or (room_below_mm is not None and room_below_mm < 0.0):
        raise InputError("Overstroke and room below are nought or more")
    # Saddle, web or blind bottom: the stone must not meet it, so the bottom gives way and the top is not made longer for it.
    used = over_bottom_mm if room_below_mm is None else min(over_bottom_mm, room_below_mm)
    stroke = length_mm + over_top_mm + used - stone_mm
    if stroke <= 0.0:
        raise InputError("The stone is longer than the hole and its overstroke: it would not travel")
    return StrokeLength(stroke, over_top_mm, used, used / stone_mm, used < over_bottom_mm - 1e-12)


@frozen(often=True)
class Motion:
    """How the pack goes up and down: stroke, double strokes a minute, and the whole time of one turn-round."""

    stroke_mm: float
    double_strokes_per_min: float
    reversal_s: float = 0.0

    def __post_init__(self) -> None:
        _positive(stroke=self.stroke_mm, strokes=self.double_strokes_per_min)
        if not 0.0 <= self.reversal_s < 0.5 * self.period_s:
            raise InputError("A turn-round takes less than half of the time of a double stroke")

    @property
    def period_s(self) -> float:
        """Seconds a double stroke."""
        return 60.0 / self.double_strokes_per_min

    @property
    def cruise_mm_s(self) -> float:
        """Speed between the turn-rounds: 2 S / (T - tr)."""
        return 2.0 * self.stroke_mm / (self.period_s - self.reversal_s)

    @property
    def ramp_mm(self) -> float:
        """Travel at each end within which the pack is below cruise."""
        # One turn-round is a stop and a start of half its time each, at even acceleration: v t / 2 with t = half of it.
        return self.cruise_mm_s * self.reversal_s / 4.0

    def speed_at(self, from_turn_round_mm: ArrayLike) -> Array:
        """Axial speed in mm/s at a distance from the nearer turn-round."""
        x = np.asarray(from_turn_round_mm, dtype=float)
        # Both ends alike: what counts is the nearer turn-round.
        x = np.minimum(x, self.stroke_mm - x)
        if self.reversal_s <= SHARP_S:
            return np.full(x.shape, self.cruise_mm_s)
        # Even acceleration from rest: v squared grows with the way.
        found: Array = self.cruise_mm_s * np.sqrt(np.clip(x / self.ramp_mm, 0.0, 1.0))
        return found

    def half_stroke(self, steps: int) -> tuple[Array, Array]:
        """Where the pack is over half a stroke, and how fast.

        Place from the upper turn-round (mm) and axial speed (mm/s) on the way down, at the middles of ``steps`` equal times. Shapes (steps,).
        """
        half = self.period_s / 2.0
        t = (np.arange(steps) + 0.5) * half / steps
        ramp, v = self.reversal_s / 2.0, self.cruise_mm_s
        up = np.minimum(t, half - t)  # the way is the same from both ends
        if ramp <= SHARP_S:
            near = v * up
            speed = np.full(steps, v)
        else:
            near = np.where(up < ramp, 0.5 * v * up**2 / ramp, v * (up - 0.5 * ramp))
            speed = v * np.minimum(up / ramp, 1.0)
        return np.where(t <= half / 2.0, near, self.stroke_mm - near), speed


def local_angle_by_carriage(bore_mm: float, rpm: float, motion: Motion, from_turn_round_mm: ArrayLike) -> Array:
    """Included angle while the pack is so far from its turn-round, degrees; same shape as the input."""
    rotary = math.pi * bore_mm * rpm / 60.0
    found: Array = 2.0 * np.degrees(np.arctan2(motion.speed_at(from_turn_round_mm), rotary))
    return found


def local_angle_by_depth(
    bore_mm: float, rpm: float, motion: Motion, stone_mm: float, over_top_mm: float, depth_mm: ArrayLike
) -> Array:
    """Included angle of the mean axial speed over the time in which the stone covers each depth, degrees."""
    place, speed = motion.half_stroke(RAMP_STEPS * 10)
    upper = place - over_top_mm
    rotary = math.pi * bore_mm * rpm / 60.0
    depths = np.atleast_1d(np.asarray(depth_mm, dtype=float))
    found = np.full(depths.shape, np.nan)
    for i, z in enumerate(depths):
        # A place is scratched only while stone lies on it: near an end that is just while the pack is slow, so the crosshatch is flat there,
        # though the mean angle is as planned.
        covers = (upper <= z) & (z <= upper + stone_mm)
        if covers.any():
            found[i] = 2.0 * math.degrees(math.atan2(float(speed[covers].mean()), rotary))
    return found


@frozen(often=True)
class HandPace:
    """Strokes a hand has to make for an angle; ``possible`` whether it can; what the drill should turn at instead."""

    double_strokes_per_min: float
    possible: bool
    drill_rpm_for_hand: float
    angle_at_hand_deg: float

    @property
    def seconds_per_double_stroke(self) -> float:
        """The time for one."""
        return 60.0 / self.double_strokes_per_min


def hand_pace(bore_mm: float, stroke_mm: float, drill_rpm: float, included_deg: float, hand_most: float) -> HandPace:
    """Pace of a hand-held hone: a rate no hand can hold is told with the drill speed that would do. Raises InputError."""
    wanted = crosshatch(bore_mm, stroke_mm, drill_rpm, included_deg=included_deg)
    slower = crosshatch(bore_mm, stroke_mm, double_strokes_per_min=hand_most, included_deg=included_deg)
    at_most = crosshatch(bore_mm, stroke_mm, drill_rpm, hand_most)
    strokes = wanted.double_strokes_per_min
    return HandPace(strokes, strokes <= hand_most, slower.rpm, at_most.included_deg)


def _positive(**values: float) -> None:
    for name, value in values.items():
        if not (math.isfinite(value) and value > 0.0):
            raise InputError(f"The {name} has to be more than nought")
