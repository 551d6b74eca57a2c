"""The part of the fold that has to do with cutting, sleeving and honing. Each handler changes the draft of a state."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from redline_bore.core.thermal import size_at_20
from redline_bore.job.ledger import entries as e
from redline_bore.job.ledger.sleeve_state import AfterPress, Counterbored, NewSleeve, ParentRing, Sleeving, WayTaken
from redline_bore.job.ledger.state import Bored, Check, Compensation, CutNote, LoadByDepth, RunCheck

Draft = dict[str, Any]
PARENTS = {"iron_in_aluminium": "aluminium_hypo"}


def to_20(draft: Draft, size_mm: float, block_c: float | None) -> float:
    """A size of the bore as read, at 20 C."""
    coefficient = draft["figures"].number(f"thermal.{draft['materials'].block.material}")
    return size_mm if block_c is None else size_at_20(size_mm, coefficient, block_c)


def parent_material(material: str) -> str:
    """What the block itself is made of, where the wall's material is that of a fitted pair."""
    return PARENTS.get(material, material)


def _machine(draft: Draft, record: e.Record, entry: e.MachineStated) -> None:
    draft["machine"] = entry


def _bar(draft: Draft, record: e.Record, entry: e.BarSet) -> None:
    draft["bar"] = entry


def _bored(draft: Draft, record: e.Record, entry: e.HoleBored) -> None:
    sizes, across = (tuple(to_20(draft, s, record.block_c) for s in row) for row in (entry.sizes_mm, entry.across_mm))
    bar: e.BarSet | None = draft.get("bar")
    tool = ("", "") if bar is None else (bar.machine, bar.insert)
    draft["bored"].append(
        Bored(record.seq, entry.cylinder, entry.set_mm, sizes, record.at[:10], across, record.block_c, tool)
    )


def _checked(draft: Draft, record: e.Record, entry: e.RunChecked) -> None:
    draft["run_checks"].append(RunCheck(record.seq, entry.step, entry.cylinder, entry.check, record.person, record.at))


def _noted(draft: Draft, record: e.Record, entry: e.CutNoted) -> None:
    draft["cut_notes"].append(CutNote(record.seq, entry.cylinder, entry.what, entry.depth_mm))


def _sleeving(draft: Draft, **changed: Any) -> None:
    draft["sleeving"] = replace(draft.get("sleeving", Sleeving()), **changed)


def _known(draft: Draft) -> Sleeving:
    found: Sleeving = draft.get("sleeving", Sleeving())
    return found


def _old(draft: Draft, record: e.Record, entry: e.OldSleeveMeasured) -> None:
    _sleeving(draft, olds=(*_known(draft).olds, (entry.cylinder, entry.outside_mm)))


def _parent(draft: Draft, record: e.Record, entry: e.ParentRead) -> None:
    own = draft["figures"].number(f"thermal.{parent_material(draft['materials'].block.material)}")
    warm = record.block_c
    sizes = entry.sizes_mm if warm is None else tuple(size_at_20(s, own, warm) for s in entry.sizes_mm)
    ring = ParentRing(record.seq, entry.cylinder, entry.depth_mm, sizes)
    _sleeving(draft, parents=(*_known(draft).parents, ring))


def _outside(draft: Draft, record: e.Record, entry: e.ParentOutsideStated) -> None:
    _sleeving(draft, outside=entry)


def _sleeve(draft: Draft, record: e.Record, entry: e.SleeveMeasured) -> None:
    own, warm = draft["figures"].number("thermal.grey_iron"), entry.sleeve_c

    def at_20(mm: float) -> float:
        return mm if warm is None else size_at_20(mm, own, warm)

    new = NewSleeve(
        record.seq, entry.cylinder, at_20(entry.outside_mm), at_20(entry.bore_mm), entry.flange_mm, entry.length_mm,
        warm is not None,
    )  # fmt: skip
    _sleeving(draft, sleeves=(*_known(draft).sleeves, new))


def _deck(draft: Draft, record: e.Record, entry: e.DeckRead) -> None:
    _sleeving(draft, decks=(*_known(draft).decks, entry))


def _faced(draft: Draft, record: e.Record, entry: e.DeckFaced) -> None:
    _sleeving(draft, faced=(*_known(draft).faced, (entry.bank, entry.cut_mm)))


def _counterbore(draft: Draft, record: e.Record, entry: e.CounterboreRead) -> None:
    known, bank = _known(draft), _bank_of(draft, entry.cylinder)
    cut = Counterbored(record.seq, entry.cylinder, entry.depth_mm, known.faced_mm(bank))
    _sleeving(draft, counterbores=(*known.counterbores, cut))


