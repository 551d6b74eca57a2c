"""The stroke plan: the wall before, as predicted and as measured since; the load by depth; worked out off the thread."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRectF
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.core.errors import BenchError, InputError
from redline_bore.job.hone import page_advice as hone_page_advice
from redline_bore.job.hone.model import Forecast, forecast, places_of_checks
from redline_bore.job.kinds.hone import HoneSet
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.words.card import Advice
from redline_bore.ui.background import Runner, Token
from redline_bore.ui.paint.pencil import LEFT, TOP, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.paint.stroke_plan_chart import draw_stroke_plan
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls

TOPICS = LEDGER | {"selection", "step", "page", "plan shown"}


class PlanView(Picture):
    """Before, predicted, measured; load by depth beside it."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme, found: Callable[[], tuple[Forecast | None, str, float | None]]):
        super().__init__(session, theme, "Stroke plan")
        self._found = found

    def said(self) -> str:
        found, missing, busy = self._found()
        if found is None:
            return "working it out" if busy is not None else missing
        return f"{found.plan.double_strokes} double strokes"

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, state, cylinder = pencil.px, self.session.job, self.session.bench.cylinder
        found, missing, busy = self._found()
        pencil.heading(
            px(4), px(6), f"Strokes for cylinder {cylinder}", "diameter down the wall, against the end of this step"
        )
        box = area.adjusted(px(8), px(40), -px(10), -px(6))
        if found is None:
            told = (
                f"Working it out, {busy:.0%}. Esc stops it."
                if busy is not None
                else f"{missing[:1].upper()}{missing[1:]}."
            )
            pencil.text(box, told, 16, "graphite", align=LEFT | TOP, wrap=True)
            return
        checks = state.honing.checks_of(cylinder)
        measured = None
        if checks and len(checks[-1].sizes_mm) > 1 and found.wall.sizes_mm != checks[-1].sizes_mm:
            measured = (places_of_checks(state, len(checks[-1].sizes_mm)), checks[-1].sizes_mm)
        draw_stroke_plan(pencil, box, found, measured, state.block.length_mm, self.session.show)


class PlanPage(StepPage):
    """Worked out anew when the cylinder, the set-up or a check changes; kept while it still holds. Enter takes it."""

    name, title = "plan", "Strokes"

    def __init__(self, session: Session, theme: Theme, walls: Walls, runner: Runner):
        super().__init__(session, theme, walls)
        self._runner = runner
        self._found: Forecast | None = None
        self._missing, self._share = "", None
        self._for: tuple[object, ...] = ()
        self.taken: Forecast | None = None  # what was taken last, to hold the next check against
        self.view = PlanView(session, theme, self.now)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.view)
        session.changed.connect(self._heard)

    _share: float | None

    def now(self) -> tuple[Forecast | None, str, float | None]:
        """The plan as far as there is one, what is missing, the share done while it is worked out."""
        return self._found, self._missing, self._share

    def _heard(self, topics: frozenset[str]) -> None:
        if self.isVisible() and topics & (TOPICS - {"plan shown"}):
            self.want()

    def want(self) -> None:
        """Have the plan worked out, if what it follows from has changed."""
        state, cylinder = self.session.state, self.session.bench.cylinder
        if state is None:
            return
        key = (state.number, cylinder, state.last_seq)
        if key == self._for:
            return
        self._for, self._found, self._missing, self._share = key, None, "", 0.0

        def work(token: Token) -> Forecast:
            def tick(share: float) -> None:
                token.check()
                self._share = share  # read by the next repaint; a float is written whole

            return forecast(state, cylinder, tick)

        self._runner.start("strokes", work, self._take, self._failed)
        self._shown()

    def _shown(self) -> None:
        self.session.changed.emit(frozenset({"plan shown"}))

    def _take(self, found: Forecast) -> None:
        self._found, self._share = found, None
        self._shown()

    def _failed(self, error: BaseException) -> None:
        self._share = None
        if not isinstance(error, BenchError):
            raise error
        self._missing = str(error)
        self._shown()

    def stop(self) -> bool:
        """Esc: break the work off. Returns whether there was any."""
        if self._share is None:
            return False
        self._runner.cancel("strokes")
        self._share, self._missing = None, "it was broken off; a check or another cylinder works it out again"
        self._shown()
        return True

    def advice(self) -> Advice:
        s = self.session
        if self._for[:2] != (s.job.number, s.bench.cylinder) or self._for[2] != s.job.last_seq:
            return hone_page_advice.plan(s.job, s.bench.cylinder, None, "", True, s.show)
        return hone_page_advice.plan(
            s.job, s.bench.cylinder, self._found, self._missing, self._share is not None, s.show
        )

    def line_text(self) -> LineText | None:
        return LineText(
            f"Strokes for cylinder {self.session.bench.cylinder}", "Enter takes overstroke and dwell; checks then teach it",
            "Esc stops it · V next page", "—",
        )  # fmt: skip

    def enter_empty(self) -> str | None:
        state, found = self.session.job, self._found
        if found is None or state.honing.run is None:
            raise InputError(f"There is no plan to take: {self._missing or 'it is being worked out'}")
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
