"""What stands beside the ledgers: written with the entries, the same when made anew, found without folding anything."""

import threading
from dataclasses import replace

import pytest

from redline_bore.desk.desk import Desk
from redline_bore.job.book_in.family_settings import set_on
from redline_bore.job.bore.tools import cut_on_job, shelf_of_job, stated_on_job
from redline_bore.job.kept.line import line_of, line_on
from redline_bore.job.kept.models import CUT, MODELS, SET, SHELF, STATED, TAUGHT, kept_of, kept_on
from redline_bore.job.kinds.bore import EdgeTurned
from redline_bore.job.kinds.entry import Draft
from redline_bore.job.kinds.finish import TraceBooked
from redline_bore.job.kinds.fold import fold, fold_on
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.job.kinds.kind import kind_of
from redline_bore.job.kinds.sign_off import StepStamped
from redline_bore.job.sign_off.learned import taught_on_job
from redline_bore.store import logbook as logbook_module
from redline_bore.store.beside import Beside, beside_of
from redline_bore.store.job_list import Asked
from redline_bore.store.rebuild import rebuild
from tests.patience import PATIENCE_S

NUMBERS = ("2029", "2036", "2041", "2044", "2047")


@pytest.mark.parametrize("number", NUMBERS)
def test_what_is_kept_of_a_job_is_what_its_state_says(shared, state_of, ledger_of, number):
    state, job = state_of(number), shared.job_id(number)
    for kept in kept_of(state, ledger_of(number)):
        model = next(m for m in MODELS if m.name == kept.name)
        rows = [row for row in shared.kept(model, kept.key) if row.job_id == job] if kept.key else []
        assert [row.said for row in rows] == ([] if kept.plain is None else [model.read(kept.plain)]), kept.name
        assert kept.key or not any(row.job_id == job for row in shared.kept(model)), kept.name
    line = shared.lines([job])[0]
    told = line_of(state, ledger_of(number))
    assert (line.number, line.done, line.people, line.machines) == (number, told.done, told.people, told.machines)


def test_what_is_read_back_is_what_was_kept(shared, state_of, ledger_of):
    one = {m: {row.number: row.said for row in shared.kept(m)} for m in MODELS}
    assert one[SET]["2041"] == set_on(state_of("2041")) and one[CUT]["2036"] == cut_on_job(state_of("2036"))
    assert one[TAUGHT] == {n: x for n in NUMBERS if (x := taught_on_job(state_of(n))) is not None}
    assert one[SHELF]["2044"] == shelf_of_job(ledger_of("2044"), frozenset())
    assert shared.newest_kept(STATED) == max((stated_on_job(ledger_of(n), frozenset()) for n in ("2036", "2044")), key=lambda x: x.at)  # fmt: skip


def test_made_anew_it_is_the_same_and_what_was_spoilt_is_told(shared):
    logbook = shared
    assert rebuild(logbook) == rebuild(logbook) and rebuild(logbook).other == ()
    shared.spoil(
        "UPDATE job_line SET owner = 'Nobody', models = 0 WHERE number = '2036'",
        f"UPDATE job_kept SET body = '{{}}' WHERE name = 'cut' AND job_id = {logbook.job_id('2044')}",
        "UPDATE job_line SET models = 0 WHERE number = '2029'",
    )
    assert len(logbook.outdated()) == 2
    ticks = []
    found = rebuild(logbook, lambda done, of: ticks.append((done, of)), all_of_them=False)
    assert found.jobs == 2 and found.other == ("2036",) and ticks == [(1, 2), (2, 2)] and not logbook.outdated()
    assert rebuild(logbook).other == ("2044",) and logbook.jobs("marigold")[0].number == "2036"


def test_a_rebuild_that_is_broken_off_goes_on_where_it_was(shared):
    logbook = shared
    shared.spoil("UPDATE job_line SET models = 0")

    def stop(done, _of):
        if done == 2:
            raise KeyboardInterrupt

    with pytest.raises(KeyboardInterrupt):
        rebuild(logbook, stop, all_of_them=False)
    assert len(logbook.outdated()) == 3 and rebuild(logbook, all_of_them=False).jobs == 3


def test_a_job_whose_opening_is_damaged_keeps_a_line_and_teaches_nothing(shared):
    logbook = shared
    shared.spoil(f"UPDATE entry SET body = '{{' WHERE seq = 1 AND job_id = {logbook.job_id('2036')}")
    rebuild(logbook)
    assert [row.number for row in logbook.kept(TAUGHT)] == ["2029"] and {x.number for x in logbook.jobs()} == set(
        NUMBERS
    )


def test_the_figures_of_the_shop_stand_once_for_all_jobs(shared):
    sets, lengths, _ = shared.spoil(
        "SELECT count(*) FROM figure_set", "SELECT length(body) FROM entry WHERE kind = 'job_opened'",
        "UPDATE figure_set SET body = replace(body, '0.2', '0.3')",
    )  # fmt: skip
    assert sets[0][0] == 1 and max(lengths)[0] < 3000
    book = shared.again()
    first = book.ledger(book.job_id("2041"))[0]
    assert first.entry.kind == "entry_damaged" and "figures" in first.entry.why  # never believed
    book.close()


