"""The window in company: two benches at one job, a server that goes away and comes back, the house kept behind it all."""

import sqlite3
from pathlib import Path

import pytest
from PyQt6.QtCore import QSettings, Qt
from PyQt6.QtWidgets import QApplication

from redline_bore.app import build_window
from redline_bore.core.errors import ServerAway
from redline_bore.job.kinds.entry import Draft
from redline_bore.job.kinds.gauge import BlockTemperature, ReadingBooked
from redline_bore.store.backup_folder import backup_folder, name_backup_folder
from redline_bore.store.logbook import Logbook
from redline_bore.store.places import outboxes_of
from redline_bore.store.verify import verified
from redline_bore.ui.commands.files import back_up_to
from redline_bore.ui.company import Company
from redline_bore.ui.other_benches import OtherBenches
from tests.ui.conftest import Bench
from tools.servers import BENCH


def reading(size, place=0):
    return ReadingBooked(cylinder=1, depth_mm=24.0, clock_deg=45.0 * place, diameter_mm=size, plate_on=True)


@pytest.fixture
def sit_down(qtbot, tmp_path, monkeypatch):
    """A bench: the real window on a logbook, in company."""
    monkeypatch.setattr("redline_bore.ui.other_benches.PRESENT_S", 0.3)
    monkeypatch.setattr("redline_bore.ui.other_benches.AWAY_S", 0.2)
    sat = []

    def sit(where, who, number="2041"):
        kept = QSettings(str(tmp_path / f"{who}.ini"), QSettings.Format.IniFormat)
        kept.setValue("person", who)
        window = build_window(where, number, kept)
        qtbot.addWidget(window)
        window.resize(1280, 800)
        window.show()
        window.endings.append(Company(window).end)
        bench = Bench(window, qtbot)
        sat.append(bench)
        bench.settle()
        return bench

    yield sit
    for bench in sat:
        bench.window.close()
    QApplication.processEvents()


@pytest.fixture(params=["file", "server"])
def where(request):
    """One logbook for several benches, in a file and then on a server."""
    return request.getfixturevalue("demo_path" if request.param == "file" else "bench_url")


def test_what_another_bench_books_is_there_within_a_second(sit_down, where, qtbot):
    one, two = sit_down(where, "RM"), sit_down(where, "KT")
    qtbot.wait(300)
    two.session.book(BlockTemperature(block_c=33.3))
    qtbot.waitUntil(lambda: one.session.job.clamped.block_c == 33.3)
    assert one.session.records == two.session.records
    one.session.book(BlockTemperature(block_c=21.5))
    qtbot.waitUntil(lambda: two.session.job.clamped.block_c == 21.5)


def test_who_else_is_at_the_job_stands_on_the_block_plan(sit_down, where, qtbot):
    one, two = sit_down(where, "RM"), sit_down(where, "KT")
    qtbot.waitUntil(lambda: one.session.company == ("KT",))
    assert "KT is at this job too" in one.window.plan.said()
    qtbot.waitUntil(lambda: two.session.company == ("RM",))
    two.session.open_job("2044")
    qtbot.waitUntil(lambda: one.session.company == ())
    assert "at this job too" not in one.window.plan.said()


def test_who_is_there_already_is_heard_however_late_it_is_listened_for(sit_down, where, qtbot):
    one = sit_down(where, "RM")
    two = build_window(where, "2041", QSettings(str(one.window.settings.fileName()) + "2", QSettings.Format.IniFormat))
    qtbot.addWidget(two)
    qtbot.waitUntil(lambda: one.session.logbook.who_is_at(one.session.open.job_id) == ("RM",))
    benches, heard = OtherBenches(two.session), []
    qtbot.wait(100)  # a busy machine connects it as late as this
    benches.present.connect(heard.append)
    benches.begin()
    try:
        qtbot.waitUntil(lambda: heard == [("RM",)])
    finally:
        benches.stop()


def test_while_another_program_holds_the_logbook_presence_is_said_again_and_nothing_is_complained_of(
    demo_path, qtbot, monkeypatch
):
    monkeypatch.setattr("redline_bore.ui.other_benches.LOOK_S", 0.1)
    window = build_window(demo_path, "2041", QSettings(str(demo_path) + ".ini", QSettings.Format.IniFormat))
    qtbot.addWidget(window)
    benches, trouble = OtherBenches(window.session), []
    benches.trouble.connect(trouble.append)
    held = sqlite3.connect(demo_path, isolation_level=None)
    held.execute("BEGIN IMMEDIATE")
    benches.begin()
    try:
        qtbot.wait(1500)
        held.execute("ROLLBACK")
        job = window.session.open.job_id
        qtbot.waitUntil(lambda: window.session.logbook.who_is_at(job) != ())
        assert trouble == []
    finally:
        held.close()
        benches.stop()


