"""The true textures of the sample jobs, and a practice texture for any other wall."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from redline_bore.core.texture.packed import packed
from redline_bore.demo.writer import Writer
from redline_bore.instruments.simulated.true_texture import STEP_UM, TrueTexture
from redline_bore.job.finish.judgement import SPOTS, spots_of
from redline_bore.job.kinds.finish import TraceBooked

_KNOWN = {
    ("2036", 1): TrueTexture(0.58, 1.70, 60.0, takes_um=0.0150, fine_um=0.17),
    ("2036", 2): TrueTexture(0.60, 1.66, 58.0, takes_um=0.0156, fine_um=0.17),
    ("2029", 1): TrueTexture(0.70, 1.60, 62.0, takes_um=0.0150, fine_um=0.24),
    ("2029", 2): TrueTexture(0.71, 1.58, 60.0, takes_um=0.0146, fine_um=0.24),
    ("2029", 3): TrueTexture(0.69, 1.62, 61.0, takes_um=0.0158, fine_um=0.24),
    ("2029", 4): TrueTexture(0.70, 1.64, 64.0, takes_um=0.0152, fine_um=0.24),
}
_PRACTICE = TrueTexture(0.62, 2.4, 70.0, takes_um=0.0150, fine_um=0.15)


def true_texture(number: str, cylinder: int, strokes: float) -> TrueTexture:
    """The wall a simulated profilometer traces for a job, after so many plateau strokes."""
    return replace(_KNOWN.get((number, cylinder), _PRACTICE), strokes=strokes)


def texture_seed(number: str, cylinder: int, spot: int) -> int:
    """The place on the wall: another one for each job, cylinder and spot."""
    return sum(ord(c) for c in number) * 1000 + cylinder * 10 + spot


def trace_wall(w: Writer, number: str, cylinder: int, strokes: float, spots: Sequence[str]) -> None:
    """Trace a wall of a sample job at some spots."""
    depths = spots_of(w.state())
    for name in spots:
        spot = SPOTS.index(name)
        heights = true_texture(number, cylinder, strokes).trace(texture_seed(number, cylinder, spot))
        entry = TraceBooked(
            cylinder=cylinder, step_um=STEP_UM, heights=packed(heights), depth_mm=depths[spot], plateau_strokes=strokes
        )
        w.book(entry, 20.0, f"trace at {name}", 240.0)
