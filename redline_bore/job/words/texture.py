"""Figures of the finish as they are told: um or uin, by the units being looked at."""

from __future__ import annotations

from redline_bore.core.show import Show
from redline_bore.core.texture.parameters import PARAMETERS, Counted

UM_A_UIN = 0.0254


def texture_figure(value: float, show: Show, parameter: str = "") -> str:
    """A figure of the finish in the units being looked at: um or uin, without the unit; ratios and shapes as they are."""
    counted = PARAMETERS[parameter].counted if parameter else Counted.HEIGHT
    if counted is Counted.SHARE:
        return f"{value:.1f}"
    if counted is Counted.NOTHING:
        return f"{value:.2f}".replace("-", "−")
    if counted in (Counted.AREA, Counted.OIL):
        return f"{value:.4f}"
    return f"{value / UM_A_UIN:.1f}" if show.words == "inches" else f"{value:.2f}"


def texture_unit(show: Show) -> str:
    """The unit of the finish beside these lengths."""
    return "µin" if show.words == "inches" else "µm"
