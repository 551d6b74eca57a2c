"""A wall worked out for drawing: a grid of deviations with its contours. No painting here, and SciPy: off the thread.

Kinds of wall: as gauged with the plate on or off, the difference the plate makes (all on diameter), and as swept
(on radius, about the axis of the largest plug that goes in).
"""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from redline_bore.core.block import RingTravel
from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.core.late import np
from redline_bore.core.lengths import Units
from redline_bore.core.surface import WallSurface, swept_surface, wall_surface
from redline_bore.job.gauge.analysis import CylinderShape, colour_scale, shape_of
from redline_bore.job.gauge.round import axis_of, swept_levels
from redline_bore.job.state.gauging import Defect
from redline_bore.job.state.job_state import JobState
from redline_bore.ui.paint.pencil import nice_step

if TYPE_CHECKING:
    from numpy.typing import NDArray

ROWS, CLOCKS = 110, 181
KINDS = ("now", "on", "off", "plate", "swept")


@frozen
class WallKey:
    """Which wall: its kind and its cylinder."""

    kind: str
    cylinder: int


@frozen
class Contour:
    """A line of equal deviation in mm: points as shares of the wall's width and height, shape (n, 2)."""

    deviation_mm: float
    points: NDArray[np.float64]


@frozen
class WallPicture:
    """A wall ready to be drawn: deviations from the reference in mm, shape (ROWS, CLOCKS), NaN where not known."""

    cylinder: int
    length_mm: float
    reference_mm: float
    deviation_mm: NDArray[np.float64]
    levels: tuple[tuple[str, float], ...]
    travel: RingTravel
    band_mm: float | None
    defects: tuple[Defect, ...]
    scale_mm: float
    profile_depths_mm: NDArray[np.float64]  # from the shallowest to the deepest level read
    profile_mm: NDArray[np.float64]  # deviations there, shape (len(profile_depths_mm), CLOCKS)
    contours: tuple[Contour, ...]
    kind: str = "now"

    def at(self, depth_mm: float, clock_deg: float) -> float | None:
        """Deviation in mm at a place, None where the wall is not known."""
        row = round(depth_mm / self.length_mm * (ROWS - 1))
        column = round((clock_deg % 360.0) / 360.0 * (CLOCKS - 1))
        if not 0 <= row < ROWS:
            return None
        value = float(self.deviation_mm[row, column])
        return None if np.isnan(value) else value


def wall_picture(
    state: JobState, cylinder: int, plate_on: bool | None = None, units: Units | None = None
) -> WallPicture:
    """The wall as gauged. Contours are round figures in ``units``. Raises FitError with one level only."""
    shape = shape_of(state, cylinder, plate_on)
    surface = wall_surface([v.depth_mm for v in shape.levels], [v.fit for v in shape.levels])
    nominal = state.block.bore_mm
    return _picture(
        state, cylinder, "now", lambda z, t: surface.diameter(z, t) - nominal, surface.depth_mm,
        level_letters(state, [v.depth_mm for v in shape.levels]), colour_scale(state), units,
    )  # fmt: skip


def plate_picture(state: JobState, cylinder: int, units: Units | None = None) -> WallPicture:
    """Plate on less plate off. Raises FitError when it was not gauged both ways at two levels."""
    on, off = (_surface_of(shape_of(state, cylinder, plate), plate) for plate in (True, False))
    depths = tuple(d for d in on.depth_mm if off.depth_mm[0] - 0.5 <= d <= off.depth_mm[-1] + 0.5)
    if len(depths) < 2:
        raise FitError("The plate's map needs two levels read both ways")
    scale = max((abs(m) for c in state.cylinders for m in _moved(state, c)), default=0.002)
    return _picture(
        state, cylinder, "plate", lambda z, t: on.diameter(z, t) - off.diameter(z, t), depths,
        level_letters(state, depths), max(scale, 0.002), units,
    )  # fmt: skip


