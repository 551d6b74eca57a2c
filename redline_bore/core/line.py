"""The least-squares line through a few places, without an array."""

from __future__ import annotations

import math
from collections.abc import Sequence

from redline_bore.core.frozen import frozen


@frozen
class Line:
    """A line by the middle of what it goes through, and its slope."""

    x: float
    y: float
    slope: float

    def at(self, x: float) -> float:
        """Its height at x."""
        return self.y + self.slope * (x - self.x)


def line_through(x: Sequence[float], y: Sequence[float]) -> Line:
    """The least-squares line through n >= 2 places, two of them apart. Raises ZeroDivisionError where none are.

    >>> line_through([0.0, 1.0, 2.0], [1.0, 3.0, 5.0]).at(3.0)
    7.0
    """
    x0, y0 = math.fsum(x) / len(x), math.fsum(y) / len(y)
    square = math.fsum((a - x0) ** 2 for a in x)
    return Line(x0, y0, math.fsum((a - x0) * (b - y0) for a, b in zip(x, y, strict=True)) / square)