def test_a_booking_leaves_beside_it_what_it_changes(shared, shipped):
    book = shared
    desk = Desk(lambda: book, shipped, "KT")
    job = desk.open("2044")
    assert desk.shelf(job) is None  # until the other jobs are read
    desk.read_shelf(job)
    before = {s.insert: s.used for s in desk.shelf(job)}
    job.book(EdgeTurned(insert="TPG 321"))
    assert {s.insert: s.used for s in desk.shelf(job)}["TPG 321"] == before["TPG 321"] + 1
    desk.read_shelf(job)
    assert {s.insert: s.used for s in desk.shelf(job)}["TPG 321"] == before["TPG 321"] + 1
    line = book.lines([job.job_id])[0]
    assert line.people[0] == "KT" and book.newest_entry()[:2] == (job.job_id, job.records[-1].seq)
    assert rebuild(book).other == ()
    job.strike(job.records[-1].seq)
    assert {s.insert: s.used for s in desk.shelf(job)} == before and rebuild(book).other == ()


def reading(clock=0.0):
    return ReadingBooked(cylinder=1, depth_mm=24.0, clock_deg=clock, diameter_mm=105.1, plate_on=True)


def test_readings_leave_what_stands_beside_as_it_was_and_their_job_is_the_one_worked_on_last(shared, shipped):
    desk = Desk(lambda: shared, shipped, "KT")
    job, other = desk.open("2044"), desk.open("2047")
    for booked, last in (
        (job, "2044"), (job, "2044"), (job, "2044"), (other, "2047"), (job, "2044"), (other, "2047"), (other, "2047"),
    ):  # fmt: skip
        booked.book(reading())
        assert shared.newest_number() == last
        assert shared.newest_entry()[:2] == (booked.job_id, booked.records[-1].seq)
        assert shared.lines([booked.job_id])[0].people[0] == "KT"
    job.person = "RM"
    job.book(reading())
    job.book(reading(30.0))
    assert shared.lines([job.job_id])[0].people[:2] == ("RM", "KT")  # who books is one of the line
    assert rebuild(shared).other == () and job.state == fold(shared.ledger(job.job_id), shipped)
    assert job.state.gauging.readings == fold(job.records, shipped).gauging.readings


@pytest.mark.parametrize("number", NUMBERS[:-1])  # the last one was swept
def test_kinds_that_leave_what_stands_beside_as_it_was(ledger_of, shipped, number):
    ledger, found = ledger_of(number), 0
    for place, record in enumerate(ledger):
        if kind_of(record.entry).beside or found > 40:
            continue
        found += 1
        before = fold(ledger[:place], shipped)
        after = fold_on(before, ledger[: place + 1], shipped)
        assert kept_on(before, after, (record,), ledger[: place + 1]) == ()
        line = line_of(before, ledger[:place])
        assert replace(line_on(line, after, (record,), ledger[: place + 1]), people=line.people) == line
    assert found


def test_a_booking_without_a_desk_leaves_it_too(shared, shipped):
    job = shared.job_id("2041")
    shared.append(job, 0, [Draft(StepStamped(step="call", initials="KT"), "KT")])
    assert shared.lines([job])[0].done[-1] == "call" and rebuild(shared).other == ()
    assert fold(shared.ledger(job), shipped).signing.stamps[-1].step == "call"


def test_a_trace_is_found_by_its_place(shared, ledger_of):
    traces = [r for r in ledger_of("2036") if isinstance(r.entry, TraceBooked)]
    assert shared.entries(shared.job_id("2036"), [r.seq for r in traces]) == tuple(traces)
    assert shared.entries(shared.job_id("2036"), [9999]) == ()


# -- the list ----------------------------------------------------------------------------------------------------------


def numbers(shared, **asked):
    return [x.number for x in shared.lines(shared.job_ids(Asked(**asked)))]


@pytest.mark.parametrize(
    ("asked", "wanted"),
    [
        ({}, ["2041", "2047", "2044", "2036", "2029"]),
        ({"search": "marigold"}, ["2036"]),
        ({"search": "twin 2036"}, ["2036"]),
        ({"search": "36"}, ["2036"]),  # two letters: no index knows them
        ({"search": "GOLD"}, ["2036"]),
        ({"search": '"'}, []),
        ({"search": "%"}, []),
        ({"search": "_04"}, []),
        ({"search": 'gold" OR "a'}, []),
        ({"state": "signed off"}, ["2036", "2029"]),
        ({"state": "open"}, ["2041", "2047", "2044"]),
        ({"state": "late", "today": "2026-11-24"}, []),
        ({"machine": "north"}, ["2044", "2036", "2029"]),
        ({"machine": "nort"}, []),
        ({"person": "nobody"}, []),
        ({"aside": True}, []),
    ],
)
def test_the_list_is_sifted(shared, asked, wanted):
    assert numbers(shared, **asked) == wanted


