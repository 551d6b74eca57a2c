"""Gauge: the reading ring, the profile down the wall, the wall unrolled."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QMouseEvent, QPainter, QPixmap
from PyQt6.QtWidgets import QGridLayout

from redline_bore.core.errors import FitError, InputError
from redline_bore.core.gauging import Place, chord_apart
from redline_bore.instruments.line_protocol import GaugeReading
from redline_bore.job import gauge
from redline_bore.job.advice import Advice, Show
from redline_bore.job.analysis import SAME_DEPTH_MM, colour_scale, shape_of
from redline_bore.job.entries import ReadingBooked, StepStamped
from redline_bore.job.typed import size_from_typed
from redline_bore.job.where import Where
from redline_bore.ui.background import Runner, Token
from redline_bore.ui.paint.meridians import CHORDS, Spots, draw_meridians
from redline_bore.ui.paint.pencil import Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.paint.reading_ring import RingPicture, draw_reading_ring, place_near
from redline_bore.ui.paint.wall_map import WallPicture, draw_wall_map, wall_picture
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText, StepView
from redline_bore.ui.theme.theme import Theme

SOON_MS = 25  # a booked reading is painted before the wall is worked out anew
TOPICS = frozenset({"readings", "plan", "plate", "selection", "place", "book_in", "temperature", "all"})


class RingView(Picture):
    """The reading ring; a click puts the gauge there."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme):
        super().__init__(session, theme, "Reading ring")

    def _area(self) -> QRectF:
        return QRectF(self.rect()).adjusted(0, self.theme.px(34), 0, 0)

    def picture(self) -> RingPicture:
        """Means of the readings by place, over nominal."""
        state, bench = self.session.job, self.session.bench
        found: dict[Place, tuple[float, int]] = {}
        for spot in shape_of(state, bench.cylinder, state.plate_on).spots:
            place = state.plan.nearest(spot.depth_mm, spot.clock_deg)
            if abs(state.plan.depths_mm[place.level] - spot.depth_mm) <= SAME_DEPTH_MM:
                found[place] = (spot.size_mm - state.block.bore_mm, spot.count)
        return RingPicture(state.plan, found, bench.place, colour_scale(state))

    def said(self) -> str:
        if self.session.state is None:
            return ""
        plan, bench = self.session.state.plan, self.session.bench
        return (
            f"Cylinder {bench.cylinder}, {len(self.picture().readings)} of {len(plan.places())} places read; "
            f"gauge at level {plan.letter(bench.place.level)}, {plan.clocks_deg[bench.place.clock]:g} degrees"
        )

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        bench = self.session.bench
        unit = "thou" if bench.units.mark == "in" else "hundredths"
        pencil.heading(
            pencil.px(4),
            pencil.px(6),
            "Reading ring",
            f"cylinder {bench.cylinder} from above, {unit} over",
        )
        draw_reading_ring(pencil, self._area(), self.picture(), self.session.show)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self.session.state is not None:
            x, y = event.position().x(), event.position().y()
            place = place_near(self._area(), self.session.state.plan, x, y, self.theme.scale)
            if place is not None:
                self.session.set_place(place)


class WallViews:
    """The worked-out wall of the selected cylinder, shared by the two views that show it. No Qt in it."""

    def __init__(self) -> None:
        self.picture: WallPicture | None = None
        self.reason = ""


class MeridianView(Picture):
    topics = TOPICS

    def __init__(self, session: Session, theme: Theme, walls: WallViews):
        super().__init__(session, theme, "Down the wall")
        self._walls = walls

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        state, bench, px = self.session.job, self.session.bench, pencil.px
        pencil.heading(px(4), px(6), "Down the wall", f"{bench.units.mark} over nominal")
        spots = []
        for clock, *_ in CHORDS:
            near = [
                s
                for s in shape_of(state, bench.cylinder, state.plate_on).spots
                if chord_apart(s.clock_deg, clock) <= 5.0
            ]
            spots.append(
                Spots(clock, tuple(s.depth_mm for s in near), tuple(s.size_mm - state.block.bore_mm for s in near))
            )
        box = area.adjusted(0, px(32), 0, 0)
        draw_meridians(pencil, box, self._walls.picture, spots, state.block.length_mm, self.session.show)


