"""A trace as it came with its mean line, its roughness with the levels of its core, and the material-ratio curve beside it."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PyQt6.QtCore import QLineF, QRectF

from redline_bore.core.late import np
from redline_bore.core.show import Show
from redline_bore.core.texture.curve import curve_of
from redline_bore.core.texture.parameters import Texture
from redline_bore.job.words.texture import texture_figure, texture_unit
from redline_bore.ui.paint.pencil import CENTRE, LEFT, MIDDLE, RIGHT, Pencil, ticks

if TYPE_CHECKING:
    from numpy.typing import NDArray

    Array = NDArray[np.float64]


def draw_columns(
    pencil: Pencil, box: QRectF, heights: Array, start_share: float, end_share: float, y_of: Callable[[float], float],
    colour: str, width: float = 1.0,
) -> None:  # fmt: skip
    """A long row of heights over a stretch of a box: highest and lowest of each pixel column, as upright lines."""
    left, right = box.left() + start_share * box.width(), box.left() + end_share * box.width()
    columns = max(2, int(right - left))
    edges = np.linspace(0, len(heights), columns + 1).astype(int)[:-1]
    high, low = np.maximum.reduceat(heights, edges), np.minimum.reduceat(heights, edges)
    high[:-1], low[:-1] = (
        np.maximum(high[:-1], low[1:]),
        np.minimum(low[:-1], high[1:]),
    )  # columns touch their neighbours
    pencil.p.setPen(pencil.pen(colour, width))
    step = (right - left) / columns
    x = left + step * (np.arange(columns) + 0.5)
    lines = [
        QLineF(float(a), y_of(float(b)), float(a), y_of(float(c)) + 0.6) for a, b, c in zip(x, high, low, strict=True)
    ]
    pencil.p.drawLines(lines)  # type: ignore[call-overload]  # the stubs know only one line or several as arguments


def span_of(texture: Texture) -> tuple[float, float]:
    """Lowest and highest height of the two-pass profile with a little room, um."""
    z = texture.profile.family
    low, high = float(z.min()), max(float(z.max()), texture.family.upper)
    room = 0.08 * (high - low)
    return low - room, high + room


def draw_primary(pencil: Pencil, box: QRectF, texture: Texture, show: Show) -> None:
    """The levelled trace with its mean line; what one pass cuts off the ends is hatched."""
    px, p = pencil.px, texture.profile
    z, n = p.primary, len(p.primary)
    low, high = float(z.min()), float(z.max())
    room = 0.1 * max(high - low, 1e-6)

    def y_of(value: float) -> float:
        return box.bottom() - box.height() * (value - low + room) / (high - low + 2.0 * room)

    pencil.rect(box, "sheet", "rule")
    cut = p.cut_points / n
    for share in (0.0, 1.0 - cut):
        pencil.hatch(
            QRectF(box.left() + share * box.width(), box.top(), cut * box.width(), box.height()), "rule", "rule"
        )
    draw_columns(pencil, box, z, 0.0, 1.0, y_of, "graphite")
    inner = p.waviness[:: max(1, len(p.waviness) // 400)]
    x = np.linspace(box.left() + cut * box.width(), box.right() - cut * box.width(), len(inner))
    pencil.polyline([(float(a), y_of(float(b))) for a, b in zip(x, inner, strict=True)], "open", 1.8)
    form = "less its arc" if p.form_order == 2 else "levelled"
    told = f"as traced, {form}: {texture_figure(high - low, show)} {texture_unit(show)} high, {show.along(round((n - 1) * p.step_um / 1000, 1))}; line: waviness"
    above = QRectF(box.left(), box.top() - px(18), box.width(), px(16))
    pencil.text(above, pencil.fitted(told, box.width(), 12), 12, "graphite", align=LEFT | MIDDLE)
    pencil.label(
        box.right() - px(4), box.bottom() - px(9), f"{show.along(0.4)} cut", 12, "graphite", align=RIGHT, ground="sheet"
    )


def draw_roughness(
    pencil: Pencil, box: QRectF, texture: Texture, show: Show, axis: bool = True
) -> Callable[[float], float]:
    """The two-pass profile over its evaluated middle with the levels of the core; returns where a height lies."""
    px, f, z = pencil.px, texture.family, texture.profile.family
    low, high = span_of(texture)

    def y_of(value: float) -> float:
        return box.bottom() - box.height() * (value - low) / (high - low)

    pencil.rect(box, "sheet", "rule")
    unit = 0.0254 if show.words == "inches" else 1.0
    for value in ticks(low / unit, high / unit, 5):
        y = y_of(value * unit)
        pencil.line(box.left(), y, box.right(), y, "rule")
        if axis:
            pencil.label(box.left() - px(6), y, f"{value:g}".replace("-", "−"), 12, "graphite", align=RIGHT)
    core = QRectF(box.left(), y_of(f.upper), box.width(), y_of(f.lower) - y_of(f.upper))
    pencil.rect(core, "tight", alpha=0.10)
    draw_columns(pencil, box, z, 0.0, 1.0, y_of, "ink")
    for level in (f.upper, f.lower):
        pencil.line(box.left(), y_of(level), box.right(), y_of(level), "tight", 1.4, "dash")
    return y_of


def draw_curve(
    pencil: Pencil, box: QRectF, texture: Texture, y_of: Callable[[float], float], show: Show, named: bool = True
) -> None:
    """The material-ratio curve, its line through the flattest 40 %, the core, and both triangles of equal area."""
    px, f = pencil.px, texture.family
    mr, z = curve_of(texture.profile.family)

    def x_of(ratio: float) -> float:
        return box.left() + box.width() * ratio / 100.0

    pencil.rect(box, "sheet", "rule")
    for ratio in (20, 40, 60, 80):
        pencil.line(x_of(ratio), box.top(), x_of(ratio), box.bottom(), "rule")
    peak = [(x_of(0.0), y_of(f.upper + f.Rpk)), (x_of(f.Mr1), y_of(f.upper)), (x_of(0.0), y_of(f.upper))]
    valley = [(x_of(100.0), y_of(f.lower - f.Rvk)), (x_of(f.Mr2), y_of(f.lower)), (x_of(100.0), y_of(f.lower))]
    for corners in (peak, valley):
        pencil.polygon(corners, "open", "open", 0.22)
    pencil.polyline([(x_of(float(a)), y_of(float(b))) for a, b in zip(mr, z, strict=True)], "ink", 2.0)
    pencil.line(x_of(0.0), y_of(f.upper), x_of(100.0), y_of(f.lower), "tight", 1.4)
    start = f.window_start
    pencil.line(
        x_of(start),
        y_of(f.upper + f.slope * start),
        x_of(start + 40.0),
        y_of(f.upper + f.slope * (start + 40.0)),
        "tight",
        3.2,
    )
    for level in (f.upper, f.lower):
        pencil.line(box.left(), y_of(level), box.right(), y_of(level), "tight", 1.2, "dash")
    if not named:
        return
    _names(pencil, box, texture, x_of, y_of, show)
    for ratio in (0, 50, 100):
        pencil.label(
            x_of(ratio), box.bottom() + px(10), f"{ratio} %", 12, "graphite", align=(LEFT, CENTRE, RIGHT)[ratio // 50]
        )


def _names(
    pencil: Pencil,
    box: QRectF,
    texture: Texture,
    x_of: Callable[[float], float],
    y_of: Callable[[float], float],
    show: Show,
) -> None:
    px, f = pencil.px, texture.family
    for name, x, y, side in (
        ("Rpk", x_of(max(f.Mr1, 12.0)) + px(10), y_of(f.upper) - px(12), LEFT),
        ("Rk", x_of(max(f.Mr1, 12.0)) + px(10), y_of(f.lower) + px(12), LEFT),
        ("Rvk", x_of(f.Mr2) - px(8), y_of(f.lower - 0.55 * f.Rvk), RIGHT),
    ):
        pencil.label(x, y, f"{name} {texture_figure(getattr(f, name), show)}", 14, "ink", True, side)
    for name, ratio, y, side in (("Mr1", f.Mr1, box.top() + px(9), LEFT), ("Mr2", f.Mr2, box.bottom() - px(9), RIGHT)):
        pencil.line(x_of(ratio), box.top(), x_of(ratio), box.bottom(), "graphite", 1.0, "dot")
        away = px(4) if side is LEFT else -px(4)
        pencil.label(x_of(ratio) + away, y, f"{name} {ratio:.1f} %", 12, "graphite", align=side, ground="sheet")


def draw_together(
    pencil: Pencil, area: QRectF, texture: Texture, show: Show, share: float = 0.62, small: bool = False
) -> None:
    """Roughness and curve side by side on one height axis; ``small``: for a sheet, without captions."""
    px, foot = pencil.px, 4.0 if small else 20.0
    left = QRectF(area.left() + px(40), area.top(), (area.width() - px(40)) * share, area.height() - px(foot))
    right = QRectF(left.right() + px(10), left.top(), area.right() - left.right() - px(12), left.height())
    y_of = draw_roughness(pencil, left, texture, show)
    draw_curve(pencil, right, texture, y_of, show, not small)
    if small:
        return
    told = f"roughness, {texture_unit(show)}, middle {len(texture.profile.family) * texture.profile.step_um / 1000:.1f} mm; band: the core that carries"
    under = QRectF(left.left(), left.bottom() + px(2), left.width(), px(18))
    pencil.text(under, pencil.fitted(told, left.width()), 12, "graphite", align=LEFT | MIDDLE)
    if texture.family.Rk <= 0.0:
        flat = "no core: the line lies on a flat"
        pencil.label(left.center().x(), left.top() + px(12), flat, 12, "look", align=CENTRE, ground="sheet")
