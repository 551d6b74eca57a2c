"""What is known of the sleeves of a job, folded from its ledger. Sizes in mm at 20 C."""

from __future__ import annotations

from redline_bore.core.frozen import frozen
from redline_bore.core.told import Unit, told
from redline_bore.job.state.rows import Rows

FIT, DECK = "sleeve/fit", "sleeve/deck"


@frozen(kw_only=True)
class ParentOutside:
    """Effective outside of the parents, mm: a range, for water and ribs make it uncertain."""

    low_mm: float = told(
        "parent's outside, least",
        Unit.LENGTH,
        above=0.0,
        most=3000.0,
        why="no outside of a parent; check the unit",
        shown=FIT,
    )
    high_mm: float = told(
        "parent's outside, most",
        Unit.LENGTH,
        above=0.0,
        most=3000.0,
        why="no outside of a parent; check the unit",
        shown=FIT,
    )


@frozen(kw_only=True)
class DeckHeights:
    """Heights of a bank's deck over any plane parallel to the mains: rows front to back, each left to right."""

    bank: int = told("bank", Unit.BANK, least=0, most=1, why="a block has banks 0 and 1", shown=DECK)
    rows_mm: tuple[tuple[float, ...], ...] = told("heights", Unit.LENGTH, many=1, shown=DECK)


@frozen(kw_only=True)
class Protrusion:
    """How far the flanges are to stand above the deck, by the maker's sheet."""

    low_mm: float = told(
        "flange proud, least",
        Unit.LENGTH,
        least=0.0,
        most=1.0,
        why="the least comes first, and neither is more than a millimetre",
        shown=DECK,
    )
    high_mm: float = told(
        "flange proud, most",
        Unit.LENGTH,
        least=0.0,
        most=1.0,
        why="the least comes first, and neither is more than a millimetre",
        shown=DECK,
    )


@frozen
class ParentRing:
    """A ring of two-point sizes in a parent bore, at angles spread evenly from 0 over half a turn."""

    seq: int
    cylinder: int
    depth_mm: float
    sizes_mm: tuple[float, ...]

    @property
    def clocks_deg(self) -> tuple[float, ...]:
        """The angle of each size, degrees."""
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
    """What is done about a cylinder's sleeve and parent."""

    seq: int
    cylinder: int
    way: str
    step_left: bool


@frozen
class AfterPress:
    """The bore of a sleeve once it sits, top to bottom."""

    seq: int
    cylinder: int
    sizes_mm: tuple[float, ...]
    block_c: float | None

    @property
    def mean_mm(self) -> float:
        """The mean of every size read."""
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
    """The slice of the sleeve step. Pairs are (cylinder or bank, mm)."""

    olds: tuple[tuple[int, float], ...] = ()
    parents: Rows[ParentRing] = Rows()
    outside: ParentOutside | None = None
    sleeves: tuple[NewSleeve, ...] = ()
    decks: tuple[DeckHeights, ...] = ()
    faced: tuple[tuple[int, float], ...] = ()
    counterbores: tuple[Counterbored, ...] = ()
    protrusion: Protrusion | None = None
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
        """The sleeve measured last for a cylinder."""
        return next((s for s in reversed(self.sleeves) if s.cylinder == cylinder), None)

    def deck_of(self, bank: int) -> DeckHeights | None:
        """The deck of a bank as read last."""
        return next((d for d in reversed(self.decks) if d.bank == bank), None)

    def faced_mm(self, bank: int) -> float:
        """What came off a bank's deck altogether."""
        return sum(mm for b, mm in self.faced if b == bank)

    def counterbore_of(self, cylinder: int) -> Counterbored | None:
        """The counterbore measured last for a cylinder."""
        return next((c for c in reversed(self.counterbores) if c.cylinder == cylinder), None)

    def way_of(self, cylinder: int) -> WayTaken | None:
        """What is done about a cylinder's sleeve."""
        return next((w for w in reversed(self.ways) if w.cylinder == cylinder), None)

    def after_of(self, cylinder: int) -> AfterPress | None:
        """The bore of its sleeve once it sat."""
        return next((a for a in reversed(self.after) if a.cylinder == cylinder), None)
