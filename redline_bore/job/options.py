"""What can be done with this block: every way the trade has, ranked, each with its reasons and what it costs.

Surest first; of equals, the one that the practice prefers, then the one that takes least metal.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from redline_bore.core.block import bore_positions
from redline_bore.core.lengths import Units
from redline_bore.job.advice import Advice, FigureLine, Mark, Show, WorkLine, cylinders, every, listed
from redline_bore.job.entries import Apart
from redline_bore.job.gauge import gap_taper
from redline_bore.job.ladder import Fate, Ladder, ladder_of, within_limits
from redline_bore.job.practices import practice
from redline_bore.job.redline import leading_window
from redline_bore.job.state import JobState

SURE, MAY, UNKNOWN, NO = "sure", "may do", "not known", "no"
RANK = {SURE: 0, MAY: 1, UNKNOWN: 2, NO: 3}


@dataclass(frozen=True)
class Option:
    """One way. ``oversize_mm`` and ``apart`` are the call it stands for; None: nothing is bored.

    stock_mm: to take from each cylinder on diameter, None where it is not known. ``needs``: what to measure to be sure.
    """

    key: str
    title: str
    standing: str
    oversize_mm: float | None
    apart: tuple[Apart, ...]
    reasons: tuple[str, ...]
    needs: tuple[str, ...]
    stock_mm: tuple[float | None, ...]
    rebuilds_left: int | None
    pistons: int
    sleeves: int
    minutes: float
    preferred: bool = False

    @property
    def most_stock_mm(self) -> float:
        return max([s for s in self.stock_mm if s is not None], default=0.0)

    @property
    def rank(self) -> tuple[int, int, float, float]:
        return RANK[self.standing], 0 if self.preferred else 1, self.most_stock_mm + 0.3 * self.sleeves, self.minutes


def options_of(state: JobState) -> tuple[Option, ...]:
    """Every option, the best first."""
    return state.remembered("options", lambda: tuple(sorted(_all(state), key=lambda o: o.rank)))


def _all(state: JobState) -> list[Option]:
    ladder = ladder_of(state)
    found = [_light(state, ladder, *light) for light in _LIGHT]
    if (custom := _custom(state, ladder)) is not None:
        found.append(custom)
    found += [_rung(state, ladder, rung) for rung in ladder.rungs_mm]
    found += _apart_ones(state, ladder)
    found.append(_all_sleeved(state, ladder))
    found.append(_scrap(state, found))
    return found


_LIGHT = (
    ("leave", "Leave it as it is", "everyday"),
    ("deglaze", "Deglaze only", "deglaze"),
    ("rering", "Re-ring with the pistons there are", "rering"),
)


def _light(state: JobState, ladder: Ladder, key: str, title: str, limits: str) -> Option:
    """Leaving, deglazing, re-ringing: nothing is bored, and the hole must be inside its limits."""
    inside, needs = within_limits(state, limits), []
    reasons: list[str] = []
    standing = SURE if inside else NO
    if inside:
        reasons.append(f"every cylinder is inside the limits for {key.replace('rering', 're-ringing')}")
    elif ladder.unknown and key != "leave" and (told := by_ring_gaps(state, limits)) is not None:
        standing, reasons = told
        needs.append("borrow a bore gauge and read it: ring gaps show neither size nor out of round")
    elif ladder.unknown:
        standing, reasons = UNKNOWN, [f"{cylinders(ladder.unknown)} not gauged fully"]
        needs.append(_first_need(ladder))
    else:
        reasons.append(_why_outside(state, ladder, limits))
    if key == "rering" and standing == SURE:
        standing, more = _rering_clearance(state, ladder)
        reasons += more
        if standing != SURE:
            needs.append("measure every piston at its gauge point")
    if key != "leave" and standing in (SURE, MAY):
        reasons.append(stop_rule(state))
    count = state.block.cylinders
    minutes = {"leave": 0.0, "deglaze": _m(state, "hone") * count, "rering": _m(state, "hone") * count}[key]
    minutes += _m(state, "wash") + _m(state, "sheet")
    return Option(
        key, title, standing, None, (), tuple(reasons), tuple(n for n in needs if n), (0.0,) * count, None, 0, 0, minutes,
        key == "deglaze" and state.book_in.purpose == "deglaze" or key == "rering" and state.book_in.purpose == "re-ring",
    )  # fmt: skip


def by_ring_gaps(state: JobState, limits: str) -> tuple[str, list[str]] | None:
    """Where nothing but ring gaps was read: what their taper says against a set of limits; None without two gaps each."""
    tapers = [gap_taper(state, c) for c in state.cylinders]
    if any(t is None for t in tapers):
        return None
    show, limit = Show(state.units), state.figures.number(f"limits.{limits}_taper")
    u = math.sqrt(2.0) * state.figures.number("gauging.feeler_u") / math.pi
    worst = max(abs(t) for t in tapers if t is not None)
    told = f"taper by ring gaps {show.size(worst)} ± {show.size(u)}, limit {show.size(limit)}"
    if worst > limit + u:
        return NO, [told]
    return MAY, [f"{told}: too close to call with a ring and a feeler" if worst > limit - u else told]


def stop_rule(state: JobState) -> str:
    """When a drill hone is to stop: after so many strokes, or as soon as it takes size, told by a ring's gap."""
    show, f = Show(state.units), state.figures
    low, high = f.row("honing.deglaze_strokes")
    most = f.number("honing.deglaze_most")
    return (
        f"by drill hone {low:.0f} to {high:.0f} strokes, even in and out, then stop and look; stop for good when a ring's gap has "
        f"grown by {show.unit(show.size(math.pi * most))}, which is {show.size(most)} of size"
    )