def test_two_who_read_one_place_are_told_and_both_stand(sit_down, where, qtbot):
    one, two = sit_down(where, "RM"), sit_down(where, "KT")
    one.session.book(reading(105.101))
    two.session.look_again()
    two.session.book(reading(105.109))
    qtbot.waitUntil(lambda: "both read cylinder 1" in one.said)
    assert "RM and KT" in one.said and "+0.008" in one.said and one.said.startswith("Look here")
    assert [r.person for r in one.session.records[-2:]] == ["RM", "KT"]


def test_while_the_server_is_away_everything_is_kept_here_and_handed_in_once(sit_down, server, bench_url, qtbot):
    one = sit_down(bench_url, "RM")
    before = len(one.session.records)
    one.go("gauge")
    server.kill()
    one.type("22.5 C")
    assert "kept at this bench" in one.said and len(one.session.records) == before + 1
    for n in range(3):
        one.session.book(reading(105.101 + n / 1000, n))
    assert one.session.open.waits_for_server and len(outboxes_of(bench_url)) == 1
    kept = Logbook(outboxes_of(bench_url)[0])
    assert len(kept.ledger(1)) == before + 4  # on this bench's own disk
    kept.close()
    server.start()
    other = Logbook(bench_url)
    other.append(other.job_id("2041"), 0, [Draft(reading(105.111), "KT")])  # somebody was quicker
    qtbot.waitUntil(lambda: "The server is back: 2041: 4 entries" in one.said)
    qtbot.waitUntil(lambda: not one.session.open.waits_for_server)
    assert "both read cylinder 1" in one.said  # in one breath, or the one would cover the other
    ledger = other.ledger(other.job_id("2041"))
    assert one.window.line.kept.text().endswith(f"entry {ledger[-1].seq}")
    qtbot.waitUntil(lambda: one.session.logbook.who_is_at(other.job_id("2041")) != ())  # the ear is there again
    qtbot.wait(1500)
    assert "The server is back" in one.said
    mine = {r.seq for r in ledger[before:] if r.person == "RM"}
    assert one.session.open.mine == mine
    assert [r.person for r in ledger[before:]] == ["KT", "RM", "RM", "RM", "RM"] and one.session.records == ledger
    assert not verified(other).faults and outboxes_of(bench_url) == ()
    one.session.book(BlockTemperature(block_c=21.0))  # and on it goes, at the server
    assert len(other.ledger(other.job_id("2041"))) == before + 6
    other.close()
    server.kill()  # and away again, with nothing booked meanwhile
    qtbot.waitUntil(lambda: "The server cannot be reached. What you book is kept at this bench" in one.said)
    server.start()
    qtbot.waitUntil(lambda: "The logbook can be reached again" in one.said)


def test_two_benches_that_hand_in_at_the_same_moment_are_told_what_both_read(
    sit_down, server, bench_url, qtbot, monkeypatch
):
    one = sit_down(bench_url, "RM")
    there = Logbook(bench_url)
    there.say_present("elsewhere", "KT", there.job_id("2041"))
    there.close()
    qtbot.waitUntil(lambda: one.session.company == ("KT",))
    server.kill()
    one.session.book(reading(105.101))
    qtbot.waitUntil(lambda: one.session.company == ())  # nobody here can know
    as_it_is = one.session.desk.open

    def opened_late(number):  # KT's entry comes between what is handed in and the job as it stands then
        other = Logbook(bench_url)
        other.append(other.job_id(number), 0, [Draft(reading(105.111), "KT")])
        other.close()
        return as_it_is(number)

    monkeypatch.setattr(one.session.desk, "open", opened_late)
    server.start()
    qtbot.waitUntil(lambda: "both read cylinder 1" in one.said)
    assert (
        one.said.startswith("Look here: The server is back: 2041: 1 entry. KT and RM both read")
        and "0.010 apart" in one.said
    )


def test_a_power_cut_at_the_bench_while_the_server_is_away_loses_nothing(sit_down, server, bench_url, qtbot):
    one = sit_down(bench_url, "RM")
    before = len(one.session.records)
    server.kill()
    one.session.book(reading(105.123))
    one.window.close()  # as it stands: nothing is handed in on the way out
    again = sit_down(bench_url, "RM")  # the server is still away: the bench goes on with what it has
    assert len(again.session.records) == before + 1 and again.session.state.number == "2041"
    again.session.book(reading(105.124, 1))
    again.window.close()
    server.start()
    back = sit_down(bench_url, "RM")
    qtbot.waitUntil(lambda: "handed in now" in back.said)
    other = Logbook(bench_url)
    assert [r.entry.diameter_mm for r in other.ledger(other.job_id("2041"))[before:]] == [105.123, 105.124]
    assert outboxes_of(bench_url) == ()
    other.close()


