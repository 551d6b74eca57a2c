"""Deck and counterbores: the deck that stays, and what is cut from it for each flange."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtWidgets import QHBoxLayout

from redline_bore.core.block import bank_of
from redline_bore.core.when import now
from redline_bore.job.card import Advice
from redline_bore.job.kinds.topics import LEDGER
from redline_bore.job.sleeve.deck import deck_of, seat_of
from redline_bore.job.words import sleeve as sleeve_advice
from redline_bore.ui.paint.deck_stack import draw_deck_heights, draw_seat_stack
from redline_bore.ui.paint.pencil import Pencil
from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.session import Session
from redline_bore.ui.steps.base import LineText
from redline_bore.ui.steps.page import StepPage
from redline_bore.ui.theme.theme import Theme
from redline_bore.ui.walls import Walls

TOPICS = LEDGER | {"selection", "step", "page"}


class HeightsView(Picture):
    """The deck of this cylinder's bank."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Deck heights")

    def said(self) -> str:
        if self.session.state is None:
            return ""
        deck = deck_of(self.session.state, bank_of(self.session.state.block, self.session.bench.cylinder))
        if deck.plan is None or deck.out_mm is None:
            return "the deck was not read"
        return f"out by {self.session.show.size(deck.out_mm)}, {self.session.show.size(deck.plan.cut_mm)} comes off"

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, state = pencil.px, self.session.job
        deck = deck_of(state, bank_of(state.block, self.session.bench.cylinder))
        pencil.heading(px(4), px(6), "Deck", f"over its lowest place, {self.session.show.units.mark}; front up")
        draw_deck_heights(pencil, area.adjusted(px(4), px(40), -px(8), -px(6)), deck, self.session.show)


class SeatView(Picture):
    """The counterbore of this cylinder's flange."""

    topics = TOPICS

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme, "Counterbore and flange")

    def said(self) -> str:
        seat = None if self.session.state is None else seat_of(self.session.state, self.session.bench.cylinder)
        return "no flange" if seat is None else f"counterbore {self.session.show.size(seat.cut.depth_mm)}"

    def draw(self, pencil: Pencil, area: QRectF) -> None:
        px, cylinder = pencil.px, self.session.bench.cylinder
        pencil.heading(px(4), px(6), f"Counterbore {cylinder}", "counted from the deck that stays")
        seat = seat_of(self.session.job, cylinder)
        draw_seat_stack(pencil, area.adjusted(px(4), px(40), -px(8), -px(6)), seat, self.session.show)


class DeckPage(StepPage):
    """The deck on the left, the stack on the right."""

    name, title = "deck", "Deck and counterbore"

    def __init__(self, session: Session, theme: Theme, walls: Walls) -> None:
        super().__init__(session, theme, walls)
        self.heights, self.seat = HeightsView(session, theme), SeatView(session, theme)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self.heights, 46)
        row.addWidget(self.seat, 54)

    def advice(self) -> Advice:
        return sleeve_advice.advise(self.session.job, self.session.bench.cylinder, self.session.show, "deck", now())

    def line_text(self) -> LineText | None:
        bank = bank_of(self.session.job.block, self.session.bench.cylinder) + 1
        return LineText(
            f"Deck of bank {bank} · cylinder {self.session.bench.cylinder}",
            "M, then deck and heights by rows, faced, counterbore, protrusion", "← → pick a cylinder", "—",
        )  # fmt: skip
