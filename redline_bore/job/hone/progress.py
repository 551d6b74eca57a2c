"""The hone: stock left before the redline, how far this step has come, and the flags of the ledger (methods 7, 12)."""

from __future__ import annotations

from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.core.stock import RateChange, rate_change, theil_sen
from redline_bore.job.gauge.analysis import start_of
from redline_bore.job.hone.steps import light_strokes, practice_of, shorts_of
from redline_bore.job.hone.track import Ends, Tracked, ends_of, sizing_step, tracked_of
from redline_bore.job.profiles.practice import Practice
from redline_bore.job.redline import Redline, redline_of
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.honing import Check
from redline_bore.job.state.job_state import JobState


@frozen(often=True)
class Progress:
    """Where a cylinder stands: distances in mm on diameter, plus is metal still to take. None: not known.

    target_mm: where the mean is to stand at the end of this step. left_mm: of the mean, before the redline.
    """

    cylinder: int
    redline: Redline
    ends: Ends | None
    practice: Practice
    step: int
    checks: tuple[Check, ...]
    last: Check | None
    target_mm: float | None
    left_mm: float | None
    tracked: Tracked | None
    rate: RateChange | None
    done: bool

    @property
    def step_name(self) -> str:
        return self.practice.steps[min(self.step, len(self.practice.steps) - 1)]

    @property
    def is_last(self) -> bool:
        """In the last step of its practice."""
        return self.step >= len(self.practice.steps) - 1

    @property
    def to_step_end_mm(self) -> float | None:
        """The mean, as it is followed, to the end of this step."""
        return None if self.tracked is None else self.tracked.to_aim_mm

    @property
    def over(self) -> bool:
        """The mean is past the redline by more than U, or a place is past the top of the window by more than it."""
        if self.ends is None or self.last is None:
            return False
        return self.past_mm > self.ends.u_mm + 1e-9

    @property
    def past_mm(self) -> float:
        """How far it is past, mm: the mean past the redline, or its largest place past the top of the window; minus is under."""
        assert self.ends is not None and self.last is not None
        return max(self.last.mean_mm - self.ends.redline_mm, self.last.largest_mm - self.ends.top_mm)

    @property
    def at_size(self) -> bool:
        """The last step is done, and the hole is not past."""
        return self.is_last and self.done and not self.over


@once_a_state
def progress_of(state: JobState, cylinder: int) -> Progress:
    """Where a cylinder stands against its redline."""
    chosen, step = practice_of(state), state.honing.step_of(cylinder)
    redline, checks, tracked = (
        redline_of(state, cylinder),
        state.honing.checks_of(cylinder, step),
        tracked_of(state, cylinder),
    )
    every = state.honing.checks_of(cylinder)
    last = every[-1] if every else None
    ends = ends_of(state, cylinder)
    target = _target(state, ends, step) if tracked is None else tracked.aim.mean_mm
    left = redline.size_mm - last.mean_mm if redline.size_mm is not None and last is not None else None
    return Progress(
        cylinder, redline, ends, chosen, step, checks, last, target, left, tracked, _change(state, checks),
        _done(state, step, tracked, checks),
    )  # fmt: skip


def _target(state: JobState, ends: Ends | None, step: int) -> float | None:
    """The end of a step before any check of it says what shape the hole has."""
    shorts = shorts_of(state)
    return None if ends is None else ends.redline_mm - shorts[min(step, len(shorts) - 1)]


def _done(state: JobState, step: int, tracked: Tracked | None, checks: tuple[Check, ...]) -> bool:
    """Whether a step has reached its end: near its aim, or no whole stroke is safe; before the sizing step a fifth of the next
    step's stock is near enough. Source: methods 12."""
    if tracked is None:
        return False
    f, shorts = state.figures, shorts_of(state)
    near = f.number("honing.done_within")
    if step < sizing_step(state):
        near = max(near, f.number("honing.next_share") * (shorts[step] - shorts[step + 1]))
        return tracked.to_aim_mm <= near
    if step > sizing_step(state):  # counted light strokes that take next to no size
        light = checks[-1].strokes if checks else 0.0
        return light >= light_strokes(state)[0] or (light > 0.0 and tracked.bite < 1)
    return tracked.to_aim_mm <= near or tracked.bite < 1


def _change(state: JobState, checks: tuple[Check, ...]) -> RateChange | None:
    f = state.figures
    return rate_change(
        [c.strokes for c in checks], [c.mean_mm for c in checks],
        f.number("honing.rate_fallen_below"), f.number("honing.rate_risen_above"),
    )  # fmt: skip


def out_of_family(state: JobState, cylinder: int) -> bool:
    """The rate of this cylinder differs from the middle one of the others by more than the limit, either way."""
    rates = {}
    for c in state.cylinders:
        checks = state.honing.checks_of(c, state.honing.step_of(cylinder))
        if len(checks) >= 3:
            try:
                rates[c] = theil_sen([k.strokes for k in checks], [k.mean_mm for k in checks]).mm
            except FitError:
                continue  # three looks at one stroke count tell no rate
    others = sorted(v for c, v in rates.items() if c != cylinder)
    if cylinder not in rates or not others or rates[cylinder] <= 0 or others[len(others) // 2] <= 0:
        return False
    ratio, limit = rates[cylinder] / others[len(others) // 2], state.figures.number("honing.out_of_family")
    return not 1.0 / limit <= ratio <= limit


def stock_removed(state: JobState, cylinder: int) -> float | None:
    """Metal taken on diameter, mm, from the mean as gauged to the mean of the last check; None when either is not known."""
    start, checks = start_of(state, cylinder), state.honing.checks_of(cylinder)
    return checks[-1].mean_mm - start if start is not None and checks else None
