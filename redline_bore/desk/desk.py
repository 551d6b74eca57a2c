"""The desk: one logbook, and what is done with its jobs."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from redline_bore.core.errors import InputError
from redline_bore.core.figures import Figures
from redline_bore.core.frozen import frozen
from redline_bore.desk.changed import Changed
from redline_bore.desk.open_job import OpenJob
from redline_bore.job.kinds.book_in import FamilyOffered, JobOpened
from redline_bore.job.kinds.bore import BarSet, MachineStated
from redline_bore.job.kinds.entry import Entry, Record
from redline_bore.job.kinds.fold import folded
from redline_bore.job.kinds.gauge import PlanChosen
from redline_bore.job.kinds.plans import standard_plan
from redline_bore.job.profiles.practice import shop_practices
from redline_bore.job.state.booking import Lesson
from redline_bore.job.state.job_state import JobState

if TYPE_CHECKING:
    from redline_bore.job.bore.tools import ShelfLine
    from redline_bore.store.logbook import Logbook


@frozen
class BookedIn:
    """A job that was just booked in, and what its family taught."""

    job: OpenJob
    lessons: tuple[Lesson, ...]


class Desk:
    """What is done with the jobs of one logbook, by ``person``. The logbook is opened when it is first needed."""

    def __init__(self, open_logbook: Callable[[], Logbook], figures: Figures | None = None, person: str = "") -> None:
        self._open_logbook, self._figures, self.person = open_logbook, figures, person
        self._logbook: Logbook | None = None
        self.missing = ""  # a sentence, where this logbook lacks what it had when it was left
        self._shelf: tuple[JobState, tuple[ShelfLine, ...]] | None = None

    @property
    def logbook(self) -> Logbook:
        """The logbook. Raises EnvironmentTrouble when it cannot be opened."""
        if self._logbook is None:
            from redline_bore.store.last_seen import missing_since

            self._logbook = self._open_logbook()
            self.missing = missing_since(self._logbook)
        return self._logbook

    @property
    def is_open(self) -> bool:
        """Whether the logbook was needed so far."""
        return self._logbook is not None

    @property
    def figures(self) -> Figures:
        """The shop's figures: the shipped ones with its own laid over."""
        if self._figures is None:
            self._figures = self.logbook.figures()
        return self._figures

    @figures.setter
    def figures(self, figures: Figures) -> None:
        self._figures = figures

    def close(self) -> None:
        """Let go of the logbook, and note what was booked last in it: it is looked for when it is opened again."""
        if self._logbook is not None:
            from redline_bore.store.last_seen import keep_as_left

            if not self.missing:
                keep_as_left(self._logbook)
            self._logbook.close()

    def accept_as_it_is(self) -> None:
        """What is missing of this logbook was told; what it holds now is looked for from here on."""
        self.missing = ""

    def set_aside(self, number: str, aside: bool = True) -> None:
        """Set a job aside, or bring it back. Raises InputError where there is none, or it is so already."""
        self.logbook.set_aside(number, self.person, aside)

    # -- jobs ----------------------------------------------------------------------------------------------------------

    def open(self, number: str) -> OpenJob:
        """A job by its number. Raises InputError naming the jobs there are."""
        job_id = self.logbook.job_id(number)
        return self.take_up(job_id, self.logbook.ledger(job_id))

    def take_up(self, job_id: int, records: tuple[Record, ...]) -> OpenJob:
        """A job whose ledger has been read."""
        return OpenJob(lambda: self.logbook, self.figures, job_id, records, self.person)

    def book_in(self, opening: JobOpened) -> BookedIn:
        """Book a new job in, with the level plan, the lessons and all that was set for its family. Raises InputError when its number is taken."""
        plan, settings = self._family_plan(opening), self._family_settings(opening)
        job_id = self.logbook.open_job(opening, self.person)
        job = self.take_up(job_id, self.logbook.ledger(job_id))
        engine = opening.book_in.engine
        if plan is not None:
            job.book(plan, typed=f"plan of {engine}")
        if settings:
            job.book(*settings, typed=f"as set for {engine} before")
        lessons = self.lessons(engine)
        if lessons:
            job.book(FamilyOffered(lessons=lessons), typed=f"family {engine}")
        return BookedIn(job, lessons)

    def take_job(self, path: Path) -> str:
        """Take a job file into the logbook as it stands; returns its number. Raises FaultyInput, InputError."""
        from redline_bore.store.importing import import_job

        return import_job(self.logbook, path, self.figures)

    def take_readings(self, job: OpenJob, path: Path, other: str = "", again: bool = False) -> Changed:
        """Take the readings or sweeps of a file into a job, all or none; those that are there already, told by what they say, are left out.

        ``other`` names the shop whose they are, when they are not ours; again: take them though they are there. Raises FaultyInput,
        InputError, also where nothing in the file is new.
        """
        from redline_bore.store.importing import import_readings
        from redline_bore.store.readings_csv import new_rows, taken_words

        rows = import_readings(path, job.state, other)
        new = rows if again else new_rows(rows, job.records)
        if not new:
            raise InputError(f"Every reading of {path.name} is in this job already; nothing was taken")
        changed = job.book_rows(new, path.name)
        left = f"; {len(rows) - len(new)} that were there already left out" if len(new) < len(rows) else ""
        return Changed(changed.records, changed.state, changed.topics, changed.booked, f"{taken_words(new)}{left}")

    def next_number(self) -> str:
        """The number that comes after the highest one in the logbook; empty where none is a plain number."""
        plain = [line.number for line in self.logbook.jobs() if line.number.isdecimal() and len(line.number) < 10]
        return str(max(map(int, plain)) + 1) if plain else ""

    # -- other jobs ----------------------------------------------------------------------------------------------------

    def families(self) -> tuple[JobState, ...]:
        """The newest job of every engine family in the logbook, the one worked on last first."""
        found: dict[str, JobState] = {}
        for line in self.logbook.jobs():
            if line.engine and line.engine not in found:
                for state in folded([self.logbook.ledger(line.job_id)], self.figures):
                    found[line.engine] = state
        return tuple(found.values())

    def lessons(self, engine: str) -> tuple[Lesson, ...]:
        """What the signed jobs of an engine family taught."""
        from redline_bore.store.family import lessons_in

        if not engine:
            return ()
        return lessons_in(self.logbook, engine, self.figures)

    def jobs_with(self, *kinds: str) -> tuple[JobState, ...]:
        """The jobs whose ledger holds an entry of one of these kinds, the oldest first."""
        return tuple(folded(self.logbook.ledgers_with(kinds), self.figures))

    def _family_plan(self, opening: JobOpened) -> PlanChosen | None:
        """The level plan last chosen for this engine family, where it fits this block; None when none was."""
        engine = opening.book_in.engine
        last = next((f for f in self.families() if f.book_in.engine == engine), None) if engine else None
        if last is None or last.block.length_mm != opening.book_in.block.length_mm:
            return None
        plan = last.gauging.plan
        if plan == standard_plan(opening.book_in, self.figures, "full"):
            return None
        return PlanChosen(name=plan.name, depths_mm=plan.depths_mm, clocks_deg=plan.clocks_deg)

    def _family_settings(self, opening: JobOpened) -> tuple[Entry, ...]:
        """What was set on earlier jobs of this engine family."""
        from redline_bore.job.book_in.family_settings import settings_for

        engine = opening.book_in.engine
        ids = [line.job_id for line in self.logbook.jobs() if line.engine == engine]
        jobs = list(folded((self.logbook.ledger(i) for i in sorted(ids, reverse=True)), self.figures)) if engine else []
        return settings_for(opening.book_in, opening.practices or shop_practices(self.figures), jobs)

    # -- the bars and their inserts ------------------------------------------------------------------------------------

    def tool_ledgers(self) -> tuple[tuple[Record, ...], ...]:
        """The ledgers of every job in which a machine, an insert or a bar was booked."""
        from redline_bore.job.bore.tools import KINDS

        return self.logbook.ledgers_with(KINDS)

    def shelf(self, state: JobState) -> tuple[ShelfLine, ...]:
        """The shop's inserts, counted over all jobs, as ``state`` has one in the bar."""
        from redline_bore.job.bore.tools import shelf_of

        if self._shelf is None or self._shelf[0] is not state:
            in_bar = "" if state.boring.bar is None else state.boring.bar.insert
            self._shelf = (state, shelf_of(self.tool_ledgers(), in_bar))
        return self._shelf[1]

    def shop_machine(self) -> MachineStated | None:
        """The boring bar that was stated last in any job."""
        from redline_bore.job.bore.tools import last_machine

        return last_machine(self.tool_ledgers())

    def taught(self, entry: BarSet, now: JobState) -> BarSet:
        """A bar's set-up with what its machine and insert taught on the other jobs of the logbook."""
        from redline_bore.job.bore.tools import taught

        return taught(entry, list(folded(self.tool_ledgers(), self.figures)), now)