def _rering_clearance(state: JobState, ladder: Ladder) -> tuple[str, list[str]]:
    window = leading_window(state)
    measured = {p.cylinder: p.size_mm for p in state.pistons}
    if len(measured) < len(ladder.columns):
        return MAY, ["the pistons there are have not all been measured"]
    over = [
        c.cylinder
        for c in ladder.columns
        if c.shape.largest is not None and c.shape.largest.size_mm - measured[c.cylinder] > window.high_mm
    ]
    if over:
        return NO, [f"the clearance of {cylinders(over)} would be over {window.source}"]
    return SURE, [f"the pistons there are stand inside {window.source}"]


def _why_outside(state: JobState, ladder: Ladder, limits: str) -> str:
    if marked := [c.cylinder for c in ladder.columns if state.defects_of(c.cylinder)]:
        return f"{cylinders(marked)} marked with a defect"
    worn = max(ladder.columns, key=lambda c: c.shape.wear.largest_reading_mm if c.shape.wear else 0.0)
    return f"cylinder {worn.cylinder} is worn past the limits for it"


def _custom(state: JobState, ladder: Ladder) -> Option | None:
    """Honed to the nearest thousandth or hundredth over what all need, for pistons made to measure."""
    if ladder.unknown:
        return None
    step = 0.0254 if state.units is Units.INCH else 0.01
    need = max(c.cleanup.high_mm for c in ladder.columns if c.cleanup) - ladder.nominal_mm
    over = math.ceil(round(need / step, 6)) * step
    option = _bored(state, ladder, f"custom:{over:.4f}", "", over, ())
    most = state.figures.number("boring.hone_most")
    honed = option.most_stock_mm <= most
    show = Show(state.units)
    title = f"{'Hone' if honed else 'Bore and hone'} to {show.away(over)} with pistons made to measure"
    reasons = (*option.reasons, "the least size that cleans all up; the pistons have to be made, and waited for")
    if not honed:
        reasons += (f"up to {show.size(option.most_stock_mm)} to take is more than a hone alone should",)
    return _with(option, title=title, reasons=reasons)


def _rung(state: JobState, ladder: Ladder, rung: float) -> Option:
    show = Show(state.units)
    title = f"Bore {every(len(ladder.columns))} {show.step(rung).lstrip('+')} over"
    return _bored(state, ladder, f"rung:{rung:.4f}", title, rung, (), state.practice("odd_cylinder") == "goes with all")


