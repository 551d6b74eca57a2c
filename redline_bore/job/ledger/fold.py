"""The fold: a pure function from the ledger to the state. Struck entries are left out; everything else is replayed."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import fields, replace
from typing import Any

from redline_bore.core.block import ring_travel
from redline_bore.core.errors import FaultyInput, InputError
from redline_bore.core.figures import Figures
from redline_bore.core.fit import ClearanceWindow
from redline_bore.core.gauging import LevelPlan, plan_of
from redline_bore.core.thermal import GaugeSetting, master_drift, size_at_20
from redline_bore.job.ledger import entries as e
from redline_bore.job.ledger.fold_cut import HANDLERS, to_20
from redline_bore.job.ledger.fold_finish import FINISH_HANDLERS, FINISH_LISTS
from redline_bore.job.ledger.state import (
    Decision,
    Defect,
    JobState,
    Photo,
    Piston,
    Reading,
    RingGap,
    SecondOpinion,
    SpindleSetUp,
    Stamp,
    Study,
    Sweep,
    Tightened,
    WallReading,
    ZeroSpan,
)
from redline_bore.job.practices import SHOP_DEFAULT

_LISTS = (
    "readings", "three_points", "sweeps", "zero_spans", "ring_gaps", "defects", "photos", "wall_readings",
    "second_opinions", "studies", "windows", "pistons", "bored", "run_checks", "cut_notes", "checks",
    "compensations", "loads", "stamps", *FINISH_LISTS,
)  # fmt: skip
STANDARD_PLANS = ("quick", "full", "race")
_CHANGE_THE_PAST = (e.EntryStruck, e.EntryRestored, e.BookInRevised)


def struck_entries(ledger: Sequence[e.Record]) -> frozenset[int]:
    """Places in the ledger that no longer count; the last word on each entry holds."""
    struck: set[int] = set()
    for record in ledger:
        if isinstance(record.entry, e.EntryStruck):
            struck.add(record.entry.seq)
        elif isinstance(record.entry, e.EntryRestored):
            struck.discard(record.entry.seq)
    return frozenset(struck)


def fold(ledger: Sequence[e.Record], shipped: Figures) -> JobState:
    """The state after ``ledger`` (growing seq, opened by a JobOpened). ``shipped`` fills figures the job lacks.

    Sizes go to 20 C with the material the job has in the end: a wrong one, once corrected, was always wrong.
    Raises InputError when the ledger does not begin with the job's opening.
    """
    if not ledger or not isinstance(ledger[0].entry, e.JobOpened):
        raise InputError("This ledger does not begin with the opening of a job")
    struck = struck_entries(ledger)
    draft = _opened(ledger[0].entry, shipped)
    for record in ledger[1:]:
        if isinstance(record.entry, e.BookInRevised) and record.seq not in struck:
            draft["materials"] = record.entry.book_in
    draft |= {"struck": struck, "last_seq": ledger[-1].seq}
    return _replayed(draft, [r for r in ledger[1:] if r.seq not in struck])


def fold_on(state: JobState, ledger: Sequence[e.Record], shipped: Figures) -> JobState:
    """``fold(ledger)``, worked on from ``state``, which is the fold of an earlier stretch of the same ledger."""
    new = [r for r in ledger if r.seq > state.last_seq]
    if any(isinstance(r.entry, _CHANGE_THE_PAST) for r in new):
        return fold(ledger, shipped)
    draft = {f.name: getattr(state, f.name) for f in fields(state) if f.name != "memo"}
    draft |= {name: list(draft[name]) for name in _LISTS}
    draft |= {"materials": state.book_in, "last_seq": ledger[-1].seq}
    return _replayed(draft, [r for r in new if r.seq not in state.struck])


def _replayed(draft: dict[str, Any], records: Sequence[e.Record]) -> JobState:
    for record in records:
        handler = _HANDLERS.get(type(record.entry))
        if handler is not None:
            handler(draft, record, record.entry)
    del draft["materials"]
    ready: dict[str, Any] = {k: tuple(v) if isinstance(v, list) else v for k, v in draft.items()}
    return JobState(**ready)


def _opened(entry: e.JobOpened, shipped: Figures) -> dict[str, Any]:
    figures = job_figures(entry.figures, shipped)
    draft: dict[str, Any] = {
        "number": entry.number,
        "units": entry.units,
        "book_in": entry.book_in,
        "figures": figures,
        "practices": tuple((SHOP_DEFAULT | entry.practices).items()),
        "hone_steps": (),
    }
    draft |= {name: [] for name in _LISTS}
    draft["materials"] = entry.book_in
    draft["plan"] = standard_plan(entry.book_in, figures, "full")
    return draft


def job_figures(kept: Mapping[str, Any], shipped: Figures) -> Figures:
    """The figures a job is worked with: those it kept, laid over the shipped ones where they differ."""
    plain = shipped.plain()
    own = {key: value for key, value in kept.items() if key in plain and value != plain[key]}
    try:
        return shipped.with_own(own) if own else shipped
    except FaultyInput as error:
        raise InputError(f"The figures kept with this job cannot be used: {error}") from error


def standard_plan(book_in: e.BookIn, figures: Figures, name: str) -> LevelPlan:
    """The quick, full or race plan for a block."""
    travel = ring_travel(book_in.block, figures.number("gauging.ring_top"), figures.number("gauging.ring_pack"))
    levels, chords = (int(figures.number(f"gauging.{name}_{what}")) for what in ("levels", "chords"))
    return plan_of(book_in.block, travel, name, levels, chords)


def _revised(draft: dict[str, Any], record: e.Record, entry: e.BookInRevised) -> None:
    changed = entry.book_in.block != draft["book_in"].block
    draft["book_in"] = entry.book_in
    if changed and draft["plan"].name in STANDARD_PLANS:
        draft["plan"] = standard_plan(entry.book_in, draft["figures"], draft["plan"].name)


def _plan(draft: dict[str, Any], record: e.Record, entry: e.PlanChosen) -> None:
    plan = draft["plan"] = LevelPlan(entry.name, entry.depths_mm, entry.clocks_deg)
    if plan.name not in STANDARD_PLANS:
        draft["own_plans"] = (*(p for p in draft.get("own_plans", ()) if p.name != plan.name), plan)


def _gauge_set(draft: dict[str, Any], record: e.Record, entry: e.GaugeSet) -> None:
    draft["gauge"] = GaugeSetting(entry.master_20_mm, entry.master_1e6, entry.master_c, entry.gauge_1e6, entry.gauge_c)
    draft["gauge_kind"] = entry.gauge
    draft["zero_spans"].append(ZeroSpan(record.seq, 0.0))


def _master_checked(draft: dict[str, Any], record: e.Record, entry: e.MasterChecked) -> None:
    zero: GaugeSetting | None = draft.get("gauge")
    if zero is None or not draft["zero_spans"]:
        return  # a check without a zero bounds nothing
    off = master_drift(zero, entry.from_zero_mm, entry.master_c, entry.gauge_c)
    last = draft["zero_spans"].pop()
    draft["zero_spans"] += [ZeroSpan(last.start_seq, last.start_off_mm, record.seq, off), ZeroSpan(record.seq, off)]


def _temperature(draft: dict[str, Any], record: e.Record, entry: e.BlockTemperature) -> None:
    draft["block_c"] = entry.block_c


def _plate(draft: dict[str, Any], record: e.Record, entry: e.PlateChanged) -> None:
    draft["plate_on"] = entry.on


def _reading(draft: dict[str, Any], record: e.Record, entry: e.ReadingBooked) -> None:
    size = to_20(draft, entry.diameter_mm, record.block_c)
    two = entry.gauge == e.TWO_POINT
    draft["readings" if two else "three_points"].append(
        Reading(
            record.seq, entry.cylinder, entry.depth_mm, entry.clock_deg % (180.0 if two else 120.0), size,
            entry.diameter_mm, entry.plate_on, record.block_c, record.person, record.at, entry.gauge,
        )
    )  # fmt: skip


def _spindle(draft: dict[str, Any], record: e.Record, entry: e.SpindleSet) -> None:
    draft["spindle"] = SpindleSetUp(record.seq, entry.cylinder, entry.zero_radius_mm, entry.based_on)


def _sweep(draft: dict[str, Any], record: e.Record, entry: e.SweepBooked) -> None:
    spindle: SpindleSetUp | None = draft.get("spindle")
    set_up = spindle.seq if spindle is not None and spindle.cylinder == entry.cylinder else record.seq
    radii = tuple(to_20(draft, r, record.block_c) for r in entry.radius_mm)
    draft["sweeps"].append(
        Sweep(record.seq, entry.cylinder, set_up, entry.depth_mm, entry.clock_deg, radii, entry.plate_on)
    )


def _ring_gap(draft: dict[str, Any], record: e.Record, entry: e.RingGapRead) -> None:
    draft["ring_gaps"].append(RingGap(entry.cylinder, entry.depth_mm, entry.gap_mm))


def _defect(draft: dict[str, Any], record: e.Record, entry: e.DefectMarked) -> None:
    draft["defects"].append(
        Defect(
            entry.cylinder, entry.what, entry.top_mm, entry.bottom_mm, entry.clock_deg, entry.width_deg,
            entry.deep_low_mm, entry.deep_high_mm, entry.feel, record.seq,
        )
    )  # fmt: skip


def _photo(draft: dict[str, Any], record: e.Record, entry: e.PhotoAttached) -> None:
    draft["photos"].append(Photo(record.seq, entry.seq, entry.name, entry.media, entry.sha256))


def _clamping(draft: dict[str, Any], record: e.Record, entry: e.ClampingStated) -> None:
    draft["clamping"] = tuple((dict(draft.get("clamping", ())) | {entry.part: entry.set_up}).items())


def _tightened(draft: dict[str, Any], record: e.Record, entry: e.PlateTightened) -> None:
    draft["tightened"] = Tightened(record.at, record.person, entry.order, entry.torques_nm)


def _second_opinion(draft: dict[str, Any], record: e.Record, entry: e.SecondOpinionOpened) -> None:
    _of_shop(draft, entry.who, lambda old: replace(old, conditions=entry))


def _other_reading(draft: dict[str, Any], record: e.Record, entry: e.OtherReadingBooked) -> None:
    _of_shop(draft, entry.who, lambda old: replace(old, readings=(*old.readings, entry)))


def _other_piston(draft: dict[str, Any], record: e.Record, entry: e.OtherPistonBooked) -> None:
    _of_shop(draft, entry.who, lambda old: replace(old, pistons=(*old.pistons, (entry.cylinder, entry.size_mm))))


def _of_shop(draft: dict[str, Any], who: str, change: Callable[[SecondOpinion], SecondOpinion]) -> None:
    """Change what one shop said, beginning it when it is new."""
    shops: list[SecondOpinion] = draft["second_opinions"]
    place = next((i for i, s in enumerate(shops) if s.conditions.who == who), None)
    if place is None:
        shops.append(change(SecondOpinion(e.SecondOpinionOpened(who=who))))
    else:
        shops[place] = change(shops[place])


def _study_began(draft: dict[str, Any], record: e.Record, entry: e.StudyBegan) -> None:
    draft["studies"].append(Study(record.seq, entry.instrument, entry.resolution_mm))


def _study_reading(draft: dict[str, Any], record: e.Record, entry: e.StudyReadingBooked) -> None:
    from redline_bore.core.gauge_study import StudyValue  # few jobs have a study: not at the start

    if draft["studies"]:
        value = StudyValue(record.person, entry.spot, entry.value_mm)
        draft["studies"][-1] = replace(draft["studies"][-1], values=(*draft["studies"][-1].values, value))


def _wall(draft: dict[str, Any], record: e.Record, entry: e.WallRead) -> None:
    draft["wall_readings"].append(
        WallReading(entry.cylinder, entry.clock_deg, entry.depth_mm, entry.wall_mm, entry.zone, record.seq)
    )


def _practice(draft: dict[str, Any], record: e.Record, entry: e.PracticeChosen) -> None:
    draft["practices"] = tuple((dict(draft["practices"]) | {entry.topic: entry.name}).items())


def _clearance(draft: dict[str, Any], record: e.Record, entry: e.ClearanceStated) -> None:
    kept = [w for w in draft["windows"] if w.source != entry.source]
    draft["windows"] = [*kept, ClearanceWindow(entry.low_mm, entry.high_mm, entry.source)]


def _piston(draft: dict[str, Any], record: e.Record, entry: e.PistonMeasured) -> None:
    coefficient = draft["figures"].number(f"thermal.{draft['materials'].piston_alloy}")
    known = entry.piston_c is not None
    size = size_at_20(entry.size_mm, coefficient, entry.piston_c) if entry.piston_c is not None else entry.size_mm
    draft["pistons"].append(Piston(record.seq, entry.cylinder, size, record.typed, known))


def _chamber(draft: dict[str, Any], record: e.Record, entry: e.ChamberStated) -> None:
    draft["chamber"] = entry


def _decision(draft: dict[str, Any], record: e.Record, entry: e.DecisionTaken) -> None:
    draft["decision"] = Decision(
        record.seq, entry.oversize_mm, entry.sentence, entry.figures, record.at, record.person, entry.apart,
        entry.based_on, entry.way,
    )  # fmt: skip


def _stamped(draft: dict[str, Any], record: e.Record, entry: e.StepStamped) -> None:
    draft["stamps"].append(Stamp(entry.step, entry.initials, record.at, record.seq))


_HANDLERS: dict[type, Callable[[dict[str, Any], e.Record, Any], None]] = {
    e.BookInRevised: _revised,
    e.PlanChosen: _plan,
    e.GaugeSet: _gauge_set,
    e.MasterChecked: _master_checked,
    e.SpindleSet: _spindle,
    e.SweepBooked: _sweep,
    e.PhotoAttached: _photo,
    e.ClampingStated: _clamping,
    e.PlateTightened: _tightened,
    e.SecondOpinionOpened: _second_opinion,
    e.OtherReadingBooked: _other_reading,
    e.OtherPistonBooked: _other_piston,
    e.StudyBegan: _study_began,
    e.StudyReadingBooked: _study_reading,
    e.BlockTemperature: _temperature,
    e.PlateChanged: _plate,
    e.ReadingBooked: _reading,
    e.RingGapRead: _ring_gap,
    e.DefectMarked: _defect,
    e.WallRead: _wall,
    e.PracticeChosen: _practice,
    e.ClearanceStated: _clearance,
    e.PistonMeasured: _piston,
    e.ChamberStated: _chamber,
    e.DecisionTaken: _decision,
    e.StepStamped: _stamped,
    **HANDLERS,
    **FINISH_HANDLERS,
}

UNDOABLE = tuple(_HANDLERS)


def last_undoable(ledger: Sequence[e.Record]) -> e.Record | None:
    """The newest entry that still counts and can be struck (never the opening of the job)."""
    struck = struck_entries(ledger)
    return next((r for r in reversed(ledger) if isinstance(r.entry, UNDOABLE) and r.seq not in struck), None)


def last_struck(ledger: Sequence[e.Record]) -> int | None:
    """The entry struck last and not restored since, if nothing else was booked after the striking."""
    struck = struck_entries(ledger)
    for record in reversed(ledger):
        if isinstance(record.entry, e.EntryStruck):
            if record.entry.seq in struck:
                return record.entry.seq
        elif not isinstance(record.entry, e.EntryRestored):
            break
    return None
