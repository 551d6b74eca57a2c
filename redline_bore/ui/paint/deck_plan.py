"""The deck from above, to scale: bores in their layout, fasteners, the measured outline magnified, the redline."""

from __future__ import annotations

import math
from collections.abc import Sequence

from PyQt6.QtCore import QRectF

from redline_bore.core.block import BlockSpec, BorePosition, bore_positions, fastener_positions, pitch_of
from redline_bore.core.frozen import frozen
from redline_bore.core.shape import LevelFit
from redline_bore.job.card import Mark
from redline_bore.ui.paint.pencil import CENTRE, MIDDLE, Pencil

OUTLINE_PX = 9.0  # how far the largest deviation of the job stands off the nominal circle
OUTLINE_DEG = tuple(float(clock) for clock in range(0, 361, 6))


@frozen
class BoreLook:
    """What the plan shows of one bore. ``fit``: its most worn level, deviations scaled by ``scale_mm``."""

    cylinder: int
    fit: LevelFit | None
    figure: str
    word: str
    mark: Mark
    redline: bool


@frozen
class PlanScale:
    """Where bores lie on the screen; banks side by side."""

    origin: tuple[float, float]
    bank_shift: float
    per_mm: float

    def at(self, bore: BorePosition) -> tuple[float, float]:
        x0, y0 = self.origin
        return x0 + bore.bank * self.bank_shift + bore.across_mm * self.per_mm, y0 + bore.along_mm * self.per_mm


def plan_scale(area: QRectF, block: BlockSpec, scale: float) -> PlanScale:
    """To scale, front up, leaving room for the figure beside each bore (one bank) or under it (two)."""
    bores = bore_positions(block)
    rows, banks = max(b.along_mm for b in bores), len({b.bank for b in bores})
    deck = block.bore_mm * 1.42
    room = area.width() - 104 * scale if banks == 1 else area.width() / 2 - 10 * scale
    per_mm = min((area.height() - 16 * scale) / (rows + pitch_of(block) * 1.06), room / deck)
    left = area.left() + 10 * scale + deck * per_mm / 2
    top = area.top() + 8 * scale + pitch_of(block) * 0.53 * per_mm
    return PlanScale((left, top), area.width() / 2, per_mm)


def bore_at(area: QRectF, block: BlockSpec, x: float, y: float, scale: float) -> int | None:
    """The cylinder under a point of the plan; None when there is none."""
    s = plan_scale(area, block, scale)
    reach = pitch_of(block) * s.per_mm / 2
    for bore in bore_positions(block):
        bx, by = s.at(bore)
        if abs(by - y) <= reach and bx - block.bore_mm * s.per_mm * 0.8 <= x <= bx + s.bank_shift * 0.98:
            return bore.number
    return None


@frozen
class Tightening:
    """The order in which fasteners are pulled: place in the order (from 1) by fastener, the one that is next, and
    those that are done in this stage."""

    order: dict[int, int]
    lit: int | None = None
    done: frozenset[int] = frozenset()


def draw_deck_plan(
    pencil: Pencil, area: QRectF, block: BlockSpec, looks: list[BoreLook], selected: int, scale_mm: float,
    tightening: Tightening | None = None, paths: Sequence[Sequence[int]] = (),
) -> None:  # fmt: skip
    """Draw the block from above with each bore's measured outline; with ``tightening``, the order at each fastener;
    with ``paths``, the way of the bar from bore to bore, one path a bank."""
    s = plan_scale(area, block, pencil.theme.scale)
    bores = bore_positions(block)
    for bank in sorted({b.bank for b in bores}):
        _deck(pencil, s, block, [b for b in bores if b.bank == bank])
    if tightening is None:
        pencil.circles(_fasteners_at(s, block), pencil.px(4), "graphite", "")
    for bore, look in zip(bores, looks, strict=True):
        _bore(pencil, s, block, bore, look, bore.number == selected, scale_mm, len({b.bank for b in bores}) == 1, area)
    for path in paths:
        _way(pencil, s, block, [s.at(next(b for b in bores if b.number == n)) for n in path])
    for number, (x, y) in enumerate(_fasteners_at(s, block), start=1):
        if tightening is not None:
            _fastener(pencil, x, y, number, tightening)


def _way(pencil: Pencil, s: PlanScale, block: BlockSpec, at: list[tuple[float, float]]) -> None:
    """The way of the bar: bows beside the bores, each further out, an arrow at its end; each bore's place in the order."""
    px, r = pencil.px, block.bore_mm / 2 * s.per_mm
    for i, ((x, y1), (_, y2)) in enumerate(zip(at, at[1:], strict=False)):
        bow = x - r * (1.08 + 0.26 * (i + 1) / len(at))
        aside = math.copysign(px(6), y2 - y1)
        start, end = (x - r, y1 + aside), (x - r * 1.01, y2 - aside)
        pencil.polyline([start, (bow, start[1]), (bow, end[1]), end], "graphite", 1.4)
        tip = px(5)
        pencil.polygon([end, (end[0] - tip, end[1] - tip * 0.7), (end[0] - tip, end[1] + tip * 0.7)], "graphite")
    for i, (x, y) in enumerate(at, 1):
        pencil.circle(x + r * 0.55, y - r * 0.55, px(9), "sheet", "graphite", 1.2)
        box = QRectF(x + r * 0.55 - px(12), y - r * 0.55 - px(9), px(24), px(18))
        pencil.text(box, f"{i}.", 12, "ink", align=CENTRE | MIDDLE)


