"""Bore: what the bar is set to, in digits that can be read from the machine; the layers it takes; its feed window."""

from __future__ import annotations

from datetime import UTC, datetime

from PyQt6.QtCore import QRectF
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout

from redline_bore.core.errors import InputError
from redline_bore.job import bore
from redline_bore.job.advice import Advice
from redline_bore.job.entries import StepStamped
from redline_bore.ui.paint.cut_layers import draw_cut_layers
from redline_bore.ui.paint.feed_window import draw_feed_windows
from redline_bore.ui.paint.pencil import CENTRE, MIDDLE, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.session import LEDGER, Session
from redline_bore.ui.steps.base import LineText, StepView
from redline_bore.ui.theme.theme import Theme

TOPICS = LEDGER | {"selection", "step"}


def today() -> str:
    """The day as the ledger counts it."""
    return datetime.now(UTC).date().isoformat()


class SettingView(Picture):
    """The figure for the setting micrometer, as big as the room allows."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme):
        super().__init__(session, theme, "Tool setting")

    def _words(self) -> tuple[str, str]:
        """The figure, and what it is."""
        state, show = self.session.job, self.session.show
        plan = bore.plan_of(state, self.session.bench.cylinder, today())
        if plan.done is not None and plan.redline_mm is not None:
            return show.size(plan.redline_mm - max(plan.done.sizes_mm)), "left for the hone"
        if plan.setting_mm is None or not plan.passes_mm or state.bar is None:
            return "—", "no setting yet"
        return show.size(plan.setting_mm), "set the tool to"

    def said(self) -> str:
        if self.session.state is None:
            return ""
        figure, what = self._words()
        return f"Cylinder {self.session.bench.cylinder}: {what} {figure}"

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px = pencil.px
        figure, what = self._words()
        pencil.heading(
            px(4), px(6), f"Cylinder {self.session.bench.cylinder}", f"{what}, {self.session.show.units.mark}"
        )
        size = min(150.0, (area.height() - px(50)) / self.theme.scale * 0.8, 900.0 / max(len(figure), 1) * 1.1)
        pencil.text(area.adjusted(0, px(34), 0, 0), figure, size, "ink", True, CENTRE | MIDDLE)


class LayersView(Picture):
    """The wall in section: what each pass takes, what the hone gets, and the redline."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme):
        super().__init__(session, theme, "Layers of the cut")

    def said(self) -> str:
        if self.session.state is None:
            return ""
        plan = bore.plan_of(self.session.state, self.session.bench.cylinder, today())
        return f"{len(plan.passes_mm)} passes" if plan.passes_mm else plan.missing

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px = pencil.px
        pencil.heading(px(4), px(6), "What is taken", "a side, from the wall as it is to the redline")
        plan = bore.plan_of(self.session.job, self.session.bench.cylinder, today())
        draw_cut_layers(pencil, area.adjusted(px(8), px(40), -px(12), -px(8)), plan, self.session.show)


class FeedView(Picture):
    """Feed against nose radius, with the windows that are known and this cut in them."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme):
        super().__init__(session, theme, "Feed window")

    def said(self) -> str:
        if self.session.state is None or self.session.state.bar is None:
            return "The bar is not set up"
        found = bore.window_now(self.session.state)
        return "" if found is None else f"The feed {found[1].feed_call(self.session.state.bar.feed_mm)}"

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, state = pencil.px, self.session.job
        pencil.heading(px(4), px(6), "Feed window", "a turn, against nose radius")
        draw_feed_windows(
            pencil, area.adjusted(px(8), px(40), -px(12), -px(8)), bore.windows_of(state), state.bar, self.session.show
        )


class BoreStep(StepView):
    """The bore step: the bar's set-up, settings hole by hole, what each came out at."""

    name = "bore"
    topics = TOPICS

    def __init__(self, session: Session, theme: Theme):
        super().__init__(session, theme)
        self.setting, self.layers, self.feed = (v(session, theme) for v in (SettingView, LayersView, FeedView))
        below, column = QHBoxLayout(), QVBoxLayout(self)
        below.addWidget(self.layers, 58)
        below.addWidget(self.feed, 42)
        column.addWidget(self.setting, 40)
        column.addLayout(below, 60)

    def advice(self) -> Advice:
        return bore.advise(self.session.job, self.session.bench.cylinder, self.session.show, today())

    def line_text(self) -> LineText:
        s, state = self.session, self.session.job
        where = f"Cylinder {s.bench.cylinder} · the bar is not set up"
        if state.bar is not None:
            where = f"Cylinder {s.bench.cylinder} · {state.bar.insert}, {s.show.fine(state.bar.feed_mm)} a turn at {state.bar.rpm:g}"
        plan = bore.plan_of(state, s.bench.cylinder, today())
        example = s.show.size(plan.target_mm) if plan.target_mm is not None else s.show.size(state.block.bore_mm)
        what = f"What it came out at, top to bottom: {example} {example}"
        if state.bar is None:
            what = f"M, then bar TPG 321 feed {s.show.fine(0.1)} rpm 900 mains"
        return LineText(where, what, "Enter books · arrows pick a cylinder", "—")

    def entered(self, text: str) -> str:
        if not text.strip() or text.strip()[-1].lower() in "cf":
            return super().entered(text)
        from redline_bore.job.typed_bore import entry_at_bar
        from redline_bore.job.where import Where

        s = self.session
        entry = entry_at_bar(text, s.job, Where(s.bench.cylinder, s.bench.place, s.bench.units), today())
        s.book(entry, typed=text.strip())
        return ""

    def enter_empty(self) -> str:
        s = self.session
        if not bore.all_bored(s.job):
            return self._go_on()
        if s.job.stamp("bore") is None:
            s.book(StepStamped(step="bore", initials=s.person))
        s.go("hone")
        return "Bored. The hone is next."

    def _go_on(self) -> str:
        """To the next hole in the order that spreads the heat."""
        plan = bore.plan_of(self.session.job, self.session.bench.cylinder, today())
        if plan.done is None:
            raise InputError("Nothing is typed: bore it, measure it, and type what it came out at")
        ahead = [n for numbers in bore.still_to_bore(self.session.job) for n in numbers]
        if not ahead:
            raise InputError("No hole is left for the bar")
        self.session.select(ahead[0])
        return f"Cylinder {ahead[0]} is next in the order that spreads the heat."

    def move(self, across: int, down: int) -> None:
        count = self.session.job.block.cylinders
        self.session.select((self.session.bench.cylinder - 1 + (across or down)) % count + 1)
