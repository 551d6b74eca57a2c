"""Hone: stock left against strokes, running down to the redline; the biggest figure on the screen is what is left."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.core.errors import InputError
from redline_bore.instruments.line_protocol import GaugeReading
from redline_bore.job import hone
from redline_bore.job.advice import Advice
from redline_bore.job.entries import HoneStepBegan, PracticeChosen
from redline_bore.job.practices import options
from redline_bore.job.typed import size_from_typed
from redline_bore.job.where import Where
from redline_bore.ui.paint.hole_across import draw_hole_across, stone_of
from redline_bore.ui.paint.pencil import Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.paint.stock_chart import draw_stock_chart
from redline_bore.ui.session import LEDGER, Session
from redline_bore.ui.steps.base import LineText, StepView
from redline_bore.ui.theme.theme import Theme

TOPICS = LEDGER | {"selection", "step"}


class StockView(Picture):
    topics = TOPICS

    def __init__(self, session: Session, theme: Theme):
        super().__init__(session, theme, "Stock left against strokes")

    def said(self) -> str:
        if self.session.state is None:
            return ""
        p = hone.progress_of(self.session.state, self.session.bench.cylinder)
        if p.left_mm is None:
            return f"Cylinder {p.cylinder}: stock left is not known"
        return f"{self.session.show.unit(self.session.show.size(p.left_mm))} left in cylinder {p.cylinder}"

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        state, px = self.session.job, pencil.px
        lines = [hone.progress_of(state, c) for c in state.cylinders]
        chosen = lines[self.session.bench.cylinder - 1]
        plate = "under the plate" if state.plate_on else "plate off"
        pencil.heading(
            px(4), px(6), "Stock left", f"{chosen.step_name} step, against double strokes, at 20 °C, {plate}"
        )
        draw_stock_chart(pencil, area.adjusted(0, px(34), 0, 0), lines, chosen.cylinder, self.session.show)
        if chosen.redline.size_mm is None or not chosen.checks:
            reason = (
                chosen.redline.missing if chosen.redline.size_mm is None else "book the first check: 0, then the size"
            )
            box = area.adjusted(px(120), px(90), -px(60), -px(150))
            pencil.text(box, f"Cylinder {chosen.cylinder}: {reason}.", 20, "graphite", wrap=True)


class SectionView(Picture):
    topics = TOPICS

    def __init__(self, session: Session, theme: Theme):
        super().__init__(session, theme, "In the hole: stone, overstroke and room below")

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        state, px = self.session.job, pencil.px
        pencil.heading(px(4), px(2), "In the hole", "to scale, deck at the left; stock left where it was checked")
        share, over = (state.figures.number(f"honing.{k}") for k in ("stone_share", "overstroke_share"))
        checks = state.checks_of(self.session.bench.cylinder)
        redline = hone.progress_of(state, self.session.bench.cylinder).redline.size_mm
        lefts = tuple(self.session.show.size(redline - s) for s in checks[-1].sizes_mm) if checks and redline else ()
        stone = stone_of(state.block, share, over)
        draw_hole_across(
            pencil, area.adjusted(0, px(30), 0, 0), state.block, state.travel, stone, lefts, self.session.show
        )


class HoneStep(StepView):
    """The hone step: books checks, goes from step to step."""

    name = "hone"
    reads = True
    topics = TOPICS

    def __init__(self, session: Session, theme: Theme):
        super().__init__(session, theme)
        self.stock, self.section = StockView(session, theme), SectionView(session, theme)
        column = QVBoxLayout(self)
        column.addWidget(self.stock, 64)
        column.addWidget(self.section, 36)

    def advice(self) -> Advice:
        return hone.advise(self.session.job, self.session.bench.cylinder, self.session.show)

    def line_text(self) -> LineText:
        p, show = hone.progress_of(self.session.job, self.session.bench.cylinder), self.session.show
        where = f"Cylinder {p.cylinder} · step {p.step + 1} of {len(p.practice.steps)}, {p.step_name} · goes to check {len(p.checks) + 1}"
        example = (
            show.size(p.redline.size_mm) if p.redline.size_mm is not None else show.size(self.session.job.block.bore_mm)
        )
        return LineText(
            where,
            f"Double strokes, then sizes from the top down: 42 {example}",
            "Enter books · Space reads · N next step",
            "—",
        )

    def entered(self, text: str) -> str:
        p = hone.progress_of(self.session.job, self.session.bench.cylinder)
        if text.strip() and p.redline.size_mm is None and len(text.split()) > 1:
            raise InputError(f"There is no redline yet: {p.redline.missing}. What you typed is kept")
        return super().entered(text)

    def take(self, reading: GaugeReading, typed: str) -> str:
        """A size from the gauge, to stand behind the strokes and the sizes read before."""
        bench = self.session.bench
        size = size_from_typed(
            f"{reading.from_zero_mm:+.5f}mm",
            self.session.job,
            Where(bench.cylinder, bench.place, bench.units, True, reading.body_c),
        )
        return f"{typed.rstrip()} {self.session.show.fine(size)} ".lstrip()  # a blank behind, so that Space reads on

    def next_step(self) -> str:
        """Go to the next step of the honing practice; strokes count from nought again."""
        p = hone.progress_of(self.session.job, self.session.bench.cylinder)
        if p.step >= len(p.practice.steps) - 1:
            raise InputError(f"{p.step_name.capitalize()} is the last step of this practice")
        self.session.book(HoneStepBegan(cylinder=p.cylinder, step=p.step + 1))
        return f"Cylinder {p.cylinder} goes to {p.practice.steps[p.step + 1]}; strokes count from nought."

    def next_practice(self) -> str:
        """Change the honing practice; recorded on the job, and only before the first check."""
        if self.session.job.checks:
            raise InputError(
                "The honing practice is kept once checks are booked: their steps would no longer mean the same"
            )
        names = [p.name for p in options("honing")]
        now = names.index(self.session.job.practice("honing"))
        chosen = options("honing")[(now + 1) % len(names)]
        self.session.book(PracticeChosen(topic="honing", name=chosen.name))
        return f"Honing by {chosen.title}: {chosen.reason}."
