"""What the sleeve step says: one sentence for the cylinder, the figures of the page that is on, what would change it."""

from __future__ import annotations

from collections.abc import Callable

from redline_bore.core.block import bank_of
from redline_bore.core.figures import cited
from redline_bore.core.show import Show
from redline_bore.job.bore.plan import all_bored, setting_for, window_now
from redline_bore.job.bore.tool_lessons import bar_misses
from redline_bore.job.call.option import MAY, NO, SURE
from redline_bore.job.card import Advice, FigureLine, Mark, Note, Said, WorkLine
from redline_bore.job.kinds.sleeve import outside_line
from redline_bore.job.redline import redline_of
from redline_bore.job.route import sleeved, sleeved_cylinders
from redline_bore.job.sleeve.deck import deck_of, seat_of
from redline_bore.job.sleeve.finding import COLD_ENOUGH_C, SleeveCall, SleeveFinding, judge
from redline_bore.job.sleeve.fit import (
    Grip,
    Hoop,
    SleeveFit,
    fit_of,
    held_by,
    in_aluminium,
    outside_range,
    wanted_interference,
)
from redline_bore.job.sleeve.heat import heat_plan
from redline_bore.job.sleeve.match import match_of
from redline_bore.job.sleeve.run import SleeveStage, Stage, all_in, closing_of, has_old, peel_mm, stage_of
from redline_bore.job.sleeve.ways import SleeveDoing, chosen_way, left_next_time, ways_of
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words.missing import say_missing
from redline_bore.job.words.run_sheet import stamp_notes
from redline_bore.job.words.sleeve_run import run_of
from redline_bore.job.words.sleeve_ways import HOLDERS, TITLES, say_why

CARE_COLD = "Hot blocks and frozen sleeves burn: gloves, face shield. Dry ice and nitrogen suffocate: doors open."
CARE_CUT = "Chips cut. Blocks crush: rated lifting gear, clamped before cutting."
MARKS = {SURE: Mark.SOUND, MAY: Mark.LOOK, NO: Mark.STOP}
TOLD_N = 50.0  # less is written as no force at all


def advise(state: JobState, cylinder: int, show: Show, page: str = "fit", at: str = "") -> Advice:
    """What to do now about a cylinder's sleeve."""
    found = judge(state, cylinder)
    sentence, mark = say(state, found, show)
    burns = found.call in (SleeveCall.GO_IN, SleeveCall.TOO_HOT, SleeveCall.READ)
    button = ""
    if all_in(state):
        button = "Stamp and go to the hone" if all_bored(state) else "Stamp and go to the bar"
    elif found.call is SleeveCall.TAKE_WAY and page == "fit":
        button = "Take this way"
    return Advice(
        f"Call · cylinder {cylinder}", sentence, _figures(state, cylinder, show, page, at), _changes(state, cylinder, show),
        _working(state, cylinder, show), button, CARE_COLD if burns or page == "heat" else CARE_CUT, mark,
    )  # fmt: skip


def stage_word(stage: Stage) -> str:
    """Where a cylinder stands, in a word or two for the block plan and the gauge line."""
    s = SleeveStage
    return {
        s.OLD: "old one in", s.PARENT: "gauge parent", s.SLEEVE: "measure sleeve", s.WAY: "pick a way", s.DOES_NOT_GO: "does not go",
        s.BORE_PARENT: "bore parent", s.SEAT: "cut its seat", s.GO_IN: "goes in", s.READ: "read its bore", s.IN: "sits" if stage.sure else "look at it",
    }[stage.key]  # fmt: skip


def stage_mark(stage: Stage) -> Mark:
    """How a stage is marked: sound only where it surely is."""
    s = SleeveStage
    if stage.key in (s.WAY, s.IN):
        return Mark.SOUND if stage.sure else Mark.LOOK
    if stage.key is s.DOES_NOT_GO:
        return Mark.STOP
    if stage.key is s.SEAT:
        return Mark.LOOK
    return Mark.PLAIN if stage.sure else Mark.LOOK


