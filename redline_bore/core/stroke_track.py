"""Size and rate of a hole at the hone, followed together; and how many strokes it may have next.

Diameters in mm at 20 C, strokes are double strokes. A Kalman filter over the checks of a step: the rate drifts from bite to
bite and scatters inside one, so that new stones that bed in and stones that glaze are followed. A bite is bounded by its tail:
bites add up. Proven by campaigns of simulated blocks. Source: methods 12; Kalman 1960 (J. Basic Eng. 82).
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

from redline_bore.core.frozen import frozen

MOST_STROKES = 100_000
LEAST_SHARE = 0.2  # of what was expected: a few noisy checks make no stones dull
TINY_SHARE = 1e-3  # a rate never falls to nought
MOST_LOG_SD = 0.7  # nobody knows less of a rate than its starting point
LEARNED_FROM = 8  # bites that have been seen, before the scatter is taken from them


@frozen
class TrackRules:
    """How a rate behaves. drift: log sd of the rate from bite to bite; scatter: of what a bite takes; bite_scatter: the least
    that counts in a bite to come; tail and interval: how many sd a bite and the told interval stand off."""

    drift: float
    scatter: float
    bite_scatter: float
    tail: float
    interval: float


@frozen
class Track:
    """Mean size in mm, rate in mm of diameter a double stroke, and their covariance (mm2, mm2 a stroke, mm2 a stroke2)."""

    mean_mm: float
    rate_mm: float
    var_mean: float
    cov: float
    var_rate: float

    @property
    def sd_mm(self) -> float:
        """Standard deviation of the mean size, mm."""
        return math.sqrt(self.var_mean)

    @property
    def rate_log_sd(self) -> float:
        """Standard deviation of the rate as a share of it; never more than that of a starting point."""
        return min(math.sqrt(self.var_rate) / self.rate_mm, MOST_LOG_SD)


@frozen
class Seen:
    """A check: double strokes so far in the step, mean of its places in mm, variance of that mean in mm2.

    changed: log sd by which the rate may have changed before this bite (other stones, another load), factor: by what it did. fresh: the
    stones were dressed or changed before it, and what they had come to says nothing any more.
    """

    strokes: float
    mean_mm: float
    var_mean: float
    changed: float = 0.0
    factor: float = 1.0
    fresh: bool = False


def begun(mean_mm: float, var_mean: float, rate_mm: float, log_sd: float) -> Track:
    """The track at the first check of a step: a rate that is expected, with its spread.

    >>> begun(92.0, 1e-6, 0.002, 0.5).var_rate
    1e-06
    """
    return Track(mean_mm, rate_mm, var_mean, 0.0, (log_sd * rate_mm) ** 2)


def advanced(track: Track, strokes: float, rules: TrackRules, changed: float = 0.0, factor: float = 1.0) -> Track:
    """After ``strokes`` more, before they are measured. Nothing changes over no strokes."""
    if strokes <= 0.0:
        return track
    r = track.rate_mm * factor
    var_rate = factor**2 * track.var_rate + (math.hypot(rules.drift, changed) * r) ** 2
    cov = factor * track.cov
    var_mean = track.var_mean + 2.0 * strokes * cov + strokes**2 * var_rate + (rules.scatter * r * strokes) ** 2
    return Track(track.mean_mm + r * strokes, r, var_mean, cov + strokes * var_rate, var_rate)


def faster(track: Track, factor: float) -> Track:
    """The same size, every double stroke taking ``factor`` times as much from here on."""
    return Track(track.mean_mm, factor * track.rate_mm, track.var_mean, factor * track.cov, factor**2 * track.var_rate)


def renewed(track: Track, rate_mm: float, log_sd: float) -> Track:
    """The same size, the stones dressed: their rate may be what was expected of them at first, or what it was, whichever is more."""
    rate = max(track.rate_mm, rate_mm)
    return Track(track.mean_mm, rate, track.var_mean, 0.0, (log_sd * rate) ** 2)


def measured(track: Track, mean_mm: float, var_mean: float, least_rate_mm: float = 0.0) -> Track:
    """After a check of ``mean_mm`` with its variance, mm2; the rate is held at the least it may be."""
    total = track.var_mean + var_mean
    if total <= 0.0:
        return track
    gain, gain_rate, off = track.var_mean / total, track.cov / total, mean_mm - track.mean_mm
    rate = max(track.rate_mm + gain_rate * off, TINY_SHARE * track.rate_mm, least_rate_mm)
    return Track(
        track.mean_mm + gain * off, rate, track.var_mean * (1.0 - gain), track.cov * (1.0 - gain),
        max(track.var_rate - gain_rate * track.cov, 0.0),
    )  # fmt: skip


def followed(checks: Sequence[Seen], rate_mm: float, log_sd: float, rules: TrackRules) -> Track:
    """The track through the checks of a step, at least one, strokes growing; two at one count are two looks at one size.

    rate_mm, log_sd: what is expected of the rate before any was seen.
    """
    track = begun(checks[0].mean_mm, checks[0].var_mean, rate_mm, log_sd)
    for before, check in zip(checks, checks[1:], strict=False):
        track = renewed(track, rate_mm, log_sd) if check.fresh else track
        track = _on(track, check, check.strokes - before.strokes, rules, LEAST_SHARE * rate_mm)
    return track


def _on(track: Track, check: Seen, strokes: float, rules: TrackRules, least_rate_mm: float) -> Track:
    """Through one more check. One at the same count that differs by more than the gauge can is of a hole that was changed otherwise,
    by short strokes: its size counts from there."""
    if strokes <= 0.0 and (check.mean_mm - track.mean_mm) ** 2 > 9.0 * (track.var_mean + check.var_mean):
        return Track(check.mean_mm, track.rate_mm, check.var_mean, 0.0, track.var_rate)
    ahead = advanced(track, strokes, rules, check.changed, check.factor)
    return measured(ahead, check.mean_mm, check.var_mean, least_rate_mm)


def scatter_seen(checks: Sequence[Seen], rate_mm: float, log_sd: float, rules: TrackRules) -> float | None:
    """Log sd of what a bite took against what was expected of it, gauge taken off; None before eight bites were seen."""
    track, found = begun(checks[0].mean_mm, checks[0].var_mean, rate_mm, log_sd), []
    for i, (before, check) in enumerate(zip(checks, checks[1:], strict=False)):
        strokes = check.strokes - before.strokes
        track = renewed(track, rate_mm, log_sd) if check.fresh else track
        ahead = advanced(track, strokes, rules, check.changed, check.factor)
        took = ahead.rate_mm * strokes
        if i > 0 and took > 0.0 and not check.fresh:  # the first bite only finds the rate
            expected = check.var_mean + ahead.var_mean - (rules.scatter * took) ** 2
            found.append(((check.mean_mm - ahead.mean_mm) ** 2 - expected) / took**2)
        track = measured(ahead, check.mean_mm, check.var_mean)
    if len(found) < LEARNED_FROM:
        return None
    return min(math.sqrt(max(sum(found) / len(found), 0.0)), MOST_LOG_SD)  # stones that stopped cutting are no scatter


@frozen
class Room:
    """What a bite has before it, mm of diameter: the mean to its aim, the largest place to the ceiling; u_mm: U of a size, k = 2.

    mean_to_limit_mm: the mean to where it would be past; None: the ceiling alone holds. lead_grows: by which share of a bite the largest
    place may take more than the mean.
    """

    to_aim_mm: float
    to_ceiling_mm: float
    u_mm: float
    mean_to_limit_mm: float | None = None
    lead_grows: float = 0.0


def bite(track: Track, room: Room, rules: TrackRules) -> int:
    """The largest whole number of double strokes that is safe: by the likely rate the mean stays under its aim, and in all but
    one in 2,000 the largest place stays under the ceiling. Nought: no whole stroke is.

    >>> rules = TrackRules(0.06, 0.13, 0.18, 3.3, 1.5)
    >>> bite(begun(92.0, 1e-6, 0.002, 0.65), Room(0.1, 0.104, 0.004), rules)
    5
    >>> bite(begun(92.0, 1e-6, 0.002, 0.10), Room(0.1, 0.104, 0.004), rules)
    25
    """
    return _largest(lambda s: track.rate_mm * s <= room.to_aim_mm and over_at(track, s, room, rules) <= 0.0)


def over_at(track: Track, strokes: float, room: Room, rules: TrackRules) -> float:
    """By how much the tail of a bite reaches over what it may, mm; minus is under it. It grows with the strokes."""
    took = track.rate_mm * strokes
    sigma = math.sqrt(track.rate_log_sd**2 + rules.drift**2 + rules.bite_scatter**2)
    steep = max(took * math.expm1(rules.tail * sigma), rules.tail * strokes * math.sqrt(track.var_rate))
    reach = math.hypot(steep, rules.tail * math.sqrt(track.var_mean + (room.u_mm / 2.0) ** 2))
    over = (1.0 + room.lead_grows) * took + reach - room.to_ceiling_mm
    return over if room.mean_to_limit_mm is None else max(over, took + reach - room.mean_to_limit_mm)


def _largest(safe: Callable[[int], bool]) -> int:
    """The largest whole number for which ``safe`` holds, 0 to MOST_STROKES; it must hold up to a number and not beyond."""
    low, high = 0, 1
    while high <= MOST_STROKES and safe(high):
        low, high = high, 2 * high
    high = min(high, MOST_STROKES + 1)
    while high - low > 1:
        middle = (low + high) // 2
        low, high = (middle, high) if safe(middle) else (low, middle)
    return low


@frozen
class Between:
    """Double strokes to an aim, 90 %: rounded outward. ``most`` None: it may be that nothing comes off."""

    least: int
    likely: float
    most: int | None


def strokes_between(track: Track, to_aim_mm: float, least_to_aim_mm: float, u_mm: float, rules: TrackRules) -> Between:
    """How many double strokes bring the mean to its aim. least_to_aim_mm: the nearer aim, were all doubts against it.

    Source: methods 12 (the tail of a bite with z = 1.5 and U/4).
    """
    z = rules.interval
    sigma = math.sqrt(track.rate_log_sd**2 + rules.drift**2 + rules.bite_scatter**2)
    quick, slow = math.exp(z * sigma), math.exp(-z * sigma)
    doubt = z * math.sqrt(track.var_mean + (u_mm / 4.0) ** 2)

    def reached(strokes: float) -> float:
        took = track.rate_mm * strokes
        return took + math.hypot(took * (quick - 1.0), doubt)

    least = _largest(lambda s: reached(s) <= least_to_aim_mm)
    likely = max(to_aim_mm, 0.0) / track.rate_mm
    most = None
    # took - hypot(took (1 - slow), doubt) = to_aim, a quadratic in what is taken
    a, b, c = 1.0 - (1.0 - slow) ** 2, -2.0 * to_aim_mm, to_aim_mm**2 - doubt**2
    root = b * b - 4.0 * a * c
    if root >= 0.0:
        strokes = (-b + math.sqrt(root)) / (2.0 * a) / track.rate_mm
        most = max(math.ceil(strokes), least) if strokes <= MOST_STROKES else None
    return Between(least, likely, most)
