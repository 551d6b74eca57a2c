"""A campaign of blocks over all cores: a table, histograms by what they were, and one line of figures at the end."""

from __future__ import annotations

import math
import os
import shutil
import sys
import tempfile
from collections import Counter
from collections.abc import Iterable, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from redline_bore.desk.desk import Desk
from redline_bore.loop.machinist import Machinist
from redline_bore.loop.reckoning import CylinderReckoned, Reckoned, ladder_told, reckon
from redline_bore.store.logbook import Logbook
from redline_bore.truth.block import true_block

MOST_PAST_MM, EPS = 0.005, 1e-6


def worked(seed: int) -> Reckoned:
    """One block, worked in a logbook of its own that is thrown away."""
    folder = Path(tempfile.mkdtemp(prefix="loop-", dir="/dev/shm" if os.path.isdir("/dev/shm") else None))  # noqa: S108
    desk = Desk(lambda: Logbook(folder / "logbook.sqlite"), person="LOOP")
    try:
        machinist = Machinist(desk, true_block(seed))
        found = reckon(machinist)
        found.story += ladder_told(machinist.state)
        return found
    finally:
        desk.close()
        shutil.rmtree(folder, ignore_errors=True)


def seeds_of(seed: int, blocks: int) -> list[int]:
    """The seeds of a campaign: those of two campaigns never meet."""
    return [seed * 100_000 + i for i in range(blocks)]


def campaign(seeds: Sequence[int], bar: bool = True) -> list[Reckoned]:
    """Work the blocks on all cores."""
    found = []
    with ProcessPoolExecutor(max_workers=os.cpu_count()) as pool:
        for n, block in enumerate(pool.map(worked, seeds, chunksize=4), start=1):
            found.append(block)
            if bar and sys.stderr.isatty():
                done = round(40 * n / len(seeds))
                print(f"\r[{'#' * done}{'.' * (40 - done)}] {n} of {len(seeds)}", end="", file=sys.stderr, flush=True)
    if bar and sys.stderr.isatty():
        print(file=sys.stderr)
    return found


@dataclass(frozen=True)
class Line:
    """The figures of a campaign. Shares from 0 to 1."""

    blocks: int
    bored: int
    cylinders: int
    places_past: int
    worst_past_um: float
    means_past: int
    ends_inside: float
    shadows_sure: int
    given_up: int
    savable: float
    thin_sure: int
    less_metal: float
    steps_over: int
    told_inside: float
    told: int
    checks: tuple[float, float]
    checks_four: tuple[float, float]
    sweeps: float
    endless: int
    stopped: int
    minutes: float = 0.0
    readings: float = 0.0
    requests: tuple[float, float] = (0.0, 0.0)
    again: float = 0.0

    def __str__(self) -> str:
        low, high = wilson(round(self.told_inside * self.told), self.told)
        return (
            f"{self.blocks} blocks, {self.bored} bored, {self.cylinders} cylinders honed: places past {self.places_past} (worst {self.worst_past_um:.1f} um), "
            f"means past by more than U {self.means_past}, both ends inside {self.ends_inside:.1%}, shadows under a tick {self.shadows_sure}, "
            f"given up {self.given_up}, of them savable {self.savable:.1%} of all blocks, walls thin under a tick {self.thin_sure}, less metal than rule of thumb {self.less_metal:.1%} "
            f"(worst {self.steps_over} rungs over it), strokes inside {self.told_inside:.1%} ({low:.1%}-{high:.1%}), checks {self.checks[0]:.0f}/{self.checks[1]:.0f}, "
            f"minutes a cylinder {self.minutes:.0f}, readings {self.readings:.0f}, requests a block {self.requests[0]:.0f}/{self.requests[1]:.0f}, calls taken anew {self.again:.1%}, "
            f"in four steps {self.checks_four[0]:.0f}/{self.checks_four[1]:.0f}, sweeps a block {self.sweeps:.1f}, stopped out of shape or past {self.stopped}, endless {self.endless}"
        )  # fmt: skip


def line_of(found: Sequence[Reckoned]) -> Line:
    """The figures of a campaign."""
    every = [c for b in found for c in b.cylinders]
    wide = [c for c in every if c.window_fits]
    metal = [b.less_metal for b in found if b.less_metal is not None]
    told = sum(b.told for b in found)
    return Line(
        len(found), sum(bool(b.cylinders) for b in found), len(every), sum(c.place_past_window > EPS for c in every),
        1000.0 * max((c.place_past_window for c in every), default=0.0), sum(c.mean_past_redline > c.u for c in every),
        _share([c.place_past_window <= EPS and c.place_under_window <= EPS for c in wide]), sum(c.shadow and c.sure for c in every),
        sum(bool(b.given_up) for b in found), _share([b.savable for b in found]), sum(c.thin and c.sure for c in every), _share(metal),
        max((b.steps_over_rule for b in found), default=0), sum(b.told_inside for b in found) / max(told, 1), told,
        _middle([c.checks for c in every if not c.four_steps]), _middle([c.checks for c in every if c.four_steps]),
        sum(b.sweeps for b in found) / max(len(found), 1), sum(bool(b.endless) or bool(b.guessed) for b in found), sum(c.ended in ("PAST", "TIGHT") for c in every),
        sum(b.minutes for b in found if b.cylinders) / max(len(every), 1), sum(b.readings for b in found if b.cylinders) / max(len(every), 1),
        _middle([b.requests for b in found if b.cylinders]), _share([b.again > 0 for b in found if b.cylinders]),
    )  # fmt: skip


