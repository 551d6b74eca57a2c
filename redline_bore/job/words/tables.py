"""What the picture of a step is drawn from, as a table: for whoever reads it aloud, and whoever would rather see figures."""

from __future__ import annotations

from redline_bore.core.frozen import frozen
from redline_bore.core.show import Show
from redline_bore.job.bore.plan import plan_of
from redline_bore.job.call.ladder import ladder_of
from redline_bore.job.finish.judgement import finish_of, finish_windows
from redline_bore.job.gauge.analysis import shape_of
from redline_bore.job.hone.progress import progress_of
from redline_bore.job.route import sleeved_cylinders
from redline_bore.job.sign_off.sheet import sheet_of
from redline_bore.job.sleeve.fit import fit_of
from redline_bore.job.sleeve.run import stage_of
from redline_bore.job.state.hole import hole_of
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words.fares import fares_words
from redline_bore.job.words.sleeve import stage_word
from redline_bore.job.words.texture import texture_figure, texture_unit

NOT_KNOWN = "—"


@frozen
class Table:
    """Rows of words and figures under their heads; the first of a row says what it is of."""

    title: str
    heads: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]


def table_of(state: JobState, step: str, cylinder: int, oversize_mm: float, show: Show) -> Table:
    """The table behind the pictures of a step. oversize_mm: where the redline stands on the ladder."""
    if step == "gauge":
        return _readings(state, cylinder, show)
    if step == "call":
        return _call(state, oversize_mm, show)
    if step == "hone":
        return _checks(state, cylinder, show)
    return {"bore": _holes, "sleeve": _sleeves, "finish": _walls, "sign_off": _sheet}.get(step, _block)(state, show)


def _size(value_mm: float | None, show: Show) -> str:
    return NOT_KNOWN if value_mm is None else show.size(value_mm)


def _block(state: JobState, show: Show) -> Table:
    b = state.block
    rows = (
        ("layout", f"{b.layout} of {b.cylinders}"), ("nominal bore", show.size(b.bore_mm)), ("stroke", show.size(b.stroke_mm)),
        ("cylinder length", NOT_KNOWN if state.book_in.length_wanted else show.depth(b.length_mm)),
        ("room below", NOT_KNOWN if b.room_below_mm is None else show.depth(b.room_below_mm)), ("wall", str(b.wall)),
        ("oversizes", " ".join(show.step(s) for s in state.book_in.oversizes_mm) or "none"),
    )  # fmt: skip
    return Table(f"The block, {show.units.mark}", ("figure", "as booked in"), rows)


def _readings(state: JobState, cylinder: int, show: Show) -> Table:
    shape, plan = shape_of(state, cylinder, state.clamped.plate_on), state.gauging.plan
    clocks = sorted({*plan.clocks_deg, *(s.clock_deg for v in shape.levels for s in v.spots)})
    sizes = {(round(v.depth_mm, 2), s.clock_deg): s.size_mm for v in shape.levels for s in v.spots}
    depths = sorted({*(round(d, 2) for d in plan.depths_mm), *(d for d, _ in sizes)})
    rows = tuple((show.depth(d), *(_size(sizes.get((d, c)), show) for c in clocks)) for d in depths)
    plate = "plate on" if state.clamped.plate_on else "plate off"
    return Table(
        f"Cylinder {cylinder}, {plate}, at {show.reference}, {show.units.mark}",
        (f"down, {show.units.mark}", *(f"{c:g}°" for c in clocks)),
        rows,
    )


def _call(state: JobState, oversize_mm: float, show: Show) -> Table:
    rows = []
    for f in ladder_of(state).fates(oversize_mm):
        c, wear = f.column.cleanup, f.column.shape.wear
        rows.append((
            str(f.cylinder), NOT_KNOWN if wear is None else show.size(wear.largest_reading_mm), _size(None if c is None else c.low_mm, show),
            _size(None if c is None or not c.is_bound else c.high_mm, show), _size(f.column.ceiling_mm, show), fares_words(f.fares)[0],
        ))  # fmt: skip
    heads = ("cylinder", "worn by", "cleans up at, least", "most", "wall allows", f"at {show.step(oversize_mm)}")
    return Table(f"The call, {show.units.mark}", heads, tuple(rows))


def _holes(state: JobState, show: Show) -> Table:
    rows = []
    for c in state.cylinders:
        hole, plan = hole_of(state, c), plan_of(state, c)
        sizes = (NOT_KNOWN,) * 2 if hole is None else (show.size(min(hole.all_mm)), show.size(hole.largest_mm))
        left = None if hole is None or plan.redline_mm is None else plan.redline_mm - hole.largest_mm
        rows.append(
            (
                str(c),
                _size(plan.target_mm, show),
                _size(None if hole is None else hole.set_mm, show),
                *sizes,
                _size(left, show),
            )
        )
    heads = ("cylinder", "bore to", "set", "came out, least", "most", "left for the hone")
    return Table(f"Bored, {show.units.mark}", heads, tuple(rows))


def _sleeves(state: JobState, show: Show) -> Table:
    rows = []
    for c in sleeved_cylinders(state) or state.cylinders:
        fit = fit_of(state, c)
        grip = None if fit.grip is None else fit.grip.interference_mm
        outside = None if fit.sleeve is None else fit.sleeve.outside_mm
        rows.append(
            (
                str(c),
                _size(fit.parent_mm, show),
                _size(outside, show),
                _size(grip, show),
                stage_word(stage_of(state, c)),
            )
        )
    return Table(
        f"Sleeves, {show.units.mark}", ("cylinder", "parent", "sleeve outside", "grips by", "now"), tuple(rows)
    )


def _checks(state: JobState, cylinder: int, show: Show) -> Table:
    progress = progress_of(state, cylinder)
    redline = progress.redline.size_mm
    rows = tuple(
        (f"{k.strokes:g}", " ".join(show.size(s) for s in k.sizes_mm), " ".join(show.size(s) for s in k.across_mm) or NOT_KNOWN,
         show.size(k.mean_mm), NOT_KNOWN if redline is None else show.target(redline - k.mean_mm))
        for k in state.honing.checks_of(cylinder)
    )  # fmt: skip
    heads = ("double strokes", "sizes, top down", "across", "mean", "to the redline")
    return Table(
        f"Cylinder {cylinder} at the hone, {show.units.mark}", heads, rows or (("no check yet", *(NOT_KNOWN,) * 4),)
    )


def _walls(state: JobState, show: Show) -> Table:
    names = tuple(
        dict.fromkeys(
            (*finish_windows(state), *(j.parameter for c in state.cylinders for j in finish_of(state, c).judged))
        )
    )
    rows = []
    for c in state.cylinders:
        judged = {j.parameter: j for j in finish_of(state, c).judged}
        cells = (
            NOT_KNOWN
            if (j := judged.get(n)) is None
            else f"{texture_figure(j.mean, show)}{'' if j.decision is None else f', {j.decision}'}"
            for n in names
        )
        rows.append((str(c), *cells))
    return Table(f"Finish, {texture_unit(show)}", ("cylinder", *names), tuple(rows))


def _sheet(state: JobState, show: Show) -> Table:
    rows = tuple(
        (
            str(r.cylinder),
            _size(r.smallest_mm, show),
            _size(r.largest_mm, show),
            _size(r.clearance_mm, show),
            _size(r.most_mm, show),
            r.stands,
        )
        for r in sheet_of(state).rows
    )
    heads = ("cylinder", "smallest", "largest", "clearance, least", "most", "stands")
    return Table(f"The finished holes, {show.units.mark}", heads, rows)
