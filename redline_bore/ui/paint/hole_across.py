"""A live section through one cylinder, lying down, deck at the left, to scale: wall, sleeve, hardened band, ring
travel, the stone at both ends of its stroke, overstroke, room below."""

from __future__ import annotations

from PyQt6.QtCore import QRectF

from redline_bore.core.block import BlockSpec, Bottom, RingTravel, room_below
from redline_bore.core.frozen import frozen
from redline_bore.core.show import Show
from redline_bore.job.profiles.wall_kind import wall_profile
from redline_bore.ui.paint.pencil import CENTRE, LEFT, MIDDLE, RIGHT, Pencil

WALL_SHARE = 0.16  # drawn wall over the bore: the true one is not known here
SLEEVE_SHARE = 0.03


@frozen(often=True)
class Stone:
    """Stone length and overstroke in mm: wanted, and what the room below allows at the bottom."""

    length_mm: float
    wanted_mm: float
    out_mm: float
    is_set: bool = False


@frozen(often=True)
class Lie:
    """Depth in mm to the screen; the axis lies at ``middle``, the wall ``half`` from it."""

    left: float
    middle: float
    half: float
    per_mm: float

    def x(self, depth_mm: float) -> float:
        return self.left + depth_mm * self.per_mm


def stone_of(block: BlockSpec, stone_share: float, over_share: float, kept_mm: float) -> Stone:
    """A stone from starting points: its share of the hole, the overstroke's share of the stone, what is kept from anything below."""
    length, room = stone_share * block.length_mm, room_below(block)
    wanted = over_share * length
    return Stone(length, wanted, wanted if room is None else min(wanted, max(room - kept_mm, 0.0)))


def lie_of(area: QRectF, block: BlockSpec, stone: Stone, scale: float) -> Lie:
    """To scale, with room for the stone at both ends and for the words."""
    beyond = max(stone.out_mm, room_below(block) or 0.0)
    total = block.length_mm + stone.wanted_mm + beyond
    per_mm = min(
        (area.width() - 200 * scale) / total, (area.height() - 52 * scale) / ((1 + 2 * WALL_SHARE) * block.bore_mm)
    )
    slack = area.width() - 200 * scale - total * per_mm
    left = area.left() + 24 * scale + slack / 3 + stone.wanted_mm * per_mm
    middle = area.top() + (area.height() - 26 * scale) / 2
    return Lie(left, middle, block.bore_mm / 2 * per_mm, per_mm)


def draw_hole_across(
    pencil: Pencil, area: QRectF, block: BlockSpec, travel: RingTravel, stone: Stone, lefts: tuple[str, ...], show: Show,
    share: float | None = None,
) -> None:  # fmt: skip
    """Draw the section. lefts: stock left by the last check, top to bottom; empty where there is none. share: where a
    moving stone is between its turn-rounds, 0 at the top; None: it is drawn at both."""
    lie = lie_of(area, block, stone, pencil.theme.scale)
    _walls(pencil, lie, block)
    _travel(pencil, lie, block, travel, show)
    _stones(pencil, lie, block, stone, share)
    _below(pencil, lie, block, stone, show)
    _words(pencil, lie, block, stone, show)
    for i, text in enumerate(lefts):
        share = i / (len(lefts) - 1) if len(lefts) > 1 else 0.5
        y = lie.middle + pencil.px(16) * (i % 2 * 2 - 1) if len(lefts) > 2 else lie.middle  # by turns, so none touch
        pencil.label(lie.x(travel.top_mm + travel.length_mm * share), y, text, 13, "ink", True, CENTRE, ground="paper")
    if not lefts:
        text = f"Ø {show.unit(show.rough(block.bore_mm))}"
        pencil.label(
            lie.x(block.length_mm / 2), lie.middle - pencil.px(16), text, 17, "ink", True, CENTRE, ground="paper"
        )
        text = f"stroke {show.unit(show.rough(block.stroke_mm))}"
        pencil.label(
            lie.x(block.length_mm / 2), lie.middle + pencil.px(10), text, 13, "graphite", align=CENTRE, ground="paper"
        )


def _walls(pencil: Pencil, lie: Lie, block: BlockSpec) -> None:
    thick = WALL_SHARE * block.bore_mm * lie.per_mm
    sleeve = SLEEVE_SHARE * block.bore_mm * lie.per_mm
    for side in (-1, 1):
        top = lie.middle + lie.half if side > 0 else lie.middle - lie.half - thick
        body = QRectF(lie.x(0), top, block.length_mm * lie.per_mm, thick)
        pencil.rect(body, "iron", "graphite")
        if block.band_mm:
            pencil.hatch(QRectF(body.left(), top, block.band_mm * lie.per_mm, thick), "graphite", "graphite")
        if wall_profile(block.wall).sleeved:
            inner = lie.middle + lie.half if side > 0 else lie.middle - lie.half - sleeve
            pencil.rect(QRectF(body.left(), inner, body.width(), sleeve), "sheet", "ink")
        if wall_profile(block.wall).flanged:
            flange = lie.middle + lie.half if side > 0 else lie.middle - lie.half - 2.4 * sleeve
            pencil.rect(QRectF(body.left(), flange, 0.04 * body.width(), 2.4 * sleeve), "sheet", "ink")


