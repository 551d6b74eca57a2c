"""What can be done about a sleeve and a parent that do not quite match, ranked (methods 9)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from redline_bore.core.block import WallKind
from redline_bore.core.show import Show
from redline_bore.job.call.option import MAY, NO, RANK, SURE, UNKNOWN, Standing, Weighed
from redline_bore.job.gauge.analysis import shape_of
from redline_bore.job.redline import redline_of
from redline_bore.job.sleeve.fit import (
    Grip,
    SleeveFit,
    fit_of,
    grip_of,
    outside_range,
    predicted_bore,
    step_wanted,
    wanted_interference,
)
from redline_bore.job.state.job_state import JobState


class SleeveDoing(StrEnum):
    """What is done about a sleeve and its parent. The words stand in ledgers: they are kept."""

    TOUCH_UP = "touch up"
    OVERSIZE = "oversize outside"
    REPAIR = "repair sleeve"


@dataclass(frozen=True)
class SleeveWay:
    """One way. parent_mm: what the parent is bored to (None: it stays). outside_mm: the sleeve it needs. metal_mm: what
    the parent gives on diameter. grip None: not known yet."""

    way: SleeveDoing
    standing: Standing
    reasons: tuple[str, ...]
    needs: tuple[str, ...]
    parent_mm: float | None
    outside_mm: float | None
    metal_mm: float
    grip: Grip | None
    step: bool

    @property
    def title(self) -> str:
        """What it is called on the page."""
        return {
            SleeveDoing.TOUCH_UP: "Go on, true it up in the hone",
            SleeveDoing.OVERSIZE: "Bore the parent, oversize sleeve",
            SleeveDoing.REPAIR: "Repair sleeve under the sleeve",
        }[self.way]

    @property
    def rank(self) -> tuple[int, float]:
        return RANK[self.standing], self.metal_mm


class _Weighing:
    """How a way stands while what speaks against it is gathered; what rules it out comes first."""

    def __init__(self, reasons: Sequence[str] = ()) -> None:
        self.standing: Standing = SURE
        self.reasons, self.needs = list(reasons), list[str]()

    def worse(self, to: Standing, reason: str, need: str = "") -> None:
        """Something speaks against it; ``need``: what to measure to know better."""
        self.standing = max(self.standing, to, key=lambda s: RANK[s])
        self.reasons.insert(0 if to == NO else len(self.reasons), reason)
        if need:
            self.needs.append(need)

    @property
    def told(self) -> Weighed:
        """What it came to."""
        return Weighed(self.standing, tuple(self.reasons), tuple(self.needs))


def ways_of(state: JobState, cylinder: int) -> tuple[SleeveWay, ...]:
    """Every way for a cylinder, the best first; empty while parent or sleeve are not measured."""
    fit = fit_of(state, cylinder)
    if fit.grip is None or fit.sleeve is None or fit.worst is None:
        return ()
    found = (_touch_up(state, fit), _oversize(state, fit), _repair(state, fit))
    return tuple(sorted(found, key=lambda w: w.rank))


def chosen_way(state: JobState, cylinder: int) -> SleeveWay | None:
    """The way that was taken, weighed as it stands now; None: none was."""
    taken = state.sleeving.way_of(cylinder)
    if taken is None:
        return None
    return next((w for w in ways_of(state, cylinder) if w.way == taken.way), None)


def _touch_up(state: JobState, fit: SleeveFit) -> SleeveWay:
    assert fit.grip is not None and fit.sleeve is not None and fit.parent_mm is not None and fit.round_clock is not None
    show, weighed = Show(state.units), _Weighing()
    least, _, most = wanted_interference(state, fit.parent_mm)
    x = fit.grip.interference_mm

    if x < least:
        weighed.worse(NO, f"it grips by {show.size(x)}, {show.size(least - x)} too little")
    elif x > most:
        weighed.worse(MAY, f"it grips by {show.size(x)}, {show.size(x - most)} more than usual")
    _hoop(fit.grip, weighed, show)
    if not fit.round_clock.stays_seated:
        weighed.worse(NO, "where the parent is widest nothing presses the sleeve, even bent after it")
    elif fit.round_clock.share_without > 0.0:
        share = fit.round_clock.share_without
        weighed.worse(MAY, f"by figures {share:.0%} of the wall does not grip; a thin sleeve bends after it")
    if fit.oval_hidden:
        weighed.worse(MAY, "too few angles were read to see an oval", "read the parent at four angles or more")
    _finish(state, fit, show, weighed)
    if weighed.standing == SURE:
        weighed.reasons.append("it grips all round, the parent is under its limit, the finish takes the oval out")
    told = weighed.told
    return SleeveWay(
        SleeveDoing.TOUCH_UP, told.standing, told.reasons, told.needs, None, fit.sleeve.outside_mm, 0.0, fit.grip,
        step_wanted(state, fit),
    )  # fmt: skip


def _hoop(grip: Grip, weighed: _Weighing, show: Show) -> None:
    told = f"the pull round the parent, {show.stress(*grip.hoop_mpa)},"
    if grip.hoop_word == "over":
        weighed.worse(NO, f"{told} is over its {show.stress(grip.hoop_limit_mpa)}")
    elif grip.hoop_word == "not sure":
        weighed.worse(
            MAY,
            f"{told} may pass its {show.stress(grip.hoop_limit_mpa)}",
            "find the parent's outside: outside 110 to 120",
        )


def _finish(state: JobState, fit: SleeveFit, show: Show, weighed: _Weighing) -> None:
    """Whether what is left to finish covers the oval that the sleeve takes on."""
    redline, bore = redline_of(state, fit.cylinder), predicted_bore(fit)
    if redline.size_mm is None or bore is None:
        weighed.worse(MAY, f"the redline is not known: {redline.missing}", redline.missing)
        return
    stock = redline.size_mm - bore[1]
    if stock <= fit.oval_mm:
        weighed.worse(
            NO,
            f"its bore goes oval by {show.size(fit.oval_mm)} and only {show.size(max(stock, 0.0))} is left to finish",
        )
    elif stock < 2.0 * fit.oval_mm:
        weighed.worse(
            MAY, f"its bore goes oval by {show.size(fit.oval_mm)}; {show.size(stock)} to finish is little for it"
        )


def _parent_wall(state: JobState, fit: SleeveFit, parent_mm: float, weighed: _Weighing) -> None:
    """Whether the wall behind the parent stands a bore of ``parent_mm``."""
    reach, least = outer_radii(state, fit), state.figures.number("sleeves.parent_least")
    if not reach:
        weighed.worse(
            MAY, "the wall behind the parent was not read", "read the parent's wall from inside it, in the gauge step"
        )
    elif min(reach) - parent_mm / 2.0 < least:
        left, show = min(reach) - parent_mm / 2.0, Show(state.units)
        told = f"only {show.rough(left)} of parent would stand" if left > 0.0 else "nothing of the parent would stand"
        weighed.worse(NO, f"{told}, {show.rough(least)} is the least")


def outer_radii(state: JobState, fit: SleeveFit) -> list[float]:
    """How far out the parent reaches where its wall was read, mm from its axis. A reading taken through an old sleeve
    ends at that sleeve, so only those from inside the parent count there."""
    began = min((r.seq for r in fit.rings), default=0)
    worn = shape_of(state, fit.cylinder).mean_mm
    found = []
    for w in state.gauging.wall_readings:
        if w.cylinder != fit.cylinder:
            continue
        if w.seq > began and fit.parent_mm is not None:
            found.append(fit.parent_mm / 2.0 + w.wall_mm)
        elif state.block.wall is WallKind.CAST and worn is not None:
            found.append(worn / 2.0 + w.wall_mm)
    return found


def _clean_mm(state: JobState, fit: SleeveFit) -> float:
    """What the parent has to be bored to so that it is round and clean everywhere it was read."""
    largest = max(size for ring in fit.rings for size in ring.sizes_mm)
    return largest + 2.0 * state.figures.number("cleanup.skin")


def _bored(state: JobState, fit: SleeveFit, way: SleeveDoing, parent_mm: float, extra: str) -> SleeveWay:
    assert fit.parent_mm is not None and fit.sleeve is not None
    weighed = _Weighing([extra])

    _, usual, _ = wanted_interference(state, parent_mm)
    outside = parent_mm + usual
    if outside_range(state, parent_mm)[0] <= parent_mm + 2.0 * state.figures.number("sleeves.parent_least"):
        thin = "the parent's outside leaves no wall behind so large a bore"
        return SleeveWay(way, NO, (thin,), (), parent_mm, outside, parent_mm - fit.parent_mm, None, False)
    inner = fit.sleeve.bore_mm if way is not SleeveDoing.REPAIR else fit.sleeve.outside_mm - usual
    grip = grip_of(state, parent_mm, inner, usual)
    _hoop(grip, weighed, Show(state.units))
    _parent_wall(state, fit, parent_mm, weighed)
    if fit.oval_hidden:
        weighed.worse(UNKNOWN, "the parent's oval is not known", "read the parent at four angles or more")
    told = weighed.told
    return SleeveWay(
        way, told.standing, told.reasons, told.needs, parent_mm, outside, parent_mm - fit.parent_mm, grip,
        step_wanted(state, fit),
    )  # fmt: skip


def _oversize(state: JobState, fit: SleeveFit) -> SleeveWay:
    return _bored(
        state, fit, SleeveDoing.OVERSIZE, _clean_mm(state, fit), "parent round again; the sleeve has to be had"
    )


def _repair(state: JobState, fit: SleeveFit) -> SleeveWay:
    assert fit.sleeve is not None
    size = fit.sleeve.outside_mm + 2.0 * state.figures.number("sleeves.repair_wall")
    return _bored(
        state, fit, SleeveDoing.REPAIR, max(size, _clean_mm(state, fit)), "keeps the sleeve at hand; two seats to cut"
    )