class WallMapView(Picture):
    """The unrolled wall. Moving over it reads the value there."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme, walls: WallViews):
        super().__init__(session, theme, "Wall, unrolled")
        self._walls, self._wall, self._pointer = walls, QRectF(), QPointF()
        self._drawn: tuple[object, QPixmap] | None = None  # the map as drawn, until something it shows changes

    def said(self) -> str:
        picture = self._walls.picture
        return (
            self._walls.reason
            if picture is None
            else f"Wall of cylinder {picture.cylinder}, {len(picture.levels)} levels"
        )

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, picture, show = pencil.px, self._walls.picture, self.session.show
        aside = f"{show.units.mark} over {show.size(self.session.job.block.bore_mm)} · blue tight, ochre open"
        pencil.heading(px(4), px(4), "Wall, unrolled", aside)
        box = area.adjusted(0, px(30), 0, 0)
        if picture is None:
            pencil.rect(box.adjusted(px(78), px(6), -px(12), -px(26)), "sheet", "rule", dash="dash")
            pencil.text(
                box.adjusted(px(96), 0, -px(20), -px(26)),
                self._walls.reason or "Working out the wall.",
                14,
                "graphite",
                wrap=True,
            )
            return
        key = (id(picture), self.size(), self.theme.night, self.theme.scale, show.units)
        if self._drawn is None or self._drawn[0] != key:
            self._drawn = (key, self._draw_once(box, picture, show))
        pencil.p.drawPixmap(0, 0, self._drawn[1])
        self._draw_pointer(pencil, picture)

    def _draw_once(self, box: QRectF, picture: WallPicture, show: Show) -> QPixmap:
        """The map on a pixmap of its own: contours are worked out once, not at every repaint."""
        ratio = self.devicePixelRatioF()
        pixmap = QPixmap(self.size() * ratio)
        pixmap.setDevicePixelRatio(ratio)
        pixmap.fill(Qt.GlobalColor.transparent)
        painter = QPainter(pixmap)
        self._wall = draw_wall_map(Pencil(painter, self.theme), box, picture, show)
        painter.end()
        return pixmap

    def _draw_pointer(self, pencil: Pencil, picture: WallPicture) -> None:
        if not self._wall.contains(self._pointer):
            return
        depth = (self._pointer.y() - self._wall.top()) / self._wall.height() * picture.length_mm
        clock = (self._pointer.x() - self._wall.left()) / self._wall.width() * 360.0
        value, show, px = picture.at(depth, clock), self.session.show, pencil.px
        text = f"{show.down(round(depth, 1))}, {clock:.0f}°: " + ("not read" if value is None else show.away(value))
        pencil.circle(self._pointer.x(), self._pointer.y(), px(4), "", "ink", 1.5)
        left = min(self._pointer.x() + px(10), self._wall.right() - pencil.width_of(text, 13) - px(10))
        pencil.label(left, self._pointer.y() - px(16), text, 13, "ink", True, ground="sheet", crowd=False)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None:
            self._pointer = event.position()
            self.update()


class GaugeStep(StepView):
    """The gauge step: books readings, typed or from the gauge."""

    name = "gauge"
    reads = True
    topics = TOPICS

    def __init__(self, session: Session, theme: Theme, runner: Runner):
        super().__init__(session, theme)
        self._runner, self._walls = runner, WallViews()
        self._from_gauge: GaugeReading | None = None
        self.ring, self.meridians = RingView(session, theme), MeridianView(session, theme, self._walls)
        self.map = WallMapView(session, theme, self._walls)
        grid = QGridLayout(self)
        grid.addWidget(self.ring, 0, 0)
        grid.addWidget(self.meridians, 0, 1)
        grid.addWidget(self.map, 1, 0, 1, 2)
        grid.setRowStretch(0, 58)
        grid.setRowStretch(1, 42)
        grid.setColumnStretch(0, 57)
        grid.setColumnStretch(1, 43)
        session.changed.connect(self._heard)

    def _heard(self, topics: frozenset[str]) -> None:
        if (
            topics & (TOPICS - {"place"} | {"job", "step", "units"})
            and self.session.bench.step == "gauge"
            and self.session.state is not None
        ):
            self.work_out()

    def work_out(self) -> None:
        """Work the wall out off the interface thread; the newest request wins."""
        state, cylinder, units = self.session.job, self.session.bench.cylinder, self.session.bench.units

        def work(token: Token) -> WallPicture:
            picture = wall_picture(state, cylinder, state.plate_on, units)
            token.check()
            return picture

        if self._walls.picture is not None and self._walls.picture.cylinder != cylinder:
            self._walls.picture = None
        self._runner.start("wall", work, self._worked_out, self._not_worked_out, SOON_MS)

    def _worked_out(self, picture: WallPicture) -> None:
        self._walls.picture, self._walls.reason = picture, ""
        self.map.refresh()
        self.meridians.refresh()

    def _not_worked_out(self, error: BaseException) -> None:
        if not isinstance(error, FitError):
            raise error
        self._walls.picture, self._walls.reason = None, f"{error}."
        self.map.refresh()
        self.meridians.refresh()

    def advice(self) -> Advice:
        return gauge.advise(self.session.job, self.session.bench.cylinder, self.session.show)

    def line_text(self) -> LineText:
        state, bench, show = self.session.job, self.session.bench, self.session.show
        plan, place = state.plan, bench.place
        depth, clock = plan.depths_mm[place.level], plan.clocks_deg[place.clock]
        spots = shape_of(state, bench.cylinder, state.plate_on).spots
        here = next(
            (s for s in spots if abs(s.depth_mm - depth) <= SAME_DEPTH_MM and chord_apart(s.clock_deg, clock) <= 1.0),
            None,
        )
        where = f"Cylinder {bench.cylinder} · level {plan.letter(place.level)}, {show.down(depth)}, clock {clock:g}° · plate {'on' if state.plate_on else 'off'}"
        what = "No reading here yet"
        if here is not None:
            what = f"{here.count} reading{'s' if here.count > 1 else ''} here, {show.away(here.size_mm - state.block.bore_mm)}"
            what += f", spread {show.fine(here.spread_mm)}" if here.count > 1 else ""
        return LineText(where, what, "Enter books · Backspace strikes out", "—")

    def take(self, reading: GaugeReading, typed: str) -> str:
        """A reading from the gauge: kept ready for Enter; returns the text for the field."""
        self._from_gauge = reading
        return self.session.show.away(reading.from_zero_mm)

    def entered(self, text: str) -> str:
        reading, self._from_gauge = self._from_gauge, None
        if reading is None or text != self.session.show.away(reading.from_zero_mm):
            return super().entered(text)
        try:
            self._book_from_gauge(reading)
        except InputError:
            self._from_gauge = reading
            raise
        return ""

    def _book_from_gauge(self, reading: GaugeReading) -> None:
        state, bench = self.session.job, self.session.bench
        where = Where(bench.cylinder, bench.place, bench.units, True, reading.body_c)
        size = size_from_typed(f"{reading.from_zero_mm:+.5f}mm", state, where)
        plan, place = state.plan, bench.place
        entry = ReadingBooked(
            cylinder=bench.cylinder, depth_mm=plan.depths_mm[place.level], clock_deg=plan.clocks_deg[place.clock],
            diameter_mm=round(size, 5), plate_on=state.plate_on,
        )  # fmt: skip
        self.session.book(entry, typed=reading.line, instrument="bore gauge", block_c=reading.part_c, advance=True)

    def enter_empty(self) -> str:
        state, bench = self.session.job, self.session.bench
        waiting = gauge.waiting_cylinders(state)
        if bench.cylinder in waiting:
            return super().enter_empty()
        if waiting:
            self.session.select(waiting[0])
            return ""
        if state.stamp(self.name) is None:
            self.session.book(StepStamped(step=self.name, initials=self.session.person))
        self.session.go("call")
        return ""

    def move(self, across: int, down: int) -> None:
        plan, place = self.session.job.plan, self.session.bench.place
        level = min(max(place.level + down, 0), len(plan.depths_mm) - 1)
        self.session.set_place(Place(level, (place.clock + across) % len(plan.clocks_deg)))

    def shown(self) -> None:
        self.work_out()
