"""The lines of a profilometer: ``trace begin 11201 0.5 um``, ``heights 0.363 0.388 ...`` until all are there, ``trace end``."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

from redline_bore.core.frozen import frozen

MOST_HEIGHTS = 400_000
A_LINE = 16
TO_UM = {"um": 1.0, "nm": 1e-3}


@frozen
class TraceReading:
    """A whole trace: step and heights in um, plus out of the metal."""

    step_um: float
    heights_um: tuple[float, ...]
    line: str


@frozen
class TraceBegins:
    """Heights to come, their step in um, and um to each of their units."""

    count: int
    step_um: float
    scale: float


@frozen
class TraceHeights:
    values: tuple[float, ...]


@frozen
class TraceEnds:
    pass


TracePart = TraceBegins | TraceHeights | TraceEnds


def parse_trace(words: Sequence[str]) -> TraceBegins | TraceEnds:
    """``begin 11201 0.5 um`` or ``end``. Raises ValueError with the reason."""
    if list(words) == ["end"]:
        return TraceEnds()
    if len(words) != 4 or words[0] != "begin" or words[3] not in TO_UM:
        raise ValueError("a trace begins with its count of heights, its step in µm, and um or nm")
    count, step = int(words[1]), float(words[2])
    if not 3 <= count <= MOST_HEIGHTS or not 0.0 < step < 1000.0:
        raise ValueError(f"a trace of {count} heights every {step:g} µm")
    return TraceBegins(count, step, TO_UM[words[3]])


def parse_heights(words: Sequence[str]) -> TraceHeights:
    """Heights of one line. Raises ValueError where one is no figure."""
    values = tuple(float(w) for w in words)
    if not values or not all(math.isfinite(v) for v in values):
        raise ValueError("a height that is no figure")
    return TraceHeights(values)


class TraceGatherer:
    """Gathers the heights of a trace under way."""

    def __init__(self, begun: TraceBegins) -> None:
        self.begun = begun
        self.values: list[float] = []

    def take(self, part: TraceHeights) -> str:
        """Take heights; the reason when they are too many."""
        self.values += part.values
        return "more heights than were announced" if len(self.values) > self.begun.count else ""

    def whole(self) -> TraceReading | str:
        """The trace, or the reason why it is none."""
        if len(self.values) != self.begun.count:
            return f"a trace with {len(self.values)} of {self.begun.count} heights"
        heights = tuple(v * self.begun.scale for v in self.values)
        return TraceReading(self.begun.step_um, heights, f"trace of {self.begun.count}")


def format_trace(step_um: float, heights_um: Sequence[float]) -> Iterator[str]:
    """A trace as its lines."""
    yield f"trace begin {len(heights_um)} {step_um:g} um"
    for i in range(0, len(heights_um), A_LINE):
        yield "heights " + " ".join(f"{z:.3f}" for z in heights_um[i : i + A_LINE])
    yield "trace end"
