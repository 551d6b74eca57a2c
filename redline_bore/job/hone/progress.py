"""The hone: stock left before the redline, strokes to the end of this step, and the flags of the ledger (methods 12)."""

from __future__ import annotations

from dataclasses import dataclass

from redline_bore.core.errors import FitError
from redline_bore.core.stock import (
    RateChange,
    StrokesLeft,
    rate_change,
    strokes_left,
    theil_sen,
)
from redline_bore.job.gauge.analysis import start_of
from redline_bore.job.gauge.doubt import reading_doubt
from redline_bore.job.hone.steps import practice_of, shorts_of
from redline_bore.job.profiles.practice import Practice
from redline_bore.job.redline import Redline, redline_of
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.honing import Check
from redline_bore.job.state.job_state import JobState

AT_SIZE_MM, HAIR_MM = 0.0015, 0.0005  # so near its end a step is done; so little past the redline no gauge can tell, mm


@dataclass(frozen=True)
class Progress:
    """Where a cylinder stands: distances in mm on diameter, plus is metal still to take. None: not known."""

    cylinder: int
    redline: Redline
    practice: Practice
    step: int
    checks: tuple[Check, ...]
    target_mm: float | None
    left_mm: float | None
    projection: StrokesLeft | None
    rate: RateChange | None
    why_no_projection: str = ""

    @property
    def step_name(self) -> str:
        return self.practice.steps[min(self.step, len(self.practice.steps) - 1)]

    @property
    def to_step_end_mm(self) -> float | None:
        if self.target_mm is None or self.left_mm is None or self.redline.size_mm is None:
            return None
        return self.left_mm - (self.redline.size_mm - self.target_mm)

    @property
    def over(self) -> bool:
        return self.left_mm is not None and self.left_mm < 0.0

    @property
    def at_size(self) -> bool:
        """The last step has reached its end, and the redline was not passed by more than a hair."""
        last = self.step >= len(self.practice.steps) - 1
        left = self.to_step_end_mm
        return last and left is not None and -HAIR_MM <= left <= AT_SIZE_MM


@once_a_state
def progress_of(state: JobState, cylinder: int) -> Progress:
    """Where a cylinder stands against its redline."""
    chosen, step = practice_of(state), state.honing.step_of(cylinder)
    redline, checks = redline_of(state, cylinder), state.honing.checks_of(cylinder, step)
    short = shorts_of(state)
    target = redline.size_mm - short[min(step, len(short) - 1)] if redline.size_mm is not None else None
    latest = state.honing.checks_of(cylinder)
    left = redline.size_mm - latest[-1].largest_mm if redline.size_mm is not None and latest else None
    projection, why = _projection(state, checks, target)
    change = rate_change(
        [c.strokes for c in checks], [c.largest_mm for c in checks],
        state.figures.number("honing.rate_fallen_below"), state.figures.number("honing.rate_risen_above"),
    )  # fmt: skip
    return Progress(cylinder, redline, chosen, step, checks, target, left, projection, change, why)


def _projection(state: JobState, checks: tuple[Check, ...], target: float | None) -> tuple[StrokesLeft | None, str]:
    if target is None:
        return None, "the redline is not known"
    if len(checks) < 2:
        return None, "two checks are needed"
    sd = reading_doubt(state).own_mm
    least = int(state.figures.number("honing.interval_checks"))
    try:
        return strokes_left([c.strokes for c in checks], [c.largest_mm for c in checks], target, sd, least), ""
    except FitError as error:
        return None, str(error)


def out_of_family(state: JobState, cylinder: int) -> bool:
    """The rate of this cylinder differs from the middle one of the others by more than the limit, either way."""
    rates = {}
    for c in state.cylinders:
        checks = state.honing.checks_of(c, state.honing.step_of(cylinder))
        if len(checks) >= 3:
            rates[c] = theil_sen([k.strokes for k in checks], [k.largest_mm for k in checks]).mm
    others = sorted(v for c, v in rates.items() if c != cylinder)
    if cylinder not in rates or not others or rates[cylinder] <= 0 or others[len(others) // 2] <= 0:
        return False
    ratio, limit = rates[cylinder] / others[len(others) // 2], state.figures.number("honing.out_of_family")
    return not 1.0 / limit <= ratio <= limit


def stock_removed(state: JobState, cylinder: int) -> float | None:
    """Metal taken on diameter, mm, from the mean as gauged to the last check; None when either is not known."""
    start, checks = start_of(state, cylinder), state.honing.checks_of(cylinder)
    return checks[-1].largest_mm - start if start is not None and checks else None