def _bank_of(draft: Draft, cylinder: int) -> int:
    from redline_bore.core.block import bore_positions  # few jobs have counterbores: not at the start

    return next((b.bank for b in bore_positions(draft["materials"].block) if b.number == cylinder), 0)


def _protrusion(draft: Draft, record: e.Record, entry: e.ProtrusionStated) -> None:
    _sleeving(draft, protrusion=entry)


def _way(draft: Draft, record: e.Record, entry: e.SleeveWayTaken) -> None:
    way = WayTaken(record.seq, entry.cylinder, entry.way, entry.step_left)
    _sleeving(draft, ways=(*_known(draft).ways, way))


def _cold(draft: Draft, record: e.Record, entry: e.SleeveCold) -> None:
    _sleeving(draft, cold_c=entry.sleeve_c)


def _after(draft: Draft, record: e.Record, entry: e.AfterPressRead) -> None:
    sizes = tuple(to_20(draft, s, record.block_c) for s in entry.sizes_mm)
    _sleeving(draft, after=(*_known(draft).after, AfterPress(record.seq, entry.cylinder, sizes, record.block_c)))


def _hone_step(draft: Draft, record: e.Record, entry: e.HoneStepBegan) -> None:
    draft["hone_steps"] = tuple((dict(draft["hone_steps"]) | {entry.cylinder: entry.step}).items())


def _check(draft: Draft, record: e.Record, entry: e.CheckLogged) -> None:
    sizes = tuple(to_20(draft, size, record.block_c) for size in entry.sizes_mm)
    stones: e.StonesSet | None = draft.get("stones")
    hone: e.HoneSet | None = draft.get("hone")
    draft["checks"].append(
        Check(
            record.seq, entry.cylinder, _step_of(draft, entry.cylinder), entry.strokes, sizes, record.block_c, record.at,
            record.person, "" if stones is None else stones.stones, draft.get("plate_on", False), None if hone is None else hone.load,
        )
    )  # fmt: skip


def _step_of(draft: Draft, cylinder: int) -> int:
    return int(dict(draft["hone_steps"]).get(cylinder, 0))


def _stones(draft: Draft, record: e.Record, entry: e.StonesSet) -> None:
    draft["stones"] = entry


def _hone(draft: Draft, record: e.Record, entry: e.HoneSet) -> None:
    draft["hone"], draft["hone_since"] = entry, record.seq


def _angle(draft: Draft, record: e.Record, entry: e.AngleWanted) -> None:
    draft["angle"] = entry


def _own_honing(draft: Draft, record: e.Record, entry: e.OwnHoning) -> None:
    draft["own_honing"] = entry
    draft["practices"] = tuple((dict(draft["practices"]) | {"honing": "own"}).items())


def _compensation(draft: Draft, record: e.Record, entry: e.CompensationRead) -> None:
    step = _step_of(draft, entry.cylinder)
    draft["compensations"].append(Compensation(record.seq, entry.cylinder, step, entry.taken_mm))


def _load(draft: Draft, record: e.Record, entry: e.LoadSeen) -> None:
    draft["loads"].append(LoadByDepth(record.seq, entry.cylinder, entry.depths_mm, entry.loads, entry.strokes))


def _tools(draft: Draft, record: e.Record, entry: e.Entry) -> None:
    """The shelf is counted over all jobs; the job itself only keeps the entry."""


HANDLERS: dict[type, Callable[[Draft, e.Record, Any], None]] = {
    e.MachineStated: _machine,
    e.InsertShelved: _tools,
    e.EdgeTurned: _tools,
    e.BarSet: _bar,
    e.HoleBored: _bored,
    e.RunChecked: _checked,
    e.CutNoted: _noted,
    e.OldSleeveMeasured: _old,
    e.ParentRead: _parent,
    e.ParentOutsideStated: _outside,
    e.SleeveMeasured: _sleeve,
    e.DeckRead: _deck,
    e.DeckFaced: _faced,
    e.CounterboreRead: _counterbore,
    e.ProtrusionStated: _protrusion,
    e.SleeveWayTaken: _way,
    e.SleeveCold: _cold,
    e.AfterPressRead: _after,
    e.HoneStepBegan: _hone_step,
    e.CheckLogged: _check,
    e.StonesSet: _stones,
    e.HoneSet: _hone,
    e.AngleWanted: _angle,
    e.OwnHoning: _own_honing,
    e.CompensationRead: _compensation,
    e.LoadSeen: _load,
}
