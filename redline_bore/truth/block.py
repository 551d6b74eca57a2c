"""A seeded true block: walls worn as walls wear, flaws, lean and offset, plate distortion, wall thickness, temperature, pistons as sold."""

from __future__ import annotations

import math
import random
from dataclasses import dataclass

import numpy as np

from redline_bore.core.block import BlockSpec, Bottom, Layout, WallKind
from redline_bore.truth.hole import CLOCKS, ROWS, Array, TrueFlaw, TrueHole

WEARS = ("one side", "both sides", "even", "low bump", "lobed", "bored before", "light")
COEFFICIENTS = {"grey_iron": 11.0, "ductile_iron": 11.5, "iron_in_aluminium": 17.0}


@dataclass
class TrueBlock:
    """Everything there is to know of a block; what a person could know is read off it by true tools.

    spec: as the shop books it in, but for what was not measured yet. stop_mm: where the top ring stops. wall_limit_mm: least wall by zone is
    the program's matter; here only the metal is. pistons_under_mm: how much the pistons on the shelf measure under the size in their name.
    """

    seed: int
    spec: BlockSpec
    duty: str
    alloy: str
    oversizes_mm: tuple[float, ...]
    wear: str
    stop_mm: float
    holes: list[TrueHole]
    block_c: float
    coefficient_1e6: float
    pistons_under_mm: float
    window_mm: tuple[float, float]
    wall_is_liner: bool


def true_block(seed: int) -> TrueBlock:
    """The block of a seed: always the same."""
    chance = random.Random(seed)
    layout, cylinders = chance.choice(
        (
            (Layout.SINGLE, 1),
            (Layout.INLINE, 2),
            (Layout.INLINE, 3),
            (Layout.INLINE, 4),
            (Layout.VEE, 4),
            (Layout.FLAT, 2),
        )
    )
    bore = round(chance.uniform(66.0, 128.0) / 0.5) * 0.5
    length = round(bore * chance.uniform(1.35, 2.0))
    stroke = round(length * chance.uniform(0.55, 0.68), 1)
    material = chance.choices(("grey_iron", "ductile_iron", "iron_in_aluminium"), (7, 1, 2))[0]
    liner = material == "iron_in_aluminium"
    kind = WallKind.LINER if liner else chance.choices((WallKind.CAST, WallKind.DRY_SLEEVE), (5, 1))[0]
    stop = round(chance.uniform(0.06, 0.11) * length, 1)
    pack = round(chance.uniform(8.0, 16.0), 1)
    bottom = chance.choices((Bottom.OPEN, Bottom.BLIND), (4, 1))[0]
    room = chance.uniform(12.0, 45.0) if bottom is Bottom.OPEN else chance.uniform(1.5, 10.0)
    banks = 2 if layout in (Layout.VEE, Layout.FLAT) else 1
    counted = (
        pack if random.Random(f"ring pack {seed}").random() < 0.7 else None
    )  # by its own chance: blocks stay what they were
    spec = BlockSpec(
        layout, cylinders, bore, min(stroke, length - stop - pack - 4.0), float(length), material, round(1.25 * bore, 1), kind, bottom, round(room, 1),
        round(0.2 * length, 1) if chance.random() < 0.1 else None, stop if chance.random() < 0.6 else None, counted, 90.0, 4 if banks == 1 else 4,
    )  # fmt: skip
    wear = chance.choices(WEARS, (6, 3, 2, 2, 2, 2, 2))[0]
    duty = chance.choices(("everyday", "performance", "towing_diesel", "turbo"), (5, 2, 2, 1))[0]
    alloy = chance.choices(
        ("piston_cast", "piston_hypereutectic", "piston_forged_4032", "piston_forged_2618"), (4, 2, 2, 1)
    )[0]
    oversizes = chance.choice(((0.25, 0.50, 0.75, 1.00, 1.50), (0.50, 1.00), (0.254, 0.508, 0.762, 1.016)))
    share = {
        "piston_cast": 0.00045,
        "piston_hypereutectic": 0.0005,
        "piston_forged_4032": 0.00068,
        "piston_forged_2618": 0.0011,
    }[alloy]
    half = chance.uniform(0.010, 0.022)
    aim = share * bore + (0.0002 * bore if duty == "turbo" else 0.0)
    window = (round(max(aim - half, 0.005), 3), round(aim + half, 3))
    holes = [_hole(chance, spec, wear, stop, pack, liner) for _ in range(cylinders)]
    return TrueBlock(
        seed, spec, duty, alloy, oversizes, wear, stop, holes, chance.uniform(15.0, 25.0), COEFFICIENTS[material],
        chance.uniform(0.042, 0.108) - 0.0, window, liner or kind is WallKind.DRY_SLEEVE,
    )  # fmt: skip


