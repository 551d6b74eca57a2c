"""Figures of the finish as they are told: um or uin, by the units being looked at."""

from __future__ import annotations

from redline_bore.job.advice import Show


def um(value: float) -> str:
    """A figure of the finish in um."""
    return f"{value:.2f}"


def texture_figure(value: float, show: Show, parameter: str = "") -> str:
    """A figure of the finish in the units being looked at: um or uin, without the unit; ratios and shapes as they are."""
    if parameter in ("Mr1", "Mr2", "Rmq"):
        return f"{value:.1f}"
    if parameter in ("Rsk", "Rku"):
        return f"{value:.2f}".replace("-", "−")
    if parameter in ("A1", "A2", "Vo"):
        return f"{value:.4f}"
    return f"{value / 0.0254:.1f}" if show.words == "inches" else um(value)


def texture_unit(show: Show) -> str:
    """The unit of the finish beside these lengths."""
    return "µin" if show.words == "inches" else "µm"
