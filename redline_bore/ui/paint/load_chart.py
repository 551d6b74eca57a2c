"""Load by depth: bars down the wall, the tight stretch marked, the gauged wall and the stone beside them."""

from __future__ import annotations

from PyQt6.QtCore import QRectF

from redline_bore.job.hone.load import LoadPicture
from redline_bore.job.hone.set_up import stone_mm
from redline_bore.job.words.hone_pages import WALL_FROM
from redline_bore.ui.paint.pencil import CENTRE, LEFT, MIDDLE, RIGHT, Pencil, ticks
from redline_bore.ui.session import Session


def draw_load_by_depth(
    pencil: Pencil, area: QRectF, picture: LoadPicture, upper_mm: float | None, session: Session
) -> None:
    """Depth down, load across; at the right the diameters as gauged or checked last, with where the stone is."""
    px, show = pencil.px, session.show
    kept = next((v for v in reversed(session.job.honing.loads) if v.cylinder == picture.cylinder), None)
    depths, loads, what = picture.depths_mm, picture.loads, "heard now"
    if not picture.samples and kept is not None:
        depths, loads, what = kept.depths_mm, kept.loads, "kept with the job"
    box = QRectF(area.left() + px(50), area.top() + px(20), area.width() * 0.60 - px(60), area.height() - px(60))
    wall = QRectF(area.left() + area.width() * 0.66, box.top(), area.width() * 0.30, box.height())
    pencil.rect(box, "sheet", "rule")
    known = [v for v in loads if v == v]
    unit = float(show.units.mm)
    for value in ticks(0.0, picture.length_mm / unit, 6):
        y = box.top() + box.height() * value * unit / picture.length_mm
        pencil.label(box.left() - px(6), y, f"{value:.4g}", 12, "graphite", align=RIGHT)
    if known:
        _bars(pencil, box, depths, loads, picture)
        pencil.text(
            QRectF(box.left(), box.top() - px(20), box.width(), px(16)),
            f"load, % of the machine, {what}",
            12,
            "graphite",
        )
    else:
        pencil.text(box, "nothing heard yet", 15, "graphite", align=CENTRE | MIDDLE)
    _wall(pencil, wall, picture, session)
    if upper_mm is not None and picture.samples:
        top = box.top() + box.height() * max(upper_mm, 0.0) / picture.length_mm
        end = min(upper_mm + stone_mm(session.job), picture.length_mm)
        low = box.top() + box.height() * end / picture.length_mm
        pencil.rect(QRectF(box.right() + px(8), top, px(12), max(low - top, 2.0)), "tight", "ink")
        pencil.label(box.right() + px(14), box.bottom() + px(13), "stone", 12, "graphite", align=CENTRE)


def _bars(
    pencil: Pencil, box: QRectF, depths: tuple[float, ...], loads: tuple[float, ...], picture: LoadPicture
) -> None:
    px = pencil.px
    known = [v for v in loads if v == v]
    most, mean, high = 1.12 * max(known), sum(known) / len(known), box.height() / max(len(depths), 1)
    for depth, load in zip(depths, loads, strict=True):
        if load != load:
            continue
        y = box.top() + box.height() * depth / picture.length_mm
        tight = load > 1.12 * mean
        r = QRectF(box.left(), y - high * 0.45, box.width() * load / most, high * 0.9)
        pencil.rect(r, "tight", "ink" if tight else "", alpha=0.75 if tight else 0.35)
    x = box.left() + box.width() * mean / most
    pencil.line(x, box.top(), x, box.bottom(), "graphite", 1.2, "dash")
    pencil.label(x, box.bottom() + px(13), f"mean {mean:.1f}", 12, "graphite", align=CENTRE)
    if picture.tight is not None:
        y = box.top() + box.height() * picture.tight.depth_mm / picture.length_mm
        pencil.rect(QRectF(box.right() - px(90), y - px(10), px(84), px(20)), "sheet", "rule")
        pencil.triangle_mark(box.right() - px(84), y, 12)
        pencil.text(
            QRectF(box.right() - px(68), y - px(9), px(64), px(18)),
            f"+{picture.tight.over:.0%}",
            13,
            "ink",
            True,
            LEFT | MIDDLE,
        )


def _wall(pencil: Pencil, box: QRectF, picture: LoadPicture, session: Session) -> None:
    """The wall as it was read last: further left is tighter."""
    px, show = pencil.px, session.show
    pencil.rect(box, "sheet", "rule")
    title = (
        "the wall was read at one depth only" if picture.wall is None else f"the wall, {WALL_FROM[picture.wall.source]}"
    )
    pencil.text(QRectF(box.left(), box.top() - px(20), box.width(), px(16)), title, 12, "graphite")
    if picture.wall is None or len(picture.wall.sizes_mm) < 2:
        return
    sizes = picture.wall.sizes_mm
    low, high = min(sizes), max(max(sizes), min(sizes) + 0.002)
    points = [
        (
            box.left() + px(26) + (box.width() - px(60)) * (s - low) / (high - low),
            box.top() + box.height() * d / picture.length_mm,
        )
        for d, s in zip(picture.wall.depths_mm, sizes, strict=True)
    ]
    pencil.polyline(points, "graphite", 1.8)
    for (x, y), s in zip(points, sizes, strict=True):
        pencil.circle(x, y, px(4), "sheet", "tight", 1.8)
        side = RIGHT if x > box.center().x() else LEFT
        pencil.label(x + (-px(9) if side == RIGHT else px(9)), y, show.size(s), 12, "ink", align=side, ground="sheet")
    pencil.text(
        QRectF(box.left(), box.bottom() + px(5), box.width(), px(16)),
        "← tight, open →",
        12,
        "graphite",
        align=CENTRE | MIDDLE,
    )
