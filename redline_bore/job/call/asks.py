"""What is worth reading before metal is cut, what would prove a call, and which holes are bored first and looked into. No words.

Only what can change what is done, and costs less than being wrong, is asked for; all of it at once. What would prove the rest is told beside
it and never asked.
"""

from __future__ import annotations

from collections.abc import Sequence
from enum import Enum, auto

from redline_bore.core.cleanup import Verdict
from redline_bore.core.cleanup_bound import LEAST_CHORDS, Lacks
from redline_bore.core.cleanup_odds import chance
from redline_bore.core.frozen import frozen, replace
from redline_bore.job.call.hone_out import hone_sizes, hones_out
from redline_bore.job.call.ladder import Fate, Ladder, ladder_of
from redline_bore.job.call.odds import chance_at, chance_in, likeliest_to_fail, odds_of, pistons_first, worth_taking
from redline_bore.job.call.sweeps import sweeps_missing
from redline_bore.job.call.walls import WallPlace, four_places, places_to_read, thinnest_places, wall_asked
from redline_bore.job.gauge.analysis import CylinderShape, flaws_of
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.calling import Apart
from redline_bore.job.state.gauging import Defect
from redline_bore.job.state.hole import cut_mm
from redline_bore.job.state.job_state import JobState

CHORDS_ASKED = 4
FLAW_COUNTS = 0.03  # by so much a flaw has to lower the chance of its hole to be what decides


class AskFor(Enum):
    """What is to be read."""

    GAUGE = auto()
    MARK = auto()  # how deep the flaw that decides is
    RING_STOP = auto()  # where the top ring stops
    SWEEP = auto()
    CHORDS = auto()
    WALL = auto()
    WALL_THROUGH = auto()  # what was read: the liner alone, or liner and parent
    WALL_AGAIN = auto()
    PISTON = auto()


@frozen
class Ask:
    """Something to read of a cylinder. depths_mm: where it is swept or read; places: of the wall; mark: the flaw; over_mm: the size in
    name, over nominal, that the piston to be measured is sold for."""

    what: AskFor
    cylinder: int
    depths_mm: tuple[float, ...] = ()
    places: tuple[WallPlace, ...] = ()
    mark: Defect | None = None
    over_mm: float = 0.0


def proofs_of(state: JobState, fate: Fate) -> tuple[Ask, ...]:
    """What would prove what a call does with a cylinder; empty where it is settled, or where no reading settles it."""
    if fate.sleeved or fate.fails:
        return ()
    if fate.verdict is None:
        return (Ask(AskFor.GAUGE, fate.cylinder),)
    found = _of_cleanup(state, fate) if fate.verdict is Verdict.MAY_SHADOW else []
    if fate.column.cut_mm is not None:  # what it was worn to is gone; what the cut laid open is there
        found = [a for a in found if a.mark is not None and cut_mm(state, fate.cylinder, a.mark.seq) is not None]
    found += _of_wall(state, fate)
    return tuple(dict.fromkeys(found))


def _of_cleanup(state: JobState, fate: Fate) -> list[Ask]:
    column, c = fate.column, fate.column.cleanup
    assert c is not None
    number, need, found = fate.cylinder, column.need, []
    if need.mark is not None and not need.mark.measured:
        found.append(Ask(AskFor.MARK, number, mark=need.mark))
    elif Lacks.MARK_DEPTH in c.lacks:
        hard = [d for d in flaws_of(state, number) if d.is_cut_out and not d.measured]
        found += [Ask(AskFor.MARK, number, mark=d) for d in hard[:1]]
    if Lacks.STOP_NOT_MEASURED in c.lacks:
        found.append(Ask(AskFor.RING_STOP, number))
    if need.swept is None:
        if Lacks.CHORDS in c.lacks and (poor := poorest(column.shape)) is not None:
            found.append(Ask(AskFor.CHORDS, number, (poor,)))
        found.append(Ask(AskFor.SWEEP, number, sweeps_missing(state, number)))
    if not fate.end.measured and fate.end.most_mm >= c.high_mm:
        found.append(Ask(AskFor.PISTON, number, over_mm=fate.oversize_mm))
    return found


def poorest(shape: CylinderShape) -> float | None:
    """The depth of the level with too few chords, that was read at fewest; None where every level has enough."""
    poor = [v for v in shape.levels if v.fit.distinct_chords < LEAST_CHORDS]
    return min(poor, key=lambda v: v.fit.distinct_chords).depth_mm if poor else None


