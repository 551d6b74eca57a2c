"""The pages of the call step by keys: cylinders apart, options, pistons, shadow, two calls, the quote, and doubts."""

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtWidgets import QApplication

from redline_bore.job.call.looked_at import LookedAt
from redline_bore.job.call.options import options_of
from redline_bore.job.card import Mark
from redline_bore.job.kinds.book_in import PracticeChosen
from redline_bore.job.profiles.practice import SHOP_DEFAULT, options
from redline_bore.job.state.calling import Apart
from redline_bore.ui.commands import files
from tests.ui.test_book_in import CARD, fill

SHIFT, CTRL = Qt.KeyboardModifier.ShiftModifier, Qt.KeyboardModifier.ControlModifier
K = Qt.Key


@pytest.fixture
def calling(bench):
    bench.go("call")
    return bench


@pytest.fixture
def at_2047(bench_on):
    bench = bench_on("2047")
    bench.go("call")
    return bench


def page(bench):
    return bench.window.step.page


def to(bench, name):
    for _ in range(5):
        if bench.session.bench.page == name:
            return page(bench)
        bench.key(K.Key_V)
        bench.settle()
    raise AssertionError(f"no page {name}")


def test_v_walks_through_every_page_and_back(calling):
    names = []
    for _ in range(5):
        names.append(calling.session.bench.page)
        calling.key(K.Key_V)
        calling.settle()
    assert names == ["ladder", "options", "pistons", "shadow", "beside"] and calling.session.bench.page == "ladder"
    calling.key(K.Key_V, SHIFT)
    assert calling.session.bench.page == "beside"
    tabs = calling.window.step.tabs.buttons
    assert [b.accessibleDescription() for b in tabs.values()] == ["", "", "", "", "shown"]


def test_every_page_says_in_words_what_it_draws(calling):
    for name in ("ladder", "options", "pistons", "shadow", "beside"):
        for picture in to(calling, name).pictures():
            assert picture.said(), name
            assert len(calling.colours(picture)) > 3


@pytest.mark.parametrize("number", ["2036", "2047"])
@pytest.mark.parametrize("night", [False, True])
def test_every_page_draws_a_finished_and_an_empty_job(bench_on, number, night):
    bench = bench_on(number)
    if night:
        bench.key(K.Key_D, CTRL)
    bench.go("call")
    for name in ("ladder", "options", "pistons", "shadow", "beside"):
        view = to(bench, name)
        assert bench.call and all(len(bench.colours(p)) > 3 and p.said() for p in view.pictures()), name


@pytest.mark.parametrize("percent", [80, 200])
def test_the_pages_stand_any_scale(calling, percent):
    calling.window.theme.set_scale(percent / 100)
    for name in ("ladder", "options", "pistons", "shadow", "beside"):
        for picture in to(calling, name).pictures():
            assert len(calling.colours(picture)) > 3, name


# -- the ladder ----------------------------------------------------------------------------------------------------


def test_s_sleeves_the_selected_cylinder_and_the_plan_shows_it(calling):
    calling.key(K.Key_4)
    calling.key(K.Key_Up)
    assert calling.call.startswith("Bore all five 0.75 over: it will clean up")
    calling.key(K.Key_S)
    assert (
        calling.call.startswith("Bore the rest 0.75 over; sleeve 4.")
        and "cylinder 4: sleeve sleeved" in calling.window.plan.said()
    )
    calling.key(K.Key_S)
    assert "it will clean up" in calling.call and calling.session.apart == ()


def test_shift_and_arrows_give_one_cylinder_its_own_size(calling):
    calling.key(K.Key_4)
    calling.key(K.Key_Up)
    calling.key(K.Key_Up, SHIFT)
    assert calling.session.apart == (Apart(cylinder=4, way="own", oversize_mm=1.0),)
    assert (
        calling.call.startswith("Bore the rest 0.75 over; 4 to +1.00.")
        and "cylinder 4: +1.00 wall not sure" in calling.window.plan.said()
    )
    calling.key(K.Key_Down, SHIFT)
    assert calling.session.apart == ()  # back at the common size it is one of them again


def test_the_cylinders_apart_are_part_of_the_call(calling):
    calling.key(K.Key_4)
    calling.key(K.Key_Up)
    calling.key(K.Key_S)
    calling.take_call()
    decision = calling.session.job.calling.decision
    assert decision.oversize_mm == 0.75 and decision.apart == (Apart(cylinder=4, way="sleeve"),)
    assert [b.verdict for b in decision.based_on] == ["cleans up"] * 3 + ["sleeved", "cleans up"]


