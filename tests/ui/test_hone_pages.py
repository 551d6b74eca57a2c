"""The pages of the hone step in the real window: set-up, strokes, steps, load from the stand-in, pacer, ledger, papers."""

import time

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication

from redline_bore.job.hone.model import learned_of
from redline_bore.job.kinds.call import DecisionTaken
from redline_bore.ui.commands import files
from tests.patience import PATIENCE_S

K = Qt.Key


@pytest.fixture
def railcar(bench_on):
    """Job 2044, honing: cylinder 2 halfway."""
    bench = bench_on("2044")
    bench.go("hone")
    bench.session.select(2)
    return bench


def page(bench, name):
    bench.session.set_page(name)
    bench.settle()
    return bench.window.step.page


def wait(bench, until, seconds=PATIENCE_S):
    end = time.monotonic() + seconds
    while not until() and time.monotonic() < end:
        QApplication.processEvents()
        time.sleep(0.01)
    assert until()


def test_the_set_up_is_drawn_and_the_stone_moves_when_asked(railcar):
    shown = page(railcar, "set_up")
    assert railcar.call == "The stone touches the blind bottom; 0.059 is kept from it: set it out 0.001 there."
    railcar.type("hone vertical rpm 170 strokes 90 over 0.81 0 dwell 0 0.25 load 20")
    assert "Set so, it crosses at" in railcar.call and "degrees included" in shown.angle.said()
    railcar.key(K.Key_J)
    assert shown.moving
    wait(railcar, lambda: shown.section.share is not None)
    first = shown.section.share
    wait(railcar, lambda: shown.section.share != first)
    railcar.key(K.Key_J)
    assert not shown.moving and shown.section.share is None
    railcar.key(K.Key_J)
    railcar.session.set_page("stock")
    wait(railcar, lambda: not shown.moving)  # nothing moves where nobody looks


def test_a_set_up_that_would_crash_is_a_stop_in_the_card(railcar):
    page(railcar, "set_up")
    railcar.type("hone vertical rpm 170 strokes 80 over 0.75 0.5")
    assert "Do not run it: the stone would crash: 0.500 out below, 0.060 in of room" in railcar.call
    railcar.type("hone drill rpm 100 load 5")
    assert "has no “load”" in railcar.said and railcar.field.text() == "hone drill rpm 100 load 5"


def test_strokes_are_planned_off_the_thread_and_taken(railcar):
    shown = page(railcar, "plan")
    found, missing, busy = shown.now()
    assert found is not None and not missing and busy is None and found.cylinder == 2
    assert "double strokes" in shown.view.said() and "double strokes" in railcar.call
    railcar.key(K.Key_Return)
    hone = railcar.session.job.honing.run
    assert hone.over_bottom_mm <= 1.524 + 1e-6 and hone.dwell_bottom_s == pytest.approx(
        found.plan.dwell_bottom_s, abs=0.006
    )
    assert shown.taken is found
    railcar.settle()
    railcar.session.select(1)
    railcar.settle()
    assert shown.now()[0] is None or shown.now()[0].cylinder == 1


def test_a_plan_can_be_broken_off(railcar):
    shown = page(railcar, "plan")
    shown._for = ()
    shown.want()
    assert shown.now()[2] is not None
    railcar.key(K.Key_Escape)
    assert "broken off" in railcar.said and shown.now()[2] is None and "broken off" in shown.now()[1]
    railcar.key(K.Key_Return)
    assert "There is no plan to take" in railcar.said


def test_a_plan_that_lacks_something_says_what(bench):
    bench.go("hone")
    shown = page(bench, "plan")
    assert shown.now()[0] is None and "No plan yet" in bench.call


def test_a_check_on_the_plan_page_plans_anew(railcar):
    shown = page(railcar, "plan")
    before = shown.now()[0]
    railcar.type("40 3.4994 3.4994 3.4993")
    railcar.settle()
    assert shown.now()[0] is not before and learned_of(railcar.session.job, 2).checks == 5


def test_steps_are_judged_and_stay_once_checks_are_booked(railcar):
    shown = page(railcar, "steps")
    assert "cuts peaks" in shown.view.said()
    railcar.type("steps coarse 0.0005 vitrified 150, plateau 0 brush 600")
    assert "kept once checks are booked" in railcar.said and railcar.session.job.booking.practice("honing") != "own"
    railcar.field.clear()
    railcar.window.setFocus()
    railcar.key(K.Key_C)
    assert "kept once checks are booked" in railcar.said


