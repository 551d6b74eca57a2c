"""The true walls of the sample jobs, and a practice wall for any other block. Millimetres at 20 C."""

from __future__ import annotations

import random
from functools import partial

from redline_bore.core.block import BlockSpec, RingTravel
from redline_bore.truth.wall import TrueCylinder, TrueWall

# By how much a hole's axis leans over 100 mm of depth: cylinder 2 of job 2041 was put in crooked long ago.
FINISH_2036 = (83.0660, 83.0685)
FINISH_2029 = (92.5700, 92.5710, 92.5695, 92.5705)
_LEAN_2041 = {1: (0.052, -0.041)}

# Job 2041: worn 0.10 to 0.24 on diameter, one-sided towards the thrust side (270 or 90), little on the other.
_WEAR_2041 = ((0.165, 92.0), (0.120, 84.0), (0.085, 95.0), (0.200, 88.0), (0.140, 271.0))


def wall_2041() -> TrueWall:
    """Five worn cylinders of 105.00, ridge at the top, ring travel from 16 to 153 mm down."""
    return TrueWall(
        tuple(
            TrueCylinder(
                105.004 + 0.001 * i,
                16.0,
                153.0,
                wear,
                clock,
                0.2 * wear,
                0.001,
                30.0 * i,
                plate_pull=0.0035 + 0.001 * (i == 2),
                lean_x=_LEAN_2041.get(i, (0.0, 0.0))[0],
                lean_y=_LEAN_2041.get(i, (0.0, 0.0))[1],
            )
            for i, (wear, clock) in enumerate(_WEAR_2041)
        ),
        11.0,
    )


def wall_2036(finish_mm: tuple[float, ...], worn: bool) -> TrueWall:
    """Twin of 3.2500 in: worn 0.12 and 0.09 before, or finished under the plate to ``finish_mm`` (diameter, 20 C).

    The plate pulls the top of both holes oval, open along the pin axis; without it they read so much tighter there.
    """
    plated = partial(TrueCylinder, plate_pull=0.0012, plate_oval=0.0075)
    if worn:
        return TrueWall(
            (
                plated(82.553, 11.0, 112.0, 0.100, 88.0, 0.02, 0.001, 20.0),
                plated(82.551, 11.0, 112.0, 0.075, 94.0, 0.015, 0.001, 70.0),
            ),
            11.0,
        )
    return TrueWall(tuple(plated(f, 11.0, 112.0, oval=0.0004, under_plate=True) for f in finish_mm), 11.0)


def wall_2029(finish_mm: tuple[float, ...], worn: bool) -> TrueWall:
    """Vee-four of 92.00: worn 0.18 to 0.26 before, or finished under the plate to ``finish_mm`` (diameter, 20 C)."""
    plated = partial(TrueCylinder, plate_pull=0.0010, plate_oval=0.0040)
    if worn:
        rows = ((0.150, 92.0), (0.120, 86.0), (0.165, 268.0), (0.135, 273.0))
        return TrueWall(
            tuple(
                plated(92.003 + 0.001 * i, 12.0, 100.0, wear, clock, 0.15 * wear, 0.001, 25.0 * i)
                for i, (wear, clock) in enumerate(rows)
            ),
            11.0,
        )
    return TrueWall(tuple(plated(f, 12.0, 100.0, oval=0.0003, under_plate=True) for f in finish_mm), 11.0)


def wall_2047() -> TrueWall:
    """Single of 78.00: lightly worn, glazed."""
    return TrueWall((TrueCylinder(78.006, 9.0, 84.0, 0.030, 86.0, 0.008, 0.001, 40.0),), 11.0)


def practice_wall(spec: BlockSpec, travel: RingTravel, coefficient_1e6: float) -> TrueWall:
    """A made-up worn wall for a block that has no true one, the same each time for the same block."""
    chance = random.Random(f"{spec.bore_mm:.3f} {spec.cylinders}")
    return TrueWall(
        tuple(
            TrueCylinder(
                spec.bore_mm + 0.004, travel.top_mm, travel.bottom_mm, spec.bore_mm * chance.uniform(0.0004, 0.0016),
                90.0 + chance.gauss(0.0, 8.0), spec.bore_mm * 0.0003, 0.001, chance.uniform(0.0, 180.0), 0.004,
            )
            for _ in range(spec.cylinders)
        ),
        coefficient_1e6,
    )  # fmt: skip


def true_wall(number: str, spec: BlockSpec, travel: RingTravel, coefficient_1e6: float) -> TrueWall:
    """The wall a stand-in measures for a job: the sample job's own, or a practice wall when the block differs."""
    known = {
        "2041": wall_2041,
        "2036": lambda: wall_2036(FINISH_2036, False),
        "2029": lambda: wall_2029(FINISH_2029, False),
        "2047": wall_2047,
    }
    if number in known:
        wall = known[number]()
        if len(wall.cylinders) == spec.cylinders and abs(wall.cylinders[0].unworn_diameter - spec.bore_mm) < 0.5:
            return wall
    return practice_wall(spec, travel, coefficient_1e6)