@pytest.mark.parametrize(
    ("key", "topic"),
    [
        (K.Key_A, "axis"),
        (K.Key_Y, "wear_side"),
        (K.Key_H, "hone_allowance"),
        (K.Key_O, "odd_cylinder"),
        (K.Key_C, "clearance"),
    ],
)
def test_a_practice_changes_with_its_key_and_is_recorded(calling, key, topic):
    calling.key(key)
    chosen = calling.session.records[-1].entry
    names = [p.name for p in options(topic)]
    assert chosen == PracticeChosen(topic=topic, name=names[(names.index(SHOP_DEFAULT[topic]) + 1) % len(names)])
    assert options(topic)[names.index(chosen.name)].reason in calling.said
    calling.key(K.Key_Z, CTRL)
    assert calling.session.job.booking.practice(topic) == SHOP_DEFAULT[topic]


def test_a_practice_shows_its_effect_at_once(calling):
    def figure():
        return next(f.value for f in calling.window.step.advice().figures if f.label.startswith("bored to"))

    before = figure()
    calling.key(K.Key_H)
    assert figure() != before
    picture = page(calling).ladder.grab().toImage()
    calling.key(K.Key_Y)
    assert page(calling).ladder.grab().toImage() != picture  # the usual mark has moved to the high end


def test_a_new_job_starts_with_the_shop_s_own_ways(bench):
    session = bench.session
    session.desk.figures = session.figures.with_own({"practices.odd_cylinder": "is sleeved"})
    bench.key(K.Key_N, CTRL)
    fill(bench, **CARD, layout="inline", cylinders="4")
    bench.key(K.Key_Return)
    assert session.job.number == CARD["number"] and session.job.booking.practice("odd_cylinder") == "is sleeved"


# -- options -------------------------------------------------------------------------------------------------------


def test_enter_on_an_option_puts_the_redline_there(calling):
    rows = to(calling, "options")
    titles = rows.list.said()
    assert titles.startswith("Bore all five 0.50 over: may do")
    keys = [o.key for o in options_of(calling.session.job)]
    for _ in range(keys.index("own:4")):
        calling.key(K.Key_Down)
    calling.key(K.Key_Return)
    assert calling.session.bench.page == "ladder" and calling.call.startswith("Bore the rest 0.75 over; 4 to +1.00.")


def test_an_option_that_fails_is_refused_with_its_reason(calling):
    to(calling, "options")
    for _ in range(30):
        calling.key(K.Key_Down)  # stops at the last
    before = len(calling.session.records)
    calling.key(K.Key_Return)
    assert len(calling.session.records) == before and calling.session.bench.page == "options"
    assert not calling.window.card.button.isVisible()


def test_a_click_picks_an_option(calling):
    rows = to(calling, "options")
    calling.bot.mouseClick(rows.list, Qt.MouseButton.LeftButton, pos=QPoint(200, 36 + 39 * 2 + 20))
    assert calling.session.bench.call.option == 2


def test_deglazing_is_a_call_too(at_2047):
    to(at_2047, "options")
    assert at_2047.call.startswith("Deglaze only: it may do. First borrow a bore gauge")
    at_2047.take_call()
    decision = at_2047.session.job.calling.decision
    assert decision.way == "deglaze" and not decision.bores and decision.based_on[0].verdict == "may do"
    assert "deglaze" in at_2047.window.plan.said() and at_2047.window.card.button.text().startswith("Go to the ")
    at_2047.key(Qt.Key.Key_Return)  # once it is taken, the button goes on
    assert at_2047.session.bench.step != "call"
    red = at_2047.window.theme.palette.redline.lower()
    assert red not in at_2047.colours(at_2047.window.plan)  # nothing is cut, so there is no redline
    at_2047.go("hone")
    assert "then stop: wash, and measure the ring's gap" in at_2047.call
    at_2047.go("sign_off")
    at_2047.key(K.Key_Return)
    assert at_2047.session.job.signing.stamp("sign_off") is None and "open points" in at_2047.said
    at_2047.take_points_on()
    at_2047.key(K.Key_Return)
    assert at_2047.session.job.signing.stamp("sign_off") is not None


