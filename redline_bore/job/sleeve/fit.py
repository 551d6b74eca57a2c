"""A measured sleeve in its measured parent: grip cold and hot, what it does to both, what is not known (methods 9)."""

from __future__ import annotations

from enum import Enum, auto

from redline_bore.core.block import Bottom
from redline_bore.core.frozen import frozen, replace
from redline_bore.core.oval_parent import OvalGrip, oval_grip
from redline_bore.core.press_fit import Material, PressFit
from redline_bore.core.shape import LevelFit, fit_level
from redline_bore.job.kinds.folding import parent_material
from redline_bore.job.missing import Lack, Missing
from redline_bore.job.profiles.duty import duty
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.job_state import JobState
from redline_bore.job.state.sleeving import NewSleeve, ParentRing

_NAMES = {
    "grey_iron": "iron", "compacted_iron": "compacted", "ductile_iron": "ductile", "steel": "steel",
    "aluminium_hypo": "aluminium", "aluminium_hyper": "aluminium",
}  # fmt: skip

Range = tuple[float, float]


class Hoop(Enum):
    """The pull round the parent against its limit, over the range its outside may have."""

    UNDER = auto()
    NOT_SURE = auto()
    OVER = auto()


class Holder(Enum):
    """What holds a sleeve along the axis when the grip does not."""

    FLANGE = auto()
    STEP = auto()  # left at the bottom
    BLIND_BOTTOM = auto()


@frozen(often=True)
class Grip:
    """What an interference does, each as a range for the uncertain outside of the parent (low, high).

    Interference in mm on diameter, stress in MPa, push along the axis in N, ``closes_mm`` on the sleeve's bore.
    hot_c: the wall at this duty, ``block_c`` the block behind it; ``lost_c``: where the grip is gone if both were as hot,
    None: never by heating both.
    """

    interference_mm: float
    pressure_mpa: Range
    hoop_mpa: Range
    hoop_limit_mpa: float
    closes_mm: Range
    push_n: Range
    hot_c: float
    block_c: float
    hot_interference_mm: float
    hot_push_n: Range
    lost_c: float | None

    @property
    def hoop(self) -> Hoop:
        """The parent's stress against its limit."""
        if self.hoop_mpa[0] > self.hoop_limit_mpa:
            return Hoop.OVER
        return Hoop.UNDER if self.hoop_mpa[1] <= self.hoop_limit_mpa else Hoop.NOT_SURE


@frozen(often=True)
class SleeveFit:
    """A cylinder's sleeve and parent. ``missing``: what has to be measured first; then there is no grip.

    worst: the ring that is most out of round, its fit, the grip round the clock there. ``oval_hidden``: too few angles
    were read to see an oval. least_mm, most_mm: interference over the wall as the figures alone leave it.
    wanted_mm: the parent that the sleeve in hand wants, its outside less the usual interference. unbored: the parent is far smaller
    than that; then the grip is that of a parent bored to it, and none is drawn round the clock.
    """

    cylinder: int
    rings: tuple[ParentRing, ...]
    sleeve: NewSleeve | None
    missing: Missing | None
    parent_mm: float | None = None
    worst: LevelFit | None = None
    worst_depth_mm: float = 0.0
    round_clock: OvalGrip | None = None
    oval_hidden: bool = False
    least_mm: float = 0.0
    most_mm: float = 0.0
    grip: Grip | None = None
    wanted_mm: float | None = None
    unbored: bool = False

    @property
    def oval_mm(self) -> float:
        """How far out of round the parent is where it is worst, on diameter."""
        if self.worst is None:
            return 0.0
        return self.worst.out_of_round_whole_fit_mm or self.worst.out_of_round_raw_mm


def metal(state: JobState, name: str) -> Material:
    """A metal by its name in the figures."""
    f, short = state.figures, _NAMES[name]
    return Material(
        1000.0 * f.number(f"sleeves.{short}_modulus"), f.number(f"sleeves.{short}_poisson"), f.number(f"thermal.{name}")
    )


