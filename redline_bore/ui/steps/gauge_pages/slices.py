"""The slice: a level from above with its lobes, and the axis of the hole where it was swept."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRectF
from PyQt6.QtWidgets import QGridLayout

from redline_bore.job.card import Advice
from redline_bore.job.gauge import round as rounds
from redline_bore.job.words import round as round_words
from redline_bore.ui.paint.axis_drift import draw_axis_drift
from redline_bore.ui.paint.lobes import draw_lobes
from redline_bore.ui.paint.pencil import CENTRE, MIDDLE, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.paint.polar import draw_polar, value_at
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import TOPICS as WALL_TOPICS
from redline_bore.ui.walls import Walls

TOPICS = WALL_TOPICS | {"selection", "probe", "page"}


class _SlicePicture(Picture):
    """One of the three pictures, drawn from the slice at the probe."""

    topics = TOPICS

    def __init__(
        self, page: SlicePage, name: str, paint: Callable[[Pencil, QRectF], None], said: Callable[[], str]
    ) -> None:
        super().__init__(page.session, page.theme, name)
        self._paint, self._said = paint, said

    def said(self) -> str:
        return self._said() if self.session.state is not None else ""

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        self._paint(pencil, area)


class SlicePage(StepPage):
    """Up and down walk the depths that were read; left and right turn the reading line."""

    name, title = "slice", "Slice"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self.polar = _SlicePicture(self, "Slice from above", self._draw_polar, self._polar_said)
        self.lobes = _SlicePicture(self, "Lobes by order", self._draw_lobes, self._lobes_said)
        self.axis = _SlicePicture(self, "Axis of the hole", self._draw_axis, self._axis_said)
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.addWidget(self.polar, 0, 0, 2, 1)
        grid.addWidget(self.lobes, 0, 1)
        grid.addWidget(self.axis, 1, 1)
        grid.setColumnStretch(0, 62)
        grid.setColumnStretch(1, 38)
        grid.setRowStretch(0, 46)
        grid.setRowStretch(1, 54)

    @property
    def depth_mm(self) -> float:
        """The depth that is asked for: the probe's, else the gauge's."""
        bench = self.session.bench
        if bench.gauge.probe is not None:
            return bench.gauge.probe[0]
        return self.session.job.gauging.plan.depths_mm[bench.place.level]

    def cut(self) -> rounds.Slice:
        """The slice that is shown."""
        return rounds.slice_at(
            self.session.job, self.session.bench.cylinder, self.depth_mm, self.session.job.clamped.plate_on
        )

    def _clock(self) -> float | None:
        return None if self.session.bench.gauge.probe is None else self.session.bench.gauge.probe[1]

    def _draw_polar(self, pencil: Pencil, area: QRectF) -> None:
        cut, px = self.cut(), pencil.px
        where = f"cylinder {self.session.bench.cylinder}, {self.session.show.down(cut.depth_mm)}, {self.session.show.units.mark} on radius"
        pencil.heading(px(4), px(6), "Slice", where)
        draw_polar(pencil, area.adjusted(0, px(34), 0, -px(22)), cut, self._clock(), self.session.show)
        words = []
        if cut.swept is not None and cut.swept.fit is not None:
            words.append("ochre: swept")
        if cut.level is not None:
            words.append("blue: two points, drawn at both ends")
        foot = QRectF(area.left(), area.bottom() - px(22), area.width(), px(20))
        pencil.text(foot, " · ".join(words), 12, "graphite", align=CENTRE | MIDDLE)

    def _polar_said(self) -> str:
        cut, clock = self.cut(), self._clock()
        found = None if clock is None else value_at(cut, clock)
        words = f"Slice of cylinder {self.session.bench.cylinder}, {self.session.show.down(cut.depth_mm)}"
        return (
            words
            if found is None or clock is None
            else f"{words}; {clock:.0f} degrees {self.session.show.away(found[1])}"
        )

    def _draw_lobes(self, pencil: Pencil, area: QRectF) -> None:
        pencil.heading(pencil.px(4), pencil.px(6), "Lobes", f"{self.session.show.units.mark} on radius, by order")
        draw_lobes(pencil, area.adjusted(0, pencil.px(32), 0, 0), self.cut(), self.session.show)

    def _lobes_said(self) -> str:
        from redline_bore.ui.paint.lobes import lobes_of

        return "; ".join(f"{k} lobes {self.session.show.size(v)}" for k, v in lobes_of(self.cut()).items())

    def _draw_axis(self, pencil: Pencil, area: QRectF) -> None:
        state, px = self.session.job, pencil.px
        cylinder = self.session.bench.cylinder
        fit, why = rounds.axis_of(state, cylinder, state.clamped.plate_on)
        pencil.heading(px(4), px(6), "Axis of the hole", "" if fit is None else "swept")
        box = area.adjusted(0, px(32), 0, 0)
        if fit is None:
            r = box.adjusted(px(58), px(6), -px(12), -px(36))
            pencil.rect(r, "sheet", "rule", dash="dash")
            words = f"{why}. Set an indicator up on the spindle, then sweep two depths or more: “spindle mains”, Space at each."
            pencil.text(r.adjusted(px(14), 0, -px(14), 0), words, 13, "graphite", wrap=True)
            return
        swept = rounds.swept_levels(state, cylinder, state.clamped.plate_on)
        draw_axis_drift(pencil, box, swept, fit, state.block.length_mm, self.session.show)

    def _axis_said(self) -> str:
        fit, why = rounds.axis_of(self.session.job, self.session.bench.cylinder, self.session.job.clamped.plate_on)
        return why if fit is None else f"The axis moves {self.session.show.size(fit.axis.drift_mm)}"

    def advice(self) -> Advice:
        return round_words.advise(self.session.job, self.session.bench.cylinder, self.depth_mm, self.session.show)

    def line_text(self) -> LineText | None:
        return None

    def arrows(self, across: int, down: int) -> bool:
        state, bench = self.session.job, self.session.bench
        depths = rounds.depths_read(state, bench.cylinder, state.clamped.plate_on)
        clock = 0.0 if bench.gauge.probe is None else bench.gauge.probe[1]
        depth = self.depth_mm
        if down and depths:
            at = min(range(len(depths)), key=lambda i: abs(depths[i] - depth))
            depth = depths[min(max(at + down, 0), len(depths) - 1)]
        self.session.set_probe(depth, clock + across * 5.0)
        return True