# -- pistons, shadow, beside ---------------------------------------------------------------------------------------


def test_pistons_are_booked_cylinder_by_cylinder(calling):
    view = to(calling, "pistons")
    for size in ("105.670", "105.672", "105.671", "105.673", "105.670"):
        calling.type(f"{size} 20 C")
        calling.window.setFocus()
        calling.key(K.Key_Down)
    assert calling.session.bench.cylinder == 1 and len(calling.session.job.calling.pistons) == 5
    assert calling.call.startswith("One size would do for all: 105.74")
    assert "cylinder 1 no clearance yet" in view.view.said()
    calling.type("chamber 90 gasket 107.5 x 1.2 deck 0.3")
    assert any(f.label == "compression to 1" for f in calling.window.step.advice().figures)
    calling.type("chamber 62 gasket 1.2")
    assert "is typed by" in calling.said and calling.field.text() == "chamber 62 gasket 1.2"


def test_a_click_on_a_row_picks_the_piston(calling):
    view = to(calling, "pistons").view
    top, high, _ = view._rows()
    calling.bot.mouseClick(view, Qt.MouseButton.LeftButton, pos=QPoint(60, round(top + 2.5 * high)))
    assert calling.session.bench.cylinder == 3


def test_the_shadow_goes_as_the_redline_goes_up(calling):
    calling.key(K.Key_4)
    shown = to(calling, "shadow")
    calling.settle()
    assert calling.session.rung_mm == 0.5 and "may stay in cylinder 4" in calling.call
    hatched = shown.map.grab().toImage()
    calling.key(K.Key_Up)
    calling.key(K.Key_Up)
    calling.settle()
    assert "no shadow stays" in calling.call and shown.map.grab().toImage() != hatched
    calling.key(K.Key_Right)
    assert calling.session.bench.cylinder == 5


def test_a_sleeved_cylinder_has_no_shadow_to_fear(calling):
    calling.key(K.Key_4)
    calling.key(K.Key_Down)
    calling.key(K.Key_S)
    advice = to(calling, "shadow").advice()
    assert advice.changes[0].startswith("Cylinder 4 is to be sleeved") and advice.mark is Mark.PLAIN


def test_two_calls_side_by_side(calling):
    calling.key(K.Key_Up)
    calling.key(K.Key_B)
    calling.key(K.Key_Down)
    beside = to(calling, "beside")
    assert calling.session.bench.call.beside == LookedAt(0.75, ()) and beside.compare.said() == "Two calls side by side"
    assert "5 pistons 105.500 mm, +0.50" in beside.order.said()
    calling.session.set_page("ladder")
    calling.key(K.Key_Up)
    calling.key(K.Key_B)
    assert calling.session.bench.call.beside is None


@pytest.mark.parametrize(
    ("ending", "word"), [("pdf", b"%PDF"), ("html", b"what we propose"), ("csv", b"what,count,size,remark")]
)
def test_the_quote_is_written(calling, tmp_path, ending, word):
    path = tmp_path / f"quote.{ending}"
    calling.do(files.write_quote, path)
    assert word in path.read_bytes() and "Written" in calling.said


def test_a_quote_of_an_unknown_kind_is_refused(calling, tmp_path):
    calling.do(files.write_quote, tmp_path / "quote.doc")
    assert not (tmp_path / "quote.doc").exists() and ".pdf" in calling.said


# -- standing by it ------------------------------------------------------------------------------------------------


def test_a_reading_that_contradicts_the_call_is_told_at_once_with_why(calling):
    calling.take_call()
    calling.go("gauge")
    calling.session.select(2)
    calling.type("score 0.4 at 30 to 50 clock 90")
    calling.bot.wait(20)
    QApplication.processEvents()
    assert ("The call no longer stands. Cylinder 2 at +0.50: will not clean up, was cleans up") in calling.said
    assert any("no longer stands" in c for c in calling.window.card._advice.changes)
    calling.key(K.Key_Z, CTRL)
    calling.bot.wait(20)
    assert not any("no longer stands" in c for c in calling.window.card._advice.changes)


def test_a_reading_that_changes_nothing_is_not_made_a_fuss_of(calling):
    calling.take_call()
    calling.go("gauge")
    calling.type("score 0.02 at 30 to 60 clock 0")
    calling.bot.wait(20)
    assert "no longer stands" not in calling.said
