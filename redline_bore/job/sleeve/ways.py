"""What can be done about a sleeve and a parent that do not quite match, ranked (methods 9)."""

from __future__ import annotations

import math
from enum import StrEnum

from redline_bore.core.block import WallKind
from redline_bore.core.frozen import frozen, replace
from redline_bore.job.call.cut import walls_as_gauged
from redline_bore.job.call.option import MAY, NO, RANK, SURE, UNKNOWN, Standing, minutes_for
from redline_bore.job.gauge.analysis import shape_of
from redline_bore.job.redline import redline_of
from redline_bore.job.sleeve.fit import (
    Grip,
    Hoop,
    SleeveFit,
    fit_of,
    grip_of,
    in_aluminium,
    outside_when_bored,
    predicted_bore,
    step_wanted,
    wanted_interference,
)
from redline_bore.job.sleeve.why import SleeveMeasure, SleeveNeed, SleeveReason, SleeveWhy
from redline_bore.job.state.job_state import JobState


class SleeveDoing(StrEnum):
    """What is done about a sleeve and its parent. The words stand in ledgers: they are kept."""

    TOUCH_UP = "touch up"
    BORE_TO_IT = "bore to the sleeve"
    OVERSIZE = "oversize outside"
    REPAIR = "repair sleeve"


@frozen(often=True)
class ParentCut:
    """One step of boring a parent out: the size after it, mm, and whether another cutter holder is set for it."""

    size_mm: float
    new_holder: bool


@frozen(often=True)
class NextTime:
    """A finished sleeve's wall, the least it may have, and what may still come off it on diameter, mm; listed sizes in that."""

    wall_mm: float
    least_mm: float
    more_mm: float
    rebuilds: int


@frozen(often=True)
class SleeveWay:
    """One way. parent_mm: what the parent is bored to (None: it stays). outside_mm: the sleeve it needs. metal_mm: what
    the parent gives on diameter. grip None: not known yet. cuts: how the parent is bored out. to_order: sleeves that are not in hand.
    minutes, cost: by the shop's own rates, cost None while the shop told none. rebuilds: listed sizes that the finished sleeve has left.
    """

    way: SleeveDoing
    standing: Standing
    reasons: tuple[SleeveReason, ...]
    needs: tuple[SleeveNeed, ...]
    parent_mm: float | None
    outside_mm: float | None
    metal_mm: float
    grip: Grip | None
    step: bool
    cuts: tuple[ParentCut, ...] = ()
    to_order: int = 0
    minutes: float = 0.0
    cost: float | None = None
    rebuilds: int | None = None

    @property
    def rank(self) -> tuple[int, int, float]:
        """The surest first; of equals the one with the sleeve in hand, then the one that takes least metal."""
        return RANK[self.standing], self.to_order, self.metal_mm


class _Weighing:
    """How a way stands while what speaks against it is gathered; what rules it out comes first."""

    def __init__(self, *reasons: SleeveReason) -> None:
        self.standing: Standing = SURE
        self.reasons, self.needs = list(reasons), list[SleeveNeed]()

    def worse(self, to: Standing, reason: SleeveReason, need: SleeveNeed | None = None) -> None:
        """Something speaks against it; ``need``: what to measure to know better."""
        self.standing = max(self.standing, to, key=lambda s: RANK[s])
        self.reasons.insert(0 if to == NO else len(self.reasons), reason)
        if need is not None:
            self.needs.append(need)


def ways_of(state: JobState, cylinder: int) -> tuple[SleeveWay, ...]:
    """Every way for a cylinder, the best first; empty while parent or sleeve are not measured."""
    fit = fit_of(state, cylinder)
    if fit.grip is None or fit.sleeve is None or fit.worst is None:
        return ()
    found = [_touch_up(state, fit), _oversize(state, fit), _repair(state, fit)]
    taken = state.sleeving.way_of(cylinder)
    larger = fit.sleeve.outside_mm - (fit.parent_mm or 0.0) > wanted_interference(state, fit.parent_mm or 0.0)[2]
    if larger or (taken is not None and taken.way == SleeveDoing.BORE_TO_IT):
        found.insert(1, _to_the_sleeve(state, fit))
    return tuple(sorted((_priced(state, fit, w) for w in found), key=lambda w: w.rank))


