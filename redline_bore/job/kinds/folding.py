"""A ledger being folded: the slices as far as they have come, and what every fold may look at. Typed, and gone when it is done."""

from __future__ import annotations

from operator import attrgetter

from redline_bore.core.figures import Figures
from redline_bore.core.frozen import changed
from redline_bore.core.lengths import Units
from redline_bore.core.thermal import size_at_20
from redline_bore.job.kinds.entry import SIMULATED, Record
from redline_bore.job.state.booking import BookIn, Booking
from redline_bore.job.state.boring import Boring
from redline_bore.job.state.calling import Calling
from redline_bore.job.state.clamped import Clamped
from redline_bore.job.state.comparing import Comparing
from redline_bore.job.state.finishing import Finishing
from redline_bore.job.state.gauging import Gauging
from redline_bore.job.state.honing import Honing
from redline_bore.job.state.job_state import JobState
from redline_bore.job.state.signing import Signing
from redline_bore.job.state.sleeving import Sleeving

PARENTS = {"iron_in_aluminium": "aluminium_hypo"}
SLICES = (
    "booking", "gauging", "clamped", "comparing", "calling", "boring", "sleeving", "honing", "finishing", "signing",
)  # fmt: skip
_slices = attrgetter(*SLICES)


class Folding:
    """The slices, each replaced whole by the folds; ``record`` is the one being folded.

    materials: the book-in the job has in the end. A material that was corrected was always wrong, so sizes go to 20 C with it.
    """

    booking: Booking
    gauging: Gauging
    clamped: Clamped
    comparing: Comparing
    calling: Calling
    boring: Boring
    sleeving: Sleeving
    honing: Honing
    finishing: Finishing
    signing: Signing

    def __init__(self, state: JobState, materials: BookIn) -> None:
        self._before, self.units, self.figures = state, state.units, state.figures
        self.simulated = state.simulated
        self.__dict__.update(zip(SLICES, _slices(state), strict=True))
        self.materials = materials
        self._bore_1e6 = state.figures.number(f"thermal.{materials.block.material}")
        self._record: Record | None = None

    @property
    def record(self) -> Record:
        """The record being folded."""
        assert self._record is not None
        return self._record

    def take(self, record: Record) -> None:
        """Go on to the next record."""
        self._record = record
        self.simulated += record.instrument.startswith(SIMULATED)

    def at_20(self, size_mm: float, block_c: float | None) -> float:
        """A size of the bore, mm at 20 C (a block whose warmth is not known counts as 20 C)."""
        return size_mm if block_c is None else size_at_20(size_mm, self._bore_1e6, block_c)

    def to_20(self, size_mm: float) -> float:
        """A size of the bore as read with this record, mm at 20 C."""
        return self.at_20(size_mm, self.record.block_c)

    def all_to_20(self, sizes_mm: tuple[float, ...]) -> tuple[float, ...]:
        """Sizes of the bore as read with this record, mm at 20 C."""
        return tuple(self.to_20(size) for size in sizes_mm)

    def state(self, struck: frozenset[int], last_seq: int) -> JobState:
        """The state as far as it was folded."""
        slices = zip(SLICES, _slices(self), strict=True)
        return changed(
            self._before, **dict(slices), struck=struck, last_seq=last_seq, simulated=self.simulated, memo={}
        )


def parent_material(material: str) -> str:
    """What the block itself is made of, where the wall's material is that of a fitted pair."""
    return PARENTS.get(material, material)


def opened(number: str, units: Units, figures: Figures, booking: Booking, gauging: Gauging) -> JobState:
    """The state of a job that has just been opened."""
    return JobState(number, units, figures, booking, gauging, last_seq=1)