def _travel(pencil: Pencil, lie: Lie, block: BlockSpec, travel: RingTravel, show: Show) -> None:
    px, high = pencil.px, lie.middle - lie.half - WALL_SHARE * block.bore_mm * lie.per_mm
    rows = (
        (travel.top_mm, f"top ring stops {show.depth(travel.top_mm)}", travel.top_stated),
        (travel.bottom_mm, f"lowest ring turns {show.depth(travel.bottom_mm)}", travel.stated),
    )
    for depth, text, stated in rows:
        pencil.line(lie.x(depth), high - px(4), lie.x(depth), lie.middle + lie.half, "graphite", 1.0, "dash")
        pencil.label(
            lie.x(depth) + px(2), high - px(11), text if stated else f"{text}?", 12, "graphite" if stated else "look"
        )


def _stones(pencil: Pencil, lie: Lie, block: BlockSpec, stone: Stone, share: float | None) -> None:
    thick, end = 0.16 * lie.half, block.length_mm + stone.out_mm
    low = end - stone.length_mm
    places = [(-stone.wanted_mm, ""), (low, "tight" if share is None else "")]
    if share is not None:
        places.append((-stone.wanted_mm + share * (low + stone.wanted_mm), "tight"))
    for start, fill in places:
        for side in (-1, 1):
            top = lie.middle + lie.half - thick if side > 0 else lie.middle - lie.half
            r = QRectF(lie.x(start), top, stone.length_mm * lie.per_mm, thick)
            pencil.rect(r, fill, fill or "graphite", 1.0, "" if fill else "dash")


def _below(pencil: Pencil, lie: Lie, block: BlockSpec, stone: Stone, show: Show) -> None:
    px, room = pencil.px, room_below(block)
    reach = lie.half + WALL_SHARE * block.bore_mm * lie.per_mm
    if room is None:
        x = lie.x(block.length_mm + stone.out_mm) + px(10)
        pencil.triangle_mark(x, lie.middle, 12)
        pencil.text(
            QRectF(x + px(18), lie.middle - px(20), px(120), px(40)),
            "room below not known: measure it",
            12,
            "look",
            wrap=True,
        )
        return
    x = lie.x(block.length_mm + room)
    pencil.hatch(QRectF(x, lie.middle - reach, px(9), 2 * reach), "graphite", "graphite")
    name = "blind bottom" if block.bottom is Bottom.BLIND else "webs"
    limited = not stone.is_set and stone.out_mm < stone.wanted_mm - 1e-6
    allowed = "all the room there is" if limited or stone.out_mm >= room - 1e-6 else "out at the bottom"
    pencil.text(QRectF(x + px(16), lie.middle - px(38), px(130), px(18)), f"{name} {show.depth(room)} below", 13)
    pencil.text(QRectF(x + px(16), lie.middle - px(14), px(130), px(18)), f"stone +{show.depth(stone.out_mm)}", 13)
    pencil.text(QRectF(x + px(16), lie.middle + px(4), px(150), px(18)), allowed, 12, "graphite")


def _words(pencil: Pencil, lie: Lie, block: BlockSpec, stone: Stone, show: Show) -> None:
    px = pencil.px
    low = lie.middle + lie.half + WALL_SHARE * block.bore_mm * lie.per_mm + px(12)
    pencil.label(lie.x(0), low, "deck", 12, "graphite", align=CENTRE)
    words = f"cylinder {show.depth(block.length_mm)}, stone {show.unit(show.depth(stone.length_mm))}{'' if stone.is_set else ' (starting point)'}"
    pencil.label(lie.x(0) + px(24), low, words, 12, "graphite")
    if block.band_mm:
        box = QRectF(lie.x(0) - px(150), low - px(9), px(130), px(18))
        pencil.text(box, f"hardened to {show.depth(block.band_mm)}", 12, "graphite", align=RIGHT | MIDDLE)
    out = lie.x(-stone.wanted_mm)
    pencil.label(out, lie.middle - px(8), f"+{show.depth(stone.wanted_mm)}", 13, "ink", align=LEFT, ground="paper")
    pencil.label(out, lie.middle + px(9), "out", 12, "graphite", align=LEFT, ground="paper")