def test_the_load_comes_over_the_line_and_faults_are_left_out(railcar):
    railcar.key(K.Key_5, Qt.KeyboardModifier.ControlModifier)
    shown = railcar.window.step.page
    assert railcar.session.bench.page == "load"
    wait(railcar, lambda: shown.picture().samples > 20)
    for word in ("noise", "half"):
        railcar.window.instruments.hone.tell_stand_in(word)
    wait(railcar, lambda: shown.faults >= 2)
    count = shown.picture().samples
    wait(railcar, lambda: shown.picture().samples > count + 10)  # it goes on
    assert "load" in railcar.call.lower() or "Tight" in railcar.call
    assert len(railcar.colours(shown.view)) > 5
    railcar.key(K.Key_G)  # stops
    railcar.key(K.Key_Return)
    seen = railcar.session.job.honing.loads[-1]
    assert seen.cylinder == 2 and seen.strokes > 0 and len(seen.depths_mm) == len(seen.loads) > 10
    railcar.window.instruments.hone.let_go()


def test_a_hone_that_is_unplugged_is_told_and_nothing_is_lost(railcar):
    railcar.key(K.Key_5, Qt.KeyboardModifier.ControlModifier)
    shown = railcar.window.step.page
    wait(railcar, lambda: shown.picture().samples > 5)
    railcar.window.instruments.hone._stand_in.terminate()
    wait(railcar, lambda: not railcar.window.instruments.hone.connected)
    assert "unplugged" in railcar.said and shown.picture().samples > 5


def test_the_load_page_without_a_hone_says_how(railcar):
    page(railcar, "load")
    assert "Ctrl+5" in railcar.call
    railcar.key(K.Key_Return)
    assert "Nothing was heard" in railcar.said


def test_a_frame_that_comes_late_loses_no_stroke(railcar, monkeypatch):
    shown = page(railcar, "pacer")
    railcar.type("hone drill rpm 70")
    monkeypatch.setattr(shown, "most", lambda: 9)
    railcar.key(K.Key_Return)
    shown._timer.stop()
    for phase, counted in ((0.6, 0), (1.6, 1), (4.5, 4), (4.9, 4), (7.7, 7)):
        monkeypatch.setattr(shown, "_phase", lambda phase=phase: phase)
        shown._frame()
        assert shown.counted == counted
    shown._timer.start()
    monkeypatch.setattr(shown, "_phase", lambda: 12.0)  # what is past the end was not stroked
    shown._frame()
    assert shown.counted == 9 and not shown.running


def test_the_pacer_counts_books_and_tells_when_to_stop(railcar, monkeypatch):
    shown = page(railcar, "pacer")
    assert "for a hone held by hand" in railcar.call
    railcar.key(K.Key_Return)
    assert "held by hand" in railcar.said
    railcar.type("hone drill rpm 600")
    assert "No hand holds" in railcar.call
    railcar.type("hone drill rpm 70")
    monkeypatch.setattr(shown, "_period", lambda: 0.12)
    monkeypatch.setattr(shown, "most", lambda: 4)
    railcar.key(K.Key_Return)
    assert shown.running and "more strokes" in railcar.call
    wait(railcar, lambda: not shown.running)
    assert shown.counted == 4 and railcar.call.startswith("4 strokes: stop") and shown.view.said() == "4 strokes of 4"
    assert railcar.field.text() == "34 "  # thirty were done before
    railcar.field.setFocus()
    railcar.bot.keyClicks(railcar.field, "3.4980")
    railcar.key(K.Key_Return)
    assert "Enter again books it" in railcar.said  # one size, far under the last check's
    railcar.key(K.Key_Return)
    assert railcar.session.job.honing.checks_of(2)[-1].strokes == 34.0 and shown.counted == 0


