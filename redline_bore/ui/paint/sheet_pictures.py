"""The pictures on a sheet: unrolled walls as gauged, and the finish of each cylinder, ready to be painted on anything."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QBuffer, QByteArray, QIODevice, QRectF, QSizeF
from PyQt6.QtGui import QPainter
from PyQt6.QtSvg import QSvgGenerator

from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.finish.judgement import texture_at
from redline_bore.job.sign_off.sheet import CUSTOMER, Sheet, SheetRow, pictures_a_row
from redline_bore.ui.paint.pencil import Pencil
from redline_bore.ui.paint.trace_chart import draw_together
from redline_bore.ui.paint.wall_map import draw_wall_map
from redline_bore.ui.paint.wall_picture import wall_picture
from redline_bore.ui.theme.theme import Theme

MAP_PX, TRACE_PX = (690.0, 190.0), (664.0, 170.0)
TWO_A_ROW_PX, THREE_A_ROW_PX = (336.0, 118.0), (222.0, 92.0)


@frozen(often=True)
class SheetPicture:
    """A picture by its size in px at 96 an inch, and how it is painted into a rectangle of that size."""

    title: str
    width: float
    height: float
    paint: Callable[[Pencil, QRectF], None]

    @property
    def size(self) -> QSizeF:
        return QSizeF(self.width, self.height)

    def draw(self, painter: QPainter, rect: QRectF) -> None:
        """Paint into ``rect`` in the light colours of paper."""
        self.paint(Pencil(painter, Theme()), rect)

    def svg(self) -> str:
        """The picture as SVG markup."""
        return svg_of(self.size, self.title, lambda p: self.draw(p, QRectF(0, 0, self.width, self.height)))


def svg_of(size: QSizeF, title: str, paint: Callable[[QPainter], None]) -> str:
    """What ``paint`` draws, as SVG markup."""
    data = QByteArray()
    buffer = QBuffer(data)
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    generator = QSvgGenerator()
    generator.setOutputDevice(buffer)
    generator.setSize(size.toSize())
    generator.setViewBox(QRectF(0, 0, size.width(), size.height()))
    generator.setTitle(title)
    painter = QPainter(generator)
    paint(painter)
    painter.end()
    text = data.data().decode("utf-8")
    return text[text.index("<svg") :]


def sheet_pictures(sheet: Sheet, units: Units, audience: str) -> dict[str, SheetPicture]:
    """The pictures of a sheet by name: ``finish_1`` ... of every wall traced; the shop's has ``wall_1`` ... as well."""
    show, found = Show(units), dict[str, SheetPicture]()
    customer = audience == CUSTOMER
    across = pictures_a_row(len(sheet.rows))
    small = TWO_A_ROW_PX if across == 2 else THREE_A_ROW_PX
    for row in sheet.rows:
        if row.finish.traces and not (customer and across == 0):
            found[f"finish_{row.cylinder}"] = _finish(row, show, small if customer else TRACE_PX)
        if not customer and (wall := _wall(sheet, row, units)) is not None:
            found[f"wall_{row.cylinder}"] = wall
    return found


def _finish(row: SheetRow, show: Show, size: tuple[float, float]) -> SheetPicture:
    traces = row.finish.traces
    texture = texture_at(traces[len(traces) // 2])

    def paint(pencil: Pencil, rect: QRectF) -> None:
        _number(pencil, rect, row.cylinder)
        draw_together(pencil, rect, texture, show, small=True)

    return SheetPicture(f"Finish of cylinder {row.cylinder}", *size, paint)


def _number(pencil: Pencil, rect: QRectF, cylinder: int) -> None:
    """Which cylinder it is, inside the picture: a line above it could stay behind on the page before."""
    pencil.text(QRectF(rect.left(), rect.top(), 20.0, 18.0), str(cylinder), 14, bold=True)


def _wall(sheet: Sheet, row: SheetRow, units: Units) -> SheetPicture | None:
    """The wall as gauged; None where it was not read at two levels, which the sheet says."""
    try:
        wall = wall_picture(sheet.state, row.cylinder, row.shape.plate_on, units)
    except FitError:
        return None

    def paint(pencil: Pencil, rect: QRectF) -> None:
        _number(pencil, rect, row.cylinder)
        draw_wall_map(pencil, rect, wall, Show(units))

    return SheetPicture(f"Wall of cylinder {row.cylinder}, unrolled", *MAP_PX, paint)
