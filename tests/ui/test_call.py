"""The size ladder by keys and by dragging."""

import pytest
from PyQt6.QtCore import QPoint, Qt

from redline_bore.job.call.ladder import ladder_of
from redline_bore.job.kinds.call import DecisionTaken
from redline_bore.job.state.calling import Apart
from redline_bore.job.words import call as call
from redline_bore.ui.paint.size_ladder import ladder_scale


@pytest.fixture
def calling(bench):
    bench.go("call")
    return bench


def test_arrows_move_the_redline_and_everything_follows(calling):
    assert calling.session.rung_mm == 0.5 and "may leave a shadow in 1, 4 and 5. Bore 4 first and look" in calling.call
    calling.key(Qt.Key.Key_Up)
    assert (
        calling.session.rung_mm == 0.75
        and "Bore all five 0.75 over: it will clean up, by all that was read." in calling.call
    )
    assert "wall not sure" in calling.window.plan.said()
    button = calling.window.card.button
    assert "all the same" in button.text() and button.property("unsure") is True
    calling.key(Qt.Key.Key_Down)
    calling.key(Qt.Key.Key_Down)
    calling.key(Qt.Key.Key_Down)
    assert calling.session.rung_mm == 0.25 and calling.call.startswith("Stop")  # the lowest rung there is
    assert not calling.window.card.button.isVisible()


def test_dragging_the_redline_takes_it_to_the_nearest_rung(calling):
    view = calling.window.steps["call"].page.ladder
    scale = ladder_scale(view._area(), ladder_of(calling.session.state), 1.0)
    start, end = (QPoint(round(scale.box.center().x()) + 40, round(scale.y(v))) for v in (0.5, 1.03))
    calling.bot.mousePress(view, Qt.MouseButton.LeftButton, pos=start)
    calling.bot.mouseMove(view, end)
    calling.bot.mouseRelease(view, Qt.MouseButton.LeftButton, pos=end)
    assert calling.session.rung_mm == 1.0


def test_digits_and_sideways_arrows_pick_cylinders(calling):
    calling.key(Qt.Key.Key_4)
    assert calling.session.bench.cylinder == 4 and calling.field.text() == ""
    calling.key(Qt.Key.Key_Right)
    assert calling.session.bench.cylinder == 5
    calling.key(Qt.Key.Key_Right)
    assert calling.session.bench.cylinder == 1


def test_enter_takes_the_call_with_its_figures(calling):
    calling.take_call()
    decision, stamp = (r.entry for r in calling.session.records[-2:])
    assert isinstance(decision, DecisionTaken) and decision.oversize_mm == 0.5
    assert any("cleans up" in f for f in decision.figures) and stamp.step == "call"
    calling.key(Qt.Key.Key_Up)
    assert any(
        "call taken is +0.50" in n for n in call.advise(calling.session.state, 1, 1.0, calling.session.show).changes
    )


def test_a_call_that_is_not_sure_is_asked_once_and_again_when_the_job_has_changed(calling):
    taken = lambda: calling.session.job.calling.decision  # noqa: E731
    assert calling.window.card.button.property("unsure") and calling.window.card.button.text().startswith(
        "Take it all the same"
    )
    calling.key(Qt.Key.Key_Return)
    assert taken() is None and "stays cut: take this call all the same? Enter again books it" in calling.said
    calling.key(Qt.Key.Key_3)
    calling.type("105.675 20 C")  # the job is another one now
    calling.key(Qt.Key.Key_Return)
    assert taken() is None and "Enter again books it" in calling.said
    calling.key(Qt.Key.Key_Up)
    calling.key(Qt.Key.Key_Return)
    assert taken() is None, "asked anew of another size"
    calling.key(Qt.Key.Key_Return)
    assert taken() is not None and taken().oversize_mm == 0.75


def test_a_call_that_is_sure_is_not_asked_about(calling, monkeypatch):
    monkeypatch.setattr("redline_bore.job.words.call._unsure", lambda found: False)
    calling.key(Qt.Key.Key_Up)
    calling.key(Qt.Key.Key_Return)
    assert calling.session.job.calling.decision.oversize_mm == 0.75


def test_a_call_that_cannot_be_taken_is_refused_with_the_reason(calling):
    calling.key(Qt.Key.Key_Down)
    before = len(calling.session.records)
    calling.key(Qt.Key.Key_Return)
    assert len(calling.session.records) == before and "will not clean up" in calling.said


def test_m_goes_to_the_field_and_a_piston_is_booked(calling):
    calling.key(Qt.Key.Key_3)
    calling.type("105.675 21 C")  # after M
    piston = calling.session.state.calling.piston(3)
    assert piston.typed == "105.675 21 C" and piston.size_mm < 105.675 and piston.warm_known
    calling.type("84.000")
    assert "too far" not in calling.said or calling.field.text() == "84.000"


def test_space_is_no_reading_here(calling):
    calling.key(Qt.Key.Key_Space)
    assert "gauge step" in calling.said and calling.field.text() == ""


def test_c_changes_whose_clearance_leads(calling):
    assert "piston sheet" in calling.window.line.where.text()
    calling.key(Qt.Key.Key_C)
    assert (
        calling.session.state.booking.practice("clearance") == "manual"
        and "by manual" in calling.window.line.where.text()
    )


def test_the_redline_is_red_and_nothing_else_is(calling):
    red = calling.window.theme.palette.redline.lower()
    assert calling.colours(calling.window.steps["call"].page.ladder).get(red, 0) > 100
    calling.go("gauge")
    assert red not in calling.colours(calling.window)  # no call yet, so no redline anywhere


def test_once_the_call_is_taken_the_button_goes_on_and_another_rung_is_taken_anew(bench_on):
    bench = bench_on("2036")
    bench.go("call")
    assert bench.window.card._advice.button.startswith("Go to the")
    bench.key(Qt.Key.Key_Down)
    assert not bench.window.card._advice.button.startswith("Go to the")


def test_a_piston_that_is_none_of_the_call_is_said_at_the_call_and_leads_to_the_pistons(calling):
    calling.session.set_rung(0.75)
    calling.take_call()
    calling.go("call")
    card = calling.window.card
    assert card.button.text().startswith("Go to the bar") and "Enter goes on" in calling.window.line.keys.text()
    calling.session.select(3)
    for _ in range(2):  # asked about, then kept
        calling.type("piston 105.430")
    assert calling.call.startswith("Stop. Piston 3 measures")
    assert "Measure it again, or move the redline and take another call." in calling.call
    assert card.button.text().startswith("Go to the pistons")
    assert "Enter goes to the pistons" in calling.window.line.keys.text()
    calling.session.set_rung(0.5)  # another call is looked at
    assert "Enter takes the call" in calling.window.line.keys.text()
    assert not calling.call.startswith("Stop. Piston 3") and not card.button.text().startswith("Go to the pistons")
    calling.session.set_rung(0.75)
    calling.session.set_apart(2, Apart(cylinder=2, way="sleeve"))
    assert not calling.call.startswith("Stop. Piston 3")  # that is another call, too
    calling.session.set_apart(2, None)
    calling.key(Qt.Key.Key_Return)
    assert calling.session.bench.page == "pistons" and calling.session.bench.step == "call"
    assert not card.button.text().startswith("Go to the pistons")
    calling.type("piston 105.675")
    calling.session.set_page("ladder")
    assert not calling.call.startswith("Stop. Piston 3") and not card.button.text().startswith("Go to the pistons")
