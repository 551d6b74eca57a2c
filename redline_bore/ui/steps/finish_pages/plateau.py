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
from redline_bore.ui.paint.pencil import Pencil
from redline_bore.ui.paint.plateau_path import MeasuredFinish, draw_path
from redline_bore.ui.session import Session
from redline_bore.ui.steps.forecast_page import ForecastPage, ForecastView, Tick
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls

TOPICS = LEDGER | {"selection", "step", "page", "path shown"}


class PathView(ForecastView[PlateauForecast]):
    """The path, or what is missing for it."""

    topics = TOPICS
    top_px = 58.0

    def told(self, found: PlateauForecast) -> str:
        return (
            "unreachable from here" if found.strokes is None else f"in the windows from {found.strokes[0]:.0f} strokes"
        )

    def heading(self) -> tuple[str, str]:
        return (
            f"The plateau of cylinder {self.session.bench.cylinder}",
            "bands: windows; dots: traced since; the shade: its spots",
        )

    def draw_found(self, pencil: Pencil, box: QRectF, found: PlateauForecast) -> None:
        draw_path(pencil, box, found, self._measured(found), self.session.show)

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
        column.addWidget(PathView(session, theme, "Plateau path", self.now))

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