def _fasteners_at(s: PlanScale, block: BlockSpec) -> list[tuple[float, float]]:
    x0, y0 = s.origin
    return [
        (x0 + f.bank * s.bank_shift + f.across_mm * s.per_mm, y0 + f.along_mm * s.per_mm)
        for f in fastener_positions(block)
    ]


def _fastener(pencil: Pencil, x: float, y: float, number: int, tightening: Tightening) -> None:
    px, lit = pencil.px, number == tightening.lit
    ground, ink = ("ink", "sheet") if number in tightening.done else ("sheet", "ink")
    pencil.circle(x, y, px(15 if lit else 11), ground, "ink", 3.0 if lit else 1.2)
    box = QRectF(x - px(14), y - px(9), px(28), px(18))
    pencil.text(box, str(tightening.order.get(number, "")), 14 if lit else 12, ink, lit, CENTRE | MIDDLE)


def _deck(pencil: Pencil, s: PlanScale, block: BlockSpec, bores: list[BorePosition]) -> None:
    (x, top), (_, bottom) = s.at(bores[0]), s.at(bores[-1])
    half, end = block.bore_mm * 0.70 * s.per_mm, pitch_of(block) * 0.5 * s.per_mm
    pencil.rect(QRectF(x - half, top - end, 2 * half, bottom - top + 2 * end), "paper", "graphite")


def _bore(
    pencil: Pencil,
    s: PlanScale,
    block: BlockSpec,
    bore: BorePosition,
    look: BoreLook,
    chosen: bool,
    scale_mm: float,
    beside: bool,
    area: QRectF,
) -> None:
    px = pencil.px
    x, y = s.at(bore)
    r = block.bore_mm / 2 * s.per_mm
    pitch = pitch_of(block) * s.per_mm
    stands_off = min(px(OUTLINE_PX), 0.14 * r)
    if chosen:
        half = block.bore_mm * 0.67 * s.per_mm
        pencil.rect(QRectF(x - half, y - pitch / 2 + px(2), 2 * half, pitch - px(4)), "sheet", "ink", 2.0)
    for side in (-1, 1):
        pencil.line(x + side * r * 1.04, y, x + side * r * 1.22, y, "ink", 1.6)
    nominal = r - stands_off * 1.4
    if look.redline:
        pencil.circle(x, y, r, "", "redline", 1.8)
    pencil.circle(x, y, nominal, "iron", "graphite", 1.0, "" if look.fit else "dash")
    if look.fit is not None:
        around = []
        for clock, size in zip(OUTLINE_DEG, look.fit.sizes_at(OUTLINE_DEG), strict=True):
            out, t = nominal + (size - block.bore_mm) / scale_mm * stands_off, math.radians(clock)
            around.append((x + out * math.sin(t), y - out * math.cos(t)))
        pencil.polyline(around, "tight", 1.8)
    inside = not beside and len(bore_positions(block)) > 2  # number and figure share the hole: neither on its edge
    number_y = y - 0.30 * r if inside else y
    box = QRectF(x - px(30), number_y - px(14), px(60), px(28))
    pencil.text(box, str(bore.number), 20, bold=True, align=CENTRE | MIDDLE)
    _figure(pencil, s, block, look, x, y, beside, area)


def _figure(
    pencil: Pencil, s: PlanScale, block: BlockSpec, look: BoreLook, x: float, y: float, beside: bool, area: QRectF
) -> None:
    px = pencil.px
    if beside:
        left = x + block.bore_mm * 0.72 * s.per_mm + px(4)
        box = QRectF(left, y - px(22), area.right() - left - px(4), px(26))
    elif len(bore_positions(block)) == 2:  # one bore a bank: under its deck
        box = QRectF(x - px(60), y + pitch_of(block) * 0.5 * s.per_mm + px(6), px(120), px(22))
    else:
        r = block.bore_mm / 2 * s.per_mm
        box = QRectF(x - px(60), y + r * 0.02, px(120), px(20))
    size = 21.0 if beside or len(bore_positions(block)) == 2 else 14.0
    while size > 13 and pencil.width_of(look.figure, size, True) > box.width():
        size -= 1
    pencil.text(box, look.figure, size, "ink", True, CENTRE | MIDDLE)
    under = QRectF(box.left(), box.bottom(), box.width(), px(17))
    if not beside and len(bore_positions(block)) > 2:  # on the bore's edge
        under.moveTop(y + block.bore_mm / 2 * s.per_mm * 0.34 + px(20))
    room = pencil.width_of(look.word, 12)
    sign = px(13) if look.mark else 0.0
    at = under.center().x() - (room + sign) / 2
    under = QRectF(at + sign, under.top(), room + px(2), under.height())
    if not beside and len(bore_positions(block)) > 2:  # the word crosses the bore's edge: nothing runs through it
        pencil.rect(QRectF(at - px(3), under.top() + px(1), sign + room + px(6), px(15)), "sheet", alpha=0.88)
    if look.mark is Mark.SOUND:
        pencil.tick_mark(at, under.center().y(), 8)
    elif look.mark is Mark.LIKELY:
        pencil.likely_mark(at - px(1), under.center().y(), 9)
    elif look.mark is Mark.LOOK:
        pencil.triangle_mark(at - px(1), under.center().y(), 9)
    elif look.mark is Mark.STOP:
        pencil.hatch(QRectF(at - px(3), under.top() + px(3), px(11), px(11)), "ink", "ink")
    pencil.text(under, look.word, 12, "graphite")
