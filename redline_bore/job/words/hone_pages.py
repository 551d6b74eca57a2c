"""What the pages of the hone step say: set-up, plan, steps, load by depth, pacer, stock ledger."""

from __future__ import annotations

from redline_bore.core.figures import cited
from redline_bore.core.frozen import replace
from redline_bore.core.head import first_followed, follows
from redline_bore.core.show import Show, capital, listed
from redline_bore.core.stroke_plan import ENDS_EARLY
from redline_bore.job.card import Advice, FigureLine, Mark, Note, WorkLine
from redline_bore.job.hone.finding import WallBefore, judge
from redline_bore.job.hone.load import LoadPicture
from redline_bore.job.hone.model import Forecast, WallFrom, against_plan, warmth_grows_mm
from redline_bore.job.hone.progress import Progress, progress_of
from redline_bore.job.hone.set_up import HAND, Kinematics, angle_aim, kinematics_of, rz_of
from redline_bore.job.hone.steps import StageStands, practice_of, stages_of
from redline_bore.job.hone.stock_ledger import Ledger
from redline_bore.job.profiles.stones import stones_said
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words.hone import care
from redline_bore.job.words.load import dwell_words, gauge_words
from redline_bore.job.words.set_up import say_set_up
from redline_bore.job.words.stages import STAGE_MARKS, say_stage

WALL_FROM = {
    WallFrom.CHECK: "the last check",
    WallFrom.BAR: "as it came off the bar",
    WallFrom.SLEEVE: "the sleeve as it sits",
    WallFrom.GAUGED: "as gauged",
}


def set_up(state: JobState, show: Show) -> Advice:
    """How the hone is set, and what stands in its way."""
    k, h, aim = kinematics_of(state), state.honing.run, angle_aim(state)
    if h is None:
        sentence, mark = "Say which hone it is: hone vertical, manual, drill or ball.", Mark.LOOK
    elif k.stops:
        sentence, mark = f"Do not run it: {say_set_up(k.stops[0], show)}.", Mark.STOP
    elif k.looks:
        sentence, mark = f"{capital(say_set_up(k.looks[0], show))}.", Mark.LOOK
    elif k.hatch is not None:
        sentence, mark = (
            f"Set so, it crosses at {k.hatch.included_deg:.0f}°, {k.hatch.from_horizontal_deg:.0f}° from flat.",
            Mark.SOUND,
        )
    else:
        sentence, mark = "Held by hand: the pacer gives the beat.", Mark.PLAIN
    notes = [f"{capital(say_set_up(r, show))}." for r in (*k.stops[1:], *k.looks[0 if k.stops else 1 :])]
    return Advice(
        "Call · set-up", sentence, _set_figures(state, k, show), (*notes, *_roundness(state), Note(f"{aim.low_deg:.0f}–{aim.high_deg:.0f}° is wanted, {aim.source}.")),
        _set_working(state, k, show), "", care(state), mark,
    )  # fmt: skip


def _roundness(state: JobState) -> tuple[str, ...]:
    """What the number of stones does to roundness, and what more of them would."""
    h, stones = state.honing.run, state.honing.stones
    if h is None or h.machine in HAND or stones is None:
        return ()
    more = stones.count + 2 - stones.count % 2
    left, then = listed(list(first_followed(stones.count))), listed(list(first_followed(more)))
    if follows(stones.count, 2):
        return (
            Note(
                f"{stones.count} stones that open together round no hole: they run along with an oval. {more} take it out, and leave {then} lobes."
            ),
        )
    return (
        Note(f"{stones.count} stones that open together take out an oval and leave {left} lobes; {more} leave {then}."),
    )