def _priced(state: JobState, fit: SleeveFit, way: SleeveWay) -> SleeveWay:
    """The way with its steps, its time and what it leaves, by the shop's own rates."""
    to_order = 1 if way.way in (SleeveDoing.OVERSIZE, SleeveDoing.REPAIR) else 0
    cuts = () if way.parent_mm is None or fit.parent_mm is None else parent_cuts(state, fit.parent_mm, way.parent_mm)
    minutes = minutes_for(state, "sleeve") + sum(
        minutes_for(state, "parent_step") + minutes_for(state, "new_holder") * c.new_holder for c in cuts
    )
    minutes += minutes_for(state, "order_wait") * to_order
    if way.way is SleeveDoing.TOUCH_UP:
        minutes += minutes_for(state, "touch_up")
    if way.way is SleeveDoing.REPAIR:
        minutes += minutes_for(state, "sleeve")  # two seats, two sleeves
    hour, each = (state.figures.number(f"bench_time.{name}") for name in ("hour_costs", "sleeve_costs"))
    cost = minutes / 60.0 * hour + to_order * each if hour > 0.0 else None
    outside = way.outside_mm if way.way is not SleeveDoing.REPAIR else fit.sleeve.outside_mm if fit.sleeve else None
    rebuilds = None if outside is None else left_next_time(state, fit.cylinder, outside).rebuilds
    return replace(way, cuts=cuts, to_order=to_order, minutes=minutes, cost=cost, rebuilds=rebuilds)


def parent_cuts(state: JobState, from_mm: float, to_mm: float) -> tuple[ParentCut, ...]:
    """The steps in which a parent is bored out: none deeper than the shop lets one be, and one to where each cutter holder ends."""
    deepest = 2.0 * state.figures.number("sleeves.deepest_step")
    ends = [e for e in state.figures.row("sleeves.holder_ends") if from_mm < e < to_mm]
    found, at = [], from_mm
    for i, end in enumerate([*ends, to_mm]):
        many = max(math.ceil((end - at) / deepest - 1e-9), 1)
        found += [ParentCut(at + (end - at) * (n + 1) / many, i > 0 and n == 0) for n in range(many)]
        at = end
    return tuple(found)


def left_next_time(state: JobState, cylinder: int, outside_mm: float) -> NextTime:
    """What wall a finished sleeve has over its least, on diameter, and how many listed sizes that is."""
    redline = redline_of(state, cylinder)
    finish = redline.size_mm or state.block.bore_mm
    least = state.figures.number("wall.sleeve_in_aluminium" if in_aluminium(state) else "wall.dry_sleeve_in_iron")
    wall = (outside_mm - finish) / 2.0
    now, more = finish - state.block.bore_mm, 2.0 * (wall - least)
    left = sum(now + 1e-9 < r <= now + more for r in state.book_in.oversizes_mm)
    return NextTime(wall, least, more, left)


def chosen_way(state: JobState, cylinder: int) -> SleeveWay | None:
    """The way that was taken, weighed as it stands now; None: none was."""
    taken = state.sleeving.way_of(cylinder)
    if taken is None:
        return None
    return next((w for w in ways_of(state, cylinder) if w.way == taken.way), None)


def _touch_up(state: JobState, fit: SleeveFit) -> SleeveWay:
    assert fit.grip is not None and fit.sleeve is not None and fit.parent_mm is not None
    weighed, outside = _Weighing(), fit.sleeve.outside_mm
    if fit.unbored or fit.round_clock is None:
        reason = SleeveReason(SleeveWhy.PARENT_SMALL, ((fit.wanted_mm or 0.0) - fit.parent_mm,))
        return SleeveWay(SleeveDoing.TOUCH_UP, NO, (reason,), (), None, outside, 0.0, None, False)
    _gripping(state, fit.parent_mm, fit.grip.interference_mm, weighed)
    _hoop(fit.grip, weighed)
    if not fit.round_clock.stays_seated:
        weighed.worse(NO, SleeveReason(SleeveWhy.NOT_SEATED))
    elif fit.round_clock.share_without > 0.0:
        weighed.worse(MAY, SleeveReason(SleeveWhy.GRIPS_IN_PART, share=fit.round_clock.share_without))
    if fit.oval_hidden:
        weighed.worse(MAY, SleeveReason(SleeveWhy.OVAL_HIDDEN), SleeveNeed(SleeveMeasure.FOUR_ANGLES))
    _finish(state, fit, weighed)
    if weighed.standing == SURE:
        weighed.reasons.append(SleeveReason(SleeveWhy.GOES))
    return SleeveWay(
        SleeveDoing.TOUCH_UP, weighed.standing, tuple(weighed.reasons), tuple(weighed.needs), None, outside, 0.0, fit.grip,
        step_wanted(state, fit),
    )  # fmt: skip