def parent_metal(state: JobState) -> Material:
    return metal(state, parent_material(state.block.material))


def hoop_limit(state: JobState) -> float:
    """The most pull round the parent, MPa."""
    return state.figures.number(f"sleeves.{_NAMES[parent_material(state.block.material)]}_hoop")


def in_aluminium(state: JobState) -> bool:
    return parent_material(state.block.material).startswith("aluminium")


def wanted_interference(state: JobState, interface_mm: float) -> tuple[float, float, float]:
    """Least, usual and most interference in mm at a diameter, scaled from the reference bore."""
    row = state.figures.row(f"sleeves.{'aluminium' if in_aluminium(state) else 'iron'}_interference")
    scale = interface_mm / state.figures.number("sleeves.reference_bore")
    return row[0] * scale, row[1] * scale, row[2] * scale


def outside_range(state: JobState, interface_mm: float) -> Range:
    """Effective outside of the parent, mm: as stated, else a range over its bore."""
    stated = state.sleeving.outside
    if stated is not None:
        return stated.low_mm, stated.high_mm
    low, high = state.figures.row("sleeves.outside_more")
    return interface_mm + low, interface_mm + high


def hot_c(state: JobState) -> float:
    """The wall's temperature at this duty; the nearest duty that has one."""
    return state.figures.row(f"duty.{duty(state.book_in.duty).heat}")[0]


def outside_when_bored(state: JobState, parent_mm: float, to_mm: float) -> Range:
    """The outside of a parent of ``parent_mm`` that is bored to ``to_mm``: the bar takes nothing off it. As a guess it never says less
    than the least wall of a parent; stated, it stands."""
    low, high = outside_range(state, parent_mm)
    if state.sleeving.outside is not None:
        return low, high
    least = to_mm + 2.0 * state.figures.number("sleeves.parent_least")
    return max(low, least), max(high, least)


def grip_of(
    state: JobState, interface_mm: float, sleeve_bore_mm: float, interference_mm: float, outside: Range | None = None
) -> Grip:
    """What an interference does in this block. outside: effective outside of the parent, mm, where the bar has yet to reach the interface.

    Raises InputError when the sizes do not grow outwards.
    """
    sleeve, parent, hot = metal(state, "grey_iron"), parent_metal(state), hot_c(state)
    fits = [
        PressFit(interface_mm, sleeve_bore_mm, o, sleeve, parent) for o in outside or outside_range(state, interface_mm)
    ]
    cold = [fit.pressure_mpa(interference_mm) for fit in fits]
    behind = hot - state.figures.number("sleeves.parent_cooler")
    x_hot = fits[0].hot_interference_mm(interference_mm, hot, behind)
    warm = [fit.pressure_mpa(x_hot) for fit in fits]
    mu, length = state.figures.number("sleeves.friction"), state.block.length_mm
    return Grip(
        interference_mm,
        _range(cold),
        _range([fit.parent_hoop_mpa(p) for fit, p in zip(fits, cold, strict=True)]),
        hoop_limit(state),
        _range([fit.closes_mm(p) for fit, p in zip(fits, cold, strict=True)]),
        _range([fit.push_n(p, mu, length) for fit, p in zip(fits, cold, strict=True)]),
        hot,
        behind,
        x_hot,
        _range([fit.push_n(p, mu, length) for fit, p in zip(fits, warm, strict=True)]),
        fits[0].grip_lost_c(interference_mm),
    )


def _range(values: list[float]) -> Range:
    return min(values), max(values)


def parent_wanted(state: JobState, outside_mm: float) -> float:
    """The parent that a sleeve of ``outside_mm`` wants, mm: its outside less the usual interference."""
    per_mm = wanted_interference(state, 1.0)[1]
    return outside_mm / (1.0 + per_mm)


