"""What the options page says: the best in a sentence, a close call named, the one looked at in figures."""

from __future__ import annotations

from redline_bore.core.frozen import frozen
from redline_bore.core.show import Show, every
from redline_bore.job.call.best import Best, BestFinding, best_of, can_pick
from redline_bore.job.call.option import MAY, NO, SURE, UNKNOWN, WEIGHED, Option, OptionKind, Standing, learned_minutes
from redline_bore.job.call.options import options_of
from redline_bore.job.card import Advice, FigureLine, Mark, Note, Said, WorkLine
from redline_bore.job.lessons import MINUTES
from redline_bore.job.profiles.practice import practice
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words.lessons import lesson_words
from redline_bore.job.words.reasons import say_need, say_reason
from redline_bore.job.words.shared_figures import SIZE_IN_NAME


@frozen(often=True)
class WayTold:
    """A way in words: what it is called, how it stands, why, and what would make it sure."""

    option: Option
    title: str
    standing: Standing
    reasons: tuple[str, ...]
    needs: tuple[str, ...]

    @property
    def name(self) -> str:
        """The title as it reads inside a sentence."""
        return self.title[:1].lower() + self.title[1:]


def told_of(option: Option, show: Show) -> WayTold:
    """A way in words."""
    reasons = tuple(say_reason(r, show) for r in option.reasons)
    needs = dict.fromkeys(say_need(n, show) for n in option.needs)
    return WayTold(option, title_of(option, show), option.standing, reasons, tuple(needs))


def title_of(o: Option, show: Show) -> str:
    """What a way is called."""
    k, over = OptionKind, o.oversize_mm or 0.0
    many, rest = every(len(o.stock_mm)), show.step(over).lstrip("+")
    one = o.apart[0] if o.apart else None
    hone_out = (
        f"Hone {many} to the pistons there are" if o.pistons_here
        else f"Hone {many} {rest} over" if over else f"Hone {many} to nominal"
    )  # fmt: skip
    return {
        k.LEAVE: "Leave it as it is", k.DEGLAZE: "Deglaze only", k.RERING: "Re-ring with the pistons there are",
        k.CUSTOM: f"{'Hone' if o.by_hone else 'Bore and hone'} to {show.away(over)}, own pistons", k.HONE_OUT: hone_out,
        k.RUNG: f"Bore {many} {rest} over",
        k.SLEEVE_ONE: f"Sleeve {one and one.cylinder}, bore the rest {rest} over",
        k.REPAIR_ONE: f"Repair sleeve in {one and one.cylinder}, bore the rest {rest} over",
        k.OWN_SIZE: f"{one and one.cylinder} to {show.step((one and one.oversize_mm) or 0.0)}, the rest {rest} over",
        k.SLEEVE_ALL: f"Sleeve {many}, back to nominal", k.SCRAP: "Do not use this block", k.CALL: "The call",
    }[o.kind]  # fmt: skip


def advise(state: JobState, index: int, show: Show) -> Advice:
    """The best option in a sentence, and the one that is looked at in figures."""
    options = options_of(state)
    chosen = options[min(index, len(options) - 1)]
    sentence, mark = say_best(best_of(options), show) if chosen is options[0] else say_other(chosen, options[0], show)
    told = told_of(chosen, show)
    taken = state.calling.decision is not None and state.calling.decision.way == chosen.key
    changes: list[str] = [Note("This is the call that was taken.")] if taken else []
    reason = Note if chosen.standing is SURE else str  # why it is sure changes nothing
    changes += [reason(f"{r[0].upper()}{r[1:]}.") for r in told.reasons]
    changes += [f"To be sure: {need}." for need in told.needs]
    if chosen.oversize_mm is not None:
        axis, share = (practice(t, state.booking.practice(t)).title for t in ("axis", "wear_side"))
        changes.append(Note(f"Counted about {axis}; wear on the worse side {share}."))
    button, unsure = "Take the call", chosen.oversize_mm is None and chosen.standing is not SURE
    if unsure:
        button = "Take it all the same"
    elif chosen.oversize_mm is not None:
        button = f"Put the redline at {show.step(chosen.oversize_mm) if chosen.oversize_mm else 'nominal'}"
    return Advice(
        f"Call · {told.title}", sentence, _figures(chosen, state.block.bore_mm, show), tuple(changes), _working(state, chosen, show),
        "" if taken or not can_pick(chosen) else button,
        "Weigh what is left for the next time: metal does not go back on.", mark, unsure=unsure,
    )  # fmt: skip


