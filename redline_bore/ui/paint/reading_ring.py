"""The reading ring: levels as rings seen from the deck, a reading at both ends of its chord, the next place lit."""

from __future__ import annotations

import math
from collections.abc import Mapping

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QColor

from redline_bore.core.frozen import frozen
from redline_bore.core.gauging import LevelPlan, Place
from redline_bore.core.show import Show
from redline_bore.ui.paint.pencil import CENTRE, LEFT, MIDDLE, RIGHT, Pencil


@frozen(often=True)
class RingPicture:
    """Places of a plan with the mean of their readings over the reference (mm) and how many; and where the gauge is."""

    plan: LevelPlan
    readings: Mapping[Place, tuple[float, int]]
    here: Place
    scale_mm: float
    legs_deg: tuple[float, ...] = (0.0, 180.0)  # where a gauge touches, from its clock angle


def radius_of(area: QRectF, plan: LevelPlan, level: int, scale: float) -> float:
    """Radius on the screen of a level's ring: the deck is the outer one."""
    outer = min(area.width() / 2 - 62 * scale, area.height() / 2 - 30 * scale)
    inner = outer * 0.34
    count = max(len(plan.depths_mm) - 1, 1)
    return outer - (outer - inner) * level / count


def spot_at(area: QRectF, plan: LevelPlan, place: Place, scale: float, leg_deg: float = 0.0) -> tuple[float, float]:
    """Where a place lies, or another leg of the gauge there. Clock 0 is up, growing clockwise."""
    return _Spots(area, plan, scale).at(place, leg_deg)


class _Spots:
    """Where all places lie: the middle and the radii are worked out once a picture."""

    def __init__(self, area: QRectF, plan: LevelPlan, scale: float) -> None:
        self.x, self.y = area.center().x(), area.center().y()
        self.clocks_deg = plan.clocks_deg
        self.radii = [radius_of(area, plan, level, scale) for level in range(len(plan.depths_mm))]

    def at(self, place: Place, leg_deg: float) -> tuple[float, float]:
        angle, r = math.radians(self.clocks_deg[place.clock] + leg_deg), self.radii[place.level]
        return self.x + r * math.sin(angle), self.y - r * math.cos(angle)


def place_near(area: QRectF, plan: LevelPlan, x: float, y: float, scale: float) -> Place | None:
    """The place whose spot (either end) is under the pointer; None when none is near."""
    best, reach, spots = None, 14.0 * scale, _Spots(area, plan, scale)
    for place in plan.places():
        for leg in (0.0, 180.0):
            px, py = spots.at(place, leg)
            if (away := math.hypot(px - x, py - y)) < reach:
                best, reach = place, away
    return best


def draw_reading_ring(pencil: Pencil, area: QRectF, ring: RingPicture, show: Show) -> None:
    """Draw the ring."""
    plan, px = ring.plan, pencil.px
    spots = _Spots(area, plan, pencil.theme.scale)
    cx, cy = spots.x, spots.y
    for r in spots.radii:
        pencil.circle(cx, cy, r, "", "rule")
    _draw_axes(pencil, area, spots.radii[0])
    gap = 1.0
    if len(plan.depths_mm) > 1:
        gap = radius_of(area, plan, 0, 1.0) - radius_of(area, plan, 1, 1.0)
    size = min(px(13), gap * 0.46, spots.radii[-1] * math.radians(180.0 / len(plan.clocks_deg)) * 0.46)
    places, legs = plan.places(), tuple(reversed(ring.legs_deg))
    empty = [p for p in places if p not in ring.readings]
    pencil.circles([spots.at(p, leg) for p in empty for leg in legs], size * 0.8, "sheet", "rule")
    for place in places:
        if place in ring.readings:
            for leg in legs:
                _draw_spot(pencil, spots.at(place, leg), ring, ring.readings[place][0], size, show)
    for leg in legs:
        _draw_here(pencil, spots.at(ring.here, leg), ring, leg, size, show)
    for level, ring_r in enumerate(spots.radii):
        last = level == len(plan.depths_mm) - 1  # the innermost ring has no room between its spots
        r = 0.0 if last else ring_r
        angle = math.radians(180.0 / len(plan.clocks_deg) / 2.0)
        pencil.label(
            cx + r * math.sin(angle),
            cy - r * math.cos(angle),
            plan.letter(level),
            12,
            "graphite",
            align=CENTRE,
            ground="paper",
            crowd=False,
        )


def _draw_axes(pencil: Pencil, area: QRectF, outer: float) -> None:
    px, cx, cy = pencil.px, area.center().x(), area.center().y()
    pencil.text(
        QRectF(cx - px(60), cy - outer - px(34), px(120), px(16)), "0° front", 12, "graphite", align=CENTRE | MIDDLE
    )
    for side, align in ((-1, RIGHT), (1, LEFT)):
        x = cx + side * (outer + px(16))
        pencil.line(x, cy, x + side * px(9), cy, "ink", 2.0)
        left = x + px(12) if side > 0 else x - px(12) - px(60)
        pencil.text(QRectF(left, cy - px(16), px(60), px(16)), "thrust", 12, "graphite", align=align | MIDDLE)
        pencil.text(
            QRectF(left, cy, px(60), px(16)), "90°" if side > 0 else "270°", 12, "graphite", align=align | MIDDLE
        )


def _on(ground: QColor) -> str:
    bright = 0.299 * ground.red() + 0.587 * ground.green() + 0.114 * ground.blue()
    return "#1C2024" if bright > 125 else "#FBFAF6"


def _hundredths(value_mm: float, show: Show) -> str:
    """A short figure for a small spot: hundredths of a mm, or tenths of a thou as thou."""
    inch = show.units.mark == "in"
    value = round(value_mm / 25.4 * 1000, 1) if inch else round(value_mm * 100)
    text = f"{abs(value):.1f}" if inch else f"{abs(value)}"
    return f"−{text}" if value < 0 else text  # never a minus before nought


def _draw_spot(
    pencil: Pencil, at: tuple[float, float], ring: RingPicture, over_mm: float, size: float, show: Show
) -> None:
    x, y = at
    fill = pencil.theme.map_colour(over_mm / ring.scale_mm)
    pencil.circle(x, y, size, fill, "graphite", 1.0)
    if size >= pencil.px(9):
        box = QRectF(x - 20, y - 10, 40, 20)
        pencil.text(box, _hundredths(over_mm, show), 12, _on(fill), align=CENTRE | MIDDLE)


def _draw_here(pencil: Pencil, at: tuple[float, float], ring: RingPicture, leg: float, size: float, show: Show) -> None:
    x, y = at
    reading = ring.readings.get(ring.here)
    pencil.circle(x, y, size + pencil.px(3), "sheet", "ink", 2.0 if leg else 3.0, "dot" if leg else "")
    if reading is not None:
        pencil.text(QRectF(x - 22, y - 10, 44, 20), _hundredths(reading[0], show), 12, "ink", True, CENTRE | MIDDLE)
