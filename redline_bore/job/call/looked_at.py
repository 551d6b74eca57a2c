"""A call as it is looked at, before it is taken."""

from __future__ import annotations

from redline_bore.core.frozen import frozen
from redline_bore.job.state.calling import Apart


@frozen
class LookedAt:
    """The common size, mm over nominal, and the cylinders that leave it."""

    oversize_mm: float
    apart: tuple[Apart, ...]