def test_without_a_server_and_with_nothing_kept_it_is_said(server, bench_url):
    server.kill()
    try:
        with pytest.raises(ServerAway, match="cannot be used"):
            build_window(bench_url, "2041")
    finally:
        server.start()


def test_a_job_signed_off_meanwhile_is_told_and_what_was_booked_here_is_kept(
    sit_down, server, bench_url, qtbot, shipped
):
    one = sit_down(bench_url, "RM", "2047")
    server.kill()
    one.session.book(reading(78.01))
    server.start()
    other = Logbook(bench_url)
    from redline_bore.job.kinds.sign_off import StepStamped

    other.append(other.job_id("2047"), 0, [Draft(StepStamped(step="sign_off", initials="KT"), "KT")])
    qtbot.waitUntil(lambda: "was not taken" in one.said)
    assert "signed off by KT" in one.said and len(outboxes_of(bench_url)) == 1
    other.close()


def test_the_backup_of_the_day_is_made_behind_the_first_picture(sit_down, demo_path, tmp_path, qtbot):
    to = tmp_path / "kept"
    to.mkdir()
    name_backup_folder(to)
    one = sit_down(demo_path, "RM")
    qtbot.waitUntil(lambda: "backup of the day is made" in one.said)
    assert len(list(to.iterdir())) == 1


def test_the_shop_names_the_folder_and_a_wrong_one_is_told(sit_down, demo_path, tmp_path, qtbot):
    one = sit_down(demo_path, "RM")
    to = tmp_path / "kept"
    to.mkdir()
    one.do(back_up_to, to)
    qtbot.waitUntil(lambda: "is made and checked" in one.said)
    assert backup_folder() == to and len(list(to.iterdir())) == 1
    one.do(back_up_to, tmp_path / "none")
    qtbot.waitUntil(lambda: "no folder" in one.said)


def test_a_bench_opens_the_job_it_is_asked_for_at_a_server(sit_down, bench_url):
    assert sit_down(bench_url, "RM", "2036").session.state.number == "2036"
    newest = sit_down(bench_url, "KT", None)
    assert newest.session.state.number == "2041" and newest.window.lists.jobs is None
    assert BENCH in bench_url and not Path(bench_url).exists()


@pytest.fixture
def held(demo_path):
    """Another program holds the logbook until it is told to let go."""
    raw = sqlite3.connect(demo_path, isolation_level=None)
    raw.execute("BEGIN IMMEDIATE")
    yield lambda: raw.execute("ROLLBACK")
    raw.close()


def test_what_is_typed_while_the_logbook_is_held_is_booked_when_it_is_free(bench, held, qtbot):
    bench.go("gauge")
    before = len(bench.session.records)
    bench.type("22.5 C")
    assert "holds the logbook" in bench.said and bench.field.text() == "22.5 C" and len(bench.session.records) == before
    bench.key(Qt.Key.Key_Return)  # impatience books nothing twice
    held()
    qtbot.waitUntil(lambda: len(bench.session.records) == before + 1)
    qtbot.wait(600)
    assert (
        len(bench.session.records) == before + 1
        and bench.session.job.clamped.block_c == 22.5
        and bench.field.text() == ""
    )


def test_what_is_typed_over_meanwhile_is_not_booked(bench, held, qtbot):
    bench.go("gauge")
    before = len(bench.session.records)
    bench.type("22.5 C")
    bench.field.setText("23.5 C")
    held()
    qtbot.wait(700)
    assert len(bench.session.records) == before
    bench.key(Qt.Key.Key_Return)
    assert bench.session.job.clamped.block_c == 23.5


def test_readings_of_a_gauge_wait_in_order(bench, held, qtbot):
    from redline_bore.instruments.line_protocol import GaugeReading

    bench.go("gauge")
    before = len(bench.session.records)
    for off in (0.101, 0.102, 0.103):
        bench.window.intake.hear(GaugeReading(off, None, None, f"+{off}"), True)
    assert "holds the logbook" in bench.said and len(bench.session.records) == before
    held()
    qtbot.waitUntil(lambda: len(bench.session.records) == before + 3)
    sizes = [r.entry.diameter_mm for r in bench.session.records[-3:]]
    assert [b - a for a, b in zip(sizes, sizes[1:], strict=False)] == pytest.approx([0.001, 0.001], abs=1e-6)


def test_a_reading_that_waited_until_one_went_on_is_said_and_not_booked(bench, held, qtbot):
    from redline_bore.instruments.line_protocol import GaugeReading

    bench.go("gauge")
    before = len(bench.session.records)
    bench.window.intake.hear(GaugeReading(0.101, None, None, "+0.101"), True)
    bench.session.select(2)
    held()
    qtbot.waitUntil(lambda: "you went on" in bench.said)
    assert len(bench.session.records) == before
