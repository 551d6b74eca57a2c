"""Wall left after a cut, from ultrasonic readings (methods 6). All on radius, mm; no reading is unknown, never fine."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from redline_bore.core.frozen import frozen


@frozen
class WallSpot:
    """A wall thickness read at a clock angle (deg) and depth (mm), where the wall lies ``radius_mm`` from the axis."""

    clock_deg: float
    depth_mm: float
    wall_mm: float
    radius_mm: float
    zone: str


def wall_after(
    spots: Sequence[WallSpot], new_diameter_mm: float, axis_x_mm: float = 0.0, axis_y_mm: float = 0.0
) -> list[float]:
    """Wall in mm left at each spot after boring to ``new_diameter_mm`` about an axis moved by (x, y) mm.

    x points to clock 0, y to 90. Where the tool misses, nothing is taken. Source: methods 6.

    >>> [round(v, 2) for v in wall_after([WallSpot(90.0, 40.0, 6.0, 46.0, "thrust")], 92.5)]
    [5.75]
    """
    left = []
    for spot in spots:
        t = np.deg2rad(spot.clock_deg)
        along = axis_x_mm * np.cos(t) + axis_y_mm * np.sin(t)
        aside = -axis_x_mm * np.sin(t) + axis_y_mm * np.cos(t)
        reach = along + np.sqrt(max((new_diameter_mm / 2.0) ** 2 - aside**2, 0.0))
        left.append(float(spot.wall_mm - max(0.0, reach - spot.radius_mm)))
    return left


def largest_diameter(
    spots: Sequence[WallSpot], limit_by_zone_mm: dict[str, float], axis_x_mm: float = 0.0, axis_y_mm: float = 0.0
) -> float | None:
    """The largest bore in mm, about an axis moved by (x, y) mm, that leaves every spot its zone's limit.

    None: nothing read. Source: methods 6, solved for the diameter.
    """
    sizes = []
    for spot in spots:
        if spot.zone not in limit_by_zone_mm:
            continue
        t, reach = np.deg2rad(spot.clock_deg), spot.radius_mm + spot.wall_mm - limit_by_zone_mm[spot.zone]
        along = axis_x_mm * np.cos(t) + axis_y_mm * np.sin(t)
        aside = -axis_x_mm * np.sin(t) + axis_y_mm * np.cos(t)
        sizes.append(2.0 * float(np.hypot(max(reach - along, 0.0), aside)))
    return min(sizes) if sizes else None
