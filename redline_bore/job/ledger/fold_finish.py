"""The part of the fold that has to do with the finish and the sign-off."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from redline_bore.job.ledger import entries as e
from redline_bore.job.ledger.finish_state import Accepted, Final, HatchRead, TakenCare, WallTrace
from redline_bore.job.ledger.fold_cut import Draft, to_20


def _trace(draft: Draft, record: e.Record, entry: e.TraceBooked) -> None:
    draft["traces"].append(
        WallTrace(
            record.seq, entry.cylinder, entry.step_um, entry.heights, entry.depth_mm, entry.plateau_strokes, entry.source,
            record.person, record.at,
        )
    )  # fmt: skip


def _window(draft: Draft, record: e.Record, entry: e.FinishWindowStated) -> None:
    kept = [w for w in draft["finish_windows"] if w.parameter != entry.parameter]
    draft["finish_windows"] = [*kept, entry]


def _hatch(draft: Draft, record: e.Record, entry: e.HatchSeen) -> None:
    seen = HatchRead(record.seq, entry.cylinder, entry.up_deg, entry.down_deg, entry.u_deg, entry.confidence)
    draft["hatches"].append(seen)


def _final(draft: Draft, record: e.Record, entry: e.FinalGauged) -> None:
    sizes, across = (tuple(to_20(draft, s, record.block_c) for s in row) for row in (entry.sizes_mm, entry.across_mm))
    draft["finals"].append(
        Final(record.seq, entry.cylinder, sizes, across, entry.plate_on, record.block_c, record.person, record.at)
    )


def _rings(draft: Draft, record: e.Record, entry: e.RingsGapped) -> None:
    draft["rings"] = [*(r for r in draft["rings"] if r.cylinder != entry.cylinder), entry]


def _care(draft: Draft, record: e.Record, entry: e.CareTaken) -> None:
    draft["cares"].append(TakenCare(entry.what, record.person, record.at))


def _accepted(draft: Draft, record: e.Record, entry: e.PointAccepted) -> None:
    draft["accepted"].append(Accepted(entry.point, entry.reason, record.person, record.at))


def _reopened(draft: Draft, record: e.Record, entry: e.JobReopened) -> None:
    draft["reopened"] = record.seq


def _offered(draft: Draft, record: e.Record, entry: e.FamilyOffered) -> None:
    draft["lessons"] = entry.lessons


FINISH_LISTS = ("traces", "finish_windows", "hatches", "finals", "rings", "cares", "accepted")
FINISH_HANDLERS: dict[type, Callable[[Draft, e.Record, Any], None]] = {
    e.TraceBooked: _trace,
    e.FinishWindowStated: _window,
    e.HatchSeen: _hatch,
    e.FinalGauged: _final,
    e.RingsGapped: _rings,
    e.CareTaken: _care,
    e.PointAccepted: _accepted,
    e.JobReopened: _reopened,
    e.FamilyOffered: _offered,
}
