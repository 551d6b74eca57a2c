"""The sheet as pages: the HTML of store.sheet_html laid out by Qt, with the pictures painted as vectors."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path

from PyQt6.QtCore import QBuffer, QIODevice, QMarginsF, QObject, QRectF, QSizeF, Qt
from PyQt6.QtGui import (
    QAbstractTextDocumentLayout,
    QImage,
    QPageSize,
    QPainter,
    QPdfWriter,
    QTextBlockFormat,
    QTextCharFormat,
    QTextCursor,
    QTextDocument,
    QTextFormat,
    QTextObjectInterface,
)

from redline_bore.core.errors import EnvironmentTrouble
from redline_bore.core.show import Show
from redline_bore.core.written import shown_html
from redline_bore.job.sign_off.sheet import CUSTOMER, Sheet
from redline_bore.store.sheet_html import sheet_html
from redline_bore.ui.paint.sheet_pictures import SheetPicture, sheet_pictures
from redline_bore.ui.theme.theme import Theme

PICTURE_KIND = QTextFormat.ObjectTypes.UserObject.value + 1
KEY = QTextFormat.Property.UserProperty.value + 1
PAPERS = {"A4": (QPageSize.PageSizeId.A4, (210.0, 297.0)), "Letter": (QPageSize.PageSizeId.Letter, (215.9, 279.4))}
MARGIN_MM = 14.0
MARK = "\ufffc"
UNIT_PX = 96.0 / 25.4  # a page is laid out at 96 px an inch, then scaled to the paper


def html_document(sheet: Sheet, show: Show, audience: str) -> str:
    """A sheet as one HTML file with its pictures in it."""
    pictures = {name: picture.svg() for name, picture in sheet_pictures(sheet, show.units, audience).items()}
    return shown_html(sheet_html(sheet, show, pictures, audience))


class _PictureObject(QObject, QTextObjectInterface):
    """Paints a picture where its mark stands in the text."""

    def __init__(self, parent: QObject, pictures: Mapping[str, SheetPicture]) -> None:
        super().__init__(parent)
        self._pictures = pictures

    def intrinsicSize(self, document: QTextDocument | None, place: int, form: QTextFormat) -> QSizeF:
        return self._pictures[str(form.property(KEY))].size

    def drawObject(
        self, painter: QPainter | None, rect: QRectF, document: QTextDocument | None, place: int, form: QTextFormat
    ) -> None:
        assert painter is not None
        painter.save()
        self._pictures[str(form.property(KEY))].draw(painter, QRectF(rect))
        painter.restore()


class Pages:
    """A laid-out document: ``count`` pages of ``paper`` (A4 or Letter), painted one at a time onto anything."""

    def __init__(self, document: QTextDocument, paper: str = "A4") -> None:
        self._document, self.paper = document, paper
        self.page = QSizeF(*((side - 2 * MARGIN_MM) * UNIT_PX for side in PAPERS[paper][1]))
        self._document.setPageSize(self.page)
        _keep_headings(self._document, self.page.height())

    @classmethod
    def of_html(cls, html: str, paper: str = "A4") -> Pages:
        """Pages of plain text and tables."""
        document = QTextDocument()
        document.setDefaultFont(Theme().font(12))
        document.setHtml(shown_html(html))
        return Pages(document, paper)

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

    def words(self, page: int) -> str:
        """What stands on a page (from 0), as it is read to somebody: a line or a cell after the other."""
        layout, found = self._document.documentLayout(), list[str]()
        assert layout is not None
        block = self._document.begin()
        while block.isValid():
            text = " ".join(block.text().replace(MARK, " ").split())
            if text and int(layout.blockBoundingRect(block).top() // self.page.height()) == page:
                found.append(text)
            block = block.next()
        return "; ".join(found)

    def image(self, page: int, width: int) -> QImage:
        """A page with its margins as a picture ``width`` pixels wide."""
        wide, high = PAPERS[self.paper][1]
        scale = width / (wide * UNIT_PX)
        image = QImage(width, round(high * UNIT_PX * scale), QImage.Format.Format_RGB32)
        image.fill(Qt.GlobalColor.white)
        painter = QPainter(image)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.scale(scale, scale)
        painter.translate(MARGIN_MM * UNIT_PX, MARGIN_MM * UNIT_PX)
        self.paint(painter, page)
        painter.end()
        return image


def _keep_headings(document: QTextDocument, page_px: float) -> None:
    """No heading stays behind at the foot of a page: it goes to the next one with what it stands over."""
    layout = document.documentLayout()
    assert layout is not None
    block = document.begin()
    while block.isValid():
        after = block.next()
        if block.blockFormat().headingLevel() and after.isValid():
            here, there = (int(layout.blockBoundingRect(b).bottom() // page_px) for b in (block, after))
            if here != there:
                form = QTextBlockFormat()
                form.setPageBreakPolicy(QTextFormat.PageBreakFlag.PageBreak_AlwaysBefore)
                QTextCursor(block).mergeBlockFormat(form)
        block = block.next()


class SheetPages(Pages):
    """A sheet of a job, the customer's or the shop's, with its pictures painted as vectors."""

    def __init__(
        self,
        sheet: Sheet,
        show: Show,
        audience: str,
        pictures: Mapping[str, SheetPicture] | None = None,
        paper: str = "A4",
    ) -> None:
        found = sheet_pictures(sheet, show.units, audience) if pictures is None else pictures
        super().__init__(_document(sheet, show, audience, found), paper)
        if audience == CUSTOMER and found and self.count > 1:  # pictures that begin a page are not torn apart
            apart = Pages(_document(sheet, show, audience, found, new_page=True), paper)
            if apart.count <= self.count:
                self._document = apart._document


def _document(
    sheet: Sheet, show: Show, audience: str, pictures: Mapping[str, SheetPicture], new_page: bool = False
) -> QTextDocument:
    document = QTextDocument()
    layout = document.documentLayout()
    assert layout is not None
    layout.registerHandler(PICTURE_KIND, _PictureObject(document, pictures))
    document.setDefaultFont(Theme().font(12))
    marks = {name: f"[[{name}]]" for name in pictures}
    document.setHtml(shown_html(sheet_html(sheet, show, marks, audience, printing=True, new_page=new_page)))
    for name, mark in marks.items():
        _put_picture(document, name, mark)
    return document


def _put_picture(document: QTextDocument, name: str, mark: str) -> None:
    cursor = document.find(mark)
    if cursor.isNull():
        return  # this sheet has no place for it
    form = QTextCharFormat()
    form.setObjectType(PICTURE_KIND)
    form.setProperty(KEY, name)
    cursor.insertText(MARK, form)
    cursor.movePosition(QTextCursor.MoveOperation.EndOfBlock)


def write_pdf(pages: Pages, path: Path, title: str) -> None:
    """Write the pages as a PDF: made whole first, then put in its place. Raises EnvironmentTrouble when it cannot be."""
    from redline_bore.store.exports import write_bytes

    made = QBuffer()
    made.open(QIODevice.OpenModeFlag.WriteOnly)
    _into(pages, made, title)
    data = made.data().data()
    if not data.rstrip().endswith(b"%%EOF"):
        raise EnvironmentTrouble(f"{path} cannot be written: the pages were not made to their end")
    write_bytes(path, data)


def _into(pages: Pages, made: QIODevice, title: str) -> None:
    writer = QPdfWriter(made)
    writer.setPageSize(QPageSize(PAPERS[pages.paper][0]))
    writer.setPageMargins(QMarginsF(MARGIN_MM, MARGIN_MM, MARGIN_MM, MARGIN_MM))
    writer.setTitle(title)
    writer.setResolution(600)
    painter = QPainter()
    if not painter.begin(writer):
        raise EnvironmentTrouble("the sheet cannot be painted")
    painter.setRenderHint(QPainter.RenderHint.LosslessImageRendering)
    painter.scale(600.0 / 96.0, 600.0 / 96.0)
    for page in range(pages.count):
        if page:
            writer.newPage()
        pages.paint(painter, page)
    painter.end()