def say(state: JobState, f: SleeveFinding, show: Show) -> Said:
    """A finding about a sleeve in a sentence, and its mark."""
    said = _SAID.get(f.call)
    if said is not None:
        return said(state, f, show)
    c, stage = f.cylinder, f.stage
    text = {
        SleeveCall.KEEPS_WALL: f"Cylinder {c} keeps its own wall.",
        SleeveCall.MEASURE_OLD: "Measure the outside of the old sleeve, then bore it to a shell and peel it.",
        SleeveCall.MEASURE_SLEEVE: _measure_words(state, c, show),
        SleeveCall.READ: f"Let it cool, then read the bore of sleeve {c}: top, middle, bottom.",
        SleeveCall.NO_REDLINE: f"Sleeve {c} sits. Its finish waits: {say_missing(redline_of(state, c).missing)}.",
        SleeveCall.BORED: f"Sleeve {c} sits and is bored; the hone is next.",
        SleeveCall.BAR_NEXT: f"Sleeve {c} sits. The bar finishes it to {show.size(f.to_mm or 0.0)}.",
        SleeveCall.HONE_NEXT: f"Sleeve {c} sits. The hone takes the last {show.unit(show.size(f.to_mm or 0.0))}.",
    }[f.call]
    if f.call is SleeveCall.NO_REDLINE:
        return Said(text, Mark.LOOK)
    return Said(text, Mark.PLAIN if stage is None else stage_mark(stage))


def _measure_words(state: JobState, cylinder: int, show: Show) -> str:
    fit, way = fit_of(state, cylinder), chosen_way(state, cylinder)
    if fit.missing or way is None or way.outside_mm is None:
        return f"{_upper(say_missing(fit.missing))}."
    return f"Measure the sleeve that was had for {cylinder}: one of {show.size(way.outside_mm)} outside is wanted."


def _upper(text: str) -> str:
    return text[:1].upper() + text[1:]


def _gauge_said(state: JobState, f: SleeveFinding, show: Show) -> Said:
    peel = peel_mm(state, f.cylinder)
    out = f"Bore the old sleeve to {show.size(peel)} and peel it. " if peel is not None else ""
    wanted = fit_of(state, f.cylinder).wanted_mm
    in_hand = "" if wanted is None else f" The sleeve in hand wants a parent of {show.size(wanted)}."
    return Said(f"{out}Gauge the parent of {f.cylinder}: three depths, four angles.{in_hand}", Mark.PLAIN)


def _way_said(state: JobState, f: SleeveFinding, show: Show) -> Said:
    best = ways_of(state, f.cylinder)[0]
    return Said(f"{TITLES[best.way]}. {_upper(say_why(best.reasons[0], show))}.", MARKS.get(best.standing, Mark.LOOK))


def _none_goes_said(state: JobState, f: SleeveFinding, show: Show) -> Said:
    ways = ways_of(state, f.cylinder)
    wanted = SleeveDoing.BORE_TO_IT if fit_of(state, f.cylinder).unbored else SleeveDoing.TOUCH_UP
    own = next(w for w in ways if w.way is wanted)
    return Said(f"No way goes as it is measured: {say_why(own.reasons[0], show)}.", Mark.STOP)


def _does_not_go_said(state: JobState, f: SleeveFinding, show: Show) -> Said:
    way = chosen_way(state, f.cylinder)
    return Said(
        "The way taken is none any more." if way is None else f"{_upper(say_why(way.reasons[0], show))}.", Mark.STOP
    )


def _bore_said(state: JobState, f: SleeveFinding, show: Show) -> Said:
    way = chosen_way(state, f.cylinder)
    if way is None or way.parent_mm is None:
        return Said(f"Bore the parent of {f.cylinder}.", Mark.PLAIN)
    steps = f" in {len(way.cuts)} steps" if len(way.cuts) > 1 else ""
    then = "gauge it" if way.way is SleeveDoing.BORE_TO_IT else "gauge it, and measure the sleeve for it"
    return Said(f"Bore the parent of {f.cylinder} to {show.size(way.parent_mm)}{steps}, {then}.", Mark.PLAIN)


