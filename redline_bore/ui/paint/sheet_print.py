"""The sheet as pages: the HTML of store.sheet_html laid out by Qt, with the pictures painted as vectors."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QBuffer, QByteArray, QIODevice, QMarginsF, QObject, QRectF, QSizeF, Qt
from PyQt6.QtGui import (
    QAbstractTextDocumentLayout,
    QImage,
    QPageSize,
    QPainter,
    QPdfWriter,
    QTextCharFormat,
    QTextCursor,
    QTextDocument,
    QTextFormat,
    QTextObjectInterface,
)
from PyQt6.QtSvg import QSvgGenerator

from redline_bore.core.errors import EnvironmentTrouble, FitError
from redline_bore.core.lengths import Units
from redline_bore.job.advice import Show
from redline_bore.job.sign_off import Sheet
from redline_bore.store.sheet_html import sheet_html
from redline_bore.ui.paint.pencil import Pencil
from redline_bore.ui.paint.wall_map import draw_wall_map
from redline_bore.ui.paint.wall_picture import WallPicture, wall_picture
from redline_bore.ui.theme.theme import Theme

PICTURE_KIND = QTextFormat.ObjectTypes.UserObject.value + 1
KEY = QTextFormat.Property.UserProperty.value + 1
PAGE_MM = (210.0, 297.0)
MARGIN_MM = 14.0
MAP_PX = (690.0, 190.0)
MARK = "\ufffc"
UNIT_PX = 96.0 / 25.4  # a page is laid out at 96 px an inch, then scaled to the paper


def sheet_walls(sheet: Sheet, units: Units) -> dict[str, WallPicture]:
    """The wall of each cylinder that has been read at two levels or more."""
    walls = {}
    for row in sheet.rows:
        try:
            walls[f"wall_{row.cylinder}"] = wall_picture(sheet.state, row.cylinder, row.shape.plate_on, units)
        except FitError:
            continue  # the sheet says that it was not gauged
    return walls


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
    text = bytes(data).decode("utf-8")
    return text[text.index("<svg") :]


def wall_svg(wall: WallPicture, show: Show) -> str:
    """A wall map as SVG markup."""
    return svg_of(
        QSizeF(*MAP_PX), f"Wall of cylinder {wall.cylinder}, unrolled",
        lambda painter: draw_wall_map(Pencil(painter, Theme()), QRectF(0, 0, *MAP_PX), wall, show),
    )  # fmt: skip


def html_document(sheet: Sheet, show: Show) -> str:
    """The sheet as one HTML file with its pictures in it."""
    return sheet_html(
        sheet, show, {name: wall_svg(wall, show) for name, wall in sheet_walls(sheet, show.units).items()}
    )


class _WallObject(QObject, QTextObjectInterface):
    """Paints a wall map where its mark stands in the text."""

    def __init__(self, parent: QObject, walls: dict[str, WallPicture], show: Show):
        super().__init__(parent)
        self._walls, self._show, self._theme = walls, show, Theme()

    def intrinsicSize(self, document: QTextDocument | None, place: int, form: QTextFormat) -> QSizeF:
        return QSizeF(*MAP_PX)

    def drawObject(
        self, painter: QPainter | None, rect: QRectF, document: QTextDocument | None, place: int, form: QTextFormat
    ) -> None:
        assert painter is not None
        painter.save()
        draw_wall_map(Pencil(painter, self._theme), QRectF(rect), self._walls[str(form.property(KEY))], self._show)
        painter.restore()


class Pages:
    """A laid-out document: ``count`` A4 pages, painted one at a time onto anything."""

    def __init__(self, document: QTextDocument):
        self._document = document
        self.page = QSizeF(*((side - 2 * MARGIN_MM) * UNIT_PX for side in PAGE_MM))
        self._document.setPageSize(self.page)

    @classmethod
    def of_html(cls, html: str) -> Pages:
        """Pages of plain text and tables."""
        document = QTextDocument()
        document.setDefaultFont(Theme().font(12))
        document.setHtml(html)
        return Pages(document)

    @property
    def count(self) -> int:
        return self._document.pageCount()

    def paint(self, painter: QPainter, page: int) -> None:
        """Paint a page (from 0) at 96 px an inch into the painter's origin."""
        painter.save()
        painter.translate(0.0, -page * self.page.height())
        context = QAbstractTextDocumentLayout.PaintContext()
        context.clip = QRectF(0, page * self.page.height(), self.page.width(), self.page.height())
        painter.setClipRect(context.clip)
        layout = self._document.documentLayout()
        assert layout is not None
        layout.draw(painter, context)
        painter.restore()

    def image(self, page: int, width: int) -> QImage:
        """A page with its margins as a picture ``width`` pixels wide."""
        scale = width / (PAGE_MM[0] * UNIT_PX)
        image = QImage(width, round(PAGE_MM[1] * UNIT_PX * scale), QImage.Format.Format_RGB32)
        image.fill(Qt.GlobalColor.white)
        painter = QPainter(image)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.scale(scale, scale)
        painter.translate(MARGIN_MM * UNIT_PX, MARGIN_MM * UNIT_PX)
        self.paint(painter, page)
        painter.end()
        return image


class SheetPages(Pages):
    """The sheet of a job, with its wall maps painted as vectors."""

    def __init__(self, sheet: Sheet, show: Show, walls: dict[str, WallPicture] | None = None):
        found = sheet_walls(sheet, show.units) if walls is None else walls
        document = QTextDocument()
        layout = document.documentLayout()
        assert layout is not None
        layout.registerHandler(PICTURE_KIND, _WallObject(document, found, show))
        document.setDefaultFont(Theme().font(12))
        marks = {name: f"[[{name}]]" for name in found}
        document.setHtml(sheet_html(sheet, show, marks, printing=True))
        for name, mark in marks.items():
            _put_picture(document, name, mark)
        super().__init__(document)


def _put_picture(document: QTextDocument, name: str, mark: str) -> None:
    cursor = document.find(mark)
    form = QTextCharFormat()
    form.setObjectType(PICTURE_KIND)
    form.setProperty(KEY, name)
    cursor.insertText(MARK, form)
    cursor.movePosition(QTextCursor.MoveOperation.EndOfBlock)


def write_pdf(pages: Pages, path: Path, title: str) -> None:
    """Write the pages as a PDF. Raises EnvironmentTrouble when the file cannot be written."""
    try:
        path.touch()
    except OSError as error:
        raise EnvironmentTrouble(f"{path} cannot be written: {error.strerror or error}") from error
    writer = QPdfWriter(str(path))
    writer.setPageSize(QPageSize(QPageSize.PageSizeId.A4))
    writer.setPageMargins(QMarginsF(MARGIN_MM, MARGIN_MM, MARGIN_MM, MARGIN_MM))
    writer.setTitle(title)
    writer.setResolution(600)
    painter = QPainter()
    if not painter.begin(writer):
        raise EnvironmentTrouble(f"{path} cannot be written")
    painter.setRenderHint(QPainter.RenderHint.LosslessImageRendering)
    painter.scale(600.0 / 96.0, 600.0 / 96.0)
    for page in range(pages.count):
        if page:
            writer.newPage()
        pages.paint(painter, page)
    painter.end()
