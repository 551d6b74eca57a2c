"""The state of a job, folded from its ledger: slices by step, and what belongs to all of them. Everything here is frozen; sizes
are at 20 C unless the name says not."""

from __future__ import annotations

from collections.abc import Hashable
from typing import Any

from redline_bore.core.block import BlockSpec, RingTravel, ring_travel
from redline_bore.core.field import field
from redline_bore.core.figures import Figures
from redline_bore.core.frozen import frozen
from redline_bore.core.lengths import Units
from redline_bore.core.thermal import size_at
from redline_bore.job.state.booking import BookIn, Booking
from redline_bore.job.state.boring import Boring
from redline_bore.job.state.calling import Calling
from redline_bore.job.state.clamped import Clamped
from redline_bore.job.state.comparing import Comparing
from redline_bore.job.state.finishing import Finishing
from redline_bore.job.state.gauging import Gauging
from redline_bore.job.state.honing import Honing
from redline_bore.job.state.signing import Final, Signing
from redline_bore.job.state.sleeving import Sleeving

STEP_TITLES = {
    "book_in": "Book in", "gauge": "Gauge", "call": "Call", "bore": "Bore", "sleeve": "Sleeve", "hone": "Hone",
    "finish": "Finish", "sign_off": "Sign off",
}  # fmt: skip
STEPS = tuple(STEP_TITLES)


@frozen
class JobState:
    """All that counts of a job now."""

    number: str
    units: Units
    figures: Figures
    booking: Booking
    gauging: Gauging
    clamped: Clamped = Clamped()
    comparing: Comparing = Comparing()
    calling: Calling = Calling()
    boring: Boring = Boring()
    sleeving: Sleeving = Sleeving()
    honing: Honing = Honing()
    finishing: Finishing = Finishing()
    signing: Signing = Signing()
    struck: frozenset[int] = field(default_factory=frozenset)
    last_seq: int = 0
    simulated: int = 0  # entries that count and came from a simulated instrument
    memo: dict[Hashable, Any] = field(default_factory=dict, compare=False, repr=False)

    @property
    def book_in(self) -> BookIn:
        """What the job was booked in with, as corrected last."""
        return self.booking.book_in

    @property
    def block(self) -> BlockSpec:
        """The block."""
        return self.booking.book_in.block

    @property
    def cylinders(self) -> range:
        """The numbers of its cylinders, from 1."""
        return range(1, self.block.cylinders + 1)

    @property
    def travel(self) -> RingTravel:
        """Where the rings run, mm down; as stated, else by the usual figures."""
        f = self.figures
        return ring_travel(self.block, f.number("gauging.ring_top"), f.number("gauging.ring_pack"))

    @property
    def coefficient_1e6(self) -> float:
        """Expansion coefficient of the bore, 1e-6 per C."""
        return self.figures.number(f"thermal.{self.block.material}")

    def as_read(self, size_20_mm: float) -> float:
        """A size at 20 C, mm, as a gauge shows it on the block as warm as it was found last (not known: as at 20 C)."""
        warm = self.clamped.block_c
        return size_20_mm if warm is None else size_at(size_20_mm, self.coefficient_1e6, warm)

    def final_of(self, cylinder: int, plate_on: bool) -> Final | None:
        """The finished hole as gauged last, under the plate or without it; None where the hone was in it since."""
        checks = self.honing.checks_of(cylinder)
        since = checks[-1].seq if checks else 0
        return next(
            (
                f
                for f in reversed(self.signing.finals)
                if f.cylinder == cylinder and f.plate_on == plate_on and f.seq > since
            ),
            None,
        )