def _seat_said(state: JobState, f: SleeveFinding, show: Show) -> Said:
    c, seat = f.cylinder, seat_of(state, f.cylinder)
    assert seat is not None
    low, high = seat.protrusion_mm
    if f.call is SleeveCall.SEAT_TOO_DEEP:
        return Said(
            f"The counterbore of {c} is {show.size(f.to_mm or 0.0)} too deep: the flange would not stand proud. A shim under it, "
            "and the flange measured with it.",
            Mark.STOP,
        )
    to_come = (
        "nobody measured its counterbore" if f.to_mm is None else f"{show.size(f.to_mm)} of counterbore is still to cut"
    )
    if f.call is SleeveCall.IN_ON_NO_SEAT:
        return Said(f"Sleeve {c} does not sit for sure: {to_come}. Measure how far its flange stands.", Mark.STOP)
    return Said(
        f"First the seat of {c}: {to_come}. {show.size(seat.proving_mm)} to prove it, then {show.size(seat.cut.depth_mm)}, for a flange "
        f"{show.between(low, high)} proud.",
        Mark.LOOK,
    )


def _heat_said(state: JobState, f: SleeveFinding, show: Show) -> Said:
    heat = heat_plan(state, f.cylinder)
    if heat is None:
        return Said(f"Sleeve {f.cylinder} goes in.", Mark.PLAIN)
    c = heat.chosen
    if f.call is SleeveCall.TOO_HOT:
        return Said(
            f"The block would need {show.warm(c.block_c, digits=0)}, more than it may have: make the sleeve colder.",
            Mark.STOP,
        )
    warm = "The block stays cold" if c.block_c <= COLD_ENOUGH_C else f"Block to {show.warm(c.block_c, digits=0)}"
    return Said(f"{warm}, sleeve at {show.warm(c.sleeve_c, digits=0)}: then {c.time} until it grips.", Mark.PLAIN)


def _oddly_said(state: JobState, f: SleeveFinding, show: Show) -> Said:
    closing = closing_of(state, f.cylinder)
    assert closing is not None
    return Said(
        (
            f"Sleeve {f.cylinder} closed by {show.size(closing.measured_mm)}; {show.size(closing.low_mm)} to "
            f"{show.size(closing.high_mm)} was figured. Look why before it is bored."
        ),
        Mark.LOOK,
    )


_SAID: dict[SleeveCall, Callable[[JobState, SleeveFinding, Show], Said]] = {
    SleeveCall.GAUGE_PARENT: _gauge_said, SleeveCall.TAKE_WAY: _way_said, SleeveCall.NO_WAY_GOES: _none_goes_said,
    SleeveCall.WAY_DOES_NOT_GO: _does_not_go_said, SleeveCall.BORE_PARENT: _bore_said, SleeveCall.GO_IN: _heat_said,
    SleeveCall.CUT_SEAT: _seat_said, SleeveCall.SEAT_TOO_DEEP: _seat_said, SleeveCall.IN_ON_NO_SEAT: _seat_said,
    SleeveCall.TOO_HOT: _heat_said, SleeveCall.CLOSED_ODDLY: _oddly_said,
}  # fmt: skip


def _figures(state: JobState, cylinder: int, show: Show, page: str, at: str) -> tuple[FigureLine, ...]:
    if not sleeved(state, cylinder):
        return ()
    if page == "heat":
        return _heat_figures(state, cylinder, show)
    if page == "deck":
        return _deck_figures(state, cylinder, show)
    fit = fit_of(state, cylinder)
    lines = []
    if has_old(state) and not fit.rings and (peel := peel_mm(state, cylinder)) is not None:
        lines.append(FigureLine("bore the old one to", show.size(peel)))
    if fit.parent_mm is not None:
        oval = show.size(fit.oval_mm)
        lines.append(FigureLine("parent, mean", show.size(fit.parent_mm)))
        lines.append(FigureLine("out of round, worst", oval, Mark.LOOK if fit.oval_hidden else Mark.PLAIN))
    if stage_of(state, cylinder).key is SleeveStage.BORE_PARENT:
        lines += _parent_figures(state, cylinder, show, at)
    elif fit.grip is not None:
        lines += _grip_figures(state, fit, fit.grip, show)
    closing = closing_of(state, cylinder)
    if closing is not None:
        lines.append(
            FigureLine("its bore closed by", show.size(closing.measured_mm), Mark.LOOK if closing.off else Mark.SOUND)
        )
    return tuple(lines)


