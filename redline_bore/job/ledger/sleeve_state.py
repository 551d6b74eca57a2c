"""What is known of the sleeves of a job, folded from its ledger. Sizes in mm at 20 C."""

from __future__ import annotations

from redline_bore.core.frozen import frozen
from redline_bore.job.ledger.sleeve_entries import DeckRead, ParentOutsideStated, ProtrusionStated


@frozen
class ParentRing:
    seq: int
    cylinder: int
    depth_mm: float
    sizes_mm: tuple[float, ...]

    @property
    def clocks_deg(self) -> tuple[float, ...]:
        return tuple(180.0 * i / len(self.sizes_mm) for i in range(len(self.sizes_mm)))


@frozen
class NewSleeve:
    """``warm_known``: its temperature was taken."""

    seq: int
    cylinder: int
    outside_mm: float
    bore_mm: float
    flange_mm: float | None
    length_mm: float | None
    warm_known: bool


@frozen
class WayTaken:
    seq: int
    cylinder: int
    way: str
    step_left: bool


@frozen
class AfterPress:
    seq: int
    cylinder: int
    sizes_mm: tuple[float, ...]
    block_c: float | None

    @property
    def mean_mm(self) -> float:
        return sum(self.sizes_mm) / len(self.sizes_mm)


@frozen
class Counterbored:
    """A counterbore as it was measured, ``faced_mm`` of the deck having come off by then."""

    seq: int
    cylinder: int
    depth_mm: float
    faced_mm: float


@frozen
class Sleeving:
    """Everything of sleeves. Pairs are (cylinder or bank, mm)."""

    olds: tuple[tuple[int, float], ...] = ()
    parents: tuple[ParentRing, ...] = ()
    outside: ParentOutsideStated | None = None
    sleeves: tuple[NewSleeve, ...] = ()
    decks: tuple[DeckRead, ...] = ()
    faced: tuple[tuple[int, float], ...] = ()
    counterbores: tuple[Counterbored, ...] = ()
    protrusion: ProtrusionStated | None = None
    ways: tuple[WayTaken, ...] = ()
    cold_c: float | None = None
    after: tuple[AfterPress, ...] = ()

    def old_mm(self, cylinder: int) -> float | None:
        """Outside of the sleeve that comes out."""
        return next((mm for c, mm in reversed(self.olds) if c == cylinder), None)

    def parent_of(self, cylinder: int) -> tuple[ParentRing, ...]:
        """The rings read in a parent, the newest at each depth, from the top down."""
        newest = {round(r.depth_mm, 1): r for r in self.parents if r.cylinder == cylinder}
        return tuple(newest[key] for key in sorted(newest))

    def sleeve_of(self, cylinder: int) -> NewSleeve | None:
        return next((s for s in reversed(self.sleeves) if s.cylinder == cylinder), None)

    def deck_of(self, bank: int) -> DeckRead | None:
        return next((d for d in reversed(self.decks) if d.bank == bank), None)

    def faced_mm(self, bank: int) -> float:
        """What came off a bank's deck altogether."""
        return sum(mm for b, mm in self.faced if b == bank)

    def counterbore_of(self, cylinder: int) -> Counterbored | None:
        return next((c for c in reversed(self.counterbores) if c.cylinder == cylinder), None)

    def way_of(self, cylinder: int) -> WayTaken | None:
        return next((w for w in reversed(self.ways) if w.cylinder == cylinder), None)

    def after_of(self, cylinder: int) -> AfterPress | None:
        return next((a for a in reversed(self.after) if a.cylinder == cylinder), None)