def _of_wall(state: JobState, fate: Fate) -> list[Ask]:
    number, walls = fate.cylinder, fate.column.walls
    if fate.wall_stands:
        return []
    if walls.to_read:
        return [Ask(AskFor.WALL, number, places=places_to_read(state, number))]
    if walls.through_missing:
        return [Ask(AskFor.WALL_THROUGH, number)]
    found = []
    if fate.column.need.swept is None and sweeps_missing(state, number) and fate.column.cut_mm is None:
        found.append(Ask(AskFor.SWEEP, number, sweeps_missing(state, number)))
    if again := thinnest_places(state, number):
        found.append(Ask(AskFor.WALL_AGAIN, number, places=again))
    if not fate.end.measured and walls.sure_mm is not None and fate.end.least_mm <= walls.sure_mm:
        found.append(Ask(AskFor.PISTON, number, over_mm=fate.oversize_mm))
    return found


def asks_at(state: JobState, ladder: Ladder, oversize_mm: float, apart: tuple[Apart, ...] = ()) -> tuple[Ask, ...]:
    """All that is worth reading before a call at a size is cut: what is not known at all, then the flaw that decides, a sweep, the walls."""
    return asks_among(state, ladder.fates(oversize_mm, apart), oversize_mm, apart)


def asks_among(
    state: JobState, fates: Sequence[Fate], oversize_mm: float, apart: tuple[Apart, ...] = ()
) -> tuple[Ask, ...]:
    """The same of some fates: the call, its options and the sheet all ask alike. What was left out by name is asked no more."""
    bored = [f for f in fates if not f.sleeved]
    if any(f.fails for f in bored):
        return ()
    if unknown := [f for f in bored if f.verdict is None]:
        return tuple(Ask(AskFor.GAUGE, f.cylinder) for f in unknown)
    found = [*_worth_measuring(state, bored, oversize_mm, apart), *(a for f in bored for a in _walls_asked(state, f))]
    return tuple(a for a in dict.fromkeys(found) if (a.what.name.lower(), a.cylinder) not in state.calling.left_out)


def _worth_measuring(
    state: JobState, fates: Sequence[Fate], oversize_mm: float, apart: tuple[Apart, ...]
) -> tuple[Ask, ...]:
    """The flaw that decides, or a sweep of the one cylinder that does, where that is cheaper than to find out by cutting. Source: methods 5."""
    if laid_open := [
        d for f in fates for d in _laid_open(state, f)
    ]:  # of a hole that is cut: it decides, and it is quickly measured
        return tuple(Ask(AskFor.MARK, d.cylinder, mark=d) for d in laid_open)
    p, worst = chance_at(state, oversize_mm, apart), likeliest_to_fail(state, oversize_mm, apart)
    fate = next((f for f in fates if f.cylinder == worst), None)
    if p is None or fate is None or fate.column.cleanup is None:
        return ()
    f, need = state.figures, fate.column.need
    if f.number("cleanup.look_from") <= p < f.number("cleanup.measure_to"):
        felt = [d for d in flaws_of(state, fate.cylinder) if d.is_cut_out and not d.measured]
        if felt and fate.column.cut_mm is None and _flaw_decides(state, fate):
            deepest = (
                need.mark
                if need.mark is not None and not need.mark.measured
                else max(felt, key=lambda d: d.deep_high_mm)
            )
            return (Ask(AskFor.MARK, fate.cylinder, mark=deepest),)
    low, high = f.row("cleanup.sweep_between")
    missing = sweeps_missing(state, fate.cylinder)
    if (
        fate.column.cut_mm is None
        and missing
        and low <= p < high
        and pistons_first(state, ladder_of(state), oversize_mm)
    ):
        return (Ask(AskFor.SWEEP, fate.cylinder, missing),)
    return ()


def _laid_open(state: JobState, fate: Fate) -> list[Defect]:
    """Flaws that were felt in a hole as it was cut, and not measured, where they may decide."""
    if fate.verdict is not Verdict.MAY_SHADOW or state.honing.checks_of(fate.cylinder)[1:]:
        return []
    felt = [d for d in flaws_of(state, fate.cylinder) if d.is_cut_out and not d.measured]
    return [d for d in felt if cut_mm(state, fate.cylinder, d.seq) is not None]


