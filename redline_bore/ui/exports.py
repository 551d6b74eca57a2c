"""What can be written of an open job, and under which names."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QBuffer, QIODevice, QRectF, QSizeF
from PyQt6.QtGui import QImage, QPainter
from PyQt6.QtWidgets import QWidget

from redline_bore.core.errors import EnvironmentTrouble, InputError
from redline_bore.core.show import Show
from redline_bore.core.written import shown_html, table
from redline_bore.job.state.calling import Apart
from redline_bore.job.state.job_state import JobState
from redline_bore.ui.paint.pencil import Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.session import Session

EXPORTS = {
    "Customer PDF": "customer.pdf", "Customer HTML": "customer.html", "Shop PDF": "shop.pdf", "Shop HTML": "shop.html",
    "Readings CSV": "readings.csv", "Stock CSV": "stock.csv", "Finish CSV": "finish.csv", "Job JSON": "job.json",
}  # fmt: skip
PICTURE_SCALE = 2  # pixels of a PNG for each on the screen


def write_export(session: Session, name: str, path: Path) -> None:
    """Write one export of the open job. Raises BenchError."""
    from redline_bore.job.sign_off.sheet import sheet_of
    from redline_bore.store.exports import write_text
    from redline_bore.store.job_file import job_to_json
    from redline_bore.store.readings_csv import readings_to_csv
    from redline_bore.ui.paint.sheet_print import SheetPages, html_document, write_pdf

    audience, _, kind = name.lower().partition(" ")
    if kind == "pdf":
        pages = SheetPages(sheet_of(session.job), session.show, audience, paper=session.paper)
        write_pdf(pages, path, f"Job {session.job.number}")
    elif kind == "html":
        write_text(path, html_document(sheet_of(session.job), session.show, audience))
    elif name == "Readings CSV":
        write_text(path, table(readings_to_csv(session.job)))
    elif name == "Finish CSV":
        from redline_bore.store.finish_csv import finish_csv

        write_text(path, table(finish_csv(session.job)))
    elif name == "Stock CSV":
        from redline_bore.job.hone.stock_ledger import ledger_csv, ledger_of

        write_text(path, table(ledger_csv(ledger_of(session.job))))
    else:
        write_text(path, job_to_json(tuple(session.records), session.logbook.photos_of(session.records)))


def write_opinion(state: JobState, show: Show, path: Path, paper: str = "A4") -> None:
    """Write the second opinion as half a page, PDF or HTML by its ending. Raises BenchError."""
    from redline_bore.store.opinion_html import opinion_html

    kind = _kind(path, (".pdf", ".html"))
    html = opinion_html(state, show, printing=kind == ".pdf")
    _write_document(html, path, kind, f"Job {state.number}, second opinion", paper)


def write_quote(
    state: JobState, oversize_mm: float | None, apart: Sequence[Apart], show: Show, path: Path, paper: str = "A4"
) -> None:
    """Write the quote for a call as PDF or HTML, or its order list as CSV, by the ending. Raises BenchError."""
    from redline_bore.job.words.quote import quote_of
    from redline_bore.store.quote_html import orders_csv, quote_html

    kind = _kind(path, (".pdf", ".html", ".csv"))
    quote = quote_of(state, oversize_mm, apart, show)
    text = table(orders_csv(quote)) if kind == ".csv" else quote_html(quote, show, printing=kind == ".pdf")
    _write_document(text, path, kind, f"Job {state.number}, quote", paper)


def write_bench_sheet(state: JobState, cylinder: int, show: Show, path: Path, paper: str = "A4") -> None:
    """Write the bench sheet of a cylinder, PDF or HTML by its ending. Raises BenchError."""
    from redline_bore.store.bench_html import bench_html

    kind = _kind(path, (".pdf", ".html"))
    html = bench_html(state, cylinder, show, printing=kind == ".pdf")
    _write_document(html, path, kind, f"Job {state.number}, cylinder {cylinder}", paper)


def _kind(path: Path, known: tuple[str, ...]) -> str:
    kind = path.suffix.lower()
    if kind not in known:
        raise InputError(f"“{path.name}” does not say what to write: end it in {', '.join(known[:-1])} or {known[-1]}")
    return kind


def _write_document(text: str, path: Path, kind: str, title: str, paper: str) -> None:
    from redline_bore.store.exports import write_text
    from redline_bore.ui.paint.sheet_print import Pages, write_pdf

    if kind == ".pdf":
        write_pdf(Pages.of_html(text, paper), path, title)
    else:
        write_text(path, shown_html(text) if kind == ".html" else text)


def write_pictures(view: QWidget, folder: Path, number: str) -> list[str]:
    """Every picture in sight of a view as PNG and SVG; returns the names. Raises EnvironmentTrouble."""
    from redline_bore.store.exports import file_stem, write_bytes, write_text
    from redline_bore.ui.paint.sheet_pictures import svg_of

    names = []
    for picture in view.findChildren(Picture):
        if not picture.isVisible():
            continue
        stem = f"{file_stem(number)}-{picture.session.bench.cylinder}-{picture.accessibleName().lower().replace(', ', ' ').replace(' ', '-')}"
        write_text(
            folder / f"{stem}.svg",
            svg_of(QSizeF(picture.size()), picture.accessibleName(), partial(paint_fresh, picture)),
        )
        made = QBuffer()
        made.open(QIODevice.OpenModeFlag.WriteOnly)
        if not png_of(picture).save(made, "PNG"):
            raise EnvironmentTrouble(f"{folder / stem}.png cannot be made")
        write_bytes(folder / f"{stem}.png", made.data().data())
        names.append(stem)
    return names


def paint_fresh(picture: Picture, painter: QPainter) -> None:
    """Paint a picture onto another device, on its own ground."""
    area = QRectF(picture.rect())
    pencil = Pencil(painter, picture.theme)
    pencil.rect(area, "paper")
    pencil.hold_words()
    picture.draw_vectors(pencil, area)
    pencil.place_words()


def png_of(picture: Picture) -> QImage:
    """A picture at twice its size on the screen."""
    image = QImage(picture.size() * PICTURE_SCALE, QImage.Format.Format_RGB32)
    painter = QPainter(image)
    painter.scale(PICTURE_SCALE, PICTURE_SCALE)
    paint_fresh(picture, painter)
    painter.end()
    return image