def say_best(f: BestFinding, show: Show) -> Said:
    """The best way in a sentence, and its mark."""
    best, b = told_of(f.best, show), Best
    need = best.needs[0] if best.needs else "measure"
    sure = "" if f.otherwise is None else f" Sure without it: {told_of(f.otherwise, show).name}."
    return Said(*{
        b.NOTHING_KNOWN: ("Nothing is known well enough to call. Measure first.", Mark.LOOK),
        b.MAY_DO: (f"{best.title}: it may do. First {need}.{sure}", Mark.LOOK),
        b.LIKELY: (f"{best.title}: it likely does, by all that was read.{sure}", Mark.LIKELY),
        b.NOT_SURE: (f"{best.title}: it may do; the cut and a look settle it.{sure}", Mark.LOOK),
        b.SURE: (f"{best.title}.", Mark.SOUND),
    }[f.call])  # fmt: skip


def say_other(chosen: Option, best: Option, show: Show) -> Said:
    """An option that is looked at and is not the best: what Enter acts on, and which is best."""
    told = told_of(chosen, show)
    need = f" First {told.needs[0]}." if told.needs and told.standing in (MAY, UNKNOWN) else ""
    why = f": {told.reasons[0]}" if told.standing is NO and told.reasons else ""
    mark = {SURE: Mark.SOUND, MAY: Mark.LOOK, UNKNOWN: Mark.LOOK, NO: Mark.STOP}[chosen.standing]
    known = best.standing in (SURE, MAY)
    then = f"The best is: {told_of(best, show).name}." if known else "Nothing is known well enough to call yet."
    return Said(f"{told.title}: {told.standing}{why}.{need} {then}", mark)


def _figures(option: Option, nominal_mm: float, show: Show) -> tuple[FigureLine, ...]:
    marks = {SURE: Mark.SOUND, MAY: Mark.LOOK, UNKNOWN: Mark.LOOK, NO: Mark.STOP}
    lines = [FigureLine("stands", option.standing, marks[option.standing])]
    if option.oversize_mm is not None:
        sizes = sorted(
            {nominal_mm + option.oversize_mm} | {nominal_mm + a.oversize_mm for a in option.apart if a.oversize_mm}
        )
        lines.append(FigureLine(SIZE_IN_NAME, ", ".join(show.size(v) for v in sizes)))
        lines.append(_wall_line(option, show))
    known = [s for s in option.bored_stock_mm if s is not None]
    if option.oversize_mm is not None and known:
        lines.append(FigureLine("stock on diameter", show.unit(f"{show.rough(min(known))}–{show.rough(max(known))}")))
    if option.rebuilds_left is not None:
        lines.append(FigureLine("rebuilds left after", str(option.rebuilds_left)))
    lines.append(FigureLine("pistons to order", str(option.pistons) if option.pistons else "none"))
    if option.sleeves:
        lines.append(FigureLine("sleeves to order", str(option.sleeves)))
    lines.append(FigureLine("bench time, rough", hours_words(option)))
    return tuple(lines)


def hours_words(option: Option) -> str:
    """How long it keeps the bench, in hours."""
    return f"{option.minutes / 60:.1f} h" if option.minutes >= 3.0 else "none"


def _wall_line(option: Option, show: Show) -> FigureLine:
    left = option.wall_left_mm
    if left is None:
        return FigureLine("wall over its limit", "not read: unknown", Mark.LOOK)
    short = Mark.STOP if option.standing is NO else Mark.LOOK  # short by less than its doubt may be enough
    return FigureLine("wall over its limit", show.unit(show.rough(left)), Mark.SOUND if left >= 0.0 else short)


def _working(state: JobState, option: Option, show: Show) -> tuple[WorkLine, ...]:
    lines = []
    for cylinder, stock in zip(state.cylinders, option.stock_mm, strict=True):
        if stock is not None and option.oversize_mm is not None:
            way = next((a.way for a in option.apart if a.cylinder == cylinder), "bored")
            lines.append(
                WorkLine(f"{cylinder}: {way}, {show.size(stock)} on diameter, {show.size(stock / 2)} a side", "")
            )
    wish = practice("odd_cylinder", state.booking.practice("odd_cylinder"))
    lines.append(WorkLine(f"one odd cylinder: {wish.title}, since that is {wish.reason}", "practice"))
    own = [
        x
        for x in state.booking.lessons
        if option.oversize_mm is not None
        and x.what == MINUTES
        and x.about in WEIGHED
        and learned_minutes(state, x.about)
    ]
    source = "shop figures: minutes of each work"
    lines.append(
        WorkLine(f"bench time {option.minutes:.0f} min", f"{source}; this family's own below" if own else source)
    )
    lines += [WorkLine(lesson_words(x, show), "the middle of the times in this family's ledgers") for x in own]
    return tuple(lines)
