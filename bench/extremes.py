"""How often what is stated of extremes holds the truth: draws of holes on quick, full and race plans (methods 3).

`python -m bench.extremes [DRAWS]` prints the table; 95 of 100 are meant.
"""

from __future__ import annotations

import math
import sys

import numpy as np

from redline_bore.core.extremes import (
    Extreme,
    largest_between,
    oval_between,
    smallest_between,
    two_directions_between,
    wear_between,
)

PLANS = {"quick": (3, 2), "full": (5, 6), "race": (8, 12)}
TRUE_MM = (0.0, 0.002, 0.005, 0.02, 0.1)
SD_MM = 0.0015


def held(plan: str, true_mm: float, draws: int, seed: int = 1) -> dict[str, float]:
    """The share of draws in which each stated interval holds the truth.

    A hole has a worst level of ``true_mm`` oval and one of ``true_mm`` wear, the other levels anything up to it, in a third of the holes all
    as much; the last level is not worn. Three chords and more give an oval, a largest and a smallest; two what they differ by.
    """
    rng = np.random.default_rng(seed)
    levels, chords = PLANS[plan]
    angles = np.arange(chords) * math.pi / chords
    count: dict[str, int] = {}
    for _ in range(draws):
        half = true_mm * _profile(rng, levels) / 2.0
        wear = np.append(true_mm * _profile(rng, levels - 1), 0.0)
        phase = rng.uniform(0.0, math.pi, levels)
        true = 86.0 + wear[:, None] + half[:, None] * np.cos(2.0 * (angles[None, :] - phase[:, None]))
        read = true + rng.normal(0.0, SD_MM, true.shape)
        means = read.mean(axis=1)
        stated = {"wear": (wear_between(means[:-1].tolist(), float(means[-1]), chords, SD_MM), true_mm)}
        if chords < 3:
            apart = float(np.abs(true[:, 0] - true[:, 1]).max())
            stated["two directions"] = (two_directions_between((read[:, 0] - read[:, 1]).tolist(), SD_MM), apart)
        else:
            fit = np.hypot(read @ np.cos(2.0 * angles), read @ np.sin(2.0 * angles)) * 2.0 / chords
            given = (means.tolist(), fit.tolist(), chords, SD_MM)
            stated["out of round"] = (oval_between(fit.tolist(), [chords] * levels, SD_MM), true_mm)
            stated["largest"] = (largest_between(*given), float((86.0 + wear + half).max()))
            stated["smallest"] = (smallest_between(*given), float((86.0 + wear - half).min()))
        for what, (found, truth) in stated.items():
            count[what] = count.get(what, 0) + _holds(found, truth)
    return {what: n / draws for what, n in count.items()}


def _profile(rng: np.random.Generator, levels: int) -> np.ndarray:
    share = np.ones(levels) if rng.random() < 1.0 / 3.0 else rng.uniform(0.0, 1.0, levels)
    share[rng.integers(levels)] = 1.0
    return share


def _holds(found: Extreme, truth: float) -> bool:
    return found.low_mm - 1e-9 <= truth <= found.high_mm + 1e-9


def main() -> None:
    """Print the table."""
    draws = int(sys.argv[1]) if len(sys.argv) > 1 else 1000
    print(f"{'plan':6} {'true um':>8}  share of {draws} draws in which the truth is inside, %")
    for plan in PLANS:
        for true_mm in TRUE_MM:
            found = held(plan, true_mm, draws)
            print(f"{plan:6} {true_mm * 1000:8.0f}  " + "  ".join(f"{k} {v * 100:.1f}" for k, v in found.items()))


if __name__ == "__main__":
    main()
