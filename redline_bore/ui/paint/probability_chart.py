"""The curve on probability paper with its two lines, and two walls of one Ra one above the other."""

from __future__ import annotations

from statistics import NormalDist

from PyQt6.QtCore import QRectF

from redline_bore.core.show import Show
from redline_bore.core.texture.parameters import Texture
from redline_bore.core.texture.probability import REACH_S, on_paper
from redline_bore.job.words.texture import texture_figure, texture_unit
from redline_bore.ui.paint.pencil import CENTRE, LEFT, MIDDLE, RIGHT, Pencil, ticks
from redline_bore.ui.paint.trace_chart import draw_columns

NORMAL = NormalDist()
RATIOS = (0.2, 1.0, 10.0, 30.0, 50.0, 70.0, 90.0, 99.0, 99.8)


def draw_paper(pencil: Pencil, area: QRectF, texture: Texture, show: Show) -> None:
    """Height against the ratio on a probability scale; the plateau's and the valleys' lines where there is a knee."""
    px, paper = pencil.px, texture.paper
    box = area.adjusted(px(44), 0, -px(8), -px(40))
    s, z = on_paper(texture.profile.family)
    low, high = float(z.min()), float(z.max())
    room = 0.08 * (high - low)

    def x_of(value: float) -> float:
        return box.left() + box.width() * (value - REACH_S[0]) / (REACH_S[1] - REACH_S[0])

    def y_of(value: float) -> float:
        return box.bottom() - box.height() * (value - low + room) / (high - low + 2.0 * room)

    pencil.rect(box, "sheet", "rule")
    unit = 0.0254 if show.words == "inches" else 1.0
    for value in ticks(low / unit, high / unit, 6):
        pencil.line(box.left(), y_of(value * unit), box.right(), y_of(value * unit), "rule")
        pencil.label(
            box.left() - px(6), y_of(value * unit), f"{value:g}".replace("-", "−"), 12, "graphite", align=RIGHT
        )
    for ratio in RATIOS:
        x = x_of(NORMAL.inv_cdf(ratio / 100.0))
        pencil.line(x, box.top(), x, box.bottom(), "rule")
        pencil.label(x, box.bottom() + px(11), f"{ratio:g}", 12, "graphite", align=CENTRE)
    pencil.text(
        QRectF(box.left(), box.bottom() + px(20), box.width(), px(18)),
        f"material ratio, % on a probability scale; heights in {texture_unit(show)}",
        12,
        "graphite",
        align=CENTRE | MIDDLE,
    )
    pencil.p.save()
    pencil.p.setClipRect(box)
    pencil.polyline([(x_of(float(a)), y_of(float(b))) for a, b in zip(s[::3], z[::3], strict=True)], "ink", 2.2)
    for line in (paper.plateau, paper.valleys):
        if line is not None:
            pencil.polyline([(x_of(v), y_of(line[1] + line[0] * v)) for v in REACH_S], "tight", 1.8, "dash")
    pencil.p.restore()
    if paper.Rmq is None:
        pencil.label(box.center().x(), box.top() + px(14), "no plain knee", 14, "look", True, CENTRE, "sheet")
        return
    knee = x_of(NORMAL.inv_cdf(paper.Rmq / 100.0))
    pencil.line(knee, box.top(), knee, box.bottom(), "graphite", 1.2, "dot")
    pencil.label(knee - px(6), box.bottom() - px(12), f"Rmq {paper.Rmq:.0f} %", 13, "ink", True, RIGHT, "sheet")
    named: tuple[tuple[str, float | None, float, float], ...] = (
        ("Rpq", paper.Rpq, box.left() + px(14), box.top() + px(34)), ("Rvq", paper.Rvq, box.left() + px(14), box.top() + px(56)),
    )  # fmt: skip
    for name, told, x, y in named:
        if told is not None:
            pencil.label(
                x, y, f"{name} {texture_figure(told, show)} {texture_unit(show)}", 13, "ink", True, LEFT, "sheet"
            )


def draw_twin(
    pencil: Pencil, area: QRectF, texture: Texture, words: str, span: tuple[float, float], show: Show
) -> None:
    """One of two walls of equal Ra, on a height scale that both share."""
    px, f = pencil.px, texture.family
    box = area.adjusted(px(8), px(22), -px(8), -px(24))
    low, high = span

    def y_of(value: float) -> float:
        return box.bottom() - box.height() * (value - low) / (high - low)

    pencil.text(QRectF(area.left() + px(8), area.top(), area.width() - px(16), px(20)), words, 13, bold=True)
    pencil.rect(box, "sheet", "rule")
    pencil.rect(QRectF(box.left(), y_of(f.upper), box.width(), y_of(f.lower) - y_of(f.upper)), "tight", alpha=0.12)
    draw_columns(pencil, box, texture.profile.family, 0.0, 1.0, y_of, "ink")
    told = ", ".join(f"{n} {texture_figure(texture.value(n) or 0.0, show)}" for n in ("Ra", "Rpk", "Rk", "Rvk"))
    pencil.text(
        QRectF(box.left(), box.bottom() + px(3), box.width(), px(18)),
        f"{told} {texture_unit(show)}",
        13,
        align=LEFT | MIDDLE,
    )