def _apart_ones(state: JobState, ladder: Ladder) -> list[Option]:
    """One cylinder sleeved or at its own size, the rest at the smallest size that surely does for them."""
    worst, show = ladder.worst, Show(state.units)
    if worst is None or len(ladder.columns) < 2:
        return []
    rest, all_of = ladder.smallest_sure_without(worst.cylinder), ladder.smallest_sure
    if rest is None or (all_of is not None and rest >= all_of):
        return []  # the worst cylinder holds nobody back
    found, step = [], show.step(rest).lstrip("+")
    sleeve = (Apart(cylinder=worst.cylinder, way="sleeve"),)
    wish = state.practice("odd_cylinder")
    title = f"Sleeve {worst.cylinder}, bore the rest {step} over"
    found.append(_bored(state, ladder, f"sleeve:{worst.cylinder}", title, rest, sleeve, wish == "is sleeved"))
    repair = f"Repair sleeve in {worst.cylinder}, bore the rest {step} over"
    found.append(_bored(state, ladder, f"repair:{worst.cylinder}", repair, rest, sleeve, False, thick=True))
    if all_of is not None:
        own = (Apart(cylinder=worst.cylinder, way="own", oversize_mm=all_of),)
        title = f"{worst.cylinder} to {show.step(all_of)}, the rest {step} over"
        found.append(_bored(state, ladder, f"own:{worst.cylinder}", title, rest, own, wish == "own size"))
    return found


def _all_sleeved(state: JobState, ladder: Ladder) -> Option:
    apart = tuple(Apart(cylinder=c.cylinder, way="sleeve", oversize_mm=0.0) for c in ladder.columns)
    many = "Sleeve it" if len(apart) == 1 else f"Sleeve {every(len(apart))}"
    return _bored(state, ladder, "sleeve_all", f"{many}, back to nominal", 0.0, apart)


def _scrap(state: JobState, others: Sequence[Option]) -> Option:
    cracked = [c for c in state.cylinders if any(d.what.startswith("crack") for d in state.defects_of(c))]
    best = min((RANK[o.standing] for o in others), default=3)
    if cracked:
        standing, reason = MAY, f"{cylinders(cracked)} cracked: pressure-test before anything else"
    elif best == RANK[NO]:
        standing, reason = SURE, "nothing else is left that is known to work"
    else:
        standing, reason = NO, "there is another way"
    return Option(
        "scrap",
        "Do not use this block",
        standing,
        None,
        (),
        (reason,),
        (),
        (None,) * state.block.cylinders,
        None,
        0,
        0,
        0.0,
    )


def _bored(
    state: JobState, ladder: Ladder, key: str, title: str, oversize_mm: float, apart: tuple[Apart, ...],
    preferred: bool = False, thick: bool = False,
) -> Option:  # fmt: skip
    """An option that bores: standing and reasons from what it does with each cylinder."""
    fates = ladder.fates(oversize_mm, apart)
    standing, reasons, needs = _standing(state, fates, thick)
    size, sleeves = ladder.nominal_mm, sum(f.way == "sleeve" for f in fates)
    stock = tuple(
        None if f.column.shape.mean_mm is None else size + f.oversize_mm - f.column.shape.mean_mm for f in fates
    )
    left = [
        sum(r > f.oversize_mm + 1e-9 and not f.column.too_thin(size + r) for r in ladder.rungs_mm)
        for f in fates
        if f.way != "sleeve"
    ]
    rebuilds = min(left) if left else len(ladder.rungs_mm)
    return Option(
        key, title, standing, oversize_mm, apart, tuple(reasons), tuple(dict.fromkeys(needs)), stock, rebuilds,
        len(fates), sleeves, _minutes(state, sleeves), preferred,
    )  # fmt: skip


def call_as_option(state: JobState, oversize_mm: float, apart: tuple[Apart, ...]) -> Option:
    """Any call, weighed as an option."""
    return _bored(state, ladder_of(state), "call", "", oversize_mm, apart)


