"""The hole lying down, deck at the left, to scale: stone at both ends of its stroke, overstroke, room below."""

from __future__ import annotations

from PyQt6.QtCore import QRectF

from redline_bore.core.block import BlockSpec, Bottom, RingTravel, room_below
from redline_bore.job.advice import Show
from redline_bore.ui.paint.pencil import CENTRE, LEFT, RIGHT, Pencil


def draw_hole_across(
    pencil: Pencil, area: QRectF, block: BlockSpec, travel: RingTravel, stone_share: float, over_share: float,
    lefts: tuple[str, ...], show: Show,
) -> None:  # fmt: skip
    """Draw the section. lefts: stock left by the last check, top to bottom."""
    px = pencil.px
    stone = stone_share * block.length_mm
    wanted, room = over_share * stone, room_below(block)
    out = wanted if room is None else min(wanted, room)
    total = block.length_mm + wanted + max(out, room or 0.0) + 0.05 * block.length_mm
    per_mm = min((area.width() - px(150)) / total, (area.height() - px(44)) / (1.36 * block.bore_mm))
    left = area.left() + px(30) + wanted * per_mm
    middle = area.top() + (area.height() - px(30)) / 2 + px(4)

    def x(depth: float) -> float:
        return left + depth * per_mm

    half, wall = block.bore_mm / 2 * per_mm, 0.16 * block.bore_mm * per_mm
    for side in (-1, 1):
        top = middle + half if side > 0 else middle - half - wall
        body = QRectF(x(0), top, block.length_mm * per_mm, wall)
        pencil.rect(body, "iron", "graphite")
        if block.band_mm:
            pencil.hatch(QRectF(body.left(), body.top(), block.band_mm * per_mm, wall), "graphite", "graphite")
    for depth in (travel.top_mm, travel.bottom_mm):
        pencil.line(x(depth), middle - half, x(depth), middle + half, "graphite", 1.0, "dash")
    _stones(pencil, x, middle, half, stone, wanted, block.length_mm + out)
    _labels(pencil, block, x, middle, half + wall, wanted, out, room, show)
    for i, left_text in enumerate(lefts):
        depth = travel.top_mm + (travel.bottom_mm - travel.top_mm) * (
            i / max(len(sizes_mm) - 1, 1) if len(sizes_mm) > 1 else 0.5
        )
        pencil.label(x(depth), middle, show.size(size), 13, "ink", True, CENTRE, ground="paper")
    pencil.label(area.right() - px(14), middle - px(10), f"stone {show.depth(stone)}", 13, "ink", align=RIGHT)
    pencil.label(area.right() - px(14), middle + px(8), "starting point", 12, "graphite", align=RIGHT)


def _stones(pencil: Pencil, x, middle: float, half: float, stone: float, wanted: float, end: float) -> None:  # type: ignore[no-untyped-def]
    thick = 0.16 * half
    for start, fill in ((-wanted, ""), (end - stone, "tight")):
        for side in (-1, 1):
            top = middle + half - thick if side > 0 else middle - half
            r = QRectF(x(start), top, x(start + stone) - x(start), thick)
            pencil.rect(r, pencil.theme.colour(fill) if fill else "", fill or "graphite", 1.0, "" if fill else "dash")


def _labels(
    pencil: Pencil,
    block: BlockSpec,
    x,
    middle: float,
    reach: float,
    wanted: float,
    out: float,
    room: float | None,
    show: Show,
) -> None:  # type: ignore[no-untyped-def]
    px, low = pencil.px, middle + reach
    pencil.label(x(0), low + px(12), "deck", 12, "graphite", align=CENTRE)
    pencil.label(
        x(block.length_mm / 2),
        low + px(12),
        f"cylinder {show.unit(show.depth(block.length_mm))}",
        12,
        "graphite",
        align=CENTRE,
    )
    pencil.label(x(-wanted), middle - px(9), f"+{show.depth(wanted)}", 13, "ink", align=LEFT)
    pencil.label(x(-wanted), middle + px(8), "out", 12, "graphite", align=LEFT)
    if room is None:
        pencil.triangle_mark(x(block.length_mm) + px(8), middle, 11)
        pencil.label(x(block.length_mm) + px(26), middle, "room below not known", 12, "look")
        return
    wall_x = x(block.length_mm + room)
    pencil.hatch(QRectF(wall_x, middle - reach, px(9), 2 * reach), "graphite", "graphite")
    name = "bottom" if block.bottom is Bottom.BLIND else "webs"
    short = ", all the room there is" if out < wanted - 1e-6 else ""
    pencil.label(wall_x + px(14), low + px(12), f"{name} {show.depth(room)} below", 12, "graphite")
    pencil.label(wall_x + px(14), middle - reach + px(8), f"+{show.depth(out)} out{short}", 12, "ink")