def _hoop(grip: Grip, weighed: _Weighing) -> None:
    """Whether the pull round the parent stays under its limit."""
    mpa = (*grip.hoop_mpa, grip.hoop_limit_mpa)
    if grip.hoop is Hoop.OVER:
        weighed.worse(NO, SleeveReason(SleeveWhy.HOOP_OVER, mpa=mpa))
    elif grip.hoop is Hoop.NOT_SURE:
        weighed.worse(MAY, SleeveReason(SleeveWhy.HOOP_CLOSE, mpa=mpa), SleeveNeed(SleeveMeasure.OUTSIDE))


def _finish(state: JobState, fit: SleeveFit, weighed: _Weighing) -> None:
    """Whether what is left to finish covers the oval that the sleeve takes on."""
    redline, bore = redline_of(state, fit.cylinder), predicted_bore(fit)
    if redline.size_mm is None or bore is None:
        missing = redline.missing
        need = None if missing is None else SleeveNeed(SleeveMeasure.REDLINE, missing)
        weighed.worse(MAY, SleeveReason(SleeveWhy.NO_REDLINE, missing=missing), need)
        return
    stock = redline.size_mm - bore[1]
    if stock <= fit.oval_mm:
        weighed.worse(NO, SleeveReason(SleeveWhy.OVAL_OVER_FINISH, (fit.oval_mm, max(stock, 0.0))))
    elif stock < 2.0 * fit.oval_mm:
        weighed.worse(MAY, SleeveReason(SleeveWhy.OVAL_NEAR_FINISH, (fit.oval_mm, stock)))


def _parent_wall(state: JobState, fit: SleeveFit, parent_mm: float, weighed: _Weighing) -> None:
    """Whether the wall behind the parent stands a bore of ``parent_mm``."""
    reach, least = outer_radii(state, fit), state.figures.number("sleeves.parent_least")
    if not reach:
        weighed.worse(MAY, SleeveReason(SleeveWhy.WALL_UNREAD), SleeveNeed(SleeveMeasure.PARENT_WALL))
    elif min(reach) - parent_mm / 2.0 < least:
        left = min(reach) - parent_mm / 2.0
        weighed.worse(NO, SleeveReason(SleeveWhy.WALL_THIN if left > 0.0 else SleeveWhy.WALL_GONE, (left, least)))


def outer_radii(state: JobState, fit: SleeveFit) -> list[float]:
    """How far out the parent reaches where its wall was read, mm from its axis. A reading taken through an old sleeve
    ends at that sleeve, so only those from inside the parent count there."""
    began = min((r.seq for r in fit.rings), default=0)
    worn = shape_of(state, fit.cylinder).mean_mm
    found = []
    as_gauged = {w.seq: w.wall_mm for w in walls_as_gauged(state, fit.cylinder)}
    for w in state.gauging.wall_readings:
        if w.cylinder != fit.cylinder:
            continue
        if w.seq > began and fit.parent_mm is not None:
            found.append(fit.parent_mm / 2.0 + w.wall_mm)
        elif state.block.wall is WallKind.CAST and worn is not None:
            found.append(worn / 2.0 + as_gauged[w.seq])
    return found


def _clean_mm(state: JobState, fit: SleeveFit, way: SleeveDoing, wanted_mm: float | None = None) -> float:
    """What the parent has to be bored to so that it is round and clean everywhere it was read. Once the way is taken: by what was read
    before; and what it was bored to, where the bar went further than ``wanted_mm``."""
    skin, taken = 2.0 * state.figures.number("cleanup.skin"), state.sleeving.way_of(fit.cylinder)
    largest = max(size for ring in fit.rings for size in ring.sizes_mm)
    if taken is None or taken.way != way:
        return largest + skin
    before = [r for r in state.sleeving.parents if r.cylinder == fit.cylinder and r.seq < taken.seq]
    clean = max((size for ring in before for size in ring.sizes_mm), default=largest) + skin
    aim = wanted_mm or clean
    bored_past = (fit.parent_mm or 0.0) > aim + wanted_interference(state, aim)[1] / 4.0
    return largest if bored_past else clean


def _real_grip(state: JobState, fit: SleeveFit, way: SleeveDoing, parent_mm: float) -> bool:
    """Whether the parent is bored for a way and the sleeve for it was measured: then the grip is the one there is."""
    taken = state.sleeving.way_of(fit.cylinder)
    if taken is None or taken.way != way or way is SleeveDoing.REPAIR or fit.sleeve is None or fit.parent_mm is None:
        return False
    bored = abs(fit.parent_mm - parent_mm) <= wanted_interference(state, parent_mm)[1] / 4.0
    return bored and (way is SleeveDoing.BORE_TO_IT or fit.sleeve.seq > taken.seq)


