"""Jobs and shop figures, by keys and by pointer."""

import pytest
from PyQt6.QtCore import Qt

from redline_bore.core.errors import InputError
from redline_bore.core.figures import Figure
from redline_bore.job.kinds.book_in import _day_typed
from redline_bore.ui.frame.shop_figures import value_from_text, value_text

CTRL = Qt.KeyboardModifier.ControlModifier
NUMBER = Figure("cleanup.skin", 0.013, "mm", "starting point")
RANGE = Figure("pistons.clearance_cast", (0.00035, 0.00055), "of bore", "starting point", "range")
WORD = Figure("x.word", "plateau", "-", "starting point")


@pytest.mark.parametrize(
    "figure, text, value",
    [(NUMBER, "0,02", 0.02), (RANGE, "0.0004 0.0006", [0.0004, 0.0006]), (WORD, " coarse ", "coarse")],
)
def test_figures_are_read_in_their_own_kind(figure, text, value):
    assert value_from_text(figure, text) == value


@pytest.mark.parametrize(
    "figure, text, reason",
    [
        (NUMBER, "thin", "not a number"),
        (NUMBER, "1 2", "a number is wanted"),
        (NUMBER, "-1", "below nought"),
        (RANGE, "0.6 0.4", "low end"),
        (RANGE, "0.4", "low end"),
        (WORD, "  ", "a word"),
    ],
)
def test_figures_of_another_kind_are_refused(figure, text, reason):
    with pytest.raises(InputError, match=reason):
        value_from_text(figure, text)


def test_what_is_shown_can_be_typed_again():
    for figure in (NUMBER, RANGE, WORD):
        again = value_from_text(figure, value_text(figure))
        assert (tuple(again) if isinstance(again, list) else again) == figure.value


def test_figures_are_found_walked_and_kept_by_keys(bench):
    bench.key(Qt.Key.Key_Comma, CTRL)
    view = bench.window.lists.figures
    bench.bot.keyClicks(view.search, "forged")
    assert view.list.count() == 4
    view.value.setFocus()
    view.value.setText("0.0011 0.0014")
    view.list.setCurrentRow(1)
    assert view.value.text() == "0.0009 0.0013"
    view.value.setText("0.0011 0.0014")
    bench.key(Qt.Key.Key_Return, on=view.value)
    assert "Kept" in view.said.text() and "the shop's own" in view.list.currentItem().text()
    assert bench.session.figures.row("pistons.clearance_forged_2618") == (0.0011, 0.0014)
    view.search.setText("no such figure")
    assert view.list.count() == 0
    view.keep_value()  # nothing chosen, nothing kept


def test_new_jobs_take_the_shops_own_and_old_ones_do_not(bench):
    bench.session.desk.figures = bench.session.logbook.set_figure("gauging.full_chords", 4.0, "RM")
    from tests.ui.test_book_in import CARD
    from tests.ui.test_book_in import fill as fill_card

    bench.key(Qt.Key.Key_N, CTRL)
    fill_card(bench, **CARD)
    bench.key(Qt.Key.Key_Return)
    assert len(bench.session.state.gauging.plan.clocks_deg) == 4
    bench.session.open_job("2047")
    assert len(bench.session.state.gauging.plan.clocks_deg) == 6


def test_a_click_opens_a_job(bench):
    bench.key(Qt.Key.Key_J, CTRL)
    jobs = bench.window.lists.jobs
    row = next(i for i in range(jobs.list.count()) if jobs.list.strip(i).number == "2047")
    place = jobs.list.visualRect(jobs.list.rows.index(row)).center()
    bench.bot.mouseClick(jobs.list.viewport(), Qt.MouseButton.LeftButton, pos=place)
    assert bench.session.state.number == "2047" and bench.window.step is not None


def test_arrows_walk_the_list_while_searching(bench):
    bench.key(Qt.Key.Key_J, CTRL)
    jobs = bench.window.lists.jobs
    assert jobs.list.currentRow() == 0
    bench.key(Qt.Key.Key_Down)
    bench.key(Qt.Key.Key_Down)
    bench.key(Qt.Key.Key_Down)
    bench.key(Qt.Key.Key_Down)
    bench.key(Qt.Key.Key_Down)
    assert jobs.list.currentRow() == 4
    bench.key(Qt.Key.Key_Up)
    assert jobs.list.currentRow() == 3


