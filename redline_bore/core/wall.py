"""Wall left after a cut, from ultrasonic readings (methods 6). All on radius, mm; no reading is unknown, never fine."""

from __future__ import annotations

import math
from collections.abc import Sequence

from redline_bore.core.frozen import frozen
from redline_bore.core.late import np
from redline_bore.core.worked_out import worked_out


@frozen(often=True)
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
        t = math.radians(spot.clock_deg)
        # The new circle stands about the moved axis; along is how far it came towards this spot, aside how far past it. Its edge in the spot's
        # direction, measured from the old axis, is where a ray from the old centre leaves the circle.
        along = axis_x_mm * math.cos(t) + axis_y_mm * math.sin(t)
        aside = -axis_x_mm * math.sin(t) + axis_y_mm * math.cos(t)
        reach = along + math.sqrt(max((new_diameter_mm / 2.0) ** 2 - aside**2, 0.0))
        # The wall is lost from the present surface outwards; where the tool passes inside it nothing is cut, so no wall is gained either.
        left.append(spot.wall_mm - max(0.0, reach - spot.radius_mm))
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
        # How far out from the old axis may be cut here; the circle about the moved axis that just reaches that point is the largest for this spot.
        t, reach = math.radians(spot.clock_deg), spot.radius_mm + spot.wall_mm - limit_by_zone_mm[spot.zone]
        along = axis_x_mm * math.cos(t) + axis_y_mm * math.sin(t)
        aside = -axis_x_mm * math.sin(t) + axis_y_mm * math.cos(t)
        sizes.append(2.0 * math.hypot(max(reach - along, 0.0), aside))
    return min(sizes) if sizes else None


@frozen
class WallRow:
    """A depth at which the wall was read all round: clock angles (deg), thickness (mm), and the radius of the hole there, mm."""

    depth_mm: float
    clock_deg: tuple[float, ...]
    wall_mm: tuple[float, ...]
    radius_mm: float


def outside_round(row: WallRow, clock_deg: Sequence[float]) -> list[float]:
    """Distance of the outside from the hole's own centre at clock angles, mm: the first harmonic of what was read, carried round.

    Four sides carry it; fewer raise ValueError from the fit. Source: methods 6.

    >>> row = WallRow(40.0, (0.0, 90.0, 180.0, 270.0), (5.0, 4.0, 5.0, 6.0), 46.0)
    >>> [round(v, 3) for v in outside_round(row, [90.0, 270.0])]
    [50.0, 52.0]
    """
    if len(row.clock_deg) < 3:
        raise ValueError("the first harmonic wants three sides at the least")
    mean, cos, sin = _first_harmonic(tuple(map(float, row.clock_deg)), tuple(map(float, row.wall_mm)))
    turns = [math.radians(clock) for clock in clock_deg]
    return [row.radius_mm + mean + cos * math.cos(t) + sin * math.sin(t) for t in turns]


@worked_out(lambda *found: found, list)
def _first_harmonic(clock_deg: tuple[float, ...], wall_mm: tuple[float, ...]) -> tuple[float, ...]:
    """Mean, cosine and sine of what was read round a row. A core that stood off centre when the block was poured makes the wall thick on one
    side and thin on the other: cos t and sin t carry it. Higher harmonics are ribs and bosses, which a few readings cannot tell from noise."""
    t = np.deg2rad(np.array(clock_deg))
    design = np.column_stack([np.ones_like(t), np.cos(t), np.sin(t)])
    return tuple(np.linalg.lstsq(design, np.array(wall_mm), rcond=None)[0].tolist())