def _parent_figures(state: JobState, cylinder: int, show: Show, at: str) -> list[FigureLine]:
    """What the bar is set to for a parent, and whether it repeats well enough for one."""
    way = chosen_way(state, cylinder)
    if way is None or way.parent_mm is None or way.outside_mm is None:
        return []
    bears, miss = (way.outside_mm - way.parent_mm) / 4.0, bar_misses(state)
    ordered = way.way is not SleeveDoing.BORE_TO_IT
    lines = [
        FigureLine("bore the parent to", show.size(way.parent_mm)),
        FigureLine(
            "order a sleeve of" if ordered else "for the sleeve in hand", f"{show.size(way.outside_mm)} outside"
        ),
    ]
    if len(way.cuts) > 1:
        steps = ", ".join(f"{show.size(c.size_mm)}{' (next holder)' if c.new_holder else ''}" for c in way.cuts)
        lines.append(FigureLine("in steps to", steps))
    lines += [
        FigureLine("may be off by", show.size(bears)),
    ]
    if state.boring.bar is not None:
        lines.append(FigureLine("set the tool to", show.size(setting_for(state, way.parent_mm, at))))
    told = "not known: prove it" if miss is None else show.size(miss)
    lines.append(
        FigureLine("this bar misses by", told, Mark.SOUND if miss is not None and miss <= bears else Mark.LOOK)
    )
    if (found := window_now(state)) is not None:
        lines.append(
            FigureLine("turns for a seat", f"{found[1].rpm_low:.0f}–{found[1].rpm_high_for_sleeve_parent:.0f}")
        )
    return lines


def _grip_figures(state: JobState, fit: SleeveFit, grip: Grip, show: Show) -> list[FigureLine]:
    least, _, most = wanted_interference(state, fit.parent_mm or grip.interference_mm)
    inside = least - 1e-9 <= grip.interference_mm <= most + 1e-9
    hoop = {Hoop.UNDER: Mark.SOUND, Hoop.OVER: Mark.STOP, Hoop.NOT_SURE: Mark.LOOK}[grip.hoop]
    hold = state.figures.number("sleeves.hold_least")
    holds = Mark.SOUND if grip.hot_push_n[0] >= hold else Mark.LOOK if held_by(state, fit) else Mark.STOP
    if fit.unbored and fit.wanted_mm is not None:
        return [
            FigureLine("the sleeve wants a parent of", show.size(fit.wanted_mm)),
            FigureLine("still to bore", show.size(fit.wanted_mm - (fit.parent_mm or 0.0))),
            FigureLine("then grips by", show.size(grip.interference_mm), Mark.SOUND if inside else Mark.LOOK),
            FigureLine(f"pull, limit {show.stress(grip.hoop_limit_mpa)}", show.stress(*grip.hoop_mpa), hoop),
        ]  # fmt: skip
    return [
        FigureLine("grips by, mean", show.size(grip.interference_mm), Mark.SOUND if inside else Mark.LOOK),
        FigureLine("grips by, round the clock", f"{show.size(fit.least_mm)}–{show.size(fit.most_mm)}"),
        FigureLine(f"pull, limit {show.stress(grip.hoop_limit_mpa)}", show.stress(*grip.hoop_mpa), hoop),
        FigureLine("its bore will close by", "hardly" if show.is_nought(grip.closes_mm[1]) else show.between(*grip.closes_mm)),
        FigureLine("holds cold", show.force(*grip.push_n)),
        FigureLine(f"holds hot, wall at {show.warm(grip.hot_c, digits=0)}", show.force(*grip.hot_push_n, digits=1) if grip.hot_push_n[1] >= TOLD_N else "nothing", holds),
    ]  # fmt: skip


def _heat_figures(state: JobState, cylinder: int, show: Show) -> tuple[FigureLine, ...]:
    heat = heat_plan(state, cylinder)
    if heat is None:
        return ()
    c = heat.chosen
    return (
        FigureLine("grips by, tightest place", show.size(heat.interference_mm)),
        FigureLine("gap wanted", show.size(heat.gap_mm)),
        FigureLine("sleeve", show.warm(c.sleeve_c, digits=0), by="sleeve_cold"),
        FigureLine("block", show.warm(c.block_c, digits=0), Mark.STOP if c.too_hot else Mark.SOUND),
        FigureLine("block at most", show.warm(heat.hottest_c, digits=0)),
        FigureLine("time until it grips", f"about {c.time}"),
    )