def _gripping(state: JobState, parent_mm: float, x_mm: float, weighed: _Weighing) -> None:
    """Whether an interference is one that is wanted."""
    least, _, most = wanted_interference(state, parent_mm)
    if x_mm < least:
        weighed.worse(NO, SleeveReason(SleeveWhy.GRIPS_LITTLE, (x_mm, least - x_mm)))
    elif x_mm > most:
        weighed.worse(MAY, SleeveReason(SleeveWhy.GRIPS_MUCH, (x_mm, x_mm - most)))


def _bored(
    state: JobState, fit: SleeveFit, way: SleeveDoing, parent_mm: float, first: SleeveWhy, outside_mm: float | None = None
) -> SleeveWay:  # fmt: skip
    """A way that bores the parent: to ``parent_mm``, for a sleeve of ``outside_mm`` or one of the usual interference."""
    assert fit.parent_mm is not None and fit.sleeve is not None
    weighed, f = _Weighing(SleeveReason(first)), state.figures
    _, usual, _ = wanted_interference(state, parent_mm)
    outside = outside_mm or parent_mm + usual
    round_it = outside_when_bored(state, fit.parent_mm, parent_mm)
    metal = parent_mm - fit.parent_mm
    inner = fit.sleeve.bore_mm if way is not SleeveDoing.REPAIR else fit.sleeve.outside_mm - usual
    wall, least = (outside - inner) / 2.0, f.number("sleeves.wall_least")
    ruled_out = None
    if round_it[0] < parent_mm + 2.0 * f.number("sleeves.parent_least") - 1e-9:
        ruled_out = SleeveReason(SleeveWhy.NO_WALL_BEHIND)
    elif wall < least:
        ruled_out = SleeveReason(SleeveWhy.SLEEVE_THIN, (max(wall, 0.0), least))
    if ruled_out is not None:
        return SleeveWay(way, NO, (ruled_out,), (), parent_mm, outside, metal, None, False)
    grip = grip_of(state, parent_mm, inner, outside - parent_mm, round_it)
    if fit.grip is not None and _real_grip(state, fit, way, parent_mm):
        grip = fit.grip
        _gripping(state, fit.parent_mm, grip.interference_mm, weighed)
    _hoop(grip, weighed)
    _parent_wall(state, fit, parent_mm, weighed)
    if fit.oval_hidden:
        weighed.worse(UNKNOWN, SleeveReason(SleeveWhy.OVAL_UNKNOWN), SleeveNeed(SleeveMeasure.FOUR_ANGLES))
    return SleeveWay(
        way, weighed.standing, tuple(weighed.reasons), tuple(weighed.needs), parent_mm, outside, metal, grip, step_wanted(state, fit)
    )  # fmt: skip


def _to_the_sleeve(state: JobState, fit: SleeveFit) -> SleeveWay:
    """The parent bored to what the sleeve in hand wants."""
    assert fit.sleeve is not None and fit.wanted_mm is not None and fit.parent_mm is not None
    clean, outside = _clean_mm(state, fit, SleeveDoing.BORE_TO_IT, fit.wanted_mm), fit.sleeve.outside_mm
    if fit.wanted_mm < clean - 1e-9:
        short = SleeveReason(SleeveWhy.NOT_ROUND, (fit.wanted_mm, clean))
        metal = fit.wanted_mm - fit.parent_mm
        return SleeveWay(SleeveDoing.BORE_TO_IT, NO, (short,), (), fit.wanted_mm, outside, metal, None, False)
    return _bored(state, fit, SleeveDoing.BORE_TO_IT, fit.wanted_mm, SleeveWhy.HERE, outside)


def _oversize(state: JobState, fit: SleeveFit) -> SleeveWay:
    size = _clean_mm(state, fit, SleeveDoing.OVERSIZE)
    return _bored(state, fit, SleeveDoing.OVERSIZE, size, SleeveWhy.TO_BE_HAD)


def _repair(state: JobState, fit: SleeveFit) -> SleeveWay:
    assert fit.sleeve is not None
    size = fit.sleeve.outside_mm + 2.0 * state.figures.number("sleeves.repair_wall")
    size = max(size, _clean_mm(state, fit, SleeveDoing.REPAIR))
    return _bored(state, fit, SleeveDoing.REPAIR, size, SleeveWhy.TWO_SEATS)