@once_a_state
def fit_of(state: JobState, cylinder: int) -> SleeveFit:
    """The fit of a cylinder as measured."""
    rings, sleeve = state.sleeving.parent_of(cylinder), state.sleeving.sleeve_of(cylinder)
    wanted = None if sleeve is None else parent_wanted(state, sleeve.outside_mm)
    if not rings:
        return SleeveFit(cylinder, rings, sleeve, Missing(Lack.PARENT, cylinder), wanted_mm=wanted)
    levels = [fit_level(r.clocks_deg, r.sizes_mm) for r in rings]
    at = max(range(len(levels)), key=lambda i: levels[i].out_of_round_raw_mm)
    mean, hidden = sum(v.mean_mm for v in levels) / len(levels), any(v.oval_may_hide for v in levels)
    known = SleeveFit(
        cylinder, rings, sleeve, Missing(Lack.NEW_SLEEVE, cylinder), mean, levels[at], rings[at].depth_mm, None, hidden,
        wanted_mm=wanted,
    )  # fmt: skip
    if sleeve is None or wanted is None:
        return known
    outside = sleeve.outside_mm
    if outside - mean > state.figures.number("sleeves.unbored_from") * wanted_interference(state, mean)[2]:
        return _bored_for_it(state, known, sleeve, wanted)
    if not sleeve.bore_mm < mean < outside_range(state, mean)[0]:
        return replace(known, missing=Missing(Lack.DO_NOT_GO, cylinder))
    fit = PressFit(
        mean, sleeve.bore_mm, sum(outside_range(state, mean)) / 2.0, metal(state, "grey_iron"), parent_metal(state)
    )
    grips = [oval_grip(v, outside, fit) for v in levels]
    return SleeveFit(
        cylinder, rings, sleeve, None, mean, levels[at], rings[at].depth_mm, grips[at], hidden,
        min(float(g.interference_mm.min()) for g in grips), max(float(g.interference_mm.max()) for g in grips),
        grip_of(state, mean, sleeve.bore_mm, outside - mean), wanted,
    )  # fmt: skip


def _bored_for_it(state: JobState, known: SleeveFit, sleeve: NewSleeve, wanted_mm: float) -> SleeveFit:
    """A parent that is far smaller than the sleeve in hand wants: what they come to once it is bored to it."""
    outside = outside_when_bored(state, known.parent_mm or wanted_mm, wanted_mm)
    if not sleeve.bore_mm < wanted_mm < outside[0]:
        return replace(known, missing=Missing(Lack.NO_REACH, known.cylinder))
    x = sleeve.outside_mm - wanted_mm
    grip = grip_of(state, wanted_mm, sleeve.bore_mm, x, outside)
    return replace(known, missing=None, least_mm=x, most_mm=x, grip=grip, unbored=True)


def predicted_bore(fit: SleeveFit) -> Range | None:
    """The sleeve's bore once it is in, mm: low and high; None while the fit is not known."""
    if fit.sleeve is None or fit.grip is None:
        return None
    return fit.sleeve.bore_mm - fit.grip.closes_mm[1], fit.sleeve.bore_mm - fit.grip.closes_mm[0]


def step_wanted(state: JobState, fit: SleeveFit) -> bool:
    """Whether a step should be left at the bottom: open, without a flange, and the grip alone would not hold it hot."""
    if fit.grip is None or fit.sleeve is None or fit.sleeve.flange_mm is not None:
        return False
    return state.block.bottom is Bottom.OPEN and fit.grip.hot_push_n[0] < state.figures.number("sleeves.hold_least")


def held_by(state: JobState, fit: SleeveFit) -> Holder | None:
    """What holds the sleeve along the axis when the grip does not; None: nothing does."""
    way = state.sleeving.way_of(fit.cylinder)
    if fit.sleeve is not None and fit.sleeve.flange_mm is not None:
        return Holder.FLANGE
    if way is not None and way.step_left:
        return Holder.STEP
    return Holder.BLIND_BOTTOM if state.block.bottom is Bottom.BLIND else None