def _set_figures(state: JobState, k: Kinematics, show: Show) -> tuple[FigureLine, ...]:
    lines, stones = [], state.honing.stones
    if stones is not None:
        low, high = rz_of(state, stones.stones)
        lines.append(
            FigureLine(
                "stones",
                f"{stones_said(stones.stones)}, {stones.count} × {show.rough(stones.width_mm)}",
                by="stones_set",
            )
        )
        lines.append(FigureLine("leaves Rz", show.height(low, high, digits=0)))
    if k.hatch is not None:
        lines.append(FigureLine("crosshatch, included", f"{k.hatch.included_deg:.1f}°", by="angle_wanted"))
        lines.append(
            FigureLine(
                "turns and strokes", f"{k.hatch.rpm:g} and {k.hatch.double_strokes_per_min:g} a min", by="hone_set"
            )
        )
        lines.append(FigureLine("at the wall", show.speed(k.hatch.rotary_m_per_min)))
    if k.pace is not None:
        word = (
            f"{k.pace.double_strokes_per_min:.0f} a min"
            if k.pace.possible
            else f"{k.pace.double_strokes_per_min:.0f}: too fast"
        )
        lines.append(FigureLine("strokes for that angle", word, Mark.SOUND if k.pace.possible else Mark.LOOK))
        if not k.pace.possible:
            lines.append(FigureLine("drill that would do", f"{k.pace.drill_rpm_for_hand:.0f} turns"))
    if k.stroke is not None:
        lines.append(FigureLine("stroke", show.unit(show.rough(k.stroke.stroke_mm)), by="hone_set"))
        over = f"{show.rough(k.stroke.over_top_mm)} and {show.rough(k.stroke.over_bottom_mm)}"
        lines.append(FigureLine("out at top and bottom", over, Mark.STOP if k.stops else Mark.PLAIN, "hone_set"))
    return tuple(lines)


def _set_working(state: JobState, k: Kinematics, show: Show) -> tuple[WorkLine, ...]:
    lines = []
    if k.stroke is not None:
        length = show.rough(state.block.length_mm)
        lines.append(
            WorkLine(
                f"stroke = hole {length} + {show.rough(k.stroke.over_top_mm)} + {show.rough(k.stroke.over_bottom_mm)} − stone",
                "the stone runs out at both ends by what is set",
            )
        )
    if k.hatch is not None:
        h = k.hatch
        lines.append(
            WorkLine(
                f"angle = 2 atan({show.speed(h.axial_m_per_min)} / {show.speed(h.rotary_m_per_min)}) = {h.included_deg:.1f}° included",
                "axial over rotary speed, both strokes",
            )
        )
    if k.motion is not None:
        lines.append(
            WorkLine(
                f"between the turn-rounds it runs at {show.speed(k.motion.cruise_mm_s * 0.06)}: steeper there, flat at the ends",
                "steady between, even braking at the turn-rounds",
            )
        )
    return tuple(lines)


