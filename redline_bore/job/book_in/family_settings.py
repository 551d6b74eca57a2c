"""What earlier engines of a family had set, for the next one: booked anew, so that the ledger says where it is from."""

from __future__ import annotations

from collections.abc import Sequence

from redline_bore.core.block import BlockSpec
from redline_bore.core.fit import ClearanceWindow
from redline_bore.core.frozen import frozen
from redline_bore.core.gauging import LevelPlan
from redline_bore.core.lengths import Units
from redline_bore.job.kinds.book_in import PracticeChosen
from redline_bore.job.kinds.call import ClearanceStated
from redline_bore.job.kinds.entry import Entry
from redline_bore.job.kinds.finish import FinishWindowStated
from redline_bore.job.kinds.hone import AngleWanted, HoneSet, OwnHoning, StonesSet
from redline_bore.job.state.booking import BookIn
from redline_bore.job.state.finishing import FinishWindow
from redline_bore.job.state.honing import Angle, HoneRun, HoningWay, Stones
from redline_bore.job.state.job_state import JobState


@frozen
class SetOnJob:
    """What a job was booked in as, and all that was set on it. practices: by topic."""

    number: str
    units: Units
    book_in: BookIn
    practices: dict[str, str]
    plan: LevelPlan
    windows: tuple[ClearanceWindow, ...]
    own: HoningWay | None
    stones: Stones | None
    run: HoneRun | None
    angle: Angle | None
    finish: tuple[FinishWindow, ...]

    @property
    def block(self) -> BlockSpec:
        """The block."""
        return self.book_in.block


def set_on(state: JobState) -> SetOnJob:
    """What was set on a job, as it stands."""
    h = state.honing
    return SetOnJob(
        state.number, state.units, state.book_in, dict(state.booking.practices), state.gauging.plan, state.calling.windows, h.own, h.stones, h.run,
        h.angle, state.finishing.windows,
    )  # fmt: skip


def settings_for(opening: BookIn, shop: dict[str, str], family: Sequence[SetOnJob]) -> tuple[Entry, ...]:
    """Practices, clearance windows, stones, the hone's set-up, angle and finish windows of a family; ``family``: its jobs, the newest first.

    Each is that of the newest job that had it. What rests on the hole's measures comes only from a block of the same ones; whether
    stones are new is never taken over.
    """
    found: list[Entry] = []
    practices: dict[str, str] = {}
    for job in reversed(family):
        practices |= job.practices
    found += [PracticeChosen(topic=t, name=n) for t, n in practices.items() if shop.get(t) != n and n != "own"]
    own = next((s.own for s in family if s.own is not None), None)
    if own is not None and practices.get("honing") == "own":
        found.append(OwnHoning(steps=own.steps, short_mm=own.short_mm, stones=own.stones))
    found += _windows(opening, family)
    found += _hone(opening.block, family)
    for name in dict.fromkeys(w.parameter for s in family for w in s.finish):
        w = next(w for s in family for w in s.finish if w.parameter == name)
        found.append(FinishWindowStated(parameter=w.parameter, low_um=w.low_um, high_um=w.high_um, source=w.source))
    return tuple(found)


def _windows(opening: BookIn, family: Sequence[SetOnJob]) -> list[Entry]:
    """The clearances that were stated, of a job with the same bore, duty and piston alloy."""
    alike = [
        s
        for s in family
        if (s.block.bore_mm, s.book_in.duty, s.book_in.piston_alloy)
        == (opening.block.bore_mm, opening.duty, opening.piston_alloy)
    ]
    known: dict[str, ClearanceWindow] = {}
    for job in reversed(alike):
        known |= {w.source: w for w in job.windows}
    return [ClearanceStated(source=w.source, low_mm=w.low_mm, high_mm=w.high_mm) for w in known.values()]


def _hone(block: BlockSpec, family: Sequence[SetOnJob]) -> list[Entry]:
    found: list[Entry] = []
    alike = [s for s in family if _same_hole(s.block, block)]
    stones = next((s.stones for s in alike if s.stones is not None), None)
    run = next((s.run for s in alike if s.run is not None), None)
    angle = next((s.angle for s in family if s.angle is not None), None)
    if stones is not None:
        found.append(
            StonesSet(
                stones=stones.stones, count=stones.count, width_mm=stones.width_mm, length_mm=stones.length_mm, worn_mm=stones.worn_mm,
                hangs_mm=stones.hangs_mm, bedded=None
            )
        )  # fmt: skip
    if run is not None:
        found.append(
            HoneSet(
                machine=run.machine, rpm=run.rpm, strokes_per_min=run.strokes_per_min, over_top_mm=run.over_top_mm, over_bottom_mm=run.over_bottom_mm,
                dwell_top_s=run.dwell_top_s, dwell_bottom_s=run.dwell_bottom_s, load=run.load,
            )
        )  # fmt: skip
    if angle is not None:
        found.append(AngleWanted(included_deg=angle.included_deg, quoted=angle.quoted))
    return found


def _same_hole(a: BlockSpec, b: BlockSpec) -> bool:
    """The stroke of one fits the other: bore, length, bottom and the room below alike."""
    return (a.bore_mm, a.length_mm, a.bottom, a.room_below_mm) == (b.bore_mm, b.length_mm, b.bottom, b.room_below_mm)
