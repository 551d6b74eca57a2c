"""The plateau foretold: worked out off the thread, from this wall's traces and the shop's pairs."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRectF
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.core.errors import InputError
from redline_bore.core.texture.plateau import FIGURES
from redline_bore.job.card import Advice
from redline_bore.job.finish.judgement import texture_at
from redline_bore.job.finish.plateau import PlateauForecast, foretold
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words import finish_pages as finish_page_advice
from redline_bore.ui.background import Runner
from redline_bore.ui.paint.pencil import LEFT, TOP, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.paint.plateau_path import MeasuredFinish, draw_path
from redline_bore.ui.session import Session
from redline_bore.ui.steps.forecast_page import ForecastPage, Tick
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls

TOPICS = LEDGER | {"selection", "step", "page", "path shown"}


class PathView(Picture):
    """The path, or what is missing for it."""

    topics = TOPICS

    def __init__(
        self, session: Session, theme: Theme, found: Callable[[], tuple[PlateauForecast | None, str, float | None]]
    ) -> None:
        super().__init__(session, theme, "Plateau path")
        self._found = found

    def said(self) -> str:
        found, missing, busy = self._found()
        if found is None:
            return "working it out" if busy is not None else missing
        return (
            "unreachable from here" if found.strokes is None else f"in the windows from {found.strokes[0]:.0f} strokes"
        )

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, s = pencil.px, self.session
        found, missing, busy = self._found()
        pencil.heading(
            px(4),
            px(6),
            f"The plateau of cylinder {s.bench.cylinder}",
            "bands: windows; dots: traced since; the shade: its spots",
        )
        box = area.adjusted(px(8), px(58), -px(10), -px(4))
        if found is None:
            told = (
                f"Working it out, {busy:.0%}. Esc stops it."
                if busy is not None
                else f"{missing[:1].upper()}{missing[1:]}."
            )
            pencil.text(box, told, 16, "graphite", align=LEFT | TOP, wrap=True)
            return
        draw_path(pencil, box, found, self._measured(found), s.show)

    def _measured(self, f: PlateauForecast) -> MeasuredFinish:
        rows = []
        for trace in self.session.job.finishing.traces_of(f.cylinder):
            if trace.plateau_strokes is not None and trace.plateau_strokes > f.begins:
                family = texture_at(trace).family
                rows.append((trace.plateau_strokes - f.begins, {n: getattr(family, n) for n in FIGURES}))
        return rows


class PlateauPage(ForecastPage[PlateauForecast]):
    """The plateau of a cylinder, foretold from the traces before it. Enter goes to the hone."""

    name, title = "plateau", "Plateau"
    topics, shown_topic, work_name = TOPICS, "path shown", "plateau"
    again = "another trace or cylinder"

    def __init__(self, session: Session, theme: Theme, walls: Walls, runner: Runner) -> None:
        super().__init__(session, theme, walls, runner)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(PathView(session, theme, self.now))

    def prepared(self, state: JobState, cylinder: int) -> Callable[[Tick], PlateauForecast]:
        """The forecast, from this job's traces and the pairs of every job."""
        desk = self.session.desk
        return lambda tick: foretold(state, cylinder, desk.twice_traced(state), tick)

    def advice(self) -> Advice:
        s = self.session
        found, busy = (self.found, self.busy) if self.fresh else (None, True)
        return finish_page_advice.plateau_page(s.job, s.bench.cylinder, found, self.missing, busy, s.show)

    def enter_empty(self) -> str | None:
        if self.found is None:
            raise InputError("There is no forecast yet")
        if finish_page_advice.wall_is_done(self.session.job, self.found):
            return None  # as on the trace page: on to the next wall, or out of the step
        self.session.go("hone")
        return "Count the plateau strokes here, then trace again."
