"""The stones that figures exist for, by their key: abrasive and grit."""

from __future__ import annotations

from redline_bore.core.figures import Figures


def stone_names(figures: Figures) -> tuple[str, ...]:
    """Every stone that figures exist for, as abrasive_grit."""
    return tuple(n.removesuffix("_rate") for n in figures.names("stones") if n.endswith("_rate"))


def stones_said(name: str) -> str:
    """A stone as it is said: vitrified 150."""
    return name.replace("_", " ")
