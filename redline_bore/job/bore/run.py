"""The run of the bar through a cylinder's passes: which setting is next."""

from __future__ import annotations

from typing import NamedTuple

from redline_bore.job.bore.plan import plan_of
from redline_bore.job.state.job_state import JobState

STEP = "bore"


class SettingNow(NamedTuple):
    """The setting of the pass that is next, mm, its number, and how many there are."""

    setting_mm: float
    number: int
    of: int


def setting_now(state: JobState, cylinder: int, at: str) -> SettingNow | None:
    """The setting of the pass that is next, its number and how many there are; None where there is none."""
    plan = plan_of(state, cylinder, at)
    if not plan.settings_mm or plan.done is not None:
        return None
    done = {r.check for r in state.boring.run_checks if (r.step, r.cylinder) == (STEP, cylinder)}
    count = len(plan.settings_mm)
    ahead = next((i for i in range(count - 1) if f"pass {i + 1}" not in done), count - 1)
    return SettingNow(plan.settings_mm[ahead], ahead + 1, count)
