"""The block as it stands on the bench: plate on or off, how it is held down, how warm it is."""

from __future__ import annotations

from redline_bore.core.clamping import ClampSetUp
from redline_bore.core.frozen import frozen


@frozen
class Tightened:
    """The plate's fasteners were gone through in this order, at each of these torques in turn."""

    at: str
    person: str
    order: tuple[int, ...]
    torques_nm: tuple[float, ...]


@frozen
class Clamped:
    """The slice of plate and temperature. ``clamping``: pairs of plate or head, and how it is held down."""

    plate_on: bool = False
    block_c: float | None = None
    clamping: tuple[tuple[str, ClampSetUp], ...] = ()
    tightened: Tightened | None = None

    def held_down(self, part: str) -> ClampSetUp:
        """How the plate or the head is held down, as far as it was stated."""
        return dict(self.clamping).get(part, ClampSetUp())
