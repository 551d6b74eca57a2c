"""A wall before and after a step of the hone, drawn from the step's figures: what is cut off, and what marks stay."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING

from PyQt6.QtCore import QRectF

from redline_bore.core.late import np
from redline_bore.core.show import Show
from redline_bore.ui.paint.pencil import LEFT, MIDDLE, Pencil

if TYPE_CHECKING:
    from numpy.typing import NDArray

    Array = NDArray[np.float64]

POINTS, GROOVES, BAR_MARKS = (
    360,
    22,
    0.12,
)  # of the metal a side: how deep the bar's marks are drawn, where nobody measured them


def marks(rz_um: float, seed: int, points: int = POINTS) -> Array:
    """Grooves across a stretch of wall, um: nought at the highest peak, ``-rz_um`` at the deepest valley. The same each time."""
    chance = np.random.default_rng(seed)
    x = np.linspace(0.0, GROOVES, points)
    deep = chance.uniform(0.35, 1.0, GROOVES + 2)
    groove = np.floor(x + chance.uniform(0.0, 0.4)).astype(int)
    inside = np.abs((x + 0.2) % 1.0 - 0.5) * 2.0
    found = -deep[groove] * (1.0 - inside) ** 1.6
    span = float(found.max() - found.min())
    return np.asarray((found - found.max()) / span * rz_um if span > 0.0 else found)


def after_step(before_um: Array, a_side_um: float, own_rz_um: float, seed: int) -> Array:
    """The wall after a step: cut down by so much a side, with the step's own marks; what lay deeper stays as it was, um.

    >>> wall = np.array([0.0, -6.0, -1.0])
    >>> after_step(wall, 2.0, 0.0, 1).tolist()
    [-2.0, -6.0, -2.0]
    """
    own = marks(own_rz_um, seed, len(before_um)) if own_rz_um > 0.0 else np.zeros(len(before_um))
    return np.minimum(before_um, own - a_side_um)


def draw_step_marks(
    pencil: Pencil, area: QRectF, a_side_um: float, rz_before_um: float | None, own_rz_um: float, seed: int, show: Show
) -> None:  # fmt: skip
    """Draw it: the wall before dashed, after in full, the metal between them filled; depths at the right."""
    px = pencil.px
    before = marks(rz_before_um if rz_before_um is not None else BAR_MARKS * a_side_um, seed)
    after = after_step(before, a_side_um, own_rz_um, seed + 1)
    lowest = float(min(after.min(), before.min()))
    if lowest >= 0.0:
        return
    room = QRectF(area.left(), area.top() + px(6), area.width() - px(70), area.height() - px(12))

    def at(profile: Array) -> list[tuple[float, float]]:
        across = np.linspace(room.left(), room.right(), len(profile)).tolist()
        down = (room.top() + room.height() * profile / lowest).tolist()
        return list(zip(across, down, strict=True))

    bottom = [(room.right(), room.bottom()), (room.left(), room.bottom())]
    pencil.polygon([*at(after), *bottom], "iron")
    pencil.polygon([*at(before), *reversed(at(after))], "tight", alpha=0.35)
    pencil.polyline(at(before), "graphite", 1.0, "dash")
    pencil.polyline(at(after), "ink", 1.6)
    _depths(pencil, room, lowest, (a_side_um, -lowest), show)


def _depths(pencil: Pencil, room: QRectF, lowest: float, depths: Sequence[float], show: Show) -> None:
    """How deep the cut and the deepest valley lie; one figure where they are one."""
    px, told = pencil.px, list[float]()
    for depth in depths:
        if any(math.isclose(depth, d, rel_tol=0.12) for d in told):
            continue
        told.append(depth)
        y = room.top() + room.height() * depth / -lowest
        pencil.line(room.right(), y, room.right() + px(5), y, "graphite")
        pencil.text(
            QRectF(room.right() + px(12), y - px(8), px(62), px(16)),
            show.height(depth),
            12,
            "graphite",
            align=LEFT | MIDDLE,
        )
    pencil.text(
        QRectF(room.right() + px(12), room.top() - px(8), px(62), px(16)), "0", 12, "graphite", align=LEFT | MIDDLE
    )
