"""Every figure of a trace at once (ISO 21920-2, ISO 13565-2 and -3; methods 14). Heights in um."""

from __future__ import annotations

from collections.abc import Callable
from enum import StrEnum
from functools import cached_property
from typing import TYPE_CHECKING

from redline_bore.core.field import field
from redline_bore.core.frozen import frozen
from redline_bore.core.late import np
from redline_bore.core.texture.curve import RkFamily, family_of
from redline_bore.core.texture.probability import Paper, paper_of
from redline_bore.core.texture.profile import CUTOFF_MM, Profile, Trace, height_step, profile_of, spread

if TYPE_CHECKING:
    from numpy.typing import NDArray

    Array = NDArray[np.float64]

SECTIONS = 5
FINE_STEP_UM = 0.05  # heights in steps no coarser than that read as if they were exact
SPIKE_SHARE, SPIKE_UM = 2.5, 1.0  # the highest point stands out so many times the height of the next high place


@frozen
class TextureFigures:
    """A trace's figures. um; Rsk, Rku without unit; Mr1, Mr2, Rmq in percent.

    flags: "arc" (a parabola was taken out), "rk_short" (the family rests on less than 4 mm), "spike" (one place
    stands out: dirt perhaps; it is in the figures as it was traced), "coarse" (heights come in steps, ``height_step_um``, and were spread over them).
    """

    Ra: float
    Rq: float
    Rz: float
    Rt: float
    Rsk: float
    Rku: float
    family: RkFamily
    paper: Paper
    flags: tuple[str, ...]
    height_step_um: float


@frozen
class Texture(TextureFigures):
    """A trace's figures with the profile they were read from, which is worked out where it is drawn."""

    read: Callable[[], Profile] = field(compare=False, repr=False)

    @cached_property
    def profile(self) -> Profile:
        """The profile."""
        return self.read()

    def value(self, name: str) -> float | None:
        """A figure by its name in PARAMETERS; None where the trace has none. Raises KeyError where there is no such figure."""
        return PARAMETERS[name].of(self)


class Counted(StrEnum):
    """What a figure is counted in."""

    HEIGHT = "um"
    NOTHING = ""
    SHARE = "%"
    AREA = "um3/um2"
    OIL = "mm3/cm2"


@frozen(often=True)
class Parameter:
    """A figure of a trace as it is declared: what it is counted in and how it is had."""

    counted: Counted
    of: Callable[[TextureFigures], float | None]


PARAMETERS = {
    "Ra": Parameter(Counted.HEIGHT, lambda t: t.Ra),
    "Rq": Parameter(Counted.HEIGHT, lambda t: t.Rq),
    "Rz": Parameter(Counted.HEIGHT, lambda t: t.Rz),
    "Rt": Parameter(Counted.HEIGHT, lambda t: t.Rt),
    "Rsk": Parameter(Counted.NOTHING, lambda t: t.Rsk),
    "Rku": Parameter(Counted.NOTHING, lambda t: t.Rku),
    "Rk": Parameter(Counted.HEIGHT, lambda t: t.family.Rk),
    "Rpk": Parameter(Counted.HEIGHT, lambda t: t.family.Rpk),
    "Rvk": Parameter(Counted.HEIGHT, lambda t: t.family.Rvk),
    "Mr1": Parameter(Counted.SHARE, lambda t: t.family.Mr1),
    "Mr2": Parameter(Counted.SHARE, lambda t: t.family.Mr2),
    "A1": Parameter(Counted.AREA, lambda t: t.family.A1),
    "A2": Parameter(Counted.AREA, lambda t: t.family.A2),
    "Vo": Parameter(Counted.OIL, lambda t: t.family.Vo),
    "Rpq": Parameter(Counted.HEIGHT, lambda t: t.paper.Rpq),
    "Rvq": Parameter(Counted.HEIGHT, lambda t: t.paper.Rvq),
    "Rmq": Parameter(Counted.SHARE, lambda t: t.paper.Rmq),
}


def unit_of(name: str) -> str:
    """The unit a figure is worked out in, as files have it: um (areas: um3 over um2), %, mm3/cm2 for the oil; shapes have none."""
    counted = PARAMETERS[name].counted
    return str(Counted.HEIGHT if counted is Counted.AREA else counted)


def texture_of(trace: Trace, form_order: int | None = None) -> Texture:
    """All figures of a trace. form_order None: an arc is looked for and taken out."""
    coarse = _coarse(trace)
    p = profile_read(trace, form_order)
    z = p.roughness
    square = z * z
    rq2 = float(square.mean())
    rq = float(np.sqrt(rq2))
    flags = ("arc",) * (p.form_order == 2) + ("rk_short",) * p.family_short + ("spike",) * _spike(z, p.step_um)
    flags += ("coarse",) * bool(coarse)
    return Texture(
        float(np.abs(z).mean()), rq, section_depth(z, p.step_um), float(np.ptp(z)),
        float((square * z).mean()) / (rq2 * rq) if rq > 0.0 else 0.0,
        float((square * square).mean()) / (rq2 * rq2) if rq > 0.0 else 0.0,
        family_of(p.family), paper_of(p.family), flags, coarse, lambda: p,
    )  # fmt: skip


def profile_read(trace: Trace, form_order: int | None = None) -> Profile:
    """The profile that a trace's figures are read from: heights that come in coarse steps are spread over them first."""
    coarse = _coarse(trace)
    return profile_of(Trace(trace.step_um, spread(trace.heights_um, coarse)) if coarse else trace, form_order)


def _coarse(trace: Trace) -> float:
    """The step of the heights, um, where it is one that shows; else 0."""
    step = height_step(trace.heights_um)
    return step if step > FINE_STEP_UM else 0.0


def section_depth(z: Array, step_um: float) -> float:
    """Rz: the mean over five sections of a cutoff each of highest less lowest (ISO 21920-2)."""
    each = int(round(CUTOFF_MM * 1000.0 / step_um))
    return float(np.mean([np.ptp(z[i * each : (i + 1) * each + 1]) for i in range(SECTIONS)]))


def _spike(z: Array, step_um: float) -> bool:
    """Whether one place stands out far above every other: the highest point against the highest 0.1 mm away from it."""
    top = int(np.argmax(z))
    away = int(round(100.0 / step_um))
    rest = np.concatenate((z[: max(0, top - away)], z[top + away + 1 :]))
    if len(rest) == 0:
        return False
    return bool(z[top] > SPIKE_UM and z[top] > SPIKE_SHARE * float(rest.max()))
