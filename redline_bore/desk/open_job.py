"""One open job: its records, its state, and booking into it. What must hold is checked inside the append's own transaction."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from redline_bore.core.errors import Fault, FaultyInput, InputError, LogbookGone, ServerAway
from redline_bore.core.figures import Figures
from redline_bore.core.frozen import changed, frozen, replace
from redline_bore.core.show import Show
from redline_bore.core.told import Unit
from redline_bore.core.when import now
from redline_bore.desk.changed import Changed, topics_of
from redline_bore.job.kinds.entry import SIMULATED, Draft, Entry, Record
from redline_bore.job.kinds.fold import fold, fold_on, last_struck, last_undoable
from redline_bore.job.kinds.gauge import RingStopRead
from redline_bore.job.kinds.kind import kind_of, wrongs
from redline_bore.job.kinds.sign_off import JobReopened, StepStamped
from redline_bore.job.kinds.strikes import EntryRestored, EntryStruck
from redline_bore.job.sign_off.closing import check_open
from redline_bore.job.state.job_state import JobState
from redline_bore.job.state.rows import Rows

if TYPE_CHECKING:
    from redline_bore.job.kept.line import Line
    from redline_bore.store.beside import Beside
    from redline_bore.store.logbook import Logbook
    from redline_bore.store.readings_csv import ReadRow


@frozen(often=True)
class _Pending:
    """What an append comes to, worked out within it. state None: folded when it is asked for."""

    new: tuple[Record, ...]
    records: Rows[Record]
    state: JobState | None
    line: Line
    marks: list[JobState]


SERVER_AWAY = "The server cannot be reached. What you book is kept at this bench, and handed in when it is back"
CHANGE_WHAT_IS_TAKEN = (StepStamped, JobReopened, EntryStruck, EntryRestored)


class OpenJob:
    """A job of a logbook that is being worked on.

    ``records`` and ``state`` are as this desk knows them; every booking takes in what others wrote meanwhile.
    """

    def __init__(
        self,
        logbook: Callable[[], Logbook],
        figures: Figures,
        job_id: int,
        records: tuple[Record, ...],
        person: str = "",
    ) -> None:
        self._logbook, self._figures = logbook, figures
        self.job_id, self.person = job_id, person
        self.records: Rows[Record] = Rows(records)  # grows without being copied
        self._marks: list[JobState] = []  # states on the way, from which what is struck is replayed
        self._state: JobState = fold(records, figures, self._marks)
        self._line: Line | None = None  # as it stands beside the ledger; None: not known here
        self._pending: _Pending | None = None  # what an append that is under way comes to
        self.opened_seq = records[-1].seq
        self.mine: set[int] = set()  # what was booked from here
        self.rescued_to: Path | None = None  # the logbook went away: what is booked since lies there
        self._rescue: Logbook | None = None
        self._away_from_server = False
        self.rescues = True  # else it is said that the logbook went away, and nothing is kept
        self.by_stand_in = False  # what is booked now was sent by a simulated instrument, and its entries say so
        self.clock: Callable[[], str] | None = None  # what time it is, as the ledger writes it; None: this machine's

    @property
    def state(self) -> JobState:
        """The job after all its records. What came in last is folded when it is asked for: first it is on the disk."""
        if self._state.last_seq < self.records[-1].seq:
            kept = list[JobState]()
            self._state = fold_on(self._state, self.records, self._figures, self._marks, kept)
            self._marks = kept
        return self._state

    # -- booking -------------------------------------------------------------------------------------------------------

    def book(
        self, *entries: Entry, typed: str = "", instrument: str = "", block_c: float | None = None, remark: str = ""
    ) -> Changed:
        """Append entries; when this returns they are on the disk. block_c None: the block is as warm as it was found last.

        Raises FaultyInput for a figure that its kind does not allow, InputError where the job is closed; then nothing was booked.
        """
        warm, at = block_c if block_c is not None else self.state.clamped.block_c, self._now()
        return self._append([Draft(entry, self.person, instrument, warm, typed, at) for entry in entries], remark)

    def book_rows(self, rows: Sequence[ReadRow], source: str) -> Changed:
        """Book readings from a file, all at once, each with who, what with and how warm. Raises as ``book`` does."""
        warm = self.state.clamped.block_c
        drafts = [
            Draft(
                r.entry, r.person or self.person, r.instrument or source, r.block_c if r.block_c is not None else warm, r.typed, self._now(),
            )
            for r in rows
        ]  # fmt: skip
        return self._append(drafts)

    def book_drafts(self, drafts: Sequence[Draft]) -> Changed:
        """Book entries that say themselves who, when, with what and how warm.

        A job worked elsewhere, handed in. Raises as ``book`` does.
        """
        return self._append([d if d.at else changed(d, at=self._now()) for d in drafts])

    def _now(self) -> str:
        return now() if self.clock is None else self.clock()

    def _append(self, drafts: Sequence[Draft], remark: str = "") -> Changed:
        """Append drafts that say when they were booked: whatever becomes of one, it is known again by its time."""
        if self.by_stand_in:
            drafts = [_by_stand_in(d) for d in drafts]
        before = self.records[-1].seq
        _check_figures([d.entry for d in drafts], self.state)

        def check(news: tuple[Record, ...]) -> None:
            self._check(news, drafts)

        try:
            new = self._logbook().append(self.job_id, before, drafts, check, partial(self._beside, len(drafts)))
        except (LogbookGone, ServerAway) as gone:
            if not self.rescues:
                raise
            new = self._rescued(drafts, check)
            remark = f"{gone}. It is kept in {self.rescued_to}, and so is what you book from now on".strip()
            if isinstance(gone, ServerAway):
                self._away_from_server = True
                remark = SERVER_AWAY
        booked = new[len(new) - len(drafts) :]
        self.mine.update(r.seq for r in booked)
        return self._take(new, booked, remark)

    def _rescued(self, drafts: Sequence[Draft], check: Callable[[tuple[Record, ...]], None]) -> tuple[Record, ...]:
        """Book into a logbook of its own beside the one that is gone: the whole job as it is known here, then what is booked."""
        from redline_bore.store.rescue import rescue_logbook

        logbook, self.job_id = rescue_logbook(self._logbook().path, self.records)
        self._logbook, self.rescued_to, self._rescue = lambda: logbook, logbook.path, logbook
        return logbook.append(self.job_id, self.records[-1].seq, drafts, check)

    @property
    def waits_for_server(self) -> bool:
        """What is booked is kept at this bench until the server is back."""
        return self._away_from_server

    def take_in(self, records: Sequence[Record]) -> Changed:
        """Take in what others booked, read elsewhere; what is known here already is left."""
        new = tuple(r for r in records if r.seq > self.records[-1].seq)
        if new and new[0].seq != self.records[-1].seq + 1:
            return self.look_again()
        return self._take(new)

    def let_go(self) -> None:
        """Let go of the logbook that was kept beside the one that went away."""
        if self._rescue is not None:
            self._rescue.close()

    def _check(self, news: tuple[Record, ...], drafts: Sequence[Draft]) -> None:
        """Hold every entry against the job as it will stand when its turn comes: after what others booked, and the entries before it."""
        if not news and len(drafts) == 1:
            check_bookable(self.state, [drafts[0].entry])
            return
        ledger = [*self.records, *news]
        state, behind = self._folded(self.state, ledger), 0
        for draft in drafts:
            closes = isinstance(draft.entry, CHANGE_WHAT_IS_TAKEN)
            if behind and closes:
                state, behind = self._folded(state, ledger), 0
            check_bookable(state, [draft.entry])
            ledger.append(
                Record(
                    len(ledger) + 1, draft.at, draft.person, draft.entry, draft.instrument, draft.block_c, draft.typed
                )
            )
            behind += 1
            if closes:
                state, behind = self._folded(state, ledger), 0

    def _beside(self, mine: int, new: tuple[Record, ...]) -> Beside | None:
        """What stands beside the ledger once ``new`` is in it, the last so many booked here; worked on from the job as it is known here.

        None: what stood there."""
        records = self.records.plus(*new)
        if self._line is not None and all(self._leaves(self._line, r) for r in new):
            self._pending = _Pending(new, records, None, self._line, self._marks)
            return None
        from redline_bore.job.kept.line import line_of, line_on
        from redline_bore.job.kept.models import kept_on
        from redline_bore.store.beside import Beside

        before = self._line if self._line is not None else line_of(self.state, self.records)
        kept = list[JobState]()
        state = fold_on(self.state, records, self._figures, self._marks, kept)
        line = line_on(before, state, new, records)
        self._pending = _Pending(new, records, state, line, kept)
        others = len(new) > mine  # what they booked may have changed it, and this changed it back
        words, says = others or line.words_differ(before), others or line != before
        return Beside(line, kept_on(self.state, state, new, records), words, says, whole=False)

    @staticmethod
    def _leaves(line: Line, record: Record) -> bool:
        """Whether a record leaves all that stands beside the ledger as it is."""
        return line.people[:1] == (record.person,) and not kind_of(record.entry).beside

    def _folded(self, state: JobState, ledger: Sequence[Record]) -> JobState:
        return fold_on(state, ledger, self._figures, self._marks) if ledger[-1].seq > state.last_seq else state

    def supposing(self, entries: Sequence[Entry]) -> JobState:
        """The state as it would be with some entries booked on; nothing is booked."""
        ledger, at = list(self.records), self.records[-1].at
        for entry in entries:
            ledger.append(
                Record(self.records[-1].seq + 1 + len(ledger) - len(self.records), at, self.person, entry, block_c=self.state.clamped.block_c)
            )  # fmt: skip
        return self._folded(self.state, ledger)

    def _take(self, new: tuple[Record, ...], booked: tuple[Record, ...] = (), remark: str = "") -> Changed:
        if new:
            if self._pending is not None and self._pending.new is new:
                made = self._pending
                self.records, self._line, self._marks = made.records, made.line, made.marks
                self._state = self._state if made.state is None else made.state
            else:
                self.records, self._line = self.records.plus(*new), None
        self._pending = None
        return Changed(new, topics_of([r.entry for r in new]), booked, remark)

    def look_again(self) -> Changed:
        """Take in what another program may have booked into this job meanwhile."""
        return self._take(self._logbook().ledger(self.job_id, self.records[-1].seq))

    # -- striking ------------------------------------------------------------------------------------------------------

    def strike(self, seq: int, reason: str = "", typed: str = "") -> Changed:
        """Strike out an entry; it stays in the ledger. Raises InputError where it cannot be, or is already."""
        return self.book(EntryStruck(seq=seq, reason=reason), typed=typed)

    def restore(self, seq: int, typed: str = "") -> Changed:
        """Let a struck entry count again. Raises InputError where it is not struck."""
        return self.book(EntryRestored(seq=seq), typed=typed)

    def undo(self) -> Record | None:
        """The newest entry that counts and can be struck; None when there is none.

        Raises InputError where another bench booked it while this one had the job open: nobody takes back what he did not book.
        """
        found = last_undoable(self.records)
        if found is not None and found.seq > self.opened_seq and found.seq not in self.mine:
            raise InputError(
                f"Entry {found.seq} was booked by {found.person or 'another bench'}, not here; strike {found.seq} in the ledger, if it is wrong"
            )
        return found

    def redo(self) -> int | None:
        """The entry struck last, where nothing else was booked since; None when there is none."""
        return last_struck(self.records)

    # -- signing -------------------------------------------------------------------------------------------------------

    def stamp(self, step: str) -> Changed:
        """Stamp a step. The sign-off is stamped only while no point is open. Raises InputError with what is open."""
        return self.book(StepStamped(step=step, initials=self.person))


def check_bookable(state: JobState, entries: Sequence[Entry]) -> None:
    """Raises InputError where a job, as it stands in the logbook at this moment, does not take the entries."""
    check_open(state, entries)
    _check_length(state, entries)
    for entry in entries:
        if isinstance(entry, (EntryStruck, EntryRestored)):
            _check_strike(state, entry)
        elif isinstance(entry, StepStamped) and entry.step == "sign_off":
            _check_signable(state)


def _check_length(state: JobState, entries: Sequence[Entry]) -> None:
    if state.book_in.length_wanted and any(_goes_down(e) for e in entries):
        raise InputError(
            "First how long a cylinder is, deck to bottom, for levels and depths follow from it: type length and the figure"
        )


def _goes_down(entry: Entry) -> bool:
    """Whether an entry says something of a depth in the hole. Where the top ring stops is measured from the deck, and asked by itself."""
    if isinstance(entry, RingStopRead):
        return False
    return any(
        t.unit is Unit.DEPTH and getattr(entry, name) not in (None, ()) for name, t in kind_of(entry).fields.items()
    )


def _check_strike(state: JobState, entry: EntryStruck | EntryRestored) -> None:
    if not 1 < entry.seq <= state.last_seq:
        raise InputError(f"Entry {entry.seq} is none that can be struck; Ctrl+L shows the ledger")
    if (entry.seq in state.struck) == isinstance(entry, EntryStruck):
        said = "is struck already" if isinstance(entry, EntryStruck) else "counts as it is"
        raise InputError(f"Entry {entry.seq} {said}")


def _check_signable(state: JobState) -> None:
    from redline_bore.job.sign_off.sheet import can_sign, sheet_of  # heavy: where a job is signed
    from redline_bore.job.words.sign_off import point_words

    sheet = sheet_of(state)
    if not can_sign(sheet):
        first = point_words(sheet.open_points[0]) if sheet.open_points else "not every cylinder has a final size"
        raise InputError(f"It cannot be signed off now: {first}")


def _check_figures(entries: Sequence[Entry], state: JobState) -> None:
    if not any(wrongs(entry, state.block) for entry in entries):
        return
    show = Show(state.units)
    faults = [
        Fault(kind_of(entry).fields[w.field].name if w.field in kind_of(entry).fields else w.field, w.reason)
        for entry in entries
        for w in wrongs(entry, state.block, show)
    ]
    raise FaultyInput(faults)


def _by_stand_in(draft: Draft) -> Draft:
    """An entry that a simulated instrument sent, as the ledger keeps it: nobody takes it for a measurement."""
    if draft.instrument.startswith(SIMULATED):
        return draft
    return replace(draft, instrument=f"{SIMULATED}{draft.instrument or 'instrument'}")