def _flaw_decides(state: JobState, fate: Fate) -> bool:
    """Whether the hole would likely do but for its flaws."""
    hole = odds_of(state).holes[fate.cylinder - 1]
    if hole is None or hole.patch_mm is not None:
        return False
    size = (fate.end.least_mm + fate.end.most_mm) / 2.0
    share, terms = odds_of(state).share.mean, odds_of(state).terms
    return chance(replace(hole, flaws=()), size, share, terms) - chance(hole, size, share, terms) > FLAW_COUNTS


def _walls_asked(state: JobState, fate: Fate) -> list[Ask]:
    """The places of a wall that are worth reading. Source: methods 6."""
    number, walls = fate.cylinder, fate.column.walls
    if fate.wall_stands or not wall_asked(state, number, fate.end.most_mm):
        return []
    if walls.through_missing:
        return [Ask(AskFor.WALL_THROUGH, number)]
    if places := four_places(state, number):
        return [Ask(AskFor.WALL, number, places=places)]
    again = thinnest_places(state, number)
    close = walls.sure_mm is not None and fate.end.most_mm > walls.sure_mm + 1e-9
    return [Ask(AskFor.WALL_AGAIN, number, places=again)] if again and close else []


def proofs_among(state: JobState, ladder: Ladder, fates: Sequence[Fate]) -> tuple[Ask, ...]:
    """What would prove a call: the first thing of every cylinder, the one that decides first."""
    worst = ladder.worst
    ranked = sorted(fates, key=lambda f: (worst is None or f.column is not worst, f.cylinder))
    return tuple(found[0] for f in ranked if (found := proofs_of(state, f)))


def look_first(state: JobState, ladder: Ladder, oversize_mm: float, apart: tuple[Apart, ...] = ()) -> tuple[int, ...]:
    """The cylinders that are looked into once they are bored to a call, the likeliest to fail first: it is bored before the others. None where
    every one is proven, or where nothing is bored."""
    if hones_out(state) or not ladder.possible(oversize_mm, apart):
        return ()
    enough, found = state.figures.number("cleanup.look_to"), list[tuple[float, int]]()
    for f in ladder.fates(oversize_mm, apart):
        if f.sleeved or f.sound:
            continue
        p = chance_in(state, f.cylinder, oversize_mm, apart)
        if p is None:
            return ()
        if p < enough:
            found.append((p, f.cylinder))
    return tuple(c for _p, c in sorted(found))


@once_a_state
def to_look_at(state: JobState) -> tuple[int, ...]:
    """The cylinders that are looked into once they are bored under the call that was taken, and were not yet; the first of them decides."""
    taken = state.calling.decision
    if taken is None or not taken.bores or not taken.by_bar:
        return ()
    found = look_first(state, ladder_of(state), taken.oversize_mm, taken.apart)
    return tuple(c for c in found if not state.honing.checks_of(c) and not _looked_at(state, c))


@once_a_state
def to_bore_first(state: JobState) -> int | None:
    """The cylinder that is bored and looked into before any other is: the likeliest to fail; None once a hole was looked into."""
    look = to_look_at(state)
    return look[0] if look and not state.boring.looks else None


def _looked_at(state: JobState, cylinder: int) -> bool:
    """Somebody looked into the hole as it stands."""
    bored = max((b.seq for b in state.boring.holes if b.cylinder == cylinder), default=0)
    return any(k.cylinder == cylinder and k.seq > bored > 0 for k in state.boring.looks)


def first_rung(state: JobState) -> float:
    """Where the redline stands before anyone moves it: the call that was taken; else the least size that is proven, or so likely that the next
    one costs more; else the least that is not known to fail."""
    taken, ladder = state.calling.decision, ladder_of(state).but_for_cracks()
    if taken is not None and taken.bores:
        return taken.oversize_mm
    for rung in hone_sizes(ladder) if hones_out(state) else ladder.rungs_mm:
        if ladder.possible(rung) and (ladder.sure(rung) or worth_taking(state, ladder, rung)):
            return rung
    for found in (ladder.smallest_sure, ladder.smallest_possible):
        if found is not None:
            return found
    return ladder.rungs_mm[-1] if ladder.rungs_mm else 0.0
