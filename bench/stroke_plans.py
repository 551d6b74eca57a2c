"""The stroke planner against an exhaustive search over the same knobs, on random walls, a good part of them blind.

`python -m bench.stroke_plans [WALLS] [SEED]`: how often a plan ends less straight than the hole began, and its spread as a share of
the best of the search; a wall that both bring under straight enough counts as alike.
"""

from __future__ import annotations

import itertools
import multiprocessing
import sys
import time

import numpy as np

from redline_bore.core.removal import Hole, Pack, Phase, over_strokes, simulate
from redline_bore.core.stroke_plan import MOST_STROKES, PLANNING, Task, plan_strokes

OVERS, DWELLS = (0.02, 0.25, 0.5, 0.75, 1.0), (0.0, 0.3, 1.0)  # shares of the most there is


def wall(seed: int) -> Task:
    """A wall: taper, barrel or hourglass and a wave on it, a blind or narrow bottom in most, a hard band in a third."""
    rng = np.random.default_rng(seed)
    length = rng.uniform(110.0, 220.0)
    z = PLANNING.depths(length)
    taper = rng.normal(0.0, 0.004) * (2.0 * z / length - 1.0)
    excess = taper + rng.normal(0.0, 0.003) * (1.0 - ((z - length / 2.0) / (length / 2.0)) ** 2)
    excess += rng.normal(0.0, 0.0015) * np.cos(3.0 * np.pi * z / length + rng.uniform(0.0, 6.0))
    room = (rng.uniform(0.0, 6.0), rng.uniform(4.0, 40.0), None)[int(rng.integers(3))]
    bands = ((0.0, 25.0, float(rng.uniform(0.6, 0.9))),) if rng.random() < 1.0 / 3.0 else ()
    return Task(
        Hole(float(rng.uniform(70.0, 130.0)), float(length), 3.6e-5, bands),
        Pack(float(rng.uniform(0.4, 0.65) * length), float(rng.uniform(25.0, 45.0)), 150.0),
        tuple((excess - excess.max()).tolist()), float(rng.uniform(0.012, 0.035)), room, float(rng.uniform(120.0, 200.0)),
        float(rng.uniform(35.0, 55.0)), float(rng.uniform(400.0, 800.0)), 0.2,
    )  # fmt: skip


def exhaustive(task: Task) -> float:
    """The smallest spread of the radius over a grid of both overstrokes and both dwells, mm."""
    cap = task.cap_share * task.pack.stone_mm
    most = cap if task.room_below_mm is None else min(cap, task.room_below_mm)
    best = float("inf")
    for top, bottom, first, last in itertools.product(OVERS, OVERS, DWELLS, DWELLS):
        upper, lower = over_strokes(task.hole.length_mm, task.pack.stone_mm, top * cap, bottom * most)
        phase = Phase(
            upper, lower, MOST_STROKES, task.rpm, task.double_strokes_per_min, task.radial_force_n, task.reversal_s,
            first * task.most_dwell_s, last * task.most_dwell_s,
        )  # fmt: skip
        honed = simulate(task.hole, task.pack, np.asarray(task.excess_mm), [phase], PLANNING, None, task.target_mm)
        best = min(best, float(np.ptp(honed.excess_mm)))
    return best


def one(seed: int) -> tuple[int, float, float, float, float, bool]:
    """A wall: its seed, spread before, planned, by the search (mm), seconds of the plan, whether it ends early."""
    task = wall(seed)
    start = time.process_time()
    plan = plan_strokes(task)
    spent = time.process_time() - start
    return seed, plan.spread_before_mm, plan.spread_mm, exhaustive(task), spent, "ends early" in plan.limits


def main() -> None:
    """Print the table."""
    walls, seed = (int(a) for a in [*sys.argv[1:], *("200", "1")[len(sys.argv) - 1 :]][:2])
    with multiprocessing.Pool() as pool:
        rows = pool.map(one, range(seed * 10000, seed * 10000 + walls), chunksize=1)
    straight = 0.002
    shares = sorted(max(plan, straight) / max(best, straight) for _, _, plan, best, _, _ in rows)
    worse = [s for s, before, plan, _, _, _ in rows if plan > max(before, straight) + 1e-9]
    over = [s for s, _, plan, best, _, _ in rows if max(plan, straight) > 1.3 * max(best, straight)]
    print(
        f"{walls} walls from seed {seed}: less straight than they began {len(worse)} {worse[:5]}; end early {sum(r[5] for r in rows)}"
    )
    print(
        f"spread as a share of the search: middle {shares[len(shares) // 2]:.2f}, worst {shares[-1]:.2f}; over 1.3: {len(over)} {over[:5]}"
    )
    print(
        f"CPU seconds of a plan: middle {sorted(r[4] for r in rows)[walls // 2]:.2f}, most {max(r[4] for r in rows):.2f}"
    )


if __name__ == "__main__":
    main()
