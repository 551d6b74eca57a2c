"""Sign off: the sheet as it will print, and its export."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QScrollArea, QVBoxLayout, QWidget

from redline_bore.core.errors import InputError
from redline_bore.core.lengths import Units
from redline_bore.job import sign_off
from redline_bore.job.advice import Advice
from redline_bore.job.entries import StepStamped
from redline_bore.ui.background import Runner, Token
from redline_bore.ui.exports import EXPORTS
from redline_bore.ui.paint.pencil import Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.paint.sheet_print import SheetPages, sheet_walls
from redline_bore.ui.paint.wall_map import WallPicture
from redline_bore.ui.session import LEDGER, Session
from redline_bore.ui.steps.base import LineText, StepView
from redline_bore.ui.theme.theme import Theme


class _Heading(Picture):
    topics = frozenset({"job"})

    def __init__(self, session: Session, theme: Theme):
        super().__init__(session, theme, "The sheet")

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        pencil.heading(pencil.px(4), pencil.px(6), "The sheet", "as it will print")


class SignOffStep(StepView):
    """The sign-off step: previews the pages, stamps the job, offers the exports."""

    name = "sign_off"
    topics = LEDGER | {"step", "selection"}
    digits_pick = True

    def __init__(self, session: Session, theme: Theme, runner: Runner, export):  # type: ignore[no-untyped-def]
        super().__init__(session, theme)
        self._runner, self._walls = runner, dict[str, WallPicture]()
        self.pages = QVBoxLayout()
        self.paper = QWidget()
        self.paper.setObjectName("work")
        self.paper.setLayout(self.pages)
        self.scroll = QScrollArea()
        self.scroll.setWidgetResizable(True)
        self.scroll.setWidget(self.paper)
        self.scroll.setAccessibleName("Sheet preview")
        heading = _Heading(session, theme)
        heading.setFixedHeight(theme.px(34))
        row = QHBoxLayout()
        row.addWidget(heading, 1)
        for name in EXPORTS:
            button = QPushButton(name)
            button.setAccessibleName(f"Export {name}")
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            button.clicked.connect(lambda _checked, n=name: export(n))
            row.addWidget(button)
        column = QVBoxLayout(self)
        column.addLayout(row)
        column.addWidget(self.scroll, 1)
        session.changed.connect(self._heard)
        theme.changed.connect(self._lay_out_if_on)

    def _heard(self, topics: frozenset[str]) -> None:
        if topics & (self.topics | {"job", "units"}) and self.session.bench.step == self.name:
            self.shown()

    def shown(self) -> None:
        sheet, units = sign_off.sheet_of(self.session.job), self.session.bench.units
        self._runner.start("sheet", lambda token: self._work(token, sheet, units), self._worked_out)

    @staticmethod
    def _work(token: Token, sheet: sign_off.Sheet, units: Units) -> dict[str, WallPicture]:
        walls = sheet_walls(sheet, units)
        token.check()
        return walls

    def _worked_out(self, walls: dict[str, WallPicture]) -> None:
        self._walls = walls
        self._lay_out()

    def _lay_out_if_on(self) -> None:
        if self.session.bench.step == self.name and self.session.state is not None:
            self._lay_out()

    def _lay_out(self) -> None:
        """Show the pages; kept widgets are used again, so that scrolling stays where it was."""
        pages = SheetPages(sign_off.sheet_of(self.session.job), self.session.show, self._walls)
        width = max(self.theme.px(420), self.scroll.viewport().width() - self.theme.px(30))  # type: ignore[union-attr]
        while self.pages.count() > pages.count:
            item = self.pages.takeAt(self.pages.count() - 1)
            widget = item.widget() if item is not None else None
            if widget is not None:
                widget.deleteLater()
        while self.pages.count() < pages.count:
            self.pages.addWidget(QLabel())
        for i in range(pages.count):
            item = self.pages.itemAt(i)
            label = item.widget() if item is not None else None
            assert isinstance(label, QLabel)
            label.setPixmap(QPixmap.fromImage(pages.image(i, width)))
            label.setFixedSize(label.pixmap().size())
            label.setAccessibleName(f"Page {i + 1} of {pages.count}")
        page = pages.image(0, width).height() + self.pages.spacing()
        self.paper.setMinimumHeight(pages.count * page + self.theme.px(30))

    def advice(self) -> Advice:
        return sign_off.advise(self.session.job, self.session.show)

    def line_text(self) -> LineText:
        state = self.session.job
        stamp = state.stamp(self.name)
        done = (
            f"Signed off by {stamp.initials}"
            if stamp
            else f"Enter signs off as {self.session.person}; “who RM” changes the initials"
        )
        return LineText(f"Job {state.number} · {state.last_seq} entries", done, "Ctrl+P PDF · Ctrl+E all exports", "")

    def move(self, across: int, down: int) -> None:
        bar = self.scroll.verticalScrollBar()
        assert bar is not None
        bar.setValue(bar.value() + down * self.theme.px(120))

    def enter_empty(self) -> str:
        advice = self.advice()
        if not advice.button:
            raise InputError(f"It cannot be signed off now: {advice.sentence}")
        self.session.book(StepStamped(step=self.name, initials=self.session.person))
        return "Signed off."
