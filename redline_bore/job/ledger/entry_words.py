"""An entry of the ledger in words, as it would stand on a traveller card."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from redline_bore.job.advice import Show, celsius
from redline_bore.job.ledger import entries as e
from redline_bore.job.ledger.state import STEP_TITLES


def entry_words(entry: e.Entry, show: Show) -> str:
    """One line for one entry, lengths in the units being looked at."""
    return _WORDS[type(entry)](entry, show)


def _plate(on: bool) -> str:
    return "plate on" if on else "plate off"


def _reading(x: e.ReadingBooked, s: Show) -> str:
    kind = "" if x.gauge == e.TWO_POINT else f", {x.gauge}"
    return f"{x.cylinder}: {s.fine(x.diameter_mm)} {s.down(x.depth_mm)}, {x.clock_deg:g}°, {_plate(x.plate_on)}{kind}"


def _conditions(x: e.SecondOpinionOpened, s: Show) -> str:
    warm = "" if x.block_c is None else f", block at {x.block_c:.1f} °C"
    return f"second opinion of {x.who}, {_plate(x.plate_on)}{warm}"


def _check(x: e.CheckLogged, s: Show) -> str:
    return f"{x.cylinder}: check at {x.strokes:g} strokes, {' '.join(s.size(v) for v in x.sizes_mm)}"


def _defect(x: e.DefectMarked, s: Show) -> str:
    deep = (
        s.size(x.deep_high_mm)
        if x.deep_low_mm == x.deep_high_mm
        else f"{s.size(x.deep_low_mm)}–{s.size(x.deep_high_mm)}"
    )
    return f"{x.cylinder}: {x.what}, {deep} deep, {s.depth(x.top_mm)}–{s.down(x.bottom_mm)}, {x.clock_deg:.0f}°"


def _other(x: e.OtherReadingBooked, s: Show) -> str:
    where = "" if x.depth_mm is None else f" {s.down(x.depth_mm)}"
    clock = "" if x.clock_deg is None else f", {x.clock_deg:.0f}°"
    return f"{x.who} reads {x.cylinder}: {s.size(x.diameter_mm)}{where}{clock}"


def _trace(x: e.TraceBooked, s: Show) -> str:
    where = "" if x.depth_mm is None else f", {s.down(x.depth_mm)}"
    after = "" if x.plateau_strokes is None else f", {x.plateau_strokes:g} plateau strokes"
    return f"{x.cylinder}: trace{where}{after}, from {x.source}"


_WORDS: dict[type, Callable[[Any, Show], str]] = {
    e.JobOpened: lambda x, s: f"job {x.number} opened for {x.book_in.owner}",
    e.BookInRevised: lambda x, s: "book-in revised",
    e.PlanChosen: lambda x, s: f"plan {x.name}: {len(x.depths_mm)} levels by {len(x.clocks_deg)} chords",
    e.GaugeSet: lambda x, s: f"{x.gauge} gauge zeroed on {s.size(x.master_20_mm)} at {x.master_c:g} °C",
    e.MasterChecked: lambda x, s: f"gauge reads {s.fine(x.from_zero_mm)} from zero on its master",
    e.BlockTemperature: lambda x, s: f"block at {x.block_c:g} °C",
    e.PlateChanged: lambda x, s: _plate(x.on),
    e.ReadingBooked: _reading,
    e.SpindleSet: lambda x, s: f"{x.cylinder}: spindle set up on the {x.based_on}",
    e.SweepBooked: lambda x, s: (
        f"{x.cylinder}: sweep of {len(x.clock_deg)} points {s.down(x.depth_mm)}, {_plate(x.plate_on)}"
    ),
    e.RingGapRead: lambda x, s: f"{x.cylinder}: ring gap {s.size(x.gap_mm)} {s.down(x.depth_mm)}",
    e.DefectMarked: _defect,
    e.PhotoAttached: lambda x, s: f"photo {x.name} of entry {x.seq}",
    e.WallRead: lambda x, s: (
        f"{x.cylinder}: wall {s.rough(x.wall_mm)} {s.down(x.depth_mm)}, {x.clock_deg:g}°, {x.zone}"
    ),
    e.ClampingStated: lambda x, s: f"how the {x.part} is held down",
    e.PlateTightened: lambda x, s: f"plate tightened, {len(x.order)} fasteners in {max(len(x.torques_nm), 1)} stages",
    e.SecondOpinionOpened: _conditions,
    e.OtherReadingBooked: _other,
    e.OtherPistonBooked: lambda x, s: f"{x.who} measures piston {x.cylinder}: {s.size(x.size_mm)}",
    e.StudyBegan: lambda x, s: f"gauge study of the {x.instrument}",
    e.StudyReadingBooked: lambda x, s: f"study, {x.spot}: {s.fine(x.value_mm)}",
    e.PracticeChosen: lambda x, s: f"practice, {x.topic.replace('_', ' ')}: {x.name}",
    e.ClearanceStated: lambda x, s: f"clearance by {x.source}: {s.size(x.low_mm)}–{s.size(x.high_mm)}",
    e.PistonMeasured: lambda x, s: f"piston {x.cylinder}: {s.size(x.size_mm)}",
    e.ChamberStated: lambda x, s: f"chamber {x.chamber_cm3:g} cm³, gasket {s.size(x.gasket_bore_mm)}",
    e.DecisionTaken: lambda x, s: f"the call: {x.sentence}",
    e.MachineStated: lambda x, s: f"machine {x.name}: bar {s.rough(x.thick_mm)} thick, reaches {s.rough(x.reach_mm)}",
    e.InsertShelved: lambda x, s: f"{x.count} inserts {x.insert} onto the shelf, {x.edges} edges each, {x.grade}",
    e.EdgeTurned: lambda x, s: f"an edge of {x.insert} is {x.why}",
    e.RunChecked: lambda x, s: f"{x.cylinder or 'set-up'}: {x.step} check, {x.check}",
    e.CutNoted: lambda x, s: f"{x.cylinder}: {x.what}" + ("" if x.depth_mm is None else f" {s.down(x.depth_mm)}"),
    e.OldSleeveMeasured: lambda x, s: f"{x.cylinder}: old sleeve {s.size(x.outside_mm)} outside",
    e.ParentRead: lambda x, s: f"{x.cylinder}: parent {' '.join(s.size(v) for v in x.sizes_mm)} {s.down(x.depth_mm)}",
    e.ParentOutsideStated: lambda x, s: f"parent's outside {s.rough(x.low_mm)} to {s.rough(x.high_mm)}",
    e.SleeveMeasured: lambda x, s: f"{x.cylinder}: sleeve {s.size(x.outside_mm)} × {s.size(x.bore_mm)}",
    e.DeckRead: lambda x, s: f"deck of bank {x.bank + 1} read at {sum(len(r) for r in x.rows_mm)} places",
    e.DeckFaced: lambda x, s: f"deck of bank {x.bank + 1} faced by {s.size(x.cut_mm)}",
    e.CounterboreRead: lambda x, s: f"{x.cylinder}: counterbore {s.size(x.depth_mm)} deep",
    e.ProtrusionStated: lambda x, s: f"flanges stand {s.size(x.low_mm)}–{s.size(x.high_mm)} proud",
    e.SleeveWayTaken: lambda x, s: f"{x.cylinder}: {x.way}" + (", a step left at the bottom" if x.step_left else ""),
    e.SleeveCold: lambda x, s: f"sleeves at {celsius(x.sleeve_c)}",
    e.AfterPressRead: lambda x, s: f"{x.cylinder}: sleeve in, reads {' '.join(s.size(v) for v in x.sizes_mm)}",
    e.BarSet: lambda x, s: (
        f"bar: {x.insert}, {s.fine(x.feed_mm)} a turn, {x.rpm:g} turns a minute, on the {x.based_on}"
    ),
    e.HoleBored: lambda x, s: f"{x.cylinder}: bored, set to {s.size(x.set_mm)}, came {s.size(max(x.sizes_mm))}",
    e.StonesSet: lambda x, s: (
        f"stones {x.stones.replace('_', ' ')}, {x.count} × {s.rough(x.width_mm)}, {s.rough(x.length_mm)} long"
    ),
    e.HoneSet: lambda x, s: (
        f"{x.machine} hone, {x.rpm:g} turns"
        + ("" if x.strokes_per_min is None else f", {x.strokes_per_min:g} strokes a minute")
    ),
    e.AngleWanted: lambda x, s: f"crosshatch wanted {x.included_deg:g}° included",
    e.OwnHoning: lambda x, s: f"own honing: {', '.join(x.steps)}",
    e.CompensationRead: lambda x, s: f"{x.cylinder}: the machine says {s.size(x.taken_mm)} taken",
    e.LoadSeen: lambda x, s: f"{x.cylinder}: load by depth over {x.strokes:g} strokes",
    e.HoneStepBegan: lambda x, s: f"{x.cylinder}: honing step {x.step + 1}",
    e.CheckLogged: _check,
    e.TraceBooked: _trace,
    e.FinishWindowStated: lambda x, s: f"{x.parameter} {x.low_um:g}–{x.high_um:g} µm by {x.source}",
    e.HatchSeen: lambda x, s: f"{x.cylinder}: crosshatch {x.up_deg + x.down_deg:.1f}° ± {x.u_deg:.1f}° from a picture",
    e.FinalGauged: lambda x, s: (
        f"{x.cylinder}: final {s.unit(' '.join(s.size(v) for v in (*x.sizes_mm, *x.across_mm)))}, {_plate(x.plate_on)}"
    ),
    e.RingsGapped: lambda x, s: (
        f"{x.cylinder}: ring gaps " + s.unit(", ".join(s.rough(v) for v in (x.top_mm, x.second_mm) if v is not None))
    ),
    e.CareTaken: lambda x, s: f"the block is {x.what}",
    e.PointAccepted: lambda x, s: f"accepted: {x.point}" + (f" ({x.reason})" if x.reason else ""),
    e.JobReopened: lambda x, s: f"opened again: {x.reason}",
    e.FamilyOffered: lambda x, s: f"{len(x.lessons)} lessons of the family offered",
    e.StepStamped: lambda x, s: f"{STEP_TITLES.get(x.step, x.step)} stamped by {x.initials}",
    e.EntryStruck: lambda x, s: f"entry {x.seq} struck{': ' + x.reason if x.reason else ''}",
    e.EntryRestored: lambda x, s: f"entry {x.seq} counts again",
}