def plan(state: JobState, cylinder: int, found: Forecast | None, missing: str, busy: bool, show: Show) -> Advice:
    """The stroke plan of a cylinder, as far as it is worked out."""
    scope = f"Call · cylinder {cylinder}"
    if found is None:
        sentence = "Working out the strokes." if busy else f"No plan yet: {missing}."
        return Advice(scope, sentence, (), (), (), "", care(state), Mark.PLAIN if busy else Mark.LOOK)
    p = found.plan
    if p.double_strokes < 1:
        told = "A whole stroke would pass its end: no plan, creep by the gauge."
        return Advice(
            scope,
            told,
            (),
            _plan_notes(state, found, show),
            _plan_working(found, show),
            "",
            care(state),
            Mark.LOOK,
        )
    straight = p.spread_mm * 2.0
    limit = state.figures.number("honing.straight") * 1.5
    counted = f"{p.double_strokes} double stroke{'' if p.double_strokes == 1 else 's'}"
    sentence, mark = (
        f"{counted} bring{'s' if p.double_strokes == 1 else ''} it straight to its end, within {show.size(straight)}.",
        Mark.SOUND,
    )
    if straight > limit:
        sentence, mark = (
            f"{counted} leave{'s' if p.double_strokes == 1 else ''} it {show.size(straight)} out of straight.",
            Mark.LOOK,
        )
    bite = _bite(state, cylinder, found)
    if bite <= 0 < p.double_strokes:
        sentence, mark = "No stroke before the next check: Stock left says why.", Mark.LOOK
    elif bite < p.double_strokes:
        sentence = f"{sentence} Stop after {bite} and gauge."
    figures = [
        FigureLine("out at top and bottom", f"{show.rough(p.over_top_mm)} and {show.rough(p.over_bottom_mm)}"),
        FigureLine("dwell at top and bottom", _dwell_words(p.dwell_top_s, p.dwell_bottom_s)),
        FigureLine("double strokes in all", f"{p.double_strokes}, {p.minutes:.1f} min"),
        *((FigureLine("of them until the next check", f"{bite}", Mark.LOOK),) if 0 < bite < p.double_strokes else ()),
        FigureLine("straight within, now", show.size(2.0 * p.spread_before_mm)),
        FigureLine("straight within, after", show.size(straight), Mark.LOOK if straight > limit else Mark.SOUND),
        FigureLine("the wall warms by", _warms_words(state, found.warms_c, show)),
    ]
    if found.oval_mm is not None:
        before, after = found.oval_mm
        figures.append(FigureLine("out of round, now, after", f"{show.size(before)}, {show.size(after)}"))
    if p.short is not None:
        figures.insert(
            3,
            FigureLine(
                "short strokes first", f"{p.short[2]}, from {show.rough(p.short[0])} to {show.rough(p.short[1])}"
            ),
        )
    return Advice(
        scope, sentence, tuple(figures), _plan_notes(state, found, show), _plan_working(found, show),
        "Take these strokes", care(state), mark,
    )  # fmt: skip


def _bite(state: JobState, cylinder: int, found: Forecast) -> int:
    """The strokes that the stock page would say with this set-up: a plan is never stroked in one go."""
    run, plan = state.honing.run, found.plan
    bite = judge(state, cylinder, WallBefore.TRACED).bite
    if run is not None and run.strokes_per_min:
        told = replace(run, dwell_top_s=plan.dwell_top_s, dwell_bottom_s=plan.dwell_bottom_s)
        bite = int(bite * run.waits_share / told.waits_share)
    return bite


def _plan_notes(state: JobState, found: Forecast, show: Show) -> tuple[str, ...]:
    notes = [
        "It ends early: more strokes would leave the hole less straight than it is."
        if limit == ENDS_EARLY
        else f"Held back by the {limit}."
        for limit in found.plan.limits
    ]
    learned = found.learned
    if learned.family:
        notes.append(
            f"The rate is this family's, from job {', '.join(learned.family)}: {show.rate(learned.rate_mm)} a stroke, until three "
            "checks replace it."
        )
    elif learned.checks == 0:
        notes.append("The rate is a starting point: three checks of this step replace it.")
    else:
        notes.append(Note(f"The rate is from {learned.checks} checks: {show.rate(learned.rate_mm)} a stroke."))
    for share, end in ((learned.top, "top"), (learned.bottom, "bottom")):
        if abs(share - 1.0) > 0.1:
            word = "faster" if share > 1.0 else "slower"
            notes.append(Note(f"The {end} cuts {word} than figured, {share:.0%}: counted in."))
    apart = against_plan(state, found)
    if apart is not None and max(map(abs, apart)) > 0.002:
        notes.append(
            f"The last check lies off this plan by {_off(apart[0], show)} at the top, {_off(apart[1], show)} at the bottom."
        )
    if len(found.wall.sizes_mm) < 3:
        notes.append("Two places show taper only: read three, so that a barrel is seen.")
    return tuple(notes)


def _off(mm: float, show: Show) -> str:
    """How far a check lies off what was foretold."""
    return "nothing" if show.is_nought(mm) else show.away(mm)


def _dwell_words(top_s: float, bottom_s: float) -> str:
    return f"{top_s:.1f} and {bottom_s:.1f} s" if max(top_s, bottom_s) >= 0.05 else "none"


