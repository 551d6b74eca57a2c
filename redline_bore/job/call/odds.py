"""How likely every size is to clean a block up, from all that was read, seen and gauged of it (methods 5). No words."""

from __future__ import annotations

from collections.abc import Sequence
from enum import IntEnum

from redline_bore.core.cleanup import Verdict
from redline_bore.core.cleanup_bound import CHORDS_FOR_MARKS, LEAST_CHORDS, Lacks
from redline_bore.core.cleanup_odds import FlawOdds, HoleOdds, OddsTerms, Share, chance_of_all, share_of
from redline_bore.core.errors import FitError
from redline_bore.core.frozen import frozen
from redline_bore.core.gauging import chord_apart
from redline_bore.job.call.ladder import NOT_TOUCHED_MM, Fate, Ladder, ladder_of
from redline_bore.job.call.need import Need
from redline_bore.job.gauge.analysis import CylinderShape, Level, flaws_of, mark_of, rules_of
from redline_bore.job.state.boring import Looked
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.calling import Apart
from redline_bore.job.state.gauging import Defect
from redline_bore.job.state.job_state import JobState

SHARE_SHOWS_FROM_MM = 0.03  # less wear tells nothing of its share
NO_END_MM = 0.150  # a flaw that catches hard is taken to be about as deep as its class
DEEP_SD = 1.6  # how many standard deviations the ends of a felt depth lie apart from its middle


class Likely(IntEnum):
    """How likely a size is to do, by what is said of it; each from the chance in ``FROM`` on."""

    NO = 0
    MAY = 1  # look first: no figure is told
    EIGHT = 2
    NINE = 3
    NINETEEN = 4
    WILL = 5


FROM = ((0.98, Likely.WILL), (0.93, Likely.NINETEEN), (0.85, Likely.NINE), (0.75, Likely.EIGHT), (0.005, Likely.MAY))


def likely(chance: float) -> Likely:
    """What is said of a chance, rounded down.

    >>> [likely(p).name for p in (0.979, 0.93, 0.7499, 0.001)]
    ['NINETEEN', 'NINETEEN', 'MAY', 'NO']
    """
    return next((word for least, word in FROM if chance >= least), Likely.NO)


@frozen
class Odds:
    """The holes of a block as chances: None for one of which too little is known. share: what is believed of the side that wore more."""

    holes: tuple[HoleOdds | None, ...]
    terms: OddsTerms
    share: Share
    told_in_figures: bool  # the share is known well enough


@once_a_state
def odds_of(state: JobState) -> Odds:
    """The holes of a block, as chances."""
    f, rules = state.figures, rules_of(state)
    terms = OddsTerms(
        rules.usual_share, f.number("cleanup.share_sd"), f.number("cleanup.share_within"), f.number("cleanup.odds_more"),
        f.number("cleanup.odds_sd"), f.number("cleanup.odds_unseen"), f.number("cleanup.patch_doubt"),
    )  # fmt: skip
    holes = tuple(_hole(state, column.need) for column in ladder_of(state).columns)
    share = share_of([h for h in holes if h is not None], terms)
    return Odds(holes, terms, share, share.sd <= f.number("cleanup.share_known") + 1e-9)


def _hole(state: JobState, need: Need) -> HoleOdds | None:
    shape = need.shape
    if shape.wear is None or need.cleanup is None:
        return None
    unworn, worn = shape.wear.reference_mm, max(shape.wear.largest_reading_mm, 0.0)
    f, lacks = state.figures, need.cleanup.lacks
    swept = _swept(state, need)
    stand, stand_sd = f.row("cleanup.odds_stand") if swept is None and _leans(lacks) else (0.0, 0.0)
    few = Lacks.STOP_LEVEL in lacks or any(v.fit.distinct_chords < LEAST_CHORDS for v in shape.levels)
    seen = (swept - unworn) / (2.0 * worn) if swept is not None and worn >= SHARE_SHOWS_FROM_MM else None
    clean, shadow, patch = _looked(state, need.cylinder, shape)
    return HoleOdds(
        unworn, worn, tuple(_flaw(state, d, shape) for d in _to_cut(state, need)), swept, None if seen is None else min(max(seen, 0.5), 1.0),
        stand, stand_sd, f.number("cleanup.odds_few") if few else 0.0, clean, shadow, patch,
    )  # fmt: skip


