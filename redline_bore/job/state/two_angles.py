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
    def smallest_mm(self) -> float:
        """The size that meets the piston first."""
        return min(self.all_mm)

    @property
    def mean_mm(self) -> float:
        """The mean of every size read."""
        return sum(self.all_mm) / len(self.all_mm)

    @property
    def by_depth_mm(self) -> tuple[float, ...]:
        """The mean of the two angles at each depth, top to bottom; with one angle what was read."""
        if not self.across_mm:
            return self.sizes_mm
        return tuple((a + b) / 2.0 for a, b in zip(self.sizes_mm, self.across_mm, strict=True))

    @property
    def angles(self) -> int:
        """At how many angles it was read."""
        return 2 if self.across_mm else 1

    @property
    def both_ends(self) -> bool:
        """Read at three depths and more, at two angles: only so is anything known of its smallest and its largest place."""
        return len(self.sizes_mm) >= 3 and bool(self.across_mm)

    @property
    def out_of_round_mm(self) -> float | None:
        """The most that two angles differ at one depth; None where nobody read across."""
        apart = [abs(a - b) for a, b in zip(self.sizes_mm, self.across_mm, strict=False)]
        return max(apart) if apart else None
