"""A cut at the boring bar: speed, time, marks it leaves, the window it stands in, how stock is split (methods 8).

Lengths in mm, stock on diameter, depths of a pass on radius, feed in mm a turn.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from enum import Enum, StrEnum, auto
from typing import NamedTuple

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import frozen

LAST_SHARE, LEAST_LAST_MM = 0.7, 0.05  # the last pass: this share of an even one, never less than this a side
MARKS_DEEP = 6.0  # on diameter: torn layer and marks reach three times Rt a side
MOST_PASSES = 200


class FeedCall(StrEnum):
    """Where a feed stands against an insert's window."""

    RUBS = "rubs"
    IN_WINDOW = "in window"
    TOO_COARSE = "too coarse"


@frozen
class Cut:
    """What one cut does."""

    speed_m_per_min: float
    minutes: float
    rt_um: float
    allowance_needed_mm: float


def cut_of(bore_mm: float, feed_mm: float, nose_radius_mm: float, path_mm: float, rpm: float) -> Cut:
    """What one cut does.

    Speed at the wall, minutes over ``path_mm`` (length, approach and run-off), ideal roughness Rt = f^2 / (8 r), and
    the hone allowance on diameter that the marks and the torn layer need. Raises InputError on what cannot turn.

    >>> cut_of(80.0, 0.1, 0.4, 150.0, 300.0).minutes
    5.0
    """
    for name, value in (("bore", bore_mm), ("feed", feed_mm), ("nose radius", nose_radius_mm), ("speed", rpm)):
        if not (math.isfinite(value) and value > 0.0):
            raise InputError(f"The {name} has to be more than nought")
    rt = feed_mm**2 / (8.0 * nose_radius_mm)
    return Cut(math.pi * bore_mm * rpm / 1000.0, path_mm / (feed_mm * rpm), 1000.0 * rt, MARKS_DEEP * rt)


@frozen
class Window:
    """Speeds in turns a minute and feeds in mm a turn that an insert is meant for, at this bore."""

    rpm_low: float
    rpm_high: float
    feed_low_mm: float
    feed_high_mm: float

    @property
    def rpm_high_for_sleeve_parent(self) -> float:
        """A sleeve's seat is cut in the lower half of the window."""
        return (self.rpm_low + self.rpm_high) / 2.0

    def feed_call(self, feed_mm: float) -> FeedCall:
        """Where a feed stands, mm a turn; the ends of the window are inside it."""
        if feed_mm < self.feed_low_mm:
            return FeedCall.RUBS
        return FeedCall.IN_WINDOW if feed_mm <= self.feed_high_mm else FeedCall.TOO_COARSE


def window_at(
    bore_mm: float, reference_bore_mm: float, rpm: tuple[float, float], feed_mm: tuple[float, float]
) -> Window:
    """The window of an insert at a bore: turns scaled so that the surface speed is that of the reference bore."""
    if bore_mm <= 0.0 or reference_bore_mm <= 0.0:
        raise InputError("A bore has to be more than nought")
    scale = reference_bore_mm / bore_mm
    return Window(rpm[0] * scale, rpm[1] * scale, *feed_mm)


def window_by_speed(bore_mm: float, speed_m_per_min: tuple[float, float], feed_mm: tuple[float, float]) -> Window:
    """The window of an insert that is known by its surface speed, m/min, at a bore."""
    if bore_mm <= 0.0:
        raise InputError("A bore has to be more than nought")
    low, high = (1000.0 * v / (math.pi * bore_mm) for v in speed_m_per_min)
    return Window(low, high, *feed_mm)


def snapped_speed(wanted_rpm: float, steps_rpm: Sequence[float]) -> float:
    """The machine's step at or under the wanted turns a minute, its slowest where all are faster.

    As wanted where it has no steps.

    >>> snapped_speed(430.0, (200.0, 300.0, 400.0, 600.0))
    400.0
    """
    under = [s for s in steps_rpm if s <= wanted_rpm * (1.0 + 1e-9)]
    return max(under) if under else min(steps_rpm, default=wanted_rpm)


class ChatterBy(Enum):
    """What makes a bar sing, and with it what helps."""

    SLENDER = auto()  # a lower speed, or a thicker bar
    SLENDER_WITH_LARGE_NOSE = auto()  # a smaller nose, or a thicker bar
    RUBS = auto()  # a large nose fed so lightly: more feed, or a smaller nose


class Chatter(NamedTuple):
    """Why a bar would chatter. slender: how many times its thickness it reaches."""

    by: ChatterBy
    slender: float


def chatter_of(
    reach_mm: float, bar_mm: float, slender_most: float, large_nose: bool, feed_call: FeedCall
) -> Chatter | None:
    """Why a bar would chatter here; None where nothing says so. reach_mm: how far it stands out, bar_mm: how thick.

    A slender bar springs; a large nose fed too lightly rubs and makes it sing. Raises InputError. Source: job.md, methods 8.

    >>> chatter_of(300.0, 40.0, 4.5, False, FeedCall.IN_WINDOW).by.name
    'SLENDER'
    """
    if not (reach_mm > 0.0 and bar_mm > 0.0):
        raise InputError("How far the bar reaches and how thick it is have to be more than nought")
    slender = reach_mm / bar_mm
    if slender > slender_most:
        return Chatter(ChatterBy.SLENDER_WITH_LARGE_NOSE if large_nose else ChatterBy.SLENDER, slender)
    if large_nose and feed_call is FeedCall.RUBS:
        return Chatter(ChatterBy.RUBS, slender)
    return None


def split_passes(stock_mm: float, limit_mm: float) -> tuple[float, ...]:
    """Radial depths of the passes that take ``stock_mm`` off the diameter, mm.

    None is over ``limit_mm`` a side, the last is the lightest (0.7 of an even one, at least 0.05 mm). They add up to half
    the stock. Raises InputError. Source: methods 8.
    """
    if not (stock_mm > 0.0 and limit_mm > 0.0 and math.isfinite(stock_mm) and math.isfinite(limit_mm)):
        raise InputError("Stock and the deepest pass have to be more than nought")
    radial = stock_mm / 2.0
    count = max(math.ceil(radial / limit_mm - 1e-9), 1)
    while count <= MOST_PASSES:
        passes = even_passes(radial, count)
        if max(passes) <= limit_mm * (1.0 + 1e-9):
            return passes
        count += 1
    raise InputError(f"More than {MOST_PASSES} passes: the deepest pass of {limit_mm:g} mm is too small for this stock")


def even_passes(radial_mm: float, count: int) -> tuple[float, ...]:
    """``count`` passes on radius, the last the lightest and the rest even, whatever the limit."""
    if count == 1:
        return (radial_mm,)
    last = min(max(LAST_SHARE * radial_mm / count, LEAST_LAST_MM), radial_mm / count)
    return (*([(radial_mm - last) / (count - 1)] * (count - 1)), last)


def settings_in_counts(last_setting_mm: float, passes_mm: Sequence[float], least_count_mm: float) -> tuple[float, ...]:
    """The setting of each pass, mm on diameter.

    Whole counts of the setting micrometer, the last as given (itself a whole count). Passes, on radius, are
    rounded so that earlier settings are never larger than the exact ones. Raises InputError.
    """
    if not least_count_mm > 0.0:
        raise InputError("The least count of the setting micrometer has to be more than nought")
    last = round(last_setting_mm / least_count_mm)
    found, behind = [last], 0.0
    for depth in reversed(passes_mm[1:]):
        behind += 2.0 * depth
        found.append(last - math.ceil(behind / least_count_mm - 1e-6))
    return tuple(count * least_count_mm for count in reversed(found))