def _leans(lacks: Sequence[Lacks]) -> bool:
    return Lacks.STANDING in lacks or Lacks.AXIS in lacks


def _swept(state: JobState, need: Need) -> float | None:
    """The size that the swept wall itself asks for about the cut's axis, mm; None where it was not swept."""
    if need.swept is None:
        return None
    from redline_bore.job.call.swept import swept_wall_mm  # of a hole that was swept only

    try:
        return swept_wall_mm(state, need.cylinder, need.swept.axis)
    except FitError:
        return None


def _to_cut(state: JobState, need: Need) -> list[Defect]:
    """The flaws that a cut is to reach under, and that no sweep has read."""
    if need.swept is None:
        return [d for d in flaws_of(state, need.cylinder) if d.is_cut_out]
    from redline_bore.job.call.swept import unread_flaws

    return unread_flaws(state, need.cylinder)


def _flaw(state: JobState, flaw: Defect, shape: CylinderShape) -> FlawOdds:
    """A flaw as a chance: a felt depth lies anywhere in its class, about its middle; a measured one close to what was measured."""
    mark, worn = mark_of(flaw, rules_of(state)), _worn_near(flaw, shape)
    if flaw.measured:
        deep = max((flaw.deep_low_mm + flaw.deep_high_mm) / 2.0, 1e-4)
        return FlawOdds(worn, deep, min(0.5 * state.figures.number("cleanup.measured_doubt") / deep, 0.7))
    low, high = max(mark.low_mm, 0.001), NO_END_MM if mark.high_mm is None else max(mark.high_mm, 0.002)
    return FlawOdds(worn, (low * high) ** 0.5, _log(high / low) / (2.0 * DEEP_SD))


def _log(ratio: float) -> float:
    from math import log

    return log(max(ratio, 1.0 + 1e-6))


def _worn_near(flaw: Defect, shape: CylinderShape) -> float:
    """The two-point wear at the level and the chord nearest a flaw, mm on diameter."""
    assert shape.wear is not None
    middle = (flaw.top_mm + flaw.bottom_mm) / 2.0
    level: Level = min(shape.levels, key=lambda v: abs(v.depth_mm - middle))
    spot = min(level.spots, key=lambda s: chord_apart(s.clock_deg, flaw.clock_deg))
    if len(level.spots) < CHORDS_FOR_MARKS:  # the chords stand far apart: the larger of what lies about it
        spot = max(level.spots, key=lambda s: s.size_mm)
    return max(spot.size_mm - shape.wear.reference_mm, 0.0)


def _looked(state: JobState, cylinder: int, shape: CylinderShape) -> tuple[float | None, float | None, float | None]:
    """The size at which it was seen clean, the one at which a patch was seen that nobody gauged, and the size a gauged patch asks for."""
    looks: list[Looked] = [k for k in state.boring.looks if k.cylinder == cylinder]
    read = 0.0 if shape.largest is None else shape.largest.size_mm
    clean = [k.size_mm for k in looks if k.clean and k.size_mm > read - NOT_TOUCHED_MM]
    shadows = [k for k in looks if not k.clean]
    here = [k for k in shadows if k.size_mm == shadows[-1].size_mm]  # of the hole as it stands
    gauged = [k.deep_mm for k in here if k.deep_mm is not None]
    if clean or not shadows:
        return min(clean, default=None), None, None
    if gauged:
        return None, None, here[0].size_mm + 2.0 * max(gauged)
    return None, here[0].largest_mm, None


def _size(fate: Fate, under: float) -> float:
    """Where a cylinder ends if its piston lies so far, 0 to 1, between the most and the least that pistons measure under their name."""
    return fate.end.least_mm + under * (fate.end.most_mm - fate.end.least_mm)


def _bored(fates: Sequence[Fate]) -> list[Fate]:
    return [f for f in fates if not f.sleeved]