def _hole(chance: random.Random, spec: BlockSpec, wear: str, stop: float, pack: float, liner: bool) -> TrueHole:
    noise = np.random.default_rng(chance.randrange(2**32))
    z = ((np.arange(ROWS) + 0.5) * spec.length_mm / ROWS)[:, None]
    t = np.deg2rad(CLOCKS)[None, :]
    before = chance.choice((0.25, 0.5)) if wear == "bored before" else 0.0
    radius = np.full((ROWS, CLOCKS.size), (spec.bore_mm + before) / 2.0 + chance.gauss(0.0, 0.004))
    radius = radius + _made(chance, z, t, spec.length_mm) + _worn(chance, spec, wear, z, t, stop, pack)
    radius += noise.normal(0.0, 0.0003, radius.shape)
    plate = _plate(chance, z, t)
    outside = _outside(chance, spec, z, t, liner)
    hole = TrueHole(spec.length_mm, radius, plate, outside, _stands(chance, spec, wear, z[:, 0]))
    hole.flaws = _flaws(chance, spec, stop)
    hole.found_mm = hole.radius_mm + hole.flaw_depth()
    return hole


def _made(chance: random.Random, z: Array, t: Array, length: float) -> Array:
    """What the maker left: a little oval, a little taper, three and five lobes."""
    shape = 0.0015 * chance.random() * np.cos(2.0 * (t - chance.uniform(0.0, 3.14)))
    shape = shape + 0.002 * chance.uniform(-1.0, 1.0) * (z / length - 0.5)
    shape = shape + 0.002 * chance.random() * np.cos(3.0 * (t - chance.uniform(0.0, 2.1)))
    found: Array = shape + 0.001 * chance.random() * np.cos(5.0 * (t - chance.uniform(0.0, 1.3)))
    return found


def _worn(chance: random.Random, spec: BlockSpec, wear: str, z: Array, t: Array, stop: float, pack: float) -> Array:
    """Wear on radius: a peak just under the ring's stop that fades down the travel, most on one side or another."""
    foot = stop + pack + spec.stroke_mm
    deep = {"light": chance.uniform(0.004, 0.015), "even": chance.uniform(0.02, 0.09)}.get(
        wear, chance.uniform(0.03, 0.16)
    )
    down = np.clip((z - stop) / max(foot - stop, 1.0), 0.0, 1.0)
    fade = chance.uniform(1.5, 4.5)
    peak = np.exp(-fade * down) * (1.0 + chance.uniform(0.0, 0.12) * np.exp(-(((z - stop - 5.0) / 3.0) ** 2)))
    along = np.where((z >= stop) & (z <= foot), peak * (1.0 - down**4), 0.0)
    if wear == "low bump":
        along = along + np.where(
            (z >= stop) & (z <= foot), 0.5 * np.exp(-(((down - chance.uniform(0.5, 0.8)) / 0.12) ** 2)), 0.0
        )
    side = math.radians(chance.choice((90.0, 270.0)) + chance.gauss(0.0, 14.0))
    turn = t - side
    other = {"one side": chance.uniform(0.0, 0.25), "both sides": chance.uniform(0.6, 1.0), "even": 1.0}.get(
        wear, chance.uniform(0.1, 0.7)
    )
    width = chance.uniform(1.0, 1.6)
    round_it = np.maximum(np.cos(turn), 0.0) ** (2.0 * width) + other * np.maximum(-np.cos(turn), 0.0) ** (2.0 * width)
    if wear == "even":
        round_it = np.ones_like(t) * 0.85 + 0.15 * np.cos(turn) ** 2
    if wear == "lobed":
        round_it = round_it + 0.25 * (1.0 + np.cos(3.0 * turn)) / 2.0
    found: Array = deep * along * round_it
    return found


