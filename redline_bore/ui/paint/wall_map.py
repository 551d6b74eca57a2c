"""The unrolled wall: tight to open in blue, paper, ochre, with labelled contours, levels, ring travel and defects."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QImage

from redline_bore.core.frozen import frozen
from redline_bore.core.late import np
from redline_bore.core.show import Show
from redline_bore.job.state.gauging import Defect
from redline_bore.ui.paint.pencil import CENTRE, LEFT, RIGHT, Pencil
from redline_bore.ui.paint.wall_picture import CLOCKS, ROWS, WallPicture
from redline_bore.ui.theme.theme import Theme


@frozen(often=True)
class MapLook:
    """How much stands around a map. ``small``: one of several side by side, with no words on it."""

    small: bool = False
    defects: bool = True
    chosen: int = -1  # index of the defect that is lit


FULL, SMALL = MapLook(), MapLook(small=True)


def mapped_image(picture: WallPicture, theme: Theme) -> QImage:
    """The colours of the map as an image, one pixel a grid point; unknown is paper, hatched afterwards."""
    colours = np.array([c.rgb() for c in theme.map_colours()] + [theme.colour("paper").rgb()], dtype=np.uint32)
    share = np.clip(np.nan_to_num(picture.deviation_mm) / picture.scale_mm, -1.0, 1.0)
    index = np.where(np.isnan(picture.deviation_mm), len(colours) - 1, np.rint(share * 127).astype(int) + 127)
    return QImage(colours[index].tobytes(), CLOCKS, ROWS, 4 * CLOCKS, QImage.Format.Format_RGB32).copy()


def wall_box(theme: Theme, area: QRectF, look: MapLook = FULL) -> QRectF:
    """The rectangle of the wall itself within the area of its map."""
    px = theme.px
    return (
        area.adjusted(px(4), px(4), -px(4), -px(20)) if look.small else area.adjusted(px(78), px(6), -px(12), -px(26))
    )


def draw_wall_map(pencil: Pencil, area: QRectF, picture: WallPicture, show: Show, look: MapLook = FULL) -> QRectF:
    """Draw the map with its scales; returns the rectangle of the wall itself."""
    wall = wall_box(pencil.theme, area, look)
    smooth = mapped_image(picture, pencil.theme)
    pencil.p.setRenderHint(pencil.p.RenderHint.SmoothPixmapTransform)
    pencil.p.drawImage(wall, smooth)
    defects = picture.defects if look.defects else ()
    for defect in defects:
        _keep_clear_of(pencil, wall, picture, defect, show, look)
    _draw_unknown(pencil, wall, picture)
    _draw_contours(pencil, wall, picture, show, look)
    if look.small:
        _draw_small_scales(pencil, wall, picture)
    else:
        _draw_scales(pencil, wall, picture, show)
    for i, defect in enumerate(defects):
        _draw_defect(pencil, wall, picture, defect, show, look, i == look.chosen)
    pencil.rect(wall, "", "graphite")
    return wall


def _y(wall: QRectF, picture: WallPicture, depth_mm: float) -> float:
    return wall.top() + wall.height() * depth_mm / picture.length_mm


def _draw_unknown(pencil: Pencil, wall: QRectF, picture: WallPicture) -> None:
    known = np.flatnonzero(~np.isnan(picture.deviation_mm[:, 0]))
    top, bottom = (known[0], known[-1]) if known.size else (ROWS, ROWS)
    for first, last in ((0, top), (bottom, ROWS - 1)):
        if last > first:
            y1, y2 = (wall.top() + wall.height() * i / (ROWS - 1) for i in (first, last))
            pencil.hatch(QRectF(wall.left(), y1, wall.width(), y2 - y1), "rule", "rule")
            if y2 - y1 > pencil.px(14):
                pencil.label(wall.center().x(), (y1 + y2) / 2, "not read", 12, "graphite", align=CENTRE, ground="paper")


def _draw_contours(pencil: Pencil, wall: QRectF, picture: WallPicture, show: Show, look: MapLook) -> None:
    clear = _y(wall, picture, picture.travel.top_mm) + pencil.px(9)  # below the words at the ring stop
    least = pencil.px(40 if look.small else 60)
    for contour in picture.contours:
        xs = wall.left() + contour.points[:, 0] * wall.width()
        ys = wall.top() + contour.points[:, 1] * wall.height()
        pencil.polyline(list(zip(xs.tolist(), ys.tolist(), strict=True)), "ink", 0.7)
        if xs.max() - xs.min() < least:
            continue
        across = xs.max() - xs.min() > 0.6 * wall.width()  # a line round the hole in the middle, a patch at its foot
        place = int(np.argmin(np.abs(xs - wall.center().x()))) if across else int(np.argmax(ys))
        if clear < ys[place] < wall.bottom() - pencil.px(6):
            figure = show.away(contour.deviation_mm) if contour.deviation_mm else show.size(0.0)
            pencil.label(xs[place], ys[place], figure, 12, "ink", align=CENTRE, ground="sheet")


def _draw_small_scales(pencil: Pencil, wall: QRectF, picture: WallPicture) -> None:
    for clock in (0, 90, 180, 270, 360):
        x = wall.left() + wall.width() * clock / 360.0
        pencil.line(x, wall.bottom(), x, wall.bottom() + pencil.px(4), "graphite")
        align = LEFT if clock == 0 else RIGHT if clock == 360 else CENTRE
        pencil.label(x, wall.bottom() + pencil.px(12), f"{clock}°", 12, "graphite", align=align)
    for depth in (picture.travel.top_mm, picture.travel.bottom_mm):
        y = _y(wall, picture, depth)
        pencil.line(wall.left(), y, wall.right(), y, "ink", 1.0, "dash")


def _draw_scales(pencil: Pencil, wall: QRectF, picture: WallPicture, show: Show) -> None:
    px, last = pencil.px, -1e9
    for letter, depth in picture.levels:
        y = _y(wall, picture, depth)
        pencil.line(wall.left() - px(5), y, wall.left(), y, "ink")
        text = f"{letter} {show.depth(depth)}".strip()
        pencil.label(wall.left() - px(8), max(y, last + px(17)), text, 12, "graphite", align=RIGHT)
        last = max(y, last + px(17))
    for clock in range(0, 361, 45):
        x = wall.left() + wall.width() * clock / 360.0
        pencil.line(x, wall.bottom(), x, wall.bottom() + px(4), "graphite")
        name = {90: "90° thrust", 270: "270° thrust", 0: "0° front"}.get(clock, f"{clock}°")
        align = LEFT if clock == 0 else RIGHT if clock == 360 else CENTRE
        pencil.label(x, wall.bottom() + px(14), name, 12, "graphite", align=align)
    for depth, name in ((picture.travel.top_mm, "top ring stops"), (picture.travel.bottom_mm, "lowest ring turns")):
        y = _y(wall, picture, depth)
        pencil.line(wall.left(), y, wall.right(), y, "ink", 1.0, "dash")
        pencil.label(wall.right() - px(4), y, name, 12, "ink", align=RIGHT, ground="sheet")
    if picture.band_mm:
        y = _y(wall, picture, picture.band_mm)
        pencil.line(wall.left(), y, wall.right(), y, "graphite", 1.0, "dot")
        pencil.label(wall.left() + px(4), y, "hardened above", 12, "graphite", ground="sheet")


def _defect_boxes(pencil: Pencil, wall: QRectF, picture: WallPicture, defect: Defect) -> list[QRectF]:
    """Where a defect lies; across 0 degrees it shows at both edges."""
    top, bottom = _y(wall, picture, defect.top_mm), _y(wall, picture, defect.bottom_mm)
    half = wall.width() * defect.width_deg / 720.0
    centre = wall.left() + wall.width() * (defect.clock_deg % 360.0) / 360.0
    boxes = (
        QRectF(centre + shift - half, top, 2 * half, max(bottom - top, pencil.px(4))).intersected(wall)
        for shift in (-wall.width(), 0.0, wall.width())
    )
    return [box for box in boxes if not box.isEmpty()]


def _draw_defect(
    pencil: Pencil, wall: QRectF, picture: WallPicture, defect: Defect, show: Show, look: MapLook, lit: bool
) -> None:
    for box in _defect_boxes(pencil, wall, picture, defect):
        pencil.hatch(box, "ink", "ink")
        if lit:
            pencil.rect(box.adjusted(-3, -3, 3, 3), "", "ink", 2.5)
    if not look.small:
        x, y = _name_at(pencil, wall, picture, defect)
        pencil.label(x, y, _name(defect, show), 12, "ink", align=CENTRE, ground="sheet", crowd=False)


def _name(defect: Defect, show: Show) -> str:
    deep = show.size(defect.deep_high_mm) if defect.measured else f"up to {show.size(defect.deep_high_mm)}"
    return f"{defect.what}, {show.unit(deep)} deep"


def _name_at(pencil: Pencil, wall: QRectF, picture: WallPicture, defect: Defect) -> tuple[float, float]:
    x = wall.left() + wall.width() * (defect.clock_deg % 360.0) / 360.0
    return x, _y(wall, picture, defect.bottom_mm) + pencil.px(9)


def _keep_clear_of(
    pencil: Pencil, wall: QRectF, picture: WallPicture, defect: Defect, show: Show, look: MapLook
) -> None:
    """No label goes on a defect or on its name."""
    for box in _defect_boxes(pencil, wall, picture, defect):
        pencil.keep_clear(box)
    if not look.small:
        (x, y), w, h = _name_at(pencil, wall, picture, defect), pencil.width_of(_name(defect, show), 12), pencil.px(18)
        pencil.keep_clear(QRectF(x - w / 2 - 2, y - h / 2, w + 4, h))
