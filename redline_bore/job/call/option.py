"""What an option is: one way to treat the block, how sure it stands, what it costs."""

from __future__ import annotations

from enum import StrEnum

from redline_bore.core.block import bore_positions
from redline_bore.core.frozen import frozen
from redline_bore.job.call.reason import Reason, ToMeasure
from redline_bore.job.lessons import MINUTES, lesson_of
from redline_bore.job.state.calling import Apart
from redline_bore.job.state.job_state import JobState


class Standing(StrEnum):
    """How sure an option, or a way with a sleeve, is. The words stand in ledgers: they are kept."""

    SURE = "sure"
    MAY = "may do"
    UNKNOWN = "not known"
    NO = "no"


SURE, MAY, UNKNOWN, NO = Standing.SURE, Standing.MAY, Standing.UNKNOWN, Standing.NO


class OptionKind(StrEnum):
    """The ways there are."""

    LEAVE = "leave"
    DEGLAZE = "deglaze"
    RERING = "rering"
    CUSTOM = "custom"  # to the nearest round size, for pistons made to measure
    HONE_OUT = "hone"
    RUNG = "rung"
    SLEEVE_ONE = "sleeve"
    REPAIR_ONE = "repair"
    OWN_SIZE = "own"
    SLEEVE_ALL = "sleeve_all"
    SCRAP = "scrap"
    CALL = "call"  # any other call, weighed as a way


SLEEVE_COSTS = 5.0  # mm on diameter that a sleeve weighs: what its seat takes of the parent
WAIT_COSTS = 0.3  # the same for pistons made to measure
RANK = {SURE: 0, MAY: 1, UNKNOWN: 2, NO: 3}


@frozen(often=True)
class Weighed:
    """How a thing stands, why, and what to measure to be sure."""

    standing: Standing
    reasons: tuple[Reason, ...] = ()
    needs: tuple[ToMeasure, ...] = ()


@frozen(often=True)
class Option:
    """One way. ``key``: its name in ledgers. ``oversize_mm`` and ``apart`` are the call it stands for; None: nothing is bored.

    stock_mm: to take from each cylinder on diameter, None where it is not known. ``needs``: what to measure to be sure.
    wall_left_mm: how far the thinnest wall that was read stays over its limit, mm; None: no wall was read, or no cut.
    """

    kind: OptionKind
    key: str
    standing: Standing
    oversize_mm: float | None
    apart: tuple[Apart, ...]
    reasons: tuple[Reason, ...]
    needs: tuple[ToMeasure, ...]
    stock_mm: tuple[float | None, ...]
    rebuilds_left: int | None
    pistons: int
    sleeves: int
    minutes: float
    preferred: bool = False
    wall_left_mm: float | None = None
    only_walls: bool = False  # nothing but a wall near its limit speaks against it
    by_hone: bool = False  # the hone alone takes it there
    pistons_here: bool = False  # those it is cut for are here, and measured
    chance: float | None = None  # that every cylinder it bores is clean, 0 to 1; None: not known
    worth: bool | None = None  # so likely that the next size costs more; None: of a way that bores nothing

    @property
    def most_stock_mm(self) -> float | None:
        """The most that any cylinder gives, mm on diameter; None where one of them is not known."""
        known = self.bored_stock_mm
        return None if None in known else max([s for s in known if s is not None], default=0.0)

    @property
    def bored_stock_mm(self) -> tuple[float | None, ...]:
        """Stock of the cylinders that are not sleeved; what a sleeve's seat takes is the sleeve plan's matter."""
        sleeved = {a.cylinder for a in self.apart if a.way == "sleeve"}
        return tuple(s for c, s in enumerate(self.stock_mm, 1) if c not in sleeved)

    @property
    def rank(self) -> tuple[int, int, float, int, float]:
        """Less metal stands above more, among those that are sure and those that one reading may make sure; of equals the one that leaves
        the cylinders together."""
        return (
            self.standing_rank,
            2 if self.kind is OptionKind.SCRAP else 0 if self.preferred else 1,
            (self.most_stock_mm or self.oversize_mm or 0.0)
            + SLEEVE_COSTS * self.sleeves
            + WAIT_COSTS * self.made_to_measure,
            len(self.apart),
            self.minutes,
        )

    @property
    def standing_rank(self) -> int:
        """Sure, or sure after a reading; then those that no reading settles, those not known, and those that are known not to do."""
        worth = bool(self.needs) if self.worth is None else self.worth
        open_yet = self.standing is MAY and (worth or self.only_walls)  # a larger cut helps no wall
        return 0 if self.standing is SURE or open_yet else RANK[self.standing]

    @property
    def made_to_measure(self) -> bool:
        """Its pistons have to be made."""
        return self.kind is OptionKind.CUSTOM


def minutes_for(state: JobState, what: str) -> float:
    """Rough minutes of one piece of work, from the shop's own rates."""
    return state.figures.number(f"bench_time.{what}")


WEIGHED = ("bore", "hone", "finish")  # the steps whose own times count in a way's


def learned_minutes(state: JobState, step: str) -> float | None:
    """Minutes a cylinder that a step took on the jobs of this family, the middle of them; None until there are enough."""
    lesson = lesson_of(state.booking.lessons, MINUTES, step)
    return None if lesson is None or lesson.count < minutes_for(state, "learned_from") else lesson.mean


def bore_minutes(state: JobState, holes: int) -> float:
    """Rough minutes of the bar for so many holes, its set-ups among them: as long as the family's took, else by the shop's rates."""
    if (each := learned_minutes(state, "bore")) is not None:
        return holes * each
    return _decks(state) * minutes_for(state, "set_up_bar") + holes * (
        minutes_for(state, "bore") + minutes_for(state, "cutting")
    )


def hone_minutes(state: JobState) -> float:
    """Rough minutes of the hone for every cylinder, plates and set-up among them."""
    count = state.block.cylinders
    if (each := learned_minutes(state, "hone")) is not None:
        return count * each
    return (
        _decks(state) * minutes_for(state, "plate")
        + minutes_for(state, "set_up_hone")
        + count * minutes_for(state, "hone")
    )


def finish_minutes(state: JobState) -> float:
    """Rough minutes of reading and judging the finish of every cylinder."""
    each = learned_minutes(state, "finish")
    return state.block.cylinders * (minutes_for(state, "finish") if each is None else each)


def _decks(state: JobState) -> int:
    return len({b.bank for b in bore_positions(state.block)})
