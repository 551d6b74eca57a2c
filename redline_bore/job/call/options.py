"""What can be done with this block: every way the trade has, ranked, each with its reasons and what it costs.

Surest first; of equals, the one that the practice prefers, then the one that takes least metal.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

from redline_bore.core.cleanup import Verdict
from redline_bore.core.frozen import replace
from redline_bore.core.lengths import Units
from redline_bore.job.call.asks import Ask, AskFor, asks_among
from redline_bore.job.call.cut import walls_as_gauged
from redline_bore.job.call.hone_out import hone_sizes, hones_out, stocks_mm
from redline_bore.job.call.ladder import Fate, Ladder, ladder_of
from redline_bore.job.call.light_options import light_options
from redline_bore.job.call.odds import chance_at, worth_taking
from redline_bore.job.call.option import (
    MAY,
    NO,
    RANK,
    SURE,
    UNKNOWN,
    Option,
    OptionKind,
    Standing,
    Weighed,
    bore_minutes,
    finish_minutes,
    hone_minutes,
    minutes_for,
)
from redline_bore.job.call.reason import Measure, Reason, ToMeasure, Why, about
from redline_bore.job.call.walls import places_to_read, thinnest_places
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.calling import Apart
from redline_bore.job.state.job_state import JobState


@once_a_state
def options_of(state: JobState) -> tuple[Option, ...]:
    """Every option, the best first."""
    return tuple(sorted(_all(state), key=lambda o: o.rank))


def _all(state: JobState) -> list[Option]:
    ladder = ladder_of(state)
    found = light_options(state, ladder)
    if (custom := _custom(state, ladder)) is not None:
        found.append(custom)
    if hones_out(state):
        found += [_honed_out(state, ladder, over) for over in hone_sizes(ladder)]
    else:
        found += [_rung(state, ladder, rung) for rung in ladder.rungs_mm]
    found += _apart_ones(state, ladder)
    found.append(_all_sleeved(state, ladder))
    found.append(_scrap(state, found))
    return found


def _custom(state: JobState, ladder: Ladder) -> Option | None:
    """Honed to the nearest thousandth or hundredth over what all need, for pistons made to measure."""
    if ladder.unknown:
        return None
    step = 0.0254 if state.units is Units.INCH else 0.01
    need = max(c.cleanup.high_mm for c in ladder.columns if c.cleanup) - ladder.nominal_mm
    over = math.ceil(round(need / step, 6)) * step
    option = _bored(state, ladder, OptionKind.CUSTOM, f"custom:{over:.4f}", over, ())
    stock = option.most_stock_mm or 0.0  # every cylinder is known here
    honed = stock <= state.figures.number("boring.hone_most")
    reasons = (*option.reasons, Reason(Why.LEAST_SIZE))
    if not honed:
        reasons += (Reason(Why.MUCH_FOR_A_HONE, mm=(stock,)),)
    return replace(option, by_hone=honed, reasons=reasons)


def _honed_out(state: JobState, ladder: Ladder, over: float) -> Option:
    """No bar: honed to the pistons there are, or to a listed size whose pistons are still to come."""
    option = _bored(state, ladder, OptionKind.HONE_OUT, f"hone:{over:.4f}", over, ())
    fates = ladder.fates(over)
    have = all(f.end.measured for f in fates)
    stock, reasons = option.most_stock_mm or 0.0, option.reasons
    if stock > state.figures.number("boring.hone_most"):
        reasons += (Reason(Why.MUCH_FOR_HONES, mm=(stock,)),)
    if not have:
        reasons += (Reason(Why.NO_PISTON_YET),)
    minutes = option.minutes - bore_minutes(state, len(fates))
    return replace(
        option, reasons=reasons, pistons=0 if have else option.pistons, minutes=minutes, by_hone=True, pistons_here=have,
        preferred=have or option.preferred,
    )  # fmt: skip


def _rung(state: JobState, ladder: Ladder, rung: float) -> Option:
    return _bored(state, ladder, OptionKind.RUNG, f"rung:{rung:.4f}", rung, ())


def _apart_ones(state: JobState, ladder: Ladder) -> list[Option]:
    """One cylinder sleeved or at its own size, the rest at the smallest size that surely does for them."""
    worst, kind = ladder.worst, OptionKind
    if worst is None or len(ladder.columns) < 2:
        return []
    c = worst.cylinder
    rest, all_of = ladder.smallest_sure_without(c), ladder.smallest_sure
    if rest is None or (all_of is not None and rest >= all_of):
        return []  # the worst cylinder holds nobody back
    sleeve = (Apart(cylinder=c, way="sleeve"),)
    wish = state.booking.practice("odd_cylinder")
    found = [
        _bored(state, ladder, kind.SLEEVE_ONE, f"sleeve:{c}", rest, sleeve, wish == "is sleeved"),
        _bored(state, ladder, kind.REPAIR_ONE, f"repair:{c}", rest, sleeve, False, thick=True),
    ]
    if all_of is not None:
        own = (Apart(cylinder=c, way="own", oversize_mm=all_of),)
        found.append(_bored(state, ladder, kind.OWN_SIZE, f"own:{c}", rest, own, wish == "own size"))
    return found


def _all_sleeved(state: JobState, ladder: Ladder) -> Option:
    apart = tuple(Apart(cylinder=c.cylinder, way="sleeve", oversize_mm=0.0) for c in ladder.columns)
    return _bored(state, ladder, OptionKind.SLEEVE_ALL, "sleeve_all", 0.0, apart)


def _scrap(state: JobState, others: Sequence[Option]) -> Option:
    cracked = [c for c in state.cylinders if any(d.stops for d in state.gauging.defects_of(c))]
    best = min((RANK[o.standing] for o in others), default=3)
    if cracked:
        standing, reason = MAY, about(Why.CRACKED, *cracked)
    elif best == RANK[NO]:
        standing, reason = SURE, Reason(Why.NOTHING_ELSE)
    else:
        standing, reason = NO, Reason(Why.ANOTHER_WAY)
    nothing = (None,) * state.block.cylinders
    return Option(OptionKind.SCRAP, "scrap", standing, None, (), (reason,), (), nothing, None, 0, 0, 0.0)


def _bored(
    state: JobState, ladder: Ladder, kind: OptionKind, key: str, oversize_mm: float, apart: tuple[Apart, ...],
    preferred: bool = False, thick: bool = False,
) -> Option:  # fmt: skip
    """An option that bores: standing and reasons from what it does with each cylinder."""
    fates = ladder.fates(oversize_mm, apart)
    weighed = _standing(state, fates, oversize_mm, apart, thick)
    sleeves = sum(f.sleeved for f in fates)
    stock = stocks_mm(fates)
    left = [
        sum(r > f.oversize_mm + 1e-9 and not f.column.too_thin(ladder.ends(f.cylinder, r)) for r in ladder.rungs_mm)
        for f in fates
        if not f.sleeved
    ]
    rebuilds = min(left) if left else len(ladder.rungs_mm)
    walls = [
        (f.column.ceiling_mm - f.end.most_mm) / 2.0 for f in fates if not f.sleeved and f.column.ceiling_mm is not None
    ]
    return Option(
        kind, key, weighed.standing, oversize_mm, apart, weighed.reasons, tuple(dict.fromkeys(weighed.needs)), stock, rebuilds,
        len(fates), sleeves, _minutes(state, sleeves), preferred, min(walls, default=None), all(f.sound for f in fates),
        chance=chance_at(state, oversize_mm, apart), worth=worth_taking(state, ladder, oversize_mm, apart),
    )  # fmt: skip


def call_as_option(state: JobState, oversize_mm: float, apart: tuple[Apart, ...]) -> Option:
    """Any call, weighed as an option."""
    return _bored(state, ladder_of(state), OptionKind.CALL, "call", oversize_mm, apart)


def _standing(
    state: JobState, fates: Sequence[Fate], oversize_mm: float, apart: tuple[Apart, ...], thick: bool
) -> Weighed:
    fails = [f for f in fates if f.fails]
    if fails:
        told = [about(_why_not(f), f.cylinder) for f in fails]
        return Weighed(NO, (*_seat_failures(state, fates, thick), *told))
    standing, reasons = _of_bored(fates)
    needs = [ToMeasure(Measure.ASKED, ask=ask) for ask in asks_among(state, fates, oversize_mm, apart)]
    for f in fates:
        if f.sleeved:
            seat = _seat(state, f, thick)
            reasons = [*seat.reasons, *reasons] if seat.standing is NO else [*reasons, *seat.reasons]
            standing = max(standing, seat.standing, key=lambda s: RANK[s])
            needs += seat.needs
            if f.column.untested:
                standing = max(standing, MAY, key=lambda s: RANK[s])
                reasons.append(about(Why.CRACKED, f.cylinder))
                needs.append(ToMeasure(Measure.PRESSURE_TEST, f.cylinder))
            if f.column.cleanup is None and standing != NO:
                standing = UNKNOWN  # it may not need a sleeve at all
                needs.append(ToMeasure(Measure.GAUGE, f.cylinder))
    if standing == SURE and not any(f.sleeved for f in fates):
        reasons.append(Reason(Why.ALL_SURE))
    return Weighed(standing, tuple(reasons), tuple(needs))


def _why_not(fate: Fate) -> Why:
    if fate.column.cracked:
        return Why.CRACKED
    if fate.cut_larger:
        return Why.CUT_LARGER
    return Why.TOO_THIN if fate.too_thin else Why.WILL_NOT


def _seat_failures(state: JobState, fates: Sequence[Fate], thick: bool) -> tuple[Reason, ...]:
    """Why sleeves would not sit, where they would not."""
    seats = [_seat(state, f, thick) for f in fates if f.sleeved]
    return tuple(reason for seat in seats if seat.standing is NO for reason in seat.reasons)


def _of_bored(fates: Sequence[Fate]) -> tuple[Standing, list[Reason]]:
    """How the cylinders that are bored stand, and why; none of them is known to fail."""
    bored = [f for f in fates if not f.sleeved]
    told = (
        (Why.MAY_SHADOW, [f.cylinder for f in bored if f.verdict is Verdict.MAY_SHADOW]),
        (Why.WALL_UNKNOWN, [f.cylinder for f in bored if f.column.unread]),
        (Why.WALL_CLOSE, [f.cylinder for f in bored if not f.column.unread and not f.wall_stands]),
    )
    reasons = [about(why, *numbers) for why, numbers in told if numbers]
    if unknown := [f.cylinder for f in bored if f.verdict is None]:
        return UNKNOWN, [about(Why.NOT_KNOWN, *unknown), *reasons]
    return (MAY if reasons else SURE), reasons


def _seat(state: JobState, fate: Fate, thick: bool) -> Weighed:
    """Whether the parent wall can carry a sleeve: what is left of the wall read behind it."""
    f, c = state.figures, fate.cylinder
    wall, least = f.number("sleeves.repair_wall" if thick else "sleeves.wall"), f.number("sleeves.parent_least")
    read = [w.wall_mm for w in walls_as_gauged(state, c)]
    if not read:
        return Weighed(MAY, (about(Why.PARENT_UNKNOWN, c),), (ToMeasure(Measure.READ_WALL, c),))
    left, doubt = min(read) - wall, f.number("wall.doubt")
    stands = (max(left, 0.0),)
    if left + doubt < least:
        return Weighed(NO, (about(Why.PARENT_TOO_THIN, c, mm=stands),))
    if places := places_to_read(state, c):
        asked = ToMeasure(Measure.ASKED, ask=Ask(AskFor.WALL, c, places=places))
        return Weighed(MAY, (about(Why.PARENT_IN_PART, c),), (asked,))
    if left - doubt < least:
        again = thinnest_places(state, c)
        asked = ToMeasure(Measure.ASKED, ask=Ask(AskFor.WALL_AGAIN, c, places=again))
        return Weighed(MAY, (about(Why.PARENT_CLOSE, c, mm=stands),), (asked,) if again else ())
    return Weighed(SURE, (about(Why.PARENT_STANDS, c, mm=stands),))


def _minutes(state: JobState, sleeves: int) -> float:
    """Rough bench time of boring, sleeving, honing and finishing; a sleeved hole is bored twice."""
    total = bore_minutes(state, state.block.cylinders + sleeves) + sleeves * minutes_for(state, "sleeve")
    total += hone_minutes(state) + finish_minutes(state)
    return total + minutes_for(state, "wash") + minutes_for(state, "sheet")
