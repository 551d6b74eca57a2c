"""Gauge study: how well a gauge repeats, what the operator adds, its resolution, and the U that follows (methods 18).

Values in mm; standard deviations and expanded uncertainty (k = 2) in mm. Source: JCGM 100 (GUM); one-way analysis of
variance for the operators.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.core.late import np

LEAST_REPEATS = 5


@frozen
class StudyValue:
    """One reading of the study: who, which spot, what, mm."""

    operator: str
    spot: str
    value_mm: float


@frozen
class StudyResult:
    """What a study found. operator_sd_mm None: only one operator took part, so nothing is known of others.

    repeat_known_to: the standard deviation itself is only known to this share, from so few readings.
    """

    repeat_sd_mm: float
    freedom: int
    operator_sd_mm: float | None
    resolution_mm: float
    readings: int

    @property
    def reading_sd_mm(self) -> float:
        """Standard deviation of a single reading, of any operator who took part."""
        step = self.resolution_mm / math.sqrt(12.0)
        # Repeats of a coarse gauge that all show one digit prove no more than that digit: half a step either way, evenly, is step / sqrt(12).
        return math.sqrt(max(self.repeat_sd_mm, step) ** 2 + (self.operator_sd_mm or 0.0) ** 2)

    @property
    def repeat_known_to(self) -> float:
        """To which share the repeatability itself is known."""
        # Relative standard uncertainty of a standard deviation from few readings. Source: GUM, table E.1.
        return 1.0 / math.sqrt(2.0 * self.freedom)

    @property
    def expanded_u_mm(self) -> float:
        """U of a single reading against its own zero, k = 2; the master's own doubt comes on top."""
        return 2.0 * self.reading_sd_mm


def study(values: Sequence[StudyValue], resolution_mm: float) -> StudyResult:
    """Pool the repeats of each operator at each spot, and compare operators at the spots they share.

    resolution_mm: the gauge's last digit. Raises FitError with fewer than five repeats in all, or without a spot
    read more than once. Resolution and repeatability are not counted twice: the larger stands. Source: methods 18.
    """
    groups: dict[tuple[str, str], list[float]] = {}
    for v in values:
        if not math.isfinite(v.value_mm):
            raise FitError("A reading of the study is not a number; strike it and read again")
        # Pooled within one hand at one spot: what spots and hands differ by must not count as repeatability.
        groups.setdefault((v.operator, v.spot), []).append(v.value_mm)
    freedom = sum(len(g) - 1 for g in groups.values())
    if len(values) < LEAST_REPEATS or freedom < LEAST_REPEATS - 1:
        wanted = max(LEAST_REPEATS - len(values), LEAST_REPEATS - 1 - freedom)
        raise FitError(
            f"Repeatability needs {LEAST_REPEATS} readings of one spot; take {wanted} more without moving on"
        )
    # Sums of squares add up, standard deviations do not; each group weighs by its degrees of freedom.
    squares = sum(float(np.var(g)) * len(g) for g in groups.values())
    repeat = math.sqrt(squares / freedom)
    return StudyResult(repeat, freedom, _operator_sd(groups, repeat), resolution_mm, len(values))


def _operator_sd(groups: dict[tuple[str, str], list[float]], repeat_sd_mm: float) -> float | None:
    """Between operators at shared spots, with what mere repeatability would give taken out; None with one operator."""
    variances: list[tuple[float, int]] = []
    for spot in sorted({key[1] for key in groups}):
        rows = [g for key, g in groups.items() if key[1] == spot]
        if len(rows) > 1:
            means = np.array([np.mean(g) for g in rows])
            # Means of few readings scatter by repeatability alone; what is over that is the hands' own.
            noise = float(np.mean([repeat_sd_mm**2 / len(g) for g in rows]))
            variances.append((float(np.var(means, ddof=1)) - noise, len(rows) - 1))
    if not variances:
        return None
    total = sum(weight for _, weight in variances)
    return math.sqrt(max(0.0, sum(v * w for v, w in variances) / total))


def drift_sd_mm(drift_mm: float) -> float:
    """Standard deviation that a drift adds to readings between zero and check: anywhere up to it. GUM 4.3.7."""
    return abs(drift_mm) / math.sqrt(3.0)