def test_long_panels_scroll_by_arrows(bench):
    bench.key(Qt.Key.Key_Question)
    bar = bench.window.over.panel.scroller.verticalScrollBar()
    bench.settle()
    before = bar.value()
    bench.key(Qt.Key.Key_Down)
    assert bar.maximum() == 0 or bar.value() > before


def test_a_job_is_set_aside_and_brought_back_by_keys(bench):
    alt = Qt.KeyboardModifier.AltModifier
    bench.key(Qt.Key.Key_J, CTRL)
    view = bench.window.lists.jobs
    view.search.setText("2044")
    bench.key(Qt.Key.Key_A, alt, on=view.search)
    assert "set aside" in bench.said and view.list.count() == 0
    view.search.setText("")
    assert view.shelf.isVisible() and "Set aside: 1" in view.shelf.text()
    bench.key(Qt.Key.Key_S, alt, on=view.search)
    assert view.list.count() == 1 and "set aside by RM" in view.list.strip(0).text
    bench.key(Qt.Key.Key_A, alt, on=view.search)
    assert "in the list again" in bench.said and "No job is set aside" in view.none.text()
    bench.key(Qt.Key.Key_S, alt, on=view.search)
    assert view.list.count() == 5 and not view.shelf.isVisible()


def test_a_job_that_cannot_be_shown_leaves_the_one_that_is_open(bench, monkeypatch):
    def broken(_number):
        raise KeyError("of an unknown kind")

    monkeypatch.setattr(bench.session.desk, "open", broken)
    bench.window.open_job("2044")
    assert "2044 cannot be shown" in bench.said and "Alt+A" in bench.said
    assert bench.session.job.number == "2041"


@pytest.mark.parametrize(
    ("done", "following", "words"),
    [((), "book_in", "next: book in"), (("book_in",), "gauge", "next: gauge"), (("book_in", "gauge", "call"), "bore", "next: bore"),
     (("book_in", "hone"), "finish", "next: finish"), (("book_in", "sign_off"), "", "signed off")],
)  # fmt: skip
def test_a_strip_says_what_waits(done, following, words):
    from redline_bore.ui.frame.job_strip import Strip

    strip = Strip("1", "Tarn mill", "four", done, "today")
    assert strip.next == following and strip.words == words and words in strip.text
    assert Strip("1", "x", "y", done, "today", "set aside by RM, now").words == "set aside by RM, now"


def test_the_rack_shows_each_jobs_route_and_what_was_looked_for_is_replaced(bench):
    bench.key(Qt.Key.Key_J, CTRL)
    view = bench.window.lists.jobs
    texts = {view.list.strip(i).number: view.list.rows.data(view.list.rows.index(i)) for i in range(view.list.count())}
    assert "signed off" in texts["2036"] and "next: call" in texts["2041"]
    bench.window.grab()
    view.search.setText("mill")
    bench.key(Qt.Key.Key_Escape, on=view.search)
    bench.key(Qt.Key.Key_J, CTRL)
    assert view.search.selectedText() == "mill"


def test_stamps_are_counted_without_those_struck_out_or_reopened(logbook):
    from redline_bore.job.kinds.entry import Draft
    from redline_bore.job.kinds.sign_off import JobReopened, StepStamped
    from redline_bore.job.kinds.strikes import EntryRestored, EntryStruck

    job = logbook.job_id("2036")

    def done():
        return logbook.lines([job])[0].done

    assert done()[-1] == "sign_off"
    logbook.append(job, 0, [Draft(JobReopened(reason="to see"), "RM")])
    assert "sign_off" not in done()
    seq = logbook.append(job, 0, [Draft(StepStamped(step="sign_off", initials="RM"), "RM")])[-1].seq
    assert "sign_off" in done()
    logbook.append(job, 0, [Draft(EntryStruck(seq=seq), "RM")])
    assert "sign_off" not in done()
    logbook.append(job, 0, [Draft(EntryRestored(seq=seq), "RM")])
    assert "sign_off" in done()


