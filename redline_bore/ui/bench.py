"""What is being looked at: no toolkit in it, and never in the ledger."""

from __future__ import annotations

from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.job.call.looked_at import LookedAt
from redline_bore.job.state.calling import Apart
from redline_bore.job.state.job_state import JobState


class CallBench:
    """The call as it is being tried on the ladder."""

    def __init__(self) -> None:
        self.rung_mm: float | None = None  # None: nobody has moved the redline yet
        self.apart: tuple[Apart, ...] | None = (
            None  # cylinders that leave the common size; None: as the call taken has it
        )
        self.beside: LookedAt | None = None  # a call that was put beside the one looked at
        self.option = 0  # which option is looked at


class GaugeBench:
    """Where the gauge and the maps stand."""

    def __init__(self) -> None:
        self.place = Place(0, 0)
        self.probe: tuple[float, float] | None = None  # depth mm and clock degrees that are read off the maps
        self.row = 0  # which reading of the second opinion is looked at
        self.defect = 0  # which defect of the cylinder is looked at
        self.pulled: int | None = None  # how many pulls of the wrench are done; None: nobody is tightening


class Bench:
    """What is being looked at, whichever step is on."""

    def __init__(self, step: str = "book_in", units: Units = Units.METRIC) -> None:
        self.step = step
        self.cylinder = 1
        self.units = units
        self.pages: dict[str, str] = {}  # which page of each step that has pages
        self.spot = 1  # where on the wall is traced: 0 top, 1 middle, 2 bottom
        self.new_job = False
        self.like: JobState | None = None  # the job that a new one is a copy of
        self.read: dict[str, float] = {}  # lengths a gauge sent, mm, by the words that stand for them in the field
        self.unsaid: dict[str, str] = {}  # what was typed and not yet booked, by step
        self.call = CallBench()
        self.gauge = GaugeBench()

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
