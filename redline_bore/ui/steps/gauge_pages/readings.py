"""The page that is worked on: the reading ring, the profile down the wall, the wall unrolled."""

from __future__ import annotations

from collections.abc import Iterable

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtWidgets import QGridLayout

from redline_bore.core.gauging import Place, chord_apart
from redline_bore.job.card import Advice
from redline_bore.job.gauge.analysis import SAME_DEPTH_MM, colour_scale, shape_of
from redline_bore.job.state.readings import TWO_POINT
from redline_bore.job.words import readings as gauge
from redline_bore.ui import verbs
from redline_bore.ui.paint.meridians import CHORDS, Spots, draw_meridians
from redline_bore.ui.paint.pencil import Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.paint.reading_ring import RingPicture, draw_reading_ring, place_near
from redline_bore.ui.paint.wall_picture import WallKey
from redline_bore.ui.session import Session
from redline_bore.ui.steps.gauge_pages.maps import WallMapView
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.verbs import Deeds
from redline_bore.ui.walls import TOPICS as WALL_TOPICS
from redline_bore.ui.walls import Walls

TOPICS = WALL_TOPICS | {"selection", "place"}


class RingView(Picture):
    """The reading ring; a click puts the gauge there."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Reading ring")

    def _area(self) -> QRectF:
        return QRectF(self.rect()).adjusted(0, self.theme.px(34), 0, 0)

    def ring(self) -> RingPicture:
        """Means of the readings by place, over nominal, of the gauge that is in hand."""
        state, bench = self.session.job, self.session.bench
        nominal, three = state.block.bore_mm, state.gauging.gauge_kind != TWO_POINT
        found: dict[Place, tuple[float, int]] = {}
        if three:
            rows = state.gauging.three_points_of(bench.cylinder, state.clamped.plate_on)
            spots = [(r.depth_mm, r.clock_deg, r.size_mm, 1) for r in rows]
        else:
            shape = shape_of(state, bench.cylinder, state.clamped.plate_on)
            spots = [(s.depth_mm, s.clock_deg, s.size_mm, s.count) for s in shape.spots]
        for depth, clock, size, count in spots:
            place = state.gauging.plan.nearest(depth, clock)
            if abs(state.gauging.plan.depths_mm[place.level] - depth) <= SAME_DEPTH_MM:
                found[place] = (size - nominal, count)
        legs = (0.0, 120.0, 240.0) if three else (0.0, 180.0)
        return RingPicture(state.gauging.plan, found, bench.place, colour_scale(state), legs)

    def said(self) -> str:
        if self.session.state is None:
            return ""
        plan, bench = self.session.state.gauging.plan, self.session.bench
        return (
            f"Cylinder {bench.cylinder}, {len(self.ring().readings)} of {len(plan.places())} places read; "
            f"gauge at level {plan.letter(bench.place.level)}, {plan.clocks_deg[bench.place.clock]:g} degrees"
        )

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        bench, kind = self.session.bench, self.session.job.gauging.gauge_kind
        unit = "thou" if bench.units.mark == "in" else "hundredths"
        by = "" if kind == TWO_POINT else f", {kind}"
        pencil.heading(
            pencil.px(4), pencil.px(6), "Reading ring", f"cylinder {bench.cylinder} from above, {unit} over{by}"
        )
        draw_reading_ring(pencil, self._area(), self.ring(), self.session.show)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self.session.state is not None:
            x, y = event.position().x(), event.position().y()
            place = place_near(self._area(), self.session.state.gauging.plan, x, y, self.theme.scale)
            if place is not None:
                self.session.set_place(place)


class MeridianView(Picture):
    """Two chords down the wall, magnified."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, "Down the wall")
        self._walls = walls
        walls.ready.connect(self.refresh)

    def said(self) -> str:
        if self.session.state is None:
            return ""
        show = self.session.show
        rows = [
            f"{s.clock_deg:g}°: "
            + ", ".join(f"{show.away(v)} {show.down(d)}" for d, v in zip(s.depths_mm, s.deviations_mm, strict=True))
            for s in self._spots()
            if s.depths_mm
        ]
        return f"Over {show.unit(show.size(self.session.job.block.bore_mm))}. {'; '.join(rows)}" if rows else ""

    def _spots(self) -> list[Spots]:
        """What was read along the two chords."""
        state, bench, spots = self.session.job, self.session.bench, []
        for clock, *_ in CHORDS:
            near = [
                s
                for s in shape_of(state, bench.cylinder, state.clamped.plate_on).spots
                if chord_apart(s.clock_deg, clock) <= 5.0
            ]
            spots.append(
                Spots(clock, tuple(s.depth_mm for s in near), tuple(s.size_mm - state.block.bore_mm for s in near))
            )
        return spots

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        state, bench, px = self.session.job, self.session.bench, pencil.px
        pencil.heading(px(4), px(6), "Down the wall", f"{bench.units.mark} over nominal")
        picture = self._walls.picture(WallKey("now", bench.cylinder))
        draw_meridians(
            pencil, area.adjusted(0, px(32), 0, 0), picture, self._spots(), state.block.length_mm, self.session.show
        )


class ReadingsPage(StepPage):
    """Books readings; ``swept``: the map shows the sweeps instead."""

    name, title = "readings", "Readings"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self.swept = False
        self.ring, self.meridians = RingView(session, theme), MeridianView(session, theme, walls)
        self.map = WallMapView(session, theme, walls, self._key, self._title)
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.addWidget(self.ring, 0, 0)
        grid.addWidget(self.meridians, 0, 1)
        grid.addWidget(self.map, 1, 0, 1, 2)
        grid.setRowStretch(0, 58)
        grid.setRowStretch(1, 42)
        grid.setColumnStretch(0, 57)
        grid.setColumnStretch(1, 43)

    def _key(self) -> WallKey:
        return WallKey("swept" if self.swept else "now", self.session.bench.cylinder)

    def _title(self) -> str:
        return "Wall, as swept" if self.swept else "Wall, unrolled"

    def deeds(self) -> Deeds:
        """The map by sweeps, or by two points."""
        return {verbs.SWEPT: self.toggle_swept}

    def toggle_swept(self) -> str:
        """The map by two points, or by sweeps."""
        self.swept = not self.swept
        self.walls.want(self.wanted())
        self.map.refresh()
        return "The map shows the sweeps, on radius." if self.swept else "The map shows two-point readings."

    def wanted(self) -> Iterable[WallKey]:
        cylinder = self.session.bench.cylinder
        return [WallKey("now", cylinder)] + ([WallKey("swept", cylinder)] if self.swept else [])

    def advice(self) -> Advice:
        return gauge.advise(self.session.job, self.session.bench.cylinder, self.session.show)