# -- promised, and narrowed --------------------------------------------------------------------------------------------


def strips(view):
    return [view.list.strip(i) for i in range(view.list.count())]


def test_what_was_promised_first_stands_on_top_and_what_is_late_says_so(bench):
    bench.go("gauge")
    for line in ("promised 3 Mar 2020", "promised 2020-13-40"):
        bench.type(line)
    assert "no day" in bench.said and bench.session.state.booking.promised == "2020-03-03"
    bench.session.open_job("2047")
    bench.go("gauge")
    bench.type("promised 2099-01-05")
    bench.key(Qt.Key.Key_J, CTRL)
    found = strips(bench.window.lists.jobs)
    assert [s.number for s in found[:2]] == ["2041", "2047"] and found[0].late and not found[1].late
    assert found[0].due == "late: promised Tue 03 Mar 2020" and "late" in bench.window.lists.jobs.list.strip(0).text
    bench.window.grab()


def test_the_list_is_narrowed_by_state_person_and_machine(bench):
    bench.key(Qt.Key.Key_J, CTRL)
    view, alt = bench.window.lists.jobs, Qt.KeyboardModifier.AltModifier
    everything = {s.number for s in strips(view)}
    bench.key(Qt.Key.Key_T, alt, on=view.search)
    assert {s.number for s in strips(view)} == {"2041", "2044", "2047"} and "open" in view.only["state"].text()
    bench.bot.mouseClick(view.only["state"], Qt.MouseButton.LeftButton)
    assert strips(view) == [] and "Alt and the letter" in view.none.text()
    bench.key(Qt.Key.Key_T, alt, on=view.search)
    assert {s.number for s in strips(view)} == {"2029", "2036"}
    bench.key(Qt.Key.Key_T, alt, on=view.search)
    assert {s.number for s in strips(view)} == everything
    bench.key(Qt.Key.Key_M, alt, on=view.search)
    machine = view.picked["machine"]
    assert machine and all(machine in s.machines for s in strips(view)) and 0 < view.list.count() < len(everything)
    while view.picked["machine"]:
        view.turn("machine")
    view.turn("person")
    assert all(view.picked["person"] in s.people for s in strips(view))


@pytest.mark.parametrize(
    "text, today, day",
    [
        ("12 Dec", "2026-11-29", "2026-12-12"), ("3 jan", "2026-11-29", "2027-01-03"), ("29 November", "2026-11-29", "2026-11-29"), ("1. Feb 2028", "2026-11-29", "2028-02-01"),
        ("2026-12-01", "2026-11-29", "2026-12-01"),
    ],
)  # fmt: skip
def test_a_day_is_read_as_it_is_said(text, today, day):
    assert _day_typed(text, today) == day


@pytest.mark.parametrize("text", ["friday", "31 Feb", "12 Foo", "2026-1", "", "0 Dec"])
def test_what_is_no_day_is_refused(text):
    with pytest.raises(InputError, match="no day"):
        _day_typed(text, "2026-11-29")


def test_a_job_that_waits_has_an_hourglass_and_says_for_what(bench):
    bench.go("gauge")
    bench.type("waits pistons from the owner")
    assert bench.session.job.booking.waits_for == "pistons from the owner"
    number = bench.session.job.number
    bench.key(Qt.Key.Key_J, CTRL)
    bench.window.grab()
    strip = next(s for s in strips(bench.window.lists.jobs) if s.number == number)
    assert strip.words == "waits for pistons from the owner" and strip.next
    bench.session.open_job(number)
    bench.go("gauge")
    bench.type("waits over")
    assert bench.session.job.booking.waits_for == ""
    bench.key(Qt.Key.Key_J, CTRL)
    assert next(s for s in strips(bench.window.lists.jobs) if s.number == number).words.startswith("next:")
    bench.session.open_job(number)
    bench.go("gauge")
    bench.type("waits")
    assert "what it waits for" in bench.said and bench.session.job.booking.waits_for == ""
