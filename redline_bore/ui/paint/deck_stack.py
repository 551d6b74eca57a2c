"""The deck's heights as they were read, and the stack of flange, protrusion and counterbore."""

from __future__ import annotations

from PyQt6.QtCore import QRectF

from redline_bore.core.show import Show
from redline_bore.job.sleeve.deck import BankDeck, SeatPlan
from redline_bore.ui.paint.pencil import CENTRE, LEFT, MIDDLE, RIGHT, Pencil


def draw_deck_heights(pencil: Pencil, area: QRectF, deck: BankDeck, show: Show) -> None:
    """The places in their rows, front up; how high each stands over the lowest, and the cuts that level them."""
    px = pencil.px
    if deck.plan is None or deck.out_mm is None:
        told = "The deck was not read. M, then deck and the heights, rows from the front: deck 0 0.002 / 0.004 0.006."
        pencil.text(area, told, 15, "graphite", wrap=True)
        return
    flat = [h for row in deck.rows_mm for h in row]
    low, high = min(flat), max(flat)
    rows, columns = len(deck.rows_mm), len(deck.rows_mm[0])
    grid = QRectF(area.left() + px(10), area.top() + px(6), area.width() - px(20), area.height() * 0.56)
    wide, tall = grid.width() / columns, grid.height() / rows
    for r, row in enumerate(deck.rows_mm):
        for c, height in enumerate(row):
            cell = QRectF(grid.left() + wide * c, grid.top() + tall * r, wide, tall).adjusted(
                px(3), px(3), -px(3), -px(3)
            )
            share = (height - low) / (high - low) if high > low else 0.0
            pencil.rect(cell, "open", "graphite", alpha=0.10 + 0.55 * share)
            word = "lowest" if height == low else "highest" if height == high else ""
            pencil.text(
                cell.adjusted(0, 0, 0, -px(14 if word else 0)),
                show.away(height - low) if share else "0",
                17,
                "ink",
                True,
                CENTRE | MIDDLE,
            )
            if word:
                pencil.text(cell.adjusted(0, px(24), 0, 0), word, 12, "ink", align=CENTRE | MIDDLE)
    _cuts(
        pencil,
        QRectF(
            area.left() + px(10), grid.bottom() + px(18), area.width() - px(20), area.bottom() - grid.bottom() - px(22)
        ),
        deck,
        show,
    )


def _cuts(pencil: Pencil, r: QRectF, deck: BankDeck, show: Show) -> None:
    """The facing cuts one over another, to scale, the light last one at the bottom; what is off is struck through."""
    assert deck.plan is not None
    px, whole = pencil.px, max(deck.plan.cut_mm, 1e-9)
    state = "all off" if deck.done else f"{show.size(deck.to_face_mm)} still on"
    told = f"parallel to the mains: {show.size(deck.plan.cut_mm)}, {state}"
    pencil.text(QRectF(r.left(), r.top(), r.width(), px(20)), told, pencil.sized(told, r.width(), 14), "ink")
    y, left = r.top() + px(28), r.left()
    room = r.height() - px(34)
    for i, cut in enumerate(deck.plan.passes_mm, 1):
        high = max(room * cut / whole, px(16))
        bar = QRectF(left, y, r.width() * 0.5, high - px(2))
        off = sum(deck.plan.passes_mm[:i]) <= deck.faced_mm + 1e-6
        pencil.rect(bar, "iron" if not off else "sheet", "graphite")
        last = " · light" if i == len(deck.plan.passes_mm) and i > 1 else ""
        pencil.text(
            QRectF(bar.right() + px(10), y, r.width() * 0.5, high),
            f"{i}. {show.size(cut)}{last}",
            14,
            "graphite" if off else "ink",
            align=LEFT | MIDDLE,
        )
        if off:
            pencil.tick_mark(bar.left() + px(8), bar.center().y())
        y += high


def draw_seat_stack(pencil: Pencil, area: QRectF, seat: SeatPlan | None, show: Show) -> None:
    """A flange in its counterbore, depths magnified alike: what it stands proud, the proving cut, the depth."""
    px = pencil.px
    if seat is None:
        told = "No flange on this sleeve: it is left a little proud, and faced with the deck."
        pencil.text(area, told, 15, "graphite", wrap=True)
        return
    flange, depth = seat.sleeve.flange_mm or 0.0, seat.cut.depth_mm
    deck_y, scale = area.top() + area.height() * 0.24, area.height() * 0.56 / max(flange, 1e-6)
    magnify = 12.0  # protrusion and cuts would be hairlines at the flange's own scale
    left, middle = area.left() + px(10), area.left() + area.width() * 0.36
    bottom = deck_y + depth * scale
    pencil.rect(QRectF(left, deck_y, middle - left, area.bottom() - deck_y), "iron", "")
    pencil.hatch(QRectF(left, deck_y, middle - left, area.bottom() - deck_y), "rule", "")
    pencil.rect(QRectF(middle - px(110), deck_y, px(110), bottom - deck_y), "sheet", "graphite")
    proud = sum(seat.protrusion_mm) / 2.0
    top = deck_y - proud * scale * magnify
    pencil.rect(QRectF(middle - px(104), top, px(104), bottom - top), "tight", "ink", alpha=0.25)
    pencil.text(QRectF(middle - px(104), top, px(104), bottom - top), "flange", 14, "ink", True, CENTRE | MIDDLE)
    pencil.line(left, deck_y, area.right(), deck_y, "ink", 2.0)
    pencil.text(QRectF(left + px(4), deck_y - px(20), px(160), px(18)), "the deck that stays", 12, "graphite")
    at = middle + px(16)
    lines = [
        (top, f"{show.size(seat.protrusion_mm[0])}–{show.size(seat.protrusion_mm[1])} proud", True),
        (bottom, f"to {show.size(depth)} = {show.size(flange)} − {show.size(proud)}", True),
        (bottom - px(34), f"first cut: {show.size(seat.proving_mm)} only", False),
    ]
    for y, words, bold in lines:
        pencil.line(middle, y, at - px(4), y, "graphite", 1.2)
        pencil.text(
            QRectF(at, y - px(10), area.right() - at, px(20)),
            words,
            pencil.sized(words, area.right() - at - px(4), 14, bold),
            "ink" if bold else "graphite",
            bold,
        )
    now = "not measured yet" if seat.there_mm is None else f"{show.size(seat.there_mm)}, so {_now_words(seat, show)}"
    pencil.text(QRectF(at, deck_y + px(34), area.right() - at, px(44)), f"now {now}", 14, "ink", wrap=True)
    aside = QRectF(left, area.bottom() - px(20), area.width(), px(18))
    pencil.text(aside, "proud drawn × 12", 12, "graphite", align=RIGHT | MIDDLE)


def _now_words(seat: SeatPlan, show: Show) -> str:
    assert seat.stands_mm is not None
    if seat.cut.needs_shim:
        return f"{show.size(-seat.cut.to_cut_mm)} too deep: a shim, or another flange"
    return f"{show.size(seat.cut.to_cut_mm)} still to cut" if seat.cut.to_cut_mm > 5e-4 else "at depth"
