"""The stroke plan: the wall before, as predicted and as measured since; the load by depth; worked out off the thread."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRectF
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.core.errors import InputError
from redline_bore.job.card import Advice
from redline_bore.job.gauge.places import places_of_checks
from redline_bore.job.hone.model import Forecast, forecast
from redline_bore.job.kinds.hone import HoneSet
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words import hone_pages as hone_page_advice
from redline_bore.ui.background import Runner
from redline_bore.ui.paint.pencil import Pencil
from redline_bore.ui.paint.stroke_plan_chart import draw_stroke_plan
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.forecast_page import ForecastPage, ForecastView, Tick
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls

TOPICS = LEDGER | {"selection", "step", "page", "plan shown"}


class PlanView(ForecastView[Forecast]):
    """Before, predicted, measured; load by depth beside it."""

    topics = TOPICS

    def told(self, found: Forecast) -> str:
        return f"{found.plan.double_strokes} double strokes"

    def heading(self) -> tuple[str, str]:
        return (
            f"Strokes for cylinder {self.session.bench.cylinder}",
            "diameter down the wall, against the end of this step",
        )

    def draw_found(self, pencil: Pencil, box: QRectF, found: Forecast) -> None:
        state = self.session.job
        checks = state.honing.checks_of(self.session.bench.cylinder)
        measured = None
        if checks and len(checks[-1].sizes_mm) > 1 and found.wall.sizes_mm != checks[-1].by_depth_mm:
            measured = (places_of_checks(state, len(checks[-1].sizes_mm)), checks[-1].by_depth_mm)
        draw_stroke_plan(pencil, box, found, measured, state.block.length_mm, self.session.show)


class PlanPage(ForecastPage[Forecast]):
    """The strokes of a cylinder. Enter takes them."""

    name, title = "plan", "Strokes"
    topics, shown_topic, work_name = TOPICS, "plan shown", "strokes"
    again = "a check or another cylinder"

    def __init__(self, session: Session, theme: Theme, walls: Walls, runner: Runner) -> None:
        super().__init__(session, theme, walls, runner)
        self.taken: Forecast | None = None  # what was taken last, to hold the next check against
        self.view = PlanView(session, theme, "Stroke plan", self.now)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.view)

    def prepared(self, state: JobState, cylinder: int) -> Callable[[Tick], Forecast]:
        """The simulator, from the wall as it was read last."""
        return lambda tick: forecast(state, cylinder, tick)

    def advice(self) -> Advice:
        s = self.session
        if not self.fresh:
            return hone_page_advice.plan(s.job, s.bench.cylinder, None, "", True, s.show)
        return hone_page_advice.plan(s.job, s.bench.cylinder, self.found, self.missing, self.busy, s.show)

    def line_text(self) -> LineText | None:
        goes = self.found is not None and self.found.plan.double_strokes > 0
        does = "Enter takes overstroke and dwell; checks then teach it" if goes else "There is no plan to take"
        keys = "Esc stops it · V next page" if self.busy else "V next page"
        where = f"Strokes for cylinder {self.session.bench.cylinder}"
        return LineText(where, "It is being worked out" if self.busy else does, keys, "—")

    def enter_empty(self) -> str | None:
        state, found = self.session.job, self.found
        if found is None or state.honing.run is None:
            raise InputError(f"There is no plan to take: {self.missing or 'it is being worked out'}")
        p, h = found.plan, state.honing.run
        if p.double_strokes < 1:
            raise InputError("A whole stroke would pass its end: creep by the gauge")
        entry = HoneSet(
            machine=h.machine, rpm=h.rpm, strokes_per_min=h.strokes_per_min, over_top_mm=round(p.over_top_mm, 2),
            over_bottom_mm=round(p.over_bottom_mm, 2), dwell_top_s=round(p.dwell_top_s, 2),
            dwell_bottom_s=round(p.dwell_bottom_s, 2), load=h.load,
        )  # fmt: skip
        self.taken = found
        self.session.book(entry, typed="as planned")
        return f"Taken: {self.session.show.rough(p.over_top_mm)} out at the top, {self.session.show.rough(p.over_bottom_mm)} at the bottom."
