"""The deck that stays and the counterbores that are cut from it (methods 9)."""

from __future__ import annotations

from redline_bore.core.block import bank_of
from redline_bore.core.deck_cuts import Counterbore, DeckPlan, counterbores, deck_plan
from redline_bore.core.frozen import frozen
from redline_bore.job.state.job_state import JobState
from redline_bore.job.state.sleeving import NewSleeve


@frozen(often=True)
class BankDeck:
    """A bank's deck: how far it is out, what is faced off it; None: nobody read it. faced_mm: what is off already."""

    bank: int
    rows_mm: tuple[tuple[float, ...], ...]
    out_mm: float | None
    plan: DeckPlan | None
    faced_mm: float

    @property
    def to_face_mm(self) -> float:
        """What is still to come off, mm."""
        return 0.0 if self.plan is None else max(self.plan.cut_mm - self.faced_mm, 0.0)

    @property
    def done(self) -> bool:
        return self.plan is not None and self.to_face_mm <= 1e-6


@frozen(often=True)
class SeatPlan:
    """A flanged sleeve's counterbore. ``there_mm`` as it was measured, less the deck that came off since; None: nobody
    measured it. ``proving_mm``: depth of the first, shallow cut. ``stands_mm``: how the flange would stand now."""

    sleeve: NewSleeve
    protrusion_mm: tuple[float, float]
    cut: Counterbore
    there_mm: float | None
    proving_mm: float
    stands_mm: float | None


def deck_of(state: JobState, bank: int) -> BankDeck:
    """The deck of a bank."""
    f, read = state.figures, state.sleeving.deck_of(bank)
    faced = state.sleeving.faced_mm(bank)
    if read is None:
        return BankDeck(bank, (), None, None, faced)
    heights = [h for row in read.rows_mm for h in row]
    plan = deck_plan(
        heights, f.number("sleeves.deck_skin"), f.number("sleeves.deck_step"), f.number("sleeves.deck_last")
    )
    return BankDeck(bank, read.rows_mm, max(heights) - min(heights), plan, faced)


def protrusion_of(state: JobState) -> tuple[float, float]:
    """How far flanges stand proud, mm: by the sheet, else a starting point."""
    stated = state.sleeving.protrusion
    if stated is not None:
        return stated.low_mm, stated.high_mm
    low, high = state.figures.row("sleeves.protrusion")
    return low, high


def seat_of(state: JobState, cylinder: int) -> SeatPlan | None:
    """The counterbore of a flanged sleeve; None where its sleeve has no flange or is not measured."""
    sleeve = state.sleeving.sleeve_of(cylinder)
    if sleeve is None or sleeve.flange_mm is None:
        return None
    window, read, bank = protrusion_of(state), state.sleeving.counterbore_of(cylinder), bank_of(state.block, cylinder)
    deck = deck_of(state, bank)
    aim = sum(window) / 2.0
    come_off = deck.to_face_mm + deck.faced_mm - (0.0 if read is None else read.faced_mm)
    there = None if read is None else read.depth_mm - come_off
    cut = counterbores([sleeve.flange_mm], aim, [0.0 if read is None else read.depth_mm], come_off)[0]
    stands = None if there is None else sleeve.flange_mm - there
    proving = max(cut.depth_mm - state.figures.number("sleeves.proving"), 0.0)
    return SeatPlan(sleeve, window, cut, there, proving, stands)
