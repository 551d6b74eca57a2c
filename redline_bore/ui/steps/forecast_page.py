"""A page that works something out off the interface thread: anew when the cylinder or the job changes, kept while it still holds."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, Generic, TypeVar

from PyQt6.QtCore import QRectF

from redline_bore.core.errors import BenchError
from redline_bore.core.show import capital
from redline_bore.job.state.job_state import JobState
from redline_bore.ui import verbs
from redline_bore.ui.background import Runner, Token
from redline_bore.ui.paint.pencil import LEFT, TOP, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.session import Session
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls

F = TypeVar("F")
Tick = Callable[[float], None]
Now = Callable[
    [], tuple[Any, str, "float | None"]
]  # what was found, what is missing, the share done while it is worked out


class ForecastView(Picture, Generic[F]):
    """The picture of what is worked out: how far it has come, what is missing for it, and then what was found."""

    top_px = 40.0

    def __init__(self, session: Session, theme: Theme, name: str, now: Now) -> None:
        super().__init__(session, theme, name)
        self._now = now

    def said(self) -> str:
        found, missing, busy = self._now()
        if found is None:
            return "working it out" if busy is not None else missing
        return self.told(found)

    def told(self, found: F) -> str:
        """What was found, in words."""
        raise AssertionError("a forecast says itself")

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px = pencil.px
        found, missing, busy = self._now()
        pencil.heading(px(4), px(6), *self.heading())
        box = area.adjusted(px(8), px(self.top_px), -px(10), -px(4))
        if found is not None:
            self.draw_found(pencil, box, found)
            return
        told = f"{capital(missing)}." if busy is None else f"Working it out, {busy:.0%}. Esc stops it."
        pencil.text(box, told, 16, "graphite", align=LEFT | TOP, wrap=True)

    def heading(self) -> tuple[str, str]:
        """What stands over it: its name, and how it is read."""
        raise AssertionError("a forecast has a heading")

    def draw_found(self, pencil: Pencil, box: QRectF, found: F) -> None:
        """Draw what was found."""
        raise AssertionError("a forecast draws itself")


class ForecastPage(StepPage, Generic[F]):
    """Base of such pages. ``shown_topic`` says that there is something new to paint; ``again`` what works it out once more."""

    shown_topic = ""
    work_name = ""
    again = ""
    topics: frozenset[str] = frozenset()

    def __init__(self, session: Session, theme: Theme, walls: Walls, runner: Runner) -> None:
        super().__init__(session, theme, walls)
        self._runner = runner
        self.found: F | None = None
        self.missing = ""
        self._share: float | None = None
        self._for: tuple[object, ...] = ()
        session.changed.connect(self._heard)

    def prepared(self, state: JobState, cylinder: int) -> Callable[[Tick], F]:
        """The work, with everything it needs read on the interface thread; it says how far it has come, from 0 to 1."""
        raise AssertionError("a page that forecasts says what it works out")

    def now(self) -> tuple[F | None, str, float | None]:
        """What was found, what is missing, the share done while it is worked out."""
        return self.found, self.missing, self._share

    @property
    def busy(self) -> bool:
        """Whether it is being worked out."""
        return self._share is not None

    @property
    def fresh(self) -> bool:
        """Whether what was found is of this cylinder and this job as it stands."""
        return self._for == self._key(self.session.job, self.session.bench.cylinder)

    @staticmethod
    def _key(state: JobState, cylinder: int) -> tuple[object, ...]:
        return state.number, cylinder, state.last_seq

    def _heard(self, topics: frozenset[str]) -> None:
        if self.isVisible() and topics & (self.topics - {self.shown_topic}):
            self.want()

    def want(self) -> None:
        """Have it worked out, if what it follows from has changed."""
        state, cylinder = self.session.state, self.session.bench.cylinder
        if state is None or (key := self._key(state, cylinder)) == self._for:
            return
        self._for, self.found, self.missing, self._share = key, None, "", 0.0
        prepared = self.prepared(state, cylinder)

        def work(token: Token) -> F:
            def tick(share: float) -> None:
                token.check()
                self._share = share  # read by the next repaint; a float is written whole

            return prepared(tick)

        self._runner.start(self.work_name, work, self._take, self._failed)
        self._say()

    def _say(self) -> None:
        self.session.changed.emit(frozenset({self.shown_topic}))

    def _take(self, found: F) -> None:
        self.found, self._share = found, None
        self._say()

    def _failed(self, error: BaseException) -> None:
        self._share = None
        if not isinstance(error, BenchError):
            raise error
        self.missing = str(error)
        self._say()

    def deeds(self) -> verbs.Deeds:
        """Esc breaks the work off."""
        return {**super().deeds(), verbs.BREAK_OFF: self._break_off}

    def _break_off(self) -> str:
        if self._share is None:
            return ""
        self._runner.cancel(self.work_name)
        self._share, self.missing = None, f"it was broken off; {self.again} works it out again"
        self._say()
        return "It is broken off."