def _standing(state: JobState, fates: Sequence[Fate], thick: bool) -> tuple[str, list[str], list[str]]:
    show, reasons, needs, standing = Show(state.units), [], [], SURE
    fails, unknown = [f for f in fates if f.fails], [f for f in fates if f.way != "sleeve" and f.verdict is None]
    may = [f for f in fates if f.way != "sleeve" and not f.sound and not f.fails and f.verdict is not None]
    for f in fails:
        reasons.append(f"cylinder {f.cylinder} {'would be too thin' if f.too_thin else 'will not clean up'}")
    if may:
        standing = MAY
        reasons.append(f"{listed([f.cylinder for f in may])} may keep a shadow")
        needs += [_need_of(f, show) for f in may]
    if unknown:
        standing = UNKNOWN
        reasons.append(f"{cylinders([f.cylinder for f in unknown])} not known")
        needs.append(f"gauge {cylinders([f.cylinder for f in unknown])}")
    unread = [f.cylinder for f in fates if f.way != "sleeve" and (f.column.ceiling_mm is None or f.column.unread)]
    if unread and not fails:
        needs.append(f"read the wall of {cylinders(unread)}")
        reasons.append(f"the wall left in {listed(unread)} is unknown")
        standing = MAY if standing == SURE else standing
    for f in fates:
        if f.way == "sleeve":
            standing, more, wants = _seat(state, f, thick, standing)
            reasons += more
            needs += wants
            if f.column.cleanup is None and standing != NO:
                standing = UNKNOWN  # it may not need a sleeve at all
                needs.append(f"gauge cylinder {f.cylinder}")
    if fails:
        standing = NO
    if standing == SURE and not any(f.way == "sleeve" for f in fates):
        reasons.append("every cylinder surely cleans up, and every wall that was read stays over its limit")
    return standing, reasons, needs


def _need_of(fate: Fate, show: Show) -> str:
    shape = fate.column.shape
    if shape.deciding_defect is not None and not shape.deciding_defect.measured:
        return f"measure the {shape.deciding_defect.what} in {fate.cylinder}"
    where = "" if shape.deciding is None else f", above all {show.down(shape.deciding.depth_mm)}"
    return f"sweep cylinder {fate.cylinder}{where}"


def _seat(state: JobState, fate: Fate, thick: bool, standing: str) -> tuple[str, list[str], list[str]]:
    """Whether the parent wall can carry a sleeve: what is left of the wall read behind it."""
    f = state.figures
    wall, least = f.number("sleeves.repair_wall" if thick else "sleeves.wall"), f.number("sleeves.parent_least")
    read = [w.wall_mm for w in state.wall_readings if w.cylinder == fate.cylinder]
    if not read:
        return (MAY if standing == SURE else standing), [f"the parent wall of {fate.cylinder} is unknown"], [
            f"read the wall of cylinder {fate.cylinder}"
        ]  # fmt: skip
    left = min(read) - wall
    if left < least:
        return NO, [f"behind a sleeve in {fate.cylinder} only {left:.1f} mm of parent would stand"], []
    return standing, [f"{left:.1f} mm of parent stand behind the sleeve in {fate.cylinder}"], []


def _first_need(ladder: Ladder) -> str:
    first = next((c for c in ladder.columns if c.cleanup is None), None)
    return "" if first is None else f"gauge cylinder {first.cylinder}: {first.reason[0].lower()}{first.reason[1:]}"


def _m(state: JobState, name: str) -> float:
    return state.figures.number(f"bench_time.{name}")


def _minutes(state: JobState, sleeves: int) -> float:
    """Rough bench time of boring, sleeving, honing and finishing, from the shop's rates."""
    count, decks = state.block.cylinders, len({b.bank for b in bore_positions(state.block)})
    holes = count + sleeves  # a sleeved hole is bored twice
    total = decks * (_m(state, "set_up_bar") + _m(state, "plate")) + holes * (_m(state, "bore") + _m(state, "cutting"))
    total += (
        sleeves * _m(state, "sleeve") + _m(state, "set_up_hone") + count * (_m(state, "hone") + _m(state, "finish"))
    )
    return total + _m(state, "wash") + _m(state, "sheet")


