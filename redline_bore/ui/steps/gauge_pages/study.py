"""The gauge study, guided: three spots, five readings each, by one person or more."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.core.errors import InputError
from redline_bore.core.gauging import Place
from redline_bore.desk.readings import size_read
from redline_bore.instruments.line_protocol import GaugeReading
from redline_bore.job.card import Advice
from redline_bore.job.gauge import study as gauge_study
from redline_bore.job.gauge.doubt import GAUGE_RESOLUTION_MM, result_of
from redline_bore.job.kinds.gauge import size_from_typed
from redline_bore.job.kinds.opinions import StudyBegan, StudyReadingBooked
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.words import study as study_words
from redline_bore.ui import verbs
from redline_bore.ui.paint.pencil import CENTRE, MIDDLE, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.paint.study_dots import draw_study
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.verbs import Deeds
from redline_bore.ui.walls import TOPICS as WALL_TOPICS
from redline_bore.ui.walls import Walls

TOPICS = WALL_TOPICS | {"study", "page", "place", "person"}
SHOP_FIGURE = "gauging.bore_gauge_u"


class StudyView(Picture):
    """Every reading about the mean of its spot."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Gauge study")

    def said(self) -> str:
        taken = None if self.session.state is None else gauge_study.current(self.session.state)
        return "No study begun" if taken is None else f"{len(taken.values)} readings of the study"

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, state = pencil.px, self.session.job
        taken = gauge_study.current(state)
        aside = (
            "" if taken is None else f"{taken.instrument}, {self.session.show.units.mark} from the mean of each spot"
        )
        pencil.heading(px(4), px(6), "Gauge study", aside)
        box = area.adjusted(0, px(36), 0, 0)
        if taken is None:
            words = (
                "How well does this gauge repeat in these hands? Read three spots of this cylinder, five times each, taking the gauge out "
                "every time. A second person may do the same. The U that follows is used for every verdict of this job."
            )
            pencil.text(
                box.adjusted(px(20), px(8), -px(40), 0),
                words,
                16,
                "graphite",
                wrap=True,
                align=Qt.AlignmentFlag.AlignTop,
            )
            for i, spot in enumerate(gauge_study.spots_of(state)):
                y = box.top() + px(140) + px(44) * i
                pencil.circle(box.left() + px(36), y, px(14), "sheet", "ink", 1.4)
                pencil.text(
                    QRectF(box.left() + px(22), y - px(10), px(28), px(20)),
                    str(i + 1),
                    14,
                    "ink",
                    True,
                    CENTRE | MIDDLE,
                )
                depth = self.session.show.down(state.gauging.plan.depths_mm[spot.level])
                pencil.text(
                    QRectF(box.left() + px(64), y - px(12), px(400), px(24)), f"{spot.name}, {depth}, five times", 16
                )
            return
        ahead = gauge_study.next_spot(state, self.session.person)
        draw_study(
            pencil,
            box,
            taken,
            gauge_study.spots_of(state),
            ahead.name if ahead else "",
            self.session.person,
            result_of(taken),
            self.session.show,
        )


class StudyPage(StepPage):
    """Enter begins a study or books a reading of it; the gauge's button does too."""

    name, title = "study", "Gauge study"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self.view = StudyView(session, theme)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.view)
        session.changed.connect(self._heard)

    def _heard(self, topics: frozenset[str]) -> None:
        if "person" in topics and self.isVisible():
            self.stand()

    def advice(self) -> Advice:
        return study_words.advise(self.session.job, self.session.person, self.session.show)

    def line_text(self) -> LineText | None:
        taken = gauge_study.current(self.session.job)
        spot = gauge_study.next_spot(self.session.job, self.session.person)
        where = (
            "Gauge study"
            if taken is None
            else f"Gauge study · {self.session.person} reads {spot.name if spot else 'nothing more'}"
        )
        what = (
            "Enter begins the study"
            if taken is None or spot is None
            else "Space reads, Enter books; or type the reading"
        )
        return LineText(where, what, "who TB: another person · K keeps U", "—")

    def stand(self) -> None:
        """Put the gauge at the spot that is read next, so that a stand-in measures there."""
        spot = gauge_study.next_spot(self.session.job, self.session.person)
        if spot is not None and gauge_study.current(self.session.job) is not None:
            place = Place(spot.level, spot.clock)
            if self.session.bench.place != place:
                self.session.set_place(place)

    def enter_empty(self) -> str | None:
        taken = gauge_study.current(self.session.job)
        if taken is not None and gauge_study.next_spot(self.session.job, self.session.person) is not None:
            raise InputError("Take a reading with Space or the gauge's button, or type it")
        self.session.book(
            StudyBegan(instrument=f"{self.session.job.gauging.gauge_kind} gauge", resolution_mm=GAUGE_RESOLUTION_MM)
        )
        self.stand()
        return "Take the gauge out and put it back for every reading."

    def takes(self, text: str) -> bool:
        first = text.strip()[:1]
        return (first.isdecimal() or first in "+-−.") and text.strip()[-1:].lower() not in ("c", "f")

    def entered(self, text: str) -> str | None:
        if not self.takes(text):
            return None
        return self._book(size_from_typed(text.strip(), self.session.job, self.session.where), text.strip())

    def take(self, reading: GaugeReading) -> str | None:
        bench = self.session.bench
        where = Where(bench.cylinder, bench.place, bench.units, True, reading.body_c)
        return self._book(size_read(self.session.opened, reading.from_zero_mm, where), reading.line)

    def _book(self, size_mm: float, typed: str) -> str:
        state = self.session.job
        spot = gauge_study.next_spot(state, self.session.person)
        if gauge_study.current(state) is None:
            raise InputError("Begin the study first: Enter with nothing typed")
        if spot is None:
            raise InputError(f"{self.session.person} has read every spot; “who TB” lets another person read")
        self.session.book(StudyReadingBooked(spot=spot.name, value_mm=round(size_mm, 5)), typed=typed)
        self.stand()
        return ""

    def deeds(self) -> Deeds:
        """K keeps its U."""
        return {verbs.STAMP: self.keep}

    def keep(self) -> str:
        """K: the study's U becomes the shop's own, for jobs to come."""
        taken = gauge_study.current(self.session.job)
        result = None if taken is None else result_of(taken)
        if result is None:
            raise InputError("There is no study with a result to keep yet")
        u = round(result.expanded_u_mm, 5)
        self.session.desk.figures = self.session.logbook.set_figure(SHOP_FIGURE, u, self.session.person)
        return f"U of {self.session.show.unit(self.session.show.fine(u))} is the shop's own for jobs booked in from now on."
