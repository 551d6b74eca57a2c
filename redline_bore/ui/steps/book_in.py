"""Book in: a live section that redraws as figures are typed, the lines of the traveller card, the family library."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtWidgets import (
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QVBoxLayout,
)

from redline_bore.core.block import BlockSpec, ring_travel
from redline_bore.core.errors import FaultyInput
from redline_bore.core.lengths import Units
from redline_bore.job import book_in
from redline_bore.job.advice import Advice, FigureLine, Mark, Show
from redline_bore.job.draft import FIELDS, LABELS, block_from_draft, book_in_from_draft, draft_of, empty_draft
from redline_bore.job.entries import BookInRevised, JobOpened, PracticeChosen, StepStamped
from redline_bore.job.typed import temperature
from redline_bore.ui.paint.hole_section import draw_hole_section
from redline_bore.ui.paint.pencil import Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText, StepView
from redline_bore.ui.theme.theme import Theme


class SectionView(Picture):
    """The section of what is typed so far."""

    topics = frozenset({"book_in", "step", "new_job"})

    def __init__(self, session: Session, theme: Theme):
        super().__init__(session, theme, "Section through one cylinder")
        self.block: BlockSpec | None = None
        self.missing = ""
        self.units = Units.METRIC

    def said(self) -> str:
        return (
            self.missing
            if self.block is None
            else f"Bore {self.block.bore_mm:g} mm, stroke {self.block.stroke_mm:g} mm, length {self.block.length_mm:g} mm"
        )

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px = pencil.px
        pencil.heading(px(4), px(6), "Through one cylinder", "to scale, as typed")
        if self.block is None:
            pencil.text(area.adjusted(px(20), px(60), -px(20), -px(200)), self.missing, 14, "graphite", wrap=True)
            return
        f = self.session.figures
        travel = ring_travel(self.block, f.number("gauging.ring_top"), f.number("gauging.ring_pack"))
        share, over = f.number("honing.stone_share"), f.number("honing.overstroke_share")
        draw_hole_section(pencil, area.adjusted(0, px(34), 0, 0), self.block, travel, share, over, Show(self.units))


class BookInStep(StepView):
    """The book-in step, for a new job and for one that exists."""

    name = "book_in"
    topics = frozenset({"book_in", "step", "new_job", "job", "units"})

    def __init__(self, session: Session, theme: Theme):
        super().__init__(session, theme)
        self.section = SectionView(session, theme)
        self.fields: dict[str, QLineEdit | QComboBox] = {}
        self.reasons = QLabel()
        self.reasons.setWordWrap(True)
        self.reasons.setAccessibleName("What is missing")
        self.library = QListWidget()
        self.library.setAccessibleName("Library of engine families")
        self.library.itemActivated.connect(self._take_family)
        self.library.itemClicked.connect(self._take_family)
        self._filling = False
        self._shown_for: object = None
        self._new_draft = empty_draft(Units.METRIC, session.figures)
        row = QHBoxLayout(self)
        row.addWidget(self.section, 40)
        row.addLayout(self._card(), 60)

    def _card(self) -> QVBoxLayout:
        column, grid = QVBoxLayout(), QGridLayout()
        grid.setVerticalSpacing(self.theme.px(3))
        for i, field in enumerate(FIELDS):
            editor: QLineEdit | QComboBox
            if field.choices:
                editor = QComboBox()
                editor.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
                editor.setMinimumContentsLength(8)
                for value, word in field.choices:
                    editor.addItem(word, value)
                editor.currentIndexChanged.connect(self._edited)
            else:
                editor = QLineEdit()
                editor.setPlaceholderText(field.hint)
                editor.textEdited.connect(self._edited)
            editor.setAccessibleName(field.label)
            label = QLabel(field.label)
            label.setBuddy(editor)
            half = (len(FIELDS) + 1) // 2
            grid.addWidget(label, i % half, 2 * (i // half))
            grid.addWidget(editor, i % half, 2 * (i // half) + 1)
            self.fields[field.name] = editor
        grid.setColumnStretch(1, 1)
        grid.setColumnStretch(3, 1)
        column.addLayout(grid)
        column.addWidget(self.reasons)
        self.library_title = QLabel("Engine families worked before")
        self.library_title.setStyleSheet("font-weight: bold;")
        column.addWidget(self.library_title)
        column.addWidget(self.library, 1)
        column.addStretch()
        return column

    # -- what is typed ---------------------------------------------------------------------------------------------

    def draft(self) -> dict[str, str]:
        """What stands in the fields."""
        return {n: w.currentData() if isinstance(w, QComboBox) else w.text() for n, w in self.fields.items()}

    def fill(self, draft: dict[str, str]) -> None:
        """Put a draft into the fields without taking it for typing."""
        self._filling = True
        for name, text in draft.items():
            editor = self.fields[name]
            if isinstance(editor, QComboBox):
                editor.setCurrentIndex(max(0, editor.findData(text)))
            else:
                editor.setText(text)
                editor.setCursorPosition(0)
        self._filling = False
        self._look_over()

    def _edited(self, *_args: object) -> None:
        if not self._filling:
            if self.session.bench.new_job:
                self._new_draft = self.draft()
            self._look_over()
            self.session.changed.emit(frozenset({"typing"}))

    def _look_over(self) -> None:
        """Redraw the section and mark the fields that cannot be used, while typing goes on."""
        draft = self.draft()
        self.section.units = Units(draft["units"])
        spec, faults = block_from_draft(draft)
        self.section.block = spec if spec is not None and not faults else None
        wrong = [f for f in faults if draft.get(f.path, "x").strip()]
        self._mark({f.path: f.reason for f in wrong})
        wanted = [LABELS[f.path].lower() for f in faults if not draft.get(f.path, "x").strip()]
        self.section.missing = (
            f"The section is drawn from {', '.join(wanted)}." if wanted else "; ".join(f.reason for f in wrong[:3])
        )
        self.section.refresh()

    def _mark(self, reasons: dict[str, str]) -> None:
        for name, editor in self.fields.items():
            faulty = name in reasons
            if bool(editor.property("faulty")) != faulty:
                editor.setProperty("faulty", faulty)
                style = editor.style()
                assert style is not None
                style.unpolish(editor)
                style.polish(editor)
            editor.setToolTip(reasons.get(name, ""))
            editor.setAccessibleDescription(reasons.get(name, ""))
        c = self.theme.palette
        lines = [f"<b>{LABELS.get(n, n)}</b>: {r}" for n, r in reasons.items()]
        self.reasons.setText("<br>".join(lines[:4]))
        self.reasons.setStyleSheet(f"background: {c.look_ground}; padding: 4px;" if lines else "")
        self.reasons.setVisible(bool(lines))

    # -- the step --------------------------------------------------------------------------------------------------

    def shown(self) -> None:
        now = "new" if self.session.bench.new_job else (self.session.job_id, len(self.session.records))
        if now == self._shown_for:
            return
        self._shown_for = now
        new = self.session.bench.new_job
        for name in ("number", "units"):
            self.fields[name].setEnabled(new)
        self.fill(self._new_draft if new else draft_of(self.session.job))
        self._list_families()
        if new:
            self.fields["number"].setFocus()

    def _list_families(self) -> None:
        self.library.clear()
        new = self.session.bench.new_job
        self.library.setVisible(new)
        self.library_title.setVisible(new)
        if not new:
            return
        for state in self.session.families():
            b, show = state.block, Show(state.units)
            text = f"{state.book_in.engine}: {b.cylinders} {b.layout}, {show.unit(f'{show.rough(b.bore_mm)} × {show.rough(b.stroke_mm)}')}"
            item = QListWidgetItem(f"{text}, from job {state.number}")
            item.setData(Qt.ItemDataRole.UserRole, state)
            self.library.addItem(item)
        if self.library.count() == 0:
            self.library.addItem("No family yet: the first job books it.")

    def _take_family(self, item: QListWidgetItem) -> None:
        state = item.data(Qt.ItemDataRole.UserRole)
        if state is not None:
            kept = {n: self.draft()[n] for n in ("number", "owner")}
            self._new_draft = draft_of(state) | kept
            self.fill(self._new_draft)

    def advice(self) -> Advice:
        if not self.session.bench.new_job:
            return book_in.advise(self.session.job, self.session.show)
        draft = self.draft()
        try:
            book_in_from_draft(draft)
        except FaultyInput as error:
            first = error.faults[0]
            lines = tuple(
                FigureLine(
                    LABELS.get(f.path, f.path), "needed" if not draft.get(f.path, "x").strip() else "look", Mark.LOOK
                )
                for f in error.faults[:7]
            )
            name = LABELS.get(first.path, first.path).lower()
            return Advice("New job", f"Fill in the {name}.", lines, (), (), "", book_in.CARE)
        return Advice(
            "New job",
            "Ready to book in.",
            (),
            ("Everything can be changed later; the ledger keeps both.",),
            (),
            "Book in",
            book_in.CARE,
        )

    def line_text(self) -> LineText:
        if self.session.bench.new_job:
            return LineText(
                "A new job",
                "Type on the card above; Tab goes on. A family below fills the card",
                "Enter books it in · Esc leaves it",
                "",
            )
        changed = self.draft() != draft_of(self.session.job)
        what = "Enter books what was changed on the card" if changed else "Enter goes to the gauge"
        return LineText(f"Job {self.session.job.number}", what, "22.9 C books the block's temperature", "—")

    def entered(self, text: str) -> str:
        if text.strip() and temperature(text) is not None and not self.session.bench.new_job:
            return super().entered(text)
        return self._book_new() if self.session.bench.new_job else self._book_changes(text)

    def _checked(self) -> tuple[dict[str, str], object]:
        draft = self.draft()
        try:
            return draft, book_in_from_draft(draft)
        except FaultyInput as error:
            self._mark({f.path: f.reason for f in error.faults})
            first = self.fields.get(error.faults[0].path)
            if first is not None:
                first.setFocus()
            raise

    def _book_new(self) -> str:
        draft, found = self._checked()
        opening = JobOpened(
            number=draft["number"].strip(), units=Units(draft["units"]), book_in=found,  # type: ignore[arg-type]
            figures=self.session.figures.plain(), practices={"honing": draft["honing"]},
        )  # fmt: skip
        self.session.new_job(opening)
        self.session.book(StepStamped(step="book_in", initials=self.session.person))
        self._new_draft = empty_draft(Units.METRIC, self.session.figures)
        self.session.go("gauge")
        return f"Job {opening.number} is booked in."

    def _book_changes(self, text: str) -> str:
        state = self.session.job
        draft, found = self._checked()
        entries = []
        if found != state.book_in:
            entries.append(BookInRevised(book_in=found))  # type: ignore[arg-type]
        if draft["honing"] != state.practice("honing"):
            entries.append(PracticeChosen(topic="honing", name=draft["honing"]))  # type: ignore[arg-type]
        if not state.stamp("book_in"):
            entries.append(StepStamped(step="book_in", initials=self.session.person))  # type: ignore[arg-type]
        if entries:
            self.session.book(*entries, typed=text.strip())
            self._shown_for = None
        if found == state.book_in:
            self.session.go("gauge")
        return "Changes are booked." if found != state.book_in else ""
