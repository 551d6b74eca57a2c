"""The slice: a level seen from above, its deviation on radius magnified round the clock."""

from __future__ import annotations

import math
from collections.abc import Sequence

from PyQt6.QtCore import QRectF

from redline_bore.core.late import np
from redline_bore.core.show import Show
from redline_bore.job.gauge.round import Slice
from redline_bore.ui.paint.pencil import CENTRE, LEFT, MIDDLE, RIGHT, Pencil, nice_step

ANGLES = np.arange(0.0, 361.0, 2.0)


class _Dial:
    """Where a clock angle and a deviation on radius (mm) lie on the screen."""

    def __init__(self, pencil: Pencil, area: QRectF, reach_mm: float) -> None:
        self.x, self.y = area.center().x(), area.center().y()
        self.outer = min(area.width() / 2 - pencil.px(24), area.height() / 2 - pencil.px(26))
        self.mean, self.reach_mm = self.outer * 0.62, reach_mm

    def at(self, clock_deg: float, deviation_mm: float) -> tuple[float, float]:
        r = self.mean + deviation_mm / self.reach_mm * (self.outer - self.mean)
        t = math.radians(clock_deg)
        return self.x + r * math.sin(t), self.y - r * math.cos(t)

    def curve(self, deviations_mm: Sequence[float]) -> list[tuple[float, float]]:
        return [self.at(float(a), float(d)) for a, d in zip(ANGLES, deviations_mm, strict=True)]


def radius_deviations(cut: Slice) -> list[float]:
    """Every deviation on radius that the slice shows, mm, about each gauge's own mean."""
    found: list[float] = []
    if cut.level is not None:
        found += [(s.size_mm - cut.level.fit.mean_mm) / 2.0 for s in cut.level.spots]
        found += ((cut.level.fit.diameter_at(ANGLES) - cut.level.fit.mean_mm) / 2.0).tolist()
    if cut.swept is not None and cut.swept.fit is not None:
        found += (cut.swept.fit.radius_at(ANGLES) - cut.swept.fit.least_squares.radius_mm).tolist()
    return found


def draw_polar(pencil: Pencil, area: QRectF, cut: Slice, clock_deg: float | None, show: Show) -> None:
    """Draw the slice; ``clock_deg`` is the clock angle that is read off."""
    unit = float(show.units.mm)
    largest = max([abs(v) for v in radius_deviations(cut)] + [0.002])
    step = nice_step(largest / unit, 2) * unit
    dial = _Dial(pencil, area, max(step * math.ceil(largest / step), step))
    _rings(pencil, dial, step, show)
    if cut.swept is not None and cut.swept.fit is not None:
        _sweep(pencil, dial, cut)
    if cut.level is not None:
        _two_point(pencil, dial, cut)
    if clock_deg is not None:
        _reading(pencil, dial, cut, clock_deg, show)
    if cut.level is None and cut.swept is None:
        words = "Read by three points only: the mean, and no shape." if cut.three else "Nothing is read here yet."
        pencil.text(QRectF(area.left(), dial.y - 20, area.width(), 40), words, 14, "graphite", align=CENTRE | MIDDLE)


def _rings(pencil: Pencil, dial: _Dial, step: float, show: Show) -> None:
    px, count = pencil.px, round(dial.reach_mm / step)
    for k in range(-count, count + 1):
        r = dial.mean + k * step / dial.reach_mm * (dial.outer - dial.mean)
        pencil.circle(dial.x, dial.y, r, "", "graphite" if k == 0 else "rule", 1.2 if k == 0 else 1.0)
    for k in range(-count, count + 1):
        x, y = dial.at(22.5, k * step)
        pencil.label(x, y, "mean" if k == 0 else show.away(k * step), 12, "graphite", align=CENTRE, ground="paper")
    edge = dial.outer + px(8)
    pencil.label(dial.x, dial.y - edge - px(8), "0° front", 12, "graphite", align=CENTRE)
    pencil.label(dial.x, dial.y + edge + px(8), "180°", 12, "graphite", align=CENTRE)
    for side, word, align in ((1, "90° thrust", RIGHT), (-1, "270°", LEFT)):
        pencil.line(dial.x + side * edge, dial.y, dial.x + side * (edge + px(10)), dial.y, "ink", 2.0)
        pencil.label(
            dial.x + side * (edge + px(12)), dial.y - px(14), word, 12, "graphite", align=align, ground="paper"
        )


def _sweep(pencil: Pencil, dial: _Dial, cut: Slice) -> None:
    assert cut.swept is not None and cut.swept.fit is not None
    fit, sweep = cut.swept.fit, cut.swept.sweep
    centre = fit.least_squares
    for clock, radius in zip(sweep.clock_deg, sweep.radius_mm, strict=True):
        t = math.radians(clock)
        dx, dy = radius * math.cos(t) - centre.x_mm, radius * math.sin(t) - centre.y_mm
        x, y = dial.at(math.degrees(math.atan2(dy, dx)), math.hypot(dx, dy) - centre.radius_mm)
        pencil.circle(x, y, pencil.px(1.8), "graphite")
    pencil.polyline(dial.curve((fit.radius_at(ANGLES) - centre.radius_mm).tolist()), "open", 2.2)


def _two_point(pencil: Pencil, dial: _Dial, cut: Slice) -> None:
    assert cut.level is not None
    fit = cut.level.fit
    if fit.harmonics_used:
        dash = "dash" if cut.swept is not None else ""
        pencil.polyline(dial.curve(((fit.diameter_at(ANGLES) - fit.mean_mm) / 2.0).tolist()), "tight", 2.0, dash)
    for spot in cut.level.spots:
        for leg in (0.0, 180.0):
            x, y = dial.at(spot.clock_deg + leg, (spot.size_mm - fit.mean_mm) / 2.0)
            pencil.circle(x, y, pencil.px(4), "sheet", "tight", 1.6)
    if fit.long_axis_deg is not None:
        ends = [dial.at(fit.long_axis_deg + leg, -0.45 * dial.reach_mm) for leg in (0.0, 180.0)]
        pencil.line(*ends[0], *ends[1], "tight", 1.2, "dot")


def value_at(cut: Slice, clock_deg: float) -> tuple[str, float] | None:
    """What is read off at a clock angle: by which gauge, and the deviation on radius in mm."""
    if cut.swept is not None and cut.swept.fit is not None:
        fit = cut.swept.fit
        return "swept", float(fit.radius_at(clock_deg)) - fit.least_squares.radius_mm
    if cut.level is not None and cut.level.fit.harmonics_used:
        return "two points", (float(cut.level.fit.diameter_at(clock_deg)) - cut.level.fit.mean_mm) / 2.0
    return None


def _reading(pencil: Pencil, dial: _Dial, cut: Slice, clock_deg: float, show: Show) -> None:
    found = value_at(cut, clock_deg)
    x1, y1 = dial.at(clock_deg, -dial.reach_mm)
    x2, y2 = dial.at(clock_deg, dial.reach_mm)
    pencil.line(x1, y1, x2, y2, "ink", 1.0, "dash")
    text = f"{clock_deg:.0f}°: " + ("not read" if found is None else f"{show.away(found[1])} on radius, {found[0]}")
    pencil.label(dial.x, dial.y, text, 13, "ink", True, CENTRE, ground="paper", crowd=False)
