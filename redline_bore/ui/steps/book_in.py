"""Book in: a live section that redraws as figures are typed, the lines of the traveller card, the family library."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QKeySequence, QResizeEvent, QShortcut
from PyQt6.QtWidgets import (
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from redline_bore.core.block import BlockSpec, ring_travel
from redline_bore.core.errors import BenchError, FaultyInput
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show, capital
from redline_bore.core.written import shown, shown_html, typed
from redline_bore.job.book_in.draft import (
    FIELDS,
    FIRST,
    LABELS,
    NEEDED,
    Field,
    block_from_draft,
    book_in_from_draft,
    draft_of,
    empty_draft,
    in_other_units,
)
from redline_bore.job.book_in.family_settings import SetOnJob, set_on
from redline_bore.job.card import Advice, FigureLine, Mark
from redline_bore.job.kinds.book_in import BookInRevised, JobOpened, PracticeChosen
from redline_bore.job.kinds.sign_off import StepStamped
from redline_bore.job.lessons import MINUTES, OVER_BOTTOM, OVER_TOP, RATE, STROKES
from redline_bore.job.profiles.practice import shop_practices
from redline_bore.job.state.booking import Lesson
from redline_bore.job.words import book_in as book_in
from redline_bore.job.words.lessons import lesson_words
from redline_bore.ui.behind import Behind
from redline_bore.ui.paint.hole_across import draw_hole_across, stone_of
from redline_bore.ui.paint.pencil import Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText, StepView
from redline_bore.ui.steps.choices import Choices
from redline_bore.ui.steps.declared import StepParts
from redline_bore.ui.theme.theme import Theme, styled_anew

HEAD = 3
ONE_LINE_PX, THREE_COLUMNS_PX = 700.0, 860.0  # from what width on, at 100 %
LONG_WORDS = 17  # letters that a field of half a narrow card holds


class SectionView(Picture):
    """The section of what is typed so far."""

    topics = frozenset({"book_in", "step", "new_job"})
    needs_job = False

    def __init__(self, session: Session, theme: Theme) -> None:
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
        stone = stone_of(self.block, share, over, f.number("honing.room_margin"))
        draw_hole_across(pencil, area.adjusted(0, px(34), 0, 0), self.block, travel, stone, (), Show(self.units))


class BookInStep(StepView):
    """The book-in step, for a new job and for one that exists."""

    name = "book_in"
    topics = frozenset({"book_in", "step", "new_job", "job", "units"})

    def __init__(self, parts: StepParts) -> None:
        super().__init__(parts)
        session, theme, self._runner = parts.session, parts.theme, parts.runner
        self.section = SectionView(session, theme)
        self.fields: dict[str, QLineEdit | QComboBox] = {}
        self.reasons = QLabel()
        self.reasons.setWordWrap(True)
        self.reasons.setAccessibleName("What is missing")
        self.library = QListWidget()
        self.library.setAccessibleName("Library of engine families")
        self.library.setWordWrap(True)
        self.library.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.library.itemActivated.connect(self._take_family)
        self.library.itemClicked.connect(self._take_family)
        self._filling = False
        self._shown_for: object = None
        self._families, self._asked = set[str](), 0
        self._lessons = Behind[tuple[Lesson, ...]](
            parts.runner, "lessons", lambda: session.changed.emit(frozenset({"typing"}))
        )
        self._new_draft: dict[str, str] | None = None
        self.rest = QWidget()
        self.more = QPushButton()
        self.more.setCheckable(True)
        self.more.toggled.connect(self._show_rest)
        QShortcut(QKeySequence("Alt+R"), self, self.more.toggle)
        self.families = QWidget()
        families = QVBoxLayout(self.families)
        families.setContentsMargins(0, 0, 0, 0)
        title = QLabel("Engine families worked before")
        title.setStyleSheet("font-weight: bold;")
        families.addWidget(title)
        families.addWidget(self.library)
        below = QHBoxLayout()
        below.addWidget(self.section, 62)
        below.addWidget(self.families, 38)
        column = QVBoxLayout(self)
        column.addLayout(self._card())
        column.addWidget(self.reasons)
        column.addLayout(below, 1)

    def _card(self) -> QVBoxLayout:
        """The traveller card: what names the job on the first line, what it begins with on the second, the rest in columns under it."""
        card, head = QVBoxLayout(), QHBoxLayout()
        card.setSpacing(self.theme.px(4))
        self.grid = QGridLayout(self.rest)
        self.grid.setVerticalSpacing(self.theme.px(2))
        self.grid.setContentsMargins(0, 0, 0, 0)
        for field in FIELDS:
            self.fields[field.name] = self._editor(field)
        for field, stretch in zip(FIELDS[:HEAD], (1, 3, 3), strict=True):
            head.addWidget(self._label(field))
            head.addWidget(self.fields[field.name], stretch)
        self.first = QGridLayout()
        self._first = [(self._label(f), self.fields[f.name]) for f in FIELDS if f.name in FIRST]
        for field in (f for f in FIELDS if f.name in FIRST):
            self.fields[field.name].setMinimumWidth(self.theme.px(106 if field.choices else 46))
        self.fields["number"].setMinimumWidth(self.theme.px(56))
        self._below = [(self._label(f), self.fields[f.name]) for f in FIELDS[HEAD:] if f.name not in FIRST]
        self._long = [self.fields[f.name] for f in FIELDS if any(len(word) > LONG_WORDS for _, word in f.choices)]
        self._columns = (0, 0)
        self._lay_out()
        card.addLayout(head)
        card.addLayout(self.first)
        card.addWidget(self.rest)
        card.addWidget(self.more)
        return card

    def _lay_out(self) -> None:
        """What it begins with in one line or two, the rest in two columns or three: so that words and figures stay whole."""
        wide = self.width() / self.theme.scale
        columns = (len(self._first) if wide >= ONE_LINE_PX else 3, 3 if wide >= THREE_COLUMNS_PX else 2)
        if columns == self._columns:
            return
        self._columns = columns
        for i, (label, editor) in enumerate(self._first):
            self.first.addWidget(label, i // columns[0], 2 * (i % columns[0]))
            self.first.addWidget(editor, i // columns[0], 2 * (i % columns[0]) + 1)
        narrow = wide < ONE_LINE_PX
        across = [
            pair for pair in self._below if narrow and pair[1] in self._long
        ]  # whole words want a line of their own
        side = [pair for pair in self._below if pair not in across]
        rows = -(-len(side) // columns[1])
        for i, (label, editor) in enumerate(side):
            self.grid.addWidget(label, i % rows, 2 * (i // rows))
            self.grid.addWidget(editor, i % rows, 2 * (i // rows) + 1)
        for i, (label, editor) in enumerate(across):
            self.grid.addWidget(label, rows + i, 0)
            self.grid.addWidget(editor, rows + i, 1, 1, 3)
        named = [f.name for f in FIELDS if f.name in FIRST]
        for column, name in enumerate(named):
            share = 4 if name in NEEDED and columns[0] == len(named) else 1
            self.first.setColumnStretch(2 * column + 1, share if column < columns[0] else 0)
            self.grid.setColumnStretch(2 * column + 1, int(column < columns[1]))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._lay_out()

    def _show_rest(self, shown: bool) -> None:
        """The rest of the card: asked when it matters, and here for whoever knows it already."""
        self.rest.setVisible(shown)
        self.more.setText("Fewer lines  Alt+R" if shown else "The rest is asked when it matters; all of it now  Alt+R")

    def _label(self, field: Field) -> QLabel:
        label = QLabel(field.label)
        label.setBuddy(self.fields[field.name])
        return label

    def _editor(self, field: Field) -> QLineEdit | QComboBox:
        if not field.choices:
            line = QLineEdit()
            line.setPlaceholderText(field.hint)
            line.setAccessibleName(field.label)
            line.textEdited.connect(self._edited)
            return line
        box = Choices()
        box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        box.setMinimumContentsLength(8)
        for value, word in field.choices:
            box.addItem(word, value)
        box.setAccessibleName(field.label)
        box.currentIndexChanged.connect(self._edited)
        return box

    # -- what is typed ---------------------------------------------------------------------------------------------

    def draft(self) -> dict[str, str]:
        """What stands in the fields."""
        return {n: w.currentData() if isinstance(w, QComboBox) else typed(w.text()) for n, w in self.fields.items()}

    def fill(self, draft: dict[str, str]) -> None:
        """Put a draft into the fields without taking it for typing."""
        self._filling = True
        for name, text in draft.items():
            editor = self.fields[name]
            if isinstance(editor, QComboBox):
                editor.setCurrentIndex(max(0, editor.findData(text)))
            else:
                editor.setText(shown(text))
                editor.setCursorPosition(0)
        self._filling = False
        self._look_over()

    def _edited(self, *_args: object) -> None:
        if not self._filling:
            draft = self.draft()
            if self.session.bench.new_job:
                if self._new_draft is not None and self._new_draft["units"] != draft["units"]:
                    self.fill(in_other_units(draft, Units(draft["units"]), self.session.figures))
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
            f"To draw the section, type {', '.join(wanted)}." if wanted else "; ".join(f.reason for f in wrong[:3])
        )
        self.section.refresh()

    def _mark(self, reasons: dict[str, str]) -> None:
        for name, editor in self.fields.items():
            faulty = name in reasons
            if bool(editor.property("faulty")) != faulty:
                editor.setProperty("faulty", faulty)
                styled_anew(editor)
            editor.setToolTip(reasons.get(name, ""))
            editor.setAccessibleDescription(reasons.get(name, ""))
        c = self.theme.palette
        lines = [f"<b>{LABELS.get(n, n)}</b>: {r}" for n, r in reasons.items()]
        self.reasons.setText(shown_html("<br>".join(lines[:4])))
        self.reasons.setStyleSheet(f"background: {c.look_ground}; padding: 4px;" if lines else "")
        self.reasons.setVisible(bool(lines))

    # -- the step --------------------------------------------------------------------------------------------------

    def shown(self) -> None:
        now: object = (self.session.job_id, len(self.session.records)) if self.session.state is not None else None
        if self.session.bench.new_job:
            now = ("new", self.session.bench.like)
        if now == self._shown_for:
            return
        self._shown_for = now
        new = self.session.bench.new_job
        for name in ("number", "units"):
            self.fields[name].setEnabled(new)
        if new and (self._new_draft is None or self.session.bench.like is not None):
            self._new_draft = self._fresh()
        self.fill(self._new_draft if new and self._new_draft is not None else draft_of(set_on(self.session.job)))
        self._ask_families()
        self.more.setVisible(new)
        self.more.setChecked(not new)
        self._show_rest(not new)
        if new:
            self.fields["bore_mm"].setFocus()

    def _fresh(self) -> dict[str, str]:
        """An empty card, worked in and laid out as the job before, with the number that comes next; or a copy of the job that was asked for."""
        like = self.session.bench.like
        if like is not None:
            return draft_of(set_on(like)) | {"number": ""}
        return empty_draft(Units.METRIC, self.session.figures, self.session.state, "")

    def _ask_families(self) -> None:
        """The families there are, and the number that comes next: asked of the logbook behind."""
        self.library.clear()
        self._families.clear()
        self._asked += 1
        new = self.session.bench.new_job
        self.families.setVisible(new)
        if not new:
            return
        desk = self.session.desk
        self._runner.quickly(
            "families", lambda _token: (desk.next_number(), desk.families()), self._list_families, self._no_families
        )

    def _no_families(self, error: BaseException) -> None:
        """That the logbook cannot be read is told by who listens to it; a number can be typed."""
        if not isinstance(error, BenchError):
            raise error

    def _list_families(self, found: tuple[str, tuple[SetOnJob, ...]]) -> None:
        number, families = found
        if self._new_draft is not None and not self._new_draft["number"]:
            self._new_draft["number"] = number
        if self.session.bench.new_job and not self.draft()["number"]:
            self.fill(self.draft() | {"number": number})
        for job in families:
            b, show = job.block, Show(job.units)
            text = f"{job.number} · {job.book_in.engine}\n{b.cylinders} {b.layout}, {show.unit(f'{show.rough(b.bore_mm)} × {show.rough(b.stroke_mm)}')}"
            self._families.add(job.book_in.engine)
            item = QListWidgetItem(shown(text))
            item.setData(Qt.ItemDataRole.UserRole, job)
            self.library.addItem(item)
        if self.library.count() == 0:
            self.library.addItem("No family yet: the first job books it.")

    def _lessons_of(self, engine: str) -> tuple[Lesson, ...]:
        """What the signed jobs of a family that is in the library taught; read once while a job is being booked in."""
        known = engine.strip()
        if known not in self._families:
            return ()
        desk = self.session.desk
        return self._lessons.of((known, self._asked), lambda: desk.lessons(known)) or ()

    def _take_family(self, item: QListWidgetItem) -> None:
        job = item.data(Qt.ItemDataRole.UserRole)
        if job is not None:
            kept = {n: self.draft()[n] for n in ("number", "owner")}
            self._new_draft = draft_of(job) | kept
            self.fill(self._new_draft)
            self.session.changed.emit(frozenset({"typing"}))

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
        show, lessons = Show(Units(draft["units"])), self._lessons_of(draft["engine"])
        shown = [x for x in lessons if x.what in (RATE, STROKES, OVER_TOP, OVER_BOTTOM)]
        told = (
            (book_in.family_told(lessons), *(capital(f"{lesson_words(x, show)}.") for x in shown[:5]))
            if any(x.what != MINUTES for x in lessons)
            else ()
        )
        return Advice(
            "New job",
            "Ready to book in.",
            (),
            (*told, "Everything can be changed later; the ledger keeps both."),
            book_in.family_working(lessons, show),
            "Book in",
            book_in.CARE,
        )

    def line_text(self) -> LineText:
        if self.session.bench.new_job:
            return LineText(
                "A new job",
                "Bore, stroke and cylinders begin it; Tab goes on. A family in the list fills the card",
                "Enter books it in · Esc leaves it",
                "",
            )
        changed = self.draft() != draft_of(set_on(self.session.job))
        what = "Enter books what was changed on the card" if changed else "Enter goes to the gauge"
        return LineText(
            f"Job {self.session.job.number}",
            what,
            f"{self.session.show.warm_typed(22.9)} books the block's temperature",
            "—",
        )

    def would(self, text: str) -> str:
        return "" if self.session.bench.new_job else super().would(text)

    def entered(self, text: str) -> str:
        if text.strip() and not self.session.bench.new_job:
            self._shown_for = None
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
            figures=self.session.figures.plain(), practices=shop_practices(self.session.figures) | {"honing": draft["honing"]},
        )  # fmt: skip
        self.session.new_job(opening)
        self.session.book(StepStamped(step="book_in", initials=self.session.person))
        self._new_draft = None
        self.session.go("gauge")
        return f"Job {opening.number} is booked in."

    def _book_changes(self, text: str) -> str:
        state = self.session.job
        draft, found = self._checked()
        entries = []
        if found != state.book_in:
            entries.append(BookInRevised(book_in=found))  # type: ignore[arg-type]
        if draft["honing"] != state.booking.practice("honing"):
            entries.append(PracticeChosen(topic="honing", name=draft["honing"]))  # type: ignore[arg-type]
        if not state.signing.stamp("book_in"):
            entries.append(StepStamped(step="book_in", initials=self.session.person))  # type: ignore[arg-type]
        if entries:
            self.session.book(*entries, typed=text.strip())
            self._shown_for = None
        if found == state.book_in:
            self.session.go("gauge")
        return "Changes are booked." if found != state.book_in else ""
