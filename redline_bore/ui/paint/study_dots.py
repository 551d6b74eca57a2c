"""The gauge study as dots: every reading about the mean of its spot, by person, with U as a band."""

from __future__ import annotations

import math

from PyQt6.QtCore import QRectF

from redline_bore.core.gauge_study import StudyResult
from redline_bore.core.show import Show
from redline_bore.job.gauge.study import REPEATS, StudySpot, count_at, operators
from redline_bore.job.state.comparing import Study
from redline_bore.ui.paint.pencil import CENTRE, RIGHT, Pencil, ticks

SHAPES = ("circle", "square", "triangle")


def draw_study(
    pencil: Pencil, area: QRectF, taken: Study, spots: tuple[StudySpot, ...], here: str, person: str,
    result: StudyResult | None, show: Show,
) -> None:  # fmt: skip
    """Draw the readings; ``here`` is the spot that is read next by ``person``."""
    px, unit = pencil.px, float(show.units.mm)
    means = {s.name: _mean([v.value_mm for v in taken.values if v.spot == s.name]) for s in spots}
    off = [v.value_mm - means.get(v.spot, math.nan) for v in taken.values]
    u = result.expanded_u_mm if result is not None else 0.0
    reach = max([abs(v) for v in off if math.isfinite(v)] + [u, 0.002]) * 1.2
    box = area.adjusted(px(66), px(6), -px(12), -px(46))

    def y_of(value: float) -> float:
        return box.center().y() - box.height() / 2 * value / reach

    pencil.rect(box, "sheet", "rule")
    if u:
        pencil.rect(QRectF(box.left(), y_of(u), box.width(), y_of(-u) - y_of(u)), "iron", alpha=0.6)
        pencil.label(box.right() - px(6), y_of(u) - px(9), f"U {show.fine(u)}", 12, "graphite", align=RIGHT)
    for value in ticks(-reach / unit, reach / unit, 5):
        pencil.line(
            box.left(),
            y_of(value * unit),
            box.right(),
            y_of(value * unit),
            "graphite" if abs(value) < 1e-12 else "rule",
        )
        pencil.label(
            box.left() - px(6),
            y_of(value * unit),
            "mean" if abs(value) < 1e-12 else f"{value:+.4g}".replace("-", "−"),
            12,
            "graphite",
            align=RIGHT,
        )
    people = operators(taken)
    lane = box.width() / len(spots)
    for i, spot in enumerate(spots):
        left = box.left() + lane * i
        if i:
            pencil.line(left, box.top(), left, box.bottom(), "rule")
        lit = spot.name == here
        pencil.label(left + lane / 2, box.bottom() + px(12), spot.name, 14, "ink", lit, CENTRE)
        count = count_at(taken, person, spot.name)
        pencil.label(
            left + lane / 2,
            box.bottom() + px(31),
            f"{person} {count} of {REPEATS}",
            12,
            "ink" if lit else "graphite",
            align=CENTRE,
        )
        if lit:
            pencil.rect(QRectF(left + 2, box.top() + 2, lane - 4, box.height() - 4), "", "ink", 2.0)
        for p, who in enumerate(people):
            rows = [v.value_mm for v in taken.values if v.spot == spot.name and v.operator == who]
            for k, value in enumerate(rows):
                x = left + lane * (0.15 + 0.7 * (p + (k + 0.5) / max(len(rows), REPEATS)) / max(len(people), 1))
                _dot(pencil, x, y_of(value - means[spot.name]), SHAPES[p % len(SHAPES)])
    for p, who in enumerate(people):
        x = box.left() + px(14) + px(80) * p
        _dot(pencil, x, box.top() + px(14), SHAPES[p % len(SHAPES)])
        pencil.label(x + px(10), box.top() + px(14), who, 12, "ink")


def _mean(values: list[float]) -> float:
    return sum(values) / len(values) if values else math.nan


def _dot(pencil: Pencil, x: float, y: float, shape: str) -> None:
    s = pencil.px(4.5)
    if shape == "circle":
        pencil.circle(x, y, s, "sheet", "ink", 1.6)
    elif shape == "square":
        pencil.rect(QRectF(x - s, y - s, 2 * s, 2 * s), "sheet", "tight", 1.6)
    else:
        pencil.polygon([(x - s, y + s), (x + s, y + s), (x, y - s)], "sheet", "open")
