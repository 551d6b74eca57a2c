"""Down the wall: the hole's profile along chosen chords, magnified, with ring travel and levels."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRectF

from redline_bore.core.frozen import frozen
from redline_bore.core.late import np
from redline_bore.core.show import Show
from redline_bore.ui.paint.pencil import CENTRE, RIGHT, Pencil, ticks
from redline_bore.ui.paint.wall_picture import CLOCKS, WallPicture

CHORDS = ((90.0, "thrust 90–270°", "ink", 2.0, ""), (0.0, "pin 0–180°", "graphite", 1.4, ""))


@frozen(often=True)
class Spots:
    """Raw readings near a chord: depth and deviation, mm."""

    clock_deg: float
    depths_mm: tuple[float, ...]
    deviations_mm: tuple[float, ...]


def draw_meridians(
    pencil: Pencil, area: QRectF, picture: WallPicture | None, spots: list[Spots], length_mm: float, show: Show
) -> None:
    """Draw the profiles; without a surface yet, only the readings themselves."""
    px = pencil.px
    box = area.adjusted(px(10), px(8), -px(12), -px(26))
    values = [v for s in spots for v in s.deviations_mm]
    grid = [] if picture is None else [float(np.nanmin(picture.deviation_mm)), float(np.nanmax(picture.deviation_mm))]
    low, high = min(values + grid + [0.0]), max(values + grid + [0.002])
    pad = 0.12 * (high - low)
    low, high = low - pad, high + pad

    def x_of(dev: float) -> float:
        return box.left() + box.width() * (dev - low) / (high - low)

    def y_of(depth: float) -> float:
        return box.top() + box.height() * depth / length_mm

    pencil.rect(box, "sheet", "rule")
    _scale(pencil, box, low, high, x_of, show)
    if picture is not None:
        _ring_travel(pencil, box, picture, y_of)
        _curves(pencil, picture, x_of, y_of)
    for s, chord in zip(spots, CHORDS, strict=True):
        for depth, dev in zip(s.depths_mm, s.deviations_mm, strict=True):
            pencil.circle(x_of(dev), y_of(depth), px(3), "sheet", chord[2], 1.5)


def _scale(pencil: Pencil, box: QRectF, low: float, high: float, x_of: Callable[[float], float], show: Show) -> None:
    unit = float(show.units.mm)
    for value in ticks(low / unit, high / unit, 4):
        x = x_of(value * unit)
        pencil.line(x, box.top(), x, box.bottom(), "ink" if abs(value) < 1e-12 else "rule")
        text = "nominal" if abs(value) < 1e-12 else f"{value:+.4g}".replace("-", "−")
        pencil.label(x, box.bottom() + pencil.px(14), text, 12, "graphite", align=CENTRE)


def _ring_travel(pencil: Pencil, box: QRectF, picture: WallPicture, y_of: Callable[[float], float]) -> None:
    for depth, name, below in (
        (picture.travel.top_mm, "top ring stops", False),
        (picture.travel.bottom_mm, "lowest ring turns", True),
    ):
        y = y_of(depth)
        pencil.line(box.left(), y, box.right(), y, "graphite", 1.0, "dash")
        pencil.label(box.right() - pencil.px(5), y + pencil.px(9 if below else -8), name, 12, "graphite", align=RIGHT)
    if picture.band_mm:
        pencil.line(box.left(), y_of(picture.band_mm), box.right(), y_of(picture.band_mm), "graphite", 1.0, "dot")


def _curves(
    pencil: Pencil, picture: WallPicture, x_of: Callable[[float], float], y_of: Callable[[float], float]
) -> None:
    for clock, name, colour, width, dash in reversed(CHORDS):
        column = picture.profile_mm[:, round(clock / 360.0 * (CLOCKS - 1))]
        points = [
            (x_of(float(dev)), y_of(float(depth))) for dev, depth in zip(column, picture.profile_depths_mm, strict=True)
        ]
        pencil.polyline(points, colour, width, dash)
        place = points[int(len(points) * (0.30 if clock == 90.0 else 0.62))]
        pencil.label(place[0] + pencil.px(10), place[1], name, 12, colour, bold=width > 1.5, ground="sheet")