def test_a_word_of_a_note_finds_its_job(shared, shipped):
    desk = Desk(lambda: shared, shipped, "KT")
    job = desk.open("2047")
    from redline_bore.job.kinds.book_in import RemarkLeft

    job.book(RemarkLeft(text="Oil pump gear is pitted, ask the owner"))
    assert numbers(shared, search="pitted") == ["2047"] and "2047" in numbers(shared, search="tt")
    job.strike(job.records[-1].seq)
    assert numbers(shared, search="pitted") == []


@pytest.mark.parametrize("looks", [False, True])
def test_what_another_bench_changed_and_this_one_changed_back_stands_as_the_ledger_says(shared, shipped, looks):
    """The line as this bench knows it is the line as it comes out: it is written all the same, and so are the words of the search."""
    from redline_bore.job.kinds.book_in import BookInRevised, Promised

    mine, other = Desk(lambda: shared, shipped, "KT").open("2044"), shared.again()
    book, day = mine.state.book_in, "2030-12-31"
    mine.book(Promised(day=day))
    other.append(mine.job_id, 0, [Draft(Promised(day="2031-01-01"), "RM"), Draft(BookInRevised(book_in=replace(book, owner="Quarry 7")), "RM")])  # fmt: skip
    assert numbers(shared, search="quarry") == ["2044"] and shared.lines([mine.job_id])[0].promised == "2031-01-01"
    if looks:
        mine.look_again()
    mine.book(Promised(day=day), BookInRevised(book_in=book))
    assert numbers(shared, search="quarry") == [] and shared.lines([mine.job_id])[0].promised == day
    mine.book(Promised(day=day))
    assert rebuild(shared).other == () and shared.lines([mine.job_id])[0].last_at == mine.records[-1].at
    other.close()


def test_what_is_promised_first_stands_on_top(shared, shipped):
    from redline_bore.job.kinds.book_in import Promised

    desk = Desk(lambda: shared, shipped, "KT")
    for number, day in (("2044", "2026-12-09"), ("2029", "2026-12-02"), ("2036", "2026-12-01")):
        desk.logbook.append(shared.job_id(number), 0, [Draft(Promised(day=day), "KT")])
    assert numbers(shared)[:1] == ["2044"]  # the others are signed off
    assert numbers(shared, state="late", today="2026-12-10") == ["2044"]
    assert numbers(shared, state="late", today="2026-12-09") == []


def test_a_clock_set_back_changes_neither_the_order_of_a_ledger_nor_of_the_list(shared, shipped):
    from redline_bore.job.kinds.gauge import BlockTemperature

    job = shared.job_id("2029")
    shared.append(job, 0, [Draft(BlockTemperature(block_c=20.0), "KT", at="2001-01-01T00:00:00.000+00:00")])
    ledger = shared.ledger(job)
    assert ledger[-1].at.startswith("2001") and ledger[-1].seq == len(ledger)
    assert (
        shared.jobs()[0].number == "2029"
        and shared.newest_number() == "2029"
        and shared.newest_entry()[:2] == (job, len(ledger))
    )


def test_nobody_waits_while_a_long_ledger_is_made_anew(shared, shipped, monkeypatch):
    other, begun, booked = shared.again(), threading.Event(), threading.Event()
    job, calls = shared.job_id("2041"), []

    def slowly(records, figures):
        if threading.current_thread() is not threading.main_thread():
            calls.append(records[-1].seq)
            begun.set()
            assert booked.wait(PATIENCE_S)
        return beside_of(records, figures)

    monkeypatch.setattr(logbook_module, "beside_of", slowly)
    work = threading.Thread(target=lambda: shared.made_anew(job))
    work.start()
    assert begun.wait(PATIENCE_S)
    last = other.append(job, 0, [Draft(StepStamped(step="call", initials="KT"), "KT")])[-1].seq  # waits for nobody
    booked.set()
    work.join()
    assert calls == [last - 1, last]  # what was folded meanwhile is folded again
    assert shared.lines([job])[0].done[-1] == "call" and rebuild(shared).other == ()
    other.close()


def test_a_job_into_which_is_booked_all_the_time_is_made_anew_all_the_same(shared, shipped, monkeypatch):
    other, job, calls = shared.again(), shared.job_id("2041"), []

    def disturbed(records, figures):
        calls.append(records[-1].seq)
        if len(calls) <= logbook_module.TRIES:
            other.append(job, 0, [Draft(StepStamped(step="call", initials="KT"), "KT")], beside=lambda _new: spoilt)
        return beside_of(records, figures)

    spoilt = Beside(replace(line_of(fold(shared.ledger(job), shipped), shared.ledger(job)), owner="Nobody"), ())
    monkeypatch.setattr(logbook_module, "beside_of", disturbed)
    assert shared.made_anew(job) == "2041" and len(calls) == logbook_module.TRIES + 1
    monkeypatch.undo()
    assert rebuild(shared).other == () and shared.lines([job])[0].owner != "Nobody"
    other.close()


def test_what_is_made_anew_gives_way(shared, monkeypatch):
    slept = []
    monkeypatch.setattr("redline_bore.store.rebuild.time.sleep", slept.append)
    rebuild(shared, rest=2.0)
    assert len(slept) == 5 and all(s > 0.0 for s in slept)
    slept.clear()
    rebuild(shared)
    assert slept == []
