"""The layers of a cut, a side: the wall as it is, each pass, what the hone gets, the redline."""

from __future__ import annotations

from PyQt6.QtCore import QRectF

from redline_bore.core.show import Show
from redline_bore.job.bore.plan import BorePlan
from redline_bore.job.words.missing import say_missing
from redline_bore.ui.paint.pencil import CENTRE, MIDDLE, Pencil


def draw_cut_layers(pencil: Pencil, area: QRectF, plan: BorePlan, show: Show, marks_mm: float | None = None) -> None:
    """Draw the layers from left (the hole) to right (the wall), to scale with each other.

    marks_mm: how deep the bar's marks and the torn layer reach, a side; drawn into what the hone gets.
    """
    px = pencil.px
    if plan.target_mm is None or plan.redline_mm is None or not plan.passes_mm:
        pencil.text(area, f"{say_missing(plan.missing).capitalize()}.", 15, "graphite", wrap=True)
        return
    hone = (plan.redline_mm - plan.target_mm) / 2.0
    layers = [(p, f"{i}", "iron") for i, p in enumerate(plan.passes_mm, 1)] + [(hone, "hone", "sheet")]
    whole = sum(depth for depth, _, _ in layers)
    box = QRectF(area.left() + px(50), area.top() + px(10), area.width() - px(110), area.height() - px(80))
    x = box.left()
    pencil.rect(QRectF(area.left(), box.top(), px(50), box.height()), "paper", "rule")
    pencil.text(QRectF(area.left(), box.top(), px(50), box.height()), "hole", 12, "graphite", align=CENTRE | MIDDLE)
    for i, (depth, name, fill) in enumerate(layers):
        layer = QRectF(x, box.top(), box.width() * depth / whole, box.height())
        pencil.rect(layer, fill, "graphite")
        word = name if name == "hone" else f"pass {name}"
        if layer.width() > pencil.width_of(word, 13) + px(6):
            pencil.text(layer, word, 13, "ink", align=CENTRE | MIDDLE)
        y = box.bottom() + px(14 if i % 2 == 0 else 34)
        pencil.label(layer.center().x(), y, show.size(depth), 13, "ink", align=CENTRE)
        x = layer.right()
    if marks_mm is not None:
        _marks(pencil, box, x, box.width() * hone / whole, marks_mm / hone)
    pencil.rect(QRectF(x, box.top(), area.right() - x, box.height()), "iron", "rule")
    pencil.hatch(QRectF(x, box.top(), area.right() - x, box.height()))
    pencil.line(x, box.top() - px(6), x, box.bottom() + px(48), "redline", 3.0)
    pencil.label(x - px(4), box.bottom() + px(58), show.size(plan.redline_mm), 13, "redline", True, CENTRE, crowd=False)


def _marks(pencil: Pencil, box: QRectF, redline_x: float, hone_px: float, share: float) -> None:
    """The bar's marks, in what is left for the hone; past the redline they would stay in the finished wall."""
    px = pencil.px
    left = redline_x - hone_px
    wide = hone_px * share
    band = QRectF(left, box.top(), wide, px(26))
    pencil.rect(band, "look_ground", "look")
    count = max(int(band.width() / px(5)), 1)
    for i in range(count):
        x = left + wide * (i + 0.5) / count
        pencil.line(x, band.top() + px(3), x, band.bottom() - px(3), "look", 1.0)
    key = QRectF(box.left(), box.bottom() + px(52), px(14), px(14))
    pencil.rect(key, "look_ground", "look")
    words = QRectF(key.right() + px(8), key.top() - px(2), px(260), px(18))
    pencil.text(words, "marks and torn layer", 12, "graphite")
