"""What a tight stretch under the hone asks for, in words."""

from __future__ import annotations

from redline_bore.core.show import Show
from redline_bore.job.hone.load import BesideGauge, Dwell, LoadPicture


def dwell_words(picture: LoadPicture, show: Show) -> str:
    """What to do there; empty where nothing is tight."""
    if picture.tight is None or picture.dwell is None:
        return ""
    return {
        Dwell.BOTTOM: "Dwell at the bottom, half a second a stroke, and look again.",
        Dwell.TOP: "Dwell at the top, and look again.",
        Dwell.SHORT_STROKES: f"Short strokes over {show.down(picture.tight.depth_mm)}.",
    }[picture.dwell]


def gauge_words(picture: LoadPicture, show: Show) -> str:
    """Whether the gauge sees the same place tight; empty where nothing is."""
    found, wall = picture.beside_gauge, picture.wall
    if found is BesideGauge.READ_THREE:
        return "Three depths by gauge would tell whether a tight load is a tight hole."
    if found is None or wall is None:
        return ""
    if found is BesideGauge.EVEN:
        return "The gauge finds no depth tighter than it can tell: a hard place, or chips under the stone."
    if found is BesideGauge.THERE_TOO:
        return f"The gauge finds it tight there too, by {show.size(max(wall.sizes_mm) - min(wall.sizes_mm))}."
    return f"The gauge finds it tight at {show.down(picture.tight_by_gauge_mm)} instead: a hard place, or chips under the stone."