def _deck_figures(state: JobState, cylinder: int, show: Show) -> tuple[FigureLine, ...]:
    deck, seat = deck_of(state, bank_of(state.block, cylinder)), seat_of(state, cylinder)
    lines = []
    if deck.out_mm is not None and deck.plan is not None:
        lines.append(FigureLine("deck is out by", show.size(deck.out_mm)))
        lines.append(FigureLine("comes off", ", ".join(show.size(p) for p in deck.plan.passes_mm)))
        mark = Mark.SOUND if deck.done else Mark.LOOK
        lines.append(FigureLine("is off", show.size(deck.faced_mm), mark, "deck_faced"))
    else:
        lines.append(FigureLine("deck", "not read", Mark.LOOK, "deck_read"))
    if seat is not None:
        low, high = seat.protrusion_mm
        lines.append(FigureLine("flange stands", f"{show.size(low)}–{show.size(high)} proud", by="protrusion_stated"))
        lines.append(FigureLine("counterbore, from deck", show.size(seat.cut.depth_mm)))
        if seat.there_mm is None:
            lines.append(FigureLine("counterbore now", "not read", Mark.LOOK, "counterbore_read"))
        elif seat.cut.needs_shim:
            lines.append(FigureLine("too deep by", show.size(-seat.cut.to_cut_mm), Mark.STOP))
        else:
            lines.append(FigureLine("still to cut", show.size(seat.cut.to_cut_mm)))
    return tuple(lines)


def _changes(state: JobState, cylinder: int, show: Show) -> tuple[str, ...]:
    if not sleeved(state, cylinder):
        others = ", ".join(map(str, sleeved_cylinders(state)))
        return (Note(f"Sleeved: {others}."),) if others else ()
    fit, way, notes = fit_of(state, cylinder), chosen_way(state, cylinder), list[str]()
    items = run_of(state, cylinder, show)
    notes += stamp_notes(items) if stage_of(state, cylinder).key is not SleeveStage.IN else []
    if fit.oval_hidden:
        notes.append("Too few angles were read to see an oval: read the parent at four angles or more.")
    if fit.sleeve is not None and not fit.sleeve.warm_known:
        notes.append(f"The sleeve's temperature was not taken; it is counted as {show.reference}.")
    if fit.grip is not None:
        notes += _hot_notes(state, fit, fit.grip, show)
    if way is not None and way.step and state.sleeving.way_of(cylinder) is not None and not held_by(state, fit):
        notes.append(
            Note(
                f"Leave a step of {show.rough(state.figures.number('sleeves.step_holds'))} at the bottom: nothing else holds it hot."
            )
        )
    notes += _proud(state, fit, show)
    return (*notes, *_next_time(state, cylinder, show), *_uneven(state, show))


def _hot_notes(state: JobState, fit: SleeveFit, grip: Grip, show: Show) -> list[str]:
    notes = []
    if state.sleeving.outside is None:
        narrows = outside_line(state.block.bore_mm, show)
        notes.append(f"The parent's outside is a guess: {narrows}, if it is that, narrows every range here.")
    hold = state.figures.number("sleeves.hold_least")
    if grip.hot_push_n[0] < hold:
        by = held_by(state, fit)
        holds = f"{HOLDERS[by]} has to hold it" if by else "nothing holds it"
        notes.append(Note(f"Hot, the grip falls under {show.force(hold)}: {holds}."))
    if grip.lost_c is not None and in_aluminium(state):
        notes.append(
            Note(f"Aluminium grows away from it: with both at {show.warm(grip.lost_c, digits=0)} nothing grips.")
        )
    return notes


def _proud(state: JobState, fit: SleeveFit, show: Show) -> list[str]:
    """How far a sleeve without a flange stands up when it is down, and what is faced off."""
    if fit.sleeve is None or fit.sleeve.flange_mm is not None:
        return []
    if fit.sleeve.length_mm is None:
        return ["Its length was not measured: how far it stands proud, to be faced with the deck, is not known."]
    proud = fit.sleeve.length_mm - state.block.length_mm
    if proud < 0.0:
        return [f"It is {show.rough(-proud)} shorter than the hole: it would lie under the deck."]
    return [Note(f"Down, it stands {show.rough(proud)} proud: face it off with the deck.")]


