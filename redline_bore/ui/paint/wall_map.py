"""The unrolled wall: tight to open in blue, paper, ochre, with labelled contours, levels, ring travel and defects."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QImage

from redline_bore.core.block import RingTravel
from redline_bore.core.lengths import Units
from redline_bore.core.surface import wall_surface
from redline_bore.job.advice import Show
from redline_bore.job.analysis import CylinderShape, colour_scale, shape_of
from redline_bore.job.state import Defect, JobState
from redline_bore.ui.paint.pencil import CENTRE, LEFT, RIGHT, Pencil, nice_step
from redline_bore.ui.theme.theme import Theme

if TYPE_CHECKING:
    from numpy.typing import NDArray

ROWS, CLOCKS = 110, 181


@dataclass(frozen=True)
class Contour:
    """A line of equal deviation in mm: points as shares of the wall's width and height, shape (n, 2)."""

    deviation_mm: float
    points: NDArray[np.float64]


@dataclass(frozen=True)
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
    """Work out a wall for drawing (needs SciPy: off the interface thread). Contours are round
    figures in ``units``. Raises FitError with one level only."""
    shape = shape_of(state, cylinder, plate_on)
    depths = np.linspace(0.0, state.block.length_mm, ROWS)
    surface = wall_surface([v.depth_mm for v in shape.levels], [v.fit for v in shape.levels])
    clocks = np.linspace(0.0, 360.0, CLOCKS)
    grid = surface.diameter(depths, clocks) - state.block.bore_mm
    profile = np.linspace(surface.depth_mm[0], surface.depth_mm[-1], ROWS)
    return WallPicture(
        cylinder, state.block.length_mm, state.block.bore_mm, grid, level_letters(state, shape), state.travel,
        state.block.band_mm, state.defects_of(cylinder), colour_scale(state), profile,
        surface.diameter(profile, clocks) - state.block.bore_mm, contours_of(grid, units or state.units),
    )  # fmt: skip


def level_letters(state: JobState, shape: CylinderShape) -> tuple[tuple[str, float], ...]:
    """A letter for each level read that lies in the plan, none for others."""
    letters = {round(d, 1): state.plan.letter(i) for i, d in enumerate(state.plan.depths_mm)}
    return tuple((letters.get(round(v.depth_mm, 1), ""), v.depth_mm) for v in shape.levels)


def mapped_image(picture: WallPicture, theme: Theme) -> QImage:
    """The colours of the map as an image, one pixel a grid point; unknown is paper, hatched afterwards."""
    colours = np.array([c.rgb() for c in theme.map_colours()] + [theme.colour("paper").rgb()], dtype=np.uint32)
    share = np.clip(np.nan_to_num(picture.deviation_mm) / picture.scale_mm, -1.0, 1.0)
    index = np.where(np.isnan(picture.deviation_mm), len(colours) - 1, np.rint(share * 127).astype(int) + 127)
    return QImage(colours[index].tobytes(), CLOCKS, ROWS, 4 * CLOCKS, QImage.Format.Format_RGB32).copy()


def draw_wall_map(pencil: Pencil, area: QRectF, picture: WallPicture, show: Show) -> QRectF:
    """Draw the map with its scales; returns the rectangle of the wall itself."""
    px = pencil.px
    wall = area.adjusted(px(78), px(6), -px(12), -px(26))
    smooth = mapped_image(picture, pencil.theme)
    pencil.p.setRenderHint(pencil.p.RenderHint.SmoothPixmapTransform)
    pencil.p.drawImage(wall, smooth)
    _draw_unknown(pencil, wall, picture)
    _draw_contours(pencil, wall, picture, show)
    _draw_scales(pencil, area, wall, picture, show)
    for defect in picture.defects:
        _draw_defect(pencil, wall, picture, defect, show)
    pencil.rect(wall, "", "graphite")
    return wall


def _y(wall: QRectF, picture: WallPicture, depth_mm: float) -> float:
    return wall.top() + wall.height() * depth_mm / picture.length_mm


