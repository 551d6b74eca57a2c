"""A hole measured from the top down, and at the same places at a second angle: off the bar, and finished."""

from __future__ import annotations


class TwoAngles:
    """What the sizes of such a hole say, mm at 20 C. ``sizes_mm``: top to bottom; ``across_mm``: at a second angle, empty: not read."""

    sizes_mm: tuple[float, ...]
    across_mm: tuple[float, ...]

    @property
    def all_mm(self) -> tuple[float, ...]:
        """Every size read."""
        return (*self.sizes_mm, *self.across_mm)

    @property
    def largest_mm(self) -> float:
        """The size that meets the redline first."""
        return max(self.all_mm)

    @property
    def out_of_round_mm(self) -> float | None:
        """The most that two angles differ at one depth; None where nobody read across."""
        apart = [abs(a - b) for a, b in zip(self.sizes_mm, self.across_mm, strict=False)]
        return max(apart) if apart else None
