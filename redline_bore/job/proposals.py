"""What the steps propose where a typed line leaves something out; and reading such a line with them."""

from __future__ import annotations

from redline_bore.job.kinds.entry import Entry
from redline_bore.job.kinds.grammar import read_typed
from redline_bore.job.kinds.phrase import At, Point, Setting, Where
from redline_bore.job.state.job_state import JobState


class StepProposals:
    """The proposals of every step, for ``job.kinds.phrase.Proposals``.

    Each is imported when it is asked: the first picture must not wait for all the steps.
    """

    def cut(self, state: JobState, radius_mm: float, rake: str, grade: str) -> tuple[float, float]:
        """Feed in mm a turn and turns a minute for an insert."""
        from redline_bore.job.bore.plan import proposed_cut

        return proposed_cut(state, radius_mm, rake, grade)

    def machine_speed(self, state: JobState, rpm: float) -> float:
        """A speed as the machine can turn it."""
        from redline_bore.job.bore.plan import snapped_to_machine

        return snapped_to_machine(state, rpm)

    def setting(self, state: JobState, cylinder: int, at: str) -> Setting:
        """The bar's setting for a cylinder at a time (ISO 8601)."""
        from redline_bore.job.bore.plan import plan_of
        from redline_bore.job.words.missing import say_missing

        plan = plan_of(state, cylinder, at)
        return Setting(plan.setting_mm, say_missing(plan.missing))

    def hone(self, state: JobState, machine: str, rpm: float | None, strokes: float | None) -> Entry:
        """How a hone goes where only some of it was said."""
        from redline_bore.job.hone.set_up import proposed_hone

        return proposed_hone(state, machine, rpm, strokes)

    def seconds_a_stroke(self, state: JobState, cylinder: int) -> float | None:
        """Seconds of a double stroke where a cylinder's step is counted in seconds."""
        from redline_bore.job.hone.steps import seconds_a_stroke

        return seconds_a_stroke(state, state.honing.step_of(cylinder))

    def sleeve_bore_mm(self, state: JobState, cylinder: int) -> float | None:
        """Bore of the sleeve meant for a cylinder; None: none was measured."""
        from redline_bore.job.sleeve.fit import fit_of

        sleeve = fit_of(state, cylinder).sleeve
        return None if sleeve is None else sleeve.bore_mm

    def open_points(self, state: JobState) -> tuple[Point, ...]:
        """What keeps the job from being signed off."""
        from redline_bore.job.sign_off.sheet import sheet_of
        from redline_bore.job.words.sign_off import point_words

        return tuple(Point(p.key, point_words(p)) for p in sheet_of(state).open_points)


def entries_from_typed(step: str, text: str, state: JobState, where: Where, at: str = "") -> tuple[Entry, ...]:
    """The entries that ``text`` means in ``step``; ``at``: when (ISO 8601), where it matters whether the bar is cold.

    Raises InputError with the reason and what was meant.
    """
    return read_typed(step, text, At(state, where, StepProposals(), at))