def _draw_unknown(pencil: Pencil, wall: QRectF, picture: WallPicture) -> None:
    known = np.flatnonzero(~np.isnan(picture.deviation_mm[:, 0]))
    top, bottom = (known[0], known[-1]) if known.size else (ROWS, ROWS)
    for first, last in ((0, top), (bottom, ROWS - 1)):
        if last > first:
            y1, y2 = (wall.top() + wall.height() * i / (ROWS - 1) for i in (first, last))
            pencil.hatch(QRectF(wall.left(), y1, wall.width(), y2 - y1), "rule", "rule")
            if y2 - y1 > pencil.px(14):
                pencil.label(wall.center().x(), (y1 + y2) / 2, "not read", 12, "graphite", align=CENTRE, ground="paper")


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


def _draw_contours(pencil: Pencil, wall: QRectF, picture: WallPicture, show: Show) -> None:
    for i, contour in enumerate(picture.contours):
        xs = wall.left() + contour.points[:, 0] * wall.width()
        ys = wall.top() + contour.points[:, 1] * wall.height()
        pencil.polyline(list(zip(xs.tolist(), ys.tolist(), strict=True)), "ink", 0.7)
        clear = _y(wall, picture, picture.travel.top_mm) + pencil.px(9)  # below the words at the ring stop
        if xs.max() - xs.min() > pencil.px(60) and ys[np.argmin(np.abs(xs - wall.center().x()))] > clear:
            place = int(np.argmin(np.abs(xs - wall.center().x())))
            figure = show.away(contour.deviation_mm) if contour.deviation_mm else show.size(0.0)
            at = place if i % 2 else max(place - 1, 0)
            pencil.label(xs[at], ys[at], figure, 12, "ink", align=CENTRE, ground="sheet")


def _draw_scales(pencil: Pencil, area: QRectF, wall: QRectF, picture: WallPicture, show: Show) -> None:
    px, last = pencil.px, -1e9
    for letter, depth in picture.levels:
        y = _y(wall, picture, depth)
        pencil.line(wall.left() - px(5), y, wall.left(), y, "ink")
        text = f"{letter} {show.depth(depth)}".strip()
        pencil.label(wall.left() - px(8), max(y, last + px(17)), text, 12, "graphite", align=RIGHT)
        last = max(y, last + px(17))
    for clock in range(0, 361, 45):
        x = wall.left() + wall.width() * clock / 360.0
        pencil.line(x, wall.bottom(), x, wall.bottom() + px(4), "graphite")
        name = {90: "90° thrust", 270: "270° thrust", 0: "0° front"}.get(clock, f"{clock}°")
        align = LEFT if clock == 0 else RIGHT if clock == 360 else CENTRE
        pencil.label(x, wall.bottom() + px(14), name, 12, "graphite", align=align)
    for depth, name in ((picture.travel.top_mm, "top ring stops"), (picture.travel.bottom_mm, "lowest ring turns")):
        y = _y(wall, picture, depth)
        pencil.line(wall.left(), y, wall.right(), y, "ink", 1.0, "dash")
        pencil.label(wall.right() - px(4), y, name, 12, "ink", align=RIGHT, ground="sheet")
    if picture.band_mm:
        y = _y(wall, picture, picture.band_mm)
        pencil.line(wall.left(), y, wall.right(), y, "graphite", 1.0, "dot")
        pencil.label(wall.left() + px(4), y, "hardened above", 12, "graphite", ground="sheet")


def _draw_defect(pencil: Pencil, wall: QRectF, picture: WallPicture, defect: Defect, show: Show) -> None:
    top, bottom = _y(wall, picture, defect.top_mm), _y(wall, picture, defect.bottom_mm)
    half = wall.width() * defect.width_deg / 720.0
    centre = wall.left() + wall.width() * (defect.clock_deg % 360.0) / 360.0
    for shift in (-wall.width(), 0.0, wall.width()):  # a defect across 0 degrees shows at both edges
        box = QRectF(centre + shift - half, top, 2 * half, max(bottom - top, pencil.px(4))).intersected(wall)
        if box.isEmpty():
            continue
        pencil.hatch(box, "ink", "ink")
    deep = show.size(defect.deep_high_mm) if defect.measured else f"up to {show.size(defect.deep_high_mm)}"
    pencil.label(
        centre,
        bottom + pencil.px(9),
        f"{defect.what}, {show.unit(deep)} deep",
        12,
        "ink",
        align=CENTRE,
        ground="sheet",
        crowd=False,
    )
