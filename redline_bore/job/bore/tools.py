"""The shop's inserts and what its bars have taught, counted over the ledgers of all jobs."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from redline_bore.core.tool_setting import BoredHole, Correction, learned
from redline_bore.job.bore.plan import speed_share, with_first
from redline_bore.job.kinds.bore import BarSet, EdgeTurned, InsertShelved, MachineStated
from redline_bore.job.kinds.entry import Record
from redline_bore.job.kinds.fold import struck_entries
from redline_bore.job.state.job_state import JobState

KINDS = ("machine_stated", "insert_shelved", "edge_turned", "bar_set")


@dataclass(frozen=True)
class ShelfLine:
    """One kind of insert: how many edges there were, are used up, and are left; the one in the bar counts as left."""

    insert: str
    nose_radius_mm: float
    rake: str
    grade: str
    edges: int
    used: int
    in_bar: bool

    @property
    def left(self) -> int:
        return max(self.edges - self.used, 0)


def shelf_of(ledgers: Iterable[Sequence[Record]], in_bar: str = "") -> tuple[ShelfLine, ...]:
    """Every kind of insert that came onto the shelf or was in a bar; edges 0: nobody said how many there are."""
    kinds: dict[str, InsertShelved | BarSet] = {}
    edges: dict[str, int] = {}
    used: dict[str, int] = {}
    for ledger in ledgers:
        struck = struck_entries(ledger)
        for entry in (r.entry for r in ledger if r.seq not in struck):
            if isinstance(entry, InsertShelved):
                kinds[entry.insert] = entry
                edges[entry.insert] = edges.get(entry.insert, 0) + entry.edges * entry.count
            elif isinstance(entry, BarSet):
                kinds.setdefault(entry.insert, entry)
            elif isinstance(entry, EdgeTurned):
                used[entry.insert] = used.get(entry.insert, 0) + 1
    return tuple(
        ShelfLine(name, k.nose_radius_mm, k.rake, k.grade, edges.get(name, 0), used.get(name, 0), name == in_bar)
        for name, k in sorted(kinds.items())
    )


def last_machine(ledgers: Iterable[Sequence[Record]]) -> MachineStated | None:
    """The machine stated last in any job."""
    found: tuple[str, MachineStated] | None = None
    for ledger in ledgers:
        struck = struck_entries(ledger)
        for r in ledger:
            if isinstance(r.entry, MachineStated) and r.seq not in struck and (found is None or r.at >= found[0]):
                found = (r.at, r.entry)
    return None if found is None else found[1]


def metal_cut(job: JobState) -> str:
    """What the bar cuts: the wall, which is iron where an iron sleeve stands in aluminium."""
    return "grey_iron" if job.block.material == "iron_in_aluminium" else job.block.material


def taught(entry: BarSet, jobs: Sequence[JobState], now: JobState) -> BarSet:
    """The bar's set-up with what its machine and insert have taught in this job's metal, on all other jobs."""
    holes: list[tuple[str, BoredHole]] = []
    by: list[str] = []
    for job in jobs:
        if job.number == now.number or metal_cut(job) != metal_cut(now):
            continue
        mine = [
            (hole.day, BoredHole(hole.set_mm, hole.mean_mm, first, speed_share(now, hole.rpm)))
            for hole, first in with_first(job)
            if hole.tool == (entry.machine, entry.insert)
        ]
        holes += mine
        by += [job.number] if mine else []
    if not holes:
        return entry
    ordered = [hole for _, hole in sorted(holes, key=lambda h: h[0])]
    first = next((h for h in ordered if h.first_of_day), None)
    start = Correction(first_mm=0.0 if first is None else (first.measured_mm - first.set_mm) / first.speed)
    c = learned(ordered, start)
    return replace(
        entry, usual_mm=c.usual_mm, first_mm=c.first_mm if c.firsts else None, holes=c.holes, firsts=c.firsts,
        taught_by=tuple(by),
    )  # fmt: skip
