"""What to read next so that a call can be sure, and where: in the order of what it would settle. No words."""

from __future__ import annotations

from collections.abc import Sequence
from enum import Enum, auto

from redline_bore.core.cleanup import Verdict
from redline_bore.core.cleanup_bound import LEAST_CHORDS, Lacks
from redline_bore.core.frozen import frozen
from redline_bore.job.call.hone_out import hone_sizes, hones_out
from redline_bore.job.call.ladder import Fate, Ladder, ladder_of
from redline_bore.job.call.sweeps import sweeps_missing
from redline_bore.job.call.walls import WallPlace, places_to_read, thinnest_places
from redline_bore.job.gauge.analysis import CylinderShape, flaws_of
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.calling import Apart
from redline_bore.job.state.gauging import Defect
from redline_bore.job.state.hole import cut_mm
from redline_bore.job.state.job_state import JobState

CHORDS_ASKED = 4


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


def asks_of(state: JobState, fate: Fate) -> tuple[Ask, ...]:
    """What would settle what a call does with a cylinder; empty where it is settled, or where no reading settles it."""
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
        found.append(Ask(AskFor.SWEEP, number, sweeps_missing(state, number)))
        if Lacks.CHORDS in c.lacks and (poor := poorest(column.shape)) is not None:
            found.append(Ask(AskFor.CHORDS, number, (poor,)))
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
    """What to read next for a call at a size: the first thing of every cylinder, the one that decides first."""
    return asks_among(state, ladder, ladder.fates(oversize_mm, apart))


def asks_among(state: JobState, ladder: Ladder, fates: Sequence[Fate]) -> tuple[Ask, ...]:
    """The first thing to read of every cylinder, the one that decides first: the call, its options and the sheet all ask in this order."""
    worst = ladder.worst
    ranked = sorted(fates, key=lambda f: (worst is None or f.column is not worst, f.cylinder))
    return tuple(found[0] for f in ranked if (found := asks_of(state, f)))


def look_first(state: JobState, ladder: Ladder, oversize_mm: float, apart: tuple[Apart, ...] = ()) -> tuple[int, ...]:
    """The cylinders that may keep a shadow at a size, that no reading settles, and a cut does: bored before the others and looked at. Only
    where nothing is lost by it: every other cylinder surely comes out, every wall stands, and a larger size surely cleans up. That a wall
    may be too thin at the larger size speaks for the smaller cut, not against it; one that is known to be leaves no way on."""
    fates, sure = ladder.fates(oversize_mm, apart), ladder.smallest_sure
    doubtful = tuple(f.cylinder for f in fates if not f.sleeved and f.verdict is Verdict.MAY_SHADOW and not f.too_thin)
    if not doubtful or apart or hones_out(state) or sure is None or sure <= oversize_mm:
        return ()
    settled = all(f.wall_stands if f.cylinder in doubtful else f.sure for f in fates)
    return doubtful if settled and ladder.possible(sure) and not asks_at(state, ladder, oversize_mm, apart) else ()


@once_a_state
def to_look_at(state: JobState) -> tuple[int, ...]:
    """The cylinders that are bored first under the call that was taken, and looked at: they decide whether its size does."""
    taken = state.calling.decision
    if taken is None or not taken.bores or not taken.by_bar:
        return ()
    found = look_first(state, ladder_of(state), taken.oversize_mm, taken.apart)
    return tuple(c for c in found if not state.honing.checks_of(c) and not _looked_at(state, c))


def _looked_at(state: JobState, cylinder: int) -> bool:
    """Somebody looked into the hole as it stands."""
    bored = max((b.seq for b in state.boring.holes if b.cylinder == cylinder), default=0)
    return any(k.cylinder == cylinder and k.seq > bored > 0 for k in state.boring.looks)


def first_rung(state: JobState) -> float:
    """Where the redline stands before anyone moves it: the call that was taken; else the least size that is sure, or that one more
    reading, or a cut and a look, may make sure; else the least that is not known to fail."""
    taken, ladder = state.calling.decision, ladder_of(state).but_for_cracks()
    if taken is not None and taken.bores:
        return taken.oversize_mm
    for rung in hone_sizes(ladder) if hones_out(state) else ladder.rungs_mm:
        if ladder.possible(rung) and (
            ladder.sure(rung) or asks_at(state, ladder, rung) or look_first(state, ladder, rung)
        ):
            return rung
    for found in (ladder.smallest_sure, ladder.smallest_possible):
        if found is not None:
            return found
    return ladder.rungs_mm[-1] if ladder.rungs_mm else 0.0
