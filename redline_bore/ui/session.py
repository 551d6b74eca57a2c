"""Session: the desk as the window sees it. It keeps the open job and what is looked at, and says what changed."""

from __future__ import annotations

import os
import pwd
from collections.abc import Callable, Iterable, Iterator, Sequence
from contextlib import contextmanager
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, pyqtSignal

from redline_bore.core.errors import DoubtfulInput, InputError
from redline_bore.core.figures import Figures
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.desk.changed import Changed
from redline_bore.desk.desk import Desk
from redline_bore.desk.open_job import OpenJob
from redline_bore.desk.typed import Filled, book_filled, book_typed, next_place_of
from redline_bore.job.call.looked_at import LookedAt
from redline_bore.job.gauge.analysis import places_read
from redline_bore.job.kinds.book_in import JobOpened
from redline_bore.job.kinds.entry import Entry, Record
from redline_bore.job.kinds.kind import KINDS
from redline_bore.job.kinds.phrase import At, Where
from redline_bore.job.kinds.topics import LEDGER, Topic
from redline_bore.job.route import first_step, sleeved_cylinders, steps_of
from redline_bore.job.state.calling import Apart
from redline_bore.job.state.job_state import JobState
from redline_bore.ui.bench import Bench

if TYPE_CHECKING:
    from redline_bore.desk.hand_in import BothRead, HandedIn
    from redline_bore.store.logbook import Logbook


