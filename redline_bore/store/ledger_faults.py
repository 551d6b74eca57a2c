"""What is wrong with a ledger that comes in from a file: entries out of order, cylinders that are not there, figures that
cannot be."""

from __future__ import annotations

from collections.abc import Sequence

from redline_bore.core.block import faults_of
from redline_bore.core.errors import Fault, InputError
from redline_bore.core.texture.packed import unpacked
from redline_bore.core.texture.profile import even_trace
from redline_bore.job.ledger.entries import (
    BookInRevised,
    DeckRead,
    Entry,
    EntryRestored,
    EntryStruck,
    FinalGauged,
    FinishWindowStated,
    HatchSeen,
    JobOpened,
    PhotoAttached,
    Record,
    RingsGapped,
    RunChecked,
    TraceBooked,
)


def ledger_faults(ledger: Sequence[Record]) -> list[Fault]:
    """Everything in a ledger that no logbook would have let in, with its path."""
    faults, cylinders = [], 0
    for place, record in enumerate(ledger):
        path, entry = f"ledger[{place}]", record.entry
        if record.seq != place + 1:
            faults.append(Fault(f"{path}.seq", f"is {record.seq}; entries are numbered 1, 2, 3 ... without a gap"))
        if isinstance(entry, JobOpened) != (place == 0):
            faults.append(Fault(f"{path}.entry", "a ledger begins with the opening of the job, once"))
        if isinstance(entry, (JobOpened, BookInRevised)):
            cylinders = entry.book_in.block.cylinders
            faults += [Fault(f"{path}.entry.book_in.block.{f.path}", f.reason) for f in faults_of(entry.book_in.block)]
        number = getattr(entry, "cylinder", None)
        whole_set_up = isinstance(entry, RunChecked) and number == 0
        if number is not None and not whole_set_up and not 1 <= number <= cylinders:
            faults.append(Fault(f"{path}.entry.cylinder", f"is {number}; the block has 1 to {cylinders}"))
        if isinstance(entry, (EntryStruck, EntryRestored, PhotoAttached)) and not 1 <= entry.seq < record.seq:
            faults.append(
                Fault(f"{path}.entry.seq", f"is {entry.seq}; only an earlier entry can be struck, restored or pictured")
            )
        faults += [Fault(f"{path}.entry.{name}", reason) for name, reason in _empty_figures(entry)]
        faults += [Fault(f"{path}.entry.{name}", reason) for name, reason in _finish_faults(entry)]
    return faults


def _empty_figures(entry: Entry) -> list[tuple[str, str]]:
    """Figures that an entry cannot be without, and rows of a deck that do not match."""
    found = [
        (name, "holds no figure") for name in ("sizes_mm", "speeds_rpm", "rows_mm") if getattr(entry, name, None) == ()
    ]
    if isinstance(entry, DeckRead):
        if entry.rows_mm and (len({len(row) for row in entry.rows_mm}) != 1 or not entry.rows_mm[0]):
            found.append(("rows_mm", "every row of a deck holds as many heights"))
        if entry.bank not in (0, 1):
            found.append(("bank", f"is {entry.bank}; a block has banks 0 and 1"))
    return found


def _finish_faults(entry: Entry) -> list[tuple[str, str]]:
    """Figures of the finish and the sign-off that cannot be."""
    if isinstance(entry, TraceBooked):
        return _trace_faults(entry)
    if isinstance(entry, FinishWindowStated) and not 0.0 <= entry.low_um < entry.high_um:
        return [("high_um", f"a window from {entry.low_um:g} to {entry.high_um:g} is none")]
    if isinstance(entry, HatchSeen):
        found = [
            (name, f"is {value:g}; from 0 to 90 degrees can be")
            for name in ("up_deg", "down_deg")
            if not 0.0 <= (value := getattr(entry, name)) <= 90.0
        ]
        return found + ([] if 0.0 <= entry.confidence <= 1.0 else [("confidence", "is from 0 to 1")])
    if isinstance(entry, RingsGapped):
        gaps = {"top_mm": entry.top_mm, "second_mm": entry.second_mm}
        return [(name, "is no gap") for name, gap in gaps.items() if gap is not None and gap <= 0.0]
    if isinstance(entry, FinalGauged) and entry.across_mm and len(entry.across_mm) != len(entry.sizes_mm):
        return [("across_mm", "as many sizes across as down")]
    return []


def _trace_faults(entry: TraceBooked) -> list[tuple[str, str]]:
    found = []
    try:
        even_trace(entry.step_um, unpacked(entry.heights))
    except InputError as error:
        found.append(("heights", str(error)))
    if entry.plateau_strokes is not None and entry.plateau_strokes < 0.0:
        found.append(("plateau_strokes", "is less than none"))
    return found
