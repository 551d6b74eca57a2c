"""What the options page says: the best in a sentence, a close call named, the one looked at in figures."""

from __future__ import annotations

from redline_bore.core.show import Show
from redline_bore.job.call.best import Best, BestFinding, best_of, can_pick
from redline_bore.job.call.option import MAY, NO, SURE, UNKNOWN, Option
from redline_bore.job.call.options import options_of
from redline_bore.job.card import Advice, FigureLine, Mark, Said, WorkLine
from redline_bore.job.profiles.practice import practice
from redline_bore.job.state.job_state import JobState


def advise(state: JobState, index: int, show: Show) -> Advice:
    """The best option in a sentence, and the one that is looked at in figures."""
    options = options_of(state)
    chosen = options[min(index, len(options) - 1)]
    sentence, mark = say_best(best_of(options)) if chosen is options[0] else say_other(chosen, options[0])
    taken = state.calling.decision is not None and state.calling.decision.way == chosen.key
    changes = ["This is the call that was taken."] if taken else []
    changes += [f"{r[0].upper()}{r[1:]}." for r in chosen.reasons]
    changes += [f"To be sure: {need}." for need in chosen.needs]
    if chosen.oversize_mm is not None:
        axis, share = (practice(t, state.booking.practice(t)).title for t in ("axis", "wear_side"))
        changes.append(f"Counted about {axis}; wear on the worse side {share}.")
    button = "" if chosen.oversize_mm is None else f"Put the redline at {show.step(chosen.oversize_mm)}"
    return Advice(
        f"Call · {chosen.title}", sentence, _figures(chosen, state.block.bore_mm, show), tuple(changes), _working(state, chosen, show),
        "" if taken or not can_pick(chosen) else button or "Take the call",
        "Weigh what is left for the next time: metal does not go back on.", mark,
    )  # fmt: skip


def say_best(f: BestFinding) -> Said:
    """The best way in a sentence, and its mark."""
    best, b = f.best, Best
    need = best.needs[0] if best.needs else "measure"
    sure = "" if f.otherwise is None else f" Sure without it: {_first_lower(f.otherwise.title)}."
    return Said(*{
        b.NOTHING_KNOWN: ("Nothing is known well enough to call. Measure first.", Mark.LOOK),
        b.MAY_DO: (f"{best.title}: it may do. First {need}.{sure}", Mark.LOOK),
        b.NOT_SURE: (f"{best.title}: it may do, and no reading settles it.{sure}", Mark.LOOK),
        b.SURE: (f"{best.title}.", Mark.SOUND),
    }[f.call])  # fmt: skip


def say_other(chosen: Option, best: Option) -> Said:
    """An option that is looked at and is not the best: what Enter acts on, and which is best."""
    need = f" First {chosen.needs[0]}." if chosen.needs and chosen.standing in (MAY, UNKNOWN) else ""
    why = f": {chosen.reasons[0]}" if chosen.standing is NO and chosen.reasons else ""
    mark = {SURE: Mark.SOUND, MAY: Mark.LOOK, UNKNOWN: Mark.LOOK, NO: Mark.STOP}[chosen.standing]
    known = best.standing in (SURE, MAY)
    then = f"The best is: {_first_lower(best.title)}." if known else "Nothing is known well enough to call yet."
    return Said(f"{chosen.title}: {chosen.standing}{why}.{need} {then}", mark)


def _first_lower(text: str) -> str:
    return text[:1].lower() + text[1:]


def _figures(option: Option, nominal_mm: float, show: Show) -> tuple[FigureLine, ...]:
    marks = {SURE: Mark.SOUND, MAY: Mark.LOOK, UNKNOWN: Mark.LOOK, NO: Mark.STOP}
    lines = [FigureLine("stands", option.standing, marks[option.standing])]
    if option.oversize_mm is not None:
        sizes = sorted(
            {nominal_mm + option.oversize_mm} | {nominal_mm + a.oversize_mm for a in option.apart if a.oversize_mm}
        )
        lines.append(FigureLine("to size, in name", ", ".join(show.size(v) for v in sizes)))
        lines.append(_wall_line(option, show))
    known = [s for s in option.bored_stock_mm if s is not None]
    if option.oversize_mm is not None and known:
        lines.append(FigureLine("stock on diameter", show.unit(f"{show.rough(min(known))}–{show.rough(max(known))}")))
    if option.rebuilds_left is not None:
        lines.append(FigureLine("rebuilds left after", str(option.rebuilds_left)))
    lines.append(FigureLine("pistons to order", str(option.pistons) if option.pistons else "none"))
    if option.sleeves:
        lines.append(FigureLine("sleeves to order", str(option.sleeves)))
    lines.append(FigureLine("bench time, rough", f"{option.minutes / 60:.1f} h"))
    return tuple(lines)


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
    lines.append(WorkLine(f"bench time {option.minutes:.0f} min", "shop figures: minutes of each work"))
    return tuple(lines)