class Session(QObject):
    """Holds one open job of one logbook. ``changed`` carries topics; views repaint for those they show."""

    changed = pyqtSignal(frozenset)
    kept = pyqtSignal(object)  # the newest Record, once it is on the disk
    rescued = pyqtSignal(str)  # the logbook went away, and where what was booked is kept

    def __init__(self, figures: Figures, open_logbook: Callable[[], Logbook]) -> None:
        super().__init__()
        self.desk = Desk(open_logbook, figures, _initials())
        self.who_is_said = False  # until then it is the login's name, which may book and may not sign
        self.paper = "A4"  # what sheets are laid out for; or Letter
        self.bench = Bench()
        self.open: OpenJob | None = None
        self.company: tuple[str, ...] = ()  # who else is at this job just now
        self._supposed: JobState | None = None  # what a tag would come to, while it is looked at
        self._asked: tuple[object, str] = (None, "")  # what was entered, and the doubt that was told

    # -- what is open --------------------------------------------------------------------------------------------------

    @property
    def logbook(self) -> Logbook:
        """The logbook, opened when it is first needed."""
        return self.desk.logbook

    @property
    def figures(self) -> Figures:
        """The shop's figures."""
        return self.desk.figures

    @property
    def person(self) -> str:
        """Who books."""
        return self.desk.person

    @person.setter
    def person(self, initials: str) -> None:
        self.who_is_said = True
        self.desk.person = initials
        if self.open is not None:
            self.open.person = initials
        self._say("person")

    @property
    def opened(self) -> OpenJob:
        """The open job. Raises InputError when none is open."""
        if self.open is None:
            raise InputError("No job is open; choose one from the list or book one in")
        return self.open

    @property
    def state(self) -> JobState | None:
        """The open job's state; None while none is open."""
        return self._supposed if self._supposed is not None else None if self.open is None else self.open.state

    @property
    def job(self) -> JobState:
        """The open job's state. Raises InputError when none is open."""
        return self._supposed if self._supposed is not None else self.opened.state

    @contextmanager
    def supposing(self, entries: Sequence[Entry]) -> Iterator[None]:
        """What is asked inside is answered as if the entries were booked; nothing is."""
        self._supposed = self.opened.supposing(entries)
        try:
            yield
        finally:
            self._supposed = None

    @property
    def job_id(self) -> int | None:
        """The open job's place in the logbook."""
        return None if self.open is None else self.open.job_id

    @property
    def records(self) -> Sequence[Record]:
        """The open job's ledger."""
        return () if self.open is None else self.open.records

    @property
    def show(self) -> Show:
        """Writes lengths in the units being looked at."""
        return Show(self.bench.units)

    @property
    def steps(self) -> tuple[str, ...]:
        """The steps of the open job's route."""
        return steps_of(None if self.bench.new_job else self.state)

    @property
    def where(self) -> Where:
        """Where the gauge stands, for what is typed."""
        return Where(self.bench.cylinder, self.bench.place, self.bench.units, read=tuple(self.bench.read.items()))

    def keep_read(self, size_mm: float) -> str:
        """A length that a gauge sent, mm, as it stands in the field; it is booked as it was read, not as it is shown."""
        word = self.show.fine(size_mm)
        self.bench.read[word] = size_mm
        return word

    @contextmanager
    def sent_by(self, stand_in: bool) -> Iterator[None]:
        """What is booked meanwhile was sent by a simulated instrument, or was not."""
        if self.open is None:
            yield
            return
        job, self.open.by_stand_in = self.open, stand_in
        try:
            yield
        finally:
            job.by_stand_in = False

    def close(self) -> None:
        """Let go of the logbook, and of what was kept beside it."""
        if self.open is not None:
            self.open.let_go()
        self.desk.close()

    def load(self, job_id: int, records: tuple[Record, ...]) -> None:
        """Take up a job whose ledger has been read."""
        self._open(self.desk.take_up(job_id, records))

    def open_job(self, number: str) -> None:
        """Open a job of the logbook by its number. Raises InputError when there is none."""
        self._open(self.desk.open(number))

    def show_job(self, job: OpenJob) -> None:
        """Show a job that was opened elsewhere."""
        self._open(job)

    def new_job(self, opening: JobOpened) -> None:
        """Book a new job in and open it. Raises InputError when its number is taken."""
        self._open(self.desk.book_in(opening).job)

    def _open(self, job: OpenJob) -> None:
        self.open, state = job, job.state
        self.bench = Bench(step=first_step(state), units=state.units)
        self.bench.cylinder = _first_cylinder(state, self.bench.step)
        self.bench.gauge.place = next_place_of(state, self.bench.cylinder)
        self._say(*LEDGER, "job", "selection", "step", "units", "rung")

    # -- booking -------------------------------------------------------------------------------------------------------

    def book(
        self, *entries: Entry, typed: str = "", instrument: str = "", block_c: float | None = None, advance: bool = False
    ) -> Record:  # fmt: skip
        """Append entries; when this returns they are on the disk. Returns the newest record.

        advance: put the gauge at the next place not read, in the same breath.
        """
        return self.took(
            self.opened.book(*entries, typed=typed, instrument=instrument, block_c=block_c), advance
        ).newest

    def book_filled(self, step: str, filled: Filled) -> Changed:
        """Book a tag as it is filled in: for the cylinder that is chosen, or for every one."""
        changed = book_filled(self.desk, self.opened, step, filled, self.where)
        self._asked = (None, "")
        return self.took(changed)

    def ask_once(self, about: object, doubt: str) -> None:
        """Before something that is not sure is booked: raises DoubtfulInput the first time it is asked for, and not the second time while
        the job stands as it stood."""
        asked = (about, self.job.last_seq)
        if self._asked[0] == asked:
            self._asked = (None, "")
            return
        self._asked = (asked, doubt)
        raise DoubtfulInput(doubt)

    def example(self, kind: str, lead: str = "") -> str:
        """A line of a kind as it is typed here, in the sizes and units of this job. lead: the word it begins with, where there are several."""
        from redline_bore.job.proposals import StepProposals

        phrase = next(p for p in KINDS[kind].phrases if not lead or lead in p.leads)
        return phrase.example(At(self.job, self.where, StepProposals()))

    def book_typed(self, step: str, text: str, advance: Callable[[Entry], bool] = lambda _entry: False) -> Changed:
        """Book what is typed in a step. ``advance``: for which entries the gauge goes on to the next place not read."""
        asked = self._asked[1] if self._asked[0] == (step, text.strip(), self.bench.cylinder) else ""
        try:
            changed = book_typed(self.desk, self.opened, step, text, self.where, asked)
        except DoubtfulInput as doubtful:
            self._asked = ((step, text.strip(), self.bench.cylinder), doubtful.doubt)
            raise
        self._asked = (None, "")
        self.bench.read.clear()
        return self.took(changed, advance(changed.newest.entry))

    def took(self, changed: Changed, advance: bool = False) -> Changed:
        """Say what a use case of the desk changed."""
        if changed.records:
            state, place = self.opened.state, self.bench.gauge.place
            plan = state.gauging.plan
            if place.level >= len(plan.depths_mm) or place.clock >= len(
                plan.clocks_deg
            ):  # another plan has fewer places
                self.bench.gauge.place = next_place_of(state, self.bench.cylinder)
            if advance:
                self.bench.gauge.place = next_place_of(state, self.bench.cylinder)
            topics: set[str] = set(changed.topics)
            if self.bench.step not in self.steps:  # the step was needed only by what was struck
                self.bench.step = "call"
                topics.add("step")
            self._say(*topics)
        if changed.booked:
            self.desk.accept_as_it_is()
            self.kept.emit(self.records[-1])
        if changed.remark and self.opened.rescued_to is not None:
            self.rescued.emit(changed.remark)
        return changed

    def look_again(self) -> None:
        """Take in what another program may have booked into this job meanwhile."""
        if self.open is not None and self.desk.is_open:
            self.took(self.open.look_again())

    def take_in(self, job_id: int, records: tuple[Record, ...]) -> tuple[BothRead, ...]:
        """Take in what others booked into the open job; returns the places that they and this bench both read."""
        if self.open is None or self.open.job_id != job_id or self.open.rescued_to is not None:
            return ()
        from redline_bore.desk.hand_in import (
            both_read,  # with the logbook's own library, which the first picture does without
        )

        mine = [r for r in self.open.records if r.seq in self.open.mine]
        return tuple(both_read(mine, self.took(self.open.take_in(records)).records))

    def see_company(self, people: tuple[str, ...]) -> None:
        """Who else is at this job just now."""
        self.company = people
        self._say("company")

    def back_at_server(self) -> tuple[HandedIn, ...]:
        """The server is back: hand in what was kept here and go on there. Raises ServerAway where it went away again."""
        job, found = self.desk.back_at_server(self.opened)
        job.person = self.opened.person
        self.open = job
        self._say(*LEDGER, "person")
        return found

    def undo(self) -> Record | None:
        """Strike the newest entry that counts; returns it, or None when there is none."""
        record = self.opened.undo()
        if record is not None:
            self.took(self.opened.strike(record.seq, "taken back"))
        return record

    def redo(self) -> int | None:
        """Let the entry struck last count again; returns its place, or None."""
        seq = self.opened.redo()
        if seq is not None:
            self.took(self.opened.restore(seq))
        return seq

    # -- what is looked at ---------------------------------------------------------------------------------------------

    def _say(self, *topics: str | Topic) -> None:
        self.changed.emit(frozenset(topics))

    def select(self, cylinder: int) -> None:
        """Look at another cylinder."""
        if self.state is not None and cylinder in self.state.cylinders and cylinder != self.bench.cylinder:
            self.bench.cylinder = cylinder
            self.bench.gauge.place = next_place_of(self.state, cylinder)
            self._say("selection", "place")

    def go(self, step: str) -> None:
        """Go to a step of the route."""
        if step in self.steps:
            self.bench.step = step
            self.bench.new_job = False
            self._say("step")

    def set_spot(self, spot: int) -> None:
        """Trace at another spot of the wall: 0 top, 1 middle, 2 bottom."""
        self.bench.spot = min(max(spot, 0), 2)
        self._say("spot")

    def begin_new_job(self, like: JobState | None = None) -> None:
        """Show an empty book-in, or one filled in as another job is; nothing is written until it is booked."""
        self.bench.step, self.bench.new_job, self.bench.like = "book_in", True, like
        self._say("step", "new_job")

    def set_units(self, units: Units) -> None:
        """Look at everything in other units."""
        self.bench.units = units
        self._say("units")

    @property
    def rung_mm(self) -> float:
        """Where the redline of the call stands, mm over nominal: as moved, else as the call has it."""
        if self.bench.call.rung_mm is not None:
            return self.bench.call.rung_mm
        from redline_bore.job.call.asks import first_rung

        return first_rung(self.job)

    @property
    def call_mm(self) -> float | None:
        """The common size of the call looked at, mm over nominal; None while the call taken, to bore nothing, stands."""
        decision = self.job.calling.decision
        stands = self.bench.call.rung_mm is None and decision is not None and not decision.bores
        return None if stands else self.rung_mm

    @property
    def apart(self) -> tuple[Apart, ...]:
        """Cylinders that leave the common size: as moved, else as the call taken has it."""
        if self.bench.call.apart is not None:
            return self.bench.call.apart
        decision = self.job.calling.decision
        return () if decision is None else decision.apart

    def set_rung(self, oversize_mm: float) -> None:
        """Move the redline of the call; mm over nominal."""
        self.bench.call.rung_mm = oversize_mm
        self._say("rung")

    def set_apart(self, cylinder: int, way: Apart | None) -> None:
        """Take a cylinder out of the common size, or (None) put it back."""
        rest = tuple(a for a in self.apart if a.cylinder != cylinder)
        self.bench.call.apart = rest if way is None else tuple(sorted((*rest, way), key=lambda a: a.cylinder))
        self._say("rung")

    def set_call(self, oversize_mm: float, apart: tuple[Apart, ...]) -> None:
        """Look at a whole call: the common rung and who leaves it."""
        self.bench.call.rung_mm, self.bench.call.apart = oversize_mm, apart
        self._say("rung")

    def forget_moves(self) -> None:
        """The call taken is the one looked at."""
        self.bench.call.rung_mm = self.bench.call.apart = None

    def put_beside(self) -> None:
        """Keep the call looked at, to be compared with the next one; again takes it away."""
        now = LookedAt(self.rung_mm, self.apart)
        self.bench.call.beside = None if self.bench.call.beside == now else now
        self._say("rung")

    def set_option(self, index: int) -> None:
        """Look at another option."""
        self.bench.call.option = max(index, 0)
        self._say("option")

    def set_place(self, place: Place) -> None:
        """Put the gauge at a place of the plan."""
        self.bench.gauge.place = place
        self._say("place")

    def to_next_place(self) -> None:
        """Put the gauge at the next place that has no reading."""
        self.set_place(next_place_of(self.job, self.bench.cylinder))

    def set_person(self, initials: str) -> None:
        """Who books from now on."""
        self.person = initials

    def set_page(self, page: str) -> None:
        """Show another page of the step that is on."""
        self.bench.pages[self.bench.step] = page
        self._say("page")

    def set_probe(self, depth_mm: float, clock_deg: float) -> None:
        """Read the maps and the slice at a depth (kept in the cylinder) and a clock angle."""
        length = self.job.block.length_mm
        self.bench.gauge.probe = (min(max(depth_mm, 0.0), length), clock_deg % 360.0)
        self._say("probe")

    def set_defect(self, index: int) -> None:
        """Look at another defect of the cylinder."""
        count = len(self.job.gauging.defects_of(self.bench.cylinder))
        self.bench.gauge.defect = min(max(index, 0), max(count - 1, 0))
        self._say("defect")

    def set_row(self, row: int, cylinder: int) -> None:
        """Look at another reading of the second opinion, and at its cylinder."""
        self.bench.gauge.row, self.bench.cylinder = row, cylinder
        self._say("row", "selection")

    def set_pulled(self, pulled: int | None) -> None:
        """How far the tightening of the plate has come; None ends it."""
        self.bench.gauge.pulled = pulled
        self._say("pulled")


def _first_cylinder(state: JobState, step: str) -> int:
    """The cylinder that a step begins with: the first one that it has not done."""
    first: dict[str, Callable[[], Iterable[int]]] = {
        "gauge": lambda: (c for c in state.cylinders if not _read_fully(state, c)),
        "bore": lambda: (c for c in state.cylinders if c not in {b.cylinder for b in state.boring.holes}),
        "sleeve": lambda: sleeved_cylinders(state),
        "hone": lambda: (c for c in state.cylinders if not state.honing.checks_of(c)),
    }
    return next(iter(first[step]()), 1) if step in first else 1


def _read_fully(state: JobState, cylinder: int) -> bool:
    taken = places_read(state, cylinder, state.clamped.plate_on, state.gauging.gauge_kind)
    return taken == frozenset(state.gauging.plan.places())


def _initials() -> str:
    """Who is at the bench: the login name's first letters, until the shop says otherwise."""
    try:
        name = os.environ.get("LOGNAME") or os.environ.get("USER") or pwd.getpwuid(os.getuid()).pw_name
    except KeyError:
        return "?"
    return name[:3].upper()
