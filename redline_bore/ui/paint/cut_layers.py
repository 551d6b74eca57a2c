"""The layers of a cut, a side: the wall as it is, each pass, what the hone gets, the redline."""

from __future__ import annotations

from PyQt6.QtCore import QRectF

from redline_bore.job.advice import Show
from redline_bore.job.bore import BorePlan
from redline_bore.ui.paint.pencil import CENTRE, MIDDLE, Pencil


def draw_cut_layers(pencil: Pencil, area: QRectF, plan: BorePlan, show: Show) -> None:
    """Draw the layers from left (the hole) to right (the wall), to scale with each other."""
    px = pencil.px
    if plan.target_mm is None or plan.redline_mm is None or not plan.passes_mm:
        pencil.text(area, f"{plan.missing[:1].upper()}{plan.missing[1:]}.", 15, "graphite", wrap=True)
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
    pencil.rect(QRectF(x, box.top(), area.right() - x, box.height()), "iron", "rule")
    pencil.hatch(QRectF(x, box.top(), area.right() - x, box.height()))
    pencil.line(x, box.top() - px(6), x, box.bottom() + px(48), "redline", 3.0)
    pencil.label(x - px(4), box.bottom() + px(58), show.size(plan.redline_mm), 13, "redline", True, CENTRE, crowd=False)