def _with(option: Option, **changes: object) -> Option:
    from dataclasses import replace

    return replace(option, **changes)  # type: ignore[arg-type]


def close_call(options: Sequence[Option]) -> Option | None:
    """The runner-up, where one measurement could put it first: it needs something and takes less metal or no sleeve."""
    best = options[0]
    return next(
        (
            o
            for o in options[1:]
            if o.standing == MAY
            and o.needs
            and o.oversize_mm is not None
            and o.most_stock_mm < best.most_stock_mm - 1e-6
        ),
        None,
    )


def advise(state: JobState, index: int, show: Show) -> Advice:
    """The best option in a sentence, and the one that is looked at in figures."""
    options = options_of(state)
    best, chosen = options[0], options[min(index, len(options) - 1)]
    sentence, mark = _best_sentence(best, options)
    changes = [f"{r[0].upper()}{r[1:]}." for r in chosen.reasons]
    changes += [f"To be sure: {need}." for need in chosen.needs]
    return Advice(
        f"Call · {chosen.title}", sentence, _figures(chosen, show), tuple(changes), _working(state, chosen, show),
        "Put the redline there" if chosen.oversize_mm is not None and chosen.standing != NO else "",
        "Weigh what is left for the next time: metal does not go back on.", mark,
    )  # fmt: skip


def _best_sentence(best: Option, options: Sequence[Option]) -> tuple[str, Mark]:
    if best.standing in (UNKNOWN, NO):
        return "Nothing is known well enough to call. Measure first.", Mark.LOOK
    close = close_call(options)
    if best.standing == MAY:
        return f"{best.title}: it may do. First {best.needs[0] if best.needs else 'measure'}.", Mark.LOOK
    if close is not None:
        return f"{best.title}. A close call: {close.needs[0]}, and {_first_lower(close.title)} may do.", Mark.SOUND
    return f"{best.title}.", Mark.SOUND


def _first_lower(text: str) -> str:
    return text[:1].lower() + text[1:]


def _figures(option: Option, show: Show) -> tuple[FigureLine, ...]:
    marks = {SURE: Mark.SOUND, MAY: Mark.LOOK, UNKNOWN: Mark.LOOK, NO: Mark.STOP}
    lines = [FigureLine("stands", option.standing, marks[option.standing])]
    known = [s for s in option.stock_mm if s is not None]
    if option.oversize_mm is not None and known:
        lines.append(FigureLine("stock on diameter", show.unit(f"{show.rough(min(known))}–{show.rough(max(known))}")))
    if option.rebuilds_left is not None:
        lines.append(FigureLine("rebuilds left after", str(option.rebuilds_left)))
    lines.append(FigureLine("pistons to order", str(option.pistons) if option.pistons else "none"))
    if option.sleeves:
        lines.append(FigureLine("sleeves to order", str(option.sleeves)))
    lines.append(FigureLine("bench time, rough", f"{option.minutes / 60:.1f} h"))
    return tuple(lines)


def _working(state: JobState, option: Option, show: Show) -> tuple[WorkLine, ...]:
    lines = []
    for cylinder, stock in zip(state.cylinders, option.stock_mm, strict=True):
        if stock is not None and option.oversize_mm is not None:
            way = next((a.way for a in option.apart if a.cylinder == cylinder), "bored")
            lines.append(
                WorkLine(f"{cylinder}: {way}, {show.size(stock)} on diameter, {show.size(stock / 2)} a side", "")
            )
    wish = practice("odd_cylinder", state.practice("odd_cylinder"))
    lines.append(WorkLine(f"one odd cylinder: {wish.title}, since that is {wish.reason}", "practice"))
    lines.append(WorkLine(f"bench time {option.minutes:.0f} min", "bench_time.toml, the shop's own rates"))
    return tuple(lines)