def _warms_words(state: JobState, by_c: float, show: Show) -> str:
    if by_c < 0.05:
        return "hardly"
    grows = warmth_grows_mm(state, by_c)
    return show.warmer(by_c) if show.is_nought(grows) else f"{show.warmer(by_c)}, {show.away(grows)}"


def _plan_working(found: Forecast, show: Show) -> tuple[WorkLine, ...]:
    honed, learned = found.plan.honed, found.learned
    return (
        WorkLine(f"from {WALL_FROM[found.wall.source]}: {' '.join(show.size(s) for s in found.wall.sizes_mm)}", f"at {show.reference}, top to bottom"),
        WorkLine(f"wear of the wall by Preston's k, from {show.rate(learned.rate_mm)} a stroke", "Preston's rule; force from the load's share"),
        WorkLine(f"volume = k × force × way = {show.volume(honed.volume_mm3 / 1000.0)}", "the same rule over the way of the stones"),
        WorkLine(f"heat = friction × {show.heat(honed.work_n_mm / 1000.0)} into the wall: {show.warmer(found.warms_c)}", cited("honing.friction", "honing.heat_into_wall")),
    )  # fmt: skip


def steps(state: JobState, cylinder: int, show: Show) -> Advice:
    """The steps of the practice, and what each does to the marks before it."""
    stages, chosen = stages_of(state, cylinder), practice_of(state)
    bad = next((s for wanted in (StageStands.STOP, StageStands.LOOK) for s in stages if s.call.stands is wanted), None)
    if bad is None:
        sentence, mark = f"{chosen.title[:1].upper()}{chosen.title[1:]}: each step does what it is for.", Mark.SOUND
    else:
        sentence, mark = f"{capital(bad.name)}: {say_stage(bad.call, show)}.", STAGE_MARKS[bad.call.stands]
    figures = tuple(
        FigureLine(
            s.name, "—" if s.a_side_um is None else f"{show.height(s.a_side_um)} a side", STAGE_MARKS[s.call.stands]
        )
        for s in stages
    )
    notes = (
        Note(f"{chosen.title[:1].upper()}{chosen.title[1:]}: {chosen.reason}."),
        f"C: another practice, before the first check. Own steps: M, then steps rough {show.size(0.05)} vitrified 150, plateau 0 brush 600.",
    )
    working = tuple(
        WorkLine(
            f"{s.name}: ({show.size(s.before_mm)} − {show.target(s.short_mm)}) / 2 a side with {stones_said(s.stones)}",
            "shop figure: metal a side that a stone's marks need",
        )
        for s in stages
        if s.before_mm is not None
    )
    return Advice(f"Call · cylinder {cylinder}", sentence, figures, notes, working, "", care(state), mark)


def pacer(state: JobState, p: Progress, counted: int, running: bool, most: int) -> Advice:
    """The beat for a hone held by hand: when to stop, clean and measure."""
    k = kinematics_of(state)
    scope = f"Call · cylinder {p.cylinder}"
    if k.pace is None:
        return Advice(
            scope, "The pacer is for a hone held by hand: hone drill rpm 150.", (), (), (), "", care(state), Mark.LOOK
        )
    if not k.pace.possible:
        told = f"No hand holds {k.pace.double_strokes_per_min:.0f} strokes a minute: set the drill to {k.pace.drill_rpm_for_hand:.0f}."
        return Advice(scope, told, _pace_figures(k, counted, most), (), (), "", care(state), Mark.LOOK)
    if counted >= most:
        sentence, mark = f"{counted} strokes: stop. Clean the stones, let it cool, measure.", Mark.LOOK
    elif running:
        sentence, mark = f"{most - counted} more strokes, even up and down.", Mark.PLAIN
    else:
        sentence, mark = f"Enter starts the beat: {most} strokes, then stop, clean, measure.", Mark.PLAIN
    notes = (
        Note("Slow in and fast out gives two angles: keep both halves even."),
        Note("Enter starts and stops; what was counted stands before the size, ready to book."),
    )
    return Advice(
        scope,
        sentence,
        _pace_figures(k, counted, most),
        notes,
        (),
        "Stop" if running else "Start the beat",
        care(state),
        mark,
    )


