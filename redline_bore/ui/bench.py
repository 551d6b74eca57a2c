"""What is being looked at: no toolkit in it, and never in the ledger."""

from __future__ import annotations

from dataclasses import dataclass, field

from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.job.call.looked_at import LookedAt
from redline_bore.job.state.calling import Apart
from redline_bore.job.state.job_state import JobState


@dataclass
class CallBench:
    """The call as it is being tried on the ladder."""

    rung_mm: float | None = None  # None: nobody has moved the redline yet
    apart: tuple[Apart, ...] | None = None  # cylinders that leave the common size; None: as the call taken has it
    beside: LookedAt | None = None  # a call that was put beside the one looked at
    option: int = 0  # which option is looked at


@dataclass
class GaugeBench:
    """Where the gauge and the maps stand."""

    place: Place = Place(0, 0)
    probe: tuple[float, float] | None = None  # depth mm and clock degrees that are read off the maps
    row: int = 0  # which reading of the second opinion is looked at
    defect: int = 0  # which defect of the cylinder is looked at
    pulled: int | None = None  # how many pulls of the wrench are done; None: nobody is tightening


@dataclass
class Bench:
    """What is being looked at, whichever step is on."""

    step: str = "book_in"
    cylinder: int = 1
    units: Units = Units.METRIC
    pages: dict[str, str] = field(default_factory=dict)  # which page of each step that has pages
    spot: int = 1  # where on the wall is traced: 0 top, 1 middle, 2 bottom
    new_job: bool = False
    like: JobState | None = None  # the job that a new one is a copy of
    read: dict[str, float] = field(
        default_factory=dict
    )  # lengths a gauge sent, mm, by the words that stand for them in the field
    unsaid: dict[str, str] = field(default_factory=dict)  # what was typed and not yet booked, by step
    call: CallBench = field(default_factory=CallBench)
    gauge: GaugeBench = field(default_factory=GaugeBench)

    def page_of(self, step: str, usual: str) -> str:
        """The page of a step that is on; its first one until another was chosen."""
        return self.pages.setdefault(step, usual)

    @property
    def page(self) -> str:
        """The page of the step that is on; empty where it has none."""
        return self.pages.get(self.step, "")

    @property
    def place(self) -> Place:
        """Where the gauge stands."""
        return self.gauge.place
