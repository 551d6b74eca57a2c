"""Stock left against strokes, running down to the redline; the biggest figure on the screen is what is left."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtWidgets import QVBoxLayout

from redline_bore.core.block import room_below
from redline_bore.job.card import Advice
from redline_bore.job.hone import progress as hone
from redline_bore.job.hone.set_up import kinematics_of, stone_mm
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.words import hone as hone_advice
from redline_bore.job.words.missing import say_missing
from redline_bore.ui.paint.hole_across import Stone, draw_hole_across, stone_of
from redline_bore.ui.paint.pencil import RIGHT, Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.paint.stock_chart import draw_stock_chart
from redline_bore.ui.session import Session
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls

TOPICS = LEDGER | {"selection", "step", "page"}


class StockView(Picture):
    """Stock left of every cylinder, with the projection of the one looked at."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme) -> None:
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
        plate = "under the plate" if state.clamped.plate_on else "plate off"
        pencil.heading(
            px(4),
            px(6),
            "Stock left",
            f"{chosen.step_name} step, against double strokes, at {self.session.show.reference}, {plate}",
        )
        draw_stock_chart(pencil, area.adjusted(0, px(34), 0, 0), lines, chosen.cylinder, self.session.show)
        if chosen.redline.size_mm is None or not chosen.checks:
            reason = (
                say_missing(chosen.redline.missing)
                if chosen.redline.size_mm is None
                else "book the first check: 0, then the size"
            )
            box = area.adjusted(px(120), px(112), -px(48), -px(150))
            text = f"Cylinder {chosen.cylinder}: {reason}."
            size = next((s for s in (20, 17, 14) if pencil.width_of(text, s) < box.width()), 11)
            # at the right above, where what is honed away leaves room
            pencil.label(box.right(), box.top(), text, size, "graphite", align=RIGHT, ground="sheet", crowd=False)


class SectionView(Picture):
    """The hole lying down, to scale: stone at both turn-rounds, and while it moves, where it is."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "In the hole: stone, overstroke and room below")
        self.share: float | None = None  # where a moving stone is, 0 at the top turn-round to 1 at the lower

    def stone(self) -> Stone:
        """The stone as it is set, else by starting points."""
        state = self.session.job
        k = kinematics_of(state)
        if k.stroke is not None:
            return Stone(stone_mm(state), k.stroke.over_top_mm, k.stroke.over_bottom_mm, True)
        share, over, kept = (
            state.figures.number(f"honing.{k}") for k in ("stone_share", "overstroke_share", "room_margin")
        )
        return stone_of(state.block, share, over, kept)

    def said(self) -> str:
        if self.session.state is None:
            return ""
        show, stone, room = self.session.show, self.stone(), room_below(self.session.job.block)
        below = "room below not known" if room is None else f"{show.unit(show.depth(room))} of room below"
        set_ = "as set" if stone.is_set else "by starting points"
        return (
            f"Stone {show.unit(show.depth(stone.length_mm))} long, out {show.depth(stone.wanted_mm)} at the deck and "
            f"{show.unit(show.depth(stone.out_mm))} below, {set_}; {below}"
        )

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        state, px = self.session.job, pencil.px
        pencil.heading(px(4), px(2), "In the hole", "to scale, deck at the left; stock left where it was checked")
        checks = state.honing.checks_of(self.session.bench.cylinder)
        redline = hone.progress_of(state, self.session.bench.cylinder).redline.size_mm
        lefts = tuple(self.session.show.size(redline - s) for s in checks[-1].sizes_mm) if checks and redline else ()
        draw_hole_across(
            pencil, area.adjusted(0, px(30), 0, 0), state.block, state.travel, self.stone(), lefts, self.session.show,
            self.share,
        )  # fmt: skip


class StockPage(StepPage):
    """Checks run down to the redline."""

    name, title = "stock", "Stock left"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self.stock, self.section = StockView(session, theme), SectionView(session, theme)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.stock, 64)
        column.addWidget(self.section, 36)

    def advice(self) -> Advice:
        return hone_advice.advise(self.session.job, self.session.bench.cylinder, self.session.show)