def _share(values: Sequence[bool]) -> float:
    return sum(values) / len(values) if values else 0.0


def _middle(values: Sequence[int]) -> tuple[float, float]:
    return (float(np.percentile(values, 50)), float(np.percentile(values, 90))) if values else (0.0, 0.0)


def wilson(inside: int, of: int, z: float = 1.96) -> tuple[float, float]:
    """The interval of a share (Wilson 1927), 95 %.

    >>> tuple(round(v, 3) for v in wilson(90, 100))
    (0.826, 0.945)
    """
    if of == 0:
        return 0.0, 1.0
    p = inside / of
    middle, half = p + z * z / (2 * of), z * math.sqrt(p * (1 - p) / of + z * z / (4 * of * of))
    return (middle - half) / (1 + z * z / of), (middle + half) / (1 + z * z / of)


def faults_of(block: Reckoned) -> list[str]:
    """What went wrong with a block, for the list of seeds to look at."""
    found = [f"{c.cylinder}: {text}" for c in block.cylinders for text in _faults(c)]
    if block.savable:
        found.append("given up, and could have been saved")
    if block.steps_over_rule > 1:
        found.append(f"{block.steps_over_rule} rungs over the rule of thumb")
    if block.endless:
        found.append(block.endless)
    return found + [f"guessed: {g}" for g in block.guessed]


def _faults(c: CylinderReckoned) -> Iterable[str]:
    if c.place_past_window > EPS:
        yield f"a place {1000 * c.place_past_window:.1f} um past the window"
    if c.mean_past_redline > c.u:
        yield f"mean {1000 * c.mean_past_redline:.1f} um past the redline, U {1000 * c.u:.1f}"
    if c.place_under_window > EPS and c.window_fits:
        yield f"a place {1000 * c.place_under_window:.1f} um under the window"
    if c.shadow and c.sure:
        yield "a shadow under a tick"
    if c.thin and c.sure:
        yield "a thin wall under a tick"


def tables(found: Sequence[Reckoned]) -> str:
    """How blocks fared by layout, metal, wall and kind of wear, and how cylinders ended at the hone."""
    rows = []
    for name in ("layout", "metal", "wall", "wear"):
        rows.append(f"\n{name:<24}{'blocks':>8}{'bored':>8}{'given up':>10}{'savable':>9}{'left':>6}{'faults':>8}")
        kinds = sorted({getattr(b, name) for b in found})
        for kind in kinds:
            own = [b for b in found if getattr(b, name) == kind]
            rows.append(
                f"{kind:<24}{len(own):>8}{sum(bool(b.cylinders) for b in own):>8}{sum(bool(b.given_up) for b in own):>10}"
                f"{sum(b.savable for b in own):>9}{sum(b.left for b in own):>6}{sum(bool(faults_of(b)) for b in own):>8}"
            )
    rows += _reliability(found)
    every = [c for b in found for c in b.cylinders]
    rows.append("\nended at the hone")
    rows += [f"{name or 'not':<24}{count:>8}" for name, count in Counter(c.ended for c in every).most_common()]
    rows.append("\nmean against the redline, um")
    rows += _histogram([1000.0 * c.mean_past_redline for c in every], (-20, -12, -8, -6, -4, -2, 0, 2, 4, 6, 20))
    rows.append("\nchecks a cylinder")
    rows += _histogram([float(c.checks) for c in every], (0, 4, 6, 8, 10, 12, 16, 41))
    return "\n".join(rows)


def _reliability(found: Sequence[Reckoned]) -> list[str]:
    """Of the sizes that were called without proof: how likely they were said to clean up, and how often they truly would have."""
    rows = [f"\n{'chance reckoned':<16}{'calls':>8}{'mean':>8}{'true':>8}{'told in figures':>18}{'mean':>8}{'true':>8}"]
    for low, high in ((0.3, 0.5), (0.5, 0.7), (0.7, 0.8), (0.8, 0.9), (0.9, 0.95), (0.95, 1.01)):
        own = [
            (b.chance, b.would_do)
            for b in found
            if b.chance is not None and b.would_do is not None and low <= b.chance < high
        ]
        told = [
            (b.said, b.would_do)
            for b in found
            if b.said is not None and b.would_do is not None and low <= b.said < high
        ]
        rows.append(f"{low:>5.0%} to {high:<7.0%}{_pair(own)}{'':>10}{_pair(told)}")
    return rows


def _pair(rows: Sequence[tuple[float, bool]]) -> str:
    if not rows:
        return f"{0:>8}{'':>16}"
    return f"{len(rows):>8}{sum(p for p, _ in rows) / len(rows):>8.0%}{sum(done for _, done in rows) / len(rows):>8.0%}"


def _histogram(values: Sequence[float], edges: Sequence[float]) -> list[str]:
    counts = np.histogram(values, edges)[0]
    most = max(int(counts.max()), 1)
    return [f"{edges[i]:>6g} to {edges[i + 1]:<6g}{n:>7} {'#' * round(40 * n / most)}" for i, n in enumerate(counts)]
