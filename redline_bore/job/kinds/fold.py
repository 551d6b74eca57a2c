"""The fold: a pure function from the ledger to the state. Struck entries are left out; everything else is replayed, each by its
own declaration."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import Any

from redline_bore.core.errors import FaultyInput, InputError
from redline_bore.core.figures import Figures
from redline_bore.job.kinds.book_in import BookInRevised, JobOpened
from redline_bore.job.kinds.entry import Entry, Record
from redline_bore.job.kinds.folding import Folding, opened
from redline_bore.job.kinds.kind import kind_of
from redline_bore.job.kinds.plans import standard_plan
from redline_bore.job.kinds.strikes import EntryRestored, EntryStruck
from redline_bore.job.profiles.practice import SHOP_DEFAULT
from redline_bore.job.state.booking import BookIn, Booking
from redline_bore.job.state.gauging import Gauging
from redline_bore.job.state.job_state import JobState

MARK_EVERY = 250  # entries between two states that are kept on the way
CHANGE_THE_PAST = (EntryStruck, EntryRestored, BookInRevised)


def struck_entries(ledger: Sequence[Record]) -> frozenset[int]:
    """Places in the ledger that no longer count; the last word on each entry holds."""
    struck: set[int] = set()
    for record in ledger:
        if isinstance(record.entry, EntryStruck):
            struck.add(record.entry.seq)
        elif isinstance(record.entry, EntryRestored):
            struck.discard(record.entry.seq)
    return frozenset(struck)


def fold(ledger: Sequence[Record], shipped: Figures, marks: list[JobState] | None = None) -> JobState:
    """The state after ``ledger`` (growing seq, opened by a JobOpened). ``shipped`` fills figures the job lacks.

    Sizes go to 20 C with the material the job has in the end: a wrong one, once corrected, was always wrong.
    marks: is given the states on the way, every few hundred entries. Raises InputError when the ledger does not begin with the job's opening.
    """
    if not ledger or not isinstance(ledger[0].entry, JobOpened):
        raise InputError("This ledger does not begin with the opening of a job")
    struck, opening = struck_entries(ledger), ledger[0].entry
    materials = opening.book_in
    for record in ledger[1:]:
        if isinstance(record.entry, BookInRevised) and record.seq not in struck:
            materials = record.entry.book_in
    return _replayed(_begun(opening, shipped), materials, ledger[1:], struck, ledger[-1].seq, marks)


def fold_on(
    state: JobState, ledger: Sequence[Record], shipped: Figures, marks: Sequence[JobState] = (), kept: list[JobState] | None = None
) -> JobState:  # fmt: skip
    """``fold(ledger)``, worked on from ``state``, which is the fold of an earlier stretch of the same ledger.

    marks: states on the way to it; what was struck or restored is replayed from the last of them that lies before it. kept: is given those that
    still stand, and those on the way from there.
    """
    known = len(ledger)
    while known and ledger[known - 1].seq > state.last_seq:
        known -= 1
    new = ledger[known:]
    past = [r.entry for r in new if isinstance(r.entry, CHANGE_THE_PAST)]
    if not past:
        if kept is not None:
            kept.extend(marks)
        return _replayed(state, state.book_in, new, state.struck, ledger[-1].seq, kept)
    before = _before(past, ledger, marks)
    if before is None:
        return fold(ledger, shipped, kept)
    if kept is not None:
        kept.extend(m for m in marks if m.last_seq <= before.last_seq)
    rest = [r for r in ledger[before.last_seq - ledger[0].seq + 1 :] if r.seq > before.last_seq]
    return _replayed(before, state.book_in, rest, struck_entries(ledger), ledger[-1].seq, kept)


def _before(past: Sequence[Entry], ledger: Sequence[Record], marks: Sequence[JobState]) -> JobState | None:
    """The last of some states that nothing of what was struck or restored had come into; None where all must be folded anew."""
    places = [x.seq for x in past if isinstance(x, (EntryStruck, EntryRestored))]
    revised = len(places) < len(past) or any(
        isinstance(r.entry, BookInRevised) for q in places for r in ledger[q - 1 : q]
    )
    if revised:  # every size may be another
        return None
    return next((m for m in reversed(marks) if m.last_seq < min(places)), None)


def _replayed(
    state: JobState, materials: BookIn, records: Sequence[Record], struck: frozenset[int], last_seq: int, marks: list[JobState] | None = None
) -> JobState:  # fmt: skip
    folding = Folding(state, materials)
    marked = marks[-1].last_seq if marks else state.last_seq
    for run in _runs(records, struck):
        if marks is not None and run[0].seq - marked > MARK_EVERY:
            marked = run[0].seq - 1
            marks.append(folding.state(struck, marked))
        for record in run:
            folding.take(record)
        for into in kind_of(run[0].entry).into:
            before = getattr(folding, into.slice)
            if len(run) > 1 and into.all is not None:
                setattr(folding, into.slice, into.all(before, run, folding))
            else:
                setattr(folding, into.slice, into.fold(before, run[0].entry, folding))
    return folding.state(struck, last_seq)


def _runs(records: Iterable[Record], struck: frozenset[int]) -> Iterator[Sequence[Record]]:
    """The records that count: of a kind that is folded at once as many as follow each other, up to so many; of every other each by itself."""
    run, kind = list[Record](), object
    for record in records:
        if record.seq in struck:
            continue
        if type(record.entry) is kind and len(run) < MARK_EVERY:
            run.append(record)
            continue
        if run:
            yield run
        run, kind = [record], type(record.entry) if kind_of(record.entry).all_at_once else object
    if run:
        yield run


def _begun(opening: JobOpened, shipped: Figures) -> JobState:
    figures = job_figures(opening.figures, shipped)
    booking = Booking(opening.book_in, tuple((SHOP_DEFAULT | opening.practices).items()))
    gauging = Gauging(standard_plan(opening.book_in, figures, "full"))
    return opened(opening.number, opening.units, figures, booking, gauging)


def job_figures(kept: Mapping[str, Any], shipped: Figures) -> Figures:
    """The figures a job is worked with: those it kept, laid over the shipped ones where they differ."""
    plain = shipped.plain()
    own = {key: value for key, value in kept.items() if key in plain and value != plain[key]}
    try:
        return shipped.with_own(own) if own else shipped
    except FaultyInput as error:
        raise InputError(f"The figures kept with this job cannot be used: {error}") from error


def last_undoable(ledger: Sequence[Record]) -> Record | None:
    """The newest entry that still counts and can be struck (never the opening of the job)."""
    struck = struck_entries(ledger)
    return next((r for r in reversed(ledger) if kind_of(r.entry).strikes and r.seq not in struck), None)


def last_struck(ledger: Sequence[Record]) -> int | None:
    """The entry struck last and not restored since, if nothing else was booked after the striking."""
    struck = struck_entries(ledger)
    for record in reversed(ledger):
        if isinstance(record.entry, EntryStruck):
            if record.entry.seq in struck:
                return record.entry.seq
        elif not isinstance(record.entry, EntryRestored):
            break
    return None


def folded(ledgers: Iterable[Sequence[Record]], shipped: Figures) -> Iterator[JobState]:
    """The jobs of several ledgers; one that cannot be shown (its opening is damaged) keeps no other job from its work and is left out."""
    for ledger in ledgers:
        try:
            yield fold(ledger, shipped)
        except Exception:  # whatever a ledger holds: opening that job, and verify, say what it is
            continue
