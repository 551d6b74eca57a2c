"""The shop's inserts and what its bars have taught: what one job says of them, and what all jobs together say."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from redline_bore.core.frozen import frozen, replace
from redline_bore.core.tool_setting import BoredHole, Correction, learned
from redline_bore.job.bore.plan import speed_share, with_first
from redline_bore.job.kinds.bore import BarSet, EdgeTurned, InsertShelved, MachineStated
from redline_bore.job.kinds.entry import Record
from redline_bore.job.state.boring import BoringMachine, Grade, Rake
from redline_bore.job.state.job_state import JobState


@frozen
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


SHELF_KINDS = (InsertShelved, BarSet, EdgeTurned)


@frozen
class Shelved:
    """A kind of insert that came onto the shelf, or (edges 0, in_bar) was in a bar."""

    insert: str
    nose_radius_mm: float
    rake: Rake
    grade: Grade
    edges: int
    in_bar: bool


@frozen
class Turned:
    """How many edges of an insert were turned."""

    insert: str
    edges: int


@frozen
class ShelfOfJob:
    """What one job put on the shelf and used of it."""

    shelved: tuple[Shelved, ...]
    turned: tuple[Turned, ...]


@frozen
class StatedOnJob:
    """The machine that was stated last in a job, and when."""

    at: str
    machine: BoringMachine


@frozen
class HoleCut:
    """A hole off the bar: machine and insert, the day, what it was set to and came out at, mm; whether the bar was cold before it."""

    machine: str
    insert: str
    day: str
    set_mm: float
    mean_mm: float
    first: bool
    rpm: float | None


@frozen
class CutOnJob:
    """What the bars cut on one job."""

    number: str
    holes: tuple[HoleCut, ...]


def shelf_of_job(records: Sequence[Record], struck: frozenset[int]) -> ShelfOfJob | None:
    """What a job put on the shelf and used; None where nothing was."""
    shelved, turned = list[Shelved](), dict[str, int]()
    for e in (r.entry for r in records if isinstance(r.entry, SHELF_KINDS) and r.seq not in struck):
        if isinstance(e, InsertShelved):
            shelved.append(Shelved(e.insert, e.nose_radius_mm, e.rake, e.grade, e.edges * e.count, False))
        elif isinstance(e, BarSet):
            shelved.append(Shelved(e.insert, e.nose_radius_mm, e.rake, e.grade, 0, True))
        elif isinstance(e, EdgeTurned):
            turned[e.insert] = turned.get(e.insert, 0) + 1
    if not shelved and not turned:
        return None
    return ShelfOfJob(tuple(shelved), tuple(Turned(*t) for t in turned.items()))


def stated_on_job(records: Sequence[Record], struck: frozenset[int]) -> StatedOnJob | None:
    """The machine a job stated last, by the time it was stated."""
    stated = [(r.at, r.entry) for r in records if isinstance(r.entry, MachineStated) and r.seq not in struck]
    if not stated:
        return None
    at, last = max(reversed(stated), key=lambda pair: pair[0])
    return StatedOnJob(at, BoringMachine(name=last.name, thick_mm=last.thick_mm, reach_mm=last.reach_mm, speeds_rpm=last.speeds_rpm))  # fmt: skip


def cut_on_job(state: JobState) -> CutOnJob | None:
    """What the bars cut on a job; None where no hole was bored."""
    holes = tuple(
        HoleCut(hole.tool[0], hole.tool[1], hole.at[:10], hole.set_mm, hole.mean_mm, first, hole.rpm)
        for hole, first in with_first(state)
    )
    return CutOnJob(state.number, holes) if holes else None


def metal_cut(job: JobState) -> str:
    """What the bar cuts: the wall, which is iron where an iron sleeve stands in aluminium."""
    return "grey_iron" if job.block.material == "iron_in_aluminium" else job.block.material


def shelf_of(jobs: Iterable[ShelfOfJob], in_bar: str = "") -> tuple[ShelfLine, ...]:
    """Every kind of insert that came onto the shelf or was in a bar, over all jobs, the oldest first; edges 0: nobody said how many there are."""
    kinds: dict[str, Shelved] = {}
    edges: dict[str, int] = {}
    used: dict[str, int] = {}
    for job in jobs:
        for s in job.shelved:
            if s.in_bar:
                kinds.setdefault(s.insert, s)
            else:
                kinds[s.insert] = s
                edges[s.insert] = edges.get(s.insert, 0) + s.edges
        for t in job.turned:
            used[t.insert] = used.get(t.insert, 0) + t.edges
    return tuple(
        ShelfLine(name, k.nose_radius_mm, k.rake, k.grade, edges.get(name, 0), used.get(name, 0), name == in_bar)
        for name, k in sorted(kinds.items())
    )


def taught(entry: BarSet, jobs: Sequence[CutOnJob], now: JobState) -> BarSet:
    """The bar's set-up with what its machine and insert have taught, on other jobs in this job's metal."""
    holes: list[tuple[str, BoredHole]] = []
    by: list[str] = []
    for job in jobs:
        mine = [
            (hole.day, BoredHole(hole.set_mm, hole.mean_mm, hole.first, speed_share(now, hole.rpm)))
            for hole in job.holes
            if (hole.machine, hole.insert) == (entry.machine, entry.insert) and job.number != now.number
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
