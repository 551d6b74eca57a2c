"""A live section through one cylinder, to scale: deck, wall, ring travel, hardened band, room below, stone."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QRectF

from redline_bore.core.block import BlockSpec, Bottom, RingTravel, WallKind, room_below
from redline_bore.job.advice import Show
from redline_bore.ui.paint.pencil import CENTRE, LEFT, MIDDLE, RIGHT, Pencil


@dataclass(frozen=True)
class SectionScale:
    """Depth and radius in mm to the screen: the hole stands upright, its axis in the middle."""

    centre_x: float
    deck_y: float
    per_mm: float

    def y(self, depth_mm: float) -> float:
        return self.deck_y + depth_mm * self.per_mm

    def x(self, radius_mm: float) -> float:
        return self.centre_x + radius_mm * self.per_mm


def section_scale(area: QRectF, block: BlockSpec, scale: float) -> SectionScale:
    """To scale, with room for the stone standing out at the top and what lies below."""
    below = max(room_below(block) or 0.0, 0.12 * block.length_mm)
    height = block.length_mm + below + 0.10 * block.length_mm
    per_mm = min((area.height() - 40 * scale) / height, (area.width() - 260 * scale) / (1.5 * block.bore_mm))
    top = area.top() + 24 * scale + 0.10 * block.length_mm * per_mm
    return SectionScale(area.center().x(), top, per_mm)


def draw_hole_section(
    pencil: Pencil,
    area: QRectF,
    block: BlockSpec,
    travel: RingTravel,
    stone_share: float,
    over_share: float,
    show: Show,
) -> None:
    """Draw the section. stone_share: stone length over the hole's; over_share: overstroke over the stone."""
    s, px = section_scale(area, block, pencil.theme.scale), pencil.px
    wall = 0.17 * block.bore_mm
    for side in (-1.0, 1.0):
        x1, x2 = s.x(side * block.bore_mm / 2), s.x(side * (block.bore_mm / 2 + wall))
        body = QRectF(min(x1, x2), s.y(0), abs(x2 - x1), s.y(block.length_mm) - s.y(0))
        pencil.rect(body, "iron", "graphite")
        if block.band_mm:
            pencil.hatch(
                QRectF(body.left(), body.top(), body.width(), s.y(block.band_mm) - s.y(0)), "graphite", "graphite"
            )
        if block.wall in (WallKind.DRY_SLEEVE, WallKind.WET_SLEEVE, WallKind.LINER):
            _sleeve(pencil, s, block, side)
    pencil.line(s.x(-block.bore_mm), s.y(0), s.x(block.bore_mm), s.y(0), "ink", 1.0, "dot")
    _stone(pencil, s, block, stone_share, over_share)
    _below(pencil, s, block, show)
    _depths(pencil, s, block, travel, show)
    y = s.y(-0.02 * block.length_mm)
    pencil.label(
        s.centre_x,
        y - px(34) if y - px(34) > area.top() else y,
        f"Ø {show.unit(show.rough(block.bore_mm))}",
        16,
        "ink",
        True,
        CENTRE,
        crowd=False,
    )


def _sleeve(pencil: Pencil, s: SectionScale, block: BlockSpec, side: float) -> None:
    thick = 0.03 * block.bore_mm
    x1, x2 = s.x(side * block.bore_mm / 2), s.x(side * (block.bore_mm / 2 + thick))
    pencil.rect(QRectF(min(x1, x2), s.y(0), abs(x2 - x1), s.y(block.length_mm) - s.y(0)), "sheet", "ink")
    if block.wall is WallKind.WET_SLEEVE:
        x3 = s.x(side * (block.bore_mm / 2 + 2.4 * thick))
        pencil.rect(QRectF(min(x1, x3), s.y(0), abs(x3 - x1), s.y(0.04 * block.length_mm) - s.y(0)), "sheet", "ink")


def _stone(pencil: Pencil, s: SectionScale, block: BlockSpec, stone_share: float, over_share: float) -> None:
    """The stone at the bottom of its stroke, no further out than the room below allows; ghosted at the top."""
    length = stone_share * block.length_mm
    room, wanted = room_below(block), over_share * length
    out = wanted if room is None else min(wanted, room)
    width = 0.06 * block.bore_mm
    for bottom, fill, edge in ((length - wanted, "", "graphite"), (block.length_mm + out, "tight", "tight")):
        top = bottom - length
        for side in (-1.0, 1.0):
            x1, x2 = s.x(side * block.bore_mm / 2), s.x(side * (block.bore_mm / 2 - width))
            r = QRectF(min(x1, x2), s.y(top), abs(x2 - x1), s.y(bottom) - s.y(top))
            pencil.rect(r, pencil.theme.colour(fill, 0.85) if fill else "", edge, 1.0, "" if fill else "dash")
    pencil.line(
        s.centre_x, s.y(-0.08 * block.length_mm), s.centre_x, s.y(block.length_mm + out - length / 2), "graphite", 3.0
    )


def _below(pencil: Pencil, s: SectionScale, block: BlockSpec, show: Show) -> None:
    px, room = pencil.px, room_below(block)
    left, right = s.x(-block.bore_mm * 0.62), s.x(block.bore_mm * 0.62)
    name = "blind bottom" if block.bottom is Bottom.BLIND else "webs"
    if room is None:
        y = s.y(block.length_mm) + px(16)
        pencil.triangle_mark(left - px(14), y)
        pencil.label(s.centre_x, y, "room below not known", 12, "look", align=CENTRE)
        return
    y = s.y(block.length_mm + room)
    pencil.hatch(QRectF(left, y, right - left, px(10)), "graphite", "")
    pencil.line(left, y, right, y, "ink", 1.6)
    pencil.label(s.centre_x, y + px(19), f"{name}, {show.unit(show.depth(room))} below", 12, "graphite", align=CENTRE)


def _depths(pencil: Pencil, s: SectionScale, block: BlockSpec, travel: RingTravel, show: Show) -> None:
    px = pencil.px
    x = s.x(block.bore_mm / 2 + 0.17 * block.bore_mm) + px(10)
    stated = "" if travel.stated else " (starting point)"
    pencil.label(s.x(-block.bore_mm * 0.67) - px(10), s.y(0), "deck", 12, "graphite", align=RIGHT, crowd=False)
    rows = [(0.0, ""), (travel.top_mm, f"top ring stops {show.depth(travel.top_mm)}{stated}"),
            (travel.bottom_mm, f"lowest ring turns {show.depth(travel.bottom_mm)}"),
            (block.length_mm, f"cylinder {show.unit(show.depth(block.length_mm))}")]  # fmt: skip
    for depth, text in rows:
        pencil.line(s.x(block.bore_mm / 2), s.y(depth), x - px(2), s.y(depth), "graphite", 1.0, "dash")
        pencil.label(x, s.y(depth), text, 12, "ink", align=LEFT)
    middle = (travel.top_mm + travel.bottom_mm) / 2
    xm = x + px(4)
    pencil.line(xm, s.y(travel.top_mm) + px(10), xm, s.y(travel.bottom_mm) - px(10), "graphite")
    pencil.label(xm + px(8), s.y(middle), f"stroke {show.unit(show.rough(block.stroke_mm))}", 13, "ink")
    if block.band_mm:
        left = s.x(-block.bore_mm * 0.67) - px(10)
        pencil.text(
            QRectF(left - px(130), s.y(block.band_mm) - px(18), px(130), px(18)),
            f"hardened to {show.depth(block.band_mm)}",
            12,
            "graphite",
            align=RIGHT | MIDDLE,
        )
