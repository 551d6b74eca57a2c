"""What is kept of every job beside its ledger, each declared once: what it is, by what key others look for it, and what it is worked out from.

A model is a pure function of a job's state and records. Its rows are written in the transaction of the entries they come from, worked out anew only
where a part of the state that it reads became another object, or an entry of a kind that it reads came in; and they can be made anew at any time.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from operator import attrgetter, is_
from typing import Any, TypeVar, cast

from redline_bore.core.frozen import frozen
from redline_bore.job.book_in.family_settings import SetOnJob, set_on
from redline_bore.job.bore.tools import (
    SHELF_KINDS,
    CutOnJob,
    ShelfOfJob,
    StatedOnJob,
    cut_on_job,
    metal_cut,
    shelf_of_job,
    stated_on_job,
)
from redline_bore.job.finish.judgement import TracedOnJob, traced_on_job
from redline_bore.job.finish.plateau import PairsOnJob, pairs_on_job, plateau_key
from redline_bore.job.hone.model import metal_of
from redline_bore.job.hone.stock_ledger import HonedOnJob, honed_on_job
from redline_bore.job.kept.operations import WorkedOnJob, worked_on_job
from redline_bore.job.kinds.bore import MachineStated
from redline_bore.job.kinds.codec import from_plain, to_plain
from redline_bore.job.kinds.entry import Record
from redline_bore.job.kinds.fold import CHANGE_THE_PAST
from redline_bore.job.sign_off.learned import TaughtOnJob, taught_on_job
from redline_bore.job.state.job_state import JobState

VERSION = 2  # of all of them together: what another one kept is made anew
T = TypeVar("T")


@frozen
class Model:
    """name: under which it is kept. of: what it is. said: what a job says, None for nothing. key: by which others find it; what has none is not
    kept. parts: what of the state it reads; kinds: the entries that it reads in the ledger itself."""

    name: str
    of: type
    said: Callable[[JobState, Sequence[Record]], Any]
    key: Callable[[JobState, Any], str]
    parts: Callable[[JobState], tuple[object, ...]]
    kinds: tuple[type, ...] = ()

    def read(self, plain: dict[str, Any]) -> Any:
        """What was kept, as it was. Raises InputError where it cannot be read."""
        return from_plain(self.of, plain)


@frozen
class Kept:
    """What a model keeps of a job. key empty: nothing."""

    name: str
    key: str = ""
    plain: dict[str, Any] | None = None


def _engine(state: JobState, _said: object) -> str:
    return state.book_in.engine


TAUGHT = Model(
    "taught", TaughtOnJob, lambda state, _r: taught_on_job(state), _engine,
    lambda s: (s.booking, s.boring, s.honing, s.finishing) if s.signing.closed else (),
)  # fmt: skip
SET = Model(
    "set", SetOnJob, lambda state, _r: set_on(state), _engine,
    attrgetter("booking", "gauging.plan", "calling.windows", "honing.own", "honing.stones", "honing.run", "honing.angle", "finishing.windows"),
)  # fmt: skip
SHELF = Model(
    "shelf", ShelfOfJob, lambda state, records: shelf_of_job(records, state.struck), lambda _s, _x: "shelf", lambda _s: (), SHELF_KINDS
)  # fmt: skip
STATED = Model(
    "stated", StatedOnJob, lambda state, records: stated_on_job(records, state.struck), lambda _s, x: cast(StatedOnJob, x).at, lambda _s: (),
    (MachineStated,),
)  # fmt: skip
CUT = Model("cut", CutOnJob, lambda state, _r: cut_on_job(state), lambda s, _x: metal_cut(s), attrgetter("boring.holes", "booking.book_in"))  # fmt: skip
HONED = Model(
    "honed", HonedOnJob, lambda state, _r: honed_on_job(state), lambda s, _x: metal_of(s), attrgetter("honing.checks", "honing.own", "booking")
)  # fmt: skip
TRACED = Model("traced", TracedOnJob, lambda state, _r: traced_on_job(state), lambda _s, _x: "traced", lambda s: (s.finishing.traces,))  # fmt: skip
PAIRS = Model(
    "pairs", PairsOnJob, lambda state, _r: pairs_on_job(state), lambda s, _x: plateau_key(s), attrgetter("finishing.traces", "honing.own", "booking")
)  # fmt: skip
OPERATIONS = Model("operations", WorkedOnJob, worked_on_job, _engine, attrgetter("signing.stamps", "booking.book_in"))
MODELS = (TAUGHT, SET, SHELF, STATED, CUT, HONED, TRACED, PAIRS, OPERATIONS)


def kept_of(state: JobState, records: Sequence[Record]) -> tuple[Kept, ...]:
    """What every model keeps of a job, from the whole of it."""
    return tuple(_kept(model, state, records) for model in MODELS)


def kept_on(before: JobState, state: JobState, new: Sequence[Record], records: Sequence[Record]) -> tuple[Kept, ...]:
    """What may be another since ``before``: of the models that read something that came in or became another."""
    came = {type(r.entry) for r in new}
    past = not came.isdisjoint(CHANGE_THE_PAST)
    return tuple(_kept(m, state, records) for m in MODELS if past or _touched(m, before, state, came))


def _touched(model: Model, before: JobState, state: JobState, came: set[type]) -> bool:
    if model.kinds and not came.isdisjoint(model.kinds):
        return True
    was, now = model.parts(before), model.parts(state)
    return len(was) != len(now) or not all(map(is_, was, now))


def _kept(model: Model, state: JobState, records: Sequence[Record]) -> Kept:
    said = model.said(state, records)
    key = "" if said is None else model.key(state, said)
    return Kept(model.name, key, to_plain(said)) if key else Kept(model.name)
