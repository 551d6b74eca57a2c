"""The cut: what the bar is set to, in digits that can be read from the machine; the layers it takes; its feed window."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout

from redline_bore.core.show import listed
from redline_bore.core.when import now
from redline_bore.job.bore import plan as bore
from redline_bore.job.bore.run import setting_now
from redline_bore.job.card import Advice
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.words import bore as bore_advice
from redline_bore.job.words.missing import say_missing
from redline_bore.ui.paint.cut_layers import draw_cut_layers
from redline_bore.ui.paint.feed_window import draw_feed_windows
from redline_bore.ui.paint.pencil import CENTRE, MIDDLE, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.session import Session
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls

TOPICS = LEDGER | {"selection", "step", "page"}


class SettingView(Picture):
    """The figure for the setting micrometer, as big as the room allows."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Tool setting")

    def _words(self) -> tuple[str, str]:
        """The figure, and what it is."""
        state, show = self.session.job, self.session.show
        plan = bore.plan_of(state, self.session.bench.cylinder, now())
        if plan.done is not None and plan.redline_mm is not None:
            return show.size(plan.redline_mm - plan.done.largest_mm), "left for the hone"
        if first := bore.waits_for(state, self.session.bench.cylinder):
            return "—", f"waits: bore {listed(list(first))} first and look"
        found = setting_now(state, self.session.bench.cylinder, now())
        if found is None or state.boring.bar is None:
            return "—", "no setting before the bar is set up" if state.boring.bar is None else "no setting yet"
        setting, number, count = found
        return show.size(setting), "set the tool to" if count == 1 else f"pass {number} of {count}, set the tool to"

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
        size = min(150.0, (area.height() - px(50)) / self.theme.scale * 0.8)
        size *= min(1.0, (area.width() - px(16)) / max(pencil.width_of(figure, size, True), 1.0))
        pencil.text(area.adjusted(0, px(34), 0, 0), figure, size, "ink", True, CENTRE | MIDDLE)


class LayersView(Picture):
    """The wall in section: what each pass takes, what the hone gets, and the redline."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Layers of the cut")

    def said(self) -> str:
        if self.session.state is None:
            return ""
        plan = bore.plan_of(self.session.state, self.session.bench.cylinder, now())
        return f"{len(plan.passes_mm)} passes" if plan.passes_mm else say_missing(plan.missing)

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, state = pencil.px, self.session.job
        pencil.heading(px(4), px(6), "What is taken", "a side, from the wall as it is to the redline")
        plan = bore.plan_of(state, self.session.bench.cylinder, now())
        cut = bore.cut_now(state, state.block.bore_mm)
        marks = None if cut is None else cut.allowance_needed_mm / 2.0
        draw_cut_layers(pencil, area.adjusted(px(8), px(40), -px(12), -px(8)), plan, self.session.show, marks)


class FeedView(Picture):
    """Feed against nose radius, with the windows that are known and this cut in them."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Feed window")

    def said(self) -> str:
        if self.session.state is None or self.session.state.boring.bar is None:
            return "The bar is not set up"
        found = bore.window_now(self.session.state)
        return "" if found is None else f"The feed {found[1].feed_call(self.session.state.boring.bar.feed_mm)}"

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, state = pencil.px, self.session.job
        pencil.heading(px(4), px(6), "Feed window", "a turn, against nose radius")
        draw_feed_windows(
            pencil,
            area.adjusted(px(8), px(40), -px(12), -px(8)),
            bore.windows_of(state),
            state.boring.bar,
            self.session.show,
        )


class CutPage(StepPage):
    """Setting, layers, feed."""

    name, title = "cut", "Cut"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self.setting, self.layers, self.feed = (v(session, theme) for v in (SettingView, LayersView, FeedView))
        below, column = QHBoxLayout(), QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        below.addWidget(self.layers, 58)
        below.addWidget(self.feed, 42)
        column.addWidget(self.setting, 40)
        column.addLayout(below, 60)

    def advice(self) -> Advice:
        return bore_advice.advise(self.session.job, self.session.bench.cylinder, self.session.show, now())