def _moved(state: JobState, cylinder: int) -> list[float]:
    from redline_bore.job.gauge.plate import plate_map

    return [m for level in plate_map(state, cylinder).levels for m in level.moved.moved_mm]


def _surface_of(shape: CylinderShape, plate_on: bool) -> WallSurface:
    if len(shape.levels) < 2:
        raise FitError(f"It was not gauged with the plate {'on' if plate_on else 'off'} at two levels")
    return wall_surface([v.depth_mm for v in shape.levels], [v.fit for v in shape.levels])


def swept_picture(state: JobState, cylinder: int, plate_on: bool | None, units: Units | None = None) -> WallPicture:
    """The wall as swept, on radius about the largest plug that goes in: wear leaves its axis alone. Raises FitError with one sweep only."""
    swept = [v for v in swept_levels(state, cylinder, plate_on) if v.fit is not None]
    axis, why = axis_of(state, cylinder, plate_on)
    if axis is None:
        raise FitError(why)
    depths = [v.sweep.depth_mm for v in swept]
    surface = swept_surface(depths, [v.fit for v in swept if v.fit is not None], axis.plug_axis)
    scale = max(abs(np.ptp(v.sweep.radius_mm)) for v in swept)
    return _picture(
        state, cylinder, "swept", lambda z, t: surface.radius(z, t) - state.block.bore_mm / 2.0, tuple(depths),
        level_letters(state, depths), max(float(scale), 0.005), units,
    )  # fmt: skip


def wall_of(state: JobState, key: WallKey, units: Units | None = None) -> WallPicture:
    """The wall that a key names. Raises FitError with the reason where there is none."""
    if key.kind == "plate":
        return plate_picture(state, key.cylinder, units)
    if key.kind == "swept":
        return swept_picture(state, key.cylinder, state.clamped.plate_on, units)
    return wall_picture(state, key.cylinder, {"on": True, "off": False}.get(key.kind, state.clamped.plate_on), units)


def _picture(
    state: JobState, cylinder: int, kind: str, deviation: Callable[..., NDArray[np.float64]], depths: tuple[float, ...],
    letters: tuple[tuple[str, float], ...], scale_mm: float, units: Units | None,
) -> WallPicture:  # fmt: skip
    clocks = np.linspace(0.0, 360.0, CLOCKS)
    grid = deviation(np.linspace(0.0, state.block.length_mm, ROWS), clocks)
    profile = np.linspace(depths[0], depths[-1], ROWS)
    return WallPicture(
        cylinder, state.block.length_mm, state.block.bore_mm, grid, letters, state.travel, state.block.band_mm,
        state.gauging.defects_of(cylinder), scale_mm, profile, deviation(profile, clocks),
        contours_of(grid, units or state.units), kind,
    )  # fmt: skip


def level_letters(state: JobState, depths_mm: list[float] | tuple[float, ...]) -> tuple[tuple[str, float], ...]:
    """A letter for each level read that lies in the plan, none for others."""
    letters = {round(d, 1): state.gauging.plan.letter(i) for i, d in enumerate(state.gauging.plan.depths_mm)}
    return tuple((letters.get(round(d, 1), ""), d) for d in depths_mm)


def contours_of(grid: NDArray[np.float64], units: Units) -> tuple[Contour, ...]:
    """Contours at round figures of ``units``, about six of them, no finer than the last digit shown."""
    from contourpy import contour_generator

    low, high, unit = float(np.nanmin(grid)), float(np.nanmax(grid)), float(units.mm)
    finest = 0.001 if units is Units.METRIC else 0.0001
    step = max(nice_step((high - low) / unit, 6), finest) * unit
    generator = contour_generator(z=np.ma.masked_invalid(grid))
    size = np.array([CLOCKS - 1.0, ROWS - 1.0])
    return tuple(
        Contour(k * step, line / size)
        for k in range(int(np.ceil(low / step)), int(np.floor(high / step)) + 1)
        for line in generator.lines(k * step)
    )
