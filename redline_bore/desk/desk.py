"""The desk: one logbook, and what is done with its jobs."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from contextlib import suppress
from pathlib import Path
from typing import TYPE_CHECKING

from redline_bore.core.errors import EnvironmentTrouble, InputError
from redline_bore.core.figures import Figures
from redline_bore.core.frozen import changed, frozen
from redline_bore.desk.changed import Changed
from redline_bore.desk.open_job import OpenJob
from redline_bore.job.kinds.book_in import FamilyOffered, JobOpened
from redline_bore.job.kinds.bore import BarSet, MachineStated
from redline_bore.job.kinds.entry import Entry, Record
from redline_bore.job.kinds.gauge import PlanChosen
from redline_bore.job.kinds.plans import standard_plan
from redline_bore.job.profiles.practice import shop_practices
from redline_bore.job.state.booking import Lesson
from redline_bore.job.state.job_state import JobState
from redline_bore.store.places import is_server, outboxes_of

if TYPE_CHECKING:
    from redline_bore.desk.hand_in import HandedIn
    from redline_bore.job.book_in.family_settings import SetOnJob
    from redline_bore.job.bore.tools import ShelfLine, ShelfOfJob
    from redline_bore.job.finish.judgement import TracedOnJob, Twins
    from redline_bore.job.finish.plateau import TwiceTraced
    from redline_bore.job.hone.stock_ledger import HonedOnJob
    from redline_bore.job.state.finishing import WallTrace
    from redline_bore.store.logbook import Logbook

MOST_JOBS = 300  # of other jobs, those worked on last, where the newest tell most
MOST_PAIRED = 24  # walls traced twice that a forecast learns from: each takes a second


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
        self._shelf: tuple[OpenJob, tuple[ShelfOfJob, ...], tuple[ShelfOfJob, ...]] | None = None

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

    @property
    def where(self) -> str:
        """Where the logbook stands, as it is told to people."""
        return self.logbook.where

    def close(self) -> None:
        """Let go of the logbook, and note what was booked last in it: it is looked for when it is opened again."""
        if self._logbook is not None:
            from redline_bore.store.last_seen import keep_as_left

            if not self.missing:
                keep_as_left(self._logbook)
            self._logbook.close()

    # -- the server away, and back -------------------------------------------------------------------------------------

    def outboxes(self) -> tuple[Path, ...]:
        """What was booked at this bench while its server was away, and is not handed in yet; the oldest first."""
        return outboxes_of(self.where) if is_server(self.where) else ()

    def hand_in_outbox(self, outbox: Path) -> tuple[HandedIn, ...]:
        """Hand in what an outbox holds; says what became of each job. One of which nothing was refused is put away under another name.

        Raises ServerAway, EnvironmentTrouble: then it stays as it is, and is handed in another time; nothing is taken twice.
        """
        from redline_bore.desk.hand_in import hand_in
        from redline_bore.store.logbook import Logbook

        other = Logbook(outbox, make=False)
        try:
            return hand_in(self.logbook, other, self.figures)
        finally:
            other.close()

    def put_away(self, outbox: Path) -> None:
        """An outbox that was handed in: kept, under a name by which it is not handed in again. Where somebody has it open it stays: it is
        handed in another time, and nothing is taken twice."""
        from redline_bore.store.rescue import renamed

        with suppress(EnvironmentTrouble):
            renamed(outbox, outbox.with_name(outbox.name.replace("-rescue-", "-handed-in-")))

    def back_at_server(self, job: OpenJob) -> tuple[OpenJob, tuple[HandedIn, ...]]:
        """The server is back: hand in what was kept meanwhile, and go on with the job as it stands there. Raises as ``hand_in_outbox`` does."""
        from redline_bore.desk.hand_in import both_read

        assert job.rescued_to is not None
        found = self.hand_in_outbox(job.rescued_to)
        back = self.open(job.state.number)  # before anything is put away: the server may go away again
        job.let_go()
        if not any(x.refused for x in found):
            self.put_away(job.rescued_to)
        known = {_known_by(r): r.seq in job.mine for r in job.records}
        back.mine = {r.seq for r in back.records if known.get(_known_by(r))}
        mine = [r for r in back.records if r.seq in back.mine]
        news = [
            r for r in back.records if _known_by(r) not in known
        ]  # another bench may have handed in at the same moment
        both = tuple(both_read(news, mine))
        return back, tuple(changed(x, both_read=both) if x.number == job.state.number else x for x in found)

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
        return Changed(changed.records, changed.topics, changed.booked, f"{taken_words(new)}{left}")

    def next_number(self) -> str:
        """The number that comes after the highest one in the logbook; empty where none is a plain number."""
        highest = self.logbook.highest_number()
        return str(highest + 1) if highest else ""

    # -- other jobs ----------------------------------------------------------------------------------------------------

    def families(self) -> tuple[SetOnJob, ...]:
        """What was set on the newest job of every engine family in the logbook, the one worked on last first."""
        from redline_bore.job.kept.models import SET

        return tuple(row.said for row in self.logbook.newest_of_each(SET))

    def lessons(self, engine: str) -> tuple[Lesson, ...]:
        """What the signed jobs of an engine family taught, and how long the steps of all its jobs took."""
        from redline_bore.job.kept.models import OPERATIONS, TAUGHT
        from redline_bore.job.kept.operations import hours_taught
        from redline_bore.job.sign_off.learned import family_lessons

        if not engine:
            return ()
        rows = sorted(self.logbook.kept(TAUGHT, engine), key=lambda row: row.job_id)
        worked = sorted(self.logbook.kept(OPERATIONS, engine, MOST_JOBS), key=lambda row: row.job_id)
        return (*family_lessons(row.said for row in rows), *hours_taught(row.said for row in worked))

    def honed_alike(self, state: JobState) -> tuple[HonedOnJob, ...]:
        """The rates of the jobs in this metal that were worked on last."""
        from redline_bore.job.hone.model import metal_of
        from redline_bore.job.kept.models import HONED

        return tuple(row.said for row in self.logbook.kept(HONED, metal_of(state), MOST_JOBS))

    def traced(self) -> tuple[TracedOnJob, ...]:
        """The walls that were traced on the jobs worked on last, by their figures."""
        from redline_bore.job.kept.models import TRACED

        return tuple(row.said for row in self.logbook.kept(TRACED, None, MOST_JOBS))

    def twins(self, state: JobState) -> Twins | None:
        """A trace of this job and one of any job whose Ra agree and whose family differs most; None where no two agree."""
        from redline_bore.job.finish.judgement import Twins, twin_places

        found = twin_places(state, self.traced())
        if found is None:
            return None
        own = {trace.seq: trace for trace in state.finishing.traces}
        here = found.second_job == state.number
        second = [own[found.second]] if here else self._walls(self.logbook.job_id(found.second_job), (found.second,))
        return Twins(own[found.first], second[0], found.times, found.second_job) if second else None

    def twice_traced(self, state: JobState) -> tuple[TwiceTraced, ...]:
        """Walls of other jobs, those worked on last, traced before and after the plateau with this job's tool in its metal."""
        from redline_bore.job.finish.plateau import TwiceTraced, plateau_key
        from redline_bore.job.kept.models import PAIRS

        found: list[TwiceTraced] = []
        for row in self.logbook.kept(PAIRS, plateau_key(state), MOST_PAIRED + 1):
            if row.number == state.number or len(found) >= MOST_PAIRED:
                continue
            for pair in row.said.pairs:
                walls = tuple(self._walls(row.job_id, places) for places in (pair.before, pair.after))
                found.append(TwiceTraced(row.number, pair.cylinder, pair.strokes, *walls))
        return tuple(found)

    def _walls(self, job_id: int, places: Sequence[int]) -> tuple[WallTrace, ...]:
        from redline_bore.job.kinds.finish import wall_of_record

        return tuple(wall_of_record(record) for record in self.logbook.entries(job_id, places))

    def _family_set(self, engine: str) -> tuple[SetOnJob, ...]:
        """What was set on the jobs of an engine family, the newest first."""
        from redline_bore.job.kept.models import SET

        rows = sorted(self.logbook.kept(SET, engine, MOST_JOBS), key=lambda row: -row.job_id) if engine else []
        return tuple(row.said for row in rows)

    def _family_plan(self, opening: JobOpened) -> PlanChosen | None:
        """The level plan last chosen for this engine family, where it fits this block; None when none was."""
        from redline_bore.job.kept.models import SET

        engine = opening.book_in.engine
        rows = self.logbook.kept(SET, engine, 1) if engine else ()
        if not rows or rows[0].said.block.length_mm != opening.book_in.block.length_mm:
            return None
        plan = rows[0].said.plan
        if plan == standard_plan(opening.book_in, self.figures, "full"):
            return None
        return PlanChosen(name=plan.name, depths_mm=plan.depths_mm, clocks_deg=plan.clocks_deg)

    def _family_settings(self, opening: JobOpened) -> tuple[Entry, ...]:
        """What was set on earlier jobs of this engine family."""
        from redline_bore.job.book_in.family_settings import settings_for

        family = self._family_set(opening.book_in.engine)
        return settings_for(opening.book_in, opening.practices or shop_practices(self.figures), family)

    # -- the bars and their inserts ------------------------------------------------------------------------------------

    def read_shelf(self, job: OpenJob) -> None:
        """Read what the other jobs put on the shelf and used: of ten years that takes a while, so off the interface thread."""
        from redline_bore.job.kept.models import SHELF

        rows = sorted(self.logbook.kept(SHELF), key=lambda row: row.job_id)
        before = tuple(row.said for row in rows if row.job_id < job.job_id)
        after = tuple(row.said for row in rows if row.job_id > job.job_id)
        self._shelf = (job, before, after)

    def shelf(self, job: OpenJob) -> tuple[ShelfLine, ...] | None:
        """The shop's inserts, counted over all jobs, as the open one has one in the bar; None until the other jobs were read for it."""
        from redline_bore.job.bore.tools import shelf_of, shelf_of_job

        if self._shelf is None or self._shelf[0] is not job:
            return None
        _, before, after = self._shelf
        mine, bar = shelf_of_job(job.records, job.state.struck), job.state.boring.bar
        return shelf_of((*before, *(() if mine is None else (mine,)), *after), "" if bar is None else bar.insert)

    def shop_machine(self) -> MachineStated | None:
        """The boring bar that was stated last in any job."""
        from redline_bore.job.kept.models import STATED

        found = self.logbook.newest_kept(STATED)
        if found is None:
            return None
        m = found.machine
        return MachineStated(name=m.name, thick_mm=m.thick_mm, reach_mm=m.reach_mm, speeds_rpm=m.speeds_rpm)

    def taught(self, entry: BarSet, now: JobState) -> BarSet:
        """A bar's set-up with what its machine and insert taught on the other jobs in this metal, those worked on last."""
        from redline_bore.job.bore.tools import metal_cut, taught
        from redline_bore.job.kept.models import CUT

        rows = sorted(self.logbook.kept(CUT, metal_cut(now), MOST_JOBS), key=lambda row: row.job_id)
        return taught(entry, [row.said for row in rows], now)


def _known_by(record: Record) -> tuple[str, str, str]:
    """What an entry is known again by, whatever its place has become."""
    return record.at, record.person, record.typed