def test_the_pacer_stops_by_enter_and_where_nobody_looks(railcar, monkeypatch):
    shown = page(railcar, "pacer")
    railcar.type("hone drill rpm 70")
    monkeypatch.setattr(shown, "_period", lambda: 0.1)
    monkeypatch.setattr(shown, "most", lambda: 10_000)  # a slow machine may be away for a second
    railcar.key(K.Key_Return)
    wait(railcar, lambda: shown.counted >= 1)
    railcar.key(K.Key_Return)
    assert not shown.running and "Measure, and type the size" in railcar.said
    railcar.key(K.Key_Escape)
    railcar.key(K.Key_Return)
    railcar.session.set_page("stock")
    wait(railcar, lambda: not shown.running)


def test_the_ledger_shows_every_cylinder_and_who_did_it(railcar):
    railcar.type("who TB")
    railcar.type("40 3.4990")
    shown = page(railcar, "ledger")
    assert "cylinder 1 gave 0.01" in shown.view.said() and "cylinder 2 gave" in shown.view.said()
    row = shown.found().rows[1]
    assert row.cells[-1].persons == ("RM", "TB")
    assert any(text.startswith("2036") for text in railcar.window.step.advice().changes)


def test_cylinders_in_any_order_interrupted_and_gone_on_with(railcar, bench_on, demo_path):
    railcar.type("40 3.4990")
    railcar.session.select(1)
    railcar.type("49 3.5008")
    railcar.window.close()
    again = bench_on("2044")
    assert again.session.bench.step == "hone"
    assert [len(again.session.job.honing.checks_of(c)) for c in (1, 2)] == [8, 5]


def test_crossing_the_redline_gives_the_ways_out(railcar):
    railcar.type("60 3.5030")
    assert railcar.call.startswith("Stop.") and "past: stop" in railcar.window.plan.said()
    ways = [text for text in railcar.window.step.advice().changes if text.startswith("Way out")]
    assert len(ways) >= 3
    railcar.key(K.Key_L, Qt.KeyboardModifier.ControlModifier)
    assert "check at 60 strokes" in railcar.window.over.panel.body.text()


def test_what_the_machine_says_is_kept_beside(railcar):
    railcar.type("taken 0.010")
    assert railcar.session.job.honing.compensations[-1].taken_mm == pytest.approx(0.254)
    assert any(f.label == "machine says, measured" for f in railcar.window.step.advice().figures)


def test_the_bench_sheet_and_the_stock_go_to_files(railcar, tmp_path):
    for ending in ("pdf", "html"):
        railcar.do(files.write_bench_sheet, tmp_path / f"bench.{ending}")
    assert (tmp_path / "bench.pdf").read_bytes().startswith(b"%PDF")
    text = (tmp_path / "bench.html").read_text("utf-8")
    assert "cylinder 2" in text and "vitrified 150" in text and "Redline 3.49" in text
    railcar.do(files.export_to, tmp_path, "2044")
    assert (tmp_path / "2044-stock.csv").read_text("utf-8").startswith("cylinder,step,removed_mm")
    railcar.do(files.write_bench_sheet, tmp_path / "bench.doc")
    assert "does not say what to write" in railcar.said


def test_job_2047_is_by_hand_and_deglazed_by_count(bench_on):
    bench = bench_on("2047")
    bench.session.book(DecisionTaken(oversize_mm=0.0, way="deglaze", sentence="Deglaze only."))
    bench.go("hone")
    assert bench.call.startswith("10 to 20 strokes by hand") and "grab" in bench.window.card.care.text()
    bench.type("0 78.010")
    bench.type("20 78.011")
    assert bench.call.startswith("20 strokes are done: stop")


@pytest.mark.parametrize("name", ["stock", "set_up", "plan", "steps", "load", "pacer", "ledger"])
def test_every_page_stands_at_night_and_large(railcar, name):
    shown = page(railcar, name)
    railcar.key(K.Key_D, Qt.KeyboardModifier.ControlModifier)
    railcar.window.theme.set_scale(1.5)
    railcar.settle()
    assert len(railcar.colours(shown)) > 4


def test_pages_that_the_machine_does_not_need_stand_back_and_are_reached_all_the_same(bench_on):
    bench = bench_on("2036")
    bench.go("hone")
    tabs = bench.window.step.tabs
    bench.type("hone vertical")
    bench.settle()
    assert not tabs.buttons["pacer"].isVisible() and tabs.buttons["load"].isVisible() and tabs.more.text() == "+1, V"
    bench.session.set_page("pacer")
    bench.settle()
    assert tabs.buttons["pacer"].isVisible()
