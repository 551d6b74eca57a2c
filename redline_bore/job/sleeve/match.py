"""Every parent against every measured sleeve: how each pair would grip, and which set of pairs grips most evenly."""

from __future__ import annotations

from redline_bore.core.frozen import frozen
from redline_bore.job.route import sleeved_cylinders
from redline_bore.job.sleeve.fit import fit_of, wanted_interference
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.job_state import JobState


@frozen(often=True)
class Pair:
    """Interference in mm on diameter of one sleeve in one parent."""

    parent: int
    sleeve: int
    interference_mm: float


@frozen(often=True)
class Match:
    """All pairs, what is wanted (least, usual, most), and the sleeve each parent would best get: (parent, sleeve)."""

    pairs: tuple[Pair, ...]
    wanted_mm: tuple[float, float, float]
    best: tuple[tuple[int, int], ...]

    @property
    def as_it_is(self) -> bool:
        return all(parent == sleeve for parent, sleeve in self.best)


@once_a_state
def match_of(state: JobState) -> Match | None:
    """The match of the sleeves as measured; None until a parent and a sleeve are."""
    parents = {c: mm for c in sleeved_cylinders(state) if (mm := fit_of(state, c).parent_mm) is not None}
    sleeves = {c: s.outside_mm for c in state.cylinders if (s := state.sleeving.sleeve_of(c)) is not None}
    if not parents or not sleeves:
        return None
    wanted = wanted_interference(state, max(parents.values()))
    pairs = tuple(Pair(p, s, od - bore) for p, bore in parents.items() for s, od in sleeves.items())
    return Match(pairs, wanted, _best(parents, sleeves, wanted[1]))


def _best(parents: dict[int, float], sleeves: dict[int, float], usual_mm: float) -> tuple[tuple[int, int], ...]:
    """The pairs with the least sum of squared misses; each as it is where that is no better, or where one is missing."""
    if set(parents) != set(sleeves):
        return tuple((p, p) for p in parents if p in sleeves)
    from redline_bore.core.assign import assign_pistons  # when sleeves are matched, not at the start

    rows, columns = list(parents), list(sleeves)
    picked = assign_pistons([sleeves[s] for s in columns], [parents[p] for p in rows], usual_mm)
    own = sum((sleeves[p] - parents[p] - usual_mm) ** 2 for p in rows)
    if own <= picked.sum_of_squares_mm2 + 1e-8:
        return tuple((p, p) for p in rows)
    return tuple(sorted((rows[at], columns[i]) for i, at in enumerate(picked.piston_for_bore)))
