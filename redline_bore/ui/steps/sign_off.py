"""Sign off: the sheet as it will print, and its export."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QScrollArea, QVBoxLayout, QWidget

from redline_bore.core.errors import InputError
from redline_bore.core.lengths import Units
from redline_bore.desk.readings import size_read
from redline_bore.job.card import Advice
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.sign_off import sheet as sign_off
from redline_bore.job.sign_off.sheet import CUSTOMER, SHOP
from redline_bore.job.words import sign_off as sign_off_words
from redline_bore.ui import verbs
from redline_bore.ui.background import Token
from redline_bore.ui.paint.pencil import Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import Heard, LineText, StepView
from redline_bore.ui.steps.declared import StepParts
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.verbs import Deeds

if TYPE_CHECKING:
    from redline_bore.ui.paint.sheet_pictures import SheetPicture


class _Heading(Picture):
    topics = frozenset({"job", "page"})

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "The sheet")

    def said(self) -> str:
        return f"The {'shop' if self.session.bench.page == SHOP else 'customer'} sheet"

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        shop = self.session.bench.page == SHOP
        pencil.heading(
            pencil.px(4),
            pencil.px(6),
            f"The {'shop' if shop else 'customer'} sheet",
            f"V: the {'customer' if shop else 'shop'}'s",
        )


class SignOffStep(StepView):
    """The sign-off step: previews the pages, books the last figures, stamps the job, offers the exports."""

    name = "sign_off"
    topics = LEDGER | {"step", "selection", "page"}
    digits_pick = True
    reads = True

    def __init__(self, parts: StepParts) -> None:
        super().__init__(parts)
        session, theme = parts.session, parts.theme
        self._runner, self._pictures = parts.runner, dict[str, "SheetPicture"]()
        self.pages = QVBoxLayout()
        self.sheet = QWidget()
        self.sheet.setObjectName("work")
        self.sheet.setLayout(self.pages)
        self.scroller = QScrollArea()
        self.scroller.setWidgetResizable(True)
        self.scroller.setWidget(self.sheet)
        self.scroller.setAccessibleName("Sheet preview")
        heading = _Heading(session, theme)
        heading.setFixedHeight(theme.px(34))
        row = QHBoxLayout()
        row.addWidget(heading, 1)
        for kind in ("PDF", "HTML"):
            self._button(row, kind, f"Export {kind}", partial(self._export, parts, kind))
        self._button(row, "All, to a folder", "Export everything", lambda: parts.export(""))
        column = QVBoxLayout(self)
        column.addLayout(row)
        column.addWidget(self.scroller, 1)
        session.changed.connect(self._heard)
        theme.changed.connect(self._lay_out_if_on)

    def _export(self, parts: StepParts, kind: str) -> None:
        parts.export(f"{self.audience.capitalize()} {kind}")

    @staticmethod
    def _button(row: QHBoxLayout, words: str, name: str, act: Callable[[], None]) -> None:
        button = QPushButton(words)
        button.setAccessibleName(name)
        button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        button.clicked.connect(lambda _checked: act())
        row.addWidget(button)

    def _heard(self, topics: frozenset[str]) -> None:
        if topics & (self.topics | {"job", "units"}) and self.session.bench.step == self.name:
            self.shown()

    @property
    def audience(self) -> str:
        """Whose sheet is shown."""
        return self.session.bench.page_of(self.name, CUSTOMER)

    def shown(self) -> None:
        """What is quick is painted first; then the sheet is drawn."""
        sheet, units, audience = sign_off.sheet_of(self.session.job), self.session.bench.units, self.audience
        self._runner.start(
            "sheet", lambda token: self._work(token, sheet, units, audience), self._worked_out, painted=self
        )

    @staticmethod
    def _work(token: Token, sheet: sign_off.Sheet, units: Units, audience: str) -> dict[str, SheetPicture]:
        from redline_bore.ui.paint.sheet_pictures import sheet_pictures
        from redline_bore.ui.paint.sheet_print import SheetPages  # noqa: F401  (loaded here, where nobody waits for it)

        pictures = sheet_pictures(sheet, units, audience)
        token.check()
        return pictures

    def _worked_out(self, pictures: dict[str, SheetPicture]) -> None:
        self._pictures = pictures
        self._lay_out()

    def other_sheet(self) -> str:
        """V: the other sheet."""
        other = CUSTOMER if self.audience == SHOP else SHOP
        self.session.set_page(other)
        return f"The {other} sheet. V shows the other one."

    def _lay_out_if_on(self) -> None:
        if self.session.bench.step == self.name and self.session.state is not None:
            self._lay_out()

    def _lay_out(self) -> None:
        """Show the pages; kept widgets are used again, so that scrolling stays where it was."""
        from redline_bore.ui.paint.sheet_print import SheetPages

        pages = SheetPages(
            sign_off.sheet_of(self.session.job), self.session.show, self.audience, self._pictures, self.session.paper
        )
        width = max(self.theme.px(420), self.scroller.viewport().width() - self.theme.px(30))  # type: ignore[union-attr]
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
            label.setAccessibleDescription(pages.words(i))
        page = pages.image(0, width).height() + self.pages.spacing()
        self.sheet.setMinimumHeight(pages.count * page + self.theme.px(30))

    def advice(self) -> Advice:
        return sign_off_words.advise(self.session.job, self.session.show)

    def line_text(self) -> LineText:
        s, state = self.session, self.session.job
        stamp = state.signing.stamp(self.name)
        plate = "under the plate" if state.clamped.plate_on else "with no plate on"
        where = f"Cylinder {s.bench.cylinder} · {plate}"
        if stamp is not None and state.signing.closed:
            return LineText(
                f"Job {state.number} · {state.last_seq} entries", f"Signed off by {stamp.initials}; M, reopen and why, opens it again",
                "V other sheet · Ctrl+P PDF · Ctrl+E all", "",
            )  # fmt: skip
        example = s.show.size(state.block.bore_mm)
        gaps = " ".join(s.show.rough(g) for g in (0.40, 0.45))
        what = f"M: final {example} {example} across … · rings {gaps} · washed · oiled · accept 1 why"
        keys = f"Enter signs as {s.person}" if self.advice().button else "← → cylinder"
        return LineText(where, what, f"{keys} · V other sheet", "—")

    def deeds(self) -> Deeds:
        """V shows the other sheet, C wants the plate by the other school."""
        from redline_bore.ui.steps.gauge_pages.plate import next_plate_practice

        pages = {verbs.NEXT_PAGE: self.other_sheet, verbs.PAGE_BEFORE: self.other_sheet}
        return {**pages, verbs.PRACTICE: partial(next_plate_practice, self.session)}

    def hear(self, message: object, pressed: bool, typed: str) -> Heard:
        """A size from the gauge, to stand behind “final” and the sizes read before."""
        from redline_bore.instruments.line_protocol import GaugeReading

        if not isinstance(message, GaugeReading):
            return Heard()
        bench = self.session.bench
        where = Where(bench.cylinder, bench.place, bench.units, True, message.body_c)
        word = self.session.keep_read(size_read(self.session.opened, message.from_zero_mm, where))
        return Heard(field=f"{typed.rstrip() or 'final'} {word} ")

    def arrows(self, across: int, down: int) -> None:
        if across:
            count = self.session.job.block.cylinders
            self.session.select((self.session.bench.cylinder - 1 + across) % count + 1)
        bar = self.scroller.verticalScrollBar()
        assert bar is not None
        bar.setValue(bar.value() + down * self.theme.px(120))

    def enter_empty(self) -> str:
        advice = self.advice()
        if not advice.button:
            closed = self.session.job.signing.closed
            raise InputError(
                "It is signed off already; M, reopen and why, opens it again"
                if closed
                else f"It cannot be signed off now: {advice.sentence}"
            )
        if not self.session.who_is_said:
            raise InputError(
                f"Who signs? {self.session.person} is only this machine's login: type who and your initials, as in who RM, then Enter signs"
            )
        self.session.took(self.session.opened.stamp(self.name))
        return "Signed off."
