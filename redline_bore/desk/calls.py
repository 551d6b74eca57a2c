"""The call, taken: as the ladder has it, or one that cuts nothing. What is booked is what the card says."""

from __future__ import annotations

from collections.abc import Sequence

from redline_bore.core.errors import InputError
from redline_bore.core.show import Show
from redline_bore.job.call.best import can_pick
from redline_bore.job.call.finding import CallVerdict, judge
from redline_bore.job.call.hone_out import hones_out
from redline_bore.job.call.ladder import based_on, ladder_of
from redline_bore.job.call.light_options import LIGHT_KEYS
from redline_bore.job.call.option import Option, OptionKind
from redline_bore.job.call.options import options_of
from redline_bore.job.kinds.call import DecisionTaken
from redline_bore.job.state.calling import Apart, BasedOn
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words import call, options


def call_at(state: JobState, cylinder: int, oversize_mm: float, apart: Sequence[Apart], show: Show) -> DecisionTaken:
    """The call with the redline at ``oversize_mm`` over nominal, mm, with the figures of a cylinder; where the card says to leave it, that.

    Raises InputError where none can be taken.
    """
    advice = call.advise(state, cylinder, oversize_mm, show, apart)
    if not advice.button:
        raise InputError(f"No call can be taken at {show.step(oversize_mm)}. {advice.sentence}")
    if judge(state, oversize_mm, apart).verdict is CallVerdict.LEAVE:
        return light_call(state, next(o for o in options_of(state) if o.kind is OptionKind.RERING), show)
    return DecisionTaken(
        oversize_mm=oversize_mm, way="hone" if hones_out(state) and not apart else "bore", sentence=advice.sentence,
        figures=tuple(f"{f.label}: {f.value}" for f in advice.figures), apart=tuple(apart),
        based_on=based_on(ladder_of(state), oversize_mm, apart),
    )  # fmt: skip


def light_call(state: JobState, option: Option, show: Show) -> DecisionTaken:
    """A call that cuts nothing: to leave it, deglaze it, or re-ring it. Raises InputError where it cannot be taken."""
    told = options.told_of(option, show)
    if option.oversize_mm is not None or not can_pick(option):
        raise InputError(f"{told.title}: {told.reasons[0]}")
    way = next(key for key in LIGHT_KEYS if key == option.key)
    advice = options.advise(state, options_of(state).index(option), show)
    return DecisionTaken(
        oversize_mm=0.0, way=way, sentence=f"{told.title}.", figures=(*told.reasons, *(f.value for f in advice.figures[:1])),
        based_on=tuple(BasedOn(cylinder=c, verdict=option.standing, low_mm=None, high_mm=None, ceiling_mm=None) for c in state.cylinders),
    )  # fmt: skip
