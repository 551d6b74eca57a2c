"""The plateau foretold: worked out off the thread, from this wall's traces and the shop's pairs."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRectF
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.core.errors import BenchError, InputError
from redline_bore.core.texture.plateau import FIGURES
from redline_bore.job.finish import page_advice as finish_page_advice
from redline_bore.job.finish.judgement import texture_at
from redline_bore.job.finish.plateau import PlateauForecast, foretold
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.words.card import Advice
from redline_bore.ui.background import Runner, Token
from redline_bore.ui.paint.pencil import LEFT, TOP, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.paint.plateau_path import MeasuredFinish, draw_path
from redline_bore.ui.session import Session
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls

TOPICS = LEDGER | {"selection", "step", "page", "path shown"}


class PathView(Picture):
    """The path, or what is missing for it."""

    topics = TOPICS

    def __init__(
        self, session: Session, theme: Theme, found: Callable[[], tuple[PlateauForecast | None, str, float | None]]
    ):
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


class PlateauPage(StepPage):
    """Worked out anew when the cylinder or the job changes; kept while it still holds. Enter goes to the hone."""

    name, title = "plateau", "Plateau"

    def __init__(self, session: Session, theme: Theme, walls: Walls, runner: Runner):
        super().__init__(session, theme, walls)
        self._runner = runner
        self._found: PlateauForecast | None = None
        self._missing = ""
        self._share: float | None = None
        self._for: tuple[object, ...] = ()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(PathView(session, theme, self.now))
        session.changed.connect(self._heard)

    def now(self) -> tuple[PlateauForecast | None, str, float | None]:
        """The forecast as far as there is one, what is missing, the share done while it is worked out."""
        return self._found, self._missing, self._share

    def _heard(self, topics: frozenset[str]) -> None:
        if self.isVisible() and topics & (TOPICS - {"path shown"}):
            self.want()

    def want(self) -> None:
        """Have the forecast worked out, if what it follows from has changed."""
        state, cylinder = self.session.state, self.session.bench.cylinder
        if state is None or (key := (state.number, cylinder, state.last_seq)) == self._for:
            return
        self._for, self._found, self._missing, self._share = key, None, "", 0.0
        others = self.session.desk.jobs_with("trace_booked")

        def work(token: Token) -> PlateauForecast:
            def tick(share: float) -> None:
                token.check()
                self._share = share  # read by the next repaint; a float is written whole

            return foretold(state, cylinder, others, tick)

        self._runner.start("plateau", work, self._take, self._failed)
        self._shown()

    def _shown(self) -> None:
        self.session.changed.emit(frozenset({"path shown"}))

    def _take(self, found: PlateauForecast) -> None:
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
        self._runner.cancel("plateau")
        self._share, self._missing = None, "it was broken off; another trace or cylinder works it out again"
        self._shown()
        return True

    def advice(self) -> Advice:
        s = self.session
        fresh = self._for == (s.job.number, s.bench.cylinder, s.job.last_seq)
        found, busy = (self._found, self._share is not None) if fresh else (None, True)
        return finish_page_advice.plateau_page(s.job, s.bench.cylinder, found, self._missing, busy, s.show)

    def enter_empty(self) -> str | None:
        if self._found is None:
            raise InputError("There is no forecast yet")
        self.session.go("hone")
        return "Count the plateau strokes here, then trace again."