def _next_time(state: JobState, cylinder: int, show: Show) -> list[str]:
    """What wall the finished sleeve has over its least: what is left for the next time."""
    fit, redline = fit_of(state, cylinder), redline_of(state, cylinder)
    if fit.sleeve is None or redline.size_mm is None:
        return []
    left = left_next_time(state, cylinder, fit.sleeve.outside_mm)
    if left.wall_mm < left.least_mm:
        return [f"Finished, its wall is {show.size(left.wall_mm)}: under the {show.size(left.least_mm)} it needs."]
    return [
        Note(f"Left for the next time: {show.size(left.more_mm)} on diameter, {left.rebuilds} of the listed oversizes.")
    ]


def _uneven(state: JobState, show: Show) -> list[str]:
    """Sleeves of one set that differ, and whether they would grip more evenly in other parents."""
    sizes = [s.outside_mm for c in state.cylinders if (s := state.sleeving.sleeve_of(c)) is not None]
    if len(sizes) < 2 or max(sizes) - min(sizes) < 0.002:
        return []
    match = match_of(state)
    told = Note(f"The sleeves differ by {show.size(max(sizes) - min(sizes))} outside: each keeps its own number.")
    if match is None or match.as_it_is or any(state.sleeving.after_of(c) for c in state.cylinders):
        return [told]
    pairs = ", ".join(f"{sleeve} in {parent}" for parent, sleeve in match.best if sleeve != parent)
    return [told, Note(f"They would grip more evenly as: {pairs}.")]


def _interface(fit: SleeveFit) -> float:
    """The parent that the grip counts from, mm: as it is, or bored to what the sleeve wants."""
    return (fit.wanted_mm if fit.unbored else fit.parent_mm) or 0.0


def _working(state: JobState, cylinder: int, show: Show) -> tuple[WorkLine, ...]:
    fit, lines = fit_of(state, cylinder), []
    if (peel := peel_mm(state, cylinder)) is not None:
        old = state.sleeving.old_mm(cylinder) or 0.0
        lines.append(
            WorkLine(
                f"peel-out bore = old outside {show.size(old)} − 2 × shell = {show.size(peel)}",
                cited("sleeves.shell"),
            )
        )
    if fit.grip is None or fit.sleeve is None or fit.parent_mm is None:
        return (*lines, WorkLine(f"no fit yet: {say_missing(fit.missing)}", "thick cylinders by Lamé"))
    g, out = fit.grip, outside_range(state, fit.parent_mm)
    source = "as stated" if state.sleeving.outside is not None else f"{cited('sleeves.outside_more')}, a guess"
    lines += [
        WorkLine(f"interference = sleeve {show.size(fit.sleeve.outside_mm)} − parent {show.size(_interface(fit))} = {show.away(g.interference_mm)}", f"both at {show.reference}" + (", once it is bored" if fit.unbored else "")),
        WorkLine(f"parent's outside {show.rough(out[0])} to {show.rough(out[1])}: pressure {show.stress(*g.pressure_mpa, digits=1)}", f"thick cylinders by Lamé; {source}"),
        WorkLine(f"pull round the parent = p (do² + d²)/(do² − d²) = {show.stress(*g.hoop_mpa)}, limit {show.stress(g.hoop_limit_mpa)}", "shop figure: pull that the parent stands"),
        WorkLine(f"its bore closes by 2 p d² di / (E (d² − di²)) = {show.fine(g.closes_mm[0])} to {show.fine(g.closes_mm[1])}", "thick cylinders by Lamé"),
        WorkLine(f"wall at {show.warm(g.hot_c, digits=0)}, block behind it at {show.warm(g.block_c, digits=0)}: interference {show.away(g.hot_interference_mm)}", "free growth of both; shop figure: wall temperature by duty"),
        WorkLine(f"push = p × {state.figures.number('sleeves.friction'):g} × π d L = {show.force(*g.push_n)} cold", cited("sleeves.friction")),
    ]  # fmt: skip
    heat = heat_plan(state, cylinder)
    if heat is not None:
        c = heat.chosen
        lines.append(
            WorkLine(
                f"block: {show.size(heat.interference_mm)} + gap {show.size(heat.gap_mm)} = d × (growth at {show.warm(c.block_c, digits=0)} − growth at {show.warm(c.sleeve_c, digits=0)})",
                f"tightest place round the clock; iron shrinks by {show.growth(9.0)} on the way to {show.warm(-196.0)}",
            )
        )
    return tuple(lines)
