"""Random work at two desks over one logbook: what was acknowledged is there, once, in order; the state is the fold of it."""

import shutil
import tempfile
from pathlib import Path

from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, rule, run_state_machine_as_test

from redline_bore.core.errors import BenchError
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.gauge import BlockTemperature
from redline_bore.store.logbook import Logbook
from redline_bore.store.rebuild import rebuild
from redline_bore.store.verify import verified
from redline_bore.ui.session import Session
from tests.stateful.lines import examples_of, picks, sizes, slips, steps

JOBS = ("2041", "2047", "2029", "2036", "2044")


def why_refused(work, session):
    """What a planned refusal said; empty where it was done."""
    try:
        work(session)
    except BenchError as error:
        return str(error) or " "
    return ""


class Benches(RuleBasedStateMachine):
    """Two sessions on one file. ``told``: every entry that was said to be kept, by its place."""

    master: Path
    figures = None

    def __init__(self):
        super().__init__()
        self.folder = Path(tempfile.mkdtemp())
        self.path = Path(shutil.copy(self.master, self.folder / "logbook.sqlite"))
        self.told = {}
        self.sessions = []

    @initialize(number=st.sampled_from(JOBS))
    def come_to_work(self, number):
        self.number = number
        for who in ("RM", "KT"):
            session = Session(self.figures, lambda: Logbook(self.path))
            session.open_job(number)
            session.person = who
            self.sessions.append(session)
        self.began = self.sessions[0].records

    def session(self, which):
        return self.sessions[which % 2]

    def tried(self, which, work):
        """Do it, or be refused in words; keep what was told."""
        session = self.session(which)
        before = {r.seq for r in session.records}
        if refused := why_refused(work, session):
            assert refused.strip() and len(refused) < 4000
            assert {r.seq for r in session.records} == before, "refused, and booked all the same"
            return
        for record in session.records:
            if record.seq not in before:
                assert self.told.setdefault(record.seq, record) == record

    @rule(which=picks, pick=picks, slip=slips, cut=st.integers(0, 30), step=st.none() | steps)
    def type_a_line(self, which, pick, slip, cut, step):
        session = self.session(which)
        at = step or session.bench.step
        forms = examples_of(session.job, at, session.bench.cylinder, session.bench.units)
        text = forms[pick % len(forms)] if forms else "22.0 C"
        text = f"{text[: len(text) - cut]}{slip}" if cut < 5 else f"{text}{slip}"
        self.tried(which, lambda s: s.book_typed(at, text, lambda _e: True))

    @rule(which=picks, first=sizes, second=sizes, step=steps)
    def type_figures(self, which, first, second, step):
        self.tried(which, lambda s: s.book_typed(step, f"{first} {second}"))

    @rule(which=picks, pick=picks)
    def say_it_again(self, which, pick):
        """The same line twice: a doubt is booked the second time."""
        session = self.session(which)
        forms = examples_of(session.job, session.bench.step, session.bench.cylinder, session.bench.units)
        if forms:
            for _ in range(2):
                self.tried(which, lambda s: s.book_typed(s.bench.step, forms[pick % len(forms)]))

    @rule(which=picks)
    def take_back(self, which):
        self.tried(which, lambda s: s.undo())

    @rule(which=picks)
    def put_back(self, which):
        self.tried(which, lambda s: s.redo())

    @rule(which=picks, pick=st.integers(-3, 300))
    def strike(self, which, pick):
        self.tried(which, lambda s: s.took(s.opened.strike(pick % (len(s.records) + 4))))

    @rule(which=picks, pick=st.integers(-3, 300))
    def restore(self, which, pick):
        self.tried(which, lambda s: s.took(s.opened.restore(pick % (len(s.records) + 4))))

    @rule(which=picks, step=steps)
    def stamp(self, which, step):
        self.tried(which, lambda s: s.took(s.opened.stamp(step)))

    @rule(which=picks, celsius=st.floats(-400.0, 900.0))
    def warm(self, which, celsius):
        self.tried(which, lambda s: s.book(BlockTemperature(block_c=celsius)))

    @rule(which=picks, cylinder=st.integers(-2, 14), step=steps, units=st.sampled_from(Units))
    def look_elsewhere(self, which, cylinder, step, units):
        session = self.session(which)
        session.select(cylinder)
        session.go(step)
        session.set_units(units)

    @rule(which=picks, level=st.integers(0, 3), clock=st.integers(0, 3))
    def move_the_gauge(self, which, level, clock):
        plan = self.session(which).job.gauging.plan
        self.session(which).set_place(Place(level % len(plan.depths_mm), clock % len(plan.clocks_deg)))

    @rule(which=picks)
    def look_again(self, which):
        self.tried(which, lambda s: s.look_again())

    @rule(which=picks, number=st.sampled_from(JOBS))
    def open_another_and_come_back(self, which, number):
        session = self.session(which)
        session.open_job(number)
        session.open_job(self.number)
        self.tried(which, lambda s: None)
        for record in session.records:
            self.told.setdefault(record.seq, record)

    @invariant()
    def what_was_told_is_there(self):
        if not self.sessions:
            return
        book = Logbook(self.path, make=False)
        try:
            there = book.ledger(self.sessions[0].job_id)
        finally:
            book.close()
        assert [r.seq for r in there] == list(range(1, len(there) + 1))
        assert there[: len(self.began)] == self.began
        assert all(there[seq - 1] == record for seq, record in self.told.items())
        assert len(there) == len(self.began) + sum(r.seq > len(self.began) for r in self.told.values())
        for session in self.sessions:
            assert session.records == there[: len(session.records)]

    @invariant()
    def the_bench_stands_somewhere(self):
        for session in self.sessions:
            bench, plan = session.bench, session.job.gauging.plan
            assert bench.cylinder in session.job.cylinders and bench.step in session.steps
            assert bench.place.level < len(plan.depths_mm) and bench.place.clock < len(plan.clocks_deg)

    def teardown(self):
        for session in self.sessions:
            fresh = fold(session.records, self.figures)
            assert repr(fresh) == repr(session.state), "carried on otherwise than folded anew"
        if self.sessions:
            found = verified(self.sessions[0].logbook)
            assert not found.faults
            assert rebuild(self.sessions[0].logbook).other == (), "kept beside the ledger otherwise than made anew"
        for session in self.sessions:
            session.close()
        shutil.rmtree(self.folder)


def test_two_desks(demo_master, shipped, sequences, qapp):
    Benches.master, Benches.figures = demo_master, shipped
    run_state_machine_as_test(Benches, settings=sequences)
