"""The honing simulator against the same rule written as a plain NumPy loop, one place of the stone at a time."""

import math

import numpy as np

from redline_bore.core.removal import Grid, Hole, Pack, Phase, over_strokes, simulate
from redline_bore.core.stroke import Motion

HOLE, PACK, GRID = Hole(100.0, 150.0, 3.6e-5), Pack(70.0, 40.0, 150.0, may_tip=False), Grid(cells=75, steps=30)
UPPER, LOWER = over_strokes(150.0, 70.0, 20.0, 20.0)
PHASE = Phase(UPPER, LOWER, 20, 170.0, 45.0, 600.0, 0.2)


def ours() -> float:
    """Twenty double strokes; returns the mean removal, mm."""
    return simulate(HOLE, PACK, np.zeros(GRID.cells), [PHASE], GRID).mean_removed_mm


def plain() -> float:
    """The same, one place after another, the contact found by halving."""
    cell = HOLE.length_mm / GRID.cells
    z = GRID.depths(HOLE.length_mm)
    wall = np.zeros(GRID.cells)
    motion = Motion(PHASE.lower_mm - PHASE.upper_mm, PHASE.double_strokes_per_min, PHASE.reversal_s)
    place, axial = motion.half_stroke(GRID.steps)
    rotary = math.pi * HOLE.bore_mm * PHASE.rpm / 60.0
    each = motion.period_s / 2.0 / GRID.steps
    stiff = PACK.stiffness_mpa_per_mm * PACK.width_mm * cell
    for _ in range(PHASE.double_strokes):
        for upper, speed in [*zip(UPPER + place, axial, strict=True), *zip(LOWER - place, axial, strict=True)]:
            under = np.clip((np.minimum(upper + 70.0, z + cell / 2) - np.maximum(upper, z - cell / 2)) / cell, 0.0, 1.0)
            low, high = -0.1, 0.2
            for _ in range(40):
                middle = (low + high) / 2.0
                force = stiff * float((under * np.maximum(middle - wall, 0.0)).sum())
                low, high = (middle, high) if force < PHASE.radial_force_n else (low, middle)
            p = PACK.stiffness_mpa_per_mm * under * np.maximum(middle - wall, 0.0)
            wall += (
                HOLE.k_mm3_per_n_mm * p * math.hypot(rotary, speed) * each * PACK.width_mm / (math.pi * HOLE.bore_mm)
            )
    return float(wall.mean())