def _pace_figures(k: Kinematics, counted: int, most: int) -> tuple[FigureLine, ...]:
    if k.pace is None:
        return ()
    return (
        FigureLine("strokes done", f"{counted} of {most}"),
        FigureLine("beat", f"{k.pace.double_strokes_per_min:.0f} double strokes a min"),
        FigureLine("one up and down", f"{k.pace.seconds_per_double_stroke:.2f} s"),
    )


def load(state: JobState, picture: LoadPicture, connected: bool, show: Show) -> Advice:
    """The load by depth, live: where it is tight, and whether the gauge says so too."""
    scope = f"Call · cylinder {picture.cylinder}"
    if not picture.samples:
        told = (
            "The hone sends its load here: Ctrl+5 connects the simulated one."
            if not connected
            else "Waiting for the hone to stroke."
        )
        return Advice(scope, told, (), (), (), "", care(state), Mark.PLAIN)
    tight = picture.tight
    sentence, mark = "The load is even from top to bottom.", Mark.SOUND
    if tight is not None:
        sentence, mark = (
            f"Tight at {show.down(tight.depth_mm)}: {tight.over:.0%} over the mean. {dwell_words(picture, show)}",
            Mark.LOOK,
        )
    figures = [
        FigureLine("strokes seen", f"{picture.strokes:.0f}"),
        FigureLine("mean load", f"{picture.mean:.1f} %"),
    ]
    if tight is not None:
        figures.append(FigureLine("tightest, down", show.unit(show.rough(tight.depth_mm)), Mark.LOOK))
    notes = [gauge_words(picture, show)] + (
        [Note(f"{picture.faults} lines of the hone were not understood and left out.")] if picture.faults else []
    )
    return Advice(
        scope,
        sentence,
        tuple(figures),
        tuple(n for n in notes if n),
        (),
        "Keep this load with the job",
        care(state),
        mark,
    )


def ledger(state: JobState, found: Ledger, show: Show) -> Advice:
    """What every cylinder gave up, by step, and how that compares."""
    odd = found.odd
    if not found.rows:
        return Advice("Call · block", "Nothing was taken yet.", (), (), (), "", care(state))
    cut = [r for r in found.rows if r.honed]
    sentence, mark = (
        f"{len(cut)} cylinders were honed; none is seen to cut unlike the others.",
        Mark.SOUND if len(cut) > 2 else Mark.PLAIN,
    )
    if len(cut) < 2:
        sentence, mark = (
            "One cylinder was honed: there is none to hold it against." if cut else "Nothing was honed yet.",
            Mark.PLAIN,
        )
    if odd is not None:
        sentence, mark = f"Cylinder {odd} cuts unlike the others: look why before it goes on.", Mark.LOOK
    figures = tuple(
        FigureLine(
            f"cylinder {r.cylinder}, in all",
            show.size(r.total_mm),
            Mark.LOOK if r.cylinder == odd else Mark.PLAIN,
        )
        for r in found.rows
    )
    notes = [
        Note(f"{f.number}, {f.engine}: {show.rate(f.rate_mm)} a stroke with {f.stones} in {f.step}.")
        for f in found.family
    ]
    notes += [] if found.family else [Note("No earlier job in this metal has three checks to compare with.")]
    return Advice("Call · block", sentence, figures, tuple(notes), (), "", care(state), mark)


def present_strokes(state: JobState, cylinder: int) -> int:
    """How many strokes a hand does before it stops, cleans and measures: the shop's figure, less where little is left."""
    p, most = progress_of(state, cylinder), int(state.figures.number("honing.clean_every"))
    return most if p.tracked is None else max(min(most, p.tracked.bite), 1)