@once_a_state
def chance_at(state: JobState, oversize_mm: float, apart: tuple[Apart, ...] = ()) -> float | None:
    """The chance that every cylinder is clean at a call; nought where one is known to fail; None where one is not known."""
    return _chance(state, _bored(ladder_of(state).fates(oversize_mm, apart)))


@once_a_state
def chance_in(state: JobState, cylinder: int, oversize_mm: float, apart: tuple[Apart, ...] = ()) -> float | None:
    """The same of one cylinder."""
    return _chance(state, [f for f in _bored(ladder_of(state).fates(oversize_mm, apart)) if f.cylinder == cylinder])


def _chance(state: JobState, fates: list[Fate]) -> float | None:
    if any(f.verdict is Verdict.WILL_NOT or f.too_thin for f in fates):  # a crack is another matter
        return 0.0
    odds = odds_of(state)
    open_yet = [f for f in fates if f.verdict is not Verdict.CLEANS_UP]  # what is proven needs no chance
    holes = [odds.holes[f.cylinder - 1] for f in open_yet]
    known = [h for h in holes if h is not None]
    if len(known) < len(holes):
        return None
    return chance_of_all(known, lambda i, u: _size(open_yet[i], u), odds.terms, odds.share) if known else 1.0


def likeliest_to_fail(state: JobState, oversize_mm: float, apart: tuple[Apart, ...] = ()) -> int | None:
    """The cylinder that is least likely to come out clean at a call; None where every one is proven, or one is not known."""
    fates = _bored(ladder_of(state).fates(oversize_mm, apart))
    chances = {f.cylinder: chance_in(state, f.cylinder, oversize_mm, apart) for f in fates if not f.sound}
    known = {c: p for c, p in chances.items() if p is not None}
    return min(known, key=lambda c: (known[c], c), default=None) if len(known) == len(chances) else None


def pistons_first(state: JobState, ladder: Ladder, oversize_mm: float) -> bool:
    """Whether the pistons of a size are here, or are to be before the bar cuts."""
    here = all(f.end.measured for f in ladder.fates(oversize_mm))
    return here or state.booking.practice("pistons") == "in hand first"


def is_last(ladder: Ladder, oversize_mm: float, apart: tuple[Apart, ...] = ()) -> bool:
    """Whether no larger size is left that may do: the cut and a look are the only way to know."""
    return not any(r > oversize_mm + 1e-9 and ladder.possible(r, apart) for r in ladder.rungs_mm)


def needed_chance(state: JobState, cylinder: int, first: bool, last: bool = False) -> float:
    """How likely a cylinder has to come out for its size to stand: more once it was looked into, for pistons come next; most with a dark patch
    that was gauged. first: pistons are here, or come before the bar. last: there is no larger size to go to."""
    if last:
        return state.figures.number("cleanup.last_from")
    seen = [k for k in state.boring.looks if k.cylinder == cylinder]
    dark = bool(seen) and not seen[-1].clean and seen[-1].deep_mm is not None
    clean_or_here = first or bool(seen)
    return state.figures.number(f"cleanup.{'patch' if dark else 'order' if clean_or_here else 'look'}_from")


def worth_taking(state: JobState, ladder: Ladder, oversize_mm: float, apart: tuple[Apart, ...] = ()) -> bool:
    """Whether a call is the cheaper way beside the next size: so likely to do that being wrong costs less, in all and in every cylinder."""
    p = chance_at(state, oversize_mm, apart)
    first, last = pistons_first(state, ladder, oversize_mm), is_last(ladder, oversize_mm, apart)
    if last and p is not None:
        return p >= state.figures.number("cleanup.last_from") - 1e-9
    if p is None or p < state.figures.number(f"cleanup.{'order' if first else 'look'}_from") - 1e-9:
        return False
    return all(
        (chance_in(state, f.cylinder, oversize_mm, apart) or 0.0) >= needed_chance(state, f.cylinder, first) - 1e-9
        for f in _bored(ladder.fates(oversize_mm, apart))
        if not f.sound
    )


def odds_told(state: JobState) -> bool:
    """Whether a chance is told in figures: the share of wear on the worse side is known well enough in this block."""
    return odds_of(state).told_in_figures