def _plate(chance: random.Random, z: Array, t: Array) -> Array:
    """What the plate adds: fasteners pull at the top, four times and twice round."""
    fade = np.exp(-z / chance.uniform(25.0, 60.0))
    four = chance.uniform(0.0, 0.0035) * np.cos(4.0 * (t - chance.uniform(0.0, 1.6)))
    found: Array = fade * (
        four + chance.uniform(0.0, 0.006) * np.cos(2.0 * (t - chance.uniform(0.0, 3.14))) - chance.uniform(0.0, 0.001)
    )
    return found


def _outside(chance: random.Random, spec: BlockSpec, z: Array, t: Array, liner: bool) -> Array:
    """Distance of the outside: a core that stood off to one side, and the casting's own unevenness."""
    wall = (
        chance.uniform(2.3, 4.2)
        if liner
        else chance.uniform(4.2, 9.0)
        if spec.wall is WallKind.CAST
        else chance.uniform(2.2, 3.4)
    )
    off = chance.uniform(0.0, 0.12 if liner or spec.wall is not WallKind.CAST else 0.7)
    shape = (
        spec.bore_mm / 2.0
        + wall
        + off * np.cos(t - chance.uniform(0.0, 6.28))
        + 0.15 * off * np.cos(2.0 * (t - chance.uniform(0.0, 3.14)))
    )
    found: Array = shape + 0.0003 * wall * z * chance.uniform(-1.0, 1.0)
    return found


def _stands(chance: random.Random, spec: BlockSpec, wear: str, z: Array) -> Array:
    """Where the axis stands off the crank line, down the hole: offset, and a lean; a hole bored before may be put in crooked."""
    off, lean = (
        (chance.uniform(0.0, 0.12), chance.uniform(0.0, 0.09))
        if wear == "bored before"
        else (chance.uniform(0.0, 0.05), chance.uniform(0.0, 0.012))
    )
    a, b = chance.uniform(0.0, 6.28), chance.uniform(0.0, 6.28)
    u = z / spec.length_mm - 1.0  # it leans away from where it stands at the bottom
    return np.column_stack([off * math.cos(a) + lean * u * math.cos(b), off * math.sin(a) + lean * u * math.sin(b)])


def _flaws(chance: random.Random, spec: BlockSpec, stop: float) -> list[TrueFlaw]:
    found = []
    for _ in range(chance.choices((0, 1, 2), (7, 3, 1))[0]):
        top = chance.uniform(stop + 3.0, 0.8 * spec.length_mm)
        what = chance.choice(("score", "pit", "rust"))
        high = chance.uniform(4.0, 0.3 * spec.length_mm) if what == "score" else chance.uniform(3.0, 15.0)
        deep = chance.choices(
            (chance.uniform(0.004, 0.013), chance.uniform(0.013, 0.05), chance.uniform(0.05, 0.25)), (3, 4, 2)
        )[0]
        found.append(
            TrueFlaw(
                top,
                min(top + high, spec.length_mm - 1.0),
                chance.uniform(0.0, 360.0),
                chance.uniform(4.0, 30.0),
                deep,
                what,
                True,
            )
        )
    return found
