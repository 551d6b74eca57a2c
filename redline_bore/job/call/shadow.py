"""Where a shadow would stay on a wall for a size and an axis: for sure, or only if the wear lies all on one side."""

from __future__ import annotations

from typing import TYPE_CHECKING

from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.core.late import np
from redline_bore.core.surface import swept_surface, wall_surface
from redline_bore.core.swept_cleanup import shadow_depth
from redline_bore.job.call.finish_sizes import finish_size_at
from redline_bore.job.call.need import cut_axis, need_of
from redline_bore.job.call.sweeps import swept_used
from redline_bore.job.gauge.analysis import flaws_of, shape_of
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.gauging import Defect
from redline_bore.job.state.job_state import JobState

if TYPE_CHECKING:
    from numpy.typing import NDArray

ROWS, CLOCKS = 106, 180


@frozen(often=True)
class Shadow:
    """Depth of shadow on radius in mm over a grid of depths and clocks, shape (ROWS, CLOCKS); plus is shadow, NaN not
    known. ``sure``: there or straight across, whatever side wore; ``may``: if the wear lies all on that side. The same
    where it was swept."""

    length_mm: float
    sure_mm: NDArray[np.float64]
    may_mm: NDArray[np.float64]
    swept: bool

    @property
    def sure_share(self) -> float:
        return _share(self.sure_mm)

    @property
    def may_share(self) -> float:
        return _share(self.may_mm)


def _share(grid: NDArray[np.float64]) -> float:
    known = grid[~np.isnan(grid)]
    return float((known > 0.0).mean()) if known.size else 0.0


def is_swept(state: JobState, cylinder: int) -> bool:
    """Whether sweeps carry this cylinder's need."""
    return need_of(state, cylinder).swept is not None


def shadow_of(state: JobState, cylinder: int, size_mm: float) -> Shadow | None:
    """What a cut to ``size_mm`` in name about the axis of the practice leaves, where the hole then ends; None while the wall is not known."""
    return _shadow_at(state, cylinder, round(size_mm - state.block.bore_mm, 6))


@once_a_state
def _shadow_at(state: JobState, cylinder: int, oversize_mm: float) -> Shadow | None:
    """Of the shape that was read, pinned to the clean-up: where its high end is not reached a shadow may stay, where its low end is not
    one stays for sure. So the map never says other than the ladder."""
    cleanup, end = need_of(state, cylinder).cleanup, finish_size_at(state, cylinder, oversize_mm)
    length = state.block.length_mm
    depths, clocks = np.linspace(0.0, length, ROWS), np.arange(0.0, 360.0, 360.0 / CLOCKS)
    defects = tuple(d for d in flaws_of(state, cylinder) if d.is_cut_out)
    low, high = (_defects(defects, depths, clocks, which) for which in ("low", "high"))
    swept = is_swept(state, cylinder)
    try:
        walls = _swept_walls(state, cylinder, depths, clocks) if swept else _read_walls(state, cylinder, depths, clocks)
    except FitError:
        return None
    if cleanup is None or walls is None:
        return None
    across = (
        low if swept else np.maximum(low, np.roll(low, CLOCKS // 2, axis=1)) / 2.0
    )  # of a chord, one end or the other must reach it
    sure = _pinned(walls.sure_mm + across, cleanup.low_mm / 2.0)
    may = np.maximum(_pinned(walls.may_mm + high, cleanup.high_mm / 2.0), sure)
    return Shadow(length, shadow_depth(sure, end.most_mm, 0.0), shadow_depth(may, end.least_mm, 0.0), swept)


@frozen(often=True)
class Walls:
    """The wall's distance from the cut's axis over the grid, mm: surely, and where all the wear lay on that side."""

    sure_mm: NDArray[np.float64]
    may_mm: NDArray[np.float64]


def _swept_walls(state: JobState, cylinder: int, depths: NDArray[np.float64], clocks: NDArray[np.float64]) -> Walls:
    levels = swept_used(state, cylinder)
    fits = [v.fit for v in levels if v.fit is not None]
    surface = swept_surface([v.sweep.depth_mm for v in levels], fits, cut_axis(state, cylinder))
    radius = surface.radius(depths, clocks)
    return Walls(radius, radius)


def _read_walls(
    state: JobState, cylinder: int, depths: NDArray[np.float64], clocks: NDArray[np.float64]
) -> Walls | None:
    shape = shape_of(state, cylinder)
    if shape.wear is None:
        return None
    walls = wall_surface([v.depth_mm for v in shape.levels], [v.fit for v in shape.levels]).diameter(depths, clocks)
    reference = shape.wear.reference_mm
    return Walls(walls / 2.0, reference / 2.0 + np.maximum(walls - reference, 0.0))


def _pinned(grid: NDArray[np.float64], most_mm: float) -> NDArray[np.float64]:
    """The grid moved so that its largest is ``most_mm``."""
    found: NDArray[np.float64] = grid + (most_mm - float(np.nanmax(grid)))
    return found


def _defects(
    defects: tuple[Defect, ...], depths: NDArray[np.float64], clocks: NDArray[np.float64], end: str
) -> NDArray[np.float64]:
    """What defects add on radius over the grid, mm."""
    grid = np.zeros((depths.size, clocks.size))
    for d in defects:
        rows = (depths >= d.top_mm) & (depths <= d.bottom_mm)
        turn = np.abs((clocks - d.clock_deg + 180.0) % 360.0 - 180.0) <= d.width_deg / 2.0
        deep = d.deep_low_mm if end == "low" else d.deep_high_mm
        grid[np.ix_(rows, turn)] = np.maximum(grid[np.ix_(rows, turn)], deep)
    return grid
